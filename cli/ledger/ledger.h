/* What the verb ledger does with units: lists, exports, labels, a report. Units come one at a time:
 * there may be millions. */
#ifndef CM_CLI_LEDGER_H
#define CM_CLI_LEDGER_H

#include "tool.h"

/* What is asked for, and of whom. */
struct asking {
    struct tool *tool;
    struct cm_ledger *ledger;
    struct cm_ledger_query query;
    struct cm_unit_counts counts;
    bool one;        /* a number is given */
    const char *out; /* the file for the answer; NULL: none */
};

/* A unit as texts: its time, its number ("-" where it has none), its own values (NULL: none; the
 * caller's). */
const char *unit_begun_text(const struct cm_unit_record *unit, char *text);
const char *unit_number_of(const struct cm_unit_record *unit, char *text);
json_t *unit_own(const struct cm_unit_record *unit);
json_t *unit_json(const struct cm_unit_record *unit);

/* A field of a CSV file (RFC 4180). */
void csv_write_field(FILE *file, const char *text, bool is_last);

enum exit_code ledger_export(struct asking *asking, bool is_csv);
enum exit_code ledger_report(struct asking *asking);

/* Labels: a line for each text, and what the code on it holds; in both {number} and the like are
 * filled in. `lines` is ended by NULL; `code` NULL: what the lines say. `last`: of so many units,
 * the latest; 0: all that are asked for. */
struct label_wish {
    char **lines;
    const char *code;
    uint32_t last;
};
enum exit_code ledger_label(struct asking *asking, const struct label_wish *wish);

#endif
