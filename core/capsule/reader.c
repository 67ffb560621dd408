/*
 * Opening a capsule where it lies. It is read once, front to back (stream.h): the schema, each
 * part's checksum, bounds and order, a job's chain of digests, the file's checksum. After that its
 * regions are sources (source.c), and a job's pages come straight from where the file lies.
 */
#include "../job/session.h"
#include "reader.h"
#include "stream.h"
#include <string.h>

enum cm_status cm_capsule_fail(struct cm_capsule *capsule, uint32_t offset,
                               enum cm_capsule_fault fault)
{
    capsule->fault = fault;
    capsule->fault_offset = offset;
    return CM_BAD_IMAGE;
}

/* --- the file as a whole ----------------------------------------------------------------- */

/* What is being looked through. */
struct looking {
    struct cm_stream stream;
    struct cm_wire wire;
    struct cm_sha256 sum; /* of what comes before the first part, and of each part */
    uint32_t crc, version;
    uint32_t region, end;       /* of the part before */
    struct cm_capsule_link due; /* of a job: what the next part of that region must be */
    bool is_head_over;
};

/* Where the looking stands. */
static enum cm_status fail(struct cm_capsule *capsule, const struct looking *looking,
                           enum cm_capsule_fault fault)
{
    return cm_capsule_fail(capsule, looking->wire.at,
                           looking->stream.has_failed ? CM_CAPSULE_UNREADABLE : fault);
}

/* The file's checksum, as its last field tells it. */
static enum cm_status read_sum(struct cm_capsule *capsule, uint32_t *crc)
{
    const uint32_t end = capsule->input.bytes - CRC_FIELD_BYTES;
    struct cm_wire wire = {.input = &capsule->input, .at = end, .end = end + CRC_FIELD_BYTES};
    struct cm_wire_field field;
    if (!cm_wire_next(&wire, &field) || field.tag != CAPSULE_CRC32 || field.kind != CM_WIRE_FIXED32)
        return cm_capsule_fail(capsule, end,
                               wire.has_failed ? CM_CAPSULE_UNREADABLE : CM_CAPSULE_CUT);
    *crc = field.number;
    return CM_OK;
}

static enum cm_status check_frame(struct cm_capsule *capsule, struct looking *looking)
{
    static const uint8_t FORMAT[FORMAT_BYTES + 1] = "\x0A\x10" FORMAT_TEXT;
    const struct cm_capsule_input *input = &looking->stream.input;
    uint8_t bytes[FORMAT_BYTES];
    if (input->bytes < FORMAT_BYTES)
        return cm_capsule_fail(capsule, 0, CM_CAPSULE_FOREIGN);
    if (input->read(input->context, 0, bytes, FORMAT_BYTES) != CM_OK)
        return cm_capsule_fail(capsule, 0, CM_CAPSULE_UNREADABLE);
    if (memcmp(bytes, FORMAT, FORMAT_BYTES) != 0)
        return cm_capsule_fail(capsule, 0, CM_CAPSULE_FOREIGN);
    return input->bytes < FORMAT_BYTES + CRC_FIELD_BYTES
               ? cm_capsule_fail(capsule, 0, CM_CAPSULE_CUT)
               : CM_OK;
}

/* --- facts ------------------------------------------------------------------------------- */

