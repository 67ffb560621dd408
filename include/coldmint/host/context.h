/**
 * The context of the host library: what its calls share, in place of globals.
 *
 *     struct cm_host host;
 *     cm_host_begin(&host, cm_all_ports); // coldmint/ports.h
 *     ...
 *     cm_host_end(&host);
 *
 * One context is used by one thread at a time; a program with several threads has several. The
 * library never prints, never exits, and keeps nothing outside the context.
 */
#ifndef COLDMINT_HOST_CONTEXT_H
#define COLDMINT_HOST_CONTEXT_H

#include <coldmint/all.h>
#include <coldmint/coldmint.h>
#include <coldmint/decls.h>
#include <coldmint/host/error.h>
#include <coldmint/port_kind.h>

CM_DECLS_BEGIN

enum {
    /** All families, and chips of which only the size is known. */
    CM_HOST_KITS = CM_ALL_KITS + 1,
    CM_HOST_PIPES = 10
};

struct cm_file_format;

/** The context. Its address must not change between begin and end. */
struct cm_host {
    /** Why the last call that failed did so. */
    struct cm_error error;
    /** A file that is there already may be overwritten. */
    bool replace;
    /** Asked while a pipe is waited for: true gives up (CM_ERROR_STOPPED). NULL: never. */
    bool (*stopped)(void *context);
    void *stopped_context;

    /** The kinds of ports and the formats of image files that this program has; each list ends with
     * NULL. cm_host_begin sets `formats` to cm_all_formats. */
    const struct cm_port_kind *const *ports;
    const struct cm_file_format *const *formats;
    /** The families, for cm_open. */
    struct cm_kit kits[CM_HOST_KITS];
    uint8_t kit_count;

    /* The library's own. */
    struct cm_all_found found;
    struct cm_all_found plain;
    struct cm_part *plain_part;
    const struct cm_part *plain_parts[1];
    uint8_t plain_kit;
    struct {
        char *path;
        int copy;
    } pipes[CM_HOST_PIPES];
    int pipe_count;
};

/** Begins a context with all families and these kinds of ports. */
void cm_host_begin(struct cm_host *host, const struct cm_port_kind *const *ports);

/** Frees what the context holds. Ports, sessions and files are closed before it. */
void cm_host_end(struct cm_host *host);

/**
 * A part of any family by its name, or NULL. "plain-4M" is SPI flash of that size with the
 * instructions that nearly all such parts have, whatever its id; one of them at a time.
 */
const struct cm_part *cm_host_part(struct cm_host *host, const char *name);

/** The kit that has a part; the first one for a part that none has. */
const struct cm_kit *cm_host_kit_of(const struct cm_host *host, const struct cm_part *part);

/** Is this the kit of chips of which only the size is known? Its parts are in no table. */
bool cm_host_is_plain(const struct cm_host *host, const struct cm_kit *kit);

CM_DECLS_END

#endif
