/*
 * The plan of a put by blocks: what is to be written, and which erases are the cheapest way there.
 * See blocks.c.
 */
#include "blocks.h"
#include <string.h>

enum cm_status cm_tell_progress(struct cm_blocks *work, enum cm_step step, uint32_t done,
                                uint32_t total)
{
    struct cm_progress progress = {step, work->region.name, done, total};
    return cm_report_progress(work->session, work->put->progress, work->put->progress_context,
                              &progress);
}

/* --- survey ------------------------------------------------------------------------------ */

static uint32_t cost_us(const struct cm_blocks *work, enum cm_cost cost, uint32_t bytes)
{
    return work->session->family->cost_us(work->session, work->index, cost, bytes);
}

static uint32_t page_cost_us(const struct cm_blocks *work)
{
    return cost_us(work, CM_COST_PROGRAM, work->region.page_bytes);
}

uint32_t cm_pages_in(const struct cm_blocks *work, uint32_t start, uint32_t count)
{
    uint32_t page = work->region.page_bytes;
    return (start + count - 1) / page - start / page + 1;
}

static enum cm_status count_run(struct cm_blocks *work, uint32_t start, uint32_t count)
{
    uint32_t pages = cm_pages_in(work, start, count);
    work->report->pages_written += pages;
    work->work_bytes += count;
    work->report->predicted_us += pages * page_cost_us(work);
    return CM_OK;
}

enum cm_status cm_survey_blocks(struct cm_blocks *work, enum cm_step step,
                                cm_blocks_act_fn *on_write)
{
    enum cm_status status = CM_OK;
    uint32_t start, count;
    for (uint32_t at = 0; !status && cm_wanted_run(work, at, work->region.bytes, &start, &count);
         at = start + count) {
        count = cm_blocks_chunk(work, start, start + count);
        status = cm_load_wanted(work, start, work->buffer, count);
        if (!status)
            status = cm_examine_chunk(work, start, count, on_write);
        work->report->pages += cm_pages_in(work, start, count);
        if (!status)
            status = cm_tell_progress(work, step, start + count, work->region.bytes);
    }
    return status;
}

/* --- plan -------------------------------------------------------------------------------- */

bool cm_is_covered(struct cm_blocks *work, uint32_t start, uint32_t bytes)
{
    uint32_t at, count;
    for (uint32_t end = start + bytes; start < end; start += count) {
        if (!cm_wanted_run(work, start, end, &at, &count) || at != start)
            return false;
    }
    return true;
}

/* Time and pages of filling an area that was erased. Bytes beside the images are taken not to be
 * blank. */
struct filling {
    uint32_t us, pages, bytes;
};

static enum cm_status reckon_filling(struct cm_blocks *work, uint32_t start, uint32_t bytes,
                                     struct filling *filling)
{
    enum cm_status status = CM_OK;
    memset(filling, 0, sizeof *filling);
    for (uint32_t at = start, end = start + bytes, next; !status && at < end; at = next) {
        uint32_t run, count;
        next = cm_piece_end(at, work->region.page_bytes, end);
        bool blank = false;
        if (cm_wanted_run(work, at, next, &run, &count) && run == at && count == next - at) {
            status = cm_load_wanted(work, at, work->buffer, count);
            blank = !status && cm_is_erased(work, work->buffer, count);
        }
        filling->us += blank ? cost_us(work, CM_COST_READ, next - at) : page_cost_us(work);
        filling->pages += !blank;
        filling->bytes += blank ? 0 : next - at;
    }
    return status;
}

bool cm_needs_erase(const struct cm_blocks *work, uint32_t start, uint32_t bytes)
{
    for (uint32_t at = start; at < start + bytes; at += work->sector) {
        if (cm_sector_at(work, at) == CM_SECTOR_ERASE)
            return true;
    }
    return false;
}

/* Is there room to carry what a unit holds? Never a whole chip's. */
static bool has_room(const struct cm_blocks *work, uint32_t bytes)
{
    return bytes <= work->buffer_bytes && bytes < work->region.bytes;
}

/* May a unit be erased: all that is in it is wanted anew, or can be carried in the buffer; and
 * protection, where it stays, leaves all of it alone. */
static bool may_erase(struct cm_blocks *work, uint32_t start, uint32_t bytes)
{
    if (!work->put->unprotect && cm_guard_covers(&work->guard, work->index, start, bytes))
        return false;
    return has_room(work, bytes) || cm_is_covered(work, start, bytes);
}

/*
 * The cheapest way for one unit: `whole` where it is to be erased by one instruction, else its
 * smaller ones are to be looked at. `us` is what erasing and filling takes. Sectors that need no
 * erase cost nothing here; what is written in them has been counted.
 */
