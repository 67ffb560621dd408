/*
 * Labels of units: their text, a CSV file for a label printer, or a drawing with a code.
 *
 *     --label "LC-{number}" --label "firmware {version}" --code "{series}/{number}"
 *
 * A unit that was made twice has one label, of its last time.
 */
#include "draw/label_paper.h"
#include "ledger.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>

enum { MOST_LABELS = 20000 };

struct labelling {
    struct tool *tool;
    const struct label_wish *wish;
    struct label *labels;
    size_t count, room;
    json_t *places; /* of a number: which label it has */
    enum exit_code code;
};

/* --- texts ------------------------------------------------------------------------------- */

/* The value of a name; NULL: the unit has none of this name. */
static const char *value_of(const struct cm_unit_record *unit, const json_t *own, const char *name,
                            char *text)
{
    const struct {
        const char *name, *value;
    } NAMES[] = {{"recipe", unit->recipe}, {"version", unit->version}, {"board", unit->board},
                 {"chip", unit->chip},     {"series", unit->series},   {"station", unit->station}};
    if (strcmp(name, "number") == 0)
        return unit_number_of(unit, text);
    if (strcmp(name, "date") == 0) {
        unit_begun_text(unit, text);
        text[strcspn(text, " ")] = '\0'; // the day alone
        return text;
    }
    for (size_t i = 0; i < sizeof NAMES / sizeof NAMES[0]; i++) {
        if (strcmp(NAMES[i].name, name) == 0)
            return NAMES[i].value;
    }
    return json_string_value(json_object_get(own, name));
}

static enum exit_code fail_name(struct tool *tool, const json_t *own, const char *name)
{
    char evidence[CM_UNIT_VALUE + 40], text[400];
    const char *key;
    json_t *value;
    size_t used = (size_t)snprintf(text, sizeof text,
                                   "{number}, {recipe}, {version}, {board}, {chip}, {series}, "
                                   "{station}, {date}");
    json_object_foreach((json_t *)(uintptr_t)own, key, value)
    {
        if (used < sizeof text)
            used += (size_t)snprintf(text + used, sizeof text - used, ", {%s}", key);
    }
    snprintf(evidence, sizeof evidence, "{%s}", name);
    return tool_fail_as(tool, EXIT_USAGE, "the unit has no value of this name", evidence, text);
}

/* A text with {names} in it. */
static enum exit_code fill(struct tool *tool, const struct cm_unit_record *unit, const json_t *own,
                           const char *wish, char *filled)
{
    size_t used = 0;
    while (*wish && used + 1 < LABEL_TEXT) {
        char name[CM_UNIT_VALUE], text[SHORT_TEXT];
        int end = 0;
        if (*wish != '{' || sscanf(wish, "{%63[^{}]}%n", name, &end) != 1 || !end) {
            filled[used++] = *wish++;
            continue;
        }
        const char *value = value_of(unit, own, name, text);
        if (!value)
            return fail_name(tool, own, name);
        used += (size_t)snprintf(filled + used, LABEL_TEXT - used, "%s", value);
        used = used < LABEL_TEXT ? used : LABEL_TEXT;
        wish += end;
    }
    filled[used < LABEL_TEXT ? used : LABEL_TEXT - 1] = '\0';
    return !*wish && used < LABEL_TEXT
               ? EXIT_GOOD
               : tool_fail_as(tool, EXIT_USAGE, "a label's line is too long", filled,
                              "199 bytes at the most");
}

static enum exit_code fill_label(struct labelling *labelling, const struct cm_unit_record *unit,
                                 struct label *label)
{
    const struct label_wish *wish = labelling->wish;
    struct tool *tool = labelling->tool;
    enum exit_code code = EXIT_GOOD;
    json_t *own = unit_own(unit);
    memset(label, 0, sizeof *label);
    for (int i = 0; wish->lines[i] && !code; i++)
        code = fill(tool, unit, own, wish->lines[i], label->lines[i]);
    if (!code && wish->code)
        code = fill(tool, unit, own, wish->code, label->code);
    for (int i = 0; !wish->code && i < LABEL_LINES && label->lines[i][0]; i++) {
        size_t used = strlen(label->code);
        snprintf(label->code + used, LABEL_TEXT - used, "%s%s", i ? " " : "", label->lines[i]);
    }
    json_decref(own);
    return code;
}

/* --- units ------------------------------------------------------------------------------- */

