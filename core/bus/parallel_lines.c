/*
 * A parallel bus from lines, for ports that have nothing else.
 *
 *     A     ==X  address  X==========      set first, and only those lines that change
 *     D     --X   data    X----------      driven for writing alone
 *     CE,WE ~~~~~~\______/~~~~~~~~~~~      both low for the pulse; OE stays high
 *
 *     OE    ~~~~~\________/~~~~~~~~~~      reading: the data lines are sensed while both are low
 *     CE    ~~~~~~\______/~~~~~~~~~~~
 *
 * In a reading OE goes low before CE, and high after it: a chip whose WE wire is off, and low,
 * takes no write while OE is low.
 *
 * Address lines may be the outputs of shift registers: then three pins make as many as are wanted.
 * What the registers hold while the new address is shifted in cannot be seen at their outputs.
 */
#include "run.h"

enum { SETTLE_US = 1, MOST_REGISTERS = 4 };

static enum cm_status set(const struct cm_port *port, unsigned line, bool high)
{
    return port->lines->line(port, (enum cm_line)line, high ? CM_HIGH : CM_LOW);
}

static enum cm_status drive_address(const struct cm_port *port, uint32_t address)
{
    uint32_t changes = port->state->is_driven ? address ^ port->state->address : UINT32_MAX;
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; i < port->traits.address_lines && !status; i++) {
        if (changes >> i & 1)
            status = set(port, CM_LINE_A0 + (unsigned)i, address >> i & 1);
    }
    port->state->is_driven = status == CM_OK;
    port->state->address = address;
    return status;
}

static enum cm_status shift_address(const struct cm_port *port, uint32_t address)
{
    uint8_t bytes[MOST_REGISTERS], count = (uint8_t)((port->traits.address_lines + 7u) / 8);
    if (port->state->is_driven && address == port->state->address)
        return CM_OK;
    for (uint8_t i = 0; i < count; i++)
        bytes[i] = (uint8_t)(address >> 8 * (count - 1 - i));
    enum cm_status status = port->spi->shift(port, bytes, NULL, count);
    if (!status)
        status = set(port, CM_LINE_LATCH, true);
    if (!status)
        status = set(port, CM_LINE_LATCH, false);
    port->state->is_driven = status == CM_OK;
    port->state->address = address;
    return status;
}

typedef enum cm_status address_fn(const struct cm_port *port, uint32_t address);

static enum cm_status drive_data(const struct cm_port *port, uint16_t data)
{
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; i < port->traits.data_lines && !status; i++)
        status = set(port, CM_LINE_D0 + (unsigned)i, data >> i & 1);
    return status;
}

static enum cm_status release_data(const struct cm_port *port, enum cm_status status)
{
    for (uint8_t i = 0; i < port->traits.data_lines; i++) {
        enum cm_status released =
            port->lines->line(port, (enum cm_line)(CM_LINE_D0 + i), CM_RELEASED);
        status = status ? status : released;
    }
    return status;
}

/* Two lines go low one inside the other for a while, and high whatever comes in between. */
static enum cm_status strobe_begin(const struct cm_port *port, enum cm_line outer,
                                   enum cm_line inner)
{
    enum cm_status status = set(port, outer, false);
    return status ? status : set(port, inner, false);
}

static enum cm_status strobe_end(const struct cm_port *port, enum cm_line outer, enum cm_line inner,
                                 enum cm_status status)
{
    enum cm_status ended = set(port, inner, true), last = set(port, outer, true);
    return status ? status : ended ? ended : last;
}

static enum cm_status write_cycle(const struct cm_port *port, address_fn *address_by,
                                  uint32_t address, uint16_t data, const struct cm_pulse *pulse)
{
    enum cm_status status = address_by(port, address);
    if (!status)
        status = drive_data(port, data);
    if (!status) {
        status = strobe_begin(port, CM_LINE_CE, CM_LINE_WE);
        port->lines->wait_us(port, pulse->low_ns > 1000 * SETTLE_US ? (pulse->low_ns + 999) / 1000
                                                                    : SETTLE_US);
        status = strobe_end(port, CM_LINE_CE, CM_LINE_WE, status);
    }
    if (pulse->high_ns > 1000 * SETTLE_US)
        port->lines->wait_us(port, pulse->high_ns / 1000);
    return release_data(port, status);
}

