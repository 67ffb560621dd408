/*
 * The plan of a put into a chip that is erased as a whole: what is there, and the cheapest way to
 * what is wanted. put.c does it.
 *
 * Survey. Each page that an image touches is compared with the chip, stopping at the first byte
 * that differs:
 *
 *     equal                      nothing to do
 *     differs, can be reached    it wants programming only: all bits that must be 1 are 1
 *     differs, cannot            the chip must be erased, and the survey is over: all is written
 *
 * A page whose first wanted byte reads blank is taken for blank; reading it out to be sure would
 * cost as much as the verify that follows anyway. If that shows the page was not blank after all,
 * the chip is erased then, by the same rules.
 *
 * The survey's findings are kept as one bit a page in what the workspace has beyond a page; pages
 * past that are compared again.
 */
#include "pages.h"
#include <string.h>

/* Reads the settings that a put does not change, or compares them with what they were. */
enum cm_status cm_put_access_settings(struct cm_put_work *work, enum cm_access_kind kind)
{
    enum { FUSES = CM_REGION_WRITABLE | CM_REGION_SETTINGS | CM_REGION_REWRITES };
    struct cm_region region;
    enum cm_status status = CM_OK;
    for (uint8_t i = 0, at = 0; !status && cm_region(work->session, i, &region); i++) {
        if ((region.traits & FUSES) != FUSES || region.bytes > sizeof work->settings - at)
            continue;
        struct cm_access access = {(uint8_t)kind, i, 0, {work->settings + at}, region.bytes};
        status = cm_access(work->session, &access);
        at = (uint8_t)(at + region.bytes);
    }
    return status;
}

/* --- survey ------------------------------------------------------------------------------ */

static bool is_blank_before(const struct cm_put_work *work, uint32_t address)
{
    for (uint32_t i = 0; i < address - work->place.page; i++) {
        if (work->page[i] != work->place.region.erased)
            return false;
    }
    return true;
}

enum cm_status cm_put_access(struct cm_put_work *work, enum cm_access_kind kind, uint32_t start,
                             uint32_t count)
{
    struct cm_access access = {
        (uint8_t)kind, work->place.index, start, {work->page + (start - work->place.page)}, count};
    return cm_access(work->session, &access);
}

/* Compares or tests all runs of a page from `from` on. */
enum cm_status cm_put_over_runs(struct cm_put_work *work, enum cm_access_kind kind, uint32_t from)
{
    uint32_t start, count;
    enum cm_status status = CM_OK;
    for (uint32_t at = from; !status && cm_run_in_page(work, at, &start, &count);
         at = start + count)
        status = cm_put_access(work, kind, start, count);
    return status;
}

/* What stands between the page and what is wanted of it. An erase is never decided on a single
 * reading. A page is taken for blank by its first byte, but not where each byte is written by
 * itself: there none is written that cannot become what is wanted. */
enum cm_status cm_put_examine(struct cm_put_work *work, enum cm_page_state *state)
{
    const struct cm_failure *failure = &work->session->failure;
    *state = CM_PAGE_EQUAL;
    enum cm_status status = cm_put_over_runs(work, CM_ACCESS_MATCH, work->place.page);
    if (status != CM_DIFFERS)
        return status;
    *state = CM_PAGE_REACHABLE;
    bool looks_blank = failure->found == work->place.region.erased;
    if ((work->place.region.traits & CM_REGION_REWRITES) ||
        (looks_blank && !(work->place.region.traits & CM_REGION_BYTE_COSTS) &&
         is_blank_before(work, failure->address)))
        return CM_OK;
    status = cm_put_over_runs(work, CM_ACCESS_FITS, failure->address);
    if (status == CM_DIFFERS)
        status = cm_put_over_runs(work, CM_ACCESS_FITS, failure->address);
    if (status != CM_DIFFERS)
        return status;
    *state = CM_PAGE_NEEDS_ERASE;
    return CM_OK;
}

enum cm_status cm_put_tell(struct cm_put_work *work, enum cm_step step, uint32_t done,
                           uint32_t total)
{
    struct cm_progress progress = {step, work->place.region.name, done, total};
    return cm_report_progress(work->session, work->put->progress, work->put->progress_context,
                              &progress);
}

/* Adds the cost of a page to the plan. */
static void count_cost(struct cm_put_work *work, enum cm_cost cost)
{
    work->report->predicted_us += work->session->family->cost_us(
        work->session, work->place.index, cost, work->place.region.page_bytes);
}

static void count_write(struct cm_put_work *work)
{
    work->report->pages_written++;
    work->work_bytes += work->place.region.page_bytes;
    count_cost(work, CM_COST_PROGRAM);
}

