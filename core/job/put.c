/*
 * Put: from what the chip holds to what is wanted.
 *
 * Survey. Each page that an image touches is compared with the chip, stopping at the first byte that differs:
 *
 *     equal                      nothing to do
 *     differs, can be reached    it wants programming only: all bits that must be 1 are 1
 *     differs, cannot            the chip must be erased, and the survey is over: everything will be written
 *
 * A page whose first wanted byte reads blank is taken for blank; reading it out to be sure would cost as much as the verify
 * that follows anyway. If that shows the page was not blank after all, the chip is erased then, by the same rules.
 *
 * Execute. Erase if need be, with the data region carried over; write the pages; read each back in the same batch; lock bits
 * last. The survey's findings are kept as one bit a page in what the workspace has beyond a page; pages past that are compared
 * again.
 */
#include "pages.h"
#include <string.h>

enum { ROUNDS = 5 }; // of looking again after doubt

enum page_state { PAGE_EQUAL, PAGE_REACHABLE, PAGE_NEEDS_ERASE };

/* --- checks before anything is read ---------------------------------------------------------------------------- */

static enum cm_status check_want(struct cm_put_work *work, const struct cm_want *want)
{
    struct cm_session *session = work->session;
    struct cm_region region;
    uint32_t start, count;
    if (!cm_region(session, want->region, &region) || !(region.traits & CM_REGION_WRITABLE))
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_OPEN);
    for (uint32_t at = 0; want->source.extent(want->source.context, at, &start, &count); at = start + count) {
        if (!cm_extent_fits(&region, start, count))
            return cm_fail_beyond(session, CM_STEP_OPEN, &region, start);
        work->report->bytes += count;
    }
    if (region.page_bytes > session->workspace_bytes)
        return cm_fail(session, CM_NO_ROOM, CM_STEP_OPEN);
    if (region.page_bytes > work->page_bytes)
        work->page_bytes = region.page_bytes;
    return CM_OK;
}

/* Reads the settings that a put does not change, or compares them with what they were. */
static enum cm_status access_settings(struct cm_put_work *work, enum cm_access_kind kind)
{
    enum { OF_INTEREST = CM_REGION_WRITABLE | CM_REGION_SETTINGS | CM_REGION_ERASED };
    struct cm_region region;
    enum cm_status status = CM_OK;
    for (uint8_t i = 0, at = 0; !status && cm_region(work->session, i, &region); i++) {
        bool is_fuse = (region.traits & OF_INTEREST) == (CM_REGION_WRITABLE | CM_REGION_SETTINGS);
        if (!is_fuse || region.bytes > sizeof work->settings - at)
            continue;
        struct cm_access access = {kind, i, 0, work->settings + at, region.bytes};
        status = cm_access(work->session, &access);
        at = (uint8_t)(at + region.bytes);
    }
    return status;
}

static enum cm_status begin(struct cm_put_work *work, struct cm_session *session, const struct cm_put *put,
                            struct cm_report *report)
{
    memset(work, 0, sizeof *work);
    memset(report, 0, sizeof *report);
    work->session = session;
    work->put = put;
    work->report = report;
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; i < put->want_count && !status; i++)
        status = check_want(work, &put->wants[i]);
    if (!status)
        status = cm_check_supply(session);
    if (status)
        return status;
    uint32_t map_bytes = session->workspace_bytes - work->page_bytes;
    work->page = session->workspace;
    work->map = session->workspace + work->page_bytes;
    work->map_pages = map_bytes * 8;
    memset(work->map, 0, map_bytes);
    status = cm_protection_steadily(session, &work->protection);
    return status ? status : access_settings(work, CM_ACCESS_READ);
}

/* --- survey ---------------------------------------------------------------------------------------------------- */

static bool is_blank_before(const struct cm_put_work *work, uint32_t address)
{
    for (uint32_t i = 0; i < address - work->place.page; i++) {
        if (work->page[i] != work->place.region.erased)
            return false;
    }
    return true;
}

static enum cm_status access_page(struct cm_put_work *work, enum cm_access_kind kind, uint32_t start, uint32_t count)
{
    struct cm_access access = {kind, work->place.index, start,
                               work->page + (start - work->place.page), count};
    return cm_access(work->session, &access);
}

