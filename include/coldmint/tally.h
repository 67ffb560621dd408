/**
 * A tally: how many units a player has made of each capsule, and a small log of the last ones, in a
 * memory that may lose its power at any write.
 *
 * The memory has two halves, each erased by itself, and takes records of CM_TALLY_BYTES, one behind
 * the other. Each has a checksum, and the count as it is from there on: a record that was cut off
 * counts for nothing. When a half is full, the other is erased and gets the newest record of each
 * capsule first; only then does the old half stop to count.
 */
#ifndef COLDMINT_TALLY_H
#define COLDMINT_TALLY_H

#include <coldmint/decls.h>
#include <coldmint/status.h>

CM_DECLS_BEGIN

enum { CM_TALLY_BYTES = 32, CM_TALLY_CAPSULE = 8 };

/** The memory. Offsets count through both halves. */
struct cm_store {
    void *context;
    enum cm_status (*read)(void *context, uint32_t offset, uint8_t *bytes, uint32_t count);
    /** Writes a record: CM_TALLY_BYTES, to a place that is erased (all FF). */
    enum cm_status (*write)(void *context, uint32_t offset, const uint8_t *bytes, uint32_t count);
    /** Makes all bytes of a half, 0 or 1, FF. */
    enum cm_status (*erase)(void *context, uint8_t half);
    /** A multiple of CM_TALLY_BYTES, at least four of them. */
    uint32_t half_bytes;
};

/** What a record tells. */
enum cm_tally_kind {
    CM_TALLY_BEGUN = 1, /**< a unit is being made; it counts from here on */
    CM_TALLY_MADE,      /**< it is whole */
    CM_TALLY_FAILED     /**< it is not, and does not count */
};

struct cm_tally_record {
    uint8_t kind;                      /**< enum cm_tally_kind */
    uint8_t status;                    /**< enum cm_status, and what failed */
    uint8_t step;                      /**< enum cm_step */
    uint8_t fault;                     /**< enum cm_player_fault */
    uint32_t used;                     /**< units that count, of this capsule */
    uint32_t address;                  /**< of the failure */
    uint32_t milliseconds;             /**< that it took */
    uint32_t sequence;                 /**< ascending */
    uint8_t capsule[CM_TALLY_CAPSULE]; /**< the beginning of its digest */
};

/** A capsule's count. */
struct cm_tally {
    const struct cm_store *store;
    struct cm_tally_record last; /**< of this capsule; kind 0: there is none */
    uint32_t sequence;           /**< of the newest record of all */
    uint32_t slot;               /**< the next free one of the half in use */
    uint8_t half;
};

/** Finds what a store knows of a capsule (the first CM_TALLY_CAPSULE bytes of its digest). Errors:
 * those of the store; CM_BAD_ARGUMENT: it is too small. */
CM_MUST_CHECK enum cm_status cm_tally_find(struct cm_tally *tally, const struct cm_store *store,
                                           const uint8_t *capsule);

/**
 * Adds a record: `tally->last`, whose sequence is set here. It is read back. Errors: those of the
 * store; CM_WRITE_FAILED; CM_NO_ROOM (the store has counts of too many capsules).
 */
CM_MUST_CHECK enum cm_status cm_tally_add(struct cm_tally *tally);

/** The same for a unit that begins, is made or has failed: sets the kind, and `used`. A unit that
 * was begun and not ended goes on, and counts once. */
CM_MUST_CHECK enum cm_status cm_tally_note(struct cm_tally *tally, enum cm_tally_kind kind);

/** Units that may still be made where `most` are allowed (0: no limit, UINT32_MAX is returned),
 * with one that was begun and not ended. */
uint32_t cm_tally_left(const struct cm_tally *tally, uint32_t most);

/** Reads slot number `slot`, from 0 through both halves. CM_DIFFERS: there is no whole record;
 * CM_BAD_ARGUMENT: there is no such slot. */
CM_MUST_CHECK enum cm_status cm_tally_read(const struct cm_store *store, uint32_t slot,
                                           struct cm_tally_record *record);

CM_DECLS_END

#endif
