/*
 * match: compare the chip with a file, and show where they differ.
 */
#include "begin.h"
#include "compare.h"
#include "draw/map_draw.h"
#include "match_recipe.h"
#include "say.h"
#include "words/capsule.h"
#include "words/fail.h"
#include "words/settings.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct {
    char *region, *number;
    int replace;
    struct map_options map;
} given;

/* What the file has, as used and blank. */
static void add_file(struct map *map, const struct cm_source *source)
{
    uint8_t chunk[4096];
    uint32_t start, count;
    for (uint32_t at = 0; source->extent(source->context, at, &start, &count) && count;
         at = start + count) {
        for (uint32_t done = 0, part; done < count; done += part) {
            part = count - done < sizeof chunk ? count - done : (uint32_t)sizeof chunk;
            if (source->read(source->context, start + done, chunk, part) == CM_OK)
                map_add(map, start + done, chunk, part, 0xFF);
        }
    }
}

static enum exit_code compare(struct tool *tool, const char *path, const struct cm_image_part *part,
                              int region)
{
    struct cm_report report;
    char took[SHORT_TEXT];
    struct map *map = given.map.path ? malloc(sizeof *map) : NULL;
    enum exit_code code = map ? map_begin_chip(tool, &given.map, map, (uint8_t)region) : EXIT_GOOD;
    if (!code && map)
        add_file(map, &part->source);
    enum cm_status status =
        code ? CM_STOPPED : compare_source(tool, &part->source, region, map, &report);
    if (!code && map && (status == CM_OK || status == CM_DIFFERS)) {
        snprintf(map->what, sizeof map->what, "compared with %.100s: %u of %u bytes differ", path,
                 (unsigned)report.differences, (unsigned)report.bytes);
        code = map_draw(tool, &given.map, map);
    }
    free(map);
    if (code)
        return code;
    set_json(tool, "report", json_report(&report));
    if (status)
        return tell_difference(tool, status, NULL, &report);
    say_last(tool, "all %u bytes match, read in %s", (unsigned)report.bytes,
             seconds_text(report.actual_us, took, sizeof took));
    return EXIT_GOOD;
}

/* --- capsules ---------------------------------------------------------------------------- */

static void show_setting_differences(struct tool *tool, struct cm_capsule_file *file)
{
    uint8_t now[CM_SETTING_BYTES], its[CM_SETTING_BYTES];
    if (cm_read_settings(&tool->session, now) != CM_OK)
        return;
    memcpy(its, now, sizeof its);
    if (!cm_capsule_file_settings(file, &tool->session, its))
        return; // the difference has been told; this only explains it
    if (memcmp(its, now, sizeof its) != 0)
        settings_show_change(tool, tool->session.part, now, its);
}

/* What a job wants of settings is bits: those that it leaves alone are the chip's. `before` is what
 * came of its memories. */
static enum exit_code compare_chosen(struct tool *tool, const struct cm_capsule_file *file,
                                     enum exit_code before)
{
    const struct cm_session *session = &tool->session;
    uint8_t now[CM_SETTING_BYTES], its[CM_SETTING_BYTES], chosen[CM_SETTING_BYTES] = {0};
    if (!file->capsule.work.setting_count)
        return before;
    enum cm_status status = cm_read_settings(&tool->session, now);
    if (status)
        return before ? before : tool_fail(tool, status);
    memcpy(its, now, sizeof its);
    cm_capsule_file_chosen(file, session->kit, session->part, its, chosen);
    return compare_settings(tool, now, its, chosen, before);
}

/* Every region of the capsule. Calibration bytes are each chip's own: on another chip of the kind
 * they are only told. */
