/*
 * After doubt. Contact was bad for a moment, and a chip obeys what it misreads: what no image wants
 * may have changed. Where there is a backup from before, all of the chip is compared with it, and
 * mended; where there is none, the range is named.
 */
#include "job.h"
#include <stdlib.h>
#include <string.h>

/* What a region held before, by the backup: true, and the bytes. A chip that was blank has none. */
static bool read_backup(struct job *job, struct capsule_file *backup,
                        const struct cm_region *region, uint8_t *bytes)
{
    memset(bytes, region->erased, region->bytes);
    if (job->tool->was_blank)
        return true;
    int index = cm_capsule_region(&backup->capsule, region->name);
    if (index < 0 || backup->capsule.regions[index].bytes != region->bytes)
        return false;
    struct cm_source source =
        cm_capsule_source(&backup->capsule, (uint8_t)index, &backup->places[index]);
    return source.read(source.context, 0, bytes, region->bytes) == CM_OK;
}

/* The images over it. */
static bool lay_over(const struct job *job, uint8_t index, uint8_t *bytes)
{
    uint32_t start, count;
    for (uint8_t i = 0; i < job->want_count; i++) {
        const struct cm_source *source = &job->wants[i].source;
        if (job->wants[i].region != index)
            continue;
        for (uint32_t at = 0; source->extent(source->context, at, &start, &count);
             at = start + count) {
            if (source->read(source->context, start, bytes + start, count) != CM_OK)
                return false;
        }
    }
    return true;
}

/* All that a region shall hold, to be freed; NULL where that is not known, or was not in doubt. */
static uint8_t *whole_region(struct job *job, struct capsule_file *backup, uint8_t index,
                             const struct cm_region *region, bool is_blank)
{
    uint8_t *bytes = malloc(region->bytes);
    bool good = bytes != NULL;
    if (good && is_blank)
        memset(bytes, region->erased, region->bytes);
    else if (good)
        good = read_backup(job, backup, region, bytes);
    if (good && lay_over(job, index, bytes))
        return bytes;
    free(bytes);
    return NULL;
}

static enum cm_status put_whole(struct job *job, struct capsule_file *backup,
                                const struct cm_report *before, struct cm_report *report)
{
    struct cm_session *session = &job->tool->session;
    struct cm_memory memories[2];
    struct cm_want wants[2];
    struct cm_put put = {.wants = wants,
                         .unprotect = job->tool->unprotect,
                         .progress = tool_progress,
                         .progress_context = job->tool};
    struct cm_guard guard;
    struct cm_region region;
    bool is_chip = !is_memory(session->part), known = true;
    enum cm_status status = cm_guard_look(session, &guard);
    for (uint8_t i = CM_REGION_MAIN;
         !status && known && i <= CM_REGION_DATA && cm_region(session, i, &region); i++) {
        bool lost = i == CM_REGION_DATA && before->erase && !before->carried &&
                    (guard.clears & CM_REGION_BIT(i));
        if (!region.bytes || (region.traits & CM_REGION_SETTINGS) || lost)
            continue;
        uint8_t *bytes =
            whole_region(job, backup, i, &region, is_chip && i == CM_REGION_MAIN && before->erase);
        known = bytes != NULL;
        memories[put.want_count] = (struct cm_memory){bytes, region.bytes, 0};
        wants[put.want_count] = (struct cm_want){i, cm_memory_source(&memories[put.want_count])};
        put.want_count = (uint8_t)(put.want_count + known);
    }
    if (!status)
        status = known ? cm_put(session, &put, report) : CM_IN_DOUBT;
    for (uint8_t i = 0; i < put.want_count; i++)
        free((void *)(uintptr_t)memories[i].bytes);
    return status;
}

enum cm_status job_settle_doubt(struct job *job, const struct cm_report *before)
{
    struct tool *tool = job->tool;
    struct cm_failure failure = tool->session.failure;
    struct capsule_file backup = {.path = NULL};
    struct cm_report report;
    struct words words = tool->words;
    bool has_bytes = failure.has_bytes,
         has_backup =
             tool->was_blank ||
             (tool->backup_path[0] && capsule_load(tool, tool->backup_path, &backup) == EXIT_GOOD);
    enum cm_status status = CM_IN_DOUBT;
    if (has_backup && !has_bytes) // a setting that has changed is named
        status = put_whole(job, &backup, before, &report);
    tool_progress_end(tool);
    capsule_free(&backup);
    tool->words = words;
    if (status == CM_IN_DOUBT)
        tool->session.failure = failure;
    if (status)
        return status;
    if (report.pages_written)
        say(tool, "note",
            "contact was bad for a moment: %u pages beside the image had changed, and are mended "
            "from the backup",
            (unsigned)report.pages_written);
    else
        say(tool, "note",
            "contact was bad for a moment: all of the chip was compared with the backup, and "
            "nothing else has changed");
    return CM_OK;
}
