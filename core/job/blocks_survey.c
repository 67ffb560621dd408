/*
 * What of an image a memory holds already, and what stands in the way of the rest.
 *
 *     equal                      nothing to do
 *     differs, can be reached    it wants programming only: all bits that must be 1 are 1
 *     differs, cannot            its sector must be erased
 *
 * Everything is compared in one long reading that stops at the first difference. A page whose first
 * wanted byte that is not blank reads blank is taken for blank: reading it to be sure would cost as
 * much as the reading back that follows anyway. Where one such page is found the others of the
 * chunk are asked for one byte each, in one batch, so that a memory at the end of a slow link is
 * not asked page by page.
 */
#include "blocks.h"
#include <string.h>

uint32_t cm_piece_end(uint32_t address, uint32_t piece, uint32_t end)
{
    uint32_t next = (address & ~(piece - 1)) + piece;
    return next < end && next > address ? next : end;
}

bool cm_is_erased(const struct cm_blocks *work, const uint8_t *bytes, uint32_t count)
{
    while (count && bytes[count - 1] == work->region.erased)
        count--;
    return count == 0;
}

uint32_t cm_blocks_chunk(const struct cm_blocks *work, uint32_t start, uint32_t end)
{
    uint32_t page = work->region.page_bytes, most = work->buffer_bytes;
    uint32_t lively =
        work->session->clock_hz / 32 & ~(page - 1); // a quarter of a second on the wire
    if (lively >= page && lively < most)
        most = lively;
    uint32_t stop = (start & ~(page - 1)) + most; // so that chunks end where pages do
    return (stop < end && stop > start ? stop : end) - start;
}

/* --- what is wanted ---------------------------------------------------------------------- */

bool cm_wanted_run(struct cm_blocks *work, uint32_t from, uint32_t end, uint32_t *start,
                   uint32_t *count)
{
    const struct cm_source *source =
        cm_next_wanted(&work->wanted, work->index, from, end, start, count);
    work->source = source ? source : work->source;
    return source != NULL;
}

enum cm_status cm_load_wanted(struct cm_blocks *work, uint32_t start, uint8_t *bytes,
                              uint32_t count)
{
    enum cm_status status = work->source->read(work->source->context, start, bytes, count);
    return status ? cm_fail_at(work->session, status, CM_STEP_READ, work->region.name, start)
                  : CM_OK;
}

/* --- the map ----------------------------------------------------------------------------- */

enum cm_sector_state cm_sector_at(const struct cm_blocks *work, uint32_t address)
{
    uint32_t sector = address / work->sector;
    return (enum cm_sector_state)(work->map[sector / 4] >> 2 * (sector % 4) & 3);
}

static void set_state(struct cm_blocks *work, uint32_t address, enum cm_sector_state state)
{
    uint32_t sector = address / work->sector, shift = 2 * (sector % 4);
    work->map[sector / 4] =
        (uint8_t)((work->map[sector / 4] & ~(3u << shift)) | (unsigned)state << shift);
}

bool cm_note_barred(struct cm_blocks *work, uint32_t start, uint32_t bytes)
{
    bool barred = cm_guard_covers(&work->guard, work->index, start & ~(bytes - 1), bytes);
    if (barred && start < work->barred_at)
        work->barred_at = start;
    return barred;
}

void cm_mark_sector(struct cm_blocks *work, uint32_t address, enum cm_sector_state state)
{
    (void)cm_note_barred(work, address, work->sector);
    if (cm_sector_at(work, address) < state)
        set_state(work, address, state);
}

void cm_clear_sectors(struct cm_blocks *work, uint32_t start, uint32_t bytes)
{
    for (uint32_t at = start; at < start + bytes; at += work->sector)
        set_state(work, at, CM_SECTOR_EQUAL);
}

/* --- looking ----------------------------------------------------------------------------- */

enum cm_status cm_access_bytes(struct cm_blocks *work, enum cm_access_kind kind, uint32_t start,
                               uint8_t *bytes, uint32_t count)
{
    struct cm_access access = {(uint8_t)kind, work->index, start, {bytes}, count};
    return cm_access(work->session, &access);
}

/* Can the wanted bytes from a difference to its page's end be reached? CM_DIFFERS: no. An erase is
 * never decided on a single reading. */
static enum cm_status check_reachable(struct cm_blocks *work, uint32_t at, uint8_t *wanted,
                                      uint32_t count)
{
    enum cm_status status = CM_DIFFERS;
    for (uint8_t i = 0; i < 2 && status == CM_DIFFERS; i++)
        status = cm_access_bytes(work, CM_ACCESS_FITS, at, wanted, count);
    return status;
}

struct sampling {
    uint8_t region;
    uint32_t start, count, piece;
    uint8_t *samples;
};

