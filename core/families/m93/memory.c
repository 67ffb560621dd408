/*
 * Serial EEPROMs of three wires: the way in, the memory, and the family's table of functions. The
 * instructions are core/bus/three_wire.c.
 *
 * Every reading begins with a 0 that a wire which is pulled up does not show: that proves the part
 * is there, and has as many address bits as its name says, for a larger part would not have
 * answered yet. A word is written over without an erase.
 */
#include "../../job/batch.h"
#include "../../job/simple.h"
#include <coldmint/job.h>
#include <coldmint/m93.h>
#include <string.h>

enum { READY_US = 20000, FIRST_HZ = 250000, PORTION = 16, TRIES = 4 };
enum { OP_SPECIAL = 0, OP_WRITE = 1, OP_READ = 2, SPECIAL_DISABLE = 0, SPECIAL_ENABLE = 3 };
static const char NAME[] = "eeprom";

/* What the driver remembers of the chip. */
struct cm_m93_state {
    struct cm_word_state word;
    bool reads_on;   /* it has shown that behind a word comes the next */
    bool pulled_low; /* MISO is low where nobody drives it */
};

static struct cm_m93_state *state_of(const struct cm_session *session)
{
    return session->state;
}

static const struct cm_m93_part *part_of(const struct cm_session *session)
{
    return cm_m93_row(session->part);
}

/*
 * Adds an instruction: start bit, two bits of opcode, the word's address, and so many bits more,
 * which are 0 or the word. All of it but the word is the head, filled up in front to two bytes.
 */
static struct cm_exchange *add(struct cm_session *session, uint8_t opcode, uint8_t bits_behind,
                               enum cm_data data, const uint8_t *bytes)
{
    enum { START = 4, HEAD = 2 };
    const struct cm_m93_part *part = part_of(session);
    uint8_t shift = (uint8_t)(part->address_bits + bits_behind), halved = part->word_bytes == 2;
    uint16_t head = (uint16_t)((START | opcode) << shift);
    struct cm_exchange *exchange =
        cm_batch_exchange(session, (uint8_t)(head >> 8), HEAD, data, bytes);
    exchange->data |= halved ? CM_WORDS : 0;
    exchange->head[1] = (uint8_t)head;
    exchange->address_bytes = HEAD;
    exchange->address_turn = (uint8_t)((halved - bits_behind) & 31);
    return exchange;
}

/* The last bit of the head is the 0 that the part puts before its data; a pulled-up wire shows 1.
 */
static void add_read(struct cm_session *session, enum cm_data data, const uint8_t *bytes)
{
    add(session, OP_READ, 1, data, bytes)->mask = 0x01;
}

/* Write enable or disable, with the two highest address bits; the rest of the address is 0. */
static void add_special(struct cm_session *session, uint8_t which)
{
    struct cm_exchange *exchange = add(session, OP_SPECIAL, 0, CM_DATA_NONE, NULL);
    uint16_t bits = (uint16_t)(which << (part_of(session)->address_bits - 2));
    exchange->address_bytes = 0;
    exchange->head[0] |= (uint8_t)(bits >> 8);
    exchange->head[1] |= (uint8_t)bits;
}

/* Selected again, MISO is low until a write is done. */
static void add_ready(struct cm_session *session)
{
    cm_batch_add(session, CM_OP_POLL)->poll.timeout_us = READY_US;
    struct cm_exchange *exchange = cm_batch_exchange(session, 0, 0, CM_DATA_NONE, NULL);
    exchange->dummies = 1;
    exchange->mask = exchange->want = 0x01;
}

static struct cm_op *add_clock(struct cm_session *session, uint32_t hz)
{
    return cm_batch_clock(session, session->cpu_hz && session->cpu_hz < hz ? session->cpu_hz : hz);
}

static void leave(struct cm_session *session)
{
    static const uint8_t LINES[] = {CM_LINE_SELECT};
    if (!session->entered)
        return;
    session->entered = false;
    cm_batch_begin(session, CM_STEP_LEAVE, NULL, 0);
    cm_batch_add(session, CM_OP_CLOCK); // 0 Hz: releases the bus
    cm_ignore(cm_batch_try(session));
    cm_batch_release(session, LINES, sizeof LINES);
}

/* A chunk is a word; or a portion, of a part that reads on. */
static enum cm_status read_chunks(struct cm_session *session, enum cm_access_kind kind,
                                  uint32_t address, uint8_t *bytes, uint32_t count, uint32_t chunk)
{
    cm_batch_begin(session, kind == CM_ACCESS_READ ? CM_STEP_READ : CM_STEP_COMPARE, NAME, address);
    cm_batch_repeat(session, address, count, chunk, 1);
    add_read(session, (enum cm_data)kind, bytes);
    return cm_batch_run(session);
}

