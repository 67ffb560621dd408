/*
 * SPI from lines, in as few calls of the kernel as they allow: SCK falls in the same call in which
 * MOSI changes, where both are lines of one device; and MISO is read only where somebody wants it.
 *
 *     MOSI  ==X=====b7=======X=====b6===
 *     SCK   ~~\______/~~~~~~~\______/~~~      a bit: two calls, and one to read
 */
#include "inside.h"
#include <stddef.h>

/* SCK falls, and MOSI changes. */
static enum cm_status set_low(struct linux_port *linux_port, enum cm_level data)
{
    return linux_drive_both(linux_port, &linux_port->pins[CM_LINE_SCK], CM_LOW,
                            &linux_port->pins[CM_LINE_MOSI], data);
}

static enum cm_status move_bit(const struct cm_port *port, bool out, bool *in)
{
    struct linux_port *linux_port = linux_of(port);
    uint32_t half_us = linux_port->state.half_bit_us;
    enum cm_status status = set_low(linux_port, out ? CM_HIGH : CM_LOW);
    linux_wait_us(port, half_us);
    if (!status && in)
        status = linux_sense(linux_port, &linux_port->pins[CM_LINE_MISO], in);
    if (!status)
        status = linux_drive(linux_port, &linux_port->pins[CM_LINE_SCK], CM_HIGH);
    linux_wait_us(port, half_us);
    return status;
}

static enum cm_status shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                            uint32_t bytes)
{
    struct linux_port *linux_port = linux_of(port);
    enum cm_status status = CM_OK;
    for (uint32_t i = 0; i < bytes && !status; i++) {
        uint8_t sent = out ? out[i] : 0, came = 0;
        for (uint8_t mask = 0x80; mask && !status; mask >>= 1) {
            bool bit = false;
            status = move_bit(port, sent & mask, in ? &bit : NULL);
            came |= bit ? mask : 0;
        }
        if (in)
            in[i] = came;
    }
    enum cm_status ended = linux_drive(linux_port, &linux_port->pins[CM_LINE_SCK], CM_LOW);
    return status ? status : ended;
}

/* What a bit takes is measured: two changes and a reading. */
static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    enum { TIMES = 16, US = 1000000 };
    struct linux_port *linux_port = linux_of(port);
    bool unused;
    linux_port->state.half_bit_us = (US / 2 + want_hz - 1) / want_hz;
    enum cm_status status = set_low(linux_port, CM_LOW);
    uint32_t begun = linux_now_us(port);
    for (int i = 0; i < TIMES && !status; i++)
        status = linux_drive_again(linux_port, &linux_port->pins[CM_LINE_SCK]);
    for (int i = 0; i < TIMES / 2 && !status; i++)
        status = linux_sense(linux_port, &linux_port->pins[CM_LINE_MISO], &unused);
    uint32_t calls_us = (linux_now_us(port) - begun) * 2 / TIMES;
    *real_hz = US / (2 * linux_port->state.half_bit_us + calls_us);
    *real_hz = *real_hz ? *real_hz : 1;
    return status;
}

const struct cm_spi linux_bits = {.clock = set_clock, .shift = shift};
