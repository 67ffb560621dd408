/*
 * How far a mistyped word is from a name: letters that are missing, too many, others, or two that
 * have changed places (the optimal string alignment distance).
 */
#include "nearest.h"
#include <stdbool.h>
#include <string.h>

enum { MOST = 40 };

static unsigned least(unsigned a, unsigned b)
{
    return a < b ? a : b;
}

static unsigned distance_of(const char *one, size_t one_length, const char *other,
                            size_t other_length)
{
    unsigned table[MOST + 1][MOST + 1];
    for (size_t i = 0; i <= one_length; i++) {
        for (size_t k = 0; k <= other_length; k++) {
            unsigned *here = &table[i][k];
            if (!i || !k) {
                *here = (unsigned)(i + k);
                continue;
            }
            *here = table[i - 1][k - 1] + (one[i - 1] != other[k - 1]);
            *here = least(*here, least(table[i - 1][k], table[i][k - 1]) + 1);
            if (i > 1 && k > 1 && one[i - 1] == other[k - 2] && one[i - 2] == other[k - 1])
                *here = least(*here, table[i - 2][k - 2] + 1);
        }
    }
    return table[one_length][other_length];
}

void nearest_offer(struct nearest *nearest, const char *name)
{
    enum { SHORT = 4 };
    const size_t typed = strlen(nearest->typed), length = strlen(name);
    if (typed < 2 || typed > MOST || length > MOST)
        return;
    unsigned distance = distance_of(nearest->typed, typed, name, length);
    bool is_near = distance <= (typed < SHORT ? 1u : 2u) && distance < length;
    if (is_near && (!nearest->name || distance < nearest->distance)) {
        nearest->name = name;
        nearest->distance = distance;
    }
}
