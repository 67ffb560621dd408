/* What reader and writer of capsules share: the format's mark, the numbers of capsule.proto's
 * fields, and a part's checksum. The writer checks the numbers against those that nanopb has. */
#ifndef CM_CAPSULE_FIELDS_H
#define CM_CAPSULE_FIELDS_H

#include "crc32.h"
#include <coldmint/capsule.h>

enum {
    FORMAT_VERSION = 1,
    FORMAT_BYTES = 18,  /* tag, length and text of the first field */
    CRC_FIELD_BYTES = 5 /* tag and value of the last one */
};
#define FORMAT_TEXT "coldmint capsule"

/* Message Capsule, and those in it. */
enum {
    CAPSULE_FORMAT = 1,
    CAPSULE_VERSION,
    CAPSULE_CHIP,
    CAPSULE_ORIGIN,
    CAPSULE_REGIONS,
    CAPSULE_PARTS,
    CAPSULE_CRC32,
    CAPSULE_WORK,
    CAPSULE_SEAL
};
enum { CHIP_NAME = 1, CHIP_FAMILY, CHIP_ID, CHIP_SUPPLY_MV };
enum { ORIGIN_TIME = 1, ORIGIN_TOOL, ORIGIN_NOTES };
enum { REGION_NAME = 1, REGION_BYTES, REGION_ERASED, REGION_FIRST };
enum { LINK_DIGEST = 1, LINK_ADDRESS, LINK_BYTES };
enum { PART_REGION = 1, PART_ADDRESS, PART_DATA, PART_CRC32, PART_NEXT };
enum {
    WORK_TITLE = 1,
    WORK_BOARD,
    WORK_VERSION,
    WORK_SUPPLY_FROM_MV,
    WORK_SUPPLY_TO_MV,
    WORK_FEED_MV,
    WORK_POWER_CYCLE,
    WORK_BOARD_HZ,
    WORK_THEN_HZ,
    WORK_CLOSES,
    WORK_UNPROTECT,
    WORK_LOSE_DATA,
    WORK_UNITS,
    WORK_SETTINGS,
    WORK_MARKER
};
enum {
    SETTING_REGION = 1,
    SETTING_ADDRESS,
    SETTING_VALUE,
    SETTING_CHOSEN,
    SETTING_EARLY,
    SETTING_LOCKS
};
enum { MARKER_REGION = 1, MARKER_ADDRESS, MARKER_BYTES };
enum { SEAL_SHA256 = 1, SEAL_KEY, SEAL_SIGNATURE };

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
