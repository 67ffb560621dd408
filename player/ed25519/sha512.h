/* SHA-512 (FIPS 180-4), as ref10 calls it. */
#ifndef SHA512_H
#define SHA512_H

#include <stddef.h>
#include <stdint.h>

typedef struct sha512_context_ {
    uint64_t state[8];
    uint32_t bytes; /* so far */
    uint8_t block[128];
} sha512_context;

/* They return 0. */
int sha512_init(sha512_context *sum);
int sha512_update(sha512_context *sum, const unsigned char *bytes, size_t count);
int sha512_final(sha512_context *sum, unsigned char *digest);
int sha512(const unsigned char *bytes, size_t count, unsigned char *digest);

#endif
