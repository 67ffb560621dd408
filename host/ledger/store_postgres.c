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

static void tell_rows(const PGresult *result, store_row_fn *told, void *context)
{
    const char *columns[MOST_COLUMNS];
    int count = PQnfields(result);
    for (int row = 0; row < PQntuples(result); row++) {
        for (int i = 0; i < count && i < MOST_COLUMNS; i++)
            columns[i] = PQgetvalue(result, row, i);
        if (told && !told(context, columns))
            return;
    }
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

static enum store_status run(struct store *store, const char *sql, const char *const *values,
                             int count, store_row_fn *told, void *context, uint32_t *rows)
{
    if (!is_there(store))
        return STORE_AWAY;
    PGresult *result = PQexecParams(store->connection, sql, count, NULL, values, NULL, NULL, 0);
    ExecStatusType status = PQresultStatus(result);
    bool is_good = status == PGRES_COMMAND_OK || status == PGRES_TUPLES_OK;
    if (is_good && rows)
        *rows = status == PGRES_TUPLES_OK ? (uint32_t)PQntuples(result)
                                          : (uint32_t)strtoul(PQcmdTuples(result), NULL, 10);
    if (status == PGRES_TUPLES_OK)
        tell_rows(result, told, context);
    store->is_broken = !is_good && is_away(result);
    PQclear(result);
    return is_good ? STORE_OK : store->is_broken ? STORE_AWAY : STORE_FAILED;
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
