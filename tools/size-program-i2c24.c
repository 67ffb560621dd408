/*
 * What is linked to measure the core with an I2C EEPROM: the smallest program that
 * identifies one part, and puts an image into it with its protection lifted and put back.
 */
#include <coldmint/coldmint.h>

static const struct cm_part *const PARTS[] = {&cm_24lc256.part};
static const struct cm_kit KITS[] = {{.family = &cm_i2c24, .parts = PARTS, .part_count = 1}};

// The workspace: pages of 64 bytes, their samples, and the map by groups of pages.
#define PART "24lc256"
enum { WORKSPACE = 256 + 1 + 64, IMAGE_BYTES = 32768, UNPROTECT = false };
#include "size-program.h"
