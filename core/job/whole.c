/*
 * The jobs that look at whole regions: compare, blank, keep.
 */
#include "access.h"
#include <string.h>

static enum cm_status begin(struct cm_session *session, uint8_t index, struct cm_region *region,
                            struct cm_report *report)
{
    memset(report, 0, sizeof *report);
    if (!cm_region(session, index, region))
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_OPEN);
    struct cm_protection protection;
    enum cm_status status = cm_protection_steadily(session, &protection);
    if (status || !protection.bars_reading || (region->traits & CM_REGION_SETTINGS))
        return status;
    return cm_fail_byte(session, CM_PROTECTED, CM_STEP_READ, region->name, 0, protection.open_lock,
                        protection.lock);
}

/* Half of the workspace for the image's bytes, half for the chip's. */
static uint32_t half_chunk(const struct cm_session *session, uint32_t left)
{
    uint32_t lively = session->clock_hz / 512 > 2048 ? session->clock_hz / 512
                                                     : 2048; // of a fast memory, more at once
    uint32_t half = session->workspace_bytes / 2 < lively ? session->workspace_bytes / 2 : lively;
    return left < half ? left : half;
}

static bool tell_differences(const uint8_t *wanted, const uint8_t *found, uint32_t address,
                             uint32_t count, cm_difference_fn *on_difference, void *context,
                             struct cm_report *report)
{
    bool goes_on = true;
    for (uint32_t i = 0; i < count; i++) {
        if (wanted[i] == found[i])
            continue;
        report->differences++;
        if (goes_on && on_difference)
            goes_on = on_difference(context, address + i, wanted[i], found[i]);
    }
    return goes_on;
}

/* Of chips where the wires can answer: what differs is read again, in other portions, and what
 * equals dead wires is compared again. */
static enum cm_status look_twice(struct cm_session *session, const struct cm_access *read,
                                 uint8_t *wanted)
{
    enum cm_status status = CM_DIFFERS;
    if (memcmp(wanted, read->bytes, read->count) == 0)
        status = session->family->memory->match_dead(session, read->region, read->address, wanted,
                                                     read->count);
    if (status == CM_DIFFERS)
        status = cm_read_twice(session, read->region, read->address, read->bytes, read->count);
    return status == CM_DIFFERS ? cm_refine(session, CM_CONTACT_LOST) : status;
}

enum cm_status cm_compare(struct cm_session *session, const struct cm_want *want,
                          cm_difference_fn *on_difference, cm_progress_fn *progress, void *context,
                          struct cm_report *report)
{
    struct cm_region region;
    uint32_t start = 0, count = 0, begun = cm_now_us(session);
    uint32_t first = UINT32_MAX;
    uint8_t expected = 0, came = 0;
    enum cm_status status = begin(session, want->region, &region, report);
    if (!status && session->workspace_bytes < 2)
        status = cm_fail(session, CM_NO_ROOM, CM_STEP_COMPARE);
    uint8_t *wanted = session->workspace,
            *found = session->workspace + session->workspace_bytes / 2;
    bool goes_on = true;
    for (uint32_t at = 0;
         !status && goes_on && want->source.extent(want->source.context, at, &start, &count);
         at = start + count) {
        if (!cm_extent_fits(&region, start, count))
            return cm_fail_beyond(session, CM_STEP_COMPARE, &region, start);
        count = half_chunk(session, count);
        status = want->source.read(want->source.context, start, wanted, count);
        if (status)
            status = cm_fail_at(session, status, CM_STEP_READ, region.name, start);
        struct cm_access access = {CM_ACCESS_READ, want->region, start, found, count};
        if (!status)
            status = cm_access(session, &access);
        if (!status && session->family->memory && session->family->memory->match_dead)
            status = look_twice(session, &access, wanted);
        if (status)
            break;
        report->bytes += count;
        goes_on = tell_differences(wanted, found, start, count, on_difference, context, report);
        for (uint32_t i = 0; i < count && first == UINT32_MAX; i++) {
            if (wanted[i] != found[i]) {
                first = start + i;
                expected = wanted[i];
                came = found[i];
            }
        }
        status = cm_report_progress(
            session, progress, context,
            &(struct cm_progress){CM_STEP_COMPARE, region.name, start + count, region.bytes});
    }
    report->actual_us = cm_now_us(session) - begun;
    if (status || report->differences == 0)
        return status;
    return cm_fail_byte(session, CM_DIFFERS, CM_STEP_COMPARE, region.name, first, expected, came);
}

enum cm_status cm_is_blank(struct cm_session *session, uint8_t index, cm_progress_fn *progress,
                           void *context)
{
    struct cm_region region;
    struct cm_report unused;
    enum cm_status status = begin(session, index, &region, &unused);
    if (!status)
        status = cm_check_blank(session, index, progress, context);
    const struct cm_memory_rules *memory = session->family ? session->family->memory : NULL;
    if (!memory || !memory->match_dead || (status && status != CM_DIFFERS))
        return status;
    if (status == CM_DIFFERS) // once more, before it is said
        status = cm_check_blank(session, index, progress, context);
    for (uint32_t at = 0, part; !status && at < region.bytes; at += part) {
        part = cm_chunk(session, &region, at, region.bytes);
        status = memory->match_dead(session, index, at, session->workspace, part);
    }
    return status;
}

/* Checks every region of contents that an erase clears. */
static enum cm_status check_all_blank(struct cm_session *session,
                                      const struct cm_protection *protection,
                                      const struct cm_blank *how, struct cm_report *report)
{
    struct cm_region region;
    enum cm_status status = CM_OK;
    report->bytes = 0;
    for (uint8_t i = 0; !status && cm_region(session, i, &region); i++) {
        bool is_cleared =
            (region.traits & CM_REGION_ERASED) && !(region.traits & CM_REGION_SETTINGS);
        if (!is_cleared || (i == CM_REGION_DATA && protection->keeps_data))
            continue;
        status = cm_check_blank(session, i, how->progress, how->progress_context);
        report->bytes += region.bytes;
    }
    return status;
}

