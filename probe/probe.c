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
 */
#include <coldmint/probe.h>
#include <string.h>

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

static void send_frame(struct cm_probe *probe, const struct cm_link_frame *frame)
{
    uint8_t line[CM_LINK_LINE_BYTES(0)];
    probe->board->send(probe->board->context, line, cm_link_encode(frame, NULL, 0, line));
}

static void send_short(struct cm_probe *probe, enum cm_link_kind kind, uint8_t sequence)
{
    const struct cm_link_frame frame = {(uint8_t)kind, sequence, 0, probe->session};
    send_frame(probe, &frame);
}

static void send_slot(struct cm_probe *probe, const struct cm_probe_slot *slot)
{
    if (slot->bytes)
        probe->board->send(probe->board->context, slot->line, slot->bytes);
}

static struct cm_probe_slot *slot_of(const struct cm_probe *probe, uint8_t sequence)
{
    return &probe->board->slots[sequence % probe->board->window];
}

/* --- receiving --------------------------------------------------------------------------- */

/* Takes what the line has into the ring. */
static void pump(struct cm_probe *probe)
{
    const struct cm_probe_board *board = probe->board;
    int byte;
    while (probe->head - probe->tail < board->ring_bytes &&
           (byte = board->receive(board->context)) >= 0) {
        // zeros one behind the other only say that the computer is there
        if (byte || !probe->last_was_zero)
            board->ring[probe->head++ & (board->ring_bytes - 1)] = (uint8_t)byte;
        probe->last_was_zero = byte == 0;
        probe->heard_us = now_us(probe);
    }
}

/* In the midst of a batch: is the computer still there? It is told that we are. */
static void look_at_line(struct cm_probe *probe)
{
    pump(probe);
    uint32_t now = now_us(probe);
    if (now - probe->heard_us > CM_PROBE_SILENCE_US)
        probe->is_silent = true;
    if (now - probe->pulsed_us > CM_PROBE_PULSE_US) {
        probe->pulsed_us = now;
        send_short(probe, CM_LINK_PULSE, probe->expected);
    }
}

/* --- the board's port, with a look at the line in every call ----------------------------- */

static enum cm_status watched_line(const struct cm_port *port, enum cm_line line,
                                   enum cm_level level)
{
    struct cm_probe *probe = port->context;
    look_at_line(probe);
    return probe->is_silent ? CM_PORT_FAILED
                            : probe->board->port->lines->line(probe->board->port, line, level);
}

static enum cm_status watched_sense(const struct cm_port *port, enum cm_line line, uint16_t *value)
{
    struct cm_probe *probe = port->context;
    look_at_line(probe);
    return probe->is_silent ? CM_PORT_FAILED
                            : probe->board->port->lines->sense(probe->board->port, line, value);
}

static enum cm_status watched_supply(const struct cm_port *port, uint16_t mv)
{
    struct cm_probe *probe = port->context;
    probe->is_fed = mv != 0;
    return probe->board->port->lines->supply(probe->board->port, mv);
}

/* Long waits are cut, so that silence ends them. */
static void watched_wait(const struct cm_port *port, uint32_t us)
{
    enum { PIECE_US = 2000 };
    struct cm_probe *probe = port->context;
    const struct cm_port *inner = probe->board->port;
    while (us && !probe->is_silent) {
        uint32_t piece = us < PIECE_US ? us : PIECE_US;
        inner->lines->wait_us(inner, piece);
        look_at_line(probe);
        us -= piece;
    }
}

static uint32_t watched_now(const struct cm_port *port)
{
    const struct cm_port *inner = ((const struct cm_probe *)port->context)->board->port;
    return inner->lines->now_us(inner);
}

static enum cm_status watched_shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                                    uint32_t bytes)
{
    struct cm_probe *probe = port->context;
    look_at_line(probe);
    return probe->is_silent ? CM_PORT_FAILED
                            : probe->board->port->spi->shift(probe->board->port, out, in, bytes);
}

static enum cm_status inner_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    const struct cm_probe *probe = port->context;
    return probe->board->port->spi->clock(probe->board->port, want_hz, real_hz);
}

/* SPI that is made from lines stays so: its calls go through ours. */
static void watch_spi(struct cm_probe *probe, const struct cm_port *inner)
{
    if (!inner->spi || inner->spi == &cm_spi_by_lines)
        return;
    probe->spi =
        (struct cm_spi){.clock = inner->spi->clock ? inner_clock : NULL, .shift = watched_shift};
    probe->port.spi = &probe->spi;
}

/* --- the same for buses in hardware that only some boards have --------------------------- */

#ifndef CM_PROBE_SMALL
static const struct cm_port *inner_of(const struct cm_port *port)
{
    struct cm_probe *probe = port->context;
    look_at_line(probe);
    return probe->is_silent ? NULL : probe->board->port;
}

