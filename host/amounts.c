/*
 * Amounts as people write them.
 */
#include <coldmint/host/recipe.h>
#include <ctype.h>
#include <stdlib.h>
#include <strings.h>

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
