/*
 * Counts in files: a player's store, as one memory of two halves.
 */
#include "inside.h"
#include <coldmint/host/count.h>
#include <errno.h>
#include <fcntl.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <unistd.h>

static bool fail(struct cm_host *host, const struct cm_count *count, int error)
{
    struct cm_error *record = host_error(host, CM_ERROR_CAPSULE_COUNT, count->capsule);
    snprintf(record->text, sizeof record->text, "%.150s: %.80s", count->path,
             error ? strerror(error) : "is no whole count");
    return false;
}

/* --- a file as a store ------------------------------------------------------------------- */

static bool load_page(struct cm_count *own, uint32_t at)
{
    if (own->has_page && own->page_at == at)
        return true;
    ssize_t got = pread(own->file, own->page, sizeof own->page, at);
    own->has_page = got >= 0;
    own->page_at = at;
    if (own->has_page)
        memset(own->page + got, 0xFF, sizeof own->page - (size_t)got); // beyond its end it is blank
    return own->has_page;
}

static enum cm_status read_file(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    struct cm_count *own = context;
    for (uint32_t part; count; offset += part, bytes += part, count -= part) {
        uint32_t inside = offset % (uint32_t)sizeof own->page,
                 left = (uint32_t)sizeof own->page - inside;
        part = count < left ? count : left;
        if (!load_page(own, offset - inside))
            return CM_PORT_FAILED;
        memcpy(bytes, own->page + inside, part);
    }
    return CM_OK;
}

static enum cm_status write_file(void *context, uint32_t offset, const uint8_t *bytes,
                                 uint32_t count)
{
    struct cm_count *own = context;
    own->has_page = false; // what was written is read back from the file
    bool good =
        pwrite(own->file, bytes, count, offset) == (ssize_t)count && fdatasync(own->file) == 0;
    return good ? CM_OK : CM_PORT_FAILED;
}

static enum cm_status erase_file(void *context, uint8_t half)
{
    uint8_t blank[CM_COUNT_HALF];
    memset(blank, 0xFF, sizeof blank);
    return write_file(context, (uint32_t)half * CM_COUNT_HALF, blank, sizeof blank);
}

/* --- a capsule's count ------------------------------------------------------------------- */

static bool open_file(struct cm_host *host, const uint8_t *digest, struct cm_count *count)
{
    char folder[FOLDER_BYTES];
    if (!state_folder(host, "counts", folder))
        return false;
    int length = snprintf(count->path, sizeof count->path, "%s/", folder);
    for (uint8_t i = 0; i < CM_TALLY_CAPSULE; i++)
        length +=
            snprintf(count->path + length, sizeof count->path - (size_t)length, "%02x", digest[i]);
    snprintf(count->path + length, sizeof count->path - (size_t)length, ".tally");
    make_folders(count->path);
    count->file = open(count->path, O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW, 0600);
    if (count->file < 0 || flock(count->file, LOCK_EX) != 0)
        return fail(host, count, errno);
    return true;
}

bool cm_count_open(struct cm_host *host, const struct cm_capsule_file *capsule,
                   struct cm_count *count)
{
    memset(count, 0, sizeof *count);
    count->file = -1;
    count->capsule = capsule->path;
    count->most = capsule->capsule.work.units;
    count->store = (struct cm_store){count, read_file, write_file, erase_file, CM_COUNT_HALF};
    if (!open_file(host, capsule->seal.digest, count))
        return false;
    if (cm_tally_find(&count->tally, &count->store, capsule->seal.digest) != CM_OK)
        return fail(host, count, errno);
    if (cm_tally_left(&count->tally, count->most))
        return true;
    host_error(host, CM_ERROR_CAPSULE_LIMIT, capsule->path)->limit = count->most;
    return false;
}

void cm_count_close(struct cm_count *count)
{
    if (count->file >= 0)
        close(count->file);
    count->file = -1;
}

bool cm_count_note(struct cm_host *host, struct cm_count *count, enum cm_tally_kind kind)
{
    return cm_tally_note(&count->tally, kind) == CM_OK || fail(host, count, errno);
}

/* --- a log read back --------------------------------------------------------------------- */

static int by_sequence(const void *one, const void *other)
{
    const struct cm_tally_record *a = one, *b = other;
    return (a->sequence > b->sequence) - (a->sequence < b->sequence);
}

bool cm_tally_file(struct cm_host *host, const char *path, cm_tally_fn *each, void *context)
{
    struct cm_count count = {.path = "", .capsule = path};
    count.file = cm_file_open(host, path);
    off_t bytes = count.file >= 0 ? lseek(count.file, 0, SEEK_END) : -1;
    if (bytes < 0)
        return host_fail_opening(host, path, errno);
    enum { MOST_BYTES = 1 << 20 };
    size_t slots = (size_t)(bytes < MOST_BYTES ? bytes : MOST_BYTES) / CM_TALLY_BYTES, found = 0;
    count.store = (struct cm_store){&count, read_file, NULL, NULL,
                                    (uint32_t)((slots + 1) / 2 * CM_TALLY_BYTES)};
    struct cm_tally_record *list = calloc(slots + 1, sizeof *list);
    for (uint32_t slot = 0; list && slot < slots; slot++)
        found += cm_tally_read(&count.store, slot, &list[found]) == CM_OK;
    if (list)
        qsort(list, found, sizeof *list, by_sequence);
    for (size_t i = 0; list && i < found; i++)
        each(context, &list[i]);
    bool good = list || host_fail(host, CM_ERROR_NO_MEMORY, path);
    free(list);
    close(count.file);
    return good;
}
