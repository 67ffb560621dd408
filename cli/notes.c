/*
 * What a job of the host library tells on its way: a line for each.
 */
#include "notes.h"
#include "progress.h"
#include "say.h"
#include "words/settings.h"
#include <stdio.h>
#include <string.h>

/* --- the plan ---------------------------------------------------------------------------- */

const char *erased_text(const struct tool *tool, const struct cm_report *report, char *text)
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
const char *pages_text(uint32_t count, uint32_t all, char *text)
{
    if (count > all)
        return count_text(count, "page", text);
    char pages[SHORT_TEXT];
    snprintf(text, SHORT_TEXT, "%u of %s", (unsigned)count, count_text(all, "page", pages));
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
    seconds_text(report->predicted_us, time, sizeof time);
    if (!report->pages_written && !report->erase && report->pages == 1)
        say(tool, "plan", "nothing to do: the page is right already");
    else if (!report->pages_written && !report->erase)
        say(tool, "plan", "nothing to do: all %s are right already",
            count_text(report->pages, "page", pages));
    else if (is_memory(tool, tool->session.part))
        say_memory_plan(tool, report, time);
    else
        say(tool, "plan", "%s%s to write%s%s; about %s", report->erase ? "chip erase, then " : "",
            pages_text(report->pages_written, report->pages, pages),
            report->erase ? "" : ", nothing to erase",
            report->carried ? ", eeprom carried over" : "", time);
}

static void say_steps(struct tool *tool, const struct cm_mint_steps *steps, bool has_contents)
{
    char clock[SHORT_TEXT];
    if (memcmp(steps->now, steps->late, sizeof steps->now) != 0)
        settings_show_change(tool, tool->session.part, steps->now, steps->late);
    int step = 1;
    if (steps->unlocks)
        say(tool, "steps", "%d. chip erase, to open the lock bits", step++);
    if (steps->changes_early)
        say(tool, step == 1 ? "steps" : "", "%d. settings%s%s", step,
            steps->reenters ? ", then enter again at " : "",
            steps->reenters ? clock_text(steps->cpu_hz_then, clock, sizeof clock) : "");
    step += steps->changes_early;
    if (has_contents)
        say(tool, step == 1 ? "steps" : "",
            "%d. contents: erase if need be, write what differs, read back", step);
    step += has_contents;
    if (steps->changes_late)
        say(tool, step == 1 ? "steps" : "", "%d. the settings that lock, slow or close the chip",
            step);
}

/* --- contents and backups ---------------------------------------------------------------- */

static void say_file(struct tool *tool, const struct cm_note *note)
{
    json_t *list = json_object_get(tool->answer, "files");
    say(tool, "file", "%s, %s: %u bytes, 0x%04X to 0x%04X, for %s", note->path, note->format,
        (unsigned)note->bytes, (unsigned)note->first, (unsigned)note->last, note->region);
    json_array_append_new(list, json_pack("{s:o, s:s, s:s, s:I, s:I, s:I}", "path",
                                          json_text(note->path), "format", note->format, "region",
                                          note->region, "bytes", (json_int_t)note->bytes, "first",
                                          (json_int_t)note->first, "last", (json_int_t)note->last));
}

static void say_backup(struct tool *tool, const struct cm_note *note)
{
    static const char *const WHAT[2][2] = {{"", ", which holds the same already"},
                                           {": its settings", ": its settings, kept before"}};
    say(tool, "backup", "%s%s", note->path, WHAT[note->region != NULL][note->is_older]);
    set_json(tool, "backup", json_text(note->path));
}

static void say_left_lifted(struct tool *tool, const struct cm_note *note)
{
    say(tool, "note",
        "an earlier command was cut off with this chip's protection lifted; its registers are in a "
        "file. The next put has them back at its end; to do it now:");
    say(tool, "", "coldmint guard --restore %s", note->path);
    set_json(tool, "left_lifted", json_text(note->path));
}

