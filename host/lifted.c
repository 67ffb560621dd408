/*
 * Registers of a memory while they are lifted: in a capsule of the user's state folder, from before
 * they are written until they are back.
 *
 *     ~/.local/state/coldmint/lifted/w25q32-EF4016-1f0c9a42-20261123-101500-4711.mint
 *     (part, id, port, time, process)
 *
 * A process that is killed in between leaves the file. Where such a chip is found without its
 * protection, that is told, and the next job that ends well puts it back, of itself.
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

/* --- what earlier jobs have left ---------------------------------------------------------- */

/* The registers of such a file; false: they cannot be had. A damaged file of ours is no failure of
 * this job. */
static bool read_left(struct cm_job *job, const char *path, struct cm_guard *left)
{
    struct cm_error before = job->host->error;
    struct cm_capsule_file file;
    uint8_t registers[CM_SETTING_BYTES] = {0};
    bool is_read = cm_capsule_file_load(job->host, path, &file) &&
                   cm_capsule_file_settings(&file, job->session, registers);
    cm_capsule_file_free(&file);
    memcpy(left->registers, registers, sizeof left->registers);
    job->host->error = before;
    return is_read;
}

/* Reads the registers of one; false: it is of no use. One whose registers are back goes. */
static bool is_left(struct cm_job *job, const char *path, const struct cm_guard *now,
                    struct cm_guard *left)
{
    *left = *now;
    if (!read_left(job, path, left))
        return false;
    bool is_back = memcmp(left->registers, now->registers, now->count) == 0;
    if (is_back)
        unlink(path);
    return !is_back;
}

/* Such files that jobs on such a chip have left. */
static struct paths all_left(struct cm_job *job)
{
    char folder[FOLDER_BYTES], begin[NAME_BYTES];
    struct cm_error before = job->host->error;
    struct paths found = {NULL, 0};
    if (job->session->family->guard && lifted_place(job, folder, begin))
        found = paths_left_in(folder, begin, ".mint");
    job->host->error = before; // where nothing can be kept, nothing was left
    return found;
}

/* The chip's registers, and those that an earlier job has left in a file, if there is one and they
 * differ: else `path` is empty. Of several files with different ones none is taken. Where there is
 * no file the chip is not asked. */
static enum cm_status find_left(struct cm_job *job, char *path, struct cm_guard *now,
                                struct cm_guard *left)
{
    struct paths found = all_left(job);
    bool differ = false;
    path[0] = '\0';
    enum cm_status status = found.count ? cm_guard_look(job->session, now) : CM_OK;
    for (size_t i = 0; !status && i < found.count; i++) {
        struct cm_guard one;
        if (!is_left(job, found.names[i], now, &one))
            continue;
        differ |= path[0] && memcmp(left->registers, one.registers, now->count) != 0;
        *left = one;
        host_copy(path, CM_FILE_PATH, found.names[i]);
    }
    paths_free(&found);
    if (differ)
        path[0] = '\0';
    return status;
}

void cm_job_tell_left_lifted(struct cm_job *job)
{
    char path[CM_FILE_PATH];
    struct cm_guard now, left;
    struct cm_failure failure = job->session->failure;
    if (find_left(job, path, &now, &left) != CM_OK)
        job->session->failure = failure; // whoever needs the chip will find out
    else if (path[0])
        job_tell(job, &(struct cm_note){.kind = CM_NOTE_LEFT_LIFTED, .path = path});
}

/* Does the chip stand as lifting has left it, and do the registers tell all that there was? */
static bool can_go_back(const struct cm_job *job, const struct cm_guard *now,
                        const struct cm_guard *left)
{
    const struct cm_about *about = job->session->kit->about;
    struct cm_guard meant = *left;
    if (!about->guard_mean || cm_guard_is_on(now) || now->cost != CM_LIFT_FREE)
        return false;
    about->guard_mean(job->session->part, &meant);
    return cm_guard_is_on(&meant) && memcmp(&meant.registers, &left->registers, now->count) == 0;
}

enum cm_status lifted_put_back(struct cm_job *job)
{
    char path[CM_FILE_PATH];
    struct cm_guard now, left;
    if (job->options.only_plan || job->has_settings)
        return CM_OK;
    enum cm_status status = find_left(job, path, &now, &left);
    if (status || !path[0] || !can_go_back(job, &now, &left))
        return status;
    status = cm_guard_restore(job->session, &left);
    if (!status) {
        unlink(path);
        job_tell(job, &(struct cm_note){
                          .kind = CM_NOTE_GUARD_BACK, .path = path, .value = left.registers[0]});
    }
    return status;
}

void cm_job_forget_lifted(struct cm_job *job, const char *path)
{
    struct paths found = all_left(job);
    for (size_t i = 0; i < found.count; i++) {
        if (path ? strcmp(path, found.names[i]) == 0 : found.count == 1)
            unlink(found.names[i]);
    }
    paths_free(&found);
}
