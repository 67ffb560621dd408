/**
 * Where files place their bytes: a linker's addresses, and the regions of a part.
 *
 * A linker counts from a region's base: the flash of many microcontrollers begins at 0x08000000,
 * and the EEPROM of an AVR at 0x810000. Calls of this library count each region from 0. A file that
 * was made for one region alone may count from 0, too.
 */
#ifndef COLDMINT_PLACE_H
#define COLDMINT_PLACE_H

#include <coldmint/chip.h>
#include <coldmint/decls.h>
#include <coldmint/source.h>

CM_DECLS_BEGIN

/** Returns the number of the region of a part whose base is the next at or below a linker's
 * address; -1: none. The address may lie beyond that region's end. */
int cm_region_at(const struct cm_family *family, const struct cm_part *part, uint32_t address);

/** A source in which addresses are a linker's, as contents of one region. */
struct cm_placed {
    struct cm_source inner;
    /** The first address that is the region's, and the last before the next region. */
    uint32_t first, last;
};

/**
 * Shows of `source` what is for region number `index` of a part, its addresses counted from the
 * region's base. What is for other regions is left out; what lies beyond the region's end stays, so
 * that it is found out. A source that has nothing at all in the region counts from 0: then it is
 * returned as it is. `placed` and the source must outlive the result.
 */
struct cm_source cm_place(struct cm_placed *placed, struct cm_source source,
                          const struct cm_family *family, const struct cm_part *part,
                          uint8_t index);

CM_DECLS_END

#endif
