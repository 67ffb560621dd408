/*
 * The list of the kinds of ports: a row for each.
 */
#include "kinds.h"
#include <string.h>

const struct port_kind *const port_kinds[] = {&port_kind_sim, NULL};

const struct port_kind *port_kind_of(const char *name, const char **place)
{
    const char *colon = strchr(name, ':');
    size_t length = colon ? (size_t)(colon - name) : 0;
    for (const struct port_kind *const *kind = port_kinds; colon && *kind; kind++) {
        if (strlen((*kind)->prefix) != length || strncmp((*kind)->prefix, name, length) != 0)
            continue;
        *place = colon + 1;
        return *kind;
    }
    return NULL;
}
