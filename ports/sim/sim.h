/**
 * The simulating port: a bench from a YAML file, a strict model of its chip, time that belongs to
 * the simulation.
 *
 *     struct cm_sim *sim = cm_sim_open("node.yaml", error);
 *     struct cm_port *port = cm_sim_port(sim);   ... use it like any other ...
 *     cm_sim_close(sim);                         saves the chip's state
 *
 * The state lives in a folder beside the bench file, named like it with ".state" at the end, and
 * outlives the program, as a real chip's does. It is written to a temporary name, synced and
 * renamed, up to four times a second while the chip is worked on.
 */
#ifndef CM_SIM_SIM_H
#define CM_SIM_SIM_H

#include "bench.h"
#include "chip.h"

struct cm_sim;

/** Sets a bench up, from its state if it has one, else new. NULL with the reason in `error`
 * (SIM_ERROR_BYTES) on failure; errno is EBUSY where another process has the bench for longer than
 * we wait: 10 s, or until a signal comes. */
struct cm_sim *cm_sim_open(const char *bench_path, char *error);

/** False where the bench plays a system that does not let us use the port. The port must not be
 * used then. */
bool cm_sim_grants(const struct cm_sim *sim);

/** The port. It belongs to the simulation. */
struct cm_port *cm_sim_port(struct cm_sim *sim);

/** Makes the port one whose calls are expensive: it packs frames (SPI only). */
void cm_sim_pack(struct cm_sim *sim);

/** Makes the port one that takes batches whole, at the far end of a link. */
void cm_sim_link(struct cm_sim *sim);

/** The model, the bench and what is wrong with it now: for tests, and for showing. */
struct avr_model *
cm_sim_model(struct cm_sim *sim); /**< each of these is NULL where the chip is another */
struct nor_model *cm_sim_memory(struct cm_sim *sim);
struct par_model *cm_sim_parallel(struct cm_sim *sim);
struct i2c24_model *cm_sim_i2c(struct cm_sim *sim);
struct m93_model *cm_sim_three_wire(struct cm_sim *sim);
const struct sim_kind *cm_sim_kind(const struct cm_sim *sim);
const struct cm_part *cm_sim_part(const struct cm_sim *sim);
uint32_t *cm_sim_breaches(struct cm_sim *sim); /**< as many as the kind counts */
uint8_t cm_sim_at(const struct cm_sim *sim,
                  uint32_t address); /**< a memory's byte, as a reader sees it */
const struct sim_bench *cm_sim_bench(const struct cm_sim *sim);
struct sim_faults *cm_sim_faults(struct cm_sim *sim);

/** Bytes that have crossed the wires since the bench was new, and its time in microseconds. */
uint64_t cm_sim_bytes(const struct cm_sim *sim);
uint64_t cm_sim_time_us(const struct cm_sim *sim);

/** Calls of the port's functions since the bench was set up; of waiting and of the time not. */
uint64_t cm_sim_calls(const struct cm_sim *sim);

/** Clocks of the bus, or cycles of a parallel one, since the faults were set. */
uint64_t cm_sim_clocks(const struct cm_sim *sim);

/** Counts bytes for the faults anew from here. */
void cm_sim_restart_faults(struct cm_sim *sim);

/** Saves the state now; false with errno set where the folder cannot be written. */
bool cm_sim_save(struct cm_sim *sim);

/** Saves and frees; false where saving failed. */
bool cm_sim_close(struct cm_sim *sim);

/** Throws the state of a bench away: the chip is new again. */
bool cm_sim_renew(const char *bench_path);

#endif
