/**
 * Putting a chip back to what a capsule holds: memories, fuses and lock bits.
 *
 *     struct cm_capsule capsule;
 *     struct cm_mint_report report;
 *     if (cm_capsule_open(&capsule, &input) == CM_OK) // looks at every checksum first
 *         status = cm_restore(&session, &capsule, &report);
 *
 * Part of the library coldmint-capsule.
 */
#ifndef COLDMINT_RESTORE_H
#define COLDMINT_RESTORE_H

#include <coldmint/decls.h>
#include <coldmint/capsule.h>
#include <coldmint/mint.h>

CM_DECLS_BEGIN

/** A restoration in the making: `mint` is what will be asked, and may be added to (progress,
 * `unprotect`). */
struct cm_restore {
    struct cm_capsule_place places[CM_CAPSULE_REGIONS];
    struct cm_want wants[CM_CAPSULE_REGIONS];
    uint8_t settings[CM_SETTING_BYTES];
    struct cm_mint mint;
};

/** Is the capsule of the kind of chip that was identified: its id, or its name where it has none,
 * and the sizes of all its regions? */
bool cm_capsule_fits(const struct cm_session *session, const struct cm_capsule *capsule);

/**
 * Fills in what the capsule holds, for cm_mint. Changes nothing. The capsule and `restore` must
 * outlive the job.
 *
 * Errors: CM_WRONG_CHIP (the capsule is of another kind of chip, or its regions have other sizes),
 * CM_BAD_IMAGE (the capsule can no longer be read, or is a job), CM_BAD_ARGUMENT (no chip is
 * identified), as cm_read_settings.
 */
CM_MUST_CHECK enum cm_status cm_restore_begin(struct cm_session *session,
                                              const struct cm_capsule *capsule,
                                              struct cm_restore *restore);

/** Does it all. Settings are written where the session's kit has words for them. Errors: as
 * cm_restore_begin and cm_mint. */
CM_MUST_CHECK enum cm_status cm_restore(struct cm_session *session,
                                        const struct cm_capsule *capsule,
                                        struct cm_mint_report *report);

/** Why a job's capsule is not for this board as it is. */
enum cm_work_fault {
    CM_WORK_GOOD,
    CM_WORK_FAILED,      /**< a call failed: the session's failure */
    CM_WORK_NO_JOB,      /**< the capsule is a backup */
    CM_WORK_OTHER_CHIP,  /**< as CM_WRONG_CHIP above */
    CM_WORK_SUPPLY,      /**< `mv` is measured, and the board must have another supply */
    CM_WORK_OTHER_BOARD, /**< the marker on the chip is another: `marker` */
    CM_WORK_FAULT_COUNT
};

/** Details of a fault. */
struct cm_work_check {
    enum cm_work_fault fault;
    uint16_t mv;
    uint8_t marker[CM_WORK_MARKER]; /**< what stands in the marker's place */
};

/**
 * The same for a capsule with a work: checks that it is for this chip and this board, and fills in
 * what shall be done. Changes nothing. Where the marker's place is blank the board is not known,
 * and the job writes its marker.
 *
 * Errors: CM_REFUSED (`check` says why), those of the session's calls (CM_WORK_FAILED).
 */
CM_MUST_CHECK enum cm_status cm_work_begin(struct cm_session *session,
                                           const struct cm_capsule *capsule,
                                           struct cm_restore *restore, struct cm_work_check *check);

CM_DECLS_END

#endif
