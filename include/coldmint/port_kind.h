/**
 * The kinds of ports that a program on a computer can open by name: "sim:bench.yaml".
 *
 * A kind is one table, defined in its own folder, and one row of a list: cm_all_ports
 * (coldmint/ports.h) for a full build, or a list of the program's own. A program whose list does
 * not name a kind does not link it. To add one: docs/adding-a-port.md.
 */
#ifndef COLDMINT_PORT_KIND_H
#define COLDMINT_PORT_KIND_H

#include <coldmint/decls.h>
#include <coldmint/port.h>

CM_DECLS_BEGIN

/** Room for the reason why a port cannot be opened, with its end. */
enum { CM_PORT_ERROR_BYTES = 512 };

enum cm_port_opening {
    CM_PORT_OPENED,
    /* the reason is in `error`: */
    CM_PORT_NO_RIGHT,  /**< it is there, and the system does not let us use it */
    CM_PORT_BUSY,      /**< another process uses it */
    CM_PORT_NOT_OPENED /**< it cannot be opened */
};

struct cm_port_kind;

/** An open port. `port` belongs to its kind. */
struct cm_open_port {
    /** NULL: none is open. */
    const struct cm_port_kind *kind;
    struct cm_port *port;
    /** The kind's own. */
    void *hardware;
    /** Set before it is opened: true, if the user wants to end. A kind that waits for somebody else
     * asks it, and ends the wait (CM_STOPPED). NULL: nobody can. */
    bool (*stopped)(void *context);
    void *stopped_context;
};

/** Told of a port that there is: the place behind the colon, what it is, and why it cannot be used
 * ("" where it can). */
typedef void cm_port_told_fn(void *context, const char *place, const char *what,
                             const char *trouble);

/** A kind of ports. */
struct cm_port_kind {
    /** What stands before the colon. */
    const char *prefix;
    /** Form of the whole name, for help: "sim:BENCH.yaml". */
    const char *form;
    /** What is opened, in words: "bench". */
    const char *what;
    /** Where `list` looks, in words: "in this folder". */
    const char *where;
    /** What to try where it cannot be opened. */
    const char *hint;
    /** Opens it by what stands behind the colon. `error` has room for CM_PORT_ERROR_BYTES. A port
     * that is denied may be open all the same, so that its state can be shown: close it. */
    enum cm_port_opening (*open)(const char *place, struct cm_open_port *port, char *error);
    /** Tells of each that there is. */
    void (*list)(cm_port_told_fn *told, void *context);
    /** Closes it; false, with errno set, where its state could not be saved. */
    bool (*close)(struct cm_open_port *port);
    /** What is wrong with the way to the hardware now, in words; NULL: nothing. The member may be
     * NULL. */
    const char *(*trouble)(const struct cm_open_port *port);
    /** What to try then. */
    const char *cure;
    /** The text of a file to begin with, made from what this computer has: a desk. False: there is
     * nothing to make one of. The member may be NULL. */
    bool (*sketch)(char *text, size_t room);
};

CM_DECLS_END

#endif
