/* A bench as its YAML file describes it. */
#ifndef CM_SIM_BENCH_H
#define CM_SIM_BENCH_H

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

#include "wires.h"

/* How a part sits in its socket. */
enum sim_seat { SIM_SEAT_RIGHT, SIM_SEAT_UP, SIM_SEAT_DOWN, SIM_SEAT_TURNED, SIM_SEAT_EMPTY };

/* The chip on the bench, as it was when new. Members that are 0 or NULL take what the part has by
 * default. */
struct sim_bench_chip {
    char *part;
    uint16_t supply_mv;
    uint32_t board_clock_hz;
    uint8_t *fuses;
    unsigned fuses_count;
    uint8_t *lock; /* one byte, if given */
    char *flash; /* files beside the bench file: Intel HEX, or the raw bytes where the name ends in
                    .bin */
    char *eeprom;
    char *eprom;
    enum sim_seat seat; /* one pin too high or too low, the wrong way round, or nothing there */
    uint8_t *status;    /* status registers of a memory */
    unsigned status_count;
    bool wp_low;                /* the board holds its write protect pin low */
    bool miso_pulled_low;       /* of a 93-series part: MISO has a pull-down, not a pull-up */
    uint16_t neighbour_from_mv; /* in circuit: from this supply on the rest of the board wakes up
                                   and talks on the same wires; 0: never */
};

struct sim_bench_port {
    uint32_t max_clock_hz, min_clock_hz;
    uint16_t feeds_from_mv, feeds_to_mv;
    bool measures_supply;
    bool only_lines; /* no SPI hardware: the core makes the clock itself */
    bool drives_wp;  /* a memory's write protect and hold pins are wired */
    bool drives_hold;
    bool registers;  /* of a parallel memory: the address lines are outputs of shift registers, and
                        everything else lines */
    bool raises_a9;  /* it can put 12 V on A9 */
    bool raises_vpp; /* and the programming voltage on its pin */
    bool frames;     /* SPI: whole frames go in one call, and are packed */
    uint32_t transfer_max; /* most bytes of such a call; 0: any */
    uint16_t call_us;      /* each call takes so much longer: a system call, a USB transfer */
    uint32_t batch_us;     /* each batch takes so much longer: a port at the end of a link */
};

/* What is wrong with the bench; all zero: nothing. */
struct sim_faults {
    uint32_t contact_lost_after_bytes;
    uint32_t contact_back_after_bytes; /* counted from the loss; 0: it stays lost */
    uint32_t flip_every_bytes;
    uint32_t slow_percent;
    uint32_t restart_every_bytes;
    bool no_power;
    bool reset_held;      /* something on the board holds RESET low */
    bool no_rights;       /* the system does not let us use the port */
    uint32_t worn_at;     /* of a memory, less one: an erase leaves the byte here; 0: nowhere */
    uint32_t stuck_at;    /* likewise: bit 0 of it always reads 1 */
    bool registers_stuck; /* its status registers take nothing */
    uint32_t stretch_us;  /* an I2C memory holds SCL for so long behind each byte */
    bool sda_held;        /* it was cut off in the middle of a byte, and holds SDA */
    struct sim_wire_fault wires[SIM_WIRE_FAULTS]; /* single wires */
    uint8_t wire_count;
};

struct sim_bench {
    char *title;
    struct sim_bench_chip chip;
    struct sim_bench_port port;
    struct sim_faults faults;
    char **wires; /* of the faults, as they are written */
    unsigned wires_count;
    double pace; /* simulated seconds a second; 0: as fast as it goes */
};

enum { SIM_ERROR_BYTES = 512 };

/* Reads a bench; NULL with the reason in `error` (SIM_ERROR_BYTES) on failure. */
struct sim_bench *sim_bench_load(const char *path, char *error);
void sim_bench_free(struct sim_bench *bench);

#endif
