/*
 * A put over protection that only an erase lifts: a read-out level, for instance.
 *
 * Where the contents come out, the plan is made as always, and protection stays as long as nothing
 * is to be changed. Where they do not, or where they cannot be written, lifting comes first, if the
 * caller has said `unprotect`: what it clears is planned from the images alone. Then all is looked
 * at once more, written, and protected again, last of all.
 *
 * A file of its own: only families with such protection carry it.
 */
#include "blocks.h"
#include <string.h>

/* Is all blank that no image wants of a region? CM_REFUSED, with the first address that is not. */
static enum cm_status check_unwanted(struct cm_blocks *work, uint8_t index,
                                     const struct cm_region *region)
{
    struct cm_session *session = work->session; // its workspace holds a plan that is void by now
    uint32_t start, count;
    enum cm_status status = CM_OK;
    for (uint32_t at = 0;
         !status && cm_next_unwanted(&work->wanted, index, at, region->bytes, &start, &count);
         at = start + count) {
        count = cm_chunk(session, region, start, start + count);
        memset(session->workspace, region->erased, count);
        struct cm_access access = {CM_ACCESS_MATCH, index, start, {session->workspace}, count};
        status = cm_access(session, &access);
    }
    if (status == CM_DIFFERS)
        status =
            cm_fail_at(session, CM_REFUSED, CM_STEP_CARRY, region->name, session->failure.address);
    return status;
}

/* What no image wants, but can be read, would be lost. */
static enum cm_status check_loss(struct cm_blocks *work)
{
    uint8_t readable = (uint8_t)(work->guard.clears & ~work->guard.bars_reading);
    struct cm_region region;
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; !status && !work->put->lose_data && cm_region(work->session, i, &region);
         i++) {
        if ((readable & CM_REGION_BIT(i)) && !(region.traits & CM_REGION_SETTINGS))
            status = check_unwanted(work, i, &region);
    }
    return status;
}

/* Plans anew, from the images. */
static enum cm_status plan_cleared(struct cm_blocks *work)
{
    struct cm_report *report = work->report;
    enum cm_status status = check_loss(work);
    if (status)
        return status;
    work->cleared = work->guard.clears;
    memset(work->session->workspace, 0, work->map_total);
    *report = (struct cm_report){.bytes = report->bytes};
    work->work_bytes = 0;
    status = cm_plan_blocks(work);
    report->lifts = report->erase = true;
    report->predicted_us += cm_lift_us(work->session);
    return status;
}

static enum cm_status plan(struct cm_blocks *work)
{
    const struct cm_guard *guard = &work->guard;
    bool is_hidden = (guard->bars_reading & work->regions) != 0;
    if (is_hidden)
        return work->put->unprotect ? plan_cleared(work) : cm_fail_locked(work->session, guard);
    enum cm_status status = cm_plan_blocks(work);
    bool costs = work->report->lifts && guard->cost == CM_LIFT_CONTENTS;
    return !status && costs ? plan_cleared(work) : status;
}

static enum cm_status count_blank(struct cm_blocks *work, uint32_t start, uint32_t count,
                                  cm_blocks_act_fn *on_write)
{
    enum cm_status status = CM_OK;
    for (uint32_t at = start, end = start + count, next; !status && at < end; at = next) {
        next = cm_piece_end(at, work->region.page_bytes, end);
        if (!cm_is_erased(work, work->buffer + (at - start), next - at))
            status = on_write(work, at, next - at);
    }
    return status;
}

const struct cm_lifter cm_put_over_lift = {.plan = plan, .count = count_blank};
