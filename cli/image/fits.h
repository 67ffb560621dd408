/* For which parts an image can be, and for which it cannot. */
#ifndef CM_CLI_IMAGE_FITS_H
#define CM_CLI_IMAGE_FITS_H

#include "image.h"

/* Says it; with --chip for that one, and EXIT_WRONG_CHIP where it cannot be. */
enum exit_code say_fits(struct tool *tool, const struct input *input);

#endif
