/*
 * Instructions that are shifted in and out at once, without a select line: AVR parts.
 *
 *     MOSI   | 20 | address  | address | xx   |       head and data
 *     MISO   | xx | 20       | address | data |       what came one byte before, and the data
 *
 * Each answer but the first and the last repeats the byte before it: a loose wire does not do that.
 *
 * An instruction moves one byte. In a repeat there is one for each byte of the chunk, with its own
 * address; the answer to one is judged before the next goes out.
 */
#include "shift.h"

/* A build may leave all instructions to its only port: its `packed_shift` then takes those outside
 * of a repeat, too. */
#ifdef CM_SHIFT_BY_PORT
static enum cm_status shift_exchange(struct cm_run *run)
{
    const struct cm_spi *spi = run->port->spi;
    return cm_data_of(run->exchange) == CM_DATA_BOTH
               ? spi->shift(run->port, run->bytes, run->bytes, run->count)
               : spi->packed_shift(run);
}
#else
static enum cm_status shift_exchange(struct cm_run *run)
{
    uint8_t out[CM_SHIFT_BYTES], in[CM_SHIFT_BYTES];
    const struct cm_spi *spi = run->port->spi;
    if (cm_data_of(run->exchange) == CM_DATA_BOTH)
        return spi->shift(run->port, run->bytes, run->bytes, run->count);
    if (spi->packed_shift && run->repeat)
        return spi->packed_shift(run);
    uint32_t left = cm_shift_count(run), first = run->address;
    for (;; run->address++, run->bytes++) {
        uint8_t bytes = cm_shift_fill(run, out);
        enum cm_status status = spi->shift(run->port, out, in, bytes);
        if (!status)
            status = cm_shift_judge(run, out, in, bytes);
        if (status)
            return status;
        if (--left == 0)
            break;
    }
    run->address = first;
    return CM_OK;
}
#endif

const struct cm_bus cm_bus_shift = {
    .id = CM_BUS_SHIFT, .clock = cm_spi_clock, .exchange = shift_exchange};
