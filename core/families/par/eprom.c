/*
 * EPROMs of the 27 series. Reading is all that most ports can do with them.
 *
 *     id        A9 at 12 V: address 0 reads the maker, address 1 the device (JEDEC standard 1)
 *     program   VCC 6.25 V, VPP 12.75 V: address, data, PGM (or CE) low for 100 us
 *     verify    VCC still 6.25 V; a unit that did not take it gets another pulse, 25 at most
 *
 * Bits go from 1 to 0 alone. Ultraviolet light makes them 1 again; there is no erase here.
 */
#include "par.h"
#include <coldmint/job.h>

enum { T_A9_US = 10, T_VPP_US = 1000, PULSES = 25 };
static const char NAME[] = "eprom";

static void add_line(struct cm_session *session, enum cm_line line, enum cm_level level,
                     uint32_t wait_us)
{
    struct cm_op *op = cm_batch_add(session, CM_OP_LINE);
    op->line.line = (uint8_t)line;
    op->line.level = (uint8_t)level;
    cm_batch_wait(session, wait_us);
}

/* The id, where the port can raise A9 and the row knows it. Wrong or missing, the part is not what
 * was asked for. */
static enum cm_status settle(struct cm_session *session)
{
    const struct cm_par_part *part = cm_par_part_of(session);
    uint8_t shown[4] = {0}, unit = cm_par_unit(session);
    enum cm_status status = cm_ee28_settle(session);
    if (status || !part->a9_id[0] || !(session->port->traits.lines & CM_LINE_BIT(CM_LINE_A9_ID)))
        return status;
    cm_batch_begin(session, CM_STEP_IDENTIFY, "id", 0);
    add_line(session, CM_LINE_A9_ID, CM_HIGH, T_A9_US);
    cm_par_add_read(session, CM_DATA_IN, 0, shown, 2u * unit);
    add_line(session, CM_LINE_A9_ID, CM_LOW, T_A9_US);
    status = cm_batch_run(session);
    session->id[0] = shown[0];
    session->id[1] = shown[unit];
    if (status || (shown[0] == part->a9_id[0] && shown[unit] == part->a9_id[1]))
        return status;
    bool nobody = shown[0] == shown[unit];
    cm_fail(session, nobody ? CM_NO_CHIP : CM_WRONG_CHIP, CM_STEP_IDENTIFY);
    session->failure.answer[0] = shown[0];
    session->failure.answer[1] = shown[unit];
    return session->failure.status;
}

static enum cm_status set_supply(struct cm_session *session, uint16_t mv)
{
    cm_batch_begin(session, CM_STEP_PROGRAM, NULL, 0);
    cm_batch_add(session, CM_OP_SUPPLY)->supply.mv = mv;
    cm_batch_wait(session, T_VPP_US);
    return cm_batch_run(session);
}

/* Ends programming, whatever comes of it; the first failure sticks. VPP never without VCC: on after
 * it, off before it. */
static enum cm_status end(struct cm_session *session, enum cm_status status)
{
    struct cm_failure record = session->failure;
    cm_batch_begin(session, CM_STEP_PROGRAM, NULL, 0);
    add_line(session, CM_LINE_VPP, CM_LOW, T_VPP_US);
    enum cm_status off = cm_batch_run(session), back = set_supply(session, session->supply_mv);
    if (!status)
        return off ? off : back;
    session->failure = record;
    return status;
}

/* One pulse for each unit that is not FF, from `address` on. */
static enum cm_status pulse(struct cm_session *session, uint32_t address, const uint8_t *bytes,
                            uint32_t count)
{
    static const struct cm_pulse PROGRAM = {.low_ns = 100000, .high_ns = 2000};
    cm_batch_begin(session, CM_STEP_PROGRAM, NAME, address);
    add_line(session, CM_LINE_VPP, CM_HIGH, T_VPP_US);
    cm_batch_repeat(session, address, count, cm_par_unit(session), 1);
    cm_par_exchange(session, CM_DATA_OUT | CM_SPARE, bytes, NULL, 0)->cycles.pulse = &PROGRAM;
    add_line(session, CM_LINE_VPP, CM_LOW, T_VPP_US);
    return cm_batch_run(session);
}

/* May this unit have taken a pulse that was meant for another? If so it has a 0 wherever that has
 * one. What an image wants there is compared at the end anyway. */
static enum cm_status suspect(struct cm_session *session, uint32_t address, const uint8_t *bytes)
{
    struct cm_wanted wanted = {NULL, 0}; // of a program of the caller's own
    uint8_t found[2], unit = cm_par_unit(session);
    uint32_t start, count;
    if (session->put)
        wanted = cm_wanted_of(session->put);
    if (!cm_next_unwanted(&wanted, CM_REGION_MAIN, address, address + unit, &start, &count))
        return CM_OK;
    enum cm_status status = cm_par_read(session, CM_ACCESS_READ, address, found, unit);
    bool may_have = true;
    for (uint8_t i = 0; i < unit; i++)
        may_have &= (found[i] & ~bytes[i]) == 0;
    if (!status && may_have)
        session->doubts |= CM_DOUBT_WRITE;
    return status;
}

