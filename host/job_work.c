/*
 * What a sealed capsule wants of a chip: it is for this chip and this board, and its settings are
 * those that its maker has chosen and checked.
 */
#include "job_inside.h"
#include <coldmint/host/settings.h>
#include <string.h>

static bool fail_supply(struct cm_job *job, uint16_t mv)
{
    const struct cm_capsule_work *work = &job->capsule.capsule.work;
    struct cm_error *error = host_error(job->host, CM_ERROR_SUPPLY, job->capsule.path);
    error->found_mv = mv;
    error->expected_mv = work->supply_from_mv;
    error->limit_mv = work->supply_to_mv;
    return false;
}

static bool fail_board(struct cm_job *job, const uint8_t *marker)
{
    const struct cm_capsule *capsule = &job->capsule.capsule;
    const struct cm_capsule_work *work = &capsule->work;
    struct cm_error *error = host_error(job->host, CM_ERROR_OTHER_BOARD, job->capsule.path);
    error->address = work->marker_at;
    HOST_COPY(error->key, capsule->regions[work->marker_region].name);
    for (uint8_t i = 0; i < work->marker_bytes; i++)
        error->text[i] = marker[i] >= ' ' && marker[i] <= '~' ? (char)marker[i] : '?';
    error->text[work->marker_bytes] = '\0';
    snprintf(error->detail, sizeof error->detail, "board %s",
             work->board[0] ? work->board : "of its own");
    return false;
}

static bool want_contents(struct cm_job *job)
{
    struct cm_work_check check;
    enum cm_status status =
        cm_work_begin(job->session, &job->capsule.capsule, &job->restore, &check);
    if (check.fault == CM_WORK_SUPPLY)
        return fail_supply(job, check.mv);
    if (check.fault == CM_WORK_OTHER_BOARD)
        return fail_board(job, check.marker);
    if (status)
        return host_fail_session(job->host, status);
    for (uint8_t i = 0; i < job->restore.mint.put.want_count; i++) {
        job->want_names[job->want_count] = job->capsule.path;
        job->wants[job->want_count++] = job->restore.wants[i];
    }
    return true;
}

/* The maker has looked at the fences, and says with `closes` that the chip may be closed. */
static bool want_settings(struct cm_job *job)
{
    const struct cm_capsule_work *work = &job->capsule.capsule.work;
    const unsigned kinds =
        1u << CM_FENCE_NOT_HERE | (work->closes ? 0 : 1u << CM_FENCE_ENDS_ACCESS);
    uint8_t now[CM_SETTING_BYTES], wanted[CM_SETTING_BYTES];
    if (!work->setting_count)
        return true;
    enum cm_status status = cm_read_settings(job->session, now);
    if (status)
        return host_fail_session(job->host, status);
    memcpy(wanted, now, sizeof wanted);
    cm_capsule_file_chosen(&job->capsule, job->session->kit, job->session->part, wanted, NULL);
    return cm_job_want_settings(job, now, wanted, kinds);
}

bool cm_job_want_work(struct cm_job *job)
{
    const struct cm_capsule *capsule = &job->capsule.capsule;
    if (!capsule->has_work)
        return host_fail(job->host, CM_ERROR_CAPSULE_NO_JOB, job->capsule.path);
    if (!cm_capsule_file_is_for(job->host, &job->capsule, job->session))
        return false;
    job->options.unprotect |= capsule->work.unprotect;
    job->options.lose_data |= capsule->work.lose_data;
    job->board_hz = capsule->work.board_hz;
    return want_contents(job) && want_settings(job);
}
