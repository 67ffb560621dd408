/* Inside of the simulated bench: what its files share. */
#ifndef CM_SIM_INSIDE_H
#define CM_SIM_INSIDE_H

#include "sim.h"

enum { LINE_NS = 125, SHORTED_MV = 700, REGISTER_HALF_NS = 63 };

/* How a wire with a fault stands now. */
struct sim_wire {
    bool active, high;
};

struct cm_sim {
    struct cm_port port;
    struct cm_port_state state;
    struct sim_bench *bench;
    const struct sim_kind *kind;
    union sim_model model;
    const struct cm_part *part;
    uint8_t *cells; /* of a memory, mapped; NULL: an AVR */
    uint32_t cell_bytes;
    uint64_t *now_ns; /* the model's */
    struct sim_faults faults;
    char *folder;
    int lock; /* on it; -1: none */
    uint32_t noise, calls;
    uint64_t bytes, fault_bytes, port_calls;
    uint64_t fault_clocks; /* of the bus, since the faults were set */
    struct sim_wire wires[SIM_WIRE_FAULTS];
    uint16_t fed_mv;    /* the supply at the near end of its wire */
    uint16_t chip_data; /* what a parallel chip puts on the data lines, */
    bool chip_drives;   /* while it does */
    uint64_t period_ns; /* of a parallel bus */
    uint64_t half_ns,
        surplus_ps; /* whole nanoseconds are too long by some; given back between calls */
    uint32_t clock_hz;
    uint32_t clocks;  // made by hand, on a port with lines only
    uint64_t rise_ns; // when the last of them rose
    enum cm_level lines[CM_LINE_END];
    uint32_t registers,
        pin_address; /* shift registers that make address lines, and what the lines show */
    bool contact;
    bool is_in_batch; /* at the far end of a link: its calls cost nothing */
    uint64_t saved_host_ns, save_took_ns, begun_host_ns, begun_ns;
};

/* Level of a line at the end that drives it: the chip's of MISO and of data lines that it drives,
 * the port's of all others. */
bool sim_near(const struct cm_sim *sim, unsigned line);

/* Shows the chip all its lines anew; and SCK alone, with MOSI as it stands. */
void sim_drive_chip(struct cm_sim *sim);
void sim_drive_clock(struct cm_sim *sim);

/* Is there contact, after as many bytes as have passed? */
bool sim_has_contact(const struct cm_sim *sim);

/* Counts a byte, or a cycle, for the faults: contact may go or come back with it. */
void sim_count_byte(struct cm_sim *sim);

/* The same; false where the programmer's own processor starts again in it, and has released every
 * line. */
bool sim_byte_goes_by(struct cm_sim *sim);

/* There is nothing between port and chip that a byte would have to be looked at for. */
bool sim_is_undisturbed(const struct cm_sim *sim);

/* What of a byte comes through. */
uint8_t sim_through_faults(struct cm_sim *sim, uint8_t byte);

/* A call of the port's functions takes its time. */
void sim_take_call(struct cm_sim *sim);

enum cm_status sim_save_now_and_then(struct cm_sim *sim);

/* The host's time, for the pace and for saving. */
uint64_t sim_host_ns(void);

/* port.c: the port's functions on lines and SPI. */
extern const struct cm_lines sim_lines;
extern const struct cm_spi sim_spi_bus, sim_spi_frames; /* byte by byte; many frames in a call */
extern const struct cm_parallel sim_parallel_bus;

/* buses.c: the port's functions on a parallel bus, and the same by lines; I2C. */
enum cm_status sim_bus_write(const struct cm_port *port, uint32_t address, uint16_t data,
                             const struct cm_pulse *pulse);
enum cm_status sim_bus_read(const struct cm_port *port, uint32_t address, uint8_t *bytes,
                            uint32_t count);
void sim_drive_parallel(struct cm_sim *sim, enum cm_line line, enum cm_level level);
uint16_t sim_sense_data(struct cm_sim *sim, enum cm_line line);
void sim_drive_i2c(struct cm_sim *sim);
uint16_t sim_sense_i2c(struct cm_sim *sim, enum cm_line line);

/* contents.c: fills a memory of the new chip from a file that is named relative to the bench file.
 * False with the reason in `error`. */
struct sim_target {
    uint8_t *bytes;
    uint32_t count;
    uint8_t flip; /* XORed to each byte */
};
bool sim_load_contents(const char *bench_path, const char *name, struct sim_target target,
                       char *error);

#endif
