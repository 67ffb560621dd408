/*
 * The way to a parallel flash, and its id (JEP106 maker codes; "software product identification" of
 * the sheets).
 *
 *     5555 <- AA, 2AAA <- 55, 5555 <- 90      id mode: address 0 reads the maker, address 1 the
 *                                             device
 *     5555 <- AA, 2AAA <- 55, 5555 <- F0      and back to the array
 *
 * A chip is taken to be there where the id mode reads something else than the array, twice alike.
 * Parts that decode eleven address lines for commands take these addresses for 555 and 2AA. Older
 * page flash wants 10 ms for the change of mode, so much is given until the part is known.
 *
 * The id is asked for by writing: cm_identify in par.h says what that may do to an EEPROM.
 */
#include "par.h"
#include <string.h>

enum {
    CMD_ID = 0x90,
    CMD_RESET = 0xF0,
    FIRST_NS = 250,
    SLOWEST_NS = 16000,
    SLOWER = 8,
    T_MODE_MOST_US = 10000,
    PROOF_MOST_US = 100,
    TOGGLES = 0x40,
    GAVE_UP = 0x20,
    GAVE_UP_ASKS = 2,
    BUSY_ASKS = 1200,
    BUSY_PAUSE_US = 10000,
    MAKER_MISSING = 0xFF
};

static const struct cm_cycle ID_MODE[] = {{UNLOCK_1, 0xAA}, {UNLOCK_2, 0x55}, {UNLOCK_1, CMD_ID}};
static const struct cm_cycle READ_MODE[] = {
    {UNLOCK_1, 0xAA}, {UNLOCK_2, 0x55}, {UNLOCK_1, CMD_RESET}};

struct cm_exchange *cm_par_exchange(struct cm_session *session, enum cm_data data,
                                    const uint8_t *bytes, const struct cm_cycle *cycles,
                                    uint8_t cycle_count)
{
    static const struct cm_pulse SAFE = {.low_ns = 100, .high_ns = 150}; // of any part
    const struct cm_part *part = cm_likely_part(session);
    struct cm_exchange *exchange = cm_batch_exchange(session, 0, cycle_count, data, bytes);
    exchange->cycles.list = cycles;
    exchange->cycles.pulse = part ? &cm_par_row(part)->times->pulse : &SAFE;
    return exchange;
}

void cm_par_command(struct cm_session *session, const struct cm_cycle *cycles, uint8_t count)
{
    cm_par_exchange(session, CM_DATA_NONE, NULL, cycles, count);
}

void cm_par_add_read(struct cm_session *session, enum cm_data data, uint32_t first,
                     const uint8_t *bytes, uint32_t count)
{
    cm_batch_repeat(session, first, count, 0, 1);
    cm_par_exchange(session, data, bytes, NULL, 0);
}

struct cm_poll *cm_par_add_done(struct cm_session *session, const uint8_t *bytes,
                                uint32_t timeout_us)
{
    struct cm_poll *poll = &cm_batch_add(session, CM_OP_POLL)->poll;
    poll->timeout_us = timeout_us;
    cm_par_exchange(session, CM_DATA_DONE, bytes, NULL, 0);
    return poll;
}

void cm_par_add_lines(struct cm_session *session, uint32_t cycle_ns)
{
    static const uint8_t LINES[] = {CM_LINE_CE, CM_LINE_OE, CM_LINE_WE, CM_LINE_A9_ID, CM_LINE_VPP};
    cm_batch_clock(session, 1000000000u / cycle_ns);
    for (uint8_t i = 0; i < sizeof LINES; i++) {
        if (!(session->port->traits.lines & CM_LINE_BIT(LINES[i])))
            continue;
        struct cm_op *op = cm_batch_add(session, CM_OP_LINE);
        op->line.line = LINES[i];
        op->line.level = LINES[i] <= CM_LINE_WE ? CM_HIGH : CM_LOW;
    }
}

static uint32_t mode_us(const struct cm_session *session)
{
    return session->part ? cm_par_part_of(session)->times->id_us : T_MODE_MOST_US;
}

void cm_par_add_id_mode(struct cm_session *session)
{
    cm_par_command(session, ID_MODE, 3);
    cm_batch_wait(session, mode_us(session));
}

void cm_par_add_read_mode(struct cm_session *session)
{
    cm_par_command(session, READ_MODE, 3);
    cm_batch_wait(session, mode_us(session));
}

void cm_par_add_device(struct cm_session *session)
{
    uint8_t unit = cm_par_unit(session);
    cm_par_add_read(session, CM_DATA_MATCH, unit, session->id + 1, unit);
}

