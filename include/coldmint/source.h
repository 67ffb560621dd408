/**
 * A source: contents with gaps, in ascending order, from wherever they are.
 */
#ifndef COLDMINT_SOURCE_H
#define COLDMINT_SOURCE_H

#include <coldmint/decls.h>
#include <coldmint/status.h>

CM_DECLS_BEGIN

/** Where contents come from: a sparse image in memory (image.h), a file, anything. Addresses are
 * those of the region. */
struct cm_source {
    void *context;
    /** First run of bytes at or after `from`: true, and its start and length; false where there is
     * none. A source that cannot tell, since what it lies in fails, shows a run all the same, and
     * its `read` fails: that there is no more is never the answer of a failure. */
    bool (*extent)(void *context, uint32_t from, uint32_t *start, uint32_t *bytes);
    /** Copies `count` bytes from within an extent. */
    enum cm_status (*read)(void *context, uint32_t address, uint8_t *bytes, uint32_t count);
};

CM_DECLS_END

#endif
