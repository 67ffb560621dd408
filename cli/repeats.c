/*
 * Contents that repeat themselves.
 */
#include "repeats.h"
#include "tool.h"
#include <stdlib.h>
#include <string.h>

void repeats_begin(struct repeats *repeats, const struct cm_part *part, uint32_t size)
{
    bool may_repeat = !part->id_bytes && size > 1;
    *repeats = (struct repeats){may_repeat ? malloc(size) : NULL, size};
}

void repeats_take(struct repeats *repeats, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    if (repeats->bytes && address <= repeats->size && count <= repeats->size - address)
        memcpy(repeats->bytes + address, bytes, count);
}

/* A memory whose second part is its first, shifted by `period`, repeats itself all through. */
static bool repeats_after(const struct repeats *repeats, uint32_t period)
{
    return memcmp(repeats->bytes, repeats->bytes + period, repeats->size - period) == 0;
}

uint32_t repeats_end(struct repeats *repeats)
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

void repeats_say(struct tool *tool, uint32_t every)
{
    if (!every)
        return;
    set_json(tool, "repeats_every", json_integer(every));
    say(tool, "note",
        "the contents repeat every %u bytes, as a part of that size does under the name of a "
        "larger one: is the name right?",
        (unsigned)every);
}
