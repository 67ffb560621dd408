/*
 * Writing a capsule, front to back, into a callback. Runs of erased bytes that are long enough to
 * be worth a part's frame are left out.
 */
#include "capsule.pb.h"
#include "fields.h"
#include "sha256.h"
#include <pb_encode.h>
#include <string.h>

enum { WORTH_LEAVING_OUT = 32 };

/* The reader's numbers, sizes and texts are those of capsule.proto and capsule.options. */
#define SAME(number, field) (number) == coldmint_##field##_tag
_Static_assert(SAME(CAPSULE_FORMAT, Capsule_format) && SAME(CAPSULE_VERSION, Capsule_version) &&
                   SAME(CAPSULE_CHIP, Capsule_chip) && SAME(CAPSULE_ORIGIN, Capsule_origin) &&
                   SAME(CAPSULE_REGIONS, Capsule_regions) && SAME(CAPSULE_PARTS, Capsule_parts) &&
                   SAME(CAPSULE_CRC32, Capsule_crc32) && SAME(CAPSULE_WORK, Capsule_work) &&
                   SAME(CAPSULE_SEAL, Capsule_seal) && SAME(CHIP_SUPPLY_MV, Chip_supply_mv) &&
                   SAME(ORIGIN_NOTES, Origin_notes) && SAME(REGION_FIRST, Region_first) &&
                   SAME(PART_NEXT, Part_next) && SAME(MARKER_BYTES, Marker_bytes) &&
                   SAME(SEAL_SIGNATURE, Seal_signature) && SAME(LINK_BYTES, Link_bytes) &&
                   SAME(WORK_UNITS, Work_units) && SAME(WORK_MARKER, Work_marker) &&
                   SAME(SETTING_LOCKS, Setting_locks) && SAME(WORK_BOARD_HZ, Work_board_hz) &&
                   SAME(WORK_CLOSES, Work_closes),
               "fields.h and capsule.proto have the same numbers");
#define ROOM(message, field) sizeof(((coldmint_##message *)0)->field)
_Static_assert(ROOM(Chip, name) == CM_CAPSULE_NAME && ROOM(Chip, family) == CM_CAPSULE_NAME &&
                   ROOM(Region, name) == CM_CAPSULE_NAME && ROOM(Origin, tool) == CM_CAPSULE_TOOL &&
                   ROOM(Origin, notes) == CM_CAPSULE_NOTES && ROOM(Work, title) == CM_WORK_TITLE &&
                   ROOM(Work, board) == CM_WORK_BOARD && ROOM(Work, version) == CM_WORK_VERSION &&
                   ROOM(Chip, id.bytes) == sizeof((struct cm_capsule_facts *)0)->id &&
                   ROOM(Seal, sha256.bytes) == CM_DIGEST_BYTES &&
                   ROOM(Link, digest.bytes) == CM_LINK_DIGEST &&
                   ROOM(Seal, key.bytes) == CM_KEY_BYTES &&
                   ROOM(Work, settings) / ROOM(Work, settings[0]) >= CM_SETTING_BYTES &&
                   ROOM(Seal, signature.bytes) == CM_SIGNATURE_BYTES,
               "capsule.options and capsule.h have the same sizes");

static bool pass_on(pb_ostream_t *stream, const pb_byte_t *bytes, size_t count)
{
    struct cm_capsule_writer *writer = stream->state;
    writer->crc = cm_crc32(writer->crc, bytes, count);
    writer->status = writer->sink(writer->context, (const char *)bytes, count);
    return writer->status == CM_OK;
}

static pb_ostream_t stream_to(struct cm_capsule_writer *writer)
{
    return (pb_ostream_t){.callback = pass_on, .state = writer, .max_size = SIZE_MAX};
}

static enum cm_status outcome(struct cm_capsule_writer *writer, bool good)
{
    if (!good && !writer->status)
        writer->status = CM_BAD_ARGUMENT; // a text without end, say
    return writer->status;
}

static bool write_message(pb_ostream_t *stream, uint32_t tag, const pb_msgdesc_t *fields,
                          const void *message)
{
    return pb_encode_tag(stream, PB_WT_STRING, tag) &&
           pb_encode_submessage(stream, fields, message);
}

static bool write_facts(pb_ostream_t *stream, const struct cm_capsule_facts *facts)
{
    coldmint_Chip chip = coldmint_Chip_init_zero;
    coldmint_Origin origin = coldmint_Origin_init_zero;
    memcpy(chip.name, facts->chip, sizeof chip.name);
    memcpy(chip.family, facts->family, sizeof chip.family);
    memcpy(chip.id.bytes, facts->id, facts->id_bytes);
    chip.id.size = facts->id_bytes;
    chip.supply_mv = facts->supply_mv;
    origin.time = facts->time;
    memcpy(origin.tool, facts->tool, sizeof origin.tool);
    memcpy(origin.notes, facts->notes, sizeof origin.notes);
    return write_message(stream, coldmint_Capsule_chip_tag, coldmint_Chip_fields, &chip) &&
           write_message(stream, coldmint_Capsule_origin_tag, coldmint_Origin_fields, &origin);
}

