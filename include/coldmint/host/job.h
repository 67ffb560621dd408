/**
 * A job on one chip, from files, recipes or a capsule to the state that they want: gathered,
 * checked, and done with everything that protects what is there.
 *
 *     struct cm_job *job = cm_job_new(&host, &session, "sim:node.yaml");
 *     if (cm_job_want_recipe(job, &recipe) && cm_job_run(job))
 *         ... the chip is what the recipe says; job->report ...
 *     cm_job_free(job);
 *
 * Before a change that would lose something the chip is kept; what an erase takes along is on disk
 * until it is back in the chip; protection that is lifted is in a file until it is back.
 */
#ifndef COLDMINT_HOST_JOB_H
#define COLDMINT_HOST_JOB_H

#include <coldmint/decls.h>
#include <coldmint/host/backup.h>
#include <coldmint/host/image_file.h>
#include <coldmint/host/recipe.h>
#include <coldmint/mint.h>
#include <coldmint/restore.h>

CM_DECLS_BEGIN

enum {
    CM_JOB_FILES = 8,
    CM_JOB_PARTS = 16,
    CM_JOB_WANTS = CM_JOB_PARTS + CM_CAPSULE_REGIONS + CM_RECIPE_UNIT + 1
};

/** What a job may do. A member that is zero is the careful choice. */
struct cm_job_options {
    /** Work out what would be done, and change nothing. */
    bool only_plan;
    /** A locked chip may be erased; a memory's protection is lifted for the job, and put back. */
    bool unprotect;
    /** A chip erase may clear the data region, instead of carrying it over. */
    bool lose_data;
    /** A boot loader in use is carried over a chip erase; or may be lost. */
    bool keep_boot, lose_boot;
    /** The chip may be changed without a backup. */
    bool no_backup;
    /** A program that does not look as if it were for this chip is written. */
    bool anyway;
    /** Names of settings whose fences are open, ended by NULL; or NULL. */
    const char *const *allow;
};

/** What a job tells on its way. The comment says which members are set. */
enum cm_note_kind {
    CM_NOTE_FILE,        /**< contents were taken: path, format, region, bytes, first, last */
    CM_NOTE_LEFT_OUT,    /**< bytes of the file are at addresses of other regions: path, bytes */
    CM_NOTE_JOINED,      /**< reset leads into the loader at `first`, its own jump is at `last` */
    CM_NOTE_KEPT_LOADER, /**< bytes, first */
    CM_NOTE_STEPS,       /**< steps; bytes: 1 where contents are wanted, too */
    CM_NOTE_PLAN,        /**< report; told again where an erase turns out to be needed later */
    CM_NOTE_LOCKED,      /**< only the settings can be kept in a backup */
    CM_NOTE_BACKUP,      /**< path, is_older; region: of the settings only */
    CM_NOTE_UNRECORDED,  /**< the change, or how it ended, cannot be put on record for `undo` */
    CM_NOTE_CARRIED,     /**< bytes of the data region are saved, for the erase: path */
    CM_NOTE_LIFTED,     /**< the registers (value: the first) are saved, and will be lifted: path */
    CM_NOTE_REST_BACK,  /**< what a job that was cut off had carried is back; bytes, path (gone) */
    CM_NOTE_GUARD_BACK, /**< protection that it had lifted is back; value: the first register; path
                           (gone) */
    CM_NOTE_MENDED,     /**< after bad contact: bytes beside the images were mended; pages */
    CM_NOTE_MAY_BE_HARMED, /**< a job failed in its writing: what no image has may have changed,
                              too; path: the backup from before, or NULL */
    CM_NOTE_UNHARMED,      /**< after bad contact: nothing beside the images had changed */
    /* what an earlier job that was cut off has left behind: path */
    CM_NOTE_LEFT_LIFTED, /**< the registers, while its protection is lifted */
    CM_NOTE_LEFT_DATA,   /**< the data region */
    CM_NOTE_LEFT_REST,   /**< what else was in an erased sector */
    CM_NOTE_LEFT_LOCK    /**< the lock byte that it had lifted: value */
};
struct cm_note {
    enum cm_note_kind kind;
    const char *path;
    const char *format;
    const char *region;
    uint32_t bytes, first, last, pages;
    uint8_t value;
    bool is_older;
    const struct cm_mint_steps *steps;
    const struct cm_report *report;
};
typedef void cm_told_fn(void *context, const struct cm_note *note);

