/**
 * A session: one chip behind one port, from open to close.
 *
 *     struct cm_session session;
 *     enum cm_status status = cm_open(&session, &port, &kit, 1, workspace, sizeof workspace);
 *     if (status == CM_OK)
 *         status = cm_identify(&session, "attiny84a");
 *     if (status == CM_OK)
 *         status = cm_put(&session, &put, &report);
 *     cm_close(&session);
 *
 * With job.h, the first group of calls is all that most programs need. The second group reads and
 * changes single regions. It checks bounds and nothing else: read the protection first.
 *
 * All calls block until they are done. They return CM_OK or an error; the session's `failure` then
 * has the evidence.
 */
#ifndef COLDMINT_SESSION_H
#define COLDMINT_SESSION_H

#include <coldmint/decls.h>
#include <coldmint/batch.h>
#include <coldmint/chip.h>
#include <coldmint/port.h>

CM_DECLS_BEGIN

struct cm_put;

/** Most operations of a batch that a driver builds. */
enum { CM_BATCH_OPS = 11 };

/** A batch that a driver builds, and what its failures mean. Internal. */
struct cm_batch {
    /** Operations so far. */
    uint8_t count;
    /** From this operation on a difference means that a write failed. 0xFF: none. */
    uint8_t verify;
    /** From this operation on a difference means that contact was lost. 0xFF: none. */
    uint8_t proof;
    /** enum cm_step. */
    uint8_t step;
    /** enum cm_status: what a failed check or a missing acknowledge means. */
    uint8_t unanswered;
    /** Region and address of the work, for the record of a failure. Region NULL: none. */
    const char *region;
    uint32_t address;
    struct cm_op ops[CM_BATCH_OPS];
};

/**
 * A session. The caller provides the memory; session, port, kits and workspace must exist until
 * cm_close. The program sets `device`, `cpu_hz`, `on_lost` and `lost_context` after cm_open, where
 * it needs them, and reads the members of the first two groups. All others are internal.
 */
struct cm_session {
    /* Internal flags of engine and drivers; small members come first, which makes the code smaller.
     */
    /** Not 0: something may have changed by mistake since the job began. */
    uint8_t doubts;

    /** Set by the program: I2C address of the memory (0x50 to 0x57). 0: the first that answers. */
    uint8_t device;

    uint8_t kit_count;
    /** The port's lines are driven. */
    bool entered;

    /** Read by the program: the id that was read; as many bytes as the part's row says. */
    uint8_t id[CM_ID_BYTES];
    /** Supply in mV that cm_feed set; 0: the target has its own supply. */
    uint16_t supply_mv;
    /** How often programming mode was tried. */
    uint16_t tries;
    /** How often contact was lost and found again. */
    uint16_t recoveries;

    const struct cm_port *port;
    const struct cm_kit *kits;
    /** The kit of the chip that was found, or NULL. */
    const struct cm_kit *kit;
    const struct cm_family *family;
    /** The part that was found; NULL before cm_identify and after cm_close. */
    const struct cm_part *part;
    /** The family's own state, at the start of the caller's workspace; and what is behind it. */
    void *state;
    uint8_t *workspace;
    uint32_t workspace_bytes;

    /** Set by the program: the target's own clock in Hz, which allows a faster bus. 0: unknown. */
    uint32_t cpu_hz;
    /** Bus clock in use, in Hz. */
    uint32_t clock_hz;
    /** The first failure of the last call; status CM_OK: none. */
    struct cm_failure failure;

    /** What the current job wants, for a driver that must know what is beside it; or NULL. */
    const struct cm_put *put;
    /** The part that cm_identify was told to expect, or NULL. */
    const struct cm_part *asserted;

    /** Set by the program: called when contact is lost and the chip is not found again at once.
     * Return true to try again, after any wait that is useful. NULL: the call fails at once. */
    bool (*on_lost)(void *context, const struct cm_failure *failure);
    void *lost_context;

    struct cm_batch batch;
};

/** Room that any family's own state takes of the workspace, wherever that begins. */
enum { CM_STATE_BYTES = 20 };

/**
 * Starts a session. Touches no line of the port.
 *
 * workspace: memory for the family's own state (CM_STATE_BYTES or less) and, behind it, for pages:
 * at least one page of the largest part. With more, cm_put remembers more of what it has read. It
 * belongs to the session until cm_close; nobody else may write to it.
 *
 * Errors: CM_BAD_ARGUMENT (no kit), CM_NO_ROOM (no workspace behind the state), CM_PORT_LACKS (no
 * lines, no clock or no state of the port).
 */
CM_MUST_CHECK enum cm_status cm_open(struct cm_session *session, const struct cm_port *port,
                                     const struct cm_kit *kits, uint8_t kit_count, void *workspace,
                                     uint32_t workspace_bytes);