static bool write_what(pb_ostream_t *stream, const struct cm_capsule_work *work)
{
    coldmint_Work out = coldmint_Work_init_zero;
    memcpy(out.title, work->title, sizeof out.title);
    memcpy(out.board, work->board, sizeof out.board);
    memcpy(out.version, work->version, sizeof out.version);
    out.supply_from_mv = work->supply_from_mv;
    out.supply_to_mv = work->supply_to_mv;
    out.feed_mv = work->feed_mv;
    out.power_cycle = work->power_cycle;
    out.board_hz = work->board_hz;
    out.unprotect = work->unprotect;
    out.lose_data = work->lose_data;
    out.units = work->units;
    out.then_hz = work->then_hz;
    out.closes = work->closes;
    out.settings_count = work->setting_count;
    for (uint8_t i = 0; i < work->setting_count; i++) {
        const struct cm_work_setting *setting = &work->settings[i];
        out.settings[i] = (coldmint_Setting){setting->region, setting->address, setting->value,
                                             setting->chosen, setting->early,   setting->locks};
    }
    out.has_marker = work->marker_bytes != 0;
    out.marker = (coldmint_Marker){work->marker_region, work->marker_at, work->marker_bytes};
    return write_message(stream, coldmint_Capsule_work_tag, coldmint_Work_fields, &out);
}

static coldmint_Link link_of(const struct cm_capsule_link *link)
{
    coldmint_Link out = {.address = link->address, .bytes = link->bytes};
    out.digest.size = CM_LINK_DIGEST;
    memcpy(out.digest.bytes, link->digest, CM_LINK_DIGEST);
    return out;
}

/* The beginning of a backup, or with `work` of a job. */
static enum cm_status begin(struct cm_capsule_writer *writer, const struct cm_capsule_facts *facts,
                            const struct cm_capsule_work *work,
                            const struct cm_capsule_region *regions, uint8_t count)
{
    if (work && work->setting_count > CM_SETTING_BYTES)
        return writer->status = CM_BAD_ARGUMENT;
    if (count > CM_CAPSULE_REGIONS || facts->id_bytes > sizeof facts->id)
        return writer->status = CM_BAD_ARGUMENT;
    pb_ostream_t stream = stream_to(writer);
    bool good = pb_encode_tag(&stream, PB_WT_STRING, coldmint_Capsule_format_tag) &&
                pb_encode_string(&stream, (const pb_byte_t *)FORMAT_TEXT, sizeof FORMAT_TEXT - 1) &&
                pb_encode_tag(&stream, PB_WT_VARINT, coldmint_Capsule_version_tag) &&
                pb_encode_varint(&stream, FORMAT_VERSION) && write_facts(&stream, facts) &&
                (!work || write_what(&stream, work));
    for (uint8_t i = 0; good && i < count; i++) {
        coldmint_Region region = coldmint_Region_init_zero;
        memcpy(region.name, regions[i].name, sizeof region.name);
        region.bytes = regions[i].bytes;
        region.erased = regions[i].erased;
        region.has_first = work && regions[i].first.bytes;
        region.first = link_of(&regions[i].first);
        good =
            write_message(&stream, coldmint_Capsule_regions_tag, coldmint_Region_fields, &region);
    }
    return outcome(writer, good);
}

enum cm_status cm_capsule_write_begin(struct cm_capsule_writer *writer,
                                      const struct cm_capsule_facts *facts,
                                      const struct cm_capsule_region *regions, uint8_t count,
                                      cm_text_fn *sink, void *context)
{
    *writer = (struct cm_capsule_writer){.sink = sink, .context = context};
    return begin(writer, facts, NULL, regions, count);
}

enum cm_status cm_capsule_write_work(struct cm_capsule_writer *writer,
                                     const struct cm_capsule_facts *facts,
                                     const struct cm_capsule_work *work,
                                     const struct cm_capsule_region *regions, uint8_t count,
                                     cm_text_fn *sink, void *context)
{
    *writer = (struct cm_capsule_writer){.sink = sink, .context = context};
    return begin(writer, facts, work, regions, count);
}

/* --- parts ------------------------------------------------------------------------------- */

