/*
 * mint: brings one chip to the state that a recipe tells: settings, loader and application, EEPROM,
 * lock bits.
 */
#include "catalogue.h"
#include "job.h"
#include "recipe.h"
#include "settings.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* --- loader and application joined ------------------------------------------------------- */

/* The flash of a job as one piece of memory, with what is set in it. */
struct joined {
    uint8_t *bytes;
    bool *present;
    uint32_t count;
};

static void lay(struct joined *joined, const struct cm_source *source)
{
    uint32_t start, bytes;
    for (uint32_t at = 0; source->extent(source->context, at, &start, &bytes); at = start + bytes) {
        if (start >= joined->count)
            return;
        bytes = bytes < joined->count - start ? bytes : joined->count - start;
        if (source->read(source->context, start, joined->bytes + start, bytes) == CM_OK)
            memset(joined->present + start, true, bytes);
    }
}

static uint16_t word_at(const struct joined *joined, uint32_t at)
{
    return (uint16_t)(joined->bytes[at] | joined->bytes[at + 1] << 8);
}

static void set_word(struct joined *joined, uint32_t at, uint16_t word)
{
    joined->bytes[at] = (uint8_t)word;
    joined->bytes[at + 1] = (uint8_t)(word >> 8);
    joined->present[at] = joined->present[at + 1] = true;
}

/* Turns the piece back into an image that stands in for the job's flash files. */
static enum exit_code replace_wants(struct job *job, const struct joined *joined)
{
    struct image_file *file = &job->files[job->file_count];
    size_t memory = CM_IMAGE_MEMORY(joined->count / CM_IMAGE_BLOCK + 1);
    file->memory = malloc(memory);
    if (!file->memory)
        return tool_fail_as(job->tool, EXIT_BAD_FILE, "there is not enough memory", "",
                            "close other programs");
    job->file_count++;
    cm_image_init(&file->image, file->memory, memory);
    for (uint32_t at = 0; at < joined->count; at++) {
        if (joined->present[at] &&
            cm_image_add(&file->image, at, &joined->bytes[at], 1, 0) != CM_OK)
            return tool_fail_as(job->tool, EXIT_BAD_FILE, "the joined image has no room", "",
                                "make the files smaller");
    }
    job->wants[0] = (struct cm_want){CM_REGION_MAIN, cm_image_source(&file->image)};
    job->want_count = 1;
    return EXIT_GOOD;
}

/* The reset vector leads into the loader, which is the first file; the application's own jump
 * stands before it. */
static enum exit_code join_by_vector(struct job *job, const struct recipe *recipe,
                                     struct joined *joined)
{
    struct tool *tool = job->tool;
    uint32_t loader = job->files[0].first;
    uint16_t vector, own_jump;
    char evidence[200];
    for (uint8_t i = 0; i < job->want_count; i++)
        lay(joined, &job->wants[i].source);
    vector = word_at(joined, 0);
    snprintf(evidence, sizeof evidence,
             "the loader begins at 0x%04X; the application's first word is 0x%04X",
             (unsigned)loader, vector);
    if (!joined->present[0] || !joined->present[1] ||
        !cm_avr_lead_reset_to(recipe->part, loader, &vector, &own_jump))
        return tool_fail_as(
            tool, EXIT_BAD_FILE, "the reset vector cannot lead into the loader", evidence,
            "the loader comes first under 'flash'; the application must begin with an rjmp at 0");
    if (joined->present[loader - 2] || joined->present[loader - 1])
        return tool_fail_as(tool, EXIT_BAD_FILE, "the application reaches into the loader's jump",
                            evidence, "make it smaller");
    set_word(joined, 0, vector);
    set_word(joined, loader - 2, own_jump);
    say(tool, "joined",
        "reset leads into the loader at 0x%04X; the application's own jump stands at 0x%04X",
        (unsigned)loader, (unsigned)loader - 2);
    return replace_wants(job, joined);
}

static enum exit_code join(struct job *job, const struct recipe *recipe)
{
    struct cm_region region;
    if (!recipe->enter.text)
        return EXIT_GOOD;
    cm_region(&job->tool->session, CM_REGION_MAIN, &region);
    struct joined joined = {calloc(region.bytes, 1), calloc(region.bytes, sizeof(bool)),
                            region.bytes};
    enum exit_code code = joined.bytes && joined.present
                              ? join_by_vector(job, recipe, &joined)
                              : tool_fail_as(job->tool, EXIT_BAD_FILE, "there is not enough memory",
                                             "", "close other programs");
    free(joined.bytes);
    free(joined.present);
    return code;
}

/* --- the wanted state -------------------------------------------------------------------- */