#define FACT(kind, member) CM_ROW(kind, struct cm_capsule_facts, member)
static const struct cm_wire_row CHIP_ROWS[] = {
    [CHIP_NAME - 1] = FACT(CM_ROW_TEXT, chip),
    [CHIP_FAMILY - 1] = FACT(CM_ROW_TEXT, family),
    [CHIP_ID - 1] = FACT(CM_ROW_BYTES, id), // and id_bytes behind it
    [CHIP_SUPPLY_MV - 1] = FACT(CM_ROW_NUMBER, supply_mv),
};
static const struct cm_wire_row ORIGIN_ROWS[] = {
    [ORIGIN_TIME - 1] = FACT(CM_ROW_TIME, time),
    [ORIGIN_TOOL - 1] = FACT(CM_ROW_TEXT, tool),
    [ORIGIN_NOTES - 1] = FACT(CM_ROW_TEXT, notes),
};
#undef FACT
#define ROW(kind, member) CM_ROW(kind, struct cm_capsule_region, member)
static const struct cm_wire_row REGION_ROWS[] = {
    [REGION_NAME - 1] = ROW(CM_ROW_TEXT, name),
    [REGION_BYTES - 1] = ROW(CM_ROW_NUMBER, bytes),
    [REGION_ERASED - 1] = ROW(CM_ROW_NUMBER, erased),
};
#undef ROW
_Static_assert(offsetof(struct cm_capsule_facts, id_bytes) ==
                   offsetof(struct cm_capsule_facts, id) + sizeof((struct cm_capsule_facts *)0)->id,
               "CM_ROW_BYTES puts the number of bytes behind them");

/* What a region is, field by field: a link is a message in it. */
static bool read_fields(const struct cm_wire *wire, const struct cm_wire_field *message,
                        struct cm_capsule_region *region)
{
    struct cm_wire inner = cm_wire_inner(wire, message);
    struct cm_wire_field field;
    bool good = true;
    while (good && cm_wire_next(&inner, &field))
        good = cm_wire_is_bytes(&field, REGION_FIRST)
                   ? cm_wire_read(&inner, &field, cm_capsule_link_rows, LINK_BYTES, &region->first)
                   : cm_wire_take(&inner, &field, REGION_ROWS, REGION_ERASED, region);
    return good && cm_wire_is_whole(&inner);
}

static bool read_region(const struct cm_wire *wire, const struct cm_wire_field *message,
                        struct cm_capsule *capsule)
{
    struct cm_capsule_region region = {.bytes = 0};
    if (!read_fields(wire, message, &region) || !region.name[0] ||
        capsule->region_count == CM_CAPSULE_REGIONS || cm_capsule_region(capsule, region.name) >= 0)
        return false;
    capsule->regions[capsule->region_count++] = region;
    return true;
}

/* --- parts ------------------------------------------------------------------------------- */

static bool is_inside(const struct cm_capsule *capsule, uint32_t region, uint32_t address,
                      uint32_t count)
{
    return region < capsule->region_count && count <= capsule->regions[region].bytes &&
           address <= capsule->regions[region].bytes - count;
}

/* Does a part follow the one before? */
static bool follows(const struct cm_capsule *capsule, const struct looking *looking,
                    const struct cm_capsule_part *part)
{
    bool is_behind = part->region > looking->region ||
                     (part->region == looking->region && part->address >= looking->end);
    return is_behind && is_inside(capsule, part->region, part->address, part->count);
}

/* Has the length of a field its shortest form? No digest is for it. */
static bool is_short(const struct cm_wire_field *field, uint32_t offset)
{
    enum { TAG = 1, ONE = 1 << 7, TWO = 1 << 14 };
    const uint32_t form = field->count < ONE ? 1 : field->count < TWO ? 2 : 3;
    return field->at - offset == TAG + form;
}

/* Is it the one that was to come, by the part before it, or by its region? */
static bool is_due(struct cm_capsule *capsule, struct looking *looking,
                   const struct cm_capsule_part *part, const uint8_t *digest, uint32_t offset)
{
    struct cm_capsule_link *first = &capsule->regions[part->region].first;
    bool is_first = !first->offset, good = true;
    if (is_first) {
        good = !looking->due.bytes; // the region before is at its end
        first->offset = offset;
        looking->due = *first;
    }
    const struct cm_capsule_link *due = &looking->due;
    good = good && due->bytes && due->bytes == part->count && due->address == part->address &&
           memcmp(due->digest, digest, CM_LINK_DIGEST) == 0;
    looking->due = part->next;
    return good;
}

/* Has each chain come to its end, and begun? */
static bool are_all_there(const struct cm_capsule *capsule, const struct looking *looking)
{
    bool good = !looking->due.bytes;
    for (uint8_t i = 0; i < capsule->region_count; i++)
        good &= !capsule->regions[i].first.bytes || capsule->regions[i].first.offset;
    return good || !capsule->has_work;
}

