/*
 * The way in to an SPI memory: wake it, ask who it is, and bring it to its best clock.
 *
 *     SELECT ~~\_______/~~~~~ 50 us ~~~~\________________________________/~~
 *     MOSI      |  AB  |                 |  9F  |
 *     MISO                                      | maker | kind | size | (more)
 *
 * A memory left in deep power-down hears only AB. One left in another mode (continuous read, 4-byte
 * addresses) is brought back by FF and by the reset pair 66 99 of JESD252. 9F is JEDEC's id; parts
 * from before it answer 90 (maker and device behind three address bytes) or AB (one byte behind
 * three others). The first byte of such an id is the opcode that brought it here, so that ids of
 * different kinds are never taken for each other.
 *
 * JEDEC's maker codes have odd parity (JEP106): one that has not is noise.
 */
#include "nor.h"
#include <string.h>

enum {
    CMD_ENTER_4 = 0xB7,
    CMD_EXIT_4 = 0xE9,
    CMD_RESET_ENABLE = 0x66,
    CMD_RESET = 0x99,
    CMD_NO_MODE = 0xFF, // "mode bit reset": ends a continuous read
    T_WAKE_US = 50,     // t_RES: 3 us with most, 30 us with the oldest, 35 us with some
    T_RESET_US = 100,   // t_RST 30 us; 35 us with some
    FIRST_HZ = 1000000, // for asking: long wires and clips stand it
    SLOWEST_HZ = 50000, // below that it is not the clock
    BUSY_WAIT_US =
        4000000, // an erase that another command began may still run; nearly all are over by then
    POLLS = 128, // in a typical time
    ID_PROOF_BYTES = 3, // what comes behind them is not promised to be the same each time
};

/* An id instruction. */
static const struct {
    uint8_t opcode, skip, bytes;
} WAYS[] = {{0x9F, 0, CM_ID_BYTES}, {0x90, 3, 2}, {CMD_WAKE, 3, 1}};
enum { WAY_COUNT = sizeof WAYS / sizeof WAYS[0] };

/* --- batches ----------------------------------------------------------------------------- */

void cm_nor_add(struct cm_session *session, uint8_t opcode)
{
    cm_batch_exchange(session, opcode, 1, CM_DATA_NONE, NULL);
}

struct cm_exchange *cm_nor_add_at(struct cm_session *session, uint8_t opcode, uint8_t wide,
                                  enum cm_data data, const uint8_t *bytes)
{
    enum { BIT_8_TO_3 = 8 - 3, BIT_3 = 0x08 };
    const struct cm_nor_part *part = cm_nor_part_of(session);
    bool own_opcode = part->wide == CM_NOR_OPCODES_4 && wide;
    struct cm_exchange *exchange =
        cm_batch_exchange(session, own_opcode ? wide : opcode, 1, data, bytes);
    exchange->address_bytes = own_opcode || cm_nor_state(session)->wide ? 4 : part->address_bytes;
    exchange->head_count = (uint8_t)(1 + exchange->address_bytes);
    exchange->fold_turn = BIT_8_TO_3;
    exchange->fold_mask = part->high_in_opcode ? BIT_3 : 0;
    return exchange;
}

struct cm_exchange *cm_nor_add_read(struct cm_session *session, enum cm_data data,
                                    const uint8_t *bytes)
{
    enum { CMD_READ_4 = 0x13, CMD_FAST = 0x0B, CMD_FAST_4 = 0x0C };
    bool is_fast = session->clock_hz > cm_nor_part_of(session)->clock_hz;
    struct cm_exchange *exchange = cm_nor_add_at(session, is_fast ? CMD_FAST : CMD_READ,
                                                 is_fast ? CMD_FAST_4 : CMD_READ_4, data, bytes);
    exchange->dummies = is_fast;
    return exchange;
}

static void add_id(struct cm_session *session, enum cm_data data, uint8_t *id, uint8_t bytes)
{
    struct cm_exchange *exchange =
        cm_batch_exchange(session, WAYS[cm_nor_state(session)->id_way].opcode, 1, data, id);
    exchange->dummies = WAYS[cm_nor_state(session)->id_way].skip;
    exchange->count = bytes;
}