struct job_unit;
struct overlay;

/** A job. Set the first group before anything is wanted; read the second after cm_job_run. */
struct cm_job {
    struct cm_job_options options;
    /** What makes the change, for its record: "mint". Set by cm_job_new to "job". */
    const char *verb;
    /** Told of what happens; or NULL. */
    cm_told_fn *told;
    /** Called about once a page; return false to cancel. Or NULL. */
    cm_progress_fn *progress;
    void *context;
    /** Called once, just before the first change; return false, with the host's error, to stop. Not
     * called where nothing is to be changed. Or NULL. */
    bool (*begins)(void *context);
    void *begins_context;
    /** What is known of the unit, where a recipe gives each its own; or NULL. */
    const struct cm_unit_facts *unit_facts;
    /** The board's crystal or oscillator in Hz; 0: unknown. */
    uint32_t board_hz;

    struct cm_mint_report report;
    /** Time that a plan predicts, in microseconds. */
    uint32_t predicted_us;
    /** There was something to do. */
    bool has_work;
    /** The backup from before. */
    struct cm_backup backup;
    /** The settings alone, from before they were changed, until `backup` has them. */
    struct cm_backup settings_kept;
    /** After a failure: what was carried, and what was lifted, is in these; empty: nothing was. Of
     * rests of sectors `carried_path` is a pattern. */
    char carried_path[CM_FILE_PATH], lifted_path[CM_FILE_PATH];
    bool is_rest;
    /** After a failure: the job had written settings, and the chip no longer answers. */
    bool is_deaf;

    /* What is wanted. */
    struct cm_host *host;
    struct cm_session *session;
    const char *port_name;
    struct cm_image_file files[CM_JOB_FILES];
    struct cm_image_part parts[CM_JOB_PARTS];
    struct cm_want wants[CM_JOB_WANTS];
    const char *want_names[CM_JOB_WANTS]; /**< of each: a file, or NULL */
    uint8_t file_count, part_count, want_count;
    bool has_settings;
    uint8_t settings[CM_SETTING_BYTES];

    /* The library's own. */
    char recipe_paths[2 * CM_RECIPE_FILES][CM_FILE_PATH];
    struct cm_capsule_file capsule;
    struct cm_restore restore;
    struct cm_mint_steps steps;
    struct cm_boot boot;
    uint16_t boot_vector[2]; /**< of a loader that the word at reset leads to: that, and the one
                                before it; zero: it is in a boot section */
    struct cm_memory kept_boot, marker;
    struct cm_image joined;
    void *joined_memory;
    struct cm_change change;
    char lock_path[CM_FILE_PATH];
    unsigned carried_files;
    struct job_unit *unit;
    bool is_number_read, had_number; /**< the number that the unit had before could be read */
    uint64_t number_before;
    struct overlay *block;
    bool is_backed_up, has_begun;
    bool has_failed; /**< a hook has: the failure is the host's */
    bool writes;     /**< all before the first write is done: from here on contents change */
};

/** A new job on the session's chip. NULL: not enough memory. The port's name tells files of one
 * port from those of another; all three outlive the job. */
struct cm_job *cm_job_new(struct cm_host *host, struct cm_session *session, const char *port_name);
void cm_job_free(struct cm_job *job); /**< NULL is allowed */

/**
 * Wants what a file holds for a region. An ELF file may hold nothing for it: then nothing is added,
 * and `added` is false. A file is read once, however often it is asked for. `path` outlives the
 * job. Errors: CM_ERROR_FILE_..., CM_ERROR_TOO_MANY_FILES.
 */
CM_MUST_CHECK bool cm_job_want_file(struct cm_job *job, const char *path, uint8_t region,
                                    bool *added);

/** The same for what a linker's file holds for a region beside those that were taken; a file that
 * counts from 0 holds nothing else. */
CM_MUST_CHECK bool cm_job_want_rest(struct cm_job *job, const char *path, uint8_t region,
                                    bool *added);

/** Tells (CM_NOTE_LEFT_OUT) what of a linker's file was not taken. */
void cm_job_tell_left_out(struct cm_job *job, const char *path);

