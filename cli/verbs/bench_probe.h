/* An act of the verb bench: a probe in front of a bench. */
#ifndef CM_CLI_VERBS_BENCH_PROBE_H
#define CM_CLI_VERBS_BENCH_PROBE_H

#include "tool.h"

struct cm_sim;

/* Plays the probe until Ctrl-C. */
enum exit_code bench_probe(struct tool *tool, struct cm_sim *sim);

#endif
