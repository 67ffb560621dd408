/*
 * Opening a capsule where it lies. It is looked through once: the file's checksum, the schema, each
 * part's checksum, bounds and order; after that its regions are sources (source.c), and a job's
 * pages come straight from where the file lies.
 */
#include "../job/session.h"
#include "reader.h"
#include <string.h>

enum cm_status cm_capsule_fail(struct cm_capsule *capsule, const struct cm_wire *wire,
                               enum cm_capsule_fault fault)
{
    capsule->fault = wire->has_failed ? CM_CAPSULE_UNREADABLE : fault;
    capsule->fault_offset = wire->at;
    return CM_BAD_IMAGE;
}

struct cm_wire cm_capsule_fields(const struct cm_capsule_input *input, uint32_t offset)
{
    return (struct cm_wire){.input = input, .at = offset, .end = input->bytes - CRC_FIELD_BYTES};
}

/* --- the file as a whole ----------------------------------------------------------------- */

static enum cm_status fail_at(struct cm_capsule *capsule, uint32_t offset,
                              enum cm_capsule_fault fault)
{
    const struct cm_wire wire = {.at = offset};
    return cm_capsule_fail(capsule, &wire, fault);
}

/* The checksum of a piece of the input, behind that of what comes before it. */
static enum cm_status sum_up(struct cm_capsule *capsule, uint32_t at, uint32_t count, uint32_t *crc)
{
    const struct cm_capsule_input *input = &capsule->input;
    uint8_t bytes[64];
    for (uint32_t part; count; at += part, count -= part) {
        part = count < sizeof bytes ? count : (uint32_t)sizeof bytes;
        if (input->read(input->context, at, bytes, part) != CM_OK)
            return fail_at(capsule, at, CM_CAPSULE_UNREADABLE);
        *crc = cm_crc32(*crc, bytes, part);
    }
    return CM_OK;
}

/* The file's checksum, and the one that its last field tells. */
static enum cm_status check_sum(struct cm_capsule *capsule)
{
    const uint32_t end = capsule->input.bytes - CRC_FIELD_BYTES;
    struct cm_wire wire = {.input = &capsule->input, .at = end, .end = end + CRC_FIELD_BYTES};
    struct cm_wire_field field;
    uint32_t crc = 0;
    enum cm_status status = sum_up(capsule, 0, end, &crc);
    if (status)
        return status;
    if (!cm_wire_next(&wire, &field) || field.tag != CAPSULE_CRC32 || field.kind != CM_WIRE_FIXED32)
        return fail_at(capsule, end, wire.has_failed ? CM_CAPSULE_UNREADABLE : CM_CAPSULE_CUT);
    return field.number == crc ? CM_OK : fail_at(capsule, end, CM_CAPSULE_CHECKSUM);
}

