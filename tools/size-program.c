/*
 * What is linked to measure the core: the smallest program that identifies one part, puts an image
 * into it, and lets it go.
 */
#include <coldmint/coldmint.h>

static const struct cm_part *const PARTS[] = {&cm_atmega1284p.part};
static const struct cm_kit KITS[] = {{.family = &cm_avr, .parts = PARTS, .part_count = 1}};

// The workspace: a page, and a bit for each of 512 pages.
#define PART "atmega1284p"
enum { WORKSPACE = 256 + 64, IMAGE_BYTES = 131072, UNPROTECT = false };
#include "size-program.h"
