/**
 * 8-bit AVR over its serial programming pins (RESET, SCK, MOSI, MISO).
 *
 * Put cm_avr into a kit with the parts that you want:
 *
 *     static const struct cm_part *const parts[] = {&cm_attiny84a.part, ...};     // only these are linked
 *     static const struct cm_kit kit = {&cm_avr, parts, 1};
 *
 * or with all of them: {&cm_avr, cm_avr_all_parts, CM_AVR_PART_COUNT}.
 *
 * Regions: 0 flash, 1 eeprom, 2 fuses (low, high, extended), 3 lock, 4 calibration (read only). Fuses and lock bits are raw
 * bytes; a programmed bit is 0.
 */
#ifndef COLDMINT_AVR_H
#define COLDMINT_AVR_H

#include <coldmint/avr_parts.h>

/** The family's driver. */
extern const struct cm_family cm_avr;

enum cm_avr_region {
    CM_AVR_FLASH = CM_REGION_MAIN,
    CM_AVR_EEPROM = CM_REGION_DATA,
    CM_AVR_FUSES,
    CM_AVR_LOCK,
    CM_AVR_CALIBRATION,
    CM_AVR_REGION_COUNT
};

/** The four readings of "serial programming instruction set" that the data sheets have. */
enum cm_avr_generation {
    CM_AVR_CLASSIC,     /**< flash byte by byte; fuses not over the serial pins, or not alike from part to part */
    CM_AVR_EARLY_PAGED, /**< flash by page; a reset pulse after an erase */
    CM_AVR_PAGED,       /**< EEPROM by byte, fuses, no RDY/BSY instruction */
    CM_AVR_POLLED       /**< Poll RDY/BSY, EEPROM by page */
};

/** Table "Minimum wait delay before writing the next flash or EEPROM location". */
struct cm_avr_times {
    uint16_t t_wd_flash_us;
    uint16_t t_wd_eeprom_us;
    uint16_t t_wd_fuse_us;
    uint32_t t_wd_erase_us;
};

/** A row of the parts table. */
struct cm_avr_part {
    struct cm_part part;
    enum cm_avr_generation generation;
    const struct cm_avr_times *times;
    uint32_t flash_bytes;
    uint16_t flash_page_bytes; /**< 0: byte by byte */
    uint16_t boot_max_bytes;   /**< largest boot section; 0: none */
    uint16_t eeprom_bytes;
    uint8_t eeprom_page_bytes; /**< 0: byte by byte */
    uint8_t calibration_bytes;
    uint8_t fuse_bytes; /**< 0: not over the serial pins */
    uint8_t fuse_default[3];
    uint8_t fuse_mask[3];     /**< bits that have a name; the others are reserved and stay as they are read */
    uint8_t eesave_byte;      /**< the fuse that keeps the EEPROM over a chip erase: its byte, */
    uint8_t eesave_mask;      /**< and its bit; 0: none */
    const char *fuse_bits[3]; /**< names of bits 0 to 7, separated by a blank; "-" is reserved */
};

/** The row of an AVR part, which begins with its struct cm_part. NULL stays NULL. */
static inline const struct cm_avr_part *cm_avr_row(const struct cm_part *part)
{
    return (const struct cm_avr_part *)(const void *)part;
}

#endif
