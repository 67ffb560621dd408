/*
 * A ledger in a file: SQLite. Each transaction is synced to disk; another process that writes is
 * waited for, and nobody waits to read (write-ahead log).
 */
#include "store.h"
#include <fcntl.h>
#include <sqlite3.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

enum { MOST_COLUMNS = 24, WAIT_MS = 20000, WORD = 240 };

struct store {
    sqlite3 *base;
    char path[4096];
    bool is_made; /* here, and now */
};

/* A file that was made and never filled goes: an empty one is refused the next time. */
static void close_store(struct store *store)
{
    struct stat facts;
    if (store)
        sqlite3_close(store->base);
    if (store && store->is_made && stat(store->path, &facts) == 0 && facts.st_size == 0)
        (void)unlink(store->path);
    free(store);
}

/* SQLite's own spellings (":memory:", "file:...") are names of files here. */
static void name_file(struct store *store, const char *place)
{
    snprintf(store->path, sizeof store->path, "%s%s", place[0] == '/' ? "" : "./", place);
}

/* Another process may just have made it, and be about to fill it. */
static bool stays_empty(int file)
{
    enum { TRIES = 40, WAIT_US = 50000 };
    struct stat facts = {.st_size = 1};
    for (int i = 0; i < TRIES && fstat(file, &facts) == 0 && facts.st_size == 0; i++)
        usleep(WAIT_US);
    return facts.st_size == 0;
}

/* Made for its user alone: it tells what was made. NULL, or why what is there is no ledger. */
static const char *make_file(struct store *store)
{
    enum { FLAGS = O_RDWR | O_CLOEXEC | O_NONBLOCK };
    struct stat facts;
    int file = open(store->path, FLAGS | O_CREAT | O_EXCL | O_NOFOLLOW, 0600);
    store->is_made = file >= 0;
    if (!store->is_made && (file = open(store->path, FLAGS)) < 0)
        return NULL; // SQLite says why
    bool is_file = fstat(file, &facts) == 0 && S_ISREG(facts.st_mode);
    const char *fault = !is_file ? "it is no file"
                        : !store->is_made && stays_empty(file)
                            ? "it is an empty file; take it away if a "
                              "new ledger is to begin there"
                            : NULL;
    close(file);
    return fault;
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

static bool take_word(void *context, const char *const *columns)
{
    snprintf(context, WORD, "%s", columns[0]);
    return false;
}

/* What a look at the file has found, or kept us from looking at it: a full disk, for one. */
static void say_fault(const struct store *store, const char *found, char *error, unsigned room)
{
    const int code = sqlite3_errcode(store->base), system = sqlite3_system_errno(store->base);
    const char *why = *found ? found : sqlite3_errmsg(store->base);
    if (*found || code == SQLITE_CORRUPT || code == SQLITE_NOTADB)
        snprintf(error, room, "the file is damaged: %.200s; take a copy of it that is whole", why);
    else
        snprintf(error, room, "%.200s%s%s", why, system ? ": " : "",
                 system ? strerror(system) : "");
}

/* Reads all of a small one, and the heads of a large one: is it whole? */
static bool is_whole(struct store *store, char *error, unsigned room)
{
    enum { SMALL = 64 << 20 };
    char word[WORD] = "", pages[WORD] = "", page[WORD] = "";
    bool good = !run(store, "PRAGMA page_count", NULL, 0, take_word, pages, NULL) &&
                !run(store, "PRAGMA page_size", NULL, 0, take_word, page, NULL);
    if (good && strtoull(pages, NULL, 10) * strtoull(page, NULL, 10) <= SMALL)
        good = !run(store, "PRAGMA quick_check(1)", NULL, 0, take_word, word, NULL) &&
               strcmp(word, "ok") == 0;
    if (!good)
        say_fault(store, word, error, room);
    return good;
}

static bool set_up(struct store *store, char *error, unsigned room)
{
    int result = sqlite3_open_v2(store->path, &store->base, SQLITE_OPEN_READWRITE, NULL);
    if (result == SQLITE_OK && is_foreign(store->base)) {
        snprintf(error, room, "it is another program's database");
        return false;
    }
    if (result == SQLITE_OK) {
        sqlite3_busy_timeout(store->base, WAIT_MS);
        result = sqlite3_exec(store->base, "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL", NULL,
                              NULL, NULL);
    }
    if (result == SQLITE_OK)
        return is_whole(store, error, room);
    snprintf(error, room, "%s", store->base ? sqlite3_errmsg(store->base) : "no memory");
    return false;
}

static struct store *open_store(const char *place, bool *away, char *error, unsigned room)
{
    struct store *store = calloc(1, sizeof *store);
    *away = false;
    if (!store)
        return NULL;
    name_file(store, place);
    const char *fault = make_file(store);
    if (!fault && set_up(store, error, room))
        return store;
    if (fault)
        snprintf(error, room, "%s", fault);
    close_store(store);
    return NULL;
}

static const char *why(const struct store *store)
{
    return sqlite3_errmsg(store->base);
}

const struct store_kind store_sqlite = {
    .open = open_store, .close = close_store, .run = run, .why = why, .begin = "BEGIN IMMEDIATE"};