/* A write cycle that is no command begins a page in such a part: then it is data. */
static bool may_load_pages(const struct cm_session *session)
{
    const struct cm_part *part = cm_likely_part(session);
    return !part || cm_par_row(part)->page_bytes > 1;
}

/*
 * A chip that got A0 and lost what came behind takes the next write cycle for the data. FF programs
 * nothing. But it would begin a page, where pages are loaded; so an unknown part does not get it.
 */
void cm_par_add_nothing(struct cm_session *session)
{
    static const struct cm_cycle NOTHING[] = {{0, 0xFFFF}};
    if (!may_load_pages(session))
        cm_par_command(session, NOTHING, 1);
}

static void add_proof(struct cm_session *session)
{
    cm_par_add_id_mode(session);
    cm_par_add_device(session);
    cm_par_add_read_mode(session);
}

void cm_par_add_proof(struct cm_session *session)
{
    if (mode_us(session) <= PROOF_MOST_US)
        add_proof(session);
}

bool cm_par_is_there(struct cm_session *session)
{
    if (session->family != &cm_par)
        return true;
    struct cm_failure record = session->failure;
    cm_batch_begin(session, CM_STEP_NONE, NULL, 0);
    cm_par_add_nothing(session);
    cm_par_add_read_mode(session); // a proof may have been cut off
    add_proof(session);
    bool there = cm_batch_try(session) == CM_OK;
    session->failure = record;
    return there;
}

/* Reads the first units in id mode and out of it: several, since the contents may begin as the id
 * does. On a bus of 16 bits the id is maker, device low, device high. */
static enum cm_status ask(struct cm_session *session)
{
    enum { UNITS = 8 };
    uint8_t shown[2 * UNITS] = {0}, array[2 * UNITS] = {0}, unit = cm_par_unit(session);
    session->tries++;
    cm_batch_begin(session, CM_STEP_IDENTIFY, "id", 0);
    cm_par_add_id_mode(session);
    cm_par_add_read(session, CM_DATA_IN, 0, shown, (uint32_t)UNITS * unit);
    cm_par_add_read_mode(session);
    cm_par_add_read(session, CM_DATA_IN, 0, array, (uint32_t)UNITS * unit);
    cm_par_add_read(session, CM_DATA_MATCH, 0, array, (uint32_t)UNITS * unit);
    enum cm_status status = cm_batch_run(session);
    bool changes = status == CM_DIFFERS; // a command was misread, and something is being written
    if (changes && may_load_pages(session))
        session->doubts |= CM_DOUBT_CONTACT;
    if (changes)
        status = cm_fail(session, CM_OK, CM_STEP_IDENTIFY);
    if (status)
        return status;
    session->id[0] = shown[0];
    session->id[1] = shown[unit];
    session->id[2] = unit == 2 ? shown[3] : 0;
    memcpy(session->failure.answer, shown, 2);
    memcpy(session->failure.answer + 2, array, 2);
    bool answers = memcmp(shown, array, sizeof shown) != 0 && shown[0] != MAKER_MISSING &&
                   shown[0] != 0 && !changes;
    return answers ? CM_OK : CM_NO_CHIP;
}

/*
 * A write may still be under way: then bit 6 changes from one reading to the next. A part that
 * shows bit 5 as well may have given up, and goes on so until it gets a reset, which one that is
 * busy does not hear.
 */
enum cm_status cm_par_wait_while_busy(struct cm_session *session)
{
    static const struct cm_cycle RESET[] = {{0, CMD_RESET}};
    uint8_t now[2] = {0}, then[2] = {0};
    enum cm_status status = CM_OK;
    for (uint16_t i = 0; !status; i++) {
        cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
        if (i == GAVE_UP_ASKS && (now[0] & GAVE_UP) && !may_load_pages(session))
            cm_par_command(session, RESET, 1);
        cm_batch_wait(session, i ? BUSY_PAUSE_US : 0);
        cm_par_add_read(session, CM_DATA_IN, 0, now, cm_par_unit(session));
        cm_par_add_read(session, CM_DATA_IN, 0, then, cm_par_unit(session));
        status = cm_batch_run(session);
        if (status || !((now[0] ^ then[0]) & TOGGLES))
            break;
        if (i == BUSY_ASKS)
            return CM_TIMED_OUT;
    }
    return status;
}

