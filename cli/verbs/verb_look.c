/*
 * look: what is connected, and how it stands. Changes nothing.
 */
#include "begin.h"
#include "draw/map_draw.h"
#include "live.h"
#include "progress.h"
#include "say.h"
#include "words/fail.h"
#include "words/guard.h"
#include "words/settings.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct {
    int replace, live;
    struct map_options map;
} given;

static void say_supply(struct tool *tool)
{
    const struct cm_part *part = tool->session.part;
    uint16_t mv;
    if (cm_supply_mv(&tool->session, &mv) != CM_OK) {
        say(tool, "supply", "not measured by this port; the part wants %.1f to %.1f V",
            part->supply_min_mv / 1000.0, part->supply_max_mv / 1000.0);
        return;
    }
    bool good = mv >= part->supply_min_mv && mv <= part->supply_max_mv;
    say(tool, "supply", "%.2f V, %s the part's %.1f to %.1f V", mv / 1000.0,
        good ? "within" : "OUTSIDE", part->supply_min_mv / 1000.0, part->supply_max_mv / 1000.0);
    set_json(tool, "supply_mv", json_integer(mv));
}

static void say_clock(struct tool *tool)
{
    uint32_t hz = tool->session.clock_hz;
    if (tool->session.family->bus->id == CM_BUS_PARALLEL && hz)
        say(tool, "bus", "%u ns a cycle", (unsigned)(1000000000u / hz));
    else if (hz >= 1000000)
        say(tool, "bus", "%.2f MHz", hz / 1e6);
    else
        say(tool, "bus", "%.1f kHz%s", hz / 1e3,
            tool->given.clock || is_memory(tool, tool->session.part)
                ? ""
                : "; --clock makes it faster where you know the chip's own clock");
}

/* What of the contract this port cannot keep. */
static void say_held(struct tool *tool)
{
    static const struct {
        enum cm_line line;
        const char *name;
    } LINES[] = {{CM_LINE_SCK, "SCK"},
                 {CM_LINE_MOSI, "MOSI"},
                 {CM_LINE_SELECT, "SELECT"},
                 {CM_LINE_RESET, "RESET"}};
    char names[40] = "";
    for (size_t i = 0, used = 0; i < sizeof LINES / sizeof LINES[0]; i++) {
        if (tool->port->traits.holds & CM_LINE_BIT(LINES[i].line))
            used += (size_t)snprintf(names + used, sizeof names - used, "%s%s", used ? ", " : "",
                                     LINES[i].name);
    }
    if (names[0])
        say(tool, "port",
            "goes on driving %s when it is done: a chip on a board of its own wants "
            "a resistor in each, or the wires off",
            names);
    set_json(tool, "driven", json_text(names));
}

static enum cm_status say_settings(struct tool *tool)
{
    uint8_t bytes[CM_SETTING_BYTES];
    enum cm_status status = cm_read_settings(&tool->session, bytes);
    if (!status)
        settings_show(tool, tool->session.part, bytes);
    return status;
}

static enum cm_status say_boot(struct tool *tool)
{
    struct cm_boot boot;
    enum cm_status status = cm_find_boot(&tool->session, &boot);
    if (!status && boot.bytes)
        say(tool, "loader", "%s",
            !boot.readable ? "the chip starts in its boot section, which lock bits hide"
            : boot.in_use  ? "the chip starts in its boot section, and there is code"
                           : "the chip starts in its boot section, and that is BLANK");
    return status;
}

/* Protection that only an erase lifts: lock bits, a read-out level. */
static void say_lock(struct tool *tool, const struct cm_guard *guard)
{
    if (!guard->count) {
        say(tool, "lock", "cannot be read on this part");
        return;
    }
    const char *meaning = "open";
    if (guard->bars_reading)
        meaning = "neither reading nor writing; only a chip erase opens it";
    else if (guard->bars_writing)
        meaning = "reading, no writing; only a chip erase opens it";
    else if (cm_guard_is_on(guard))
        meaning = "open to us; the boot lock bits hold the chip's own code";
    say(tool, "lock", "0x%02X  %s", guard->registers[0], meaning);
    set_json(tool, "lock",
             json_pack("{s:i, s:b, s:b}", "byte", (int)guard->registers[0], "bars_reading",
                       guard->bars_reading != 0, "bars_writing", guard->bars_writing != 0));
}

