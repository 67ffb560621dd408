/*
 * Units in the ledger: recorded once each, and found again.
 */
#include "inside.h"
#include <jansson.h>
#include <stddef.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/random.h>

void cm_unit_record_begin(struct cm_unit_record *unit)
{
    uint8_t random[16] = {0};
    memset(unit, 0, sizeof *unit);
    size_t got = 0;
    while (got < sizeof random) {
        ssize_t more = getrandom(random + got, sizeof random - got, 0);
        got += more > 0 ? (size_t)more : 0;
    }
    for (size_t i = 0; i < sizeof random; i++)
        snprintf(unit->key + 2 * i, 3, "%02x", random[i]);
}

/* --- texts ------------------------------------------------------------------------------- */

#define COLUMNS_IN_ORDER                                                                           \
    "unit_key, series, number, recipe, version, board, chip, chip_id, port, station, images, "     \
    "settings_before, settings_after, passed, cause, begun, took_ms, own"
enum { COLUMNS = 18, NUMBER = 2, PASSED = 13, BEGUN = 15, TOOK_MS = 16, NUMBER_TEXT = 24 };

#define TEXT(name, member, column)                                                                 \
    {                                                                                              \
        name, offsetof(struct cm_unit_record, member),                                             \
            sizeof(((struct cm_unit_record *)0)->member), column                                   \
    }
const struct ledger_text ledger_texts[LEDGER_TEXTS] = {
    TEXT("key", key, 0),
    TEXT("series", series, 1),
    TEXT("recipe", recipe, 3),
    TEXT("version", version, 4),
    TEXT("board", board, 5),
    TEXT("chip", chip, 6),
    TEXT("chip_id", chip_id, 7),
    TEXT("port", port, 8),
    TEXT("station", station, 9),
    TEXT("images", images, 10),
    TEXT("before", settings_before, 11),
    TEXT("after", settings_after, 12),
    TEXT("cause", cause, 14),
    TEXT("own", own, 17),
};
#undef TEXT

bool ledger_is_text(const char *text)
{
    json_t *string = json_string(text);
    json_decref(string);
    return string != NULL;
}

static bool fail_text(struct cm_host *host, const char *name, const char *text, size_t room)
{
    struct cm_error *error = host_error(host, CM_ERROR_UNIT_TEXT, NULL);
    HOST_COPY(error->key, name);
    HOST_COPY(error->text, text);
    if (strlen(text) < room)
        HOST_COPY(error->detail, "it is no text in UTF-8");
    else
        snprintf(error->detail, sizeof error->detail, "it has %zu bytes, and %zu are the most",
                 strlen(text), room - 1);
    return false;
}

bool cm_unit_record_set(struct cm_host *host, const char *name, char *member, size_t room,
                        const char *text)
{
    const char *given = text ? text : "";
    host_copy(member, room, given);
    return (strlen(given) < room && ledger_is_text(given)) || fail_text(host, name, given, room);
}

static bool check_texts(struct cm_host *host, const struct cm_unit_record *unit)
{
    for (int i = 0; i < LEDGER_TEXTS; i++) {
        const char *text = (const char *)unit + ledger_texts[i].at;
        if (!ledger_is_text(text))
            return fail_text(host, ledger_texts[i].name, text, ledger_texts[i].room);
    }
    return true;
}

/* --- recording --------------------------------------------------------------------------- */

static enum store_status insert(struct cm_ledger *ledger, const struct cm_unit_record *unit,
                                uint32_t *rows)
{
    char number[NUMBER_TEXT], begun[NUMBER_TEXT], took[NUMBER_TEXT];
    snprintf(number, sizeof number, "%llu", (unsigned long long)unit->number);
    snprintf(begun, sizeof begun, "%lld", (long long)unit->begun);
    snprintf(took, sizeof took, "%u", (unsigned)unit->took_ms);
    const char *values[COLUMNS] = {[NUMBER] = unit->has_number ? number : NULL,
                                   [PASSED] = unit->passed ? "1" : "0",
                                   [BEGUN] = begun,
                                   [TOOK_MS] = took};
    for (int i = 0; i < LEDGER_TEXTS; i++)
        values[ledger_texts[i].column] = (const char *)unit + ledger_texts[i].at;
    return ledger_run(
        ledger,
        "INSERT INTO units (" COLUMNS_IN_ORDER ") VALUES "
        "($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18) "
        "ON CONFLICT (unit_key) DO NOTHING",
        values, COLUMNS, NULL, NULL, rows);
}

enum store_status ledger_insert(struct cm_ledger *ledger, const struct cm_unit_record *unit)
{
    const char *const values[] = {unit->passed ? "made" : "free", unit->key};
    uint32_t rows = 0;
    enum store_status status = ledger_begin(ledger);
    if (status)
        return status;
    status = insert(ledger, unit, &rows);
    if (!status && rows) // a number that it has taken
        status = ledger_run(
            ledger, "UPDATE numbers SET state = $1 WHERE unit_key = $2 AND state = 'leased'",
            values, 2, NULL, NULL, NULL);
    return ledger_end(ledger, status);
}

