/*
 * Keep before change: a verified capsule of what a change would lose, in a folder of the user's,
 * before the chip is touched.
 *
 *     ~/.local/state/coldmint/backups/attiny84a-1E930C-20261123-101500.mint
 *
 * or below $XDG_STATE_HOME (XDG base directories).
 *
 * The same contents are not stored twice.
 */
#include "capsule.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

/* A backup that holds the same already, whatever the part was called then; its path goes to `path`.
 */
static bool find_equal(struct tool *tool, const char *folder, struct capsule_file *ours, char *path,
                       size_t bytes)
{
    const struct cm_part *part = tool->session.part;
    char id[SHORT_TEXT];
    bool same = false;
    snprintf(id, sizeof id, "-%02X%02X%02X-", part->id[0], part->id[1], part->id[2]);
    struct paths found = paths_in(folder, "", ".mint");
    struct words before = tool->words;
    for (size_t i = 0; i < found.count && !same; i++) {
        struct capsule_file file;
        if (!strstr(found.names[i] + strlen(folder), id))
            continue;
        if (capsule_load(tool, found.names[i], &file) == EXIT_GOOD)
            same = capsule_equal(&file, ours);
        capsule_free(&file);
        if (same)
            snprintf(path, bytes, "%s", found.names[i]);
    }
    tool->words = before; // a damaged old backup is no failure of this command
    paths_free(&found);
    return same;
}

static void name_backup(const struct tool *tool, const char *folder, char *stem, size_t bytes)
{
    const struct cm_part *part = tool->session.part;
    char stamp[SHORT_TEXT];
    snprintf(stem, bytes, "%s/%s-%02X%02X%02X-%s", folder, part->name, part->id[0], part->id[1],
             part->id[2], stamp_text(stamp));
}

/* The new capsule is looked at where it lies, under its temporary name. */
static bool is_kept_already(struct tool *tool, const char *folder, const struct new_file *fresh,
                            char *path, size_t bytes)
{
    struct capsule_file ours;
    fflush(fresh->stream);
    bool same = capsule_load(tool, fresh->temporary, &ours) == EXIT_GOOD &&
                find_equal(tool, folder, &ours, path, bytes);
    capsule_free(&ours);
    return same;
}

enum exit_code backup_chip(struct tool *tool, bool memories, const uint8_t *settings)
{
    char folder[FOLDER_BYTES], stem[FOLDER_BYTES + 200], path[4096];
    struct new_file file;
    struct kept_facts facts;
    if (tool->no_backup)
        return EXIT_GOOD;
    enum exit_code code = state_folder(tool, "backups", folder);
    if (code)
        return code;
    name_backup(tool, folder, stem, sizeof stem);
    // until it is whole, and has the first free name
    snprintf(path, sizeof path, "%s-%ld.part", stem, (long)getpid());
    make_folders(path);
    remove_left_over(folder, "");
    mode_t others = umask(077); // what is kept is firmware
    code = capsule_keep(tool, path, memories, settings, "kept before a change", &file, &facts);
    umask(others);
    if (code)
        return code;
    if (memories && facts.locked)
        say(tool, "note", "lock bits bar reading the memories: only the settings can be kept");
    if (memories && facts.blank) {
        tool->was_blank = !facts.locked;
        new_file_drop(&file);
        return EXIT_GOOD;
    }
    bool kept = is_kept_already(tool, folder, &file, path, sizeof path);
    if (kept)
        new_file_drop(&file);
    else
        code = new_file_commit_as(tool, &file, stem, ".mint");
    if (code)
        return code;
    if (!kept)
        snprintf(path, sizeof path, "%s", file.path);
    if (memories && !facts.locked)
        snprintf(tool->backup_path, sizeof tool->backup_path, "%s", path);
    say(tool, "backup", "%s%s", path, kept ? ", which holds the same already" : "");
    set_json(tool, "backup", json_text(path));
    return EXIT_GOOD;
}