/**
 * Feeds the target from the port with `mv` millivolts, until cm_close. Call it after cm_open. The
 * supply is switched on while the bus is low and the target is in reset; then it has 5 ms to
 * settle.
 *
 * Errors: CM_PORT_LACKS (the port has no such supply), CM_PORT_FAILED.
 */
CM_MUST_CHECK enum cm_status cm_feed(struct cm_session *session, uint16_t mv);

/**
 * Finds the chip: checks the supply, enters programming mode, reads the id. On success the chip
 * stays in programming mode.
 *
 * asserted: name of the part that must be there, or NULL. Parts without an id are found only by
 * name. Where several parts share an id, the asserted one is taken, else the first in the table;
 * cm_candidate lists all.
 *
 * Errors: CM_NO_POWER, CM_NO_CHIP, CM_UNKNOWN_CHIP, CM_WRONG_CHIP, CM_CONTACT_LOST,
 * CM_BAD_ARGUMENT (no part has this name), CM_PORT_LACKS (no kit can use the port's lines),
 * CM_PORT_FAILED.
 */
CM_MUST_CHECK enum cm_status cm_identify(struct cm_session *session, const char *asserted);

/** Returns the parts that have the id that was read: number 0, 1, ...; NULL beyond the last. */
const struct cm_part *cm_candidate(const struct cm_session *session, uint16_t number);

/** Ends the session: releases the target and its lines, and switches off the supply that cm_feed
 * switched on. Safe in any state, also twice. */
void cm_close(struct cm_session *session);

/** Returns the row of a part by name, or NULL. */
const struct cm_part *cm_part_by_name(const struct cm_kit *kits, uint8_t kit_count,
                                      const char *name);

/** Reads a line as 0 or 1; CM_LINE_SUPPLY in mV. CM_PORT_LACKS where the port cannot sense it. */
CM_MUST_CHECK enum cm_status cm_sense(struct cm_session *session, enum cm_line line,
                                      uint16_t *value);

/** Measures the target's supply in mV. CM_PORT_LACKS where the port cannot. */
static inline CM_MUST_CHECK enum cm_status cm_supply_mv(struct cm_session *session, uint16_t *mv)
{
    return cm_sense(session, CM_LINE_SUPPLY, mv);
}

/** True where the target has a supply of its own, as measured before anything feeds it: more than
 * signals on its pins would bring about. False, too, where the port cannot measure. */
static inline bool cm_has_own_supply(struct cm_session *session)
{
    enum { LIVE_MV = 500 };
    uint16_t mv;
    return cm_supply_mv(session, &mv) == CM_OK && mv > LIVE_MV;
}

/** Checks the supply against the part's data sheet: CM_SUPPLY_OUTSIDE where the port measures
 * another. CM_OK where the port cannot measure. */
CM_MUST_CHECK enum cm_status cm_check_supply(struct cm_session *session);

/* --- single regions ---------------------------------------------------------------------- */

/** Describes region number `index` of the part. Returns false beyond the last. */
bool cm_region(const struct cm_session *session, uint8_t index, struct cm_region *region);

/** Returns the number of a region by name, or -1. */
int cm_region_by_name(const struct cm_session *session, const char *name);

/** Describes erase unit number `index` of a region, the smallest first. Returns false beyond the
 * last. */
bool cm_erase_unit(const struct cm_session *session, uint8_t region, uint8_t index,
                   struct cm_erase_unit *unit);

/** Reads `count` bytes. Errors: CM_BAD_ARGUMENT (bounds), CM_CONTACT_LOST, CM_PORT_FAILED. */
CM_MUST_CHECK enum cm_status cm_read(struct cm_session *session, uint8_t region, uint32_t address,
                                     uint8_t *bytes, uint32_t count);

/** Compares `count` bytes. Errors: CM_DIFFERS (the failure has the first difference), as cm_read.
 */
CM_MUST_CHECK enum cm_status cm_match(struct cm_session *session, uint8_t region, uint32_t address,
                                      const uint8_t *bytes, uint32_t count);

/**
 * Programs `count` bytes and reads them back, without an erase. Settings are written as given.
 * Errors: as cm_read; CM_WRITE_FAILED, CM_TIMED_OUT.
 */
CM_MUST_CHECK enum cm_status cm_program(struct cm_session *session, uint8_t region,
                                        uint32_t address, const uint8_t *bytes, uint32_t count);

/** Erases the whole main region by one instruction, and with it all that this clears. Does not look
 * at the result: cm_blank does. CM_BAD_ARGUMENT for parts that have no such erase. */
CM_MUST_CHECK enum cm_status cm_erase(struct cm_session *session);

/** Enters programming mode again after lost contact. CM_OK only if the same chip answers. */
CM_MUST_CHECK enum cm_status cm_recover(struct cm_session *session);

CM_DECLS_END

#endif
