/*
 * A ledger in a file: SQLite. Each transaction is synced to disk; another process that writes is
 * waited for, and nobody waits to read (write-ahead log).
 */
#include "store.h"
#include <fcntl.h>
#include <sqlite3.h>
#include <stdio.h>
#include <stdlib.h>
#include <unistd.h>

enum { MOST_COLUMNS = 24, WAIT_MS = 20000 };

struct store {
    sqlite3 *base;
};

static void close_store(struct store *store)
{
    if (store)
        sqlite3_close(store->base);
    free(store);
}

/* Made for its user alone: it tells what was made. */
static void make_file(const char *place)
{
    int file = open(place, O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW, 0600);
    if (file >= 0)
        close(file);
}

/* Has it tables, and are they somebody else's? */
static bool is_foreign(sqlite3 *base)
{
    static const char ASK[] = "SELECT COUNT(*) > 0 AND SUM(name = 'ledger_version') = 0 FROM "
                              "sqlite_master";
    sqlite3_stmt *statement = NULL;
    bool is = sqlite3_prepare_v2(base, ASK, -1, &statement, NULL) == SQLITE_OK &&
              sqlite3_step(statement) == SQLITE_ROW && sqlite3_column_int(statement, 0);
    sqlite3_finalize(statement);
    return is;
}

static struct store *open_store(const char *place, bool *away, char *error, unsigned room)
{
    struct store *store = calloc(1, sizeof *store);
    *away = false;
    make_file(place);
    if (!store)
        return NULL;
    int result = sqlite3_open_v2(place, &store->base, SQLITE_OPEN_READWRITE, NULL);
    bool foreign = result == SQLITE_OK && is_foreign(store->base);
    if (result == SQLITE_OK && !foreign) {
        sqlite3_busy_timeout(store->base, WAIT_MS);
        result = sqlite3_exec(store->base, "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL", NULL,
                              NULL, NULL);
    }
    if (result == SQLITE_OK && !foreign)
        return store;
    snprintf(error, room, "%s",
             foreign       ? "it is another program's database"
             : store->base ? sqlite3_errmsg(store->base)
                           : "no memory");
    close_store(store);
    return NULL;
}

static bool tell_row(sqlite3_stmt *statement, store_row_fn *told, void *context)
{
    const char *columns[MOST_COLUMNS];
    int count = sqlite3_column_count(statement);
    for (int i = 0; i < count && i < MOST_COLUMNS; i++) {
        const char *text = (const char *)sqlite3_column_text(statement, i);
        columns[i] = text ? text : "";
    }
    return !told || told(context, columns);
}

static enum store_status run(struct store *store, const char *sql, const char *const *values,
                             int count, store_row_fn *told, void *context, uint32_t *rows)
{
    sqlite3_stmt *statement = NULL;
    uint32_t seen = 0;
    int result = sqlite3_prepare_v2(store->base, sql, -1, &statement, NULL);
    for (int i = 0; i < count && result == SQLITE_OK; i++)
        result = values[i] ? sqlite3_bind_text(statement, i + 1, values[i], -1, SQLITE_TRANSIENT)
                           : sqlite3_bind_null(statement, i + 1);
    if (result == SQLITE_OK) {
        while ((result = sqlite3_step(statement)) == SQLITE_ROW) {
            seen++;
            if (!tell_row(statement, told, context))
                break;
        }
    }
    bool is_good = result == SQLITE_DONE || result == SQLITE_ROW;
    if (rows)
        *rows = sqlite3_column_count(statement) ? seen : (uint32_t)sqlite3_changes(store->base);
    sqlite3_finalize(statement);
    return is_good ? STORE_OK : STORE_FAILED;
}

static const char *why(const struct store *store)
{
    return sqlite3_errmsg(store->base);
}

const struct store_kind store_sqlite = {
    .open = open_store, .close = close_store, .run = run, .why = why, .begin = "BEGIN IMMEDIATE"};
