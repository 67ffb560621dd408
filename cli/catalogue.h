/* A folder of recipes and capsules, listed for people. */
#ifndef CM_CLI_CATALOGUE_H
#define CM_CLI_CATALOGUE_H

#include "tool.h"

/*
 * Lists what fits the chip that is found, newest first; or, where a title is given, finds the
 * recipe that it means for this board: its path is in `path` (CM_FILE_PATH). A list leaves `path`
 * empty. Opens the session.
 */
enum exit_code catalogue_choose(struct tool *tool, const char *folder,
                                const struct cm_catalogue_choice *choice, char *path);

#endif
