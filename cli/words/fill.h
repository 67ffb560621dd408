/* Texts with places to be filled in: "contact lost at {address}". */
#ifndef CM_CLI_WORDS_FILL_H
#define CM_CLI_WORDS_FILL_H

#include <stddef.h>

/* What a word in braces stands for, into `text`; an unknown one leaves it empty. */
typedef void fill_fn(const void *context, const char *word, char *text, size_t room);

/* The text with its places filled in, cut where there is no more room. */
void fill_in(const char *from, fill_fn *meaning, const void *context, char *text, size_t room);

#endif
