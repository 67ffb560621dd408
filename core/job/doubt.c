/*
 * Which bytes the images want, and which they do not: of those nobody knows what they were, once
 * contact was bad.
 *
 * A chip obeys what it reads. An instruction that arrives shifted, cut or with a bit changed may
 * write at another address, or erase. So after any doubt what was proven before does not count: the
 * images are looked at once more; and where there is anything beside them, the job cannot end with
 * CM_OK.
 */
#include "access.h"

const struct cm_source *cm_next_wanted(const struct cm_wanted *wanted, uint8_t region,
                                       uint32_t from, uint32_t end, uint32_t *start,
                                       uint32_t *count)
{
    const struct cm_source *found = NULL;
    *start = end;
    for (uint8_t i = 0; from < end && i < wanted->count; i++) {
        const struct cm_source *source = &wanted->wants[i].source;
        uint32_t at, bytes;
        if (wanted->wants[i].region != region ||
            !source->extent(source->context, from, &at, &bytes) || at >= *start || bytes == 0)
            continue;
        found = source;
        *start = at;
        *count = end - at < bytes ? end - at : bytes;
    }
    return found;
}

bool cm_next_unwanted(const struct cm_wanted *wanted, uint8_t region, uint32_t from, uint32_t end,
                      uint32_t *start, uint32_t *count)
{
    uint32_t at = end, bytes = 0;
    while (cm_next_wanted(wanted, region, from, end, &at, &bytes) && at == from)
        from += bytes;
    *start = from;
    *count = at - from;
    return from < end;
}

enum cm_status cm_doubt_unwanted(struct cm_session *session, const struct cm_wanted *wanted,
                                 uint8_t index, struct cm_report *report)
{
    struct cm_region region;
    uint32_t start, count;
    cm_region(session, index, &region);
    for (uint32_t at = 0; cm_next_unwanted(wanted, index, at, region.bytes, &start, &count);
         at = start + count) {
        if (report->doubtful_bytes == 0)
            cm_fail_at(session, CM_IN_DOUBT, CM_STEP_VERIFY, region.name, start);
        report->doubtful_bytes += count;
    }
    return report->doubtful_bytes ? CM_IN_DOUBT : CM_OK;
}

enum cm_status cm_doubt_all_unwanted(struct cm_session *session, const struct cm_wanted *wanted,
                                     struct cm_report *report)
{
    enum { REGISTERS = CM_REGION_SETTINGS | CM_REGION_REWRITES };
    struct cm_region region;
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; cm_region(session, i, &region) && (!status || status == CM_IN_DOUBT); i++) {
        if ((region.traits & REGISTERS) != REGISTERS)
            status = cm_doubt_unwanted(session, wanted, i, report);
    }
    return status;
}
