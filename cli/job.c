/*
 * A job on one chip, from images and wanted settings to the words about it: what put and mint
 * share.
 *
 * Before a change that would lose something the chip is kept: in the hook where cm_put tells its
 * plan, which a recipe reaches at the chip's new, faster clock.
 */
#include "job.h"
#include "image/fits.h"
#include "guard.h"
#include "settings.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* --- images ------------------------------------------------------------------------------ */

enum exit_code job_check_options(struct tool *tool)
{
    if (tool->keep_boot && tool->lose_boot)
        return tool_fail_as(tool, EXIT_USAGE, "--keep-boot and --lose-boot exclude each other",
                            "both are given", "say one of them");
    if (tool->wait_seconds < 0 || tool->wait_seconds > 3600)
        return tool_fail_as(tool, EXIT_USAGE, "--wait is not a number of seconds that makes sense",
                            "0 to 3600", "for example --wait 30");
    return EXIT_GOOD;
}

static void add_loaded(struct job *job, uint8_t index, json_t *list)
{
    struct tool *tool = job->tool;
    struct image_file *file = &job->files[job->file_count++];
    struct cm_region region;
    cm_region(&tool->session, index, &region);
    job->want_names[job->want_count] = file->path;
    job->wants[job->want_count++] = (struct cm_want){index, file->source};
    say(tool, "file", "%s, %s: %u bytes, 0x%04X to 0x%04X, for %s", file->path, file->format,
        (unsigned)file->bytes, (unsigned)file->first, (unsigned)file->last, region.name);
    json_array_append_new(list, json_pack("{s:o, s:s, s:s, s:I, s:I, s:I}", "path",
                                          json_text(file->path), "format", file->format, "region",
                                          region.name, "bytes", (json_int_t)file->bytes, "first",
                                          (json_int_t)file->first, "last", (json_int_t)file->last));
}

static enum exit_code load(struct job *job, const char *path, uint8_t index,
                           struct image_file **file)
{
    struct tool *tool = job->tool;
    struct cm_region region;
    if (job->file_count == MOST_FILES)
        return tool_fail_as(tool, EXIT_USAGE, "too many files at once", path, "eight at most");
    *file = &job->files[job->file_count];
    cm_region(&tool->session, index, &region);
    return image_file_load(tool, path, region.name, *file);
}

enum exit_code job_add_file(struct job *job, const char *path, uint8_t index, json_t *list)
{
    struct image_file *file = NULL;
    enum exit_code code = load(job, path, index, &file);
    if (!code && file->bytes)
        add_loaded(job, index, list);
    else if (file)
        image_file_free(file);
    return code;
}

enum exit_code job_add_rest(struct job *job, const char *path, uint8_t index, json_t *list)
{
    struct cm_region region;
    struct image_file *file = NULL;
    if (!cm_region(&job->tool->session, index, &region) || !region.bytes)
        return EXIT_GOOD;
    enum exit_code code = load(job, path, index, &file);
    if (!code && file->bytes && file->is_placed)
        add_loaded(job, index, list);
    else if (file)
        image_file_free(file);
    return code;
}

bool job_file_has_more(const struct image_file *file)
{
    return file->is_placed && file->image.byte_count > file->bytes;
}

enum exit_code job_check_fit(struct job *job)
{
    struct tool *tool = job->tool;
    const struct cm_session *session = &tool->session;
    char what[400], text[200];
    for (uint8_t i = 0; i < job->want_count && !tool->anyway; i++) {
        const struct cm_want *want = &job->wants[i];
        const char *why =
            want->region == CM_REGION_MAIN
                ? why_no_program(&want->source, session->kit, session->part, text, sizeof text)
                : NULL;
        if (!why)
            continue;
        snprintf(what, sizeof what, "refused: %.250s cannot be a program for %.60s",
                 job->want_names[i], chip_name(tool));
        return tool_fail_as(tool, EXIT_REFUSED, what, why,
                            "look for the right file ('coldmint image info' tells which chips one "
                            "can be for); --anyway writes it all the same");
    }
    return EXIT_GOOD;
}

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

