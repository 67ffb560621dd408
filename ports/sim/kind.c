/*
 * Simulated benches among the kinds of ports.
 */
#include "../yaml_load.h"
#include "sim.h"
#include <errno.h>
#include <coldmint/ports.h>
#include <stdio.h>

_Static_assert((int)CM_PORT_ERROR_BYTES >= (int)SIM_ERROR_BYTES, "an error fits");

static enum cm_port_opening open_bench(const char *place, struct cm_open_port *port, char *error)
{
    struct cm_sim *sim = cm_sim_open(place, error);
    if (!sim)
        return errno == EBUSY ? CM_PORT_BUSY : CM_PORT_NOT_OPENED;
    *port = (struct cm_open_port){.kind = &cm_port_sim, .port = cm_sim_port(sim), .hardware = sim};
    if (cm_sim_grants(sim))
        return CM_PORT_OPENED;
    snprintf(error, SIM_ERROR_BYTES, "the system does not let this user open it");
    return CM_PORT_NO_RIGHT;
}

static bool close_bench(struct cm_open_port *port)
{
    bool saved = cm_sim_close(port->hardware);
    *port = (struct cm_open_port){.kind = NULL};
    return saved;
}

/* The benches of the folder that the tool is called in. */
static void list_benches(cm_port_told_fn *told, void *context)
{
    yaml_list("bench", told, context);
}

const struct cm_port_kind cm_port_sim = {
    .prefix = "sim",
    .form = "sim:BENCH.yaml",
    .what = "bench",
    .where = "in this folder",
    .hint = "'coldmint bench make FILE --chip NAME' writes a bench to begin with",
    .open = open_bench,
    .list = list_benches,
    .close = close_bench,
};
