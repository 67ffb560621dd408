/*
 * ledger: what was made: lists it, finds a unit, exports it, makes a label's text, draws a report.
 */
#include "ledger/ledger.h"
#include "say.h"
#include "unit.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>
#include <time.h>

static struct {
    char *series, *chip_id, *recipe, *version, *made_by, *day, *since, *until, *out, *code,
        *station;
    char **label;
    int last, replace, failed, passed;
} given;

enum { DAY_MS = 86400000, SHOWN_LAST = 20 };

/* --- lists ------------------------------------------------------------------------------- */

static void say_unit_line(struct tool *tool, const struct cm_unit_record *unit)
{
    char number[SHORT_TEXT], begun[SHORT_TEXT];
    say(tool, unit_number_of(unit, number), "%s  %s  %6.2f s  %s %s%s%s",
        unit->passed ? "pass" : "FAIL", unit_begun_text(unit, begun), unit->took_ms / 1000.0,
        unit->recipe, unit->version, unit->passed ? "" : ": ", unit->cause);
}

/* One unit with all that is known of it. */
static void say_unit(struct tool *tool, const struct cm_unit_record *unit)
{
    char number[SHORT_TEXT], begun[SHORT_TEXT];
    const char *line = unit->images;
    say(tool, "number", "%s%s%s", unit_number_of(unit, number), unit->series[0] ? " of " : "",
        unit->series);
    say(tool, "recipe", "%s%s%s%s%s", unit->recipe, unit->board[0] ? ", board " : "", unit->board,
        unit->version[0] ? ", version " : "", unit->version);
    say(tool, "result", "%s%s%s", unit->passed ? "pass" : "FAIL", unit->cause[0] ? ": " : "",
        unit->cause);
    say(tool, "made", "%s UTC in %.2f s, by %s through %s", unit_begun_text(unit, begun),
        unit->took_ms / 1000.0, unit->station, unit->port);
    say(tool, "chip", "%s, id %s; settings %s before, %s after", unit->chip,
        unit->chip_id[0] ? unit->chip_id : "not read",
        unit->settings_before[0] ? unit->settings_before : "not read",
        unit->settings_after[0] ? unit->settings_after : "not read");
    for (size_t length; *line; line += length + (line[length] == '\n')) {
        length = strcspn(line, "\n");
        say(tool, line == unit->images ? "images" : "", "%.*s", (int)length, line);
    }
}

struct listing {
    const struct asking *asking;
    json_t *list;
};

static bool list_unit(void *context, const struct cm_unit_record *unit)
{
    const struct listing *listing = context;
    json_array_append_new(listing->list, unit_json(unit));
    if (listing->asking->one)
        say_unit(listing->asking->tool, unit);
    else
        say_unit_line(listing->asking->tool, unit);
    return true;
}

/* The latest, or all of one number. */
static enum exit_code list_units(struct asking *asking)
{
    struct listing listing = {asking, json_array()};
    struct cm_ledger_query query = asking->query;
    query.last = asking->one ? 0 : given.last ? (uint32_t)given.last : SHOWN_LAST;
    if (query.last && asking->counts.units > query.last)
        say(asking->tool, "",
            "%llu earlier ones are left out: --last N shows more, --out all of them",
            (unsigned long long)(asking->counts.units - query.last));
    bool good = cm_ledger_each(asking->ledger, &query, list_unit, &listing);
    set_json(asking->tool, "units", listing.list);
    return host_code(asking->tool, good);
}

/* --- what is asked for ------------------------------------------------------------------- */

/* "2026-11-27" or "2026-11-27 14:30", UTC, in milliseconds. `has_time`: the second of them. */
static bool parse_time(const char *text, int64_t *ms, bool *has_time)
{
    struct tm parts = {0};
    int end = 0, whole = 0;
    int got = sscanf(text, "%4d-%2d-%2d%n %2d:%2d%n", &parts.tm_year, &parts.tm_mon, &parts.tm_mday,
                     &end, &parts.tm_hour, &parts.tm_min, &whole);
    *has_time = whole != 0;
    const int day = parts.tm_mday;
    bool good = got >= 3 && !text[whole ? whole : end] && parts.tm_year >= 1970 &&
                parts.tm_mon >= 1 && parts.tm_mon <= 12 && day >= 1 && day <= 31 &&
                parts.tm_hour >= 0 && parts.tm_hour < 24 && parts.tm_min >= 0 && parts.tm_min < 60;
    parts.tm_year -= 1900;
    parts.tm_mon--;
    *ms = (int64_t)timegm(&parts) * 1000;
    return good && parts.tm_mday == day; // 31 February would be 3 March
}

