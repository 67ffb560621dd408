/*
 * Amounts as people write them.
 */
#include "inside.h"
#include <coldmint/host/amounts.h>
#include <ctype.h>
#include <errno.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>

bool cm_parse_number(const char **text, uint64_t *value)
{
    const char *digits = *text;
    bool is_hex = digits[0] == '0' && (digits[1] == 'x' || digits[1] == 'X');
    char *end;
    digits += is_hex ? 2 : 0;
    // the C library's function takes signs, blanks, and another 0x
    if (!(is_hex ? isxdigit((unsigned char)digits[0]) : isdigit((unsigned char)digits[0])) ||
        (is_hex && (digits[1] == 'x' || digits[1] == 'X')))
        return false;
    errno = 0;
    *value = strtoull(digits, &end, is_hex ? 16 : 10);
    if (errno)
        return false;
    *text = end;
    return true;
}

bool host_numbers(const char *text, const char *pattern, uint32_t *numbers)
{
    for (; *pattern; pattern++) {
        uint64_t number;
        size_t blanks = strspn(text, " \t");
        if (*pattern == '#') {
            if (!cm_parse_number(&text, &number) || number > UINT32_MAX)
                return false;
            *numbers++ = (uint32_t)number;
        } else if (*pattern == ' ' ? !blanks : *text != *pattern) {
            return false;
        } else {
            text += *pattern == ' ' ? blanks : 1;
        }
    }
    return !text[strspn(text, " \t")];
}

bool cm_parse_byte(const char *text, uint8_t *byte)
{
    if (!isxdigit((unsigned char)text[0]) || !isxdigit((unsigned char)text[1]))
        return false;
    const char digits[] = {text[0], text[1], '\0'};
    *byte = (uint8_t)strtoul(digits, NULL, 16);
    return true;
}

uint32_t cm_parse_clock(const char *text)
{
    char *end;
    double value = strtod(text, &end);
    while (*end == ' ')
        end++;
    double factor = 1;
    if (tolower((unsigned char)*end) == 'k')
        factor = 1e3;
    else if (*end == 'M' || *end == 'm')
        factor = 1e6;
    const char *rest = factor > 1 ? end + 1 : end;
    bool is_unit = *rest == '\0' || strcasecmp(rest, "Hz") == 0;
    double hz = value * factor;
    return end != text && is_unit && hz >= 1000 && hz <= 133e6 ? (uint32_t)hz : 0;
}

uint16_t cm_parse_volts(const char *text)
{
    char *end;
    double volts = strtod(text, &end);
    bool is_unit = *end == '\0' || strcasecmp(end, "V") == 0;
    return end != text && is_unit && volts >= 1.5 && volts <= 6 ? (uint16_t)(volts * 1000 + 0.5)
                                                                : 0;
}
