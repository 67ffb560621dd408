/* A folder of recipes and capsules, its index read from the files themselves. */
#ifndef CM_CLI_CATALOGUE_H
#define CM_CLI_CATALOGUE_H

#include "recipe.h"

/*
 * Lists what fits the chip that is found, newest first; or, where a name is given, finds the recipe
 * that it means for this board: its path is in `path` (4096 bytes), and EXIT_GOOD. A list leaves
 * `path` empty. Opens the session.
 */
enum exit_code catalogue_choose(struct tool *tool, const char *folder, const char *name,
                                char *path);

/* Reads the board's marker where a recipe says it is, and compares. EXIT_WRONG_CHIP where it is
 * another board's. */
enum exit_code catalogue_check_marker(struct tool *tool, const struct recipe *recipe);

extern char *catalogue_board, *catalogue_version;

#endif
