/*
 * Frames by hand, and what is done before a chip is known: listening, and finding its supply.
 */
#include "batch.h"
#include <coldmint/raw.h>
#include <string.h>

/* --- frames ------------------------------------------------------------------------------ */

static void add_select(struct cm_session *session, enum cm_level level)
{
    struct cm_op *op = cm_batch_add(session, CM_OP_LINE);
    op->line.line = CM_LINE_SELECT;
    op->line.level = (uint8_t)level;
}

/* Lets go of all that cm_raw_begin drives. */
static void let_go(struct cm_session *session)
{
    if (!session->entered)
        return;
    session->entered = false;
    cm_batch_begin(session, CM_STEP_LEAVE, NULL, 0);
    cm_batch_add(session, CM_OP_CLOCK);
    cm_batch_memory_lines(session, CM_RELEASED);
    cm_ignore(cm_batch_try(session));
}

static const struct cm_family RAW = {
    .name = "raw", .bus = &cm_bus_spi, .lines = CM_LINE_BIT(CM_LINE_SELECT), .leave = let_go};

enum cm_status cm_raw_begin(struct cm_session *session, uint32_t hz)
{
    cm_fail(session, CM_OK, CM_STEP_ENTER);
    if (RAW.lines & ~session->port->traits.lines)
        return cm_fail(session, CM_PORT_LACKS, CM_STEP_OPEN);
    if (session->part) // release the target, as the family knows how
        session->family->leave(session);
    session->family = &RAW;
    session->part = NULL; // whatever is said by hand, it must be identified anew
    session->entered = true;
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    cm_batch_clock(session, hz);
    cm_batch_memory_lines(session, CM_HIGH);
    enum cm_status status = cm_batch_run(session);
    session->clock_hz = session->batch.ops[0].clock.real_hz;
    return status;
}

/* Bytes that go out before others come in: a head, where they are few; else both are one exchange
 * in both directions, in the workspace. */
static enum cm_status add_frame(struct cm_session *session, const uint8_t *out, uint32_t out_count,
                                uint8_t *in, uint32_t in_count)
{
    uint8_t *whole = session->workspace;
    struct cm_exchange *exchange;
    cm_batch_repeat(session, 0, in_count ? in_count : out_count, 0, 1);
    if (!in_count) {
        cm_batch_exchange(session, 0, 0, CM_DATA_OUT, out);
    } else if (out_count <= sizeof exchange->head) {
        exchange = cm_batch_exchange(session, 0, (uint8_t)out_count, CM_DATA_IN, in);
        for (uint32_t i = 0; i < out_count; i++) // none may be NULL
            exchange->head[i] = out[i];
    } else {
        if (in_count > session->workspace_bytes || out_count > session->workspace_bytes - in_count)
            return cm_fail(session, CM_NO_ROOM, CM_STEP_NONE);
        memset(whole, 0, out_count + in_count);
        memcpy(whole, out, out_count);
        session->batch.ops[0].repeat.count = out_count + in_count;
        cm_batch_exchange(session, 0, 0, CM_DATA_BOTH, whole);
    }
    return CM_OK;
}

enum cm_status cm_raw_frame(struct cm_session *session, const uint8_t *out, uint32_t out_count,
                            uint8_t *in, uint32_t in_count)
{
    cm_fail(session, CM_OK, CM_STEP_NONE);
    if (session->family != &RAW)
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_NONE);
    cm_batch_begin(session, CM_STEP_NONE, NULL, 0);
    enum cm_status status = add_frame(session, out, out_count, in, in_count);
    bool is_whole = !status && in_count && session->batch.ops[1].exchange.in != in;
    if (!status)
        status = cm_batch_run(session);
    if (status) { // the frame may have been cut off half-way: end it
        cm_batch_begin(session, CM_STEP_NONE, NULL, 0);
        add_select(session, CM_HIGH);
        cm_ignore(cm_batch_try(session));
    } else if (is_whole) {
        memcpy(in, session->workspace + out_count, in_count);
    }
    return status;
}

enum cm_status cm_raw_wait(struct cm_session *session, uint32_t us)
{
    cm_batch_begin(session, CM_STEP_NONE, NULL, 0);
    cm_batch_wait(session, us);
    return cm_batch_run(session);
}

/* --- other traffic ----------------------------------------------------------------------- */

