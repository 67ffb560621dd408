/*
 * A job, done: what must be known first, the backup before a change that would lose something, the
 * work, and what is left if it fails.
 *
 * The chip is kept in the hook where cm_put tells its plan, which a recipe reaches at the chip's
 * new, faster clock. So its settings have changed by then: they are kept by themselves before that.
 */
#include "join.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

/* --- the boot loader --------------------------------------------------------------------- */

static bool files_have_boot(const struct cm_job *job)
{
    uint32_t start, bytes;
    for (uint8_t i = 0; i < job->want_count; i++) {
        const struct cm_source *source = &job->wants[i].source;
        if (job->wants[i].region == CM_REGION_MAIN &&
            source->extent(source->context, job->boot.start, &start, &bytes))
            return true;
    }
    return false;
}

/* The loader is read, and wanted again. */
static bool keep_boot(struct cm_job *job)
{
    const struct cm_boot *boot = &job->boot;
    if (!job->options.keep_boot || !boot->in_use)
        return true;
    if (!boot->readable)
        return host_fail(job->host, CM_ERROR_BOOT_UNREADABLE, NULL);
    if (files_have_boot(job))
        return host_fail(job->host, CM_ERROR_BOOT_TWICE, NULL);
    uint8_t *bytes = malloc(boot->bytes);
    if (!bytes)
        return host_fail(job->host, CM_ERROR_NO_MEMORY, NULL);
    job->kept_boot = (struct cm_memory){bytes, boot->bytes, boot->start};
    enum cm_status status =
        cm_read_twice(job->session, CM_REGION_MAIN, boot->start, bytes, boot->bytes);
    if (status)
        return host_fail_session(job->host, status);
    job->wants[job->want_count++] =
        (struct cm_want){CM_REGION_MAIN, cm_memory_source(&job->kept_boot)};
    job_tell(job, &(struct cm_note){
                      .kind = CM_NOTE_KEPT_LOADER, .bytes = boot->bytes, .first = boot->start});
    return join_kept(job);
}

/* `report` NULL: the chip will be erased. */
static bool guard_boot(struct cm_job *job, const struct cm_report *report)
{
    bool loses = !report || report->erase || (report->pages_written && join_changes_reset(job));
    const struct cm_job_options *options = &job->options;
    if (!loses || !job->boot.in_use || options->keep_boot || options->lose_boot ||
        files_have_boot(job))
        return true;
    struct cm_error *error = host_error(job->host, CM_ERROR_BOOT_LOST, NULL);
    error->address = job->boot.start;
    error->readable = job->boot.readable;
    if (job->boot_vector[0])
        error->kind = CM_ERROR_LOADER_LOST;
    return false;
}

/* --- the backup -------------------------------------------------------------------------- */

static bool keep(struct cm_job *job, bool memories, const uint8_t *settings,
                 struct cm_backup *backup)
{
    char notes[CM_CAPSULE_NOTES] = "kept before a change";
    const struct cm_chip_keep how = {.memories = memories,
                                     .settings = settings,
                                     .notes = notes,
                                     .progress = job_progress,
                                     .progress_context = job};
    if (job->had_number)
        snprintf(notes, sizeof notes, "number %llu, kept before a change",
                 (unsigned long long)job->number_before);
    return cm_backup_keep(job->host, job->session, &how, backup);
}

static void begin_record(struct cm_job *job)
{
    if (job->backup.is_locked)
        job_tell(job, &(struct cm_note){.kind = CM_NOTE_LOCKED});
    if (job->backup.path[0])
        job_tell(job, &(struct cm_note){.kind = CM_NOTE_BACKUP,
                                        .path = job->backup.path,
                                        .is_older = job->backup.is_older});
    if (!cm_change_begin(job->host, job->session, &job->backup, job->verb, &job->change))
        job_tell(job, &(struct cm_note){.kind = CM_NOTE_UNRECORDED});
}

