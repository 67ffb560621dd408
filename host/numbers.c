/*
 * Where numbers of units come from: a series of the ledger, or a file of them (RFC 4180).
 */
#include "inside.h"
#include <coldmint/host/amounts.h>
#include <coldmint/host/files.h>
#include <coldmint/host/unit.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

bool cm_number_range_parse(const char *text, struct cm_number_range *range)
{
    unsigned long long first, last;
    int end = 0;
    memset(range, 0, sizeof *range);
    if (sscanf(text, "%40s %llu to %llu%n", range->series, &first, &last, &end) == 3 &&
        !text[end]) {
        range->first = first;
        range->last = last;
        return first <= last && last <= INT64_MAX;
    }
    range->last = INT64_MAX;
    return sscanf(text, "%40s from %255[^\n]", range->series, range->file) == 2;
}

/* --- a file of numbers ------------------------------------------------------------------- */

struct table {
    const char *at; /* the rest of the text */
    char separator;
    uint32_t line;
    bool is_damaged;
};

/* What stands between two fields: a comma; where the first row has none, a semicolon or a tab, as
 * spreadsheets write in countries whose numbers have commas. */
static char separator_of(const char *text)
{
    static const char USUAL[] = ",;\t";
    size_t row = strcspn(text, "\r\n");
    for (const char *one = USUAL; *one; one++) {
        if (memchr(text, *one, row))
            return *one;
    }
    return ',';
}

/* At the beginning, or behind a row: past the empty lines. */
static bool has_more(struct table *table)
{
    for (; *table->at == '\n' || *table->at == '\r'; table->at++)
        table->line += *table->at == '\n';
    return *table->at != '\0';
}

/* The next field, with its quotes taken off; `last`: the row ends behind it. */
static bool next_field(struct table *table, char *field, bool *last)
{
    size_t used = 0;
    const char *at = table->at;
    bool is_quoted = *at == '"';
    at += is_quoted;
    for (;; at++) {
        if (is_quoted && at[0] == '"' && at[1] == '"')
            at++;
        else if (is_quoted ? *at == '"' : *at == table->separator || *at == '\n' || *at == '\r')
            break;
        if (!*at)
            break;
        if (used + 1 >= CM_UNIT_VALUE)
            return false;
        table->line += *at == '\n';
        field[used++] = *at;
    }
    field[used] = '\0';
    if (is_quoted && *at++ != '"')
        return false;
    at += *at == '\r';
    *last = *at == '\n' || !*at;
    if (!*last && *at != table->separator)
        return false;
    table->at = at + (*at != '\0');
    return true;
}

/* A row into an array of texts. */
static uint8_t next_row(struct table *table, char (*fields)[CM_UNIT_VALUE])
{
    uint8_t count = 0;
    bool last = false;
    table->line++;
    while (!last) {
        if (count == CM_UNIT_COLUMNS || !next_field(table, fields[count], &last)) {
            table->is_damaged = true;
            return 0;
        }
        count++;
    }
    return count;
}

static bool fail_row(struct cm_host *host, const char *path, const struct table *table,
                     const char *detail)
{
    struct cm_error *error = host_error(host, CM_ERROR_NUMBERS_FILE, path);
    error->line = table->line;
    HOST_COPY(error->detail, detail);
    return false;
}

static int column_of(const struct cm_unit_facts *facts, const char *name, uint8_t from)
{
    for (uint8_t i = from; i < facts->column_count; i++) {
        if (strcmp(facts->names[i], name) == 0)
            return i;
    }
    return -1;
}

/* The first row. */
static bool read_names(struct cm_host *host, const char *path, struct table *table,
                       struct cm_unit_facts *facts)
{
    facts->has_number = true;
    facts->column_count = has_more(table) ? next_row(table, facts->names) : 0;
    if (table->is_damaged)
        return fail_row(host, path, table, "a row that is damaged, or too long");
    if (column_of(facts, "number", 0) < 0)
        return fail_row(host, path, table, "no column is called 'number'");
    for (uint8_t i = 0; i < facts->column_count; i++) {
        if (column_of(facts, facts->names[i], (uint8_t)(i + 1)) >= 0)
            return fail_row(host, path, table, "two columns have the same name");
    }
    return true;
}

