/* What options do not say: the environment, then the configuration file. */
#ifndef CM_CLI_CONFIG_H
#define CM_CLI_CONFIG_H

struct tool;

/* Fills in `via` and `clock` where no option did. A broken configuration file is told on stderr and
 * passed over. */
void config_apply(struct tool *tool);

#endif
