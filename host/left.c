/*
 * What a region holds after a job that ended well. A job changes nothing but what is wanted, so
 * this need not be read from the chip.
 */
#include "left.h"
#include <stdlib.h>
#include <string.h>

/* What it held before, by the backup. False: that does not say. */
static bool read_backup(struct cm_capsule_file *backup, const struct cm_region *region,
                        uint8_t *bytes)
{
    int index = cm_capsule_region(&backup->capsule, region->name);
    if (index < 0 || backup->capsule.regions[index].bytes != region->bytes)
        return false;
    struct cm_source source =
        cm_capsule_source(&backup->capsule, (uint8_t)index, &backup->places[index]);
    return source.read(source.context, 0, bytes, region->bytes) == CM_OK;
}

static bool lay_over(const struct cm_source *source, uint32_t room, uint8_t *bytes)
{
    uint32_t start, count;
    for (uint32_t at = 0; source->extent(source->context, at, &start, &count); at = start + count) {
        if (start >= room || count > room - start ||
            source->read(source->context, start, bytes + start, count) != CM_OK)
            return false;
        if (start + count < start)
            break;
    }
    return true;
}

uint8_t *left_bytes(const struct before *before, bool is_cleared, uint8_t index,
                    const struct cm_region *region, const struct cm_want *wants, uint8_t count)
{
    uint8_t *bytes = malloc(region->bytes);
    bool known = bytes != NULL;
    if (known)
        memset(bytes, region->erased, region->bytes);
    if (known && !is_cleared && !before->was_blank)
        known = read_backup(before->backup, region, bytes);
    for (uint8_t i = 0; known && i < count; i++) {
        if (wants[i].region == index)
            known = lay_over(&wants[i].source, region->bytes, bytes);
    }
    if (known)
        return bytes;
    free(bytes);
    return NULL;
}
