/*
 * Why an image cannot be for a part, in words.
 */
#include "misfit.h"
#include <stdio.h>

static const char *const REASONS[] = {
    [CM_FITS] = "",
    [CM_MISFIT_MICRO] = "it carries the signature of a microcontroller",
    [CM_MISFIT_NO_VECTORS] = "it does not begin with vectors, as a program for AVR does",
    [CM_MISFIT_SHORT_VECTORS] = "its vectors are of one word, the part's of two",
    [CM_MISFIT_LONG_VECTORS] = "its vectors are of two words, the part's of one",
    [CM_MISFIT_ARM] =
        "it begins as a program for Arm Cortex-M does: a stack pointer, then odd addresses",
};

const char *misfit_text(const struct cm_misfit *misfit, char *text, size_t room)
{
    const uint8_t *found = misfit->found, *id = misfit->expected;
    switch (misfit->kind) {
    case CM_MISFIT_SIZE:
        snprintf(text, room, "it reaches to 0x%llX, and %s ends at 0x%X",
                 (unsigned long long)misfit->address, misfit->region, (unsigned)misfit->limit - 1);
        break;
    case CM_MISFIT_ID:
        snprintf(text, room, "it carries the signature %02X %02X %02X, the part has %02X %02X %02X",
                 found[0], found[1], found[2], id[0], id[1], id[2]);
        break;
    case CM_MISFIT_RESET:
        snprintf(text, room, "its reset vector leads to 0x%X, beyond the flash",
                 (unsigned)misfit->address);
        break;
    default:
        snprintf(text, room, "%s", REASONS[misfit->kind]);
        break;
    }
    return text;
}