static enum exit_code compare_capsule(struct tool *tool, struct cm_capsule_file *file)
{
    uint32_t bytes = 0;
    enum exit_code code = EXIT_GOOD;
    for (uint8_t i = 0; i < file->capsule.region_count; i++) {
        const char *name = file->capsule.regions[i].name;
        int index = cm_region_by_name(&tool->session, name);
        struct cm_source source = cm_capsule_source(&file->capsule, i, &file->places[i]);
        struct cm_region region;
        struct cm_report report;
        enum cm_status status = compare_source(tool, &source, index, NULL, &report);
        cm_region(&tool->session, (uint8_t)index, &region);
        bool is_chips_own = status == CM_DIFFERS && !(region.traits & CM_REGION_WRITABLE);
        bytes += report.bytes;
        if (file->capsule.has_work && !report.bytes && !status)
            continue; // settings are there, or a marker's room
        if (is_chips_own)
            say(tool, "note", "%s differs: this is another chip of the same kind", name);
        else if (status && !code)
            code = tell_difference(tool, status, name, &report);
        else
            say(tool, i ? "" : "compared", "%-12s %6u bytes %s", name, (unsigned)report.bytes,
                status ? "differ" : "match");
        if (status && status != CM_DIFFERS)
            return code;
    }
    if (file->capsule.has_work)
        code = compare_chosen(tool, file, code);
    else if (code)
        show_setting_differences(tool, file);
    if (!code)
        say_last(tool, "all %u bytes of the capsule match", (unsigned)bytes);
    return code;
}

static enum exit_code match_capsule(struct tool *tool, const char *path)
{
    struct cm_capsule_file *file = calloc(1, sizeof *file);
    if (!file)
        return tool_fail_memory(tool);
    enum exit_code code = host_code(tool, cm_capsule_file_load(&tool->host, path, file));
    if (!code)
        code = tool_begin(tool);
    if (!code) {
        capsule_say(tool, file);
        code = host_code(tool, cm_capsule_file_is_for(&tool->host, file, &tool->session));
    }
    if (!code)
        code = compare_capsule(tool, file);
    cm_capsule_file_free(file);
    free(file);
    return code;
}

static enum exit_code match_part(struct tool *tool, const struct cm_image_file *file,
                                 const struct cm_image_part *part, const char *name, int region)
{
    if (part->bytes == 0)
        return tool_fail_as(tool, EXIT_BAD_FILE, "the file holds nothing for this memory", name,
                            "name another with --region");
    say(tool, "file", "%s, %s: %u bytes, 0x%04X to 0x%04X, against %s", file->path,
        file->format->title, (unsigned)part->bytes, (unsigned)part->first, (unsigned)part->last,
        name);
    return compare(tool, file->path, part, region);
}

static enum exit_code match_file(struct tool *tool, const char *path)
{
    struct cm_image_file file;
    struct cm_image_part part;
    enum exit_code code = tool_begin(tool);
    if (code)
        return code;
    const char *name = given.region ? given.region : main_region(tool);
    int region = cm_region_by_name(&tool->session, name);
    if (region != CM_REGION_MAIN && region != CM_REGION_DATA)
        return tool_fail_as(tool, EXIT_USAGE, "no such memory", name,
                            "--region flash or --region eeprom");
    code = host_code(
        tool, cm_image_file_load(&tool->host, path, &file) &&
                  cm_image_file_part(&tool->host, &file, &tool->session, (uint8_t)region, &part));
    if (!code)
        code = match_part(tool, &file, &part, name, region);
    cm_image_file_free(&file);
    return code;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    if (!things[0] || things[1])
        return tool_fail_as(tool, EXIT_USAGE, "match takes one file",
                            things[0] ? things[1] : "none is named", "coldmint match FILE");
    tool->host.replace = given.replace;
    set_json(tool, "differences", json_array());
    if (cm_capsule_is_file(&tool->host, things[0]))
        return match_capsule(tool, things[0]);
    const char *dot = strrchr(things[0], '.');
    return dot && strcmp(dot, ".yaml") == 0 ? match_recipe(tool, things[0], given.number)
                                            : match_file(tool, things[0]);
}

static const struct poptOption options[] = {
    {"region", 'r', POPT_ARG_STRING, &given.region, 0, "memory to compare; flash if not given",
     "REGION"},
    {"number", 0, POPT_ARG_STRING, &given.number, 0,
     "of a recipe that gives each unit a number: this unit's", "N"},
    MAP_OPTIONS(given.map),
    {"replace", 0, POPT_ARG_NONE, &given.replace, 0, "overwrite the map's file if it exists", NULL},
    POPT_TABLEEND};

const struct verb verb_match = {
    .name = "match",
    .things = "[options] FILE",
    .summary = "compare the chip with a file, or with all that a capsule or a recipe makes of it",
    .example = "coldmint match --via sim:node.yaml strike-node.hex",
    .mistake = "matching against a newer build than the one that was put",
    .options = options,
    .run = run,
};
