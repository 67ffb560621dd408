/* What is new here: a kind of ports, a format of files, a verb. */
#ifndef CM_TEST_NEW_KINDS_H
#define CM_TEST_NEW_KINDS_H

#include <coldmint/host.h>

extern const struct cm_port_kind port_shelf; /* "shelf:NAME": a port with nothing on its wires */
extern const struct cm_file_format format_tally; /* "tally": an address and bytes in a line */

#endif
