/* What a region holds after a job that ended well: what it held before, by the backup, or blank
 * bytes; and the images over it. */
#ifndef CM_HOST_LEFT_H
#define CM_HOST_LEFT_H

#include <coldmint/host/capsule_file.h>

/* What a chip held before. */
struct before {
    struct cm_capsule_file *backup;
    bool was_blank; /* there is no backup, since it held nothing */
};

/* All bytes of region number `index`, to be freed; NULL: not known, or not enough memory.
 * `is_cleared`: it was blank before the images came. */
uint8_t *left_bytes(const struct before *before, bool is_cleared, uint8_t index,
                    const struct cm_region *region, const struct cm_want *wants, uint8_t count);

#endif
