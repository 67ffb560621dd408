/* Failures in words: what happened, the evidence, what to try. */
#ifndef CM_CLI_WORDS_FAIL_H
#define CM_CLI_WORDS_FAIL_H

#include "tool.h"

/* Leaves a failure of the tool's own as the verb's. Returns the code. */
enum exit_code tool_fail_as(struct tool *tool, enum exit_code code, const char *what,
                            const char *evidence, const char *advice);

/* There is not enough memory. */
enum exit_code tool_fail_memory(struct tool *tool);

/* Leaves the session's failure as the verb's (failure.c). */
enum exit_code tool_fail(struct tool *tool, enum cm_status status);

/* Leaves the host library's failure as the verb's (host.c). */
enum exit_code tool_fail_host(struct tool *tool);

/* The exit code of a call of the host library: EXIT_GOOD, or its failure is told. */
enum exit_code host_code(struct tool *tool, bool is_good);

/* The exit code of a call with a session: EXIT_GOOD, or its failure is told. */
enum exit_code session_code(struct tool *tool, enum cm_status status);

const char *step_words(enum cm_step step);

/* What to try where a file cannot be written, by errno. */
const char *disk_advice(int error);

#endif
