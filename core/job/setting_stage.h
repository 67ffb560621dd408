/* Steps of changing settings that tune and mint share. */
#ifndef CM_JOB_SETTING_STAGE_H
#define CM_JOB_SETTING_STAGE_H

#include <coldmint/guard.h>
#include <coldmint/settings.h>

/* Writes the setting bytes that differ, those with the clock last, and counts them. Named bits
 * only. */
CM_MUST_CHECK enum cm_status cm_write_setting_bytes(struct cm_session *session, const uint8_t *now,
                                                    const uint8_t *wanted, uint8_t *written);

/* CM_REFUSED where the part was not asserted, and others with its id have other fuses. */
CM_MUST_CHECK enum cm_status cm_check_masks(struct cm_session *session);

/* Do the two states have different clocks? */
bool cm_changes_clock(const struct cm_words *words, const struct cm_part *part, const uint8_t *now,
                      const uint8_t *wanted);

/* Would the chip no longer be programmable over these pins? */
bool cm_ends_access(const struct cm_words *words, const struct cm_part *part, const uint8_t *now,
                    const uint8_t *wanted);

/* Enters anew, whose reset pulse makes settings take effect, as fast as this clock allows (0:
 * unknown). CM_NO_CHIP where it does not run. */
CM_MUST_CHECK enum cm_status cm_reenter_at(struct cm_session *session, uint32_t cpu_hz);

/*
 * Do lock bits bar the change? They bar other settings; they themselves can be programmed further,
 * and are opened by an erase only. `byte` is the first that is barred.
 */
bool cm_settings_barred(const struct cm_words *words, const struct cm_part *part,
                        const struct cm_guard *guard, const uint8_t *now, const uint8_t *wanted,
                        struct cm_setting_byte *byte);

#endif
