/* Bytes that take the place of what a job's images have there. */
#ifndef CM_HOST_OVERLAY_H
#define CM_HOST_OVERLAY_H

#include "job_inside.h"

enum { OVERLAY_PIECES = CM_RECIPE_UNIT };

struct overlay_piece {
    uint8_t region;
    uint32_t at, count;
    const uint8_t *bytes;
    const char *name;
};

/* An image without what the pieces fill. */
struct overlay_rest {
    const struct overlay *overlay;
    struct cm_source inner;
    uint8_t region;
};

struct overlay {
    struct overlay_piece pieces[OVERLAY_PIECES];
    uint8_t count;
    struct overlay_rest rests[CM_JOB_WANTS];
    struct cm_memory memories[OVERLAY_PIECES];
};

/* The piece that fills a byte, or NULL. */
const struct overlay_piece *overlay_at(const struct overlay *overlay, uint8_t region,
                                       uint32_t address);

/* Leaves the pieces' bytes out of what is wanted so far; and wants the pieces. */
void overlay_leave_out(struct cm_job *job, struct overlay *overlay);
bool overlay_want(struct cm_job *job, struct overlay *overlay);

#endif
