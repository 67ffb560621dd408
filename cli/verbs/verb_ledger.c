/*
 * ledger: what was made: lists it, finds a unit, exports it, makes a label's text, draws a report.
 */
#include "draw/day_paper.h"
#include "say.h"
#include "unit.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>
#include <time.h>

static struct {
    char *series, *chip_id, *recipe, *day, *out, *label, *station;
    int last, replace;
} given;

enum { DAY_MS = 86400000, SHOWN_LAST = 20 };

/* What is asked for, and of whom. Units come one at a time: there may be millions. */
struct asking {
    struct tool *tool;
    struct cm_ledger *ledger;
    struct cm_ledger_query query;
    struct cm_unit_counts counts;
    bool one; /* a number is given */
};

static const char *begun_text(const struct cm_unit_record *unit, char *text)
{
    return second_text(unit->begun / 1000, text);
}

static const char *number_text(const struct cm_unit_record *unit, char *text)
{
    snprintf(text, SHORT_TEXT, unit->has_number ? "%llu" : "-", (unsigned long long)unit->number);
    return text;
}

/* --- lists ------------------------------------------------------------------------------- */

static json_t *json_unit(const struct cm_unit_record *unit)
{
    char begun[SHORT_TEXT];
    json_t *object = json_pack(
        "{s:o, s:o, s:o, s:o, s:o, s:o, s:o, s:o, s:o, s:o, s:o, s:o, s:b, s:o, s:o, s:I}", "key",
        json_text(unit->key), "series", json_text(unit->series), "recipe", json_text(unit->recipe),
        "version", json_text(unit->version), "board", json_text(unit->board), "chip",
        json_text(unit->chip), "chip_id", json_text(unit->chip_id), "port", json_text(unit->port),
        "station", json_text(unit->station), "images", json_text(unit->images), "settings_before",
        json_text(unit->settings_before), "settings_after", json_text(unit->settings_after),
        "passed", (int)unit->passed, "cause", json_text(unit->cause), "begun",
        json_text(begun_text(unit, begun)), "took_ms", (json_int_t)unit->took_ms);
    if (unit->has_number)
        json_object_set_new(object, "number", json_integer((json_int_t)unit->number));
    return object;
}

static void say_unit_line(struct tool *tool, const struct cm_unit_record *unit)
{
    char number[SHORT_TEXT], begun[SHORT_TEXT];
    say(tool, number_text(unit, number), "%s  %s  %6.2f s  %s %s%s%s",
        unit->passed ? "pass" : "FAIL", begun_text(unit, begun), unit->took_ms / 1000.0,
        unit->recipe, unit->version, unit->passed ? "" : ": ", unit->cause);
}

