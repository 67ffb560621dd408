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
    struct cm_guard guard;
    enum cm_status status = cm_look_if_hidden(session, &guard);
    if (status || !(guard.bars_reading & CM_REGION_BIT(index)))
        return status;
    return cm_fail_byte(session, CM_PROTECTED, CM_STEP_READ, region->name, 0, guard.open,
                        guard.registers[0]);
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

/* Can the wires answer in place of the chip? */
static bool can_be_dead(const struct cm_session *session)
{
    const struct cm_blocks_rules *rules = session->family->blocks;
    return rules && rules->match_dead;
}

/* What differs is read again, in other portions, and what equals dead wires is compared again. */
static enum cm_status look_twice(struct cm_session *session, const struct cm_access *read,
                                 uint8_t *wanted)
{
    enum cm_status status = CM_DIFFERS;
    if (memcmp(wanted, read->in, read->count) == 0)
        status = session->family->blocks->match_dead(session, read->region, read->address, wanted,
                                                     read->count);
    if (status == CM_DIFFERS)
        status = cm_read_twice(session, read->region, read->address, read->in, read->count);
    return status == CM_DIFFERS ? cm_refine(session, CM_CONTACT_LOST) : status;
}

/*
 * A reading that arrives as something else may have written. So after doubt all is read once more;
 * and where there is anything beside it, a good end would promise too much.
 */
static enum cm_status settle_reading(struct cm_session *session, cm_act_fn *read, void *argument,
                                     const struct cm_wanted *wanted, struct cm_report *report)
{
    enum { TRIES = 3 };
    const struct cm_blocks_rules *rules = session->family->blocks;
    enum cm_status status = read(session, argument);
    if (status || !session->doubts || (rules && !rules->before_change))
        return status;
    report->doubted = true;
    for (uint8_t i = 0; i < TRIES && !status && session->doubts; i++) {
        session->doubts = 0;
        status = read(session, argument);
    }
    if (!status && session->doubts)
        status = cm_fail(session, CM_CONTACT_LOST, CM_STEP_COMPARE);
    session->doubts = 0; // told, by what it ends with
    return status ? status : cm_doubt_all_unwanted(session, wanted, report);
}

struct comparing {
    const struct cm_want *want;
    cm_difference_fn *on_difference;
    cm_progress_fn *progress;
    void *context;
    struct cm_report *report;
};

static enum cm_status act_compare(struct cm_session *session, void *argument)
{
    const struct comparing *comparing = argument;
    const struct cm_want *want = comparing->want;
    struct cm_report *report = comparing->report;
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
        struct cm_access access = {CM_ACCESS_READ, want->region, start, {.in = found}, count};
        if (!status)
            status = cm_access(session, &access);
        if (!status && can_be_dead(session))
            status = look_twice(session, &access, wanted);
        if (status)
            break;
        report->bytes += count;
        goes_on = tell_differences(wanted, found, start, count, comparing->on_difference,
                                   comparing->context, report);
        for (uint32_t i = 0; i < count && first == UINT32_MAX; i++) {
            if (wanted[i] != found[i]) {
                first = start + i;
                expected = wanted[i];
                came = found[i];
            }
        }
        status = cm_report_progress(
            session, comparing->progress, comparing->context,
            &(struct cm_progress){CM_STEP_COMPARE, region.name, start + count, region.bytes});
    }
    report->actual_us = cm_now_us(session) - begun;
    if (status || report->differences == 0)
        return status;
    return cm_fail_byte(session, CM_DIFFERS, CM_STEP_COMPARE, region.name, first, expected, came);
}

enum cm_status cm_compare(struct cm_session *session, const struct cm_want *want,
                          cm_difference_fn *on_difference, cm_progress_fn *progress, void *context,
                          struct cm_report *report)
{
    struct comparing comparing = {want, on_difference, progress, context, report};
    const struct cm_wanted wanted = {want, 1};
    return settle_reading(session, act_compare, &comparing, &wanted, report);
}

struct blank_check {
    uint8_t region;
    cm_progress_fn *progress;
    void *context;
};

static enum cm_status act_check_blank(struct cm_session *session, void *argument)
{
    const struct blank_check *check = argument;
    uint8_t index = check->region;
    struct cm_region region;
    struct cm_report unused;
    enum cm_status status = begin(session, index, &region, &unused);
    if (!status)
        status = cm_check_blank(session, index, check->progress, check->context);
    if ((status && status != CM_DIFFERS) || !can_be_dead(session))
        return status;
    if (status == CM_DIFFERS) // once more, before it is said
        status = cm_check_blank(session, index, check->progress, check->context);
    for (uint32_t at = 0, part; !status && at < region.bytes; at += part) {
        part = cm_chunk(session, &region, at, region.bytes);
        status = session->family->blocks->match_dead(session, index, at, session->workspace, part);
    }
    return status;
}

