/*
 * Contents that repeat themselves.
 */
#include <coldmint/host/capsule_file.h>
#include <stdlib.h>
#include <string.h>

void cm_repeats_begin(struct cm_repeats *repeats, const struct cm_part *part, uint32_t size)
{
    bool may_repeat = !part->id_bytes && size > 1;
    *repeats = (struct cm_repeats){may_repeat ? malloc(size) : NULL, size};
}

void cm_repeats_take(struct cm_repeats *repeats, uint32_t address, const uint8_t *bytes,
                     uint32_t count)
{
    if (repeats->bytes && address <= repeats->size && count <= repeats->size - address)
        memcpy(repeats->bytes + address, bytes, count);
}

/* A memory whose second part is its first, shifted by `period`, repeats itself all through. */
static bool repeats_after(const struct cm_repeats *repeats, uint32_t period)
{
    return memcmp(repeats->bytes, repeats->bytes + period, repeats->size - period) == 0;
}

uint32_t cm_repeats_end(struct cm_repeats *repeats)
{
    enum { SMALLEST = 16 }; // bytes of the smallest EEPROM
    uint32_t every = 0;
    if (repeats->bytes && !repeats_after(repeats, 1)) {
        for (uint32_t period = SMALLEST; !every && period < repeats->size; period *= 2)
            every = repeats_after(repeats, period) ? period : 0;
    }
    free(repeats->bytes);
    repeats->bytes = NULL;
    return every;
}
