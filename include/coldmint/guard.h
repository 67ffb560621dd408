/**
 * Protection of a memory's areas by its registers: read it, lift it, restore it.
 *
 * A protected memory accepts an erase and does nothing. So look first:
 *
 *     struct cm_guard guard;
 *     status = cm_guard_look(&session, &guard);
 *     if (status == CM_OK && cm_guard_covers(&guard, 0, 4096)) {
 *         status = cm_guard_lift(&session, &guard);
 *         // ... erase and program ..., and then
 *         status = cm_guard_restore(&session, &guard);
 *     }
 *
 * cm_put does all this where struct cm_put says `unprotect`.
 */
#ifndef COLDMINT_GUARD_H
#define COLDMINT_GUARD_H

#include <coldmint/decls.h>
#include <coldmint/session.h>

CM_DECLS_BEGIN

enum { CM_GUARD_REGISTERS = 4, CM_GUARD_LOCKS = 32 };

/** What holds the registers, so that they cannot be written. */
enum cm_guard_hold {
    CM_GUARD_FREE,
    /** The WP pin, while it is low. */
    CM_GUARD_BY_PIN,
    /** Voltages on pins that no port raises; permanent on some parts. */
    CM_GUARD_BY_VOLTAGE,
    /** Until the supply has been off; permanent on some parts. */
    CM_GUARD_UNTIL_POWER_OFF
};

/** Protection of a memory. The registers are enough to restore it. */
struct cm_guard {
    uint8_t registers[CM_GUARD_REGISTERS];
    uint8_t count;
    /** enum cm_guard_hold. */
    uint8_t hold;
    /** The protected area: one run at one end of the chip, or all of it. 0 bytes: none. */
    uint32_t first;
    uint32_t bytes;
    /** There may be protection that cannot be read: writes then do nothing (software data
     * protection). */
    bool unreadable;
    /** It is not known which area the bits protect; the whole chip is assumed. */
    bool vague;
    /** Single sectors have locks; `first` and `bytes` span all of them. */
    bool by_sector;
    /** With `by_sector`: one bit for each 64 KiB, lowest first. */
    uint8_t locks[CM_GUARD_LOCKS];
};

/** What a family does for the calls below; see core/families/nor/guard.c. */
struct cm_guard_rules {
    enum cm_status (*look)(struct cm_session *session, struct cm_guard *guard);
    enum cm_status (*lift)(struct cm_session *session, const struct cm_guard *guard);
    enum cm_status (*restore)(struct cm_session *session, const struct cm_guard *guard);
};

/** Reads the registers twice, and works out what they protect. CM_OK also for parts without
 * protection. Errors: CM_CONTACT_LOST. */
CM_MUST_CHECK enum cm_status cm_guard_look(struct cm_session *session, struct cm_guard *guard);

/** Returns whether any byte of an area is protected. */
bool cm_guard_covers(const struct cm_guard *guard, uint32_t first, uint32_t bytes);

/**
 * Lifts all protection. `guard` is what cm_guard_look found; store it first, since the registers
 * keep their new value without power. Errors: CM_PROTECTED (the registers are held),
 * CM_WRITE_FAILED, CM_CONTACT_LOST.
 */
CM_MUST_CHECK enum cm_status cm_guard_lift(struct cm_session *session,
                                           const struct cm_guard *guard);

/** Writes the registers of `guard` and verifies them. Errors: as cm_guard_lift. */
CM_MUST_CHECK enum cm_status cm_guard_restore(struct cm_session *session,
                                              const struct cm_guard *guard);

CM_DECLS_END

#endif
