/* Causes of failures that a family knows. */
#ifndef CM_CLI_WORDS_CAUSES_H
#define CM_CLI_WORDS_CAUSES_H

#include "tool.h"

/* The first cause in the family's table that fits what the session's failure looks like; false
 * where there is none. */
bool explain_by_family(const struct tool *tool, enum cm_status status, struct words *words);

#endif
