/**
 * The parallel memories that the library knows. Made by tools/par-parts.py: change it there.
 *
 * Name those that your program is for in a kit; the others are not linked.
 */
#ifndef COLDMINT_PAR_PARTS_H
#define COLDMINT_PAR_PARTS_H

#include <coldmint/decls.h>
#include <coldmint/par.h>

CM_DECLS_BEGIN

extern const struct cm_par_part cm_sst39sf512;
extern const struct cm_par_part cm_sst39sf010a;
extern const struct cm_par_part cm_sst39sf020a;
extern const struct cm_par_part cm_sst39sf040;
extern const struct cm_par_part cm_sst39vf512;
extern const struct cm_par_part cm_sst39vf010;
extern const struct cm_par_part cm_sst39vf020;
extern const struct cm_par_part cm_sst39vf040;
extern const struct cm_par_part cm_sst39vf200a;
extern const struct cm_par_part cm_sst39vf400a;
extern const struct cm_par_part cm_sst39vf800a;
extern const struct cm_par_part cm_sst39vf160;
extern const struct cm_par_part cm_sst39vf1601;
extern const struct cm_par_part cm_sst39vf1602;
extern const struct cm_par_part cm_am29f010b;
extern const struct cm_par_part cm_am29f040b;
extern const struct cm_par_part cm_am29lv010b;
extern const struct cm_par_part cm_am29lv040b;
extern const struct cm_par_part cm_am29f002bt;
extern const struct cm_par_part cm_am29f002bb;
extern const struct cm_par_part cm_am29f200bt;
extern const struct cm_par_part cm_am29f200bb;
extern const struct cm_par_part cm_am29f400bt;
extern const struct cm_par_part cm_am29f400bb;
extern const struct cm_par_part cm_am29lv400bt;
extern const struct cm_par_part cm_am29lv400bb;
extern const struct cm_par_part cm_mx29f040;
extern const struct cm_par_part cm_mx29lv040;
extern const struct cm_par_part cm_mx29f002t;
extern const struct cm_par_part cm_mx29f002b;
extern const struct cm_par_part cm_m29f010b;
extern const struct cm_par_part cm_m29f040b;
extern const struct cm_par_part cm_m29f002bt;
extern const struct cm_par_part cm_m29f002bb;
extern const struct cm_par_part cm_m29w010b;
extern const struct cm_par_part cm_m29w040b;
extern const struct cm_par_part cm_en29f040a;
extern const struct cm_par_part cm_a29010;
extern const struct cm_par_part cm_a29040b;
extern const struct cm_par_part cm_hy29f040a;
extern const struct cm_par_part cm_pm29f002t;
extern const struct cm_par_part cm_pm29f002b;
extern const struct cm_par_part cm_pm39f010;
extern const struct cm_par_part cm_pm39f020;
extern const struct cm_par_part cm_pm39f040;
extern const struct cm_par_part cm_pm39lv512;
extern const struct cm_par_part cm_pm39lv010;
extern const struct cm_par_part cm_pm39lv020;
extern const struct cm_par_part cm_pm39lv040;
extern const struct cm_par_part cm_w39f010;
extern const struct cm_par_part cm_w39l010;
extern const struct cm_par_part cm_w39l020;
extern const struct cm_par_part cm_w39l040;
extern const struct cm_par_part cm_w49f002u;
extern const struct cm_par_part cm_w49f020;
extern const struct cm_par_part cm_at49f512;
extern const struct cm_par_part cm_at49f010;
extern const struct cm_par_part cm_at49f020;
extern const struct cm_par_part cm_at49f040;
extern const struct cm_par_part cm_at49bv040;
extern const struct cm_par_part cm_at29c256;
extern const struct cm_par_part cm_at29c512;
extern const struct cm_par_part cm_at29c010a;
extern const struct cm_par_part cm_at29c020;
extern const struct cm_par_part cm_at29c040a;
extern const struct cm_par_part cm_at29lv512;
extern const struct cm_par_part cm_at29lv010a;
extern const struct cm_par_part cm_at29lv020;
extern const struct cm_par_part cm_at29lv040a;
extern const struct cm_par_part cm_w29ee011;
extern const struct cm_par_part cm_w29c020c;
extern const struct cm_par_part cm_w29c040;
extern const struct cm_par_part cm_sst29ee512;
extern const struct cm_par_part cm_sst29ee010;
extern const struct cm_par_part cm_sst29ee020;

