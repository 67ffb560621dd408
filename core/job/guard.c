/*
 * Protection, family-blind: the rules are each family's own.
 */
#include "access.h"
#include <coldmint/guard.h>
#include <string.h>

enum what { LOOK, LIFT, RESTORE };

struct asked {
    enum what what;
    struct cm_guard *guard;
};

static enum cm_status act_asked(struct cm_session *session, void *argument)
{
    const struct cm_guard_rules *rules = session->family->guard;
    const struct asked *asked = argument;
    cm_guard_fn *act = rules->look;
    if (asked->what != LOOK)
        act = asked->what == LIFT ? rules->lift : rules->restore;
    return act(session, asked->guard);
}

/* As often as contact is lost in between. A change that fails tells of its doubt by that, and
 * leaves none to the next job. */
static enum cm_status act(struct cm_session *session, enum what what, const struct cm_guard *guard)
{
    struct asked asked = {what, (struct cm_guard *)(uintptr_t)guard}; // only `look` writes
    uint8_t doubts = session->doubts;
    enum cm_status status = cm_require_part(session, CM_STEP_SETTINGS);
    if (!status && session->family->guard)
        status = cm_steadily(session, act_asked, &asked);
    if (status && what != LOOK)
        session->doubts = doubts;
    return status;
}

enum cm_status cm_guard_look(struct cm_session *session, struct cm_guard *guard)
{
    memset(guard, 0, sizeof *guard);
    return act(session, LOOK, guard);
}

enum cm_status cm_guard_lift(struct cm_session *session, const struct cm_guard *guard,
                             enum cm_lift_cost most)
{
    if (guard->cost == CM_LIFT_CONTENTS && most != CM_LIFT_CONTENTS)
        return cm_fail(session, CM_REFUSED, CM_STEP_SETTINGS);
    return act(session, LIFT, guard);
}

enum cm_status cm_guard_restore(struct cm_session *session, const struct cm_guard *guard)
{
    return act(session, RESTORE, guard);
}

bool cm_guard_covers(const struct cm_guard *guard, uint8_t region, uint32_t first, uint32_t bytes)
{
    if (guard->bars_writing & CM_REGION_BIT(region))
        return true;
    return region == CM_REGION_MAIN && bytes && guard->bytes &&
           first < guard->first + guard->bytes && guard->first < first + bytes;
}

bool cm_guard_is_on(const struct cm_guard *guard)
{
    return guard->cost == CM_LIFT_CONTENTS ? guard->registers[0] != guard->open
                                           : guard->bytes || guard->bars_writing;
}

enum cm_status cm_fail_locked(struct cm_session *session, const struct cm_guard *guard)
{
    return cm_fail_byte(session, CM_PROTECTED, CM_STEP_SETTINGS, "lock", 0, guard->open,
                        guard->registers[0]);
}

uint32_t cm_lift_us(const struct cm_session *session)
{
    struct cm_erase_unit unit = {.us = 0};
    for (uint8_t i = 0; cm_erase_unit(session, CM_REGION_MAIN, i, &unit);)
        i++; // the last is the largest
    return unit.us;
}
