/*
 * SPI from lines, in as few calls of the kernel as they allow: SCK falls in the same call in which
 * MOSI changes, where both are lines of one device; and MISO is read only where somebody wants it.
 *
 *     MOSI  ==X=====b7=======X=====b6===
 *     SCK   ~~\______/~~~~~~~\______/~~~      a bit: two calls, and one to read
 */
#include "inside.h"
#include <stddef.h>

/* SCK and MOSI at once, if they can. */
static enum cm_status set_both(struct linux_port *linux_port, enum cm_level clock,
                               enum cm_level data)
{
    struct pin *sck = &linux_port->pins[CM_LINE_SCK], *mosi = &linux_port->pins[CM_LINE_MOSI];
    bool are_modem =
        sck->modem && mosi->modem && sck->modem != MODEM_TXD && mosi->modem != MODEM_TXD;
    if (sck->level == clock && mosi->level == data)
        return CM_OK;
    if (are_modem)
        return linux_drive_modem_pair(linux_port, sck, clock, mosi, data);
    enum cm_status status = linux_drive(linux_port, sck, clock);
    return status ? status : linux_drive(linux_port, mosi, data);
}

static enum cm_status move_bit(const struct cm_port *port, bool out, bool *in)
{
    struct linux_port *linux_port = linux_of(port);
    uint32_t half_us = linux_port->state.half_bit_us;
    enum cm_status status = set_both(linux_port, CM_LOW, out ? CM_HIGH : CM_LOW);
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

/* SCK is driven to where it is, which moves no chip. */
static enum cm_status drive_again(struct linux_port *linux_port)
{
    struct pin *sck = &linux_port->pins[CM_LINE_SCK];
    if (sck->modem)
        return linux_drive_modem(linux_port, sck, (enum cm_level)sck->level);
    return gpiod_line_set_value(sck->line, sck->is_inverted) == 0
               ? CM_OK
               : linux_refused(linux_port, "a line");
}

/* What a bit takes is measured: two changes and a reading. */
static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    enum { TIMES = 16, US = 1000000 };
    struct linux_port *linux_port = linux_of(port);
    bool unused;
    linux_port->state.half_bit_us = (US / 2 + want_hz - 1) / want_hz;
    enum cm_status status = set_both(linux_port, CM_LOW, CM_LOW);
    uint32_t begun = linux_now_us(port);
    for (int i = 0; i < TIMES && !status; i++)
        status = drive_again(linux_port);
    for (int i = 0; i < TIMES / 2 && !status; i++)
        status = linux_sense(linux_port, &linux_port->pins[CM_LINE_MISO], &unused);
    uint32_t calls_us = (linux_now_us(port) - begun) * 2 / TIMES;
    *real_hz = US / (2 * linux_port->state.half_bit_us + calls_us);
    *real_hz = *real_hz ? *real_hz : 1;
    return status;
}

const struct cm_spi linux_bits = {.clock = set_clock, .shift = shift};
