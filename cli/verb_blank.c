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
    enum cm_status status = cm_blank(&tool->session, tool_progress, tool, &report);
    tool_progress_end(tool);
    set_json(tool, "report", json_report(&report));
    if (status)
        return tool_fail(tool, status);
    say(tool, "done", "%s; %u bytes read, all blank, in %s", report.erase ? "erased" : "nothing to erase", (unsigned)report.bytes,
        seconds_text(report.actual_us, took, sizeof took));
    say_last(tool, "%s is blank%s", chip_name(tool), report.erase ? "" : "; it was before");
    return EXIT_GOOD;
}

const struct verb verb_blank = {
    .name = "blank",
    .things = "[options]",
    .summary = "erase the chip, and prove it blank",
    .example = "coldmint blank --via sim:node.yaml --chip attiny84a",
    .mistake = "blanking before keeping: 'coldmint keep' first, the only copy may be in the chip",
    .run = run,
};
