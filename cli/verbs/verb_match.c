/*
 * match: compare the chip with a file, and show where they differ.
 */
#include "begin.h"
#include "draw/map_draw.h"
#include "progress.h"
#include "say.h"
#include "words/capsule.h"
#include "words/fail.h"
#include "words/settings.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct {
    char *region;
    int replace;
    struct map_options map;
} given;

enum { ROW = 16, MOST_ROWS = 8 };

struct rows {
    struct tool *tool;
    const struct cm_source *source;
    uint32_t at; /* address of the row at hand; UINT32_MAX: none */
    uint8_t found[ROW];
    bool differs[ROW];
    unsigned shown, hidden;
    json_t *list;
    struct map *map; /* NULL: none is wanted */
};

static bool byte_in_file(const struct cm_source *source, uint32_t address, uint8_t *byte)
{
    uint32_t start, count;
    return source->extent(source->context, address, &start, &count) && start == address &&
           source->read(source->context, address, byte, 1) == CM_OK;
}

/* The file's row whole; below it, the chip's bytes where they are others. */
static void print_row(const struct rows *rows)
{
    char file[ROW * 3 + 1] = "", chip[ROW * 40] = "";
    for (uint32_t i = 0; i < ROW; i++) {
        uint8_t byte;
        size_t used = strlen(file), chip_used = strlen(chip);
        if (byte_in_file(rows->source, rows->at + i, &byte))
            snprintf(file + used, sizeof file - used, " %02X", byte);
        else
            snprintf(file + used, sizeof file - used, "   ");
        if (rows->differs[i])
            snprintf(chip + chip_used, sizeof chip - chip_used, " %s%02X%s", colour("1;31"),
                     rows->found[i], colour("0"));
        else
            snprintf(chip + chip_used, sizeof chip - chip_used, "  .");
    }
    int width = snprintf(NULL, 0, "0x%04X", (unsigned)rows->at);
    say(rows->tool, rows->shown ? "" : "differs", "0x%04X  file %s", (unsigned)rows->at, file);
    say(rows->tool, "", "%*s  chip %s", width, "", chip);
}

static void flush_row(struct rows *rows)
{
    if (rows->at == UINT32_MAX)
        return;
    if (rows->shown < MOST_ROWS) {
        print_row(rows);
        rows->shown++;
    } else {
        rows->hidden++;
    }
    rows->at = UINT32_MAX;
    memset(rows->differs, 0, sizeof rows->differs);
}

static bool on_difference(void *context, uint32_t address, uint8_t wanted, uint8_t found)
{
    struct rows *rows = context;
    uint32_t row = address - address % ROW;
    if (rows->at != row) {
        flush_row(rows);
        rows->at = row;
    }
    if (rows->map)
        map_differs(rows->map, address);
    rows->found[address % ROW] = found;
    rows->differs[address % ROW] = true;
    if (json_array_size(rows->list) < 100)
        json_array_append_new(rows->list,
                              json_pack("{s:I, s:i, s:i}", "address", (json_int_t)address, "file",
                                        (int)wanted, "chip", (int)found));
    return true;
}

static bool on_progress(void *context, const struct cm_progress *progress)
{
    return tool_progress(((struct rows *)context)->tool, progress);
}

/* Compares one region; the differences are shown, the failure is left in the session. */
static enum cm_status compare_source(struct tool *tool, const struct cm_source *source, int region,
                                     struct map *map, struct cm_report *report)
{
    struct rows rows = {.map = map,
                        .tool = tool,
                        .source = source,
                        .at = UINT32_MAX,
                        .list = json_object_get(tool->answer, "differences")};
    struct cm_want want = {(uint8_t)region, *source};
    enum cm_status status =
        cm_compare(&tool->session, &want, on_difference, on_progress, &rows, report);
    tool_progress_end(tool);
    flush_row(&rows);
    if (rows.hidden)
        say(tool, "", "... and %u more rows", rows.hidden);
    return status;
}

static enum exit_code tell_difference(struct tool *tool, enum cm_status status, const char *name,
                                      const struct cm_report *report)
{
    const struct cm_failure *failure = &tool->session.failure;
    enum exit_code code = tool_fail(tool, status);
    if (status != CM_DIFFERS)
        return code;
    snprintf(tool->words.what, sizeof tool->words.what, "chip and file differ%s%s",
             name ? " in " : "", name ? name : "");
    snprintf(tool->words.evidence, sizeof tool->words.evidence,
             "%u of %u bytes differ, the first at 0x%04X: file 0x%02X, chip 0x%02X",
             (unsigned)report->differences, (unsigned)report->bytes, (unsigned)failure->address,
             failure->expected, failure->found);
    return code;
}

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
    const struct cm_part *part = session->part;
    uint8_t now[CM_SETTING_BYTES], its[CM_SETTING_BYTES], chosen[CM_SETTING_BYTES] = {0};
    struct cm_setting_byte byte, first = {.name = NULL};
    unsigned count = 0, differing = 0, at = 0;
    if (!file->capsule.work.setting_count)
        return before;
    enum cm_status status = cm_read_settings(&tool->session, now);
    if (status)
        return before ? before : tool_fail(tool, status);
    memcpy(its, now, sizeof its);
    cm_capsule_file_chosen(file, session->kit, part, its, chosen);
    for (uint8_t i = 0; session->kit->words->byte(part, i, &byte); i++) {
        count += chosen[i] != 0;
        if (its[i] != now[i] && !differing++)
            first = byte, at = i;
    }
    if (!differing) {
        say(tool, "", "%-12s %6u bytes match", "settings", count);
        return before;
    }
    say(tool, "", "%-12s %6u bytes differ", "settings", count);
    settings_show_change(tool, part, now, its);
    if (before) // what else differs has been told
        return before;
    enum exit_code code = tool_fail(tool, CM_DIFFERS);
    snprintf(tool->words.what, sizeof tool->words.what, "chip and file differ in settings");
    snprintf(tool->words.evidence, sizeof tool->words.evidence,
             "%u of %u bytes differ, the first is %s: file 0x%02X, chip 0x%02X", differing, count,
             first.name, its[at], now[at]);
    return code;
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
    return cm_capsule_is_file(&tool->host, things[0]) ? match_capsule(tool, things[0])
                                                      : match_file(tool, things[0]);
}

static const struct poptOption options[] = {
    {"region", 'r', POPT_ARG_STRING, &given.region, 0, "memory to compare; flash if not given",
     "REGION"},
    MAP_OPTIONS(given.map),
    {"replace", 0, POPT_ARG_NONE, &given.replace, 0, "overwrite the map's file if it exists", NULL},
    POPT_TABLEEND};

const struct verb verb_match = {
    .name = "match",
    .things = "[options] FILE",
    .summary = "compare chip and file, or all of a capsule, and show where they differ",
    .example = "coldmint match --via sim:node.yaml strike-node.hex",
    .mistake = "matching against a newer build than the one that was put",
    .options = options,
    .run = run,
};
