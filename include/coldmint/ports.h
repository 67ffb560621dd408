/**
 * All kinds of ports in one list, for a full build: the tool, a station. Part of the library
 * coldmint-ports.
 *
 *     struct cm_host host;
 *     cm_host_begin(&host, cm_all_ports);
 */
#ifndef COLDMINT_PORTS_H
#define COLDMINT_PORTS_H

#include <coldmint/decls.h>
#include <coldmint/port_kind.h>

CM_DECLS_BEGIN

/** Simulated benches: "sim:BENCH.yaml". */
extern const struct cm_port_kind cm_port_sim;

/** Simulated units one after another: "belt:BELT.yaml". */
extern const struct cm_port_kind cm_port_belt;

/** Probes at the end of a serial line: "link:/dev/ttyACM0", "link:/dev/ttyUSB0,115200",
 * "link:tcp:HOST:PORT". */
extern const struct cm_port_kind cm_port_link;

/** This computer's own pins: "linux:DESK.yaml", or a device alone: "linux:/dev/spidev0.0",
 * "linux:/dev/i2c-1". */
extern const struct cm_port_kind cm_port_linux;

/** All of them, ended by NULL. */
extern const struct cm_port_kind *const cm_all_ports[];

CM_DECLS_END

#endif
