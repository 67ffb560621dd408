/* Why an image cannot be for a part, in words. */
#ifndef CM_CLI_WORDS_MISFIT_H
#define CM_CLI_WORDS_MISFIT_H

#include <coldmint/host/error.h>

/* Returns `text`. */
const char *misfit_text(const struct cm_misfit *misfit, char *text, size_t room);

#endif
