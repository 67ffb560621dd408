/*
 * A file read where it lies, through a small cache: images and capsules of any size take the same
 * memory. A file that somebody writes meanwhile (a build in the other window) is read no further:
 * half of it would be the old one.
 */
#include "inside.h"
#include <errno.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

enum { CACHE_BYTES = 65536 };

struct cm_file_reader {
    int file;
    struct stat opened; /* as it was then */
    uint32_t bytes;
    uint32_t at, count; /* what the cache holds */
    uint8_t cache[CACHE_BYTES];
};

struct cm_file_reader *cm_file_reader_open(struct cm_host *host, const char *path)
{
    struct cm_file_reader *reader = calloc(1, sizeof *reader);
    if (!reader)
        return NULL;
    reader->file = cm_file_open(host, path);
    if (reader->file >= 0 && fstat(reader->file, &reader->opened) == 0) {
        reader->bytes = (uint32_t)reader->opened.st_size;
        if (reader->opened.st_size <= INT32_MAX)
            return reader;
        errno = EFBIG;
    }
    int error = errno;
    cm_file_reader_close(reader);
    errno = error;
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

static bool has_changed(const struct cm_file_reader *reader)
{
    struct stat now;
    const struct stat *then = &reader->opened;
    return fstat(reader->file, &now) != 0 || now.st_size != then->st_size ||
           now.st_mtim.tv_sec != then->st_mtim.tv_sec ||
           now.st_mtim.tv_nsec != then->st_mtim.tv_nsec;
}

/* Fills the cache from an offset on; false where the file is not what was opened. */
static bool fill(struct cm_file_reader *reader, uint32_t offset)
{
    ssize_t got = pread(reader->file, reader->cache, CACHE_BYTES, (off_t)offset);
    reader->at = offset;
    reader->count = got > 0 && !has_changed(reader) ? (uint32_t)got : 0;
    return reader->count > 0;
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
