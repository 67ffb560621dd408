/* Which process has a device or a file open. */
#ifndef CM_PORTS_HOLDER_H
#define CM_PORTS_HOLDER_H

#include <stdbool.h>
#include <stddef.h>

/* Names one other process that has `path` open, in words: "process 4711 (coldmint) uses it". False:
 * none that we may see. */
bool holder_of(const char *path, char *text, size_t room);

#endif
