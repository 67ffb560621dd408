/*
 * What a job that was cut off had carried over the erase of a sector, beside its images: the next
 * job on that chip puts it back, before its own work. Else that would find its images in their
 * place, and say that all is good, while the bytes beside them are gone.
 *
 * It must be that chip, and no other of its kind in the same place. So
 *
 *     where the bytes were, the chip is blank, or holds them: it has not been written since
 *     a backup from before holds the same bytes there, and elsewhere the chip is as in that backup
 *
 * Where that is not so, or not known, the file is told, and stays.
 */
#include "job_inside.h"
#include <coldmint/host/backup.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum { PIECE = 256, SAMPLE = 16, STEP = 4096, SAMPLES = 32, AROUND = 65536 };

/* --- how much of it is missing ----------------------------------------------------------- */

/* Bytes that the chip does not hold; UINT32_MAX: it holds others, so it was written since. */
static enum cm_status count_missing(const struct cm_job *job, const struct cm_source *rest,
                                    uint32_t *missing)
{
    struct cm_region main;
    uint8_t wanted[PIECE], found[PIECE];
    uint32_t start, count;
    enum cm_status status = CM_OK;
    *missing = 0;
    if (!cm_region(job->session, CM_REGION_MAIN, &main))
        return CM_BAD_ARGUMENT;
    for (uint32_t at = 0; !status && rest->extent(rest->context, at, &start, &count);
         at = start + count) {
        count = count < PIECE ? count : PIECE;
        status = rest->read(rest->context, start, wanted, count);
        if (!status)
            status = cm_read(job->session, CM_REGION_MAIN, start, found, count);
        for (uint32_t i = 0; !status && i < count && *missing != UINT32_MAX; i++) {
            if (found[i] != wanted[i])
                *missing = found[i] == main.erased ? *missing + 1 : UINT32_MAX;
        }
    }
    return status;
}

/* --- is it that chip? -------------------------------------------------------------------- */

static bool touches(const struct cm_source *source, uint32_t from, uint32_t end)
{
    uint32_t start, count;
    return source->extent(source->context, from, &start, &count) && start < end;
}

/* Has the job that was cut off, or this one, to do with what is there? */
static bool is_beside(const struct cm_job *job, const struct cm_source *rest, uint32_t at)
{
    uint32_t block = at & ~(uint32_t)(AROUND - 1);
    bool is_near = touches(rest, block, block + AROUND);
    for (uint8_t i = 0; i < job->want_count && !is_near; i++)
        is_near = job->wants[i].region == CM_REGION_MAIN &&
                  touches(&job->wants[i].source, at, at + SAMPLE);
    return !is_near;
}

static bool is_blank(const uint8_t *bytes, uint32_t count, uint8_t erased)
{
    while (count && bytes[count - 1] == erased)
        count--;
    return count == 0;
}

/* Compares the chip with a backup at some places beside; true where most are as they were. */
static bool is_like(const struct cm_job *job, const struct cm_source *backup,
                    const struct cm_source *rest, const struct cm_region *main)
{
    uint8_t before[SAMPLE], now[SAMPLE];
    unsigned same = 0, others = 0;
    for (uint32_t at = 0; at < main->bytes && same + others < SAMPLES; at += STEP) {
        if (!is_beside(job, rest, at) ||
            backup->read(backup->context, at, before, SAMPLE) != CM_OK ||
            is_blank(before, SAMPLE, main->erased))
            continue;
        if (cm_read(job->session, CM_REGION_MAIN, at, now, SAMPLE) != CM_OK)
            return false;
        if (memcmp(before, now, SAMPLE) == 0)
            same++;
        else
            others++;
    }
    return same > others;
}

/* Does a backup hold the bytes that were carried? */
static bool holds(const struct cm_source *backup, const struct cm_source *rest)
{
    uint8_t carried[PIECE], kept[PIECE];
    uint32_t start, count;
    for (uint32_t at = 0; rest->extent(rest->context, at, &start, &count); at = start + count) {
        count = count < PIECE ? count : PIECE;
        if (rest->read(rest->context, start, carried, count) != CM_OK ||
            backup->read(backup->context, start, kept, count) != CM_OK ||
            memcmp(carried, kept, count) != 0)
            return false;
    }
    return true;
}

static bool is_from_before(const struct cm_job *job, const char *path, const struct cm_source *rest)
{
    struct cm_capsule_file file;
    struct cm_region main;
    bool fits = false;
    if (cm_region(job->session, CM_REGION_MAIN, &main) &&
        cm_capsule_file_load(job->host, path, &file)) {
        int index = cm_capsule_region(&file.capsule, main.name);
        if (index >= 0 && file.capsule.regions[index].bytes == main.bytes) {
            struct cm_source source =
                cm_capsule_source(&file.capsule, (uint8_t)index, &file.places[index]);
            fits = holds(&source, rest) && is_like(job, &source, rest, &main);
        }
        cm_capsule_file_free(&file);
    }
    return fits;
}

static bool is_that_chip(const struct cm_job *job, const struct cm_source *rest)
{
    struct cm_backup_entry *entries;
    unsigned count;
    bool found = false;
    if (!cm_backups_of(job->host, job->session, &entries, &count))
        return false;
    for (unsigned i = 0; i < count && !found; i++)
        found = entries[i].has_memories && is_from_before(job, entries[i].path, rest);
    free(entries);
    return found;
}

/* --- putting it back --------------------------------------------------------------------- */

static enum cm_status put_back(struct cm_job *job, const struct cm_source *rest)
{
    const struct cm_want want = {CM_REGION_MAIN, *rest};
    const struct cm_put put = {.wants = &want,
                               .want_count = 1,
                               .unprotect = job->options.unprotect,
                               .carry = {.saved = carry_save, .context = job},
                               .progress = job_progress,
                               .progress_context = job,
                               .lifting = cm_job_save_lifted,
                               .lifting_context = job};
    struct cm_report report;
    enum cm_status status = cm_put(job->session, &put, &report);
    carry_end(job, !status);
    cm_job_lifted_end(job, !report.unlocked);
    return status;
}

/* False: the job cannot go on. */
static bool settle(struct cm_job *job, const char *path, const struct cm_source *rest)
{
    struct cm_note note = {.kind = CM_NOTE_LEFT_REST, .path = path};
    enum cm_status status = count_missing(job, rest, &note.bytes);
    // it is all there; a plan takes no file away, nor does another chip with the same program
    if (!status && note.bytes == 0) {
        if (!job->options.only_plan && is_that_chip(job, rest))
            unlink(path);
        return true;
    }
    bool goes_back =
        !status && note.bytes != UINT32_MAX && !job->options.only_plan && is_that_chip(job, rest);
    if (goes_back)
        status = put_back(job, rest);
    if (status)
        return host_fail_session(job->host, status);
    if (goes_back) {
        note.kind = CM_NOTE_REST_BACK;
        unlink(path);
    }
    job_tell(job, &note);
    return true;
}

bool carry_put_back(struct cm_job *job)
{
    struct cm_error before = job->host->error;
    struct paths found = carry_left_behind(job, "rest");
    bool good = true;
    for (size_t i = 0; good && i < found.count; i++) {
        struct cm_image_file file;
        if (cm_image_file_load(job->host, found.names[i], &file))
            good = settle(job, found.names[i], &file.source);
        else
            job->host->error = before; // a damaged file of ours is no failure of this job
        cm_image_file_free(&file);
    }
    paths_free(&found);
    if (good)
        job->host->error = before;
    return good;
}
