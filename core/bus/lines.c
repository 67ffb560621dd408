/*
 * SPI mode 0 from lines, for ports that have nothing else.
 *
 *     MOSI  ==X=====b7=====X=====b6===
 *     SCK   ______/~~~~~\_____/~~~~~\_     MOSI changes while SCK is low; both sides sample on the rising edge
 *     MISO  ==X=====b7=====X=====b6===     and the chip puts its next bit out after the falling edge, or behind the rising one: so it is sensed just before that
 *
 * Half a period is a whole number of microseconds, so 500 kHz is the fastest; a port that wants more has `shift`.
 */
#include <coldmint/port.h>

enum cm_status cm_lines_clock(struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    port->half_bit_us = (500000 + want_hz - 1) / want_hz;
    *real_hz = 500000 / port->half_bit_us;
    enum cm_status status = port->line(port, CM_LINE_SCK, CM_LOW);
    return status ? status : port->line(port, CM_LINE_MOSI, CM_LOW);
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
