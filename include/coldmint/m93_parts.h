/**
 * 93-series EEPROMs: the parts that the library knows. Made by tools/wire-parts.py: change it
 * there.
 */
#ifndef COLDMINT_M93_PARTS_H
#define COLDMINT_M93_PARTS_H

#include <coldmint/decls.h>
#include <coldmint/m93.h>

CM_DECLS_BEGIN

extern const struct cm_m93_part cm_93c46;
extern const struct cm_m93_part cm_93c56;
extern const struct cm_m93_part cm_93c66;
extern const struct cm_m93_part cm_93c76;
extern const struct cm_m93_part cm_93c86;
extern const struct cm_m93_part cm_93c46_by_8;
extern const struct cm_m93_part cm_93c56_by_8;
extern const struct cm_m93_part cm_93c66_by_8;
extern const struct cm_m93_part cm_93c76_by_8;
extern const struct cm_m93_part cm_93c86_by_8;
extern const struct cm_m93_part cm_93lc46b;
extern const struct cm_m93_part cm_93lc56b;
extern const struct cm_m93_part cm_93lc66b;
extern const struct cm_m93_part cm_93lc76b;
extern const struct cm_m93_part cm_93lc86b;
extern const struct cm_m93_part cm_93lc46a;
extern const struct cm_m93_part cm_93lc56a;
extern const struct cm_m93_part cm_93lc66a;
extern const struct cm_m93_part cm_93lc76a;
extern const struct cm_m93_part cm_93lc86a;
extern const struct cm_m93_part cm_93aa46b;
extern const struct cm_m93_part cm_93aa56b;
extern const struct cm_m93_part cm_93aa66b;
extern const struct cm_m93_part cm_93aa76b;
extern const struct cm_m93_part cm_93aa86b;
extern const struct cm_m93_part cm_93aa46a;
extern const struct cm_m93_part cm_93aa56a;
extern const struct cm_m93_part cm_93aa66a;
extern const struct cm_m93_part cm_93aa76a;
extern const struct cm_m93_part cm_93aa86a;
extern const struct cm_m93_part cm_at93c46;
extern const struct cm_m93_part cm_at93c56;
extern const struct cm_m93_part cm_at93c66;
extern const struct cm_m93_part cm_at93c86;
extern const struct cm_m93_part cm_at93c46_by_8;
extern const struct cm_m93_part cm_at93c56_by_8;
extern const struct cm_m93_part cm_at93c66_by_8;
extern const struct cm_m93_part cm_at93c86_by_8;
extern const struct cm_m93_part cm_m93c46;
extern const struct cm_m93_part cm_m93c56;
extern const struct cm_m93_part cm_m93c66;
extern const struct cm_m93_part cm_m93c76;
extern const struct cm_m93_part cm_m93c86;
extern const struct cm_m93_part cm_m93c46_by_8;
extern const struct cm_m93_part cm_m93c56_by_8;
extern const struct cm_m93_part cm_m93c66_by_8;
extern const struct cm_m93_part cm_m93c76_by_8;
extern const struct cm_m93_part cm_m93c86_by_8;
extern const struct cm_m93_part cm_cat93c46;
extern const struct cm_m93_part cm_cat93c56;
extern const struct cm_m93_part cm_cat93c66;
extern const struct cm_m93_part cm_cat93c76;
extern const struct cm_m93_part cm_cat93c86;
extern const struct cm_m93_part cm_cat93c46_by_8;
extern const struct cm_m93_part cm_cat93c56_by_8;
extern const struct cm_m93_part cm_cat93c66_by_8;
extern const struct cm_m93_part cm_cat93c76_by_8;
extern const struct cm_m93_part cm_cat93c86_by_8;

/** All parts of the family, for a kit that knows them all. */
enum { CM_M93_PART_COUNT = 58 };
extern const struct cm_part *const cm_m93_all_parts[CM_M93_PART_COUNT];

CM_DECLS_END

#endif