static enum cm_status say_contents(struct tool *tool, uint8_t index, const struct cm_guard *guard)
{
    struct cm_region region;
    const unsigned bit = CM_REGION_BIT(index);
    const char *after = "";
    if (!cm_region(&tool->session, index, &region) || region.bytes == 0)
        return CM_OK;
    if (index == CM_REGION_DATA)
        after = guard->clears & bit ? "; cleared by a chip erase" : "; outlives a chip erase";
    if (guard->bars_reading & bit) {
        say(tool, region.name, "%u bytes, not to be read", (unsigned)region.bytes);
        return CM_OK;
    }
    enum cm_status status = cm_is_blank(&tool->session, index, tool_progress, tool);
    tool_progress_end(tool);
    if (status != CM_OK && status != CM_DIFFERS)
        return status;
    if (status == CM_OK)
        say(tool, region.name, "%u bytes, blank%s", (unsigned)region.bytes, after);
    else
        say(tool, region.name, "%u bytes, holds data from 0x%04X on%s", (unsigned)region.bytes,
            (unsigned)tool->session.failure.address, after);
    set_json(tool, region.name,
             json_pack("{s:I, s:b}", "bytes", (json_int_t)region.bytes, "blank", status == CM_OK));
    return CM_OK;
}

/* All of the main memory, read once and drawn. */
static enum exit_code draw_chip(struct tool *tool)
{
    enum { CHUNK = 16384 };
    struct cm_region region;
    struct map *map = malloc(sizeof *map);
    uint8_t *chunk = malloc(CHUNK);
    cm_region(&tool->session, CM_REGION_MAIN, &region);
    enum exit_code code = map && chunk ? map_begin_chip(tool, &given.map, map, CM_REGION_MAIN)
                                       : tool_fail_memory(tool);
    enum cm_status status = CM_OK;
    for (uint32_t at = 0, part; !code && !status && at < region.bytes; at += part) {
        part = region.bytes - at < CHUNK ? region.bytes - at : (uint32_t)CHUNK;
        status = cm_read(&tool->session, CM_REGION_MAIN, at, chunk, part);
        if (!status)
            map_add(map, at, chunk, part, region.erased);
        struct cm_progress progress = {CM_STEP_READ, region.name, at + part, region.bytes};
        if (!status && !tool_progress(tool, &progress))
            status = CM_STOPPED;
    }
    tool_progress_end(tool);
    if (!code && status)
        code = tool_fail(tool, status);
    if (!code) {
        snprintf(map->what, sizeof map->what, "%u bytes, as the chip holds them",
                 (unsigned)region.bytes);
        code = map_draw(tool, &given.map, map);
    }
    free(chunk);
    free(map);
    return code;
}

/* The last line, with the map before it where one is asked for. */
static enum exit_code end_look(struct tool *tool, bool readable)
{
    enum exit_code code = given.map.path && readable ? draw_chip(tool) : EXIT_GOOD;
    if (!code)
        say_last(tool, "%s answers; nothing was changed", chip_name(tool));
    return code;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    if (things[0])
        return tool_fail_as(tool, EXIT_USAGE, "look takes no things", things[0],
                            "coldmint look --via PORT");
    tool->host.replace = given.replace;
    if (given.live)
        return live_run(tool);
    enum exit_code code = tool_begin(tool);
    if (code)
        return code;
    struct cm_guard guard = {.count = 0};
    say_supply(tool);
    say_clock(tool);
    say_held(tool);
    enum cm_status status = say_settings(tool);
    if (!status)
        status = cm_guard_look(&tool->session, &guard);
    bool has_lock = !status && guard.cost == CM_LIFT_CONTENTS;
    if (has_lock)
        say_lock(tool, &guard);
    else if (!status)
        guard_say(tool, &guard);
    for (uint8_t i = CM_REGION_MAIN; !status && i <= CM_REGION_DATA; i++)
        status = say_contents(tool, i, &guard);
    if (!status && has_lock)
        status = say_boot(tool);
    if (status)
        return tool_fail(tool, status);
    return end_look(tool, !guard.bars_reading);
}

static const struct poptOption options[] = {
    {"live", 0, POPT_ARG_NONE, &given.live, 0,
     "show contact all the time while a clip is seated; ends when it has been good for a second",
     NULL},
    MAP_OPTIONS(given.map),
    {"replace", 0, POPT_ARG_NONE, &given.replace, 0, "overwrite the map's file if it exists", NULL},
    POPT_TABLEEND};

const struct verb verb_look = {
    .name = "look",
    .things = "[options]",
    .summary = "what is connected, and how it stands: id, supply, fuses, lock, what is blank",
    .example = "coldmint look --via sim:node.yaml",
    .mistake = "looking at a board that is switched off: half fed through its signal lines, it "
               "answers nonsense",
    .options = options,
    .run = run,
};
