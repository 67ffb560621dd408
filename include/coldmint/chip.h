/**
 * Chips: what the engine knows of a part, and what a family's driver does.
 *
 * A *family* (8-bit AVR, SPI flash, ...) is one const struct of functions and a table of parts. A
 * *part* is one row of that table. A *kit* names a family and those of its parts that a program
 * knows; nothing else is linked. docs/adding-a-family.md tells how to add one.
 */
#ifndef COLDMINT_CHIP_H
#define COLDMINT_CHIP_H

#include <coldmint/batch.h>
#include <coldmint/decls.h>
#include <coldmint/status.h>
#include <stddef.h>

CM_DECLS_BEGIN

struct cm_session;
struct cm_bus;
struct cm_blocks;
struct cm_words;
struct cm_about;
struct cm_put;
struct cm_put_work;
struct cm_report;
struct cm_guard_rules;
struct cm_lifter;

/** Longest id of any family, in bytes. */
enum { CM_ID_BYTES = 6 };

/** What every part has: the first member of each family's row. */
struct cm_part {
    /** Lower case, as the compiler names the part. */
    char name[16];
    uint8_t id[CM_ID_BYTES];
    /** 0: the part has no id, and is found only by its name. */
    uint8_t id_bytes;
    uint16_t supply_min_mv;
    uint16_t supply_max_mv;
};

enum cm_region_trait {
    /** Can be programmed. */
    CM_REGION_WRITABLE = 1,
    /** Programming changes bits in both directions: no erase is needed. */
    CM_REGION_REWRITES = 2,
    /** Fuses, lock bits, registers, option bytes: no contents. */
    CM_REGION_SETTINGS = 4,
    /** Each byte takes its own time to program, so equal bytes are left out. */
    CM_REGION_BYTE_COSTS = 8
};

/** An address space of a chip. Calls count its bytes from 0. */
struct cm_region {
    const char *name;
    /** Where a linker places its first byte: files may count from here (cm_region_at). */
    uint32_t base;
    uint32_t bytes;
    /** Unit of one program call; a power of two that divides `bytes`. */
    uint32_t page_bytes;
    /** Value of a blank byte. */
    uint8_t erased;
    /** enum cm_region_trait. */
    uint8_t traits;
};

/** In every family the main array is region 0, and the data memory, if there is one, region 1. */
enum { CM_REGION_MAIN = 0, CM_REGION_DATA = 1 };

/** A region in a mask of regions. */
#define CM_REGION_BIT(index) (1u << (index))

/** What an access does with the bytes of a region: what an exchange that reads does with its data.
 */
enum cm_access_kind {
    CM_ACCESS_READ = CM_DATA_IN,
    /** CM_DIFFERS at the first byte that is not equal. */
    CM_ACCESS_MATCH = CM_DATA_MATCH,
    /** The same for bytes that were read before: equal ones are expected. */
    CM_ACCESS_AGAIN = CM_DATA_MATCH | CM_AGAIN,
    /** CM_DIFFERS at the first byte that programming alone cannot make right. */
    CM_ACCESS_FITS = CM_DATA_FITS,
    /** Within one page: programs and reads back. Bytes beside those that are given keep their
       value. */
    CM_ACCESS_PROGRAM = CM_DATA_OUT
};

/** An access to a region. */
struct cm_access {
    /** enum cm_access_kind. */
    uint8_t kind;
    uint8_t region;
    uint32_t address;
    union {
        /** The bytes to compare or to program. */
        const uint8_t *out;
        /** CM_ACCESS_READ: where the bytes go. */
        uint8_t *in;
    };
    uint32_t count;
};

enum cm_cost { CM_COST_READ, CM_COST_PROGRAM };

/** A unit of a region that one instruction erases, aligned to its own size. The largest may be the
 * whole region, or the whole chip. */
struct cm_erase_unit {
    uint32_t bytes;
    /** Typical time of one erase. */
    uint32_t us;
    /** The regions that it clears: CM_REGION_BIT of each. Of an erase of the whole chip these are
     * several; the chip's own settings may keep some of them (struct cm_guard, `clears`). */
    uint8_t clears;
};

/** What a family's `put` does: only plan the job, or do it. */
enum cm_put_aim { CM_PUT_PLAN, CM_PUT_DO };

/** Most bytes that `prove` compares. */
enum { CM_PROOF_BYTES = 16 };