static enum cm_status reckon_unit(struct cm_blocks *work, uint8_t level, uint32_t start,
                                  uint32_t *us, bool *whole)
{
    struct filling filling;
    uint32_t split_us = 0, part_us;
    bool unused;
    *us = 0;
    *whole = false;
    if (!cm_needs_erase(work, start, work->units[level].bytes))
        return CM_OK;
    uint32_t bytes = work->units[level].bytes, whole_us = UINT32_MAX;
    enum cm_status status = CM_OK;
    if (level == 0 || may_erase(work, start, bytes)) {
        status = reckon_filling(work, start, bytes, &filling);
        whole_us = filling.us + work->units[level].us;
    }
    uint32_t part = level > 0 ? work->units[level - 1].bytes : bytes;
    for (uint32_t at = start; level > 0 && !status && at < start + bytes; at += part) {
        status = reckon_unit(work, (uint8_t)(level - 1), at, &part_us, &unused);
        split_us += part_us;
    }
    *whole = level == 0 || whole_us < split_us;
    *us = *whole ? whole_us : split_us;
    return status;
}

static enum cm_status each_erase_in(struct cm_blocks *work, uint8_t level, uint32_t start,
                                    cm_erase_fn *act)
{
    bool whole;
    uint32_t us;
    enum cm_status status = reckon_unit(work, level, start, &us, &whole);
    if (status || us == 0)
        return status;
    if (whole)
        return act(work, level, start);
    for (uint32_t at = start; !status && at < start + work->units[level].bytes;
         at += work->units[level - 1].bytes)
        status = each_erase_in(work, (uint8_t)(level - 1), at, act);
    return status;
}

enum cm_status cm_check_carry(const struct cm_blocks *work, uint32_t start, uint32_t bytes)
{
    enum cm_status status = CM_OK;
    if (!has_room(work, bytes))
        status = CM_NO_ROOM;
    else if (!work->session->kit->carrier || !cm_may_carry(work->put))
        status = CM_REFUSED;
    return status ? cm_fail_at(work->session, status, CM_STEP_CARRY, work->region.name, start)
                  : CM_OK;
}

static enum cm_status count_erase(struct cm_blocks *work, uint8_t level, uint32_t start)
{
    uint32_t bytes = work->units[level].bytes;
    struct filling filling;
    bool stays = cm_note_barred(work, start, bytes) && !work->put->unprotect;
    bool carries = !cm_is_covered(work, start, bytes);
    enum cm_status status = carries && !stays ? cm_check_carry(work, start, bytes) : CM_OK;
    if (status)
        return status;
    work->report->erases++;
    work->report->erased_bytes += bytes;
    work->report->erase = true;
    work->report->predicted_us += work->units[level].us;
    work->report->carried |= carries;
    for (uint32_t at = start; !status && at < start + bytes; at += work->sector) {
        if (cm_sector_at(work, at) == CM_SECTOR_PROGRAM)
            continue; // counted by the survey
        status = reckon_filling(work, at, work->sector, &filling);
        work->report->pages_written += filling.pages;
        work->report->predicted_us += filling.us;
        work->work_bytes += filling.bytes;
    }
    return status;
}

enum cm_status cm_each_erase(struct cm_blocks *work, cm_erase_fn *act)
{
    enum cm_status status = CM_OK;
    uint8_t top = (uint8_t)(work->unit_count -
                            1); // the whole chip, where it can be erased by one instruction
    for (uint32_t at = 0; !status && at < work->region.bytes && work->unit_count;
         at += work->units[top].bytes)
        status = each_erase_in(work, top, at, act);
    return status;
}

static enum cm_status plan_region(struct cm_blocks *work)
{
    enum cm_status status = cm_survey_blocks(work, CM_STEP_COMPARE, count_run);
    if (!status)
        status = cm_each_erase(work, count_erase);
    bool is_barred = work->barred_at != UINT32_MAX;
    work->report->lifts |= is_barred;
    if (status || !is_barred || work->put->unprotect)
        return status;
    return cm_fail_byte(work->session, CM_PROTECTED, CM_STEP_SETTINGS, work->region.name,
                        work->barred_at, work->guard.open, work->guard.registers[0]);
}

enum cm_status cm_plan_blocks(struct cm_blocks *work)
{
    struct cm_report *report = work->report;
    enum cm_status status = cm_each_region(work, plan_region);
    if (work->has_change && work->session->family->blocks->before_change) // compared once more
        report->predicted_us +=
            report->pages * cost_us(work, CM_COST_READ, work->region.page_bytes);
    report->pages_equal =
        report->pages > report->pages_written ? report->pages - report->pages_written : 0;
    return status;
}
