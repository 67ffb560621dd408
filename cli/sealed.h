/* A sealed capsule in words, and a unit made from one. */
#ifndef CM_CLI_SEALED_H
#define CM_CLI_SEALED_H

#include "job.h"

struct sealed_options {
    char *maker; /* file of the key that must have signed it; or NULL */
    int yes;
};

/* Is it signed with that key? EXIT_GOOD also where `maker` is NULL. */
enum exit_code sealed_check_maker(struct tool *tool, const struct cm_capsule_file *file,
                                  const char *maker);

/* Says what a capsule is for, who signed it, and how many units it allows; with `details` also its
 * contents and settings. */
void sealed_say(struct tool *tool, const struct cm_capsule_file *file, bool details);

/* Makes one unit: says what it is for, checks the board, asks once, and does it. */
enum exit_code sealed_mint(struct tool *tool, const char *path, const struct job_options *given,
                           const struct sealed_options *own);

#endif
