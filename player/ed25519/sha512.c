/*
 * SHA-512, FIPS 180-4, sections 4.1.3, 4.2.3, 5.1.2, 5.3.5 and 6.4. Small rather than fast: what is
 * signed is 48 bytes.
 */
#include "sha512.h"
#include <string.h>

enum { BLOCK = 128, DIGEST = 64, ROUND_COUNT = 80 };

static const uint64_t ROUNDS[ROUND_COUNT] = {
    0x428A2F98D728AE22, 0x7137449123EF65CD, 0xB5C0FBCFEC4D3B2F, 0xE9B5DBA58189DBBC,
    0x3956C25BF348B538, 0x59F111F1B605D019, 0x923F82A4AF194F9B, 0xAB1C5ED5DA6D8118,
    0xD807AA98A3030242, 0x12835B0145706FBE, 0x243185BE4EE4B28C, 0x550C7DC3D5FFB4E2,
    0x72BE5D74F27B896F, 0x80DEB1FE3B1696B1, 0x9BDC06A725C71235, 0xC19BF174CF692694,
    0xE49B69C19EF14AD2, 0xEFBE4786384F25E3, 0x0FC19DC68B8CD5B5, 0x240CA1CC77AC9C65,
    0x2DE92C6F592B0275, 0x4A7484AA6EA6E483, 0x5CB0A9DCBD41FBD4, 0x76F988DA831153B5,
    0x983E5152EE66DFAB, 0xA831C66D2DB43210, 0xB00327C898FB213F, 0xBF597FC7BEEF0EE4,
    0xC6E00BF33DA88FC2, 0xD5A79147930AA725, 0x06CA6351E003826F, 0x142929670A0E6E70,
    0x27B70A8546D22FFC, 0x2E1B21385C26C926, 0x4D2C6DFC5AC42AED, 0x53380D139D95B3DF,
    0x650A73548BAF63DE, 0x766A0ABB3C77B2A8, 0x81C2C92E47EDAEE6, 0x92722C851482353B,
    0xA2BFE8A14CF10364, 0xA81A664BBC423001, 0xC24B8B70D0F89791, 0xC76C51A30654BE30,
    0xD192E819D6EF5218, 0xD69906245565A910, 0xF40E35855771202A, 0x106AA07032BBD1B8,
    0x19A4C116B8D2D0C8, 0x1E376C085141AB53, 0x2748774CDF8EEB99, 0x34B0BCB5E19B48A8,
    0x391C0CB3C5C95A63, 0x4ED8AA4AE3418ACB, 0x5B9CCA4F7763E373, 0x682E6FF3D6B2B8A3,
    0x748F82EE5DEFB2FC, 0x78A5636F43172F60, 0x84C87814A1F0AB72, 0x8CC702081A6439EC,
    0x90BEFFFA23631E28, 0xA4506CEBDE82BDE9, 0xBEF9A3F7B2C67915, 0xC67178F2E372532B,
    0xCA273ECEEA26619C, 0xD186B8C721C0C207, 0xEADA7DD6CDE0EB1E, 0xF57D4F7FEE6ED178,
    0x06F067AA72176FBA, 0x0A637DC5A2C898A6, 0x113F9804BEF90DAE, 0x1B710B35131C471B,
    0x28DB77F523047D84, 0x32CAAB7B40C72493, 0x3C9EBE0A15C9BEBC, 0x431D67C49C100D4C,
    0x4CC5D4BECB3E42B6, 0x597F299CFC657E2A, 0x5FCB6FAB3AD6FAEC, 0x6C44198C4A475817,
};

static uint64_t turned(uint64_t x, uint8_t bits)
{
    return x >> bits | x << (64 - bits);
}

static uint64_t three(uint64_t x, uint8_t a, uint8_t b, uint8_t c)
{
    return turned(x, a) ^ turned(x, b) ^ turned(x, c);
}

static uint64_t word_at(const uint8_t *bytes)
{
    uint64_t word = 0;
    for (uint8_t i = 0; i < 8; i++)
        word = word << 8 | bytes[i];
    return word;
}

/* Words behind the sixteenth take the place of the one that is sixteen before them. */
static uint64_t next_word(uint64_t *words, uint8_t i)
{
    uint64_t near = words[(i + 14) & 15], far = words[(i + 1) & 15];
    words[i & 15] += (turned(near, 19) ^ turned(near, 61) ^ near >> 6) + words[(i + 9) & 15] +
                     (turned(far, 1) ^ turned(far, 8) ^ far >> 7);
    return words[i & 15];
}

static void take_block(sha512_context *sum)
{
    uint64_t words[16], s[8];
    memcpy(s, sum->state, sizeof s);
    for (uint8_t i = 0; i < ROUND_COUNT; i++) {
        uint64_t word =
            i < 16 ? (words[i] = word_at(sum->block + 8 * (size_t)i)) : next_word(words, i);
        uint64_t one =
            s[7] + three(s[4], 14, 18, 41) + ((s[4] & s[5]) ^ (~s[4] & s[6])) + ROUNDS[i] + word;
        uint64_t two = three(s[0], 28, 34, 39) + ((s[0] & s[1]) ^ (s[0] & s[2]) ^ (s[1] & s[2]));
        memmove(s + 1, s, 7 * sizeof s[0]);
        s[4] += one;
        s[0] = one + two;
    }
    for (uint8_t i = 0; i < 8; i++)
        sum->state[i] += s[i];
}

int sha512_init(sha512_context *sum)
{
    static const uint64_t FIRST[8] = {0x6A09E667F3BCC908, 0xBB67AE8584CAA73B, 0x3C6EF372FE94F82B,
                                      0xA54FF53A5F1D36F1, 0x510E527FADE682D1, 0x9B05688C2B3E6C1F,
                                      0x1F83D9ABFB41BD6B, 0x5BE0CD19137E2179};
    memcpy(sum->state, FIRST, sizeof FIRST);
    sum->bytes = 0;
    return 0;
}

int sha512_update(sha512_context *sum, const unsigned char *bytes, size_t count)
{
    for (; count; count--) {
        sum->block[sum->bytes++ % BLOCK] = *bytes++;
        if (sum->bytes % BLOCK == 0)
            take_block(sum);
    }
    return 0;
}

int sha512_final(sha512_context *sum, unsigned char *digest)
{
    enum { LENGTH_AT = BLOCK - 4 }; // of its 16 bytes the first 12 stay zero
    const uint32_t bits = sum->bytes * 8;
    uint8_t byte = 0x80;
    uint32_t end = sum->bytes + 1;
    while ((end + 12) % BLOCK != LENGTH_AT)
        end++;
    for (end += 12; sum->bytes != end; byte = 0)
        sha512_update(sum, &byte, 1);
    const uint8_t length[4] = {(uint8_t)(bits >> 24), (uint8_t)(bits >> 16), (uint8_t)(bits >> 8),
                               (uint8_t)bits};
    sha512_update(sum, length, sizeof length);
    for (uint8_t i = 0; i < DIGEST; i++)
        digest[i] = (uint8_t)(sum->state[i / 8] >> (56 - 8 * (i % 8)));
    return 0;
}

int sha512(const unsigned char *bytes, size_t count, unsigned char *digest)
{
    sha512_context sum;
    sha512_init(&sum);
    sha512_update(&sum, bytes, count);
    return sha512_final(&sum, digest);
}
