/* Inside of the model of parallel memories: what its two files share. */
#ifndef CM_SIM_PAR_INSIDE_H
#define CM_SIM_PAR_INSIDE_H

#include "par_model.h"

enum { PAR_ALIVE_FROM_MV = 2000 };

/* Counts a breach. */
void par_breached(struct par_model *model, enum par_breach kind);

bool par_is_wide(const struct par_model *model);
uint32_t par_units(const struct par_model *model); /* cycles that it takes to read all of it */
uint32_t par_sector_bytes(const struct par_model *model); /* the smallest that can be erased; all of
                                                             it where there is none */
uint8_t par_sector_of(const struct par_model *model, uint32_t address, uint32_t *start,
                      uint32_t *bytes);                    /* its number, as the locks count */
bool par_has_large_sectors(const struct par_model *model); /* as AMD's parts and those like them */
void par_start_busy(struct par_model *model, uint64_t from_ns, uint64_t us);

/* Does the part take a write there, protected or not, with this supply? What forbids it is counted.
 */
bool par_may_write(struct par_model *model, uint32_t first, uint32_t bytes);

/* One write cycle, at the model's time; and what time alone brings about: a page that is full is
 * written. */
void par_take_cycle(struct par_model *model, uint32_t address, uint16_t data, uint64_t pulse_ns);
void par_catch_up(struct par_model *model);

#endif
