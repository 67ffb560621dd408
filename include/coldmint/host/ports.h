/**
 * Ports by name.
 *
 *     struct cm_open_port port;
 *     if (cm_port_open(&host, "sim:node.yaml", &port))
 *         ... cm_open(&session, port.port, ...) ...
 *     cm_port_close(&host, &port);
 */
#ifndef COLDMINT_HOST_PORTS_H
#define COLDMINT_HOST_PORTS_H

#include <coldmint/decls.h>
#include <coldmint/host/context.h>

CM_DECLS_BEGIN

/** The kind that a name asks for, and the place behind its colon; NULL: there is no such kind. */
const struct cm_port_kind *cm_port_kind_of(const struct cm_host *host, const char *name,
                                           const char **place);

/** Opens a port. Errors: CM_ERROR_PORT_NAME (it has no colon), CM_ERROR_PORT_KIND,
 * CM_ERROR_PORT_DENIED, CM_ERROR_PORT_BUSY,
 * CM_ERROR_PORT_FAILED. Close `port` in any case. */
CM_MUST_CHECK bool cm_port_open(struct cm_host *host, const char *name, struct cm_open_port *port);

/** Closes it; one that is not open is left alone. Error: CM_ERROR_PORT_STATE. */
CM_MUST_CHECK bool cm_port_close(struct cm_host *host, struct cm_open_port *port);

/** Room for a key, with its end. */
enum { CM_PORT_KEY = 9 };

/** What tells this port from others in file names: eight hexadecimal digits of its name, its file
 * by the path that it has. Returns `text` (CM_PORT_KEY). */
const char *cm_port_key(const char *name, char *text);

CM_DECLS_END

#endif
