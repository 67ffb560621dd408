/*
 * Carrying what an erase of a sector takes along beside the images: read twice, handed to the
 * caller to keep safe, and filled in again with what the images want.
 *
 * A file of its own: only kits that name cm_carry_sectors carry it.
 */
#include "blocks.h"

/* Reads what is beside the images in an area, twice, and hands it to the caller to keep. The buffer
 * then holds all that the area shall hold. */
static enum cm_status read_sector(struct cm_blocks *work, uint32_t start, uint32_t bytes)
{
    const struct cm_carry *hook = &work->put->carry;
    uint32_t at = start, end = start + bytes, run, count;
    enum cm_status status = CM_OK;
    while (!status && at < end) {
        bool wanted = cm_wanted_run(work, at, end, &run, &count);
        uint32_t gap = (wanted ? run : end) - at;
        uint8_t *place = work->buffer + (at - start);
        if (gap)
            status = cm_read_twice(work->session, work->index, at, place, gap);
        if (status == CM_DIFFERS)
            return cm_refine(work->session, CM_CONTACT_LOST);
        bool holds_data = gap && !status && !cm_is_erased(work, place, gap);
        if (holds_data)
            work->report->carried_bytes += gap;
        if (holds_data && hook->saved &&
            hook->saved(hook->context, work->index, at, place, gap) != CM_OK)
            return cm_fail_at(work->session, CM_REFUSED, CM_STEP_CARRY, work->region.name, at);
        if (!status && wanted)
            status = cm_load_wanted(work, run, work->buffer + (run - start), count);
        at += gap + (wanted ? count : 0);
    }
    return status;
}

const struct cm_carrier cm_carry_sectors = {.read_sector = read_sector};
