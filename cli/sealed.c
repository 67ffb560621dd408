/*
 * A unit from a sealed capsule, for somebody who knows nothing of it: says what it is for, checks
 * that the right board is there, asks once, does it, and ends in plain words.
 */
#include "sealed.h"
#include "begin.h"
#include "notes.h"
#include "say.h"
#include "words/fail.h"
#include <coldmint/host/count.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

/* --- the port, where none is named ------------------------------------------------------- */

/* What there is to program through; the second is only counted. */
struct found {
    const struct cm_port_kind *kind;
    char name[400];
    unsigned count;
};

static void take_port(void *context, const char *place, const char *what, const char *trouble)
{
    struct found *found = context;
    (void)what;
    if (*trouble)
        return;
    if (!found->count++)
        snprintf(found->name, sizeof found->name, "%s:%.380s", found->kind->prefix, place);
}

/* With one port there is nothing to choose. Ports are not tried one after another: some would start
 * or change what is behind them. */
static enum exit_code find_port(struct tool *tool)
{
    static struct found found;
    char evidence[200];
    if (tool->port_name)
        return EXIT_GOOD;
    for (const struct cm_port_kind *const *kind = tool->host.ports; *kind; kind++) {
        found.kind = *kind;
        (*kind)->list(take_port, &found);
    }
    snprintf(evidence, sizeof evidence, "%u were found", found.count);
    if (found.count == 0)
        return tool_fail_as(tool, EXIT_NO_PORT, "no programmer is connected", evidence,
                            "plug it in and try again; 'coldmint ports' shows what there is");
    if (found.count > 1)
        return tool_fail_as(tool, EXIT_NO_PORT, "there are several programmers", evidence,
                            "'coldmint ports' shows them; name one with --via");
    tool->port_name = found.name;
    say(tool, "through", "%s", found.name);
    return EXIT_GOOD;
}

/* --- the question ------------------------------------------------------------------------ */

static enum exit_code ask(struct tool *tool, const struct cm_capsule_work *work,
                          const struct sealed_options *own)
{
    char answer[20] = "";
    if (own->yes)
        return EXIT_GOOD;
    if (!isatty(STDIN_FILENO) || tool->given.json)
        return tool_fail_as(tool, EXIT_REFUSED, "refused: there is nobody to ask",
                            "the input is no terminal; nothing was changed",
                            "--yes says beforehand that it shall be done");
    fprintf(stderr, "\nMake this board a ");
    print_shown(stderr, work->title);
    fprintf(stderr, "? What it holds now is kept as a backup. [y/n] ");
    fflush(stderr);
    bool is_yes = fgets(answer, sizeof answer, stdin) && (answer[0] == 'y' || answer[0] == 'Y');
    return is_yes ? EXIT_GOOD
                  : tool_fail_as(tool, EXIT_INTERRUPTED, "stopped", "the answer was not yes",
                                 "nothing was changed");
}

/* How it is done matters to who packed it, not to who makes a unit from it. */
static void tell_less(void *context, const struct cm_note *note)
{
    if (note->kind != CM_NOTE_STEPS && note->kind != CM_NOTE_PLAN)
        tell_note(context, note);
}

/* --- the job ----------------------------------------------------------------------------- */

static void say_end(struct tool *tool, const struct cm_job *job, const struct cm_count *count)
{
    const struct cm_capsule_work *work = &job->capsule.capsule.work;
    char counted[80] = "";
    if (count->most)
        snprintf(counted, sizeof counted, "; %u of %u made", (unsigned)count->tally.last.used,
                 (unsigned)count->most);
    set_json(tool, "made", json_integer(count->tally.last.used));
    say_last(tool, "done: this board is a %s%s%s now%s%s. You can take it away", work->title,
             work->version[0] ? ", version " : "", work->version,
             job->has_work ? "" : ", and was one before", counted);
}

struct counting {
    struct cm_host *host;
    struct cm_count count;
};

