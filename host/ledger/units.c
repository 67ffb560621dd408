/*
 * Units in the ledger: recorded once each, and found again.
 */
#include "inside.h"
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

/* --- recording --------------------------------------------------------------------------- */

enum { COLUMNS = 17, NUMBER_TEXT = 24 };

static enum store_status insert(struct cm_ledger *ledger, const struct cm_unit_record *unit,
                                uint32_t *rows)
{
    char number[NUMBER_TEXT], begun[NUMBER_TEXT], took[NUMBER_TEXT];
    snprintf(number, sizeof number, "%llu", (unsigned long long)unit->number);
    snprintf(begun, sizeof begun, "%lld", (long long)unit->begun);
    snprintf(took, sizeof took, "%u", (unsigned)unit->took_ms);
    const char *const values[COLUMNS] = {unit->key,
                                         unit->series,
                                         unit->has_number ? number : NULL,
                                         unit->recipe,
                                         unit->version,
                                         unit->board,
                                         unit->chip,
                                         unit->chip_id,
                                         unit->port,
                                         unit->station,
                                         unit->images,
                                         unit->settings_before,
                                         unit->settings_after,
                                         unit->passed ? "1" : "0",
                                         unit->cause,
                                         begun,
                                         took};
    return ledger_run(
        ledger,
        "INSERT INTO units (unit_key, series, number, recipe, version, board, chip, chip_id, port, "
        "station, images, settings_before, settings_after, passed, cause, begun, took_ms) VALUES "
        "($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17) "
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
    struct cm_unit_record unit = {.has_number = column[2][0] != '\0',
                                  .number = strtoull(column[2], NULL, 10),
                                  .passed = column[13][0] == '1',
                                  .begun = strtoll(column[15], NULL, 10),
                                  .took_ms = (uint32_t)strtoul(column[16], NULL, 10)};
    HOST_COPY(unit.key, column[0]);
    HOST_COPY(unit.series, column[1]);
    HOST_COPY(unit.recipe, column[3]);
    HOST_COPY(unit.version, column[4]);
    HOST_COPY(unit.board, column[5]);
    HOST_COPY(unit.chip, column[6]);
    HOST_COPY(unit.chip_id, column[7]);
    HOST_COPY(unit.port, column[8]);
    HOST_COPY(unit.station, column[9]);
    HOST_COPY(unit.images, column[10]);
    HOST_COPY(unit.settings_before, column[11]);
    HOST_COPY(unit.settings_after, column[12]);
    HOST_COPY(unit.cause, column[14]);
    return telling->told(telling->context, &unit);
}

bool cm_ledger_each(struct cm_ledger *ledger, const struct cm_ledger_query *query,
                    cm_unit_told_fn *told, void *context)
{
    struct telling telling = {told, context};
    char number[NUMBER_TEXT], from[NUMBER_TEXT], to[NUMBER_TEXT];
    snprintf(number, sizeof number, "%llu", (unsigned long long)query->number);
    snprintf(from, sizeof from, "%lld", (long long)query->from);
    snprintf(to, sizeof to, "%lld", query->to ? (long long)query->to : INT64_MAX);
    const char *const values[] = {query->has_number ? "1" : "0",
                                  number,
                                  query->series ? query->series : "",
                                  query->chip_id ? query->chip_id : "",
                                  query->recipe ? query->recipe : "",
                                  from,
                                  to};
    enum store_status status = ledger_run(
        ledger,
        "SELECT unit_key, series, number, recipe, version, board, chip, chip_id, port, station, "
        "images, settings_before, settings_after, passed, cause, begun, took_ms FROM units WHERE "
        "(CAST($1 AS TEXT) = '0' OR number = $2) AND (CAST($3 AS TEXT) = '' OR series = $3) AND "
        "(CAST($4 AS TEXT) = '' OR chip_id = $4) AND (CAST($5 AS TEXT) = '' OR recipe = $5) AND "
        "begun >= $6 AND begun <= $7 ORDER BY begun, unit_key",
        values, 7, tell_unit, &telling, NULL);
    return !status || ledger_fail(ledger, status);
}
