/*
 * What a job wants: files, settings, all of a capsule; and whether it makes sense together.
 */
#include "job_inside.h"
#include "unit.h"
#include <coldmint/host/settings.h>
#include <stdlib.h>
#include <string.h>

struct cm_job *cm_job_new(struct cm_host *host, struct cm_session *session, const char *port_name)
{
    struct cm_job *job = calloc(1, sizeof *job);
    if (!job) {
        host_fail(host, CM_ERROR_NO_MEMORY, NULL);
        return NULL;
    }
    job->host = host;
    job->session = session;
    job->port_name = port_name;
    job->verb = "job";
    return job;
}

void cm_job_free(struct cm_job *job)
{
    for (uint8_t i = 0; job && i < job->file_count; i++)
        cm_image_file_free(&job->files[i]);
    if (job) {
        cm_capsule_file_free(&job->capsule);
        free((void *)(uintptr_t)job->kept_boot.bytes);
        free(job->joined_memory);
        unit_free(job->unit);
        free(job->block);
    }
    free(job);
}

void job_tell(const struct cm_job *job, const struct cm_note *note)
{
    if (job->told)
        job->told(job->context, note);
}

bool job_progress(void *context, const struct cm_progress *progress)
{
    const struct cm_job *job = context;
    return !job->progress || job->progress(job->context, progress);
}

/* --- files ------------------------------------------------------------------------------- */

/* A file is read once. */
static struct cm_image_file *load(struct cm_job *job, const char *path)
{
    for (uint8_t i = 0; i < job->file_count; i++) {
        if (strcmp(job->files[i].path, path) == 0)
            return &job->files[i];
    }
    if (job->file_count == CM_JOB_FILES) {
        host_error(job->host, CM_ERROR_TOO_MANY_FILES, path)->limit = CM_JOB_FILES;
        return NULL;
    }
    struct cm_image_file *file = &job->files[job->file_count];
    if (cm_image_file_load(job->host, path, file)) {
        job->file_count++;
        return file;
    }
    cm_image_file_free(file);
    return NULL;
}

/* What the file holds for a region; NULL: a failure. */
static struct cm_image_part *look(struct cm_job *job, struct cm_image_file *file, uint8_t region)
{
    struct cm_image_part *part = &job->parts[job->part_count];
    if (job->part_count == CM_JOB_PARTS) {
        host_error(job->host, CM_ERROR_TOO_MANY_FILES, file->path)->limit = CM_JOB_FILES;
        return NULL;
    }
    return cm_image_file_part(job->host, file, job->session, region, part) ? part : NULL;
}

static void add(struct cm_job *job, const struct cm_image_file *file, uint8_t index)
{
    const struct cm_image_part *part = &job->parts[job->part_count++];
    struct cm_region region;
    cm_region(job->session, index, &region);
    job->want_names[job->want_count] = file->path;
    job->wants[job->want_count++] = (struct cm_want){index, part->source};
    job_tell(job, &(struct cm_note){.kind = CM_NOTE_FILE,
                                    .path = file->path,
                                    .format = file->format->title,
                                    .region = region.name,
                                    .bytes = part->bytes,
                                    .first = part->first,
                                    .last = part->last});
}

/* Wants what the file has for a region; with `is_rest` only what a linker has placed there. */
static bool want(struct cm_job *job, const char *path, uint8_t region, bool is_rest, bool *added)
{
    struct cm_image_file *file = load(job, path);
    const struct cm_image_part *part = file ? look(job, file, region) : NULL;
    *added = part && part->bytes && (part->is_placed || !is_rest);
    if (*added)
        add(job, file, region);
    return part;
}

bool cm_job_want_file(struct cm_job *job, const char *path, uint8_t region, bool *added)
{
    return want(job, path, region, false, added);
}

bool cm_job_want_rest(struct cm_job *job, const char *path, uint8_t index, bool *added)
{
    struct cm_region region;
    *added = false;
    if (!cm_region(job->session, index, &region) || !region.bytes)
        return true;
    return want(job, path, index, true, added);
}

void cm_job_tell_left_out(struct cm_job *job, const char *path)
{
    uint32_t all = 0, taken = 0;
    for (uint8_t i = 0; i < job->file_count; i++) {
        const struct cm_image_file *file = &job->files[i];
        if (strcmp(file->path, path) == 0 && !file->format->always_placed)
            all = file->image.byte_count; // of an ELF file that is as it should be
    }
    for (uint8_t i = 0; i < job->want_count; i++) {
        if (job->want_names[i] && strcmp(job->want_names[i], path) == 0)
            taken += job->parts[i].bytes;
    }
    if (all > taken)
        job_tell(job,
                 &(struct cm_note){.kind = CM_NOTE_LEFT_OUT, .path = path, .bytes = all - taken});
}

/* --- settings ---------------------------------------------------------------------------- */

/* Has a region addresses of its own in a linker's files? Status registers have none: they would
 * seem to begin where the memory does. */
static bool has_addresses(const struct cm_session *session, uint8_t index)
{
    struct cm_region main, region;
    return cm_region(session, CM_REGION_MAIN, &main) && cm_region(session, index, &region) &&
           region.base != main.base;
}

