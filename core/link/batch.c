/*
 * A batch as a message: its operations field by field, its data as one run of bytes behind them.
 */
#include "fields.h"
#include <coldmint/link.h>
#include <string.h>

enum { BUS = 1, CONTINUES, KEPT, ALL, OPS, DATA };
enum { KIND = 1, A, B, C, D, HEAD, SHAPE, COUNT, AT, CYCLES, LOW_NS, HIGH_NS };
enum { CYCLE_ADDRESS = 1, CYCLE_DATA };
enum { SHAPE_BYTES = 9 };

/* --- to write ---------------------------------------------------------------------------- */

/* The members of an operation that is no exchange, as four numbers. */
static void plain_numbers(const struct cm_op *op, uint32_t *numbers)
{
    memset(numbers, 0, 4 * sizeof *numbers);
    switch (op->kind) {
    case CM_OP_SUPPLY:
        numbers[0] = op->supply.mv;
        break;
    case CM_OP_CLOCK:
        numbers[0] = op->clock.want_hz;
        break;
    case CM_OP_LINE:
        numbers[0] = op->line.line;
        numbers[1] = op->line.level;
        break;
    case CM_OP_SENSE:
        numbers[0] = op->sense.line;
        break;
    case CM_OP_WAIT:
        numbers[0] = op->wait.us;
        break;
    case CM_OP_POLL:
        numbers[0] = op->poll.early_us;
        numbers[1] = op->poll.interval_us;
        numbers[2] = op->poll.timeout_us;
        numbers[3] = op->poll.floating;
        break;
    case CM_OP_REPEAT:
        numbers[0] = op->repeat.first;
        numbers[1] = op->repeat.count;
        numbers[2] = op->repeat.chunk;
        numbers[3] = op->repeat.ops;
        break;
    default:
        break;
    }
}

static bool put_cycle(pb_ostream_t *stream, const struct cm_cycle *cycle)
{
    uint8_t bytes[16];
    pb_ostream_t own = pb_ostream_from_buffer(bytes, sizeof bytes);
    return cm_put_number(&own, CYCLE_ADDRESS, cycle->address) &&
           cm_put_number(&own, CYCLE_DATA, cycle->data) &&
           pb_encode_tag(stream, PB_WT_STRING, CYCLES) &&
           pb_encode_string(stream, bytes, own.bytes_written);
}

static bool put_cycles(pb_ostream_t *stream, const struct cm_exchange *exchange)
{
    const struct cm_pulse *pulse = exchange->cycles.pulse;
    bool good = true;
    for (uint8_t i = 0; good && i < exchange->head_count; i++)
        good = put_cycle(stream, &exchange->cycles.list[i]);
    return good && (!pulse || (cm_put_number(stream, LOW_NS, pulse->low_ns) &&
                               cm_put_number(stream, HIGH_NS, pulse->high_ns)));
}

static bool put_exchange(pb_ostream_t *stream, const struct cm_exchange *exchange, uint8_t bus,
                         uint32_t at)
{
    const uint8_t shape[SHAPE_BYTES] = {
        exchange->address_bytes, exchange->address_turn, exchange->address_less,
        exchange->fold_turn,     exchange->fold_mask,    exchange->dummies,
        exchange->mask,          exchange->want,         exchange->data};
    bool good = bus == CM_BUS_PARALLEL
                    ? put_cycles(stream, exchange)
                    : cm_put_bytes(stream, HEAD, exchange->head, exchange->head_count);
    return good && cm_put_bytes(stream, SHAPE, shape, sizeof shape) &&
           cm_put_number(stream, COUNT, exchange->count) && cm_put_number(stream, AT, at + 1);
}

