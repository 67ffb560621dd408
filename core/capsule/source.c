/*
 * A region of a capsule as a source. Of a backup it is here: whole, and bytes that no part holds
 * are erased. Of a job it is in job_source.c.
 */
#include "reader.h"
#include <string.h>

/* What a part says beside its data, and where these lie. */
static bool read_frame(const struct cm_wire *wire, const struct cm_wire_field *message,
                       struct cm_capsule_part *part, struct cm_wire_field *data)
{
    struct cm_wire inner = cm_wire_inner(wire, message);
    struct cm_wire_field field;
    memset(part, 0, sizeof *part);
    memset(data, 0, sizeof *data);
    while (cm_wire_next(&inner, &field)) {
        if (cm_wire_is_bytes(&field, PART_DATA))
            *data = field;
        else if (!cm_wire_take(&inner, &field, cm_capsule_part_rows, PART_CRC32, part))
            return false;
    }
    part->count = data->count;
    return cm_wire_is_whole(&inner);
}

/* The next part at or after the offset of a tag, and the offset behind it. `found` says whether
 * there is one; that the input fails, or has changed under us, is no end: CM_BAD_IMAGE. */
static enum cm_status next_part(const struct cm_capsule_input *input, uint32_t *offset,
                                struct cm_capsule_part *part, struct cm_wire_field *data,
                                bool *found)
{
    struct cm_wire wire = {.input = input, .at = *offset, .end = input->bytes - CRC_FIELD_BYTES};
    struct cm_wire_field field;
    *found = false;
    while (cm_wire_next(&wire, &field)) {
        if (!cm_wire_is_bytes(&field, CAPSULE_PARTS))
            continue;
        *found = read_frame(&wire, &field, part, data);
        *offset = wire.at;
        return *found ? CM_OK : CM_BAD_IMAGE;
    }
    return cm_wire_is_whole(&wire) ? CM_OK : CM_BAD_IMAGE;
}

/* The first part of the place's region that ends behind an address; the place then stands before
 * it. Once that has failed, it always does. */
static enum cm_status find_part(struct cm_capsule_place *place, uint32_t address,
                                struct cm_capsule_part *part, struct cm_wire_field *data,
                                bool *found)
{
    const struct cm_capsule *capsule = place->capsule;
    uint32_t *offset = &place->here.offset;
    if (address < place->passed || !*offset) {
        *offset = capsule->first_part;
        place->passed = 0;
    }
    *found = false;
    while (*offset && !place->has_failed) {
        uint32_t next = *offset;
        place->has_failed = next_part(&capsule->input, &next, part, data, found) != CM_OK;
        if (place->has_failed || !*found)
            break;
        uint32_t end = part->address + part->count;
        *found = part->region == place->region && end > address;
        if (*found || part->region > place->region)
            break;
        *offset = next;
        place->passed = part->region == place->region ? end : 0;
    }
    return place->has_failed ? CM_BAD_IMAGE : CM_OK;
}

static bool extent(void *context, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    const struct cm_capsule_place *place = context;
    const uint32_t end = place->capsule->regions[place->region].bytes;
    *start = from;
    *bytes = end - from;
    return from < end;
}

static enum cm_status read(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    struct cm_capsule_place *place = context;
    const struct cm_capsule_input *input = &place->capsule->input;
    struct cm_capsule_part part;
    struct cm_wire_field data;
    const uint32_t behind = address + count;
    memset(bytes, place->capsule->regions[place->region].erased, count);
    for (uint32_t at = address; at < behind;) {
        bool found;
        enum cm_status status = find_part(place, at, &part, &data, &found);
        if (status || !found || part.address >= behind)
            return status;
        uint32_t first = part.address > at ? part.address : at, end = part.address + part.count;
        end = end < behind ? end : behind;
        status = input->read(input->context, data.at + (first - part.address),
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
    if (capsule->has_work)
        return cm_capsule_job_source(capsule, region, place);
    *place = (struct cm_capsule_place){
        .capsule = capsule, .region = region, .here = {.offset = capsule->first_part}};
    return (struct cm_source){place, extent, read};
}