/** All parts of family par, for a kit that knows them all. */
enum { CM_PAR_PART_COUNT = 75 };
extern const struct cm_part *const cm_par_all_parts[CM_PAR_PART_COUNT];

extern const struct cm_par_part cm_at28c16;
extern const struct cm_par_part cm_at28c64;
extern const struct cm_par_part cm_at28c17;
extern const struct cm_par_part cm_at28c64b;
extern const struct cm_par_part cm_at28hc64b;
extern const struct cm_par_part cm_at28c256;
extern const struct cm_par_part cm_at28hc256;
extern const struct cm_par_part cm_at28c010;
extern const struct cm_par_part cm_at28c040;
extern const struct cm_par_part cm_cat28c16a;
extern const struct cm_par_part cm_cat28c64b;
extern const struct cm_par_part cm_cat28c256;
extern const struct cm_par_part cm_x28c64;
extern const struct cm_par_part cm_x28c256;
extern const struct cm_par_part cm_x28hc256;
extern const struct cm_par_part cm_x28c010;
extern const struct cm_par_part cm_28c16a;
extern const struct cm_par_part cm_28c64a;

/** All parts of family ee28, for a kit that knows them all. */
enum { CM_EE28_PART_COUNT = 18 };
extern const struct cm_part *const cm_ee28_all_parts[CM_EE28_PART_COUNT];

extern const struct cm_par_part cm_27c64;
extern const struct cm_par_part cm_27c128;
extern const struct cm_par_part cm_27c256;
extern const struct cm_par_part cm_27c010;
extern const struct cm_par_part cm_27c020;
extern const struct cm_par_part cm_27c040;
extern const struct cm_par_part cm_27c512;
extern const struct cm_par_part cm_27c080;
extern const struct cm_par_part cm_am27c64;
extern const struct cm_par_part cm_am27c128;
extern const struct cm_par_part cm_am27c256;
extern const struct cm_par_part cm_am27c512;
extern const struct cm_par_part cm_am27c010;
extern const struct cm_par_part cm_am27c020;
extern const struct cm_par_part cm_am27c040;
extern const struct cm_par_part cm_at27c256r;
extern const struct cm_par_part cm_at27c512r;
extern const struct cm_par_part cm_at27c010;
extern const struct cm_par_part cm_at27c020;
extern const struct cm_par_part cm_at27c040;
extern const struct cm_par_part cm_m27c256b;
extern const struct cm_par_part cm_m27c512;
extern const struct cm_par_part cm_m27c1001;
extern const struct cm_par_part cm_m27c2001;
extern const struct cm_par_part cm_m27c4001;
extern const struct cm_par_part cm_tms27c256;
extern const struct cm_par_part cm_tms27c512;
extern const struct cm_par_part cm_tms27c010a;
extern const struct cm_par_part cm_2716;
extern const struct cm_par_part cm_2732;
extern const struct cm_par_part cm_2764;
extern const struct cm_par_part cm_27128;
extern const struct cm_par_part cm_27256;
extern const struct cm_par_part cm_27512;
extern const struct cm_par_part cm_w27c512;
extern const struct cm_par_part cm_sst27sf512;
extern const struct cm_par_part cm_sst27sf010;
extern const struct cm_par_part cm_sst27sf020;
extern const struct cm_par_part cm_27c1024;
extern const struct cm_par_part cm_27c4096;

/** All parts of family eprom, for a kit that knows them all. */
enum { CM_EPROM_PART_COUNT = 40 };
extern const struct cm_part *const cm_eprom_all_parts[CM_EPROM_PART_COUNT];

CM_DECLS_END

#endif