static bool put_op(pb_ostream_t *stream, const struct cm_op *op, uint8_t bus, uint32_t at)
{
    uint8_t bytes[256];
    uint32_t numbers[4];
    pb_ostream_t own = pb_ostream_from_buffer(bytes, sizeof bytes);
    bool good = cm_put_number(&own, KIND, op->kind);
    plain_numbers(op, numbers);
    for (uint8_t i = 0; good && i < 4; i++)
        good = cm_put_number(&own, (uint32_t)A + i, numbers[i]);
    if (good && op->kind == CM_OP_EXCHANGE)
        good = put_exchange(&own, &op->exchange, bus, at);
    return good && pb_encode_tag(stream, PB_WT_STRING, OPS) &&
           pb_encode_string(stream, bytes, own.bytes_written);
}

uint32_t cm_link_put_batch(const struct cm_link_batch *batch, uint8_t *bytes, uint32_t room)
{
    pb_ostream_t stream = pb_ostream_from_buffer(bytes, room);
    bool good = cm_put_number(&stream, BUS, batch->bus) &&
                cm_put_number(&stream, CONTINUES, batch->continues) &&
                cm_put_number(&stream, KEPT, batch->kept) &&
                cm_put_number(&stream, ALL, batch->all);
    for (uint8_t i = 0; good && i < batch->op_count; i++)
        good = put_op(&stream, &batch->ops[i], batch->bus, batch->at[i]);
    good = good && cm_put_bytes(&stream, DATA, batch->data, batch->sent);
    return good ? (uint32_t)stream.bytes_written : 0;
}

/* --- to read ----------------------------------------------------------------------------- */

/* A batch that is being read. */
struct reading {
    const struct cm_link_store *store;
    struct cm_link_batch *batch;
    uint8_t cycles, pulses; /* used of the store */
};

static bool get_plain(struct cm_op *op, const uint32_t *numbers)
{
    switch (op->kind) {
    case CM_OP_SUPPLY:
        op->supply.mv = (uint16_t)numbers[A];
        break;
    case CM_OP_CLOCK:
        op->clock.want_hz = numbers[A];
        op->clock.real_hz = 0;
        break;
    case CM_OP_LINE:
        op->line.line = (uint8_t)numbers[A];
        op->line.level = (uint8_t)numbers[B];
        break;
    case CM_OP_SENSE:
        op->sense.line = (uint8_t)numbers[A];
        op->sense.value = 0;
        break;
    case CM_OP_WAIT:
        op->wait.us = numbers[A];
        break;
    case CM_OP_POLL:
        op->poll = (struct cm_poll){numbers[A], numbers[B], numbers[C], (uint8_t)numbers[D]};
        break;
    case CM_OP_REPEAT:
        op->repeat = (struct cm_repeat){numbers[A], numbers[B], numbers[C], (uint8_t)numbers[D]};
        break;
    default:
        return false;
    }
    return true;
}

