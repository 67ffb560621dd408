/*
 * The way in: reset, Programming Enable, signature. And running a batch with its place kept at hand.
 *
 * Data sheets, "Serial programming algorithm", steps 1 to 3:
 *
 *     RESET ~~~~~\_______/~~\______________________________
 *     SCK   _________________________________/~\_/~\_ ...
 *                        |  |<-- 20 ms or more -->| AC 53 00 00, and 53 comes back with the third byte
 *                        >= 2 CPU cycles, with SCK low
 *
 * Without the 53, RESET gets another pulse and Programming Enable goes again; the oldest parts are brought into step by single
 * pulses on SCK instead, up to 32 of them. SCK must be low and high for more than 2 CPU cycles each (3 from 12 MHz on), and the CPU
 * may run on anything from 32 kHz to 20 MHz: so a slow clock is tried when the usual one gets no answer.
 *
 * Every part but the AT90S1200 repeats each byte while the next is sent. The sheets promise that for 53 only, so we look whether a part
 * does it for other instructions too, and use it if so: a loose wire shows in the very instruction.
 */
#include "avr.h"
#include <string.h>

static const uint8_t PROGRAMMING_ENABLE[INSTRUCTION] = {0xAC, 0x53, 0x00, 0x00};
static const uint8_t READ_SIGNATURE_0[INSTRUCTION] = {0x30, 0x00, 0x00, 0x00};
static const uint8_t READ_SIGNATURE_1[INSTRUCTION] = {0x30, 0x00, 0x01, 0x00};

enum {
    RESET_LOW_US = 100,      // t_RST is 2.5 us at most
    RESET_PULSE_US = 100,    // two cycles of the slowest clock, 32.768 kHz, are 61 us
    ENTER_WAIT_US = 20000,   // "wait for at least 20 ms"
    TRIES = 3,               // reset pulses at each clock
    SCK_PULSES = 32,         // AT90S sheets: no device after that many
    SLACK = 1024,            // a half of SCK must be longer than two cycles, not as long: one part in 1024 slower
    FAST_CPU_HZ = 12000000,  // from here on a half takes three cycles
    TIMEOUT_FACTOR = 4,      // a busy part gets so many times its data sheet's time before we give up
};

// 200 kHz suits 1 MHz less the 10 % that a factory-trimmed oscillator may be off; 25 kHz the 128 kHz oscillator, 6 kHz a watch crystal.
static const uint32_t SCK_LADDER_HZ[] = {200000, 25000, 6000};
enum { RUNGS = sizeof SCK_LADDER_HZ / sizeof SCK_LADDER_HZ[0] };

const struct cm_avr_part *cm_avr_part_of(const struct cm_session *session)
{
    return (const struct cm_avr_part *)(const void *)session->part; // every row begins with its struct cm_part
}

void cm_avr_begin(struct cm_avr_batch *batch, enum cm_step step, const char *region, uint32_t address)
{
    batch->count = 0;
    batch->verify = NO_OP;
    batch->step = step;
    batch->region = region;
    batch->address = address;
}

struct cm_op *cm_avr_add(struct cm_avr_batch *batch, enum cm_op_kind kind)
{
    struct cm_op *op = &batch->ops[batch->count++];
    memset(op, 0, sizeof *op);
    op->kind = kind;
    return op;
}

void cm_avr_add_instruction(struct cm_session *session, struct cm_avr_batch *batch, const uint8_t *code)
{
    struct cm_op *op = cm_avr_add(batch, CM_OP_SHIFT);
    op->shift.out = code;
    op->shift.bytes = INSTRUCTION;
    op->shift.echo = session->echoes;
}

struct cm_poll cm_avr_ready(const struct cm_session *session, uint32_t t_wd_us)
{
    return (struct cm_poll){.code = {0xF0, 0x00, 0x00, 0x00}, .bytes = INSTRUCTION, .at = 3, .mask = 0x01, .want = 0,
                            .echo = session->echoes, .timeout_us = TIMEOUT_FACTOR * t_wd_us};
}

void cm_avr_add_ready(struct cm_session *session, struct cm_avr_batch *batch, uint32_t t_wd_us)
{
    if (cm_avr_part_of(session)->generation == CM_AVR_POLLED)
        cm_avr_add(batch, CM_OP_POLL)->poll = cm_avr_ready(session, t_wd_us);
    else
        cm_avr_add(batch, CM_OP_WAIT)->wait.us = t_wd_us;
}

static void add_signature(struct cm_session *session, struct cm_avr_batch *batch, enum cm_each_data data, uint8_t *bytes)
{
    struct cm_each *each = &cm_avr_add(batch, CM_OP_EACH)->each;
    *each = (struct cm_each){.code = {0x30}, .bytes = INSTRUCTION, .address_at = 2, .address_bytes = 1, .data_at = 3,
                             .data = data, .echo = session->echoes, .address_mask = 0x03, .count = SIGNATURE_BYTES};
    each->out = bytes;
    each->in = bytes;
}

