/**
 * SFDP: how a serial flash memory describes itself (JEDEC standard JESD216, "Serial Flash
 * Discoverable Parameters").
 *
 * Two of its tables are read: the basic flash parameters (size, page, erase types and their times,
 * address modes, busy bits) and the 4-byte address instructions. Everything that a chip says is
 * checked against what a memory can be; what it does not say is 0.
 */
#ifndef COLDMINT_SFDP_H
#define COLDMINT_SFDP_H

#include <coldmint/decls.h>
#include <coldmint/status.h>

CM_DECLS_BEGIN

enum { CM_SFDP_ERASES = 4 };

/** An erase type. Unused ones have 0 bytes. */
struct cm_sfdp_erase {
    uint32_t bytes;
    uint32_t typical_us; /**< 0: not told */
    uint32_t max_us;
    uint8_t opcode;
    uint8_t opcode_4; /**< with a 4-byte address always; 0: none */
};

/** How a memory is addressed. */
enum cm_sfdp_addresses { CM_SFDP_ADDRESS_3, CM_SFDP_ADDRESS_3_OR_4, CM_SFDP_ADDRESS_4 };

/** Ways into the 4-byte address mode, as bits; DWORD 16 of the basic table. */
enum cm_sfdp_enter_4 {
    CM_SFDP_B7 = 1,               /**< instruction B7 */
    CM_SFDP_WREN_B7 = 2,          /**< write enable, then B7 */
    CM_SFDP_EXTENDED_ADDRESS = 4, /**< an extended address register, C8 and C5 */
    CM_SFDP_BANK_REGISTER = 8,    /**< a bank register, 16 and 17 */
    CM_SFDP_CONFIGURATION = 16,   /**< a nonvolatile configuration register, B5 and B1 */
    CM_SFDP_OPCODES_4 = 32,       /**< instructions of their own, as in the second table */
    CM_SFDP_ALWAYS_4 = 64
};

/** What the tables say. */
struct cm_sfdp {
    uint8_t major, minor; /**< revision of the basic table */
    uint32_t bytes;
    uint16_t page_bytes;                         /**< 256 where the table is too old to tell */
    struct cm_sfdp_erase erases[CM_SFDP_ERASES]; /**< the smallest first */
    uint8_t addresses;                           /**< enum cm_sfdp_addresses */
    uint8_t enter_4;                             /**< enum cm_sfdp_enter_4 */
    uint8_t read_4;           /**< read with a 4-byte address always, 13; 0: none */
    uint8_t program_4;        /**< page program likewise, 12; 0: none */
    uint8_t enable_status;    /**< write enable for a volatile status register: 06 or 50 */
    bool status_is_volatile;  /**< the block protection bits do not outlive the power */
    bool busy_in_flag_status; /**< ready is bit 7 of the flag status register (70) instead of bit 0
                                 of the status */
    bool resets_by_66_99;
    uint8_t quad_enable; /**< DWORD 15, bits 22 to 20: what holds the quad enable bit */
    uint32_t program_us; /**< a page, typical; 0: not told */
    uint32_t program_max_us;
    uint32_t chip_erase_us; /**< 0: not told */
    uint32_t chip_erase_max_us;
};

/** What is wrong with them. */
enum cm_sfdp_fault {
    CM_SFDP_OK,
    CM_SFDP_ABSENT,    /**< no signature: the memory has none */
    CM_SFDP_UNREAD,    /**< reading failed */
    CM_SFDP_NO_BASIC,  /**< no basic table of a revision that is known */
    CM_SFDP_SHORT,     /**< the basic table is shorter than the first standard's */
    CM_SFDP_SIZE,      /**< a size that no memory has, or more than 2 GiB */
    CM_SFDP_ERASE_TYPE /**< an erase type larger than the memory, or none at all */
};

/** Reads `count` bytes of the tables' own address space, as instruction 5A does. */
typedef enum cm_status cm_sfdp_read_fn(void *context, uint32_t address, uint8_t *bytes,
                                       uint32_t count);

/** Reads the tables. CM_OK, or CM_BAD_IMAGE with the fault; `sfdp` means nothing then. Reads 400
 * bytes at the most. */
CM_MUST_CHECK enum cm_status cm_sfdp_parse(cm_sfdp_read_fn *read, void *context,
                                           struct cm_sfdp *sfdp, enum cm_sfdp_fault *fault);

CM_DECLS_END

#endif
