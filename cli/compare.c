/*
 * Chip and file, compared: where they differ, row by row, and which settings do.
 */
#include "compare.h"
#include "progress.h"
#include "say.h"
#include "words/fail.h"
#include "words/settings.h"
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
    struct map *map; /* NULL: none is wanted */
};

static bool byte_in_file(const struct cm_source *source, uint32_t address, uint8_t *byte)
{
    uint32_t start, count;
    return source->extent(source->context, address, &start, &count) && start == address &&
           source->read(source->context, address, byte, 1) == CM_OK;
}

/* The file's row, as far as it has bytes there; below it, the chip's bytes where they are others.
 */
static void print_row(const struct rows *rows)
{
    char file[ROW * 3 + 1] = "", chip[ROW * 40] = "";
    size_t used = 0, chip_used = 0;
    for (uint32_t i = 0; i < ROW; i++) {
        uint8_t byte;
        int column = 3 * (int)i - (int)used; // up to here the file has nothing
        if (!byte_in_file(rows->source, rows->at + i, &byte))
            continue;
        used += (size_t)snprintf(file + used, sizeof file - used, "%*s %02X", column, "", byte);
        chip_used += (size_t)snprintf(chip + chip_used, sizeof chip - chip_used, "%*s", column, "");
        if (rows->differs[i])
            chip_used += (size_t)snprintf(chip + chip_used, sizeof chip - chip_used, " %s%02X%s",
                                          colour("1;31"), rows->found[i], colour("0"));
        else
            chip_used += (size_t)snprintf(chip + chip_used, sizeof chip - chip_used, "  .");
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
enum cm_status compare_source(struct tool *tool, const struct cm_source *source, int region,
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

enum exit_code tell_difference(struct tool *tool, enum cm_status status, const char *name,
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

/* --- settings ---------------------------------------------------------------------------- */

enum exit_code compare_settings(struct tool *tool, const uint8_t *now, const uint8_t *its,
                                const uint8_t *chosen, enum exit_code before)
{
    const struct cm_session *session = &tool->session;
    struct cm_setting_byte byte, first = {.name = NULL};
    unsigned count = 0, differing = 0, at = 0;
    for (uint8_t i = 0; session->kit->words->byte(session->part, i, &byte); i++) {
        count += !chosen || chosen[i] != 0;
        if (its[i] != now[i] && !differing++)
            first = byte, at = i;
    }
    say(tool, "", "%-12s %6u bytes %s", "settings", count, differing ? "differ" : "match");
    if (!differing)
        return before;
    settings_show_change(tool, session->part, now, its);
    if (before) // what else differs has been told
        return before;
    enum exit_code code = tool_fail(tool, CM_DIFFERS);
    snprintf(tool->words.what, sizeof tool->words.what, "chip and file differ in settings");
    snprintf(tool->words.evidence, sizeof tool->words.evidence,
             "%u of %u bytes differ, the first is %s: file 0x%02X, chip 0x%02X", differing, count,
             first.name, its[at], now[at]);
    return code;
}
