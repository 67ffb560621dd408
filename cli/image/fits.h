/* For which parts an image can be, in words. */
#ifndef CM_CLI_IMAGE_FITS_H
#define CM_CLI_IMAGE_FITS_H

#include "image.h"

/* Says which parts an image can be for; with --chip, whether it can be for that one. */
enum exit_code say_fits(struct tool *tool, const struct input *input);

#endif
