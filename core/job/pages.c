/*
 * The pages that a put's images touch, one after the other, with what is wanted in each.
 */
#include "pages.h"
#include <string.h>

const struct cm_wanted *cm_wanted_here(const struct cm_put_work *work)
{
    return work->place.index == CM_REGION_DATA ? &work->of_data : &work->wanted;
}

bool cm_outlives_erase(const struct cm_put_work *work)
{
    return !(work->guard.clears & CM_REGION_BIT(work->place.index));
}

bool cm_is_cleared(const struct cm_put_work *work)
{
    return work->erased && !cm_outlives_erase(work) &&
           !(work->place.region.traits & CM_REGION_SETTINGS);
}

bool cm_run_in_page(const struct cm_put_work *work, uint32_t from, uint32_t *start, uint32_t *count)
{
    const struct cm_page_place *place = &work->place;
    *start = from;
    *count = place->end - from;
    if (place->whole)
        return from < place->end;
    return cm_next_wanted(cm_wanted_here(work), place->index, from, place->end, start, count) !=
           NULL;
}

static enum cm_status load_page(struct cm_put_work *work)
{
    const struct cm_page_place *place = &work->place;
    const struct cm_source *source;
    uint32_t start, count;
    memset(work->page, place->region.erased, place->region.page_bytes);
    for (uint32_t at = place->page; (source = cm_next_wanted(cm_wanted_here(work), place->index, at,
                                                             place->end, &start, &count)) != NULL;
         at = start + count) {
        enum cm_status status =
            source->read(source->context, start, work->page + (start - place->page), count);
        if (status)
            return cm_fail_at(work->session, status, CM_STEP_READ, place->region.name, start);
    }
    return CM_OK;
}

enum cm_status cm_each_page(struct cm_put_work *work, cm_page_fn *act)
{
    struct cm_page_place *place = &work->place;
    enum cm_status status = CM_OK;
    work->ordinal = 0;
    for (place->index = 0; !status && cm_region(work->session, place->index, &place->region);
         place->index++) {
        place->whole = work->looks_again && cm_is_cleared(work);
        for (uint32_t start = 0, count; !status && start < place->region.bytes;
             start = place->end) {
            if (!place->whole && !cm_next_wanted(cm_wanted_here(work), place->index, start,
                                                 place->region.bytes, &start, &count))
                break;
            place->page = start & ~(place->region.page_bytes - 1);
            place->end = place->page + place->region.page_bytes; // pages divide their region
            status = load_page(work);
            if (!status && work->session->kit->strides)
                status = work->session->kit->strides->before(work);
            if (status || place->page == place->end)
                continue;
            status = act(work);
            work->ordinal++;
        }
        if (status)
            break; // the place of the failure stays
    }
    return status;
}
