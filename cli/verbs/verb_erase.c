/*
 * erase: erase the chip, and prove it blank.
 */
#include "begin.h"
#include "job.h"
#include "progress.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>

static struct {
    struct job_options job;
} given;

/* An erase in the making. */
struct erasing {
    struct tool *tool;
    struct cm_job *job;
    bool has_work, has_failed;
};

static bool on_plan(void *context, const struct cm_report *report)
{
    struct erasing *erasing = context;
    erasing->has_work = report->pages_written || report->erases;
    tool_progress_end(erasing->tool);
    erasing->has_failed = erasing->has_work && !cm_job_keep_before(erasing->job, true, NULL);
    return !erasing->has_failed;
}

static void say_memory(struct tool *tool, const struct cm_report *report, uint32_t bytes)
{
    char took[SHORT_TEXT], how[100];
    if (report->erases)
        snprintf(how, sizeof how, "%u erase%s of %u KiB in all", (unsigned)report->erases,
                 report->erases == 1 ? "" : "s", (unsigned)(report->erased_bytes >> 10));
    else
        snprintf(how, sizeof how, "%u pages written over", (unsigned)report->pages_written);
    say(tool, "done", "%s; %u bytes read, all blank, in %s%s", how, (unsigned)bytes,
        seconds_text(report->actual_us + report->survey_us, took, sizeof took),
        report->relocked ? "; protection put back" : "");
}

/* A memory: blank is what it shall hold, and the cheapest way there is taken. */
static enum exit_code blank_memory(struct tool *tool, struct cm_job *job)
{
    struct erasing erasing = {.tool = tool, .job = job};
    struct cm_region region;
    struct cm_report report;
    cm_region(&tool->session, CM_REGION_MAIN, &region);
    struct cm_blank_area area = {0, region.bytes, region.erased};
    struct cm_want want = {CM_REGION_MAIN, cm_blank_source(&area)};
    struct cm_put put = {.wants = &want,
                         .want_count = 1,
                         .unprotect = given.job.unprotect,
                         .progress = tool_progress,
                         .progress_context = tool,
                         .planned = on_plan,
                         .planned_context = &erasing,
                         .lifting = cm_job_save_lifted,
                         .lifting_context = job};
    enum cm_status status = cm_put(&tool->session, &put, &report);
    tool_progress_end(tool);
    set_json(tool, "report", json_report(&report));
    cm_job_lifted_end(job, !report.unlocked);
    if (erasing.has_failed || job->has_failed)
        return tool_fail_host(tool);
    if (status)
        return tool_fail(tool, status);
    cm_job_end_record(job, &(struct cm_change_end){.wants = &want, .want_count = 1});
    say_memory(tool, &report, region.bytes);
    say_last(tool, "%s is blank%s", chip_name(tool), erasing.has_work ? "" : "; it was before");
    return EXIT_GOOD;
}

static enum exit_code blank_chip(struct tool *tool, struct cm_job *job)
{
    struct cm_report report;
    struct cm_boot boot;
    char took[SHORT_TEXT];
    enum exit_code code = session_code(tool, cm_find_boot(&tool->session, &boot));
    if (!code)
        code = host_code(tool, cm_job_keep_before(job, true, NULL));
    if (code)
        return code;
    struct cm_blank how = {given.job.unprotect, tool_progress, tool};
    enum cm_status status = cm_blank(&tool->session, &how, &report);
    tool_progress_end(tool);
    set_json(tool, "report", json_report(&report));
    if (status)
        return tool_fail(tool, status);
    cm_job_end_record(job,
                      &(struct cm_change_end){.is_erased = report.erase, .is_data_lost = true});
    if (boot.in_use)
        say(tool, "note",
            "the boot loader at 0x%04X is erased, too, and the boot-reset fuse still points there",
            (unsigned)boot.start);
    say(tool, "done", "%s; %u bytes read, all blank, in %s",
        report.erase ? "erased" : "nothing to erase", (unsigned)report.bytes,
        seconds_text(report.actual_us, took, sizeof took));
    say_last(tool, "%s is blank%s", chip_name(tool), report.erase ? "" : "; it was before");
    return EXIT_GOOD;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    if (things[0])
        return tool_fail_as(tool, EXIT_USAGE, "erase takes no things", things[0],
                            "coldmint erase --chip NAME");
    struct cm_job *job = job_new(tool, &given.job);
    enum exit_code code = job ? tool_begin(tool) : tool->words.code;
    if (job && !code)
        code =
            is_memory(tool, tool->session.part) ? blank_memory(tool, job) : blank_chip(tool, job);
    cm_job_free(job);
    return code;
}

static const struct poptOption options[] = {
    UNPROTECT_OPTION(given.job, "a locked chip may be erased, which opens it; a memory's "
                                "protection is lifted for the job and put back"),
    NO_BACKUP_OPTION(given.job), POPT_TABLEEND};

const struct verb verb_erase = {
    .name = "erase",
    .things = "[options]",
    .summary = "erase the chip, and prove it blank",
    .example = "coldmint erase --via sim:node.yaml --chip attiny84a",
    .mistake = "taking a blank chip for a new one: its fuses stay as they were; see 'tune'",
    .options = options,
    .run = run,
};
