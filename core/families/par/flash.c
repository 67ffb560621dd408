/*
 * JEDEC flash: programming by single units or by pages, erasing, and the family's table of
 * functions.
 *
 *     program   5555 <- AA, 2AAA <- 55, 5555 <- A0, address <- data
 *         a unit, or all bytes of a page
 *     erase     5555 <- AA, 2AAA <- 55, 5555 <- 80, 5555 <- AA, 2AAA <- 55, sector <- 30 (50: a
 *               block); 5555 <- 10: the whole chip
 *
 * A unit that could not be programmed or erased leaves some parts (those with bit 5) in a state
 * that only a reset ends.
 */
#include "par.h"
#include <coldmint/job.h>

enum { MARGIN = 2 }; // over the sheet's longest time: a part may be worn, a port held up

/* --- programming ------------------------------------------------------------------------- */

/*
 * A bit that is 0 and should become 1 is never done: some parts then show the wrong bit 7 for good,
 * those with bit 5 go on toggling until they are reset. What the unit holds tells that from a part
 * that is slow. The record gets what was found.
 */
static bool shows_other(struct cm_session *session, struct cm_failure *record, uint32_t address,
                        const uint8_t *wanted)
{
    uint8_t shown[2] = {0}, unit = cm_par_unit(session), at = 0;
    record->address &= ~(unit - 1u);
    wanted += record->address - address;
    if (cm_par_read(session, CM_ACCESS_READ, record->address, shown, unit) != CM_OK)
        return false;
    at = unit > 1 && shown[0] == wanted[0]; // either byte of a word
    record->address += at;
    record->expected = wanted[at];
    record->found = shown[at];
    record->has_bytes = true;
    return record->found != record->expected;
}

/* After a failed write: ends what the chip may be in, and tells a chip that fails from one that is
 * gone. `wanted`: what was to be at this address and behind it. */
static enum cm_status settle_write(struct cm_session *session, enum cm_status status,
                                   uint32_t address, const uint8_t *wanted)
{
    static const struct cm_cycle RESET[] = {{0, 0xF0}};
    if (status != CM_DIFFERS && status != CM_WRITE_FAILED && status != CM_TIMED_OUT)
        return status;
    struct cm_failure record = session->failure;
    cm_batch_begin(session, CM_STEP_NONE, NULL, 0);
    cm_par_add_nothing(session);
    cm_par_command(session, RESET, 1);
    cm_batch_wait(session, cm_par_part_of(session)->times->id_us);
    cm_ignore(cm_batch_try(session));
    bool is_busy = status == CM_TIMED_OUT && cm_par_wait_while_busy(session) == CM_TIMED_OUT;
    bool is_there = is_busy || cm_par_is_there(session);
    if (status == CM_TIMED_OUT && is_there && !is_busy &&
        shows_other(session, &record, address, wanted))
        status = CM_WRITE_FAILED;
    session->failure = record;
    return cm_refine(session, !is_there                ? CM_CONTACT_LOST
                              : status == CM_TIMED_OUT ? CM_TIMED_OUT
                                                       : CM_WRITE_FAILED);
}

static enum cm_status write_units(struct cm_session *session, uint32_t address, uint8_t *bytes,
                                  uint32_t count)
{
    enum { OPS = 3 };
    static const struct cm_cycle PROGRAM[] = {{UNLOCK_1, 0xAA}, {UNLOCK_2, 0x55}, {UNLOCK_1, 0xA0}};
    const struct cm_par_times *times = cm_par_part_of(session)->times;
    cm_batch_begin(session, CM_STEP_PROGRAM, "flash", address);
    cm_batch_verify(session); // from the first operation on: spared units are compared in it
    cm_batch_repeat(session, address, count, cm_par_unit(session), OPS);
    cm_par_exchange(session, CM_DATA_OUT | CM_SPARE | CM_COMPARE, bytes, PROGRAM, 3);
    cm_par_add_done(session, bytes, MARGIN * times->program_max_us)->early_us =
        times->program_us - times->program_us / 8;
    cm_batch_wait(session, CM_PAR_LATE_US);
    return settle_write(session, cm_batch_run(session), address, bytes);
}

static enum cm_status access_words(struct cm_session *session, enum cm_access_kind kind,
                                   uint32_t address, uint8_t *bytes, uint32_t count)
{
    if (kind != CM_ACCESS_PROGRAM)
        return cm_par_read(session, kind, address, bytes, count);
    const struct cm_par_times *times = cm_par_part_of(session)->times;
    return times->write_pages ? times->write_pages(session, address, bytes, count)
                              : write_units(session, address, bytes, count);
}

static enum cm_status access(struct cm_session *session, const struct cm_access *access)
{
    return cm_par_by_units(session, access_words, (enum cm_access_kind)access->kind,
                           access->address, access->in, access->count);
}

