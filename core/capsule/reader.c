/*
 * Reading a capsule in place. It is looked through once when it is opened: the file's checksum, the
 * schema, each part's checksum, bounds and order; after that its regions are sources, and a job's
 * pages come straight from where the file lies.
 *
 * nanopb does the decoding, on a stream whose state is an offset in the input. Encoding: protocol
 * buffers, "Encoding" (wire types, varints).
 */
#include "fields.h"
#include <pb_decode.h>
#include <string.h>

static const char *const FAULT_WORDS[CM_CAPSULE_FAULT_COUNT] = {
    [CM_CAPSULE_OK] = "nothing is wrong",
    [CM_CAPSULE_UNREADABLE] = "the file cannot be read",
    [CM_CAPSULE_FOREIGN] = "it does not begin as a capsule does",
    [CM_CAPSULE_VERSION] = "it is of a version that this program does not know",
    [CM_CAPSULE_CUT] = "it ends too early",
    [CM_CAPSULE_CHECKSUM] = "its checksum is wrong",
    [CM_CAPSULE_PART_SUM] = "the checksum of a part is wrong",
    [CM_CAPSULE_MALFORMED] = "a field is damaged",
    [CM_CAPSULE_BOUNDS] = "a part lies outside its region, or out of order",
};

const char *cm_capsule_fault_word(enum cm_capsule_fault fault)
{
    return fault < CM_CAPSULE_FAULT_COUNT ? FAULT_WORDS[fault] : "unknown";
}

/* The state behind a stream. */
struct reading {
    const struct cm_capsule_input *input;
    uint32_t offset;
    bool failed;
};

static bool take(pb_istream_t *stream, pb_byte_t *bytes, size_t count)
{
    struct reading *reading = stream->state;
    if (bytes && reading->input->read(reading->input->context, reading->offset, bytes,
                                      (uint32_t)count) != CM_OK) {
        reading->failed = true;
        return false;
    }
    reading->offset += (uint32_t)count;
    return true;
}

static pb_istream_t stream_from(struct reading *reading, const struct cm_capsule_input *input,
                                uint32_t offset)
{
    *reading = (struct reading){input, offset, false};
    return (pb_istream_t){
        .callback = take, .state = reading, .bytes_left = input->bytes - CRC_FIELD_BYTES - offset};
}

static enum cm_status fail(struct cm_capsule *capsule, const struct reading *reading,
                           enum cm_capsule_fault fault)
{
    capsule->fault = reading && reading->failed ? CM_CAPSULE_UNREADABLE : fault;
    capsule->fault_offset = reading ? reading->offset : 0;
    return CM_BAD_IMAGE;
}

_Static_assert(sizeof((coldmint_Chip *)0)->name == CM_CAPSULE_NAME &&
                   sizeof((coldmint_Chip *)0)->family == CM_CAPSULE_NAME &&
                   sizeof((coldmint_Region *)0)->name == CM_CAPSULE_NAME &&
                   sizeof((coldmint_Origin *)0)->tool == CM_CAPSULE_TOOL &&
                   sizeof((coldmint_Origin *)0)->notes == CM_CAPSULE_NOTES &&
                   sizeof((coldmint_Chip *)0)->id.bytes == sizeof((struct cm_capsule_facts *)0)->id,
               "capsule.options and capsule.h have the same sizes");

/* --- the file as a whole ----------------------------------------------------------------- */

