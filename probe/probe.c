/*
 * The portable part of a probe: sessions, batches in order and each once, a target that is safe
 * when nobody speaks.
 *
 *     computer                        probe
 *     HELLO session 17  ------------> releases the target, begins anew
 *                       <------------ HELLO, what it can do
 *     BATCH 0, 1, 2     ------------> runs 0, then 1, then 2
 *                       <------------ RESULT 0, 1, 2; each is kept until the computer has it
 *     ASK               ------------> something was lost
 *                       <------------ the results that are not acknowledged, AGAIN
 *
 * A batch that was run is never run again: what comes twice gets its result again.
 *
 * Each batch on its way has a slot: there its frame lies, its data move in place, and its result
 * stays until the computer has it. Every frame begins in a small place of its own, where the short
 * ones stay, so that they are heard while all slots are in use; a long one moves to the slot of its
 * batch when it has outgrown that.
 */
#include "watch.h"
#include <string.h>

enum slot_state { EMPTY, WAITING, DONE };

enum { RATE_US = 500000 }; /* a frame must have come by then at a new rate of the line */

static uint32_t now_us(const struct cm_probe *probe)
{
    const struct cm_probe_board *board = probe->board;
    return board->clock_us ? board->clock_us(board->context)
                           : board->port->lines->now_us(board->port);
}

static void light(const struct cm_probe *probe, enum cm_lamp lamp, bool on)
{
    if (probe->board->lamp)
        probe->board->lamp(probe->board->context, lamp, on);
}

/* --- sending ----------------------------------------------------------------------------- */

static void send_frame(struct cm_probe *probe, enum cm_link_kind kind, uint8_t sequence,
                       uint8_t acknowledged, const uint8_t *payload, size_t count,
                       const struct cm_link_span *data)
{
    const struct cm_link_frame frame = {(uint8_t)kind, sequence, acknowledged, probe->session};
    const struct cm_link_span spans[2] = {{payload, count},
                                          data ? *data : (struct cm_link_span){NULL, 0}};
    cm_link_send(&frame, spans, probe->board->send, probe->board->context);
}

static void send_short(struct cm_probe *probe, enum cm_link_kind kind, uint8_t sequence)
{
    send_frame(probe, kind, sequence, 0, NULL, 0, NULL);
}

static struct cm_probe_slot *slot_of(const struct cm_probe *probe, uint8_t sequence)
{
    return &probe->board->slots[sequence % probe->board->window];
}

static void send_result(struct cm_probe *probe, const struct cm_probe_slot *slot)
{
    send_frame(probe, CM_LINK_RESULT, slot->sequence, 0, slot->result, slot->result_count,
               &slot->data);
}

/* Tells which batch is expected. Those before `sent` have been sent, as far as we know: if it is
 * one of them, it was lost. */
static void send_again(struct cm_probe *probe, uint8_t sent)
{
    send_frame(probe, CM_LINK_AGAIN, probe->received, sent, NULL, 0, NULL);
}

/* --- safety ------------------------------------------------------------------------------ */

/* As long as a slow target needs to see that its RESET was released. */
enum { RELEASED_US = 1000 };

/* Every line is released, and a supply that we feed is, too. */
static void make_safe(struct cm_probe *probe)
{
    const struct cm_port *port = probe->board->port;
    for (int line = 0; line < CM_LINE_COUNT && port->lines->line; line++) {
        if (port->traits.lines & CM_LINE_BIT(line))
            cm_ignore(port->lines->line(port, (enum cm_line)line, CM_RELEASED));
    }
    if (probe->is_fed && port->lines->supply)
        cm_ignore(port->lines->supply(port, 0));
    probe->is_fed = false;
    port->lines->wait_us(port, RELEASED_US);
    light(probe, CM_LAMP_BUSY, false);
}

static void end_session(struct cm_probe *probe)
{
    make_safe(probe);
    probe->session = 0;
    probe->is_rate_new = false;
    if (probe->board->set_baud)
        (void)probe->board->set_baud(probe->board->context, 0);
    light(probe, CM_LAMP_SESSION, false);
}

/* --- a batch ----------------------------------------------------------------------------- */

