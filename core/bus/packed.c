/*
 * Exchanges joined, for ports whose calls are expensive (a system call, a USB transfer). Only they
 * name this file, in struct cm_spi.
 *
 *     06 | 05 ? | 02 address, data | 05 ?        one call: enable, latch, page, first look at busy
 *     03 address ?, ?, ?, ...                    one call a group that is compared
 *     40 | 48 | 40 | 48 ...                      one call: all that a repeat has of an AVR
 *                                                instruction
 *
 * An exchange travels together with the one before it where that one has no check, or one that may
 * be judged late. The first try of a poll travels along, too. The interpreter goes on behind what
 * was done, which `op` tells it. A group that is compared has its address before it.
 */
#include "shift.h"
#include <string.h>

enum { MOST_FRAMES = 6 };

/* Frames of one call, and which operation each belongs to. */
struct pack {
    struct cm_frame frames[MOST_FRAMES];
    uint32_t ops[MOST_FRAMES];
    uint8_t heads[MOST_FRAMES][CM_HEAD_BYTES];
    uint8_t answers[MOST_FRAMES];
    uint32_t bytes;
    uint8_t count;
};

static uint32_t most_bytes(const struct cm_run *run)
{
    uint32_t most = run->port->traits.transfer_max;
    return most ? most : UINT32_MAX;
}

/* Puts the exchange at hand into the next frame; false where it is not for one frame. */
static bool add_frame(const struct cm_run *run, struct pack *pack)
{
    const struct cm_exchange *exchange = run->exchange;
    uint8_t data = cm_data_of(exchange), *head = pack->heads[pack->count],
            head_count = cm_run_head(run, head);
    struct cm_frame *frame = &pack->frames[pack->count];
    *frame = (struct cm_frame){.head = head, .head_count = head_count};
    if (cm_is_compared(exchange) || (exchange->mask && data))
        return false;
    if (exchange->data & CM_CHAIN && run->index)
        frame->head_count -= exchange->address_bytes;
    if (exchange->mask) {
        frame->head_count--;
        frame->in = &pack->answers[pack->count];
        frame->count = 1;
    } else if (data) {
        frame->count = run->count;
        frame->out = data == CM_DATA_IN ? NULL : run->bytes;
        frame->in = data == CM_DATA_OUT ? NULL : run->bytes;
    }
    uint32_t bytes = frame->head_count + frame->count;
    if (bytes > most_bytes(run) - pack->bytes)
        return false;
    pack->bytes += bytes;
    pack->ops[pack->count++] = run->op;
    return true;
}

/* May the next exchange go out before this one is judged? */
static bool goes_on(const struct cm_exchange *exchange)
{
    return !exchange->mask || exchange->data & CM_LATE;
}

/* The exchange that `op` is, or that it polls; as its index. */
static bool find_exchange(const struct cm_run *run, uint32_t op, uint32_t *index)
{
    if (op >= run->end)
        return false;
    bool polls = run->ops[op].kind == CM_OP_POLL && run->ops[op].poll.early_us == 0;
    *index = op + polls;
    return *index < run->end && run->ops[*index].kind == CM_OP_EXCHANGE;
}

static void fill_pack(struct cm_run *run, struct pack *pack)
{
    uint32_t first = run->op, next;
    while (pack->count < MOST_FRAMES && goes_on(run->exchange) &&
           find_exchange(run, run->op + 1, &next)) {
        run->op = next;
        cm_run_load(run);
        if (!add_frame(run, pack))
            break;
    }
    run->op = first;
}

/* Judges the checks in their order. A poll that does not hold yet is the interpreter's: it goes on
 * with it. */
static enum cm_status judge_pack(struct cm_run *run, const struct pack *pack)
{
    for (uint8_t i = 0; i < pack->count; i++) {
        bool is_polled = i > 0 && run->ops[pack->ops[i] - 1].kind == CM_OP_POLL;
        uint32_t before = run->op;
        run->op = pack->ops[i];
        run->exchange = &run->ops[run->op].exchange;
        enum cm_status status = run->exchange->mask ? cm_run_check(run, pack->answers[i]) : CM_OK;
        const struct cm_poll *poll = is_polled ? &run->ops[run->op - 1].poll : NULL;
        if (poll && poll->floating && poll->floating == pack->answers[i])
            return CM_CONTACT_LOST;
        if (poll && status) {
            run->op = before;
            return CM_OK;
        }
        if (status)
            return status;
    }
    return CM_OK;
}

/* One frame for a part of the chunk. */
static enum cm_status read_frame(struct cm_run *run, uint32_t at, uint8_t *bytes, uint32_t count)
{
    uint8_t head[CM_HEAD_BYTES];
    uint32_t chunk = run->address;
    run->address += at;
    struct cm_frame frame = {
        .head = head, .head_count = cm_run_head(run, head), .in = bytes, .count = count};
    run->address = chunk;
    return run->port->spi->frames(run->port, &frame, 1);
}

/* Bytes of one reading: a port may have less room than is wanted. */
static uint32_t room_of(const struct cm_run *run, uint32_t bytes)
{
    uint32_t most = most_bytes(run) - CM_HEAD_BYTES;
    return bytes < most ? bytes : most;
}

