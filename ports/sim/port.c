/*
 * The port on a simulated bench: small functions for the core's expander, a chip model behind them,
 * and between the two the wires with whatever is wrong with them. Time is the model's; only the
 * pace, if one is set, makes the host wait.
 */
#include "inside.h"
#include "state.h"
#include <coldmint/coldmint.h>
#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

enum { CALLS_A_LOOK = 64, SAVE_EVERY_NS = 250000000, SAVE_SHARE = 20 };

uint64_t sim_host_ns(void)
{
    struct timespec now;
    clock_gettime(CLOCK_MONOTONIC, &now);
    return (uint64_t)now.tv_sec * 1000000000u + (uint64_t)now.tv_nsec;
}

/* --- the wires --------------------------------------------------------------------------- */

/* How a line would look at the chip with good wires: pulled up on the board where nobody drives it,
 * or held by something. Without contact the chip sees only that. */
static bool is_low_near(const struct cm_sim *sim, unsigned line)
{
    bool held = (line == CM_LINE_RESET && sim->faults.reset_held) ||
                (line == CM_LINE_WP && sim->bench->chip.wp_low);
    bool driven = sim->contact && sim->lines[line] != CM_RELEASED;
    bool rests_low = line < CM_LINE_COUNT && sim->kind->rest_low & CM_LINE_BIT(line);
    if ((line == CM_LINE_WP || rests_low) && driven)
        return sim->lines[line] == CM_LOW; // stronger than the board's resistor
    if (rests_low)
        return true;
    return held || (driven && sim->lines[line] == CM_LOW);
}

bool sim_near(const struct cm_sim *sim, unsigned line)
{
    if (line == CM_LINE_MISO)
        return !sim->contact || !sim->kind->miso ||
               sim->kind->miso((union sim_model *)(uintptr_t)&sim->model);
    if (sim->chip_drives && line >= CM_LINE_D0 && line < CM_LINE_A0)
        return sim->chip_data >> (line - CM_LINE_D0) & 1;
    return !is_low_near(sim, line);
}

static bool is_low(const struct cm_sim *sim, enum cm_line line)
{
    return !sim_wire_far(sim, line, !is_low_near(sim, line));
}

void sim_drive_clock(struct cm_sim *sim)
{
    if (sim->contact && sim->kind->sck)
        sim->kind->sck(&sim->model,
                       sim_wire_far(sim, CM_LINE_SCK, sim->lines[CM_LINE_SCK] == CM_HIGH),
                       sim_wire_far(sim, CM_LINE_MOSI, sim->lines[CM_LINE_MOSI] == CM_HIGH));
}

static void drive_supply(struct cm_sim *sim)
{
    uint16_t mv = sim_wire_is_open(sim, CM_LINE_SUPPLY) ? 0 : sim->fed_mv;
    if (mv != sim_supply_mv(sim->kind, &sim->model))
        sim->kind->supply(&sim->model, mv);
}

void sim_drive_chip(struct cm_sim *sim)
{
    static const enum cm_line LINES[] = {CM_LINE_RESET,  CM_LINE_HOLD,  CM_LINE_WP,
                                         CM_LINE_SELECT, CM_LINE_A9_ID, CM_LINE_VPP};
    drive_supply(sim);
    for (size_t i = 0; i < sizeof LINES / sizeof LINES[0]; i++)
        sim->kind->line(&sim->model, LINES[i], is_low(sim, LINES[i]));
    if (sim->kind->bus == SIM_SPI)
        sim_drive_clock(sim);
    else if (sim->kind->bus == SIM_TWO_WIRE)
        sim_drive_i2c(sim);
}

/* In circuit: from some supply on, the rest of the board is awake and talks on the same wires. */
static bool neighbour_talks(const struct cm_sim *sim)
{
    uint16_t from = sim->bench->chip.neighbour_from_mv;
    return from && sim_supply_mv(sim->kind, &sim->model) >= from;
}

static uint8_t next_noise(struct cm_sim *sim)
{
    sim->noise = sim->noise * 1664525u + 1013904223u;
    return (uint8_t)(sim->noise >> 24);
}

bool sim_has_contact(const struct cm_sim *sim)
{
    uint64_t lost = sim->faults.contact_lost_after_bytes,
             back = sim->faults.contact_back_after_bytes;
    if (lost == 0 || sim->fault_bytes < lost)
        return true;
    return back != 0 && sim->fault_bytes >= lost + back;
}

/* The programmer's own processor starts again: lines released, and its boot takes a while. */
static bool restarts_now(struct cm_sim *sim)
{
    enum { BOOT_NS = 1500000000 };
    uint32_t every = sim->faults.restart_every_bytes;
    if (every == 0 || sim->fault_bytes == 0 || sim->fault_bytes % every != 0)
        return false;
    for (int i = 0; i < CM_LINE_END; i++)
        sim->lines[i] = CM_RELEASED;
    sim_drive_chip(sim);
    *sim->now_ns += BOOT_NS;
    sim->state.restarts++;
    return true;
}

