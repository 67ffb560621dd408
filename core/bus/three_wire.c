/*
 * Instructions of three-wire memories (93 series), on a port's SPI.
 *
 *     SELECT __/~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~\__     high is selected
 *     MOSI   0 0 0 0 0 0 1 | op | address     0 0 0 0 ...
 *     MISO                              0 | D15 ... D0            a 0 comes before the data
 *
 * Zeros before the start bit count for nothing. So the family fills each instruction up in front
 * until its data begin with a byte, and SPI will do. The part puts a bit out behind the rising edge
 * of SCK, so it is taken with the next one. A word's high byte goes first.
 */
#include "run.h"

enum { T_CS_LOW_US = 1, MOST_WORD = 2 };

/* Both bytes of a word change places on the way. */
static enum cm_status move_word(struct cm_run *run)
{
    uint8_t word[MOST_WORD], data = cm_data_of(run->exchange), last = (uint8_t)(run->count - 1);
    const struct cm_spi *spi = run->port->spi;
    if (!data || run->count > MOST_WORD)
        return data ? CM_BAD_ARGUMENT : CM_OK;
    for (uint8_t i = 0; data == CM_DATA_OUT && i <= last; i++)
        word[i] = run->bytes[last - i];
    if (data == CM_DATA_OUT)
        return spi->shift(run->port, word, NULL, run->count);
    enum cm_status status = spi->shift(run->port, NULL, word, run->count);
    if (status)
        return status;
    if (last) {
        uint8_t high = word[0];
        word[0] = word[last];
        word[last] = high;
    }
    if (data != CM_DATA_IN)
        return cm_run_judge(run, 0, word, run->count);
    for (uint8_t i = 0; i <= last; i++)
        run->bytes[i] = word[i];
    return CM_OK;
}

/* The last answer to the head is the 0 before the data, or the ready bit. */
static enum cm_status move_head(struct cm_run *run)
{
    uint8_t out[CM_HEAD_BYTES], in[CM_HEAD_BYTES], bytes = cm_run_head(run, out);
    enum cm_status status = run->port->spi->shift(run->port, out, in, bytes);
    return status || !run->exchange->mask ? status : cm_run_check(run, in[bytes - 1]);
}

static enum cm_status three_wire_exchange(struct cm_run *run)
{
    const struct cm_port *port = run->port;
    enum cm_status status = port->lines->line(port, CM_LINE_SELECT, CM_HIGH);
    if (!status)
        status = move_head(run);
    if (!status)
        status = move_word(run);
    enum cm_status low = port->lines->line(port, CM_LINE_SELECT, CM_LOW);
    port->lines->wait_us(port, T_CS_LOW_US);
    return status ? status : low;
}

const struct cm_bus cm_bus_three_wire = {
    .id = CM_BUS_THREE_WIRE, .clock = cm_spi_clock, .exchange = three_wire_exchange};
