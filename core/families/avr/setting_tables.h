/* The tables of settings in words (setting_tables.c), and what reads them (settings.c). */
#ifndef CM_AVR_SETTING_TABLES_H
#define CM_AVR_SETTING_TABLES_H

#include "parts.h"

/* Start-up tables: what SUT means hangs on the kind of clock. */
enum cm_avr_start {
    START_RC,
    START_CRYSTAL_0, // CKSEL0 = 0: resonators
    START_CRYSTAL_1,
    START_WATCH,     // the watch crystal's cycles are in CKSEL0
    START_WATCH_SUT, // and here in SUT
    START_OLD_RC,
    START_PLL,
    START_PLL_26,
    START_ONE_BIT,
    START_ONE_BIT_0,
    START_ONE_BIT_1,
    START_BATTERY,
    START_COUNT
};

/* The fields in the order in which people look at them; by the stem of their bits' names. NULL
 * choices hang on the part. */
struct cm_avr_field {
    const char *name, *stem;
    const struct cm_choice *const *choices;
};

enum { CM_AVR_FIELD_COUNT = 36, CM_AVR_LOCK_FIELDS = 3 };

extern const struct cm_avr_field cm_avr_fields[CM_AVR_FIELD_COUNT];
extern const struct cm_setting
    cm_avr_lock_settings[CM_AVR_LOCK_FIELDS]; /* their byte is the one after the fuses */
extern const struct cm_choice *const cm_avr_start_choices[START_COUNT][2];
extern const struct cm_choice *const cm_avr_clock_choices[CM_AVR_CLOCK_COUNT][7];
extern const struct cm_choice *const cm_avr_level_choices[CM_AVR_BROWN_OUT_COUNT][4];
extern const struct cm_choice *const cm_avr_level_1_bit[2], *const cm_avr_level_2_bits[2];
extern const struct cm_choice
    *const cm_avr_boot_choices[4][2]; /* by the largest boot section: 1024 << index */

#endif
