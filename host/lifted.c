/*
 * Registers of a memory while they are lifted: in a capsule of the user's state folder, from before
 * they are written until they are back.
 *
 *     ~/.local/state/coldmint/lifted/w25q32-EF4016-1f0c9a42-20261123-101500-4711.mint
 *     (part, id, port, time, process)
 *
 * A process that is killed in between leaves the file; the next job on such a chip tells.
 */
#include "job_inside.h"
#include <coldmint/host/ports.h>
#include <stdio.h>
#include <string.h>
#include <unistd.h>

/* Folder of registers while they are lifted, and the beginning of the names of this chip's. */
static bool lifted_place(const struct cm_job *job, char *folder, char *begin)
{
    const struct cm_part *part = job->session->part;
    char id[ID_BYTES], key[CM_PORT_KEY];
    snprintf(begin, NAME_BYTES, "%s-%s-%s-", part->name, part_id_text(part, id),
             cm_port_key(job->port_name, key));
    return state_folder(job->host, "lifted", folder);
}

static bool save(struct cm_job *job, const struct cm_guard *guard)
{
    const struct cm_chip_keep how = {.settings = guard->registers,
                                     .notes = "registers, while protection is lifted",
                                     .progress = job_progress,
                                     .progress_context = job};
    struct cm_new_file file;
    struct cm_chip_kept kept;
    char folder[FOLDER_BYTES], begin[NAME_BYTES], stamp[STAMP_BYTES];
    if (!lifted_place(job, folder, begin))
        return false;
    snprintf(job->lifted_path, sizeof job->lifted_path, "%s/%s%s-%ld.mint", folder, begin,
             stamp_text(stamp), own_number());
    make_folders(job->lifted_path);
    return cm_chip_keep(job->host, job->session, job->lifted_path, &how, &file, &kept) &&
           cm_new_file_commit(job->host, &file);
}

enum cm_status cm_job_save_lifted(void *context, const struct cm_guard *guard)
{
    struct cm_job *job = context;
    if (!save(job, guard)) {
        job->lifted_path[0] = '\0';
        job->has_failed = true;
        return CM_REFUSED;
    }
    file_hold(job->lifted_path);
    job_tell(job, &(struct cm_note){.kind = CM_NOTE_LIFTED,
                                    .path = job->lifted_path,
                                    .value = guard->registers[0]});
    return CM_OK;
}

void cm_job_lifted_end(struct cm_job *job, bool are_back)
{
    if (job->lifted_path[0] && are_back)
        unlink(job->lifted_path);
    if (are_back)
        job->lifted_path[0] = '\0';
}

/* Where nothing can be kept, nothing was left: no failure of this job. */
void lifted_tell_left_behind(struct cm_job *job)
{
    char folder[FOLDER_BYTES], begin[NAME_BYTES];
    struct cm_error before = job->host->error;
    if (!lifted_place(job, folder, begin)) {
        job->host->error = before;
        return;
    }
    struct paths found = paths_in(folder, begin, ".mint");
    // else it is of a process that is still at work
    if (found.count && !file_is_in_use(found.names[0]))
        job_tell(job, &(struct cm_note){.kind = CM_NOTE_LEFT_LIFTED, .path = found.names[0]});
    paths_free(&found);
}

void cm_job_forget_lifted(struct cm_job *job, const char *path)
{
    char folder[FOLDER_BYTES], begin[NAME_BYTES];
    struct cm_error before = job->host->error;
    bool is_place = lifted_place(job, folder, begin);
    job->host->error = before;
    size_t used = is_place ? strlen(folder) : 0;
    if (is_place && strncmp(path, folder, used) == 0 && path[used] == '/' &&
        strncmp(path + used + 1, begin, strlen(begin)) == 0)
        unlink(path);
}
