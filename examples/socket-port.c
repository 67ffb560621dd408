/*
 * A port for a socket of 32 pins, from fourteen pins of a board and three shift registers (74HC595
 * or their like, in a chain).
 *
 *     PIN_MOSI, PIN_SCK, PIN_LATCH   24 outputs of the registers, of which 19 are A0 to A18: what
 *                                    is shifted in last is A0
 *     PIN_D0 ... PIN_D7              the data, with 10 kOhm to the supply each
 *     PIN_CE, PIN_OE, PIN_WE         the rest
 *
 * A part with fewer address lines leaves the upper ones unconnected.
 */
#include "board.h"
#include <coldmint/coldmint.h>

enum {
    CONTROL = CM_LINE_BIT(CM_LINE_CE) | CM_LINE_BIT(CM_LINE_OE) | CM_LINE_BIT(CM_LINE_WE) |
              CM_LINE_BIT(CM_LINE_LATCH),
    DATA_LINES = 8,
    ADDRESS_LINES = 19
};

static enum pin pin_of(enum cm_line line)
{
    static const enum pin PINS[CM_LINE_COUNT] = {
        [CM_LINE_SCK] = PIN_SCK, [CM_LINE_MOSI] = PIN_MOSI, [CM_LINE_LATCH] = PIN_LATCH,
        [CM_LINE_CE] = PIN_CE,   [CM_LINE_OE] = PIN_OE,     [CM_LINE_WE] = PIN_WE};
    return line < CM_LINE_COUNT ? PINS[line] : (enum pin)(PIN_D0 + (line - CM_LINE_D0));
}

static enum cm_status set_line(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    (void)port;
    pin_set(pin_of(line), level == CM_LOW ? DRIVE_LOW : level == CM_HIGH ? DRIVE_HIGH : FLOAT);
    return CM_OK;
}

/* The registers answer nothing: there is no MISO. */
static enum cm_status sense_line(const struct cm_port *port, enum cm_line line, uint16_t *value)
{
    (void)port;
    *value = line == CM_LINE_MISO ? 0 : pin_get(pin_of(line));
    return CM_OK;
}

static void wait_us(const struct cm_port *port, uint32_t us)
{
    (void)port;
    delay_us(us);
}

static uint32_t now_us(const struct cm_port *port)
{
    (void)port;
    return micros();
}

static const struct cm_lines LINES = {
    .line = set_line, .sense = sense_line, .wait_us = wait_us, .now_us = now_us};
static struct cm_port_state state;

const struct cm_port cm_socket_port = {
    .lines = &LINES,
    .spi = &cm_spi_by_lines, // with SPI hardware, put a table of yours here: it is most of the time
    .parallel = &cm_parallel_by_registers,
    .state = &state,
    .traits = {.lines = CONTROL, .data_lines = DATA_LINES, .address_lines = ADDRESS_LINES},
};