void sim_count_byte(struct cm_sim *sim)
{
    sim->bytes++;
    sim->fault_bytes++;
    bool contact = sim_has_contact(sim);
    if (contact != sim->contact) {
        sim->contact = contact;
        sim_drive_chip(sim);
    }
}

bool sim_byte_goes_by(struct cm_sim *sim)
{
    sim_count_byte(sim);
    return !restarts_now(sim);
}

uint8_t sim_through_faults(struct cm_sim *sim, uint8_t byte)
{
    if (neighbour_talks(sim))
        byte &= next_noise(sim) | next_noise(sim); // another driver pulls low now and then
    if (sim->faults.flip_every_bytes && sim->fault_bytes % sim->faults.flip_every_bytes == 0)
        return byte ^ (uint8_t)(1u << (sim->fault_bytes / sim->faults.flip_every_bytes % 8));
    return byte;
}

/* Waits where simulated time is ahead. Where it is behind, as nobody used the bench for a while, it
 * does not hurry afterwards. */
static void keep_pace(struct cm_sim *sim)
{
    enum { SLACK_NS = 1000000 };
    if (sim->bench->pace <= 0)
        return;
    double due_ns = (double)(*sim->now_ns - sim->begun_ns) / sim->bench->pace;
    uint64_t gone_ns = sim_host_ns() - sim->begun_host_ns;
    if (due_ns > (double)gone_ns + SLACK_NS) {
        uint64_t left = (uint64_t)due_ns - gone_ns;
        struct timespec pause = {.tv_sec = (time_t)(left / 1000000000u),
                                 .tv_nsec = (long)(left % 1000000000u)};
        nanosleep(&pause, NULL);
    } else if ((double)gone_ns > due_ns + SLACK_NS) {
        sim->begun_host_ns += gone_ns - (uint64_t)due_ns;
    }
}

enum cm_status sim_save_now_and_then(struct cm_sim *sim)
{
    keep_pace(sim);
    if (sim->kind == &sim_nor &&
        sim->model.nor.registers_changed) { // a real chip remembers them, whatever becomes of us
        sim->model.nor.registers_changed = false;
        return cm_sim_save(sim) ? CM_OK : CM_PORT_FAILED;
    }
    if (++sim->calls % CALLS_A_LOOK)
        return CM_OK; // looking at the clock takes time as well
    uint64_t since = sim_host_ns() - sim->saved_host_ns;
    if (since < SAVE_EVERY_NS || since < SAVE_SHARE * sim->save_took_ns)
        return CM_OK; // a large state on a slow disk must not take all the time
    return cm_sim_save(sim) ? CM_OK : CM_PORT_FAILED;
}

/* The models take halves of the clock in whole nanoseconds, never too short. What that adds over
 * many bytes is taken off again. */
static void give_back(struct cm_sim *sim, uint64_t bytes)
{
    if (!sim->clock_hz)
        return;
    sim->surplus_ps += bytes * (16000 * sim->half_ns - 8000000000000u / sim->clock_hz);
    *sim->now_ns -= sim->surplus_ps / 1000;
    sim->surplus_ps %= 1000;
}

void sim_take_call(struct cm_sim *sim)
{
    sim->port_calls++;
    if (!sim->is_in_batch)
        *sim->now_ns += sim->bench->port.call_us * 1000ull;
}

/* Nothing between port and chip that a byte would have to be looked at for. */
bool sim_is_undisturbed(const struct cm_sim *sim)
{
    const struct sim_faults *faults = &sim->faults;
    return sim->contact && !faults->contact_lost_after_bytes && !faults->flip_every_bytes &&
           !faults->restart_every_bytes && !neighbour_talks(sim);
}

static bool drive_line(struct cm_sim *sim, enum cm_line line, enum cm_level level);

/* --- the port's functions ---------------------------------------------------------------- */

/* Bytes ahead that the chip can be given as wholes: nothing is wrong with a wire, and it is not in
 * the middle of a byte. */
static uint32_t quiet_bytes(const struct cm_sim *sim, uint32_t most)
{
    bool whole =
        sim_is_undisturbed(sim) && !(sim->kind->in_byte && sim->kind->in_byte(&sim->model));
    uint32_t step = most;
    while (whole && step && !sim_wires_rest(sim, 8ull * step))
        step /= 2;
    return whole ? step : 0;
}

