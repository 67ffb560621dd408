/*
 * Serial EEPROMs: the way in, and the family's table of functions. The memory itself is as SPI
 * flash is: core/families/nor/.
 *
 *     06 -> write enable latch is 1        04 -> it is 0        05 reads it
 *
 * An EEPROM has no id. That one is there shows in its write enable latch, which goes up and down as
 * it is told: wires that float, or are held, do not do that. Nor do they answer so when asked anew
 * behind each reading.
 *
 * A program instruction wraps round within its page; pages are never crossed here. There is no
 * erase: a byte is written over.
 */
#include "../nor/nor.h"
#include <coldmint/ee25.h>
#include <coldmint/job.h>
#include <string.h>

enum {
    T_WAKE_US = 100,
    FIRST_HZ = 1000000,
    SLOWEST_HZ = 50000,
    BUSY_WAIT_US = 20000,
    MOST_PAGE = 256
};

static void add_latch(struct cm_session *session, uint8_t opcode, uint8_t want)
{
    cm_nor_add(session, opcode);
    cm_nor_add_latch(session, want);
}

/* The latch up, down, and up and down again. */
static enum cm_status try_latch(struct cm_session *session)
{
    uint8_t answer = 0;
    session->batch.unanswered = CM_NO_CHIP;
    for (uint8_t i = 0; i < 2; i++) {
        add_latch(session, CMD_WRITE_ENABLE, STATUS_ENABLED);
        add_latch(session, CMD_WRITE_DISABLE, 0);
    }
    cm_batch_exchange(session, CMD_READ_STATUS, 1, CM_DATA_IN, &answer)->count = 1;
    enum cm_status status = cm_batch_run(session);
    if (status == CM_NO_CHIP)
        memset(session->failure.answer, session->failure.found, sizeof session->failure.answer);
    return status;
}

static enum cm_status knock(struct cm_session *session, uint32_t hz)
{
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    cm_nor_add_lines(session, hz);
    cm_nor_add(session, CMD_WAKE); // some have a deep power-down
    cm_batch_wait(session, T_WAKE_US);
    cm_nor_add_idle(session, BUSY_WAIT_US); // a write may still be under way
    session->tries++;
    enum cm_status status = cm_batch_run(session);
    if (status && status != CM_TIMED_OUT)
        return status;
    cm_batch_begin(session, CM_STEP_ENTER, "status", 0);
    return try_latch(session);
}

static enum cm_status enter(struct cm_session *session)
{
    uint32_t hz = session->cpu_hz && session->cpu_hz < FIRST_HZ ? session->cpu_hz : FIRST_HZ;
    cm_fail(session, CM_OK, CM_STEP_ENTER);
    session->tries = 0;
    session->entered = true; // lines are driven from here on
    enum cm_status status = CM_NO_CHIP;
    for (; status == CM_NO_CHIP && hz >= SLOWEST_HZ; hz /= 5)
        status = knock(session, hz);
    if (!status)
        return CM_OK;
    cm_nor_leave(session);
    session->failure.step = CM_STEP_ENTER;
    return cm_refine(session, status);
}

static enum cm_status settle(struct cm_session *session)
{
    cm_batch_begin(session, CM_STEP_ENTER, "status", 0);
    struct cm_op *clock =
        cm_batch_clock(session, cm_nor_allowed_hz(session, cm_nor_part_of(session)->clock_hz));
    enum cm_status status = try_latch(session);
    session->clock_hz = clock->clock.real_hz;
    return status == CM_NO_CHIP ? cm_refine(session, CM_CONTACT_LOST) : status;
}

/* Is the chip still there? Asked behind what the wires alone could have answered; else `status`
 * says nothing. */
static enum cm_status prove(struct cm_session *session, uint32_t address, enum cm_status status)
{
    struct cm_failure record = session->failure;
    cm_batch_begin(session, CM_STEP_NONE, NULL, 0);
    enum cm_status there = try_latch(session);
    if (there == CM_NO_CHIP)
        return cm_fail_at(session, CM_CONTACT_LOST, CM_STEP_READ, "eeprom", address);
    if (there)
        return there;
    session->failure = record;
    return status;
}

/*
 * A write of a part of a page, where the status of a busy part looks like a loose wire: a SELECT
 * that stayed low makes data of the poll's bytes, and they go behind the last one, or to the page's
 * beginning. So the whole page is compared behind the write.
 */
static enum cm_status program_part(struct cm_session *session, const struct cm_access *part)
{
    uint8_t whole[MOST_PAGE];
    uint32_t page = cm_nor_part_of(session)->page_bytes, start = part->address & ~(page - 1);
    struct cm_access all = {CM_ACCESS_READ, CM_REGION_MAIN, start, {.in = whole}, page};
    enum cm_status status = cm_nor_access(session, &all);
    if (!status)
        status = cm_nor_access(session, part);
    if (status)
        return status;
    memcpy(whole + (part->address - start), part->out, part->count);
    all.kind = CM_ACCESS_AGAIN;
    status = cm_nor_access(session, &all);
    return status == CM_DIFFERS ? cm_refine(session, CM_CONTACT_LOST) : status;
}

static enum cm_status program(struct cm_session *session, const struct cm_access *access)
{
    const struct cm_nor_part *part = cm_nor_part_of(session);
    struct cm_access piece = *access;
    uint32_t page = part->page_bytes, left = access->count;
    enum cm_status status = CM_OK;
    if (!part->status->ones_while_busy)
        return cm_nor_access(session, access);
    for (; !status && left; left -= piece.count) {
        uint32_t room = page - (piece.address & (page - 1));
        bool is_whole = room == page && left >= page;
        piece.count = left < room ? left : room;
        if (is_whole)
            piece.count = left & ~(page - 1);
        status = is_whole ? cm_nor_access(session, &piece) : program_part(session, &piece);
        piece.address += piece.count;
        piece.out += piece.count;
    }
    return status;
}

static enum cm_status access(struct cm_session *session, const struct cm_access *access)
{
    bool programs = access->kind == CM_ACCESS_PROGRAM;
    enum cm_status status = programs && access->region == CM_REGION_MAIN
                                ? program(session, access)
                                : cm_nor_access(session, access);
    bool proven = programs && status == CM_OK; // its latch and its reading back have told
    bool doubtful = status == CM_OK || status == CM_DIFFERS || status == CM_WRITE_FAILED ||
                    status == CM_TIMED_OUT;
    return proven || !doubtful ? status : prove(session, access->address, status);
}

static const struct cm_blocks_rules BLOCKS = {.sample = cm_nor_sample,
                                              .match_dead = cm_match_dead,
                                              .before_change = cm_try_first,
                                              .settle = cm_settle_registers_always};

const struct cm_family cm_ee25 = {
    .name = "ee25",
    .bus = &cm_bus_spi,
    .lines = CM_LINE_BIT(CM_LINE_SELECT),
    .state_bytes = sizeof(struct cm_nor_state),
    .enter = enter,
    .identify = cm_identify_by_name,
    .settle = settle,
    .leave = cm_nor_leave,
    .region = cm_nor_region,
    .access = access,
    .cost_us = cm_nor_cost_us,
    .guard = &cm_nor_guard_rules,
    .put = cm_put_by_blocks,
    .blocks = &BLOCKS,
};
