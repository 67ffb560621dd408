/* look --live: contact, shown several times a second while a clip is seated by hand. */
#ifndef CM_CLI_LIVE_H
#define CM_CLI_LIVE_H

#include "tool.h"

/* Ends when contact has been good for a second, or with Ctrl-C. */
enum exit_code live_run(struct tool *tool);

#endif
