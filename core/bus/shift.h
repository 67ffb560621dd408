/* One instruction of the shift bus: to fill it in, and to judge its answer. For shift.c, and for
 * packed.c, which shifts many in one call. */
#ifndef CM_BUS_SHIFT_H
#define CM_BUS_SHIFT_H

#include "run.h"

/* Instructions of the exchange at hand: one for each byte of the chunk that moves. */
static inline uint32_t cm_shift_count(const struct cm_run *run)
{
    return run->repeat && run->bytes && cm_data_of(run->exchange) ? run->count : 1;
}

/* Fills an instruction in, and returns its length. A data byte that does not go out is the head's.
 */
static inline uint8_t cm_shift_fill(const struct cm_run *run, uint8_t *out)
{
    uint8_t bytes = cm_run_head(run, out), data = cm_data_of(run->exchange);
    if (data == CM_DATA_OUT && run->bytes)
        out[bytes] = *run->bytes;
    return (uint8_t)(bytes + (data != CM_DATA_NONE));
}

/* Each answer but the first and the last is the byte that went out before it; the last one is what
 * was asked for. */
static inline enum cm_status cm_shift_judge(struct cm_run *run, const uint8_t *out,
                                            const uint8_t *in, uint8_t bytes)
{
    const struct cm_exchange *exchange = run->exchange;
    uint8_t data = cm_data_of(exchange), last = in[bytes - 1];
    for (uint8_t i = 1; exchange->data & CM_ECHO && i < bytes - 1; i++) {
        if (out[i - 1] == in[i])
            continue;
        run->expected = out[i - 1];
        run->found = in[i];
        return CM_CONTACT_LOST;
    }
    run->expected = exchange->want;
    run->found = last;
    if ((last & exchange->mask) != exchange->want)
        return CM_BAD_ANSWER;
    if (data == CM_DATA_IN)
        *run->bytes = last;
    if (data < CM_DATA_MATCH)
        return CM_OK;
    uint8_t wanted = run->expected = *run->bytes;
    if (data == CM_DATA_FITS)
        last &= wanted; // only bits that must be 1
    return last == wanted ? CM_OK : CM_DIFFERS;
}

#endif
