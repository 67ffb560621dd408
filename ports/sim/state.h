/* The state of a bench on disk: one JSON file, replaced as a whole. */
#ifndef CM_SIM_STATE_H
#define CM_SIM_STATE_H

#include "avr_model.h"
#include "bench.h"

struct sim_state {
    struct avr_model *model;
    struct sim_faults *faults;
    uint64_t *bytes;       /* over the wires */
    uint64_t *fault_bytes; /* the same, since the faults were set */
};

enum sim_state_found { SIM_STATE_NONE, SIM_STATE_LOADED, SIM_STATE_BAD };

/* Folder of a bench's state; to be freed. */
char *sim_state_folder(const char *bench_path);

enum sim_state_found sim_state_load(const char *folder, struct sim_state *state, char *error);
bool sim_state_save(const char *folder, const struct sim_state *state);
bool sim_state_remove(const char *folder);

#endif
