/*
 * The time of a simulated processor, shared with the programs that talk to it.
 *
 * A simulated processor is as fast as the machine lets it be. A program that waits for its answer
 * by a clock on the wall would give up on a slow machine. So the processor tells its time in a
 * file, and the tool is run with kept_time.c before it (LD_PRELOAD): its clock is the processor's,
 * and what it computes takes none of it. The processor goes on only
 *
 *     while somebody is there, and all who are there wait
 *     and what it has sent has been taken by who waits for input
 *
 * An emulator that cannot be held is a clock all the same: TEST_TIME_OF names its process, and the
 * time is the processor time that it has used.
 */
#ifndef TESTS_SHARED_TIME_H
#define TESTS_SHARED_TIME_H

#include <stdatomic.h>
#include <stdbool.h>
#include <stdint.h>

/* Environment variables: the file; or the process whose processor time it is. */
#define SHARED_TIME_FILE "TEST_TIME"
#define SHARED_TIME_PID  "TEST_TIME_OF"

enum { SHARED_TIME_USERS = 8 };

enum shared_time_state {
    USER_COMPUTES,
    USER_WAITS_FOR_INPUT,
    USER_WAITS, /* for something else, or for nothing but the time */
};

struct shared_time {
    _Atomic uint64_t now_us;
    struct shared_time_user {
        _Atomic int32_t pid; /* 0: free */
        _Atomic uint32_t state;
    } users[SHARED_TIME_USERS];
};

/* Makes the file, or opens the one that is there. NULL with errno set. */
struct shared_time *shared_time_open(const char *path, bool is_new);

/* May the processor go on? `line` is an open descriptor of the device that the users read. */
bool shared_time_may_go_on(struct shared_time *time, int line);

#endif
