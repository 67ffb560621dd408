/*
 * CRC-32 (IEEE 802.3, clause 3.2.9; reflected), a nibble at a time: a table of 64 bytes suits the
 * smallest chips.
 */
#include "crc32.h"

uint32_t cm_crc32(uint32_t crc, const uint8_t *bytes, size_t count)
{
    static const uint32_t NIBBLES[16] = {0x00000000, 0x1DB71064, 0x3B6E20C8, 0x26D930AC,
                                         0x76DC4190, 0x6B6B51F4, 0x4DB26158, 0x5005713C,
                                         0xEDB88320, 0xF00F9344, 0xD6D6A3E8, 0xCB61B38C,
                                         0x9B64C2B0, 0x86D3D2D4, 0xA00AE278, 0xBDBDF21C};
    crc = ~crc;
    for (; count; count--, bytes++) {
        crc = NIBBLES[(crc ^ *bytes) & 15] ^ crc >> 4;
        crc = NIBBLES[(crc ^ (uint32_t)(*bytes >> 4)) & 15] ^ crc >> 4;
    }
    return ~crc;
}
