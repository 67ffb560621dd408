/*
 * Looking a part up in its family's table of packages.
 */
#include "pinouts.h"

/* Is the name one of the list's words? */
bool cm_pinout_lists(const char *list, const char *name)
{
    while (*list) {
        const char *at = name;
        while (*at && *list == *at) {
            list++;
            at++;
        }
        if (*at == '\0' && (*list == ' ' || *list == '\0'))
            return true;
        while (*list && *list != ' ')
            list++;
        list += *list == ' ';
    }
    return false;
}

const struct cm_pinout *cm_pinout_of(const struct cm_pinout *rows, uint8_t count,
                                     const struct cm_part *part, uint8_t number)
{
    for (uint8_t i = 0; i < count; i++) {
        bool is_its = !*rows[i].parts || cm_pinout_lists(rows[i].parts, part->name);
        if (is_its && number-- == 0)
            return &rows[i];
    }
    return NULL;
}