/* Where its label goes: over the one of an earlier time, or behind all others. */
static size_t place_of(struct labelling *labelling, const struct cm_unit_record *unit)
{
    char key[CM_UNIT_SERIES + 30];
    snprintf(key, sizeof key, "%s %llu", unit->series, (unsigned long long)unit->number);
    const json_t *place = unit->has_number ? json_object_get(labelling->places, key) : NULL;
    if (place)
        return (size_t)json_integer_value(place);
    if (unit->has_number)
        json_object_set_new(labelling->places, key, json_integer((json_int_t)labelling->count));
    return labelling->count++;
}

static bool take_unit(void *context, const struct cm_unit_record *unit)
{
    struct labelling *labelling = context;
    if (labelling->count == labelling->room)
        return false; // it came after they were counted
    labelling->code = fill_label(labelling, unit, &labelling->labels[place_of(labelling, unit)]);
    return labelling->code == EXIT_GOOD;
}

/* --- where they go ----------------------------------------------------------------------- */

static void say_labels(const struct labelling *labelling)
{
    struct tool *tool = labelling->tool;
    json_t *list = json_array();
    for (size_t i = 0; i < labelling->count; i++) {
        for (int k = 0; k < LABEL_LINES && labelling->wish->lines[k]; k++) {
            json_array_append_new(list, json_text(labelling->labels[i].lines[k]));
            if (tool->given.json)
                continue;
            print_shown(stdout, labelling->labels[i].lines[k]);
            printf("\n");
        }
    }
    set_json(tool, "label", list);
}

static enum exit_code write_csv(const struct labelling *labelling, const char *path)
{
    struct tool *tool = labelling->tool;
    struct cm_new_file file;
    int lines = 0;
    if (!cm_new_file_open(&tool->host, path, &file))
        return tool_fail_host(tool);
    for (; labelling->wish->lines[lines]; lines++)
        fprintf(file.stream, "line%d,", lines + 1);
    fputs("code\r\n", file.stream);
    for (size_t i = 0; i < labelling->count; i++) {
        for (int k = 0; k < lines; k++)
            csv_write_field(file.stream, labelling->labels[i].lines[k], false);
        csv_write_field(file.stream, labelling->labels[i].code, true);
    }
    return host_code(tool, cm_new_file_commit(&tool->host, &file));
}

static enum exit_code write_labels(const struct labelling *labelling, const char *path)
{
    const char *dot = path ? strrchr(path, '.') : NULL;
    if (!path)
        say_labels(labelling);
    else if (dot && strcasecmp(dot, ".csv") == 0)
        return write_csv(labelling, path);
    else
        return labels_on_paper(labelling->tool, LABEL_OF_UNIT, labelling->labels, labelling->count,
                               path);
    return EXIT_GOOD;
}

/* --- all --------------------------------------------------------------------------------- */

static enum exit_code check(struct asking *asking, const struct label_wish *wish, uint64_t count)
{
    int lines = 0;
    while (wish->lines[lines])
        lines++;
    if (lines > LABEL_LINES)
        return tool_fail_as(asking->tool, EXIT_USAGE, "a label has four lines at the most",
                            wish->lines[LABEL_LINES], "give fewer of them");
    if (count > MOST_LABELS)
        return tool_fail_as(asking->tool, EXIT_USAGE, "these are too many labels at once",
                            "20000 at the most", "choose by --day, --series, --since or --last");
    if (!count)
        return tool_fail_as(asking->tool, EXIT_DIFFERS, "no unit is there to label",
                            "none that passed", "'coldmint ledger LEDGER' lists them");
    return EXIT_GOOD;
}

enum exit_code ledger_label(struct asking *asking, const struct label_wish *wish)
{
    struct labelling labelling = {.tool = asking->tool, .wish = wish};
    struct cm_ledger_query query = asking->query;
    struct cm_unit_counts counts;
    if (query.result == CM_UNIT_ANY)
        query.result = CM_UNIT_PASSED; // what failed is no unit yet
    query.last = wish->last;
    enum exit_code code = host_code(asking->tool, cm_ledger_count(asking->ledger, &query, &counts));
    uint64_t count = query.last && query.last < counts.units ? query.last : counts.units;
    if (!code)
        code = check(asking, wish, count);
    if (code)
        return code;
    labelling.room = (size_t)count;
    labelling.labels = calloc(labelling.room, sizeof *labelling.labels);
    labelling.places = json_object();
    code = labelling.labels ? EXIT_GOOD : tool_fail_memory(asking->tool);
    if (!code)
        code =
            host_code(asking->tool, cm_ledger_each(asking->ledger, &query, take_unit, &labelling));
    if (!code)
        code = labelling.code;
    if (!code)
        code = write_labels(&labelling, asking->out);
    asking->counts = (struct cm_unit_counts){labelling.count, labelling.count};
    free(labelling.labels);
    json_decref(labelling.places);
    return code;
}
