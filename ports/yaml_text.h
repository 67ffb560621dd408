/*
 * YAML files of people, looked at before a parser sees them: a nesting that no such file needs
 * keeps one busy for minutes.
 */
#ifndef CM_PORTS_YAML_TEXT_H
#define CM_PORTS_YAML_TEXT_H

#include <stddef.h>

enum { YAML_BYTES = 1 << 20 };

/* Why a text is not parsed, in words: too large, or nested too deeply; NULL: it may be. */
const char *yaml_refusal(const char *text, size_t bytes);

/* Reads a file that may be parsed. NULL, and the reason in words in `why`; free the text. */
char *yaml_read(const char *path, size_t *bytes, const char **why);

#endif