static bool get_shape(struct cm_exchange *exchange, const struct cm_field *field)
{
    const uint8_t *shape = field->bytes;
    if (field->count != SHAPE_BYTES)
        return false;
    exchange->address_bytes = shape[0];
    exchange->address_turn = shape[1];
    exchange->address_less = shape[2];
    exchange->fold_turn = shape[3];
    exchange->fold_mask = shape[4];
    exchange->dummies = shape[5];
    exchange->mask = shape[6];
    exchange->want = shape[7];
    exchange->data = shape[8];
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

/* An address is put into the head, and dummies behind it: neither may lie outside. */
static bool is_sane(const struct cm_exchange *exchange)
{
    return exchange->address_bytes <= exchange->head_count && exchange->address_turn < 32 &&
           exchange->fold_turn < 32 &&
           exchange->head_count + exchange->dummies <= sizeof exchange->head;
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

/* Its data lie where it says, as far as the memory goes: the rest is checked when the batch is
 * whole (check_data). */
static bool end_exchange(struct reading *reading, struct cm_exchange *exchange, uint8_t first,
                         const uint32_t *numbers)
{
    uint32_t at = numbers[AT];
    exchange->count = (uint16_t)numbers[COUNT];
    exchange->in = NULL;
    if (at > reading->store->data_bytes)
        return false;
    if (at)
        exchange->in = reading->store->data + at - 1;
    return reading->batch->bus == CM_BUS_PARALLEL ? end_cycles(reading, exchange, first, numbers)
                                                  : is_sane(exchange);
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
    op->kind = (uint8_t)numbers[KIND];
    reading->batch->op_count++;
    return op->kind == CM_OP_EXCHANGE ? end_exchange(reading, &op->exchange, first, numbers)
                                      : get_plain(op, numbers);
}

/* Bytes that an exchange moves in all. An instruction of the shift bus moves one, whatever it says.
 */
static uint64_t moved(const struct cm_exchange *exchange, const struct cm_repeat *repeat,
                      uint8_t bus)
{
    bool is_shift = bus == CM_BUS_SHIFT && (exchange->data & CM_DATA_MASK) != CM_DATA_BOTH;
    uint32_t count = exchange->count || !is_shift ? exchange->count : 1;
    if (!repeat)
        return count;
    if (is_shift && !exchange->count)
        return repeat->count;
    return count ? (uint64_t)count * cm_repeat_chunks(repeat, repeat->count) : repeat->count;
}

/* Writing may go without data: then the head has them, or the fixed byte of the exchange. */
static bool may_lack_data(const struct cm_exchange *exchange, uint8_t bus)
{
    uint8_t data = exchange->data & CM_DATA_MASK;
    return (data == CM_DATA_OUT && (bus == CM_BUS_SHIFT || bus == CM_BUS_PARALLEL)) ||
           (data == CM_DATA_DONE && bus == CM_BUS_PARALLEL);
}

/* No exchange moves bytes outside of the memory; a chunk is a power of two. */
static bool check_data(const struct cm_link_batch *batch, const struct cm_link_store *store)
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
        const uint8_t *from = op->exchange.in;
        uint64_t bytes = moved(&op->exchange, repeat, batch->bus);
        if (!bytes && batch->bus == CM_BUS_THREE_WIRE) // a word without a bit
            return false;
        if (!from && (!bytes || may_lack_data(&op->exchange, batch->bus)))
            continue;
        if (!from || from > store->data + batch->all ||
            bytes > (uint64_t)(store->data + batch->all - from))
            return false;
    }
    return true;
}

static bool get_data(struct reading *reading, const struct cm_field *field)
{
    struct cm_link_batch *batch = reading->batch;
    if (field->count > reading->store->data_bytes)
        return false;
    memcpy(reading->store->data, field->bytes, field->count);
    batch->sent = field->count;
    return true;
}

bool cm_link_get_batch(struct cm_link_batch *batch, const struct cm_link_store *store,
                       const uint8_t *bytes, uint32_t count)
{
    struct reading reading = {.store = store, .batch = batch};
    struct cm_fields fields = {bytes, count, 0};
    struct cm_field field;
    bool good = true, is_damaged = false;
    *batch = (struct cm_link_batch){.ops = store->ops, .data = store->data};
    while (good && cm_next_field(&fields, &field, &is_damaged)) {
        if (field.tag == BUS)
            batch->bus = (uint8_t)field.number;
        else if (field.tag == CONTINUES)
            batch->continues = field.number != 0;
        else if (field.tag == KEPT)
            batch->kept = field.number;
        else if (field.tag == ALL)
            batch->all = field.number;
        else if (field.tag == OPS && field.bytes)
            good = get_op(&reading, &field);
        else if (field.tag == DATA && field.bytes)
            good = get_data(&reading, &field);
    }
    return good && !is_damaged && batch->bus <= CM_BUS_PARALLEL && batch->op_count &&
           batch->all <= store->data_bytes && batch->sent <= batch->all &&
           batch->kept <= batch->sent && check_data(batch, store);
}
