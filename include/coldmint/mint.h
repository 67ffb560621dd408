/**
 * Mint: one chip from whatever it is to a whole wanted state, contents and settings, in the order
 * that is fast and safe:
 *
 *     unlock     a chip erase, where lock bits bar the work or would have to be opened (only if
 *                `put.unprotect` allows it)
 *     early      settings, but for lock bits, what ends access, and a clock that is slower than the
 *                present one
 *     contents   cm_put, at the new clock
 *     late       the settings held back, then the lock bits
 *
 * A slow chip is made fast first: that is most of the time of a bare chip's job. Each step is
 * proven by reading back; run again after an interruption, it goes on with what is missing.
 */
#ifndef COLDMINT_MINT_H
#define COLDMINT_MINT_H

#include <coldmint/decls.h>
#include <coldmint/job.h>
#include <coldmint/settings.h>

CM_DECLS_BEGIN

/** What the chip shall be. Fences are the caller's to look at (cm_next_fence). */
struct cm_mint {
    struct cm_put put; /**< contents; put.want_count may be 0 */
    const uint8_t
        *settings; /**< all setting bytes wanted (CM_SETTING_BYTES), or NULL: contents only */
    uint32_t
        board_hz; /**< crystal or clock on the board; 0: unknown, and the bus stays slow with one */
};

/** Which steps there are, before they are taken. */
struct cm_mint_steps {
    uint8_t now[CM_SETTING_BYTES];
    uint8_t early[CM_SETTING_BYTES]; /**< the settings after `early` */
    uint8_t late[CM_SETTING_BYTES];  /**< the settings at the end */
    bool unlocks;                    /**< begins with a chip erase */
    bool changes_early, changes_late;
    bool reenters;        /**< the clock changes with `early`, and the contents go at the new one */
    uint32_t cpu_hz_now;  /**< 0: the board's */
    uint32_t cpu_hz_then; /**< while the contents are written */
};

struct cm_mint_report {
    struct cm_mint_steps steps;
    struct cm_report put;
    uint8_t settings_written;
    uint32_t actual_us; /**< all of it, by the port's clock */
};

/** Works out the steps. Reads the settings, changes nothing. Errors: CM_PROTECTED,
 * CM_SUPPLY_OUTSIDE, as cm_read_settings. */
CM_MUST_CHECK enum cm_status cm_mint_steps(struct cm_session *session, const struct cm_mint *mint,
                                           struct cm_mint_steps *steps);

/**
 * The same, and what cm_put would do, as fast as it would go: `report` for the contents, and
 * `predicted_us` for all. Where the job would begin with an erase to unlock, or reading is barred,
 * the contents are counted from the images alone.
 */
CM_MUST_CHECK enum cm_status cm_mint_plan(struct cm_session *session, const struct cm_mint *mint,
                                          struct cm_mint_report *report, uint32_t *predicted_us);

/** Does it. Errors as cm_put and cm_tune. */
CM_MUST_CHECK enum cm_status cm_mint(struct cm_session *session, const struct cm_mint *mint,
                                     struct cm_mint_report *report);

CM_DECLS_END

#endif
