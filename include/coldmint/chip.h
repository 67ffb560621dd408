/**
 * What a chip is to the engine: regions, and a family's functions to work on them.
 *
 * A family (8-bit AVR over its serial pins, say) is one const struct of functions and a table of
 * parts. A part is one row. A build carries the families and parts that it names in its kit, and no
 * others.
 */
#ifndef COLDMINT_CHIP_H
#define COLDMINT_CHIP_H

#include <coldmint/decls.h>
#include <coldmint/status.h>
#include <stddef.h>

CM_DECLS_BEGIN

struct cm_session;
struct cm_bus;
struct cm_blocks;
struct cm_words;
struct cm_put;
struct cm_put_work;
struct cm_report;
struct cm_guard_rules;

enum { CM_ID_BYTES = 6 /**< longest id of any family */ };

/** What all parts have, at the start of each family's row. */
struct cm_part {
    char name[16]; /**< lower case, as the compiler names it; within the row, so that an unused row
                      takes its name along */
    uint8_t id[CM_ID_BYTES];
    uint8_t id_bytes; /**< 0: the part has no id, and is taken only where it is asked for by name */
    uint16_t supply_min_mv;
    uint16_t supply_max_mv;
};

enum cm_region_trait {
    CM_REGION_WRITABLE = 1, /**< can be programmed */
    CM_REGION_REWRITES = 2, /**< programming sets bits too: no erase needed before */
    CM_REGION_ERASED = 4,   /**< a chip erase clears it */
    CM_REGION_SETTINGS = 8, /**< fuses, lock bits: not contents */
    CM_REGION_BYTE_COSTS =
        16 /**< each byte programmed takes its own time, so equal ones are left out */
};

/** An address space of a chip, from 0 to bytes - 1. */
struct cm_region {
    const char *name;
    uint32_t bytes;
    uint32_t page_bytes; /**< unit of one program call; a power of two */
    uint8_t erased;      /**< value of a blank byte */
    uint8_t traits;      /**< enum cm_region_trait */
};

/** Every family numbers its main array 0 and its data memory, if it has one, 1. */
enum { CM_REGION_MAIN = 0, CM_REGION_DATA = 1 };

/** What stands in the way of a job, read from the chip. */
struct cm_protection {
    bool bars_reading; /**< reads do not give the contents */
    bool bars_writing;
    bool keeps_data;   /**< a chip erase leaves the data region as it is */
    uint8_t lock;      /**< the lock byte as read */
    uint8_t open_lock; /**< the lock byte after a chip erase */
    bool has_lock;
    uint8_t lock_region; /**< where the lock byte is written */
};

/** What is done with bytes of a region. Only CM_ACCESS_READ writes to the caller's bytes. */
enum cm_access_kind {
    CM_ACCESS_READ,
    CM_ACCESS_MATCH, /**< CM_DIFFERS at the first byte that is not equal; the session's failure
                        names it */
    CM_ACCESS_FITS, /**< CM_DIFFERS at the first byte that could not be reached by programming alone
                     */
    CM_ACCESS_PROGRAM /**< within one page: programs and reads back, in one batch; bytes that are
                         not named stay */
};

enum cm_cost { CM_COST_READ, CM_COST_PROGRAM, CM_COST_ERASE };

/** A unit that a memory can erase: aligned to its own size. The whole chip may be the largest. */
struct cm_erase_unit {
    uint32_t bytes;
    uint32_t us; /**< typical time of one */
};

/** What the engine is to do with a put: work out the plan, or do it as well. */
enum cm_put_aim { CM_PUT_PLAN, CM_PUT_DO };

enum { CM_PROOF_BYTES = 16 /**< most bytes of a look along the address wires */ };

/** What memory chips have beyond other families. */
struct cm_memory_rules {
    /** The part is known, for the first time: brings it into the state that the functions below
     * expect. Where it is found anew, `identify` does so. */
    enum cm_status (*settle)(struct cm_session *session);
    /** The units that region 0 is erased by, the smallest first; false beyond the last.
     * cm_no_erase_unit: there are none. */
    bool (*erase_unit)(const struct cm_session *session, uint8_t index, struct cm_erase_unit *unit);
    /** Erases a run of such units; without any proof that they are blank then. NULL where there are
     * no units. */
    enum cm_status (*erase_units)(struct cm_session *session, uint8_t index, uint32_t address,
                                  uint32_t bytes);
    /** Reads the first byte of each piece (a power of two) of an area, one after the other into
     * `bytes`. */
    enum cm_status (*sample)(struct cm_session *session, uint32_t address, uint32_t count,
                             uint32_t piece, uint8_t *bytes);
    /**
     * Of memories whose address is on wires of its own, both of: the engine's look along these
     * wires (cm_along_wires), and what it asks for. `prove` compares `count` bytes (CM_PROOF_BYTES
     * at most, which do not cross a multiple of that) with those at each place that differs from
     * `address` in one bit; `alike` gets these bits where all of them are the same. Such memories
     * are compared once more at the end of each job. NULL: other memories.
     */
    enum cm_status (*along_wires)(struct cm_blocks *work, bool is_after);
    enum cm_status (*prove)(struct cm_session *session, uint32_t address, const uint8_t *bytes,
                            uint32_t count, uint32_t *alike);
    /** The wires alone can answer in the middle of a reading, and nothing in it tells: what reads
     * as dead wires do, all FF or all 00, is compared a second time by this, in other portions, and
     * what differs is read again. cm_match_dead; NULL: other memories. */
    enum cm_status (*match_dead)(struct cm_session *session, uint8_t region, uint32_t address,
                                 uint8_t *bytes, uint32_t count);
    const struct cm_guard_rules
        *guard; /**< protection of areas by registers (guard.h); NULL: none */
};