enum exit_code job_check_overlap(struct job *job)
{
    uint32_t address;
    char evidence[400];
    for (uint8_t a = 0; a < job->want_count; a++) {
        for (uint8_t b = 0; b < a; b++) {
            if (job->wants[a].region != job->wants[b].region ||
                !find_overlap(&job->wants[a].source, &job->wants[b].source, &address))
                continue;
            snprintf(evidence, sizeof evidence, "%.150s and %.150s both have bytes at 0x%04X",
                     job->want_names[b], job->want_names[a], (unsigned)address);
            return tool_fail_as(job->tool, EXIT_BAD_FILE, "two files want the same bytes", evidence,
                                "put them one after the other, or join them first");
        }
    }
    return EXIT_GOOD;
}

void job_names(const struct job *job, char *names, size_t bytes)
{
    size_t used = 0;
    names[0] = '\0';
    for (uint8_t i = 0; i < job->want_count && used < bytes; i++) {
        if (!job->want_names[i] || (i > 0 && job->want_names[i - 1] &&
                                    strcmp(job->want_names[i], job->want_names[i - 1]) == 0))
            continue; // an ELF file for two memories, or a kept loader
        const char *slash = strrchr(job->want_names[i], '/');
        used += (size_t)snprintf(names + used, bytes - used, "%s%s", used ? " and " : "",
                                 slash ? slash + 1 : job->want_names[i]);
    }
}

void job_free(struct job *job)
{
    for (uint8_t i = 0; i < MOST_FILES; i++)
        image_file_free(&job->files[i]);
    capsule_free(&job->capsule);
    free((void *)(uintptr_t)job->kept_boot.bytes);
}

/* --- the boot loader --------------------------------------------------------------------- */

static bool files_have_boot(const struct job *job)
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

/* --keep-boot: the loader is read, and wanted again. */
static enum exit_code keep_boot(struct job *job)
{
    struct tool *tool = job->tool;
    struct cm_boot *boot = &job->boot;
    if (!boot->in_use)
        return EXIT_GOOD;
    if (!boot->readable)
        return tool_fail_as(tool, EXIT_PROTECTED, "the boot loader cannot be kept",
                            "lock bits bar reading it",
                            "nothing was changed; --lose-boot gives it up");
    if (files_have_boot(job))
        return tool_fail_as(
            tool, EXIT_BAD_FILE, "the file holds a boot section, and --keep-boot keeps the chip's",
            "both want the end of the flash", "leave --keep-boot out, or take a file without it");
    uint8_t *bytes = malloc(boot->bytes);
    if (!bytes)
        return tool_fail_as(tool, EXIT_BAD_FILE, "there is not enough memory", "",
                            "close other programs");
    enum cm_status status =
        cm_read_twice(&tool->session, CM_REGION_MAIN, boot->start, bytes, boot->bytes);
    job->kept_boot = (struct cm_memory){bytes, boot->bytes, boot->start};
    if (status)
        return tool_fail(tool, status);
    job->wants[job->want_count++] =
        (struct cm_want){CM_REGION_MAIN, cm_memory_source(&job->kept_boot)};
    say(tool, "loader", "%u bytes at 0x%04X, read twice, kept", (unsigned)boot->bytes,
        (unsigned)boot->start);
    return EXIT_GOOD;
}

static enum exit_code refuse_losing_boot(struct job *job)
{
    char evidence[200];
    snprintf(evidence, sizeof evidence,
             "the boot-reset fuse points to 0x%04X, and %s there; the pages need a chip erase",
             (unsigned)job->boot.start,
             job->boot.readable ? "there is code" : "lock bits hide what is");
    return tool_fail_as(
        job->tool, EXIT_REFUSED, "refused: it would erase a boot loader in use", evidence,
        "nothing was changed; --keep-boot carries it over, --lose-boot gives it up");
}

static enum exit_code guard_boot(struct job *job)
{
    if (!job->boot.in_use || job->tool->keep_boot || job->tool->lose_boot || files_have_boot(job))
        return EXIT_GOOD;
    return refuse_losing_boot(job);
}

/* --- plan and report --------------------------------------------------------------------- */

static const char *erased_text(const struct tool *tool, const struct cm_report *report, char *text)
{
    struct cm_region region;
    bool all = cm_region(&tool->session, CM_REGION_MAIN, &region) && report->erases == 1 &&
               report->erased_bytes == region.bytes;
    if (report->erases == 0)
        snprintf(text, SHORT_TEXT, "nothing to erase");
    else if (all)
        snprintf(text, SHORT_TEXT, "chip erase");
    else
        snprintf(text, SHORT_TEXT, "%u erase%s of %u KiB%s", (unsigned)report->erases,
                 report->erases == 1 ? "" : "s", (unsigned)(report->erased_bytes >> 10),
                 report->erases == 1 ? "" : " in all");
    return text;
}

