/*
 * Keep before change: a verified capsule of what a change would lose, in a folder of the user's, before the chip is touched.
 *
 *     ~/.local/state/coldmint/backups/attiny84a-1E930C-20261123-101500.mint        ($XDG_STATE_HOME, XDG base directories)
 *
 * The same contents are not stored twice.
 */
#include "capsule.h"
#include <glob.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

/* A backup that holds the same already, whatever the part was called then; its path goes to `path`. */
static bool find_equal(struct tool *tool, const char *folder, struct capsule_file *ours, char *path, size_t bytes)
{
    const struct cm_part *part = tool->session.part;
    char pattern[3200];
    glob_t found;
    bool same = false;
    snprintf(pattern, sizeof pattern, "%s/backups/*-%02X%02X%02X-*.mint", folder, part->id[0], part->id[1], part->id[2]);
    if (glob(pattern, 0, NULL, &found) != 0)
        return false;
    struct words before = tool->words;
    for (size_t i = found.gl_pathc; i > 0 && !same; i--) {
        struct capsule_file file;
        if (capsule_load(tool, found.gl_pathv[i - 1], &file) == EXIT_GOOD)
            same = capsule_equal(&file, ours);
        capsule_free(&file);
        if (same)
            snprintf(path, bytes, "%s", found.gl_pathv[i - 1]);
    }
    tool->words = before; // a damaged old backup is no failure of this command
    globfree(&found);
    return same;
}

static void name_backup(const struct tool *tool, const char *folder, char *stem, size_t bytes)
{
    const struct cm_part *part = tool->session.part;
    char stamp[SHORT_TEXT];
    snprintf(stem, bytes, "%s/backups/%s-%02X%02X%02X-%s", folder, part->name, part->id[0],
             part->id[1], part->id[2], stamp_text(stamp));
}

/* The new capsule is looked at where it lies, under its temporary name. */
static bool is_kept_already(struct tool *tool, const char *folder, const struct new_file *fresh, char *path, size_t bytes)
{
    struct capsule_file ours;
    fflush(fresh->stream);
    bool same = capsule_load(tool, fresh->temporary, &ours) == EXIT_GOOD && find_equal(tool, folder, &ours, path, bytes);
    capsule_free(&ours);
    return same;
}

enum exit_code backup_chip(struct tool *tool, bool memories, const uint8_t *settings)
{
    char folder[3000], stem[3200], path[4096];
    struct new_file file;
    struct kept_facts facts;
    if (tool->no_backup)
        return EXIT_GOOD;
    state_folder(folder, sizeof folder);
    name_backup(tool, folder, stem, sizeof stem);
    // until it is whole, and has the first free name
    snprintf(path, sizeof path, "%s-%ld.part", stem, (long)getpid());
    make_folders(path);
    enum exit_code code = capsule_keep(tool, path, memories, settings, "kept before a change", &file, &facts);
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
