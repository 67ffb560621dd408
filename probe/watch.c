/*
 * The board's port, with a look at the serial line in every call: so a batch that takes long hears
 * the computer, tells it that it works, and ends when nobody is there any more.
 */
#include "watch.h"

/* May a batch end at this change of a line? On I2C that is made from lines only before a START,
 * that is where SDA falls while SCL is high: what has begun is brought to its STOP. */
#ifndef CM_PROBE_SMALL
static bool may_end(struct cm_probe *probe, enum cm_line line, enum cm_level level)
{
    if (line == CM_LINE_SCL)
        probe->scl_is_low =
            level == CM_LOW; // noted in every call, whether the batch goes on or not
    if (line == CM_LINE_SDA)
        return level == CM_LOW && !probe->scl_is_low;
    return line != CM_LINE_SCL;
}
#else
static bool may_end(struct cm_probe *probe, enum cm_line line, enum cm_level level)
{
    (void)probe, (void)line, (void)level;
    return true;
}
#endif

static enum cm_status watched_line(const struct cm_port *port, enum cm_line line,
                                   enum cm_level level)
{
    struct cm_probe *probe = port->context;
    bool must_go_on = !may_end(probe, line, level);
    bool goes_on = cm_probe_attend(probe) || must_go_on;
    return goes_on ? probe->board->port->lines->line(probe->board->port, line, level)
                   : CM_PORT_FAILED;
}

static enum cm_status watched_sense(const struct cm_port *port, enum cm_line line, uint16_t *value)
{
    struct cm_probe *probe = port->context;
    bool is_i2c = line == CM_LINE_SDA || line == CM_LINE_SCL;
    bool goes_on = cm_probe_attend(probe) || is_i2c;
    return goes_on ? probe->board->port->lines->sense(probe->board->port, line, value)
                   : CM_PORT_FAILED;
}

#ifndef CM_PROBE_SMALL
static enum cm_status watched_supply(const struct cm_port *port, uint16_t mv)
{
    struct cm_probe *probe = port->context;
    probe->is_fed = mv != 0;
    return probe->board->port->lines->supply(probe->board->port, mv);
}
#endif

/* Long waits are cut, so that silence ends them. */
static void watched_wait(const struct cm_port *port, uint32_t us)
{
    enum { PIECE_US = 2000 };
    struct cm_probe *probe = port->context;
    const struct cm_port *inner = probe->board->port;
    const uint16_t longest = probe->board->longest_wait_us;
    const uint32_t piece_us = longest ? longest : PIECE_US;
    while (us) {
        uint32_t piece = us < piece_us ? us : piece_us;
        inner->lines->wait_us(inner, piece);
        us = cm_probe_attend(probe) ? us - piece : 0;
    }
}

static uint32_t watched_now(const struct cm_port *port)
{
    const struct cm_port *inner = ((const struct cm_probe *)port->context)->board->port;
    return inner->lines->now_us(inner);
}

/* Bytes that may be moved without a look at the line; 0: any. */
static uint16_t most_at_once(const struct cm_port *port)
{
    return ((const struct cm_probe *)port->context)->board->longest_shift;
}

static enum cm_status look_and_shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                                     uint32_t bytes)
{
    struct cm_probe *probe = port->context;
    const struct cm_port *inner = probe->board->port;
    uint16_t most = most_at_once(port);
    enum cm_status status = CM_OK;
    for (uint32_t part; bytes && !status; bytes -= part) {
        part = most && most < bytes ? most : bytes;
        status = cm_probe_attend(probe) ? inner->spi->shift(inner, out, in, part) : CM_PORT_FAILED;
        out = out ? out + part : NULL;
        in = in ? in + part : NULL;
    }
    return status;
}

/* Of short ones several go by between two looks: a look costs more than they do. */
static enum cm_status watched_shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                                    uint32_t bytes)
{
    enum { SHORT = 4 };
    struct cm_probe *probe = port->context;
    const struct cm_port *inner = probe->board->port;
    if (bytes > SHORT || ++probe->unseen % SHORT == 0)
        return look_and_shift(port, out, in, bytes);
    return inner->spi->shift(inner, out, in, bytes);
}

static enum cm_status inner_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    const struct cm_probe *probe = port->context;
    return probe->board->port->spi->clock(probe->board->port, want_hz, real_hz);
}

