/*
 * Choices of settings by people, and the fences around them.
 */
#include "inside.h"
#include <coldmint/host/settings.h>
#include <string.h>

/* --- choosing ---------------------------------------------------------------------------- */

static bool fail(struct cm_host *host, enum cm_error_kind kind, const struct cm_part *part,
                 const uint8_t *bytes, const char *choice)
{
    struct cm_error *error = host_error(host, kind, NULL);
    error->part = part;
    memcpy(error->settings, bytes, sizeof error->settings);
    HOST_COPY(error->text, choice);
    return false;
}

bool cm_setting_choose(struct cm_host *host, const struct cm_part *part, uint8_t *bytes,
                       const char *choice)
{
    const struct cm_words *words = cm_host_kit_of(host, part)->words;
    const char *equals = strchr(choice, '=');
    char name[64];
    if (!equals)
        return fail(host, CM_ERROR_SETTING_FORM, part, bytes, choice);
    snprintf(name, sizeof name, "%.*s", (int)(equals - choice), choice);
    enum cm_status status = cm_choose(words, part, bytes, name, equals + 1);
    if (status == CM_OK)
        return true;
    return fail(host, status == CM_BAD_ARGUMENT ? CM_ERROR_SETTING_NAME : CM_ERROR_SETTING_CHOICE,
                part, bytes, choice);
}

uint8_t cm_setting_rank(const struct cm_host *host, const struct cm_part *part,
                        const uint8_t *bytes, const char *choice)
{
    const struct cm_words *words = cm_host_kit_of(host, part)->words;
    struct cm_setting setting;
    size_t length = strcspn(choice, "=");
    for (uint8_t i = 0; i < CM_SETTING_RANKS - 1 && words->setting(part, bytes, i, &setting); i++) {
        if (strlen(setting.name) == length && strncmp(setting.name, choice, length) == 0)
            return i;
    }
    return CM_SETTING_RANKS - 1;
}

void cm_settings_as_delivered(const struct cm_host *host, const struct cm_part *part,
                              uint8_t *bytes)
{
    const struct cm_about *about = cm_host_kit_of(host, part)->about;
    memset(bytes, 0, CM_SETTING_BYTES);
    if (about->delivered)
        about->delivered(part, bytes);
}

/* --- fences ------------------------------------------------------------------------------ */

static bool is_allowed(const char *const *allowed, const char *name)
{
    for (; allowed && *allowed; allowed++) {
        if (strcmp(*allowed, name) == 0)
            return true;
    }
    return false;
}

/* A level above the supply would hold the chip in reset from now on. */
static bool check_brown_out(struct cm_host *host, const struct cm_part *part, const uint8_t *before,
                            const uint8_t *after, const char *const *allowed, uint16_t supply_mv)
{
    const struct cm_words *words = cm_host_kit_of(host, part)->words;
    uint16_t level = words->brown_out_mv(part, after);
    if (supply_mv == 0 || level <= supply_mv || level == words->brown_out_mv(part, before) ||
        is_allowed(allowed, "brown-out"))
        return true;
    struct cm_error *error = host_error(host, CM_ERROR_BROWN_OUT, NULL);
    error->expected_mv = level;
    error->found_mv = supply_mv;
    return false;
}

bool cm_settings_check_fences(struct cm_host *host, const struct cm_part *part,
                              const uint8_t *before, const uint8_t *after,
                              const char *const *allowed, uint16_t supply_mv, unsigned kinds)
{
    const struct cm_words *words = cm_host_kit_of(host, part)->words;
    struct cm_fence fence;
    for (uint8_t i = 0; cm_next_fence(words, part, before, after, i, &fence);
         i = (uint8_t)(fence.index + 1)) {
        bool can_be_allowed = fence.kind != CM_FENCE_NOT_HERE && fence.kind != CM_FENCE_OPENS;
        if (!(kinds >> fence.kind & 1) ||
            (can_be_allowed && is_allowed(allowed, fence.setting.name)))
            continue;
        host_error(host, CM_ERROR_FENCE, NULL)->fence = fence;
        return false;
    }
    return check_brown_out(host, part, before, after, allowed, supply_mv);
}

bool cm_settings_check_names(struct cm_host *host, const struct cm_part *part,
                             const char *const *names)
{
    const uint8_t any[CM_SETTING_BYTES] = {0};
    const struct cm_words *words = cm_host_kit_of(host, part)->words;
    struct cm_setting setting;
    for (; names && *names; names++) {
        if (!cm_setting_by_name(words, part, any, *names, &setting))
            return fail(host, CM_ERROR_SETTING_NAME, part, any, *names);
    }
    return true;
}
