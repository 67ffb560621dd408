/*
 * Bytes that take the place of what a job's images have there.
 *
 *     file     |==============================|        what the images have there is left out,
 *     pieces          |number|     |sum|                and the pieces are wants beside them
 */
#include "overlay.h"

const struct overlay_piece *overlay_at(const struct overlay *overlay, uint8_t region,
                                       uint32_t address)
{
    for (uint8_t i = 0; i < overlay->count; i++) {
        const struct overlay_piece *piece = &overlay->pieces[i];
        if (piece->region == region && address >= piece->at && address - piece->at < piece->count)
            return piece;
    }
    return NULL;
}

static bool rest_extent(void *context, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    const struct overlay_rest *rest = context;
    for (;;) {
        if (!rest->inner.extent(rest->inner.context, from, start, bytes))
            return false;
        const struct overlay_piece *piece = overlay_at(rest->overlay, rest->region, *start);
        if (!piece)
            break;
        from = piece->at + piece->count;
        if (from < *start) // it ends where addresses do
            return false;
    }
    for (uint8_t i = 0; i < rest->overlay->count; i++) {
        const struct overlay_piece *piece = &rest->overlay->pieces[i];
        if (piece->region == rest->region && piece->at > *start && piece->at - *start < *bytes)
            *bytes = piece->at - *start;
    }
    return true;
}

static enum cm_status rest_read(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    const struct overlay_rest *rest = context;
    return rest->inner.read(rest->inner.context, address, bytes, count);
}

void overlay_leave_out(struct cm_job *job, struct overlay *overlay)
{
    for (uint8_t i = 0; i < job->want_count; i++) {
        overlay->rests[i] =
            (struct overlay_rest){overlay, job->wants[i].source, job->wants[i].region};
        job->wants[i].source = (struct cm_source){
            .extent = rest_extent, .read = rest_read, .context = &overlay->rests[i]};
    }
}

bool overlay_want(struct cm_job *job, struct overlay *overlay)
{
    for (uint8_t i = 0; i < overlay->count; i++) {
        const struct overlay_piece *piece = &overlay->pieces[i];
        if (job->want_count == CM_JOB_WANTS) {
            host_error(job->host, CM_ERROR_TOO_MANY_FILES, piece->name)->limit = CM_JOB_FILES;
            return false;
        }
        overlay->memories[i] = (struct cm_memory){piece->bytes, piece->count, piece->at};
        job->want_names[job->want_count] = piece->name;
        job->wants[job->want_count++] =
            (struct cm_want){piece->region, cm_memory_source(&overlay->memories[i])};
    }
    return true;
}
