/* What the files of the measuring program share. */
#ifndef CM_MEASURE_H
#define CM_MEASURE_H

#include <sim/sim.h>

/* A new bench with this part; `more` is further YAML. Ends the program where it cannot be set up.
 * measure.c */
struct cm_sim *measured_bench(const char *path, const char *part, unsigned supply_mv,
                              const char *more);

/* SPI memories: measure-memory.c */
void measure_memories(const char *folder);

/* What calls of a port cost: measure-calls.c */
void measure_calls(const char *folder);

/* Memories in sockets and on I2C, and the work on files: measure-rom.c */
void measure_roms(const char *folder);

/* Runs a command with its output thrown away, so many times; the best of them. */
struct run_cost {
    double seconds;
    long kib; /* most of its memory at once */
};
struct run_cost run_cost_of(int tries, const char *const *arguments);

/* Answers from a ledger of a million units: measure-ledger.c */
void measure_ledger(const char *folder);

/* Jobs over a serial line to a probe: measure-link.c */
void measure_links(const char *folder);

/* A probe's board, its processor simulated: measure-board.c */
void measure_board(const char *folder);

#endif
