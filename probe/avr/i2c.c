/*
 * I2C on two pins that are driven low or released (UM10204); pull-ups make them high. The same as
 * core/bus/i2c_lines.c, which tells what happens when, at the pins themselves: by calls for each
 * change of a line this processor would not get beyond 10 kHz.
 */
#include "board.h"
#include <util/delay_basic.h>

enum {
    STRETCH_US = 25000,
    CLEAR_CLOCKS = 9,
    MOST_HZ = 400000,
    OVERHEAD = 16, /* cycles of half a bit beside the delay: it alone is long enough, since how many
                      there are is the compiler's */
    LOOP = 4       /* and of a round of the delay */
};

static const struct pin SDA = SDA_PIN, SCL = SCL_PIN;
static uint16_t half; /* rounds of the delay in half a bit */
static bool is_lost;  /* in this transfer: SCL or SDA is held */

static void pause(void)
{
    _delay_loop_2(half);
}

/* Releases SCL, and waits until the device does. */
static void clock_high(void)
{
    pin_release(SCL);
    for (uint16_t us = 0; !pin_get(SCL) && !is_lost; us++) {
        is_lost = us > STRETCH_US;
        clock_wait_us(0, 1);
    }
    pause();
}

static bool move_bit(bool out)
{
    if (out)
        pin_release(SDA);
    else
        pin_low(SDA);
    pause();
    clock_high();
    bool in = pin_get(SDA);
    pin_low(SCL);
    return in;
}

/* Nine bits. Whether the ninth was low. */
static bool move_byte(uint8_t *byte, bool ack)
{
    uint8_t out = *byte;
    for (uint8_t i = 0; i < 8; i++, out = (uint8_t)(out << 1))
        *byte = (uint8_t)(*byte << 1 | move_bit(out & 0x80));
    return !move_bit(!ack);
}

static void stop(void)
{
    pin_low(SDA);
    pause();
    clock_high();
    pin_release(SDA);
    pause();
}

/* A device that holds SDA is clocked until it releases it. */
static enum cm_status call(uint8_t device, uint8_t reads)
{
    uint8_t byte = (uint8_t)(device << 1 | reads);
    pin_release(SDA);
    pause();
    clock_high();
    for (uint8_t i = 0; i < CLEAR_CLOCKS && !pin_get(SDA); i++) {
        pin_low(SCL);
        pause();
        clock_high();
    }
    is_lost |= !pin_get(SDA);
    if (is_lost)
        return CM_CONTACT_LOST;
    pin_low(SDA);
    pause();
    pin_low(SCL);
    return move_byte(&byte, false) ? CM_OK : CM_NACK;
}

static enum cm_status send(const uint8_t *bytes, uint32_t count)
{
    enum cm_status status = CM_OK;
    for (; count && !status; count--) {
        uint8_t byte = *bytes++;
        if (!board_look())
            status = CM_PORT_FAILED;
        else if (!move_byte(&byte, false))
            status = CM_CONTACT_LOST;
    }
    return status;
}

static enum cm_status receive(uint8_t *bytes, uint32_t count)
{
    for (; count; count--) {
        *bytes = 0xFF;
        if (!board_look())
            return CM_PORT_FAILED;
        (void)move_byte(bytes++, count > 1);
    }
    return CM_OK;
}

static enum cm_status transfer(const struct cm_port *port, const struct cm_transfer *wanted)
{
    bool reads = wanted->in_count != 0;
    enum cm_status status = CM_OK;
    (void)port;
    is_lost = false;
    if (wanted->head_count || wanted->out_count || !reads) {
        status = call(wanted->device, 0);
        if (!status)
            status = send(wanted->head, wanted->head_count);
        if (!status)
            status = send(wanted->out, wanted->out_count);
    }
    if (!status && reads) {
        status = call(wanted->device, 1);
        if (!status)
            status = receive(wanted->in, wanted->in_count);
    }
    stop();
    return is_lost ? CM_CONTACT_LOST : status;
}

static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    uint32_t hz = want_hz < MOST_HZ ? want_hz : MOST_HZ;
    uint16_t cycles = (uint16_t)((F_CPU / 2 + hz - 1) / hz);
    (void)port;
    half = (uint16_t)((cycles + LOOP - 1) / LOOP);
    *real_hz = F_CPU / 2 / ((uint32_t)half * LOOP + OVERHEAD);
    pin_release(SDA);
    pin_release(SCL);
    return CM_OK;
}

const struct cm_i2c board_i2c = {.clock = set_clock, .transfer = transfer};
