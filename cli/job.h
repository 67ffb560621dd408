/* A job of the host library as a verb does it: options, waiting for contact, and the words for how
 * it ended. put, mint and undo share it. */
#ifndef CM_CLI_JOB_H
#define CM_CLI_JOB_H

#include "tool.h"

/* The options of verbs that do a job, as popt fills them in. */
struct job_options {
    int anyway, unprotect, lose_data, only_plan, wait_seconds, keep_boot, lose_boot, no_backup;
    char **allow; /* settings whose fences are open; ended by NULL */
};

/* Rows of a verb's table, for its own struct job_options. */
#define PLAN_OPTION(given, words)                                                                  \
    {                                                                                              \
        "plan", 0, POPT_ARG_NONE, &(given).only_plan, 0, words, NULL                               \
    }
#define UNPROTECT_WORDS                                                                            \
    "a locked chip may be erased, its lock byte is put back; a memory's protection is lifted for " \
    "the job and put back"
#define ALLOW_WORDS "make a choice of this setting that is refused otherwise"
#define UNPROTECT_OPTION(given, words)                                                             \
    {                                                                                              \
        "unprotect", 0, POPT_ARG_NONE, &(given).unprotect, 0, words, NULL                          \
    }
#define NO_BACKUP_OPTION(given)                                                                    \
    {                                                                                              \
        "no-backup", 0, POPT_ARG_NONE, &(given).no_backup, 0,                                      \
            "change the chip without a backup of what it holds", NULL                              \
    }
#define ANYWAY_OPTION(given)                                                                       \
    {                                                                                              \
        "anyway", 0, POPT_ARG_NONE, &(given).anyway, 0,                                            \
            "write a program even if it does not look as if it were for this chip", NULL           \
    }
#define KEEP_BOOT_OPTION(given)                                                                    \
    {                                                                                              \
        "keep-boot", 0, POPT_ARG_NONE, &(given).keep_boot, 0,                                      \
            "save a boot loader in use before a chip erase, and write it back", NULL               \
    }
#define LOSE_BOOT_OPTION(given)                                                                    \
    {                                                                                              \
        "lose-boot", 0, POPT_ARG_NONE, &(given).lose_boot, 0,                                      \
            "allow a chip erase to clear a boot loader in use", NULL                               \
    }
#define LOSE_DATA_OPTION(given)                                                                    \
    {                                                                                              \
        "lose-data", 0, POPT_ARG_NONE, &(given).lose_data, 0,                                      \
            "allow a chip erase to clear the eeprom, instead of writing it back", NULL             \
    }
#define WAIT_OPTION(given)                                                                         \
    {                                                                                              \
        "wait", 0, POPT_ARG_INT, &(given).wait_seconds, 0,                                         \
            "if contact is lost, wait up to this long for it, then go on", "SECONDS"               \
    }
#define ALLOW_OPTION(given, words)                                                                 \
    {                                                                                              \
        "allow", 0, POPT_ARG_ARGV, &(given).allow, 0, words, "SETTING"                             \
    }

/* Options that make no sense, or not together. */
enum exit_code job_check_options(struct tool *tool, const struct job_options *given);

/* The chip must be the recipe's, and its board's clock and supply are as it says. Told where --chip
 * names another. */
enum exit_code job_take_chip(struct tool *tool, const struct cm_recipe *recipe);

/* A job on the tool's session with these options, for this verb; NULL: the failure is told. */
struct cm_job *job_new(struct tool *tool, const struct job_options *given);

/* Runs it and says what it did. EXIT_GOOD, or the failure is told. */
enum exit_code job_run(struct tool *tool, struct cm_job *job, const struct job_options *given);

/* "strike-node.hex and bell-7.hex": what the job's files are called. */
void job_names(const struct cm_job *job, char *names, size_t bytes);

/* How a plan of a unit ends, "strike node": good where nothing would change, else EXIT_DIFFERS. */
enum exit_code job_end_plan(struct tool *tool, const struct cm_job *job, const char *what);

/* The last line of a job that put files. */
void job_say_verdict(struct tool *tool, const struct cm_job *job);

#endif