/* One byte of the memory is not 0: that no pull-down can say. */
static enum cm_status find_any_one(struct cm_session *session)
{
    const struct cm_m93_part *part = part_of(session);
    enum cm_status status = CM_OK;
    for (uint32_t at = 0; !status && at < part->bytes; at += PORTION) {
        uint8_t bytes[PORTION], any = 0;
        status = read_chunks(session, CM_ACCESS_READ, at, bytes, PORTION, part->word_bytes);
        for (uint8_t i = 0; i < PORTION; i++)
            any |= bytes[i];
        if (!status && any)
            return CM_OK;
    }
    return status ? status : cm_fail_byte(session, CM_TIMED_OUT, CM_STEP_ENTER, NAME, 0, 1, 0);
}

/*
 * Deselected, then ready: a line that is held low is not. But a part drives it only behind a write;
 * else a pull-down on the board holds it low. That is believed when the part is looked for by its
 * name, and proven by its contents, then and each time that it is found again.
 */
static enum cm_status wait_ready(struct cm_session *session, struct cm_op *clock)
{
    struct cm_m93_state *state = state_of(session);
    enum cm_status status = cm_batch_run(session);
    session->clock_hz = clock->clock.real_hz;
    if (status != CM_TIMED_OUT)
        return status;
    if (session->part)
        return state->pulled_low ? find_any_one(session) : status;
    state->pulled_low = session->asserted != NULL;
    return state->pulled_low ? cm_fail(session, CM_OK, CM_STEP_ENTER) : status;
}

static enum cm_status enter(struct cm_session *session)
{
    cm_fail(session, CM_OK, CM_STEP_ENTER);
    session->tries = 1;
    session->entered = true; // lines are driven from here on
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    struct cm_op *clock = add_clock(session, FIRST_HZ);
    cm_batch_add(session, CM_OP_LINE)->line.line = CM_LINE_SELECT; // to CM_LOW, which is 0
    add_ready(session);
    enum cm_status status = wait_ready(session, clock);
    if (!status)
        return CM_OK;
    leave(session);
    session->failure.step = CM_STEP_ENTER;
    return cm_refine(session, status == CM_TIMED_OUT ? CM_NO_CHIP : status);
}

static bool region(const struct cm_part *any, uint8_t index, struct cm_region *out)
{
    if (index != CM_REGION_MAIN)
        return false;
    *out = (struct cm_region){NAME,    0,    cm_m93_row(any)->bytes,
                              PORTION, 0xFF, CM_REGION_WRITABLE | CM_REGION_REWRITES};
    return true;
}

/* Words are enabled, written, waited for and read back; then writing is disabled again, whatever
 * came of it. */
static enum cm_status program_words(struct cm_session *session, uint32_t address,
                                    const uint8_t *bytes, uint32_t count)
{
    enum { OPS = 4 };
    uint8_t word_bytes = part_of(session)->word_bytes;
    cm_batch_begin(session, CM_STEP_PROGRAM, NAME, address);
    add_special(session, SPECIAL_ENABLE);
    cm_batch_repeat(session, address, count, word_bytes, OPS);
    add(session, OP_WRITE, 0, CM_DATA_OUT, bytes);
    add_ready(session);
    cm_batch_verify(session);
    add_read(session, CM_DATA_MATCH, bytes);
    add_special(session, SPECIAL_DISABLE);
    enum cm_status status = cm_batch_run(session);
    if (!status)
        return CM_OK;
    cm_batch_begin(session, CM_STEP_PROGRAM, NULL, 0);
    add_special(session, SPECIAL_DISABLE);
    cm_ignore(cm_batch_try(session));
    return status;
}

static enum cm_status read_words(struct cm_session *session, enum cm_access_kind kind,
                                 uint32_t address, uint8_t *bytes, uint32_t count)
{
    return read_chunks(session, kind, address, bytes, count,
                       state_of(session)->reads_on ? PORTION : part_of(session)->word_bytes);
}

/*
 * Does this one read on, as parts of its name do? One that does not shows the same again and again
 * behind the first word. So there must be a portion that is not so, and reads alike in both ways.
 */
static enum cm_status try_to_read_on(struct cm_session *session)
{
    const struct cm_m93_part *part = part_of(session);
    uint8_t words[PORTION], *second = words + part->word_bytes;
    enum cm_status status = CM_OK;
    state_of(session)->reads_on = false;
    for (uint32_t at = 0; !status && part->reads_on && at < part->bytes;
         at += part->bytes / TRIES) {
        status = read_chunks(session, CM_ACCESS_READ, at, words, PORTION, part->word_bytes);
        if (status ||
            memcmp(second, second + part->word_bytes, PORTION - 2u * part->word_bytes) == 0)
            continue;
        status = read_chunks(session, CM_ACCESS_AGAIN, at, words, PORTION, PORTION);
        state_of(session)->reads_on = status == CM_OK;
        return status == CM_DIFFERS ? CM_OK : status;
    }
    return status;
}

