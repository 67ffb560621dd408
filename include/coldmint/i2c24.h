/**
 * Serial EEPROMs on I2C: the 24 series. They have no id, so cm_identify finds them only by name.
 * cm_scan (raw.h) tells which addresses answer.
 *
 * Give the name of the part that is there. A part with one address byte takes the second address
 * byte of a larger part for data; reading never writes, whatever the name.
 */
#ifndef COLDMINT_I2C24_H
#define COLDMINT_I2C24_H

#include <coldmint/decls.h>
#include <coldmint/chip.h>

CM_DECLS_BEGIN

extern const struct cm_family cm_i2c24;
extern const struct cm_about cm_i2c24_about;

/** Address of the first device, with its address pins low. */
enum { CM_I2C24_DEVICE = 0x50 };

/** A part. */
struct cm_i2c24_part {
    struct cm_part part;
    uint32_t bytes;
    uint16_t page_bytes;
    /** Address bytes behind the device's address. */
    uint8_t address_bytes;
    /** Bit of the device's address where the memory's upper address bits begin. */
    uint8_t block_shift;
    /** At the lowest supply. */
    uint32_t clock_hz;
    /** Longest time of a page write; the sheets have no typical time. */
    uint16_t write_us;
};

static inline const struct cm_i2c24_part *cm_i2c24_row(const struct cm_part *part)
{
    return (const struct cm_i2c24_part *)(const void *)part;
}

CM_DECLS_END

#endif