/* "12 of 36 pages"; where what else is in a sector is written back as well, there are more of them
 * than the images touch. */
static const char *pages_text(uint32_t count, uint32_t all, char *text)
{
    if (count <= all)
        snprintf(text, SHORT_TEXT, "%u of %u pages", (unsigned)count, (unsigned)all);
    else
        snprintf(text, SHORT_TEXT, "%u pages", (unsigned)count);
    return text;
}

static void say_memory_plan(struct tool *tool, const struct cm_report *report, const char *time)
{
    char erased[SHORT_TEXT], pages[SHORT_TEXT];
    say(tool, "plan", "%s%s, %s to write%s; about %s",
        report->lifts ? "protection lifted for it, " : "", erased_text(tool, report, erased),
        pages_text(report->pages_written, report->pages, pages),
        report->carried ? ", what else is in the sectors put back" : "", time);
}

static void say_plan(struct tool *tool, const struct cm_report *report)
{
    char time[SHORT_TEXT], pages[SHORT_TEXT];
    tool_progress_end(tool);
    tool->planned_work = report->pages_written || report->erase;
    seconds_text(report->predicted_us, time, sizeof time);
    if (!tool->planned_work)
        say(tool, "plan", "nothing to do: all %u pages are right already", (unsigned)report->pages);
    else if (is_memory(tool->session.part))
        say_memory_plan(tool, report, time);
    else
        say(tool, "plan", "%s%s to write%s%s; about %s", report->erase ? "chip erase, then " : "",
            pages_text(report->pages_written, report->pages, pages),
            report->erase ? "" : ", nothing to erase",
            report->carried ? ", eeprom carried over" : "", time);
}

/* Would data be overwritten, beyond filling what is blank? Reads no more than the bytes that are
 * wanted there. */
static enum cm_status would_overwrite_data(struct job *job, bool *overwrites)
{
    enum cm_status status = CM_OK;
    uint8_t wanted[64], found[64];
    uint32_t start, count;
    struct cm_region region;
    for (uint8_t i = 0; i < job->want_count && !status && !*overwrites; i++) {
        const struct cm_source *source = &job->wants[i].source;
        if (job->wants[i].region != CM_REGION_DATA ||
            !cm_region(&job->tool->session, CM_REGION_DATA, &region))
            continue;
        for (uint32_t at = 0; !status && source->extent(source->context, at, &start, &count);
             at = start + count) {
            count = count < sizeof found ? count : (uint32_t)sizeof found;
            status = source->read(source->context, start, wanted, count);
            if (!status)
                status = cm_read(&job->tool->session, CM_REGION_DATA, start, found, count);
            for (uint32_t n = 0; !status && n < count; n++)
                *overwrites |= found[n] != wanted[n] && found[n] != region.erased;
        }
    }
    return status;
}

/* Blank bytes are filled without a loss; an erase, or the data memory, is kept first. */
static bool on_plan(void *context, const struct cm_report *report)
{
    struct job *job = context;
    say_plan(job->tool, report);
    if (report->erase)
        job->code = guard_boot(job);
    struct cm_region main;
    bool rewrites =
        cm_region(&job->tool->session, CM_REGION_MAIN, &main) && (main.traits & CM_REGION_REWRITES);
    bool loses = report->erase || (rewrites && report->pages_written);
    enum cm_status status =
        report->pages_written && !loses ? would_overwrite_data(job, &loses) : CM_OK;
    if (status)
        job->code = tool_fail(job->tool, status);
    if (!job->code && loses && !job->backed_up) {
        job->code = backup_chip(job->tool, true, job->steps.now);
        job->backed_up = !job->code;
    }
    if (!job->code && report->erase && !is_memory(job->tool->session.part))
        job->code = carry_save_lock(job, job->steps.now);
    return !job->code;
}

