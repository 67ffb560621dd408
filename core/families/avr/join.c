/*
 * A boot loader on a part without a boot section: the reset vector jumps to it, and the
 * application's own jump moves to the word before it.
 *
 * Data sheets, "RJMP": opcode 1100 kkkk kkkk kkkk, PC <- PC + k + 1; it wraps around in parts of up
 * to 4 Kwords.
 */
#include <coldmint/avr.h>

enum { RJMP = 0xC000, REACH = 0x0FFF, WRAP_BYTES = 8192 };

static uint16_t jump(uint32_t from, uint32_t to)
{
    return (uint16_t)(RJMP | (((to - from) / 2 - 1) & REACH));
}

bool cm_avr_lead_reset_to(const struct cm_part *part, uint32_t loader, uint16_t *vector,
                          uint16_t *own_jump)
{
    uint32_t flash_bytes = cm_avr_row(part)->flash_bytes;
    bool is_relative = (*vector & ~(uint32_t)REACH) == RJMP;
    if (!is_relative || flash_bytes > WRAP_BYTES || loader < 4 || loader >= flash_bytes ||
        (loader & 1))
        return false;
    uint32_t target = ((*vector & REACH) + 1u) * 2;
    *own_jump = jump(loader - 2, target);
    *vector = jump(0, loader);
    return true;
}

bool cm_avr_reset_leads_to(const struct cm_part *part, uint16_t vector, uint32_t *address)
{
    uint32_t flash_bytes = cm_avr_row(part)->flash_bytes;
    if ((vector & ~(uint32_t)REACH) != RJMP || flash_bytes > WRAP_BYTES)
        return false;
    *address = ((vector & REACH) + 1u) * 2 & (flash_bytes - 1);
    return true;
}
