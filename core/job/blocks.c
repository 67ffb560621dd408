/*
 * Put, for memories that are erased by blocks: the cheapest way to what is wanted, block by block.
 *
 * Survey: each sector that an image touches is equal, wants programming only, or wants an erase
 * (blocks_survey.c); two bits a sector are kept.
 *
 * Plan: within each of the largest blocks the erases are chosen bottom up. An erase unit is taken
 * as a whole where that, with writing back all that is not blank in it, takes less time than what
 * its halves or sectors would: times are the data sheet's, and the wire's at the clock in use. The
 * whole chip is one more unit.
 *
 *     64 KiB |E..E....E.EE....|     six sectors of 45 ms and their pages, or 150 ms and all pages
 *                                   that are not blank?
 *
 * Execute, in ascending order. What an erase takes along beside the images is read twice before,
 * handed to the caller to keep safe, and written back at once; the job is not stopped in between.
 * Every page is read back behind its writing, every page that stays blank is compared.
 *
 * Protection that covers anything to be changed ends the job before it begins, or is lifted and put
 * back, whatever comes in between.
 */
#include "blocks.h"
#include <string.h>

enum { ROUNDS = 6 }; // of looking again after doubt

/* --- writing ----------------------------------------------------------------------------- */

/* Pages in one batch, where cm_checked would write one by one. */
static enum cm_status act_write(struct cm_session *session, void *argument)
{
    return session->family->access(session, argument);
}

/* Writes a run of pages and reads each back; where one fails, looks again and writes once more
 * before giving up. */
static enum cm_status write_run(struct cm_blocks *work, uint32_t start, uint8_t *bytes,
                                uint32_t count)
{
    struct cm_access run = {CM_ACCESS_PROGRAM, work->index, start, {bytes}, count};
    enum cm_status status = cm_steadily(work->session, act_write, &run);
    if (status == CM_WRITE_FAILED) {
        bool rewrites = work->region.traits & CM_REGION_REWRITES;
        status = rewrites ? CM_OK : cm_access_bytes(work, CM_ACCESS_FITS, start, bytes, count);
        if (status == CM_OK)
            status = cm_steadily(work->session, act_write, &run);
        if (status == CM_DIFFERS) {
            work->session->failure.step = CM_STEP_VERIFY;
            status = cm_refine(work->session, CM_WRITE_FAILED);
        }
    }
    if (status)
        return status;
    work->report->bytes_written += count;
    work->report->pages_written += cm_pages_in(work, start, count);
    work->done_bytes += count;
    return CM_OK;
}

/* Pages are taken for blank by their first bytes. Where that was wrong once, it may be again: then
 * the whole run is looked at, and no 0 is told to become 1. */
static enum cm_status program_run(struct cm_blocks *work, uint32_t start, uint32_t count)
{
    uint8_t *bytes = work->buffer + (start - work->chunk_start);
    enum cm_status status =
        work->is_wary ? cm_access_bytes(work, CM_ACCESS_FITS, start, bytes, count) : CM_OK;
    if (status)
        return status == CM_DIFFERS ? cm_refine(work->session, CM_WRITE_FAILED) : status;
    return write_run(work, start, bytes, count);
}

/* Fills a run of an area that was erased: pages that are not blank are written, several at once;
 * those that are, compared. */
static enum cm_status fill_run(struct cm_blocks *work, uint32_t start, uint8_t *bytes,
                               uint32_t count)
{
    enum cm_status status = CM_OK;
    uint32_t page = work->region.page_bytes;
    for (uint32_t at = 0, next; !status && at < count; at = next) {
        next = cm_piece_end(start + at, page, start + count) - start;
        bool blank = cm_is_erased(work, bytes + at, next - at);
        while (next < count && cm_is_erased(work, bytes + next,
                                            cm_piece_end(start + next, page, start + count) -
                                                start - next) == blank)
            next = cm_piece_end(start + next, page, start + count) - start;
        if (blank)
            status = cm_access_bytes(work, CM_ACCESS_MATCH, start + at, bytes + at, next - at);
        else
            status = write_run(work, start + at, bytes + at, next - at);
        if (blank && !status)
            work->report->pages_blank += cm_pages_in(work, start + at, next - at);
    }
    return status == CM_DIFFERS ? cm_refine(work->session, CM_WRITE_FAILED) : status;
}

