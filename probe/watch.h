/* A port that looks at the serial line in every call. Inside of the probe's portable part. */
#ifndef CM_PROBE_WATCH_H
#define CM_PROBE_WATCH_H

#include <coldmint/probe.h>

/* Makes probe->port from the board's. */
void cm_probe_watch(struct cm_probe *probe);

#endif
