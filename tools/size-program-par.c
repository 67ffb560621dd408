/*
 * What is linked to measure the core with parallel flash: the smallest program that identifies one
 * part, and puts an image into it.
 */
#include <coldmint/coldmint.h>

static const struct cm_part *const PARTS[] = {&cm_sst39sf040.part};
static const struct cm_kit KITS[] = {{.family = &cm_par, .parts = PARTS, .part_count = 1}};

// The workspace: a page, its sample, and the map by sectors.
#define PART "sst39sf040"
enum { WORKSPACE = 256 + 1 + 64, IMAGE_BYTES = 131072, UNPROTECT = true };
#include "size-program.h"
