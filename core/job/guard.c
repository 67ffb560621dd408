/*
 * Protection, family-blind: the rules are each family's own.
 */
#include "access.h"
#include <coldmint/guard.h>
#include <string.h>

static const struct cm_guard_rules *rules_of(const struct cm_session *session)
{
    return session->part && session->family->memory ? session->family->memory->guard : NULL;
}

static enum cm_status act_look(struct cm_session *session, void *guard)
{
    return rules_of(session)->look(session, guard);
}

static enum cm_status act_lift(struct cm_session *session, void *guard)
{
    return rules_of(session)->lift(session, guard);
}

static enum cm_status act_restore(struct cm_session *session, void *guard)
{
    return rules_of(session)->restore(session, guard);
}

enum cm_status cm_guard_look(struct cm_session *session, struct cm_guard *guard)
{
    memset(guard, 0, sizeof *guard);
    enum cm_status status = cm_require_part(session, CM_STEP_SETTINGS);
    return !status && rules_of(session) ? cm_steadily(session, act_look, guard) : status;
}

bool cm_guard_covers(const struct cm_guard *guard, uint32_t first, uint32_t bytes)
{
    return bytes && guard->bytes && first < guard->first + guard->bytes &&
           guard->first < first + bytes;
}

/* Acts on the registers. What fails tells of its doubt by that, and leaves none to the next job. */
static enum cm_status change(struct cm_session *session, cm_act_fn *act,
                             const struct cm_guard *guard)
{
    uint8_t doubts = session->doubts;
    enum cm_status status = cm_require_part(session, CM_STEP_SETTINGS);
    if (!status && rules_of(session))
        status = cm_steadily(session, act, (void *)(uintptr_t)guard);
    if (status)
        session->doubts = doubts;
    return status;
}

enum cm_status cm_guard_lift(struct cm_session *session, const struct cm_guard *guard)
{
    enum cm_status status = change(session, act_lift, guard);
    session->unguarded = status == CM_OK && rules_of(session);
    return status;
}

enum cm_status cm_guard_restore(struct cm_session *session, const struct cm_guard *guard)
{
    session->unguarded = false; // whatever comes of it: a chip found again shall not be opened anew
    return change(session, act_restore, guard);
}
