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

static uint64_t host_ns(void)
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
        return !sim->contact || sim->kind->miso((union sim_model *)(uintptr_t)&sim->model);
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
    if (sim->contact)
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
        sim_drive_two_wire(sim);
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

static bool has_contact(const struct cm_sim *sim)
{
    uint64_t lost = sim->faults.contact_lost_after_bytes,
             back = sim->faults.contact_back_after_bytes;
    if (lost == 0 || sim->fault_bytes < lost)
        return true;
    return back != 0 && sim->fault_bytes >= lost + back;
}

/* The programmer's own processor starts again: lines let go, and its boot takes a while. */
bool sim_restarts_now(struct cm_sim *sim)
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
    bool contact = has_contact(sim);
    if (contact != sim->contact) {
        sim->contact = contact;
        sim_drive_chip(sim);
    }
}

uint8_t sim_through_faults(struct cm_sim *sim, uint8_t byte)
{
    if (neighbour_talks(sim))
        byte &= next_noise(sim) | next_noise(sim); // another driver pulls low now and then
    if (sim->faults.flip_every_bytes && sim->fault_bytes % sim->faults.flip_every_bytes == 0)
        return byte ^ (uint8_t)(1u << (sim->fault_bytes / sim->faults.flip_every_bytes % 8));
    return byte;
}

static void keep_pace(struct cm_sim *sim)
{
    if (sim->bench->pace <= 0)
        return;
    double due_ns = (double)(*sim->now_ns - sim->begun_ns) / sim->bench->pace;
    uint64_t gone_ns = host_ns() - sim->begun_host_ns;
    if (due_ns > (double)gone_ns + 1e6) {
        uint64_t left = (uint64_t)due_ns - gone_ns;
        struct timespec pause = {.tv_sec = (time_t)(left / 1000000000u),
                                 .tv_nsec = (long)(left % 1000000000u)};
        nanosleep(&pause, NULL);
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
    uint64_t since = host_ns() - sim->saved_host_ns;
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
    *sim->now_ns += sim->bench->port.call_us * 1000ull;
}

/* Nothing between port and chip that a byte would have to be looked at for. */
bool sim_is_undisturbed(const struct cm_sim *sim)
{
    const struct sim_faults *faults = &sim->faults;
    return sim->contact && !faults->contact_lost_after_bytes && !faults->flip_every_bytes &&
           !faults->restart_every_bytes && !neighbour_talks(sim);
}

static void drive_line(struct cm_sim *sim, enum cm_line line, enum cm_level level);

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
    sim_count_byte(sim);
    if (sim_restarts_now(sim))
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
        drive_line(sim, CM_LINE_SELECT, CM_LOW);
        status = shift_bytes(sim, frames->head, NULL, frames->head_count);
        if (!status && frames->count)
            status = shift_bytes(sim, frames->out, frames->in, frames->count);
        drive_line(sim, CM_LINE_SELECT, CM_HIGH);
    }
    return status;
}

/* --- lines ------------------------------------------------------------------------------- */

static void drive_line(struct cm_sim *sim, enum cm_line line, enum cm_level level)
{
    bool register_clock = line == CM_LINE_SCK && level == CM_HIGH && sim->lines[line] != CM_HIGH;
    sim->lines[line] = level;
    if (sim->kind->bus == SIM_PARALLEL) {
        *sim->now_ns += LINE_NS;
        if (register_clock)
            sim->registers = sim->registers << 1 | (sim->lines[CM_LINE_MOSI] == CM_HIGH);
        sim_drive_parallel(sim, line, level);
        if (line == CM_LINE_A9_ID || line == CM_LINE_VPP)
            sim->kind->line(&sim->model, line, is_low(sim, line));
        return;
    }
    if (line == CM_LINE_SDA || line == CM_LINE_SCL) {
        *sim->now_ns += LINE_NS;
        if (line == CM_LINE_SCL && level == CM_RELEASED) {
            if (++sim->clocks % 9 == 0)
                sim_count_byte(sim);
            sim_wires_tick(sim);
        }
        sim_drive_two_wire(sim);
        return;
    }
    if (line != CM_LINE_SCK && line != CM_LINE_MOSI) {
        *sim->now_ns += LINE_NS;
        sim->kind->line(&sim->model, line, is_low(sim, line));
    }
    if (line == CM_LINE_SCK) {
        if (level == CM_HIGH) {
            if (++sim->clocks % 8 == 0)
                sim_count_byte(sim);
            sim_wires_tick(sim);
        }
        sim_drive_clock(sim);
    }
}