/* Checks every region of contents that an erase clears. */
static enum cm_status check_all_blank(struct cm_session *session, const struct cm_guard *guard,
                                      const struct cm_blank *how, struct cm_report *report)
{
    struct cm_region region;
    enum cm_status status = CM_OK;
    report->bytes = 0;
    for (uint8_t i = 0; !status && cm_region(session, i, &region); i++) {
        if (!(guard->clears & CM_REGION_BIT(i)) || (region.traits & CM_REGION_SETTINGS))
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

enum cm_status cm_is_blank(struct cm_session *session, uint8_t index, cm_progress_fn *progress,
                           void *context)
{
    struct blank_check check = {index, progress, context};
    struct cm_region region = {.bytes = 0};
    struct cm_report unused = {.doubted = false};
    cm_region(session, index, &region);
    struct cm_blank_area area = {0, region.bytes, region.erased};
    struct cm_want all = {index, cm_blank_source(&area)};
    const struct cm_wanted wanted = {&all, 1};
    return settle_reading(session, act_check_blank, &check, &wanted, &unused);
}

/* A chip that is erased by units, or written over: blank is what its regions shall hold. */
static enum cm_status blank_by_put(struct cm_session *session, const struct cm_blank *how,
                                   struct cm_report *report)
{
    enum { REGIONS = CM_REGION_DATA + 1 };
    struct cm_region region;
    struct cm_blank_area areas[REGIONS];
    struct cm_want wants[REGIONS];
    uint8_t count = 0;
    for (uint8_t i = 0; i < REGIONS && cm_region(session, i, &region); i++) {
        if (!region.bytes || !(region.traits & CM_REGION_WRITABLE))
            continue;
        areas[count] = (struct cm_blank_area){0, region.bytes, region.erased};
        wants[count] = (struct cm_want){i, cm_blank_source(&areas[count])};
        count++;
    }
    struct cm_put put = {.wants = wants,
                         .want_count = count,
                         .unprotect = how->unprotect,
                         .progress = how->progress,
                         .progress_context = how->progress_context};
    return cm_put(session, &put, report);
}

/* After doubt all is looked at once more; a region that outlives the erase may have changed, and
 * nobody knows what it held. */
static enum cm_status settle_doubt(struct cm_session *session, const struct cm_guard *guard,
                                   const struct cm_blank *how, struct cm_report *report)
{
    enum { TRIES = 3 };
    static const struct cm_wanted NOTHING = {.count = 0};
    struct cm_region region;
    enum cm_status status = CM_OK;
    report->doubted = session->doubts != 0;
    for (uint8_t i = 0; i < TRIES && !status && session->doubts; i++) {
        session->doubts = 0;
        status = check_all_blank(session, guard, how, report);
    }
    if (!status && session->doubts)
        return cm_fail(session, CM_CONTACT_LOST, CM_STEP_VERIFY);
    bool outlives = !(guard->clears & CM_REGION_BIT(CM_REGION_DATA)) &&
                    cm_region(session, CM_REGION_DATA, &region) && region.bytes;
    return !status && report->doubted && outlives
               ? cm_doubt_unwanted(session, &NOTHING, CM_REGION_DATA, report)
               : status;
}

static enum cm_status blank_chip(struct cm_session *session, const struct cm_blank *how,
                                 struct cm_report *report)
{
    struct cm_guard guard;
    enum cm_status status = cm_guard_look(session, &guard);
    if (!status)
        status = cm_check_supply(session);
    if (status)
        return status;
    bool locked = cm_guard_is_on(&guard);
    if (locked && !how->unprotect)
        return cm_fail_locked(session, &guard);
    status = locked ? CM_DIFFERS : check_all_blank(session, &guard, how, report);
    if (status == CM_DIFFERS) {
        report->erase = true;
        status = cm_report_progress(session, how->progress, how->progress_context,
                                    &(struct cm_progress){CM_STEP_ERASE, "chip", 0, 1});
        if (!status)
            status = cm_erase_steadily(session);
        if (!status)
            status = check_all_blank(session, &guard, how, report);
    }
    if (!status)
        status = settle_doubt(session, &guard, how, report);
    return status == CM_DIFFERS ? cm_refine(session, CM_WRITE_FAILED) : status;
}

/* Where an erase opens a lock, that comes first, and it stays open. */
static enum cm_status blank_by_units(struct cm_session *session, const struct cm_blank *how,
                                     struct cm_report *report)
{
    struct cm_guard guard;
    enum cm_status status = cm_look_if_hidden(session, &guard);
    bool is_locked = guard.cost == CM_LIFT_CONTENTS && cm_guard_is_on(&guard);
    if (!status && is_locked && how->unprotect)
        status = cm_guard_lift(session, &guard, CM_LIFT_CONTENTS);
    return status ? status : blank_by_put(session, how, report);
}

/* Is the smallest erase one of several regions? */
static bool is_erased_at_once(const struct cm_session *session)
{
    struct cm_erase_unit unit;
    return cm_erase_unit(session, CM_REGION_MAIN, 0, &unit) &&
           unit.clears != CM_REGION_BIT(CM_REGION_MAIN);
}

enum cm_status cm_blank(struct cm_session *session, const struct cm_blank *how,
                        struct cm_report *report)
{
    memset(report, 0, sizeof *report);
    enum cm_status status = cm_require(session);
    if (status)
        return status;
    if (!is_erased_at_once(session))
        return blank_by_units(session, how, report);
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
    struct cm_access read = {CM_ACCESS_READ, index, address, {.in = bytes}, count};
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
    const struct cm_blocks_rules *rules = session->family->blocks;
    if (!status && session->doubts && rules && rules->obeys_reads)
        status =
            cm_fail(session, CM_IN_DOUBT, CM_STEP_READ); // it may be what a reading has written
    return status;
}
