/**
 * Mint: makes one chip what it shall be, contents and settings, in the order that is fast and safe:
 *
 *     unlock     a chip erase, where lock bits forbid the work (only with `put.unprotect`)
 *     early      settings; not lock bits, nothing that ends access, and no slower clock
 *     contents   cm_put, at the new clock
 *     late       the settings that are left, then the lock bits
 *
 * A slow chip is made fast first, since the contents take most of the time. Each step is read back.
 * After an interruption the next run continues with what is missing.
 */
#ifndef COLDMINT_MINT_H
#define COLDMINT_MINT_H

#include <coldmint/decls.h>
#include <coldmint/job.h>
#include <coldmint/settings.h>

CM_DECLS_BEGIN

/** What the chip shall be. Check fences first (cm_next_fence): this does as it is told. */
struct cm_mint {
    /** Contents; put.want_count may be 0. */
    struct cm_put put;
    /** All setting bytes (CM_SETTING_BYTES), or NULL: contents only. */
    const uint8_t *settings;
    /** Clock of the board's crystal or oscillator in Hz. 0: unknown; the bus stays slow with one.
     */
    uint32_t board_hz;
};

/** The steps of a mint, before they are done. */
struct cm_mint_steps {
    /** Settings now, after `early`, and at the end. */
    uint8_t now[CM_SETTING_BYTES];
    uint8_t early[CM_SETTING_BYTES];
    uint8_t late[CM_SETTING_BYTES];
    /** The first step is a chip erase. */
    bool unlocks;
    bool changes_early, changes_late;
    /** `early` changes the clock: programming mode is entered again before the contents. */
    bool reenters;
    /** CPU clock in Hz now, and while the contents are written. 0: the board's. */
    uint32_t cpu_hz_now;
    uint32_t cpu_hz_then;
};

/** What a mint did. */
struct cm_mint_report {
    struct cm_mint_steps steps;
    struct cm_report put;
    uint8_t settings_written;
    /** Time of all steps in microseconds. */
    uint32_t actual_us;
};

/** Plans the steps: reads the settings, changes nothing. Errors: CM_PROTECTED, CM_SUPPLY_OUTSIDE,
 * as cm_read_settings. */
CM_MUST_CHECK enum cm_status cm_mint_steps(struct cm_session *session, const struct cm_mint *mint,
                                           struct cm_mint_steps *steps);

/**
 * Plans the steps and the contents: `report` for these, `predicted_us` for everything. Where the
 * contents cannot be read yet, they are counted from the images.
 */
CM_MUST_CHECK enum cm_status cm_mint_plan(struct cm_session *session, const struct cm_mint *mint,
                                          struct cm_mint_report *report, uint32_t *predicted_us);

/** Does all steps. Errors: as cm_put and cm_tune. */
CM_MUST_CHECK enum cm_status cm_mint(struct cm_session *session, const struct cm_mint *mint,
                                     struct cm_mint_report *report);

CM_DECLS_END

#endif
