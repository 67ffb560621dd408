/*
 * limit SECONDS COMMAND [ARGUMENT...]: runs a test, and ends it where it would never end by itself.
 *
 * A slow machine, or one that does other work as well, must not fail a test. So no limit is one of
 * the clock on the wall:
 *
 *     processor time   the command and all that it has started may use so many seconds in all
 *     no progress      for two minutes they have used next to no processor time: they wait for
 *                      something that does not come
 *
 * With COLDMINT_ALL it may use a thousand times as much. Both are read from /proc, once a second
 * (proc(5), /proc/PID/stat). What is left running at the end is killed. Exit status: the command's
 * own; 124 where it was ended, with what ran then.
 */
#define _GNU_SOURCE
#include <dirent.h>
#include <errno.h>
#include <signal.h>
#include <stdbool.h>
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

enum {
    MOST_PROCESSES = 4096,
    STILL_SECONDS = 120,
    STILL_PERCENT = 1, /* less than that is no progress: who polls uses that much */
    ENDED = 124
};

struct process {
    pid_t pid, parent;
    uint64_t ticks; /* of itself, and of its children that have ended */
    char name[32], state;
    bool is_ours;
};

static struct process processes[MOST_PROCESSES];
static size_t process_count;

/* --- what runs --------------------------------------------------------------------------- */

/* A line of proc(5): the name is in brackets, and may hold anything. */
static bool read_process(pid_t pid, struct process *process)
{
    char path[40], line[1024];
    snprintf(path, sizeof path, "/proc/%d/stat", (int)pid);
    FILE *file = fopen(path, "r");
    size_t got = file ? fread(line, 1, sizeof line - 1, file) : 0;
    if (file)
        fclose(file);
    line[got] = '\0';
    const char *name = strchr(line, '('), *end = strrchr(line, ')');
    unsigned long long user, system, child_user, child_system;
    int parent;
    if (!name || !end ||
        sscanf(end + 1, " %c %d %*d %*d %*d %*d %*u %*u %*u %*u %*u %llu %llu %llu %llu",
               &process->state, &parent, &user, &system, &child_user, &child_system) != 6)
        return false;
    process->pid = pid;
    process->parent = parent;
    process->ticks = user + system + child_user + child_system;
    process->is_ours = false;
    snprintf(process->name, sizeof process->name, "%.*s", (int)(end - name - 1), name + 1);
    return true;
}

static void read_processes(void)
{
    DIR *folder = opendir("/proc");
    process_count = 0;
    if (!folder)
        return;
    for (const struct dirent *entry; (entry = readdir(folder)) != NULL;) {
        pid_t pid = (pid_t)strtol(entry->d_name, NULL, 10);
        if (pid > 0 && process_count < MOST_PROCESSES &&
            read_process(pid, &processes[process_count]))
            process_count++;
    }
    closedir(folder);
}

/* Marks this process's descendants; whoever lost its parent has become our child. */
static void mark_ours(void)
{
    for (bool found = true; found;) {
        found = false;
        for (size_t i = 0; i < process_count; i++) {
            bool is_child = processes[i].parent == getpid();
            for (size_t k = 0; k < process_count && !is_child; k++)
                is_child = processes[k].is_ours && processes[k].pid == processes[i].parent;
            found |= is_child && !processes[i].is_ours;
            processes[i].is_ours |= is_child;
        }
    }
}

/* Processor time of all of them so far, those that have ended among them, in ticks. */
static uint64_t used_ticks(void)
{
    struct process self = {.ticks = 0};
    uint64_t sum = read_process(getpid(), &self) ? self.ticks : 0;
    read_processes();
    mark_ours();
    for (size_t i = 0; i < process_count; i++)
        sum += processes[i].is_ours ? processes[i].ticks : 0;
    return sum;
}

static void kill_ours(void)
{
    for (bool found = true; found;) {
        found = false;
        (void)used_ticks();
        for (size_t i = 0; i < process_count; i++) {
            if (processes[i].is_ours && processes[i].state != 'Z')
                found |= kill(processes[i].pid, SIGKILL) == 0;
        }
        while (waitpid(-1, NULL, WNOHANG) > 0)
            continue;
    }
}

