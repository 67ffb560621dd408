/*
 * What a recipe wants of a chip: files, marker, settings.
 */
#include "join.h"
#include "unit.h"
#include <coldmint/host/settings.h>
#include <stdlib.h>
#include <string.h>

/* --- contents ---------------------------------------------------------------------------- */

/* The board's marker is part of what the chip shall hold. */
static bool want_marker(struct cm_job *job, const struct cm_recipe *recipe)
{
    if (!recipe->marker.text)
        return true;
    int region = cm_region_by_name(job->session, recipe->marker_region);
    if (region < 0) {
        HOST_COPY(host_error(job->host, CM_ERROR_MARKER_REGION, recipe->path)->text,
                  recipe->marker_region);
        return false;
    }
    job->marker = (struct cm_memory){(const uint8_t *)recipe->marker_text,
                                     (uint32_t)strlen(recipe->marker_text), recipe->marker_at};
    job->want_names[job->want_count] = "the marker";
    job->wants[job->want_count++] =
        (struct cm_want){(uint8_t)region, cm_memory_source(&job->marker)};
    return true;
}

/* A region's files; their paths go into `paths`, which the job keeps. */
static bool want_files(struct cm_job *job, const struct cm_recipe *recipe,
                       const struct cm_recipe_text *files, uint8_t count, uint8_t region,
                       char (*paths)[CM_FILE_PATH])
{
    for (uint8_t i = 0; i < count; i++) {
        bool added;
        cm_recipe_file(recipe, &files[i], paths[i], sizeof paths[i]);
        if (!cm_job_want_file(job, paths[i], region, &added))
            return false;
    }
    return true;
}

bool cm_job_want_contents(struct cm_job *job, const struct cm_recipe *recipe)
{
    return want_files(job, recipe, recipe->flash, recipe->flash_count, CM_REGION_MAIN,
                      job->recipe_paths) &&
           cm_job_check(job) && (!recipe->enter.text || join_recipe(job)) &&
           want_files(job, recipe, recipe->eeprom, recipe->eeprom_count, CM_REGION_DATA,
                      job->recipe_paths + CM_RECIPE_FILES) &&
           want_marker(job, recipe) && cm_job_check(job) && unit_want(job, recipe) &&
           cm_job_check(job);
}

/* --- settings ---------------------------------------------------------------------------- */

/*
 * What the recipe writes down is its word: a clock from the board where it tells the board's clock,
 * and lock bits under `lock`. Whatever else is fenced needs `allow`, in the recipe or from the
 * caller.
 */
bool recipe_check_fences(struct cm_job *job, const struct cm_recipe *recipe, const uint8_t *now,
                         uint16_t mv)
{
    enum { MOST = 40 };
    const char *allowed[CM_RECIPE_FILES + MOST + 1];
    unsigned kinds = CM_ALL_FENCES & ~(1u << CM_FENCE_OPENS |
                                       1u << CM_FENCE_LOCKS); // opening is for `unprotect` to say
    uint8_t count = 0;
    if (recipe->board_hz)
        kinds &= ~(1u << CM_FENCE_SOURCE);
    for (uint8_t i = 0; i < recipe->allow_count; i++)
        allowed[count++] = recipe->allow[i].text;
    const char *const *name = job->options.allow;
    while (name && *name && count < CM_RECIPE_FILES + MOST)
        allowed[count++] = *name++;
    allowed[count] = NULL;
    return cm_settings_check_fences(job->host, recipe->part, now, job->settings, allowed, mv,
                                    kinds);
}

static bool want_settings(struct cm_job *job, const struct cm_recipe *recipe)
{
    uint8_t now[CM_SETTING_BYTES];
    const uint16_t mv = supply_or_0(job->session);
    if (!cm_recipe_check_supply(job->host, recipe, mv))
        return false;
    enum cm_status status = cm_read_settings(job->session, now);
    if (status)
        return host_fail_session(job->host, status);
    memcpy(job->settings, now, sizeof now);
    job->has_settings = true;
    job->board_hz = recipe->board_hz;
    return cm_recipe_choose(job->host, recipe, job->settings) &&
           recipe_check_fences(job, recipe, now, mv);
}

bool cm_job_want_recipe(struct cm_job *job, const struct cm_recipe *recipe)
{
    return cm_recipe_check_marker(job->host, job->session, recipe) &&
           cm_settings_check_names(job->host, recipe->part, job->options.allow) &&
           cm_job_want_contents(job, recipe) && want_settings(job, recipe);
}
