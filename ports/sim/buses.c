/*
 * Parallel and I2C buses of a bench, as wholes and by their lines; and how a part sits in its
 * socket.
 */
#include "inside.h"

/* --- a parallel bus ---------------------------------------------------------------------- */

/* What data lines show that nobody drives: pulled up; and what a part does to them that sits
 * wrongly in its socket. */
static uint16_t floating(const struct sim_bench_chip *chip)
{
    switch (chip->seat) {
    case SIM_SEAT_UP: // its ground pin is on D2, and lets other lines pull that low through its
                      // protection diodes
        return 0xFBFB;
    case SIM_SEAT_TURNED: // it holds the supply down, and everything with it
        return 0x0000;
    default:
        return 0xFFFF;
    }
}

static bool is_seated(const struct cm_sim *sim)
{
    return sim->contact && sim->bench->chip.seat == SIM_SEAT_RIGHT;
}

/* --- cycles over wires with something wrong with them ------------------------------------ */

static void put_on_lines(struct cm_sim *sim, unsigned first, unsigned count, uint32_t value)
{
    for (unsigned i = 0; i < count; i++)
        sim->lines[first + i] = value >> i & 1 ? CM_HIGH : CM_LOW;
}

/* The same lines at their far end. */
static uint32_t take_from_lines(const struct cm_sim *sim, unsigned first, unsigned count)
{
    uint32_t value = 0;
    for (unsigned i = 0; i < count; i++)
        value |= (uint32_t)sim_wire_far(sim, first + i, sim_near(sim, first + i)) << i;
    return value;
}

static bool is_low_far(const struct cm_sim *sim, enum cm_line line)
{
    return !sim_wire_far(sim, line, sim_near(sim, line));
}

/* CE and one more go low for a cycle; OE low keeps the chip from writing, whatever WE says. */
static uint32_t begin_cycle(struct cm_sim *sim, enum cm_line strobe, uint32_t address)
{
    sim_wires_tick(sim);
    put_on_lines(sim, CM_LINE_A0, sim->port.traits.address_lines, address);
    sim->lines[CM_LINE_CE] = sim->lines[strobe] = CM_LOW;
    return take_from_lines(sim, CM_LINE_A0, sim->port.traits.address_lines);
}

static void end_cycle(struct cm_sim *sim, enum cm_line strobe)
{
    sim->lines[CM_LINE_CE] = sim->lines[strobe] = CM_HIGH;
    for (unsigned i = 0; i < sim->port.traits.data_lines; i++)
        sim->lines[CM_LINE_D0 + i] = CM_RELEASED;
}

static void write_disturbed(struct cm_sim *sim, uint32_t address, uint16_t data, uint64_t pulse,
                            uint64_t period)
{
    bool is_eprom = sim->kind == &sim_eprom; // its CE is the pulse, its OE has VPP or is high
    put_on_lines(sim, CM_LINE_D0, sim->port.traits.data_lines, data);
    uint32_t there = begin_cycle(sim, CM_LINE_WE, address);
    bool writes = is_low_far(sim, CM_LINE_CE) && is_low_far(sim, CM_LINE_WE) &&
                  (is_eprom || !is_low_far(sim, CM_LINE_OE));
    if (writes)
        par_model_write(&sim->model.par, there,
                        (uint16_t)take_from_lines(sim, CM_LINE_D0, sim->port.traits.data_lines),
                        pulse, period);
    else
        *sim->now_ns += period;
    end_cycle(sim, CM_LINE_WE);
}

static uint16_t read_disturbed(struct cm_sim *sim, uint32_t address, uint64_t period)
{
    uint32_t there = begin_cycle(sim, CM_LINE_OE, address);
    sim->chip_drives =
        is_low_far(sim, CM_LINE_CE) && is_low_far(sim, CM_LINE_OE) && !is_low_far(sim, CM_LINE_WE);
    if (sim->chip_drives)
        sim->chip_data = par_model_read(&sim->model.par, there, period);
    else
        *sim->now_ns += period;
    put_on_lines(sim, CM_LINE_D0, sim->port.traits.data_lines, floating(&sim->bench->chip));
    uint16_t data = (uint16_t)take_from_lines(sim, CM_LINE_D0, sim->port.traits.data_lines);
    sim->chip_drives = false;
    end_cycle(sim, CM_LINE_OE);
    return data;
}

/* --- cycles ------------------------------------------------------------------------------ */

enum cm_status sim_bus_write(const struct cm_port *port, uint32_t address, uint16_t data,
                             const struct cm_pulse *times)
{
    struct cm_sim *sim = port->context;
    uint64_t pulse = times->low_ns, whole = pulse + times->high_ns,
             period = sim->period_ns > whole ? sim->period_ns : whole;
    bool quiet = sim_wires_rest(sim, 1);
    sim_take_call(sim);
    if (!sim_byte_goes_by(sim))
        return CM_CONTACT_LOST;
    if (quiet)
        sim_wires_pass(sim, 1);
    if (is_seated(sim) && !quiet)
        write_disturbed(sim, address, data, pulse, period);
    else if (is_seated(sim))
        par_model_write(&sim->model.par, address, data, pulse, period);
    else
        *sim->now_ns += period;
    return sim_save_now_and_then(sim);
}

