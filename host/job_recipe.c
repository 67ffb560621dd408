/*
 * What a recipe wants of a chip: files, loader and application joined, marker, settings.
 */
#include "flat.h"
#include "job_inside.h"
#include "unit.h"
#include <coldmint/host/settings.h>
#include <stdlib.h>
#include <string.h>

/* --- loader and application joined ------------------------------------------------------- */

static uint16_t word_at(const struct flat *joined, uint32_t at)
{
    return (uint16_t)(joined->bytes[at] | joined->bytes[at + 1] << 8);
}

static void set_word(struct flat *joined, uint32_t at, uint16_t word)
{
    joined->bytes[at] = (uint8_t)word;
    joined->bytes[at + 1] = (uint8_t)(word >> 8);
    joined->present[at] = joined->present[at + 1] = true;
}

/* Turns the piece back into an image that stands in for the job's flash files. */
static bool replace_wants(struct cm_job *job, const struct flat *joined)
{
    size_t memory = CM_IMAGE_MEMORY(joined->count / CM_IMAGE_BLOCK + 1);
    job->joined_memory = malloc(memory);
    if (!job->joined_memory)
        return host_fail(job->host, CM_ERROR_NO_MEMORY, NULL);
    cm_image_init(&job->joined, job->joined_memory, memory);
    for (uint32_t at = 0; at < joined->count; at++) {
        if (joined->present[at] &&
            cm_image_add(&job->joined, at, &joined->bytes[at], 1, 0) != CM_OK)
            return host_fail(job->host, CM_ERROR_NO_MEMORY, NULL);
    }
    job->wants[0] = (struct cm_want){CM_REGION_MAIN, cm_image_source(&job->joined)};
    job->want_count = 1;
    return true;
}

static bool fail_join(struct cm_job *job, enum cm_error_kind kind, uint32_t loader, uint16_t first)
{
    struct cm_error *error = host_error(job->host, kind, NULL);
    error->address = loader;
    error->found = first;
    return false;
}

/* The reset vector leads into the loader, which is the first file; the application's own jump
 * stands before it. */
static bool join_by_vector(struct cm_job *job, const struct cm_recipe *recipe, struct flat *joined)
{
    uint32_t loader = job->parts[0].first;
    const struct cm_about *about = job->session->kit->about;
    uint16_t own_jump;
    if (!flat_lay_wants(joined, job, CM_REGION_MAIN))
        return false;
    const uint16_t first = word_at(joined, 0);
    uint16_t vector = first;
    if (!joined->present[0] || !joined->present[1] || !about->lead_reset_to ||
        !about->lead_reset_to(recipe->part, loader, &vector, &own_jump))
        return fail_join(job, CM_ERROR_JOIN_VECTOR, loader, first);
    if (joined->present[loader - 2] || joined->present[loader - 1])
        return fail_join(job, CM_ERROR_JOIN_JUMP, loader, first);
    set_word(joined, 0, vector);
    set_word(joined, loader - 2, own_jump);
    job_tell(job, &(struct cm_note){.kind = CM_NOTE_JOINED, .first = loader, .last = loader - 2});
    return replace_wants(job, joined);
}

static bool join(struct cm_job *job, const struct cm_recipe *recipe)
{
    struct cm_region region;
    if (!recipe->enter.text)
        return true;
    cm_region(job->session, CM_REGION_MAIN, &region);
    struct flat joined;
    bool good = flat_begin(&joined, region.bytes) ? join_by_vector(job, recipe, &joined)
                                                  : host_fail(job->host, CM_ERROR_NO_MEMORY, NULL);
    flat_free(&joined);
    return good;
}

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

bool recipe_want_contents(struct cm_job *job, const struct cm_recipe *recipe)
{
    return want_files(job, recipe, recipe->flash, recipe->flash_count, CM_REGION_MAIN,
                      job->recipe_paths) &&
           cm_job_check(job) && join(job, recipe) &&
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
           recipe_want_contents(job, recipe) && want_settings(job, recipe);
}
