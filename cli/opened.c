/*
 * Opening files to read. A pipe can be read once only, and a file is looked at more than once: is
 * it a capsule, is it raw, which memories does it have. So what is no regular file is read whole,
 * once, into a file without a name; whoever opens the same path again gets that.
 */
#include "tool.h"
#include <errno.h>
#include <fcntl.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

enum { MOST_PIPES = 10, MOST_PIPE_BYTES = 256 << 20 };

static struct {
    char *path;
    int copy;
} pipes[MOST_PIPES];
static int pipe_count;

/* All that comes until the other side closes it; false with errno set. Ctrl-C ends it. */
static bool read_until_end(int from, int to)
{
    static char bytes[65536];
    size_t all = 0;
    ssize_t got;
    while ((got = read(from, bytes, sizeof bytes)) != 0) {
        if (got < 0 && errno == EINTR && !tool_interrupted)
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

static int keep_pipe(const char *path, int from)
{
    FILE *file = pipe_count < MOST_PIPES ? tmpfile() : NULL;
    int copy = file ? fcntl(fileno(file), F_DUPFD_CLOEXEC, 3) : -1;
    char *name = strdup(path);
    if (file)
        fclose(file);
    if (copy < 0 || !name || !read_until_end(from, copy)) {
        int error = errno;
        if (copy >= 0)
            close(copy);
        free(name);
        errno = error;
        return -1;
    }
    pipes[pipe_count].path = name;
    pipes[pipe_count].copy = copy;
    pipe_count++;
    return copy;
}

/* A descriptor on what was kept, at its beginning. All of them share one offset: files are read one
 * after the other, and whole. */
static int reopen(int copy)
{
    lseek(copy, 0, SEEK_SET);
    return fcntl(copy, F_DUPFD_CLOEXEC, 3);
}

int file_open(const char *path)
{
    struct stat facts;
    for (int i = 0; i < pipe_count; i++) {
        if (strcmp(pipes[i].path, path) == 0)
            return reopen(pipes[i].copy);
    }
    errno = EINTR; // Ctrl-C has ended one wait for a pipe: there is no second
    int file = tool_interrupted ? -1 : open(path, O_RDONLY | O_CLOEXEC | O_NOCTTY);
    if (file < 0 || fstat(file, &facts) != 0 || S_ISREG(facts.st_mode))
        return file;
    int copy = -1;
    if (S_ISDIR(facts.st_mode))
        errno = EISDIR;
    else
        copy = keep_pipe(path, file);
    int error = errno;
    close(file);
    errno = error;
    return copy < 0 ? -1 : reopen(copy);
}

void file_hold(const char *path)
{
    int file =
        open(path, O_RDONLY | O_CLOEXEC); // stays open until the process ends, whatever ends it
    if (file >= 0)
        (void)flock(file, LOCK_EX | LOCK_NB);
}

bool file_is_in_use(const char *path)
{
    int file = open(path, O_RDONLY | O_CLOEXEC);
    bool in_use = file >= 0 && flock(file, LOCK_SH | LOCK_NB) != 0 && errno == EWOULDBLOCK;
    if (file >= 0)
        close(file);
    return in_use;
}

void file_close_pipes(void)
{
    while (pipe_count > 0) {
        pipe_count--;
        close(pipes[pipe_count].copy);
        free(pipes[pipe_count].path);
    }
}