static enum cm_status sense_data(const struct cm_port *port, uint8_t **bytes)
{
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; i < port->traits.data_lines && !status; i++) {
        uint16_t bit = 0;
        if (i % 8 == 0)
            *(*bytes)++ = 0;
        status = port->lines->sense(port, (enum cm_line)(CM_LINE_D0 + i), &bit);
        (*bytes)[-1] |= (uint8_t)((bit & 1u) << i % 8);
    }
    return status;
}

static enum cm_status read_cycles(const struct cm_port *port, address_fn *address_by,
                                  uint32_t address, uint8_t *bytes, uint32_t count)
{
    enum cm_status status = CM_OK;
    for (; count && !status; count--, address++) {
        status = address_by(port, address);
        if (status)
            break;
        status = strobe_begin(port, CM_LINE_OE, CM_LINE_CE);
        port->lines->wait_us(port, SETTLE_US);
        if (!status)
            status = sense_data(port, &bytes);
        status = strobe_end(port, CM_LINE_OE, CM_LINE_CE, status);
    }
    return status;
}

static enum cm_status write_by_lines(const struct cm_port *port, uint32_t address, uint16_t data,
                                     const struct cm_pulse *pulse)
{
    return write_cycle(port, drive_address, address, data, pulse);
}

static enum cm_status read_by_lines(const struct cm_port *port, uint32_t address, uint8_t *bytes,
                                    uint32_t count)
{
    return read_cycles(port, drive_address, address, bytes, count);
}

static enum cm_status write_by_registers(const struct cm_port *port, uint32_t address,
                                         uint16_t data, const struct cm_pulse *pulse)
{
    return write_cycle(port, shift_address, address, data, pulse);
}

static enum cm_status read_by_registers(const struct cm_port *port, uint32_t address,
                                        uint8_t *bytes, uint32_t count)
{
    return read_cycles(port, shift_address, address, bytes, count);
}

/* Outputs of registers stay as they are. */
static enum cm_status release(const struct cm_port *port)
{
    enum cm_status status = CM_OK;
    bool registers = port->traits.lines & CM_LINE_BIT(CM_LINE_LATCH);
    for (uint8_t i = 0; !registers && i < port->traits.address_lines; i++) {
        enum cm_status released =
            port->lines->line(port, (enum cm_line)(CM_LINE_A0 + (unsigned)i), CM_RELEASED);
        status = status ? status : released;
    }
    port->state->is_driven = false;
    return release_data(port, status);
}

/*
 * What a cycle takes cannot be set, but it can be measured: a port whose cycles are slow cannot
 * write pages. Driving OE high, where it is, moves no chip; nor does what is shifted into
 * registers.
 */
static uint32_t real_hz_of(const struct cm_port *port, uint32_t want_hz, uint32_t shift_us)
{
    enum { CALLS = 20 }; // the data lines twice, the strobes twice
    uint32_t period_16 =
                 16 * (SETTLE_US + shift_us) + CALLS * cm_lines_call_16(port, CM_LINE_OE, CM_HIGH),
             hz = 16000000u / period_16;
    return hz < want_hz ? hz : want_hz;
}

static enum cm_status set_clock_by_lines(const struct cm_port *port, uint32_t want_hz,
                                         uint32_t *real_hz)
{
    *real_hz = real_hz_of(port, want_hz, 0);
    return CM_OK;
}

static enum cm_status set_clock_by_registers(const struct cm_port *port, uint32_t want_hz,
                                             uint32_t *real_hz)
{
    static const uint8_t NOTHING[MOST_REGISTERS] = {0};
    uint32_t start = port->lines->now_us(port);
    enum cm_status status =
        port->spi->shift(port, NOTHING, NULL, (port->traits.address_lines + 7u) / 8);
    port->state->is_driven = false;
    *real_hz = real_hz_of(port, want_hz, port->lines->now_us(port) - start);
    return status;
}

const struct cm_parallel cm_parallel_by_lines = {.clock = set_clock_by_lines,
                                                 .write = write_by_lines,
                                                 .read = read_by_lines,
                                                 .release = release};
const struct cm_parallel cm_parallel_by_registers = {.clock = set_clock_by_registers,
                                                     .write = write_by_registers,
                                                     .read = read_by_registers,
                                                     .release = release};
