/* What goes into the parts of a sealed job, and the links that chain them. */
#ifndef CM_HOST_PACK_PIECES_H
#define CM_HOST_PACK_PIECES_H

#include "flat.h"
#include <coldmint/capsule.h>

/* The parts of a region, in ascending order, with the link to each. */
struct pack_pieces {
    struct flat flat;
    struct cm_capsule_piece *list;
    struct cm_capsule_link *links;
    size_t count;
};

/* What a job wants of a region of the chip; `number` is the capsule's for it. Begins with zeros;
 * free it in any case. */
bool pack_pieces_make(struct pack_pieces *pieces, const struct cm_job *job, uint8_t region,
                      uint8_t number);
void pack_pieces_free(struct pack_pieces *pieces);

#endif
