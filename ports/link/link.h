/* A probe at the far end of a line, as a port. */
#ifndef CM_LINK_LINK_H
#define CM_LINK_LINK_H

#include <coldmint/link.h>
#include <coldmint/port_kind.h>

struct link;

/* Says hello to the probe at the far end of a line that was opened by its name; it is the link's
 * from here on. NULL: nothing that we know answers; the reason is in `error` (LINE_ERROR
 * bytes). While it waits, now and later, it asks the caller's `stopped`. */
struct link *link_open(int line, const char *place, const struct cm_open_port *caller, char *error);

/* The rate that its line has now. */
uint32_t link_baud(const struct link *link);

/* What is wrong with it, in words; NULL: nothing. It is opened again at the next batch, if `place`
 * is there again by then. */
const char *link_trouble(const struct link *link);

struct cm_port *link_port(struct link *link);
const struct cm_link_probe *link_probe(const struct link *link);

/* What crossed the line so far: bytes out and in, pieces that were sent again, and how often one
 * was sent while nothing else was on its way: the time there and back is felt so often. */
struct link_counts {
    uint64_t out, in, turns, resent;
};
struct link_counts link_counts(const struct link *link);

/* Ends the session: the target is released. */
void link_close(struct link *link);

#endif
