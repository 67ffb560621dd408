/*
 * A batch as a message: its operations field by field, its data as one run of bytes behind them.
 */
#include "fields.h"
#include <coldmint/link.h>
#include <string.h>

enum { BUS = 1, BEGINS, BACK, IN, OPS, DATA, SAME, SKIP, RUN, FILL, FILLED };
enum { KIND = 1, A, B, C, D, HEAD, SHAPE, COUNT, AT, CYCLES, LOW_NS, HIGH_NS };
enum { CYCLE_ADDRESS = 1, CYCLE_DATA };
enum { SHAPE_BYTES = 9 };

/* --- to write ---------------------------------------------------------------------------- */

/* The members of an operation that is no exchange, as four numbers. */
static void plain_numbers(const struct cm_op *op, uint32_t *numbers)
{
    memset(numbers, 0, 4 * sizeof *numbers);
    if (op->kind == CM_OP_SUPPLY) {
        numbers[0] = op->supply.mv;
    } else if (op->kind == CM_OP_LINE) {
        numbers[0] = op->line.line;
        numbers[1] = op->line.level;
    } else if (op->kind == CM_OP_SENSE) {
        numbers[0] = op->sense.line;
    } else if (op->kind == CM_OP_CLOCK || op->kind == CM_OP_WAIT) {
        numbers[0] = op->wait.us;
    } else {
        numbers[0] = op->repeat.first;
        numbers[1] = op->repeat.count;
        numbers[2] = op->repeat.chunk;
        numbers[3] = op->repeat.ops;
    }
}

_Static_assert(offsetof(struct cm_op, clock.want_hz) == offsetof(struct cm_op, wait.us) &&
                   offsetof(struct cm_op, poll) == offsetof(struct cm_op, wait.us) &&
                   offsetof(struct cm_poll, timeout_us) == offsetof(struct cm_repeat, chunk) &&
                   offsetof(struct cm_poll, floating) == offsetof(struct cm_repeat, ops),
               "operations with numbers are laid out alike");

static void put_cycles(struct cm_message *message, const struct cm_exchange *exchange)
{
    const struct cm_pulse *pulse = exchange->cycles.pulse;
    for (uint8_t i = 0; i < exchange->head_count; i++) {
        uint8_t bytes[16];
        struct cm_message own = {bytes, sizeof bytes, 0, false};
        cm_put_number(&own, CYCLE_ADDRESS, exchange->cycles.list[i].address);
        cm_put_number(&own, CYCLE_DATA, exchange->cycles.list[i].data);
        cm_put_message(message, CYCLES, &own);
    }
    if (pulse) {
        cm_put_number(message, LOW_NS, pulse->low_ns);
        cm_put_number(message, HIGH_NS, pulse->high_ns);
    }
}

/* Small members, the ones that are mostly 0 last: zeros at the end are left out. */
static void put_shape(struct cm_message *message, const struct cm_exchange *exchange)
{
    const uint8_t shape[SHAPE_BYTES] = {
        exchange->data,      exchange->address_bytes, exchange->mask,
        exchange->want,      exchange->dummies,       exchange->address_turn,
        exchange->fold_turn, exchange->fold_mask,     exchange->address_less};
    uint8_t count = SHAPE_BYTES;
    while (count && !shape[count - 1])
        count--;
    cm_put_bytes(message, SHAPE, shape, count);
}

static void put_exchange(struct cm_message *message, const struct cm_exchange *exchange,
                         uint8_t bus, uint32_t at)
{
    if (bus == CM_BUS_PARALLEL)
        put_cycles(message, exchange);
    else
        cm_put_bytes(message, HEAD, exchange->head, exchange->head_count);
    put_shape(message, exchange);
    cm_put_number(message, COUNT, exchange->count);
    cm_put_number(message, AT, at + 1);
}

