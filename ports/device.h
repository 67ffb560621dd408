/* Devices of the system: which there are, and why one cannot be opened, in words. */
#ifndef CM_PORTS_DEVICE_H
#define CM_PORTS_DEVICE_H

#include <coldmint/port_kind.h>
#include <stddef.h>

/* The group that may use it; the process that does; or what the system says of `reason`, an errno.
 */
void device_explain(const char *path, int reason, char *error, size_t room);

enum cm_port_opening device_opening(int reason);

/* Tells of each device whose path fits the pattern, and why it cannot be used. `alone`: why none of
 * them is anything to program through by itself; "": they are. */
void device_list(const char *pattern, const char *what, const char *alone, cm_port_told_fn *told,
                 void *context);

#endif
