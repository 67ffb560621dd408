/* A port that looks at the serial line in every call. Inside of the probe's portable part. */
#ifndef CM_PROBE_WATCH_H
#define CM_PROBE_WATCH_H

#include <coldmint/probe.h>

/* Takes what has come in, answers it, and tells the computer that we work. False: the batch shall
 * end. */
bool cm_probe_attend(struct cm_probe *probe);

/* The same where every microsecond counts: takes a few bytes, and answers nothing. */
bool cm_probe_glance(struct cm_probe *probe);

/* Makes probe->port from the board's. */
void cm_probe_watch(struct cm_probe *probe);

#endif
