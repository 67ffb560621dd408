/* What a job wants of a region, as one piece of memory. */
#ifndef CM_HOST_FLAT_H
#define CM_HOST_FLAT_H

#include "job_inside.h"

struct flat {
    uint8_t *bytes;
    bool *present; /* of each: something is wanted there */
    uint32_t count;
};

/* All bytes of a region are absent; free it in any case. False: not enough memory. */
bool flat_begin(struct flat *flat, uint32_t count);
void flat_free(struct flat *flat);

/* Lays a source over it. What lies beyond its end is left out. False: the source cannot be read. */
bool flat_lay(struct flat *flat, const struct cm_source *source);

/* The same for all that a job wants of a region. */
bool flat_lay_wants(struct flat *flat, const struct cm_job *job, uint8_t region);

#endif
