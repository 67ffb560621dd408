/* A job on one chip: images and wanted settings, gathered, checked, done and told. put and mint
 * share it. */
#ifndef CM_CLI_JOB_H
#define CM_CLI_JOB_H

#include "capsule.h"
#include "tool.h"
#include <coldmint/restore.h>

enum { MOST_FILES = 8, MOST_WANTS = MOST_FILES + 2 };

struct job {
    struct tool *tool;
    struct image_file files[MOST_FILES];
    struct cm_want wants[MOST_WANTS];
    const char *want_names[MOST_WANTS]; /* file of each want */
    uint8_t file_count, want_count;
    struct capsule_file capsule;
    struct cm_restore restore;  /* what the capsule holds */
    struct cm_mint_steps steps; /* settings as they were, and as they shall be */
    uint8_t settings[CM_SETTING_BYTES];
    bool has_settings; /* settings are wanted, too */
    uint32_t board_hz;
    struct cm_boot boot;
    struct cm_memory kept_boot;
    struct cm_memory marker; /* what tells the board */
    char carried_path[4096], lock_path[4096];
    unsigned carried_files; /* of a memory: rests of sectors */
    enum exit_code code;    /* why the plan was not agreed to */
    bool backed_up;
};

/* Loads a file for a region and adds it to the job; a linker's file may hold nothing for it. `list`
 * gets it for --json. */
enum exit_code job_add_file(struct job *job, const char *path, uint8_t region, json_t *list);

/* Refuses a program that cannot be for this chip, unless --anyway. */
enum exit_code job_check_fit(struct job *job);

/* Has a linker's file bytes at the addresses of other regions, beside those that were loaded? */
bool job_file_has_more(const struct image_file *file);

/* What a linker's file that was loaded for another region holds for this one, if anything. */
enum exit_code job_add_rest(struct job *job, const char *path, uint8_t region, json_t *list);

/* Options of jobs that make no sense, or not together. */
enum exit_code job_check_options(struct tool *tool);

/* Two files for the same bytes are a mistake. */
enum exit_code job_check_overlap(struct job *job);

/* Does it, or plans it with --plan. The last line is the caller's. EXIT_GOOD, or the failure is
 * told. */
enum exit_code job_run(struct job *job);
void job_free(struct job *job);

/* After CM_IN_DOUBT: compares all of the chip with the backup from before, and mends it. CM_OK; or
 * CM_IN_DOUBT where there is none; or what came in between. */
enum cm_status job_settle_doubt(struct job *job, const struct cm_report *report);

/* "strike-node.hex and bell-7.hex" */
void job_names(const struct job *job, char *names, size_t bytes);

/* The EEPROM carried over an erase: saved to a file before, and the file removed after. A struct
 * cm_carry's `saved`. */
enum cm_status carry_save(void *job, uint8_t region, uint32_t address, const uint8_t *bytes,
                          uint32_t count);
enum exit_code
carry_save_lock(struct job *job,
                const uint8_t *settings); /* the same for a lock byte that an erase will lift */
void carry_end(struct job *job, enum cm_status status);
void carry_tell_left_behind(struct tool *tool);

#endif
