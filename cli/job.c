/*
 * A job of the host library as a verb does it.
 */
#include "job.h"
#include "notes.h"
#include "progress.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* --- contact ----------------------------------------------------------------------------- */

/* Waiting for the clip to be seated again. */
struct waiting {
    struct tool *tool;
    uint32_t seconds, recoveries, since_us;
    bool is_waiting;
};

static bool wait_for_contact(void *context, const struct cm_failure *failure)
{
    enum { PAUSE_US = 200000 };
    struct waiting *waiting = context;
    struct tool *tool = waiting->tool;
    uint32_t now_us = tool->port->lines->now_us(tool->port);
    if (waiting->recoveries != tool->session.recoveries)
        waiting->is_waiting = false; // contact came back since
    waiting->recoveries = tool->session.recoveries;
    if (!waiting->is_waiting) {
        tool_progress_end(tool);
        fprintf(stderr, "contact lost while %s %s at 0x%04X; waiting up to %u s for it\n",
                step_words(failure->step), failure->region ? failure->region : "the chip",
                (unsigned)failure->address, (unsigned)waiting->seconds);
        waiting->is_waiting = true;
        waiting->since_us = now_us;
    }
    tool->port->lines->wait_us(tool->port, PAUSE_US);
    return !tool_interrupted && now_us - waiting->since_us < waiting->seconds * 1000000u;
}

/* --- the job ----------------------------------------------------------------------------- */

enum exit_code job_check_options(struct tool *tool, const struct job_options *given)
{
    if (given->keep_boot && given->lose_boot)
        return tool_fail_as(tool, EXIT_USAGE, "--keep-boot and --lose-boot exclude each other",
                            "both are given", "say one of them");
    if (given->wait_seconds < 0 || given->wait_seconds > 3600)
        return tool_fail_as(tool, EXIT_USAGE, "--wait is not a number of seconds that makes sense",
                            "0 to 3600", "for example --wait 30");
    return EXIT_GOOD;
}

enum exit_code job_take_chip(struct tool *tool, const struct cm_recipe *recipe)
{
    char evidence[200];
    tool->board_hz = recipe->board_hz;
    tool->wish_mv = recipe->feed_mv;
    tool->wish_cycle = recipe->has_power_cycle;
    if (tool->given.chip && strcmp(tool->given.chip, recipe->chip.text) != 0) {
        snprintf(evidence, sizeof evidence, "--chip %.60s; the recipe is for %.60s",
                 tool->given.chip, recipe->chip.text);
        return tool_fail_as(tool, EXIT_USAGE, "the recipe is for another chip", evidence,
                            "leave --chip out: the recipe asserts its own");
    }
    free(tool->given.chip);
    tool->given.chip = strdup(recipe->chip.text);
    return EXIT_GOOD;
}

struct cm_job *job_new(struct tool *tool, const struct job_options *given)
{
    struct cm_job *job = cm_job_new(&tool->host, &tool->session, tool->port_name);
    if (!job) {
        tool_fail_host(tool);
        return NULL;
    }
    job->options = (struct cm_job_options){.only_plan = given->only_plan,
                                           .unprotect = given->unprotect,
                                           .lose_data = given->lose_data,
                                           .keep_boot = given->keep_boot,
                                           .lose_boot = given->lose_boot,
                                           .no_backup = given->no_backup,
                                           .anyway = given->anyway,
                                           .allow = (const char *const *)given->allow};
    job->verb = tool->verb->name;
    job->told = tell_note;
    job->progress = tool_progress;
    job->context = tool;
    return job;
}

void job_names(const struct cm_job *job, char *names, size_t bytes)
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

/* --- how it ended ------------------------------------------------------------------------ */

static void say_done(struct tool *tool, const struct cm_report *report)
{
    char took[SHORT_TEXT], expected[SHORT_TEXT];
    char erased[SHORT_TEXT], pages[SHORT_TEXT], bytes[SHORT_TEXT];
    bool memory = is_memory(tool, tool->session.part);
    if (memory && report->carried_bytes)
        say(tool, "carried",
            "%u bytes beside the image, read twice before the erase and written back",
            (unsigned)report->carried_bytes);
    count_text(report->pages_written, "page", pages);
    count_text(report->bytes_written, "byte", bytes);
    if (memory && (report->pages_written || report->erases))
        say(tool, "done", "%s; %s, %s written and read back in %s (%s expected)%s",
            erased_text(tool, report, erased), pages, bytes,
            seconds_text(report->actual_us, took, sizeof took),
            seconds_text(report->predicted_us, expected, sizeof expected),
            report->relocked ? "; protection put back" : "");
    else if (report->pages_written)
        say(tool, "done", "%s%s, %s written and read back in %s (%s expected)%s",
            report->erase ? "erased; " : "", pages, bytes,
            seconds_text(report->actual_us, took, sizeof took),
            seconds_text(report->predicted_us, expected, sizeof expected),
            report->relocked ? "; lock byte put back" : "");
    unsigned times = tool->session.recoveries;
    if (times == 1)
        say(tool, "note", "contact was lost once, and found again");
    else if (times)
        say(tool, "note", "contact was lost and found again %u times", times);
}

