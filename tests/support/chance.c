#include "chance.h"
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

static uint32_t today(void)
{
    time_t now = time(NULL);
    struct tm day = {0};
    gmtime_r(&now, &day);
    return (uint32_t)((day.tm_year + 1900) * 10000 + (day.tm_mon + 1) * 100 + day.tm_mday);
}

uint32_t test_seed(void)
{
    static uint32_t seed;
    static bool is_known;
    const char *text = getenv("COLDMINT_SEED");
    if (!is_known) {
        seed = text && *text ? (uint32_t)strtoul(text, NULL, 10) : today();
        printf("  sampled with COLDMINT_SEED=%u\n", (unsigned)seed);
    }
    is_known = true;
    return seed;
}

bool test_does_all(void)
{
    return getenv("COLDMINT_ALL") != NULL;
}

uint32_t test_draw(uint32_t *state, uint32_t below)
{
    *state = *state * 1664525u + 1013904223u;
    return (uint32_t)((uint64_t)*state * below >> 32);
}

uint32_t test_first(uint32_t one_in)
{
    return test_does_all() ? 0 : test_seed() % one_in;
}

uint32_t test_stride(uint32_t one_in)
{
    return test_does_all() ? 1 : one_in;
}

bool test_takes(uint32_t number, uint32_t one_in)
{
    return test_does_all() || one_in < 2 || (number + test_seed()) % one_in == 0;
}