/* The board's marker is part of what the chip shall hold. */
static enum exit_code want_marker(struct job *job, const struct recipe *recipe)
{
    if (!recipe->marker.text)
        return EXIT_GOOD;
    int region = cm_region_by_name(&job->tool->session, recipe->marker_region);
    if (region < 0)
        return tool_fail_as(job->tool, EXIT_BAD_FILE,
                            "the marker is in a memory that this chip does not have",
                            recipe->marker_region, "marker: eeprom 0x1F0 TEXT");
    job->marker = (struct cm_memory){(const uint8_t *)recipe->marker_text,
                                     (uint32_t)strlen(recipe->marker_text), recipe->marker_at};
    job->want_names[job->want_count] = "the marker";
    job->wants[job->want_count++] =
        (struct cm_want){(uint8_t)region, cm_memory_source(&job->marker)};
    return EXIT_GOOD;
}

static enum exit_code load(struct job *job, const struct recipe *recipe, char (*paths)[4096])
{
    json_t *list = json_array();
    enum exit_code code = EXIT_GOOD;
    set_json(job->tool, "files", list);
    for (uint8_t i = 0; i < recipe->flash_count && !code; i++, paths++) {
        recipe_file(recipe, &recipe->flash[i], *paths, sizeof *paths);
        code = job_add_file(job, *paths, CM_REGION_MAIN, list);
    }
    if (!code)
        code = job_check_overlap(job);
    if (!code)
        code = job_check_fit(job);
    if (!code)
        code = join(job, recipe);
    for (uint8_t i = 0; i < recipe->eeprom_count && !code; i++, paths++) {
        recipe_file(recipe, &recipe->eeprom[i], *paths, sizeof *paths);
        code = job_add_file(job, *paths, CM_REGION_DATA, list);
    }
    if (!code)
        code = want_marker(job, recipe);
    return code ? code : job_check_overlap(job);
}

static enum exit_code check_supply(struct tool *tool, const struct recipe *recipe, uint16_t mv)
{
    char evidence[200];
    if (mv == 0 || recipe->supply_from_mv == 0 ||
        (mv >= recipe->supply_from_mv && mv <= recipe->supply_to_mv))
        return EXIT_GOOD;
    snprintf(evidence, sizeof evidence,
             "%.2f V measured; line %u of the recipe wants %.2f to %.2f V", mv / 1000.0,
             recipe->supply.line, recipe->supply_from_mv / 1000.0, recipe->supply_to_mv / 1000.0);
    return tool_fail_as(tool, EXIT_REFUSED, "refused: the supply is not what the recipe wants",
                        evidence, "nothing was changed; set the supply right");
}

/*
 * What the recipe writes down is its word: a clock from the board where it tells the board's clock,
 * and lock bits under `lock`. Whatever else is fenced needs `allow`, in the recipe or on the
 * command line.
 */
static enum exit_code check_fences(struct job *job, const struct recipe *recipe, const uint8_t *now,
                                   uint16_t mv)
{
    const char *allowed[MOST_RECIPE_FILES + MOST_CHOICES + 1];
    unsigned kinds = ALL_FENCES & ~(1u << CM_FENCE_OPENS |
                                    1u << CM_FENCE_LOCKS); // opening is for --unprotect to say
    uint8_t count = 0;
    if (recipe->board_hz)
        kinds &= ~(1u << CM_FENCE_SOURCE);
    for (uint8_t i = 0; i < recipe->allow_count; i++)
        allowed[count++] = recipe->allow[i].text;
    for (char **name = job->tool->allow; name && *name && count < MOST_CHOICES; name++)
        allowed[count++] = *name;
    allowed[count] = NULL;
    return settings_check_fences(job->tool, recipe->part, now, job->settings, allowed, mv, kinds);
}

static enum exit_code want_settings(struct job *job, const struct recipe *recipe)
{
    struct tool *tool = job->tool;
    uint8_t now[CM_SETTING_BYTES];
    uint16_t mv = tool_supply_mv(tool);
    enum exit_code code = check_supply(tool, recipe, mv);
    if (code)
        return code;
    enum cm_status status = cm_read_settings(&tool->session, now);
    if (status)
        return tool_fail(tool, status);
    memcpy(job->settings, now, sizeof now);
    job->has_settings = true;
    job->board_hz = recipe->board_hz;
    code = recipe_choose(tool, recipe, job->settings);
    return code ? code : check_fences(job, recipe, now, mv);
}

/* --- the verb ---------------------------------------------------------------------------- */

static enum exit_code assert_chip(struct tool *tool, const struct recipe *recipe)
{
    char evidence[200];
    if (tool->chip && strcmp(tool->chip, recipe->chip.text) != 0) {
        snprintf(evidence, sizeof evidence, "--chip %.60s; the recipe is for %.60s", tool->chip,
                 recipe->chip.text);
        return tool_fail_as(tool, EXIT_USAGE, "the recipe is for another chip", evidence,
                            "leave --chip out: the recipe asserts its own");
    }
    free(tool->chip);
    tool->chip = strdup(recipe->chip.text);
    return EXIT_GOOD;
}