static enum cm_status sim_line(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    sim_take_call(port->context);
    drive_line(port->context, line, level);
    return CM_OK;
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
        *value = sim_sense_two_wire(sim, line);
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

/* --- setting up and taking down ---------------------------------------------------------- */

static uint8_t address_lines_of(uint32_t units)
{
    uint8_t lines = 0;
    while (1u << lines < units)
        lines++;
    return lines;
}

static void add_parallel(const struct cm_sim *sim, struct cm_traits *traits)
{
    const struct sim_bench_port *port = &sim->bench->port;
    bool wide = cm_par_row(sim->part)->traits & CM_PAR_WIDE;
    traits->data_lines = wide ? 16 : 8;
    traits->address_lines = address_lines_of(wide ? sim->cell_bytes / 2 : sim->cell_bytes);
    traits->lines |= (port->registers ? CM_LINE_BIT(CM_LINE_LATCH) : 0) |
                     (port->raises_a9 ? CM_LINE_BIT(CM_LINE_A9_ID) : 0) |
                     (port->raises_vpp ? CM_LINE_BIT(CM_LINE_VPP) : 0);
}

static struct cm_traits traits_of(const struct cm_sim *sim)
{
    const struct sim_bench_port *port = &sim->bench->port;
    const struct sim_kind *kind = sim->kind;
    bool is_spi = kind->bus == SIM_SPI;
    uint32_t spi = CM_LINE_BIT(CM_LINE_SCK) | CM_LINE_BIT(CM_LINE_MOSI),
             lines = kind->lines | (port->only_lines && is_spi ? spi : 0);
    lines |= (port->drives_wp ? CM_LINE_BIT(CM_LINE_WP) : 0) |
             (port->drives_hold ? CM_LINE_BIT(CM_LINE_HOLD) : 0);
    struct cm_traits traits = {
        .lines = lines,
        .senses = lines | (is_spi ? spi | CM_LINE_BIT(CM_LINE_MISO) : 0) |
                  (port->measures_supply ? CM_LINE_BIT(CM_LINE_SUPPLY) : 0),
        .clock_min_hz = port->min_clock_hz,
        .clock_max_hz = port->max_clock_hz ? port->max_clock_hz : kind->max_hz,
        .supply_min_mv = port->feeds_from_mv,
        .supply_max_mv = port->feeds_to_mv,
        .transfer_max = port->transfer_max,
        .call_us = port->call_us,
    };
    if (kind->bus == SIM_PARALLEL)
        add_parallel(sim, &traits);
    return traits;
}

/* A batch at the end of a link takes its time to get there and back; there it is interpreted. */
static enum cm_status run_over_link(struct cm_run *run)
{
    struct cm_sim *sim = run->port->context;
    *sim->now_ns += (uint64_t)sim->bench->port.batch_us * 1000;
    return cm_interpret(run);
}

static const struct cm_lines SIM_LINES = {.line = sim_line,
                                          .sense = sim_sense,
                                          .supply = sim_supply,
                                          .wait_us = sim_wait_us,
                                          .now_us = sim_now_us};
static const struct cm_spi SIM_SPI_BUS = {.clock = sim_clock, .shift = sim_shift};
static const struct cm_spi SIM_SPI_FRAMES = {.clock = sim_clock,
                                             .shift = sim_shift,
                                             .frames = sim_frames,
                                             .packed = cm_spi_packed,
                                             .packed_shift = cm_shift_packed};
static const struct cm_parallel SIM_PARALLEL_BUS = {
    .clock = sim_clock, .write = sim_bus_write, .read = sim_bus_read};

static void make_port(struct cm_sim *sim)
{
    const struct sim_bench_port *has = &sim->bench->port;
    struct cm_port *port = &sim->port;
    *port = (struct cm_port){.lines = &SIM_LINES,
                             .context = sim,
                             .state = &sim->state,
                             .run = has->batch_us ? run_over_link : NULL,
                             .traits = traits_of(sim)};
    if (sim->kind->bus == SIM_SPI)
        port->spi = has->only_lines ? &cm_spi_by_lines
                    : has->frames   ? &SIM_SPI_FRAMES
                                    : &SIM_SPI_BUS;
    port->traits.packs = port->spi == &SIM_SPI_FRAMES;
    if (sim->kind->bus == SIM_TWO_WIRE)
        port->i2c = &cm_i2c_by_lines;
    if (sim->kind->bus == SIM_PARALLEL) {
        port->spi = has->registers ? &SIM_SPI_BUS : NULL;
        port->parallel = has->registers    ? &cm_parallel_by_registers
                         : has->only_lines ? &cm_parallel_by_lines
                                           : &SIM_PARALLEL_BUS;
    }
    for (int i = 0; i < CM_LINE_END; i++)
        sim->lines[i] = CM_RELEASED;
}

void cm_sim_pack(struct cm_sim *sim)
{
    if (sim->port.spi == &SIM_SPI_BUS && sim->kind->bus == SIM_SPI)
        sim->port.spi = &SIM_SPI_FRAMES;
    sim->port.traits.packs = sim->port.spi == &SIM_SPI_FRAMES;
}

void cm_sim_link(struct cm_sim *sim)
{
    sim->port.run = run_over_link;
}

static bool make_new_avr(struct cm_sim *sim, const char *bench_path, char *error)
{
    const struct sim_bench_chip *chip = &sim->bench->chip;
    struct avr_model *model = &sim->model.avr;
    for (unsigned i = 0; i < chip->fuses_count; i++)
        model->fuses[i] = chip->fuses[i];
    if (chip->lock)
        model->lock = *chip->lock;
    return (!chip->flash ||
            sim_load_contents(bench_path, chip->flash,
                              (struct sim_target){model->flash, model->row->flash_bytes, 0},
                              error)) &&
           (!chip->eeprom ||
            sim_load_contents(bench_path, chip->eeprom,
                              (struct sim_target){model->eeprom, model->row->eeprom_bytes, 0},
                              error));
}

static bool make_new_memory(struct cm_sim *sim, const char *bench_path, char *error)
{
    const struct sim_bench_chip *chip = &sim->bench->chip;
    const char *name = chip->flash ? chip->flash : chip->eeprom ? chip->eeprom : chip->eprom;
    if (sim->kind->settle)
        sim->kind->settle(&sim->model, chip);
    return !name ||
           sim_load_contents(bench_path, name,
                             (struct sim_target){sim->cells, sim->cell_bytes, 0xFF}, error);
}

static bool make_new_chip(struct cm_sim *sim, const char *bench_path, char *error)
{
    return sim->cells ? make_new_memory(sim, bench_path, error)
                      : make_new_avr(sim, bench_path, error);
}

static struct sim_state state_of(struct cm_sim *sim)
{
    return (struct sim_state){&sim->model, sim->kind,         sim->part,         &sim->faults,
                              &sim->bytes, &sim->fault_bytes, &sim->fault_clocks};
}

static bool set_up(struct cm_sim *sim, const char *bench_path, char *error)
{
    sim->bench = sim_bench_load(bench_path, error);
    if (!sim->bench)
        return false;
    sim->part = sim_find_part(sim->bench->chip.part, &sim->kind);
    if (!sim->part) {
        snprintf(error, SIM_ERROR_BYTES, "chip.part: no part is called '%s'",
                 sim->bench->chip.part);
        return false;
    }
    sim->now_ns = sim_now_ns(sim->kind, &sim->model);
    sim->folder = sim_state_folder(bench_path);
    sim->faults = sim->bench->faults;
    struct sim_state state = state_of(sim);
    sim->lock = sim->folder ? sim_state_lock(sim->folder, error) : -1;
    if (sim->folder && sim->lock < 0)
        return false;
    bool has_room = sim->folder != NULL;
    if (has_room && sim->kind->init) {
        sim->cell_bytes = sim_memory_bytes(sim->part, sim->kind);
        sim->cells = sim_memory_map(sim->folder, sim->cell_bytes);
        has_room = sim->cells != NULL;
        sim->kind->init(&sim->model, sim->part, sim->cells);
    } else if (has_room) {
        has_room = avr_model_init(&sim->model.avr, cm_avr_row(sim->part));
    }
    if (!has_room) {
        snprintf(error, SIM_ERROR_BYTES, "no room for the chip: %s", strerror(errno));
        return false;
    }
    enum sim_state_found found = sim_state_load(sim->folder, &state, error);
    if (found != SIM_STATE_NONE)
        return found == SIM_STATE_LOADED;
    return make_new_chip(sim, bench_path, error);
}

/* What the faults do to chip and wires at once. */
static void apply_faults(struct cm_sim *sim)
{
    *sim_slow_percent(sim->kind, &sim->model) =
        sim->faults.slow_percent ? sim->faults.slow_percent : 100;
    sim->contact = has_contact(sim);
    sim_wires_begin(sim);
    sim->fed_mv = sim->faults.no_power ? 0 : sim->bench->chip.supply_mv;
    if (sim->kind->mend)
        sim->kind->mend(&sim->model, &sim->faults);
    sim_drive_chip(sim);
}

static void switch_on(struct cm_sim *sim)
{
    if (sim->kind == &sim_avr)
        sim->model.avr.board_hz = sim->bench->chip.board_clock_hz;
    sim->half_ns = 2500;
    sim->period_ns = 1000;
    sim->begun_ns = *sim->now_ns;
    sim->begun_host_ns = sim->saved_host_ns = host_ns();
    make_port(sim);
    apply_faults(sim);
}

static void free_all(struct cm_sim *sim)
{
    if (sim->cells)
        sim_memory_unmap(sim->cells, sim->cell_bytes);
    else if (sim->kind == &sim_avr)
        avr_model_free(&sim->model.avr);
    sim_bench_free(sim->bench);
    if (sim->lock >= 0)
        close(sim->lock);
    free(sim->folder);
    free(sim);
}

struct cm_sim *cm_sim_open(const char *bench_path, char *error)
{
    struct cm_sim *sim = calloc(1, sizeof *sim);
    error[0] = '\0';
    if (sim)
        sim->lock = -1;
    if (sim && set_up(sim, bench_path, error)) {
        switch_on(sim);
        return sim;
    }
    if (sim)
        free_all(sim);
    return NULL;
}

struct cm_port *cm_sim_port(struct cm_sim *sim)
{
    return &sim->port;
}

struct avr_model *cm_sim_model(struct cm_sim *sim)
{
    return sim->kind == &sim_avr ? &sim->model.avr : NULL;
}

struct nor_model *cm_sim_memory(struct cm_sim *sim)
{
    return sim->kind == &sim_nor ? &sim->model.nor : NULL;
}

struct par_model *cm_sim_parallel(struct cm_sim *sim)
{
    return sim->kind->bus == SIM_PARALLEL ? &sim->model.par : NULL;
}

struct i2c24_model *cm_sim_two_wire(struct cm_sim *sim)
{
    return sim->kind == &sim_i2c24 ? &sim->model.i2c24 : NULL;
}

struct m93_model *cm_sim_three_wire(struct cm_sim *sim)
{
    return sim->kind == &sim_m93 ? &sim->model.m93 : NULL;
}

const struct sim_kind *cm_sim_kind(const struct cm_sim *sim)
{
    return sim->kind;
}

const struct cm_part *cm_sim_part(const struct cm_sim *sim)
{
    return sim->part;
}

uint32_t *cm_sim_breaches(struct cm_sim *sim)
{
    return sim_breaches(sim->kind, &sim->model);
}

uint8_t cm_sim_at(const struct cm_sim *sim, uint32_t address)
{
    return sim->kind->at(&sim->model, address);
}

const struct sim_bench *cm_sim_bench(const struct cm_sim *sim)
{
    return sim->bench;
}

struct sim_faults *cm_sim_faults(struct cm_sim *sim)
{
    return &sim->faults;
}

bool cm_sim_grants(const struct cm_sim *sim)
{
    return !sim->faults.no_rights;
}

uint64_t cm_sim_bytes(const struct cm_sim *sim)
{
    return sim->bytes;
}

uint64_t cm_sim_calls(const struct cm_sim *sim)
{
    return sim->port_calls;
}

uint64_t cm_sim_clocks(const struct cm_sim *sim)
{
    return sim->fault_clocks;
}

uint64_t cm_sim_time_us(const struct cm_sim *sim)
{
    return *sim->now_ns / 1000;
}

void cm_sim_restart_faults(struct cm_sim *sim)
{
    sim->fault_bytes = sim->fault_clocks = 0;
    apply_faults(sim);
}

bool cm_sim_save(struct cm_sim *sim)
{
    struct sim_state state = state_of(sim);
    uint64_t begun = host_ns();
    bool saved = sim_state_save(sim->folder, &state);
    sim->saved_host_ns = host_ns();
    sim->save_took_ns = sim->saved_host_ns - begun;
    return saved;
}

bool cm_sim_close(struct cm_sim *sim)
{
    bool saved = cm_sim_save(sim);
    int error = errno;
    free_all(sim);
    errno = error;
    return saved;
}

bool cm_sim_renew(const char *bench_path)
{
    char *folder = sim_state_folder(bench_path);
    bool done = folder && sim_state_remove(folder);
    free(folder);
    return done;
}
