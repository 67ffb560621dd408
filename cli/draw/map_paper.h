/* The map on paper. */
#ifndef CM_CLI_MAP_PAPER_H
#define CM_CLI_MAP_PAPER_H

#include "map.h"

/* Draws into a file, by its extension .svg, .pdf or .png. EXIT_GOOD, or the failure is told. */
enum exit_code map_on_paper(struct tool *tool, const struct map *map, const char *path);

#endif
