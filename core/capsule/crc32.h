/* CRC-32 of IEEE 802.3, as capsules use it. Begin with 0; feed the result into the next call. */
#ifndef CM_CAPSULE_CRC32_H
#define CM_CAPSULE_CRC32_H

#include <stddef.h>
#include <stdint.h>

uint32_t cm_crc32(uint32_t crc, const uint8_t *bytes, size_t count);

#endif