/* The bytes that one file has for settings; those of other files stay. */
static bool take_settings(struct cm_job *job, struct cm_image_file *file, uint8_t *bytes,
                          bool *found)
{
    const struct cm_words *words = cm_words_of(job->session);
    struct cm_setting_byte byte;
    struct cm_image_part part;
    uint32_t start, count;
    for (uint8_t i = 0; words && words->byte(job->session->part, i, &byte); i++) {
        if (!has_addresses(job->session, byte.region))
            continue;
        if (!cm_image_file_part(job->host, file, job->session, byte.region, &part))
            return false;
        if (!part.is_placed ||
            !part.source.extent(part.source.context, byte.address, &start, &count) ||
            start != byte.address)
            continue;
        if (part.source.read(part.source.context, byte.address, &bytes[i], 1) != CM_OK)
            return host_fail(job->host, CM_ERROR_FILE_BROKE_OFF, file->path);
        *found = true;
    }
    return true;
}

/* Has a linker's file bytes at addresses beside those that were taken first? */
static bool has_more(const struct cm_job *job, const struct cm_image_file *file)
{
    for (uint8_t i = 0; i < job->part_count; i++) {
        if (job->want_names[i] == file->path)
            return cm_image_file_has_more(file, &job->parts[i]);
    }
    return false;
}

bool cm_job_settings_in_files(struct cm_job *job, uint8_t *bytes, bool *found)
{
    *found = false;
    for (uint8_t i = 0; i < job->file_count; i++) {
        if (has_more(job, &job->files[i]) && !take_settings(job, &job->files[i], bytes, found))
            return false;
    }
    return true;
}

bool cm_job_want_settings(struct cm_job *job, const uint8_t *now, const uint8_t *wanted,
                          unsigned kinds)
{
    const struct cm_part *part = job->session->part;
    if (!cm_settings_check_names(job->host, part, job->options.allow) ||
        !cm_settings_check_fences(job->host, part, now, wanted, job->options.allow,
                                  supply_or_0(job->session), kinds))
        return false;
    memcpy(job->settings, wanted, sizeof job->settings);
    job->has_settings = true;
    return true;
}

/* --- capsules ---------------------------------------------------------------------------- */

bool cm_job_open_capsule(struct cm_job *job, const char *path)
{
    return cm_capsule_file_load(job->host, path, &job->capsule);
}

/* Every memory of a capsule is wanted whole, and every setting; what can only be read is not. A
 * capsule is its own word for locks and clocks: the chip it was kept from ran so. What would close
 * the chip is still refused. */
bool cm_job_want_capsule(struct cm_job *job)
{
    const unsigned kinds = 1u << CM_FENCE_ENDS_ACCESS | 1u << CM_FENCE_NOT_HERE;
    uint8_t now[CM_SETTING_BYTES];
    if (job->capsule.capsule.has_work)
        return host_fail(job->host, CM_ERROR_CAPSULE_JOB, job->capsule.path);
    if (!cm_capsule_file_is_for(job->host, &job->capsule, job->session))
        return false;
    enum cm_status status = cm_read_settings(job->session, now);
    if (!status)
        status = cm_restore_begin(job->session, &job->capsule.capsule, &job->restore);
    if (status)
        return host_fail_session(job->host, status);
    for (uint8_t i = 0; i < job->restore.mint.put.want_count; i++) {
        job->want_names[job->want_count] = job->capsule.path;
        job->wants[job->want_count++] = job->restore.wants[i];
    }
    return cm_job_want_settings(job, now, job->restore.settings, kinds);
}

/* --- together ---------------------------------------------------------------------------- */

/* First byte that both sources have; false where there is none. */
static bool find_overlap(const struct cm_source *one, const struct cm_source *two,
                         uint32_t *address)
{
    uint32_t start, bytes, other, other_bytes;
    for (uint32_t at = 0; one->extent(one->context, at, &start, &bytes); at = start + bytes) {
        if (two->extent(two->context, start, &other, &other_bytes) && other - start < bytes) {
            *address = other;
            return true;
        }
        if (start + bytes < start)
            return false;
    }
    return false;
}

static bool check_overlap(struct cm_job *job)
{
    uint32_t address;
    for (uint8_t a = 0; a < job->want_count; a++) {
        for (uint8_t b = 0; b < a; b++) {
            if (job->wants[a].region != job->wants[b].region ||
                !find_overlap(&job->wants[a].source, &job->wants[b].source, &address))
                continue;
            struct cm_error *error = host_error(job->host, CM_ERROR_OVERLAP, job->want_names[b]);
            HOST_COPY(error->other_path, job->want_names[a]);
            error->address = address;
            return false;
        }
    }
    return true;
}

static bool check_fit(struct cm_job *job)
{
    const struct cm_session *session = job->session;
    struct cm_misfit misfit;
    for (uint8_t i = 0; i < job->want_count && !job->options.anyway; i++) {
        if (job->wants[i].region != CM_REGION_MAIN)
            continue;
        cm_program_misfit(&job->wants[i].source, session->kit, session->part, &misfit);
        if (misfit.kind == CM_FITS)
            continue;
        host_error(job->host, CM_ERROR_MISFIT, job->want_names[i])->misfit = misfit;
        return false;
    }
    return true;
}

bool cm_job_check(struct cm_job *job)
{
    return check_overlap(job) && check_fit(job);
}
