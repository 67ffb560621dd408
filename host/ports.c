/*
 * Ports by name: the kind stands before the colon.
 */
#include "inside.h"
#include <coldmint/host/ports.h>
#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

const struct cm_port_kind *cm_port_kind_of(const struct cm_host *host, const char *name,
                                           const char **place)
{
    const char *colon = strchr(name, ':');
    size_t length = colon ? (size_t)(colon - name) : 0;
    for (const struct cm_port_kind *const *kind = host->ports; colon && *kind; kind++) {
        if (strlen((*kind)->prefix) != length || strncmp((*kind)->prefix, name, length) != 0)
            continue;
        *place = colon + 1;
        return *kind;
    }
    return NULL;
}

bool cm_port_open(struct cm_host *host, const char *name, struct cm_open_port *port)
{
    char why[CM_PORT_ERROR_BYTES] = "";
    const char *place;
    *port =
        (struct cm_open_port){.stopped = host->stopped, .stopped_context = host->stopped_context};
    const struct cm_port_kind *kind = cm_port_kind_of(host, name, &place);
    if (!kind)
        return host_fail(host, strchr(name, ':') ? CM_ERROR_PORT_KIND : CM_ERROR_PORT_NAME, name);
    enum cm_port_opening opening = kind->open(place, port, why);
    if (opening == CM_PORT_OPENED)
        return true;
    if (host->stopped && host->stopped(host->stopped_context))
        return host_fail(host, CM_ERROR_STOPPED, place);
    static const enum cm_error_kind ERRORS[] = {[CM_PORT_NO_RIGHT] = CM_ERROR_PORT_DENIED,
                                                [CM_PORT_BUSY] = CM_ERROR_PORT_BUSY,
                                                [CM_PORT_NOT_OPENED] = CM_ERROR_PORT_FAILED};
    struct cm_error *error = host_error(host, ERRORS[opening], place);
    error->port_kind = kind;
    HOST_COPY(error->detail, why);
    return false;
}

bool cm_port_close(struct cm_host *host, struct cm_open_port *port)
{
    const struct cm_port_kind *kind = port->kind;
    bool closed = !kind || kind->close(port);
    int error = errno;
    *port = (struct cm_open_port){.kind = NULL};
    return closed || host_fail_system(host, CM_ERROR_PORT_STATE, kind->what, error);
}

const char *cm_port_key(const char *name, char *text)
{
    const char *colon = strchr(name, ':');
    char *place = colon ? realpath(colon + 1, NULL) : NULL;
    uint32_t hash = 2166136261u; // FNV-1a
    for (const char *at = place ? place : name; *at; at++)
        hash = (hash ^ (uint8_t)*at) * 16777619u;
    free(place);
    snprintf(text, CM_PORT_KEY, "%08x", (unsigned)hash);
    return text;
}