/* The kind goes as its number plus 1; an exchange, of which there are most, without. */
static void put_members(struct cm_message *message, const struct cm_op *op, uint8_t bus,
                        uint32_t at)
{
    uint32_t numbers[4];
    if (op->kind == CM_OP_EXCHANGE) {
        put_exchange(message, &op->exchange, bus, at);
        return;
    }
    plain_numbers(op, numbers);
    cm_put_number(message, KIND, op->kind + 1u);
    for (uint8_t i = 0; i < 4; i++)
        cm_put_number(message, (uint8_t)(A + i), numbers[i]);
}

static void put_op(struct cm_message *message, const struct cm_op *op, uint8_t bus, uint32_t at)
{
    uint8_t bytes[CM_LINK_OP_BYTES];
    struct cm_message own = {bytes, sizeof bytes, 0, false};
    put_members(&own, op, bus, at);
    cm_put_message(message, OPS, &own);
}

size_t cm_link_put_op(const struct cm_op *op, uint8_t bus, uint32_t at, uint8_t *bytes, size_t room)
{
    struct cm_message message = {bytes, room, 0, false};
    put_op(&message, op, bus, at);
    return message.is_full ? 0 : message.count;
}

/* Bytes that are all the same, as of a blank page, are told and not sent. */
static void put_data(struct cm_message *message, const uint8_t *bytes, uint32_t count)
{
    enum { FEW = 8 };
    uint32_t same = 0;
    while (same < count && bytes[same] == bytes[0])
        same++;
    if (same < count || count < FEW) {
        cm_put_bytes(message, DATA, bytes, count);
        return;
    }
    cm_put_number(message, FILL, bytes[0]);
    cm_put_number(message, FILLED, count);
}

size_t cm_link_put_batch(const struct cm_link_batch *batch, uint8_t *bytes, size_t room)
{
    struct cm_message message = {bytes, room, 0, false};
    if (!batch->is_same)
        cm_put_number(&message, BUS, batch->bus);
    cm_put_number(&message, BEGINS, !batch->continues);
    cm_put_number(&message, BACK, batch->sent - batch->kept);
    cm_put_number(&message, IN, batch->all - batch->sent);
    cm_put_number(&message, SAME, batch->is_same);
    cm_put_number(&message, SKIP, batch->is_same ? batch->skip : 0);
    cm_put_number(&message, RUN, batch->is_same ? batch->count : 0);
    for (uint8_t i = 0; !batch->is_same && i < batch->op_count; i++)
        put_op(&message, &batch->ops[i], batch->bus, batch->at[i]);
    put_data(&message, batch->data, batch->sent);
    return message.is_full ? 0 : message.count;
}

/* --- to read ----------------------------------------------------------------------------- */

/* A batch that is being read. */
struct reading {
    struct cm_link_store *store;
    struct cm_link_batch *batch;
    size_t room;            /* of its memory, at most */
    uint8_t cycles, pulses; /* used of the store */
};

/* Until the memory's place is known, `in` of an exchange holds where its data begin, plus 1. */
static uint8_t *as_place(size_t at)
{
    return (uint8_t *)(uintptr_t)at; // NOLINT: no pointer, until resolve_places
}

/* Clock, wait and repeat begin as a poll does: a number of 32 bits, or several. */
static bool get_plain(struct cm_op *op, const uint32_t *numbers)
{
    if (op->kind > CM_OP_REPEAT)
        return false;
    op->poll = (struct cm_poll){numbers[A], numbers[B], numbers[C], (uint8_t)numbers[D]};
    if (op->kind == CM_OP_SUPPLY) {
        op->supply.mv = (uint16_t)numbers[A];
    } else if (op->kind == CM_OP_LINE) {
        op->line.line = (uint8_t)numbers[A];
        op->line.level = (uint8_t)numbers[B];
    } else if (op->kind == CM_OP_SENSE) {
        op->sense.line = (uint8_t)numbers[A];
        op->sense.value = 0;
    }
    return true;
}

