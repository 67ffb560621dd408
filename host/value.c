/*
 * Values as they lie in a memory.
 */
#include "value.h"
#include <coldmint/host/amounts.h>
#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <zlib.h>

bool value_format_parse(const char *text, struct value_format *format)
{
    char word[8], order[8] = "";
    unsigned number;
    int end = 0;
    memset(format, 0, sizeof *format);
    if (sscanf(text, "text-%2u%n", &number, &end) == 1 && !text[end]) {
        *format = (struct value_format){.kind = VALUE_TEXT, .bytes = (uint8_t)number};
        return number >= 1 && number <= VALUE_TEXT_BYTES;
    }
    int fields = sscanf(text, "%7[a-z]%2u%n-%7[a-z]%n", word, &number, &end, order, &end);
    bool has_order = fields == 3 && (!strcmp(order, "little") || !strcmp(order, "big"));
    if (fields < 2 || !isdigit((unsigned char)text[strlen(word)]) || text[end] ||
        (fields == 3 && !has_order))
        return false;
    format->is_big = has_order && strcmp(order, "big") == 0;
    format->bytes = (uint8_t)(number / 8);
    format->kind = strcmp(word, "crc") == 0 ? VALUE_SUM
                   : strcmp(word, "i") == 0 ? VALUE_SIGNED
                                            : VALUE_INTEGER;
    if (format->kind == VALUE_SUM)
        return has_order && (number == 16 || number == 32);
    bool is_integer = format->kind == VALUE_SIGNED || strcmp(word, "u") == 0;
    return is_integer && number % 8 == 0 && number >= 8 && number <= 64 &&
           (has_order || number == 8);
}

void value_put(const struct value_format *format, uint8_t *bytes, uint64_t value)
{
    const uint8_t count = format->bytes;
    for (uint8_t i = 0; i < count; i++)
        bytes[format->is_big ? count - 1 - i : i] = (uint8_t)(value >> 8 * i);
}

uint64_t value_get(const struct value_format *format, const uint8_t *bytes)
{
    const uint8_t count = format->bytes;
    uint64_t value = 0;
    for (uint8_t i = 0; i < count; i++)
        value |= (uint64_t)bytes[format->is_big ? count - 1 - i : i] << 8 * i;
    if (format->kind == VALUE_SIGNED && count < 8 && value >> (8 * count - 1))
        value |= UINT64_MAX << 8 * count;
    return value;
}

bool value_take_number(const struct value_format *format, const char *text, uint8_t *bytes)
{
    bool is_negative = *text == '-';
    const char *digits = text + is_negative;
    uint64_t value;
    if (!cm_parse_number(&digits, &value) || *digits)
        return false;
    if (format->kind == VALUE_SIGNED) {
        uint64_t limit = (uint64_t)1 << (8 * format->bytes - 1);
        if (is_negative ? value > limit : value >= limit)
            return false;
    } else if (is_negative || (format->bytes < 8 && value >> 8 * format->bytes)) {
        return false;
    }
    value_put(format, bytes, is_negative ? 0 - (uint64_t)value : value);
    return true;
}

uint32_t value_sum_add(const struct value_format *format, uint32_t sum, uint8_t byte)
{
    if (format->bytes == 4)
        return (uint32_t)crc32(sum, &byte, 1);
    sum ^= (uint32_t)byte << 8;
    for (int bit = 0; bit < 8; bit++)
        sum = sum & 0x8000 ? (sum << 1 ^ 0x1021) & 0xFFFF : sum << 1;
    return sum;
}
