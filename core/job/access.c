/*
 * Accesses that survive a moment without contact.
 *
 * A clip held by hand slips for a moment. The driver notices in the instruction that suffers; here
 * the chip is brought back into its programming mode, proven to be the same, and the access
 * repeated: reads and page writes may be.
 */
#include "access.h"
#include <string.h>

enum { RECOVERIES_AN_ACCESS = 3 };

static bool may_go_on_trying(const struct cm_session *session)
{
    return session->on_lost && session->on_lost(session->lost_context, &session->failure);
}

/* Acts; where contact is lost, finds the chip again and repeats. If that fails too, the first
 * failure stays on record. */
enum cm_status cm_steadily(struct cm_session *session, cm_act_fn *act, void *argument)
{
    enum cm_status status = act(session, argument);
    for (uint8_t i = 0; i < RECOVERIES_AN_ACCESS && status == CM_CONTACT_LOST; i++) {
        struct cm_failure first = session->failure;
        // perhaps it is not the contact, but a clock too near to the limit
        if (i > 0)
            session->clock_hz /= 2;
        while (cm_recover(session) != CM_OK) {
            session->failure = first;
            if (!may_go_on_trying(session))
                return status;
        }
        status = act(session, argument);
    }
    return status;
}

static enum cm_status act_access(struct cm_session *session, void *argument)
{
    return cm_checked(session, argument);
}

static enum cm_status act_erase(struct cm_session *session, void *unused)
{
    (void)unused;
    return session->family->erase(session, CM_REGION_MAIN, 0, 0); // unit 0 is all there is
}

static enum cm_status act_prove(struct cm_session *session, void *unused)
{
    (void)unused;
    return session->family->identify(session);
}

enum cm_status cm_prove_steadily(struct cm_session *session)
{
    return cm_steadily(session, act_prove, NULL);
}

enum cm_status cm_access(struct cm_session *session, const struct cm_access *access)
{
    return cm_steadily(session, act_access, (void *)(uintptr_t)access);
}

enum cm_status cm_erase_steadily(struct cm_session *session)
{
    return cm_steadily(session, act_erase, NULL);
}

enum cm_status cm_look_if_hidden(struct cm_session *session, struct cm_guard *guard)
{
    const struct cm_guard_rules *rules = session->family->guard;
    memset(guard, 0, sizeof *guard);
    return rules && rules->hides_contents ? cm_guard_look(session, guard) : CM_OK;
}

enum cm_status cm_report_progress(struct cm_session *session, cm_progress_fn *progress,
                                  void *context, const struct cm_progress *at)
{
    if (!progress || progress(context, at))
        return CM_OK;
    return cm_fail_at(session, CM_STOPPED, at->step, at->region, at->done);
}

enum cm_status cm_check_want(struct cm_session *session, const struct cm_want *want,
                             struct cm_region *region, struct cm_report *report)
{
    uint32_t start, count;
    if (want->region >= CM_PUT_REGIONS || !cm_region(session, want->region, region) ||
        !(region->traits & CM_REGION_WRITABLE))
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_OPEN);
    for (uint32_t at = 0; want->source.extent(want->source.context, at, &start, &count);
         at = start + count) {
        if (!cm_extent_fits(region, start, count))
            return cm_fail_beyond(session, CM_STEP_OPEN, region, start);
        report->bytes += count;
    }
    return CM_OK;
}

uint32_t cm_chunk(const struct cm_session *session, const struct cm_region *region,
                  uint32_t address, uint32_t end)
{
    uint32_t most = 4096 + session->clock_hz / 512; // so that progress and stopping stay lively
    most = most < session->workspace_bytes ? most : session->workspace_bytes;
    if (most >= region->page_bytes)
        most &= ~(region->page_bytes - 1);
    return end - address < most ? end - address : most;
}

enum cm_status cm_check_blank(struct cm_session *session, uint8_t index, cm_progress_fn *progress,
                              void *context)
{
    struct cm_region region;
    if (!cm_region(session, index, &region))
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_COMPARE);
    enum cm_status status = CM_OK;
    memset(session->workspace, region.erased, cm_chunk(session, &region, 0, region.bytes));
    for (uint32_t at = 0, part; at < region.bytes && !status; at += part) {
        part = cm_chunk(session, &region, at, region.bytes);
        struct cm_access access = {CM_ACCESS_MATCH, index, at, {session->workspace}, part};
        status = cm_access(session, &access);
        if (!status)
            status = cm_report_progress(
                session, progress, context,
                &(struct cm_progress){CM_STEP_VERIFY, region.name, at + part, region.bytes});
    }
    return status;
}
