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
    uint32_t line;
    bool is_damaged;
};

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
        else if (is_quoted ? *at == '"' : *at == ',' || *at == '\n' || *at == '\r')
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
    if (!*last && *at != ',')
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

static int number_column(const struct cm_unit_facts *facts)
{
    for (uint8_t i = 0; i < facts->column_count; i++) {
        if (strcmp(facts->names[i], "number") == 0)
            return i;
    }
    return -1;
}

static bool read_rows(struct cm_host *host, const char *path, struct table *table,
                      cm_unit_row_fn *told, void *context)
{
    struct cm_unit_facts facts = {.has_number = true};
    facts.column_count = next_row(table, facts.names);
    int column = number_column(&facts);
    if (column < 0)
        return fail_row(host, path, table, "no column is called 'number'");
    while (*table->at) {
        if (next_row(table, facts.values) != facts.column_count)
            return fail_row(host, path, table,
                            table->is_damaged ? "a row that is damaged, or too long"
                                              : "a row of other columns than the first");
        const char *text = facts.values[column];
        uint64_t number;
        if (!cm_parse_number(&text, &number) || *text || number > INT64_MAX)
            return fail_row(host, path, table, "this is no number");
        facts.number = number;
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
    struct table table = {.at = text};
    bool good = strlen(text) == bytes ? read_rows(host, path, &table, told, context)
                                      : fail_row(host, path, &table, "it is no text");
    free(text);
    return good;
}