/* Another backup has what it holds. */
static void forget_settings_kept(struct cm_job *job)
{
    if (job->settings_kept.path[0] && !job->settings_kept.is_older)
        unlink(job->settings_kept.path);
    job->settings_kept.path[0] = '\0';
}

bool cm_job_keep_before(struct cm_job *job, bool memories, const uint8_t *settings)
{
    if (job->options.no_backup)
        return true;
    if (!keep(job, memories, settings, &job->backup))
        return false;
    if (job->backup.path[0])
        forget_settings_kept(job);
    begin_record(job);
    return true;
}

/* Settings that come before the contents, or are all that is changed. */
static bool keep_settings(struct cm_job *job)
{
    const struct cm_mint_steps *steps = &job->steps;
    if (!job->has_settings || job->options.only_plan || job->options.no_backup ||
        job->is_backed_up || !(steps->changes_early || steps->changes_late))
        return true;
    return keep(job, false, steps->now, &job->settings_kept);
}

/* The contents were not kept, since nothing of them was lost. */
static void tell_settings_kept(struct cm_job *job, bool good)
{
    const struct cm_report *report = &job->report.put;
    if (!job->settings_kept.path[0])
        return;
    if (!job->report.settings_written) {
        forget_settings_kept(job);
        return;
    }
    job->backup = job->settings_kept;
    if (good && !report->pages_written && !report->erase)
        begin_record(job);
    else
        job_tell(job, &(struct cm_note){.kind = CM_NOTE_BACKUP,
                                        .path = job->backup.path,
                                        .region = "settings",
                                        .is_older = job->backup.is_older});
}

/* Would bytes of this want be overwritten, beyond filling what is blank? */
static enum cm_status would_overwrite(const struct cm_job *job, const struct cm_want *want,
                                      uint8_t erased, bool *overwrites)
{
    const struct cm_source *source = &want->source;
    enum cm_status status = CM_OK;
    uint8_t wanted[64], found[64];
    uint32_t start, count;
    for (uint32_t at = 0; !status && source->extent(source->context, at, &start, &count);
         at = start + count) {
        count = count < sizeof found ? count : (uint32_t)sizeof found;
        status = source->read(source->context, start, wanted, count);
        if (!status)
            status = cm_read(job->session, want->region, start, found, count);
        for (uint32_t n = 0; !status && n < count; n++)
            *overwrites |= found[n] != wanted[n] && found[n] != erased;
    }
    return status;
}

/* The same for the data region; reads no more than the bytes that are wanted there. */
static enum cm_status would_overwrite_data(const struct cm_job *job, bool *overwrites)
{
    enum cm_status status = CM_OK;
    struct cm_region region;
    if (!cm_region(job->session, CM_REGION_DATA, &region))
        return CM_OK;
    for (uint8_t i = 0; i < job->want_count && !status && !*overwrites; i++) {
        if (job->wants[i].region == CM_REGION_DATA)
            status = would_overwrite(job, &job->wants[i], region.erased, overwrites);
    }
    return status;
}

/* Would the plan lose something? Blank bytes are filled without a loss. */
static enum cm_status would_lose(const struct cm_job *job, const struct cm_report *report,
                                 bool *loses)
{
    struct cm_region main;
    bool rewrites =
        cm_region(job->session, CM_REGION_MAIN, &main) && (main.traits & CM_REGION_REWRITES);
    *loses = report->erase || (rewrites && report->pages_written);
    return report->pages_written && !*loses ? would_overwrite_data(job, loses) : CM_OK;
}

static bool agree(struct cm_job *job, const struct cm_report *report)
{
    bool loses;
    if (!guard_boot(job, report))
        return false;
    enum cm_status status = would_lose(job, report, &loses);
    if (status)
        return host_fail_session(job->host, status);
    if (loses && !job->is_backed_up) {
        if (!cm_job_keep_before(job, true, job->steps.now))
            return false;
        job->is_backed_up = true;
    }
    return !report->erase || carry_save_lock(job, job->steps.now);
}

