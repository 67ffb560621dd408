/* A database as the ledger needs it: statements with texts as parameters, rows of texts. Two of
 * them: a SQLite file, and a PostgreSQL server. Both speak the same SQL here; parameters are $1,
 * $2,
 * ... in the order of their first use. */
#ifndef CM_HOST_LEDGER_STORE_H
#define CM_HOST_LEDGER_STORE_H

#include <stdbool.h>
#include <stdint.h>

/* STORE_REFUSED: these values it takes at no time. */
enum store_status { STORE_OK, STORE_FAILED, STORE_REFUSED, STORE_AWAY };

/* A row; columns that are NULL are "". Return false to end. */
typedef bool store_row_fn(void *context, const char *const *columns);

struct store;
struct store_kind {
    /* NULL: `error` tells why; `away`: the server does not answer. */
    struct store *(*open)(const char *place, bool *away, char *error, unsigned room);
    void (*close)(struct store *store);
    /* Runs one statement. `rows`: how many were told or changed; may be NULL. */
    enum store_status (*run)(struct store *store, const char *sql, const char *const *values,
                             int count, store_row_fn *told, void *context, uint32_t *rows);
    const char *(*why)(const struct store *store); /* the last failure in the database's words */
    const char *begin;                             /* begins a transaction that writes */
    const char *guard; /* held until its end: one after the other; NULL: `begin` does it */
};

extern const struct store_kind store_sqlite, store_postgres;

#endif
