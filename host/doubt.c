/*
 * After doubt. Contact was bad for a moment, and a chip obeys what it misreads: what no image wants
 * may have changed. Where there is a backup from before, all of the chip is compared with it, and
 * mended; where there is none, the range is named.
 */
#include "job_inside.h"
#include "left.h"
#include <stdlib.h>
#include <string.h>

/* The regions of a job's chip as they shall be, whole. */
struct whole {
    struct cm_memory memories[2];
    struct cm_want wants[2];
    uint8_t count;
};

/* Is a chip of this family erased as a whole? */
static bool is_one_unit(const struct cm_session *session)
{
    return !session->family->blocks;
}

/* One region, unless it is not in doubt. False: what it shall hold is not known. */
static bool add_region(struct cm_job *job, const struct before *before,
                       const struct cm_guard *guard, uint8_t index, struct whole *whole)
{
    const struct cm_report *report = &job->report.put;
    struct cm_region region;
    bool is_lost = index == CM_REGION_DATA && report->erase && !report->carried &&
                   (guard->clears & CM_REGION_BIT(index));
    if (!cm_region(job->session, index, &region) || !region.bytes ||
        (region.traits & CM_REGION_SETTINGS) || is_lost)
        return true;
    bool is_cleared = is_one_unit(job->session) && index == CM_REGION_MAIN && report->erase;
    uint8_t *bytes = left_bytes(before, is_cleared, index, &region, job->wants, job->want_count);
    if (!bytes)
        return false;
    struct cm_memory *memory = &whole->memories[whole->count];
    *memory = (struct cm_memory){bytes, region.bytes, 0};
    whole->wants[whole->count++] = (struct cm_want){index, cm_memory_source(memory)};
    return true;
}

static enum cm_status put_whole(struct cm_job *job, const struct before *before,
                                struct cm_report *report)
{
    struct whole whole = {.count = 0};
    struct cm_guard guard;
    enum cm_status status = cm_guard_look(job->session, &guard);
    bool known = true;
    for (uint8_t i = CM_REGION_MAIN; !status && known && i <= CM_REGION_DATA; i++)
        known = add_region(job, before, &guard, i, &whole);
    const struct cm_put put = {.wants = whole.wants,
                               .want_count = whole.count,
                               .unprotect = job->options.unprotect,
                               .progress = job_progress,
                               .progress_context = job};
    if (!status)
        status = known ? cm_put(job->session, &put, report) : CM_IN_DOUBT;
    for (uint8_t i = 0; i < whole.count; i++)
        free((void *)(uintptr_t)whole.memories[i].bytes);
    return status;
}

enum cm_status job_settle_doubt(struct cm_job *job)
{
    struct cm_session *session = job->session;
    struct cm_failure failure = session->failure;
    struct cm_error error = job->host->error;
    struct cm_capsule_file backup = {.path = NULL};
    struct cm_report report;
    const struct cm_backup *kept = &job->backup;
    bool has_backup = kept->is_blank || (kept->has_memories && kept->path[0] &&
                                         cm_capsule_file_load(job->host, kept->path, &backup));
    enum cm_status status = CM_IN_DOUBT;
    if (has_backup && !failure.has_bytes) // a setting that has changed is named
        status = put_whole(job, &(struct before){&backup, kept->is_blank}, &report);
    cm_capsule_file_free(&backup);
    job->host->error = error;
    if (status == CM_IN_DOUBT)
        session->failure = failure;
    if (!status)
        job_tell(job,
                 &(struct cm_note){.kind = report.pages_written ? CM_NOTE_MENDED : CM_NOTE_UNHARMED,
                                   .pages = report.pages_written});
    return status;
}
