/* A memory's protection as people see it; and the registers kept in a file while they are lifted.
 */
#ifndef CM_CLI_GUARD_H
#define CM_CLI_GUARD_H

#include "tool.h"

/* Says which area is protected, as text and as a bar of the chip, and what holds the registers; and
 * into the answer, as "guard". */
void guard_say(struct tool *tool, const struct cm_guard *guard);

/* "64 KiB at the upper end, 0x3F0000 to 0x3FFFFF". Returns `text`. */
const char *guard_area_text(const struct cm_guard *guard, uint32_t chip_bytes, char *text,
                            size_t room);

/* The registers did not take what was written. */
enum exit_code guard_fail_held(struct tool *tool, const struct cm_guard *guard);

/* Saves the registers before they are lifted; the file goes when they are back. A struct cm_put's
 * `lifting`; the context is the tool. */
enum cm_status guard_save(void *tool, const struct cm_guard *guard);
void guard_saved_end(struct tool *tool, bool are_back);

/* An earlier command was cut off before it could put the registers back: says so, and how. */
void guard_tell_left_behind(struct tool *tool);

/* The registers are as this file has them: if it is one of those, it is not needed any more. */
void guard_forget(struct tool *tool, const char *path);

#endif
