/* Values as they lie in a memory: integers, texts, checksums, by a format in words: "u32-little",
 * "i16-big", "text-12", "crc16-little". */
#ifndef CM_HOST_VALUE_H
#define CM_HOST_VALUE_H

#include <stdbool.h>
#include <stdint.h>

enum value_kind { VALUE_INTEGER, VALUE_SIGNED, VALUE_TEXT, VALUE_SUM };

enum { VALUE_TEXT_BYTES = 64 }; /* the longest text */

struct value_format {
    enum value_kind kind;
    uint8_t bytes;
    bool is_big;
};

bool value_format_parse(const char *text, struct value_format *format);

void value_put(const struct value_format *format, uint8_t *bytes, uint64_t value);
uint64_t value_get(const struct value_format *format, const uint8_t *bytes);

/* Takes a number of the format's width from a text, decimal or 0x...; false: it does not fit. */
bool value_take_number(const struct value_format *format, const char *text, uint8_t *bytes);

/* One more byte of a checksum; it begins with 0. crc32 is that of IEEE 802.3, crc16 that of ITU-T
 * V.41 from 0 (polynomial 1021, most significant bit first). */
uint32_t value_sum_add(const struct value_format *format, uint32_t sum, uint8_t byte);

#endif
