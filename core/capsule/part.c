/*
 * Parts of a capsule: what stands in them beside the data, and the data on their way.
 */
#include "reader.h"
#include <string.h>

#define ROW(kind, member) CM_ROW(kind, struct cm_capsule_link, member)
const struct cm_wire_row cm_capsule_link_rows[LINK_BYTES] = {
    [LINK_DIGEST - 1] = ROW(CM_ROW_EXACT, digest),
    [LINK_ADDRESS - 1] = ROW(CM_ROW_NUMBER, address),
    [LINK_BYTES - 1] = ROW(CM_ROW_NUMBER, bytes),
};
#undef ROW
#define ROW(kind, member) CM_ROW(kind, struct cm_capsule_part, member)
const struct cm_wire_row cm_capsule_part_rows[PART_CRC32] = {
    [PART_REGION - 1] = ROW(CM_ROW_NUMBER, region),
    [PART_ADDRESS - 1] = ROW(CM_ROW_NUMBER, address),
    [PART_DATA - 1] = {CM_ROW_PASSED, 0, 0},
    [PART_CRC32 - 1] = ROW(CM_ROW_FIXED32, crc),
};
#undef ROW

/* All of the data, for their checksum. */
static bool sum_up(const struct cm_wire *wire, const struct cm_wire_field *field, uint32_t *crc)
{
    const struct cm_capsule_input *input = wire->input;
    uint8_t bytes[64];
    for (uint32_t done = 0, count; done < field->count; done += count) {
        count = field->count - done;
        count = count < sizeof bytes ? count : (uint32_t)sizeof bytes;
        if (input->read(input->context, field->at + done, bytes, count) != CM_OK)
            return false;
        *crc = cm_crc32(*crc, bytes, count);
    }
    return true;
}

static bool take_data(const struct cm_wire *wire, const struct cm_wire_field *field,
                      const struct cm_capsule_window *window, struct cm_capsule_part *part)
{
    const struct cm_capsule_input *input = wire->input;
    if (part->count) // there were some
        return false;
    part->count = field->count;
    if (!window) {
        part->true_crc = cm_part_crc(part->region, part->address);
        return sum_up(wire, field, &part->true_crc);
    }
    uint32_t first = window->from - part->address, count = window->behind - window->from;
    if (first > field->count || count > field->count - first)
        return false;
    return !count || input->read(input->context, field->at + first, window->bytes, count) == CM_OK;
}

bool cm_capsule_read_part(const struct cm_wire *wire, const struct cm_wire_field *message,
                          const struct cm_capsule_window *window, struct cm_capsule_part *part)
{
    struct cm_wire inner = cm_wire_inner(wire, message);
    struct cm_wire_field field;
    bool good = true;
    memset(part, 0, sizeof *part);
    while (good && cm_wire_next(&inner, &field)) {
        if (cm_wire_is_bytes(&field, PART_DATA))
            good = take_data(&inner, &field, window, part);
        else if (cm_wire_is_bytes(&field, PART_NEXT))
            good = cm_wire_read(&inner, &field, cm_capsule_link_rows, LINK_BYTES, &part->next);
        else
            good = cm_wire_take(&inner, &field, cm_capsule_part_rows, PART_CRC32, part);
    }
    if (!part->count)
        part->true_crc = cm_part_crc(part->region, part->address);
    return good && cm_wire_is_whole(&inner);
}