/** What cm_put_by_blocks asks a family for, beside what all families have. */
struct cm_blocks_rules {
    /** Reads the first byte of each piece of an area into `bytes`, one behind the other. `piece` is
     * a power of two. Not called for regions of settings. */
    enum cm_status (*sample)(struct cm_session *session, uint8_t region, uint32_t address,
                             uint32_t count, uint32_t piece, uint8_t *bytes);
    /** For memories with address lines of their own, or without an id; NULL for others. A look for
     * an address line that is open, or that the chip does not have: cm_look_before_change with
     * cm_look_after_changes; or, for serial memories that are written over, cm_try_first alone,
     * which writes the first bytes that change, and takes them back where they appear at another
     * address as well (CM_WRONG_CHIP; the failure's address is the size that the chip seems to
     * have). Such memories are compared once more at the end of a job. */
    enum cm_status (*before_change)(struct cm_blocks *work);
    enum cm_status (*after_changes)(struct cm_blocks *work);
    /** For memories with protection in registers that a misread instruction can write; NULL for
     * others. Called at the end of every job, with what it ends with, and returns that or worse:
     * cm_settle_registers puts them back as they were, and cm_settle_registers_always where the job
     * has failed of it, too. Or for small memories on buses without an echo, with cm_sum_rest in
     * `before_change`: cm_match_rest. */
    enum cm_status (*settle)(struct cm_blocks *work, enum cm_status status);
    /** Compares `count` bytes (CM_PROOF_BYTES at most, within a multiple of that) with those at
     * each address that differs in one bit; `alike` gets the bits where they are the same. NULL: by
     * reading, from the bits on that lead to other pages. */
    enum cm_status (*prove)(struct cm_session *session, uint32_t address, const uint8_t *bytes,
                            uint32_t count, uint32_t *alike);
    /** For memories whose readings do not prove that the chip answers; NULL for others.
     * cm_match_dead: bytes that an open wire reads as (FF or 00) are compared a second
     * time, in other portions. */
    enum cm_status (*match_dead)(struct cm_session *session, uint8_t region, uint32_t address,
                                 uint8_t *bytes, uint32_t count);
    /** Can this port program the part (a voltage, a pace)? Asked behind each plan that writes, so
     * that nothing is erased first. NULL: each port that reads it can. */
    enum cm_status (*can_program)(struct cm_session *session);
    /** A reading that is misread may write (I2C: a START that is not seen makes data of what
     * follows). Then cm_keep does not end well after a moment of bad contact. */
    bool obeys_reads;
};

/**
 * A family's driver. All functions but `enter` and `identify` work on a session with a known part;
 * the caller has checked addresses and counts. Failures are recorded in the session. Members that
 * are NULL have the default that their comment says.
 */
struct cm_family {
    const char *name;
    /** The bus of all its batches. */
    const struct cm_bus *bus;
    /** CM_LINE_BIT of each line that the port must drive, beside the bus. */
    uint16_t lines;
    /** Bytes of the family's own state, `session->state`: at the start of the workspace, zero when
     * cm_identify begins. */
    uint8_t state_bytes;

    /** Enters programming mode; tries slower clocks and other ways before it gives up. */
    enum cm_status (*enter)(struct cm_session *session);
    /** Reads the id twice, into the session. Where the part is known already: checks that it is
     * still there. */
    enum cm_status (*identify)(struct cm_session *session);
    /** Called once when the part has been identified: makes the chip ready for the functions below.
     * When the chip is found again after lost contact, `identify` does so. NULL: it is ready. */
    enum cm_status (*settle)(struct cm_session *session);
    /** Releases the target; safe in any state. */
    void (*leave)(struct cm_session *session);

    /** Describes region number `index` of a part; false beyond the last. A region that a part does
     * not have has 0 bytes. */
    bool (*region)(const struct cm_part *part, uint8_t index, struct cm_region *region);
    /** Describes erase unit number `index` of a region, the smallest first; false beyond the last.
     * NULL: nothing is erased. */
    bool (*erase_unit)(const struct cm_part *part, uint8_t region, uint8_t index,
                       struct cm_erase_unit *unit);
    /** Reads, compares or programs. */
    enum cm_status (*access)(struct cm_session *session, const struct cm_access *access);
    /** Erases one unit, number `unit` of the region's, without a check that it is blank afterwards.
     * NULL: as `erase_unit`. */
    enum cm_status (*erase)(struct cm_session *session, uint8_t region, uint8_t unit,
                            uint32_t address);
    /** Time in microseconds to read or program `count` bytes (4096 at most) at the session's clock.
     * For predictions. */
    uint32_t (*cost_us)(struct cm_session *session, uint8_t region, enum cm_cost cost,
                        uint32_t bytes);
    /** Protection: lock bits, registers, read-out levels (guard.h). NULL: there is none. */
    const struct cm_guard_rules *guard;
    /** The engine of cm_plan and cm_put: cm_put_by_chip or cm_put_by_blocks (job.h). */
    enum cm_status (*put)(struct cm_session *session, const struct cm_put *put,
                          struct cm_report *report, enum cm_put_aim aim);
    /** With cm_put_by_blocks: what that asks for beside. */
    const struct cm_blocks_rules *blocks;
};

