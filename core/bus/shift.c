/*
 * Instructions that are shifted in and out at once, without a select line: AVR parts.
 *
 *     MOSI   | 20 | address  | address | xx   |       head and data
 *     MISO   | xx | 20       | address | data |       what came one byte before, and the data
 *
 * Each answer but the first and the last repeats the byte before it: a loose wire does not do that.
 */
#include "shift.h"

static enum cm_status shift_exchange(struct cm_run *run)
{
    uint8_t out[CM_SHIFT_BYTES], in[CM_SHIFT_BYTES];
    const struct cm_spi *spi = run->port->spi;
    if (cm_data_of(run->exchange) == CM_DATA_BOTH)
        return spi->shift(run->port, run->bytes, run->bytes, run->count);
    if (spi->packed_shift && run->repeat)
        return spi->packed_shift(run);
    uint8_t bytes = cm_shift_fill(run, out);
    enum cm_status status = spi->shift(run->port, out, in, bytes);
    return status ? status : cm_shift_judge(run, out, in, bytes);
}

const struct cm_bus cm_bus_shift = {
    .id = CM_BUS_SHIFT, .clock = cm_spi_clock, .exchange = shift_exchange};
