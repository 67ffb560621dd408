/*
 * What is looked for in a source: a text in each form that a ROM may hold it in, or bytes of which
 * some may be any.
 */
#ifndef CM_CLI_IMAGE_NEEDLE_H
#define CM_CLI_IMAGE_NEEDLE_H

#include "image.h"

enum { NEEDLE_BYTES = 512, NEEDLE_FORMS = 3 };

/* One form of it: a byte is found where `mask` of it is `value`. */
struct needle {
    const char *form; /* "UTF-16, low byte first"; "" where it is the plain one */
    uint32_t length;
    uint8_t value[NEEDLE_BYTES], mask[NEEDLE_BYTES];
};
struct needles {
    struct needle list[NEEDLE_FORMS];
    unsigned count;
};

/* A UTF-8 text: as it stands, and in UTF-16 of both byte orders. EXIT_GOOD, or the failure is
 * told. */
enum exit_code needles_of_text(struct tool *tool, struct needles *needles, const char *text,
                               bool any_case);
/* "73 ?? 72". */
enum exit_code needles_of_bytes(struct tool *tool, struct needles *needles, const char *text);

/* Told of each place; return false to end. */
typedef bool needle_found_fn(void *context, uint32_t address, const struct needle *needle);

/* Looks from `first` to `last`, the lowest address first. False: a byte could not be read, or the
 * user has interrupted. */
bool needles_search(const struct needles *needles, const struct cm_source *source, uint32_t first,
                    uint32_t last, needle_found_fn *found, void *context);

#endif
