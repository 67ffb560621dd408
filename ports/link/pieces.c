/*
 * Cutting batches.
 *
 * A probe has room for so many operations and so many bytes. A batch that is larger goes to it in
 * pieces, one behind the other, each of which runs only if the one before it ended well: so it ends
 * where the whole would have ended. What is cut is repeats, between two chunks:
 *
 *     repeat 1000 to 2FFF by 100      ->   repeat 1000 to 17FF     repeat 1800 to 1FFF     ...
 *
 * Bytes cross the line once, however many exchanges move them: a page that is written and then
 * compared lies in the probe's memory once.
 *
 * A comparison mostly fails at once, or not at all. So its first piece is small and goes alone, and
 * each that ends well is followed by one of twice its size. And where several pieces may be on
 * their way, none is much larger than it must be: the probe works on one while the next ones cross
 * the line.
 */
#include "pieces.h"
#include <string.h>

enum { OUT, BOTH, IN };
enum { FIRST_TRUST = 64, HANDY = 1024 };

/* Bytes of a message beside operations and data: its numbers have two bytes or less, or more. */
static uint32_t message_bytes(const struct pieces *pieces)
{
    enum { SMALL = 1 << 14, OF_SMALL = 20, OF_LARGE = 40 };
    return pieces->limits->batch_bytes < SMALL ? OF_SMALL : OF_LARGE;
}

static uint8_t way_of(const struct cm_exchange *exchange)
{
    uint8_t data = exchange->data & CM_DATA_MASK;
    return data == CM_DATA_IN ? IN : data == CM_DATA_BOTH ? BOTH : OUT;
}

static bool moves_data(const struct cm_op *op)
{
    return op->kind == CM_OP_EXCHANGE && (op->exchange.data & CM_DATA_MASK) && op->exchange.in;
}

/* Bytes that an exchange outside of a repeat moves: an instruction of the shift bus one, whatever
 * it says. */
static uint32_t plain_count(const struct pieces *pieces, const struct cm_exchange *exchange)
{
    bool is_shift =
        pieces->run->bus->id == CM_BUS_SHIFT && (exchange->data & CM_DATA_MASK) != CM_DATA_BOTH;
    return exchange->count || !is_shift ? exchange->count : 1;
}

/* --- how much fits ----------------------------------------------------------------------- */

/* Bytes of the chunk that begins `at` bytes behind the repeat's first. */
static uint32_t chunk_at(const struct cm_repeat *repeat, uint32_t at)
{
    uint32_t left = repeat->count - at, mask = repeat->chunk - 1,
             room = mask - ((repeat->first + at) & mask);
    return (room < left - 1 ? room : left - 1) + 1;
}

/* Is it the first of those in the body that move the same bytes? */
static bool is_first_use(const struct cm_op *body, uint32_t index)
{
    for (uint32_t i = 0; i < index; i++) {
        if (moves_data(&body[i]) && body[i].exchange.in == body[index].exchange.in &&
            body[i].exchange.count == body[index].exchange.count)
            return false;
    }
    return true;
}

/* Bytes of the probe's memory that the body needs for a chunk. */
static uint32_t cost_of(const struct cm_op *body, uint32_t ops, uint32_t chunk)
{
    uint32_t cost = 0;
    for (uint32_t i = 0; i < ops; i++) {
        if (moves_data(&body[i]) && is_first_use(body, i))
            cost += body[i].exchange.count ? body[i].exchange.count : chunk;
    }
    return cost;
}

/* May one chunk be cut? Only where each part is a reading of its own. */
static bool can_cut(const struct cm_op *body, uint32_t ops, uint8_t bus)
{
    for (uint32_t i = 0; i < ops; i++) {
        uint8_t data = body[i].exchange.data & CM_DATA_MASK;
        bool reads = data == CM_DATA_IN || data == CM_DATA_MATCH || data == CM_DATA_FITS;
        if (body[i].kind != CM_OP_EXCHANGE || !reads || body[i].exchange.count ||
            (bus == CM_BUS_PARALLEL ? body[i].exchange.head_count != 0
                                    : !body[i].exchange.address_bytes))
            return false;
    }
    return ops != 0;
}