static void shift_quietly(struct cm_sim *sim, const uint8_t *out, uint8_t *in, uint32_t bytes)
{
    for (uint32_t i = 0; i < bytes; i++) {
        uint8_t answer = sim->kind->byte(&sim->model, out ? out[i] : 0, sim->half_ns);
        if (in)
            in[i] = answer;
    }
    sim->bytes += bytes;
    sim->fault_bytes += bytes;
    sim_wires_pass(sim, 8ull * bytes);
    give_back(sim, bytes);
}

/* False where the programmer restarted. */
static bool shift_disturbed(struct cm_sim *sim, uint8_t out, uint8_t *in)
{
    uint8_t answer = 0xFF;
    bool by_edges =
        !sim_wires_rest(sim, 8) || (sim->kind->in_byte && sim->kind->in_byte(&sim->model));
    if (!sim_byte_goes_by(sim))
        return false;
    if (by_edges) {
        answer = sim_wires_byte(sim, out);
    } else {
        sim_wires_pass(sim, 8);
        if (sim->contact)
            answer = sim->kind->byte(&sim->model, out, sim->half_ns);
        else
            *sim->now_ns += 16 * sim->half_ns;
    }
    if (in)
        *in = sim_through_faults(sim, answer);
    return true;
}

static enum cm_status shift_bytes(struct cm_sim *sim, const uint8_t *out, uint8_t *in,
                                  uint32_t bytes)
{
    if (sim->kind->bus == SIM_PARALLEL) { // into the registers of the address lines
        for (uint32_t i = 0; i < bytes; i++)
            sim->registers = sim->registers << 8 | out[i];
        *sim->now_ns += bytes * 16 * REGISTER_HALF_NS;
        return CM_OK;
    }
    for (uint32_t i = 0; i < bytes;) {
        uint32_t quiet = quiet_bytes(sim, bytes - i);
        if (quiet)
            shift_quietly(sim, out ? out + i : NULL, in ? in + i : NULL, quiet);
        else if (!shift_disturbed(sim, out ? out[i] : 0, in ? in + i : NULL))
            return CM_CONTACT_LOST;
        i += quiet ? quiet : 1;
    }
    return sim_save_now_and_then(sim);
}

static enum cm_status sim_shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                                uint32_t bytes)
{
    struct cm_sim *sim = port->context;
    sim_take_call(sim);
    return shift_bytes(sim, out, in, bytes);
}

/* All in one call, so with one call's cost. */
static enum cm_status sim_frames(const struct cm_port *port, const struct cm_frame *frames,
                                 uint8_t count)
{
    struct cm_sim *sim = port->context;
    uint32_t most = sim->bench->port.transfer_max, bytes = 0;
    enum cm_status status = CM_OK;
    sim_take_call(sim);
    for (uint8_t i = 0; i < count; i++)
        bytes += frames[i].head_count + frames[i].count;
    if (most && bytes > most)
        return CM_PORT_FAILED; // longer than it has room for
    for (; count && !status; count--, frames++) {
        (void)drive_line(sim, CM_LINE_SELECT, CM_LOW);
        status = shift_bytes(sim, frames->head, NULL, frames->head_count);
        if (!status && frames->count)
            status = shift_bytes(sim, frames->out, frames->in, frames->count);
        (void)drive_line(sim, CM_LINE_SELECT, CM_HIGH);
    }
    return status;
}

/* --- lines ------------------------------------------------------------------------------- */

/* A clock that lines make, once more: as long as the one before it. */
static void double_clock(struct cm_sim *sim, enum cm_line line, enum cm_level high)
{
    uint64_t half_ns = *sim->now_ns - sim->rise_ns;
    sim->lines[line] = high;
    for (int i = 0; i < 2; i++) {
        *sim->now_ns += half_ns;
        if (line == CM_LINE_SCL)
            sim_drive_i2c(sim);
        else
            sim_drive_clock(sim);
        sim->lines[line] = CM_LOW;
    }
}

