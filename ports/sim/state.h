/* The state of a bench on disk: one JSON file, replaced as a whole. */
#ifndef CM_SIM_STATE_H
#define CM_SIM_STATE_H

#include "bench.h"
#include "chip.h"

struct sim_state {
    union sim_model *model;
    const struct sim_kind *kind;
    const struct cm_part *part;
    struct sim_faults *faults;
    uint64_t *bytes;        /* over the wires */
    uint64_t *fault_bytes;  /* the same, since the faults were set; */
    uint64_t *fault_clocks; /* and clocks of the bus */
};

enum sim_state_found { SIM_STATE_NONE, SIM_STATE_LOADED, SIM_STATE_BAD };

/* Folder of a bench's state; to be freed. */
char *sim_state_folder(const char *bench_path);

/*
 * The folder is one process's at a time. Makes it where there is none, and waits for a while where
 * another process has it. -1 with the reason in `error`; else to be closed at the end.
 */
int sim_state_lock(const char *folder, char *error);

enum sim_state_found sim_state_load(const char *folder, struct sim_state *state, char *error);
bool sim_state_save(const char *folder, const struct sim_state *state);
bool sim_state_remove(const char *folder);

/*
 * The cells of a memory chip: a file in the folder, mapped, so that what is programmed stays
 * whatever becomes of the program. Inverted: a hole is blank. NULL with errno set where it cannot
 * be made.
 */
uint8_t *sim_memory_map(const char *folder, uint32_t bytes);
void sim_memory_unmap(uint8_t *memory, uint32_t bytes);

#endif
