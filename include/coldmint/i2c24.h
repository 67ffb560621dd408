/**
 * Serial EEPROMs on a two-wire bus, the 24 series. They have no id: they are taken only where they
 * are asked for by name. What answers on the bus, cm_scan (raw.h) tells.
 *
 * Name the part you have: one with a single address byte takes the second one of a larger part for
 * data. Reading never ends in a write all the same, whatever the name.
 */
#ifndef COLDMINT_I2C24_H
#define COLDMINT_I2C24_H

#include <coldmint/decls.h>
#include <coldmint/chip.h>

CM_DECLS_BEGIN

extern const struct cm_family cm_i2c24;

enum { CM_I2C24_DEVICE = 0x50 /**< address of the first, with its pins low */ };

/** A part. */
struct cm_i2c24_part {
    struct cm_part part;
    uint32_t bytes;
    uint16_t page_bytes;
    uint8_t address_bytes; /**< after the device's own */
    uint8_t
        block_shift;   /**< bit of the device's address that the address bits beyond those go to */
    uint32_t clock_hz; /**< at the lowest supply */
    uint16_t write_us; /**< the longest that a page takes; sheets tell no typical time */
};

static inline const struct cm_i2c24_part *cm_i2c24_row(const struct cm_part *part)
{
    return (const struct cm_i2c24_part *)(const void *)part;
}

CM_DECLS_END

#endif