static const struct cm_bus *bus_of(const struct cm_probe *probe, uint8_t id)
{
    static const struct cm_bus *const BUSES[] = {
        [CM_BUS_SHIFT] = &cm_bus_shift,           [CM_BUS_SPI] = &cm_bus_spi,
        [CM_BUS_THREE_WIRE] = &cm_bus_three_wire, [CM_BUS_I2C] = &cm_bus_i2c,
#ifndef CM_PROBE_SMALL
        [CM_BUS_PARALLEL] = &cm_bus_parallel,
#endif
    };
    return probe->board->buses >> id & 1 ? BUSES[id] : NULL;
}

/* Runs a batch of the store; what came in is in its memory, behind `kept`. */
static void run_batch(struct cm_probe *probe, const struct cm_link_batch *batch,
                      struct cm_link_result *result)
{
    struct cm_run run = {.port = &probe->port,
                         .bus = bus_of(probe, batch->bus),
                         .ops = batch->ops,
                         .op_count = batch->op_count};
    probe->pulsed_us = now_us(probe);
    light(probe, CM_LAMP_BUSY, true);
    result->status = run.bus ? cm_interpret(&run) : CM_PORT_LACKS;
    light(probe, CM_LAMP_BUSY, false);
    light(probe, CM_LAMP_ERROR, result->status != CM_OK);
    result->op = run.op;
    result->address = run.address;
    result->placed = run.placed;
    result->expected = run.expected;
    result->found = run.found;
    result->data = batch->data + batch->kept;
    result->data_count = batch->all - batch->kept;
}

static void keep_result(struct cm_probe *probe, struct cm_probe_slot *slot,
                        struct cm_link_result *result, const struct cm_link_batch *batch)
{
    size_t count = cm_link_put_result(result, batch->ops, batch->op_count, slot->result,
                                      sizeof slot->result);
    if (!count) { // more values than there is room for
        *result = (struct cm_link_result){.status = CM_PORT_LACKS};
        count = cm_link_put_result(result, NULL, 0, slot->result, sizeof slot->result);
    }
    slot->result_count = (uint8_t)count;
    slot->data = (struct cm_link_span){result->data, result->data_count};
    slot->state = DONE;
    probe->has_failed = result->status != CM_OK;
    probe->expected++;
}

static void end_in_the_middle(struct cm_probe *probe);

static void do_batch(struct cm_probe *probe, struct cm_probe_slot *slot)
{
    struct cm_link_batch batch;
    struct cm_link_result result = {.status = CM_OK};
    probe->is_over = false;
    probe->is_working = true;
    if (!cm_link_get_batch(&batch, &probe->store, slot->bytes + CM_LINK_HEAD,
                           slot->count - CM_LINK_FRAME, probe->board->buffer_bytes - CM_LINK_HEAD)) {
        result.status = CM_BAD_ARGUMENT;
        batch.op_count = 0;
    } else if (batch.continues && probe->has_failed) {
        result.status = CM_DECLINED;
    } else {
        run_batch(probe, &batch, &result);
    }
    probe->is_working = false;
    if (probe->is_over) { // nobody waits for it
        end_in_the_middle(probe);
        return;
    }
    result.restarts = probe->board->port->state->restarts - probe->restarts;
    keep_result(probe, slot, &result, &batch);
    send_result(probe, slot);
}

/* --- sessions ---------------------------------------------------------------------------- */

static void say_hello(struct cm_probe *probe)
{
    const struct cm_probe_board *board = probe->board;
    struct cm_link_probe facts = {.version = CM_LINK_VERSION,
                                  .batch_bytes =
                                      (uint32_t)(board->buffer_bytes - CM_LINK_FRAME),
                                  .ops = probe->store.most_ops,
                                  .window = board->window,
                                  .buses = board->buses,
                                  .fastest_baud = board->fastest_baud,
                                  .traits = board->port->traits};
    uint8_t payload[112];
    for (uint8_t i = 0; i < CM_LINK_BOARD - 1 && board->name[i]; i++)
        facts.board[i] = board->name[i];
    send_frame(probe, CM_LINK_HELLO, 0, 0, payload,
               cm_link_put_probe(&facts, payload, sizeof payload), NULL);
}

