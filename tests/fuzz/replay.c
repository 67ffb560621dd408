/*
 * Runs a fuzz target without a fuzzer: a file as it is, then with bytes changed, cut and doubled,
 * 20,000 times from the seed of the day.
 */
#include "../support/chance.h"
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

int LLVMFuzzerTestOneInput(const uint8_t *data, size_t size);

enum { MOST = 1 << 16, ROUNDS = 20000 };

static uint32_t next_random(void)
{
    static uint32_t state;
    if (!state)
        state = 2463534242u ^ test_seed();
    state ^= state << 13;
    state ^= state >> 17;
    return state ^= state << 5;
}

static size_t mutate(uint8_t *bytes, size_t size)
{
    static const char ALPHABET[] = ":S0123456789ABCDEFabcdef\r\n \t";
    for (uint32_t i = next_random() % 4; i > 0 && size > 2; i--) {
        size_t at = next_random() % size, span = next_random() % 50;
        if (span > size - at)
            span = size - at;
        switch (next_random() % 4) {
        case 0:
            bytes[at] = (uint8_t)ALPHABET[next_random() % (sizeof ALPHABET - 1)];
            break;
        case 1:
            bytes[at] ^= (uint8_t)(1u << next_random() % 8);
            break;
        case 2: // cut
            memmove(bytes + at, bytes + at + span, size - at - span);
            size -= span;
            break;
        default: // double
            if (size + span < MOST) {
                memmove(bytes + at + span, bytes + at, size - at);
                size += span;
            }
        }
    }
    return size;
}

int main(int argc, char **argv)
{
    static uint8_t seed[MOST], bytes[MOST];
    FILE *file = argc == 2 ? fopen(argv[1], "rb") : NULL;
    if (!file)
        return 2;
    seed[0] = 20;
    size_t size = 1 + fread(seed + 1, 1, MOST - 1, file);
    fclose(file);
    LLVMFuzzerTestOneInput(seed, size);
    for (int i = 0; i < ROUNDS; i++) {
        memcpy(bytes, seed, size);
        LLVMFuzzerTestOneInput(bytes, mutate(bytes, i % 3 ? size : size / 8));
    }
    return 0;
}
