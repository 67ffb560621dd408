/**
 * Serial EEPROMs of three wires, the 93 series. They have no id: they are taken only where they are
 * asked for by name, which also says how they are organised, by bytes or by words of 16 bits.
 * SELECT is active high here. A bus on which nothing answers looks like such a part that is ready:
 * leave the kit out where cm_identify is given no name. Of words the low byte comes first.
 */
#ifndef COLDMINT_M93_H
#define COLDMINT_M93_H

#include <coldmint/decls.h>
#include <coldmint/chip.h>

CM_DECLS_BEGIN

extern const struct cm_family cm_m93;

/** A part in one organisation. */
struct cm_m93_part {
    struct cm_part part;
    uint16_t bytes;
    uint8_t address_bits;
    uint8_t word_bytes;
    uint32_t clock_hz; /**< at the lowest supply */
    uint16_t write_us; /**< typical */
    uint16_t write_max_us;
};

static inline const struct cm_m93_part *cm_m93_row(const struct cm_part *part)
{
    return (const struct cm_m93_part *)(const void *)part;
}

CM_DECLS_END

#endif