/* A new session: whatever there was before is over. The same once more is only answered again. */
static void begin_session(struct cm_probe *probe, uint16_t session)
{
    bool is_again = probe->session == session && probe->received == 0;
    if (!session)
        return;
    if (!is_again) {
        make_safe(probe);
        probe->session = session;
        probe->received = probe->expected = 0;
        probe->has_failed = false;
        probe->store.op_count = 0;
        probe->store.data = NULL;
        probe->restarts = probe->board->port->state->restarts;
        for (uint8_t i = 0; i < probe->board->window; i++)
            probe->board->slots[i].state = EMPTY;
        light(probe, CM_LAMP_SESSION, true);
    }
    say_hello(probe);
}

static void say_bye(struct cm_probe *probe)
{
    send_short(probe, CM_LINK_END, 0);
    end_session(probe);
}

/* A batch was left in the middle, since the computer is silent, or wanted that. */
static void end_in_the_middle(struct cm_probe *probe)
{
    struct cm_link_frame frame = probe->pending;
    probe->pending.kind = 0;
    if (frame.kind == CM_LINK_HELLO)
        begin_session(probe, frame.session);
    else if (frame.kind == CM_LINK_END)
        say_bye(probe);
    else
        end_session(probe);
}

/* The line gets another rate; if nothing is heard at it, the old one comes back. */
static void change_rate(struct cm_probe *probe, const uint8_t *payload, size_t count)
{
    const struct cm_probe_board *board = probe->board;
    if (count != 4)
        return;
    uint32_t baud = (uint32_t)payload[0] | (uint32_t)payload[1] << 8 | (uint32_t)payload[2] << 16 |
                    (uint32_t)payload[3] << 24;
    static const uint8_t NONE[4] = {0};
    bool can = board->set_baud && baud && baud <= board->fastest_baud;
    send_frame(probe, CM_LINK_RATE, 0, 0, can ? payload : NONE, count, NULL);
    if (!can || !board->set_baud(board->context, baud))
        return;
    probe->rate_us = now_us(probe);
    probe->is_rate_new = true;
}

/* --- frames ------------------------------------------------------------------------------ */

/* Into the slot of its batch, if it is not there yet. The one that is due is taken; one that was
 * run gets its result again; one that is too early tells that another is missing. */
static void take_batch(struct cm_probe *probe, const struct cm_link_frame *frame)
{
    struct cm_probe_slot *slot = slot_of(probe, frame->sequence);
    bool is_due = frame->sequence == probe->received &&
                  (uint8_t)(frame->sequence - frame->acknowledged) < probe->board->window;
    bool is_known = slot->state != EMPTY && slot->sequence == frame->sequence;
    if (is_known && slot->state == DONE) {
        send_result(probe, slot);
    } else if (is_due && slot->state != WAITING) {
        if (probe->intake.bytes == probe->small)
            memcpy(slot->bytes, probe->small, probe->intake.count);
        slot->count = probe->intake.count;
        slot->sequence = frame->sequence;
        slot->state = WAITING;
        probe->received++;
    } else if (!is_known) {
        send_again(probe, frame->sequence);
    }
}

/* Results that the computer has are no longer needed. */
static void forget_results(struct cm_probe *probe, uint8_t acknowledged)
{
    for (uint8_t i = 0; i < probe->board->window; i++) {
        struct cm_probe_slot *slot = &probe->board->slots[i];
        uint8_t age = (uint8_t)(acknowledged - slot->sequence - 1);
        if (slot->state == DONE && age < probe->board->window)
            slot->state = EMPTY;
    }
}

static void answer_ask(struct cm_probe *probe, const struct cm_link_frame *frame)
{
    for (uint8_t i = frame->acknowledged; i != probe->expected; i++) {
        const struct cm_probe_slot *slot = slot_of(probe, i);
        if (slot->state == DONE && slot->sequence == i)
            send_result(probe, slot);
    }
    send_again(probe, frame->sequence);
}

/* HELLO and END; during a batch they end that first. */
static void turn_session(struct cm_probe *probe, const struct cm_link_frame *frame)
{
    if (probe->is_working) {
        probe->pending = *frame;
        probe->is_over = true;
    } else if (frame->kind == CM_LINK_HELLO) {
        begin_session(probe, frame->session);
    } else {
        say_bye(probe);
    }
}

