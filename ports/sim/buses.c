/*
 * Parallel and two-wire buses of a bench, as wholes and by their lines; and how a part sits in its socket.
 */
#include "inside.h"

/* --- a parallel bus --------------------------------------------------------------------------------------------- */

/* What data lines show that nobody drives: pulled up; and what a part does to them that sits wrongly in its socket. */
static uint16_t floating(const struct sim_bench_chip *chip)
{
    switch (chip->seat) {
    case SIM_SEAT_UP: // its ground pin is on D2, and lets other lines pull that low through its protection diodes
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

enum cm_status sim_bus_write(struct cm_port *port, uint32_t address, uint16_t data, uint32_t pulse_us)
{
    struct cm_sim *sim = port->context;
    uint64_t period = sim->period_ns, pulse = pulse_us ? pulse_us * 1000ull : period / 2;
    sim_count_byte(sim);
    if (sim_restarts_now(sim))
        return CM_CONTACT_LOST;
    if (is_seated(sim))
        par_model_write(&sim->model.par, address, data, pulse, period);
    else
        *sim->now_ns += pulse > period ? pulse : period;
    return sim_save_now_and_then(sim);
}

enum cm_status sim_bus_read(struct cm_port *port, uint32_t address, uint8_t *bytes, uint32_t count)
{
    struct cm_sim *sim = port->context;
    uint64_t period = sim->period_ns;
    bool wide = sim->port.traits.data_lines == 16, undisturbed = sim_is_undisturbed(sim) && is_seated(sim);
    for (uint32_t i = 0; i < count; i++) {
        uint16_t data = floating(&sim->bench->chip);
        if (!undisturbed)
            sim_count_byte(sim);
        if (!undisturbed && sim_restarts_now(sim))
            return CM_CONTACT_LOST;
        if (undisturbed || is_seated(sim))
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
    uint16_t data = 0;
    if (line >= CM_LINE_A0)
        sim->pin_address = (sim->pin_address & ~(1u << (line - CM_LINE_A0))) | (level == CM_HIGH ? 1u << (line - CM_LINE_A0) : 0);
    if (line == CM_LINE_LATCH && level == CM_HIGH)
        sim->pin_address = sim->registers & ((1u << sim->port.traits.address_lines) - 1);
    if (line == CM_LINE_WE && level == CM_LOW)
        sim_count_byte(sim);
    for (int i = 0; i < 16; i++)
        data = (uint16_t)(data | (sim->lines[CM_LINE_D0 + i] != CM_LOW) << i);
    if (is_seated(sim))
        par_model_pins(model, sim->lines[CM_LINE_CE] != CM_LOW, sim->lines[CM_LINE_OE] != CM_LOW, sim->lines[CM_LINE_WE] != CM_LOW,
                       sim->pin_address, data);
}

uint16_t sim_sense_data(struct cm_sim *sim, enum cm_line line)
{
    unsigned bit = (unsigned)line - CM_LINE_D0;
    bool outputs = sim->lines[CM_LINE_CE] == CM_LOW && sim->lines[CM_LINE_OE] == CM_LOW && is_seated(sim);
    if (bit == 0)
        sim_count_byte(sim);
    if (sim->lines[line] != CM_RELEASED)
        return sim->lines[line] == CM_HIGH;
    return (uint16_t)((outputs ? sim->model.par.pin_answer : floating(&sim->bench->chip)) >> bit & 1);
}

/* --- two wires --------------------------------------------------------------------------------------------------- */

void sim_drive_two_wire(struct cm_sim *sim)
{
    bool scl = sim->lines[CM_LINE_SCL] != CM_LOW, sda = sim->lines[CM_LINE_SDA] != CM_LOW;
    if (sim->contact)
        i2c24_model_lines(&sim->model.i2c24, scl, sda);
}

uint16_t sim_sense_two_wire(struct cm_sim *sim, enum cm_line line)
{
    bool driven = sim->lines[line] != CM_LOW;
    sim_drive_two_wire(sim); // a device may have let go meanwhile
    if (!sim->contact)
        return driven;
    return line == CM_LINE_SDA ? i2c24_model_sda(&sim->model.i2c24, driven) : i2c24_model_scl(&sim->model.i2c24, driven);
}
