/*
 * Simulated benches among the kinds of ports.
 */
#include "../kinds.h"
#include "sim.h"

_Static_assert((int)PORT_ERROR_BYTES >= (int)SIM_ERROR_BYTES, "an error fits");

static enum port_opening open_bench(const char *place, struct open_port *port, char *error)
{
    struct cm_sim *sim = cm_sim_open(place, error);
    if (!sim)
        return PORT_FAILED;
    *port = (struct open_port){&port_kind_sim, cm_sim_port(sim), sim};
    return cm_sim_grants(sim) ? PORT_OPEN : PORT_DENIED;
}

static bool close_bench(struct open_port *port)
{
    bool saved = cm_sim_close(port->hardware);
    *port = (struct open_port){.kind = NULL};
    return saved;
}

const struct port_kind port_kind_sim = {
    .prefix = "sim",
    .form = "sim:BENCH.yaml",
    .what = "bench",
    .hint = "'coldmint bench make FILE --chip NAME' writes a bench to begin with",
    .open = open_bench,
    .close = close_bench,
};
