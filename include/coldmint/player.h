/**
 * A player: makes units from a sealed capsule without a computer, through any port: with a button,
 * a lamp and a beeper, from a flash chip, a file or whatever a callback reads.
 *
 *     struct cm_player player = {.port = &port, .kits = KITS, .kit_count = 1,
 *                                .workspace = workspace, .workspace_bytes = sizeof workspace,
 *                                .input = {NULL, read_capsule, capsule_bytes},
 *                                .maker = MAKER, .verify = cm_ed25519_verify};
 *     if (cm_player_open(&player) == CM_OK)         // looks at every checksum and the seal
 *         status = cm_player_play(&player);         // one unit
 *
 * A unit is made in this order: the supply, the chip, its board; settings that make it faster, the
 * contents, the settings that are left, lock bits last. Each step is read back. What is written and
 * compared has been proven by the capsule's digests in the same reading, wherever the capsule lies:
 * a wrong bit on the way, or a memory that was exchanged since, ends the unit before anything of it
 * is written. After an interruption the next play goes on with what is missing. With a store units
 * are counted and logged (coldmint/tally.h); a capsule with a limit is not played without one.
 *
 * A unit counts from just before the first change on, and no more once it has failed; a board that
 * is right already does not. One that was cut off by a lost supply still counts, and is the first
 * that is made when the supply is back.
 *
 * Part of the library coldmint-player, which needs coldmint-capsule.
 */
#ifndef COLDMINT_PLAYER_H
#define COLDMINT_PLAYER_H

#include <coldmint/capsule.h>
#include <coldmint/decls.h>
#include <coldmint/restore.h>
#include <coldmint/tally.h>

CM_DECLS_BEGIN

/** What keeps a player from making a unit. */
enum cm_player_fault {
    CM_PLAYER_GOOD,
    CM_PLAYER_CAPSULE, /**< the capsule is damaged, or its seal is not right: capsule.fault */
    CM_PLAYER_NO_JOB,  /**< it is a backup */
    CM_PLAYER_STORE, /**< the store cannot be read or written; or there is a limit, and no store */
    CM_PLAYER_LIMIT, /**< as many units were made as the capsule allows */
    CM_PLAYER_BOARD, /**< not for this chip or board: check.fault */
    CM_PLAYER_UNIT,  /**< a step failed: session.failure */
    CM_PLAYER_FAULT_COUNT
};

/** What the lamp shows. */
enum cm_player_lamp { CM_LAMP_DARK, CM_LAMP_READY, CM_LAMP_PLAYING, CM_LAMP_PASS, CM_LAMP_FAIL };

/** A player. Set the first group, all else zero; all of it outlives the player. */
struct cm_player {
    uint8_t kit_count;
    const struct cm_kit *kits;
    const struct cm_port *port;
    /** As for cm_open. */
    void *workspace;
    uint32_t workspace_bytes;
    /** The maker's public key (CM_KEY_BYTES): capsules of others are refused. NULL: any is played.
     */
    const uint8_t *maker;
    /** cm_ed25519_verify. NULL: signatures are not looked at, and `maker` must be NULL. */
    cm_verify_fn *verify;
    /** NULL: nothing is counted or logged. */
    const struct cm_store *store;
    /** Is the button down? Asked by cm_player_run. The others may be NULL. */
    bool (*button)(void *context);
    void (*lamp)(void *context, enum cm_player_lamp lamp);
    void (*beep)(void *context, bool is_good);
    /** Return true to end cm_player_run. */
    bool (*stop)(void *context);
    /** About once a page; return false to cancel. */
    cm_progress_fn *progress;
    void *context;
    struct cm_capsule_input input;
    /** For what an erase of the whole chip would lose; see struct cm_carry. */
    struct cm_carry carry;

    /** Read these after a call. */
    enum cm_player_fault fault;
    bool has_changed; /**< false: the board was right before, and does not count */
    uint32_t milliseconds;
    /** tally.last.used: units made of this capsule. */
    struct cm_tally tally;
    struct cm_session session;
    struct cm_work_check check;
    struct cm_report report;
    struct cm_capsule capsule;
    struct cm_capsule_seal seal;

    /* The player's own. */
    struct cm_restore restore;
};

/** Opens the capsule, checks its seal, and looks up its count. Errors: CM_BAD_IMAGE, those of the
 * store; `fault` says which. */
CM_MUST_CHECK enum cm_status cm_player_open(struct cm_player *player);

/** Units that may still be made, with one that was begun and not ended; UINT32_MAX: there is no
 * limit. */
uint32_t cm_player_left(const struct cm_player *player);

/**
 * Makes one unit. CM_OK means that it is whole, and counted. Errors: CM_REFUSED with `fault`; those
 * of cm_identify, cm_put and cm_program (CM_PLAYER_UNIT); CM_PROTECTED: the chip is locked, and the
 * capsule does not allow to erase it.
 */
CM_MUST_CHECK enum cm_status cm_player_play(struct cm_player *player);

/** Plays a unit each time that the button is pressed, until `stop`; lamp and beeper tell how it
 * went. The button is asked every 10 ms, and must be let go in between. */
void cm_player_run(struct cm_player *player);

/** A cm_verify_fn: Ed25519, RFC 8032. player/ed25519, a library of its own (coldmint-ed25519). */
bool cm_ed25519_verify(const uint8_t *key, const uint8_t *signature, const uint8_t *message,
                       uint32_t bytes);

CM_DECLS_END

#endif
