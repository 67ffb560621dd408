/* What the files of a job share. */
#ifndef CM_HOST_JOB_INSIDE_H
#define CM_HOST_JOB_INSIDE_H

#include "inside.h"
#include <coldmint/host/job.h>

/* Tells the caller. */
void job_tell(const struct cm_job *job, const struct cm_note *note);

/* A cm_progress_fn on the job: the caller's, where there is one. */
bool job_progress(void *job, const struct cm_progress *progress);

/* A symbol's address as its linker counts; false: the file is no ELF file, or has none. */
bool host_elf_symbol(struct cm_host *host, const char *path, const char *name, uint32_t *address);

/* May the settings become what the job wants, as the recipe and the caller allow it? */
bool recipe_check_fences(struct cm_job *job, const struct cm_recipe *recipe, const uint8_t *now,
                         uint16_t mv);

/* --- what is carried over an erase (carry.c) --------------------------------------------- */

/* A struct cm_carry's `saved`: on disk before the erase. The context is the job. */
enum cm_status carry_save(void *job, uint8_t region, uint32_t address, const uint8_t *bytes,
                          uint32_t count);
/* The same for a lock byte that an erase will lift. */
bool carry_save_lock(struct cm_job *job, const uint8_t *settings);
/* It is back in the chip, and the files go; or it is not, and `carried_path` says where it is. */
void carry_end(struct cm_job *job, bool is_back);
/* Files of this kind that jobs on such a chip have left, or are about to use. */
struct paths carry_left_behind(struct cm_job *job, const char *what);
/* What a job that was cut off had carried beside its images goes back into its chip, or is told.
 * False: the chip fails. (carry_back.c) */
bool carry_put_back(struct cm_job *job);

/* Protection that a job which was cut off had lifted is put back. (lifted.c) */
enum cm_status lifted_put_back(struct cm_job *job);

/* --- after doubt (doubt.c) --------------------------------------------------------------- */

/* After CM_IN_DOUBT: compares all of the chip with the backup from before, and mends it. CM_OK; or
 * CM_IN_DOUBT where there is none; or what came in between. */
enum cm_status job_settle_doubt(struct cm_job *job);

#endif
