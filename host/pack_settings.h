/* The settings of a recipe as a capsule has them. */
#ifndef CM_HOST_PACK_SETTINGS_H
#define CM_HOST_PACK_SETTINGS_H

#include "job_inside.h"

struct pack_settings {
    struct cm_work_setting list[CM_SETTING_BYTES]; /* `region` is the chip's */
    uint8_t count;
    bool closes;      /* the chip ends access with them */
    uint32_t then_hz; /* its clock once the early ones are written; 0: not known */
};

/* Works them out, for a chip as it is delivered. The job has no port. */
bool pack_settings(struct cm_job *job, const struct cm_recipe *recipe, struct pack_settings *out);

#endif