static enum cm_status check_part(struct cm_capsule *capsule, struct looking *looking,
                                 const struct cm_capsule_part *part, const uint8_t *digest,
                                 uint32_t offset)
{
    if (!follows(capsule, looking, part))
        return fail(capsule, looking, CM_CAPSULE_BOUNDS);
    capsule->fault_region = (uint8_t)part->region;
    capsule->fault_address = part->address;
    if (part->true_crc != part->crc)
        return fail(capsule, looking, CM_CAPSULE_PART_SUM);
    if (capsule->has_work && !is_due(capsule, looking, part, digest, offset))
        return fail(capsule, looking, CM_CAPSULE_DIGEST);
    looking->region = part->region;
    looking->end = part->address + part->count;
    return CM_OK;
}

static enum cm_status take_part(struct cm_capsule *capsule, struct looking *looking,
                                const struct cm_wire_field *field, uint32_t offset)
{
    struct cm_stream *stream = &looking->stream;
    struct cm_capsule_part part;
    uint8_t digest[CM_SHA256_BYTES];
    capsule->first_part = capsule->first_part ? capsule->first_part : offset;
    if (capsule->has_work) {
        cm_sha256_begin(&looking->sum);
        stream->sum = &looking->sum;
    }
    bool good = is_short(field, offset) &&
                cm_capsule_read_part(&looking->wire, field, NULL, &part) &&
                (!stream->sum || cm_stream_end_sum(stream, looking->wire.at, digest) == CM_OK);
    stream->sum = NULL;
    return good ? check_part(capsule, looking, &part, digest, offset)
                : fail(capsule, looking, CM_CAPSULE_MALFORMED);
}

/* --- all together ------------------------------------------------------------------------ */

/* Is a part or the seal next? With that the head is over, which the seal is for. */
static enum cm_status end_head(struct cm_capsule *capsule, struct looking *looking)
{
    const struct cm_capsule_input *input = &capsule->input;
    const uint32_t at = looking->wire.at;
    uint8_t tag = 0;
    if (looking->is_head_over || at >= looking->wire.end)
        return CM_OK;
    if (input->read(input->context, at, &tag, 1) != CM_OK)
        return cm_capsule_fail(capsule, at, CM_CAPSULE_UNREADABLE);
    if (tag != (CAPSULE_PARTS << 3 | CM_WIRE_BYTES) && tag != (CAPSULE_SEAL << 3 | CM_WIRE_BYTES))
        return CM_OK;
    looking->is_head_over = true;
    return cm_stream_end_sum(&looking->stream, at, capsule->digest)
               ? cm_capsule_fail(capsule, at, CM_CAPSULE_UNREADABLE)
               : CM_OK;
}

/* May this field stand here? Behind the head there are parts and the seal, and of a backup what a
 * later minor version may have. */
static bool is_in_order(const struct cm_capsule *capsule, const struct looking *looking,
                        const struct cm_wire_field *field)
{
    if (field->tag > CAPSULE_SEAL)
        return !looking->is_head_over || !capsule->has_work;
    bool is_behind = field->tag == CAPSULE_PARTS || field->tag == CAPSULE_SEAL;
    return is_behind == looking->is_head_over &&
           field->kind == (field->tag == CAPSULE_VERSION ? CM_WIRE_NUMBER : CM_WIRE_BYTES);
}

static bool take_field(struct cm_capsule *capsule, struct looking *looking,
                       const struct cm_wire_field *field, uint32_t offset)
{
    const struct cm_wire *wire = &looking->wire;
    switch (field->tag) {
    case CAPSULE_VERSION:
        looking->version = field->is_wide ? UINT32_MAX : field->number;
        return true;
    case CAPSULE_CHIP:
        return cm_wire_read(wire, field, CHIP_ROWS, CHIP_SUPPLY_MV, &capsule->facts);
    case CAPSULE_ORIGIN:
        return cm_wire_read(wire, field, ORIGIN_ROWS, ORIGIN_NOTES, &capsule->facts);
    case CAPSULE_WORK:
        return !capsule->region_count && cm_capsule_read_work(wire, field, capsule);
    case CAPSULE_REGIONS:
        return read_region(wire, field, capsule);
    case CAPSULE_SEAL:
        capsule->is_sealed = true;
        capsule->sealed = offset;
        return capsule->has_work;
    default: // of a later minor version, or out of place
        return field->tag > CAPSULE_SEAL;
    }
}