void cm_nor_add_proof(struct cm_session *session)
{
    bool has_tag = cm_nor_state(session)->id_way > 0;
    uint8_t bytes = WAYS[cm_nor_state(session)->id_way].bytes;
    if (session->id[0])
        add_id(session, CM_DATA_MATCH, session->id + has_tag,
               bytes < ID_PROOF_BYTES ? bytes : ID_PROOF_BYTES);
}

static struct cm_exchange *add_status(struct cm_session *session, uint8_t opcode, uint8_t mask,
                                      uint8_t want)
{
    struct cm_exchange *exchange = cm_batch_exchange(session, opcode, 1, CM_DATA_NONE, NULL);
    exchange->dummies = 1;
    exchange->mask = mask;
    exchange->want = want;
    return exchange;
}

struct cm_poll *cm_nor_add_idle(struct cm_session *session, uint32_t timeout_us)
{
    struct cm_poll *poll = &cm_batch_add(session, CM_OP_POLL)->poll;
    poll->timeout_us = timeout_us;
    add_status(session, CMD_READ_STATUS, STATUS_BUSY, 0);
    return poll;
}

struct cm_poll *cm_nor_add_ready(struct cm_session *session, uint32_t typical_us,
                                 uint32_t timeout_us)
{
    enum { CMD_READ_FLAGS = 0x70, FLAG_READY = 0x80 };
    const struct cm_nor_status *registers = cm_nor_part_of(session)->status;
    struct cm_poll *poll = &cm_batch_add(session, CM_OP_POLL)->poll;
    poll->interval_us = (typical_us + POLLS - 1) / POLLS; // late by half of that on average
    poll->timeout_us = timeout_us;
    // busy, enabled and everything protected cannot be at once, with most
    poll->floating = registers->ones_while_busy ? 0 : 0xFF;
    if (registers->flag_status)
        add_status(session, CMD_READ_FLAGS, FLAG_READY, FLAG_READY);
    else
        add_status(session, CMD_READ_STATUS, STATUS_BUSY, 0);
    return poll;
}

struct cm_exchange *cm_nor_add_latch(struct cm_session *session, uint8_t want)
{
    return add_status(session, CMD_READ_STATUS, STATUS_ENABLED | STATUS_BUSY, want);
}

/* A chip that is not enabled ignores the instruction behind it, so the latch may be judged late. */
void cm_nor_add_enable(struct cm_session *session)
{
    cm_nor_add(session, CMD_WRITE_ENABLE);
    cm_nor_add_latch(session, STATUS_ENABLED)->data = CM_LATE;
}

static bool is_still_there(struct cm_session *session)
{
    cm_batch_begin(session, CM_STEP_NONE, NULL, 0);
    cm_nor_add_proof(session);
    return cm_batch_try(session) == CM_OK;
}

enum cm_status cm_nor_judge(struct cm_session *session, enum cm_status status)
{
    bool doubtful = status == CM_DIFFERS || status == CM_WRITE_FAILED || status == CM_TIMED_OUT;
    if (!doubtful || !session->part || !session->id[0])
        return status;
    uint8_t clear = cm_nor_part_of(session)->status->clear;
    if (status == CM_TIMED_OUT && clear) { // an error flag holds such parts busy
        cm_batch_begin(session, CM_STEP_NONE, NULL, 0);
        cm_nor_add(session, clear);
        cm_ignore(cm_batch_try(session));
    }
    uint8_t last =
        session->failure
            .found; // a chip that is busy tells its status and nothing else, the id included
    if (status == CM_TIMED_OUT && session->failure.has_bytes && last != 0x00 && last != 0xFF)
        return status;
    return is_still_there(session) ? status : cm_refine(session, CM_CONTACT_LOST);
}

enum cm_status cm_nor_run(struct cm_session *session)
{
    return cm_nor_judge(session, cm_batch_run(session));
}

enum cm_status cm_nor_run_write(struct cm_session *session)
{
    session->batch.unanswered = CM_WRITE_FAILED;
    return cm_nor_run(session);
}

/* FF from a loose wire looks like a blank chip: each reading ends with the id. */
enum cm_status cm_nor_run_read(struct cm_session *session)
{
    cm_batch_proof(session);
    cm_nor_add_proof(session);
    return cm_nor_run(session);
}

/* --- the way in -------------------------------------------------------------------------- */

/* Bus at a clock; hold and write protect pins high where they are wired; the chip deselected. */
void cm_nor_add_lines(struct cm_session *session, uint32_t hz)
{
    cm_batch_clock(session, hz);
    cm_batch_memory_lines(session, CM_HIGH);
}

