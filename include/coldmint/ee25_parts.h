/** Serial EEPROMs on SPI. Made by tools/nor-parts.py: change it there. */
#ifndef COLDMINT_EE25_PARTS_H
#define COLDMINT_EE25_PARTS_H

#include <coldmint/decls.h>
#include <coldmint/nor.h>

CM_DECLS_BEGIN

enum { CM_EE25_PART_COUNT = 37 };
extern const struct cm_part *const cm_ee25_all_parts[CM_EE25_PART_COUNT];

extern const struct cm_nor_part cm_25lc010a;
extern const struct cm_nor_part cm_25lc020a;
extern const struct cm_nor_part cm_25lc040a;
extern const struct cm_nor_part cm_25lc080c;
extern const struct cm_nor_part cm_25lc080d;
extern const struct cm_nor_part cm_25lc160c;
extern const struct cm_nor_part cm_25lc160d;
extern const struct cm_nor_part cm_25lc320a;
extern const struct cm_nor_part cm_25lc640a;
extern const struct cm_nor_part cm_25lc128;
extern const struct cm_nor_part cm_25lc256;
extern const struct cm_nor_part cm_25lc512;
extern const struct cm_nor_part cm_25lc1024;
extern const struct cm_nor_part cm_at25010b;
extern const struct cm_nor_part cm_at25020b;
extern const struct cm_nor_part cm_at25040b;
extern const struct cm_nor_part cm_at25080b;
extern const struct cm_nor_part cm_at25160b;
extern const struct cm_nor_part cm_at25320b;
extern const struct cm_nor_part cm_at25640b;
extern const struct cm_nor_part cm_at25128b;
extern const struct cm_nor_part cm_at25256b;
extern const struct cm_nor_part cm_at25512;
extern const struct cm_nor_part cm_at25m01;
extern const struct cm_nor_part cm_at25m02;
extern const struct cm_nor_part cm_m95010;
extern const struct cm_nor_part cm_m95020;
extern const struct cm_nor_part cm_m95040;
extern const struct cm_nor_part cm_m95080;
extern const struct cm_nor_part cm_m95160;
extern const struct cm_nor_part cm_m95320;
extern const struct cm_nor_part cm_m95640;
extern const struct cm_nor_part cm_m95128;
extern const struct cm_nor_part cm_m95256;
extern const struct cm_nor_part cm_m95512;
extern const struct cm_nor_part cm_m95m01;
extern const struct cm_nor_part cm_m95m02;

CM_DECLS_END

#endif