/* Compares or tests all runs of a page from `from` on. */
static enum cm_status over_runs(struct cm_put_work *work, enum cm_access_kind kind, uint32_t from)
{
    uint32_t start, count;
    enum cm_status status = CM_OK;
    for (uint32_t at = from; !status && cm_run_in_page(work, at, &start, &count); at = start + count)
        status = access_page(work, kind, start, count);
    return status;
}

/* What stands between the page and what is wanted of it. An erase is never decided on a single reading. */
static enum cm_status examine(struct cm_put_work *work, enum page_state *state)
{
    const struct cm_failure *failure = &work->session->failure;
    *state = PAGE_EQUAL;
    enum cm_status status = over_runs(work, CM_ACCESS_MATCH, work->place.page);
    if (status != CM_DIFFERS)
        return status;
    *state = PAGE_REACHABLE;
    bool reachable = (failure->found & failure->expected) == failure->expected;
    if ((work->place.region.traits & CM_REGION_REWRITES) || (reachable && is_blank_before(work, failure->address)))
        return CM_OK;
    status = over_runs(work, CM_ACCESS_FITS, failure->address);
    if (status == CM_DIFFERS)
        status = over_runs(work, CM_ACCESS_FITS, failure->address);
    if (status != CM_DIFFERS)
        return status;
    *state = PAGE_NEEDS_ERASE;
    return CM_OK;
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

static enum cm_status survey_page(struct cm_put_work *work)
{
    enum page_state state;
    enum cm_status status = examine(work, &state);
    if (status)
        return status;
    work->report->pages++;
    if (state == PAGE_EQUAL) {
        work->report->pages_equal++;
    } else {
        if (work->ordinal < work->map_pages)
            work->map[work->ordinal / 8] |= (uint8_t)(1u << (work->ordinal % 8));
        count_write(work);
    }
    struct cm_progress progress = {CM_STEP_COMPARE, work->place.region.name, work->place.end, work->place.region.bytes};
    status = cm_report_progress(work->session, work->put->progress, work->put->progress_context, &progress);
    work->must_erase = !status && state == PAGE_NEEDS_ERASE;
    return work->must_erase ? CM_DIFFERS : status; // one is enough
}

/* Does a page need writing after an erase? */
static bool is_wanted_blank(const struct cm_put_work *work)
{
    return is_blank_before(work, work->place.end);
}

static bool outlives_erase(const struct cm_put_work *work)
{
    return !(work->place.region.traits & CM_REGION_ERASED) ||
           (work->place.index == CM_REGION_DATA && work->protection.keeps_data);
}

/* The plan after an erase, from the images alone. */
static enum cm_status count_page(struct cm_put_work *work)
{
    work->report->pages++;
    if (outlives_erase(work) || !is_wanted_blank(work)) {
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
    const struct cm_protection *protection = &work->protection;
    uint32_t start, count;
    return !work->erased && !work->put->lose_data && !protection->keeps_data &&
           !protection->bars_reading && cm_region(work->session, CM_REGION_DATA, region) &&
           region->bytes && (region->traits & CM_REGION_ERASED) &&
           cm_next_unwanted(work->put, CM_REGION_DATA, 0, region->bytes, &start, &count);
}

/* What the erase would take along will be carried over it; or the job ends here. */
static enum cm_status secure_data(struct cm_put_work *work)
{
    const struct cm_carry *carry = &work->put->carry;
    struct cm_region region;
    if (!would_lose_data(work, &region))
        return CM_OK;
    enum cm_status status = cm_check_blank(work->session, CM_REGION_DATA, NULL, NULL); // spoils the map, void by now
    if (status != CM_DIFFERS)
        return status;
    if (!carry->bytes || carry->size < region.bytes || !cm_may_carry(work->put))
        return cm_fail_at(work->session, CM_REFUSED, CM_STEP_CARRY, region.name, work->session->failure.address);
    work->carried = (struct cm_memory){.bytes = carry->bytes, .count = region.bytes};
    work->carry_want = (struct cm_want){CM_REGION_DATA, cm_memory_source(&work->carried)};
    work->carry = (struct cm_put){.wants = &work->carry_want, .want_count = 1};
    work->report->carried = true;
    // read twice before the erase, and looked at once more after it; how many of its pages hold data is not known yet
    work->report->predicted_us += 3 * work->session->family->cost_us(work->session, CM_REGION_DATA, CM_COST_READ, region.bytes);
    return CM_OK;
}

static enum cm_status plan_with_erase(struct cm_put_work *work)
{
    struct cm_report *report = work->report;
    report->pages = report->pages_equal = report->pages_blank = report->pages_written = 0;
    work->work_bytes = 0;
    work->all_dirty = work->must_erase = report->erase = true;
    report->predicted_us = work->session->family->cost_us(work->session, CM_REGION_MAIN, CM_COST_ERASE, 0);
    enum cm_status status = cm_each_page(work, count_page);
    return status ? status : secure_data(work);
}

/* Compares all pages. That an erase is needed counts only where the chip is still in step: else
 * everything is looked at again. */
static enum cm_status survey_pages(struct cm_put_work *work)
{
    struct cm_report *report = work->report;
    for (;;) {
        uint16_t recoveries = work->session->recoveries;
        report->pages = report->pages_equal = report->pages_blank = report->pages_written =
            report->predicted_us = 0;
        work->work_bytes = 0;
        work->all_dirty = work->must_erase = false;
        memset(work->map, 0, work->map_pages / 8);
        enum cm_status status = cm_each_page(work, survey_page);
        if (!work->must_erase)
            return status;
        status = cm_prove_steadily(work->session);
        if (status || recoveries == work->session->recoveries)
            return status;
    }
}

static enum cm_status survey(struct cm_put_work *work)
{
    const struct cm_protection *protection = &work->protection;
    enum cm_status status = protection->bars_reading ? CM_OK : survey_pages(work);
    if (status)
        return status;
    bool must_write =
        protection->bars_reading || work->must_erase || work->report->pages_written > 0;
    if (must_write && protection->bars_writing) {
        if (!work->put->unprotect)
            return cm_fail_byte(work->session, CM_PROTECTED, CM_STEP_SETTINGS, "lock", 0, protection->open_lock, protection->lock);
        work->must_erase = true;
    }
    return work->must_erase ? plan_with_erase(work) : CM_OK;
}

/* --- carrying the data region over an erase --------------------------------------------------------------------- */

static enum cm_status read_carry(struct cm_put_work *work, const struct cm_region *region)
{
    const struct cm_carry *carry = &work->put->carry;
    struct cm_access read = {CM_ACCESS_READ, CM_REGION_DATA, 0, carry->bytes, region->bytes};
    struct cm_access again = {CM_ACCESS_MATCH, CM_REGION_DATA, 0, carry->bytes, region->bytes};
    uint16_t recoveries = work->session->recoveries;
    enum cm_status status = cm_access(work->session, &read);
    if (!status)
        status = cm_access(work->session, &again);
    if (!status) // read while the chip was out of step, it would be lost
        status = cm_prove_steadily(work->session);
    if (!status && recoveries != work->session->recoveries)
        status = cm_access(work->session, &again);
    if (!status && carry->saved && carry->saved(carry->context, CM_REGION_DATA, 0, carry->bytes, region->bytes) != CM_OK)
        status = cm_fail(work->session, CM_REFUSED, CM_STEP_CARRY);
    return status;
}

/* Lays what is wanted of the data region over what was carried. */
static enum cm_status overlay(struct cm_put_work *work)
{
    uint32_t start, count;
    const struct cm_source *source;
    for (uint32_t at = 0, end = work->carried.count;
         (source = cm_next_wanted(work->put, CM_REGION_DATA, at, end, &start, &count)) != NULL;
         at = start + count) {
        enum cm_status status =
            source->read(source->context, start, work->put->carry.bytes + start, count);
        if (status)
            return cm_fail(work->session, status, CM_STEP_CARRY);
    }
    return CM_OK;
}

/* --- execute --------------------------------------------------------------------------------------------------- */

static enum cm_status show_progress(struct cm_put_work *work)
{
    uint32_t done = work->report->bytes_written < work->work_bytes ? work->report->bytes_written : work->work_bytes;
    struct cm_progress progress = {CM_STEP_PROGRAM, work->place.region.name, done, work->work_bytes};
    return cm_report_progress(work->session, work->put->progress, work->put->progress_context, &progress);
}

/* A page taken for blank was not, if a bit is 0 that must be 1; a bit that stays 1 is worn, and no
 * erase helps. */
static bool would_erase_help(const struct cm_put_work *work)
{
    const struct cm_failure *failure = &work->session->failure;
    return !(work->place.region.traits & CM_REGION_REWRITES) &&
           (~failure->found & failure->expected);
}

/* Writes a run; where its verify fails, looks again and writes once more before giving up. */
static enum cm_status write_again(struct cm_put_work *work, uint32_t start, uint32_t count)
{
    enum cm_status status = access_page(work, CM_ACCESS_PROGRAM, start, count);
    if (status != CM_WRITE_FAILED)
        return status;
    status = access_page(work, CM_ACCESS_MATCH, start, count);
    if (status != CM_DIFFERS)
        return status;
    status = work->place.region.traits & CM_REGION_REWRITES ? CM_OK : access_page(work, CM_ACCESS_FITS, start, count);
    if (status == CM_OK)
        return access_page(work, CM_ACCESS_PROGRAM, start, count);
    work->session->failure.step = CM_STEP_VERIFY;
    return status == CM_DIFFERS ? cm_refine(work->session, CM_WRITE_FAILED) : status;
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
        enum cm_status status = access_page(work, CM_ACCESS_MATCH, start, end - start);
        if (status != CM_DIFFERS)
            return status;
        start = work->session->failure.address;
        status = write_run(work, start, 1);
        if (status || ++start == end)
            return status;
    }
}

static enum cm_status write_page(struct cm_put_work *work)
{
    bool by_bytes = work->place.region.traits & CM_REGION_BYTE_COSTS;
    uint32_t start, count;
    enum cm_status status = CM_OK;
    for (uint32_t at = work->place.page; !status && cm_run_in_page(work, at, &start, &count); at = start + count) {
        status = by_bytes ? write_differing(work, start, count) : write_run(work, start, count);
        work->report->bytes_written += status ? 0 : count;
    }
    work->report->pages_written += status ? 0 : 1;
    return status ? status : show_progress(work);
}

/* A page that the erase has cleared. */
static enum cm_status fill_erased_page(struct cm_put_work *work)
{
    if (!is_wanted_blank(work))
        return write_page(work);
    enum cm_status status = over_runs(work, CM_ACCESS_MATCH, work->place.page);
    if (status == CM_DIFFERS)
        status = over_runs(work, CM_ACCESS_MATCH, work->place.page);
    work->report->pages_blank += status ? 0 : 1;
    return status == CM_DIFFERS ? cm_refine(work->session, CM_WRITE_FAILED) : status;
}

static enum cm_status execute_page(struct cm_put_work *work)
{
    if (work->all_dirty && !outlives_erase(work))
        return fill_erased_page(work);
    if (!work->all_dirty && work->ordinal < work->map_pages)
        return work->map[work->ordinal / 8] & (1u << (work->ordinal % 8)) ? write_page(work) : CM_OK;
    enum page_state state;
    enum cm_status status = examine(work, &state);
    if (status || state == PAGE_EQUAL)
        return status;
    return write_page(work); // if it needs an erase after all, its verify will say so
}

/* Reads the carry, erases, and forgets the survey. From here on the chip is not what it was. */
static enum cm_status erase_chip(struct cm_put_work *work)
{
    struct cm_region region;
    enum cm_status status = CM_OK;
    if (work->report->carried && !work->secured &&
        cm_region(work->session, CM_REGION_DATA, &region)) {
        status = read_carry(work, &region);
        work->carried_in_doubt = work->session->doubts || work->report->doubted;
        if (!status)
            status = overlay(work);
        work->secured = status == CM_OK;
    }
    struct cm_progress progress = {CM_STEP_ERASE, "chip", 0, 1};
    if (!status)
        status = cm_report_progress(work->session, work->put->progress, work->put->progress_context, &progress);
    if (status)
        return status;
    work->report->lock = work->protection.lock;
    work->report->unlocked = work->protection.lock != work->protection.open_lock;
    status = cm_erase_steadily(work->session);
    if (status)
        return status;
    work->erased = true;
    work->must_erase = work->protection.bars_reading = work->protection.bars_writing = false;
    return CM_OK;
}

static enum cm_status put_lock_back(struct cm_put_work *work)
{
    static const char REGION_OF_DOUBT[] = "chip"; // locked, it can no longer be compared
    struct cm_protection *protection = &work->protection;
    uint8_t doubts = work->session->doubts;
    if (!work->report->unlocked)
        return CM_OK;
    struct cm_access access = {CM_ACCESS_PROGRAM, protection->lock_region, 0, &protection->lock, 1};
    enum cm_status status = cm_access(work->session, &access);
    work->report->unlocked = status != CM_OK;
    work->report->relocked = status == CM_OK;
    bool doubtful = !status && (doubts != work->session->doubts);
    return doubtful ? cm_fail_at(work->session, CM_IN_DOUBT, CM_STEP_SETTINGS, REGION_OF_DOUBT, 0)
                    : status;
}

static enum cm_status execute(struct cm_put_work *work)
{
    struct cm_report *report = work->report;
    report->pages_written = report->pages_blank = report->bytes_written = 0;
    enum cm_status status = work->must_erase ? erase_chip(work) : CM_OK;
    return status ? status : cm_each_page(work, execute_page);
}

/* The caller hears the plan, and may leave it at that; once more only where an erase is new in it.
 */
static enum cm_status execute_if_agreed(struct cm_put_work *work)
{
    const struct cm_put *put = work->put;
    struct cm_port *port = work->session->port;
    bool is_new = !work->agreed || (work->must_erase && !work->agreed_to_erase);
    if (is_new && put->planned && !put->planned(put->planned_context, work->report))
        return cm_fail(work->session, CM_STOPPED, CM_STEP_OPEN);
    work->agreed = true;
    work->agreed_to_erase |= work->must_erase;
    uint32_t start = port->now_us(port);
    enum cm_status status = execute(work);
    work->report->actual_us += port->now_us(port) - start;
    return status;
}

/* --- after doubt ------------------------------------------------------------------------------ */

/* What no image wants, and no erase has cleared: nobody knows what it was. */
static enum cm_status check_rest(struct cm_put_work *work)
{
    struct cm_page_place *place = &work->place;
    enum cm_status status = access_settings(work, CM_ACCESS_MATCH);
    if (status)
        return status == CM_DIFFERS ? cm_refine(work->session, CM_IN_DOUBT) : status;
    for (place->index = CM_REGION_MAIN; place->index <= CM_REGION_DATA; place->index++) {
        bool is_carried = place->index == CM_REGION_DATA && work->report->carried;
        if (!cm_region(work->session, place->index, &place->region))
            break;
        bool is_known = is_carried ? !work->carried_in_doubt : cm_is_cleared(work);
        if (!is_known)
            status = cm_doubt_unwanted(work->session, work->put, place->index, work->report);
    }
    return status;
}

/* Everything is compared once more, from a chip that has proven who it is. What differs is planned
 * anew. */
static enum cm_status look_again(struct cm_put_work *work)
{
    work->session->doubts = 0;
    work->looks_again = work->report->doubted = true;
    enum cm_status status = cm_prove_steadily(work->session);
    return status ? status : survey(work);
}

static enum cm_status execute_rounds(struct cm_put_work *work)
{
    struct cm_report *report = work->report, first = *report;
    enum cm_status status = CM_OK;
    uint32_t pages = 0, bytes = 0;
    bool is_done = false;
    for (uint8_t i = 0; i < ROUNDS && !status && !is_done; i++) {
        status = execute_if_agreed(work);
        pages += report->pages_written;
        bytes += report->bytes_written;
        if (status == CM_WRITE_FAILED && !report->erase && would_erase_help(work)) {
            status = plan_with_erase(work);
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
        report->pages = first.pages;
        report->pages_equal = first.pages_equal;
        report->predicted_us = first.predicted_us;
    }
    report->pages_written = pages;
    report->bytes_written = bytes;
    return status;
}

/* Lock bits last of all: behind them nothing can be compared any more. */
static enum cm_status execute_and_prove(struct cm_put_work *work)
{
    enum cm_status status = execute_rounds(work);
    if (status && status != CM_IN_DOUBT)
        return status;
    struct cm_failure failure = work->session->failure;
    enum cm_status locked = put_lock_back(work);
    if (!locked)
        work->session->failure = failure;
    return locked ? locked : status;
}

static enum cm_status plan(struct cm_put_work *work, struct cm_session *session, const struct cm_put *put, struct cm_report *report)
{
    uint32_t start = session->port->now_us(session->port);
    enum cm_status status = begin(work, session, put, report);
    if (!status)
        status = survey(work);
    report->survey_us = session->port->now_us(session->port) - start;
    return status;
}

enum cm_status cm_put_by_chip(struct cm_session *session, const struct cm_put *put, struct cm_report *report, enum cm_put_aim aim)
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
