/**
 * Protection of a memory's areas: what the registers say, in addresses; lifting it, setting it,
 * putting it back.
 *
 * A protected memory takes an erase and does nothing. So look first:
 *
 *     struct cm_guard guard;
 *     cm_guard_look(&session, &guard);
 *     if (cm_guard_covers(&guard, 0, 4096)) ...                 // an erase there would do nothing
 *     cm_guard_lift(&session, &guard);   ...work...   cm_guard_restore(&session, &guard);
 *
 * cm_put does all this by itself where struct cm_put says `unprotect`.
 */
#ifndef COLDMINT_GUARD_H
#define COLDMINT_GUARD_H

#include <coldmint/decls.h>
#include <coldmint/session.h>

CM_DECLS_BEGIN

enum { CM_GUARD_REGISTERS = 4, CM_GUARD_LOCKS = 32 };

/** What keeps the registers from being written. */
enum cm_guard_hold {
    CM_GUARD_FREE,
    CM_GUARD_BY_PIN,         /**< while the WP pin is low */
    CM_GUARD_BY_VOLTAGE,     /**< by voltages on pins that are not raised here, or for ever */
    CM_GUARD_UNTIL_POWER_OFF /**< until the supply has been off; with some parts and orders for ever
                              */
};

/** How a chip's protection stands. The registers are all that is needed to put it back. */
struct cm_guard {
    uint8_t registers[CM_GUARD_REGISTERS];
    uint8_t count;
    uint8_t hold;    /**< enum cm_guard_hold */
    uint32_t first;  /**< the protected area: one run, at one end of the chip or all of it */
    uint32_t bytes;  /**< 0: nothing is protected */
    bool unreadable; /**< there may be a protection that cannot be read, and shows in writes that do
                        nothing (software data protection) */
    bool vague;      /**< which area the bits mean is not known: taken for all */
    bool by_sector;  /**< locks of single sectors or blocks; `first` and `bytes` span them all */
    uint8_t locks[CM_GUARD_LOCKS]; /**< by_sector: a bit for each 64 KiB, lowest first */
};

/** A family's own: see core/families/nor/guard.c. */
struct cm_guard_rules {
    enum cm_status (*look)(struct cm_session *session, struct cm_guard *guard);
    enum cm_status (*lift)(struct cm_session *session, const struct cm_guard *guard);
    enum cm_status (*restore)(struct cm_session *session, const struct cm_guard *guard);
};

/** Reads the registers, twice, and what they protect. A part without protection: CM_OK, and nothing
 * is protected. Errors: CM_CONTACT_LOST. */
CM_MUST_CHECK enum cm_status cm_guard_look(struct cm_session *session, struct cm_guard *guard);

/** Is any byte of an area protected? */
bool cm_guard_covers(const struct cm_guard *guard, uint32_t first, uint32_t bytes);

/**
 * Lifts all protection; `guard` is what cm_guard_look found, and stays as it is, for
 * cm_guard_restore. Keep it safe first: the registers outlive the power. CM_PROTECTED where they
 * are held.
 */
CM_MUST_CHECK enum cm_status cm_guard_lift(struct cm_session *session,
                                           const struct cm_guard *guard);

/** Writes the very same registers back and reads them. Errors: CM_PROTECTED (held),
 * CM_WRITE_FAILED, CM_CONTACT_LOST. */
CM_MUST_CHECK enum cm_status cm_guard_restore(struct cm_session *session,
                                              const struct cm_guard *guard);

CM_DECLS_END

#endif
