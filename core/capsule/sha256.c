/*
 * SHA-256, FIPS 180-4, sections 4.1.2, 4.2.2, 5.1.1, 5.3.3 and 6.2. Up to 512 MiB, as capsules are.
 */
#include "sha256.h"
#include <stdbool.h>
#include <string.h>

static const uint32_t ROUNDS[CM_SHA256_BLOCK] = {
    0x428A2F98, 0x71374491, 0xB5C0FBCF, 0xE9B5DBA5, 0x3956C25B, 0x59F111F1, 0x923F82A4, 0xAB1C5ED5,
    0xD807AA98, 0x12835B01, 0x243185BE, 0x550C7DC3, 0x72BE5D74, 0x80DEB1FE, 0x9BDC06A7, 0xC19BF174,
    0xE49B69C1, 0xEFBE4786, 0x0FC19DC6, 0x240CA1CC, 0x2DE92C6F, 0x4A7484AA, 0x5CB0A9DC, 0x76F988DA,
    0x983E5152, 0xA831C66D, 0xB00327C8, 0xBF597FC7, 0xC6E00BF3, 0xD5A79147, 0x06CA6351, 0x14292967,
    0x27B70A85, 0x2E1B2138, 0x4D2C6DFC, 0x53380D13, 0x650A7354, 0x766A0ABB, 0x81C2C92E, 0x92722C85,
    0xA2BFE8A1, 0xA81A664B, 0xC24B8B70, 0xC76C51A3, 0xD192E819, 0xD6990624, 0xF40E3585, 0x106AA070,
    0x19A4C116, 0x1E376C08, 0x2748774C, 0x34B0BCB5, 0x391C0CB3, 0x4ED8AA4A, 0x5B9CCA4F, 0x682E6FF3,
    0x748F82EE, 0x78A5636F, 0x84C87814, 0x8CC70208, 0x90BEFFFA, 0xA4506CEB, 0xBEF9A3F7, 0xC67178F2};

/* A few bits to the right, or to the left; what falls out comes in at the other end. */
#ifdef CM_SHIFTS_ARE_SLOW /* by one bit at a time */
static uint32_t right(uint32_t x, uint8_t bits)
{
    do {
        bool is_odd = x & 1;
        x >>= 1;
        if (is_odd)
            x |= (uint32_t)1 << 31;
    } while (--bits);
    return x;
}

static uint32_t left(uint32_t x, uint8_t bits)
{
    do
        x = x << 1 | x >> 31;
    while (--bits);
    return x;
}
#else
static uint32_t right(uint32_t x, uint8_t bits)
{
    return x >> bits | x << (32 - bits);
}

static uint32_t left(uint32_t x, uint8_t bits)
{
    return x << bits | x >> (32 - bits);
}
#endif

/* Whole bytes to the right, which costs nothing anywhere. */
#define BYTES(x, bytes) ((x) >> 8 * (bytes) | (x) << (32 - 8 * (bytes)))

/*
 * The functions of section 4.1.2. Each turns by three amounts; here each turn goes on from the one
 * before, so that no turn is by more than three bits beside whole bytes.
 */
static uint32_t large_0(uint32_t x) /* 2, 13 = 2 + 11, 22 = 2 + 11 + 9 */
{
    uint32_t y = x ^ right(BYTES(x, 1), 1);
    return right(x ^ right(BYTES(y, 1), 3), 2);
}

static uint32_t large_1(uint32_t x) /* 6, 11 = 6 + 5, 25 = 6 + 5 + 14 */
{
    uint32_t y = x ^ left(BYTES(x, 2), 2);
    y = x ^ left(BYTES(y, 1), 3);
    return left(BYTES(y, 1), 2);
}

static uint32_t small_0(uint32_t x) /* 7, 18 = 7 + 11 */
{
    uint32_t y = x ^ right(BYTES(x, 1), 3);
    return left(BYTES(y, 1), 1) ^ x >> 3;
}

static uint32_t small_1(uint32_t x) /* 17, 19 = 17 + 2 */
{
    uint32_t y = x ^ right(x, 2);
    return right(BYTES(y, 2), 1) ^ x >> 10;
}

static uint32_t word_at(const uint8_t *bytes)
{
    return (uint32_t)bytes[0] << 24 | (uint32_t)bytes[1] << 16 | (uint32_t)bytes[2] << 8 | bytes[3];
}

/* Words behind the sixteenth take the place of the one that is sixteen before them. */
static uint32_t next_word(uint32_t *words, uint8_t i)
{
    return words[i & 15] +=
           small_1(words[(i + 14) & 15]) + words[(i + 9) & 15] + small_0(words[(i + 1) & 15]);
}

/* The eight variables of a round move down by one in each: `s` does, and goes back to the upper
 * half when it has come to the lower end. */
static void take_block(struct cm_sha256 *sum)
{
    uint32_t words[16], room[16], *s = room;
    memcpy(s, sum->state, sizeof sum->state);
    for (uint8_t i = 0; i < CM_SHA256_BLOCK; i++) {
        if (s == room) {
            for (uint8_t k = 0; k < 8; k++)
                room[8 + k] = room[k];
            s += 8;
        }
        uint32_t word =
            i < 16 ? (words[i] = word_at(sum->block + 4 * (size_t)i)) : next_word(words, i);
        uint32_t one = s[7] + large_1(s[4]) + (s[6] ^ (s[4] & (s[5] ^ s[6]))) + ROUNDS[i] + word;
        uint32_t two = large_0(s[0]) + ((s[0] & (s[1] | s[2])) | (s[1] & s[2]));
        s--;
        s[4] += one;
        s[0] = one + two;
    }
    for (uint8_t i = 0; i < 8; i++)
        sum->state[i] += s[i];
}

void cm_sha256_begin(struct cm_sha256 *sum)
{
    static const uint32_t FIRST[8] = {0x6A09E667, 0xBB67AE85, 0x3C6EF372, 0xA54FF53A,
                                      0x510E527F, 0x9B05688C, 0x1F83D9AB, 0x5BE0CD19};
    memcpy(sum->state, FIRST, sizeof FIRST);
    sum->bytes = 0;
}

void cm_sha256_add(struct cm_sha256 *sum, const uint8_t *bytes, size_t count)
{
    for (; count; count--) {
        sum->block[sum->bytes++ % CM_SHA256_BLOCK] = *bytes++;
        if (sum->bytes % CM_SHA256_BLOCK == 0)
            take_block(sum);
    }
}

void cm_sha256_end(struct cm_sha256 *sum, uint8_t *digest)
{
    enum { LENGTH_AT = CM_SHA256_BLOCK - 8 };
    const uint32_t bits = sum->bytes * 8;
    const uint8_t length[8] = {0,
                               0,
                               0,
                               0,
                               (uint8_t)(bits >> 24),
                               (uint8_t)(bits >> 16),
                               (uint8_t)(bits >> 8),
                               (uint8_t)bits};
    uint8_t byte = 0x80;
    do {
        cm_sha256_add(sum, &byte, 1);
        byte = 0;
    } while (sum->bytes % CM_SHA256_BLOCK != LENGTH_AT);
    cm_sha256_add(sum, length, sizeof length);
    for (uint8_t i = 0; i < CM_SHA256_BYTES; i++)
        digest[i] = (uint8_t)(sum->state[i / 4] >> (24 - 8 * (i % 4)));
}
