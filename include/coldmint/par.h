/**
 * Parallel memories: JEDEC flash, EEPROMs of the 28 series, EPROMs of the 27 series. Three families
 * with the same kind of row.
 *
 *     static const struct cm_part *const PARTS[] = {&cm_sst39sf040.part};
 *     static const struct cm_kit KIT = {.family = &cm_par, .parts = PARTS, .part_count = 1};
 *
 * **A parallel flash is asked for its id by writing to it.** An EEPROM in the same socket takes
 * that for data, and changes. So give cm_identify a name where something else than flash may be
 * there. EEPROMs and EPROMs are never asked that way. To find out which flash it is, give the name
 * of any flash: CM_WRONG_CHIP, and the id is in the session.
 *
 * Region 0 ("flash", "eeprom" or "eprom") is the array. Parts with 16 data lines need a bus of 16
 * lines; of each word, the low byte comes first.
 */
#ifndef COLDMINT_PAR_H
#define COLDMINT_PAR_H

#include <coldmint/decls.h>
#include <coldmint/chip.h>
#include <coldmint/port.h>

CM_DECLS_BEGIN

/** JEDEC flash. */
extern const struct cm_family cm_par;
/** EEPROMs. They have no id that can be asked for without harm. */
extern const struct cm_family cm_ee28;
/** EPROMs. The id needs a port that raises A9; programming needs one that has the voltages. */
extern const struct cm_family cm_eprom;
/** What people are told of each (pinout.h). */
extern const struct cm_about cm_par_about, cm_ee28_about, cm_eprom_about;

enum { CM_PAR_UNITS = 3, CM_PAR_BOOT_SECTORS = 4 };

/** A unit that can be erased. */
struct cm_par_erase {
    uint32_t bytes;  /**< 0: none */
    uint32_t us;     /**< typical */
    uint32_t max_us; /**< the longest that the sheet allows */
    uint8_t opcode;  /**< of the last cycle: 30, 50 */
};

/** Erase commands that parts share; the smallest first. */
struct cm_par_erases {
    struct cm_par_erase units[CM_PAR_UNITS];
    uint32_t chip_us; /**< of the whole chip; 0: cannot */
    uint32_t chip_max_us;
    uint8_t boot[CM_PAR_BOOT_SECTORS]; /**< sizes in KiB of the sectors that one end's unit is cut
                                          into, from its lower end on; 0: none */
    bool boot_at_top;
};

/** An access to whole units of a part. */
typedef enum cm_status cm_par_access_fn(struct cm_session *session, enum cm_access_kind kind,
                                        uint32_t address, uint8_t *bytes, uint32_t count);

/** What 16 bits need beside 8. Only rows that name it carry it. */
struct cm_par_words {
    /** Makes accesses to any bytes of accesses to words. */
    enum cm_status (*access)(struct cm_session *session, cm_par_access_fn *access,
                             enum cm_access_kind kind, uint32_t address, uint8_t *bytes,
                             uint32_t count);
    /** As cm_par_sample. */
    enum cm_status (*sample)(struct cm_session *session, uint32_t address, uint32_t count,
                             uint32_t piece, uint8_t *bytes);
};

/** Times, and ways of access, that parts share. The ways by pointers, so that a build carries them
 * only with such a part. */
struct cm_par_times {
    uint32_t program_us; /**< a unit, or a page: typical */
    uint32_t program_max_us;
    struct cm_pulse pulse; /**< shortest write pulse, and pause behind it; an EPROM has its own */
    uint32_t id_us;        /**< from the id's command to the id, and back again */
    /** Of parts of 16 bits; NULL: 8 bits. */
    const struct cm_par_words *words;
    /** Writes by pages, for parts that do; NULL: single units, each unlocked. */
    enum cm_status (*write_pages)(struct cm_session *session, uint32_t address, uint8_t *bytes,
                                  uint32_t count);
};

enum cm_par_trait {
    /** 16 data lines. */
    CM_PAR_WIDE = 1,
    /** A page write clears the bytes of the page that it is not given. */
    CM_PAR_WHOLE_PAGES = 2,
    /** Software data protection: where it is on, three unlock cycles precede each page. */
    CM_PAR_SDP = 4,
    /** Sectors can be locked by 12 V; in id mode address 2 of a sector shows it. */
    CM_PAR_SECTOR_LOCKS = 8,
    /** The lowest `boot_bytes` can be locked permanently; in id mode address 2 shows it. */
    CM_PAR_BOOT_LOCK_LOW = 16,
    /** The highest `boot_bytes`, likewise. */
    CM_PAR_BOOT_LOCK_HIGH = 32,
};

/** A part. */
struct cm_par_part {
    struct cm_part part;
    uint32_t bytes;
    /** Cycle time of the slowest common grade. */
    uint16_t cycle_ns;
    /** Bytes of one write; 1: single units. */
    uint16_t page_bytes;
    /** enum cm_par_trait. */
    uint8_t traits;
    uint16_t boot_bytes;
    /** NULL: no erase. */
    const struct cm_par_erases *erases;
    const struct cm_par_times *times;
    /** Id of an EPROM with A9 at 12 V; 0: not known. */
    uint8_t a9_id[2];
    /** Supply at which an EPROM is programmed; 0: it can only be read. */
    uint16_t program_mv;
};

/** Room for a part that is in no table, but describes itself. */
struct cm_par_found {
    struct cm_par_part row;
    struct cm_par_erases erases;
    struct cm_par_times times;
};

static inline const struct cm_par_part *cm_par_row(const struct cm_part *part)
{
    return (const struct cm_par_part *)(const void *)part;
}

/** For a kit's `describe`: fills its `found`, the `row` of a struct cm_par_found, from the chip's
 * own table (CFI, JESD68.01). Only chips whose sectors have one size. */
CM_MUST_CHECK enum cm_status cm_par_by_cfi(struct cm_session *session);

/**
 * Switches the software data protection of an EEPROM or page flash on, or off. It cannot be read
 * back. cm_put finds out whether a write does something; with `unprotect` it writes in spite of the
 * protection, and leaves it on. CM_BAD_ARGUMENT where the part has none.
 */
CM_MUST_CHECK enum cm_status cm_par_protect(struct cm_session *session);
CM_MUST_CHECK enum cm_status cm_par_unprotect(struct cm_session *session);

CM_DECLS_END

#endif
