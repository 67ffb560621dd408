/*
 * Cycles of a parallel memory.
 *
 *     A    ==X 5555 X==X 2AAA X==X 5555 X==X  at  X=========X  at  X==X  at  X==
 *     D    ==X  AA  X==X  55  X==X  A0  X==X data X---------| stat |--| stat |--
 *     WE   ~~\____/~~~~\____/~~~~\____/~~~~\____/~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~
 *     OE   ~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~\____/~~~~~~\____/~~~~
 *
 * While a write is under way, reading gives its status: bit 7 is the complement of the bit that was
 * written, bit 6 changes from one reading to the next where the part has it (JEDEC flash; JESD68
 * and the sheets of the 28 series call it data polling and toggle bit). So it is done when a
 * reading is all right; or when bit 7 is right and two readings are equal, and it failed if it
 * stays so: the other bits may be late by 1 us.
 *
 * On a bus of 16 bits a cycle carries two bytes, the low one first, and the bus address is half the
 * byte address. Unlock cycles and data of a page are one exchange, so nothing comes between them.
 */
#include "run.h"

enum { STATUS_DONE = 0x80, LATE_US = 1, MOST_UNIT = 2 };
static const uint8_t BLANK[MOST_UNIT] = {0xFF, 0xFF};

static uint8_t unit_shift(const struct cm_run *run)
{
    return run->port->traits.data_lines == 16;
}

static enum cm_status read_units(struct cm_run *run, uint32_t at, uint8_t *bytes, uint32_t count)
{
    uint8_t wide = unit_shift(run);
    return run->port->parallel->read(run->port, (run->address + at) >> wide, bytes, count >> wide);
}

static enum cm_status write_unit(const struct cm_run *run, uint32_t at, const uint8_t *bytes)
{
    uint8_t wide = unit_shift(run);
    uint16_t data = (uint16_t)(wide ? bytes[0] | (unsigned)bytes[1] << 8 : bytes[0]);
    return run->port->parallel->write(run->port, (run->address + at) >> wide, data,
                                      run->exchange->cycles.pulse);
}

static enum cm_status write_head(const struct cm_run *run)
{
    const struct cm_cycle *cycle = run->exchange->cycles.list;
    enum cm_status status = CM_OK;
    for (uint8_t i = run->exchange->head_count; !status && i; i--, cycle++)
        status = run->port->parallel->write(run->port, cycle->address, cycle->data,
                                            run->exchange->cycles.pulse);
    return status;
}

static enum cm_status write_data(const struct cm_run *run)
{
    const uint8_t command[MOST_UNIT] = {run->exchange->want};
    enum cm_status status = CM_OK;
    if (!run->bytes)
        return write_unit(run, 0, command);
    for (uint32_t at = 0; !status && at < run->count; at += 1u << unit_shift(run))
        status = write_unit(run, at, run->bytes + at);
    return status;
}

static enum cm_status compare(struct cm_run *run)
{
    uint8_t group[CM_GROUP_BYTES];
    uint32_t room = cm_group_room(run, CM_GROUP_CHEAP, sizeof group);
    return cm_run_compare(run, read_units, group, room);
}

/* One reading that is all right ends it: bit 7 would not be. Where the others differ, a second one
 * tells whether bit 6 changes. */
static enum cm_status check_unit(struct cm_run *run, uint32_t at, uint8_t unit)
{
    uint8_t first[MOST_UNIT] = {0}, now[MOST_UNIT] = {0};
    uint32_t chunk = run->address;
    enum cm_status status = read_units(run, at, first, unit);
    if (!status)
        status = cm_run_judge(run, at, first, unit);
    if (status != CM_DIFFERS)
        return status;
    run->address = chunk;
    bool done = !((first[0] ^ run->bytes[at]) & STATUS_DONE);
    status = done ? read_units(run, at, now, unit) : CM_BAD_ANSWER;
    if (status)
        return status;
    if (first[0] != now[0] || first[1] != now[1])
        return CM_BAD_ANSWER;
    run->port->lines->wait_us(run->port, LATE_US);
    status = read_units(run, at, now, unit);
    return status ? status : cm_run_judge(run, at, now, unit);
}

/* The unit that was written last; of an erase, the first. */
static enum cm_status check_done(struct cm_run *run)
{
    uint8_t unit = (uint8_t)(1u << unit_shift(run));
    if (run->bytes)
        return check_unit(run, run->count - unit, unit);
    run->bytes = (uint8_t *)(uintptr_t)BLANK; // judged, not written to
    enum cm_status status = check_unit(run, 0, unit);
    run->bytes = NULL;
    return status;
}

/* Makes the chunk as long as the run of FF that it begins with; false where there is none. */
static bool find_blank(struct cm_run *run)
{
    uint32_t left = run->repeat ? run->repeat->count - run->at : 0, blank = 0;
    while (blank < left && run->bytes[blank] == 0xFF)
        blank++;
    blank &= ~(uint32_t)unit_shift(run);
    if (blank)
        run->chunk = run->count = blank;
    return blank;
}

static enum cm_status parallel_exchange(struct cm_run *run)
{
    const struct cm_exchange *exchange = run->exchange;
    uint8_t data = cm_data_of(exchange);
    if (exchange->data & CM_SPARE && run->bytes && find_blank(run)) {
        bool compares = exchange->data & CM_COMPARE;
        if (compares && run->index) // a unit has just ended
            run->port->lines->wait_us(run->port, LATE_US);
        enum cm_status spared = compares ? compare(run) : CM_OK;
        return spared ? spared : CM_SPARED;
    }
    enum cm_status status = write_head(run);
    if (status || !data)
        return status;
    switch (data) {
    case CM_DATA_OUT:
        return write_data(run);
    case CM_DATA_IN:
        return read_units(run, 0, run->bytes, run->count);
    case CM_DATA_DONE:
        return check_done(run);
    default:
        return compare(run);
    }
}

static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    const struct cm_parallel *parallel = port->parallel;
    if (!parallel)
        return CM_PORT_LACKS;
    if (!want_hz)
        return parallel->release ? parallel->release(port) : CM_OK;
    *real_hz = want_hz;
    return parallel->clock ? parallel->clock(port, want_hz, real_hz) : CM_OK;
}

const struct cm_bus cm_bus_parallel = {
    .id = CM_BUS_PARALLEL, .clock = set_clock, .exchange = parallel_exchange};
