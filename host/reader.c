/*
 * A file read where it lies, through a small cache: images and capsules of any size take the same
 * memory.
 */
#include "inside.h"
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

enum { CACHE_BYTES = 65536 };

struct cm_file_reader {
    int file;
    uint32_t bytes;
    uint32_t at, count; /* what the cache holds */
    uint8_t cache[CACHE_BYTES];
};

struct cm_file_reader *cm_file_reader_open(struct cm_host *host, const char *path)
{
    struct stat facts;
    struct cm_file_reader *reader = calloc(1, sizeof *reader);
    if (!reader)
        return NULL;
    reader->file = cm_file_open(host, path);
    if (reader->file >= 0 && fstat(reader->file, &facts) == 0 && S_ISREG(facts.st_mode) &&
        facts.st_size <= INT32_MAX) {
        reader->bytes = (uint32_t)facts.st_size;
        return reader;
    }
    cm_file_reader_close(reader);
    return NULL;
}

void cm_file_reader_close(struct cm_file_reader *reader)
{
    if (reader && reader->file >= 0)
        close(reader->file);
    free(reader);
}

uint32_t cm_file_reader_bytes(const struct cm_file_reader *reader)
{
    return reader->bytes;
}

/* Fills the cache from an offset on; false where the file is shorter than it was. */
static bool fill(struct cm_file_reader *reader, uint32_t offset)
{
    ssize_t got = pread(reader->file, reader->cache, CACHE_BYTES, (off_t)offset);
    reader->at = offset;
    reader->count = got > 0 ? (uint32_t)got : 0;
    return got > 0;
}

enum cm_status cm_file_reader_read(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    struct cm_file_reader *reader = context;
    while (count > 0) {
        if ((offset < reader->at || offset - reader->at >= reader->count) && !fill(reader, offset))
            return CM_BAD_IMAGE;
        uint32_t from = offset - reader->at, part = reader->count - from;
        part = part < count ? part : count;
        memcpy(bytes, reader->cache + from, part);
        offset += part;
        bytes += part;
        count -= part;
    }
    return CM_OK;
}

static bool extent(void *context, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    const struct cm_file_reader *reader = context;
    *start = from;
    *bytes = from < reader->bytes ? reader->bytes - from : 0;
    return *bytes > 0;
}

struct cm_source cm_file_reader_source(struct cm_file_reader *reader)
{
    return (struct cm_source){reader, extent, cm_file_reader_read};
}
