/*
 * Backups before a change, in a folder of the user's; each state once.
 */
#include "inside.h"
#include <coldmint/host/backup.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

/* A backup that holds the same already, whatever the part was called then; its path goes to `path`.
 */
static bool find_equal(struct cm_host *host, const struct cm_part *part, const char *folder,
                       struct cm_capsule_file *ours, char *path, size_t bytes)
{
    char id[ID_BYTES], mark[ID_BYTES + 2];
    bool same = false;
    snprintf(mark, sizeof mark, "-%s-", part_id_text(part, id));
    struct paths found = paths_in(folder, "", ".mint");
    for (size_t i = 0; i < found.count && !same; i++) {
        struct cm_capsule_file file;
        if (!strstr(found.names[i] + strlen(folder), mark))
            continue;
        same = cm_capsule_file_load(host, found.names[i], &file) &&
               cm_capsule_file_equal(&file, ours); // a damaged old one is no failure of this
        cm_capsule_file_free(&file);
        if (same)
            host_copy(path, bytes, found.names[i]);
    }
    paths_free(&found);
    return same;
}

static void name_backup(const struct cm_part *part, const char *folder, char *stem, size_t bytes)
{
    char id[ID_BYTES], stamp[STAMP_BYTES];
    snprintf(stem, bytes, "%s/%s-%s-%s", folder, part->name, part_id_text(part, id),
             stamp_behind(folder, stamp));
}

/* The new capsule is read back where it lies, under its temporary name, before anything is changed
 * on the strength of it: it gets the first free name, or is not needed. */
static bool store(struct cm_host *host, const struct cm_part *part, const char *folder,
                  const char *stem, struct cm_new_file *file, struct cm_backup *backup)
{
    struct cm_capsule_file ours = {.path = NULL};
    bool good = new_file_flush(host, file) && cm_capsule_file_load(host, file->temporary, &ours);
    backup->is_older =
        good && find_equal(host, part, folder, &ours, backup->path, sizeof backup->path);
    cm_capsule_file_free(&ours);
    if (!good || backup->is_older) {
        cm_new_file_drop(file);
        return good;
    }
    good = cm_new_file_commit_as(host, file, stem, ".mint");
    HOST_COPY(backup->path, file->path);
    return good;
}

bool cm_backup_keep(struct cm_host *host, struct cm_session *session,
                    const struct cm_chip_keep *how, struct cm_backup *backup)
{
    const struct cm_part *part = session->part;
    char folder[FOLDER_BYTES], stem[FOLDER_BYTES + 100], path[CM_FILE_PATH];
    struct cm_new_file file;
    struct cm_chip_kept kept;
    memset(backup, 0, sizeof *backup);
    if (!state_folder(host, "backups", folder))
        return false;
    name_backup(part, folder, stem, sizeof stem);
    // until it is whole, and has the first free name
    snprintf(path, sizeof path, "%s-%ld.part", stem, own_number());
    make_folders(path);
    remove_left_over(folder, "");
    mode_t others = umask(077); // what is kept is firmware
    bool good = cm_chip_keep(host, session, path, how, &file, &kept);
    umask(others);
    backup->is_locked = good && how->memories && kept.locked;
    backup->has_memories = good && how->memories && !kept.locked;
    backup->is_blank = backup->has_memories && kept.blank;
    if (good && how->memories && kept.blank)
        cm_new_file_drop(&file);
    else
        good = good && store(host, part, folder, stem, &file, backup);
    if (!good && host->error.path[0]) // the name that the backup would have got
        snprintf(host->error.path, sizeof host->error.path, "%.1000s.mint", stem);
    return good;
}

/* --- the list ---------------------------------------------------------------------------- */

static int compare_newest(const void *one, const void *other)
{
    const struct cm_backup_entry *a = one, *b = other;
    int order = strncmp(stamp_in(b->path), stamp_in(a->path), STAMP_CHARS); // not by the clock
    return order ? order : strcmp(b->path, a->path);
}

/* Does the capsule fit the chip? Then it is described. */
static bool describe(struct cm_host *host, struct cm_session *session, const char *path,
                     struct cm_backup_entry *entry)
{
    struct cm_capsule_file file;
    bool fits =
        cm_capsule_file_load(host, path, &file) && cm_capsule_file_is_for(host, &file, session);
    struct cm_region main;
    if (fits && cm_region(session, CM_REGION_MAIN, &main)) {
        HOST_COPY(entry->path, path);
        HOST_COPY(entry->notes, file.capsule.facts.notes);
        entry->time = file.capsule.facts.time;
        entry->has_memories = cm_capsule_region(&file.capsule, main.name) >= 0;
    }
    cm_capsule_file_free(&file);
    return fits;
}

bool cm_backups_of(struct cm_host *host, struct cm_session *session,
                   struct cm_backup_entry **entries, unsigned *count)
{
    char folder[FOLDER_BYTES];
    *entries = NULL;
    *count = 0;
    if (!state_folder(host, "backups", folder))
        return false;
    struct paths found = paths_in(folder, "", ".mint");
    *entries = calloc(found.count + 1, sizeof **entries);
    for (size_t i = 0; *entries && i < found.count; i++)
        *count += describe(host, session, found.names[i], &(*entries)[*count]);
    paths_free(&found);
    if (!*entries)
        return host_fail(host, CM_ERROR_NO_MEMORY, folder);
    qsort(*entries, *count, sizeof **entries, compare_newest);
    memset(&host->error, 0, sizeof host->error); // those that do not fit are no failure
    return true;
}
