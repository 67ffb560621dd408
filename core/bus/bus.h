/* What the files of core/bus share: the bus clock made from lines. */
#ifndef CM_BUS_H
#define CM_BUS_H

#include <coldmint/port.h>

enum cm_status cm_bitbang_clock(struct cm_port *port, uint32_t want_hz, uint32_t *real_hz);
enum cm_status cm_bitbang_shift(struct cm_port *port, const uint8_t *out, uint8_t *in, uint32_t bytes);

#endif
