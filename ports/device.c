/*
 * Which devices there are, and why the system refuses one.
 */
#define _DEFAULT_SOURCE
#include "device.h"
#include "holder.h"
#include <errno.h>
#include <glob.h>
#include <grp.h>
#include <stdio.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

/* The group that may. */
static void explain_denial(const char *path, char *error, size_t room)
{
    struct stat facts;
    const struct group *group = stat(path, &facts) == 0 ? getgrgid(facts.st_gid) : NULL;
    snprintf(error, room, "permission denied; %s%s may use it", group ? "the group " : "others",
             group ? group->gr_name : "");
}

void device_explain(const char *path, int reason, char *error, size_t room)
{
    if (reason == EACCES)
        explain_denial(path, error, room);
    else if (reason != EBUSY)
        snprintf(error, room, "%s", strerror(reason));
    else if (!holder_of(path, error, room))
        snprintf(error, room, "another process uses it");
}

enum cm_port_opening device_opening(int reason)
{
    if (reason == EACCES)
        return CM_PORT_NO_RIGHT;
    return reason == EBUSY ? CM_PORT_BUSY : CM_PORT_NOT_OPENED;
}

void device_list(const char *pattern, const char *what, const char *alone, cm_port_told_fn *told,
                 void *context)
{
    glob_t found;
    if (glob(pattern, 0, NULL, &found) != 0)
        return;
    for (size_t i = 0; i < found.gl_pathc; i++) {
        char trouble[CM_PORT_ERROR_BYTES] = "";
        const char *path = found.gl_pathv[i];
        if (access(path, R_OK | W_OK) != 0)
            device_explain(path, errno, trouble, sizeof trouble);
        else
            (void)holder_of(path, trouble, sizeof trouble);
        if (!trouble[0])
            snprintf(trouble, sizeof trouble, "%s", alone);
        told(context, path, what, trouble);
    }
    globfree(&found);
}
