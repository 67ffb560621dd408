/*
 * Several pages at once, for chips that are erased as a whole: where each batch costs time of its
 * own, at the far end of a link, one page a batch is mostly waiting.
 *
 * It stands before the engine's own work on a page (cm_each_page), and takes as many pages from
 * there on as it can do in one batch. What it leaves is done page by page, by the engine's rules:
 * everything, once anything has gone wrong.
 *
 *     survey     whole pages are compared in growing runs, as long as they are equal. Behind a page
 *                that looks blank, the first byte of each page is asked for in one batch: where it
 *                is blank, and shall not stay so, the page is taken for blank as the engine does
 *     execute    whole pages that are to be written, one behind the other, are one batch
 *
 * The pages lie in the last part of the workspace.
 */
#include "pages.h"
#include <string.h>

enum { MOST_BYTES = 32768, MOST_STARTS = 128, FIRST_PAGES = 8 };

/* A run of pages that are wanted whole. */
struct stride {
    uint8_t *bytes;
    uint32_t room, page_bytes;
    uint32_t pages;
};

static uint32_t bytes_of(const struct stride *stride)
{
    return stride->pages * stride->page_bytes;
}

/* The last part of the workspace: half of it at most, and never what the engine's page needs. */
static uint32_t room_of(const struct cm_put_work *work)
{
    uint32_t all = work->session->workspace_bytes, beside = all - work->page_bytes, room = all / 2;
    room = room < MOST_BYTES ? room : MOST_BYTES;
    return room < beside ? room : beside;
}

/* The map of pages gives way to it. */
static struct stride stride_of(struct cm_put_work *work)
{
    const struct cm_session *session = work->session;
    uint32_t page = work->place.region.page_bytes, room = room_of(work);
    uint32_t map = session->workspace_bytes - work->page_bytes - room;
    if (work->map_pages > map * 8)
        work->map_pages = map * 8;
    return (struct stride){session->workspace + session->workspace_bytes - room, room, page, 0};
}

/* Reads the page that is next in the stride, if all of it is wanted. */
static bool load_next(struct cm_put_work *work, struct stride *stride, enum cm_status *status)
{
    const struct cm_page_place *place = &work->place;
    uint32_t at = place->page + stride->pages * stride->page_bytes, end = at + stride->page_bytes,
             start, count;
    uint8_t *bytes = stride->bytes + bytes_of(stride);
    if ((stride->pages + 1) * stride->page_bytes > stride->room || end > place->region.bytes)
        return false;
    const struct cm_source *source =
        cm_next_wanted(cm_wanted_here(work), place->index, at, end, &start, &count);
    if (!source || start != at || count != stride->page_bytes)
        return false;
    *status = source->read(source->context, at, bytes, count);
    if (*status)
        *status = cm_fail_at(work->session, *status, CM_STEP_READ, place->region.name, at);
    return *status == CM_OK;
}

static bool is_blank(const struct cm_put_work *work, const struct stride *stride)
{
    const uint8_t *bytes = stride->bytes + bytes_of(stride);
    for (uint32_t i = 0; i < stride->page_bytes; i++) {
        if (bytes[i] != work->place.region.erased)
            return false;
    }
    return true;
}

/* The pages of the stride are done; the place is behind them. */
static void pass(struct cm_put_work *work, uint32_t pages)
{
    if (!pages)
        return;
    work->place.page += pages * work->place.region.page_bytes;
    work->place.end = work->place.page;
    work->ordinal += pages;
}

/* What is tried at once. */
struct attempt {
    struct cm_access access;
    bool is_starts; /* the first bytes of pages, compared */
    uint32_t pages;
    uint8_t calls;
};

/* Once only: after lost contact the chip is found again, and then it goes on page by page. */
static enum cm_status act_once(struct cm_session *session, void *argument)
{
    struct attempt *attempt = argument;
    const struct cm_access *access = &attempt->access;
    if (attempt->calls++)
        return CM_OK;
    return attempt->is_starts
               ? session->kit->strides->match_starts(session, access->region, access->address,
                                                     access->out, attempt->pages)
               : session->family->access(session, access);
}

/* CM_OK, and true: it was done. False: from here on page by page. Else a failure that ends the job.
 */
static enum cm_status try_at_once(struct cm_put_work *work, struct attempt *attempt, bool *is_done)
{
    attempt->access.region = work->place.index;
    attempt->access.address = work->place.page;
    enum cm_status status = cm_steadily(work->session, act_once, attempt);
    *is_done = !status && attempt->calls == 1;
    bool differs = status == CM_DIFFERS;
    work->is_narrow |= !*is_done && !differs;
    return status == CM_WRITE_FAILED ? CM_OK : status;
}

/* --- survey ------------------------------------------------------------------------------ */

