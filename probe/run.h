/* One batch of a probe, and its result. Inside of the probe's portable part. */
#ifndef CM_PROBE_RUN_H
#define CM_PROBE_RUN_H

#include <coldmint/probe.h>

/* Runs a batch on the watched port. */
CM_MUST_CHECK enum cm_status cm_probe_run(struct cm_probe *probe, const struct cm_link_batch *batch,
                                          struct cm_run *run);

/* Puts what became of it into its slot. */
void cm_probe_keep(struct cm_probe_slot *slot, enum cm_status status,
                   const struct cm_link_batch *batch, const struct cm_run *run, uint32_t restarts);

#endif