static enum cm_status take_next(struct cm_capsule *capsule, struct looking *looking,
                                const struct cm_wire_field *field, uint32_t offset)
{
    bool good = !capsule->is_sealed && is_in_order(capsule, looking, field);
    if (good && field->tag == CAPSULE_PARTS)
        return take_part(capsule, looking, field, offset);
    good = good && take_field(capsule, looking, field, offset);
    if (looking->version > FORMAT_VERSION)
        return fail(capsule, looking, CM_CAPSULE_VERSION);
    return good ? CM_OK : fail(capsule, looking, CM_CAPSULE_MALFORMED);
}

/* A marker and settings stand in their regions. */
static bool makes_sense(const struct cm_capsule *capsule)
{
    const struct cm_capsule_work *work = &capsule->work;
    bool good = capsule->facts.chip[0] != '\0' &&
                (!work->marker_bytes ||
                 is_inside(capsule, work->marker_region, work->marker_at, work->marker_bytes));
    for (uint8_t i = 0; i < work->setting_count; i++)
        good &= is_inside(capsule, work->settings[i].region, work->settings[i].address, 1);
    return good;
}

static enum cm_status look_through(struct cm_capsule *capsule, struct looking *looking)
{
    struct cm_wire_field field;
    enum cm_status status = CM_OK;
    while (!status) {
        const uint32_t offset = looking->wire.at;
        status = end_head(capsule, looking);
        if (status || !cm_wire_next(&looking->wire, &field))
            break;
        status = take_next(capsule, looking, &field, offset);
    }
    if (status)
        return status;
    if (!cm_wire_is_whole(&looking->wire) || !looking->version || !makes_sense(capsule))
        return fail(capsule, looking, CM_CAPSULE_MALFORMED);
    return are_all_there(capsule, looking) ? CM_OK : fail(capsule, looking, CM_CAPSULE_DIGEST);
}

/* The checksum tells that the file is damaged, and the look through it where. */
static enum cm_status open(struct cm_capsule *capsule, struct looking *looking)
{
    uint32_t crc;
    enum cm_status status = check_frame(capsule, looking);
    if (!status)
        status = read_sum(capsule, &crc);
    if (status)
        return status;
    const uint32_t end = capsule->input.bytes - CRC_FIELD_BYTES;
    looking->wire =
        (struct cm_wire){.input = &looking->stream.input, .at = FORMAT_BYTES, .end = end};
    status = look_through(capsule, looking);
    if (capsule->fault == CM_CAPSULE_UNREADABLE || capsule->fault == CM_CAPSULE_PART_SUM)
        return status;
    looking->stream.sum = NULL;
    if (cm_stream_pass(&looking->stream, end) != CM_OK)
        return cm_capsule_fail(capsule, looking->stream.at, CM_CAPSULE_UNREADABLE);
    return looking->crc == crc ? status : cm_capsule_fail(capsule, end, CM_CAPSULE_CHECKSUM);
}

enum cm_status cm_capsule_open(struct cm_capsule *capsule, const struct cm_capsule_input *input)
{
    struct looking looking = {.crc = 0};
    memset(capsule, 0, sizeof *capsule);
    capsule->input = *input;
    cm_stream_begin(&looking.stream, &capsule->input, 0);
    looking.stream.crc = &looking.crc;
    looking.stream.sum = &looking.sum;
    cm_sha256_begin(&looking.sum);
    return open(capsule, &looking);
}

int cm_capsule_region(const struct cm_capsule *capsule, const char *name)
{
    uint8_t i = capsule->region_count;
    while (i > 0 && !cm_is_same_text(capsule->regions[i - 1].name, name))
        i--;
    return i - 1;
}
