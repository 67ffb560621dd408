/* The map, drawn. */
#ifndef CM_CLI_DRAW_MAP_DRAW_H
#define CM_CLI_DRAW_MAP_DRAW_H

#include "map.h"

/* Draws it where --map says: a file .svg, .pdf or .png, or "-" for the terminal. */
enum exit_code map_draw(struct tool *tool, const struct map_options *given, const struct map *map);

#endif