uint32_t cm_listen(struct cm_session *session)
{
    static const uint8_t LINES[] = {CM_LINE_SCK, CM_LINE_MOSI, CM_LINE_SELECT};
    enum { LOOKS = 200, PAUSE_US = 37 }; // an odd time, so as not to fall in with a regular clock
    uint32_t changes = 0;
    uint16_t last[sizeof LINES] = {0};
    for (uint32_t look = 0; look < LOOKS; look++) {
        cm_batch_begin(session, CM_STEP_OPEN, NULL, 0);
        for (uint8_t i = 0; i < sizeof LINES; i++) {
            if (session->port->traits.senses & CM_LINE_BIT(LINES[i]))
                cm_batch_add(session, CM_OP_SENSE)->sense.line = LINES[i];
        }
        uint8_t count = session->batch.count;
        cm_batch_wait(session, PAUSE_US);
        if (count == 0 || cm_batch_try(session) != CM_OK)
            return 0;
        for (uint8_t i = 0; i < count; i++) {
            uint16_t value = session->batch.ops[i].sense.value;
            changes += look > 0 && value != last[i];
            last[i] = value;
        }
    }
    return changes;
}

/* --- finding the supply ------------------------------------------------------------------ */

static void switch_off(struct cm_session *session)
{
    enum { DISCHARGE_US = 50000 };
    session->family->leave(session);
    cm_batch_begin(session, CM_STEP_LEAVE, NULL, 0);
    cm_batch_add(session, CM_OP_SUPPLY); // 0 mV
    cm_batch_wait(session, DISCHARGE_US);
    cm_ignore(cm_batch_try(session));
}

/* Asks for the id so often; the first answer that is not right ends it. */
static uint8_t ask_often(struct cm_session *session, enum cm_status *status)
{
    uint8_t good = 0;
    while (*status == CM_OK && good < CM_SUPPLY_ASKS) {
        *status = session->family->identify(session);
        good = (uint8_t)(good + (*status == CM_OK));
    }
    return good;
}

enum cm_status cm_find_supply(struct cm_session *session, const char *name, cm_supply_fn *told,
                              void *context)
{
    enum { STEP_MV = 100 };
    const struct cm_traits *traits = &session->port->traits;
    const struct cm_part *part = cm_part_by_name(session->kits, session->kit_count, name);
    if (!part)
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_IDENTIFY);
    uint16_t most =
        part->supply_max_mv < traits->supply_max_mv ? part->supply_max_mv : traits->supply_max_mv;
    uint16_t least =
        part->supply_min_mv > traits->supply_min_mv ? part->supply_min_mv : traits->supply_min_mv;
    if (most == 0 || least > most)
        return cm_fail(session, CM_PORT_LACKS, CM_STEP_OPEN);
    enum cm_status status = CM_NO_CHIP;
    for (uint16_t mv = most; mv >= least; mv = (uint16_t)(mv - STEP_MV)) {
        status = cm_feed(session, mv);
        if (!status)
            status = cm_identify(session, name);
        struct cm_supply_try tried = {mv, ask_often(session, &status)};
        if (told)
            told(context, &tried);
        if (tried.good == CM_SUPPLY_ASKS)
            return CM_OK;
        switch_off(session);
    }
    session->supply_mv = 0;
    session->part = NULL;
    return cm_fail(session, status == CM_PORT_FAILED ? status : CM_NO_CHIP, CM_STEP_IDENTIFY);
}

/* --- who is on an I2C bus ---------------------------------------------------------------- */

static void release_i2c(struct cm_session *session)
{
    static const uint8_t LINES[] = {CM_LINE_SDA, CM_LINE_SCL};
    cm_batch_release(session, LINES, sizeof LINES);
}

static const struct cm_family SCAN = {.name = "scan", .bus = &cm_bus_i2c, .leave = release_i2c};

enum cm_status cm_scan(struct cm_session *session, uint8_t *answers)
{
    enum { SCAN_HZ = 100000, ADDRESS_BYTES = 16 };
    memset(answers, 0, ADDRESS_BYTES);
    if (!(session->port->traits.lines & CM_LINE_BIT(CM_LINE_SDA)))
        return cm_fail(session, CM_PORT_LACKS, CM_STEP_OPEN);
    if (session->part) // release the target, as the family knows how
        session->family->leave(session);
    session->family = &SCAN;
    session->part = NULL;
    for (uint8_t device = CM_SCAN_FIRST; device <= CM_SCAN_LAST; device++) {
        cm_batch_begin(session, CM_STEP_IDENTIFY, NULL, 0);
        cm_batch_clock(session, SCAN_HZ);
        cm_batch_add(session, CM_OP_POLL); // asked once more, no longer
        cm_batch_exchange(session, device, 1, CM_DATA_NONE, NULL);
        enum cm_status status = cm_batch_run(session);
        if (!status)
            answers[device / 8] |= (uint8_t)(1u << device % 8);
        else if (status != CM_TIMED_OUT)
            return status;
    }
    return CM_OK;
}