void cm_put_must_write(struct cm_put_work *work)
{
    if (work->ordinal < work->map_pages)
        work->map[work->ordinal / 8] |= (uint8_t)(1u << (work->ordinal % 8));
    count_write(work);
}

static enum cm_status survey_page(struct cm_put_work *work)
{
    enum cm_page_state state;
    enum cm_status status = cm_put_examine(work, &state);
    if (status)
        return status;
    work->report->pages++;
    if (state == CM_PAGE_EQUAL) {
        work->report->pages_equal++;
    } else {
        cm_put_must_write(work);
    }
    status = cm_put_tell(work, CM_STEP_COMPARE, work->place.end, work->place.region.bytes);
    work->must_erase = !status && state == CM_PAGE_NEEDS_ERASE;
    return work->must_erase ? CM_DIFFERS : status; // one is enough
}

/* Does a page need writing after an erase? */
bool cm_is_wanted_blank(const struct cm_put_work *work)
{
    return is_blank_before(work, work->place.end);
}

/* The plan after an erase, from the images alone. */
static enum cm_status count_page(struct cm_put_work *work)
{
    work->report->pages++;
    if (cm_outlives_erase(work) || !cm_is_wanted_blank(work)) {
        count_write(work);
        return CM_OK;
    }
    work->report->pages_blank++;
    count_cost(work, CM_COST_READ);
    return CM_OK;
}

/* Where reading is barred there is nothing to save: `unprotect` has given the contents up. */
static bool would_lose_data(struct cm_put_work *work, struct cm_region *region)
{
    const struct cm_guard *guard = &work->guard;
    uint32_t start, count;
    return !work->erased && !work->put->lose_data && !guard->bars_reading &&
           (guard->clears & CM_REGION_BIT(CM_REGION_DATA)) &&
           cm_region(work->session, CM_REGION_DATA, region) &&
           cm_next_unwanted(&work->wanted, CM_REGION_DATA, 0, region->bytes, &start, &count);
}

/* What the erase would take along will be carried over it, by what the kit names for that; or the
 * job ends here. */
static enum cm_status secure_data(struct cm_put_work *work)
{
    const struct cm_carrier *carrier = work->session->kit->carrier;
    struct cm_region region;
    if (!would_lose_data(work, &region))
        return CM_OK;
    enum cm_status status =
        cm_check_blank(work->session, CM_REGION_DATA, NULL, NULL); // spoils the map, void by now
    if (status != CM_DIFFERS)
        return status;
    if (carrier && carrier->plan(work, region.bytes))
        return CM_OK;
    return cm_fail_at(work->session, CM_REFUSED, CM_STEP_CARRY, region.name,
                      work->session->failure.address);
}

static void forget_plan(struct cm_put_work *work)
{
    struct cm_report *report = work->report;
    report->pages = report->pages_equal = report->pages_blank = report->pages_written =
        report->predicted_us = 0;
    work->work_bytes = 0;
    work->all_dirty = work->must_erase = false;
}

enum cm_status cm_put_plan_erase(struct cm_put_work *work)
{
    struct cm_report *report = work->report;
    forget_plan(work);
    work->phase = CM_PUT_COUNTS;
    work->all_dirty = work->must_erase = report->erase = true;
    struct cm_erase_unit unit;
    work->session->family->erase_unit(work->session->part, CM_REGION_MAIN, 0, &unit);
    report->predicted_us = unit.us;
    enum cm_status status = cm_each_page(work, count_page);
    return status ? status : secure_data(work);
}

/* Compares all pages. That an erase is needed counts only where the chip is still in step: else
 * everything is looked at again. */
static enum cm_status survey_pages(struct cm_put_work *work)
{
    for (;;) {
        uint16_t recoveries = work->session->recoveries;
        forget_plan(work);
        memset(work->map, 0, work->map_pages / 8);
        work->phase = CM_PUT_SURVEYS;
        enum cm_status status = cm_each_page(work, survey_page);
        if (!work->must_erase)
            return status;
        status = cm_prove_steadily(work->session);
        if (status || recoveries == work->session->recoveries)
            return status;
    }
}

enum cm_status cm_put_survey(struct cm_put_work *work)
{
    const struct cm_guard *guard = &work->guard;
    enum cm_status status = guard->bars_reading ? CM_OK : survey_pages(work);
    if (status)
        return status;
    bool must_write = guard->bars_reading || work->must_erase || work->report->pages_written > 0;
    if (must_write && guard->bars_writing) {
        if (!work->put->unprotect)
            return cm_fail_locked(work->session, guard);
        work->must_erase = true;
    }
    return work->must_erase ? cm_put_plan_erase(work) : CM_OK;
}
