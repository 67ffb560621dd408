/*
 * What can be wrong with single wires of a bench, and how it is written.
 *
 *     mosi=low@812+24      from clock 812 of the bus on, for 24 clocks, the chip reads MOSI as low
 *     sck=noise/10000      one clock in 10000 reads at random
 *     mosi=sck@100         from clock 100 on the two are shorted: both are low where one is
 *     sda=ground@812+24    for 24 clocks both ends read low, whatever drives it
 *     sck=low@812+3        a slip: three clocks do not arrive
 *     sck=twice@812+3      a slip: three clocks arrive twice each (SCK and SCL)
 *     all=high@64+8        every signal wire is open, and floats high
 *
 * A clock is one of a serial bus, or one cycle of a parallel one. So a byte is 8 clocks of SPI, and
 * 9 of I2C.
 */
#ifndef CM_SIM_WIRES_H
#define CM_SIM_WIRES_H

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

enum { SIM_WIRE_ALL = 200, SIM_WIRE_FAULTS = 4, SIM_WIRE_TEXT = 64 };

enum sim_reads {
    SIM_READS_LOW,
    SIM_READS_HIGH,
    SIM_READS_NOISE,
    SIM_READS_TWICE,
    SIM_READS_GROUND,
    SIM_READS_OTHER
};

struct sim_wire_fault {
    uint8_t wire;    /* enum cm_line, or SIM_WIRE_ALL */
    uint8_t reads;   /* enum sim_reads */
    uint8_t other;   /* SIM_READS_OTHER: the wire it is shorted to */
    uint32_t from;   /* first clock */
    uint32_t count;  /* clocks; 0: until it is mended */
    uint32_t one_in; /* disturbs one clock in so many; 0: each */
};

/* Reads a fault as it is written above; false where it is none. And writes it so; `text` has
 * SIM_WIRE_TEXT bytes. */
bool sim_wire_parse(const char *text, struct sim_wire_fault *fault);
void sim_wire_print(const struct sim_wire_fault *fault, char *text);

/* Name of a wire, lower case. `text` has 8 bytes. */
const char *sim_wire_name(uint8_t wire, char *text);

struct cm_sim;

/* Will nothing disturb a wire, or mend it, within the next so many clocks? */
bool sim_wires_rest(const struct cm_sim *sim, uint64_t clocks);

/* The wires as they stand before the next clock. */
void sim_wires_begin(struct cm_sim *sim);

/* Counts a clock of the bus. Where a fault begins, ends or makes noise with it, the chip sees its
 * wires anew. */
void sim_wires_tick(struct cm_sim *sim);

/* The same for clocks in which sim_wires_rest has said that nothing happens. */
void sim_wires_pass(struct cm_sim *sim, uint64_t clocks);

/* Level at the far end of a wire that is driven to `near` at its other end. */
bool sim_wire_far(const struct cm_sim *sim, unsigned line, bool near);

/* Does each clock on this line arrive twice now? */
bool sim_wire_doubles(const struct cm_sim *sim, unsigned line);

/* Has the wire no connection now? */
bool sim_wire_is_open(const struct cm_sim *sim, unsigned line);

/* A byte on SPI, bit by bit: whatever happens in the middle of it is seen there. */
uint8_t sim_wires_byte(struct cm_sim *sim, uint8_t out);

#endif