/* Where the part does not echo, its signature tells whether it is still there. */
static bool is_still_there(struct cm_session *session)
{
    struct cm_avr_batch batch;
    struct cm_trouble trouble;
    cm_avr_begin(&batch, CM_STEP_NONE, NULL, 0);
    add_signature(session, &batch, CM_EACH_MATCH, session->id);
    return cm_port_run(session->port, batch.ops, batch.count, &trouble) == CM_OK;
}

static enum cm_status record(struct cm_session *session, const struct cm_avr_batch *batch, enum cm_status status,
                             const struct cm_trouble *trouble)
{
    const struct cm_op *op = &batch->ops[trouble->op < batch->count ? trouble->op : 0];
    enum cm_step step = batch->step;
    uint32_t address = op->kind == CM_OP_EACH ? op->each.first + trouble->item : batch->address;
    if (trouble->op == batch->verify) {
        step = CM_STEP_VERIFY;
        status = status == CM_DIFFERS ? CM_WRITE_FAILED : status;
    }
    if (status != CM_PORT_FAILED && status != CM_PORT_LACKS && status != CM_CONTACT_LOST && !session->echoes &&
        session->part && !is_still_there(session))
        status = CM_CONTACT_LOST;
    if (status == CM_PORT_FAILED || status == CM_PORT_LACKS || !batch->region)
        return cm_fail(session, status, step);
    return cm_fail_byte(session, status, step, batch->region, address, trouble->expected, trouble->found);
}

enum cm_status cm_avr_run(struct cm_session *session, struct cm_avr_batch *batch)
{
    struct cm_trouble trouble;
    enum cm_status status = cm_port_run(session->port, batch->ops, batch->count, &trouble);
    if (!status)
        return CM_OK;
    session->segment_known = false;
    return record(session, batch, status, &trouble);
}

/* Clock that suits the CPU clock that we were told; 0 where we were not. */
static uint32_t told_clock(const struct cm_session *session)
{
    uint32_t cycles = session->cpu_hz < FAST_CPU_HZ ? 4 : 6;
    uint32_t hz = session->cpu_hz / cycles;
    return hz > SLACK ? hz - hz / SLACK : 0;
}

static bool answers_enable(struct cm_session *session, const uint8_t *answer)
{
    session->echoes = answer[1] == PROGRAMMING_ENABLE[0];
    return answer[2] == PROGRAMMING_ENABLE[1];
}

/* The AT90S1200 says nothing to Programming Enable; its signature shows that it listens. */
static enum cm_status ask_without_echo(struct cm_session *session, bool *answered)
{
    uint8_t first[INSTRUCTION], second[INSTRUCTION];
    struct cm_op ops[] = {
        {.kind = CM_OP_SHIFT, .shift = {.out = READ_SIGNATURE_0, .in = first, .bytes = INSTRUCTION}},
        {.kind = CM_OP_SHIFT, .shift = {.out = READ_SIGNATURE_1, .in = second, .bytes = INSTRUCTION}},
    };
    struct cm_trouble trouble;
    enum cm_status status = cm_port_run(session->port, ops, 2, &trouble);
    session->echoes = false;
    *answered = status == CM_OK && first[3] == 0x1E && second[3] == 0x90;
    return status;
}

/* One reset pulse and one Programming Enable at a clock. */
static enum cm_status knock(struct cm_session *session, uint32_t hz, bool *answered)
{
    uint8_t *answer = session->failure.answer;
    struct cm_op ops[] = {
        {.kind = CM_OP_CLOCK, .clock = {.want_hz = hz}},
        {.kind = CM_OP_LINE, .line = {CM_LINE_RESET, CM_LOW}},
        {.kind = CM_OP_WAIT, .wait = {RESET_LOW_US}},
        {.kind = CM_OP_LINE, .line = {CM_LINE_RESET, CM_HIGH}},
        {.kind = CM_OP_WAIT, .wait = {RESET_PULSE_US}},
        {.kind = CM_OP_LINE, .line = {CM_LINE_RESET, CM_LOW}},
        {.kind = CM_OP_WAIT, .wait = {ENTER_WAIT_US}},
        {.kind = CM_OP_SHIFT, .shift = {.out = PROGRAMMING_ENABLE, .in = answer, .bytes = INSTRUCTION}},
    };
    struct cm_trouble trouble;
    session->tries++;
    enum cm_status status = cm_port_run(session->port, ops, sizeof ops / sizeof ops[0], &trouble);
    session->clock_hz = ops[0].clock.real_hz;
    *answered = status == CM_OK && answers_enable(session, answer);
    return status || *answered ? status : ask_without_echo(session, answered);
}

