/* The list of the verbs: the one place where they are named. */
#ifndef CM_CLI_LIST_H
#define CM_CLI_LIST_H

#include "tool.h"

extern const struct verb *const verbs[]; /* ended by NULL */

/* The verb of this name, or NULL (options.c). */
const struct verb *find_verb(const char *name);

#endif
