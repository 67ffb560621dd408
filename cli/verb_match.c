/*
 * match: compare the chip with a file, and show where they differ.
 */
#include "tool.h"
#include <stdio.h>
#include <string.h>

enum { ROW = 16, MOST_ROWS = 8 };

struct rows {
    struct tool *tool;
    const struct cm_source *source;
    uint32_t at; /* address of the row at hand; UINT32_MAX: none */
    uint8_t found[ROW];
    bool differs[ROW];
    unsigned shown, hidden;
    json_t *list;
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
    char file[ROW * 3 + 1] = "", chip[ROW * 20] = "";
    for (uint32_t i = 0; i < ROW; i++) {
        uint8_t byte;
        size_t used = strlen(file), chip_used = strlen(chip);
        if (byte_in_file(rows->source, rows->at + i, &byte))
            snprintf(file + used, sizeof file - used, " %02X", byte);
        else
            snprintf(file + used, sizeof file - used, "   ");
        if (rows->differs[i])
            snprintf(chip + chip_used, sizeof chip - chip_used, " %s%02X%s", colour("\033[1;31m"), rows->found[i],
                     colour("\033[0m"));
        else
            snprintf(chip + chip_used, sizeof chip - chip_used, "  .");
    }
    say(rows->tool, rows->shown ? "" : "differs", "0x%04X  file %s", (unsigned)rows->at, file);
    say(rows->tool, "", "        chip %s", chip);
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
    rows->found[address % ROW] = found;
    rows->differs[address % ROW] = true;
    if (json_array_size(rows->list) < 100)
        json_array_append_new(
            rows->list, json_pack("{s:I, s:i, s:i}", "address", (json_int_t)address, "file", (int)wanted, "chip", (int)found));
    return true;
}

static bool on_progress(void *context, const struct cm_progress *progress)
{
    return tool_progress(((struct rows *)context)->tool, progress);
}

static enum exit_code compare(struct tool *tool, struct image_file *file, int region)
{
    struct rows rows = {.tool = tool, .source = &file->source, .at = UINT32_MAX, .list = json_array()};
    struct cm_want want = {(uint8_t)region, file->source};
    struct cm_report report;
    char took[SHORT_TEXT];
    set_json(tool, "differences", rows.list);
    enum cm_status status = cm_compare(&tool->session, &want, on_difference, on_progress, &rows, &report);
    tool_progress_end(tool);
    flush_row(&rows);
    if (rows.hidden)
        say(tool, "", "... and %u more rows", rows.hidden);
    set_json(tool, "report", json_report(&report));
    if (status == CM_OK) {
        say_last(tool, "all %u bytes match, read in %s", (unsigned)report.bytes, seconds_text(report.actual_us, took, sizeof took));
        return EXIT_GOOD;
    }
    enum exit_code code = tool_fail(tool, status);
    if (status == CM_DIFFERS) {
        snprintf(tool->words.what, sizeof tool->words.what, "chip and file differ");
        snprintf(tool->words.evidence, sizeof tool->words.evidence,
                 "%u of %u bytes differ, the first at 0x%04X: file 0x%02X, chip 0x%02X", (unsigned)report.differences,
                 (unsigned)report.bytes, (unsigned)tool->session.failure.address, tool->session.failure.expected,
                 tool->session.failure.found);
    }
    return code;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    if (!things[0] || things[1])
        return tool_fail_as(tool, EXIT_USAGE, "match takes one file", things[0] ? things[1] : "none is named",
                            "coldmint match FILE");
    struct image_file file;
    enum exit_code code = tool_begin(tool);
    if (code)
        return code;
    const char *name = tool->region ? tool->region : "flash";
    int region = cm_region_by_name(&tool->session, name);
    if (region != CM_REGION_MAIN && region != CM_REGION_DATA)
        return tool_fail_as(tool, EXIT_USAGE, "no such memory", name, "--region flash or --region eeprom");
    code = image_file_load(tool, things[0], name, &file);
    if (!code && file.bytes == 0)
        code = tool_fail_as(tool, EXIT_BAD_FILE, "the file holds nothing for this memory", name, "name another with --region");
    if (!code) {
        say(tool, "file", "%s, %s: %u bytes, 0x%04X to 0x%04X, against %s", things[0], file.format, (unsigned)file.bytes,
            (unsigned)file.first, (unsigned)file.last, name);
        code = compare(tool, &file, region);
    }
    image_file_free(&file);
    return code;
}

static const struct poptOption options[] = {
    {"region", 'r', POPT_ARG_STRING, &the_tool.region, 0, "memory to compare; flash if not given", "REGION"}, POPT_TABLEEND};

const struct verb verb_match = {
    .name = "match",
    .things = "[options] FILE",
    .summary = "compare chip and file, and show where they differ",
    .example = "coldmint match --via sim:node.yaml strike-node.hex",
    .mistake = "matching against a newer build than the one that was put",
    .options = options,
    .run = run,
};