static enum cm_status parallel_clock(const struct cm_port *port, uint32_t want_hz,
                                     uint32_t *real_hz)
{
    const struct cm_port *inner = inner_of(port);
    return inner ? inner->parallel->clock(inner, want_hz, real_hz) : CM_PORT_FAILED;
}

static enum cm_status parallel_write(const struct cm_port *port, uint32_t address, uint16_t data,
                                     const struct cm_pulse *pulse)
{
    const struct cm_port *inner = inner_of(port);
    return inner ? inner->parallel->write(inner, address, data, pulse) : CM_PORT_FAILED;
}

static enum cm_status parallel_read(const struct cm_port *port, uint32_t address, uint8_t *bytes,
                                    uint32_t count)
{
    const struct cm_port *inner = inner_of(port);
    return inner ? inner->parallel->read(inner, address, bytes, count) : CM_PORT_FAILED;
}

static enum cm_status parallel_release(const struct cm_port *port)
{
    const struct cm_port *inner = ((const struct cm_probe *)port->context)->board->port;
    return inner->parallel->release ? inner->parallel->release(inner) : CM_OK;
}

static enum cm_status i2c_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    const struct cm_port *inner = inner_of(port);
    return inner ? inner->i2c->clock(inner, want_hz, real_hz) : CM_PORT_FAILED;
}

static enum cm_status i2c_transfer(const struct cm_port *port, const struct cm_transfer *transfer)
{
    const struct cm_port *inner = inner_of(port);
    return inner ? inner->i2c->transfer(inner, transfer) : CM_PORT_FAILED;
}

static void watch_others(struct cm_probe *probe, const struct cm_port *inner)
{
    static const struct cm_parallel PARALLEL = {.clock = parallel_clock,
                                                .write = parallel_write,
                                                .read = parallel_read,
                                                .release = parallel_release};
    static const struct cm_i2c I2C = {.clock = i2c_clock, .transfer = i2c_transfer};
    bool by_lines =
        inner->parallel == &cm_parallel_by_lines || inner->parallel == &cm_parallel_by_registers;
    if (inner->parallel && !by_lines)
        probe->port.parallel = &PARALLEL;
    if (inner->i2c && inner->i2c != &cm_i2c_by_lines)
        probe->port.i2c = &I2C;
}
#endif

static void watch(struct cm_probe *probe)
{
    const struct cm_port *inner = probe->board->port;
    probe->port = *inner;
    probe->port.context = probe;
    probe->port.run = NULL;
    probe->port.traits.packs = false;
    probe->lines = (struct cm_lines){.line = inner->lines->line ? watched_line : NULL,
                                     .sense = inner->lines->sense ? watched_sense : NULL,
                                     .supply = inner->lines->supply ? watched_supply : NULL,
                                     .wait_us = watched_wait,
                                     .now_us = watched_now};
    probe->port.lines = &probe->lines;
    watch_spi(probe, inner);
#ifndef CM_PROBE_SMALL
    watch_others(probe, inner);
#endif
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
    probe->is_silent = false;
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
    result->data = probe->board->store.data + batch->kept;
    result->data_count = batch->all - batch->kept;
}

/* The result into its slot, by way of the line that the batch came in. */
static void store_result(struct cm_probe *probe, uint8_t sequence,
                         const struct cm_link_result *result, uint8_t op_count)
{
    const struct cm_probe_board *board = probe->board;
    struct cm_probe_slot *slot = slot_of(probe, sequence);
    const struct cm_link_frame frame = {CM_LINK_RESULT, sequence, 0, probe->session};
    uint32_t bytes = cm_link_put_result(result, board->store.ops, op_count, board->line,
                                        board->store.data_bytes + CM_PROBE_RESULT);
    slot->sequence = sequence;
    slot->bytes = cm_link_encode(&frame, board->line, bytes, slot->line);
}

static void do_batch(struct cm_probe *probe, uint8_t sequence, const uint8_t *payload,
                     uint32_t bytes)
{
    struct cm_link_batch batch;
    struct cm_link_result result = {.status = CM_OK};
    if (!cm_link_get_batch(&batch, &probe->board->store, payload, bytes))
        result.status = CM_BAD_ARGUMENT;
    else if (batch.continues && probe->has_failed)
        result.status = CM_DECLINED;
    else
        run_batch(probe, &batch, &result);
    if (probe->is_silent) { // nobody waits for it
        end_session(probe);
        return;
    }
    result.restarts = probe->board->port->state->restarts - probe->restarts;
    probe->has_failed = result.status != CM_OK;
    probe->expected++;
    store_result(probe, sequence, &result, result.status == CM_BAD_ARGUMENT ? 0 : batch.op_count);
    send_slot(probe, slot_of(probe, sequence));
}

/* --- frames ------------------------------------------------------------------------------ */

