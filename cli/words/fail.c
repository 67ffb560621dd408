/*
 * Failures of the tool's own, and what all failures share.
 */
#include "fail.h"
#include <errno.h>
#include <stdio.h>

static const char *const STEPS[CM_STEP_COUNT] = {
    [CM_STEP_NONE] = "working",
    [CM_STEP_OPEN] = "beginning",
    [CM_STEP_ENTER] = "entering programming mode",
    [CM_STEP_IDENTIFY] = "reading the id",
    [CM_STEP_READ] = "reading",
    [CM_STEP_COMPARE] = "comparing",
    [CM_STEP_ERASE] = "erasing",
    [CM_STEP_PROGRAM] = "writing",
    [CM_STEP_VERIFY] = "reading back",
    [CM_STEP_SETTINGS] = "reading or writing settings",
    [CM_STEP_CARRY] = "carrying data over the erase",
    [CM_STEP_LEAVE] = "leaving",
};

const char *step_words(enum cm_step step)
{
    return step < CM_STEP_COUNT ? STEPS[step] : "working";
}

enum exit_code tool_fail_as(struct tool *tool, enum exit_code code, const char *what,
                            const char *evidence, const char *advice)
{
    struct words *words = &tool->words;
    words->code = code;
    snprintf(words->what, sizeof words->what, "%s", what);
    snprintf(words->evidence, sizeof words->evidence, "%s", evidence ? evidence : "");
    snprintf(words->try, sizeof words->try, "%s", advice);
    return code;
}

enum exit_code tool_fail_memory(struct tool *tool)
{
    return tool_fail_as(tool, EXIT_BAD_FILE, "there is not enough memory", "",
                        "close other programs");
}

const char *disk_advice(int error)
{
    bool is_full = error == ENOSPC || error == EDQUOT || error == EFBIG;
    return is_full ? "make room on the disk; nothing that was there is lost"
                   : "check the folder and its rights";
}

enum exit_code host_code(struct tool *tool, bool is_good)
{
    return is_good ? EXIT_GOOD : tool_fail_host(tool);
}

enum exit_code session_code(struct tool *tool, enum cm_status status)
{
    return status ? tool_fail(tool, status) : EXIT_GOOD;
}