uint32_t cm_nor_allowed_hz(const struct cm_session *session, uint32_t hz)
{
    if (session->clock_hz && session->clock_hz < hz)
        hz = session->clock_hz;
    return session->cpu_hz && session->cpu_hz < hz ? session->cpu_hz : hz;
}

static enum cm_status wake(struct cm_session *session, uint32_t hz)
{
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    cm_nor_add_lines(session, hz);
    cm_nor_add(session, CMD_WRITE_DISABLE); // ends word programming, which hears little
                                            // else; and nothing that is misread writes now
    cm_nor_add(session, CMD_WAKE);
    cm_batch_wait(session, T_WAKE_US);
    return cm_batch_run(session);
}

/* Ends whatever mode the chip was left in. */
static enum cm_status reset(struct cm_session *session)
{
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    cm_nor_add(session, CMD_NO_MODE);
    cm_nor_add(session, CMD_RESET_ENABLE);
    cm_nor_add(session, CMD_RESET);
    cm_batch_wait(session, T_RESET_US);
    cm_nor_add(session, CMD_WAKE);
    cm_batch_wait(session, T_WAKE_US);
    return cm_batch_run(session);
}

static bool is_odd(uint8_t byte)
{
    byte ^= (uint8_t)(byte >> 4);
    byte ^= (uint8_t)(byte >> 2);
    byte ^= (uint8_t)(byte >> 1);
    return byte & 1;
}

static bool is_id(const uint8_t *id, uint8_t way)
{
    bool is_maker = is_odd(id[0]) && id[0] != 0x00;
    if (WAYS[way].bytes == 1)
        return id[0] != 0x00 && id[0] != 0xFF;
    bool is_stuck = id[0] == id[1] && (WAYS[way].bytes == 2 || id[1] == id[2]);
    return is_maker && !is_stuck && id[1] != 0xFF;
}

/* Asks in one way, twice; CM_NO_CHIP where nothing comes that could be an id, or not the same
 * again. */
static enum cm_status ask(struct cm_session *session, uint8_t way)
{
    uint8_t id[CM_ID_BYTES + 1] = {WAYS[way].opcode}, bytes = WAYS[way].bytes;
    cm_nor_state(session)->id_way = way;
    session->tries++;
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    add_id(session, CM_DATA_IN, id + 1, bytes);
    add_id(session, CM_DATA_MATCH, id + 1, bytes < ID_PROOF_BYTES ? bytes : ID_PROOF_BYTES);
    enum cm_status status = cm_batch_run(session);
    if (way == 0)
        memcpy(session->failure.answer, id + 1, sizeof session->failure.answer);
    if (status == CM_DIFFERS || (!status && !is_id(id + 1, way)))
        return CM_NO_CHIP;
    if (!status && !session->part) // else identify compares
        memcpy(session->id, way == 0 ? id + 1 : id, CM_ID_BYTES);
    return status;
}

/* A chip in the midst of an erase answers its status and nothing else. */
static enum cm_status wait_while_busy(struct cm_session *session)
{
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    cm_nor_add_idle(session, BUSY_WAIT_US)->floating = 0xFF;
    return cm_batch_try(session);
}

static enum cm_status knock(struct cm_session *session, uint32_t hz)
{
    uint8_t first = session->part ? cm_nor_state(session)->id_way : 0,
            last = session->part ? cm_nor_state(session)->id_way : WAY_COUNT - 1;
    enum cm_status status = wake(session, hz);
    if (!status)
        status = ask(session, first);
    if (status && status != CM_NO_CHIP)
        return status;
    // one that answers may still have been left in another mode, such as 4-byte addresses, and
    // would read all else wrong
    if (status)
        (void)wait_while_busy(session);
    status = reset(session);
    if (status)
        return status;
    status = CM_NO_CHIP;
    for (uint8_t way = first; way <= last && status == CM_NO_CHIP; way++)
        status = ask(session, way);
    return status;
}