/* Nothing of a unit has changed by its pulse. Weak cells are like that; or an address line was off
 * for a moment, and another unit has changed. */
static enum cm_status ask_where_it_went(struct cm_session *session, uint32_t address,
                                        const uint8_t *bytes)
{
    uint32_t end = cm_par_part_of(session)->bytes;
    enum cm_status status = CM_OK;
    for (uint32_t line = cm_par_unit(session); !status && line < end; line *= 2)
        status = suspect(session, address ^ line, bytes);
    return status;
}

/*
 * A unit that did not take its pulse gets others, by itself: those behind it may be right. It is
 * read twice before each, for a pulse can never be taken back.
 */
static enum cm_status pulse_again(struct cm_session *session, uint32_t address, uint8_t *bytes)
{
    uint8_t unit = cm_par_unit(session);
    enum cm_status status = cm_par_read(session, CM_ACCESS_MATCH, address, bytes, unit);
    for (uint8_t i = 1; i < PULSES && status == CM_DIFFERS; i++) {
        if (~session->failure.found & session->failure.expected)
            return CM_DIFFERS; // only light makes it 1 again
        status =
            session->failure.found == 0xFF ? ask_where_it_went(session, address, bytes) : CM_OK;
        if (!status)
            status = pulse(session, address, bytes, unit);
        for (uint8_t asked = 0; asked < 2 && status == (asked ? CM_DIFFERS : CM_OK); asked++)
            status = cm_par_read(session, CM_ACCESS_MATCH, address, bytes, unit);
    }
    return status;
}

/* All of a run, at the supply of programming: what does not read right there is not programmed
 * well. */
static enum cm_status fill(struct cm_session *session, uint32_t address, uint8_t *bytes,
                           uint32_t count)
{
    enum cm_status status = pulse(session, address, bytes, count);
    for (uint32_t right; !status && count; address += right, bytes += right, count -= right) {
        right = count;
        status = cm_par_read(session, CM_ACCESS_MATCH, address, bytes, count);
        if (status != CM_DIFFERS)
            continue;
        right = (session->failure.address - address) & ~(cm_par_unit(session) - 1u);
        status = pulse_again(session, address + right, bytes + right);
    }
    return status;
}

/* The voltages of programming are the port's to give. */
static enum cm_status can_program(struct cm_session *session)
{
    const struct cm_traits *traits = &session->port->traits;
    uint16_t mv = cm_par_part_of(session)->program_mv;
    bool can = mv && session->supply_mv && mv <= traits->supply_max_mv &&
               (traits->lines & CM_LINE_BIT(CM_LINE_VPP));
    return can ? CM_OK : cm_fail_at(session, CM_PORT_LACKS, CM_STEP_PROGRAM, NAME, 0);
}

static enum cm_status program(struct cm_session *session, uint32_t address, uint8_t *bytes,
                              uint32_t count)
{
    enum cm_status status = can_program(session);
    if (!status)
        status = set_supply(session, cm_par_part_of(session)->program_mv);
    if (!status)
        status = fill(session, address, bytes, count);
    status = end(session, status);
    return status == CM_DIFFERS ? cm_refine(session, CM_WRITE_FAILED) : status;
}

static enum cm_status access_words(struct cm_session *session, enum cm_access_kind kind,
                                   uint32_t address, uint8_t *bytes, uint32_t count)
{
    return kind == CM_ACCESS_PROGRAM ? program(session, address, bytes, count)
                                     : cm_par_read(session, kind, address, bytes, count);
}

static enum cm_status access(struct cm_session *session, const struct cm_access *access)
{
    return cm_par_by_units(session, access_words, (enum cm_access_kind)access->kind,
                           access->address, access->in, access->count);
}

static bool region(const struct cm_part *part, uint8_t index, struct cm_region *out)
{
    return cm_par_region_of(part, index, out, NAME, 0);
}

static const struct cm_blocks_rules BLOCKS = {.sample = cm_par_sample,
                                              .before_change = cm_try_first,
                                              .after_changes = cm_look_after_changes,
                                              .prove = cm_par_prove,
                                              .can_program = can_program};

const struct cm_family cm_eprom = {
    .name = "eprom",
    .bus = &cm_bus_parallel,
    .lines = CM_LINE_BIT(CM_LINE_CE) | CM_LINE_BIT(CM_LINE_OE),
    .state_bytes = sizeof(struct cm_par_state),
    .enter = cm_ee28_enter,
    .identify = cm_identify_by_name,
    .settle = settle,
    .leave = cm_par_leave,
    .region = region,
    .access = access,
    .cost_us = cm_par_cost_us,
    .put = cm_put_by_blocks,
    .blocks = &BLOCKS,
};