/** The setting bytes that the files carry, over those in `bytes`; `found`: they carry any. */
CM_MUST_CHECK bool cm_job_settings_in_files(struct cm_job *job, uint8_t *bytes, bool *found);

/**
 * Wants these setting bytes (CM_SETTING_BYTES). `now`: as they are. Refused where a fence of
 * `kinds` (CM_ALL_FENCES) is in the way. Errors: CM_ERROR_FENCE, CM_ERROR_BROWN_OUT,
 * CM_ERROR_SETTING_NAME.
 */
CM_MUST_CHECK bool cm_job_want_settings(struct cm_job *job, const uint8_t *now,
                                        const uint8_t *wanted, unsigned kinds);

/** Opens a capsule (job->capsule), which needs no chip yet. `path` outlives the job. Errors: as
 * cm_capsule_file_load. */
CM_MUST_CHECK bool cm_job_open_capsule(struct cm_job *job, const char *path);

/** Wants all that the opened capsule holds, a backup. Errors: CM_ERROR_CAPSULE_OTHER_CHIP,
 * CM_ERROR_CAPSULE_JOB, CM_ERROR_FENCE, CM_ERROR_SESSION. */
CM_MUST_CHECK bool cm_job_want_capsule(struct cm_job *job);

/** Wants what the opened capsule says of a job: contents, settings, lock bits. Errors: the same,
 * and CM_ERROR_CAPSULE_NO_JOB, CM_ERROR_SUPPLY, CM_ERROR_OTHER_BOARD. */
CM_MUST_CHECK bool cm_job_want_work(struct cm_job *job);

/**
 * Wants what a recipe says: files, loader and application joined, marker, settings, lock. The chip
 * is the recipe's: cm_identify with its name. `recipe` outlives the job. Errors: CM_ERROR_...
 */
CM_MUST_CHECK bool cm_job_want_recipe(struct cm_job *job, const struct cm_recipe *recipe);

/** The same without settings: for who only compares. */
CM_MUST_CHECK bool cm_job_want_contents(struct cm_job *job, const struct cm_recipe *recipe);

/**
 * The number that the unit on the wires has already, where the recipe puts it: every place that has
 * the number tells the same one, read twice. False: it is blank, or cannot be read, or they differ.
 * Nothing is changed. To be called when the chip is identified.
 */
bool cm_job_find_number(struct cm_job *job, const struct cm_recipe *recipe, uint64_t *number);

/** No two wants are for the same byte, and programs are for this chip (unless `anyway`). Errors:
 * CM_ERROR_OVERLAP, CM_ERROR_MISFIT. Part of cm_job_run. */
CM_MUST_CHECK bool cm_job_check(struct cm_job *job);

/** Does the job, or plans it. Errors: CM_ERROR_SESSION (the session's failure has the rest),
 * CM_ERROR_BOOT_..., CM_ERROR_OVERLAP, CM_ERROR_MISFIT, and those of files. */
CM_MUST_CHECK bool cm_job_run(struct cm_job *job);

/** Tells what earlier jobs on such a chip behind this port, that were cut off, have carried and not
 * put back. */
void cm_job_tell_left_behind(struct cm_job *job);

/** Tells of protection that such jobs have lifted, where it is not back yet: cm_job_run puts it
 * back when it ends well. Reads the registers. */
void cm_job_tell_left_lifted(struct cm_job *job);

/** A job's `lifting` for other calls (cm_blank with protection, cm_guard_lift): saves the registers
 * in a file; the context is the job. And the end: the file goes when they are back. */
CM_MUST_CHECK enum cm_status cm_job_save_lifted(void *job, const struct cm_guard *guard);
void cm_job_lifted_end(struct cm_job *job, bool are_back);

/** The registers are as this file has them: if it is one of those, it is not needed any more. NULL:
 * protection was set by hand, and shall stay so; of several files each may be another chip's, and
 * none goes. */
void cm_job_forget_lifted(struct cm_job *job, const char *path);

/** Keeps the chip before a change of another kind than cm_job_run's, and begins its record
 * (job->change): all of it, or its settings only. `settings`: as they were, or NULL. */
CM_MUST_CHECK bool cm_job_keep_before(struct cm_job *job, bool memories, const uint8_t *settings);

/** Ends the record of such a change. */
void cm_job_end_record(struct cm_job *job, const struct cm_change_end *how);

CM_DECLS_END

#endif
