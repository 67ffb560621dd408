/*
 * What is linked to measure four families in one program: it identifies one part of them, puts an
 * image into it, and lets it go.
 */
#include <coldmint/coldmint.h>

static const struct cm_part *const AVR_PARTS[] = {&cm_atmega1284p.part};
static const struct cm_part *const NOR_PARTS[] = {&cm_w25q32.part};
static const struct cm_part *const PAR_PARTS[] = {&cm_sst39sf040.part};
static const struct cm_part *const I2C24_PARTS[] = {&cm_24lc256.part};
static const struct cm_kit KITS[] = {{.family = &cm_avr, .parts = AVR_PARTS, .part_count = 1},
                                     {.family = &cm_nor, .parts = NOR_PARTS, .part_count = 1},
                                     {.family = &cm_par, .parts = PAR_PARTS, .part_count = 1},
                                     {.family = &cm_i2c24, .parts = I2C24_PARTS, .part_count = 1}};

#define PART "w25q32"
enum { WORKSPACE = 256 + 65, IMAGE_BYTES = 32768, UNPROTECT = false };
#include "size-program.h"