/* The most bytes of a repeat, from `at` on, that fit into so many of memory. */
static uint32_t portion_of(const struct cm_op *op, uint32_t at, uint32_t room, uint8_t bus)
{
    const struct cm_repeat *repeat = &op->repeat;
    uint32_t portion = 0, used = 0;
    while (at + portion < repeat->count) {
        uint32_t chunk = chunk_at(repeat, at + portion), cost = cost_of(op + 1, repeat->ops, chunk);
        if (cost > room - used)
            break;
        used += cost;
        portion += chunk;
    }
    bool is_cut = !portion && can_cut(op + 1, repeat->ops, bus);
    return is_cut ? (room / repeat->ops) & ~1u : portion; // whole units of a wide bus
}

/* --- a piece ----------------------------------------------------------------------------- */

static bool overlap(const struct region *one, const struct region *other)
{
    return one->bytes < other->bytes + other->count && other->bytes < one->bytes + one->count;
}

/* Bytes that one exchange reads and another compares are the same bytes at the probe, too. */
static void join(struct region *region, const struct region *other)
{
    const uint8_t *end = region->bytes + region->count, *its_end = other->bytes + other->count;
    uint8_t *begin = region->bytes < other->bytes ? region->bytes : other->bytes;
    region->count = (uint32_t)((end > its_end ? end : its_end) - begin);
    region->bytes = begin;
    region->way = region->way == other->way ? region->way : BOTH;
}

static bool add_region(struct piece *piece, uint8_t *bytes, uint32_t count, uint8_t way)
{
    struct region fresh = {bytes, count, 0, way};
    for (uint32_t i = 0; i < piece->region_count;) {
        if (!overlap(&piece->regions[i], &fresh)) {
            i++;
            continue;
        }
        join(&fresh, &piece->regions[i]); // which then may overlap others
        piece->regions[i] = piece->regions[--piece->region_count];
        i = 0;
    }
    if (piece->region_count == PIECE_REGIONS)
        return false;
    piece->regions[piece->region_count++] = fresh;
    return true;
}

/* Bytes that an operation takes in a message. Where its data will lie is not known yet. */
static uint32_t bytes_of(const struct pieces *pieces, uint32_t op)
{
    uint8_t bytes[CM_LINK_OP_BYTES];
    return (uint32_t)cm_link_put_op(&pieces->run->ops[op], pieces->run->bus->id,
                                    pieces->limits->batch_bytes, bytes, sizeof bytes);
}

static uint32_t used_by(const struct piece *piece)
{
    uint32_t used = 0;
    for (uint32_t i = 0; i < piece->region_count; i++)
        used += piece->regions[i].count;
    return used;
}

/* Do so many operations still fit? `room`: what they leave for more data. */
static bool fit(const struct pieces *pieces, const struct piece *piece, uint32_t op, uint32_t count,
                uint32_t *room)
{
    uint32_t most = pieces->limits->ops < PIECE_OPS ? pieces->limits->ops : PIECE_OPS;
    uint32_t bytes = message_bytes(pieces) + piece->op_bytes + used_by(piece),
             values = piece->values;
    if (count > most - piece->batch.op_count)
        return false;
    for (uint32_t i = op; i < op + count; i++) {
        bytes += bytes_of(pieces, i);
        values += cm_link_has_value(&pieces->run->ops[i]);
    }
    *room = pieces->limits->batch_bytes - bytes;
    return bytes <= pieces->limits->batch_bytes && values <= CM_LINK_VALUES;
}

