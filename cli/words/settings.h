/* Settings as people see them: shown in words. Shared by look, tune and mint. */
#ifndef CM_CLI_WORDS_SETTINGS_H
#define CM_CLI_WORDS_SETTINGS_H

#include "tool.h"

/* Lists every setting of a part in words, with the bytes; and into the answer, as "settings" and
 * "setting_bytes". */
void settings_show(struct tool *tool, const struct cm_part *part, const uint8_t *bytes);

/* Shows what changes, in words and bytes, with the consequences. */
void settings_show_change(struct tool *tool, const struct cm_part *part, const uint8_t *before,
                          const uint8_t *after);

/* The choice of a setting behind `after`, of those that its bits can hold; NULL: the first, and
 * behind the last. */
const struct cm_choice *settings_next_choice(const struct cm_setting *setting,
                                             const struct cm_choice *after);

/* Lists the choices of one setting. */
enum exit_code settings_show_choices(struct tool *tool, const struct cm_part *part,
                                     const uint8_t *bytes, const char *name);

/* What a word in the text of a failure stands for (host.c): {fence}, {choices} and the like. */
void settings_place_text(const struct tool *tool, const struct cm_error *error, const char *word,
                         char *text, size_t room);

#endif
