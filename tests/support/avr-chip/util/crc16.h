#include <stdint.h>
/* CRC-16/XMODEM, a bit at a time. */
static inline uint16_t _crc_xmodem_update(uint16_t crc, uint8_t byte)
{
    crc = (uint16_t)(crc ^ byte << 8);
    for (int bit = 0; bit < 8; bit++)
        crc = (uint16_t)(crc & 0x8000 ? crc << 1 ^ 0x1021 : crc << 1);
    return crc;
}