static bool begin_change(struct cm_job *job)
{
    bool is_first = !job->has_begun && !job->options.only_plan;
    job->has_begun |= is_first;
    return !is_first || !job->begins || job->begins(job->begins_context);
}

/* A struct cm_put's `planned`. */
static bool on_plan(void *context, const struct cm_report *report)
{
    struct cm_job *job = context;
    job->has_work = report->pages_written || report->erase;
    job_tell(job, &(struct cm_note){.kind = CM_NOTE_PLAN, .report = report});
    bool agreed = agree(job, report) && (!job->has_work || begin_change(job));
    job->has_failed |= !agreed;
    job->writes |= agreed && job->has_work;
    return agreed;
}

/* --- the work ---------------------------------------------------------------------------- */

static void describe(struct cm_job *job, uint8_t *carry, uint32_t carry_bytes, struct cm_mint *mint)
{
    *mint = (struct cm_mint){
        .put = {.wants = job->wants,
                .want_count = job->want_count,
                .unprotect = job->options.unprotect,
                .lose_data = job->options.lose_data,
                .carry = {.bytes = carry, .size = carry_bytes, .saved = carry_save, .context = job},
                .progress = job_progress,
                .progress_context = job,
                .planned = on_plan,
                .planned_context = job,
                .lifting = cm_job_save_lifted,
                .lifting_context = job},
        .settings = job->has_settings ? job->settings : NULL,
        .board_hz = job->board_hz};
}

/* The steps reckon with open lock bits: the byte as it still stands is read once more. */
static bool save_lifted_lock(struct cm_job *job)
{
    uint8_t now[CM_SETTING_BYTES];
    enum cm_status status = cm_read_settings(job->session, now);
    return status ? host_fail_session(job->host, status) : carry_save_lock(job, now);
}

/* Lock bits will be opened by an erase: what they let us read is kept first. */
static bool prepare_unlocking(struct cm_job *job)
{
    if (!job->steps.unlocks)
        return true;
    job->is_backed_up = true;
    return guard_boot(job, NULL) &&
           (job->options.only_plan ||
            (cm_job_keep_before(job, true, NULL) && save_lifted_lock(job)));
}

static bool changes_settings(const struct cm_job *job)
{
    const struct cm_mint_steps *steps = &job->steps;
    return job->has_settings && (steps->unlocks || steps->changes_early || steps->changes_late);
}

/* What must be known, and safe, before anything is done. */
static bool prepare(struct cm_job *job, const struct cm_mint *mint)
{
    enum cm_status status = cm_find_boot(job->session, &job->boot);
    if (!status)
        status = job->has_settings ? cm_mint_steps(job->session, mint, &job->steps)
                                   : cm_read_settings(job->session, job->steps.now);
    if (status)
        return host_fail_session(job->host, status);
    if (!join_find(job))
        return false;
    if (job->has_settings)
        job_tell(job, &(struct cm_note){.kind = CM_NOTE_STEPS,
                                        .steps = &job->steps,
                                        .bytes = job->want_count != 0});
    return keep_boot(job) && prepare_unlocking(job) && keep_settings(job) &&
           (!changes_settings(job) || begin_change(job));
}

static enum cm_status act(struct cm_job *job, const struct cm_mint *mint)
{
    struct cm_session *session = job->session;
    struct cm_mint_report *report = &job->report;
    if (!job->options.only_plan)
        return job->has_settings ? cm_mint(session, mint, report)
                                 : cm_put(session, &mint->put, &report->put);
    if (!job->has_settings)
        return cm_plan(session, &mint->put, &report->put);
    uint32_t predicted_us = 0;
    enum cm_status status = cm_mint_plan(session, mint, report, &predicted_us);
    report->put.predicted_us = predicted_us;
    return status;
}

