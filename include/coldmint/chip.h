/**
 * What a chip is to the engine: regions, and a family's functions to work on them.
 *
 * A family (8-bit AVR over its serial pins, say) is one const struct of functions and a table of parts. A part is one row. A
 * build carries the families and parts that it names in its kit, and no others.
 */
#ifndef COLDMINT_CHIP_H
#define COLDMINT_CHIP_H

#include <coldmint/status.h>
#include <stddef.h>

struct cm_session;
struct cm_words;

/** What all parts have, at the start of each family's row. */
struct cm_part {
    char name[16]; /**< lower case, as the compiler names it; within the row, so that an unused row takes its name along */
    uint8_t id[4];
    uint8_t id_bytes;
    uint16_t supply_min_mv;
    uint16_t supply_max_mv;
};

enum cm_region_trait {
    CM_REGION_WRITABLE = 1,   /**< can be programmed */
    CM_REGION_REWRITES = 2,   /**< programming sets bits too: no erase needed before */
    CM_REGION_ERASED = 4,     /**< a chip erase clears it */
    CM_REGION_SETTINGS = 8,   /**< fuses, lock bits: not contents */
    CM_REGION_BYTE_COSTS = 16 /**< each byte programmed takes its own time, so equal ones are left out */
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
    CM_ACCESS_MATCH,  /**< CM_DIFFERS at the first byte that is not equal; the session's failure names it */
    CM_ACCESS_FITS,   /**< CM_DIFFERS at the first byte that could not be reached by programming alone */
    CM_ACCESS_PROGRAM /**< within one page: programs and reads back, in one batch; bytes that are not named stay */
};

enum cm_cost { CM_COST_READ, CM_COST_PROGRAM, CM_COST_ERASE };

/**
 * A family's driver. Every function works on a session whose part is known, except `enter` and `identify`. Addresses and counts
 * have been checked against the region by the caller. Failures are left in the session.
 */
struct cm_family {
    const char *name;
    /** Brings the chip into its programming mode, trying the ways that an expert would. */
    enum cm_status (*enter)(struct cm_session *session);
    /** Reads the id, twice, into the session; where the part is known already, proves that it is still there. */
    enum cm_status (*identify)(struct cm_session *session);
    /** Lets the target go, whatever state it is in. */
    void (*leave)(struct cm_session *session);
    /** Describes region `index` of a part; false beyond the last. A region that a part lacks has 0 bytes. */
    bool (*region)(const struct cm_part *part, uint8_t index, struct cm_region *region);
    /** Reads, compares or programs; see enum cm_access_kind. */
    enum cm_status (*access)(struct cm_session *session, enum cm_access_kind kind, uint8_t region, uint32_t address, uint8_t *bytes,
                             uint32_t count);
    enum cm_status (*erase)(struct cm_session *session);
    enum cm_status (*protection)(struct cm_session *session, struct cm_protection *protection);
    /** Time in microseconds of reading or programming so many bytes (4096 at most), or of an erase, at the session's clock. */
    uint32_t (*cost_us)(struct cm_session *session, uint8_t region, enum cm_cost cost, uint32_t bytes);
};

/** A family with the parts of it that a build carries. */
struct cm_kit {
    const struct cm_family *family;
    const struct cm_part *const *parts;
    uint16_t part_count;
    const struct cm_words *words; /**< the family's settings in words (settings.h), or NULL */
};

#endif
