/*
 * Times of the AVR parts, which avr-libc's headers lack.
 *
 * They are the data sheets' "minimum wait delay before writing the next flash or EEPROM location",
 * t_WD. Where the siblings of a row, or two revisions of one sheet, differ, the longest stands
 * here: waiting longer only costs time, and parts that can be polled say themselves when they are
 * ready.
 */
#include "avr.h"

// AT90S and the first ATtiny: given by supply, 9 ms and 18 ms at 3.2 V, less above; a third more
// for supplies below that.
const struct cm_avr_times cm_avr_times_classic = {.t_wd_flash_us = 12000,
                                                  .t_wd_eeprom_us = 12000,
                                                  .t_wd_fuse_us = 12000,
                                                  .t_wd_erase_us = 24000,
                                                  .starts_over = true,
                                                  .program_bytes = cm_avr_program_bytes,
                                                  .nudge = cm_avr_nudge};

// ATmega103: table "Minimum wait delay", 3.2 V column.
const struct cm_avr_times cm_avr_times_mega103 = {.t_wd_flash_us = 56000,
                                                  .t_wd_eeprom_us = 9000,
                                                  .t_wd_fuse_us = 9000,
                                                  .t_wd_erase_us = 112000,
                                                  .starts_over = true,
                                                  .program_bytes = cm_avr_program_bytes};

// ATmega161, 163, 323: we hold no two sheets that agree (11 to 22 ms a page, 28 ms an erase): the
// longer, doubled for the erase.
const struct cm_avr_times cm_avr_times_early_paged = {.t_wd_flash_us = 22000,
                                                      .t_wd_eeprom_us = 11000,
                                                      .t_wd_fuse_us = 11000,
                                                      .t_wd_erase_us = 56000,
                                                      .starts_over = true,
                                                      .program_bytes = cm_avr_program_bytes};

// ATmega8 to 128, 8515, 8535, 162, ATtiny26. ATmega64 and 128 have 5.0 ms for a page in their early
// sheets.
const struct cm_avr_times cm_avr_times_paged = {.t_wd_flash_us = 5000,
                                                .t_wd_eeprom_us = 9000,
                                                .t_wd_fuse_us = 5000,
                                                .t_wd_erase_us = 10000,
                                                .program_bytes = cm_avr_program_bytes};

// All later ones. 4.5 ms a page, 3.6 to 9.0 ms an EEPROM write, 9.0 ms an erase (10.5 ms in late
// sheets).
const struct cm_avr_times cm_avr_times_polled = {
    .t_wd_flash_us = 4500, .t_wd_eeprom_us = 9000, .t_wd_fuse_us = 4500, .t_wd_erase_us = 10500};