static enum cm_status check_frame(struct cm_capsule *capsule)
{
    static const uint8_t FORMAT[FORMAT_BYTES + 1] = "\x0A\x10" FORMAT_TEXT;
    const struct cm_capsule_input *input = &capsule->input;
    struct reading reading = {input, 0, false};
    uint8_t bytes[64];
    if (input->bytes < FORMAT_BYTES)
        return fail(capsule, &reading, CM_CAPSULE_FOREIGN);
    if (input->read(input->context, 0, bytes, FORMAT_BYTES) != CM_OK)
        return fail(capsule, &reading, CM_CAPSULE_UNREADABLE);
    if (memcmp(bytes, FORMAT, FORMAT_BYTES) != 0)
        return fail(capsule, &reading, CM_CAPSULE_FOREIGN);
    if (input->bytes < FORMAT_BYTES + CRC_FIELD_BYTES)
        return fail(capsule, &reading, CM_CAPSULE_CUT);
    uint32_t crc = 0, end = input->bytes - CRC_FIELD_BYTES, count;
    for (uint32_t at = 0; at < end; at += count) {
        count = end - at < sizeof bytes ? end - at : (uint32_t)sizeof bytes;
        if (input->read(input->context, at, bytes, count) != CM_OK)
            return fail(capsule, &reading, CM_CAPSULE_UNREADABLE);
        crc = cm_crc32(crc, bytes, count);
    }
    if (input->read(input->context, end, bytes, CRC_FIELD_BYTES) != CM_OK)
        return fail(capsule, &reading, CM_CAPSULE_UNREADABLE);
    reading.offset = end;
    if (bytes[0] != TAG(coldmint_Capsule_crc32_tag, PB_WT_32BIT))
        return fail(capsule, &reading, CM_CAPSULE_CUT);
    uint32_t told =
        bytes[1] | (uint32_t)bytes[2] << 8 | (uint32_t)bytes[3] << 16 | (uint32_t)bytes[4] << 24;
    return told == crc ? CM_OK : fail(capsule, &reading, CM_CAPSULE_CHECKSUM);
}

/* --- parts ------------------------------------------------------------------------------- */

/* A part's frame: what it says, and where its data lie. */
struct part {
    uint32_t region, address, data_offset, data_bytes, crc, next;
};

/* Reads the part whose message `stream` is about to enter. The data are passed over. */
static bool read_part(pb_istream_t *stream, struct part *part)
{
    pb_istream_t message;
    pb_wire_type_t wire;
    uint32_t tag;
    bool ended, good = true;
    memset(part, 0, sizeof *part);
    if (!pb_make_string_substream(stream, &message))
        return false;
    while (good && pb_decode_tag(&message, &wire, &tag, &ended)) {
        const struct reading *reading = message.state;
        uint32_t length = 0;
        if (tag == coldmint_Part_region_tag && wire == PB_WT_VARINT) {
            good = pb_decode_varint32(&message, &part->region);
        } else if (tag == coldmint_Part_address_tag && wire == PB_WT_VARINT) {
            good = pb_decode_varint32(&message, &part->address);
        } else if (tag == coldmint_Part_crc32_tag && wire == PB_WT_32BIT) {
            good = pb_decode_fixed32(&message, &part->crc);
        } else if (tag == coldmint_Part_data_tag && wire == PB_WT_STRING) {
            good = pb_decode_varint32(&message, &length) && length <= message.bytes_left;
            part->data_offset = reading->offset;
            part->data_bytes = length;
            good = good && pb_read(&message, NULL, length);
        } else {
            good = pb_skip_field(&message, wire);
        }
    }
    return good && message.bytes_left == 0 && pb_close_string_substream(stream, &message);
}

/* The next part at or after the offset of a tag. `found` says whether there is one; that the input
 * fails, or has changed under us, is no end: CM_BAD_IMAGE. */
static enum cm_status next_part(const struct cm_capsule_input *input, uint32_t offset,
                                struct part *part, bool *found)
{
    struct reading reading;
    pb_wire_type_t wire;
    uint32_t tag;
    bool ended = true;
    *found = false;
    if (offset >= input->bytes - CRC_FIELD_BYTES)
        return CM_OK;
    pb_istream_t stream = stream_from(&reading, input, offset);
    while (pb_decode_tag(&stream, &wire, &tag, &ended)) {
        if (tag == coldmint_Capsule_parts_tag && wire == PB_WT_STRING) {
            *found = read_part(&stream, part);
            part->next = reading.offset;
            return *found ? CM_OK : CM_BAD_IMAGE;
        }
        if (!pb_skip_field(&stream, wire))
            return CM_BAD_IMAGE;
    }
    return ended && !reading.failed ? CM_OK : CM_BAD_IMAGE;
}

