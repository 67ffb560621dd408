/*
 * A put into a chip that is erased as a whole, as planned: erase if need be, with the data region
 * carried over; write the pages, and read each back in the same batch. After doubt everything is
 * looked at once more.
 */
#include "pages.h"
#include <string.h>

enum { ROUNDS = 5 }; // of looking again after doubt

/* --- execute ----------------------------------------------------------------------------- */

enum cm_status cm_put_show_progress(struct cm_put_work *work)
{
    uint32_t done = work->bytes_done < work->work_bytes ? work->bytes_done : work->work_bytes;
    return cm_put_tell(work, CM_STEP_PROGRAM, done, work->work_bytes);
}

/* A page taken for blank was not, if a bit is 0 that must be 1; a bit that stays 1 is worn, and no
 * erase helps. */
static bool would_erase_help(const struct cm_put_work *work)
{
    const struct cm_failure *failure = &work->session->failure;
    return !(work->place.region.traits & CM_REGION_REWRITES) &&
           (~failure->found & failure->expected);
}

/* What differs behind a write is a write that failed. */
static enum cm_status as_write(struct cm_put_work *work, enum cm_status status)
{
    return status == CM_DIFFERS ? cm_refine(work->session, CM_WRITE_FAILED) : status;
}

/* Writes a run; where its verify fails, and the bits can be reached, writes once more before giving
 * up. */
static enum cm_status write_again(struct cm_put_work *work, uint32_t start, uint32_t count)
{
    enum cm_status status = cm_put_access(work, CM_ACCESS_PROGRAM, start, count);
    if (status != CM_WRITE_FAILED)
        return status;
    status = work->place.region.traits & CM_REGION_REWRITES
                 ? CM_OK
                 : cm_put_access(work, CM_ACCESS_FITS, start, count);
    if (status == CM_OK)
        return cm_put_access(work, CM_ACCESS_PROGRAM, start, count);
    work->session->failure.step = CM_STEP_VERIFY;
    return as_write(work, status);
}

/* A page that was not blank, and reads as it must after being written over, was written in its
 * place: that is no doubt. */
static enum cm_status write_run(struct cm_put_work *work, uint32_t start, uint32_t count)
{
    uint8_t doubts = work->session->doubts;
    enum cm_status status = write_again(work, start, count);
    if (status == CM_WRITE_FAILED && would_erase_help(work) &&
        !(work->session->doubts & CM_DOUBT_CONTACT))
        work->session->doubts = doubts;
    return status;
}

/* Where each byte takes its own time, only those that differ are written. */
static enum cm_status write_differing(struct cm_put_work *work, uint32_t start, uint32_t count)
{
    uint32_t end = start + count;
    for (;;) {
        enum cm_status status = cm_put_access(work, CM_ACCESS_MATCH, start, end - start);
        if (status != CM_DIFFERS)
            return status;
        start = work->session->failure.address;
        status = write_again(work, start, 1); // it was looked at: what goes wrong is doubt
        if (status || ++start == end)
            return status;
    }
}

static enum cm_status write_page(struct cm_put_work *work)
{
    bool by_bytes = work->place.region.traits & CM_REGION_BYTE_COSTS;
    uint32_t start, count;
    enum cm_status status = CM_OK;
    for (uint32_t at = work->place.page; !status && cm_run_in_page(work, at, &start, &count);
         at = start + count) {
        status = by_bytes ? write_differing(work, start, count) : write_run(work, start, count);
        work->bytes_done += status ? 0 : count;
    }
    if (status)
        return status;
    work->pages_done++;
    return cm_put_show_progress(work);
}

/* A page that the erase has cleared. */
static enum cm_status fill_erased_page(struct cm_put_work *work)
{
    if (!cm_is_wanted_blank(work))
        return write_page(work);
    enum cm_status status = CM_DIFFERS;
    for (uint8_t i = 0; i < 2 && status == CM_DIFFERS; i++)
        status = cm_put_over_runs(work, CM_ACCESS_MATCH, work->place.page);
    return as_write(work, status);
}

static enum cm_status execute_page(struct cm_put_work *work)
{
    if (work->all_dirty && !cm_outlives_erase(work))
        return fill_erased_page(work);
    if (!work->all_dirty && work->ordinal < work->map_pages)
        return work->map[work->ordinal / 8] & (1u << (work->ordinal % 8)) ? write_page(work)
                                                                          : CM_OK;
    enum cm_page_state state;
    enum cm_status status = cm_put_examine(work, &state);
    if (status || state == CM_PAGE_EQUAL)
        return status;
    return write_page(work); // if it needs an erase after all, its verify will say so
}