static bool read_row(struct cm_host *host, const char *path, struct table *table,
                     struct cm_unit_facts *facts)
{
    if (next_row(table, facts->values) != facts->column_count)
        return fail_row(host, path, table,
                        table->is_damaged ? "a row that is damaged, or too long"
                                          : "a row of other columns than the first");
    const char *text = facts->values[column_of(facts, "number", 0)];
    if (!cm_parse_number(&text, &facts->number) || *text || facts->number > INT64_MAX)
        return fail_row(host, path, table, "this is no number");
    return true;
}

/* --- each number once -------------------------------------------------------------------- */

struct numbered_row {
    uint64_t number;
    uint32_t line;
};

static int by_number(const void *a, const void *b)
{
    const struct numbered_row *one = a, *other = b;
    if (one->number != other->number)
        return one->number < other->number ? -1 : 1;
    return one->line < other->line ? -1 : one->line > other->line;
}

/* The numbers of all rows; free them in any case. */
static bool collect(struct cm_host *host, const char *path, struct table *table,
                    struct numbered_row **rows, size_t *count)
{
    struct cm_unit_facts facts = {.number = 0};
    size_t room = 0;
    if (!read_names(host, path, table, &facts))
        return false;
    while (has_more(table)) {
        if (!read_row(host, path, table, &facts))
            return false;
        if (*count == room) {
            room = room ? 2 * room : 64;
            struct numbered_row *more = realloc(*rows, room * sizeof *more);
            if (!more)
                return host_fail(host, CM_ERROR_NO_MEMORY, path);
            *rows = more;
        }
        (*rows)[(*count)++] = (struct numbered_row){facts.number, table->line};
    }
    return true;
}

/* Is all of the file as it should be, and no number there twice? Before a number is given out. */
static bool check_rows(struct cm_host *host, const char *path, struct table table)
{
    struct numbered_row *rows = NULL;
    size_t count = 0;
    bool good = collect(host, path, &table, &rows, &count);
    if (good && count)
        qsort(rows, count, sizeof *rows, by_number);
    for (size_t i = 1; good && i < count; i++) {
        if (rows[i].number != rows[i - 1].number)
            continue;
        char detail[80];
        snprintf(detail, sizeof detail, "the number %llu is in line %u already",
                 (unsigned long long)rows[i].number, (unsigned)rows[i - 1].line);
        table.line = rows[i].line;
        good = fail_row(host, path, &table, detail);
    }
    free(rows);
    return good;
}

/* --- all together ------------------------------------------------------------------------ */

static bool read_rows(struct cm_host *host, const char *path, struct table *table,
                      cm_unit_row_fn *told, void *context)
{
    struct cm_unit_facts facts = {.number = 0};
    if (!check_rows(host, path, *table) || !read_names(host, path, table, &facts))
        return false;
    while (has_more(table)) {
        if (!read_row(host, path, table, &facts))
            return false;
        if (!told(context, &facts))
            return true;
    }
    return true;
}

bool cm_numbers_file_read(struct cm_host *host, const char *path, cm_unit_row_fn *told,
                          void *context)
{
    char *contents;
    size_t bytes;
    if (!cm_file_read_whole(host, path, &contents, &bytes))
        return false;
    char *text = realloc(contents, bytes + 1); // rows end where it does
    if (!text) {
        free(contents);
        return host_fail(host, CM_ERROR_NO_MEMORY, path);
    }
    text[bytes] = '\0';
    static const char MARK[] = "\xEF\xBB\xBF"; // of UTF-8, as some programs put it first
    const char *first = strncmp(text, MARK, sizeof MARK - 1) == 0 ? text + sizeof MARK - 1 : text;
    struct table table = {.at = first, .separator = separator_of(first)};
    bool good = strlen(text) == bytes ? read_rows(host, path, &table, told, context)
                                      : fail_row(host, path, &table, "it is no text");
    free(text);
    return good;
}
