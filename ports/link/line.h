/* The line to a probe: a serial device, a pseudo terminal, a TCP connection. */
#ifndef CM_LINK_LINE_H
#define CM_LINK_LINE_H

#include <coldmint/port_kind.h>
#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

enum { LINE_ERROR = 400 };

/* Opens "DEVICE", "DEVICE,BAUD" or "tcp:HOST:PORT", for this process alone. -1 with the reason in
 * `error` (LINE_ERROR), and its kind in `opening`. */
int line_open(const char *place, enum cm_port_opening *opening, char *error);

/* Why a device cannot be opened, from errno: the group that may, the process that has it. */
void line_explain(const char *path, int reason, char *error);

/* The fastest rate that this system knows, up to `most`; 0: none. */
uint32_t line_fastest_baud(uint32_t most);

/* Sets the rate of a serial device; others have none. */
bool line_set_baud(int line, uint32_t baud);

/* The rate that a place names; 0: none. */
uint32_t line_baud_of(const char *place);

/* Writes all of it; false: the line is gone. */
bool line_write(int line, const uint8_t *bytes, size_t count);

/* Waits up to so long for bytes. Their number; 0: none came; -1: the line is gone. */
int line_read(int line, uint8_t *bytes, size_t room, int timeout_ms);

#endif
