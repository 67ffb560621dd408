/**
 * A belt: simulated units that come one after another to the same wires, as a person brings them.
 * docs/bench.md tells its file.
 *
 *     belt: twelve strike nodes
 *     units: [node-1.yaml, node-2.yaml, ...]     benches; each keeps its own state
 *
 * A unit stays until nothing has been done with it for a while, all waits together; then there is
 * none for a moment, and then the next. Behind the last one nothing comes any more.
 */
#ifndef CM_BELT_BELT_H
#define CM_BELT_BELT_H

#include <coldmint/port_kind.h>

struct belt;

/** The unit that is on the wires, from 0; -1: none. */
int cm_belt_unit(const struct belt *belt);

#endif
