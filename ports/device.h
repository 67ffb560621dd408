/* Why a device of the system cannot be opened, in words. */
#ifndef CM_PORTS_DEVICE_H
#define CM_PORTS_DEVICE_H

#include <coldmint/port_kind.h>
#include <stddef.h>

/* The group that may use it; the process that does; or what the system says of `reason`, an errno.
 */
void device_explain(const char *path, int reason, char *error, size_t room);

enum cm_port_opening device_opening(int reason);

#endif
