/*
 * What no image wants, summed before the first change and behind the last one, for buses without an
 * echo: there an instruction that is misread may write a word that nobody looks at, and nothing
 * shows it. Only small memories: it takes two readings of them.
 *
 * A file of its own: only families that name it carry it.
 */
#include "blocks.h"

/* FNV-1a, of 32 bits. */
static uint32_t add(uint32_t sum, const uint8_t *bytes, uint32_t count)
{
    enum { PRIME = 16777619 };
    for (uint32_t i = 0; i < count; i++)
        sum = (sum ^ bytes[i]) * PRIME;
    return sum;
}

static enum cm_status sum_rest(struct cm_blocks *work, uint32_t *sum)
{
    uint32_t end = work->region.bytes, start, count;
    enum cm_status status = CM_OK;
    *sum = 0;
    for (uint32_t at = 0;
         !status && cm_next_unwanted(&work->wanted, work->index, at, end, &start, &count);
         at = start + count) {
        count = count < work->buffer_bytes ? count : work->buffer_bytes;
        status = cm_access_bytes(work, CM_ACCESS_READ, start, work->buffer, count);
        *sum = add(*sum, work->buffer, count);
    }
    return status;
}

enum cm_status cm_sum_rest(struct cm_blocks *work)
{
    return sum_rest(work, &work->rest);
}

/* One reading may be wrong, and so may the one before the job. */
enum cm_status cm_match_rest(struct cm_blocks *work, enum cm_status status)
{
    enum { TRIES = 2 };
    uint32_t now = ~work->rest;
    for (uint8_t i = 0; i < TRIES && !status && work->has_begun && now != work->rest; i++)
        status = sum_rest(work, &now);
    if (status || !work->has_begun || now == work->rest)
        return status;
    work->report->doubted = true;
    return cm_doubt_all_unwanted(work->session, &work->wanted, work->report);
}
