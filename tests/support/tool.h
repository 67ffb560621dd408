/* The tool, run as a process. */
#ifndef CM_TEST_TOOL_H
#define CM_TEST_TOOL_H

#include "support.h"
#include <sys/types.h>

/* Runs the tool; returns its exit code, its outputs in `out` and `err`. The arguments end with
 * NULL. */
struct outcome {
    int code;
    char out[1 << 20], err[16384];
};
void run_tool(struct outcome *outcome, const char *first, ...);

/* Starts it, its input and outputs nowhere; `arguments` begin with its name and end with NULL. What
 * it ends with: its exit code, or 128 and the signal. */
pid_t start_tool(const char *const *arguments);
int end_of_tool(pid_t child);

/* Runs the tool into the file's own `outcome`, and fails with what it said where it does not end
 * with the exit code that is due. */
#define TOOL(due, ...)                                                                             \
    do {                                                                                           \
        run_tool(&outcome, __VA_ARGS__, NULL);                                                     \
        if (outcome.code != (due))                                                                 \
            fail_msg("exit %d, not %d:\n%s%s", outcome.code, due, outcome.out, outcome.err);       \
    } while (0)

/* The same with a library loaded before it, which stands between the tool and the system. */
#define TOOL_BEHIND(library, due, ...)                                                             \
    do {                                                                                           \
        setenv("LD_PRELOAD", library, 1);                                                          \
        TOOL(due, __VA_ARGS__);                                                                    \
        unsetenv("LD_PRELOAD");                                                                    \
    } while (0)

#endif
