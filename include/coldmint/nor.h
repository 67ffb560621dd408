/**
 * SPI memories: NOR flash of the 25 series, and what a row of their tables says. Serial EEPROMs
 * (ee25.h) have the same instructions and the same kind of row.
 *
 *     static const struct cm_part *const PARTS[] = {&cm_w25q32.part};
 *     static struct cm_nor_found found; // room for a chip that describes itself by SFDP
 *     static const struct cm_kit KIT = {.family = &cm_nor,
 *                                       .parts = PARTS,
 *                                       .part_count = 1,
 *                                       .found = &found.row.part,
 *                                       .describe = cm_nor_by_sfdp};
 *
 * Region 0, "flash", is the array; region 2, "status", holds the status registers, with busy and
 * write-enable bits read as 0.
 */
#ifndef COLDMINT_NOR_H
#define COLDMINT_NOR_H

#include <coldmint/decls.h>
#include <coldmint/chip.h>

CM_DECLS_BEGIN

struct cm_guard;

extern const struct cm_family cm_nor;
extern const struct cm_about cm_nor_about; /**< what people are told of it (pinout.h) */
extern const struct cm_words cm_nor_words;

enum { CM_NOR_FLASH = 0, CM_NOR_STATUS = 2, CM_NOR_ERASES = 4, CM_NOR_REGISTERS = 3 };

/** An erase instruction. */
struct cm_nor_erase {
    uint32_t bytes;  /**< 0: none */
    uint32_t us;     /**< typical */
    uint32_t max_us; /**< the longest that any data sheet of the row's parts allows */
    uint8_t opcode;
    uint8_t opcode_4; /**< with a 4-byte address always; 0: none */
};

/** Erase instructions that parts share; the smallest first, the whole chip beside them. */
struct cm_nor_erases {
    struct cm_nor_erase units[CM_NOR_ERASES];
    uint8_t chip_opcode;      /**< C7, or another; 0: none */
    uint32_t chip_ms_per_mib; /**< typical */
};

/** Times that parts share. */
struct cm_nor_times {
    uint16_t program_us; /**< a page, a word or a byte: what goes with one instruction; typical */
    uint16_t program_max_us;
    uint32_t status_max_us; /**< writing status registers */
    /** Programs and reads back a run of bytes where that is not by pages: cm_nor_program_words.
     * NULL: by pages. */
    enum cm_status (*program)(struct cm_session *session, uint32_t address, const uint8_t *bytes,
                              uint32_t count);
};

/** Words by auto address increment. For the tables. */
CM_MUST_CHECK enum cm_status cm_nor_program_words(struct cm_session *session, uint32_t address,
                                                  const uint8_t *bytes, uint32_t count);

/**
 * Status registers that parts share. Register 0 is the one with busy and write enable. A register
 * whose write opcode is 01 goes into one frame with register 0; where that does not read back, each
 * is tried alone, by 01, 31 and 11.
 */
struct cm_nor_status {
    uint8_t count;
    uint8_t enable;                  /**< opcode before a write: 06, or 50 */
    uint8_t read[CM_NOR_REGISTERS];  /**< opcodes: 05, 35, 15 */
    uint8_t write[CM_NOR_REGISTERS]; /**< opcodes: 01, 01 or 31, 11; 0: never written here */
    uint8_t kept[CM_NOR_REGISTERS];  /**< bits that are settings; the others are flags that come and
                                        go */
    uint8_t clear;        /**< opcode that clears error flags, which hold the chip busy; 0: none */
    bool ones_while_busy; /**< all of the register reads 1 during a write: just what a loose wire
                             shows */
    bool flag_status;     /**< ready is bit 7 of register 70 (stacked dies) */
};

/** What parts with a lock for each sector do instead: cm_nor_sector_locks. */
struct cm_nor_sector_locks {
    enum cm_status (*look)(struct cm_session *session, struct cm_guard *guard);
    enum cm_status (*lift)(struct cm_session *session, struct cm_guard *guard);
    enum cm_status (*restore)(struct cm_session *session, struct cm_guard *guard);
};
extern const struct cm_nor_sector_locks cm_nor_sector_locks;

/**
 * Block protection that parts share. The bits name an area at the upper end, of `unit` doubled for
 * each step, or at the lower end with TB; their highest value is the whole chip. `unit` is the
 * larger of least_bytes and the chip divided by `fraction`.
 */
