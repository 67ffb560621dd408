/*
 * Frames of a memory on SPI.
 *
 *     SELECT ~~\____________________________________________/~~~~\____________________/~~
 *     MOSI      | opcode | address 1..4 | dummies | data out |     | opcode |
 *     MISO                                        | data in  |              | answer |
 *
 * Data go in one direction at a time, so a half-duplex bus will do. This file makes each frame of
 * single calls; packed.c joins frames for ports whose calls are expensive.
 */
#include "run.h"

static enum cm_status select_chip(const struct cm_port *port)
{
    return port->lines->line(port, CM_LINE_SELECT, CM_LOW);
}

/* Ends a frame; the first failure counts. */
static enum cm_status deselect_chip(const struct cm_port *port, enum cm_status status)
{
    enum cm_status high = port->lines->line(port, CM_LINE_SELECT, CM_HIGH);
    return status ? status : high;
}

/* The frame stays selected from group to group. */
static enum cm_status read_on(struct cm_run *run, uint32_t at, uint8_t *bytes, uint32_t count)
{
    (void)at;
    return run->port->spi->shift(run->port, NULL, bytes, count);
}

static enum cm_status move_data(struct cm_run *run)
{
    uint8_t group[CM_GROUP_BYTES], data = cm_data_of(run->exchange);
    if (!data || !run->count)
        return CM_OK;
    if (data == CM_DATA_OUT)
        return run->port->spi->shift(run->port, run->bytes, NULL, run->count);
    if (data == CM_DATA_BOTH)
        return run->port->spi->shift(run->port, run->bytes, run->bytes, run->count);
    return data == CM_DATA_IN ? read_on(run, 0, run->bytes, run->count)
                              : cm_run_compare(run, read_on, group,
                                               cm_group_room(run, CM_GROUP_CHEAP, sizeof group));
}

/* The last dummy is the answer, where there is a check. */
static enum cm_status move_head(struct cm_run *run)
{
    const struct cm_exchange *exchange = run->exchange;
    const struct cm_spi *spi = run->port->spi;
    uint8_t head[CM_HEAD_BYTES], answer, bytes = cm_run_head(run, head);
    if (exchange->data & CM_CHAIN && run->index)
        bytes = (uint8_t)(bytes - exchange->address_bytes);
    bytes = (uint8_t)(bytes - (exchange->mask != 0));
    enum cm_status status = spi->shift(run->port, head, NULL, bytes);
    if (status || !exchange->mask)
        return status;
    status = spi->shift(run->port, NULL, &answer, 1);
    return status ? status : cm_run_check(run, answer);
}

enum cm_status cm_spi_plain(struct cm_run *run)
{
    const struct cm_port *port = run->port;
    enum cm_status status = select_chip(port);
    if (!status)
        status = move_head(run);
    if (!status)
        status = move_data(run);
    return deselect_chip(port, status);
}

static enum cm_status spi_exchange(struct cm_run *run)
{
    return run->port->spi->packed ? run->port->spi->packed(run) : cm_spi_plain(run);
}

const struct cm_bus cm_bus_spi = {
    .id = CM_BUS_SPI, .clock = cm_spi_clock, .exchange = spi_exchange};