static void say_hello(struct cm_probe *probe)
{
    const struct cm_probe_board *board = probe->board;
    struct cm_link_probe facts = {.version = CM_LINK_VERSION,
                                  .data_bytes = board->store.data_bytes,
                                  .ops = board->store.most_ops,
                                  .window = board->window,
                                  .buses = board->buses,
                                  .traits = board->port->traits};
    uint8_t payload[128], line[CM_LINK_LINE_BYTES(sizeof payload)];
    const struct cm_link_frame frame = {CM_LINK_HELLO, 0, 0, probe->session};
    for (uint8_t i = 0; i < CM_LINK_BOARD - 1 && board->name[i]; i++)
        facts.board[i] = board->name[i];
    uint32_t bytes = cm_link_put_probe(&facts, payload, sizeof payload);
    board->send(board->context, line, cm_link_encode(&frame, payload, bytes, line));
}

/* A new session: whatever there was before is over. The same once more is only answered again. */
static void begin_session(struct cm_probe *probe, uint16_t session)
{
    bool is_again = probe->session == session && probe->expected == 0;
    if (!session)
        return;
    if (!is_again) {
        make_safe(probe);
        probe->session = session;
        probe->expected = 0;
        probe->has_failed = false;
        probe->restarts = probe->board->port->state->restarts;
        for (uint8_t i = 0; i < probe->board->window; i++)
            probe->board->slots[i].bytes = 0;
        light(probe, CM_LAMP_SESSION, true);
    }
    say_hello(probe);
}

/* Tells which batch is expected. Those before `sent` have been sent, as far as we know: if it is
 * one of them, it was lost. */
static void send_again(struct cm_probe *probe, uint8_t sent)
{
    const struct cm_link_frame frame = {CM_LINK_AGAIN, probe->expected, sent, probe->session};
    send_frame(probe, &frame);
}

/* The one that is due is run; one that was run gets its result again; one that is too early tells
 * that another is missing. */
static void take_batch(struct cm_probe *probe, const struct cm_link_frame *frame,
                       const uint8_t *payload, uint32_t bytes)
{
    const struct cm_probe_slot *slot = slot_of(probe, frame->sequence);
    uint8_t ahead = (uint8_t)(frame->sequence - probe->expected),
            on_their_way = (uint8_t)(frame->sequence - frame->acknowledged);
    if (ahead == 0 && on_their_way < probe->board->window)
        do_batch(probe, frame->sequence, payload, bytes);
    else if (slot->bytes && slot->sequence == frame->sequence)
        send_slot(probe, slot);
    else
        send_again(probe, frame->sequence);
}

static void answer_ask(struct cm_probe *probe, const struct cm_link_frame *frame)
{
    for (uint8_t i = frame->acknowledged; i != probe->expected; i++) {
        const struct cm_probe_slot *slot = slot_of(probe, i);
        if (slot->sequence == i)
            send_slot(probe, slot);
    }
    send_again(probe, frame->sequence);
}

static void take_frame(struct cm_probe *probe, const struct cm_link_frame *frame,
                       const uint8_t *payload, uint32_t bytes)
{
    if (frame->kind == CM_LINK_HELLO) {
        begin_session(probe, frame->session);
        return;
    }
    if (!probe->session || frame->session != probe->session) {
        send_short(probe, CM_LINK_STRANGER, 0);
        return;
    }
    if (frame->kind == CM_LINK_BATCH) {
        take_batch(probe, frame, payload, bytes);
    } else if (frame->kind == CM_LINK_ASK) {
        answer_ask(probe, frame);
    } else if (frame->kind == CM_LINK_END) {
        send_short(probe, CM_LINK_END, 0);
        end_session(probe);
    }
}

/* The line is whole: what came before its zero. */
static void take_line(struct cm_probe *probe)
{
    struct cm_link_frame frame;
    uint32_t bytes = 0;
    bool is_frame = !probe->line_overflows && probe->line_count &&
                    cm_link_decode(probe->board->line, probe->line_count, &frame, &bytes);
    bool is_damaged = !is_frame && probe->line_count;
    probe->line_count = 0;
    probe->line_overflows = false;
    if (is_frame)
        take_frame(probe, &frame, probe->board->line + CM_LINK_HEAD, bytes);
    else if (is_damaged && probe->session)
        send_again(probe, (uint8_t)(probe->expected + 1));
}

void cm_probe_begin(struct cm_probe *probe)
{
    watch(probe);
    probe->heard_us = now_us(probe);
    make_safe(probe);
}

void cm_probe_step(struct cm_probe *probe)
{
    const struct cm_probe_board *board = probe->board;
    pump(probe);
    while (probe->tail != probe->head) {
        uint8_t byte = board->ring[probe->tail++ & (board->ring_bytes - 1)];
        if (byte == 0) {
            take_line(probe);
            return;
        }
        if (probe->line_count < board->line_bytes)
            board->line[probe->line_count++] = byte;
        else
            probe->line_overflows = true;
    }
    if (probe->session && now_us(probe) - probe->heard_us > CM_PROBE_SILENCE_US)
        end_session(probe);
}
