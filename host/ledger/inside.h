/* What the files of the ledger share. */
#ifndef CM_HOST_LEDGER_INSIDE_H
#define CM_HOST_LEDGER_INSIDE_H

#include "../inside.h"
#include "store.h"
#include <coldmint/host/ledger.h>

struct cm_ledger {
    struct cm_host *host;
    const struct store_kind *kind;
    struct store *store; /* NULL: the server does not answer */
    char place[CM_ERROR_PATH], station[CM_LEDGER_TEXT];
    char shown[CM_ERROR_PATH];               /* the place without a password */
    char journal[FOLDER_BYTES + NAME_BYTES]; /* empty: a file needs none */
    char aside[FOLDER_BYTES + NAME_BYTES];   /* what the server refuses for good */
    uint32_t in_journal, set_aside;
    char why[CM_ERROR_DETAIL]; /* the last failure, in the database's words */
};

/* A failure of a statement in the host's words: CM_ERROR_LEDGER, CM_ERROR_LEDGER_AWAY. */
bool ledger_fail(struct cm_ledger *ledger, enum store_status status);

/* Statements within one transaction; an end that is not good takes all of it back. */
enum store_status ledger_begin(struct cm_ledger *ledger);
enum store_status ledger_end(struct cm_ledger *ledger, enum store_status status);
enum store_status ledger_run(struct cm_ledger *ledger, const char *sql, const char *const *values,
                             int count, store_row_fn *told, void *context, uint32_t *rows);

/* --- schema.c ---------------------------------------------------------------------------- */

/* Brings the tables to what this version wants. False: the failure is the host's. */
bool ledger_migrate(struct cm_ledger *ledger);

/* --- units.c ----------------------------------------------------------------------------- */

/* A text of a unit's record: its name in the journal, and its column in the answer to a query. */
struct ledger_text {
    const char *name;
    size_t at, room;
    uint8_t column;
};
enum { LEDGER_TEXTS = 14 };
extern const struct ledger_text ledger_texts[LEDGER_TEXTS];

/* Is all of it UTF-8? */
bool ledger_is_text(const char *text);

/* Inserts a unit that is not there yet, and settles its number. */
enum store_status ledger_insert(struct cm_ledger *ledger, const struct cm_unit_record *unit);

/* --- journal.c --------------------------------------------------------------------------- */

bool ledger_find_journal(struct cm_ledger *ledger);
void ledger_count_journal(struct cm_ledger *ledger);

/* Adds a unit, synced to disk. */
bool ledger_keep(struct cm_ledger *ledger, const struct cm_unit_record *unit);

/* Delivers what is in it, in order; it stays whole until all is delivered. False: the failure is
 * the host's. Where the server does not answer, it stays. */
bool ledger_deliver(struct cm_ledger *ledger);

#endif
