/*
 * erase: erase the chip, and prove it blank.
 */
#include "guard.h"

static bool on_plan(void *context, const struct cm_report *report)
{
    struct tool *tool = context;
    tool->planned_work = report->pages_written || report->erases;
    tool_progress_end(tool);
    tool->hook_code = tool->planned_work ? backup_chip(tool, true, NULL) : EXIT_GOOD;
    return !tool->hook_code;
}

/* A memory: blank is what it shall hold, and the cheapest way there is taken. */
static enum exit_code blank_memory(struct tool *tool)
{
    struct cm_region region;
    struct cm_report report;
    char took[SHORT_TEXT];
    cm_region(&tool->session, CM_REGION_MAIN, &region);
    struct cm_blank_area area = {0, region.bytes, region.erased};
    struct cm_want want = {CM_REGION_MAIN, cm_blank_source(&area)};
    struct cm_put put = {.wants = &want,
                         .want_count = 1,
                         .unprotect = tool->unprotect,
                         .progress = tool_progress,
                         .progress_context = tool,
                         .planned = on_plan,
                         .planned_context = tool,
                         .lifting = guard_save,
                         .lifting_context = tool};
    enum cm_status status = cm_put(&tool->session, &put, &report);
    tool_progress_end(tool);
    set_json(tool, "report", json_report(&report));
    guard_saved_end(tool, !report.unlocked);
    if (status)
        return tool->hook_code ? tool->hook_code : tool_fail(tool, status);
    char how[100];
    if (report.erases)
        snprintf(how, sizeof how, "%u erase%s of %u KiB in all", (unsigned)report.erases,
                 report.erases == 1 ? "" : "s", (unsigned)(report.erased_bytes >> 10));
    else
        snprintf(how, sizeof how, "%u pages written over", (unsigned)report.pages_written);
    say(tool, "done", "%s; %u bytes read, all blank, in %s%s", how, (unsigned)region.bytes,
        seconds_text(report.actual_us + report.survey_us, took, sizeof took),
        report.relocked ? "; protection put back" : "");
    say_last(tool, "%s is blank%s", chip_name(tool), tool->planned_work ? "" : "; it was before");
    return EXIT_GOOD;
}

static enum exit_code blank_chip(struct tool *tool)
{
    struct cm_report report;
    struct cm_boot boot;
    char took[SHORT_TEXT];
    enum cm_status status = cm_find_boot(&tool->session, &boot);
    enum exit_code code = status ? tool_fail(tool, status) : backup_chip(tool, true, NULL);
    if (code)
        return code;
    struct cm_blank how = {tool->unprotect, tool_progress, tool};
    status = cm_blank(&tool->session, &how, &report);
    tool_progress_end(tool);
    set_json(tool, "report", json_report(&report));
    if (status)
        return tool_fail(tool, status);
    if (boot.in_use)
        say(tool, "note",
            "the boot loader at 0x%04X went along, and the boot-reset fuse still points there",
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
    enum exit_code code = tool_begin(tool);
    if (code)
        return code;
    return is_memory(tool->session.part) ? blank_memory(tool) : blank_chip(tool);
}

static const struct poptOption options[] = {
    {"unprotect", 0, POPT_ARG_NONE, &the_tool.unprotect, 0,
     "a locked chip may be erased, which opens it; a memory's protection is lifted for the job and "
     "put back",
     NULL},
    NO_BACKUP_OPTION,
    POPT_TABLEEND};

const struct verb verb_erase = {
    .name = "erase",
    .things = "[options]",
    .summary = "erase the chip, and prove it blank",
    .example = "coldmint erase --via sim:node.yaml --chip attiny84a",
    .mistake = "taking a blank chip for a new one: its fuses stay as they were; see 'tune'",
    .options = options,
    .run = run,
};
