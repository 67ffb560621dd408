/*
 * Sources that show others in another way: moved, joined, filled, swapped, split, woven. Nothing is
 * copied but what is asked for, so images of any size take the same memory.
 */
#include "image.h"
#include <string.h>

enum { GROUP_BYTES = 4096 };

/* --- extents ----------------------------------------------------------------------------- */

static bool inner_extent(const struct view *view, unsigned index, uint32_t from, uint32_t *start,
                         uint32_t *bytes)
{
    return view->inner[index].extent(view->inner[index].context, from, start, bytes) && *bytes > 0;
}

/* The run cut to what begins at or after `from` and ends with `last`. */
static bool clip(uint32_t from, uint32_t last, uint32_t *start, uint32_t *bytes)
{
    uint64_t begin = *start < from ? from : *start, end = (uint64_t)*start + *bytes;
    if (end > (uint64_t)last + 1)
        end = (uint64_t)last + 1;
    *start = (uint32_t)begin;
    *bytes = begin < end ? (uint32_t)(end - begin) : 0;
    return begin < end;
}

static bool moved_extent(const struct view *view, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    if (from > view->to && from - view->to > view->last - view->first)
        return false;
    uint32_t inner_from = from < view->to ? view->first : view->first + (from - view->to);
    if (!inner_extent(view, 0, inner_from, start, bytes) ||
        !clip(inner_from, view->last, start, bytes))
        return false;
    *start = view->to + (*start - view->first);
    return true;
}

/* Nearest run of any of them, cut where another begins that goes before it. */
static bool joined_extent(const struct view *view, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    bool any = false;
    for (unsigned i = 0; i < view->count; i++) {
        uint32_t at, count;
        if (!inner_extent(view, i, from, &at, &count))
            continue;
        if (any && at > *start && at - *start < *bytes)
            *bytes = at - *start;
        if (!any || at < *start) {
            if (any && *start - at < count)
                count = *start - at;
            *start = at;
            *bytes = count;
        }
        any = true;
    }
    return any;
}

static bool filled_extent(const struct view *view, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    bool found = inner_extent(view, 0, from, start, bytes);
    if (from > view->last || (found && *start <= from))
        return found;
    uint32_t begin = from < view->first ? view->first : from;
    if (found && *start < begin)
        return true;
    uint32_t end = view->last;
    if (found && *start <= end)
        end = *start - 1;
    *start = begin;
    *bytes = end - begin + 1;
    return true;
}

/* All groups have to be whole: the acts have seen to that. */
static bool split_extent(const struct view *view, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    if (!inner_extent(view, 0, from * view->ways, start, bytes))
        return false;
    *start /= view->ways;
    *bytes /= view->ways;
    return *bytes > 0;
}

static bool woven_extent(const struct view *view, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    if (!inner_extent(view, 0, from / view->ways, start, bytes))
        return false;
    *start *= view->ways;
    *bytes *= view->ways;
    return clip(from, UINT32_MAX, start, bytes);
}

static bool extent(void *context, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    const struct view *view = context;
    switch (view->kind) {
    case VIEW_MOVED:
        return moved_extent(view, from, start, bytes);
    case VIEW_JOINED:
        return joined_extent(view, from, start, bytes);
    case VIEW_FILLED:
        return filled_extent(view, from, start, bytes);
    case VIEW_SPLIT:
        return split_extent(view, from, start, bytes);
    case VIEW_WOVEN:
        return woven_extent(view, from, start, bytes);
    default:
        return inner_extent(view, 0, from, start, bytes);
    }
}

/* --- bytes ------------------------------------------------------------------------------- */

static enum cm_status inner_read(const struct view *view, unsigned index, uint32_t address,
                                 uint8_t *bytes, uint32_t count)
{
    return view->inner[index].read(view->inner[index].context, address, bytes, count);
}

static bool has_byte(const struct view *view, unsigned index, uint32_t address)
{
    uint32_t start, count;
    return inner_extent(view, index, address, &start, &count) && start <= address;
}

static enum cm_status read_first_that_has(const struct view *view, uint32_t address, uint8_t *bytes,
                                          uint32_t count)
{
    for (unsigned i = 0; i < view->count; i++) {
        if (has_byte(view, i, address))
            return inner_read(view, i, address, bytes, count);
    }
    memset(bytes, view->fill, count);
    return CM_OK;
}

static enum cm_status read_swapped(const struct view *view, uint32_t address, uint8_t *bytes,
                                   uint32_t count)
{
    uint8_t group[16];
    enum cm_status status = CM_OK;
    for (uint32_t i = 0; i < count && !status;) {
        uint32_t at = address + i, place = at % view->ways;
        status = inner_read(view, 0, at - place, group, view->ways);
        for (; place < view->ways && i < count; place++, i++)
            bytes[i] = group[view->ways - 1 - place];
    }
    return status;
}

static enum cm_status read_split(const struct view *view, uint32_t address, uint8_t *bytes,
                                 uint32_t count)
{
    uint8_t groups[GROUP_BYTES];
    uint32_t most = GROUP_BYTES / view->ways;
    enum cm_status status = CM_OK;
    for (uint32_t done = 0, part; done < count && !status; done += part) {
        part = count - done < most ? count - done : most;
        status = inner_read(view, 0, (address + done) * view->ways, groups, part * view->ways);
        for (uint32_t i = 0; i < part; i++)
            bytes[done + i] = groups[i * view->ways + view->part];
    }
    return status;
}

static enum cm_status read_woven(const struct view *view, uint32_t address, uint8_t *bytes,
                                 uint32_t count)
{
    uint8_t one[GROUP_BYTES];
    enum cm_status status = CM_OK;
    for (uint32_t done = 0, part; done < count && !status; done += part) {
        uint32_t begin = address + done, first = begin / view->ways,
                 most = (GROUP_BYTES - 1) * view->ways;
        part = count - done < most ? count - done : most;
        uint32_t last = (begin + part - 1) / view->ways;
        for (unsigned i = 0; i < view->ways && !status; i++) {
            status = inner_read(view, i, first, one, last - first + 1);
            for (uint32_t at = first; at <= last; at++) {
                uint64_t out = (uint64_t)at * view->ways + i;
                if (out >= begin && out < (uint64_t)begin + part)
                    bytes[out - address] = one[at - first];
            }
        }
    }
    return status;
}

static enum cm_status read(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    const struct view *view = context;
    switch (view->kind) {
    case VIEW_MOVED:
        return inner_read(view, 0, view->first + (address - view->to), bytes, count);
    case VIEW_SWAPPED:
        return read_swapped(view, address, bytes, count);
    case VIEW_SPLIT:
        return read_split(view, address, bytes, count);
    case VIEW_WOVEN:
        return read_woven(view, address, bytes, count);
    default:
        return read_first_that_has(view, address, bytes, count);
    }
}

struct cm_source view_source(struct view *view)
{
    return (struct cm_source){view, extent, read};
}

bool source_bounds(const struct cm_source *source, uint32_t *first, uint32_t *last, uint64_t *bytes)
{
    uint32_t start, count;
    *bytes = 0;
    for (uint32_t at = 0; source->extent(source->context, at, &start, &count) && count;
         at = start + count) {
        if (*bytes == 0)
            *first = start;
        *last = start + (count - 1);
        *bytes += count;
        if (*last == UINT32_MAX)
            break;
    }
    return *bytes > 0;
}