static enum cm_status read_all(struct cm_run *run)
{
    enum cm_status status = CM_OK;
    for (uint32_t at = 0, part; at < run->count && !status; at += part) {
        part = room_of(run, run->count - at);
        status = read_frame(run, at, run->bytes + at, part);
    }
    return status;
}

/* --- samples: a few bytes of each chunk ---------------------------------------------------- */

static bool is_sample(const struct cm_run *run)
{
    const struct cm_exchange *exchange = run->exchange;
    return run->repeat && run->repeat->ops == 1 && exchange->count &&
           cm_data_of(exchange) == CM_DATA_IN && !exchange->mask && !(exchange->data & CM_CHAIN);
}

/* Is the chunk at hand the repeat's last? */
static bool is_last_chunk(const struct cm_run *run)
{
    return run->repeat->count - run->at <= run->chunk;
}

/* Those of several chunks, in one call; the run is at the last of them then. */
static enum cm_status read_samples(struct cm_run *run)
{
    enum { MOST = 16 };
    struct cm_frame frames[MOST];
    uint8_t heads[MOST][CM_HEAD_BYTES], count = 0;
    for (uint32_t bytes = 0;;) {
        struct cm_frame *frame = &frames[count];
        *frame = (struct cm_frame){.head = heads[count],
                                   .head_count = cm_run_head(run, heads[count]),
                                   .in = run->bytes,
                                   .count = run->count};
        bytes += frame->head_count + frame->count;
        bool is_full = ++count == MOST || bytes + bytes / count > most_bytes(run);
        if (is_full || is_last_chunk(run))
            return run->port->spi->frames(run->port, frames, count);
        (void)cm_run_next_chunk(run); // there is one
        cm_run_load(run);
    }
}

/* A frame that is longer than a call goes by single calls: their length is free. */
enum cm_status cm_spi_packed(struct cm_run *run)
{
    uint8_t group[CM_GROUP_BYTES];
    const struct cm_exchange *exchange = run->exchange;
    struct pack pack = {.count = 0};
    if (run->port->traits.transfer_max && run->port->traits.transfer_max <= 2 * CM_HEAD_BYTES)
        return cm_spi_plain(run);
    if (cm_is_compared(exchange) && !exchange->mask) {
        uint32_t room = room_of(run, sizeof group);
        if (exchange->address_bytes || run->count > room)
            return cm_run_compare(run, read_frame, group, room);
        enum cm_status status = read_frame(run, 0, group, run->count); // at once: it has no address
        return status ? status : cm_run_judge(run, 0, group, run->count);
    }
    if (is_sample(run) && run->count <= room_of(run, run->count))
        return read_samples(run);
    if (add_frame(run, &pack)) {
        fill_pack(run, &pack);
        enum cm_status status = run->port->spi->frames(run->port, pack.frames, pack.count);
        return status ? status : judge_pack(run, &pack);
    }
    bool splits = exchange->address_bytes && cm_data_of(exchange) == CM_DATA_IN && !exchange->mask;
    return splits ? read_all(run) : cm_spi_plain(run);
}

/* --- instructions of AVR parts ----------------------------------------------------------- */

/* Instructions of one call. Where they are compared, few at first; but not behind a write, nor
 * a second time, where the bytes are expected to be equal. */
static uint32_t group_of(const struct cm_run *run, uint32_t at, uint32_t room)
{
    enum { US_AN_INSTRUCTION = 32 };
    bool is_proof = run->exchange->data & CM_AGAIN || run->repeat->ops > 1,
         is_first = cm_is_compared(run->exchange) && at == 0 && !is_proof;
    uint32_t most = is_first ? 1 + (uint32_t)run->port->traits.call_us / US_AN_INSTRUCTION : room;
    return most < room ? most : room;
}

/* A group of instructions, in one call. `run` is at the first of them. */
static enum cm_status shift_group(struct cm_run *run, uint32_t group)
{
    uint8_t out[CM_GROUP_BYTES], in[CM_GROUP_BYTES], one[CM_SHIFT_BYTES], bytes = 0;
    uint8_t *data = run->bytes;
    uint32_t first = run->address;
    uint32_t i = 0;
    do {
        run->address = first + i;
        run->bytes = data ? data + i : NULL;
        bytes = cm_shift_fill(run, one);
        memcpy(out + i * bytes, one, bytes);
    } while (++i < group);
    enum cm_status status = run->port->spi->shift(run->port, out, in, group * bytes);
    for (i = 0; i < group && !status; i++) {
        run->address = first + i;
        run->bytes = data ? data + i : NULL;
        status = cm_shift_judge(run, out + i * bytes, in + i * bytes, bytes);
    }
    return status;
}

enum cm_status cm_shift_packed(struct cm_run *run)
{
    uint8_t one[CM_SHIFT_BYTES], *data = run->bytes;
    uint32_t first = run->address, count = cm_shift_count(run), most = most_bytes(run);
    most = (most < CM_GROUP_BYTES ? most : CM_GROUP_BYTES) / cm_shift_fill(run, one);
    enum cm_status status = CM_OK;
    for (uint32_t at = 0, group; at < count; at += group) {
        group = group_of(run, at, most ? most : 1);
        group = group < count - at ? group : count - at;
        run->address = first + at;
        run->bytes = data ? data + at : NULL;
        status = shift_group(run, group);
        if (status)
            return status;
    }
    run->address = first;
    return CM_OK;
}