static enum cm_status knock(struct cm_session *session, uint32_t cycle_ns)
{
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    cm_par_add_lines(session, cycle_ns);
    enum cm_status status = cm_batch_run(session);
    session->clock_hz = session->batch.ops[0].clock.real_hz;
    if (!status && may_load_pages(session) && cm_par_is_slow(session))
        return cm_fail(session, CM_PORT_LACKS, CM_STEP_ENTER); // who asks would write
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    cm_par_add_nothing(session); // whoever was here before may have been cut off
    if (!status)
        status = cm_batch_run(session);
    if (!status)
        status = cm_par_wait_while_busy(session);
    if (!status || status == CM_TIMED_OUT) // noise looks so, too
        status = ask(session);
    if (status != CM_NO_CHIP)
        return status;
    status = ask(session); // the first one has ended whatever the chip was in
    const struct cm_par_part *part = cm_par_row(session->asserted);
    if (!status && part && part->page_bytes > 1)
        session->doubts |= CM_DOUBT_CONTACT; // a part of a command is data to such a chip, where
                                             // its protection is off
    return status;
}

enum cm_status cm_par_enter(struct cm_session *session)
{
    cm_fail(session, CM_OK, CM_STEP_ENTER);
    session->tries = 0;
    session->entered = true; // lines are driven from here on
    enum cm_status status = CM_NO_CHIP;
    for (uint32_t ns = FIRST_NS; status == CM_NO_CHIP && ns <= SLOWEST_NS; ns *= SLOWER)
        status = knock(session, ns);
    if (!status)
        return CM_OK;
    cm_par_leave(session);
    session->failure.step = CM_STEP_ENTER; // the last answer stays in the record
    return cm_refine(session, status);
}

enum cm_status cm_par_choose_cycle(struct cm_session *session, uint32_t *ns)
{
    *ns = cm_par_part_of(session)->cycle_ns;
    if (session->cpu_hz && *ns < 1000000000u / session->cpu_hz)
        *ns = 1000000000u / session->cpu_hz;
    bool fits = session->port->traits.data_lines == (cm_par_has(session, CM_PAR_WIDE) ? 16 : 8);
    return fits ? CM_OK : cm_fail(session, CM_PORT_LACKS, CM_STEP_IDENTIFY);
}

/* Brings the bus to the part's own speed, or as fast as the id still comes right. */
enum cm_status cm_par_settle(struct cm_session *session)
{
    uint32_t ns;
    enum cm_status status = cm_par_choose_cycle(session, &ns);
    if (status)
        return status;
    for (status = CM_DIFFERS; status == CM_DIFFERS && ns <= SLOWEST_NS; ns *= 2) {
        cm_batch_begin(session, CM_STEP_IDENTIFY, "id", 0);
        struct cm_op *clock = cm_batch_clock(session, 1000000000u / ns);
        cm_par_add_proof(session);
        status = cm_batch_run(session);
        session->clock_hz = clock->clock.real_hz;
    }
    return status == CM_DIFFERS ? cm_refine(session, CM_CONTACT_LOST) : status;
}

/* The id once more; a part found anew is brought to its speed again. */
enum cm_status cm_par_identify(struct cm_session *session)
{
    uint8_t first[CM_ID_BYTES];
    memcpy(first, session->id, sizeof first);
    enum cm_status status = ask(session);
    if (!status && memcmp(first, session->id, sizeof first) != 0)
        status = CM_CONTACT_LOST;
    if (!status && session->part &&
        memcmp(session->part->id, session->id, session->part->id_bytes) != 0)
        status = CM_CONTACT_LOST;
    if (status)
        return cm_refine(session, status == CM_NO_CHIP ? CM_CONTACT_LOST : status);
    if (session->part)
        return cm_par_settle(session);
    // a part that must be there is not asked for its tables: what asks is data to some
    if (session->asserted || cm_candidate(session, 0) || !session->kit->describe)
        return CM_OK;
    status = session->kit->describe(session);
    return status == CM_UNKNOWN_CHIP ? cm_fail(session, CM_OK, CM_STEP_IDENTIFY) : status;
}

void cm_par_leave(struct cm_session *session)
{
    static const uint8_t LINES[] = {CM_LINE_VPP, CM_LINE_A9_ID, CM_LINE_WE, CM_LINE_OE, CM_LINE_CE};
    if (!session->entered)
        return;
    session->entered = false;
    cm_batch_release(session, LINES, sizeof LINES);
    // by itself: should the first fail, it must not keep this one
    cm_batch_begin(session, CM_STEP_LEAVE, NULL, 0);
    cm_batch_add(session, CM_OP_CLOCK); // 0 Hz: releases the bus
    cm_ignore(cm_batch_try(session));
}
