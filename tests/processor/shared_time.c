/* The processor's side of a shared time. */
#define _GNU_SOURCE
#include "shared_time.h"
#include <errno.h>
#include <fcntl.h>
#include <signal.h>
#include <sys/ioctl.h>
#include <sys/mman.h>
#include <unistd.h>

struct shared_time *shared_time_open(const char *path, bool is_new)
{
    int file = open(path, O_RDWR | O_CLOEXEC | (is_new ? O_CREAT | O_TRUNC : 0), 0600);
    void *time = MAP_FAILED;
    if (file >= 0 && (!is_new || ftruncate(file, sizeof(struct shared_time)) == 0))
        time = mmap(NULL, sizeof(struct shared_time), PROT_READ | PROT_WRITE, MAP_SHARED, file, 0);
    if (file >= 0)
        close(file);
    return time == MAP_FAILED ? NULL : time;
}

/* A process that was killed has left its place taken. */
static bool is_there(struct shared_time_user *user)
{
    int32_t pid = user->pid;
    if (pid && kill(pid, 0) != 0 && errno == ESRCH)
        atomic_compare_exchange_strong(&user->pid, &pid, 0);
    return user->pid != 0;
}

bool shared_time_may_go_on(struct shared_time *time, int line)
{
    int unread = 0, users = 0;
    for (int i = 0; i < SHARED_TIME_USERS; i++) {
        if (!is_there(&time->users[i]))
            continue;
        users++;
        uint32_t state = time->users[i].state;
        bool has_input =
            state == USER_WAITS_FOR_INPUT && ioctl(line, FIONREAD, &unread) == 0 && unread > 0;
        if (state == USER_COMPUTES || has_input)
            return false;
    }
    return users > 0;
}
