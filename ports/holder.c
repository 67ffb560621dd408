/*
 * Which process has a device or a file open. Source: proc(5), /proc/PID/fd and /proc/PID/comm.
 * Processes of other users are not seen.
 */
#define _DEFAULT_SOURCE
#include "holder.h"
#include <dirent.h>
#include <limits.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

static const char PTMX[] = "/dev/ptmx";

static bool has_open(long process, const char *device)
{
    char folder[64], path[PATH_MAX], target[PATH_MAX];
    bool found = false;
    snprintf(folder, sizeof folder, "/proc/%ld/fd", process);
    DIR *files = opendir(folder);
    for (const struct dirent *file; files && !found && (file = readdir(files));) {
        snprintf(path, sizeof path, "%s/%s", folder, file->d_name);
        ssize_t length = readlink(path, target, sizeof target - 1);
        target[length > 0 ? length : 0] = 0;
        found = strcmp(target, device) == 0;
    }
    if (files)
        closedir(files);
    return found;
}

static void name_of(long process, char *name, size_t room)
{
    char path[64];
    snprintf(path, sizeof path, "/proc/%ld/comm", process);
    FILE *file = fopen(path, "r");
    if (!file || !fgets(name, (int)room, file))
        snprintf(name, room, "unknown");
    name[strcspn(name, "\n")] = 0;
    if (file)
        fclose(file);
}

bool holder_of(const char *path, char *text, size_t room)
{
    char device[PATH_MAX], name[40];
    DIR *processes = realpath(path, device) ? opendir("/proc") : NULL;
    bool is_pty = strncmp(path, "/dev/pts/", sizeof "/dev/pts/" - 1) == 0;
    long holder = 0;
    for (const struct dirent *entry; processes && !holder && (entry = readdir(processes));) {
        long process = strtol(entry->d_name, NULL, 10);
        bool is_user = process > 0 && process != getpid() && has_open(process, device) &&
                       !(is_pty && has_open(process, PTMX)); // which plays its far end
        holder = is_user ? process : 0;
    }
    if (processes)
        closedir(processes);
    if (!holder)
        return false;
    name_of(holder, name, sizeof name);
    snprintf(text, room, "process %ld (%s) uses it", holder, name);
    return true;
}
