/* Capsules in words. */
#ifndef CM_CLI_WORDS_CAPSULE_H
#define CM_CLI_WORDS_CAPSULE_H

#include "tool.h"

/* Says which chip it is of, when and by what it was written. */
void capsule_say(struct tool *tool, const struct cm_capsule_file *file);

/* Tells where contents repeat themselves, as those of a smaller part than its name says do. */
void repeats_say(struct tool *tool, uint32_t every);

#endif
