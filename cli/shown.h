/*
 * Text that comes from files, chips and people, shown and not obeyed: a terminal gets no control
 * character of theirs.
 *
 *     ESC [ 2 J     \x1B[2J        a line feed     \n        a byte that is no UTF-8     \xFF
 */
#ifndef CM_CLI_SHOWN_H
#define CM_CLI_SHOWN_H

#include <jansson.h>
#include <stdio.h>

/* Prints a text; what colour() has put into it becomes colour, and nothing else does. */
void print_shown(FILE *stream, const char *text);

/* The same into a buffer, cut where it is full; without colour. Returns `out`. */
const char *shown_text(const char *text, char *out, size_t bytes);

/* A JSON string of any text: bytes that are no UTF-8 as they are shown. */
json_t *json_text(const char *text);

/* Prints it in ASCII, so that no terminal obeys what is in its texts. */
void json_print(const json_t *value);

/* Colour within a text for say, and for direct output: "1;31". Both empty where there is to be
 * none. */
const char *colour(const char *code);
const char *ink(const char *code);

#endif
