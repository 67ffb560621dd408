/*
 * A real-time priority, where a desk asks for one: a bus from lines is then not interrupted by
 * other programs. First in, first out (sched(7)); children do not inherit it.
 */
#define _GNU_SOURCE
#include "inside.h"
#include <errno.h>
#include <sched.h>
#include <stdio.h>
#include <string.h>

bool linux_raise(struct linux_port *linux_port, unsigned priority, char *error, size_t room)
{
    struct rank *rank = &linux_port->rank;
    struct sched_param was = {0}, wanted = {.sched_priority = (int)priority};
    int most = sched_get_priority_max(SCHED_FIFO);
    rank->policy = sched_getscheduler(0);
    if (priority > (unsigned)most) {
        snprintf(error, room, "priority: real-time priorities are 1 to %d", most);
        errno = EINVAL;
        return false;
    }
    rank->was_raised = rank->policy >= 0 && sched_getparam(0, &was) == 0 &&
                       sched_setscheduler(0, SCHED_FIFO | SCHED_RESET_ON_FORK, &wanted) == 0;
    rank->priority = was.sched_priority;
    if (!rank->was_raised)
        snprintf(error, room,
                 "priority: %s; it wants the right to real-time priorities (rtprio in "
                 "/etc/security/limits.conf), or a desk without it",
                 strerror(errno));
    return rank->was_raised;
}

void linux_lower(struct linux_port *linux_port)
{
    const struct sched_param was = {.sched_priority = linux_port->rank.priority};
    if (linux_port->rank.was_raised)
        (void)sched_setscheduler(0, linux_port->rank.policy, &was);
}
