/*
 * EEPROMs of the 28 series: the way in, and the family's table of functions. Pages and software
 * data protection are in pages.c.
 *
 * They have no id, and what would ask a flash for one would be data here. Whether one is in the
 * socket does not show until something is written; an array of FF may be a blank part, or none.
 */
#include "par.h"
#include <coldmint/job.h>

/* There is nothing that could be asked for: what is written there would be data. So only the lines
 * are brought to rest. */
enum cm_status cm_ee28_enter(struct cm_session *session)
{
    enum { FIRST_NS = 1000 };
    cm_fail(session, CM_OK, CM_STEP_ENTER);
    session->tries = 1;
    cm_par_state(session)->way = CM_PAR_PLAIN;
    session->entered = true; // lines are driven from here on
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    cm_par_add_lines(session, FIRST_NS);
    enum cm_status status = cm_batch_run(session);
    session->clock_hz = session->batch.ops[0].clock.real_hz;
    return status;
}

enum cm_status cm_ee28_settle(struct cm_session *session)
{
    uint32_t ns;
    enum cm_status status = cm_par_choose_cycle(session, &ns);
    if (status)
        return status;
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    cm_batch_wait(
        session,
        cm_par_part_of(session)
            ->times->program_max_us); // a write may be under way, and does not show in all parts
    struct cm_op *clock = cm_batch_clock(session, 1000000000u / ns);
    status = cm_batch_run(session);
    session->clock_hz = clock->clock.real_hz;
    return status;
}

static enum cm_status access(struct cm_session *session, const struct cm_access *access)
{
    enum cm_access_kind kind = (enum cm_access_kind)access->kind;
    return kind == CM_ACCESS_PROGRAM
               ? cm_par_write_pages(session, access->address, access->in, access->count)
               : cm_par_read(session, kind, access->address, access->in, access->count);
}

static bool region(const struct cm_part *part, uint8_t index, struct cm_region *out)
{
    return cm_par_region_of(part, index, out, "eeprom", CM_REGION_REWRITES);
}

/* A cycle that is led astray shows nowhere else. */
static enum cm_status before_change(struct cm_blocks *work)
{
    enum cm_status status = cm_sum_rest(work);
    return status ? status : cm_look_before_change(work);
}

static const struct cm_blocks_rules BLOCKS = {.sample = cm_par_sample,
                                              .before_change = before_change,
                                              .settle = cm_match_rest,
                                              .after_changes = cm_look_after_changes,
                                              .prove = cm_par_prove,
                                              .can_program = cm_par_can_program};

const struct cm_family cm_ee28 = {
    .name = "ee28",
    .bus = &cm_bus_parallel,
    .lines = CM_LINE_BIT(CM_LINE_CE) | CM_LINE_BIT(CM_LINE_OE) | CM_LINE_BIT(CM_LINE_WE),
    .state_bytes = sizeof(struct cm_par_state),
    .enter = cm_ee28_enter,
    .identify = cm_identify_by_name,
    .settle = cm_ee28_settle,
    .leave = cm_par_leave,
    .region = region,
    .access = access,
    .cost_us = cm_par_cost_us,
    .guard = &cm_par_page_guard_rules,
    .put = cm_put_by_blocks,
    .blocks = &BLOCKS,
};
