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

static bool holds_the_same(struct capsule_file *file, const struct chip_contents *contents)
{
    bool same = file->capsule.region_count == contents->count;
    for (uint8_t i = 0; same && i < contents->count; i++) {
        const struct cm_capsule_region *region = &contents->regions[i];
        same = strcmp(file->capsule.regions[i].name, region->name) == 0 && file->capsule.regions[i].bytes == region->bytes;
        uint8_t *bytes = same ? malloc(region->bytes) : NULL;
        struct cm_source source = cm_capsule_source(&file->capsule, i, &file->places[i]);
        same = bytes && source.read(source.context, 0, bytes, region->bytes) == CM_OK &&
               memcmp(bytes, contents->bytes[i], region->bytes) == 0;
        free(bytes);
    }
    return same;
}

/* A backup that holds the same already, whatever the part was called then; its path goes to `path`. */
static bool find_equal(struct tool *tool, const char *folder, const struct chip_contents *contents, char *path, size_t bytes)
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
            same = holds_the_same(&file, contents);
        capsule_free(&file);
        if (same)
            snprintf(path, bytes, "%s", found.gl_pathv[i - 1]);
    }
    tool->words = before; // a damaged old backup is no failure of this command
    globfree(&found);
    return same;
}

static void name_backup(const struct tool *tool, const char *folder, char *path, size_t bytes)
{
    const struct cm_part *part = tool->session.part;
    char stem[3200], stamp[SHORT_TEXT];
    snprintf(stem, sizeof stem, "%s/backups/%s-%02X%02X%02X-%s", folder, part->name, part->id[0], part->id[1], part->id[2],
             stamp_text(stamp));
    snprintf(path, bytes, "%s.mint", stem);
    for (int i = 2; access(path, F_OK) == 0; i++)
        snprintf(path, bytes, "%s-%d.mint", stem, i);
}

static enum exit_code store(struct tool *tool, const struct chip_contents *contents)
{
    char folder[3000], path[4096];
    state_folder(folder, sizeof folder);
    bool kept = find_equal(tool, folder, contents, path, sizeof path);
    if (!kept) {
        name_backup(tool, folder, path, sizeof path);
        make_folders(path);
        enum exit_code code = capsule_write(tool, contents, "kept before a change", path);
        if (code)
            return code;
    }
    say(tool, "backup", "%s%s", path, kept ? ", which holds the same already" : "");
    set_json(tool, "backup", json_string(path));
    return EXIT_GOOD;
}

static bool is_blank(const struct chip_contents *contents)
{
    for (uint8_t i = 0; i < contents->count; i++) {
        bool is_memory = strcmp(contents->regions[i].name, "flash") == 0 || strcmp(contents->regions[i].name, "eeprom") == 0;
        for (uint32_t at = 0; is_memory && at < contents->regions[i].bytes; at++) {
            if (contents->bytes[i][at] != contents->regions[i].erased)
                return false;
        }
    }
    return true;
}

enum exit_code backup_chip(struct tool *tool, bool memories, const uint8_t *settings)
{
    struct chip_contents contents;
    struct cm_setting_byte byte;
    struct cm_region region;
    if (tool->no_backup)
        return EXIT_GOOD;
    enum cm_status status = chip_read(tool, memories, &contents);
    if (!status && memories && contents.locked)
        say(tool, "note", "lock bits bar reading the memories: only the settings can be kept");
    for (uint8_t i = 0; !status && settings && tool_kit.words->byte(tool->session.part, i, &byte); i++) {
        cm_region(&tool->session, byte.region, &region);
        for (uint8_t n = 0; n < contents.count; n++) {
            if (strcmp(contents.regions[n].name, region.name) == 0)
                contents.bytes[n][byte.address] = settings[i]; // as they were before this command
        }
    }
    enum exit_code code = status ? tool_fail(tool, status) : EXIT_GOOD;
    if (status == CM_DIFFERS)
        code = tool_fail_as(tool, EXIT_CONTACT_LOST, "two reads of the chip do not agree, so there is no backup",
                            tool->words.evidence, "nothing was changed; seat the clip again and repeat");
    if (!code && !(memories && is_blank(&contents)))
        code = store(tool, &contents);
    chip_contents_free(&contents);
    return code;
}
