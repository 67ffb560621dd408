/**
 * The configuration file: coldmint/config.yaml in the user's configuration folder (XDG base
 * directories).
 *
 *     via: desk
 *     clock: 8MHz
 *     ports:
 *       - {name: desk, via: "sim:/home/ada/benches/node.yaml"}
 *
 * A port that has a name there is asked for by it.
 */
#ifndef COLDMINT_HOST_CONFIG_H
#define COLDMINT_HOST_CONFIG_H

#include <coldmint/decls.h>
#include <coldmint/host/context.h>

CM_DECLS_BEGIN

/** A port by the user's own name for it. */
struct cm_named_port {
    char *name, *via;
};

/** What the file says; members that it does not say are NULL. */
struct cm_config {
    char *via, *clock;
    struct cm_named_port *ports;
    unsigned ports_count;
    /** The parsed file behind it, for cm_config_free. */
    void *parsed;
};

/** Reads the user's file; where there is none, `config` is empty. Error: CM_ERROR_CONFIG; `config`
 * is empty then, too. */
CM_MUST_CHECK bool cm_config_read(struct cm_host *host, struct cm_config *config);
void cm_config_free(struct cm_config *config);

/** The port that is meant by a name: what the file says, or the name itself. Valid as long as both
 * are. */
const char *cm_config_port(const struct cm_config *config, const char *name);

CM_DECLS_END

#endif
