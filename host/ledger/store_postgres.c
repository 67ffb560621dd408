/*
 * A ledger that several stations share: PostgreSQL, by libpq. A server that does not answer is
 * asked again at the next statement.
 */
#include "store.h"
#include <libpq-fe.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { MOST_COLUMNS = 24 };

struct store {
    PGconn *connection;
    bool is_broken;
};

static void close_store(struct store *store)
{
    if (store)
        PQfinish(store->connection);
    free(store);
}

static void be_silent(void *context, const char *message)
{
    (void)context;
    (void)message;
}

static struct store *open_store(const char *place, bool *away, char *error, unsigned room)
{
    struct store *store = calloc(1, sizeof *store);
    *away = false;
    if (!store)
        return NULL;
    const char *const names[] = {"dbname", "connect_timeout", NULL};
    const char *const values[] = {place, "5", NULL};
    store->connection = PQconnectdbParams(names, values, 1);
    if (PQstatus(store->connection) == CONNECTION_OK) {
        PQsetNoticeProcessor(store->connection, be_silent, NULL);
        return store;
    }
    *away = true;
    snprintf(error, room, "%s", PQerrorMessage(store->connection));
    close_store(store);
    return NULL;
}

/* False: nobody wants to hear more. */
static bool tell_rows(const PGresult *result, store_row_fn *told, void *context)
{
    const char *columns[MOST_COLUMNS];
    int count = PQnfields(result);
    for (int row = 0; row < PQntuples(result); row++) {
        for (int i = 0; i < count && i < MOST_COLUMNS; i++)
            columns[i] = PQgetvalue(result, row, i);
        if (told && !told(context, columns))
            return false;
    }
    return true;
}

/* A connection that broke is made anew; what was under way is lost, and the caller begins again. */
static bool is_there(struct store *store)
{
    if (store->is_broken || PQstatus(store->connection) != CONNECTION_OK)
        PQreset(store->connection);
    store->is_broken = PQstatus(store->connection) != CONNECTION_OK;
    return !store->is_broken;
}

/* Has the server gone, or is it going (SQLSTATE 57P) or not there (08)? libpq's own failures have
 * no state. */
static bool is_away(const PGresult *result)
{
    const char *state = PQresultErrorField(result, PG_DIAG_SQLSTATE);
    return !state || strncmp(state, "57P", 3) == 0 || strncmp(state, "08", 2) == 0;
}

/* Values that no later try will get in: SQLSTATE 22, data, and 23, constraints. */
static bool is_refused(const PGresult *result)
{
    const char *state = PQresultErrorField(result, PG_DIAG_SQLSTATE);
    return state && (strncmp(state, "22", 2) == 0 || strncmp(state, "23", 2) == 0);
}

static enum store_status status_of(struct store *store, const PGresult *result)
{
    store->is_broken |= is_away(result);
    return store->is_broken ? STORE_AWAY : is_refused(result) ? STORE_REFUSED : STORE_FAILED;
}

/* Row by row: an answer may be larger than memory. It is always read to its end. */
static enum store_status run(struct store *store, const char *sql, const char *const *values,
                             int count, store_row_fn *told, void *context, uint32_t *rows)
{
    if (!is_there(store))
        return STORE_AWAY;
    PGconn *connection = store->connection;
    bool listens = true;
    uint32_t seen = 0;
    if (!PQsendQueryParams(connection, sql, count, NULL, values, NULL, NULL, 0)) {
        store->is_broken = true;
        return STORE_AWAY;
    }
    enum store_status answer = STORE_OK;
    (void)PQsetSingleRowMode(connection);
    for (PGresult *result; (result = PQgetResult(connection)) != NULL; PQclear(result)) {
        ExecStatusType status = PQresultStatus(result);
        if (status == PGRES_COMMAND_OK)
            seen = (uint32_t)strtoul(PQcmdTuples(result), NULL, 10);
        else if (status != PGRES_SINGLE_TUPLE && status != PGRES_TUPLES_OK)
            answer = answer ? answer : status_of(store, result);
        seen += (uint32_t)PQntuples(result);
        listens = listens && tell_rows(result, told, context);
    }
    if (rows)
        *rows = seen;
    return answer;
}

static const char *why(const struct store *store)
{
    return PQerrorMessage(store->connection);
}

const struct store_kind store_postgres = {.open = open_store,
                                          .close = close_store,
                                          .run = run,
                                          .why = why,
                                          .begin = "BEGIN",
                                          .guard = "SELECT pg_advisory_xact_lock(20261127)"};