static bool get_shape(struct cm_exchange *exchange, const struct cm_field *field)
{
    uint8_t shape[SHAPE_BYTES] = {0};
    if (field->count > SHAPE_BYTES)
        return false;
    memcpy(shape, field->bytes, field->count);
    exchange->data = shape[0];
    exchange->address_bytes = shape[1];
    exchange->mask = shape[2];
    exchange->want = shape[3];
    exchange->dummies = shape[4];
    exchange->address_turn = shape[5];
    exchange->fold_turn = shape[6];
    exchange->fold_mask = shape[7];
    exchange->address_less = shape[8];
    return true;
}

static bool get_head(struct cm_exchange *exchange, const struct cm_field *field)
{
    if (field->count > sizeof exchange->head)
        return false;
    memcpy(exchange->head, field->bytes, field->count);
    exchange->head_count = (uint8_t)field->count;
    return true;
}

#ifndef CM_PROBE_SMALL
static bool get_cycle(struct reading *reading, const struct cm_field *message)
{
    struct cm_fields fields = {message->bytes, message->count, 0};
    struct cm_field field;
    struct cm_cycle cycle = {0};
    bool is_damaged = false;
    if (!reading->store->cycles || reading->cycles == reading->store->most_cycles)
        return false;
    while (cm_next_field(&fields, &field, &is_damaged)) {
        if (field.tag == CYCLE_ADDRESS)
            cycle.address = field.number;
        else if (field.tag == CYCLE_DATA)
            cycle.data = (uint16_t)field.number;
    }
    reading->store->cycles[reading->cycles++] = cycle;
    return !is_damaged;
}

/* The head of an exchange on a parallel bus: its cycles, and the pulse of all it writes. */
static bool end_cycles(struct reading *reading, struct cm_exchange *exchange, uint8_t first,
                       const uint32_t *numbers)
{
    const struct cm_link_store *store = reading->store;
    if (!store->cycles || reading->pulses == store->most_pulses)
        return false;
    struct cm_pulse *pulse = &store->pulses[reading->pulses++];
    *pulse = (struct cm_pulse){numbers[LOW_NS], numbers[HIGH_NS]};
    exchange->head_count = (uint8_t)(reading->cycles - first);
    exchange->cycles = (struct cm_cycles){store->cycles + first, pulse};
    return true;
}

#else
static bool get_cycle(struct reading *reading, const struct cm_field *message)
{
    (void)reading, (void)message;
    return false;
}

static bool end_cycles(struct reading *reading, struct cm_exchange *exchange, uint8_t first,
                       const uint32_t *numbers)
{
    (void)reading, (void)exchange, (void)first, (void)numbers;
    return false;
}
#endif

/* An address is put into the head, and dummies behind it: neither may lie outside. An instruction,
 * a device's address, and a head whose last byte is checked have one byte at least, in the chunks
 * behind the first of a chain, too. */
static bool is_sane(const struct cm_exchange *exchange, uint8_t bus)
{
    uint8_t bytes = (uint8_t)(exchange->head_count + exchange->dummies);
    if (exchange->data & CM_CHAIN)
        bytes = (uint8_t)(bytes - exchange->address_bytes);
    bool may_be_empty = !exchange->mask && bus != CM_BUS_I2C &&
                        (bus != CM_BUS_SHIFT || (exchange->data & CM_DATA_MASK) == CM_DATA_BOTH);
    return (bytes || may_be_empty) && exchange->address_bytes <= exchange->head_count &&
           exchange->address_turn < 32 && exchange->fold_turn < 32 &&
           exchange->dummies <= (uint8_t)(sizeof exchange->head - exchange->head_count);
}

/* Its data lie where it says: that is checked when the batch is whole (check_data). */
static bool end_exchange(struct reading *reading, struct cm_exchange *exchange, uint8_t first,
                         const uint32_t *numbers)
{
    exchange->count = (uint16_t)numbers[COUNT];
    if (numbers[AT] > reading->room)
        return false;
    exchange->in = as_place((size_t)numbers[AT]);
    return reading->batch->bus == CM_BUS_PARALLEL ? end_cycles(reading, exchange, first, numbers)
                                                  : is_sane(exchange, reading->batch->bus);
}