/* SPI that is made from lines stays so: its calls go through ours. */
static void watch_spi(struct cm_probe *probe, const struct cm_port *inner)
{
    if (!inner->spi)
        return;
#ifndef CM_PROBE_SMALL
    if (inner->spi == &cm_spi_by_lines)
        return;
#endif
    probe->spi = (struct cm_spi){.clock = inner->spi->clock ? inner_clock : NULL,
                                 .shift = watched_shift,
                                 .packed_shift = inner->spi->packed_shift}; // it looks by itself
    probe->port.spi = &probe->spi;
}

/* --- the same for buses in hardware that only some boards have --------------------------- */

#ifndef CM_PROBE_SMALL
static const struct cm_port *inner_of(const struct cm_port *port)
{
    struct cm_probe *probe = port->context;
    return cm_probe_attend(probe) ? probe->board->port : NULL;
}

static enum cm_status parallel_clock(const struct cm_port *port, uint32_t want_hz,
                                     uint32_t *real_hz)
{
    const struct cm_port *inner = inner_of(port);
    return inner ? inner->parallel->clock(inner, want_hz, real_hz) : CM_PORT_FAILED;
}

/* Between two bytes of a page there are 150 us at most (28 series): so here there is only a glance.
 */
static enum cm_status parallel_write(const struct cm_port *port, uint32_t address, uint16_t data,
                                     const struct cm_pulse *pulse)
{
    struct cm_probe *probe = port->context;
    const struct cm_port *inner = probe->board->port;
    return cm_probe_glance(probe) ? inner->parallel->write(inner, address, data, pulse)
                                  : CM_PORT_FAILED;
}

static enum cm_status parallel_read(const struct cm_port *port, uint32_t address, uint8_t *bytes,
                                    uint32_t count)
{
    const uint32_t most = most_at_once(port), wide = port->traits.data_lines == 16;
    enum cm_status status = CM_OK;
    for (uint32_t part; count && !status; count -= part) {
        const struct cm_port *inner = inner_of(port);
        part = most && most < count ? most : count;
        status = inner ? inner->parallel->read(inner, address, bytes, part) : CM_PORT_FAILED;
        address += part;
        bytes += part << wide;
    }
    return status;
}

static enum cm_status parallel_release(const struct cm_port *port)
{
    const struct cm_port *inner = ((const struct cm_probe *)port->context)->board->port;
    return inner->parallel->release ? inner->parallel->release(inner) : CM_OK;
}

static enum cm_status i2c_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    const struct cm_port *inner = inner_of(port);
    return inner ? inner->i2c->clock(inner, want_hz, real_hz) : CM_PORT_FAILED;
}

static enum cm_status i2c_transfer(const struct cm_port *port, const struct cm_transfer *transfer)
{
    const struct cm_port *inner = inner_of(port);
    return inner ? inner->i2c->transfer(inner, transfer) : CM_PORT_FAILED;
}

static void watch_others(struct cm_probe *probe, const struct cm_port *inner)
{
    static const struct cm_parallel PARALLEL = {.clock = parallel_clock,
                                                .write = parallel_write,
                                                .read = parallel_read,
                                                .release = parallel_release};
    static const struct cm_i2c I2C = {.clock = i2c_clock, .transfer = i2c_transfer};
    bool by_lines =
        inner->parallel == &cm_parallel_by_lines || inner->parallel == &cm_parallel_by_registers;
    if (inner->parallel && !by_lines)
        probe->port.parallel = &PARALLEL;
    if (inner->i2c && inner->i2c != &cm_i2c_by_lines)
        probe->port.i2c = &I2C;
}
#endif

void cm_probe_watch(struct cm_probe *probe)
{
    const struct cm_port *inner = probe->board->port;
    probe->port = *inner;
    probe->port.context = probe;
    probe->port.run = NULL;
    probe->port.traits.packs = false;
    probe->lines = (struct cm_lines){.line = inner->lines->line ? watched_line : NULL,
                                     .sense = inner->lines->sense ? watched_sense : NULL,
                                     .wait_us = watched_wait,
                                     .now_us = watched_now};
#ifndef CM_PROBE_SMALL
    probe->lines.supply = inner->lines->supply ? watched_supply : NULL;
#endif
    probe->port.lines = &probe->lines;
    watch_spi(probe, inner);
#ifndef CM_PROBE_SMALL
    watch_others(probe, inner);
#endif
}