struct erasing {
    uint8_t region, level;
    uint32_t start;
};

static enum cm_status act_erase(struct cm_session *session, void *argument)
{
    const struct erasing *erasing = argument;
    return session->family->erase(session, erasing->region, erasing->level, erasing->start);
}

static enum cm_status tell_written(struct cm_blocks *work)
{
    uint32_t done = work->done_bytes < work->work_bytes ? work->done_bytes : work->work_bytes;
    return cm_tell_progress(work, CM_STEP_PROGRAM, done, work->work_bytes);
}

/* Fills an area that all is wanted of, chunk by chunk. */
static enum cm_status fill_from_images(struct cm_blocks *work, uint32_t start, uint32_t bytes)
{
    enum cm_status status = CM_OK;
    uint32_t run, count;
    for (uint32_t at = start, end = start + bytes;
         !status && cm_wanted_run(work, at, end, &run, &count); at = run + count) {
        count = cm_blocks_chunk(work, run, run + count);
        status = cm_load_wanted(work, run, work->buffer, count);
        if (!status)
            status = fill_run(work, run, work->buffer, count);
        if (!status)
            status = tell_written(work);
    }
    return status;
}

/* Fills an area from the buffer, with what was carried. No last compare of the images looks at
 * that: so it is compared here, where wires can lie about an address. */
static enum cm_status fill_from_buffer(struct cm_blocks *work, uint32_t start, uint32_t bytes)
{
    enum cm_status status = fill_run(work, start, work->buffer, bytes);
    if (!status && work->session->family->blocks->before_change)
        status = cm_access_bytes(work, CM_ACCESS_MATCH, start, work->buffer, bytes);
    return status == CM_DIFFERS ? cm_refine(work->session, CM_WRITE_FAILED) : status;
}

/* Erases a unit and fills it. An erase that leaves a bit is done once more: then the block is worn.
 */
static enum cm_status renew(struct cm_blocks *work, uint8_t level, uint32_t start)
{
    enum { TRIES = 2 };
    uint32_t bytes = work->units[level].bytes;
    struct erasing erasing = {work->index, (uint8_t)(work->first_unit + level), start};
    bool covered = cm_is_covered(work, start, bytes);
    enum cm_status status = cm_tell_progress(work, CM_STEP_ERASE, start, work->region.bytes);
    // the plan had no need of it: so a write has come to something else
    if (!status && !covered && cm_check_carry(work, start, bytes))
        return cm_refine(work->session, CM_IN_DOUBT);
    if (!status && !covered)
        status = work->session->kit->carrier->read_sector(work, start, bytes);
    if (status)
        return status;
    for (uint8_t i = 0; i < TRIES; i++) {
        status = cm_steadily(work->session, act_erase, &erasing);
        work->report->erases++;
        work->report->erased_bytes += bytes;
        if (!status)
            status = covered ? fill_from_images(work, start, bytes)
                             : fill_from_buffer(work, start, bytes);
        if (status != CM_WRITE_FAILED)
            break;
    }
    cm_clear_sectors(work, start, bytes);
    return status;
}

/* --- executing --------------------------------------------------------------------------- */

/* Did writing fail since a page was not blank? Then its sector is marked: it needs an erase. */
static bool was_not_blank(struct cm_blocks *work, enum cm_status status, uint8_t doubts)
{
    const struct cm_failure *failure = &work->session->failure;
    if (status != CM_WRITE_FAILED || !work->unit_count || !failure->has_bytes ||
        !(~failure->found & failure->expected))
        return false;
    if (!(work->session->doubts & CM_DOUBT_CONTACT)) // what reads so was written over in its place
        work->session->doubts = doubts;
    cm_mark_sector(work, failure->address, CM_SECTOR_ERASE);
    work->is_wary = true;
    return true;
}

/* A run of sectors that want programming only: looked at once more, page by page. One that turns
 * out to need an erase is marked so, and passed over. */