static bool get_op(struct reading *reading, const struct cm_field *message)
{
    struct cm_fields fields = {message->bytes, message->count, 0};
    struct cm_field field;
    struct cm_op *op = &reading->store->ops[reading->batch->op_count];
    uint32_t numbers[HIGH_NS + 1] = {0};
    uint8_t first = reading->cycles;
    bool good = reading->batch->op_count < reading->store->most_ops, is_damaged = false;
    if (good)
        memset(op, 0, sizeof *op);
    while (good && cm_next_field(&fields, &field, &is_damaged)) {
        if (field.tag == HEAD && field.bytes)
            good = get_head(&op->exchange, &field);
        else if (field.tag == SHAPE && field.bytes)
            good = get_shape(&op->exchange, &field);
        else if (field.tag == CYCLES && field.bytes)
            good = get_cycle(reading, &field);
        else if (field.tag <= HIGH_NS)
            numbers[field.tag] = field.number;
    }
    if (!good || is_damaged)
        return false;
    op->kind = numbers[KIND] ? (uint8_t)(numbers[KIND] - 1) : CM_OP_EXCHANGE;
    reading->batch->op_count++;
    return op->kind == CM_OP_EXCHANGE ? end_exchange(reading, &op->exchange, first, numbers)
                                      : get_plain(op, numbers);
}

/* Bytes that an exchange moves in all; UINT32_MAX: more than there can be. An instruction of the
 * shift bus moves one outside of a repeat, whatever it says. */
static uint32_t moved(const struct cm_exchange *exchange, const struct cm_repeat *repeat,
                      const struct cm_link_batch *batch)
{
    bool is_shift = batch->bus == CM_BUS_SHIFT && (exchange->data & CM_DATA_MASK) != CM_DATA_BOTH;
    uint32_t count = exchange->count;
    if (!repeat)
        return count || !is_shift ? count : 1;
    if (!count)
        return repeat->count;
    uint32_t chunks = cm_repeat_chunks(repeat, repeat->count);
    return chunks > batch->all / count ? UINT32_MAX : count * chunks;
}

/* Writing may go without data: then the head has them, or the fixed byte of the exchange. */
static bool may_lack_data(const struct cm_exchange *exchange, uint8_t bus)
{
    uint8_t data = exchange->data & CM_DATA_MASK;
    return (data == CM_DATA_OUT && (bus == CM_BUS_SHIFT || bus == CM_BUS_PARALLEL)) ||
           (data == CM_DATA_DONE && bus == CM_BUS_PARALLEL);
}

/* No exchange moves bytes outside of the memory; a chunk is a power of two. */
static bool check_data(const struct cm_link_batch *batch)
{
    const struct cm_repeat *repeat = NULL;
    uint32_t end = 0;
    for (uint32_t i = 0; i < batch->op_count; i++) {
        const struct cm_op *op = &batch->ops[i];
        if (i == end)
            repeat = NULL;
        if (op->kind == CM_OP_REPEAT) {
            repeat = &op->repeat;
            end = i + 1 + repeat->ops;
            if (repeat->chunk & (repeat->chunk - 1))
                return false;
        }
        if (op->kind != CM_OP_EXCHANGE || !(op->exchange.data & CM_DATA_MASK))
            continue;
        uintptr_t at = (uintptr_t)op->exchange.in;
        uint32_t bytes = moved(&op->exchange, repeat, batch);
        bool is_empty = repeat && !repeat->count; // it does not run
        bool has_units = batch->bus == CM_BUS_THREE_WIRE || (batch->bus == CM_BUS_PARALLEL && at);
        if (!bytes && !is_empty && has_units) // a word without a bit, a chunk without its last unit
            return false;
        if (is_empty || (!at && (!bytes || may_lack_data(&op->exchange, batch->bus))))
            continue;
        if (!at || at - 1 > batch->all || bytes > batch->all - (at - 1))
            return false;
    }
    return true;
}

