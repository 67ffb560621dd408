/*
 * Put: from what the chip holds to what is wanted, of chips that are erased as a whole.
 *
 * What is asked is checked first; then comes the plan (put_plan.c), which the caller hears; then
 * the work (put_execute.c); lock bits last.
 */
#include "pages.h"
#include <string.h>

/* --- checks before anything is read ------------------------------------------------------ */

static enum cm_status check_want(struct cm_put_work *work, const struct cm_want *want)
{
    struct cm_session *session = work->session;
    struct cm_region region;
    enum cm_status status = cm_check_want(session, want, &region, work->report);
    if (status)
        return status;
    if (region.page_bytes > session->workspace_bytes)
        return cm_fail(session, CM_NO_ROOM, CM_STEP_OPEN);
    if (region.page_bytes > work->page_bytes)
        work->page_bytes = region.page_bytes;
    return CM_OK;
}

static enum cm_status begin(struct cm_put_work *work, struct cm_session *session,
                            const struct cm_put *put, struct cm_report *report)
{
    memset(work, 0, sizeof *work);
    memset(report, 0, sizeof *report);
    work->session = session;
    work->put = put;
    work->wanted = work->of_data = cm_wanted_of(put);
    work->report = report;
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; i < put->want_count && !status; i++)
        status = check_want(work, &put->wants[i]);
    if (!status)
        status = cm_check_supply(session);
    if (status)
        return status;
    work->page = session->workspace;
    work->map = session->workspace + work->page_bytes;
    work->map_pages = (session->workspace_bytes - work->page_bytes) * 8;
    status = cm_guard_look(session, &work->guard);
    return status ? status : cm_put_access_settings(work, CM_ACCESS_READ);
}

static enum cm_status plan(struct cm_put_work *work, struct cm_session *session,
                           const struct cm_put *put, struct cm_report *report)
{
    uint32_t start = cm_now_us(session);
    enum cm_status status = begin(work, session, put, report);
    if (!status)
        status = cm_put_survey(work);
    report->survey_us = cm_now_us(session) - start;
    return status;
}

/* --- the job ----------------------------------------------------------------------------- */

static enum cm_status put_lock_back(struct cm_put_work *work)
{
    struct cm_session *session = work->session;
    uint8_t doubts = session->doubts;
    if (!work->report->unlocked)
        return CM_OK;
    enum cm_status status = cm_guard_restore(session, &work->guard);
    work->report->unlocked = status != CM_OK;
    work->report->relocked = status == CM_OK;
    bool doubtful = !status && (doubts != session->doubts);
    // locked, the chip can no longer be compared
    return doubtful ? cm_fail_at(session, CM_IN_DOUBT, CM_STEP_SETTINGS, "chip", 0) : status;
}

/* Lock bits last of all: behind them nothing can be compared any more. */
static enum cm_status execute_and_prove(struct cm_put_work *work)
{
    enum cm_status status = cm_put_execute(work);
    if (status && status != CM_IN_DOUBT)
        return status;
    struct cm_failure failure = work->session->failure;
    enum cm_status locked = put_lock_back(work);
    if (!locked)
        work->session->failure = failure;
    return locked ? locked : status;
}

enum cm_status cm_put_by_chip(struct cm_session *session, const struct cm_put *put,
                              struct cm_report *report, enum cm_put_aim aim)
{
    struct cm_put_work work;
    enum cm_status status = plan(&work, session, put, report);
    if (aim == CM_PUT_PLAN)
        return status;
    if (!status)
        status = execute_and_prove(&work);
    session->doubts = 0; // told, by what it ends with
    return status;
}
