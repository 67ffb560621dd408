/*
 * What is carried over a chip erase, EEPROM and lock byte: put on disk before the erase, and taken
 * away again when it is back in the chip.
 *
 *     ~/.local/state/coldmint/carried/attiny84a-1f0c9a42-eeprom-20261123-101500-4711.hex
 *     (part, port, what, time, process)
 */
#include "job_inside.h"
#include <coldmint/host/ports.h>
#include <stdio.h>
#include <string.h>
#include <unistd.h>

/* Folder of what is carried, and the beginning of the names of saved EEPROMs or lock bytes of this
 * part behind this port: two boards at once each have their own. */
static bool carried_place(const struct cm_job *job, const char *what, char *folder, char *begin)
{
    char key[CM_PORT_KEY];
    snprintf(begin, NAME_BYTES, "%s-%s-%s-", job->session->part->name,
             cm_port_key(job->port_name, key), what);
    return state_folder(job->host, "carried", folder);
}

static bool name_carried_file(const struct cm_job *job, const char *what, char *path, size_t bytes)
{
    char stamp[STAMP_BYTES], folder[FOLDER_BYTES], begin[NAME_BYTES];
    if (!carried_place(job, what, folder, begin))
        return false;
    snprintf(path, bytes, "%s/%s%s-%ld.hex", folder, begin, stamp_text(stamp), own_number());
    make_folders(path);
    return true;
}

static bool save(struct cm_job *job, const char *path, uint32_t address, const uint8_t *bytes,
                 uint32_t count)
{
    struct cm_new_file file;
    struct cm_image_writer writer;
    if (!cm_new_file_open(job->host, path, &file))
        return false;
    cm_image_write_begin(&writer, &cm_format_hex, file.stream);
    if (cm_image_write(&writer, address, bytes, count) || cm_image_write_end(&writer)) {
        cm_new_file_drop(&file);
        return host_fail(job->host, CM_ERROR_FILE_INCOMPLETE, path);
    }
    if (!cm_new_file_commit(job->host, &file))
        return false;
    file_hold(path);
    return true;
}

/* The erase is next: what it takes along is put on disk first. */
static bool save_carried(struct cm_job *job, uint8_t region, uint32_t address, const uint8_t *bytes,
                         uint32_t count)
{
    char what[40] = "eeprom";
    if (region == CM_REGION_MAIN)
        snprintf(what, sizeof what, "rest-%08X", (unsigned)address); // several of them in one job
    return name_carried_file(job, what, job->carried_path, sizeof job->carried_path) &&
           save(job, job->carried_path, address, bytes, count);
}

enum cm_status carry_save(void *context, uint8_t region, uint32_t address, const uint8_t *bytes,
                          uint32_t count)
{
    struct cm_job *job = context;
    if (!save_carried(job, region, address, bytes, count)) {
        job->has_failed = true;
        job->carried_path[0] = '\0';
        return CM_REFUSED;
    }
    if (region == CM_REGION_MAIN)
        job->carried_files++;
    else
        job_tell(job, &(struct cm_note){
                          .kind = CM_NOTE_CARRIED, .path = job->carried_path, .bytes = count});
    return CM_OK;
}

bool carry_save_lock(struct cm_job *job, const uint8_t *settings)
{
    const struct cm_words *words = cm_words_of(job->session);
    struct cm_setting_byte byte;
    for (uint8_t i = 0; words && words->byte(job->session->part, i, &byte); i++) {
        if (!byte.only_falls || (settings[i] & byte.named) == byte.named)
            continue;
        if (!name_carried_file(job, "lock", job->lock_path, sizeof job->lock_path) ||
            !save(job, job->lock_path, 0, &settings[i], 1))
            return false;
    }
    return true;
}

/* --- the end ----------------------------------------------------------------------------- */

/* What was beside the images in erased sectors: all of it is back, or it is named. */
static void end_rests(struct cm_job *job, bool are_back)
{
    char folder[FOLDER_BYTES], begin[NAME_BYTES], end[40];
    job->carried_path[0] = '\0';
    if (!carried_place(job, "rest", folder, begin))
        return;
    snprintf(end, sizeof end, "-%ld.hex", own_number());
    struct paths found = paths_in(folder, begin, end);
    for (size_t i = 0; are_back && i < found.count; i++)
        unlink(found.names[i]);
    paths_free(&found);
    job->is_rest = !are_back;
    if (!are_back)
        snprintf(job->carried_path, sizeof job->carried_path, "%s/%s*%s", folder, begin, end);
}

void carry_end(struct cm_job *job, bool is_back)
{
    if (is_back && job->lock_path[0])
        unlink(job->lock_path);
    if (job->carried_files) {
        end_rests(job, is_back);
    } else if (job->carried_path[0] && is_back) {
        unlink(job->carried_path);
        job->carried_path[0] = '\0';
    }
}

/* --- what earlier jobs have left --------------------------------------------------------- */

struct paths carry_left_behind(struct cm_job *job, const char *what)
{
    char folder[FOLDER_BYTES], begin[NAME_BYTES];
    struct cm_error before = job->host->error;
    if (carried_place(job, what, folder, begin))
        return paths_left_in(folder, begin, ".hex");
    job->host->error = before; // where nothing can be kept, nothing was left
    return (struct paths){NULL, 0};
}

/* Newest file of this kind that an earlier job has left; false where there is none. */
static bool find_left_behind(struct cm_job *job, const char *what, char *path, size_t bytes)
{
    struct paths found = carry_left_behind(job, what);
    bool is_there = found.count > 0;
    if (is_there)
        host_copy(path, bytes, found.names[0]);
    paths_free(&found);
    return is_there;
}

/* A damaged file of ours is no failure of this job. */
static uint8_t read_lock(struct cm_job *job, const char *path)
{
    struct cm_error before = job->host->error;
    struct cm_image_file file;
    uint8_t lock = 0xFF;
    if (cm_image_file_load(job->host, path, &file))
        cm_ignore(file.source.read(file.source.context, 0, &lock, 1));
    cm_image_file_free(&file);
    job->host->error = before;
    return lock;
}

void cm_job_tell_left_behind(struct cm_job *job)
{
    static const struct {
        const char *what;
        enum cm_note_kind kind;
    } KINDS[] = {{"eeprom", CM_NOTE_LEFT_DATA}, {"lock", CM_NOTE_LEFT_LOCK}};
    char path[CM_FILE_PATH];
    for (size_t i = 0; i < sizeof KINDS / sizeof KINDS[0]; i++) {
        struct cm_note note = {.kind = KINDS[i].kind, .path = path};
        if (!find_left_behind(job, KINDS[i].what, path, sizeof path))
            continue;
        if (note.kind == CM_NOTE_LEFT_LOCK)
            note.value = read_lock(job, path);
        job_tell(job, &note);
    }
}