/* A part's fields. */
static bool encode_piece(pb_ostream_t *stream, const struct cm_capsule_piece *piece)
{
    uint32_t crc = cm_crc32(cm_part_crc(piece->region, piece->address), piece->bytes, piece->count);
    coldmint_Link next;
    bool good = pb_encode_tag(stream, PB_WT_VARINT, coldmint_Part_region_tag) &&
                pb_encode_varint(stream, piece->region) &&
                pb_encode_tag(stream, PB_WT_VARINT, coldmint_Part_address_tag) &&
                pb_encode_varint(stream, piece->address) &&
                pb_encode_tag(stream, PB_WT_STRING, coldmint_Part_data_tag) &&
                pb_encode_string(stream, piece->bytes, piece->count) &&
                pb_encode_tag(stream, PB_WT_32BIT, coldmint_Part_crc32_tag) &&
                pb_encode_fixed32(stream, &crc);
    if (!good || !piece->next)
        return good;
    next = link_of(piece->next);
    return write_message(stream, coldmint_Part_next_tag, coldmint_Link_fields, &next);
}

static bool encode_part(struct cm_capsule_writer *writer, const struct cm_capsule_piece *piece)
{
    pb_ostream_t stream = stream_to(writer), size = PB_OSTREAM_SIZING;
    return encode_piece(&size, piece) &&
           pb_encode_tag(&stream, PB_WT_STRING, coldmint_Capsule_parts_tag) &&
           pb_encode_varint(&stream, size.bytes_written) && encode_piece(&stream, piece);
}

enum cm_status cm_capsule_write_piece(struct cm_capsule_writer *writer,
                                      const struct cm_capsule_piece *piece)
{
    return outcome(writer, !writer->status && encode_part(writer, piece));
}

static bool sum_up(pb_ostream_t *stream, const pb_byte_t *bytes, size_t count)
{
    cm_sha256_add(stream->state, bytes, count);
    return true;
}

enum cm_status cm_capsule_link_to(const struct cm_capsule_piece *piece,
                                  struct cm_capsule_link *link)
{
    struct cm_sha256 sum;
    uint8_t digest[CM_SHA256_BYTES];
    pb_ostream_t stream = {.callback = sum_up, .state = &sum, .max_size = SIZE_MAX};
    cm_sha256_begin(&sum);
    if (!encode_piece(&stream, piece))
        return CM_BAD_ARGUMENT;
    cm_sha256_end(&sum, digest);
    *link = (struct cm_capsule_link){.address = piece->address, .bytes = piece->count};
    memcpy(link->digest, digest, CM_LINK_DIGEST);
    return CM_OK;
}

static uint32_t run_of(const uint8_t *bytes, uint32_t count, uint8_t value)
{
    uint32_t run = 0;
    while (run < count && bytes[run] == value)
        run++;
    return run;
}

/* Length of what goes into one part: up to the next long run of erased bytes. */
static uint32_t part_length(const uint8_t *bytes, uint32_t count, uint8_t erased)
{
    uint32_t length = 0;
    while (length < count && length < CM_CAPSULE_PART) {
        uint32_t run = run_of(bytes + length, count - length, erased);
        if (run >= WORTH_LEAVING_OUT || length + run == count)
            return length;
        length += run + 1;
    }
    return length < CM_CAPSULE_PART ? length : CM_CAPSULE_PART;
}

enum cm_status cm_capsule_write(struct cm_capsule_writer *writer,
                                const struct cm_capsule_region *regions, uint8_t region,
                                uint32_t address, const uint8_t *bytes, uint32_t count)
{
    bool good = !writer->status;
    while (good && count) {
        uint32_t skip = run_of(bytes, count, regions[region].erased);
        address += skip;
        bytes += skip;
        count -= skip;
        uint32_t length = part_length(bytes, count, regions[region].erased);
        const struct cm_capsule_piece piece = {region, address, length, bytes, NULL};
        good = !length || encode_part(writer, &piece);
        address += length;
        bytes += length;
        count -= length;
    }
    return outcome(writer, good);
}

enum cm_status cm_capsule_write_seal(struct cm_capsule_writer *writer,
                                     const struct cm_capsule_seal *seal)
{
    pb_ostream_t stream = stream_to(writer);
    coldmint_Seal out = coldmint_Seal_init_zero;
    out.sha256.size = CM_DIGEST_BYTES;
    memcpy(out.sha256.bytes, seal->digest, CM_DIGEST_BYTES);
    if (seal->is_signed) {
        out.key.size = CM_KEY_BYTES;
        memcpy(out.key.bytes, seal->key, CM_KEY_BYTES);
        out.signature.size = CM_SIGNATURE_BYTES;
        memcpy(out.signature.bytes, seal->signature, CM_SIGNATURE_BYTES);
    }
    bool good = !writer->status &&
                write_message(&stream, coldmint_Capsule_seal_tag, coldmint_Seal_fields, &out);
    return outcome(writer, good);
}

enum cm_status cm_capsule_write_end(struct cm_capsule_writer *writer)
{
    pb_ostream_t stream = stream_to(writer);
    uint32_t crc = writer->crc;
    bool good = !writer->status &&
                pb_encode_tag(&stream, PB_WT_32BIT, coldmint_Capsule_crc32_tag) &&
                pb_encode_fixed32(&stream, &crc);
    return outcome(writer, good);
}
