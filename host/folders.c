/*
 * Folders of the user's, and what is in them.
 *
 *     ~/.local/state/coldmint/KIND     or below $XDG_STATE_HOME (XDG base directories)
 */
#define _DEFAULT_SOURCE /* timegm */
#include "inside.h"
#include <ctype.h>
#include <dirent.h>
#include <errno.h>
#include <fcntl.h>
#include <pwd.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <time.h>
#include <unistd.h>

static const char *time_text(time_t when, char *text)
{
    struct tm parts;
    strftime(text, STAMP_BYTES, "%Y%m%d-%H%M%S", gmtime_r(&when, &parts));
    return text;
}

const char *stamp_text(char *text)
{
    return time_text(time(NULL), text);
}

const char *stamp_in(const char *path)
{
    static const char FORM[] = "dddddddd-dddddd";
    const char *slash = strrchr(path, '/');
    for (const char *at = slash ? slash + 1 : path; *at; at++) {
        size_t same = 0;
        while (FORM[same] == 'd' ? isdigit((unsigned char)at[same]) : at[same] == FORM[same]) {
            if (!FORM[++same])
                return at;
        }
    }
    return "";
}

/* A second behind a stamp. */
static time_t time_behind(const char *stamp)
{
    struct tm parts = {.tm_isdst = 0};
    if (sscanf(stamp, "%4d%2d%2d-%2d%2d%2d", &parts.tm_year, &parts.tm_mon, &parts.tm_mday,
               &parts.tm_hour, &parts.tm_min, &parts.tm_sec) != 6)
        return 0;
    parts.tm_year -= 1900;
    parts.tm_mon--;
    parts.tm_sec++;
    return timegm(&parts);
}

const char *stamp_behind(const char *folder, char *text)
{
    struct paths paths = paths_in(folder, "", "");
    time_t when = time(NULL);
    for (size_t i = 0; i < paths.count; i++) {
        time_t behind = time_behind(stamp_in(paths.names[i]));
        when = behind > when ? behind : when;
    }
    paths_free(&paths);
    return time_text(when, text);
}

const char *part_id_text(const struct cm_part *part, char *text)
{
    snprintf(text, ID_BYTES, "%02X%02X%02X", part->id[0], part->id[1], part->id[2]);
    return text;
}

const char *home_folder(void)
{
    const char *home = getenv("HOME");
    const struct passwd *user = home && *home ? NULL : getpwuid(getuid());
    return home && *home ? home : user ? user->pw_dir : NULL;
}

bool state_folder(struct cm_host *host, const char *kind, char *folder)
{
    const char *state = getenv("XDG_STATE_HOME"), *home = home_folder();
    bool has_state = state && *state;
    if (!has_state && !home)
        return host_fail(host, CM_ERROR_NO_STATE_FOLDER, NULL);
    int length = snprintf(folder, FOLDER_BYTES, "%s%s/coldmint/%s", has_state ? state : home,
                          has_state ? "" : "/.local/state", kind);
    if (length >= 0 && length < FOLDER_BYTES)
        return true;
    struct cm_error *error = host_error(host, CM_ERROR_STATE_FOLDER_NAME, NULL);
    HOST_COPY(error->text, has_state ? "XDG_STATE_HOME" : "HOME");
    return false;
}

void make_folders(char *path)
{
    for (char *slash = strchr(path + 1, '/'); slash; slash = strchr(slash + 1, '/')) {
        *slash = '\0';
        mkdir(path, 0700); // what is kept here is firmware
        *slash = '/';
    }
}

static int compare_newest(const void *one, const void *other)
{
    return strcmp(*(char *const *)other, *(char *const *)one);
}

/* A name that is looked for is taken into the list; false where there is no memory for it. */
static bool take_path(struct paths *paths, const char *folder, const char *name)
{
    char **grown = realloc(paths->names, (paths->count + 1) * sizeof *grown);
    if (!grown)
        return false;
    paths->names = grown;
    char *path = malloc(strlen(folder) + strlen(name) + 2);
    if (!path)
        return false;
    sprintf(path, "%s/%s", folder, name);
    grown[paths->count++] = path;
    return true;
}

struct paths paths_in(const char *folder, const char *begin, const char *end)
{
    struct paths paths = {0};
    size_t first = strlen(begin), last = strlen(end);
    DIR *list = opendir(folder);
    for (struct dirent *item; list && (item = readdir(list)) != NULL;) {
        size_t length = strlen(item->d_name);
        bool is_meant = length >= first + last && strncmp(item->d_name, begin, first) == 0 &&
                        strcmp(item->d_name + length - last, end) == 0;
        if (is_meant && !take_path(&paths, folder, item->d_name))
            break;
    }
    if (list)
        closedir(list);
    if (paths.count)
        qsort(paths.names, paths.count, sizeof *paths.names, compare_newest);
    return paths;
}

struct paths paths_left_in(const char *folder, const char *begin, const char *end)
{
    struct paths found = paths_in(folder, begin, end);
    size_t kept = 0;
    for (size_t i = 0; i < found.count; i++) {
        if (file_is_in_use(found.names[i]))
            free(found.names[i]);
        else
            found.names[kept++] = found.names[i];
    }
    found.count = kept;
    return found;
}

void paths_free(struct paths *paths)
{
    while (paths->count)
        free(paths->names[--paths->count]);
    free(paths->names);
    paths->names = NULL;
}

void file_hold(const char *path)
{
    // stays open until the process ends, whatever ends it
    int file = open(path, O_RDONLY | O_CLOEXEC);
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