static void add_op(struct pieces *pieces, struct piece *piece, uint32_t op)
{
    uint32_t index = piece->batch.op_count;
    piece->op_bytes += bytes_of(pieces, op);
    piece->values += cm_link_has_value(&pieces->run->ops[op]);
    piece->ops[index] = pieces->run->ops[op];
    piece->at[index] = UINT32_MAX;
    piece->from[index] = op;
    piece->batch.op_count++;
}

/* An exchange of a repeat whose first chunks are in an earlier piece: the address has gone out
 * already, where it goes out once only. */
static void carry_on(struct cm_exchange *exchange)
{
    if (!(exchange->data & CM_CHAIN))
        return;
    exchange->data = (uint8_t)(exchange->data & ~CM_CHAIN);
    exchange->head_count = (uint8_t)(exchange->head_count - exchange->address_bytes);
    exchange->address_bytes = 0;
}

static bool add_repeat(struct pieces *pieces, struct piece *piece, uint32_t op, uint32_t portion)
{
    const struct cm_op *ops = pieces->run->ops;
    const struct cm_repeat *repeat = &ops[op].repeat;
    add_op(pieces, piece, op);
    struct cm_repeat *own = &piece->ops[piece->batch.op_count - 1].repeat;
    own->first += pieces->at;
    own->count = portion;
    uint32_t before = cm_repeat_chunks(repeat, pieces->at), chunks = cm_repeat_chunks(own, portion);
    for (uint32_t i = op + 1; i <= op + repeat->ops; i++) {
        uint32_t index = piece->batch.op_count;
        add_op(pieces, piece, i);
        struct cm_exchange *exchange = &piece->ops[index].exchange;
        if (moves_data(&ops[i])) {
            uint32_t skip = exchange->count ? before * exchange->count : pieces->at,
                     count = exchange->count ? chunks * exchange->count : portion;
            exchange->in += skip;
            if (!add_region(piece, exchange->in, count, way_of(exchange)))
                return false;
        }
        if (ops[i].kind == CM_OP_EXCHANGE && pieces->at)
            carry_on(exchange);
    }
    return true;
}

static bool only_compares(const struct cm_op *body, uint32_t ops)
{
    for (uint32_t i = 0; i < ops; i++) {
        uint8_t data = body[i].exchange.data & CM_DATA_MASK;
        bool compares = data == CM_DATA_MATCH || data == CM_DATA_FITS;
        if (body[i].kind == CM_OP_EXCHANGE && data && !compares)
            return false;
    }
    return true;
}

/* Bytes of the repeat at hand that may go into a piece with so much room. */
static uint32_t portion_now(struct pieces *pieces, uint32_t room)
{
    const struct cm_op *op = &pieces->run->ops[pieces->op];
    const uint8_t bus = pieces->run->bus->id;
    uint32_t handy =
        pieces->limits->window > 1 && room > HANDY ? portion_of(op, pieces->at, HANDY, bus) : 0;
    uint32_t most = handy ? handy : portion_of(op, pieces->at, room, bus);
    if (!only_compares(op + 1, op->repeat.ops))
        return most;
    pieces->trust = pieces->trust ? pieces->trust : FIRST_TRUST;
    uint32_t few = pieces->trust < room ? portion_of(op, pieces->at, pieces->trust, bus) : 0;
    pieces->is_careful = few && few < most;
    pieces->trust += pieces->trust < room ? pieces->trust : 0;
    return pieces->is_careful ? few : most;
}

/* A repeat alone in its piece may use the room of its operations for data: those travel ahead, or
 * are there already. */
static uint32_t room_of(const struct pieces *pieces, struct piece *piece, uint32_t room)
{
    const struct cm_op *op = &pieces->run->ops[pieces->op];
    uint32_t all = pieces->limits->batch_bytes - message_bytes(pieces);
    const uint8_t bus = pieces->run->bus->id;
    piece->is_filled = !piece->batch.op_count && op->repeat.count &&
                       portion_of(op, pieces->at, room, bus) < portion_of(op, pieces->at, all, bus);
    return piece->is_filled ? all : room;
}