static enum cm_status program_chunk(struct cm_blocks *work, uint32_t start, uint32_t count)
{
    enum cm_status status = CM_OK;
    for (uint32_t at = start, end = start + count; !status && at < end;) {
        uint8_t doubts = work->session->doubts;
        status = cm_load_wanted(work, at, work->buffer, end - at);
        if (!status)
            status = cm_examine_chunk(work, at, end - at, program_run);
        at = end;
        if (was_not_blank(work, status, doubts)) {
            at = cm_piece_end(work->session->failure.address, work->sector, end);
            status = CM_OK;
        }
    }
    return status ? status : tell_written(work);
}

static enum cm_status program_all(struct cm_blocks *work)
{
    enum cm_status status = CM_OK;
    uint32_t start, count;
    for (uint32_t at = 0; !status && cm_wanted_run(work, at, work->region.bytes, &start, &count);
         at = start + count) {
        enum cm_sector_state state = cm_sector_at(work, start);
        uint32_t end = start + count, stop = cm_piece_end(start, work->sector, end);
        while (stop < end && cm_sector_at(work, stop) == state)
            stop = cm_piece_end(stop, work->sector, end);
        count = state == CM_SECTOR_PROGRAM ? cm_blocks_chunk(work, start, stop) : stop - start;
        if (state == CM_SECTOR_PROGRAM)
            status = program_chunk(work, start, count);
    }
    return status;
}

/* The caller hears the plan, and may leave it at that. */
static enum cm_status agree(struct cm_blocks *work)
{
    const struct cm_put *put = work->put;
    bool goes_on = !put->planned || put->planned(put->planned_context, work->report);
    return goes_on ? CM_OK : cm_fail(work->session, CM_STOPPED, CM_STEP_OPEN);
}

static enum cm_status note_run(struct cm_blocks *work, uint32_t start, uint32_t count)
{
    (void)work, (void)start, (void)count;
    return CM_OK;
}

static enum cm_status survey_region(struct cm_blocks *work)
{
    uint32_t page = work->region.page_bytes;
    if (work->buffer_bytes > 2 * page) // in other portions than were written
        work->buffer_bytes = work->buffer_bytes / page / 2 * page + page;
    return cm_survey_blocks(work, CM_STEP_VERIFY, note_run);
}

/* Compares all images with the chip, and marks anew what differs. */
static enum cm_status survey_again(struct cm_blocks *work, bool *differs)
{
    uint32_t pages = work->report->pages; // of the plan
    memset(work->session->workspace, 0, work->map_total);
    enum cm_status status = cm_each_region(work, survey_region);
    work->report->pages = pages;
    *differs = false;
    for (uint32_t i = 0; i < work->map_total; i++)
        *differs |= work->session->workspace[i] != 0;
    return status;
}

/*
 * After doubt, and at the end of every job of chips whose wires can lie about an address: all
 * images are compared once more. What differs is written again.
 */
static enum cm_status look_again(struct cm_blocks *work, bool *differs)
{
    bool doubted = work->session->doubts != 0;
    work->session->doubts = 0;
    enum cm_status status = survey_again(work, differs);
    work->report->doubted |= doubted || *differs;
    return status;
}

/* Before the first change: a look along the address, of chips without an id. */
static enum cm_status begin_change(struct cm_blocks *work)
{
    const struct cm_blocks_rules *rules = work->session->family->blocks;
    if (!rules->before_change || !work->has_change || work->has_begun ||
        work->index != work->change_index)
        return CM_OK;
    work->has_begun = true;
    return rules->before_change(work);
}

static enum cm_status execute_region(struct cm_blocks *work)
{
    enum cm_status status = begin_change(work);
    if (!status)
        status = cm_each_erase(work, renew);
    return status ? status : program_all(work);
}

static bool any_needs_erase(const struct cm_blocks *work)
{
    enum { ERASE_IN_ALL = 0x55 * CM_SECTOR_ERASE };
    uint8_t marks = 0;
    for (uint32_t i = 0; i < work->map_total; i++)
        marks |= work->session->workspace[i];
    return marks & ERASE_IN_ALL;
}

/* Erases and fills, then programs. A page taken for blank that was not brings another round, and
 * the caller is asked anew where no erase was agreed to. */
