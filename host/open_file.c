/*
 * Opening files to read. A pipe can be read once only, and a file is looked at more than once: is
 * it a capsule, is it raw, which memories does it have. So what is no regular file is read whole,
 * once, into a file without a name; whoever opens the same path again gets that.
 */
#include "inside.h"
#include <errno.h>
#include <fcntl.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

enum { MOST_PIPE_BYTES = 256 << 20, PIECE = 65536 };

/* Has the caller given up? */
static bool is_stopped(const struct cm_host *host)
{
    return host->stopped && host->stopped(host->stopped_context);
}

/* All that comes until the other side closes it; false with errno set. */
static bool read_until_end(struct cm_host *host, int from, int to)
{
    char bytes[PIECE];
    size_t all = 0;
    ssize_t got;
    while ((got = read(from, bytes, sizeof bytes)) != 0) {
        if (got < 0 && errno == EINTR && !is_stopped(host))
            continue;
        if (got < 0)
            return false;
        all += (size_t)got;
        if (all > MOST_PIPE_BYTES) {
            errno = EFBIG;
            return false;
        }
        for (ssize_t done = 0, put; done < got; done += put) {
            put = write(to, bytes + done, (size_t)(got - done));
            if (put < 0)
                return false;
        }
    }
    return true;
}

static int keep_pipe(struct cm_host *host, const char *path, int from)
{
    FILE *file = host->pipe_count < CM_HOST_PIPES ? tmpfile() : NULL;
    int copy = file ? fcntl(fileno(file), F_DUPFD_CLOEXEC, 3) : -1;
    char *name = strdup(path);
    if (file)
        fclose(file);
    if (copy < 0 || !name || !read_until_end(host, from, copy)) {
        int error = errno;
        if (copy >= 0)
            close(copy);
        free(name);
        errno = error;
        return -1;
    }
    host->pipes[host->pipe_count].path = name;
    host->pipes[host->pipe_count].copy = copy;
    host->pipe_count++;
    return copy;
}

/* A descriptor on what was kept, at its beginning. All of them share one offset: files are read one
 * after the other, and whole. */
static int reopen(int copy)
{
    lseek(copy, 0, SEEK_SET);
    return fcntl(copy, F_DUPFD_CLOEXEC, 3);
}

int cm_file_open(struct cm_host *host, const char *path)
{
    struct stat facts;
    for (int i = 0; i < host->pipe_count; i++) {
        if (strcmp(host->pipes[i].path, path) == 0)
            return reopen(host->pipes[i].copy);
    }
    errno = EINTR; // one wait for a pipe was given up: there is no second
    int file = is_stopped(host) ? -1 : open(path, O_RDONLY | O_CLOEXEC | O_NOCTTY);
    if (file < 0 || fstat(file, &facts) != 0 || S_ISREG(facts.st_mode))
        return file;
    int copy = -1;
    if (S_ISDIR(facts.st_mode))
        errno = EISDIR;
    else
        copy = keep_pipe(host, path, file);
    int error = errno;
    close(file);
    errno = error;
    return copy < 0 ? -1 : reopen(copy);
}

bool host_fail_opening(struct cm_host *host, const char *path, int error)
{
    if (is_stopped(host))
        return host_fail(host, CM_ERROR_STOPPED, path);
    if (error == EFBIG)
        return host_fail(host, CM_ERROR_FILE_LARGE, path);
    return host_fail_system(host, CM_ERROR_FILE_UNREADABLE, path, error);
}
