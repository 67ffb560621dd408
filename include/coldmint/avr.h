/**
 * 8-bit AVR over its serial programming pins (RESET, SCK, MOSI, MISO).
 *
 * Put cm_avr into a kit with the parts that you want:
 *
 *     static const struct cm_part *const parts[] = {&cm_attiny84a.part}; // linked are only these
 *     static const struct cm_kit kit = {.family = &cm_avr, .parts = parts, .part_count = 1};
 *
 * or with all of them: {.family = &cm_avr, .parts = cm_avr_all_parts, .part_count =
 * CM_AVR_PART_COUNT}.
 *
 * Regions: 0 flash, 1 eeprom, 2 fuses (low, high, extended), 3 lock, 4 calibration (read only).
 * Fuses and lock bits are raw bytes; a programmed bit is 0.
 */
#ifndef COLDMINT_AVR_H
#define COLDMINT_AVR_H

#include <coldmint/decls.h>
#include <coldmint/avr_parts.h>
#include <coldmint/settings.h>

CM_DECLS_BEGIN

/** The family's driver. */
extern const struct cm_family cm_avr;

/** The family's fuses and lock bits in words, for a kit that wants them: {.family = &cm_avr, .words
 * = &cm_avr_words, ...}. */
extern const struct cm_words cm_avr_words;

/** What people are told of the family (pinout.h): `.about = &cm_avr_about`. */
extern const struct cm_about cm_avr_about;

/**
 * For a kit that wants the bus clock found where session.cpu_hz is 0: {.family = &cm_avr,
 * .find_clock = cm_avr_find_clock, ...}. Costs about a tenth of a second, and makes most parts many
 * times as fast. Harmless at any clock: each try begins with a reset pulse, behind which a part
 * listens to Programming Enable and nothing else; where reset pulses do not get through, nothing is
 * tried. Called by the driver.
 */
CM_MUST_CHECK enum cm_status cm_avr_find_clock(struct cm_session *session);

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
    CM_AVR_CLASSIC, /**< flash byte by byte; fuses not over the serial pins, or not alike from part
                       to part */
    CM_AVR_EARLY_PAGED, /**< flash by page; a reset pulse after an erase */
    CM_AVR_PAGED,       /**< EEPROM by byte, fuses, no RDY/BSY instruction */
    CM_AVR_POLLED       /**< Poll RDY/BSY, EEPROM by page */
};

/** How a part's CKSEL and SUT bits are read: the sub-families number their clock sources
 * differently (setting_tables.c). */
enum cm_avr_clock {
    CM_AVR_CLOCK_MEGA48,
    CM_AVR_CLOCK_OLD_MEGA,
    CM_AVR_CLOCK_EARLY,
    CM_AVR_CLOCK_TINY26,
    CM_AVR_CLOCK_TINY13,
    CM_AVR_CLOCK_TINY24,
    CM_AVR_CLOCK_TINY25,
    CM_AVR_CLOCK_TINY261,
    CM_AVR_CLOCK_TINY2313,
    CM_AVR_CLOCK_TINY48,
    CM_AVR_CLOCK_TINY87,
    CM_AVR_CLOCK_TINY441,
    CM_AVR_CLOCK_TINY828,
    CM_AVR_CLOCK_CAN,
    CM_AVR_CLOCK_LCD,
    CM_AVR_CLOCK_USB,
    CM_AVR_CLOCK_USB82,
    CM_AVR_CLOCK_PWM,
    CM_AVR_CLOCK_PWM81,
    CM_AVR_CLOCK_RADIO,
    CM_AVR_CLOCK_BATTERY,
    CM_AVR_CLOCK_COUNT
};

/** How a part's BODLEVEL bits are read. */
enum cm_avr_brown_out {
    CM_AVR_BROWN_OUT_USUAL,
    CM_AVR_BROWN_OUT_TINY25,
    CM_AVR_BROWN_OUT_BODACT,
    CM_AVR_BROWN_OUT_CAN,
    CM_AVR_BROWN_OUT_USB,
    CM_AVR_BROWN_OUT_USB82,
    CM_AVR_BROWN_OUT_PWM,
    CM_AVR_BROWN_OUT_RADIO,
    CM_AVR_BROWN_OUT_COUNT
};

/**
 * Table "Minimum wait delay before writing the next flash or EEPROM location"; and what older parts
 * need beside it, by pointers, so that a build carries it only with such a part (classic.c).
 */
struct cm_avr_times {
    uint16_t t_wd_flash_us;
    uint16_t t_wd_eeprom_us;
    uint16_t t_wd_fuse_us;
    uint32_t t_wd_erase_us;
    bool starts_over; /**< after an erase it wants a RESET pulse and Programming Enable anew */
    /** Programs memories without pages; NULL: it has none. */
    enum cm_status (*program_bytes)(struct cm_session *session, uint8_t region, uint32_t address,
                                    const uint8_t *bytes, uint32_t count);
    /** Brings a part into step by single pulses on SCK; NULL: a RESET pulse does. */
    enum cm_status (*nudge)(struct cm_session *session);
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
    uint8_t fuse_mask[3]; /**< bits that have a name; the others are reserved and stay as they are
                             read */
    uint8_t eesave_byte;  /**< the fuse that keeps the EEPROM over a chip erase: its byte, */
    uint8_t eesave_mask;  /**< and its bit; 0: none */
    uint8_t clock;        /**< enum cm_avr_clock */
    uint8_t brown_out;    /**< enum cm_avr_brown_out */
    const char *fuse_bits[3]; /**< names of bits 0 to 7, separated by a blank; "-" is reserved */
};

/** The row of an AVR part, which begins with its struct cm_part. NULL stays NULL. */
static inline const struct cm_avr_part *cm_avr_row(const struct cm_part *part)
{
    return (const struct cm_avr_part *)(const void *)part;
}

/**
 * For a boot loader on a part without a boot section: makes of the application's reset vector (word
 * 0 of its image) the jump to the loader at byte `loader`, and the application's own jump, which
 * goes into the word before the loader. False, and nothing changed, where the vector is no RJMP,
 * or the part has more flash than that reaches around (8 KiB).
 */
bool cm_avr_lead_reset_to(const struct cm_part *part, uint32_t loader, uint16_t *vector,
                          uint16_t *own_jump);

/** Where word 0 of the flash leads, in bytes. False: it is no RJMP, or the part has more flash than
 * that reaches around (8 KiB). */
bool cm_avr_reset_leads_to(const struct cm_part *part, uint16_t vector, uint32_t *address);

/** Several pages at once (struct cm_strides). */
extern const struct cm_strides cm_avr_strides;

CM_DECLS_END

#endif
