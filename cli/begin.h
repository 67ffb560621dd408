/* The beginning and the end of a verb: the port behind it, and the chip behind the port. */
#ifndef CM_CLI_BEGIN_H
#define CM_CLI_BEGIN_H

#include "tool.h"

/* Opens the port that --via names and identifies the chip, as asserted by --chip. EXIT_GOOD, or the
 * failure is told. */
enum exit_code tool_begin(struct tool *tool);

/* The port alone. */
enum exit_code tool_open_port(struct tool *tool);

/* The port with a session on it, and the supply of --feed; no chip is asked for. */
enum exit_code tool_open_session(struct tool *tool);

/* Are --clock and --chip what they should be? */
enum exit_code tool_check_options(struct tool *tool);

/* A session on the port that is open, which is asked as the options say. */
enum cm_status tool_start_session(struct tool *tool);

/* The chip was asked for, with this end: learns its clock, where nobody has told it. */
enum cm_status tool_learn_clock(struct tool *tool, enum cm_status status);

/* The part that --chip names, or NULL. */
const struct cm_part *tool_part(struct tool *tool);

/* Switches on what --feed asks for. */
enum cm_status tool_feed(struct tool *tool);

/* The supply measured at the target in mV; 0: this port cannot, or no port is open. */
uint16_t tool_supply_mv(struct tool *tool);

/* Closes what is open, and ends a recording. */
void tool_close(struct tool *tool);

#endif
