/* What a job of the host library tells on its way, in words. */
#ifndef CM_CLI_NOTES_H
#define CM_CLI_NOTES_H

#include "tool.h"

/* A cm_told_fn on the tool. */
void tell_note(void *tool, const struct cm_note *note);

/* An earlier command was cut off before it could put a memory's registers back: says so, and how.
 */
void tell_left_lifted(struct tool *tool);

/* "12 of 36 pages". Returns `text`. */
const char *pages_text(uint32_t count, uint32_t all, char *text);

/* "3 erases of 12 KiB in all", "chip erase". Returns `text`. */
const char *erased_text(const struct tool *tool, const struct cm_report *report, char *text);

#endif
