/*
 * I2C from two lines, for ports that have nothing else (UM10204, "I2C-bus specification"). A line
 * is driven low or released; pull-ups make it high.
 *
 *     SDA  ~~\___X==b7==X==b6==X ... X==b0==X==ack==X____/~~
 *     SCL  ~~~~~\__/~~\___/~~\_  ...  _/~~\____/~~\____/~~~~     data change while SCL is low, and
 *                                                                are taken while it is high
 *
 * A device may hold SCL low to gain time. One that was cut off in the middle of a byte may hold SDA
 * low without end: nine clocks at most make it release SDA, and a STOP resets it
 * (section 3.1.16, "Bus clear").
 */
#include "run.h"

enum {
    STRETCH_US = 25000,
    CLEAR_CLOCKS = 9,
    MOST_HZ = 400000,
    SETUP_US = 1, // t_SU;DAT is 250 ns, at 400 kHz 100 ns
};

static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    uint32_t hz = want_hz < MOST_HZ ? want_hz : MOST_HZ;
    enum { CALLS_A_BIT = 5 }; // SDA, SCL up, both sensed, SCL down
    port->state->half_bit_us = (500000 + hz - 1) / hz;
    enum cm_status status = port->lines->line(port, CM_LINE_SDA, CM_RELEASED);
    *real_hz = cm_lines_real_hz(port, CM_LINE_SDA, CM_RELEASED, CALLS_A_BIT);
    return status;
}

static enum cm_status low(const struct cm_port *port, enum cm_line line)
{
    enum cm_status status = port->lines->line(port, line, CM_LOW);
    port->lines->wait_us(port, port->state->half_bit_us);
    return status;
}

/* Lets SCL go, and waits until the device does: for a time by the port's clock, or for as many
 * microseconds where that stands still; and once more, for the port may have been held up. */
static enum cm_status clock_high(const struct cm_port *port)
{
    uint16_t level = 0;
    const uint32_t begun = port->lines->now_us(port);
    enum cm_status status = port->lines->line(port, CM_LINE_SCL, CM_RELEASED);
    bool late = false;
    for (uint16_t tries = 0; !status; tries++) {
        status = port->lines->sense(port, CM_LINE_SCL, &level);
        if (status || level || late)
            break;
        port->lines->wait_us(port, 1);
        late = tries == STRETCH_US || port->lines->now_us(port) - begun > STRETCH_US;
    }
    port->lines->wait_us(port, port->state->half_bit_us);
    return status ? status : level ? CM_OK : CM_CONTACT_LOST;
}

/* SCL falls. The rest of its low half comes behind the change of SDA, before it rises. */
static enum cm_status clock_low(const struct cm_port *port)
{
    enum cm_status status = port->lines->line(port, CM_LINE_SCL, CM_LOW);
    if (port->state->half_bit_us > SETUP_US)
        port->lines->wait_us(port, port->state->half_bit_us - SETUP_US);
    return status;
}

/* One bit out and in; the line is released for a 1. */
static enum cm_status bit(const struct cm_port *port, bool out, uint16_t *in)
{
    enum cm_status status = port->lines->line(port, CM_LINE_SDA, out ? CM_RELEASED : CM_LOW);
    port->lines->wait_us(port, SETUP_US);
    if (!status)
        status = clock_high(port);
    if (!status)
        status = port->lines->sense(port, CM_LINE_SDA, in);
    enum cm_status fallen = clock_low(port);
    return status ? status : fallen;
}

/* Nine bits; `ack` is sent with a byte that comes in, and comes with one that goes out. */
static enum cm_status byte(const struct cm_port *port, uint8_t out, uint8_t *in, bool *ack)
{
    enum cm_status status = CM_OK;
    uint16_t level = 0;
    for (uint8_t i = 0; i < 8 && !status; i++) {
        status = bit(port, out >> (7 - i) & 1, &level);
        *in = (uint8_t)(*in << 1 | (level & 1));
    }
    if (!status)
        status = bit(port, !*ack, &level);
    *ack = !level;
    return status;
}

static enum cm_status stop(const struct cm_port *port)
{
    enum cm_status status = port->lines->line(port, CM_LINE_SDA, CM_LOW);
    port->lines->wait_us(port, SETUP_US);
    if (!status)
        status = clock_high(port);
    enum cm_status released = port->lines->line(port, CM_LINE_SDA, CM_RELEASED);
    port->lines->wait_us(port, port->state->half_bit_us);
    return status ? status : released;
}

/*
 * Both lines are high before a START; where SDA is held, the device is clocked until it releases
 * it. The START comes at once then, while SCL is still high: one more clock, and the device may
 * hold SDA again for its next bit.
 */
static enum cm_status start(const struct cm_port *port)
{
    uint16_t level = 0;
    enum cm_status status = port->lines->line(port, CM_LINE_SDA, CM_RELEASED);
    port->lines->wait_us(port, SETUP_US);
    if (!status)
        status = clock_high(port);
    if (!status)
        status = port->lines->sense(port, CM_LINE_SDA, &level);
    for (uint8_t i = 0; i < CLEAR_CLOCKS && !status && !level; i++) {
        status = low(port, CM_LINE_SCL);
        if (!status)
            status = clock_high(port);
        if (!status)
            status = port->lines->sense(port, CM_LINE_SDA, &level);
    }
    if (!status && !level)
        status = CM_CONTACT_LOST;
    if (!status)
        status = low(port, CM_LINE_SDA);
    return status ? status : clock_low(port);
}

static enum cm_status call(const struct cm_port *port, uint8_t device, bool reads)
{
    uint8_t unused = 0;
    bool ack = false;
    enum cm_status status = start(port);
    if (!status)
        status = byte(port, (uint8_t)(device << 1 | reads), &unused, &ack);
    return status ? status : ack ? CM_OK : CM_NACK;
}

static enum cm_status send(const struct cm_port *port, const uint8_t *bytes, uint32_t count)
{
    enum cm_status status = CM_OK;
    for (uint32_t i = 0; i < count && !status; i++) {
        uint8_t unused = 0;
        bool ack = false;
        status = byte(port, bytes[i], &unused, &ack);
        if (!status && !ack)
            status = CM_CONTACT_LOST;
    }
    return status;
}

/* The last byte is not acknowledged: then the device releases SDA. */
static enum cm_status receive(const struct cm_port *port, uint8_t *bytes, uint32_t count)
{
    enum cm_status status = CM_OK;
    for (uint32_t i = 0; i < count && !status; i++) {
        bool ack = i + 1 < count;
        status = byte(port, 0xFF, &bytes[i], &ack);
    }
    return status;
}

static enum cm_status transfer_by_lines(const struct cm_port *port,
                                        const struct cm_transfer *wanted)
{
    if (!port->lines->sense)
        return CM_PORT_LACKS; // neither acknowledgements nor data could be seen
    bool reads = wanted->in_count != 0, writes = wanted->head_count || wanted->out_count || !reads;
    enum cm_status status = CM_OK;
    if (writes) {
        status = call(port, wanted->device, false);
        if (!status)
            status = send(port, wanted->head, wanted->head_count);
        if (!status)
            status = send(port, wanted->out, wanted->out_count);
    }
    if (!status && reads) {
        status = call(port, wanted->device, true);
        if (!status)
            status = receive(port, wanted->in, wanted->in_count);
    }
    if (status && !wanted->out_count)
        cm_ignore(start(port)); // so that nothing the device may have taken for data is written
    enum cm_status stopped = stop(port);
    return status ? status : stopped;
}

const struct cm_i2c cm_i2c_by_lines = {.clock = set_clock, .transfer = transfer_by_lines};
