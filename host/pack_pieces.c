/*
 * The contents of a job cut into parts, and chained.
 */
#include "pack_pieces.h"
#include <stdlib.h>

/*
 * A part is proven as a whole whenever a page of it is read: it is as long as a page, but not so
 * short that its frame outweighs it, nor so long that a small player takes long for it. A large
 * memory of small pages has longer ones.
 */
static uint32_t longest_piece(const struct cm_region *region)
{
    enum { LEAST = 16, MOST = 256, MANY = 256 };
    uint32_t bytes = LEAST;
    while (bytes < MOST && (bytes < region->page_bytes || bytes * MANY < region->bytes))
        bytes *= 2;
    return bytes;
}

/* Bytes from here on that go into one part: of the same run, up to where the next part begins. */
static uint32_t piece_at(const struct flat *flat, uint32_t at, uint32_t longest)
{
    uint32_t end = at + 1;
    while (end < flat->count && end % longest && flat->present[end])
        end++;
    return end - at;
}

/* Cuts them; without a list they are counted alone. */
static size_t cut(const struct flat *flat, uint32_t longest, uint8_t number,
                  struct cm_capsule_piece *list)
{
    size_t found = 0;
    for (uint32_t at = 0, count; at < flat->count; at += count) {
        count = 1;
        if (!flat->present[at])
            continue;
        count = piece_at(flat, at, longest);
        if (list)
            list[found] = (struct cm_capsule_piece){number, at, count, flat->bytes + at, NULL};
        found++;
    }
    return found;
}

/* The last part comes first: a link is the digest of a part with the next link in it. */
static bool chain(struct pack_pieces *pieces)
{
    bool good = true;
    for (size_t i = pieces->count; good && i-- > 0;) {
        pieces->list[i].next = i + 1 < pieces->count ? &pieces->links[i + 1] : NULL;
        good = cm_capsule_link_to(&pieces->list[i], &pieces->links[i]) == CM_OK;
    }
    return good;
}

bool pack_pieces_make(struct pack_pieces *pieces, const struct cm_job *job, uint8_t index,
                      uint8_t number)
{
    struct cm_region region;
    cm_region(job->session, index, &region);
    if (!flat_begin(&pieces->flat, region.bytes))
        return host_fail(job->host, CM_ERROR_NO_MEMORY, NULL);
    if (!flat_lay_wants(&pieces->flat, job, index))
        return false;
    const uint32_t longest = longest_piece(&region);
    pieces->count = cut(&pieces->flat, longest, number, NULL);
    pieces->list = calloc(pieces->count + 1, sizeof *pieces->list);
    pieces->links = calloc(pieces->count + 1, sizeof *pieces->links);
    bool good = pieces->list && pieces->links;
    if (good)
        cut(&pieces->flat, longest, number, pieces->list);
    return good && chain(pieces) ? true : host_fail(job->host, CM_ERROR_NO_MEMORY, NULL);
}

void pack_pieces_free(struct pack_pieces *pieces)
{
    flat_free(&pieces->flat);
    free(pieces->list);
    free(pieces->links);
}
