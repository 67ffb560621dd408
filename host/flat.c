/*
 * Sources laid out flat.
 */
#include "flat.h"
#include <stdlib.h>
#include <string.h>

bool flat_begin(struct flat *flat, uint32_t count)
{
    *flat = (struct flat){calloc(count + 1, 1), calloc(count + 1, sizeof(bool)), count};
    return flat->bytes && flat->present;
}

void flat_free(struct flat *flat)
{
    free(flat->bytes);
    free(flat->present);
}

bool flat_lay(struct flat *flat, const struct cm_source *source)
{
    uint32_t start, bytes;
    for (uint32_t at = 0; source->extent(source->context, at, &start, &bytes); at = start + bytes) {
        if (start >= flat->count)
            return true;
        bytes = bytes < flat->count - start ? bytes : flat->count - start;
        if (source->read(source->context, start, flat->bytes + start, bytes) != CM_OK)
            return false;
        memset(flat->present + start, true, bytes);
    }
    return true;
}

bool flat_lay_wants(struct flat *flat, const struct cm_job *job, uint8_t region)
{
    for (uint8_t i = 0; i < job->want_count; i++) {
        if (job->wants[i].region == region && !flat_lay(flat, &job->wants[i].source))
            return host_fail(job->host, CM_ERROR_FILE_BROKE_OFF, job->want_names[i]);
    }
    return true;
}
