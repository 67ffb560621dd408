/*
 * Files that come into being whole or not at all: written under a temporary name, synced, renamed.
 *
 *     node.hex.new-4711     while thread 4711 writes it
 */
#define _GNU_SOURCE /* gettid */
#include "inside.h"
#include <errno.h>
#include <fcntl.h>
#include <signal.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

static const char UNFINISHED[] = ".new-";

long own_number(void)
{
    return (long)gettid();
}

/* Is this the unfinished file of a thread that is gone? */
static bool is_left_over(const char *path)
{
    const char *mark = strstr(path, UNFINISHED);
    for (const char *next = mark; next; next = strstr(next + 1, UNFINISHED))
        mark = next;
    char *end;
    long pid = mark ? strtol(mark + strlen(UNFINISHED), &end, 10) : 0;
    return mark && *end == '\0' && pid > 1 && kill((pid_t)pid, 0) != 0 && errno == ESRCH;
}

void remove_left_over(const char *folder, const char *begin)
{
    struct paths paths = paths_in(folder, begin, "");
    for (size_t i = 0; i < paths.count; i++) {
        if (is_left_over(paths.names[i]))
            unlink(paths.names[i]);
    }
    paths_free(&paths);
}

/* A process that was killed leaves its unfinished file behind: where it is gone, nobody needs it.
 */
static void remove_stale(const char *path)
{
    char folder[CM_FILE_PATH];
    const char *slash = strrchr(path, '/');
    snprintf(folder, sizeof folder, "%.*s", slash ? (int)(slash - path) : 1, slash ? path : ".");
    remove_left_over(slash == path ? "/" : folder, slash ? slash + 1 : path);
}

bool cm_new_file_open(struct cm_host *host, const char *path, struct cm_new_file *file)
{
    memset(file, 0, sizeof *file);
    file->exclusive = !host->replace;
    if (strlen(path) > sizeof file->path - 40)
        return host_fail(host, CM_ERROR_FILE_NAME, path);
    HOST_COPY(file->path, path);
    snprintf(file->temporary, sizeof file->temporary, "%s%s%ld", file->path, UNFINISHED,
             own_number());
    if (!host->replace && access(path, F_OK) == 0)
        return host_fail(host, CM_ERROR_FILE_EXISTS, path);
    remove_stale(path);
    int descriptor = open(file->temporary, O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, 0666);
    file->stream = descriptor >= 0 ? fdopen(descriptor, "wb") : NULL;
    return file->stream || host_fail_system(host, CM_ERROR_FILE_UNWRITABLE, path, errno);
}

enum cm_status cm_new_file_text(void *stream, const char *text, size_t bytes)
{
    return fwrite(text, 1, bytes, stream) == bytes ? CM_OK : CM_BAD_IMAGE;
}

/* Gives the finished file its name. Two processes at once: one of them gets it, and the other is
 * told (EEXIST). */
static bool take_name(const struct cm_new_file *file)
{
    if (!file->exclusive)
        return rename(file->temporary, file->path) == 0;
    if (link(file->temporary, file->path) == 0) {
        unlink(file->temporary);
        return true;
    }
    if (errno == EEXIST)
        return false;
    // a file system without links
    int place = open(file->path, O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, 0666);
    if (place < 0)
        return false;
    close(place);
    return rename(file->temporary, file->path) == 0;
}

/* Everything went to the file. A stream drops what it could not write, and the next flush of it has
 * nothing to complain of: what counts is that there never was an error. */
static bool flush(struct cm_new_file *file)
{
    errno = EIO; // of an earlier error the reason is gone
    return !ferror(file->stream) && fflush(file->stream) == 0;
}

bool new_file_flush(struct cm_host *host, struct cm_new_file *file)
{
    return flush(file) || host_fail_system(host, CM_ERROR_FILE_INCOMPLETE, file->path, errno);
}

static bool finish(struct cm_new_file *file)
{
    bool good = flush(file) && fsync(fileno(file->stream)) == 0;
    int error = errno;
    good = fclose(file->stream) == 0 && good;
    file->stream = NULL;
    errno = error;
    return good;
}

static bool fail_commit(struct cm_host *host, const struct cm_new_file *file)
{
    int error = errno;
    unlink(file->temporary);
    return error == EEXIST ? host_fail(host, CM_ERROR_FILE_RACED, file->path)
                           : host_fail_system(host, CM_ERROR_FILE_INCOMPLETE, file->path, error);
}

/* The name is on the disk, too. A file system that cannot sync a folder does so by itself. */
static void sync_folder(const char *path)
{
    char folder[CM_FILE_PATH] = ".";
    const char *slash = strrchr(path, '/');
    if (slash) // with its slash, so that the root is one, too
        snprintf(folder, sizeof folder, "%.*s", (int)(slash - path + 1), path);
    int descriptor = open(folder, O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (descriptor < 0)
        return;
    (void)fsync(descriptor);
    close(descriptor);
}

bool cm_new_file_commit(struct cm_host *host, struct cm_new_file *file)
{
    if (!finish(file) || !take_name(file))
        return fail_commit(host, file);
    sync_folder(file->path);
    return true;
}

bool cm_new_file_commit_as(struct cm_host *host, struct cm_new_file *file, const char *stem,
                           const char *extension)
{
    enum { MOST = 10000 };
    bool good = finish(file);
    file->exclusive = true;
    for (int i = 1; good && i < MOST; i++) {
        if (i == 1)
            snprintf(file->path, sizeof file->path, "%s%s", stem, extension);
        else
            snprintf(file->path, sizeof file->path, "%s-%d%s", stem, i, extension);
        if (take_name(file)) {
            sync_folder(file->path);
            return true;
        }
        good = errno == EEXIST;
    }
    return fail_commit(host, file);
}

void cm_new_file_drop(struct cm_new_file *file)
{
    if (!file->stream)
        return;
    fclose(file->stream);
    unlink(file->temporary);
    file->stream = NULL;
}
