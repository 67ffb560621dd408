/* Inside of the model of AVRs: what its two files share. */
#ifndef CM_SIM_AVR_INSIDE_H
#define CM_SIM_AVR_INSIDE_H

#include "avr_model.h"

enum { AVR_ENABLE_AFTER_US = 20000, AVR_WORDS_64K_BYTES = 0x20000 };

/* t_WD in microseconds. */
struct avr_busy {
    uint32_t flash, eeprom, fuse, erase;
};
const struct avr_busy *avr_busy_times(const struct avr_model *model);
void avr_start_busy(struct avr_model *model, uint32_t us);

/* Counts a breach. */
void avr_breached(struct avr_model *model, enum avr_breach kind);

/* Does the part take a write, with its lock bits and this supply? What forbids it is counted. */
bool avr_may_write(struct avr_model *model);

/* The addresses that the instruction at hand names. */
uint32_t avr_word_address(struct avr_model *model);
uint32_t avr_eeprom_address(struct avr_model *model);

bool avr_has_fuses(const struct avr_model *model);

/* The fourth byte of an instruction has come: does what it asks for. */
void avr_complete(struct avr_model *model);

#endif
