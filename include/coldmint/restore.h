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

/**
 * Fills in what the capsule holds, for cm_mint. Changes nothing. The capsule and `restore` must
 * outlive the job.
 *
 * Errors: CM_WRONG_CHIP (the capsule is of another kind of chip, or its regions have other sizes),
 * CM_BAD_IMAGE (the capsule can no longer be read), CM_BAD_ARGUMENT (no chip is identified), as
 * cm_read_settings.
 */
CM_MUST_CHECK enum cm_status cm_restore_begin(struct cm_session *session,
                                              const struct cm_capsule *capsule,
                                              struct cm_restore *restore);

/** Does it all. Settings are written where the session's kit has words for them. Errors: as
 * cm_restore_begin and cm_mint. */
CM_MUST_CHECK enum cm_status cm_restore(struct cm_session *session,
                                        const struct cm_capsule *capsule,
                                        struct cm_mint_report *report);

CM_DECLS_END

#endif
