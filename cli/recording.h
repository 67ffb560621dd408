/* --record: what crosses the wires, in a file. */
#ifndef CM_CLI_RECORDING_H
#define CM_CLI_RECORDING_H

#include "tool.h"

/* Puts a recorder between session and port, where one is asked for; and ends it. */
enum exit_code recording_begin(struct tool *tool);
void recording_end(struct tool *tool);

#endif
