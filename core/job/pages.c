/*
 * The pages that a put's images touch, one after the other, with what is wanted in each.
 */
#include "pages.h"
#include <string.h>

/* First run of wanted bytes at or after `from` that lies in the page. */
bool cm_run_in_page(const struct cm_put_work *work, uint32_t from, uint32_t *start, uint32_t *count)
{
    const struct cm_source *source = &work->place.want->source;
    if (from >= work->place.end || !source->extent(source->context, from, start, count) || *start >= work->place.end)
        return false;
    if (*count > work->place.end - *start)
        *count = work->place.end - *start;
    return true;
}

static enum cm_status load_page(struct cm_put_work *work)
{
    uint32_t start, count;
    memset(work->page, work->place.region.erased, work->place.region.page_bytes);
    for (uint32_t at = work->place.page; cm_run_in_page(work, at, &start, &count); at = start + count) {
        const struct cm_source *source = &work->place.want->source;
        enum cm_status status = source->read(source->context, start, work->page + (start - work->place.page), count);
        if (status)
            return cm_fail_at(work->session, status, CM_STEP_READ, work->place.region.name, start);
    }
    return CM_OK;
}

/* The wants in force: carried data stands in for a want of the same region, which has been laid over it. */
static const struct cm_want *want_at(const struct cm_put_work *work, uint8_t i)
{
    bool carries = work->report->carried;
    if (i == work->put->want_count)
        return carries ? &work->carry_want : NULL;
    return i < work->put->want_count ? &work->put->wants[i] : NULL;
}

enum cm_status cm_each_page(struct cm_put_work *work, cm_page_fn *act)
{
    const struct cm_want *want;
    enum cm_status status = CM_OK;
    work->ordinal = 0;
    for (uint8_t i = 0; !status && (want = want_at(work, i)) != NULL; i++) {
        struct cm_page_place *place = &work->place;
        uint32_t start, count;
        place->want = want;
        cm_region(work->session, want->region, &place->region);
        if (work->report->carried && want != &work->carry_want && want->region == work->carry_want.region)
            continue;
        for (uint32_t at = 0; !status && want->source.extent(want->source.context, at, &start, &count); at = place->end) {
            place->page = start & ~(place->region.page_bytes - 1);
            place->end = place->page + place->region.page_bytes; // pages divide their region
            status = load_page(work);
            if (!status)
                status = act(work);
            work->ordinal++;
        }
    }
    return status;
}