static enum cm_status check_frame(struct cm_capsule *capsule)
{
    static const uint8_t FORMAT[FORMAT_BYTES + 1] = "\x0A\x10" FORMAT_TEXT;
    const struct cm_capsule_input *input = &capsule->input;
    uint8_t bytes[FORMAT_BYTES];
    if (input->bytes < FORMAT_BYTES)
        return fail_at(capsule, 0, CM_CAPSULE_FOREIGN);
    if (input->read(input->context, 0, bytes, FORMAT_BYTES) != CM_OK)
        return fail_at(capsule, 0, CM_CAPSULE_UNREADABLE);
    if (memcmp(bytes, FORMAT, FORMAT_BYTES) != 0)
        return fail_at(capsule, 0, CM_CAPSULE_FOREIGN);
    if (input->bytes < FORMAT_BYTES + CRC_FIELD_BYTES)
        return fail_at(capsule, 0, CM_CAPSULE_CUT);
    return check_sum(capsule);
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

static bool read_region(const struct cm_wire *wire, const struct cm_wire_field *message,
                        struct cm_capsule *capsule)
{
    struct cm_capsule_region region = {.bytes = 0};
    if (!cm_wire_read(wire, message, REGION_ROWS, REGION_ERASED, &region) || !region.name[0] ||
        capsule->region_count == CM_CAPSULE_REGIONS || capsule->first_part ||
        cm_capsule_region(capsule, region.name) >= 0)
        return false;
    capsule->regions[capsule->region_count++] = region;
    return true;
}

/* --- parts ------------------------------------------------------------------------------- */

/* What the parts must obey one after the other. */
struct order {
    uint32_t region, end;
};

static bool is_inside(const struct cm_capsule *capsule, uint32_t region, uint32_t address,
                      uint32_t count)
{
    return region < capsule->region_count && count <= capsule->regions[region].bytes &&
           address <= capsule->regions[region].bytes - count;
}

static enum cm_status check_part(struct cm_capsule *capsule, const struct cm_capsule_part *part,
                                 struct order *order)
{
    bool follows = part->region > order->region ||
                   (part->region == order->region && part->address >= order->end);
    if (!follows || !is_inside(capsule, part->region, part->address, part->data.count))
        return fail_at(capsule, part->data.at, CM_CAPSULE_BOUNDS);
    *order = (struct order){part->region, part->address + part->data.count};
    uint32_t crc = cm_part_crc(part->region, part->address);
    enum cm_status status = sum_up(capsule, part->data.at, part->data.count, &crc);
    if (status)
        return status;
    capsule->fault_region = (uint8_t)part->region;
    capsule->fault_address = part->address;
    return crc == part->crc ? CM_OK : fail_at(capsule, part->data.at, CM_CAPSULE_PART_SUM);
}

/* --- all together ------------------------------------------------------------------------ */

/* What is being looked through. */
struct looking {
    struct cm_wire wire;
    struct order order;
    uint32_t version;
};

static enum cm_status take_part(struct cm_capsule *capsule, struct looking *looking,
                                const struct cm_wire_field *field, uint32_t tag_offset)
{
    struct cm_capsule_part part;
    capsule->first_part = capsule->first_part ? capsule->first_part : tag_offset;
    if (!cm_capsule_read_part(&looking->wire, field, &part))
        return cm_capsule_fail(capsule, &looking->wire, CM_CAPSULE_MALFORMED);
    return check_part(capsule, &part, &looking->order);
}

static enum cm_status take_field(struct cm_capsule *capsule, struct looking *looking,
                                 const struct cm_wire_field *field, uint32_t tag_offset)
{
    const struct cm_wire *wire = &looking->wire;
    bool good = field->tag > CAPSULE_SEAL ||
                field->kind == (field->tag == CAPSULE_VERSION ? CM_WIRE_NUMBER : CM_WIRE_BYTES);
    switch (good ? field->tag : CAPSULE_CRC32) {
    case CAPSULE_VERSION:
        looking->version = field->is_wide ? UINT32_MAX : field->number;
        break;
    case CAPSULE_CHIP:
        good = cm_wire_read(wire, field, CHIP_ROWS, CHIP_SUPPLY_MV, &capsule->facts);
        break;
    case CAPSULE_ORIGIN:
        good = cm_wire_read(wire, field, ORIGIN_ROWS, ORIGIN_NOTES, &capsule->facts);
        break;
    case CAPSULE_WORK:
        good = !capsule->region_count && cm_capsule_read_work(wire, field, capsule);
        break;
    case CAPSULE_REGIONS:
        good = read_region(wire, field, capsule);
        break;
    case CAPSULE_PARTS:
        return take_part(capsule, looking, field, tag_offset);
    case CAPSULE_SEAL:
        capsule->is_sealed = true;
        capsule->sealed = tag_offset;
        break;
    default: // of a later minor version, or out of place
        good = field->tag > CAPSULE_SEAL;
    }
    if (looking->version > FORMAT_VERSION)
        return cm_capsule_fail(capsule, wire, CM_CAPSULE_VERSION);
    return good ? CM_OK : cm_capsule_fail(capsule, wire, CM_CAPSULE_MALFORMED);
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

static enum cm_status look_through(struct cm_capsule *capsule)
{
    struct looking looking = {.wire = cm_capsule_fields(&capsule->input, FORMAT_BYTES)};
    struct cm_wire_field field;
    uint32_t tag_offset = looking.wire.at;
    enum cm_status status = CM_OK;
    for (; !status && cm_wire_next(&looking.wire, &field); tag_offset = looking.wire.at) {
        if (capsule->is_sealed)
            return cm_capsule_fail(capsule, &looking.wire, CM_CAPSULE_MALFORMED);
        status = take_field(capsule, &looking, &field, tag_offset);
    }
    if (status)
        return status;
    bool good = cm_wire_is_whole(&looking.wire) && looking.version && makes_sense(capsule);
    return good ? CM_OK : cm_capsule_fail(capsule, &looking.wire, CM_CAPSULE_MALFORMED);
}

/* The checksum tells that the file is damaged, and the look through it where. */
enum cm_status cm_capsule_open(struct cm_capsule *capsule, const struct cm_capsule_input *input)
{
    memset(capsule, 0, sizeof *capsule);
    capsule->input = *input;
    enum cm_status status = check_frame(capsule);
    const uint32_t offset = capsule->fault_offset;
    if (status && capsule->fault != CM_CAPSULE_CHECKSUM)
        return status;
    enum cm_status looked = look_through(capsule);
    if (status && (!looked || capsule->fault != CM_CAPSULE_PART_SUM))
        return fail_at(capsule, offset, CM_CAPSULE_CHECKSUM);
    return looked;
}

int cm_capsule_region(const struct cm_capsule *capsule, const char *name)
{
    uint8_t i = capsule->region_count;
    while (i > 0 && !cm_is_same_text(capsule->regions[i - 1].name, name))
        i--;
    return i - 1;
}
