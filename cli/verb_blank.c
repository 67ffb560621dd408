/*
 * blank: erase the chip, and prove it blank.
 */
#include "tool.h"

static enum exit_code run(struct tool *tool, const char *const *things)
{
    struct cm_report report;
    char took[SHORT_TEXT];
    if (things[0])
        return tool_fail_as(tool, EXIT_USAGE, "blank takes no things", things[0], "coldmint blank --chip NAME");
    enum exit_code code = tool_begin(tool);
    if (code)
        return code;
    struct cm_boot boot;
    enum cm_status status = cm_find_boot(&tool->session, &boot);
    code = status ? tool_fail(tool, status) : backup_chip(tool, true, NULL);
    if (code)
        return code;
    status = cm_blank(&tool->session, tool_progress, tool, &report);
    tool_progress_end(tool);
    set_json(tool, "report", json_report(&report));
    if (status)
        return tool_fail(tool, status);
    if (boot.in_use)
        say(tool, "note", "the boot loader at 0x%04X went along, and the boot-reset fuse still points there", (unsigned)boot.start);
    say(tool, "done", "%s; %u bytes read, all blank, in %s", report.erase ? "erased" : "nothing to erase", (unsigned)report.bytes,
        seconds_text(report.actual_us, took, sizeof took));
    say_last(tool, "%s is blank%s", chip_name(tool), report.erase ? "" : "; it was before");
    return EXIT_GOOD;
}

static const struct poptOption options[] = {NO_BACKUP_OPTION, POPT_TABLEEND};

const struct verb verb_blank = {
    .name = "blank",
    .things = "[options]",
    .summary = "erase the chip, and prove it blank",
    .example = "coldmint blank --via sim:node.yaml --chip attiny84a",
    .mistake = "taking a blank chip for a new one: its fuses stay as they were; see 'tune'",
    .options = options,
    .run = run,
};