static void take_frame(struct cm_probe *probe, const struct cm_link_frame *frame,
                       const uint8_t *payload, size_t count)
{
    bool is_hello = frame->kind == CM_LINK_HELLO;
    bool is_ours = probe->session && frame->session == probe->session;
    probe->is_rate_new &= !is_ours;
    if (!is_ours && !is_hello) {
        send_short(probe, CM_LINK_STRANGER, 0);
        return;
    }
    if (is_hello && is_ours && probe->received == 0) {
        say_hello(probe);
        return;
    }
    if (is_hello || frame->kind == CM_LINK_END) {
        turn_session(probe, frame);
        return;
    }
    forget_results(probe, frame->acknowledged);
    if (frame->kind == CM_LINK_BATCH)
        take_batch(probe, frame);
    else if (frame->kind == CM_LINK_ASK)
        answer_ask(probe, frame);
    else if (frame->kind == CM_LINK_RATE && !probe->is_working)
        change_rate(probe, payload, count);
}

/* A frame that has outgrown the small place goes on in the slot that it says it is for, if nothing
 * there is still needed; else it is lost, and will be asked for again. */
static void move_to_slot(struct cm_probe *probe)
{
    struct cm_link_intake *intake = &probe->intake;
    struct cm_probe_slot *slot = slot_of(probe, probe->small[1]);
    bool is_needed = slot->state == WAITING || (slot->state == DONE && slot->data.count);
    intake->is_damaged = intake->bytes != probe->small || !probe->session || is_needed;
    if (intake->is_damaged)
        return;
    memcpy(slot->bytes, probe->small, intake->count);
    intake->bytes = slot->bytes;
    intake->room = probe->board->buffer_bytes;
}

static void begin_intake(struct cm_probe *probe)
{
    probe->intake.bytes = probe->small;
    probe->intake.room = sizeof probe->small;
}

static void take_byte(struct cm_probe *probe, uint8_t byte)
{
    struct cm_link_intake *intake = &probe->intake;
    struct cm_link_frame frame;
    size_t count = 0;
    enum cm_link_taken taken = cm_link_take(intake, byte);
    if (taken == CM_LINK_FULL) {
        move_to_slot(probe);
        taken = cm_link_take(intake, byte);
    }
    if (taken == CM_LINK_MORE)
        return;
    if (taken == CM_LINK_WHOLE && cm_link_open(intake->bytes, intake->count, &frame, &count))
        take_frame(probe, &frame, intake->bytes + CM_LINK_HEAD, count);
    else if (probe->session)
        send_again(probe, (uint8_t)(probe->received + 1));
    begin_intake(probe);
}

/* Takes what the line has. */
static void pump(struct cm_probe *probe)
{
    const struct cm_probe_board *board = probe->board;
    int byte = board->receive(board->context);
    if (byte < 0)
        return;
    probe->heard_us = now_us(probe);
    for (; byte >= 0; byte = board->receive(board->context))
        take_byte(probe, (uint8_t)byte);
}

/* The clock is not looked at in every call: that costs more than many an exchange. */
bool cm_probe_look(struct cm_probe *probe)
{
    enum { EVERY = 8 };
    pump(probe);
    if (++probe->looks % EVERY)
        return !probe->is_over;
    uint32_t now = now_us(probe);
    if (now - probe->heard_us > CM_PROBE_SILENCE_US)
        probe->is_over = true;
    if (now - probe->pulsed_us > CM_PROBE_PULSE_US) {
        probe->pulsed_us = now;
        send_short(probe, CM_LINK_PULSE, probe->expected);
    }
    return !probe->is_over;
}

/* --- all --------------------------------------------------------------------------------- */

void cm_probe_begin(struct cm_probe *probe)
{
    cm_probe_watch(probe);
    begin_intake(probe);
    probe->heard_us = now_us(probe);
    make_safe(probe);
}

void cm_probe_step(struct cm_probe *probe)
{
    const struct cm_probe_board *board = probe->board;
    pump(probe);
    struct cm_probe_slot *slot = slot_of(probe, probe->expected);
    if (probe->session && slot->state == WAITING && slot->sequence == probe->expected) {
        do_batch(probe, slot);
        return;
    }
    uint32_t now = now_us(probe);
    if (probe->session && now - probe->heard_us > CM_PROBE_SILENCE_US)
        end_session(probe);
    if (probe->is_rate_new && now - probe->rate_us > RATE_US) {
        probe->is_rate_new = false;
        (void)board->set_baud(board->context, 0);
    }
}
