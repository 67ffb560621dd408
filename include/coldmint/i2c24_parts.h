/**
 * EEPROMs on I2C: the parts that the library knows. Made by tools/wire-parts.py: change it there.
 */
#ifndef COLDMINT_I2C24_PARTS_H
#define COLDMINT_I2C24_PARTS_H

#include <coldmint/decls.h>
#include <coldmint/i2c24.h>

CM_DECLS_BEGIN

extern const struct cm_i2c24_part cm_24c00;
extern const struct cm_i2c24_part cm_24c01;
extern const struct cm_i2c24_part cm_24c02;
extern const struct cm_i2c24_part cm_24c04;
extern const struct cm_i2c24_part cm_24c08;
extern const struct cm_i2c24_part cm_24c16;
extern const struct cm_i2c24_part cm_24c32;
extern const struct cm_i2c24_part cm_24c64;
extern const struct cm_i2c24_part cm_24c128;
extern const struct cm_i2c24_part cm_24c256;
extern const struct cm_i2c24_part cm_24c512;
extern const struct cm_i2c24_part cm_24c1024;
extern const struct cm_i2c24_part cm_24aa00;
extern const struct cm_i2c24_part cm_24lc01b;
extern const struct cm_i2c24_part cm_24lc02b;
extern const struct cm_i2c24_part cm_24lc04b;
extern const struct cm_i2c24_part cm_24lc08b;
extern const struct cm_i2c24_part cm_24lc16b;
extern const struct cm_i2c24_part cm_24lc32a;
extern const struct cm_i2c24_part cm_24lc64;
extern const struct cm_i2c24_part cm_24lc128;
extern const struct cm_i2c24_part cm_24lc256;
extern const struct cm_i2c24_part cm_24lc512;
extern const struct cm_i2c24_part cm_24lc1025;
extern const struct cm_i2c24_part cm_24lc1026;
extern const struct cm_i2c24_part cm_24aa01;
extern const struct cm_i2c24_part cm_24aa02;
extern const struct cm_i2c24_part cm_24aa04;
extern const struct cm_i2c24_part cm_24aa08;
extern const struct cm_i2c24_part cm_24aa16;
extern const struct cm_i2c24_part cm_24aa32a;
extern const struct cm_i2c24_part cm_24aa64;
extern const struct cm_i2c24_part cm_24aa128;
extern const struct cm_i2c24_part cm_24aa256;
extern const struct cm_i2c24_part cm_24aa512;
extern const struct cm_i2c24_part cm_at24c01d;
extern const struct cm_i2c24_part cm_at24c02d;
extern const struct cm_i2c24_part cm_at24c04d;
extern const struct cm_i2c24_part cm_at24c08d;
extern const struct cm_i2c24_part cm_at24c16d;
extern const struct cm_i2c24_part cm_at24c32e;
extern const struct cm_i2c24_part cm_at24c64d;
extern const struct cm_i2c24_part cm_at24c128c;
extern const struct cm_i2c24_part cm_at24c256c;
extern const struct cm_i2c24_part cm_at24c512c;
extern const struct cm_i2c24_part cm_at24cm01;
extern const struct cm_i2c24_part cm_at24cm02;
extern const struct cm_i2c24_part cm_m24c01;
extern const struct cm_i2c24_part cm_m24c02;
extern const struct cm_i2c24_part cm_m24c04;
extern const struct cm_i2c24_part cm_m24c08;
extern const struct cm_i2c24_part cm_m24c16;
extern const struct cm_i2c24_part cm_m24c32;
extern const struct cm_i2c24_part cm_m24c64;
extern const struct cm_i2c24_part cm_m24128;
extern const struct cm_i2c24_part cm_m24256;
extern const struct cm_i2c24_part cm_m24512;
extern const struct cm_i2c24_part cm_m24m01;
extern const struct cm_i2c24_part cm_m24m02;
extern const struct cm_i2c24_part cm_cat24c02;
extern const struct cm_i2c24_part cm_cat24c04;
extern const struct cm_i2c24_part cm_cat24c08;
extern const struct cm_i2c24_part cm_cat24c16;
extern const struct cm_i2c24_part cm_cat24c32;
extern const struct cm_i2c24_part cm_cat24c64;
extern const struct cm_i2c24_part cm_cat24c128;
extern const struct cm_i2c24_part cm_cat24c256;
extern const struct cm_i2c24_part cm_cat24c512;
extern const struct cm_i2c24_part cm_cat24m01;
extern const struct cm_i2c24_part cm_br24t01;
extern const struct cm_i2c24_part cm_br24t02;
extern const struct cm_i2c24_part cm_br24t04;
extern const struct cm_i2c24_part cm_br24t08;
extern const struct cm_i2c24_part cm_br24t16;
extern const struct cm_i2c24_part cm_br24t32;
extern const struct cm_i2c24_part cm_br24t64;
extern const struct cm_i2c24_part cm_br24t128;
extern const struct cm_i2c24_part cm_br24t256;
extern const struct cm_i2c24_part cm_br24t512;
extern const struct cm_i2c24_part cm_fm24c16;
extern const struct cm_i2c24_part cm_fm24c64;
extern const struct cm_i2c24_part cm_fm24c256;

/** All parts of the family, for a kit that knows them all. */
enum { CM_I2C24_PART_COUNT = 82 };
extern const struct cm_part *const cm_i2c24_all_parts[CM_I2C24_PART_COUNT];

CM_DECLS_END

#endif
