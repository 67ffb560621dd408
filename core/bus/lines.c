/*
 * SPI mode 0 from lines, for ports that have nothing else.
 *
 *     MOSI  ==X=====b7=====X=====b6===
 *     SCK   ______/~~~~~\_____/~~~~~\_     MOSI changes while SCK is low; both sides sample on the rising edge
 *     MISO  ==X=====b7=====X=====b6===     and the chip puts its next bit out after the falling edge, or behind the rising one: so it is sensed just before that
 *
 * Half a period is a whole number of microseconds, so 500 kHz is the fastest; a port that wants more has `shift`.
 */
#include "compare.h"

uint32_t cm_lines_real_hz(struct cm_port *port, enum cm_line line, enum cm_level level,
                          uint8_t calls)
{
    enum { LOOKS = 16, PARTS = 16 };
    uint32_t start = port->now_us(port);
    for (uint8_t i = 0; i < LOOKS; i++) {
        if (port->line(port, line, level) != CM_OK)
            break;
    }
    uint32_t call_16 =
        (port->now_us(port) - start) * PARTS / LOOKS; // of a call, in sixteenths of a microsecond
    return (uint32_t)PARTS * 1000000u / (2 * PARTS * port->half_bit_us + calls * call_16);
}

/* What the lines really make: three of them are driven for a bit and one is sensed, beside the two
 * halves of a period. Driving what is low already low moves no chip. */
enum cm_status cm_lines_clock(struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    enum { CALLS_A_BIT = 4 };
    port->half_bit_us = (500000 + want_hz - 1) / want_hz;
    enum cm_status status = port->line(port, CM_LINE_SCK, CM_LOW);
    if (!status)
        status = port->line(port, CM_LINE_MOSI, CM_LOW);
    *real_hz = cm_lines_real_hz(port, CM_LINE_MOSI, CM_LOW, CALLS_A_BIT);
    return status;
}

static enum cm_status shift_bit(struct cm_port *port, uint8_t out, uint16_t *in)
{
    enum cm_status status = port->line(port, CM_LINE_MOSI, out ? CM_HIGH : CM_LOW);
    if (status)
        return status;
    port->wait_us(port, port->half_bit_us);
    status = port->sense(port, CM_LINE_MISO, in);
    if (status)
        return status;
    status = port->line(port, CM_LINE_SCK, CM_HIGH);
    port->wait_us(port, port->half_bit_us);
    enum cm_status low = port->line(port, CM_LINE_SCK, CM_LOW);
    return status ? status : low;
}

enum cm_status cm_lines_shift(struct cm_port *port, const uint8_t *out, uint8_t *in, uint32_t bytes)
{
    if (!port->sense)
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