static void say_recipe(struct tool *tool, const struct recipe *recipe)
{
    say(tool, "recipe", "%s%s%s%s%s", recipe->title.text, recipe->board.text ? ", board " : "",
        recipe->board.text ? recipe->board.text : "", recipe->version.text ? ", version " : "",
        recipe->version.text ? recipe->version.text : "");
    json_t *object = json_pack("{s:o, s:o}", "title", json_text(recipe->title.text), "chip",
                               json_text(recipe->chip.text));
    if (object && recipe->board.text)
        json_object_set_new(object, "board", json_text(recipe->board.text));
    if (object && recipe->version.text)
        json_object_set_new(object, "version", json_text(recipe->version.text));
    set_json(tool, "recipe", object ? object : json_null());
}

/* The chip; or, where the catalogue has found it already, the same by the recipe's own name for it.
 */
static enum exit_code begin(struct tool *tool)
{
    if (!tool->open)
        return tool_begin(tool);
    enum cm_status status = cm_identify(&tool->session, tool->chip);
    return status ? tool_fail(tool, status) : EXIT_GOOD;
}

static enum exit_code mint(struct job *job, const struct recipe *recipe)
{
    static char paths[2 * MOST_RECIPE_FILES][4096];
    struct tool *tool = job->tool;
    say_recipe(tool, recipe);
    tool->board_hz = recipe->board_hz;
    enum exit_code code = assert_chip(tool, recipe);
    if (!code)
        code = begin(tool);
    if (!code)
        code = catalogue_check_marker(tool, recipe);
    if (!code)
        code = settings_check_allowed(tool, recipe->part);
    if (!code)
        carry_tell_left_behind(tool);
    if (!code)
        code = load(job, recipe, paths);
    if (!code)
        code = want_settings(job, recipe);
    if (!code)
        code = job_run(job);
    if (code)
        return code;
    if (tool->only_plan)
        say_last(tool, "planned only; %s is unchanged", chip_name(tool));
    else
        say_last(tool, "minted: this %s is a %s%s%s%s", chip_name(tool), recipe->title.text,
                 recipe->version.text ? ", version " : "",
                 recipe->version.text ? recipe->version.text : "",
                 tool->planned_work ? "" : "; it was before");
    return EXIT_GOOD;
}

static char *from_folder;

static enum exit_code mint_recipe(struct tool *tool, const char *path)
{
    struct job *job = calloc(1, sizeof *job);
    struct recipe *recipe = calloc(1, sizeof *recipe);
    enum exit_code code = EXIT_BAD_FILE;
    if (job && recipe) {
        job->tool = tool;
        code = recipe_load(tool, path, recipe);
        if (!code)
            code = mint(job, recipe);
        job_free(job);
        recipe_free(recipe);
    }
    free(job);
    free(recipe);
    return code;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    char chosen[4096];
    enum exit_code code = job_check_options(tool);
    if (code)
        return code;
    if (from_folder) {
        if (things[0] && things[1])
            return tool_fail_as(tool, EXIT_USAGE, "one title at a time", things[1],
                                "coldmint mint --from FOLDER \"strike node\"");
        enum exit_code found = catalogue_choose(tool, from_folder, things[0], chosen);
        if (found || !chosen[0])
            return found;
        return mint_recipe(tool, chosen);
    }
    if (!things[0] || things[1])
        return tool_fail_as(tool, EXIT_USAGE, "mint takes one recipe",
                            things[0] ? things[1] : "none is named", "coldmint mint RECIPE.yaml");
    return mint_recipe(tool, things[0]);
}

static const struct poptOption options[] = {
    {"from", 0, POPT_ARG_STRING, &from_folder, 0,
     "a folder of recipes and capsules: lists what fits the chip, newest first; with a TITLE, "
     "mints that",
     "FOLDER"},
    {"board", 0, POPT_ARG_STRING, &catalogue_board, 0,
     "with --from: which board this is, where no marker on the chip tells", "NAME"},
    {"version", 0, POPT_ARG_STRING, &catalogue_version, 0,
     "with --from: this version instead of the newest", "VERSION"},
    {"plan", 0, POPT_ARG_NONE, &the_tool.only_plan, 0,
     "show the steps and how long they take, and do nothing", NULL},
    {"unprotect", 0, POPT_ARG_NONE, &the_tool.unprotect, 0, "a locked chip may be erased", NULL},
    ANYWAY_OPTION,
    KEEP_BOOT_OPTION,
    LOSE_BOOT_OPTION,
    LOSE_DATA_OPTION,
    {"allow", 0, POPT_ARG_ARGV, &the_tool.allow, 0,
     "make a choice of this setting that is refused otherwise", "SETTING"},
    WAIT_OPTION,
    NO_BACKUP_OPTION,
    POPT_TABLEEND};

const struct verb verb_mint = {
    .name = "mint",
    .things = "[options] RECIPE | --from FOLDER [TITLE]",
    .summary =
        "make a unit after a recipe: settings, loader, firmware, eeprom and lock bits in one go",
    .example = "coldmint mint --via sim:node.yaml recipes/strike-node.yaml",
    .mistake =
        "a recipe for a crystal, and a board without one: 'board-clock' says that there is one",
    .options = options,
    .run = run,
};
