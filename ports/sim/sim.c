/*
 * Setting a simulated bench up and taking it down: its chip from the state on disk or factory-new,
 * its port's traits, what is wrong with it.
 */
#include "inside.h"
#include "state.h"
#include <coldmint/coldmint.h>
#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

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

/* A batch at the end of a link takes its time to get there and back, and is one call; there it is
 * interpreted. */
static enum cm_status run_over_link(struct cm_run *run)
{
    struct cm_sim *sim = run->port->context;
    *sim->now_ns += (uint64_t)sim->bench->port.batch_us * 1000;
    sim_take_call(sim);
    sim->is_in_batch = true;
    enum cm_status status = cm_interpret(run);
    sim->is_in_batch = false;
    return status;
}

static void make_port(struct cm_sim *sim)
{
    const struct sim_bench_port *has = &sim->bench->port;
    struct cm_port *port = &sim->port;
    *port = (struct cm_port){.lines = &sim_lines,
                             .context = sim,
                             .state = &sim->state,
                             .run = has->batch_us ? run_over_link : NULL,
                             .traits = traits_of(sim)};
    if (sim->kind->bus == SIM_SPI)
        port->spi = has->only_lines ? &cm_spi_by_lines
                    : has->frames   ? &sim_spi_frames
                                    : &sim_spi_bus;
    port->traits.packs = port->spi == &sim_spi_frames;
    if (sim->kind->bus == SIM_TWO_WIRE)
        port->i2c = &cm_i2c_by_lines;
    if (sim->kind->bus == SIM_PARALLEL) {
        port->spi = has->registers ? &sim_spi_bus : NULL;
        port->parallel = has->registers    ? &cm_parallel_by_registers
                         : has->only_lines ? &cm_parallel_by_lines
                                           : &sim_parallel_bus;
    }
    for (int i = 0; i < CM_LINE_END; i++)
        sim->lines[i] = CM_RELEASED;
}

void cm_sim_pack(struct cm_sim *sim)
{
    if (sim->port.spi == &sim_spi_bus && sim->kind->bus == SIM_SPI)
        sim->port.spi = &sim_spi_frames;
    sim->port.traits.packs = sim->port.spi == &sim_spi_frames;
}

void cm_sim_link(struct cm_sim *sim)
{
    sim->port.run = run_over_link;
    sim->port.traits.packs = true;
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
    sim->contact = sim_has_contact(sim);
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
    if (sim->kind == &sim_m93)
        sim->model.m93.pulled_low = sim->bench->chip.miso_pulled_low;
    sim->half_ns = 2500;
    sim->period_ns = 1000;
    sim->begun_ns = *sim->now_ns;
    sim->begun_host_ns = sim->saved_host_ns = sim_host_ns();
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
    errno = 0;
    if (sim)
        sim->lock = -1;
    if (sim && set_up(sim, bench_path, error)) {
        switch_on(sim);
        return sim;
    }
    int reason = errno;
    if (sim)
        free_all(sim);
    errno = reason;
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

struct i2c24_model *cm_sim_i2c(struct cm_sim *sim)
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
    const struct sim_wire_fault *fault = sim->faults.wires;
    sim->fault_bytes = sim->fault_clocks = 0;
    sim->noise = fault->from * 2654435761u ^ fault->count ^ fault->one_in << 16; // the same again
    apply_faults(sim);
}

bool cm_sim_save(struct cm_sim *sim)
{
    struct sim_state state = state_of(sim);
    uint64_t begun = sim_host_ns();
    bool saved = sim_state_save(sim->folder, &state);
    sim->saved_host_ns = sim_host_ns();
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