/* Just before the first change. One that was begun before, and not ended, counts already. */
static bool count_begun(void *context)
{
    struct counting *counting = context;
    return cm_count_note(counting->host, &counting->count, CM_TALLY_BEGUN);
}

/* A board that is right already does not count. */
static enum exit_code make(struct tool *tool, struct cm_job *job, const struct job_options *given,
                           struct counting *counting)
{
    struct cm_count *count = &counting->count;
    job->begins = count_begun;
    job->begins_context = counting;
    enum exit_code code = job_run(tool, job, given);
    const bool is_open = count->tally.last.kind == CM_TALLY_BEGUN;
    bool good =
        !is_open || cm_count_note(&tool->host, count, code ? CM_TALLY_FAILED : CM_TALLY_MADE);
    if (!good && !code)
        code = tool_fail_host(tool);
    if (!code)
        say_end(tool, job, count);
    return code;
}

/* The count is looked at before the question, and not held while somebody thinks about it: others
 * may make units from the same capsule meanwhile. */
static enum exit_code ask_and_make(struct tool *tool, struct cm_job *job,
                                   const struct job_options *given,
                                   const struct sealed_options *own)
{
    struct counting counting = {.host = &tool->host};
    struct cm_count *count = &counting.count;
    enum exit_code code = host_code(tool, cm_count_open(&tool->host, &job->capsule, count));
    cm_count_close(count);
    if (!code)
        code = ask(tool, &job->capsule.capsule.work, own);
    if (!code)
        code = host_code(tool, cm_count_open(&tool->host, &job->capsule, count));
    if (!code)
        code = make(tool, job, given, &counting);
    cm_count_close(count);
    return code;
}

static enum exit_code assert_chip(struct tool *tool, const struct cm_capsule *capsule)
{
    if (tool->given.chip && strcmp(tool->given.chip, capsule->facts.chip) != 0)
        return tool_fail_as(tool, EXIT_USAGE, "the capsule is for another chip",
                            capsule->facts.chip, "leave --chip out: the capsule asserts its own");
    free(tool->given.chip);
    tool->given.chip = strdup(capsule->facts.chip);
    return EXIT_GOOD;
}

static enum exit_code begin(struct tool *tool, struct cm_job *job)
{
    const struct cm_capsule_work *work = &job->capsule.capsule.work;
    if (!job->options.only_plan)
        job->told = tell_less;
    if (tool->open) // the catalogue has found it
        return session_code(tool, cm_identify(&tool->session, tool->given.chip));
    enum exit_code code = find_port(tool);
    job->port_name = tool->port_name;
    tool->board_hz = work->board_hz;
    tool->wish_mv = work->feed_mv;
    tool->wish_cycle = work->power_cycle;
    return code ? code : tool_begin(tool);
}

static enum exit_code mint(struct tool *tool, struct cm_job *job, const struct job_options *given,
                           const struct sealed_options *own)
{
    const struct cm_capsule *capsule = &job->capsule.capsule;
    enum exit_code code = sealed_check_maker(tool, &job->capsule, own->maker);
    if (code)
        return code;
    sealed_say(tool, &job->capsule, false);
    code = assert_chip(tool, capsule);
    if (!code)
        code = begin(tool, job);
    if (code)
        return code;
    cm_job_tell_left_behind(job);
    code = host_code(tool, cm_job_want_work(job));
    if (code || given->only_plan) {
        code = code ? code : job_run(tool, job, given);
        return code ? code : job_end_plan(tool, job, capsule->work.title);
    }
    return ask_and_make(tool, job, given, own);
}

enum exit_code sealed_mint(struct tool *tool, const char *path, const struct job_options *given,
                           const struct sealed_options *own)
{
    struct cm_job *job = job_new(tool, given);
    if (!job)
        return tool->words.code;
    enum exit_code code = host_code(tool, cm_job_open_capsule(job, path));
    if (!code && !job->capsule.capsule.has_work)
        code = host_code(tool, cm_job_want_work(job)); // says that it is a backup
    if (!code)
        code = mint(tool, job, given, own);
    cm_job_free(job);
    return code;
}
