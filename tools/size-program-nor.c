/*
 * What is linked to measure the core with SPI flash: the smallest program that identifies one part,
 * and puts an image into it with its protection lifted and put back.
 */
#include <coldmint/coldmint.h>

static const struct cm_part *const PARTS[] = {&cm_w25q32.part};
static const struct cm_kit KITS[] = {{.family = &cm_nor, .parts = PARTS, .part_count = 1}};

// The workspace: a page, its sample, and the map by 64 KiB blocks.
#define PART "w25q32"
enum { WORKSPACE = 256 + 1 + 64, IMAGE_BYTES = 131072, UNPROTECT = true };
#include "size-program.h"
