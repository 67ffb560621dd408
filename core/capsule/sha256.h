/* SHA-256 (FIPS 180-4), for the seal of capsules. */
#ifndef CM_CAPSULE_SHA256_H
#define CM_CAPSULE_SHA256_H

#include <coldmint/decls.h>
#include <stddef.h>
#include <stdint.h>

CM_DECLS_BEGIN

enum { CM_SHA256_BYTES = 32, CM_SHA256_BLOCK = 64 };

struct cm_sha256 {
    uint32_t state[8];
    uint32_t bytes; /* so far */
    uint8_t block[CM_SHA256_BLOCK];
};

void cm_sha256_begin(struct cm_sha256 *sum);
void cm_sha256_add(struct cm_sha256 *sum, const uint8_t *bytes, size_t count);
void cm_sha256_end(struct cm_sha256 *sum, uint8_t *digest);

CM_DECLS_END

#endif