static bool tell_plan(struct cm_job *job)
{
    const struct cm_report *report = &job->report.put;
    job->has_work = report->pages_written || report->erase || changes_settings(job);
    job_tell(job, &(struct cm_note){.kind = CM_NOTE_PLAN, .report = report});
    return guard_boot(job, report);
}

/* What the wires did to an instruction is not known; nor will the next job know. */
static void tell_harm(struct cm_job *job, enum cm_status status)
{
    bool was_bad = status == CM_CONTACT_LOST || status == CM_WRITE_FAILED ||
                   status == CM_TIMED_OUT || status == CM_NO_CHIP;
    if (!was_bad || !job->has_work || job->has_failed || job->options.only_plan)
        return;
    bool has_backup = job->backup.has_memories && job->backup.path[0];
    job_tell(job, &(struct cm_note){.kind = CM_NOTE_MAY_BE_HARMED,
                                    .path = has_backup ? job->backup.path : NULL});
}

static bool fail(struct cm_job *job, enum cm_status status)
{
    tell_harm(job, status);
    job->is_deaf = status == CM_NO_CHIP && job->report.settings_written;
    bool by_hook = job->has_failed && (status == CM_STOPPED || status == CM_REFUSED);
    return by_hook ? false : host_fail_session(job->host, status);
}

/* Was the chip erased to open it, beside what the report tells? */
static bool was_opened(const struct cm_job *job)
{
    struct cm_guard guard;
    if (job->steps.unlocks || !job->session->family->blocks || !job->report.put.erase)
        return job->steps.unlocks;
    return cm_guard_look(job->session, &guard) != CM_OK || guard.cost == CM_LIFT_CONTENTS;
}

/* How the chip was left, for going back. */
static void end_record(struct cm_job *job)
{
    const struct cm_report *report = &job->report.put;
    const struct cm_change_end how = {.wants = job->wants,
                                      .want_count = job->want_count,
                                      .is_erased = !job->session->family->blocks && report->erase,
                                      .is_data_lost = !report->carried,
                                      .is_vague = was_opened(job)};
    cm_job_end_record(job, &how);
}

void cm_job_end_record(struct cm_job *job, const struct cm_change_end *how)
{
    if (!cm_change_end(job->host, job->session, &job->change, how))
        job_tell(job, &(struct cm_note){.kind = CM_NOTE_UNRECORDED});
}

/* Protection that an earlier job had lifted, and what is told of the end. */
static bool end_good(struct cm_job *job)
{
    enum cm_status status = lifted_put_back(job);
    end_record(job);
    return !status || host_fail_session(job->host, status);
}

static bool run(struct cm_job *job, const struct cm_mint *mint)
{
    memset(&job->report, 0, sizeof job->report);
    enum cm_status status = act(job, mint);
    if (status == CM_IN_DOUBT)
        status = job_settle_doubt(job);
    bool good = !status;
    if (good && job->options.only_plan)
        good = tell_plan(job);
    else if (!good)
        good = fail(job, status);
    tell_settings_kept(job, good);
    carry_end(job, !status);
    cm_job_lifted_end(job, !job->report.put.unlocked);
    job->has_work |= job->report.settings_written > 0;
    return good && !job->options.only_plan ? end_good(job) : good;
}

bool cm_job_run(struct cm_job *job)
{
    struct cm_mint mint;
    struct cm_region data;
    if (!job->capsule.path && !cm_job_check(job))
        return false;
    uint32_t carry_bytes = cm_region(job->session, CM_REGION_DATA, &data) ? data.bytes : 0;
    uint8_t *carry = carry_bytes ? malloc(carry_bytes) : NULL;
    describe(job, carry, carry_bytes, &mint);
    bool good = carry_put_back(job) && prepare(job, &mint);
    mint.put.want_count = job->want_count; // a kept loader, too
    good = good && run(job, &mint);
    free(carry);
    return good;
}