/* What the parts must obey one after the other. */
struct order {
    uint32_t region, end;
};

static enum cm_status check_part(struct cm_capsule *capsule, const struct part *part,
                                 struct order *order)
{
    const struct cm_capsule_input *input = &capsule->input;
    struct reading place = {input, part->data_offset, false};
    uint8_t bytes[64];
    bool follows = part->region > order->region ||
                   (part->region == order->region && part->address >= order->end);
    if (part->region >= capsule->region_count || !follows)
        return fail(capsule, &place, CM_CAPSULE_BOUNDS);
    const struct cm_capsule_region *region = &capsule->regions[part->region];
    if (part->data_bytes > region->bytes || part->address > region->bytes - part->data_bytes)
        return fail(capsule, &place, CM_CAPSULE_BOUNDS);
    *order = (struct order){part->region, part->address + part->data_bytes};
    uint32_t crc = cm_part_crc(part->region, part->address);
    for (uint32_t at = 0, count; at < part->data_bytes; at += count) {
        count =
            part->data_bytes - at < sizeof bytes ? part->data_bytes - at : (uint32_t)sizeof bytes;
        if (input->read(input->context, part->data_offset + at, bytes, count) != CM_OK)
            return fail(capsule, &place, CM_CAPSULE_UNREADABLE);
        crc = cm_crc32(crc, bytes, count);
    }
    return crc == part->crc ? CM_OK : fail(capsule, &place, CM_CAPSULE_PART_SUM);
}

/* --- facts ------------------------------------------------------------------------------- */

static bool read_message(pb_istream_t *stream, const pb_msgdesc_t *fields, void *message)
{
    pb_istream_t inner;
    if (!pb_make_string_substream(stream, &inner))
        return false;
    return pb_decode(&inner, fields, message) && pb_close_string_substream(stream, &inner);
}

static bool read_chip(pb_istream_t *stream, struct cm_capsule_facts *facts)
{
    coldmint_Chip chip = coldmint_Chip_init_zero;
    if (!read_message(stream, coldmint_Chip_fields, &chip) || chip.supply_mv > UINT16_MAX)
        return false;
    memcpy(facts->chip, chip.name, sizeof facts->chip);
    memcpy(facts->family, chip.family, sizeof facts->family);
    memcpy(facts->id, chip.id.bytes, chip.id.size);
    facts->id_bytes = (uint8_t)chip.id.size;
    facts->supply_mv = (uint16_t)chip.supply_mv;
    return true;
}

static bool read_origin(pb_istream_t *stream, struct cm_capsule_facts *facts)
{
    coldmint_Origin origin = coldmint_Origin_init_zero;
    if (!read_message(stream, coldmint_Origin_fields, &origin))
        return false;
    facts->time = origin.time;
    memcpy(facts->tool, origin.tool, sizeof facts->tool);
    memcpy(facts->notes, origin.notes, sizeof facts->notes);
    return true;
}

static bool read_region(pb_istream_t *stream, struct cm_capsule *capsule)
{
    coldmint_Region region = coldmint_Region_init_zero;
    if (!read_message(stream, coldmint_Region_fields, &region) || region.erased > 0xFF ||
        !region.name[0] || capsule->region_count == CM_CAPSULE_REGIONS || capsule->first_part ||
        cm_capsule_region(capsule, region.name) >= 0)
        return false;
    struct cm_capsule_region *out = &capsule->regions[capsule->region_count++];
    memcpy(out->name, region.name, sizeof out->name);
    out->bytes = region.bytes;
    out->erased = (uint8_t)region.erased;
    return true;
}

