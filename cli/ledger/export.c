/*
 * All that is known of units, as CSV and as JSON.
 */
#include "ledger.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* RFC 4180. What a spreadsheet would take for a formula gets a quote before it: some pass over
 * blanks that come first. */
static void write_quoted(FILE *file, const char *text)
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
    fputc('"', file);
}

void csv_write_field(FILE *file, const char *text, bool is_last)
{
    write_quoted(file, text);
    fputs(is_last ? "\r\n" : ",", file);
}

/* The columns of the units' own values, which come last. False: the unit has one that was not there
 * when the names were read. */
static bool write_own(FILE *file, const struct cm_unit_record *unit, json_t *names)
{
    const size_t count = json_object_size(names);
    json_t *own = unit_own(unit), *unused;
    const char *name;
    size_t done = 0, found = 0;
    json_object_foreach(names, name, unused)
    {
        const char *value = json_string_value(json_object_get(own, name));
        found += value != NULL;
        csv_write_field(file, value ? value : "", ++done == count);
    }
    bool is_whole = found == json_object_size(own);
    json_decref(own);
    return is_whole;
}

static bool write_row(FILE *file, const struct cm_unit_record *unit, json_t *names)
{
    char number[SHORT_TEXT], begun[SHORT_TEXT];
    fprintf(file, "%s,", unit->has_number ? unit_number_of(unit, number) : "");
    csv_write_field(file, unit->series, false);
    fprintf(file, "%d,%s,%u,", unit->passed, unit_begun_text(unit, begun), (unsigned)unit->took_ms);
    const char *const texts[] = {unit->recipe, unit->version,         unit->board,
                                 unit->chip,   unit->chip_id,         unit->station,
                                 unit->port,   unit->settings_before, unit->settings_after,
                                 unit->images, unit->cause,           unit->key};
    enum { TEXTS = sizeof texts / sizeof texts[0] };
    for (int k = 0; k < TEXTS; k++)
        csv_write_field(file, texts[k], k + 1 == TEXTS && !json_object_size(names));
    return write_own(file, unit, names);
}

struct exporting {
    FILE *file;
    json_t *names; /* of the units' own values: the keys of an object */
    bool is_csv, has_first, is_full, is_behind; /* of memory; of units that were added meanwhile */
};

/* Names of own values differ from series to series: each has a column. */
static bool take_names(void *context, const struct cm_unit_record *unit)
{
    json_t *own = unit_own(unit);
    if (own)
        json_object_update_missing(context, own);
    json_decref(own);
    return true;
}

static bool write_unit(void *context, const struct cm_unit_record *unit)
{
    struct exporting *exporting = context;
    if (exporting->is_csv) {
        exporting->is_behind = !write_row(exporting->file, unit, exporting->names);
        return !exporting->is_behind;
    }
    json_t *object = unit_json(unit);
    fputs(exporting->has_first ? ",\n" : "", exporting->file);
    exporting->has_first = true;
    char *text = json_dumps(object, JSON_INDENT(2) | JSON_ENSURE_ASCII);
    json_decref(object);
    exporting->is_full = !text;
    fputs(text ? text : "", exporting->file);
    free(text);
    return !exporting->is_full;
}

static void write_head(const struct exporting *exporting)
{
    json_t *unused;
    const char *name;
    char column[CM_UNIT_VALUE + 8];
    if (!exporting->is_csv) {
        fputs("[\n", exporting->file);
        return;
    }
    fputs("number,series,passed,begun,took_ms,recipe,version,board,chip,chip_id,station,"
          "port,settings_before,settings_after,images,cause,key",
          exporting->file);
    json_object_foreach(exporting->names, name, unused)
    {
        snprintf(column, sizeof column, "own.%s", name);
        fputc(',', exporting->file);
        write_quoted(exporting->file, column);
    }
    fputs("\r\n", exporting->file);
}

static enum exit_code end_export(struct tool *tool, const struct exporting *exporting, bool is_good,
                                 struct cm_new_file *file)
{
    if (is_good && !exporting->is_full && !exporting->is_behind)
        return host_code(tool, cm_new_file_commit(&tool->host, file));
    cm_new_file_drop(file);
    if (exporting->is_behind)
        return tool_fail_as(tool, EXIT_BAD_FILE, "units with new columns were added meanwhile",
                            "nothing was written", "run the command again");
    return is_good ? tool_fail_memory(tool) : tool_fail_host(tool);
}

enum exit_code ledger_export(struct asking *asking, bool is_csv)
{
    struct tool *tool = asking->tool;
    struct cm_new_file file;
    struct exporting exporting = {.is_csv = is_csv, .names = json_object()};
    bool is_good =
        !is_csv || cm_ledger_each(asking->ledger, &asking->query, take_names, exporting.names);
    enum exit_code code =
        host_code(tool, is_good && cm_new_file_open(&tool->host, asking->out, &file));
    if (!code) {
        exporting.file = file.stream;
        write_head(&exporting);
        is_good = cm_ledger_each(asking->ledger, &asking->query, write_unit, &exporting);
        fputs(is_csv ? "" : "\n]\n", file.stream);
        code = end_export(tool, &exporting, is_good, &file);
    }
    json_decref(exporting.names);
    return code;
}
