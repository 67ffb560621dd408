/*
 * A family that nobody makes, as proof of what a family's shape carries: a microcontroller whose
 * flash begins at 0x08000000 and is erased by pages; a read-out level that only a mass erase opens;
 * 16 bytes of option settings with an erase of their own; and a bus like no other.
 */
#ifndef CM_TEST_CHIME_H
#define CM_TEST_CHIME_H

#include <coldmint/coldmint.h>

extern const struct cm_family chime;
extern const struct cm_words chime_words;
extern const struct cm_about chime_about;
extern const struct cm_part chime_part;

enum chime_region { CHIME_FLASH, CHIME_NO_DATA, CHIME_OPTIONS, CHIME_LEVEL, CHIME_REGIONS };
enum {
    CHIME_FLASH_BYTES = 16384,
    CHIME_UNIT = 1024,
    CHIME_PAGE = 64,
    CHIME_OPTION_BYTES = 16,
    CHIME_LEVEL_OPEN = 0xFF
};

/* The chip, and the port that it hangs on. */
struct chime_model {
    uint8_t flash[CHIME_FLASH_BYTES], options[CHIME_OPTION_BYTES], level;
    uint8_t key;              /* of this power-up, that each change must name */
    uint64_t now_us, busy_us; /* time, and when the change at hand ends */
    unsigned writes, page_erases, option_erases, mass_erases;
    unsigned breaches;          /* writes while busy or protected, pages not blank, wrong keys */
    uint32_t bytes;             /* that have crossed the wires */
    uint32_t broken_at, broken; /* from this byte on, so many read FF and arrive as FF */
    uint8_t frame[16 + CHIME_PAGE]; /* bytes of the frame at hand, as the chip has them */
    uint32_t at;                    /* in the frame */
    bool selected, accepted;
    struct cm_port_state state;
    struct cm_port port;
};

/* A new chip: all blank. */
void chime_model_begin(struct chime_model *model);

#endif