/* False where the programmer restarted. */
static bool drive_line(struct cm_sim *sim, enum cm_line line, enum cm_level level)
{
    bool falls = level == CM_LOW && sim->lines[line] != CM_LOW;
    bool register_clock = line == CM_LINE_SCK && level == CM_HIGH && sim->lines[line] != CM_HIGH;
    sim->lines[line] = level;
    if (sim->kind->bus == SIM_PARALLEL) {
        *sim->now_ns += LINE_NS;
        if (register_clock)
            sim->registers = sim->registers << 1 | (sim->lines[CM_LINE_MOSI] == CM_HIGH);
        sim_drive_parallel(sim, line, level);
        if (line == CM_LINE_A9_ID || line == CM_LINE_VPP)
            sim->kind->line(&sim->model, line, is_low(sim, line));
        return true;
    }
    bool is_i2c = line == CM_LINE_SDA || line == CM_LINE_SCL;
    if (is_i2c != (sim->kind->bus == SIM_TWO_WIRE) && (is_i2c || line <= CM_LINE_MOSI))
        return true; // a wire that this chip does not have
    if (is_i2c) {
        *sim->now_ns += LINE_NS;
        if (line == CM_LINE_SCL && level == CM_RELEASED) {
            if (++sim->clocks % 9 == 0 && !sim_byte_goes_by(sim))
                return false;
            sim_wires_tick(sim);
            sim->rise_ns = *sim->now_ns;
        }
        sim_drive_i2c(sim);
        if (falls && sim_wire_doubles(sim, line))
            double_clock(sim, line, CM_RELEASED);
        return true;
    }
    if (line != CM_LINE_SCK && line != CM_LINE_MOSI) {
        *sim->now_ns += LINE_NS;
        sim->kind->line(&sim->model, line, is_low(sim, line));
    }
    if (line == CM_LINE_SCK) {
        if (level == CM_HIGH) {
            if (++sim->clocks % 8 == 0 && !sim_byte_goes_by(sim))
                return false;
            sim_wires_tick(sim);
            sim->rise_ns = *sim->now_ns;
        }
        sim_drive_clock(sim);
        if (falls && sim_wire_doubles(sim, line))
            double_clock(sim, line, CM_HIGH);
    }
    return true;
}

static enum cm_status sim_line(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    sim_take_call(port->context);
    return drive_line(port->context, line, level) ? CM_OK : CM_CONTACT_LOST;
}

static enum cm_status sim_sense(const struct cm_port *port, enum cm_line line, uint16_t *value)
{
    struct cm_sim *sim = port->context;
    bool shared = line == CM_LINE_SCK || line == CM_LINE_MOSI || line == CM_LINE_MISO ||
                  line == CM_LINE_SELECT;
    if (line == CM_LINE_SUPPLY && sim->bench->chip.seat == SIM_SEAT_TURNED)
        *value = sim_supply_mv(sim->kind, &sim->model) ? SHORTED_MV : 0; // what its diodes leave
    else if (line >= CM_LINE_D0 && line < CM_LINE_A0)
        *value = sim_sense_data(sim, line);
    else if (line == CM_LINE_SDA || line == CM_LINE_SCL)
        *value = sim_sense_i2c(sim, line);
    else if (line == CM_LINE_SUPPLY)
        *value = sim_supply_mv(sim->kind, &sim->model);
    else if (line == CM_LINE_MISO)
        *value =
            sim_through_faults(sim, sim_wire_far(sim, line, sim_near(sim, line)) ? 0xFF : 0x00) & 1;
    else if (shared && sim->lines[line] == CM_RELEASED && neighbour_talks(sim))
        *value = next_noise(sim) & 1;
    else
        *value = !is_low(sim, line);
    return CM_OK;
}

static enum cm_status sim_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    struct cm_sim *sim = port->context;
    uint32_t most = sim->port.traits.clock_max_hz;
    *real_hz = want_hz > most ? most : want_hz;
    sim->half_ns = (1000000000u + 2 * *real_hz - 1) / (2 * *real_hz);
    sim->clock_hz = *real_hz;
    sim->period_ns = (1000000000u + *real_hz - 1) / *real_hz;
    return CM_OK;
}

static enum cm_status sim_supply(const struct cm_port *port, uint16_t mv)
{
    struct cm_sim *sim = port->context;
    const struct sim_bench *bench = sim->bench;
    if (!bench->port.feeds_to_mv ||
        (mv && (mv < bench->port.feeds_from_mv || mv > bench->port.feeds_to_mv)))
        return CM_PORT_LACKS;
    if (bench->chip.supply_mv && mv)
        return CM_PORT_FAILED; // the board has a supply of its own: never both
    if (!sim->faults.no_power && !bench->chip.supply_mv) {
        sim->fed_mv = mv;
        drive_supply(sim);
    }
    return CM_OK;
}

static void sim_wait_us(const struct cm_port *port, uint32_t us)
{
    struct cm_sim *sim = port->context;
    *sim->now_ns += (uint64_t)us * 1000;
    keep_pace(sim);
}

static uint32_t sim_now_us(const struct cm_port *port)
{
    return (uint32_t)cm_sim_time_us(port->context);
}

const struct cm_lines sim_lines = {.line = sim_line,
                                   .sense = sim_sense,
                                   .supply = sim_supply,
                                   .wait_us = sim_wait_us,
                                   .now_us = sim_now_us};
const struct cm_spi sim_spi_bus = {.clock = sim_clock, .shift = sim_shift};
const struct cm_spi sim_spi_frames = {.clock = sim_clock,
                                      .shift = sim_shift,
                                      .frames = sim_frames,
                                      .packed = cm_spi_packed,
                                      .packed_shift = cm_shift_packed};
const struct cm_parallel sim_parallel_bus = {
    .clock = sim_clock, .write = sim_bus_write, .read = sim_bus_read};
