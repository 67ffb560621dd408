/*
 * A capsule's parts: their frames, and a region of them as a source. Of a backup a region is whole,
 * of a job it is what the parts hold.
 */
#include "reader.h"
#include <string.h>

bool cm_capsule_read_part(const struct cm_wire *wire, const struct cm_wire_field *message,
                          struct cm_capsule_part *part)
{
#define ROW(kind, member) CM_ROW(kind, struct cm_capsule_part, member)
    static const struct cm_wire_row ROWS[] = {
        [PART_REGION - 1] = ROW(CM_ROW_NUMBER, region),
        [PART_ADDRESS - 1] = ROW(CM_ROW_NUMBER, address),
        [PART_DATA - 1] = ROW(CM_ROW_SPAN, data),
        [PART_CRC32 - 1] = ROW(CM_ROW_FIXED32, crc),
    };
#undef ROW
    memset(part, 0, sizeof *part);
    return cm_wire_read(wire, message, ROWS, PART_CRC32, part);
}

/* The next part at or after the offset of a tag, and the offset behind it. `found` says whether
 * there is one; that the input fails, or has changed under us, is no end: CM_BAD_IMAGE. */
static enum cm_status next_part(const struct cm_capsule_input *input, uint32_t *offset,
                                struct cm_capsule_part *part, bool *found)
{
    struct cm_wire wire = cm_capsule_fields(input, *offset);
    struct cm_wire_field field;
    *found = false;
    while (cm_wire_next(&wire, &field)) {
        if (!cm_wire_is_bytes(&field, CAPSULE_PARTS))
            continue;
        *found = cm_capsule_read_part(&wire, &field, part);
        *offset = wire.at;
        return *found ? CM_OK : CM_BAD_IMAGE;
    }
    return cm_wire_is_whole(&wire) ? CM_OK : CM_BAD_IMAGE;
}

/* The first part of the place's region that ends behind an address; the place then stands before
 * it. Once that has failed, it always does. */
static enum cm_status find_part(struct cm_capsule_place *place, uint32_t address,
                                struct cm_capsule_part *part, bool *found)
{
    const struct cm_capsule *capsule = place->capsule;
    if (address < place->address || !place->offset) {
        place->offset = capsule->first_part;
        place->address = 0;
    }
    *found = false;
    while (place->offset && !place->has_failed) {
        uint32_t next = place->offset;
        place->has_failed = next_part(&capsule->input, &next, part, found) != CM_OK;
        if (place->has_failed || !*found)
            break;
        uint32_t end = part->address + part->data.count;
        *found = part->region == place->region && end > address;
        if (*found || part->region > place->region)
            break;
        place->offset = next;
        place->address = part->region == place->region ? end : 0;
    }
    return place->has_failed ? CM_BAD_IMAGE : CM_OK;
}

/* Of a job: a part, or what of it lies at `from` and behind; else, and where a part cannot be
 * found, all of the region. */
static bool extent(void *context, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    struct cm_capsule_place *place = context;
    struct cm_capsule_part part;
    bool found;
    uint32_t end = place->capsule->regions[place->region].bytes;
    *start = from;
    if (place->capsule->has_work && find_part(place, from, &part, &found) == CM_OK) {
        if (!found)
            return false;
        *start = part.address > from ? part.address : from;
        end = part.address + part.data.count;
    }
    *bytes = end - *start;
    return *start < end;
}

static enum cm_status read(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    struct cm_capsule_place *place = context;
    const struct cm_capsule_input *input = &place->capsule->input;
    struct cm_capsule_part part;
    const uint32_t behind = address + count;
    memset(bytes, place->capsule->regions[place->region].erased, count);
    for (uint32_t at = address; at < behind;) {
        bool found;
        enum cm_status status = find_part(place, at, &part, &found);
        if (status || !found || part.address >= behind)
            return status;
        uint32_t first = part.address > at ? part.address : at,
                 end = part.address + part.data.count;
        end = end < behind ? end : behind;
        status = input->read(input->context, part.data.at + (first - part.address),
                             bytes + (first - address), end - first);
        if (status)
            return status;
        at = end;
    }
    return CM_OK;
}

struct cm_source cm_capsule_source(const struct cm_capsule *capsule, uint8_t region,
                                   struct cm_capsule_place *place)
{
    *place = (struct cm_capsule_place){
        .capsule = capsule, .region = region, .offset = capsule->first_part};
    return (struct cm_source){place, extent, read};
}