static enum cm_status look_through(struct cm_capsule *capsule)
{
    struct reading reading;
    pb_istream_t stream = stream_from(&reading, &capsule->input, FORMAT_BYTES);
    struct order order = {0, 0};
    pb_wire_type_t wire;
    uint32_t tag, version = 0, tag_offset = reading.offset;
    bool ended, good = true;
    for (; good && pb_decode_tag(&stream, &wire, &tag, &ended); tag_offset = reading.offset) {
        struct part part;
        bool is_message = wire == PB_WT_STRING;
        if (tag == coldmint_Capsule_version_tag && wire == PB_WT_VARINT) {
            good = pb_decode_varint32(&stream, &version);
        } else if (tag == coldmint_Capsule_chip_tag && is_message) {
            good = read_chip(&stream, &capsule->facts);
        } else if (tag == coldmint_Capsule_origin_tag && is_message) {
            good = read_origin(&stream, &capsule->facts);
        } else if (tag == coldmint_Capsule_regions_tag && is_message) {
            good = read_region(&stream, capsule);
        } else if (tag == coldmint_Capsule_parts_tag && is_message) {
            capsule->first_part = capsule->first_part ? capsule->first_part : tag_offset;
            good = read_part(&stream, &part);
            if (good && check_part(capsule, &part, &order) != CM_OK)
                return CM_BAD_IMAGE;
        } else {
            good = pb_skip_field(&stream, wire); // of a later minor version
        }
        if (good && version > FORMAT_VERSION)
            return fail(capsule, &reading, CM_CAPSULE_VERSION);
    }
    bool whole = good && stream.bytes_left == 0 && version && capsule->facts.chip[0];
    return whole ? CM_OK : fail(capsule, &reading, CM_CAPSULE_MALFORMED);
}

enum cm_status cm_capsule_open(struct cm_capsule *capsule, const struct cm_capsule_input *input)
{
    memset(capsule, 0, sizeof *capsule);
    capsule->input = *input;
    enum cm_status status = check_frame(capsule);
    return status ? status : look_through(capsule);
}

int cm_capsule_region(const struct cm_capsule *capsule, const char *name)
{
    for (uint8_t i = 0; i < capsule->region_count; i++) {
        const char *mine = capsule->regions[i].name;
        uint8_t at = 0;
        while (mine[at] && mine[at] == name[at])
            at++;
        if (mine[at] == name[at])
            return i;
    }
    return -1;
}

/* --- a region as a source ---------------------------------------------------------------- */

static bool extent(void *context, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    const struct cm_capsule_place *place = context;
    uint32_t all = place->capsule->regions[place->region].bytes;
    *start = from;
    *bytes = from < all ? all - from : 0;
    return from < all;
}

static enum cm_status read(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    struct cm_capsule_place *place = context;
    const struct cm_capsule *capsule = place->capsule;
    struct part part;
    memset(bytes, capsule->regions[place->region].erased, count);
    if (address < place->address) {
        place->offset = capsule->first_part;
        place->address = 0;
    }
    while (place->offset) {
        bool found;
        enum cm_status next = next_part(&capsule->input, place->offset, &part, &found);
        if (next || !found)
            return next;
        uint32_t end = part.address + part.data_bytes;
        bool before =
            part.region < place->region || (part.region == place->region && end <= address);
        if (part.region > place->region || (!before && part.address >= address + count))
            return CM_OK;
        if (!before) {
            uint32_t first = part.address > address ? part.address : address;
            uint32_t last = end < address + count ? end : address + count;
            enum cm_status status = capsule->input.read(capsule->input.context,
                                                        part.data_offset + (first - part.address),
                                                        bytes + (first - address), last - first);
            if (status || end >= address + count)
                return status;
        }
        place->offset = part.next;
        place->address = part.region == place->region ? end : 0;
    }
    return CM_OK;
}

struct cm_source cm_capsule_source(const struct cm_capsule *capsule, uint8_t region,
                                   struct cm_capsule_place *place)
{
    *place = (struct cm_capsule_place){capsule, region, capsule->first_part, 0};
    return (struct cm_source){place, extent, read};
}