/* A repeat, or as much of it as fits. False: the piece is full; `pieces` says from where on. */
static bool take_repeat(struct pieces *pieces, struct piece *piece)
{
    const struct cm_op *op = &pieces->run->ops[pieces->op];
    uint32_t left = op->repeat.count - pieces->at, slots = op->repeat.ops + 1u, room = 0;
    if (slots > pieces->run->op_count - pieces->op || !fit(pieces, piece, pieces->op, slots, &room))
        return false;
    room = room_of(pieces, piece, room);
    uint32_t portion = op->repeat.count ? portion_now(pieces, room) : 0;
    portion = portion < left ? portion : left;
    if ((!portion && left) || !add_repeat(pieces, piece, pieces->op, portion))
        return false;
    pieces->at += portion;
    if (portion < left)
        return false;
    pieces->at = 0;
    pieces->op += slots;
    return !piece->is_filled;
}

/* An operation outside of repeats; a poll and its exchange stay together. */
static bool take_plain(struct pieces *pieces, struct piece *piece)
{
    const struct cm_op *ops = pieces->run->ops;
    uint32_t count =
        ops[pieces->op].kind == CM_OP_POLL && pieces->op + 1 < pieces->run->op_count ? 2 : 1;
    uint32_t room = 0, bytes = 0;
    if (!fit(pieces, piece, pieces->op, count, &room))
        return false;
    for (uint32_t i = pieces->op; i < pieces->op + count; i++)
        bytes += moves_data(&ops[i]) ? plain_count(pieces, &ops[i].exchange) : 0;
    if (bytes > room)
        return false;
    for (uint32_t i = 0; i < count; i++, pieces->op++) {
        uint32_t index = piece->batch.op_count;
        add_op(pieces, piece, pieces->op);
        struct cm_exchange *exchange = &piece->ops[index].exchange;
        if (moves_data(&ops[pieces->op]) &&
            !add_region(piece, exchange->in, plain_count(pieces, exchange), way_of(exchange)))
            return false;
    }
    return true;
}

/* Where bytes of the core's lie in the probe's memory. */
static uint32_t place_of(const struct piece *piece, const uint8_t *bytes)
{
    for (uint32_t i = 0; i < piece->region_count; i++) {
        const struct region *region = &piece->regions[i];
        if (bytes >= region->bytes && bytes < region->bytes + region->count)
            return region->at + (uint32_t)(bytes - region->bytes);
    }
    return UINT32_MAX; // of a repeat without a byte
}

/* Each region gets its place: what goes out first, then both ways, then in. */
static void lay_out(struct piece *piece)
{
    struct cm_link_batch *batch = &piece->batch;
    uint32_t at = 0;
    for (uint8_t way = OUT; way <= IN; way++) {
        for (uint32_t i = 0; i < piece->region_count; i++) {
            if (piece->regions[i].way != way)
                continue;
            piece->regions[i].at = at;
            at += piece->regions[i].count;
        }
        batch->kept = way == OUT ? at : batch->kept;
        batch->sent = way == BOTH ? at : batch->sent;
    }
    batch->all = at;
    for (uint32_t i = 0; i < batch->op_count; i++) {
        if (moves_data(&piece->ops[i]))
            piece->at[i] = place_of(piece, piece->ops[i].exchange.in);
    }
}

void fill_piece(struct piece *piece)
{
    for (uint32_t i = 0; i < piece->region_count; i++) {
        const struct region *region = &piece->regions[i];
        if (region->way != IN)
            memcpy(piece->data + region->at, region->bytes, region->count);
    }
}