static bool blank_extent(void *context, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    const struct cm_blank_area *area = context;
    if (from >= area->first + area->count)
        return false;
    *start = from > area->first ? from : area->first;
    *bytes = area->first + area->count - *start;
    return true;
}

static enum cm_status blank_read(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    (void)address;
    memset(bytes, ((const struct cm_blank_area *)context)->erased, count);
    return CM_OK;
}

struct cm_source cm_blank_source(struct cm_blank_area *area)
{
    return (struct cm_source){area, blank_extent, blank_read};
}

/* A memory that is erased by units, or written over: blank is what it shall hold. */
static enum cm_status blank_by_put(struct cm_session *session, const struct cm_blank *how,
                                   struct cm_report *report)
{
    struct cm_region region;
    cm_region(session, CM_REGION_MAIN, &region);
    struct cm_blank_area area = {0, region.bytes, region.erased};
    struct cm_want want = {CM_REGION_MAIN, cm_blank_source(&area)};
    struct cm_put put = {.wants = &want,
                         .want_count = 1,
                         .unprotect = how->unprotect,
                         .progress = how->progress,
                         .progress_context = how->progress_context};
    return cm_put(session, &put, report);
}

/* After doubt all is looked at once more; a region that outlives the erase may have changed, and
 * nobody knows what it held. */
static enum cm_status settle_doubt(struct cm_session *session,
                                   const struct cm_protection *protection,
                                   const struct cm_blank *how, struct cm_report *report)
{
    enum { TRIES = 3 };
    static const struct cm_put NOTHING = {.want_count = 0};
    struct cm_region region;
    enum cm_status status = CM_OK;
    report->doubted = session->doubts != 0;
    for (uint8_t i = 0; i < TRIES && !status && session->doubts; i++) {
        session->doubts = 0;
        status = check_all_blank(session, protection, how, report);
    }
    if (!status && session->doubts)
        return cm_fail(session, CM_CONTACT_LOST, CM_STEP_VERIFY);
    bool outlives =
        protection->keeps_data && cm_region(session, CM_REGION_DATA, &region) && region.bytes;
    return !status && report->doubted && outlives
               ? cm_doubt_unwanted(session, &NOTHING, CM_REGION_DATA, report)
               : status;
}

static enum cm_status blank_chip(struct cm_session *session, const struct cm_blank *how,
                                 struct cm_report *report)
{
    struct cm_protection protection;
    enum cm_status status = cm_protection_steadily(session, &protection);
    if (!status)
        status = cm_check_supply(session);
    if (status)
        return status;
    bool locked = protection.has_lock && protection.lock != protection.open_lock;
    if (locked && !how->unprotect)
        return cm_fail_byte(session, CM_PROTECTED, CM_STEP_SETTINGS, "lock", 0,
                            protection.open_lock, protection.lock);
    status = locked ? CM_DIFFERS : check_all_blank(session, &protection, how, report);
    if (status == CM_DIFFERS) {
        report->erase = true;
        status = cm_report_progress(session, how->progress, how->progress_context,
                                    &(struct cm_progress){CM_STEP_ERASE, "chip", 0, 1});
        if (!status)
            status = cm_erase_steadily(session);
        if (!status)
            status = check_all_blank(session, &protection, how, report);
    }
    if (!status)
        status = settle_doubt(session, &protection, how, report);
    return status == CM_DIFFERS ? cm_refine(session, CM_WRITE_FAILED) : status;
}

enum cm_status cm_blank(struct cm_session *session, const struct cm_blank *how,
                        struct cm_report *report)
{
    memset(report, 0, sizeof *report);
    enum cm_status status = cm_require(session);
    if (status)
        return status;
    if (!session->family->erase)
        return blank_by_put(session, how, report);
    uint32_t begun = cm_now_us(session);
    status = blank_chip(session, how, report);
    session->doubts = 0; // told, by what it ends with
    report->actual_us = cm_now_us(session) - begun;
    return status;
}

enum cm_status cm_read_twice(struct cm_session *session, uint8_t index, uint32_t address,
                             uint8_t *bytes, uint32_t count)
{
    enum { TRIES = 3 };
    struct cm_access read = {CM_ACCESS_READ, index, address, bytes, count};
    enum cm_status status = CM_DIFFERS;
    for (uint8_t i = 0; i < TRIES && status == CM_DIFFERS; i++) {
        status = cm_access(session, &read);
        if (!status)
            status = cm_match_by_parts(session, &read);
    }
    return status;
}

enum cm_status cm_keep(struct cm_session *session, uint8_t index, cm_sink_fn *sink,
                       cm_progress_fn *progress, void *context, struct cm_report *report)
{
    struct cm_region region;
    uint32_t begun = cm_now_us(session);
    enum cm_status status = begin(session, index, &region, report);
    for (uint32_t at = 0, part; !status && at < region.bytes; at += part) {
        part = cm_chunk(session, &region, at, region.bytes);
        status = cm_read_twice(session, index, at, session->workspace, part);
        if (!status && (status = sink(context, at, session->workspace, part)) != CM_OK)
            status = cm_fail_at(session, status, CM_STEP_READ, region.name, at);
        report->bytes += status ? 0 : part;
        if (!status)
            status = cm_report_progress(
                session, progress, context,
                &(struct cm_progress){CM_STEP_READ, region.name, at + part, region.bytes});
    }
    report->actual_us = cm_now_us(session) - begun;
    return status;
}
