/**
 * The kinds of ports that a program on a computer can open by name: "sim:bench.yaml".
 *
 * A kind is one row of this table, and a folder beside it. To add one: docs/adding-a-port.md.
 */
#ifndef CM_PORTS_KINDS_H
#define CM_PORTS_KINDS_H

#include <coldmint/port.h>

enum { PORT_ERROR_BYTES = 512 };

enum port_opening {
    PORT_OPEN,
    PORT_DENIED, /**< it is there, and the system does not let us use it */
    PORT_FAILED  /**< it cannot be opened; the reason is in the error */
};

struct port_kind;

/** An open port. `port` belongs to its kind. */
struct open_port {
    const struct port_kind *kind; /**< NULL: none is open */
    struct cm_port *port;
    void *hardware; /**< the kind's own */
};

typedef void port_told_fn(void *context, const char *place, const char *what, const char *trouble);

struct port_kind {
    const char *prefix; /**< what stands before the colon */
    const char *form;   /**< of the whole name, for help: "sim:BENCH.yaml" */
    const char *what;   /**< what is opened, in words: "bench" */
    const char *hint;   /**< what to try where it cannot be opened */
    /** Opens it by what stands behind the colon. `error` has room for PORT_ERROR_BYTES. */
    enum port_opening (*open)(const char *place, struct open_port *port, char *error);
    /** Tells of each that there is: the place behind the colon, what it is, and why it cannot be
     * used; "" where it can. */
    void (*list)(port_told_fn *told, void *context);
    /** Closes it; false, with errno set, where its state could not be saved. */
    bool (*close)(struct open_port *port);
};

/** All kinds of this build, ended by NULL. */
extern const struct port_kind *const port_kinds[];

/** The kind that a name asks for, and the place behind its colon; NULL: there is no such kind. */
const struct port_kind *port_kind_of(const char *name, const char **place);

extern const struct port_kind port_kind_sim;

#endif
