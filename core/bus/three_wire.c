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

enum { T_CS_LOW_US = 1, PIECE = 16 };

/* Some bytes of the chunk, from `at` on. Both bytes of a word change places on the way; a word that
 * is cut in the middle stays within the piece. */
static enum cm_status move_piece(struct cm_run *run, uint32_t at, uint8_t count)
{
    uint8_t wire[PIECE], found[PIECE], *bytes = run->bytes + at;
    uint8_t data = cm_data_of(run->exchange), turn = run->exchange->data & CM_WORDS ? 1 : 0;
    bool is_out = data == CM_DATA_OUT;
    for (uint8_t i = 0; is_out && i < count; i++)
        wire[i ^ turn] = bytes[i];
    enum cm_status status =
        run->port->spi->shift(run->port, is_out ? wire : NULL, is_out ? NULL : wire, count);
    if (status || is_out)
        return status;
    bytes = data == CM_DATA_IN ? bytes : found;
    for (uint8_t i = 0; i < count; i++)
        bytes[i] = wire[i ^ turn];
    return data == CM_DATA_IN ? CM_OK : cm_run_judge(run, at, found, count);
}

/* A part that reads on behind a word is given as many clocks as the chunk wants. */
static enum cm_status move_words(struct cm_run *run)
{
    enum cm_status status = CM_OK;
    uint32_t left = cm_data_of(run->exchange) ? run->count : 0;
    for (uint32_t at = 0; !status && left; at += PIECE) {
        uint8_t piece = left < PIECE ? (uint8_t)left : PIECE;
        status = move_piece(run, at, piece);
        left -= piece;
    }
    return status;
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
        status = move_words(run);
    enum cm_status low = port->lines->line(port, CM_LINE_SELECT, CM_LOW);
    port->lines->wait_us(port, T_CS_LOW_US);
    return status ? status : low;
}

const struct cm_bus cm_bus_three_wire = {
    .id = CM_BUS_THREE_WIRE, .clock = cm_spi_clock, .exchange = three_wire_exchange};
