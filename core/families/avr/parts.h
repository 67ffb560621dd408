/* What the files of the AVR family share: the rows of times, and the facts of a row. */
#ifndef CM_AVR_PARTS_H
#define CM_AVR_PARTS_H

#include <coldmint/avr.h>

extern const struct cm_avr_times cm_avr_times_classic;
extern const struct cm_avr_times cm_avr_times_mega103;
extern const struct cm_avr_times cm_avr_times_early_paged;
extern const struct cm_avr_times cm_avr_times_paged;
extern const struct cm_avr_times cm_avr_times_polled;

/* Bits of fuse byte `index` that have a name; the others are reserved and stay as they are read. */
uint8_t cm_avr_fuse_mask(const struct cm_avr_part *part, uint8_t index);

/* Finds a fuse bit by name: its byte and its mask; false where the part has none. */
bool cm_avr_fuse_bit(const struct cm_avr_part *part, const char *name, uint8_t *index, uint8_t *mask);

#endif
