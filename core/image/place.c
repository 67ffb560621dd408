/*
 * A linker's addresses and a part's regions.
 *
 *     |---- flash ----|.....|- eeprom -|...     base of each, and the gap behind it
 *     first           end  last
 *
 * Each address belongs to the region whose base is the next below it, so that an image that is too
 * large is found to be so, and is not silently cut.
 */
#include <coldmint/place.h>

int cm_region_at(const struct cm_family *family, const struct cm_part *part, uint32_t address)
{
    struct cm_region region;
    uint32_t base = 0;
    int found = -1;
    for (uint8_t i = 0; family->region(part, i, &region); i++) {
        if (region.bytes == 0 || region.base > address || (found >= 0 && region.base < base))
            continue;
        base = region.base;
        found = i;
    }
    return found;
}

/* The last address before the base of another region. */
static uint32_t last_of(const struct cm_family *family, const struct cm_part *part, uint32_t base)
{
    struct cm_region region;
    uint32_t last = UINT32_MAX;
    for (uint8_t i = 0; family->region(part, i, &region); i++) {
        if (region.bytes && region.base > base && region.base - 1 < last)
            last = region.base - 1;
    }
    return last;
}

static bool placed_extent(void *context, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    const struct cm_placed *placed = context;
    const struct cm_source *inner = &placed->inner;
    if (from > placed->last - placed->first ||
        !inner->extent(inner->context, placed->first + from, start, bytes) || *start > placed->last)
        return false;
    uint32_t room = placed->last - *start;
    if (*bytes - 1 > room)
        *bytes = room + 1;
    *start -= placed->first;
    return *bytes > 0;
}

static enum cm_status placed_read(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    const struct cm_placed *placed = context;
    return placed->inner.read(placed->inner.context, placed->first + address, bytes, count);
}

struct cm_source cm_place(struct cm_placed *placed, struct cm_source source,
                          const struct cm_family *family, const struct cm_part *part, uint8_t index)
{
    struct cm_region region = {.base = 0};
    uint32_t start, bytes;
    family->region(part, index, &region);
    *placed = (struct cm_placed){source, region.base, last_of(family, part, region.base)};
    struct cm_source shown = {placed, placed_extent, placed_read};
    return placed_extent(placed, 0, &start, &bytes) ? shown : source;
}
