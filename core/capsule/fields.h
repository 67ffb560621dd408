/* What reader and writer of capsules share: the format's mark, and a part's checksum. */
#ifndef CM_CAPSULE_FIELDS_H
#define CM_CAPSULE_FIELDS_H

#include "capsule.pb.h"
#include "crc32.h"
#include <coldmint/capsule.h>

enum {
    FORMAT_VERSION = 1,
    FORMAT_BYTES = 18,  /* tag, length and text of the first field */
    CRC_FIELD_BYTES = 5 /* tag and value of the last one */
};
#define FORMAT_TEXT       "coldmint capsule"
#define TAG(number, wire) ((uint8_t)((number) << 3 | (wire)))

/* Checksum of what stands before a part's data. */
static inline uint32_t cm_part_crc(uint32_t region, uint32_t address)
{
    const uint8_t head[8] = {(uint8_t)region,          (uint8_t)(region >> 8),
                             (uint8_t)(region >> 16),  (uint8_t)(region >> 24),
                             (uint8_t)address,         (uint8_t)(address >> 8),
                             (uint8_t)(address >> 16), (uint8_t)(address >> 24)};
    return cm_crc32(0, head, sizeof head);
}

#endif
