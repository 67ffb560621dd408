#include "io.h"
static inline uint8_t pgm_read_byte(uint16_t address)
{
    return chip_flash[address];
}
