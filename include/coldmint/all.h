/**
 * All families in one list, for a full build: a tool, a test. A small program names its kits
 * itself.
 *
 *     static struct cm_kit kits[CM_ALL_KITS];
 *     static struct cm_all_found found;
 *     cm_all_kits(kits, &found);
 *
 * To add a family: its folder, its header among those of coldmint.h, and its row in
 * core/families/all.c. What loops over this list knows it then.
 */
#ifndef COLDMINT_ALL_H
#define COLDMINT_ALL_H

#include <coldmint/decls.h>
#include <coldmint/nor.h>
#include <coldmint/par.h>

CM_DECLS_BEGIN

enum { CM_ALL_KITS = 8 };

/** Rows in RAM for chips that are in no table, but describe themselves. */
struct cm_all_found {
    struct cm_nor_found nor;
    struct cm_par_found par;
};

/** Fills `kits`, which has room for CM_ALL_KITS, with all families and all their parts. Both belong
 * to the caller, and live as long as the sessions that use them. */
void cm_all_kits(struct cm_kit *kits, struct cm_all_found *found);

CM_DECLS_END

#endif
