/*
 * The amounts that people write.
 */
#include "numbers.h"
#include <coldmint/host/amounts.h>
#include <ctype.h>
#include <string.h>

const char *read_number(const char *text, uint32_t *value)
{
    uint64_t number;
    if (!cm_parse_number(&text, &number))
        return NULL;
    unsigned shift = toupper((unsigned char)*text) == 'K'   ? 10
                     : toupper((unsigned char)*text) == 'M' ? 20
                                                            : 0;
    *value = (uint32_t)(number << shift);
    return number > UINT32_MAX >> shift ? NULL : text + (shift ? 1 : 0);
}

bool parse_number(const char *text, uint32_t *value)
{
    const char *end = read_number(text, value);
    return end && *end == '\0';
}

bool parse_range(const char *text, uint32_t *first, uint32_t *last)
{
    const char *end = read_number(text, first);
    uint32_t size;
    *last = UINT32_MAX;
    if (end && *end == '\0')
        return true;
    if (end && *end == '+') {
        bool good = parse_number(end + 1, &size) && size > 0 && size - 1 <= UINT32_MAX - *first;
        *last = good ? *first + (size - 1) : 0;
        return good;
    }
    if (!end || strncmp(end, "..", 2) != 0)
        return false;
    return end[2] == '\0' || (parse_number(end + 2, last) && *first <= *last);
}
