/*
 * tune: a chip's settings in words, shown or changed by name; or a set of bytes, without a chip.
 */
#include "settings.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* What is to be done, from the things on the command line. */
struct request {
    struct tool *tool;
    const struct cm_part *part;
    uint8_t before[CM_SETTING_BYTES], after[CM_SETTING_BYTES];
    bool changes;
};

/* "E2,DF,FF" or "0xE2 0xDF": bytes in the order of cm_setting_byte; those not given are the part's
 * when new. */
static enum exit_code parse_bytes(struct tool *tool, const struct cm_part *part, uint8_t *bytes)
{
    uint8_t count = cm_setting_byte_count(words_of(part), part), at = 0;
    char advice[100];
    settings_as_delivered(part, bytes);
    for (const char *text = tool->bytes; *text; at++) {
        char *end;
        unsigned long value = strtoul(text, &end, 16);
        bool ends_well = *end == '\0' || *end == ',' || *end == ' ';
        if (end == text || !ends_well || value > 0xFF || at >= count) {
            snprintf(
                advice, sizeof advice,
                "up to %u hexadecimal bytes: low, high, extended fuse, lock; for example E2,DF,FF",
                (unsigned)count);
            return tool_fail_as(tool, EXIT_USAGE, "--bytes are not this part's settings",
                                tool->bytes, advice);
        }
        bytes[at] = (uint8_t)value;
        text = *end ? end + 1 : end;
    }
    return EXIT_GOOD;
}

/* A name alone shows its choices; NAME=WORD makes one. */
static enum exit_code take_things(struct request *request, const char *const *things, bool *showed)
{
    enum exit_code code = EXIT_GOOD;
    memcpy(request->after, request->before, sizeof request->after);
    for (uint8_t rank = 0; rank < RANKS; rank++) {
        for (const char *const *thing = things; *thing && !code; thing++) {
            if (settings_rank(request->part, request->before, *thing) != rank)
                continue;
            if (strchr(*thing, '=')) {
                code = settings_choose(request->tool, request->part, request->after, *thing, "",
                                       EXIT_USAGE);
                request->changes = true;
            } else {
                code = settings_show_choices(request->tool, request->part, request->before, *thing);
                *showed = true;
            }
        }
    }
    return code;
}

static enum exit_code write_settings(struct request *request)
{
    struct tool *tool = request->tool;
    struct cm_tune_report report;
    char clock[SHORT_TEXT];
    struct cm_fence fence; // behind a fence the memories may be out of reach, too
    bool risky = cm_next_fence(words_of(request->part), request->part, request->before,
                               request->after, 0, &fence);
    enum exit_code code = memcmp(request->before, request->after, sizeof request->before)
                              ? backup_chip(tool, risky, NULL)
                              : EXIT_GOOD;
    if (code)
        return code;
    enum cm_status status = cm_tune(&tool->session, request->after, &report);
    if (status == CM_NO_CHIP && report.written) {
        tool_fail(tool, status);
        return tool_fail_as(tool, EXIT_NO_CHIP,
                            "the settings are written, and the chip no longer answers",
                            tool->words.evidence,
                            "its new clock does not run: put that clock or crystal on the board, "
                            "then 'tune' again");
    }
    if (status)
        return tool_fail(tool, status);
    if (report.written)
        say(tool, "done", "%u byte%s written and read back%s%s", (unsigned)report.written,
            report.written == 1 ? "" : "s",
            report.reentered ? "; entered anew, the CPU runs at " : "",
            report.reentered ? clock_text(report.cpu_hz, clock, sizeof clock) : "");
    say_last(tool, "%s has these settings%s", chip_name(tool),
             report.written ? "" : "; it had them before");
    return EXIT_GOOD;
}

static enum exit_code apply(struct request *request)
{
    struct tool *tool = request->tool;
    settings_show_change(tool, request->part, request->before, request->after);
    enum exit_code code =
        settings_check_fences(tool, request->part, request->before, request->after,
                              (const char *const *)tool->allow, tool_supply_mv(tool), ALL_FENCES);
    if (!tool->open) {
        if (code)
            set_json(tool, "would_be_refused", json_text(tool->words.what));
        if (code)
            say(tool, "note", "on a chip this would be %s (%s)", tool->words.what,
                tool->words.evidence);
        memset(&tool->words, 0, sizeof tool->words);
        settings_show(tool, request->part, request->after);
        say_last(tool, "worked out for %s; no chip was touched", request->part->name);
        return EXIT_GOOD;
    }
    if (code)
        return code;
    if (tool->only_plan) {
        say_last(tool, "planned only; %s is unchanged", chip_name(tool));
        return EXIT_GOOD;
    }
    return write_settings(request);
}

static enum exit_code begin(struct request *request)
{
    struct tool *tool = request->tool;
    if (!tool->bytes) {
        enum exit_code code = tool_begin(tool);
        if (code)
            return code;
        request->part = tool->session.part;
        enum cm_status status = cm_read_settings(&tool->session, request->before);
        return status ? tool_fail(tool, status) : EXIT_GOOD;
    }
    if (!tool->chip)
        return tool_fail_as(tool, EXIT_USAGE, "--bytes are read for a part", "no --chip",
                            "add --chip NAME");
    enum exit_code code = tool_check_options(tool);
    if (code)
        return code;
    request->part = tool_part(tool->chip);
    return parse_bytes(tool, request->part, request->before);
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    struct request request = {.tool = tool};
    bool showed = false;
    enum exit_code code = begin(&request);
    if (!code)
        code = settings_check_allowed(tool, request.part);
    if (!code)
        code = take_things(&request, things, &showed);
    if (code)
        return code;
    if (request.changes)
        return apply(&request);
    if (!showed)
        settings_show(tool, request.part, request.before);
    say_last(tool, "nothing was changed%s", showed ? "; * marks what it stands at" : "");
    return EXIT_GOOD;
}

static const struct poptOption options[] = {
    {"bytes", 0, POPT_ARG_STRING, &the_tool.bytes, 0,
     "read these bytes instead of a chip: low, high, extended fuse, lock", "HEX,..."},
    {"allow", 0, POPT_ARG_ARGV, &the_tool.allow, 0,
     "make a choice of this setting that is refused otherwise", "SETTING"},
    {"plan", 0, POPT_ARG_NONE, &the_tool.only_plan, 0, "say what would change, and change nothing",
     NULL},
    NO_BACKUP_OPTION,
    POPT_TABLEEND};

const struct verb verb_tune = {
    .name = "tune",
    .things = "[options] [SETTING=WORD ... | SETTING ...]",
    .summary =
        "show a chip's settings in words, or change them by name; a name alone shows its choices",
    .example = "coldmint tune --via sim:node.yaml --chip attiny84a clock-divide=by-1",
    .mistake =
        "choosing a crystal that the board does not have: the chip is deaf until it gets one",
    .options = options,
    .run = run,
};