enum cm_status cm_nor_enter(struct cm_session *session)
{
    uint32_t hz = cm_nor_allowed_hz(session, FIRST_HZ);
    cm_fail(session, CM_OK, CM_STEP_ENTER);
    session->tries = 0;
    cm_nor_state(session)->wide = false;
    session->entered = true; // lines are driven from here on
    enum cm_status status = knock(session, hz);
    for (hz /= 5;
         status == CM_NO_CHIP && hz >= SLOWEST_HZ && hz >= session->port->traits.clock_min_hz;
         hz /= 5)
        status = knock(session, hz);
    if (!status)
        return CM_OK;
    cm_nor_leave(session);
    session->failure.step = CM_STEP_ENTER; // the last answer stays in the record
    return cm_refine(session, status);
}

/* Compares the id once more. A part found anew is brought to where it was; one in no table may tell
 * of itself. */
enum cm_status cm_nor_identify(struct cm_session *session)
{
    cm_batch_begin(session, CM_STEP_IDENTIFY, "id", 0);
    cm_batch_proof(session);
    cm_nor_add_proof(session);
    enum cm_status status = cm_batch_run(session);
    if (status)
        return status;
    if (session->part)
        return cm_nor_state(session)->wide ? CM_OK : cm_nor_settle(session);
    if (cm_candidate(session, 0) || !session->kit->describe)
        return CM_OK;
    status = session->kit->describe(session);
    return status == CM_UNKNOWN_CHIP ? cm_fail(session, CM_OK, CM_STEP_IDENTIFY) : status;
}

/* --- settling ---------------------------------------------------------------------------- */

/* The fastest clock at which the id still comes right: not above the part's, nor what the caller
 * said. Above that of the plain read only where the caller said so: few wires bear it. */
static enum cm_status raise_clock(struct cm_session *session)
{
    const struct cm_nor_part *part = cm_nor_part_of(session);
    bool may_be_fast = session->cpu_hz > part->clock_hz && part->fast_hz > part->clock_hz;
    uint32_t hz = cm_nor_allowed_hz(session, may_be_fast ? part->fast_hz : part->clock_hz);
    enum cm_status status = CM_DIFFERS;
    for (; status == CM_DIFFERS && hz >= SLOWEST_HZ; hz /= 2) {
        cm_batch_begin(session, CM_STEP_IDENTIFY, "id", 0);
        struct cm_op *clock = cm_batch_clock(session, hz);
        cm_nor_add_proof(session);
        cm_nor_add_proof(session);
        status = cm_batch_run(session);
        session->clock_hz = clock->clock.real_hz;
    }
    return status == CM_DIFFERS ? cm_refine(session, CM_CONTACT_LOST) : status;
}

static enum cm_status switch_addresses(struct cm_session *session, uint8_t opcode)
{
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    bool enables = cm_nor_part_of(session)->wide == CM_NOR_WREN_B7;
    if (enables)
        cm_nor_add(session, CMD_WRITE_ENABLE);
    cm_nor_add(session, opcode);
    if (enables)
        cm_nor_add(session, CMD_WRITE_DISABLE);
    return cm_batch_run(session);
}

enum cm_status cm_nor_settle(struct cm_session *session)
{
    const struct cm_nor_part *part = cm_nor_part_of(session);
    enum cm_status status = raise_clock(session);
    if (!status && !part->erases && !part->rewrites && session->kit->describe &&
        session->kit->describe(session) == CM_OK)
        part = cm_nor_part_of(session); // where the table is silent, the chip's own tables tell
    if (!status && part->wide >= CM_NOR_B7) {
        cm_nor_state(session)->wide = true;
        status = switch_addresses(session, CMD_ENTER_4);
    }
    if (status || !cm_nor_state(session)->unguarded)
        return status;
    struct cm_guard guard; // the chip may have been off: what we lifted may be back
    status = cm_nor_guard_rules.look(session, &guard);
    return status || !guard.bytes ? status : cm_nor_guard_rules.lift(session, &guard);
}

void cm_nor_leave(struct cm_session *session)
{
    if (!session->entered)
        return;
    session->entered = false;
    if (cm_nor_state(session)->wide && session->part)
        (void)switch_addresses(session, CMD_EXIT_4);
    cm_nor_state(session)->wide = false;
    cm_batch_begin(session, CM_STEP_LEAVE, NULL, 0);
    cm_batch_add(session, CM_OP_CLOCK); // the bus first, while the chip is deselected
    cm_ignore(cm_batch_try(session));
    cm_batch_begin(session, CM_STEP_LEAVE, NULL,
                   0); // by itself: should the first fail, it must not keep this one
    cm_batch_memory_lines(session, CM_RELEASED);
    cm_ignore(cm_batch_try(session));
}
