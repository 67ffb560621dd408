/*
 * The beginning of a put by blocks: what is wanted is checked, the workspace is shared among the
 * regions, protection is looked at. And the way from region to region.
 */
#include "blocks.h"
#include <string.h>

static enum cm_status check_want(struct cm_blocks *work, const struct cm_want *want)
{
    struct cm_region region;
    enum cm_status status = cm_check_want(work->session, want, &region, work->report);
    if (status)
        return status;
    work->regions |= (uint8_t)CM_REGION_BIT(want->region);
    if (region.page_bytes > work->page_bytes)
        work->page_bytes = region.page_bytes;
    return CM_OK;
}

/* Erase units, but for those so small that the map has no room for each of them: then larger ones
 * have to do. */
static void find_units(struct cm_blocks *work, uint32_t map_bytes)
{
    struct cm_erase_unit unit;
    work->unit_count = work->first_unit = 0;
    for (uint8_t i = 0;
         work->unit_count < CM_UNITS && cm_erase_unit(work->session, work->index, i, &unit) &&
         unit.clears == CM_REGION_BIT(work->index);
         i++) { // one that clears other regions, too, is for lifting protection
        if (work->unit_count == 0 && work->region.bytes / unit.bytes / 4 > map_bytes)
            work->first_unit = (uint8_t)(i + 1);
        else
            work->units[work->unit_count++] = unit;
    }
    work->sector = work->unit_count ? work->units[0].bytes : work->region.page_bytes;
    while (!work->unit_count && work->region.bytes / work->sector / 4 > map_bytes)
        work->sector *= 2;
}

static uint32_t map_bytes(const struct cm_blocks *work)
{
    return (work->region.bytes / work->sector + 3) / 4;
}

/* Turns to a region: its units, and the buffer in portions of its pages. */
static void select_region(struct cm_blocks *work, uint8_t index)
{
    const struct cm_session *session = work->session;
    work->index = index;
    cm_region(session, index, &work->region);
    find_units(work, session->workspace_bytes / 4);
    uint32_t page = work->region.page_bytes,
             pages = (session->workspace_bytes - work->map_total) / (page + 1);
    work->samples = session->workspace + work->map_total;
    work->buffer = work->samples + pages;
    work->buffer_bytes = pages * page;
    work->barred_at = UINT32_MAX;
}

/* The maps of all regions lie one behind the other; behind them the samples, then the buffer. */
enum cm_status cm_each_region(struct cm_blocks *work, cm_region_fn *act)
{
    uint8_t *map = work->session->workspace;
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; !status && i < CM_PUT_REGIONS; i++) {
        if (!(work->regions & CM_REGION_BIT(i)))
            continue;
        select_region(work, i);
        work->map = map;
        status = act(work);
        map += map_bytes(work);
    }
    return status;
}

static enum cm_status add_map(struct cm_blocks *work)
{
    work->map_total += map_bytes(work);
    return CM_OK;
}

/* A map gets a quarter of the workspace at most; of what all of them leave, a byte a page is for
 * samples, whole pages are for contents. */
static enum cm_status share_workspace(struct cm_blocks *work)
{
    cm_ignore(cm_each_region(work, add_map));
    if (work->session->workspace_bytes <= work->map_total + work->page_bytes)
        return cm_fail(work->session, CM_NO_ROOM, CM_STEP_OPEN);
    memset(work->session->workspace, 0, work->map_total);
    return CM_OK;
}

/* Protection that cannot be read is lifted beforehand: the driver finds out by writing. What one
 * job was allowed another is not. */
static enum cm_status allow_unreadable(struct cm_blocks *work)
{
    struct cm_session *session = work->session;
    uint32_t bytes = work->guard.bytes; // what can be read is another matter
    work->guard.bytes = 0;
    enum cm_status status = work->put->unprotect
                                ? cm_guard_lift(session, &work->guard, CM_LIFT_FREE)
                                : cm_guard_restore(session, &work->guard);
    work->guard.bytes = bytes;
    return status;
}

enum cm_status cm_begin_blocks(struct cm_blocks *work, struct cm_session *session,
                               const struct cm_put *put, struct cm_report *report)
{
    memset(work, 0, sizeof *work);
    memset(report, 0, sizeof *report);
    work->session = session;
    work->put = put;
    work->wanted = cm_wanted_of(put);
    work->report = report;
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; i < put->want_count && !status; i++)
        status = check_want(work, &put->wants[i]);
    if (!status)
        status = share_workspace(work);
    if (!status)
        status = cm_check_supply(session);
    if (!status)
        status = cm_guard_look(session, &work->guard);
    return !status && work->guard.unreadable ? allow_unreadable(work) : status;
}
