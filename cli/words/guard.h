/* A memory's protection as people see it. */
#ifndef CM_CLI_WORDS_GUARD_H
#define CM_CLI_WORDS_GUARD_H

#include "tool.h"

/* Says which area is protected, as text and as a bar of the chip, and what holds the registers; and
 * into the answer, as "guard". */
void guard_say(struct tool *tool, const struct cm_guard *guard);

/* "64 KiB at the upper end, 0x3F0000 to 0x3FFFFF". Returns `text`. */
const char *guard_area_text(const struct cm_guard *guard, uint32_t chip_bytes, char *text,
                            size_t room);

/* The registers did not take what was written. */
enum exit_code guard_fail_held(struct tool *tool, const struct cm_guard *guard);

#endif
