/**
 * Keep before change: a verified capsule of what a change would lose, in a folder of the user's,
 * before the chip is touched; and a record of how the change left the chip, so that going back can
 * tell whether other hands have been at it since.
 *
 *     ~/.local/state/coldmint/backups/attiny84a-1E930C-20261123-101500.mint
 *     ~/.local/state/coldmint/changes/20261123-101500-4711-1E930C.json
 *
 * or below $XDG_STATE_HOME (XDG base directories).
 */
#ifndef COLDMINT_HOST_BACKUP_H
#define COLDMINT_HOST_BACKUP_H

#include <coldmint/decls.h>
#include <coldmint/host/capsule_file.h>

CM_DECLS_BEGIN

/** What was kept. */
struct cm_backup {
    /** Empty: nothing, since every memory was blank. */
    char path[CM_FILE_PATH];
    /** An older backup holds the same already: that is `path`. */
    bool is_older;
    /** Every memory was blank, and could be read. */
    bool is_blank;
    /** The chip bars reading its memories: only the settings are kept. */
    bool is_locked;
    /** The memories are in it, too. */
    bool has_memories;
};

/** Keeps what the chip holds, or its settings only. The same contents are not stored twice. Errors:
 * as cm_chip_keep; CM_ERROR_NO_STATE_FOLDER. */
CM_MUST_CHECK bool cm_backup_keep(struct cm_host *host, struct cm_session *session,
                                  const struct cm_chip_keep *how, struct cm_backup *backup);

/* --- the record of a change -------------------------------------------------------------- */

/** A change under way. */
struct cm_change {
    /** The record's file; empty: there is none. */
    char path[CM_FILE_PATH];
    struct cm_backup backup;
    /** What made it: "put". */
    char verb[20];
};

/** How a change left the chip, beside its setting bytes, which are read from it. */
struct cm_change_end {
    /** The contents that were put. */
    const struct cm_want *wants;
    uint8_t want_count;
    /** The whole chip was erased, and the data region was not carried over. */
    bool is_erased, is_data_lost;
    /** Which bytes it left is not known. */
    bool is_vague;
};

/** Notes that a change begins. False: it cannot be noted, and `undo` will not know of it; no reason
 * to stop, since there is the backup. */
CM_MUST_CHECK bool cm_change_begin(struct cm_host *host, struct cm_session *session,
                                   const struct cm_backup *backup, const char *verb,
                                   struct cm_change *change);

/** Notes how the chip was left. False: it cannot be noted. A change that is not ended counts as cut
 * off. */
CM_MUST_CHECK bool cm_change_end(struct cm_host *host, struct cm_session *session,
                                 struct cm_change *change, const struct cm_change_end *how);

/* --- going back -------------------------------------------------------------------------- */

/** A backup of the session's chip. */
struct cm_backup_entry {
    char path[CM_FILE_PATH];
    /** Unix time. */
    int64_t time;
    char notes[CM_CAPSULE_NOTES];
    bool has_memories;
};

/** All backups that fit the session's chip, newest first; free it. Error:
 * CM_ERROR_NO_STATE_FOLDER. */
CM_MUST_CHECK bool cm_backups_of(struct cm_host *host, struct cm_session *session,
                                 struct cm_backup_entry **entries, unsigned *count);

/** Where going back leads. */
struct cm_undo {
    /** The backup from before the last change. */
    char path[CM_FILE_PATH];
    /** What made the change; "": not known. */
    char verb[20];
    /** The change was cut off, so that the chip's state says nothing. */
    bool was_cut_off;
};

/**
 * Finds the backup from before the change that left the chip as it is now; the chip is read for it.
 * `anyway`: takes the newest one where no change on record left the chip so. Errors:
 * CM_ERROR_NO_BACKUP, CM_ERROR_BEFORE_BLANK, CM_ERROR_OTHER_HANDS, CM_ERROR_SESSION.
 */
CM_MUST_CHECK bool cm_undo_find(struct cm_host *host, struct cm_session *session, bool anyway,
                                cm_progress_fn *progress, void *context, struct cm_undo *undo);

CM_DECLS_END

#endif
