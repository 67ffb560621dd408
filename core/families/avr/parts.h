/* What the files of the AVR family share: the rows of times. */
#ifndef CM_AVR_PARTS_H
#define CM_AVR_PARTS_H

#include <coldmint/avr.h>

extern const struct cm_avr_times cm_avr_times_classic;
extern const struct cm_avr_times cm_avr_times_mega103;
extern const struct cm_avr_times cm_avr_times_early_paged;
extern const struct cm_avr_times cm_avr_times_paged;
extern const struct cm_avr_times cm_avr_times_polled;

#endif
