/* Inside of the model of SPI memories: what its two files share. */
#ifndef CM_SIM_NOR_INSIDE_H
#define CM_SIM_NOR_INSIDE_H

#include "nor_model.h"

enum {
    NOR_SMALL_SECTOR = 4096,
    NOR_BLOCK = 65536,
};

/* Counts a breach. */
void nor_breached(struct nor_model *model, enum nor_breach kind);

/* What the power brings: volatile protection is set, modes are left. */
void nor_power_up(struct nor_model *model);

void nor_start_busy(struct nor_model *model, uint64_t us);
bool nor_has_bit(const struct nor_model *model, uint8_t index, uint8_t mask);
bool nor_any_protected(const struct nor_model *model, uint32_t first, uint32_t bytes);

/* An address as the part takes it: what is beyond its end counts from the beginning. */
uint32_t nor_masked(const struct nor_model *model, uint32_t address);

/* What the frame at hand does when SELECT rises; and the one that ends deep power-down. */
void nor_act(struct nor_model *model);
void nor_wake(struct nor_model *model);

#endif
