/**
 * Protection of a chip: what it covers, what lifting it costs, lift it, restore it. One interface
 * for lock bits, status registers and read-out levels.
 *
 * A protected memory accepts an erase and does nothing. So look first:
 *
 *     struct cm_guard guard;
 *     status = cm_guard_look(&session, &guard);
 *     if (status == CM_OK && cm_guard_covers(&guard, CM_REGION_MAIN, 0, 4096)) {
 *         status = cm_guard_lift(&session, &guard, CM_LIFT_FREE);
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

/** What lifting protection costs; or what keeps it from being lifted. */
enum cm_lift_cost {
    /** Nothing. */
    CM_LIFT_FREE,
    /** The contents: an erase clears the regions in `clears`, and the protection with them. */
    CM_LIFT_CONTENTS,
    /** The WP pin must be high. */
    CM_LIFT_PIN,
    /** Voltages on pins that no port raises; permanent on some parts. */
    CM_LIFT_VOLTAGE,
    /** A power cycle: the supply must have been off; permanent on some parts. */
    CM_LIFT_POWER
};

/** Protection of a chip, as read from it. The registers are enough to restore it. */
struct cm_guard {
    /** Status registers, or the lock byte, or the read-out level; `count` of them. */
    uint8_t registers[CM_GUARD_REGISTERS];
    uint8_t count;
    /** enum cm_lift_cost. */
    uint8_t cost;
    /** With CM_LIFT_CONTENTS: what registers[0] is while nothing is protected. */
    uint8_t open;
    /** Regions of which the answers are not the contents: CM_REGION_BIT of each. */
    uint8_t bars_reading;
    /** Regions that cannot be written, all of them. */
    uint8_t bars_writing;
    /** With CM_LIFT_CONTENTS: regions that the erase clears. The chip's own settings may keep
     * others (EESAVE). */
    uint8_t clears;
    /** There may be protection that cannot be read: writes then do nothing (software data
     * protection). */
    bool unreadable;
    /** It is not known which area the bits protect; the whole chip is assumed. */
    bool vague;
    /** Single sectors have locks; `first` and `bytes` span all of them. */
    bool by_sector;
    /** The protected area of the main region: one run at one end of it, or all of it. 0 bytes:
     * none. */
    uint32_t first;
    uint32_t bytes;
    /** With `by_sector`: one bit for each 64 KiB, lowest first. */
    uint8_t locks[CM_GUARD_LOCKS];
};

/** One of the things below that a family does with its protection. */
typedef enum cm_status cm_guard_fn(struct cm_session *session, struct cm_guard *guard);

/** What a family does for the calls below; see core/families/nor/guard.c. */
struct cm_guard_rules {
    /** Fills in all of `guard`. */
    cm_guard_fn *look;
    /** These only read `guard`. */
    cm_guard_fn *lift;
    cm_guard_fn *restore;
    /** Protection may bar reading, too: it is looked at before each job that reads. */
    bool hides_contents;
    /** For cm_put_by_blocks, where lifting costs the contents: &cm_put_over_lift. NULL: it never
     * does. */
    const struct cm_lifter *lifter;
};

/** Reads the protection twice, and works out what it covers. CM_OK also for parts without
 * protection. Errors: CM_CONTACT_LOST. */
CM_MUST_CHECK enum cm_status cm_guard_look(struct cm_session *session, struct cm_guard *guard);

/** Returns whether any byte of an area of a region is protected from being written. */
bool cm_guard_covers(const struct cm_guard *guard, uint8_t region, uint32_t first, uint32_t bytes);

/** Returns whether there is any protection that can be read. */
bool cm_guard_is_on(const struct cm_guard *guard);

/**
 * Lifts all protection. `guard` is what cm_guard_look found; store it first, since registers keep
 * their new value without power. `most` is what it may cost: with CM_LIFT_CONTENTS, protection that
 * only an erase lifts is lifted by that, and the contents are lost; with CM_LIFT_FREE that is
 * CM_REFUSED. Protection that cannot be read is lifted as far as the family can: from here on it
 * writes all the same.
 *
 * Errors: CM_REFUSED, CM_PROTECTED (the registers are held), CM_WRITE_FAILED, CM_CONTACT_LOST.
 */
CM_MUST_CHECK enum cm_status cm_guard_lift(struct cm_session *session, const struct cm_guard *guard,
                                           enum cm_lift_cost most);

/** Writes the registers of `guard` and verifies them. Errors: as cm_guard_lift. */
CM_MUST_CHECK enum cm_status cm_guard_restore(struct cm_session *session,
                                              const struct cm_guard *guard);

CM_DECLS_END

#endif