/* Reads the carry, erases, and forgets the survey. From here on the chip is not what it was. */
static enum cm_status erase_chip(struct cm_put_work *work)
{
    enum cm_status status = CM_OK;
    if (work->report->carried && !work->secured) {
        status = work->session->kit->carrier->read(work);
        work->carried_in_doubt = work->session->doubts || work->report->doubted;
        work->secured = status == CM_OK;
    }
    if (!status)
        status = cm_put_tell(work, CM_STEP_ERASE, 0, 1);
    if (status)
        return status;
    struct cm_guard *guard = &work->guard;
    work->report->lock = guard->registers[0];
    work->report->unlocked = guard->registers[0] != guard->open;
    status = cm_erase_steadily(work->session);
    if (status)
        return status;
    work->erased = true;
    work->must_erase = false;
    guard->bars_reading = guard->bars_writing = 0;
    return CM_OK;
}

static enum cm_status execute(struct cm_put_work *work)
{
    enum cm_status status = work->must_erase ? erase_chip(work) : CM_OK;
    work->phase = CM_PUT_EXECUTES;
    return status ? status : cm_each_page(work, execute_page);
}

/* The caller hears the plan, and may leave it at that; once more only where an erase is new in it.
 */
static enum cm_status execute_if_agreed(struct cm_put_work *work)
{
    const struct cm_put *put = work->put;
    uint8_t asked = work->must_erase ? 2 : 1;
    if (asked > work->agreed && put->planned && !put->planned(put->planned_context, work->report))
        return cm_fail(work->session, CM_STOPPED, CM_STEP_OPEN);
    if (asked > work->agreed)
        work->agreed = asked;
    uint32_t start = cm_now_us(work->session);
    enum cm_status status = execute(work);
    work->report->actual_us += cm_now_us(work->session) - start;
    return status;
}

/* --- after doubt ------------------------------------------------------------------------- */

/* What no image wants, and no erase has cleared: nobody knows what it was. */
static enum cm_status check_rest(struct cm_put_work *work)
{
    struct cm_page_place *place = &work->place;
    enum cm_status status = cm_put_access_settings(work, CM_ACCESS_MATCH);
    if (status)
        return status == CM_DIFFERS ? cm_refine(work->session, CM_IN_DOUBT) : status;
    for (place->index = 0; cm_region(work->session, place->index, &place->region); place->index++) {
        bool is_carried = place->index == CM_REGION_DATA && work->report->carried;
        bool is_known = is_carried ? !work->carried_in_doubt : cm_is_cleared(work);
        if (!is_known && !(place->region.traits & CM_REGION_SETTINGS))
            status = cm_doubt_unwanted(work->session, &work->wanted, place->index, work->report);
    }
    return status;
}

/* Everything is compared once more, from a chip that has proven who it is. What differs is planned
 * anew. */
static enum cm_status look_again(struct cm_put_work *work)
{
    work->session->doubts = 0;
    work->looks_again = work->report->doubted = true;
    return cm_put_survey(work);
}

enum cm_status cm_put_execute(struct cm_put_work *work)
{
    struct cm_report *report = work->report;
    uint32_t pages = report->pages, equal = report->pages_equal, predicted = report->predicted_us;
    enum cm_status status = CM_OK;
    bool is_done = false;
    for (uint8_t i = 0; i < ROUNDS && !status && !is_done; i++) {
        status = execute_if_agreed(work);
        if (!status) // out of step, the last reading may have come from another place
            status = cm_prove_steadily(work->session);
        if (status == CM_WRITE_FAILED && !report->erase && would_erase_help(work)) {
            status = cm_put_plan_erase(work);
        } else if (!status && work->session->doubts) {
            status = look_again(work);
            is_done = !work->must_erase && !report->pages_written && !work->session->doubts;
        } else {
            is_done = true;
        }
    }
    if (!status && is_done && report->doubted)
        status = check_rest(work);
    bool is_right = !status || status == CM_IN_DOUBT;
    if (is_right && (!is_done || work->session->doubts)) // it does not become better
        status = cm_fail(work->session, CM_CONTACT_LOST, CM_STEP_VERIFY);
    if (report->doubted) {
        report->pages = pages;
        report->pages_equal = equal;
        report->predicted_us = predicted;
    }
    report->pages_written = work->pages_done;
    report->bytes_written = work->bytes_done;
    return status;
}