static void say_steps(const struct job *job)
{
    struct tool *tool = job->tool;
    const struct cm_mint_steps *steps = &job->steps;
    char clock[SHORT_TEXT];
    if (memcmp(steps->now, steps->late, sizeof steps->now) != 0)
        settings_show_change(tool, tool->session.part, steps->now, steps->late);
    int step = 1;
    if (steps->unlocks)
        say(tool, "steps", "%d. chip erase, to open the lock bits", step++);
    if (steps->changes_early)
        say(tool, step == 1 ? "steps" : "", "%d. settings%s%s", step,
            steps->reenters ? ", then anew at " : "",
            steps->reenters ? clock_text(steps->cpu_hz_then, clock, sizeof clock) : "");
    step += steps->changes_early;
    if (job->want_count)
        say(tool, step == 1 ? "steps" : "",
            "%d. contents: erase if need be, write what differs, read back", step);
    step += job->want_count != 0;
    if (steps->changes_late)
        say(tool, step == 1 ? "steps" : "", "%d. the settings that lock, slow or close the chip",
            step);
}

static void say_done(struct tool *tool, const struct cm_report *report)
{
    char took[SHORT_TEXT], expected[SHORT_TEXT];
    char erased[SHORT_TEXT];
    bool memory = is_memory(tool->session.part);
    if (memory && report->carried_bytes)
        say(tool, "carried",
            "%u bytes beside the image, read twice before the erase and written back",
            (unsigned)report->carried_bytes);
    if (memory && (report->pages_written || report->erases))
        say(tool, "done", "%s; %u pages, %u bytes written and read back in %s (%s expected)%s",
            erased_text(tool, report, erased), (unsigned)report->pages_written,
            (unsigned)report->bytes_written, seconds_text(report->actual_us, took, sizeof took),
            seconds_text(report->predicted_us, expected, sizeof expected),
            report->relocked ? "; protection put back" : "");
    else if (report->pages_written)
        say(tool, "done", "%s%u pages, %u bytes written and read back in %s (%s expected)%s",
            report->erase ? "erased; " : "", (unsigned)report->pages_written,
            (unsigned)report->bytes_written, seconds_text(report->actual_us, took, sizeof took),
            seconds_text(report->predicted_us, expected, sizeof expected),
            report->relocked ? "; lock byte put back" : "");
    unsigned times = tool->session.recoveries;
    if (times == 1)
        say(tool, "note", "contact was lost once, and found again");
    else if (times)
        say(tool, "note", "contact was lost and found again %u times", times);
}

/* A locked chip was erased, and the job ended before its lock was put back. */
static void tell_lifted_lock(struct tool *tool, const struct cm_report *report)
{
    size_t used = strlen(tool->words.try);
    if (report->unlocked && is_memory(tool->session.part))
        snprintf(tool->words.try + used, sizeof tool->words.try - used,
                 ". Its protection is lifted and not back: coldmint guard --restore %.250s",
                 tool->lifted_path);
    else if (report->unlocked)
        snprintf(tool->words.try + used, sizeof tool->words.try - used,
                 ". The lock byte was 0x%02X and is not back", report->lock);
}

/* Waits for the clip to be seated again, as long as the person allows. */
static bool wait_for_contact(void *context, const struct cm_failure *failure)
{
    enum { PAUSE_US = 200000 };
    struct tool *tool = context;
    uint32_t now_us = tool->port->lines->now_us(tool->port);
    if (!tool->waiting) {
        tool_progress_end(tool);
        fprintf(stderr, "contact lost while %s %s at 0x%04X; waiting up to %d s for it\n",
                step_words(failure->step), failure->region ? failure->region : "the chip",
                (unsigned)failure->address, tool->wait_seconds);
        tool->waiting = true;
        tool->waiting_since_us = now_us;
    }
    tool->port->lines->wait_us(tool->port, PAUSE_US);
    return !tool_interrupted &&
           now_us - tool->waiting_since_us < (uint32_t)tool->wait_seconds * 1000000u;
}

/* --- the job ----------------------------------------------------------------------------- */

static void describe(struct job *job, uint8_t *carry, uint32_t carry_bytes, struct cm_mint *mint)
{
    struct tool *tool = job->tool;
    *mint = (struct cm_mint){
        .put = {.wants = job->wants,
                .want_count = job->want_count,
                .unprotect = tool->unprotect,
                .lose_data = tool->lose_data,
                .carry = {.bytes = carry, .size = carry_bytes, .saved = carry_save, .context = job},
                .progress = tool_progress,
                .progress_context = tool,
                .planned = on_plan,
                .planned_context = job,
                .lifting = guard_save,
                .lifting_context = tool},
        .settings = job->has_settings ? job->settings : NULL,
        .board_hz = job->board_hz};
    if (tool->wait_seconds > 0) {
        tool->session.on_lost = wait_for_contact;
        tool->session.lost_context = tool;
    }
}