/* The oldest parts: one pulse on SCK moves a part that is out of step by one bit. */
static enum cm_status nudge(struct cm_session *session, bool *answered)
{
    uint8_t *answer = session->failure.answer;
    struct cm_op ops[] = {
        {.kind = CM_OP_LINE, .line = {CM_LINE_SCK, CM_HIGH}},
        {.kind = CM_OP_WAIT, .wait = {RESET_PULSE_US}},
        {.kind = CM_OP_LINE, .line = {CM_LINE_SCK, CM_LOW}},
        {.kind = CM_OP_WAIT, .wait = {RESET_PULSE_US}},
        {.kind = CM_OP_SHIFT, .shift = {.out = PROGRAMMING_ENABLE, .in = answer, .bytes = INSTRUCTION}},
    };
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; i < SCK_PULSES && !status && !*answered; i++) {
        struct cm_trouble trouble;
        status = cm_port_run(session->port, ops, sizeof ops / sizeof ops[0], &trouble);
        *answered = status == CM_OK && answers_enable(session, answer);
    }
    return status;
}

static enum cm_status try_clock(struct cm_session *session, uint32_t hz, bool *answered)
{
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; i < TRIES && !status && !*answered; i++)
        status = knock(session, hz, answered);
    bool can_nudge = session->port->traits.lines & CM_LINE_BIT(CM_LINE_SCK);
    if (!status && !*answered && can_nudge && hz == SCK_LADDER_HZ[0])
        status = nudge(session, answered);
    return status;
}

/* Does the part repeat the bytes of any instruction, as it does for 53? */
static enum cm_status learn_echo(struct cm_session *session)
{
    uint8_t answer[INSTRUCTION];
    struct cm_op op = {.kind = CM_OP_SHIFT, .shift = {.out = READ_SIGNATURE_1, .in = answer, .bytes = INSTRUCTION}};
    struct cm_trouble trouble;
    enum cm_status status = cm_port_run(session->port, &op, 1, &trouble);
    session->echoes = session->echoes && answer[1] == READ_SIGNATURE_1[0] && answer[2] == READ_SIGNATURE_1[1];
    return status;
}

enum cm_status cm_avr_enter(struct cm_session *session)
{
    uint32_t known = session->clock_hz ? session->clock_hz : told_clock(session);
    bool answered = false;
    cm_fail(session, CM_OK, CM_STEP_ENTER);
    session->tries = 0;
    session->segment_known = false;
    session->entered = true; // lines are driven from here on
    enum cm_status status = known ? try_clock(session, known, &answered) : CM_OK;
    for (uint8_t rung = 0; rung < RUNGS && !status && !answered; rung++)
        status = try_clock(session, SCK_LADDER_HZ[rung], &answered);
    if (!status && answered)
        status = learn_echo(session);
    if (!status && answered)
        return CM_OK;
    uint8_t answer[INSTRUCTION];
    memcpy(answer, session->failure.answer, sizeof answer);
    cm_avr_leave(session);
    session->clock_hz = known;
    cm_fail(session, status ? status : CM_NO_CHIP, CM_STEP_ENTER);
    memcpy(session->failure.answer, answer, sizeof answer);
    return session->failure.status;
}

enum cm_status cm_avr_identify(struct cm_session *session)
{
    struct cm_avr_batch batch;
    uint8_t again[SIGNATURE_BYTES];
    memset(session->id, 0, sizeof session->id);
    cm_avr_begin(&batch, CM_STEP_IDENTIFY, "signature", 0);
    add_signature(session, &batch, CM_EACH_IN, session->id);
    add_signature(session, &batch, CM_EACH_IN, again);
    enum cm_status status = cm_avr_run(session, &batch);
    if (status)
        return status;
    for (uint8_t i = 0; i < SIGNATURE_BYTES; i++) {
        if (again[i] != session->id[i])
            return cm_fail_byte(session, CM_CONTACT_LOST, CM_STEP_IDENTIFY, "signature", i, session->id[i], again[i]);
    }
    return CM_OK;
}

void cm_avr_leave(struct cm_session *session)
{
    if (!session->entered)
        return;
    struct cm_op ops[] = { // the bus first: while RESET is low the target's own pins are inputs
        {.kind = CM_OP_CLOCK, .clock = {.want_hz = 0}},
        {.kind = CM_OP_LINE, .line = {CM_LINE_RESET, CM_RELEASED}},
    };
    struct cm_trouble trouble;
    for (uint32_t i = 0; i < sizeof ops / sizeof ops[0]; i++)
        (void)cm_port_run(session->port, &ops[i], 1, &trouble); // each on its own: one that fails must not keep the other
    session->entered = false;
}