static enum cm_status settle(struct cm_session *session)
{
    uint8_t word[2];
    cm_batch_begin(session, CM_STEP_IDENTIFY, NAME, 0);
    struct cm_op *clock = add_clock(session, part_of(session)->clock_hz);
    cm_batch_repeat(session, 0, part_of(session)->word_bytes, 0, 1);
    add_read(session, CM_DATA_IN, word);
    enum cm_status status = cm_batch_run(session);
    session->clock_hz = clock->clock.real_hz;
    if (!status && state_of(session)->pulled_low)
        status = find_any_one(session);
    if (!status)
        status = try_to_read_on(session);
    bool is_nobody = status == CM_CONTACT_LOST || status == CM_TIMED_OUT;
    return is_nobody ? cm_refine(session, CM_NO_CHIP) : status;
}

/* Words that are right already are left out of a portion: each takes 5 ms, and some wear. */
static enum cm_status program_portion(struct cm_session *session, uint32_t address,
                                      const uint8_t *bytes, uint32_t count)
{
    uint8_t found[PORTION], word = part_of(session)->word_bytes;
    enum cm_status status = read_words(session, CM_ACCESS_READ, address, found, count);
    for (uint32_t at = 0, end; !status && at < count; at = end) {
        end = at + word;
        if (memcmp(found + at, bytes + at, word) == 0)
            continue;
        while (end < count && memcmp(found + end, bytes + end, word) != 0)
            end += word;
        status = program_words(session, address + at, bytes + at, end - at);
    }
    return status;
}

static enum cm_status access_words(struct cm_session *session, enum cm_access_kind kind,
                                   uint32_t address, uint8_t *bytes, uint32_t count)
{
    enum cm_status status = CM_OK;
    if (kind != CM_ACCESS_PROGRAM)
        return read_words(session, kind, address, bytes, count);
    for (uint32_t part; !status && count; address += part, bytes += part, count -= part) {
        uint32_t room = PORTION - (address & (PORTION - 1));
        part = count < room ? count : room;
        status = program_portion(session, address, bytes, part);
    }
    return status;
}

static enum cm_status access_bytes(struct cm_session *session, enum cm_access_kind kind,
                                   uint32_t address, uint8_t *bytes, uint32_t count)
{
    if (part_of(session)->word_bytes == 1)
        return access_words(session, kind, address, bytes, count);
    return cm_evened(session, access_words, NAME, kind, address, bytes, count);
}

static enum cm_status access(struct cm_session *session, const struct cm_access *access)
{
    return access_bytes(session, (enum cm_access_kind)access->kind, access->address, access->in,
                        access->count);
}

static enum cm_status sample(struct cm_session *session, uint8_t region, uint32_t address,
                             uint32_t count, uint32_t piece, uint8_t *bytes)
{
    (void)region;
    enum cm_status status = CM_OK;
    for (uint32_t at = address, end = address + count; !status && at < end;
         at = (at & ~(piece - 1)) + piece)
        status = access_bytes(session, CM_ACCESS_READ, at, bytes++, 1);
    return status;
}

static uint32_t cost_us(struct cm_session *session, uint8_t index, enum cm_cost cost,
                        uint32_t bytes)
{
    const struct cm_m93_part *part = part_of(session);
    enum { READ_CALLS = 4, WRITE_CALLS = 12 }; // SELECT twice and the shifts
    uint32_t at_once = state_of(session)->reads_on ? PORTION : part->word_bytes;
    uint32_t reads = (bytes + at_once - 1) / at_once;
    uint32_t words = (bytes + part->word_bytes - 1) / part->word_bytes;
    uint32_t read_us = words * cm_bits_us(session, 16 + 8u * part->word_bytes);
    (void)index;
    return cost == CM_COST_READ
               ? reads * cm_bits_us(session, 16 + 8 * at_once) +
                     cm_whole_us(session, reads * READ_CALLS)
               : words * part->write_us + 2 * read_us + cm_whole_us(session, words * WRITE_CALLS);
}

/* An instruction that is misread as a write, or as one of all words, shows nowhere else. */
static enum cm_status before_change(struct cm_blocks *work)
{
    enum cm_status status = cm_sum_rest(work);
    return status ? status : cm_try_first(work);
}

static const struct cm_blocks_rules BLOCKS = {.sample = sample,
                                              .match_dead = cm_match_dead,
                                              .before_change = before_change,
                                              .settle = cm_match_rest};

const struct cm_family cm_m93 = {
    .name = "m93",
    .bus = &cm_bus_three_wire,
    .lines = CM_LINE_BIT(CM_LINE_SELECT),
    .state_bytes = sizeof(struct cm_m93_state),
    .enter = enter,
    .identify = cm_identify_by_name,
    .settle = settle,
    .leave = leave,
    .region = region,
    .access = access,
    .cost_us = cost_us,
    .put = cm_put_by_blocks,
    .blocks = &BLOCKS,
};
