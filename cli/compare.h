/* Chip and file, compared. */
#ifndef CM_CLI_COMPARE_H
#define CM_CLI_COMPARE_H

#include "draw/map.h"
#include "tool.h"

/* Compares a region with a source; the differences are shown, and on the map where one is wanted
 * (else NULL). The failure is left in the session. */
enum cm_status compare_source(struct tool *tool, const struct cm_source *source, int region,
                              struct map *map, struct cm_report *report);

/* Tells how that ended, where it is not good; `name` of a region, or NULL. */
enum exit_code tell_difference(struct tool *tool, enum cm_status status, const char *name,
                               const struct cm_report *report);

/* Compares setting bytes, `now` of the chip and those wanted; `chosen`: which bits of each count
 * (NULL: all). `before` is what came of the memories: a difference there is the one that is told.
 */
enum exit_code compare_settings(struct tool *tool, const uint8_t *now, const uint8_t *its,
                                const uint8_t *chosen, enum exit_code before);

#endif