/**
 * A family's driver. Every function works on a session whose part is known, except `enter` and
 * `identify`. Addresses and counts have been checked against the region by the caller. Failures are
 * left in the session.
 */
struct cm_family {
    const char *name;
    const struct cm_bus *bus;
    uint32_t lines; /**< CM_LINE_BIT of each line that the port must drive, beside the bus */
    /** Brings the chip into its programming mode, trying the ways that an expert would. */
    enum cm_status (*enter)(struct cm_session *session);
    /** Reads the id, twice, into the session; where the part is known already, proves that it is
     * still there. */
    enum cm_status (*identify)(struct cm_session *session);
    /** Lets the target go, whatever state it is in. */
    void (*leave)(struct cm_session *session);
    /** Describes region `index` of a part; false beyond the last. A region that a part lacks has 0
     * bytes. */
    bool (*region)(const struct cm_part *part, uint8_t index, struct cm_region *region);
    /** Reads, compares or programs; see enum cm_access_kind. */
    enum cm_status (*access)(struct cm_session *session, enum cm_access_kind kind, uint8_t region,
                             uint32_t address, uint8_t *bytes, uint32_t count);
    /** Erases the whole chip. NULL: the family erases by units. */
    enum cm_status (*erase)(struct cm_session *session);
    /** Reads what bars reading and writing of the whole chip; NULL: nothing does. */
    enum cm_status (*protection)(struct cm_session *session, struct cm_protection *protection);
    /** Time in microseconds of reading or programming so many bytes (4096 at most), or of an erase,
     * at the session's clock. */
    uint32_t (*cost_us)(struct cm_session *session, uint8_t region, enum cm_cost cost,
                        uint32_t bytes);
    /** The engine that puts images into chips of this family: cm_put_by_chip, cm_put_by_blocks
     * (job.h). */
    enum cm_status (*put)(struct cm_session *session, const struct cm_put *put,
                          struct cm_report *report, enum cm_put_aim aim);
    const struct cm_memory_rules *memory; /**< what memories have beyond that; NULL: not a memory */
};

/** The `match_dead` of memories without any proof in their readings. */
CM_MUST_CHECK enum cm_status cm_match_dead(struct cm_session *session, uint8_t region,
                                           uint32_t address, uint8_t *bytes, uint32_t count);

/** The `along_wires` of memories that have address wires. */
CM_MUST_CHECK enum cm_status cm_along_wires(struct cm_blocks *work, bool is_after);

/** The `erase_unit` of memories that are rewritten without an erase, or cannot be erased here. */
bool cm_no_erase_unit(const struct cm_session *session, uint8_t index, struct cm_erase_unit *unit);

/** `identify` of parts without an id: sets it to 0, and settles the part that was asked for.
 * Without one, cm_identify ends with an unknown chip. */
CM_MUST_CHECK enum cm_status cm_identify_by_name(struct cm_session *session);

/**
 * What carries contents beside the images over an erase (struct cm_carry in job.h): cm_carry_data
 * for chips that are erased as a whole, cm_carry_sectors for memories.
 */
struct cm_carrier {
    /** Of a chip that is erased as a whole: may `bytes` of its data region be carried, and how? */
    bool (*plan)(struct cm_put_work *work, uint32_t bytes);
    /** Reads them, before the erase. */
    enum cm_status (*read)(struct cm_put_work *work);
    /** Of a memory: reads what a unit that is to be erased holds beside the images. */
    enum cm_status (*read_sector)(struct cm_blocks *work, uint32_t start, uint32_t bytes);
};
extern const struct cm_carrier cm_carry_data, cm_carry_sectors;

/** A family with the parts of it that a build carries. */
struct cm_kit {
    const struct cm_family *family;
    const struct cm_part *const *parts;
    uint16_t part_count;
    /** cm_carry_data, cm_carry_sectors; NULL: a job that must carry something over an erase is
     * refused. */
    const struct cm_carrier *carrier;
    const struct cm_words *words; /**< the family's settings in words (settings.h), or NULL */
    struct cm_part
        *found; /**< a row in RAM for a part that is in no table, but tells of itself; or NULL */
    /** Fills `found` from what the chip tells (cm_nor_by_sfdp), and makes it the session's part;
     * NULL: such a chip stays unknown. Called by `identify`. */
    enum cm_status (*describe)(struct cm_session *session);
    /** Finds the fastest clock that a part can follow, where nobody has told the part's own
     * (cm_avr_find_clock). Called by `enter`. NULL: the bus stays at one that suits the slowest of
     *  the usual ones, and is slow for most. */
    enum cm_status (*find_clock)(struct cm_session *session);
};

CM_DECLS_END

#endif
