/* CRC-32 of IEEE 802.3, a bit at a time: not the library's way. */
#ifndef CM_TEST_CRC_H
#define CM_TEST_CRC_H

#include <stddef.h>
#include <stdint.h>

static inline uint32_t slow_crc(const uint8_t *bytes, size_t count)
{
    uint32_t crc = 0xFFFFFFFF;
    for (size_t i = 0; i < count; i++) {
        crc ^= bytes[i];
        for (int bit = 0; bit < 8; bit++)
            crc = crc & 1 ? crc >> 1 ^ 0xEDB88320u : crc >> 1;
    }
    return ~crc;
}

#endif
