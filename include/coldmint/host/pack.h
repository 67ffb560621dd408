/**
 * Packing: a recipe and its images sealed into one capsule, for which no recipe, no firmware file
 * and no computer is needed any more.
 *
 *     struct cm_pack pack = {.units = 50};
 *     if (cm_maker_load(&host, "carillon.key", &pack.maker))
 *         good = cm_pack(&host, &recipe, &pack, "strike-node.mint");
 *     cm_maker_free(&pack.maker);
 *
 * What the recipe leaves to the chip is worked out here: which bits of which bytes are chosen,
 * which of them make the chip faster and which must wait. Fences are checked against a chip as it
 * is delivered.
 */
#ifndef COLDMINT_HOST_PACK_H
#define COLDMINT_HOST_PACK_H

#include <coldmint/capsule.h>
#include <coldmint/decls.h>
#include <coldmint/host/recipe.h>

CM_DECLS_BEGIN

/** A maker's key: Ed25519, RFC 8032. Its files are PEM (RFC 7468, RFC 8410). */
struct cm_maker {
    bool can_sign;
    uint8_t key[CM_KEY_BYTES]; /**< the public one */
    void *own;
};

/** Reads a private key, or a public one, which cannot sign. Errors: CM_ERROR_FILE_UNREADABLE,
 * CM_ERROR_KEY. Free it in any case. */
CM_MUST_CHECK bool cm_maker_load(struct cm_host *host, const char *path, struct cm_maker *maker);
void cm_maker_free(struct cm_maker *maker);

/** Makes a new key: the private one, readable by its owner alone, and the public one. Neither file
 * may be there. Errors: CM_ERROR_FILE_..., CM_ERROR_KEY. */
CM_MUST_CHECK bool cm_maker_make(struct cm_host *host, const char *private_path,
                                 const char *public_path);

/** A cm_verify_fn, by this computer's library. */
bool cm_maker_verify(const uint8_t *key, const uint8_t *signature, const uint8_t *message,
                     uint32_t bytes);

/** How to pack. */
struct cm_pack {
    /** Signs the capsule; all zero: nobody does. */
    struct cm_maker maker;
    /** Most units that may be made; 0: any number. Only a signature keeps others from raising it.
     */
    uint32_t units;
    /** As in struct cm_job_options. */
    bool unprotect, lose_data, anyway;
    const char *const *allow;
    /** Set by cm_pack. */
    struct cm_capsule_seal seal;
};

/**
 * Writes the capsule of a recipe. Errors: CM_ERROR_PACK_..., those of files, of settings and
 * fences, CM_ERROR_OVERLAP, CM_ERROR_MISFIT, CM_ERROR_JOIN_...
 */
CM_MUST_CHECK bool cm_pack(struct cm_host *host, const struct cm_recipe *recipe,
                           struct cm_pack *pack, const char *path);

CM_DECLS_END

#endif
