/*
 * tune: a chip's settings in words, shown or changed by name; or a set of bytes, without a chip.
 */
#include "begin.h"
#include "block.h"
#include "job.h"
#include "say.h"
#include "words/fail.h"
#include "words/settings.h"
#include <coldmint/host/settings.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct {
    struct job_options job;
    char *bytes, *map;
} given;

/* What is to be done, from the things on the command line. */
struct request {
    struct tool *tool;
    struct cm_job *job;
    const struct cm_part *part;
    uint8_t before[CM_SETTING_BYTES], after[CM_SETTING_BYTES];
    bool changes;
};

/* "E2,DF,FF" or "0xE2 0xDF": bytes in the order of cm_setting_byte; those not given are the part's
 * when new. */
static enum exit_code parse_bytes(struct tool *tool, const struct cm_part *part, uint8_t *bytes)
{
    uint8_t count = cm_setting_byte_count(words_of(tool, part), part), at = 0;
    char advice[140];
    cm_settings_as_delivered(&tool->host, part, bytes);
    for (const char *text = given.bytes; *text; at++) {
        text += strncmp(text, "0x", 2) == 0 ? 2 : 0;
        bool is_byte = at < count && cm_parse_byte(text, &bytes[at]);
        if (!is_byte || !strchr(", ", text[2])) {
            snprintf(advice, sizeof advice,
                     "up to %u bytes of two hexadecimal digits: low, high, extended fuse, lock; "
                     "for example E2,DF,FF",
                     (unsigned)count);
            return tool_fail_as(tool, EXIT_USAGE, "--bytes are not this part's settings",
                                given.bytes, advice);
        }
        text += text[2] ? 3 : 2;
    }
    return EXIT_GOOD;
}

/* A name alone shows its choices; NAME=WORD makes one. */
static enum exit_code take_things(struct request *request, const char *const *things, bool *showed)
{
    enum exit_code code = EXIT_GOOD;
    memcpy(request->after, request->before, sizeof request->after);
    for (uint8_t rank = 0; rank < CM_SETTING_RANKS; rank++) {
        for (const char *const *thing = things; *thing && !code; thing++) {
            if (cm_setting_rank(&request->tool->host, request->part, request->before, *thing) !=
                rank)
                continue;
            if (strchr(*thing, '=')) {
                code =
                    host_code(request->tool, cm_setting_choose(&request->tool->host, request->part,
                                                               request->after, *thing));
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
    char clock[SHORT_TEXT], bytes[SHORT_TEXT];
    struct cm_fence fence; // behind a fence the memories may be out of reach, too
    bool risky = cm_next_fence(words_of(tool, request->part), request->part, request->before,
                               request->after, 0, &fence);
    enum exit_code code = memcmp(request->before, request->after, sizeof request->before)
                              ? host_code(tool, cm_job_keep_before(request->job, risky, NULL))
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
    cm_job_end_record(request->job, &(struct cm_change_end){0});
    if (report.written)
        say(tool, "done", "%s written and read back%s%s", count_text(report.written, "byte", bytes),
            report.reentered ? "; entered again, the CPU runs at " : "",
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
        host_code(tool, cm_settings_check_fences(&tool->host, request->part, request->before,
                                                 request->after, request->job->options.allow,
                                                 tool_supply_mv(tool), CM_ALL_FENCES));
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
    if (given.job.only_plan) {
        say_last(tool, "planned only; %s is unchanged", chip_name(tool));
        return EXIT_GOOD;
    }
    return write_settings(request);
}

static enum exit_code begin(struct request *request)
{
    struct tool *tool = request->tool;
    if (!given.bytes) {
        enum exit_code code = tool_begin(tool);
        if (code)
            return code;
        request->part = tool->session.part;
        enum cm_status status = cm_read_settings(&tool->session, request->before);
        return status ? tool_fail(tool, status) : EXIT_GOOD;
    }
    if (!tool->given.chip)
        return tool_fail_as(tool, EXIT_USAGE, "--bytes are read for a part", "no --chip",
                            "add --chip NAME");
    enum exit_code code = tool_check_options(tool);
    if (code)
        return code;
    request->part = tool_part(tool);
    return parse_bytes(tool, request->part, request->before);
}

static enum exit_code tune(struct tool *tool, struct cm_job *job, const char *const *things)
{
    struct request request = {.tool = tool, .job = job};
    bool showed = false;
    enum exit_code code = begin(&request);
    if (!code)
        code =
            host_code(tool, cm_settings_check_names(&tool->host, request.part, job->options.allow));
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

static enum exit_code tune_block(struct tool *tool, struct cm_job *job, const char *const *things)
{
    if (given.bytes)
        return tool_fail_as(tool, EXIT_USAGE, "--bytes and --map are of two kinds of settings",
                            "the chip's own, and an application's", "leave one of them out");
    return block_tune(tool, job, &given.job, given.map, things);
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    struct cm_job *job = job_new(tool, &given.job);
    enum exit_code code = !job        ? tool->words.code
                          : given.map ? tune_block(tool, job, things)
                                      : tune(tool, job, things);
    cm_job_free(job);
    return code;
}

static const struct poptOption options[] = {
    {"bytes", 0, POPT_ARG_STRING, &given.bytes, 0,
     "read these bytes instead of a chip: low, high, extended fuse, lock", "HEX,..."},
    {"map", 0, POPT_ARG_STRING, &given.map, 0,
     "fields of an application's settings block in place of the chip's settings, by their map",
     "FIELDS.yaml"},
    {"anyway", 0, POPT_ARG_NONE, &given.job.anyway, 0,
     "with --map: change a block whose checksum is wrong", NULL},
    ALLOW_OPTION(given.job, ALLOW_WORDS),
    PLAN_OPTION(given.job, "say what would change, and change nothing"),
    NO_BACKUP_OPTION(given.job),
    POPT_TABLEEND};

const struct verb verb_tune = {
    .name = "tune",
    .things = "[options] [SETTING=WORD ... | SETTING ...]",
    .summary =
        "show a chip's settings in words, or change them by name; a name alone shows its choices",
    .example = "coldmint tune --via sim:node.yaml --chip attiny84a clock-divide=by-1",
    .mistake = "choosing a crystal that the board does not have: the chip does not respond until "
               "it gets one",
    .options = options,
    .run = run,
};
