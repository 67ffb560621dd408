/*
 * An inspection: every byte and setting that a recipe would write, against the chip. Nothing is
 * written, so that no fence is in the way.
 */
#include "match_recipe.h"
#include "begin.h"
#include "compare.h"
#include "job.h"
#include "say.h"
#include "unit.h"
#include "words/fail.h"
#include <coldmint/host/settings.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static enum exit_code compare_wants(struct tool *tool, const struct cm_job *job, uint32_t *bytes)
{
    enum exit_code code = EXIT_GOOD;
    for (uint8_t i = 0; i < job->want_count; i++) {
        struct cm_region region;
        struct cm_report report = {0};
        cm_region(&tool->session, job->wants[i].region, &region);
        enum cm_status status =
            compare_source(tool, &job->wants[i].source, job->wants[i].region, NULL, &report);
        *bytes += report.bytes;
        if (status && !code)
            code = tell_difference(tool, status, region.name, &report);
        if (status && status != CM_DIFFERS)
            return code;
        say(tool, i ? "" : "compared", "%-12s %6u bytes %s", region.name, (unsigned)report.bytes,
            status ? "differ" : "match");
    }
    return code;
}

/* The settings that the recipe names. */
static enum exit_code compare_named(struct tool *tool, const struct cm_recipe *recipe,
                                    enum exit_code before)
{
    uint8_t now[CM_SETTING_BYTES], its[CM_SETTING_BYTES];
    if (!cm_words_of(&tool->session))
        return before;
    enum cm_status status = cm_read_settings(&tool->session, now);
    if (status)
        return before ? before : tool_fail(tool, status);
    memcpy(its, now, sizeof its);
    if (!cm_recipe_choose(&tool->host, recipe, its))
        return before ? before : host_code(tool, false);
    return compare_settings(tool, now, its, NULL, before);
}

static enum exit_code match(struct tool *tool, struct cm_job *job, const struct cm_recipe *recipe,
                            const char *number)
{
    const struct unit_options given = {.number = (char *)(uintptr_t)number};
    struct unit unit;
    uint32_t bytes = 0;
    enum exit_code code = job_take_chip(tool, recipe);
    if (!code)
        code = tool_begin(tool);
    if (!code)
        code = unit_begin(tool, &unit, recipe, NULL, &given, job);
    if (code)
        return code;
    job->unit_facts = unit.has_facts ? &unit.facts : NULL;
    code = host_code(tool, cm_job_want_contents(job, recipe));
    if (code)
        return code;
    code = compare_wants(tool, job, &bytes);
    if (!code || code == EXIT_DIFFERS)
        code = compare_named(tool, recipe, code);
    if (!code)
        say_last(tool, "this %s is a %s: all %u bytes and its settings match", chip_name(tool),
                 recipe->title.text, (unsigned)bytes);
    return code;
}

enum exit_code match_recipe(struct tool *tool, const char *path, const char *number)
{
    static const struct job_options NOTHING = {.only_plan = true};
    struct cm_recipe *recipe = calloc(1, sizeof *recipe);
    struct cm_job *job = recipe ? job_new(tool, &NOTHING) : NULL;
    enum exit_code code = recipe ? tool->words.code : tool_fail_memory(tool);
    if (job)
        code = host_code(tool, cm_recipe_load(&tool->host, path, recipe));
    if (job && !code)
        code = match(tool, job, recipe, number);
    cm_job_free(job);
    if (recipe)
        cm_recipe_free(recipe);
    free(recipe);
    return code;
}