/* Pointers in place of places; or the other way round, for the next batch. */
static void resolve_places(struct cm_link_store *store, uint8_t *data)
{
    for (uint8_t i = 0; i < store->op_count; i++) {
        struct cm_exchange *exchange = &store->ops[i].exchange;
        if (store->ops[i].kind == CM_OP_EXCHANGE && exchange->in)
            exchange->in = data ? data + ((uintptr_t)exchange->in - 1)
                                : as_place((size_t)(exchange->in - store->data) + 1);
    }
    store->data = data;
}

/* The operations of the batch before, whose first repeat goes on. */
static bool take_same(struct cm_link_batch *batch, struct cm_link_store *store)
{
    if (!store->data || batch->op_count)
        return false;
    resolve_places(store, NULL);
    batch->bus = store->bus;
    batch->op_count = store->op_count;
    for (uint8_t i = 0; i < batch->op_count; i++) {
        struct cm_repeat *repeat = &store->ops[i].repeat;
        if (store->ops[i].kind != CM_OP_REPEAT)
            continue;
        repeat->first += repeat->count + batch->skip;
        repeat->count = batch->count ? batch->count : repeat->count;
        return true;
    }
    return false;
}

/* The memory lies behind the message, or is the last field of it. Until now `kept` has the bytes
 * that come back, and `all` those that only come in. */
static bool place_memory(struct cm_link_batch *batch, uint8_t fill, uint8_t *bytes, size_t count,
                         size_t room)
{
    if (!batch->data) {
        batch->data = bytes + count;
        if (batch->sent > room - count)
            return false;
        memset(batch->data, fill, (size_t)batch->sent);
    }
    size_t left = room - (size_t)(batch->data - bytes) - (size_t)batch->sent;
    if (batch->kept > batch->sent || batch->all > left)
        return false;
    batch->kept = batch->sent - batch->kept;
    batch->all += batch->sent;
    return true;
}

static void take_number(struct cm_link_batch *batch, uint8_t tag, uint32_t number)
{
    if (tag == BUS)
        batch->bus = (uint8_t)number;
    else if (tag == BEGINS)
        batch->continues = !number;
    else if (tag == BACK)
        batch->kept = number;
    else if (tag == IN)
        batch->all = number;
    else if (tag == SAME)
        batch->is_same = number;
    else if (tag == SKIP)
        batch->skip = number;
    else if (tag == RUN)
        batch->count = number;
    else if (tag == FILLED)
        batch->sent = number;
}

static bool get_fields(struct reading *reading, uint8_t *fill, uint8_t *bytes, size_t count)
{
    struct cm_link_batch *batch = reading->batch;
    struct cm_fields fields = {bytes, count, 0};
    struct cm_field field;
    bool good = true, is_damaged = false;
    while (good && !batch->data && cm_next_field(&fields, &field, &is_damaged)) {
        if (field.tag == OPS && field.bytes) {
            reading->store->data = NULL; // the operations of the batch before are gone
            good = get_op(reading, &field);
        } else if (field.tag == DATA && field.bytes) {
            batch->data = bytes + (field.bytes - bytes);
            batch->sent = (uint32_t)field.count;
        } else if (field.tag == FILL) {
            *fill = (uint8_t)field.number;
        } else if (field.tag < FILL || field.tag == FILLED) {
            // operations are read for their bus: it comes before them
            good = field.tag != BUS || !batch->op_count;
            take_number(batch, (uint8_t)field.tag, field.number);
        }
    }
    return good && !is_damaged;
}

bool cm_link_get_batch(struct cm_link_batch *batch, struct cm_link_store *store, uint8_t *bytes,
                       size_t count, size_t room)
{
    struct reading reading = {.store = store, .batch = batch, .room = room};
    uint8_t fill = 0;
    *batch = (struct cm_link_batch){.ops = store->ops, .continues = true};
    bool good = get_fields(&reading, &fill, bytes, count) &&
                place_memory(batch, fill, bytes, count, room) &&
                (!batch->is_same || take_same(batch, store));
    store->op_count = batch->op_count;
    store->bus = batch->bus;
    good = good && batch->bus <= CM_BUS_PARALLEL && batch->op_count && check_data(batch);
    if (good)
        resolve_places(store, batch->data);
    else
        store->data = NULL;
    return good;
}
