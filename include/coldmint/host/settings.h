/**
 * Choices of settings by people: "clock=internal-8MHz", and the fences around those that could lock
 * them out.
 */
#ifndef COLDMINT_HOST_SETTINGS_H
#define COLDMINT_HOST_SETTINGS_H

#include <coldmint/decls.h>
#include <coldmint/host/context.h>

CM_DECLS_BEGIN

/** Makes a choice "NAME=WORD" in setting bytes. Errors: CM_ERROR_SETTING_... */
CM_MUST_CHECK bool cm_setting_choose(struct cm_host *host, const struct cm_part *part,
                                     uint8_t *bytes, const char *choice);

/** Places of settings among the part's, and of those that there are not. */
enum { CM_SETTING_RANKS = 64 };

/**
 * The place of a choice's setting among the part's: choices are made in this order, since a
 * start-up time means something for its clock only. Those that name no setting come last.
 */
uint8_t cm_setting_rank(const struct cm_host *host, const struct cm_part *part,
                        const uint8_t *bytes, const char *choice);

/** The setting bytes of a new part, unlocked (CM_SETTING_BYTES). */
void cm_settings_as_delivered(const struct cm_host *host, const struct cm_part *part,
                              uint8_t *bytes);

/** Masks of fences: 1 << enum cm_fence_kind. */
enum { CM_ALL_FENCES = ~0u >> 1 };

/**
 * Refuses a change that could lock us out, unless `allowed` (ended by NULL, or NULL) names the
 * setting. supply_mv: 0 is unknown. `kinds`: the fences that count. Errors: CM_ERROR_FENCE,
 * CM_ERROR_BROWN_OUT.
 */
CM_MUST_CHECK bool cm_settings_check_fences(struct cm_host *host, const struct cm_part *part,
                                            const uint8_t *before, const uint8_t *after,
                                            const char *const *allowed, uint16_t supply_mv,
                                            unsigned kinds);

/** Are the names (ended by NULL, or NULL) settings of the part? A slip in one must not look like a
 * permission. Error: CM_ERROR_SETTING_NAME. */
CM_MUST_CHECK bool cm_settings_check_names(struct cm_host *host, const struct cm_part *part,
                                           const char *const *names);

CM_DECLS_END

#endif
