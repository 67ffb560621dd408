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
#include "run.h"
#include "watch.h"
#include <string.h>

enum slot_state { EMPTY, WAITING, DONE };

enum { PIECE = 16 /* bytes from the line at once */ };
enum { RATE_US = 500000 }; /* a frame must have come by then at a new rate of the line */

static uint32_t now_us(const struct cm_probe *probe)
{
    const struct cm_probe_board *board = probe->board;
#ifndef CM_PROBE_SMALL
    if (board->clock_us)
        return board->clock_us(board->context);
#endif
    return board->port->lines->now_us(board->port);
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

enum owed { NOTHING, PLACE, RESULTS };

/* What the computer is owed: the results that it may not have, if it wants them; and which batch is
 * expected. Those before `sent` have been sent, as far as we know: if it is one of them, it was
 * lost. It is sent when nothing that came in is left to be looked at. */
static void answer(struct cm_probe *probe)
{
    uint8_t owed = probe->owed, window = probe->board->window;
    probe->owed = NOTHING;
    for (uint8_t i = owed == RESULTS ? window : (uint8_t)0; i; i--) {
        uint8_t sequence = (uint8_t)(probe->expected - i);
        const struct cm_probe_slot *slot = slot_of(probe, sequence);
        if (slot->state == DONE && slot->sequence == sequence)
            send_result(probe, slot);
    }
    if (owed)
        send_frame(probe, CM_LINK_AGAIN, probe->received, probe->sent, NULL, 0, NULL);
}

static void owe(struct cm_probe *probe, enum owed what, uint8_t sent)
{
    if (what > probe->owed)
        probe->owed = (uint8_t)what;
    probe->sent = sent;
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
#ifndef CM_PROBE_SMALL
    if (port->parallel && port->parallel->release)
        cm_ignore(port->parallel->release(port));
    if (probe->is_fed && port->lines->supply)
        cm_ignore(port->lines->supply(port, 0));
    probe->is_fed = false;
#endif
    port->lines->wait_us(port, RELEASED_US);
    light(probe, CM_LAMP_BUSY, false);
}

static void end_session(struct cm_probe *probe)
{
    make_safe(probe);
    probe->session = 0;
#ifndef CM_PROBE_SMALL
    probe->is_rate_new = false;
    if (probe->board->set_baud)
        (void)probe->board->set_baud(probe->board->context, 0);
#endif
    light(probe, CM_LAMP_SESSION, false);
}

/* --- a batch ----------------------------------------------------------------------------- */

static void end_in_the_middle(struct cm_probe *probe);

/* On a parallel bus of 16 bits two bytes are one cycle: no chunk ends between them. */
static bool has_whole_units(const struct cm_probe *probe, const struct cm_link_batch *batch)
{
#ifndef CM_PROBE_SMALL
    enum { WIDE = 16 };
    bool is_wide = batch->bus == CM_BUS_PARALLEL && probe->board->port->traits.data_lines == WIDE;
    for (uint8_t i = 0; is_wide && i < batch->op_count; i++) {
        const struct cm_op *op = &batch->ops[i];
        if (op->kind == CM_OP_REPEAT &&
            ((op->repeat.first | op->repeat.count | op->repeat.chunk) & 1))
            return false;
        if (op->kind == CM_OP_EXCHANGE && (op->exchange.count & 1))
            return false;
    }
#else
    (void)probe, (void)batch;
#endif
    return true;
}

static enum cm_status try_batch(struct cm_probe *probe, const struct cm_probe_slot *slot,
                                struct cm_link_batch *batch, struct cm_run *run)
{
    bool is_good =
        cm_link_get_batch(batch, &probe->store, slot->bytes + CM_LINK_HEAD,
                          slot->count - CM_LINK_FRAME, probe->board->buffer_bytes - CM_LINK_HEAD);
    if (!is_good || !has_whole_units(probe, batch)) {
        *batch = (struct cm_link_batch){.data = slot->bytes};
        return CM_BAD_ARGUMENT;
    }
    return batch->continues && probe->has_failed ? CM_DECLINED : cm_probe_run(probe, batch, run);
}

static void do_batch(struct cm_probe *probe, struct cm_probe_slot *slot)
{
    struct cm_link_batch batch;
    struct cm_run run = {.op = 0};
    probe->is_over = false;
    probe->is_working = true;
    probe->pulsed_us = now_us(probe);
    light(probe, CM_LAMP_BUSY, true);
    enum cm_status status = try_batch(probe, slot, &batch, &run);
    probe->is_working = false;
    light(probe, CM_LAMP_BUSY, false);
    light(probe, CM_LAMP_ERROR, status != CM_OK);
    if (probe->is_over) { // nobody waits for it
        end_in_the_middle(probe);
        return;
    }
    cm_probe_keep(slot, status, &batch, &run,
                  probe->board->port->state->restarts - probe->restarts);
    slot->state = DONE;
    probe->has_failed = status != CM_OK;
    probe->expected++;
    send_result(probe, slot);
}

/* --- sessions ---------------------------------------------------------------------------- */

/* Its word goes through the first slot, where nothing is before the first batch. */
static void say_hello(struct cm_probe *probe)
{
    const struct cm_probe_board *board = probe->board;
    const struct cm_link_limits limits = {
        .batch_bytes = (uint32_t)(board->buffer_bytes - CM_LINK_FRAME),
        .ops = probe->store.most_ops,
        .window = board->window,
        .buses = board->buses,
        .fastest_baud = board->fastest_baud,
    };
    uint8_t *payload = board->slots[0].bytes;
    send_frame(
        probe, CM_LINK_HELLO, 0, 0, payload,
        cm_link_put_probe(&limits, board->name, &board->port->traits, payload, board->buffer_bytes),
        NULL);
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
        probe->owed = NOTHING;
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
    uint8_t kind = probe->pending;
    probe->pending = 0;
    if (kind == CM_LINK_HELLO)
        begin_session(probe, probe->pending_session);
    else if (kind == CM_LINK_END)
        say_bye(probe);
    else
        end_session(probe);
}

#ifdef CM_PROBE_SMALL
static void change_rate(struct cm_probe *probe, const uint8_t *payload, size_t count)
{
    (void)probe, (void)payload, (void)count;
}

static void watch_rate(struct cm_probe *probe)
{
    (void)probe;
}
#else
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

static void watch_rate(struct cm_probe *probe)
{
    if (probe->is_rate_new && now_us(probe) - probe->rate_us > RATE_US) {
        probe->is_rate_new = false;
        (void)probe->board->set_baud(probe->board->context, 0);
    }
}
#endif

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
        owe(probe, RESULTS, probe->received);
    } else if (is_due && slot->state != WAITING) {
        if (probe->intake.bytes == probe->small)
            memcpy(slot->bytes, probe->small, probe->intake.count);
        slot->count = probe->intake.count;
        slot->sequence = frame->sequence;
        slot->state = WAITING;
        probe->received++;
    } else if (!is_known) {
        owe(probe, PLACE, frame->sequence);
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

/* HELLO and END; during a batch they end that first. */
static void turn_session(struct cm_probe *probe, const struct cm_link_frame *frame)
{
    if (probe->is_working) {
        probe->pending = frame->kind;
        probe->pending_session = frame->session;
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
#ifndef CM_PROBE_SMALL
    probe->is_rate_new &= !is_ours;
#endif
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
        owe(probe, RESULTS, frame->sequence);
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

/* What has ended is a frame, or was to be one. */
static void take_ended(struct cm_probe *probe, enum cm_link_taken taken)
{
    struct cm_link_intake *intake = &probe->intake;
    struct cm_link_frame frame;
    size_t count = 0;
    if (taken == CM_LINK_WHOLE && cm_link_open(intake, &frame, &count))
        take_frame(probe, &frame, intake->bytes + CM_LINK_HEAD, count);
    else if (probe->session)
        owe(probe, PLACE, (uint8_t)(probe->received + 1));
    begin_intake(probe);
}

/* Takes what the line has, so many bytes at most. False: there is nothing. */
static bool take_some(struct cm_probe *probe, uint8_t most)
{
    uint8_t bytes[PIECE];
    uint8_t count = probe->board->receive(probe->board->context, bytes, most);
    for (uint8_t at = 0; at < count;) {
        enum cm_link_taken taken;
        at = (uint8_t)(at + cm_link_take(&probe->intake, bytes + at, count - at, &taken));
        if (taken == CM_LINK_FULL)
            move_to_slot(probe);
        else if (taken != CM_LINK_MORE)
            take_ended(probe, taken);
    }
    return count != 0;
}

/* Takes all that the line has. */
static void pump(struct cm_probe *probe)
{
    if (!take_some(probe, PIECE))
        return;
    probe->heard_us = now_us(probe);
    while (take_some(probe, PIECE))
        continue;
}

/* The same, and answers. */
static void listen(struct cm_probe *probe)
{
    pump(probe);
    if (probe->owed)
        answer(probe);
}

bool cm_probe_look(struct cm_probe *probe)
{
    pump(probe);
    return !probe->is_over;
}

#ifndef CM_PROBE_SMALL
bool cm_probe_glance(struct cm_probe *probe)
{
    enum { MOST = 4 };
    if (take_some(probe, MOST))
        probe->heard_us = now_us(probe);
    return !probe->is_over;
}
#endif

/* The clock is not looked at in every call: that costs more than many an exchange. */
bool cm_probe_attend(struct cm_probe *probe)
{
    enum { EVERY = 8 };
    listen(probe);
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
    listen(probe);
    struct cm_probe_slot *slot = slot_of(probe, probe->expected);
    if (probe->session && slot->state == WAITING && slot->sequence == probe->expected) {
        do_batch(probe, slot);
        return;
    }
    if (probe->session && now_us(probe) - probe->heard_us > CM_PROBE_SILENCE_US)
        end_session(probe);
    watch_rate(probe);
}