static enum cm_status act_sample(struct cm_session *session, void *argument)
{
    const struct sampling *sampling = argument;
    return session->family->blocks->sample(session, sampling->region, sampling->start,
                                           sampling->count, sampling->piece, sampling->samples);
}

/*
 * Pieces from `at` on of which the first byte tells enough, as far as they follow on one another:
 * pages that are taken for blank, or just differ where no erase is needed, or, behind a sector that
 * must be erased, others that must be too. `at` goes to the first that it does not tell of. Sectors
 * are asked twice: no erase is decided on one reading.
 */
static enum cm_status pass_by_samples(struct cm_blocks *work, uint32_t *at, uint32_t end,
                                      enum cm_sector_state state)
{
    bool erase = state == CM_SECTOR_ERASE;
    uint8_t readings = erase ? 2 : 1;
    uint32_t piece = erase ? work->sector : work->region.page_bytes,
             count = (end - *at + piece - 1) / piece;
    enum cm_status status = CM_OK;
    if (work->region.traits & CM_REGION_SETTINGS) // they are few
        return CM_OK;
    struct sampling sampling = {work->index, *at, end - *at, piece, work->samples};
    for (; !status && sampling.samples < work->samples + readings * count;
         sampling.samples += count)
        status = cm_steadily(work->session, act_sample, &sampling);
    for (uint32_t i = 0; !status && i < count; i++) {
        uint32_t next = cm_piece_end(*at, piece, end);
        const uint8_t *wanted = work->buffer + (*at - work->chunk_start), sample = work->samples[i];
        // a wanted byte that is blank proves nothing when it reads blank: whether the page was
        // written in its place would not show
        bool tells = erase ? (*wanted & ~sample) && sample == work->samples[count + i]
                     : work->region.traits & CM_REGION_REWRITES
                         ? sample != *wanted
                         : sample == work->region.erased && *wanted != work->region.erased;
        if (!tells)
            break;
        cm_mark_sector(work, *at, state);
        *at = next;
    }
    return status;
}

static void note_change(struct cm_blocks *work, uint32_t differs)
{
    if (work->has_change)
        return;
    work->change = differs;
    work->change_index = work->index;
    work->has_change = true;
}

/* A difference that reads blank, behind nothing but blanks in its page. */
static bool looks_blank(const struct cm_blocks *work, uint32_t page, uint32_t differs)
{
    uint32_t from = page > work->chunk_start ? page - work->chunk_start : 0;
    return work->session->failure.found == work->region.erased &&
           cm_is_erased(work, work->buffer + from, differs - work->chunk_start - from);
}

/* At a difference: the page is taken for blank, can be reached, or is not. `at` goes to what is to
 * be looked at next. What nothing erases is not taken for blank without a look at all of it, and
 * comes in portions of a fifth of a second. */
static enum cm_status judge(struct cm_blocks *work, uint32_t *at, uint32_t end,
                            cm_blocks_act_fn *on_write)
{
    enum { PORTION = 2048 };
    uint32_t differs = work->session->failure.address,
             page = differs & ~(work->region.page_bytes - 1);
    note_change(work, differs);
    if (!work->unit_count)
        end = cm_piece_end(differs, PORTION, end);
    bool rewrites = work->region.traits & CM_REGION_REWRITES;
    bool blank = rewrites || looks_blank(work, page, differs);
    *at = cm_piece_end(differs, work->region.page_bytes, end);
    cm_mark_sector(work, differs, CM_SECTOR_PROGRAM);
    enum cm_status status = blank ? pass_by_samples(work, at, end, CM_SECTOR_PROGRAM) : CM_OK;
    if (!status && !(blank && (rewrites || work->unit_count)))
        status = check_reachable(work, differs, work->buffer + (differs - work->chunk_start),
                                 *at - differs);
    if (status == CM_DIFFERS) {
        if (!work->unit_count) // an EPROM: only light makes its bits 1 again
            return cm_refine(work->session, CM_REFUSED);
        cm_mark_sector(work, differs, CM_SECTOR_ERASE);
        *at = cm_piece_end(differs, work->sector, end);
        return pass_by_samples(work, at, end, CM_SECTOR_ERASE);
    }
    return status ? status : on_write(work, differs, *at - differs);
}

enum cm_status cm_examine_chunk(struct cm_blocks *work, uint32_t start, uint32_t count,
                                cm_blocks_act_fn *on_write)
{
    const struct cm_family *family = work->session->family;
    enum cm_status status = CM_OK;
    uint32_t end = start + count;
    work->chunk_start = start;
    if (work->cleared & CM_REGION_BIT(work->index))
        return family->guard->lifter->count(work, start, count, on_write);
    for (uint32_t at = start; !status && at < end;) {
        uint8_t *wanted = work->buffer + (at - start);
        status = cm_access_bytes(work, CM_ACCESS_MATCH, at, wanted, end - at);
        if (status != CM_DIFFERS)
            break;
        status = judge(work, &at, end, on_write);
    }
    return status;
}