enum cm_status sim_bus_read(const struct cm_port *port, uint32_t address, uint8_t *bytes,
                            uint32_t count)
{
    struct cm_sim *sim = port->context;
    uint64_t period = sim->period_ns;
    bool wide = sim->port.traits.data_lines == 16,
         undisturbed = sim_is_undisturbed(sim) && is_seated(sim) && sim_wires_rest(sim, count);
    sim_take_call(sim);
    for (uint32_t i = 0; i < count; i++) {
        uint16_t data = floating(&sim->bench->chip);
        bool quiet = undisturbed || sim_wires_rest(sim, 1);
        if (!undisturbed && !sim_byte_goes_by(sim))
            return CM_CONTACT_LOST;
        if (quiet)
            sim_wires_pass(sim, 1);
        if (is_seated(sim) && !quiet)
            data = read_disturbed(sim, address + i, period);
        else if (undisturbed || is_seated(sim))
            data = par_model_read(&sim->model.par, address + i, period);
        else
            *sim->now_ns += period;
        *bytes++ = undisturbed ? (uint8_t)data : sim_through_faults(sim, (uint8_t)data);
        if (wide)
            *bytes++ = (uint8_t)(data >> 8);
    }
    if (undisturbed) {
        sim->bytes += count;
        sim->fault_bytes += count;
    }
    return sim_save_now_and_then(sim);
}

/* The same by lines. */
void sim_drive_parallel(struct cm_sim *sim, enum cm_line line, enum cm_level level)
{
    struct par_model *model = &sim->model.par;
    uint8_t addresses = sim->port.traits.address_lines;
    if (line >= CM_LINE_A0)
        sim->pin_address = (sim->pin_address & ~(1u << (line - CM_LINE_A0))) |
                           (level == CM_HIGH ? 1u << (line - CM_LINE_A0) : 0);
    if (line == CM_LINE_LATCH && level == CM_HIGH) {
        sim->pin_address = sim->registers & ((1u << addresses) - 1);
        put_on_lines(sim, CM_LINE_A0, addresses, sim->pin_address);
    }
    if (line == CM_LINE_WE && level == CM_LOW)
        sim_count_byte(sim);
    if ((line == CM_LINE_WE || line == CM_LINE_OE) && level == CM_LOW)
        sim_wires_tick(sim);
    if (!is_seated(sim))
        return;
    bool quiet = sim_wires_rest(sim, 0);
    uint32_t address = quiet ? sim->pin_address : take_from_lines(sim, CM_LINE_A0, addresses);
    uint16_t data = (uint16_t)take_from_lines(sim, CM_LINE_D0, 16);
    par_model_pins(model, !is_low_far(sim, CM_LINE_CE), !is_low_far(sim, CM_LINE_OE),
                   !is_low_far(sim, CM_LINE_WE), address, data);
}

uint16_t sim_sense_data(struct cm_sim *sim, enum cm_line line)
{
    unsigned bit = (unsigned)line - CM_LINE_D0;
    if (bit == 0)
        sim_count_byte(sim);
    if (sim->lines[line] != CM_RELEASED)
        return sim->lines[line] == CM_HIGH;
    sim->chip_drives = is_low_far(sim, CM_LINE_CE) && is_low_far(sim, CM_LINE_OE) &&
                       !is_low_far(sim, CM_LINE_WE) && is_seated(sim);
    sim->chip_data = sim->model.par.pin_answer;
    bool pulled = sim->chip_drives ? sim_near(sim, line) : floating(&sim->bench->chip) >> bit & 1;
    bool high = sim_wire_far(sim, line, pulled);
    sim->chip_drives = false;
    return high;
}

/* --- I2C --------------------------------------------------------------------------------- */

void sim_drive_i2c(struct cm_sim *sim)
{
    bool scl = sim_wire_far(sim, CM_LINE_SCL, sim->lines[CM_LINE_SCL] != CM_LOW),
         sda = sim_wire_far(sim, CM_LINE_SDA, sim->lines[CM_LINE_SDA] != CM_LOW);
    if (sim->contact)
        i2c24_model_lines(&sim->model.i2c24, scl, sda);
}

/* What the chip pulls low is seen unless its wire is open; then there is only what the port does
 * itself. */
uint16_t sim_sense_i2c(struct cm_sim *sim, enum cm_line line)
{
    bool driven = sim->lines[line] != CM_LOW, is_data = line == CM_LINE_SDA;
    if (sim->kind->bus != SIM_TWO_WIRE)
        return driven;
    sim_drive_i2c(sim); // a device may have released it meanwhile
    if (!sim->contact || sim_wire_is_open(sim, line))
        return driven;
    bool seen = is_data ? i2c24_model_sda(&sim->model.i2c24, driven)
                        : i2c24_model_scl(&sim->model.i2c24, driven);
    return sim_wire_far(sim, line, seen);
}