static enum exit_code fail_time(struct tool *tool, const char *option, const char *text)
{
    char what[40], advice[80];
    snprintf(what, sizeof what, "--%s is no %s", option,
             strcmp(option, "day") == 0 ? "day" : "time");
    snprintf(advice, sizeof advice, "for example --%s %s", option,
             strcmp(option, "day") == 0 ? "2026-11-27" : "\"2026-11-27 14:30\"");
    return tool_fail_as(tool, EXIT_USAGE, what, text, advice);
}

/* From the first millisecond to the last that is asked for. */
static enum exit_code take_times(struct tool *tool, struct cm_ledger_query *query)
{
    enum { MINUTE_MS = 60000 };
    bool has_time;
    if (given.day && (given.since || given.until))
        return tool_fail_as(tool, EXIT_USAGE, "--day is one day, from its beginning to its end",
                            given.day, "leave it out, or --since and --until");
    if (given.day && (!parse_time(given.day, &query->from, &has_time) || has_time))
        return fail_time(tool, "day", given.day);
    query->to = given.day ? query->from + DAY_MS - 1 : 0;
    if (given.since && !parse_time(given.since, &query->from, &has_time))
        return fail_time(tool, "since", given.since);
    if (given.until && !parse_time(given.until, &query->to, &has_time))
        return fail_time(tool, "until", given.until);
    if (given.until)
        query->to += (has_time ? MINUTE_MS : DAY_MS) - 1;
    return EXIT_GOOD;
}

static enum exit_code take_number(struct tool *tool, const char *text,
                                  struct cm_ledger_query *query)
{
    const char *end = text;
    if (!text)
        return EXIT_GOOD;
    query->has_number = true;
    return cm_parse_number(&end, &query->number) && !*end
               ? EXIT_GOOD
               : tool_fail_as(tool, EXIT_USAGE, "this is no number of a unit", text,
                              "coldmint ledger LEDGER 1004");
}

/* Of one unit, the latest; of many, those that are asked for. */
static uint32_t labels_asked(const struct asking *asking)
{
    bool is_many = given.out || given.day || given.since || given.until;
    if (given.last && !asking->one)
        return (uint32_t)given.last;
    return asking->one || !is_many ? 1 : 0;
}

static enum exit_code answer(struct asking *asking)
{
    const char *dot = given.out ? strrchr(given.out, '.') : NULL;
    bool is_csv = dot && !strcasecmp(dot, ".csv"), is_json = dot && !strcasecmp(dot, ".json");
    if (asking->one && !asking->counts.units)
        return tool_fail_as(asking->tool, EXIT_DIFFERS, "the ledger has no such unit", "",
                            "without a number it lists the latest");
    if (given.label) {
        const struct label_wish wish = {given.label, given.code, labels_asked(asking)};
        return ledger_label(asking, &wish);
    }
    if (!given.out)
        return list_units(asking);
    return is_csv || is_json ? ledger_export(asking, is_csv) : ledger_report(asking);
}

static void say_end(const struct asking *asking)
{
    const struct cm_unit_counts *counts = &asking->counts;
    struct tool *tool = asking->tool;
    unit_tell_ledger(tool, asking->ledger);
    struct cm_ledger_facts facts = cm_ledger_facts(asking->ledger);
    set_json(tool, "in_journal", json_integer((json_int_t)facts.in_journal));
    set_json(tool, "count", json_integer((json_int_t)counts->units));
    set_json(tool, "passed", json_integer((json_int_t)counts->passed));
    if (given.label && !given.out)
        return;
    if (given.label) {
        say_last(tool, "%llu label%s in %s", (unsigned long long)counts->units,
                 counts->units == 1 ? "" : "s", given.out);
        return;
    }
    say_last(tool, "%llu unit%s, %llu passed%s%s", (unsigned long long)counts->units,
             counts->units == 1 ? "" : "s", (unsigned long long)counts->passed,
             given.out ? "; in " : "", given.out ? given.out : "");
}

