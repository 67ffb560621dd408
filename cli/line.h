/* Units one after another, hands-free: waits for contact, makes the unit, says PASS or FAIL, waits
 * until it is taken away. Several sockets work at once, each with a port of its own. */
#ifndef CM_CLI_LINE_H
#define CM_CLI_LINE_H

#include "job.h"
#include "unit.h"

struct line_options {
    const char *recipe;
    int count;    /* units that shall pass; 0: until it is stopped */
    int patience; /* seconds without a unit after which it ends; 0: never */
    const struct job_options *job;
    const struct unit_options *unit;
};

enum exit_code line_run(struct tool *tool, const struct line_options *given);

#endif
