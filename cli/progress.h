/* Progress on stderr, where that is a terminal. */
#ifndef CM_CLI_PROGRESS_H
#define CM_CLI_PROGRESS_H

#include "tool.h"

/* Shows progress; false once Ctrl-C was pressed. A cm_progress_fn on the tool. */
bool tool_progress(void *tool, const struct cm_progress *progress);

/* Takes what is shown away, before something else is said. */
void tool_progress_end(struct tool *tool);

#endif