static enum exit_code take_query(struct tool *tool, const char *const *things,
                                 struct cm_ledger_query *query)
{
    if (!things[0] || (things[1] && things[2]))
        return tool_fail_as(tool, EXIT_USAGE, "ledger takes a ledger, and a unit's number",
                            things[0] ? things[2] : "none is named", "coldmint ledger LEDGER 1004");
    if (given.failed && given.passed)
        return tool_fail_as(tool, EXIT_USAGE, "--failed and --passed exclude each other", "",
                            "leave both out for all");
    if (given.code && !given.label)
        return tool_fail_as(tool, EXIT_USAGE, "--code needs --label", given.code,
                            "--label \"LC-{number}\" --code \"{number}\" -o labels.pdf");
    if (given.last < 0)
        return tool_fail_as(tool, EXIT_USAGE, "--last is 1 or more", "", "for example --last 100");
    enum exit_code code = take_number(tool, things[1], query);
    return code ? code : take_times(tool, query);
}

static enum cm_unit_result result_asked(void)
{
    if (given.failed)
        return CM_UNIT_FAILED;
    return given.passed ? CM_UNIT_PASSED : CM_UNIT_ANY;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    struct asking asking = {.tool = tool,
                            .out = given.out,
                            .query = {.series = given.series,
                                      .chip_id = given.chip_id,
                                      .recipe = given.recipe,
                                      .version = given.version,
                                      .station = given.made_by,
                                      .result = result_asked()}};
    enum exit_code code = take_query(tool, things, &asking.query);
    if (code)
        return code;
    asking.one = things[1] != NULL;
    tool->host.replace = given.replace;
    asking.ledger = cm_ledger_open_made(&tool->host, things[0], given.station);
    if (!asking.ledger)
        return tool_fail_host(tool);
    code = host_code(tool, cm_ledger_count(asking.ledger, &asking.query, &asking.counts));
    if (!code)
        code = answer(&asking);
    if (!code)
        say_end(&asking);
    cm_ledger_close(asking.ledger);
    return code;
}

static const struct poptOption options[] = {
    {"series", 0, POPT_ARG_STRING, &given.series, 0, "units of this series of numbers", "NAME"},
    {"recipe", 0, POPT_ARG_STRING, &given.recipe, 0, "units of the recipe of this title", "TITLE"},
    {"chip-id", 0, POPT_ARG_STRING, &given.chip_id, 0, "units whose chip has this id", "HEX"},
    {"version", 0, POPT_ARG_STRING, &given.version, 0, "units of this version", "VERSION"},
    {"made-by", 0, POPT_ARG_STRING, &given.made_by, 0, "units that this station made", "STATION"},
    {"failed", 0, POPT_ARG_NONE, &given.failed, 0, "only those that failed", NULL},
    {"passed", 0, POPT_ARG_NONE, &given.passed, 0, "only those that passed", NULL},
    {"day", 0, POPT_ARG_STRING, &given.day, 0, "units of this day, UTC", "YYYY-MM-DD"},
    {"since", 0, POPT_ARG_STRING, &given.since, 0, "from this day or minute on, UTC", "TIME"},
    {"until", 0, POPT_ARG_STRING, &given.until, 0, "to the end of this day or minute, UTC", "TIME"},
    {"last", 0, POPT_ARG_INT, &given.last, 0, "show so many of the latest, in place of 20", "N"},
    {"out", 'o', POPT_ARG_STRING, &given.out, 0,
     "into a file: .csv or .json with all that is known; .svg, .pdf or .png, a report on one page",
     "FILE"},
    {"label", 0, POPT_ARG_ARGV, &given.label, 0,
     "a line of a label, up to four times: {number}, {recipe}, {version}, {board}, {chip}, "
     "{series}, {station}, {date} and the unit's own values ({gain}) are filled in; -o .csv for a "
     "label printer, .pdf, .svg or .png to print, with a code",
     "TEXT"},
    {"code", 0, POPT_ARG_STRING, &given.code, 0,
     "with --label: what the code holds; the label's lines if not given", "TEXT"},
    {"station", 0, POPT_ARG_STRING, &given.station, 0, "this place's name in the ledger", "NAME"},
    {"replace", 0, POPT_ARG_NONE, &given.replace, 0, "overwrite the file if it exists", NULL},
    POPT_TABLEEND};

const struct verb verb_ledger = {
    .name = "ledger",
    .things = "[options] LEDGER [NUMBER]",
    .summary = "what was made: list it, find a unit, export, label, report",
    .example = "coldmint ledger line.ledger --day 2026-11-27 -o day.svg",
    .mistake = "one file for several computers: they share a server, postgresql://...",
    .heeds = HEEDS_NOTHING,
    .options = options,
    .run = run,
};
