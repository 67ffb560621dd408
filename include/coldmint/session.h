/**
 * A session: one chip behind one port, from open to close.
 *
 *     struct cm_session s;
 *     cm_open(&s, &port, &kit, 1, workspace, sizeof workspace);
 *     if (cm_identify(&s, "attiny84a") == CM_OK) ...cm_put, cm_read, ...
 *     cm_close(&s);
 *
 * The first group is all that most programs need beside job.h. The second reads and changes single
 * regions; it checks nothing but bounds, so look at what protection says first.
 */
#ifndef COLDMINT_SESSION_H
#define COLDMINT_SESSION_H

#include <coldmint/decls.h>
#include <coldmint/batch.h>
#include <coldmint/chip.h>
#include <coldmint/port.h>

CM_DECLS_BEGIN

struct cm_carry;

enum { CM_BATCH_OPS = 11 /**< longest batch that a driver builds */ };

/** A batch in the making, with the place that it belongs to, so that any failure can name it. */
struct cm_batch {
    uint8_t count;
    uint8_t
        verify; /**< index of the first op whose mismatch means that a write failed; 0xFF: none */
    uint8_t proof;      /**< index of the first op whose mismatch means lost contact; 0xFF: none */
    uint8_t step;       /**< enum cm_step */
    uint8_t unanswered; /**< enum cm_status: what a check that fails means, or a NACK */
    const char *region;
    uint32_t address;
    struct cm_op ops[CM_BATCH_OPS];
};

/**
 * All the state there is. The caller's; it must outlive the session, and so must port, kits and
 * workspace. Bytes come first, for small processors reach those near the beginning in less code.
 */
struct cm_session {
    /** Not 0: since the job at hand began something may have been changed that was not to be. */
    uint8_t doubts;
    uint8_t segment; /**< extended address byte that the chip holds */
    bool segment_known;
    uint8_t id_way; /**< of a memory: which of the id instructions it answers */
    /** Of a two-wire memory: its address, if not 0; else the first of 50 to 57 that answers. Set it
     * after cm_open. */
    uint8_t device;
    uint8_t kit_count;
    uint8_t neighbour;  /**< the other byte of a word, as it was before one was written, */
    bool has_neighbour; /**< as long as that write has not come right */
    bool entered;
    bool blind;     /**< entering: also try for a part that does not answer Programming Enable */
    bool echoes;    /**< the part repeats what it hears: each instruction proves the contact */
    bool wide;      /**< of a memory: it was switched to 4-byte addresses */
    bool unguarded; /**< protection was lifted by us: lift it anew where the chip has been off */
    uint8_t id[CM_ID_BYTES];
    uint16_t supply_mv; /**< what the target is fed with (cm_feed); 0: it has a supply of its own */
    uint16_t tries;     /**< how often entering was tried */
    uint16_t recoveries; /**< times that contact was lost and found again */
    const struct cm_port *port;
    const struct cm_kit *kits;
    const struct cm_kit *kit; /**< of them, the one in use */
    const struct cm_family *family;
    const struct cm_part *part; /**< NULL until identified */
    uint8_t *workspace;
    uint32_t workspace_bytes;
    uint32_t cpu_hz;   /**< the target's own clock, if told; 0: unknown. Set it after cm_open to go
                          faster */
    uint32_t clock_hz; /**< bus clock in use */
    struct cm_failure failure;
    uint32_t neighbour_at;
    /** Of the put at hand: for drivers that write more than they are told; or NULL. */
    const struct cm_carry *carry;
    const struct cm_part *asserted; /**< what cm_identify was told must be there, or NULL */
    /** Asked when contact is lost and the chip is not found again at once: true to go on trying,
     * after whatever wait the caller sees fit; NULL: never. Set it, and its context, after cm_open.
     */
    bool (*on_lost)(void *context, const struct cm_failure *failure);
    void *lost_context;
    struct cm_batch batch;
};

/**
 * Starts a session. Touches no wire.
 *
 * workspace: at least one page of the largest part (256 bytes do for AVR); more lets cm_put
 * remember more of what it read.
 */