/* The operations as they go over the line, with an empty first repeat. */
static void take_shape(const struct piece *piece, struct shape *shape)
{
    const struct cm_link_batch *batch = &piece->batch;
    bool has_repeat = false, fits = true;
    *shape = (struct shape){.bytes = {batch->bus}, .count = 1};
    for (uint32_t i = 0; i < batch->op_count; i++) {
        struct cm_op op = piece->ops[i];
        if (op.kind == CM_OP_REPEAT && !has_repeat) {
            has_repeat = true;
            shape->first = op.repeat.first;
            shape->run = op.repeat.count;
            op.repeat.first = op.repeat.count = 0;
        }
        size_t bytes = cm_link_put_op(&op, batch->bus, piece->at[i], shape->bytes + shape->count,
                                      sizeof shape->bytes - shape->count);
        fits &= bytes != 0;
        shape->count += bytes;
    }
    if (!has_repeat || !fits)
        shape->count = 0;
}

void shape_piece(struct piece *piece, struct shape *last)
{
    struct shape shape;
    struct cm_link_batch *batch = &piece->batch;
    take_shape(piece, &shape);
    batch->is_same = shape.count && shape.run && shape.count == last->count &&
                     memcmp(shape.bytes, last->bytes, shape.count) == 0;
    batch->skip = shape.first - (last->first + last->run);
    batch->count = shape.run == last->run ? 0 : shape.run;
    *last = shape;
}

void announce_piece(const struct piece *piece, struct piece *ahead)
{
    uint8_t *data = ahead->data;
    *ahead = *piece;
    ahead->data = ahead->batch.data = data;
    ahead->batch.ops = ahead->ops;
    ahead->batch.at = ahead->at;
    ahead->ops[0].repeat.count = 0; // a repeat that is alone in its piece
    ahead->region_count = 0;
    ahead->batch.sent = ahead->batch.kept = ahead->batch.all = 0;
}

bool needs_result_of(const struct piece *piece, const struct piece *before)
{
    for (uint32_t i = 0; i < piece->region_count; i++) {
        for (uint32_t k = 0; k < before->region_count; k++) {
            if (before->regions[k].way != OUT && overlap(&piece->regions[i], &before->regions[k]))
                return true;
        }
    }
    return false;
}

enum cm_status next_piece(struct pieces *pieces, struct piece *piece)
{
    uint32_t op = pieces->op, at = pieces->at;
    bool goes_on = true;
    pieces->is_careful = false;
    piece->region_count = piece->op_bytes = piece->values = 0;
    piece->is_filled = false;
    piece->batch = (struct cm_link_batch){.bus = pieces->run->bus->id,
                                          .continues = op || at,
                                          .ops = piece->ops,
                                          .at = piece->at,
                                          .data = piece->data};
    while (goes_on && pieces->op < pieces->run->op_count)
        goes_on = pieces->run->ops[pieces->op].kind == CM_OP_REPEAT ? take_repeat(pieces, piece)
                                                                    : take_plain(pieces, piece);
    if (op < pieces->run->op_count && pieces->op == op && pieces->at == at)
        return CM_DECLINED;
    lay_out(piece);
    return CM_OK;
}

void take_back(struct cm_run *run, const struct piece *piece, const struct cm_link_result *result)
{
    for (uint32_t i = 0; i < piece->region_count; i++) {
        const struct region *region = &piece->regions[i];
        uint32_t at = region->at - piece->batch.kept;
        if (region->way != OUT && at + region->count <= result->data_count)
            memcpy(region->bytes, result->data + at, region->count);
    }
    for (uint32_t i = 0; i < piece->batch.op_count; i++) {
        struct cm_op *op = &run->ops[piece->from[i]];
        if (op->kind == CM_OP_CLOCK)
            op->clock.real_hz = piece->ops[i].clock.real_hz;
        else if (op->kind == CM_OP_SENSE)
            op->sense.value = piece->ops[i].sense.value;
    }
    run->op = result->op < piece->batch.op_count ? piece->from[result->op] : run->op_count;
    run->address = result->address;
    run->placed = result->placed;
    run->expected = result->expected;
    run->found = result->found;
}