/* What needs no more than a line. */
static void say_line(struct tool *tool, const struct cm_note *note)
{
    switch (note->kind) {
    case CM_NOTE_LEFT_OUT:
        say(tool, "note", "%u more bytes of it are at addresses of other regions",
            (unsigned)note->bytes);
        break;
    case CM_NOTE_JOINED:
        say(tool, "joined",
            "reset leads into the loader at 0x%04X; the application's own jump stands at 0x%04X",
            (unsigned)note->first, (unsigned)note->last);
        break;
    case CM_NOTE_KEPT_LOADER:
        say(tool, "loader", "%u bytes at 0x%04X, read twice, kept", (unsigned)note->bytes,
            (unsigned)note->first);
        break;
    case CM_NOTE_LOCKED:
        say(tool, "note", "lock bits prevent reading the memories: only the settings can be kept");
        break;
    case CM_NOTE_UNRECORDED:
        say(tool, "note",
            "this change cannot be put on record: 'undo' will not know of it. To go back, put the "
            "backup");
        break;
    case CM_NOTE_CARRIED:
        say(tool, "eeprom", "%u bytes saved, to be carried over the erase", (unsigned)note->bytes);
        break;
    case CM_NOTE_LIFTED:
        say(tool, "guard",
            "status 0x%02X saved in a file, lifted for the job, and put back after it",
            note->value);
        break;
    case CM_NOTE_REST_BACK:
        say(tool, "note",
            "an earlier put was cut off: %u bytes beside its image, in a sector that it had "
            "erased, are back",
            (unsigned)note->bytes);
        break;
    case CM_NOTE_GUARD_BACK:
        say(tool, "guard",
            "an earlier command was cut off with the protection lifted: it is back, status 0x%02X",
            note->value);
        break;
    case CM_NOTE_MENDED:
        say(tool, "note",
            "contact was bad for a moment: %u pages beside the image had changed, and are mended "
            "from the backup",
            (unsigned)note->pages);
        break;
    case CM_NOTE_MAY_BE_HARMED:
        say(tool, "note",
            "what the image does not have may have changed, too: when contact is good, match with "
            "%s%s",
            note->path ? "the backup, " : "an older backup", note->path ? note->path : "");
        break;
    case CM_NOTE_UNHARMED:
        say(tool, "note",
            "contact was bad for a moment: all of the chip was compared with the backup, and "
            "nothing else has changed");
        break;
    default:
        break;
    }
}

/* What an earlier command has left, since it was cut off. */
static void say_left(struct tool *tool, const struct cm_note *note)
{
    if (note->kind == CM_NOTE_LEFT_LIFTED)
        say_left_lifted(tool, note);
    else if (note->kind == CM_NOTE_LEFT_DATA)
        say(tool, "note",
            "an earlier put was cut off; the eeprom it had saved is in %s: add eeprom=THAT-FILE, "
            "then remove it",
            note->path);
    else if (note->kind == CM_NOTE_LEFT_REST)
        say(tool, "note",
            "an earlier put was cut off; what else was in a sector it had erased is in %s. It does "
            "not go back by itself, since this may be another chip: put that file, or remove it",
            note->path);
    else
        say(tool, "note",
            "an earlier put was cut off; the lock byte it had lifted was 0x%02X: see 'tune', then "
            "remove %s",
            note->value, note->path);
}

void tell_note(void *context, const struct cm_note *note)
{
    struct tool *tool = context;
    tool_progress_end(tool);
    if (note->kind == CM_NOTE_FILE)
        say_file(tool, note);
    else if (note->kind == CM_NOTE_STEPS)
        say_steps(tool, note->steps, note->bytes);
    else if (note->kind == CM_NOTE_PLAN)
        say_plan(tool, note->report);
    else if (note->kind == CM_NOTE_BACKUP)
        say_backup(tool, note);
    else if (note->kind >= CM_NOTE_LEFT_LIFTED)
        say_left(tool, note);
    else
        say_line(tool, note);
}

void tell_left_lifted(struct tool *tool)
{
    struct cm_job *job = cm_job_new(&tool->host, &tool->session, tool->port_name);
    if (!job)
        return;
    job->told = tell_note;
    job->context = tool;
    cm_job_tell_left_lifted(job);
    cm_job_free(job);
}
