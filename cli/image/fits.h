/* For which parts an image can be, and for which it cannot. */
#ifndef CM_CLI_IMAGE_FITS_H
#define CM_CLI_IMAGE_FITS_H

#include "image.h"

/*
 * Why a program cannot be for a part: vectors of another processor, or of a larger or smaller part.
 * NULL where it can, and where it does not show: data, and code that is not at the beginning. For
 * what is to be put into the main memory.
 */
const char *why_no_program(const struct cm_source *source, const struct cm_kit *kit,
                           const struct cm_part *part, char *text, size_t room);

/* Says it; with --chip for that one, and EXIT_WRONG_CHIP where it cannot be. */
enum exit_code say_fits(struct tool *tool, const struct input *input);

#endif