/* One unit with all that is known of it. */
static void say_unit(struct tool *tool, const struct cm_unit_record *unit)
{
    char number[SHORT_TEXT], begun[SHORT_TEXT];
    const char *line = unit->images;
    say(tool, "number", "%s%s%s", number_text(unit, number), unit->series[0] ? " of " : "",
        unit->series);
    say(tool, "recipe", "%s%s%s%s%s", unit->recipe, unit->board[0] ? ", board " : "", unit->board,
        unit->version[0] ? ", version " : "", unit->version);
    say(tool, "result", "%s%s%s", unit->passed ? "pass" : "FAIL", unit->cause[0] ? ": " : "",
        unit->cause);
    say(tool, "made", "%s UTC in %.2f s, by %s through %s", begun_text(unit, begun),
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
    json_array_append_new(listing->list, json_unit(unit));
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

/* --- exports ----------------------------------------------------------------------------- */

/* RFC 4180. What a spreadsheet would take for a formula gets a quote before it: some pass over
 * blanks that come first. */
static void write_field(FILE *file, const char *text, bool is_last)
{
    fputc('"', file);
    if (*text && strchr("=+-@\t\r", *text))
        fputc('\'', file);
    for (size_t plain; *text; text += plain) {
        plain = strcspn(text, "\"\n");
        fwrite(text, 1, plain, file);
        if (text[plain]) {
            fputs(text[plain] == '"' ? "\"\"" : " ", file);
            plain++;
        }
    }
    fputs(is_last ? "\"\r\n" : "\",", file);
}

static void write_row(FILE *file, const struct cm_unit_record *unit)
{
    char number[SHORT_TEXT], begun[SHORT_TEXT];
    fprintf(file, "%s,", unit->has_number ? number_text(unit, number) : "");
    write_field(file, unit->series, false);
    fprintf(file, "%d,%s,%u,", unit->passed, begun_text(unit, begun), (unsigned)unit->took_ms);
    const char *const texts[] = {unit->recipe, unit->version,         unit->board,
                                 unit->chip,   unit->chip_id,         unit->station,
                                 unit->port,   unit->settings_before, unit->settings_after,
                                 unit->images, unit->cause,           unit->key};
    enum { TEXTS = sizeof texts / sizeof texts[0] };
    for (int k = 0; k < TEXTS; k++)
        write_field(file, texts[k], k + 1 == TEXTS);
}

struct exporting {
    FILE *file;
    bool is_csv, has_first, is_full; /* of memory */
};

static bool write_unit(void *context, const struct cm_unit_record *unit)
{
    struct exporting *exporting = context;
    if (exporting->is_csv) {
        write_row(exporting->file, unit);
        return true;
    }
    json_t *object = json_unit(unit);
    fputs(exporting->has_first ? ",\n" : "", exporting->file);
    exporting->has_first = true;
    char *text = json_dumps(object, JSON_INDENT(2) | JSON_ENSURE_ASCII);
    json_decref(object);
    exporting->is_full = !text;
    fputs(text ? text : "", exporting->file);
    free(text);
    return !exporting->is_full;
}

static enum exit_code export_units(struct asking *asking, bool is_csv)
{
    struct tool *tool = asking->tool;
    struct cm_new_file file;
    if (!cm_new_file_open(&tool->host, given.out, &file))
        return tool_fail_host(tool);
    struct exporting exporting = {.file = file.stream, .is_csv = is_csv};
    fputs(is_csv ? "number,series,passed,begun,took_ms,recipe,version,board,chip,chip_id,station,"
                   "port,settings_before,settings_after,images,cause,key\r\n"
                 : "[\n",
          file.stream);
    bool good = cm_ledger_each(asking->ledger, &asking->query, write_unit, &exporting);
    fputs(is_csv ? "" : "\n]\n", file.stream);
    if (good && !exporting.is_full)
        return host_code(tool, cm_new_file_commit(&tool->host, &file));
    cm_new_file_drop(&file);
    return good ? tool_fail_memory(tool) : tool_fail_host(tool);
}

/* --- the report -------------------------------------------------------------------------- */

static struct day_amount *amount_of(struct day_amount *amounts, int *count, int most,
                                    const char *name)
{
    for (int i = 0; i < *count; i++) {
        if (strncmp(amounts[i].name, name, DAY_NAME - 1) == 0)
            return &amounts[i];
    }
    if (*count == most) { // what there is no room for
        snprintf(amounts[most - 1].name, DAY_NAME, "others");
        return &amounts[most - 1];
    }
    snprintf(amounts[*count].name, DAY_NAME, "%.79s", name);
    return &amounts[(*count)++];
}

/* A cause without where it happened: "contact with the chip was lost". */
static const char *kind_of(const struct cm_unit_record *unit, char *cause)
{
    const char *where = strstr(unit->cause, " while ");
    snprintf(cause, DAY_NAME, "%.*s", where ? (int)(where - unit->cause) : DAY_NAME - 1,
             unit->cause);
    return cause;
}

static void add_number(struct day *day, uint64_t number)
{
    bool is_first = !day->has_numbers;
    day->first_number = is_first || number < day->first_number ? number : day->first_number;
    day->last_number = is_first || number > day->last_number ? number : day->last_number;
    day->has_numbers = true;
}

static void add_to_day(struct day *day, const struct cm_unit_record *unit)
{
    char cause[DAY_NAME];
    struct day_amount *station =
        amount_of(day->stations, &day->station_count, DAY_STATIONS, unit->station);
    day->units[day->count++] = (struct day_unit){unit->begun, unit->took_ms, unit->passed};
    if (unit->passed) {
        day->passed++;
        station->passed++;
    } else {
        day->failed++;
        station->failed++;
        amount_of(day->causes, &day->cause_count, DAY_CAUSES, kind_of(unit, cause))->failed++;
    }
    if (unit->passed && unit->has_number)
        add_number(day, unit->number);
}

struct reporting {
    struct day day;
    size_t room;
    char recipe[CM_LEDGER_TEXT];
    bool has_others; /* of other recipes */
};

/* Units that were added since they were counted are left for the next report. */
static bool report_unit(void *context, const struct cm_unit_record *unit)
{
    struct reporting *reporting = context;
    if (reporting->day.count == reporting->room)
        return false;
    if (!reporting->day.count)
        snprintf(reporting->recipe, sizeof reporting->recipe, "%s", unit->recipe);
    reporting->has_others |= strcmp(reporting->recipe, unit->recipe) != 0;
    add_to_day(&reporting->day, unit);
    return true;
}

static void title_day(struct reporting *reporting)
{
    char from[SHORT_TEXT], to[SHORT_TEXT];
    struct day *day = &reporting->day;
    snprintf(day->title, sizeof day->title, "%s%s", day->count ? reporting->recipe : "no units",
             reporting->has_others ? " and others" : "");
    if (day->count)
        snprintf(day->span, sizeof day->span, "%s to %s UTC",
                 second_text(day->units[0].begun / 1000, from),
                 second_text(day->units[day->count - 1].begun / 1000, to));
}

static enum exit_code report(struct asking *asking)
{
    struct reporting reporting = {.room = (size_t)asking->counts.units};
    reporting.day.units = calloc(reporting.room + 1, sizeof *reporting.day.units);
    if (!reporting.day.units)
        return tool_fail_memory(asking->tool);
    enum exit_code code = host_code(
        asking->tool, cm_ledger_each(asking->ledger, &asking->query, report_unit, &reporting));
    title_day(&reporting);
    if (!code)
        code = day_on_paper(asking->tool, &reporting.day, given.out);
    free(reporting.day.units);
    return code;
}

/* --- labels ------------------------------------------------------------------------------ */

/* A text with {number}, {recipe}, {version}, {board}, {chip}, {series} and {date} in it. */
static bool say_label(void *context, const struct cm_unit_record *unit)
{
    struct tool *tool = context;
    char number[SHORT_TEXT], begun[SHORT_TEXT], label[600];
    size_t used = 0;
    const struct {
        const char *name, *value;
    } NAMES[] = {{"{number}", number_text(unit, number)},
                 {"{recipe}", unit->recipe},
                 {"{version}", unit->version},
                 {"{board}", unit->board},
                 {"{chip}", unit->chip},
                 {"{series}", unit->series},
                 {"{date}", begun_text(unit, begun)}};
    begun[10] = '\0'; // the day alone
    for (const char *at = given.label; *at && used + 1 < sizeof label;) {
        const char *value = NULL;
        for (size_t i = 0; i < sizeof NAMES / sizeof NAMES[0] && !value; i++) {
            if (strncmp(at, NAMES[i].name, strlen(NAMES[i].name)) == 0) {
                value = NAMES[i].value;
                at += strlen(NAMES[i].name);
            }
        }
        if (value)
            used += (size_t)snprintf(label + used, sizeof label - used, "%s", value);
        else
            label[used++] = *at++;
        used = used < sizeof label ? used : sizeof label - 1;
    }
    label[used] = '\0';
    set_json(tool, "label", json_text(label));
    if (!tool->given.json) {
        print_shown(stdout, label);
        printf("\n");
    }
    return true;
}

/* Of the latest. */
static enum exit_code label(struct asking *asking)
{
    struct cm_ledger_query query = asking->query;
    query.last = 1;
    return host_code(asking->tool, cm_ledger_each(asking->ledger, &query, say_label, asking->tool));
}

/* --- what is asked for ------------------------------------------------------------------- */

/* "2026-11-27": from its first second to its last, UTC. */
static enum exit_code take_day(struct tool *tool, struct cm_ledger_query *query)
{
    struct tm parts = {0};
    int end = 0;
    if (!given.day)
        return EXIT_GOOD;
    bool good = sscanf(given.day, "%4d-%2d-%2d%n", &parts.tm_year, &parts.tm_mon, &parts.tm_mday,
                       &end) == 3 &&
                !given.day[end] && parts.tm_year >= 1970 && parts.tm_mon >= 1 &&
                parts.tm_mon <= 12 && parts.tm_mday >= 1 && parts.tm_mday <= 31;
    const int day = parts.tm_mday;
    parts.tm_year -= 1900;
    parts.tm_mon--;
    query->from = (int64_t)timegm(&parts) * 1000;
    if (!good || parts.tm_mday != day) // 31 February would be 3 March
        return tool_fail_as(tool, EXIT_USAGE, "--day is no day", given.day,
                            "for example --day 2026-11-27");
    query->to = query->from + DAY_MS - 1;
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

static enum exit_code answer(struct asking *asking)
{
    const char *dot = given.out ? strrchr(given.out, '.') : NULL;
    bool is_csv = dot && !strcasecmp(dot, ".csv"), is_json = dot && !strcasecmp(dot, ".json");
    if (asking->one && !asking->counts.units)
        return tool_fail_as(asking->tool, EXIT_DIFFERS, "the ledger has no such unit", "",
                            "without a number it lists the latest");
    if (given.label)
        return label(asking);
    if (!given.out)
        return list_units(asking);
    return is_csv || is_json ? export_units(asking, is_csv) : report(asking);
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
    if (given.label)
        return;
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
    if (given.last < 0)
        return tool_fail_as(tool, EXIT_USAGE, "--last is 1 or more", "", "for example --last 100");
    enum exit_code code = take_number(tool, things[1], query);
    return code ? code : take_day(tool, query);
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    struct asking asking = {
        .tool = tool,
        .query = {.series = given.series, .chip_id = given.chip_id, .recipe = given.recipe}};
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
    {"day", 0, POPT_ARG_STRING, &given.day, 0, "units of this day, UTC", "YYYY-MM-DD"},
    {"last", 0, POPT_ARG_INT, &given.last, 0, "show so many of the latest, in place of 20", "N"},
    {"out", 'o', POPT_ARG_STRING, &given.out, 0,
     "into a file: .csv or .json with all that is known; .svg, .pdf or .png, a report on one page",
     "FILE"},
    {"label", 0, POPT_ARG_STRING, &given.label, 0,
     "a label's text for the unit: {number}, {recipe}, {version}, {board}, {chip}, {series} and "
     "{date} in it are filled in",
     "TEXT"},
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
