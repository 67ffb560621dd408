/* The man page, in the man macros; and words for a shell's completion, one a line. */
#ifndef CM_CLI_MAN_H
#define CM_CLI_MAN_H

#include "tool.h"

void print_man_page(void);
void print_words_of(struct tool *tool, const char *kind, const char *const *arguments);

#endif