/* --- erasing ----------------------------------------------------------------------------- */

static bool find_unit(const struct cm_par_part *part, uint8_t index, struct cm_par_erase *unit)
{
    enum { CHIP_ERASE = 0x10 };
    uint8_t count = 0;
    if (!part->erases)
        return false;
    while (count < CM_PAR_UNITS && part->erases->units[count].bytes)
        count++;
    if (index < count)
        *unit = part->erases->units[index];
    else if (index == count && part->erases->chip_us)
        *unit = (struct cm_par_erase){part->bytes, part->erases->chip_us, part->erases->chip_max_us,
                                      CHIP_ERASE};
    else
        return false;
    return true;
}

static bool erase_unit(const struct cm_part *part, uint8_t region, uint8_t index,
                       struct cm_erase_unit *out)
{
    struct cm_par_erase unit;
    if (region != CM_REGION_MAIN || !find_unit(cm_par_row(part), index, &unit))
        return false;
    *out = (struct cm_erase_unit){unit.bytes, unit.us, CM_REGION_BIT(CM_REGION_MAIN)};
    return true;
}

/* One command erases a unit; the whole chip's goes to the unlock address. */
static enum cm_status erase_area(struct cm_session *session, const struct cm_par_erase *unit,
                                 uint32_t address, uint32_t bytes)
{
    enum { POLLS_AN_ERASE = 256, OPS = 3 };
    static const uint8_t ERASED[] = {0xFF, 0xFF};
    static const struct cm_cycle ERASE[] = {
        {UNLOCK_1, 0xAA}, {UNLOCK_2, 0x55}, {UNLOCK_1, 0x80}, {UNLOCK_1, 0xAA}, {UNLOCK_2, 0x55}};
    uint32_t bytes_a_unit = cm_par_unit(session);
    bool whole = unit->bytes == cm_par_part_of(session)->bytes;
    cm_batch_begin(session, CM_STEP_ERASE, "flash", address);
    if (whole)
        cm_batch_repeat(session, UNLOCK_1 * bytes_a_unit, bytes_a_unit, 0, OPS);
    else
        cm_batch_repeat(session, address, bytes, 0, OPS);
    cm_par_exchange(session, CM_DATA_OUT, NULL, ERASE, 5)->want = unit->opcode;
    struct cm_poll *poll = cm_par_add_done(session, NULL, MARGIN * unit->max_us);
    poll->early_us = unit->us / 2;
    poll->interval_us = unit->us / POLLS_AN_ERASE;
    enum cm_status status = cm_batch_run(session);
    return settle_write(session, status, session->failure.address & ~1u, ERASED);
}

/* A unit at one end may be cut into smaller sectors, each with an erase of its own. */
static enum cm_status erase(struct cm_session *session, uint8_t region, uint8_t index,
                            uint32_t address)
{
    (void)region;
    const struct cm_par_part *part = cm_par_part_of(session);
    struct cm_par_erase unit;
    if (!find_unit(part, index, &unit))
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_ERASE);
    enum cm_status status = CM_OK;
    bool may_be_cut = index == 0 && unit.bytes < part->bytes;
    for (uint32_t end = address + unit.bytes, piece; !status && address < end; address += piece) {
        piece = may_be_cut ? cm_par_sector_at(part, address) : unit.bytes;
        status = erase_area(session, &unit, address, piece);
    }
    return status;
}

/* --- the families' tables ---------------------------------------------------------------- */

static bool region(const struct cm_part *part, uint8_t index, struct cm_region *out)
{
    return cm_par_region_of(part, index, out, "flash",
                            cm_par_row(part)->page_bytes > 1 ? CM_REGION_REWRITES : 0);
}

static const struct cm_blocks_rules BLOCKS = {.sample = cm_par_sample,
                                              .before_change = cm_look_before_change,
                                              .after_changes = cm_look_after_changes,
                                              .prove = cm_par_prove,
                                              .can_program = cm_par_can_program};

const struct cm_family cm_par = {
    .name = "par",
    .bus = &cm_bus_parallel,
    .lines = CM_LINE_BIT(CM_LINE_CE) | CM_LINE_BIT(CM_LINE_OE) | CM_LINE_BIT(CM_LINE_WE),
    .state_bytes = sizeof(struct cm_par_state),
    .enter = cm_par_enter,
    .identify = cm_par_identify,
    .settle = cm_par_settle,
    .leave = cm_par_leave,
    .region = region,
    .erase_unit = erase_unit,
    .access = access,
    .erase = erase,
    .cost_us = cm_par_cost_us,
    .guard = &cm_par_guard_rules,
    .put = cm_put_by_blocks,
    .blocks = &BLOCKS,
};
