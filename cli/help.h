/* Help, from the tables of the verbs. */
#ifndef CM_CLI_HELP_H
#define CM_CLI_HELP_H

#include "tool.h"

void print_help(void);
void print_verb_help(const struct verb *verb);
void print_act_help(const struct verb *verb, const struct act *act);

#endif
