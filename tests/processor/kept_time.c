/*
 * Loaded before the tool: its clock is that of the processor it talks to (shared_time.h). What is
 * waited for still comes by the kernel; only how long is told by the other clock. It is asked every
 * two milliseconds, which costs next to nothing.
 *
 * The main thread is the one that a processor waits for. The pulse of a link is a thread that does
 * nothing but wait, and so is not counted.
 */
#define _GNU_SOURCE
#include "shared_time.h"
#include <dlfcn.h>
#include <errno.h>
#include <poll.h>
#include <pthread.h>
#include <stdlib.h>
#include <time.h>
#include <unistd.h>

enum { LOOK_MS = 2, LOOK_NS = LOOK_MS * 1000000 };

static struct shared_time *shared;
static struct shared_time_user *own;
static clockid_t clock_of_other;
static bool has_other;
static pthread_t main_thread;

/* The function that this one stands before. */
static void *real(const char *name)
{
    return dlsym(RTLD_NEXT, name);
}

/* Of conditions there is an older kind by the same name, which would be found first. */
static void *real_condition(const char *name)
{
    void *call = dlvsym(RTLD_NEXT, name, "GLIBC_2.3.2");
    return call ? call : real(name);
}

#define REAL(type, name, ...) ((type(*)(__VA_ARGS__))real(name))

/* --- the time ---------------------------------------------------------------------------- */

static int real_clock(clockid_t id, struct timespec *now)
{
    static int (*call)(clockid_t, struct timespec *);
    if (!call)
        call = REAL(int, "clock_gettime", clockid_t, struct timespec *);
    return call(id, now);
}

static bool is_kept(void)
{
    return shared || has_other;
}

static uint64_t now_us(void)
{
    struct timespec now = {0, 0};
    if (shared)
        return shared->now_us;
    real_clock(clock_of_other, &now);
    return (uint64_t)now.tv_sec * 1000000 + (uint64_t)now.tv_nsec / 1000;
}

static void set_state(enum shared_time_state state)
{
    if (own && pthread_equal(pthread_self(), main_thread))
        own->state = state;
}

static void leave(void)
{
    if (own)
        own->pid = 0;
}

__attribute__((constructor)) static void enter(void)
{
    const char *path = getenv(SHARED_TIME_FILE), *pid = getenv(SHARED_TIME_PID);
    main_thread = pthread_self();
    has_other = pid && clock_getcpuclockid((pid_t)strtol(pid, NULL, 10), &clock_of_other) == 0;
    shared = path ? shared_time_open(path, false) : NULL;
    for (int i = 0; shared && !own && i < SHARED_TIME_USERS; i++) {
        int32_t free_place = 0;
        shared->users[i].state = USER_COMPUTES;
        if (atomic_compare_exchange_strong(&shared->users[i].pid, &free_place, getpid()))
            own = &shared->users[i];
    }
    atexit(leave);
}

/* --- what takes time --------------------------------------------------------------------- */

int clock_gettime(clockid_t id, struct timespec *now)
{
    if (!is_kept() || id != CLOCK_MONOTONIC)
        return real_clock(id, now);
    uint64_t us = now_us();
    now->tv_sec = (time_t)(us / 1000000);
    now->tv_nsec = (long)(us % 1000000) * 1000;
    return 0;
}

int poll(struct pollfd *lines, nfds_t count, int timeout_ms)
{
    static int (*call)(struct pollfd *, nfds_t, int);
    if (!call)
        call = REAL(int, "poll", struct pollfd *, nfds_t, int);
    if (!is_kept() || timeout_ms == 0)
        return call(lines, count, timeout_ms);
    uint64_t until = now_us() + (uint64_t)timeout_ms * 1000;
    bool is_for_input = false;
    for (nfds_t i = 0; i < count; i++)
        is_for_input |= (lines[i].events & POLLIN) != 0;
    set_state(is_for_input ? USER_WAITS_FOR_INPUT : USER_WAITS);
    int ready = 0;
    do
        ready = call(lines, count, LOOK_MS);
    while (ready == 0 && (timeout_ms < 0 || now_us() < until));
    set_state(USER_COMPUTES);
    return ready;
}

int nanosleep(const struct timespec *wanted, struct timespec *left)
{
    static const struct timespec LOOK = {0, LOOK_NS / 10};
    static int (*call)(const struct timespec *, struct timespec *);
    if (!call)
        call = REAL(int, "nanosleep", const struct timespec *, struct timespec *);
    if (!is_kept())
        return call(wanted, left);
    uint64_t until =
        now_us() + (uint64_t)wanted->tv_sec * 1000000 + (uint64_t)wanted->tv_nsec / 1000;
    set_state(USER_WAITS);
    while (now_us() < until)
        (void)call(&LOOK, NULL);
    set_state(USER_COMPUTES);
    return 0;
}

/* A signal that comes just when a look ends would be lost: so they are counted. */
static _Atomic unsigned signals;

int pthread_cond_signal(pthread_cond_t *condition)
{
    static int (*call)(pthread_cond_t *);
    if (!call)
        call = (int (*)(pthread_cond_t *))real_condition("pthread_cond_signal");
    signals++;
    return call(condition);
}

int pthread_cond_timedwait(pthread_cond_t *condition, pthread_mutex_t *mutex,
                           const struct timespec *until)
{
    static int (*call)(pthread_cond_t *, pthread_mutex_t *, const struct timespec *);
    if (!call)
        call = (int (*)(pthread_cond_t *, pthread_mutex_t *,
                        const struct timespec *))real_condition("pthread_cond_timedwait");
    if (!is_kept())
        return call(condition, mutex, until);
    unsigned before = signals;
    uint64_t until_us = (uint64_t)until->tv_sec * 1000000 + (uint64_t)until->tv_nsec / 1000;
    for (;;) {
        struct timespec look;
        real_clock(CLOCK_MONOTONIC, &look);
        look.tv_nsec += LOOK_NS;
        look.tv_sec += look.tv_nsec / 1000000000;
        look.tv_nsec %= 1000000000;
        int ended = call(condition, mutex, &look);
        if (ended != ETIMEDOUT || now_us() >= until_us)
            return ended;
        if (signals != before)
            return 0;
    }
}
