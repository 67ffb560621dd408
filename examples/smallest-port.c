/*
 * The smallest port: four pins and a clock. Everything else, the SPI clock included, the core makes
 * from these.
 *
 * cm_smallest_port is all that a board needs to program an AVR.
 */
#include "board.h"
#include <coldmint/coldmint.h>

static const enum pin PINS[CM_LINE_COUNT] = {[CM_LINE_RESET] = PIN_RESET,
                                             [CM_LINE_SCK] = PIN_SCK,
                                             [CM_LINE_MOSI] = PIN_MOSI,
                                             [CM_LINE_MISO] = PIN_MISO};

/* Obligation 1: a released line floats, or goes to its pull-up. */
static enum cm_status set_line(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    (void)port; // a port with a state of its own finds it in port->context
    pin_set(PINS[line], level == CM_LOW ? DRIVE_LOW : level == CM_HIGH ? DRIVE_HIGH : FLOAT);
    return CM_OK;
}

static enum cm_status sense_line(const struct cm_port *port, enum cm_line line, uint16_t *value)
{
    (void)port;
    *value = pin_get(PINS[line]);
    return CM_OK;
}

/* Obligation 4: at least as long as told; longer only costs time. */
static void wait_us(const struct cm_port *port, uint32_t us)
{
    (void)port;
    delay_us(us);
}

static uint32_t now_us(const struct cm_port *port)
{
    (void)port;
    return micros(); // may wrap around
}

static const struct cm_lines LINES = {
    .line = set_line, .sense = sense_line, .wait_us = wait_us, .now_us = now_us};
static struct cm_port_state state;

// What this port can do. It cannot measure or feed the supply, so it does not say so.
const struct cm_port cm_smallest_port = {
    .lines = &LINES,
    .spi = &cm_spi_by_lines, // the core's own SPI, from the lines above; or a table of yours
    .state = &state,
    .traits = {.lines = CM_LINE_BIT(CM_LINE_RESET) | CM_LINE_BIT(CM_LINE_SCK) |
                        CM_LINE_BIT(CM_LINE_MOSI),
               .senses = CM_LINE_BIT(CM_LINE_MISO)},
};
