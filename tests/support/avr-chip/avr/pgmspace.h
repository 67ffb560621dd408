#include "io.h"
static inline uint8_t pgm_read_byte(uint16_t address)
{
    return chip_flash[address];
}
static inline uint16_t pgm_read_word(uint16_t address)
{
    return (uint16_t)(chip_flash[address] | chip_flash[address + 1] << 8);
}