/* The steps reckon with open lock bits: the byte as it still stands is read once more. */
static enum exit_code save_lifted_lock(struct job *job)
{
    uint8_t now[CM_SETTING_BYTES];
    enum cm_status status = cm_read_settings(&job->tool->session, now);
    return status ? tool_fail(job->tool, status) : carry_save_lock(job, now);
}

/* What must be known, and safe, before anything is done. */
static enum exit_code prepare(struct job *job, const struct cm_mint *mint)
{
    struct tool *tool = job->tool;
    enum cm_status status = cm_find_boot(&tool->session, &job->boot);
    if (!status)
        status = job->has_settings ? cm_mint_steps(&tool->session, mint, &job->steps)
                                   : cm_read_settings(&tool->session, job->steps.now);
    if (status)
        return tool_fail(tool, status);
    if (job->has_settings)
        say_steps(job);
    enum exit_code code = tool->keep_boot ? keep_boot(job) : EXIT_GOOD;
    if (!code && job->steps.unlocks)
        code = guard_boot(job);
    if (!code && job->steps.unlocks && !tool->only_plan)
        code = backup_chip(tool, true, NULL); // what lock bits let us read
    if (!code && job->steps.unlocks && !tool->only_plan)
        code = save_lifted_lock(job);
    job->backed_up = job->steps.unlocks;
    return code;
}

static enum cm_status act(struct job *job, const struct cm_mint *mint,
                          struct cm_mint_report *report)
{
    struct cm_session *session = &job->tool->session;
    uint32_t predicted_us;
    memset(report, 0, sizeof *report);
    if (!job->tool->only_plan)
        return job->has_settings ? cm_mint(session, mint, report)
                                 : cm_put(session, &mint->put, &report->put);
    if (!job->has_settings)
        return cm_plan(session, &mint->put, &report->put);
    enum cm_status status = cm_mint_plan(session, mint, report, &predicted_us);
    report->put.predicted_us = predicted_us;
    return status;
}

static enum exit_code tell_failure(struct job *job, enum cm_status status,
                                   const struct cm_mint_report *report)
{
    struct tool *tool = job->tool;
    if (job->code)
        return job->code;
    if (status == CM_REFUSED && tool->hook_code)
        return tool->hook_code;
    enum exit_code code = tool_fail(tool, status);
    if (status == CM_NO_CHIP && report->settings_written)
        tool_fail_as(tool, code, "the settings are written, and the chip no longer answers",
                     tool->words.evidence,
                     "its new clock does not run: put that clock or crystal on the board, and run "
                     "the same command again");
    tell_lifted_lock(tool, &report->put);
    char pages[SHORT_TEXT];
    if (tool->planned_work)
        say(tool, "so far", "%s are right",
            pages_text(report->put.pages_written + report->put.pages_equal, report->put.pages,
                       pages));
    return code;
}

enum exit_code job_run(struct job *job)
{
    struct tool *tool = job->tool;
    struct cm_mint_report report;
    struct cm_mint mint;
    struct cm_region data;
    char took[SHORT_TEXT];
    uint32_t carry_bytes = cm_region(&tool->session, CM_REGION_DATA, &data) ? data.bytes : 0;
    uint8_t *carry = carry_bytes ? malloc(carry_bytes) : NULL;
    describe(job, carry, carry_bytes, &mint);
    enum exit_code code = prepare(job, &mint);
    if (code) {
        free(carry);
        return code;
    }
    mint.put.want_count = job->want_count;
    enum cm_status status = act(job, &mint, &report);
    tool_progress_end(tool);
    if (status == CM_IN_DOUBT)
        status = job_settle_doubt(job, &report.put);
    if (tool->only_plan && !status) {
        say_plan(tool, &report.put);
        if (report.put.erase)
            code = guard_boot(job);
    }
    set_json(tool, "report", json_report(&report.put));
    if (status)
        code = tell_failure(job, status, &report);
    carry_end(job, status);
    guard_saved_end(tool, !report.put.unlocked);
    free(carry);
    if (code)
        return code;
    if (tool->planned_work && !tool->only_plan)
        say_done(tool, &report.put);
    if (report.settings_written)
        say(tool, "settings", "%u byte%s written and read back; %s in all",
            (unsigned)report.settings_written, report.settings_written == 1 ? "" : "s",
            seconds_text(report.actual_us, took, sizeof took));
    tool->planned_work |= report.settings_written > 0;
    return EXIT_GOOD;
}
