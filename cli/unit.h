/* A unit with a number of its own, from the ledger or by hand, and its record: what mint does
 * around a job, for one unit and for many. */
#ifndef CM_CLI_UNIT_H
#define CM_CLI_UNIT_H

#include "tool.h"

/* Where numbers come from, and what was made goes. */
struct unit_options {
    char *ledger, *station, *number;
    char *known; /* what becomes of a unit that was made before; NULL: what the recipe says */
};

struct unit {
    struct cm_ledger *ledger; /* NULL: none */
    const struct cm_recipe *recipe;
    struct cm_unit_facts facts;
    struct cm_unit_record record;
    bool has_facts;
    uint32_t begun_us;
    bool is_known; /* it was made before, under this number */
    bool is_left;  /* and stays as it is */
    uint64_t known_number;
};

/* Is --number a number? And opens the ledger; `ledger` NULL: none is wanted. */
enum exit_code unit_open_ledger(struct tool *tool, const struct unit_options *given,
                                struct cm_ledger **ledger);

/* The chip is there: notes how it stands, looks whether the unit is known, and takes the number.
 * `job`: NULL where the chip does not answer. */
enum exit_code unit_begin(struct tool *tool, struct unit *unit, const struct cm_recipe *recipe,
                          struct cm_ledger *ledger, const struct unit_options *given,
                          struct cm_job *job);

/* Takes the number once more, where the ledger's server did not answer. */
enum exit_code unit_take_number(struct tool *tool, struct unit *unit,
                                const struct unit_options *given, struct cm_job *job);

/* The job has ended with this code: records it, and settles the number. */
enum exit_code unit_end(struct tool *tool, struct unit *unit, struct cm_job *job,
                        enum exit_code code);

/* The unit was only planned: nothing is recorded, and its number is free again. */
enum exit_code unit_take_back(struct tool *tool, struct unit *unit, enum exit_code code);

/* Says what waits for the ledger's server, and what that has refused. NULL: nothing. */
void unit_tell_ledger(struct tool *tool, struct cm_ledger *ledger);

/* "number 1004", or "" where it has none. Returns `text`. */
enum { UNIT_TEXT = 40 };
const char *unit_number_text(const struct unit *unit, char *text);

#endif