/** For `match_dead`. */
CM_MUST_CHECK enum cm_status cm_match_dead(struct cm_session *session, uint8_t region,
                                           uint32_t address, uint8_t *bytes, uint32_t count);

/** For `before_change` and `after_changes`. */
CM_MUST_CHECK enum cm_status cm_look_before_change(struct cm_blocks *work);
CM_MUST_CHECK enum cm_status cm_look_after_changes(struct cm_blocks *work);
CM_MUST_CHECK enum cm_status cm_try_first(struct cm_blocks *work);
CM_MUST_CHECK enum cm_status cm_sum_rest(struct cm_blocks *work);
CM_MUST_CHECK enum cm_status cm_match_rest(struct cm_blocks *work, enum cm_status status);
CM_MUST_CHECK enum cm_status cm_settle_registers(struct cm_blocks *work, enum cm_status status);
CM_MUST_CHECK enum cm_status cm_settle_registers_always(struct cm_blocks *work,
                                                        enum cm_status status);

/** For `identify`, where parts have no id: takes the part that was asserted. Without a name
 * cm_identify fails with CM_UNKNOWN_CHIP. */
CM_MUST_CHECK enum cm_status cm_identify_by_name(struct cm_session *session);

/** Code that carries bytes over an erase (struct cm_carry in job.h). */
struct cm_carrier {
    /** Chips that are erased as a whole: can `bytes` of the data region be carried, and how? */
    bool (*plan)(struct cm_put_work *work, uint32_t bytes);
    /** Reads them before the erase. */
    enum cm_status (*read)(struct cm_put_work *work);
    /** Memories: reads what a unit that will be erased holds beside the images. */
    enum cm_status (*read_sector)(struct cm_blocks *work, uint32_t start, uint32_t bytes);
};

/** cm_carry_data for chips that are erased as a whole; cm_carry_sectors for memories. */
extern const struct cm_carrier cm_carry_data, cm_carry_sectors;

/** Code that takes several pages at once, of chips that are erased as a whole: for ports that run
 * whole batches, each of which costs time of its own. */
struct cm_strides {
    /** cm_stride_pages. */
    enum cm_status (*before)(struct cm_put_work *work);
    /** Compares the first byte of each of so many pages, in one batch: CM_DIFFERS at the first that
     * is not equal. */
    enum cm_status (*match_starts)(struct cm_session *session, uint8_t region, uint32_t address,
                                   const uint8_t *bytes, uint32_t pages);
};
CM_MUST_CHECK enum cm_status cm_stride_pages(struct cm_put_work *work);

/** A family with those of its parts that a program knows. Members that are NULL are not linked. */
struct cm_kit {
    const struct cm_family *family;
    const struct cm_part *const *parts;
    uint16_t part_count;
    /** NULL: a job that must carry bytes over an erase is refused. */
    const struct cm_carrier *carrier;
    /** NULL: page by page, also where the port runs whole batches. */
    const struct cm_strides *strides;
    /** The family's settings in words (settings.h). */
    const struct cm_words *words;
    /** What people are told of the family (pinout.h). */
    const struct cm_about *about;
    /** A row in RAM for a part that is in no table and describes itself. */
    struct cm_part *found;
    /** Fills `found` from the chip's own tables and makes it the session's part: cm_nor_by_sfdp,
     * cm_par_by_cfi. NULL: such a chip is unknown. */
    enum cm_status (*describe)(struct cm_session *session);
    /** Finds the fastest bus clock that the part can follow: cm_avr_find_clock. NULL: where
     * `cpu_hz` is not set, the clock is one that suits most parts, and slow. */
    enum cm_status (*find_clock)(struct cm_session *session);
};

CM_DECLS_END

#endif
