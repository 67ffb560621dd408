/*
 * SPI mode 0 from lines, for ports that have nothing else.
 *
 *     MOSI  ==X=====b7=====X=====b6===
 *     SCK   ______/~~~~~\_____/~~~~~\_     MOSI changes while SCK is low; both sides sample on the
 *                                          rising edge
 *     MISO  ==X=====b7=====X=====b6===     and the chip puts its next bit out after the falling
 *                                          edge, or behind the rising one: so it is sensed just
 *                                          before that
 *
 * Half a period is a whole number of microseconds, so 500 kHz is the fastest; a port that wants
 * more has `shift`.
 */
#include "run.h"

uint32_t cm_lines_call_16(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    enum { CALLS = 16 };
    uint32_t start = port->lines->now_us(port);
    for (uint8_t i = 0; i < CALLS; i++) {
        if (port->lines->line(port, line, level) != CM_OK)
            break;
    }
    return port->lines->now_us(port) - start;
}

uint32_t cm_lines_real_hz(const struct cm_port *port, enum cm_line line, enum cm_level level,
                          uint8_t calls)
{
    uint32_t call_16 = cm_lines_call_16(port, line, level);
    return 16000000u / (2 * 16 * port->state->half_bit_us + calls * call_16);
}

/* What the lines really make: three of them are driven for a bit and one is sensed, beside the two
 * halves of a period. Driving what is low already low moves no chip. */
static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    enum { CALLS_A_BIT = 4 };
    port->state->half_bit_us = (500000 + want_hz - 1) / want_hz;
    enum cm_status status = port->lines->line(port, CM_LINE_SCK, CM_LOW);
    if (!status)
        status = port->lines->line(port, CM_LINE_MOSI, CM_LOW);
    *real_hz = cm_lines_real_hz(port, CM_LINE_MOSI, CM_LOW, CALLS_A_BIT);
    return status;
}

static enum cm_status shift_bit(const struct cm_port *port, uint8_t out, uint16_t *in)
{
    enum cm_status status = port->lines->line(port, CM_LINE_MOSI, out ? CM_HIGH : CM_LOW);
    if (status)
        return status;
    port->lines->wait_us(port, port->state->half_bit_us);
    status = port->lines->sense(port, CM_LINE_MISO, in);
    if (status)
        return status;
    status = port->lines->line(port, CM_LINE_SCK, CM_HIGH);
    port->lines->wait_us(port, port->state->half_bit_us);
    enum cm_status low = port->lines->line(port, CM_LINE_SCK, CM_LOW);
    return status ? status : low;
}

static enum cm_status shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                            uint32_t bytes)
{
    if (!port->lines->sense)
        return CM_PORT_LACKS;
    for (uint32_t i = 0; i < bytes; i++) {
        uint8_t sent = out ? out[i] : 0, came = 0;
        for (uint8_t mask = 0x80; mask; mask >>= 1) {
            uint16_t bit = 0;
            enum cm_status status = shift_bit(port, sent & mask, &bit);
            if (status)
                return status;
            if (bit)
                came |= mask;
        }
        if (in)
            in[i] = came;
    }
    return CM_OK;
}

const struct cm_spi cm_spi_by_lines = {.clock = set_clock, .shift = shift};
