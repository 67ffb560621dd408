/* Settings as people see them: shown in words, changed by name, fenced. Shared by look, tune and
 * mint. */
#ifndef CM_CLI_SETTINGS_H
#define CM_CLI_SETTINGS_H

#include "tool.h"

enum { ALL_FENCES = ~0u >> 1 };

/* The setting bytes of a new part, unlocked. */
void settings_as_delivered(const struct cm_part *part, uint8_t *bytes);

/* Lists every setting of a part in words, with the bytes; and into the answer, as "settings" and
 * "setting_bytes". */
void settings_show(struct tool *tool, const struct cm_part *part, const uint8_t *bytes);

/* Shows what changes, in words and bytes, with the consequences. */
void settings_show_change(struct tool *tool, const struct cm_part *part, const uint8_t *before,
                          const uint8_t *after);

/* Makes the choice "clock=internal-8MHz" in the bytes; `where` begins the message if there is no
 * such choice. */
enum exit_code settings_choose(struct tool *tool, const struct cm_part *part, uint8_t *bytes,
                               const char *choice, const char *where, enum exit_code code);

/*
 * The place of a choice's setting among the part's: choices are made in this order, since a
 * start-up time means something for its clock only. Those that name no setting come last.
 */
enum { RANKS = 64 };
uint8_t settings_rank(const struct cm_part *part, const uint8_t *bytes, const char *choice);

/* The choice of a setting behind `after`, of those that its bits can hold; NULL: the first, and
 * behind the last. */
const struct cm_choice *settings_next_choice(const struct cm_setting *setting,
                                             const struct cm_choice *after);

/* Lists the choices of one setting. */
enum exit_code settings_show_choices(struct tool *tool, const struct cm_part *part,
                                     const uint8_t *bytes, const char *name);

/*
 * Refuses a change that could lock us out, unless `allowed` (ended by NULL, or NULL) names the
 * setting. supply_mv: 0 is unknown. kinds: 1 << enum cm_fence_kind of those that count. */
enum exit_code settings_check_fences(struct tool *tool, const struct cm_part *part,
                                     const uint8_t *before, const uint8_t *after,
                                     const char *const *allowed, uint16_t supply_mv,
                                     unsigned kinds);

/* The names behind --allow must be settings: a slip in one must not look like a permission. */
enum exit_code settings_check_allowed(struct tool *tool, const struct cm_part *part);

/* "8 MHz", "128 kHz", or "the board's" for 0. */
const char *clock_text(uint32_t hz, char *text, size_t bytes);

#endif