bool cm_ledger_record(struct cm_ledger *ledger, const struct cm_unit_record *given)
{
    struct cm_unit_record unit = *given;
    if (!unit.station[0])
        HOST_COPY(unit.station, ledger->station);
    if (!check_texts(ledger->host, &unit))
        return false;
    if (!ledger->journal[0]) {
        enum store_status status = ledger_insert(ledger, &unit);
        return !status || ledger_fail(ledger, status);
    }
    // on disk first, and in order: what is in the journal already goes before it
    return ledger_keep(ledger, &unit) && ledger_deliver(ledger);
}

/* --- finding ----------------------------------------------------------------------------- */

struct telling {
    cm_unit_told_fn *told;
    void *context;
};

static bool tell_unit(void *context, const char *const *column)
{
    const struct telling *telling = context;
    struct cm_unit_record unit; // all its members are set, and millions of them may be told
    unit.has_number = column[NUMBER][0] != '\0';
    unit.number = strtoull(column[NUMBER], NULL, 10);
    unit.passed = column[PASSED][0] == '1';
    unit.begun = strtoll(column[BEGUN], NULL, 10);
    unit.took_ms = (uint32_t)strtoul(column[TOOK_MS], NULL, 10);
    for (int i = 0; i < LEDGER_TEXTS; i++)
        host_copy((char *)&unit + ledger_texts[i].at, ledger_texts[i].room,
                  column[ledger_texts[i].column]);
    return telling->told(telling->context, &unit);
}

#define ASKED                                                                                      \
    " FROM units WHERE (CAST($1 AS TEXT) = '0' OR number = $2) AND "                               \
    "(CAST($3 AS TEXT) = '' OR series = $3) AND (CAST($4 AS TEXT) = '' OR chip_id = $4) AND "      \
    "(CAST($5 AS TEXT) = '' OR recipe = $5) AND begun >= $6 AND begun <= $7 AND "                  \
    "(CAST($8 AS TEXT) = '' OR version = $8) AND (CAST($9 AS TEXT) = '' OR station = $9) AND "     \
    "(CAST($10 AS TEXT) = '' OR passed = CAST($11 AS BIGINT))"
enum { ASKED_VALUES = 11 };

/* A query's values as the statements want them. */
struct asked {
    char number[NUMBER_TEXT], from[NUMBER_TEXT], to[NUMBER_TEXT], last[NUMBER_TEXT];
    const char *values[ASKED_VALUES + 1];
};

static void ask(struct asked *asked, const struct cm_ledger_query *query)
{
    snprintf(asked->number, NUMBER_TEXT, "%llu", (unsigned long long)query->number);
    snprintf(asked->from, NUMBER_TEXT, "%lld", (long long)query->from);
    snprintf(asked->to, NUMBER_TEXT, "%lld", query->to ? (long long)query->to : INT64_MAX);
    snprintf(asked->last, NUMBER_TEXT, "%u", (unsigned)query->last);
    asked->values[0] = query->has_number ? "1" : "0";
    asked->values[1] = asked->number;
    asked->values[2] = query->series ? query->series : "";
    asked->values[3] = query->chip_id ? query->chip_id : "";
    asked->values[4] = query->recipe ? query->recipe : "";
    asked->values[5] = asked->from;
    asked->values[6] = asked->to;
    asked->values[7] = query->version ? query->version : "";
    asked->values[8] = query->station ? query->station : "";
    asked->values[9] = query->result == CM_UNIT_ANY ? "" : "1";
    asked->values[10] = query->result == CM_UNIT_PASSED ? "1" : "0";
    asked->values[11] = asked->last;
}

bool cm_ledger_each(struct cm_ledger *ledger, const struct cm_ledger_query *query,
                    cm_unit_told_fn *told, void *context)
{
    static const char ALL[] = "SELECT " COLUMNS_IN_ORDER ASKED " ORDER BY begun, unit_key";
    static const char LAST[] =
        "SELECT " COLUMNS_IN_ORDER " FROM (SELECT " COLUMNS_IN_ORDER ASKED
        " ORDER BY begun DESC, unit_key DESC LIMIT CAST($12 AS BIGINT)) AS latest "
        "ORDER BY begun, unit_key";
    struct telling telling = {told, context};
    struct asked asked = {.number = ""};
    ask(&asked, query);
    enum store_status status =
        ledger_run(ledger, query->last ? LAST : ALL, asked.values,
                   ASKED_VALUES + (query->last != 0), tell_unit, &telling, NULL);
    return !status || ledger_fail(ledger, status);
}

static bool take_counts(void *context, const char *const *column)
{
    struct cm_unit_counts *counts = context;
    counts->units = strtoull(column[0], NULL, 10);
    counts->passed = strtoull(column[1], NULL, 10);
    return true;
}

bool cm_ledger_count(struct cm_ledger *ledger, const struct cm_ledger_query *query,
                     struct cm_unit_counts *counts)
{
    struct asked asked = {.number = ""};
    ask(&asked, query);
    memset(counts, 0, sizeof *counts);
    enum store_status status = ledger_run(ledger, "SELECT COUNT(*), COALESCE(SUM(passed), 0)" ASKED,
                                          asked.values, ASKED_VALUES, take_counts, counts, NULL);
    return !status || ledger_fail(ledger, status);
}
