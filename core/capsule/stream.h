/*
 * A capsule read front to back, once. Every byte is summed up on its way, the skipped ones, too, so
 * that what is parsed and what is summed are one and the same: an input that would answer otherwise
 * the second time is not asked twice.
 */
#ifndef CM_CAPSULE_STREAM_H
#define CM_CAPSULE_STREAM_H

#include "sha256.h"
#include <coldmint/capsule.h>

struct cm_stream {
    struct cm_capsule_input input; /* reads through here: ahead only */
    const struct cm_capsule_input *under;
    uint32_t at;           /* all before it was read */
    uint32_t *crc;         /* NULL: not summed up */
    struct cm_sha256 *sum; /* NULL: not summed up */
    bool has_failed;       /* the input has, or something was asked for that lies behind */
};

void cm_stream_begin(struct cm_stream *stream, const struct cm_capsule_input *under, uint32_t at);

/* Reads on up to an offset. */
enum cm_status cm_stream_pass(struct cm_stream *stream, uint32_t to);

/* Reads on up to an offset, and ends the sum there: its digest. */
enum cm_status cm_stream_end_sum(struct cm_stream *stream, uint32_t to, uint8_t *digest);

#endif
