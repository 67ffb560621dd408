/* Is a board what a recipe makes? */
#ifndef CM_CLI_MATCH_RECIPE_H
#define CM_CLI_MATCH_RECIPE_H

#include "tool.h"

/* Compares all that a recipe writes; `number`: the unit's, where it gives each one, or NULL. */
enum exit_code match_recipe(struct tool *tool, const char *path, const char *number);

#endif