/* --- the watch --------------------------------------------------------------------------- */

static void show_ours(const char *why, uint64_t seconds)
{
    fprintf(stderr, "limit: %s, %llu s of processor time used; what runs:\n", why,
            (unsigned long long)seconds);
    for (size_t i = 0; i < process_count; i++) {
        if (processes[i].is_ours)
            fprintf(stderr, "limit:   %d %s, state %c, %.1f s\n", (int)processes[i].pid,
                    processes[i].name, processes[i].state,
                    (double)processes[i].ticks / (double)sysconf(_SC_CLK_TCK));
    }
}

struct watch {
    uint64_t most_ticks, used, at_mark; /* `at_mark`: when progress was last looked for */
    time_t mark;
};

static time_t now(void)
{
    struct timespec time;
    clock_gettime(CLOCK_MONOTONIC, &time);
    return time.tv_sec;
}

/* Why it must end; NULL: it may go on. */
static const char *look(struct watch *watch)
{
    uint64_t ticks_a_second = (uint64_t)sysconf(_SC_CLK_TCK), used = used_ticks();
    watch->used = used > watch->used ? used : watch->used;
    if (watch->used > watch->most_ticks)
        return "it has used all of its time";
    if (now() - watch->mark < STILL_SECONDS)
        return NULL;
    bool is_still =
        watch->used - watch->at_mark < ticks_a_second * STILL_SECONDS * STILL_PERCENT / 100;
    watch->mark = now();
    watch->at_mark = watch->used;
    return is_still ? "it makes no progress" : NULL;
}

static int end_of(int status)
{
    return WIFEXITED(status) ? WEXITSTATUS(status) : 128 + WTERMSIG(status);
}

/* Waits for a child for a second at most; SIGCHLD is blocked, and ends that. */
static bool has_ended(pid_t child, int *status)
{
    static const struct timespec SECOND = {1, 0};
    sigset_t children;
    sigemptyset(&children);
    sigaddset(&children, SIGCHLD);
    for (pid_t ended; (ended = waitpid(-1, status, WNOHANG)) > 0;) {
        if (ended == child)
            return true;
    }
    (void)sigtimedwait(&children, NULL, &SECOND);
    return false;
}

int main(int argc, char **argv)
{
    unsigned long seconds = argc > 2 ? strtoul(argv[1], NULL, 10) : 0;
    if (!seconds) {
        fprintf(stderr, "usage: limit SECONDS COMMAND [ARGUMENT...]\n");
        return 2;
    }
    if (getenv("COLDMINT_ALL")) // hours, and nobody waits
        seconds *= 1000;
    struct watch watch = {.most_ticks = seconds * (uint64_t)sysconf(_SC_CLK_TCK), .mark = now()};
    sigset_t children, before;
    sigemptyset(&children);
    sigaddset(&children, SIGCHLD);
    sigprocmask(SIG_BLOCK, &children, &before);
    prctl(PR_SET_CHILD_SUBREAPER, 1);
    pid_t child = fork();
    if (child == 0) {
        sigprocmask(SIG_SETMASK, &before, NULL);
        execvp(argv[2], argv + 2);
        fprintf(stderr, "limit: %s: %s\n", argv[2], strerror(errno));
        _exit(127);
    }
    int status = 0;
    const char *why = NULL;
    time_t looked = now();
    while (child > 0 && !why && !has_ended(child, &status)) {
        if (now() != looked)
            why = look(&watch);
        looked = now();
    }
    if (why)
        show_ours(why, watch.used / (uint64_t)sysconf(_SC_CLK_TCK));
    kill_ours();
    struct rusage used;
    getrusage(RUSAGE_CHILDREN, &used);
    printf("processor time %.2f s\n", // tests/table.py reads it
           (double)(used.ru_utime.tv_sec + used.ru_stime.tv_sec) +
               (double)(used.ru_utime.tv_usec + used.ru_stime.tv_usec) / 1e6);
    return why ? ENDED : child > 0 ? end_of(status) : 126;
}