struct cm_nor_guard {
    uint8_t bp[4];        /**< masks of BP0, BP1, ... in register 0; 0: none */
    uint8_t fraction;     /**< 64, 4; 0: least_bytes alone */
    uint32_t least_bytes; /**< 65536; 0: fraction alone */
    bool mirrored; /**< the upper half of the values is the lower end: all but what they would name
                      (BP3 of older Macronix parts) */
    bool vague; /**< the sheets' tables differ or are not known here: any bit is taken for the whole
                   chip */
    bool volatile_bits;                          /**< set anew by each power-up */
    const struct cm_nor_sector_locks *by_sector; /**< a lock for each sector (36, 39, 3C); the bits
                                                    show whether some or all are set. NULL: none */
    uint8_t tb_register, tb_mask;
    bool tb_fixed;    /**< TB can be written once only: it is never changed here */
    uint8_t sec_mask; /**< SEC, in register 0: units of 4 KiB instead, 32 KiB at most */
    uint8_t cmp_register, cmp_mask; /**< CMP: all but that area */
    uint8_t lock_mask; /**< SRP0, SRWD, BPL: with WP low the registers are held; 0: none */
    uint8_t srl_register,
        srl_mask; /**< SRP1, SRL: held until the power has been off, or permanently */
    uint8_t wps_register, wps_mask; /**< individual block locks instead of all this */
};

/** How addresses beyond 16 MiB are reached. */
enum cm_nor_wide {
    CM_NOR_NARROW,    /**< there are none */
    CM_NOR_OPCODES_4, /**< instructions with four address bytes always: 13, 12, and those of the
                         erases */
    CM_NOR_B7,        /**< a mode: B7 and E9 */
    CM_NOR_WREN_B7    /**< the same, each after a write enable */
};

/** A part. */
struct cm_nor_part {
    struct cm_part part;
    uint32_t bytes;
    uint32_t clock_hz; /**< of the plain read instruction */
    uint32_t fast_hz;  /**< of all others, the fast read (0B) among them; 0: not known to be more */
    uint16_t page_bytes;   /**< of a program instruction; 2: words by auto address increment; 1:
                              single bytes */
    uint8_t address_bytes; /**< of the plain instructions */
    uint8_t wide;          /**< enum cm_nor_wide */
    bool rewrites;         /**< an EEPROM: no erase, and 0 becomes 1 too */
    bool high_in_opcode;   /**< an EEPROM with address bit 8 in the opcode */
    const struct cm_nor_erases
        *erases; /**< NULL: the chip's own tables (SFDP) tell, or there are none */
    const struct cm_nor_times *times;
    const struct cm_nor_status *status;
    const struct cm_nor_guard *guard; /**< NULL: no block protection */
};

/** Room for a part that is in no table, filled from its SFDP; or by you, for a chip of which you
 * know size and opcodes. */
struct cm_nor_found {
    struct cm_nor_part row;
    struct cm_nor_erases erases;
    struct cm_nor_times times;
};

static inline const struct cm_nor_part *cm_nor_row(const struct cm_part *part)
{
    return (const struct cm_nor_part *)(const void *)part;
}

/** A kit's `describe`: fills its `found`, which lies in a struct cm_nor_found, from the chip's own
 * tables (JESD216). */
CM_MUST_CHECK enum cm_status cm_nor_by_sfdp(struct cm_session *session);

/**
 * Works out what the registers in `guard` protect, without the chip: for registers from a file.
 * Where sectors have locks of their own, and only some were set, all are taken for it: that is the
 * safe side. For parts of both tables.
 */
void cm_nor_guard_mean(const struct cm_part *part, struct cm_guard *guard);

/**
 * Works out the registers that protect just this area (0 bytes: none of it), from those in `guard`;
 * nothing else in them changes, and the chip is not touched: cm_guard_restore writes them.
 * CM_DIFFERS: the part cannot; `guard` then protects the smallest area it can that has all of it.
 */
CM_MUST_CHECK enum cm_status cm_nor_guard_choose(const struct cm_part *part, struct cm_guard *guard,
                                                 uint32_t first, uint32_t bytes);

/** Describes a part that has no tables of its own: pages of 256 bytes, 4 KiB sectors by 20, 64 KiB
 * blocks by D8, one status register. */
void cm_nor_describe_plain(struct cm_nor_found *found, uint32_t bytes);

CM_DECLS_END

#endif
