/*
 * The array of a parallel memory, as all three families have it: region, reading and comparing,
 * costs.
 */
#include "par.h"
#include <string.h>

enum { PORTION = 256 }; // page of a memory that has none

bool cm_par_region_of(const struct cm_part *any, uint8_t index, struct cm_region *region,
                      const char *name, uint8_t traits)
{
    const struct cm_par_part *part = cm_par_row(any);
    if (index != CM_REGION_MAIN)
        return false;
    memset(region, 0, sizeof *region);
    region->name = name;
    region->bytes = part->bytes;
    region->page_bytes = part->page_bytes < 16 ? PORTION : part->page_bytes;
    region->erased = 0xFF;
    region->traits = (uint8_t)(CM_REGION_WRITABLE | traits);
    return true;
}

static const char *name_of(const struct cm_session *session)
{
    struct cm_region region;
    session->family->region(session->part, CM_REGION_MAIN, &region);
    return region.name;
}

/*
 * Comparing may differ, and then the proof behind it has not run. Parts that are loaded by pages
 * are not asked: where their protection is off, a piece of the command is data to them.
 */
static enum cm_status run_read(struct cm_session *session)
{
    bool asks = session->family == &cm_par && cm_par_part_of(session)->page_bytes <= 1;
    cm_batch_proof(session);
    if (session->family == &cm_par)
        cm_par_add_proof(session);
    enum cm_status status = cm_batch_run(session);
    bool lost = status == CM_DIFFERS && asks && !cm_par_is_there(session);
    return lost ? cm_refine(session, CM_CONTACT_LOST) : status;
}

enum cm_status cm_par_by_units(struct cm_session *session, cm_par_access_fn *access,
                               enum cm_access_kind kind, uint32_t address, uint8_t *bytes,
                               uint32_t count)
{
    const struct cm_par_times *times = cm_par_part_of(session)->times;
    return times->words ? times->words->access(session, access, kind, address, bytes, count)
                        : access(session, kind, address, bytes, count);
}

enum cm_status cm_par_read(struct cm_session *session, enum cm_access_kind kind, uint32_t address,
                           uint8_t *bytes, uint32_t count)
{
    cm_batch_begin(session, kind == CM_ACCESS_READ ? CM_STEP_READ : CM_STEP_COMPARE,
                   name_of(session), address);
    cm_par_add_read(session, (enum cm_data)kind, address, bytes, count);
    return run_read(session);
}

/* So many bytes of each piece from `address` on. */
static enum cm_status sample(struct cm_session *session, uint32_t address, uint32_t count,
                             uint32_t piece, uint8_t *bytes, uint16_t each)
{
    cm_batch_begin(session, CM_STEP_COMPARE, name_of(session), address);
    cm_batch_repeat(session, address, count, piece, 1);
    cm_par_exchange(session, CM_DATA_IN, bytes, NULL, 0)->count = each;
    return run_read(session);
}

enum cm_status cm_par_sample(struct cm_session *session, uint8_t region, uint32_t address,
                             uint32_t count, uint32_t piece, uint8_t *bytes)
{
    (void)region;
    const struct cm_par_words *words = cm_par_part_of(session)->times->words;
    return words ? words->sample(session, address, count, piece, bytes)
                 : sample(session, address, count, piece, bytes, 1);
}

/* --- 16 bits ------------------------------------------------------------------------------ */

static enum cm_status by_words(struct cm_session *session, cm_par_access_fn *access,
                               enum cm_access_kind kind, uint32_t address, uint8_t *bytes,
                               uint32_t count)
{
    return cm_evened(session, access, name_of(session), kind, address, bytes, count);
}

/* A bus of 16 bits brings words: of each one byte is wanted. */
static enum cm_status sample_words(struct cm_session *session, uint32_t address, uint32_t count,
                                   uint32_t piece, uint8_t *bytes)
{
    enum { AT_ONCE = 32, UNIT = 2 };
    uint8_t words[UNIT * AT_ONCE], odd = address & 1;
    enum cm_status status = CM_OK;
    for (uint32_t at = address & ~1u, end = address + count, next; !status && at < end; at = next) {
        next = (at & ~(piece - 1)) + AT_ONCE * piece;
        next = next < end ? next : end;
        status = sample(session, at, next - at, piece, words, UNIT);
        for (uint32_t i = 0, of = at; !status && of < next;
             of = (of & ~(piece - 1)) + piece, i++, odd = 0)
            *bytes++ = words[UNIT * i + odd];
    }
    return status;
}

const struct cm_par_words cm_par_words = {.access = by_words, .sample = sample_words};

/* --- costs -------------------------------------------------------------------------------- */

bool cm_par_is_slow(const struct cm_session *session)
{
    enum { SLOW_CYCLE_US = 100 };
    uint32_t cycle_us = session->clock_hz ? 1000000 / session->clock_hz : 0;
    uint32_t call_us = session->port->run ? 0 : session->port->traits.call_us;
    return call_us + cycle_us > SLOW_CYCLE_US;
}

uint32_t cm_par_piece(const struct cm_session *session)
{
    const struct cm_par_part *part = cm_par_part_of(session);
    return part->page_bytes > 1 && cm_par_is_slow(session) ? 1 : part->page_bytes;
}

/* 4096 bytes at most fit the reckoning. */
uint32_t cm_par_cost_us(struct cm_session *session, uint8_t index, enum cm_cost cost,
                        uint32_t bytes)
{
    enum { CYCLES_A_WRITE = 5 }; // three to unlock, the data, one of status
    const struct cm_par_part *part = cm_par_part_of(session);
    uint32_t cycle_ns = session->clock_hz ? 1000000000u / session->clock_hz : part->cycle_ns;
    uint32_t unit = cm_par_unit(session), units = (bytes + unit - 1) / unit;
    (void)index;
    uint32_t calls = cm_compare_calls(bytes), us = 0, cycles = units;
    if (cost != CM_COST_READ) {
        uint32_t piece = cm_par_piece(session);
        bool by_pages = piece > unit;
        uint32_t writes = by_pages ? (bytes + piece - 1) / piece : units;
        calls = by_pages ? units + 4 * writes : CYCLES_A_WRITE * units;
        cycles = (by_pages ? 2 : CYCLES_A_WRITE) * units;
        us = writes * part->times->program_us;
    }
    return cm_whole_us(session, calls) + us + cycles * cycle_ns / 1000;
}