static enum cm_status count_equal(struct cm_put_work *work, uint32_t pages)
{
    work->report->pages += pages;
    work->report->pages_equal += pages;
    pass(work, pages);
    return cm_put_tell(work, CM_STEP_COMPARE, work->place.page, work->place.region.bytes);
}

/* Pages whose first byte is blank on the chip, and shall be another: they are to be written. */
static enum cm_status survey_blank(struct cm_put_work *work, struct stride *stride)
{
    const struct cm_strides *strides = work->session->kit->strides;
    const struct cm_page_place *place = &work->place;
    uint8_t erased[MOST_STARTS];
    enum cm_status status = CM_OK;
    stride->pages = 0;
    while (stride->pages < MOST_STARTS && load_next(work, stride, &status) &&
           stride->bytes[bytes_of(stride)] != place->region.erased)
        stride->pages++;
    if (status || stride->pages < 2 || !strides->match_starts)
        return status;
    memset(erased, place->region.erased, sizeof erased);
    uint32_t pages = stride->pages;
    struct attempt attempt = {.access = {.out = erased}, .is_starts = true, .pages = stride->pages};
    bool is_done;
    status = try_at_once(work, &attempt, &is_done);
    if (status == CM_DIFFERS)
        pages = (work->session->failure.address - place->page) / stride->page_bytes;
    else if (!is_done)
        return status;
    for (uint32_t i = 0; i < pages; i++) {
        work->report->pages++;
        cm_put_must_write(work);
        pass(work, 1);
    }
    return CM_OK;
}

static enum cm_status survey(struct cm_put_work *work)
{
    const struct cm_failure *failure = &work->session->failure;
    struct stride stride = stride_of(work);
    uint32_t most = work->stride_pages ? work->stride_pages : FIRST_PAGES;
    enum cm_status status = CM_OK;
    while (stride.pages < most && load_next(work, &stride, &status))
        stride.pages++;
    if (status || stride.pages < 2)
        return status;
    struct attempt attempt = {
        .access = {.kind = CM_ACCESS_MATCH, .out = stride.bytes, .count = bytes_of(&stride)}};
    bool is_done;
    status = try_at_once(work, &attempt, &is_done);
    work->stride_pages = status ? 2 : 2 * most;
    if (is_done)
        return count_equal(work, stride.pages);
    if (status != CM_DIFFERS)
        return status;
    uint32_t at = failure->address;
    bool looks_blank = failure->found == work->place.region.erased;
    status = count_equal(work, (at - work->place.page) / stride.page_bytes);
    bool is_blank_page = looks_blank && at == work->place.page;
    return !status && is_blank_page ? survey_blank(work, &stride) : status;
}

/* --- execute ----------------------------------------------------------------------------- */

/* Is the page that is next in the stride to be written, as far as is known? */
static bool is_due(struct cm_put_work *work, const struct stride *stride)
{
    uint32_t ordinal = work->ordinal + stride->pages;
    if (work->all_dirty)
        return !cm_outlives_erase(work) && !is_blank(work, stride);
    return ordinal < work->map_pages && work->map[ordinal / 8] & (1u << (ordinal % 8));
}

static enum cm_status execute(struct cm_put_work *work)
{
    struct stride stride = stride_of(work);
    enum cm_status status = CM_OK;
    while (load_next(work, &stride, &status) && is_due(work, &stride))
        stride.pages++;
    if (status || stride.pages < 2)
        return status;
    struct attempt attempt = {
        .access = {.kind = CM_ACCESS_PROGRAM, .out = stride.bytes, .count = bytes_of(&stride)}};
    bool is_done;
    status = try_at_once(work, &attempt, &is_done);
    work->is_narrow |= !is_done;
    if (!is_done)
        return status == CM_DIFFERS ? CM_OK : status;
    work->pages_done += stride.pages;
    work->bytes_done += stride.pages * stride.page_bytes;
    pass(work, stride.pages);
    return cm_put_show_progress(work);
}

/* --- both -------------------------------------------------------------------------------- */

enum cm_status cm_stride_pages(struct cm_put_work *work)
{
    const struct cm_page_place *place = &work->place;
    const struct cm_session *session = work->session;
    bool is_single = place->whole || place->region.page_bytes < 2 ||
                     (place->region.traits & (CM_REGION_BYTE_COSTS | CM_REGION_SETTINGS));
    if (!session->port->run || work->is_narrow || session->doubts || session->recoveries ||
        is_single || room_of(work) < 2 * place->region.page_bytes ||
        place->end - place->page != place->region.page_bytes)
        return CM_OK;
    if (work->phase == CM_PUT_SURVEYS)
        return survey(work);
    return work->phase == CM_PUT_EXECUTES ? execute(work) : CM_OK;
}