CM_MUST_CHECK enum cm_status cm_open(struct cm_session *session, const struct cm_port *port,
                                     const struct cm_kit *kits, uint8_t kit_count, void *workspace,
                                     uint32_t workspace_bytes);

/**
 * Feeds the target from the port, until cm_close. Call it after cm_open: the supply comes on while
 * the bus is low and the target is held in reset, and gets 5 ms to settle. Errors: CM_PORT_LACKS
 * where the port has no supply, CM_PORT_FAILED.
 */
CM_MUST_CHECK enum cm_status cm_feed(struct cm_session *session, uint16_t mv);

/**
 * Finds the chip: power, programming mode, id. Leaves the chip in programming mode.
 *
 * asserted: name of the part that must be there, or NULL. Where several parts share the id, the
 * asserted one is taken, else the first; cm_candidate lists all. Errors: CM_NO_POWER, CM_NO_CHIP,
 * CM_UNKNOWN_CHIP, CM_WRONG_CHIP, CM_BAD_ARGUMENT (no part of that name), CM_PORT_LACKS (lines that
 * no family of the kits could do with), CM_PORT_FAILED. A part without an id is taken only where it
 * is asserted.
 */
CM_MUST_CHECK enum cm_status cm_identify(struct cm_session *session, const char *asserted);

/** The parts of the tables that have the id that was read: number 0, 1, ...; NULL beyond the last.
 */
const struct cm_part *cm_candidate(const struct cm_session *session, uint16_t number);

/** Lets the target run: lines released, supply as found. Safe to call at any time, also twice. */
void cm_close(struct cm_session *session);

/** The row of a part by name among the kits, or NULL. */
const struct cm_part *cm_part_by_name(const struct cm_kit *kits, uint8_t kit_count,
                                      const char *name);

/** Reads a line (0 or 1; the supply in mV) as it stands. CM_PORT_LACKS where the port cannot. */
CM_MUST_CHECK enum cm_status cm_sense(struct cm_session *session, enum cm_line line,
                                      uint16_t *value);

/** Measures the target's supply. CM_PORT_LACKS where the port cannot. */
static inline CM_MUST_CHECK enum cm_status cm_supply_mv(struct cm_session *session, uint16_t *mv)
{
    return cm_sense(session, CM_LINE_SUPPLY, mv);
}

/** CM_SUPPLY_OUTSIDE where the port measures a supply that the part's data sheet does not allow. */
CM_MUST_CHECK enum cm_status cm_check_supply(struct cm_session *session);

/** Describes region `index` of the session's part; false beyond the last. */
bool cm_region(const struct cm_session *session, uint8_t index, struct cm_region *region);

/** Index of a region by name, or -1. */
int cm_region_by_name(const struct cm_session *session, const char *name);

/** Reads `count` bytes. Errors: CM_BAD_ARGUMENT (bounds), CM_CONTACT_LOST, CM_PORT_FAILED. */
CM_MUST_CHECK enum cm_status cm_read(struct cm_session *session, uint8_t region, uint32_t address,
                                     uint8_t *bytes, uint32_t count);

/** Compares `count` bytes; CM_DIFFERS leaves the first difference in session->failure. */
CM_MUST_CHECK enum cm_status cm_match(struct cm_session *session, uint8_t region, uint32_t address,
                                      const uint8_t *bytes, uint32_t count);

/**
 * Programs and reads back `count` bytes, page after page, without any erase. For settings: writes
 * the bytes as given. Errors: as cm_read; CM_WRITE_FAILED, CM_TIMED_OUT.
 */
CM_MUST_CHECK enum cm_status cm_program(struct cm_session *session, uint8_t region,
                                        uint32_t address, const uint8_t *bytes, uint32_t count);

/** Erases the whole chip, as far as its settings let it. */
CM_MUST_CHECK enum cm_status cm_erase(struct cm_session *session);

/** Reads what protects the chip. */
CM_MUST_CHECK enum cm_status cm_protection(struct cm_session *session,
                                           struct cm_protection *protection);

/** Enters programming mode anew after lost contact; CM_OK only if the same chip answers. */
CM_MUST_CHECK enum cm_status cm_recover(struct cm_session *session);

CM_DECLS_END

#endif
