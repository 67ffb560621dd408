/*
 * Cycles of a parallel memory on a simple port.
 *
 *     A    ==X 5555 X==X 2AAA X==X 5555 X==X  at  X=========X  at  X==X  at  X==
 *     D    ==X  AA  X==X  55  X==X  A0  X==X data X---------| stat |--| stat |--
 *     WE   ~~\____/~~~~\____/~~~~\____/~~~~\____/~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~
 *     OE   ~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~\____/~~~~~~\____/~~~~
 *
 * While a write is under way, reading gives its status: bit 7 is the complement of the bit that was written, bit 6 changes from one reading to the next where the part has it (JEDEC flash;
 * JESD68 and the sheets of the 28 series call it data polling and toggle bit). So it is done when bit 7 is right and two readings are alike. The other bits may be late by 1 us.
 */
#include "compare.h"

enum { STATUS_DONE = 0x80, LATE_US = 1, READINGS = 2 };

static uint8_t unit_of(const struct cm_cycles *cycles)
{
    return cycles->wide ? 2 : 1;
}

static enum cm_status read_units(struct cm_port *port, const struct cm_cycles *cycles, uint32_t address, uint8_t *bytes,
                                 uint32_t count)
{
    return port->bus_read(port, cycles->wide ? address >> 1 : address, bytes, cycles->wide ? count >> 1 : count);
}

static enum cm_status write_unit(struct cm_port *port, const struct cm_cycles *cycles, uint32_t address, const uint8_t *bytes)
{
    uint16_t data = bytes[0];
    if (cycles->wide)
        data = (uint16_t)(data | (unsigned)bytes[1] << 8);
    return port->bus_write(port, cycles->wide ? address >> 1 : address, data, cycles->pulse_ns,
                           cycles->rest_ns);
}

static bool is_done(const struct cm_cycles *cycles, const uint8_t *wanted, const uint8_t *now, const uint8_t *before)
{
    bool alike = now[0] == before[0] && (!cycles->wide || now[1] == before[1]);
    return alike && !((now[0] ^ wanted[0]) & STATUS_DONE);
}

/* Waits for the unit that was written last, and compares it. */
static enum cm_status wait_done(struct cm_port *port, const struct cm_cycles *cycles, uint32_t address, const uint8_t *wanted,
                                struct cm_trouble *trouble)
{
    uint8_t now[2], before[2], unit = unit_of(cycles);
    struct cm_deadline deadline = cm_deadline_begin(port);
    if (cycles->early_us)
        port->wait_us(port, cycles->early_us);
    enum cm_status status = read_units(port, cycles, address, now, unit);
    for (uint8_t late = 0; !status; port->wait_us(port, cycles->pause_us)) {
        before[0] = now[0];
        before[1] = now[1];
        status = read_units(port, cycles, address, now, unit);
        if (status || is_done(cycles, wanted, now, before))
            break;
        if (late == READINGS) {
            cm_ignore(cm_judge(CM_EACH_MATCH, address, wanted, now, 1, trouble));
            return CM_TIMED_OUT;
        }
        // then ask once more, in two readings: we may have been held up
        if (late || cm_deadline_is_over(port, &deadline, cycles->timeout_us))
            late++;
    }
    if (status || cm_judge(CM_EACH_MATCH, address, wanted, now, unit, trouble) == CM_OK)
        return status;
    port->wait_us(port, LATE_US);
    status = read_units(port, cycles, address, now, unit);
    return status ? status : cm_judge(CM_EACH_MATCH, address, wanted, now, unit, trouble);
}

static enum cm_status compare_units(struct cm_port *port, const struct cm_cycles *cycles, enum cm_each_data data, uint32_t at,
                                    uint32_t count, struct cm_trouble *trouble)
{
    uint8_t found[CM_GROUP_MOST];
    enum cm_status status = CM_OK;
    for (uint32_t done = 0, part; !status && done < count; done += part) {
        part = cm_group_after(port, done, count - done);
        status = read_units(port, cycles, cycles->first + at + done, found, part);
        if (!status)
            status = cm_judge(data, cycles->first + at + done, cycles->out + at + done, found, part, trouble);
    }
    return status;
}

static enum cm_status write_before(struct cm_port *port, const struct cm_cycles *cycles)
{
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; !status && i < cycles->before_count; i++)
        status = port->bus_write(port, cycles->before[i].address, cycles->before[i].data,
                                 cycles->pulse_ns, cycles->rest_ns);
    return status;
}

/* Writes a piece, waits for it, reads it back; a single unit was compared when it was done. */
static enum cm_status write_piece(struct cm_port *port, const struct cm_cycles *cycles, uint32_t at, uint32_t count,
                                  struct cm_trouble *trouble)
{
    static const uint8_t BLANK[2] = {0xFF, 0xFF};
    const uint8_t *last = BLANK, fill[2] = {cycles->fill, 0};
    uint32_t address = cycles->first + at;
    enum cm_status status = CM_OK;
    if (!cycles->out) {
        status = write_unit(port, cycles, address, fill);
    } else {
        for (uint32_t i = 0; !status && i < count; i += unit_of(cycles)) {
            last = cycles->out + at + i;
            address = cycles->first + at + i;
            status = write_unit(port, cycles, address, last);
        }
    }
    if (!status && cycles->timeout_us)
        status = wait_done(port, cycles, address, last, trouble);
    bool compared = cycles->timeout_us && count <= unit_of(cycles);
    if (!status && cycles->verify && !compared)
        status = compare_units(port, cycles, CM_EACH_MATCH, at, count, trouble);
    return status;
}

/* Bytes from `at` on that are left out. */
static uint32_t spared_at(const struct cm_cycles *cycles, uint32_t at)
{
    uint32_t end = at;
    while (cycles->sparing && end < cycles->count && cycles->out[end] == 0xFF)
        end++;
    return cycles->wide ? (end - at) & ~1u : end - at;
}

static enum cm_status run_piece(struct cm_port *port, const struct cm_cycles *cycles, uint32_t at, uint32_t item, uint32_t count,
                                struct cm_trouble *trouble)
{
    trouble->address = cycles->first + at;
    trouble->placed = true;
    enum cm_status status = write_before(port, cycles);
    if (status)
        return status;
    if (cycles->data == CM_EACH_OUT)
        return write_piece(port, cycles, at, count, trouble);
    if (cycles->data != CM_EACH_IN)
        return compare_units(port, cycles, cycles->data, at, count, trouble);
    if (cycles->sample)
        return read_units(port, cycles, cycles->first + at, cycles->in + item * cycles->sample, cycles->sample);
    return read_units(port, cycles, cycles->first + at, cycles->in + at, count);
}

enum cm_status cm_expand_cycles(struct cm_port *port, const struct cm_op *op, struct cm_trouble *trouble)
{
    const struct cm_cycles *cycles = &op->cycles;
    bool lets_go = !cycles->count && !cycles->before_count;
    if (lets_go)
        return port->bus_release ? port->bus_release(port) : CM_OK;
    enum cm_status status = cycles->count ? CM_OK : write_before(port, cycles);
    for (uint32_t at = 0, item = 0, part; !status && at < cycles->count; at += part) {
        uint32_t spared = spared_at(cycles, at);
        part = spared ? spared : cm_piece_left(cycles->first, at, cycles->count, cycles->piece);
        if (!spared)
            status = run_piece(port, cycles, at, item++, part, trouble);
        else if (cycles->verify)
            status = compare_units(port, cycles, CM_EACH_MATCH, at, part, trouble);
    }
    return status;
}
