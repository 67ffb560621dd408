/*
 * The registers for an area: found by trying them all. And what registers from a file mean. A file
 * of its own: a program that only lifts and restores carries none of it.
 */
#include "nor.h"
#include <string.h>

/* Sets the bits of a mask to a number, the lowest bit first. */
static uint8_t with_level(const struct cm_nor_guard *rules, uint8_t byte, uint8_t level)
{
    for (uint8_t i = 0; i < sizeof rules->bp; i++)
        byte = (uint8_t)((level >> i & 1) ? byte | rules->bp[i] : byte & ~rules->bp[i]);
    return byte;
}

static void set_bit(uint8_t *byte, uint8_t mask, bool on)
{
    *byte = (uint8_t)(on ? *byte | mask : *byte & ~mask);
}

/* Candidate number: the level in the lowest four bits, then TB, SEC, CMP. False where the part
 * lacks what it needs. */
static bool make_candidate(const struct cm_nor_part *part, uint8_t number, struct cm_guard *guard)
{
    const struct cm_nor_guard *rules = part->guard;
    bool tb = number & 0x10, sec = number & 0x20, cmp = number & 0x40;
    uint8_t highest, level = number & 0x0F;
    (void)cm_nor_level(rules, guard->registers, &highest);
    if (level > highest || (tb && (!rules->tb_mask || rules->tb_fixed)) ||
        (sec && !rules->sec_mask) || (cmp && !rules->cmp_mask))
        return false;
    guard->registers[0] = with_level(rules, guard->registers[0], level);
    if (rules->tb_mask && !rules->tb_fixed)
        set_bit(&guard->registers[rules->tb_register], rules->tb_mask, tb);
    set_bit(&guard->registers[0], rules->sec_mask, sec);
    if (rules->cmp_mask)
        set_bit(&guard->registers[rules->cmp_register], rules->cmp_mask, cmp);
    cm_nor_find_area(part, guard);
    return true;
}

enum cm_status cm_nor_guard_choose(const struct cm_part *any, struct cm_guard *guard,
                                   uint32_t first, uint32_t bytes)
{
    const struct cm_nor_part *part = cm_nor_row(any);
    struct cm_guard best = *guard;
    bool found = false;
    if (!part->guard || part->guard->by_sector || bytes > part->bytes ||
        first > part->bytes - bytes)
        return CM_DIFFERS;
    if (part->guard->vague && bytes && bytes < part->bytes)
        return CM_DIFFERS;
    for (uint8_t number = 0; number < 0x80; number++) {
        struct cm_guard candidate = *guard;
        if (part->guard->wps_mask)
            candidate.registers[part->guard->wps_register] &= (uint8_t)~part->guard->wps_mask;
        candidate.by_sector = false;
        if (!make_candidate(part, number, &candidate))
            continue;
        bool holds = bytes == 0 ? candidate.bytes == 0
                                : candidate.bytes && candidate.first <= first &&
                                      first + bytes <= candidate.first + candidate.bytes;
        if (holds && (!found || candidate.bytes < best.bytes)) {
            best = candidate;
            found = true;
        }
    }
    *guard = best;
    return found && best.bytes == bytes && (bytes == 0 || best.first == first) ? CM_OK : CM_DIFFERS;
}

void cm_nor_guard_mean(const struct cm_part *any, struct cm_guard *guard)
{
    const struct cm_nor_part *part = cm_nor_row(any);
    if (!part->guard)
        return;
    if (!part->guard->by_sector) {
        cm_nor_find_area(part, guard);
        return;
    }
    if (guard->registers[0] & NOR_SUMMARY_BITS)
        guard->registers[0] |= NOR_SUMMARY_BITS;
    guard->bytes = guard->registers[0] & NOR_SUMMARY_BITS ? part->bytes : 0;
    guard->first = 0;
}
