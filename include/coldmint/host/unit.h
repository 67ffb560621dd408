/**
 * What each unit gets of its own: a number, a text, a checksum, at places that its recipe names
 * (docs/recipe.md, `unit` and `numbers`). It is joined to the images before anything is written, so
 * that the verify covers it.
 *
 *     eeprom 0x1E0 u32-little number           an integer of 8 to 64 bits
 *     eeprom 0x1E4 text-12 N-{number:6}        a text, filled up with zeros
 *     eeprom 0x1F0 u16-little {site}           a column of the numbers' file
 *     eeprom 0x1F2 crc16-little 0x1E0 to 0x1F1 over what the unit will hold there
 *     eeprom unit_number u32-little number     a symbol of an ELF file of the recipe
 */
#ifndef COLDMINT_HOST_UNIT_H
#define COLDMINT_HOST_UNIT_H

#include <coldmint/decls.h>
#include <coldmint/host/context.h>

CM_DECLS_BEGIN

enum {
    CM_UNIT_SERIES = 40,  /**< most bytes of a series' name */
    CM_UNIT_COLUMNS = 16, /**< most columns of a numbers' file */
    CM_UNIT_VALUE = 64    /**< most bytes of a column's name, and of a value */
};

/** "strike-node 1000 to 1999", or "strike-node from units.csv". */
struct cm_number_range {
    char series[CM_UNIT_SERIES + 1];
    uint64_t first, last;
    /** The file, beside the recipe; empty: there is none. */
    char file[256];
};

/** What is known of the unit at hand. */
struct cm_unit_facts {
    bool has_number;
    uint64_t number;
    /** Columns of the numbers' file, and this unit's values. */
    char names[CM_UNIT_COLUMNS][CM_UNIT_VALUE], values[CM_UNIT_COLUMNS][CM_UNIT_VALUE];
    uint8_t column_count;
};

/** Reads a `numbers` text; false where it is none. */
bool cm_number_range_parse(const char *text, struct cm_number_range *range);

/** Called for each row of a numbers' file, in order; return false to end. */
typedef bool cm_unit_row_fn(void *context, const struct cm_unit_facts *facts);

/**
 * Reads a numbers' file (RFC 4180, the first row names the columns, one is `number`). Errors:
 * CM_ERROR_NUMBERS_FILE (line, detail), and those of files.
 */
CM_MUST_CHECK bool cm_numbers_file_read(struct cm_host *host, const char *path,
                                        cm_unit_row_fn *told, void *context);

CM_DECLS_END

#endif
