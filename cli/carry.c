/*
 * What is carried over a chip erase, EEPROM and lock byte: put on disk before the erase, and taken
 * away again when it is back in the chip.
 */
#include "job.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

/* Folder of what is carried, and the beginning of the names of saved EEPROMs or lock bytes of this
 * part behind this port: two boards at once each have their own. */
static enum exit_code carried_place(struct tool *tool, const char *what, char *folder, char *begin)
{
    char key[SHORT_TEXT];
    snprintf(begin, NAME_BYTES, "%s-%s-%s-", tool->session.part->name, tool_port_key(tool, key),
             what);
    return state_folder(tool, "carried", folder);
}

static enum exit_code name_carried_file(const struct job *job, const char *what, char *path,
                                        size_t bytes)
{
    char stamp[SHORT_TEXT], folder[FOLDER_BYTES], begin[NAME_BYTES];
    enum exit_code code = carried_place(job->tool, what, folder, begin);
    if (code)
        return code;
    snprintf(path, bytes, "%s/%s%s-%ld.hex", folder, begin, stamp_text(stamp), (long)getpid());
    make_folders(path);
    return EXIT_GOOD;
}

/* Newest file of this kind that an earlier put has left; false where there is none. */
static bool find_left_behind(struct tool *tool, const char *what, char *path, size_t bytes)
{
    char folder[FOLDER_BYTES], begin[NAME_BYTES];
    struct words before = tool->words;
    bool is_there = false;
    if (carried_place(tool, what, folder, begin)) {
        tool->words = before; // where nothing can be kept, nothing was left
        return false;
    }
    struct paths found = paths_in(folder, begin, ".hex");
    for (size_t i = 0; i < found.count && !is_there; i++) {
        is_there = !file_is_in_use(found.names[i]);
        if (is_there)
            snprintf(path, bytes, "%s", found.names[i]);
    }
    paths_free(&found);
    return is_there;
}

static void tell_lifted_lock(struct tool *tool, const char *path)
{
    struct image_file file;
    uint8_t lock = 0xFF;
    struct words before = tool->words;
    if (image_file_load(tool, path, "lock", &file) == EXIT_GOOD && file.bytes == 1)
        file.source.read(file.source.context, 0, &lock, 1);
    image_file_free(&file);
    tool->words = before; // a damaged file of ours is no failure of this command
    say(tool, "note",
        "an earlier put was cut off; the lock byte it had lifted was 0x%02X: see 'tune', then "
        "remove %s",
        lock, path);
}

/* An earlier put was cut off between the erase and the end: what it had saved is still there. */
void carry_tell_left_behind(struct tool *tool)
{
    char path[4096];
    if (find_left_behind(tool, "eeprom", path, sizeof path))
        say(tool, "note",
            "an earlier put was cut off; the eeprom it had saved is in %s: add eeprom=THAT-FILE, "
            "then remove it",
            path);
    if (find_left_behind(tool, "rest", path, sizeof path))
        say(tool, "note",
            "an earlier put was cut off; what else was in a sector it had erased is in %s: put "
            "that file, then remove it",
            path);
    if (find_left_behind(tool, "lock", path, sizeof path))
        tell_lifted_lock(tool, path);
}

static enum cm_status save(struct job *job, const char *path, uint32_t address,
                           const uint8_t *bytes, uint32_t count)
{
    struct new_file file;
    struct cm_record_writer writer;
    if (new_file_open(job->tool, path, &file))
        return CM_REFUSED;
    cm_record_write_begin(&writer, CM_RECORDS_INTEL, new_file_text, file.stream);
    if (cm_record_write(&writer, address, bytes, count) || cm_record_write_end(&writer)) {
        new_file_drop(&file);
        return CM_REFUSED;
    }
    if (new_file_commit(job->tool, &file))
        return CM_REFUSED;
    file_hold(path);
    return CM_OK;
}

/* The erase is next: what it takes along is put on disk first. */
enum cm_status carry_save(void *context, uint8_t region, uint32_t address, const uint8_t *bytes,
                          uint32_t count)
{
    struct job *job = context;
    char what[40] = "eeprom";
    if (region == CM_REGION_MAIN)
        snprintf(what, sizeof what, "rest-%08X", (unsigned)address); // several of them in one job
    if (name_carried_file(job, what, job->carried_path, sizeof job->carried_path))
        return CM_REFUSED;
    enum cm_status status = save(job, job->carried_path, address, bytes, count);
    if (region == CM_REGION_MAIN && !status) {
        job->carried_files++;
        return CM_OK;
    }
    if (status)
        job->carried_path[0] = '\0';
    else
        say(job->tool, "eeprom", "%u bytes saved, to be carried over the erase", (unsigned)count);
    return status;
}

enum exit_code carry_save_lock(struct job *job, const uint8_t *settings)
{
    struct cm_setting_byte byte;
    for (uint8_t i = 0; words_of(job->tool->session.part)->byte(job->tool->session.part, i, &byte);
         i++) {
        if (!byte.only_falls || (settings[i] & byte.named) == byte.named)
            continue;
        if (name_carried_file(job, "lock", job->lock_path, sizeof job->lock_path))
            return job->tool->words.code;
        if (save(job, job->lock_path, 0, &settings[i], 1) != CM_OK)
            return job->tool->words.code;
    }
    return EXIT_GOOD;
}

/* What was beside the images in erased sectors: all of it is back, or it is named. */
static void end_rests(struct job *job, bool are_back)
{
    char folder[FOLDER_BYTES], begin[NAME_BYTES], end[40];
    struct words *words = &job->tool->words;
    if (carried_place(job->tool, "rest", folder, begin))
        return;
    snprintf(end, sizeof end, "-%ld.hex", (long)getpid());
    struct paths found = paths_in(folder, begin, end);
    for (size_t i = 0; are_back && i < found.count; i++)
        unlink(found.names[i]);
    paths_free(&found);
    size_t used = strlen(words->try);
    if (!are_back)
        snprintf(words->try + used, sizeof words->try - used,
                 ". What else was in the sectors is in %.200s/%.40s*%s", folder, begin, end);
}

void carry_end(struct job *job, enum cm_status status)
{
    if (status == CM_OK && job->lock_path[0])
        unlink(job->lock_path);
    if (job->carried_files)
        end_rests(job, status == CM_OK);
    if (!job->carried_path[0] || job->carried_files)
        return;
    if (status == CM_OK) {
        unlink(job->carried_path);
        return;
    }
    struct words *words = &job->tool->words;
    size_t used = strlen(words->try);
    snprintf(words->try + used, sizeof words->try - used,
             ". The EEPROM's contents are in %.250s: add eeprom=THAT-FILE", job->carried_path);
}