static enum cm_status execute(struct cm_blocks *work)
{
    struct cm_report *report = work->report;
    report->pages_written = report->pages_blank = report->bytes_written = report->erases =
        report->erased_bytes = 0;
    bool looks = work->session->family->blocks->before_change != NULL;
    for (uint8_t round = 0; round < ROUNDS; round++) {
        enum cm_status status = cm_each_region(work, execute_region);
        if (!status && !any_needs_erase(work)) {
            if (!looks && !work->session->doubts)
                return CM_OK;
            status = look_again(work, &looks);
            if (!looks && !work->session->doubts)
                return status;
        }
        if (!status && !report->erase && any_needs_erase(work)) {
            report->erase = true;
            status = agree(work);
        }
        if (status)
            return status;
    }
    return cm_fail(work->session, CM_CONTACT_LOST, CM_STEP_VERIFY); // it does not become better
}

/* Lifts protection; what that has erased is looked at before it is written. */
static enum cm_status lift(struct cm_blocks *work)
{
    bool unused;
    work->report->lock = work->guard.registers[0];
    work->report->unlocked = true;
    enum cm_status status = cm_guard_lift(work->session, &work->guard, CM_LIFT_CONTENTS);
    if (status || !work->cleared)
        return status;
    work->cleared = 0;
    return survey_again(work, &unused);
}

/* Protection is lifted only where it stands in the way, told before, and put back whatever comes in
 * between; but where that would bar what is left to do, which only another erase would open. */
static enum cm_status execute_unguarded(struct cm_blocks *work)
{
    const struct cm_put *put = work->put;
    struct cm_session *session = work->session;
    if (!work->report->lifts)
        return execute(work);
    if (put->lifting && put->lifting(put->lifting_context, &work->guard) != CM_OK)
        return cm_fail(session, CM_REFUSED, CM_STEP_SETTINGS);
    enum cm_status status = lift(work);
    if (!status)
        status = execute(work);
    if (status && work->guard.cost == CM_LIFT_CONTENTS)
        return status;
    struct cm_failure failure = session->failure;
    enum cm_status restored = cm_guard_restore(session, &work->guard);
    work->report->relocked = restored == CM_OK;
    work->report->unlocked = restored != CM_OK;
    if (status)
        session->failure = failure;        // the first one sticks
    else if (!restored && session->doubts) // nobody has looked at the contents behind it
        return cm_fail(session, CM_CONTACT_LOST, CM_STEP_SETTINGS);
    return status ? status : restored;
}

/* --- all --------------------------------------------------------------------------------- */

static enum cm_status plan(struct cm_blocks *work)
{
    const struct cm_guard_rules *rules = work->session->family->guard;
    if (rules && rules->lifter)
        return rules->lifter->plan(work);
    if (work->guard.bars_reading & work->regions) // nothing here could see what there is
        return cm_fail(work->session, CM_PROTECTED, CM_STEP_SETTINGS);
    return cm_plan_blocks(work);
}

enum cm_status cm_put_by_blocks(struct cm_session *session, const struct cm_put *put,
                                struct cm_report *report, enum cm_put_aim aim)
{
    const struct cm_blocks_rules *rules = session->family->blocks;
    struct cm_blocks work;
    uint32_t start = cm_now_us(session);
    enum cm_status status = cm_begin_blocks(&work, session, put, report);
    if (!status)
        status = plan(&work);
    if (!status && report->pages_written && rules->can_program)
        status = rules->can_program(session);
    report->survey_us = cm_now_us(session) - start;
    if (status || aim == CM_PUT_PLAN)
        return status;
    status = agree(&work);
    start = cm_now_us(session);
    session->put = put;
    bool changes = report->pages_written || report->erases || report->lifts;
    // what dead wires can answer is read twice, whether it changes or not
    if (!status && (changes || session->doubts || rules->match_dead))
        status = execute_unguarded(&work);
    if (!status && work.has_begun && rules->after_changes)
        status = rules->after_changes(&work);
    if (rules->settle)
        status = rules->settle(&work, status);
    if (!status && report->doubted)
        status = cm_doubt_all_unwanted(session, &work.wanted, report);
    report->actual_us = cm_now_us(session) - start;
    session->doubts = 0; // told, by what it ends with
    session->put = NULL;
    return status;
}
