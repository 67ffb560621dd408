/* What each unit gets of its own, as the files of the host library share it. */
#ifndef CM_HOST_UNIT_H
#define CM_HOST_UNIT_H

#include "job_inside.h"

/* Is it a memory, a place, a format and a value? */
bool unit_entry_is_good(const char *text);

/* Puts the recipe's entries in place of what the job's images have there. */
bool unit_want(struct cm_job *job, const struct cm_recipe *recipe);
void unit_free(struct job_unit *unit);

#endif
