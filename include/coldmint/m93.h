/**
 * Serial EEPROMs of the 93 series (three wires). They have no id, so cm_identify finds them only
 * by name; the name also says how they are organised, in bytes or in words of 16 bits. Of a word,
 * the low byte comes first. SELECT is active high.
 *
 * A bus on which nothing answers looks like such a part that is ready. Leave the kit out where
 * cm_identify is called without a name.
 */
#ifndef COLDMINT_M93_H
#define COLDMINT_M93_H

#include <coldmint/decls.h>
#include <coldmint/chip.h>

CM_DECLS_BEGIN

extern const struct cm_family cm_m93;
extern const struct cm_about cm_m93_about;

/** A part in one organisation. */
struct cm_m93_part {
    struct cm_part part;
    uint16_t bytes;
    uint8_t address_bits;
    uint8_t word_bytes;
    uint32_t clock_hz; /**< at the lowest supply */
    uint16_t write_us; /**< typical */
    uint16_t write_max_us;
    bool reads_on; /**< behind a word comes the next, as long as SELECT is high */
};

static inline const struct cm_m93_part *cm_m93_row(const struct cm_part *part)
{
    return (const struct cm_m93_part *)(const void *)part;
}

CM_DECLS_END

#endif
