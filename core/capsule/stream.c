/*
 * A capsule read front to back, with its sums.
 */
#include "stream.h"
#include "crc32.h"

static enum cm_status take(struct cm_stream *stream, uint8_t *bytes, uint32_t count)
{
    const struct cm_capsule_input *under = stream->under;
    enum cm_status status = under->read(under->context, stream->at, bytes, count);
    if (status) {
        stream->has_failed = true;
        return status;
    }
    stream->at += count;
    if (stream->crc)
        *stream->crc = cm_crc32(*stream->crc, bytes, count);
    if (stream->sum)
        cm_sha256_add(stream->sum, bytes, count);
    return CM_OK;
}

enum cm_status cm_stream_pass(struct cm_stream *stream, uint32_t to)
{
    uint8_t bytes[64];
    enum cm_status status = CM_OK;
    while (!status && stream->at < to) {
        uint32_t left = to - stream->at;
        status = take(stream, bytes, left < sizeof bytes ? left : (uint32_t)sizeof bytes);
    }
    return status;
}

static enum cm_status read(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    struct cm_stream *stream = context;
    enum cm_status status = cm_stream_pass(stream, offset);
    stream->has_failed |= stream->at > offset;
    if (!status && stream->has_failed)
        status = CM_BAD_IMAGE;
    return status ? status : take(stream, bytes, count);
}

void cm_stream_begin(struct cm_stream *stream, const struct cm_capsule_input *under, uint32_t at)
{
    *stream = (struct cm_stream){.input = {.context = stream, .read = read, .bytes = under->bytes},
                                 .under = under,
                                 .at = at};
}

enum cm_status cm_stream_end_sum(struct cm_stream *stream, uint32_t to, uint8_t *digest)
{
    enum cm_status status = cm_stream_pass(stream, to);
    cm_sha256_end(stream->sum, digest);
    stream->sum = NULL;
    return status;
}
