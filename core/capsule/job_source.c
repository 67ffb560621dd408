/*
 * A region of a job as a source: what its parts hold, and nothing else.
 *
 * A place has the digest that the next part must have: from the region at first, then from each
 * part before. A part is proven in the same reading that hands out its bytes, so that these are
 * what was sealed, whatever the input has become since the capsule was opened.
 */
#include "reader.h"
#include "stream.h"
#include <string.h>

/* Reads the part at which a place stands, with the bytes of a window. Nothing of it is true before
 * its digest is. */
static bool is_proven(struct cm_capsule_place *place, const struct cm_capsule_window *window)
{
    const struct cm_capsule_link *here = &place->here;
    struct cm_capsule_part part;
    struct cm_wire_field field;
    struct cm_stream stream;
    struct cm_sha256 sum;
    uint8_t digest[CM_SHA256_BYTES];
    cm_stream_begin(&stream, &place->capsule->input, here->offset);
    struct cm_wire wire = {.input = &stream.input, .at = here->offset, .end = stream.input.bytes};
    if (!cm_wire_next(&wire, &field) || !cm_wire_is_bytes(&field, CAPSULE_PARTS))
        return false;
    cm_sha256_begin(&sum);
    stream.sum = &sum;
    if (!cm_capsule_read_part(&wire, &field, window, &part) ||
        cm_stream_end_sum(&stream, wire.at, digest) != CM_OK ||
        memcmp(digest, here->digest, CM_LINK_DIGEST) != 0)
        return false;
    place->next = part.next;
    place->next.offset = wire.at;
    return place->knows_next = true;
}

/* Once it has failed, it always does. */
static bool read_here(struct cm_capsule_place *place, const struct cm_capsule_window *window)
{
    place->has_failed = place->has_failed || !is_proven(place, window);
    return !place->has_failed;
}

static uint32_t end_of(const struct cm_capsule_link *link)
{
    return link->address + link->bytes;
}

/* To the mark, or to the first part where that is not far enough. */
static void go_back(struct cm_capsule_place *place, uint32_t address)
{
    bool is_near = address >= place->mark_passed;
    place->here = is_near ? place->mark : place->capsule->regions[place->region].first;
    place->passed = is_near ? place->mark_passed : 0;
    place->knows_next = false;
}

/* Goes to the first part that ends behind an address; `here.bytes` is 0 where there is none.
 * Whoever looks at a sector several times goes back to its beginning each time, and finds the mark
 * near it.
 */
static bool seek(struct cm_capsule_place *place, uint32_t address)
{
    const struct cm_capsule_link *here = &place->here;
    const bool is_back = address < place->passed;
    if (is_back)
        go_back(place, address);
    while (!place->has_failed && here->bytes && end_of(here) <= address) {
        const struct cm_capsule_window nothing = {here->address, here->address, NULL};
        if (!place->knows_next && !read_here(place, &nothing))
            break;
        place->passed = end_of(here);
        place->here = place->next;
        place->knows_next = false;
    }
    if (is_back) {
        place->mark = *here;
        place->mark_passed = place->passed;
    }
    return !place->has_failed;
}

/* The first part that ends behind an address; NULL: it cannot be told. What the next one is, is
 * known without going there: who asks for it is often not yet done with this one. */
static const struct cm_capsule_link *find(struct cm_capsule_place *place, uint32_t address)
{
    const struct cm_capsule_link *here = &place->here, *next = &place->next;
    bool is_next = place->knows_next && here->bytes && address >= end_of(here) &&
                   (!next->bytes || address < end_of(next));
    if (is_next)
        return next;
    return seek(place, address) ? here : NULL;
}

/* A part, or what of it lies at `from` and behind; where a part is not what it must be, all of the
 * region, which cannot be read then. */
static bool extent(void *context, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    struct cm_capsule_place *place = context;
    const struct cm_capsule_link *part = find(place, from);
    uint32_t end = part ? end_of(part) : place->capsule->regions[place->region].bytes;
    *start = part && part->address > from ? part->address : from;
    *bytes = end - *start;
    return part ? part->bytes != 0 : *start < end;
}

static enum cm_status read(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    struct cm_capsule_place *place = context;
    const struct cm_capsule_link *here = &place->here;
    const uint32_t behind = address + count;
    memset(bytes, place->capsule->regions[place->region].erased, count);
    for (uint32_t at = address; at < behind;) {
        if (!seek(place, at))
            return CM_BAD_IMAGE;
        if (!here->bytes || here->address >= behind)
            break;
        const uint32_t first = here->address > at ? here->address : at;
        at = end_of(here) < behind ? end_of(here) : behind;
        const struct cm_capsule_window window = {first, at, bytes + (first - address)};
        if (!read_here(place, &window))
            return CM_BAD_IMAGE;
    }
    return CM_OK;
}

struct cm_source cm_capsule_job_source(const struct cm_capsule *capsule, uint8_t region,
                                       struct cm_capsule_place *place)
{
    const struct cm_capsule_link *first = &capsule->regions[region].first;
    *place = (struct cm_capsule_place){
        .capsule = capsule, .region = region, .here = *first, .mark = *first};
    return (struct cm_source){place, extent, read};
}
