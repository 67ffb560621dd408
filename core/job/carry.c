/*
 * Carrying the data region over a chip erase: read twice, handed to the caller to keep safe, and
 * wanted anew behind the erase, with what the images want of it laid over.
 *
 * A file of its own: only kits that name cm_carry_data carry it.
 */
#include "pages.h"

static bool plan(struct cm_put_work *work, uint32_t bytes)
{
    const struct cm_carry *carry = &work->put->carry;
    if (!carry->bytes || carry->size < bytes || !cm_may_carry(work->put))
        return false;
    work->carried = (struct cm_memory){.bytes = carry->bytes, .count = bytes};
    work->carry_want = (struct cm_want){CM_REGION_DATA, cm_memory_source(&work->carried)};
    work->of_data = (struct cm_wanted){&work->carry_want, 1};
    work->report->carried = true;
    // read twice before the erase, and looked at once more after it; how many of its pages hold
    // data is not known yet
    work->report->predicted_us +=
        3 * work->session->family->cost_us(work->session, CM_REGION_DATA, CM_COST_READ, bytes);
    return true;
}

static enum cm_status read_twice(struct cm_put_work *work)
{
    const struct cm_carry *carry = &work->put->carry;
    uint32_t bytes = work->carried.count;
    struct cm_access read = {CM_ACCESS_READ, CM_REGION_DATA, 0, {.in = carry->bytes}, bytes};
    struct cm_access again = {CM_ACCESS_AGAIN, CM_REGION_DATA, 0, {carry->bytes}, bytes};
    uint16_t recoveries = work->session->recoveries;
    enum cm_status status = cm_access(work->session, &read);
    if (!status)
        status = cm_access(work->session, &again);
    if (!status) // read while the chip was out of step, it would be lost
        status = cm_prove_steadily(work->session);
    if (!status && recoveries != work->session->recoveries)
        status = cm_access(work->session, &again);
    return status;
}

/* Lays what is wanted of the data region over what was carried. */
static enum cm_status overlay(struct cm_put_work *work)
{
    uint32_t start, count;
    const struct cm_source *source;
    for (uint32_t at = 0, end = work->carried.count;
         (source = cm_next_wanted(&work->wanted, CM_REGION_DATA, at, end, &start, &count)) != NULL;
         at = start + count) {
        enum cm_status status =
            source->read(source->context, start, work->put->carry.bytes + start, count);
        if (status)
            return cm_fail(work->session, status, CM_STEP_CARRY);
    }
    return CM_OK;
}

static enum cm_status read(struct cm_put_work *work)
{
    const struct cm_carry *carry = &work->put->carry;
    enum cm_status status = read_twice(work);
    if (!status && carry->saved &&
        carry->saved(carry->context, CM_REGION_DATA, 0, carry->bytes, work->carried.count) != CM_OK)
        status = cm_fail(work->session, CM_REFUSED, CM_STEP_CARRY);
    return status ? status : overlay(work);
}

const struct cm_carrier cm_carry_data = {.plan = plan, .read = read};