/* One more sentence of advice. */
static void add_advice(struct tool *tool, const char *format, const char *path, const char *behind)
{
    char text[400];
    size_t used = strlen(tool->words.try);
    snprintf(text, sizeof text, format, path);
    snprintf(tool->words.try + used, sizeof tool->words.try - used, ". %s%s", text, behind);
}

/* What the job had lifted or carried, and could not put back. */
static void tell_what_is_left(struct tool *tool, const struct cm_job *job)
{
    const struct cm_report *report = &job->report.put;
    char lock[60];
    snprintf(lock, sizeof lock, "0x%02X", report->lock);
    if (report->unlocked && job->lifted_path[0])
        add_advice(tool, "Its protection is lifted and not back: coldmint guard --restore %.250s",
                   job->lifted_path, "");
    else if (report->unlocked)
        add_advice(tool, "The lock byte was %s and is not back", lock, "");
    if (job->carried_path[0] && job->is_rest)
        add_advice(tool, "What else was in the sectors is in %.300s", job->carried_path, "");
    else if (job->carried_path[0])
        add_advice(tool, "The EEPROM's contents are in %.250s", job->carried_path,
                   ": add eeprom=THAT-FILE");
}

static enum exit_code tell_failure(struct tool *tool, const struct cm_job *job)
{
    const struct cm_report *report = &job->report.put;
    char pages[SHORT_TEXT];
    enum exit_code code = tool_fail_host(tool);
    if (job->is_deaf)
        tool_fail_as(tool, code, "the settings are written, and the chip no longer answers",
                     tool->words.evidence,
                     "its new clock does not run: put that clock or crystal on the board, and run "
                     "the same command again");
    tell_what_is_left(tool, job);
    if (job->has_work && !job->writes && !job->options.only_plan)
        say(tool, "so far", "nothing of the contents was changed");
    else if (job->has_work && tool->host.error.kind == CM_ERROR_SESSION)
        say(tool, "so far", "%s are right",
            pages_text(report->pages_written + report->pages_equal, report->pages, pages));
    return code;
}

enum exit_code job_run(struct tool *tool, struct cm_job *job, const struct job_options *given)
{
    const struct cm_mint_report *report = &job->report;
    struct waiting waiting = {.tool = tool, .seconds = (uint32_t)given->wait_seconds};
    char took[SHORT_TEXT], bytes[SHORT_TEXT];
    if (waiting.seconds) {
        tool->session.on_lost = wait_for_contact;
        tool->session.lost_context = &waiting;
    }
    bool good = cm_job_run(job);
    tool->session.on_lost = NULL;
    tool_progress_end(tool);
    set_json(tool, "report", json_report(&report->put));
    if (!good)
        return tell_failure(tool, job);
    if (job->has_work && !job->options.only_plan)
        say_done(tool, &report->put);
    if (report->settings_written)
        say(tool, "settings", "%s written and read back; %s in all",
            count_text(report->settings_written, "byte", bytes),
            seconds_text(report->actual_us, took, sizeof took));
    return EXIT_GOOD;
}

enum exit_code job_end_plan(struct tool *tool, const struct cm_job *job, const char *what)
{
    char text[300], evidence[120], pages[SHORT_TEXT];
    const struct cm_report *report = &job->report.put;
    if (!job->has_work) {
        say_last(tool, "this %s is a %s already; nothing would change", chip_name(tool), what);
        return EXIT_GOOD;
    }
    const struct cm_mint_steps *steps = &job->steps;
    bool settings = steps->unlocks || steps->changes_early || steps->changes_late;
    snprintf(text, sizeof text, "this %s is not a %.200s yet", chip_name(tool), what);
    snprintf(evidence, sizeof evidence, "%s would be written%s%s",
             pages_text(report->pages_written, report->pages, pages),
             report->erase ? " after an erase" : "", settings ? ", and settings changed" : "");
    return tool_fail_as(tool, EXIT_DIFFERS, text, evidence,
                        "the same command without --plan does it");
}

void job_say_verdict(struct tool *tool, const struct cm_job *job)
{
    char names[200];
    job_names(job, names, sizeof names);
    if (job->options.only_plan)
        say_last(tool, "planned only; %s is unchanged", chip_name(tool));
    else
        say_last(tool, "%s holds %s%s", chip_name(tool), names,
                 job->has_work ? "" : "; it did before");
}
