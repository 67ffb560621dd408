/* A folder to hand on: a capsule, a page to read, and a script that does it. */
#ifndef CM_CLI_FOR_OTHERS_H
#define CM_CLI_FOR_OTHERS_H

#include "tool.h"

/* Makes the folder, which must not be there, with everything but the capsule; `capsule` gets the
 * path for that. */
enum exit_code for_others_folder(struct tool *tool, const char *folder,
                                 const struct cm_recipe *recipe, char *capsule, size_t room);
enum exit_code for_others_write(struct tool *tool, const char *folder,
                                const struct cm_recipe *recipe);

#endif
