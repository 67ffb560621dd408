/*
 * undo: puts the chip back to how it was before the last change: to the backup that was kept then.
 *
 * Which one that is, the records of changes tell: the newest one whose end is the very state that
 * the chip is in. Where no record tells that, other hands have been at the chip, or it is another
 * chip of its kind: that is refused, unless it is asked for.
 */
#include "begin.h"
#include "job.h"
#include "progress.h"
#include "say.h"
#include "words/capsule.h"
#include "words/fail.h"
#include <stdlib.h>
#include <string.h>

static struct {
    struct job_options job;
    int list;
} given;

static enum exit_code list(struct tool *tool)
{
    struct cm_backup_entry *entries;
    unsigned count;
    char when[SHORT_TEXT];
    json_t *rows = json_array();
    enum exit_code code =
        host_code(tool, cm_backups_of(&tool->host, &tool->session, &entries, &count));
    for (unsigned i = 0; !code && i < count; i++) {
        const struct cm_backup_entry *entry = &entries[i];
        minute_text(entry->time, when);
        bool has_number = strncmp(entry->notes, "number ", strlen("number ")) == 0;
        say(tool, i ? "" : "backups", "%s  %-9s %s%s%.*s", when,
            entry->has_memories ? "all of it" : "settings", entry->path, has_number ? "  " : "",
            has_number ? (int)strcspn(entry->notes, ",") : 0, entry->notes);
        json_array_append_new(rows,
                              json_pack("{s:o, s:I, s:b, s:o}", "path", json_text(entry->path),
                                        "time", (json_int_t)entry->time, "has_memories",
                                        entry->has_memories, "notes", json_text(entry->notes)));
    }
    free(entries);
    set_json(tool, "backups", rows);
    if (!code)
        say_last(tool,
                 count ? "%u fit this chip, newest first; 'coldmint put FILE' takes any of "
                         "them"
                       : "%u backups fit this chip",
                 count);
    return code;
}

static void say_undo(struct tool *tool, const struct cm_undo *undo)
{
    if (undo->verb[0])
        say(tool, "undoes", "the last '%s' on this chip%s", undo->verb,
            undo->was_cut_off ? ", which was cut off" : "");
    else
        say(tool, "note", "no record tells how the chip came to be so: back to the newest backup");
    set_json(tool, "undoes",
             json_pack("{s:o, s:o, s:b}", "verb", json_text(undo->verb), "backup",
                       json_text(undo->path), "cut_off", undo->was_cut_off));
}

static enum exit_code go_back(struct tool *tool, struct cm_job *job, struct cm_undo *undo)
{
    bool is_found =
        cm_undo_find(&tool->host, &tool->session, given.job.anyway, tool_progress, tool, undo);
    tool_progress_end(tool);
    if (!is_found)
        return tool_fail_host(tool);
    say_undo(tool, undo);
    enum exit_code code = host_code(tool, cm_job_open_capsule(job, undo->path));
    if (code)
        return code;
    char when[SHORT_TEXT];
    say(tool, "back to", "how it was on %s, as kept in",
        minute_text(job->capsule.capsule.facts.time, when));
    say(tool, "", "%s", undo->path);
    code = host_code(tool, cm_job_want_capsule(job));
    if (!code)
        code = job_run(tool, job, &given.job);
    return code;
}

static void say_verdict(struct tool *tool, const struct cm_job *job)
{
    if (job->options.only_plan)
        say_last(tool, "planned only; %s is unchanged", chip_name(tool));
    else
        say_last(tool, "%s is as it was before%s", chip_name(tool),
                 job->has_work ? "" : "; nothing had to be changed");
}

static enum exit_code undo_chip(struct tool *tool, struct cm_job *job)
{
    struct cm_undo *undo = calloc(1, sizeof *undo); // the job refers to its path
    enum exit_code code = undo ? tool_begin(tool) : tool_fail_memory(tool);
    if (!code && given.list) {
        code = list(tool);
    } else if (!code) {
        code = go_back(tool, job, undo);
        if (!code)
            say_verdict(tool, job);
    }
    free(undo);
    return code;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    if (things[0])
        return tool_fail_as(tool, EXIT_USAGE, "undo takes no things", things[0],
                            "to go back to a backup of your choice: coldmint put FILE");
    enum exit_code code = job_check_options(tool, &given.job);
    struct cm_job *job = code ? NULL : job_new(tool, &given.job);
    if (job)
        code = undo_chip(tool, job);
    cm_job_free(job);
    return job ? code : tool->words.code;
}

static const struct poptOption options[] = {
    {"list", 0, POPT_ARG_NONE, &given.list, 0, "list the backups that fit the chip, newest first",
     NULL},
    PLAN_OPTION(given.job, "say what going back would change, and do nothing"),
    {"anyway", 0, POPT_ARG_NONE, &given.job.anyway, 0,
     "go back to the newest backup even if something else has changed the chip since", NULL},
    UNPROTECT_OPTION(given.job, UNPROTECT_WORDS),
    ALLOW_OPTION(given.job, ALLOW_WORDS),
    NO_BACKUP_OPTION(given.job),
    WAIT_OPTION(given.job),
    POPT_TABLEEND};

const struct verb verb_undo = {
    .name = "undo",
    .things = "[options]",
    .summary = "put the chip back to how it was before the last change",
    .example = "coldmint undo --via sim:node.yaml --plan",
    .mistake = "expecting to undo a change that was made with --no-backup: nothing was kept of it",
    .options = options,
    .run = run,
};
