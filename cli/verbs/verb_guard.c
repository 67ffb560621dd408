/*
 * guard: which area of a memory is protected, by which bits, and what holds them; lift it, set it,
 * put it back.
 */
#include "begin.h"
#include "job.h"
#include "numbers.h"
#include "say.h"
#include "words/capsule.h"
#include "words/fail.h"
#include "words/guard.h"
#include "words/settings.h"
#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct {
    struct job_options job;
    int lift;
    char *area, *restore_from;
} given;

/* --- areas in words ---------------------------------------------------------------------- */

static bool parse_amount(const char *text, uint32_t chip_bytes, uint32_t *bytes)
{
    uint32_t number, parts;
    if (strcmp(text, "half") == 0 || strcmp(text, "quarter") == 0 || strcmp(text, "eighth") == 0) {
        *bytes = chip_bytes / (text[0] == 'h' ? 2 : text[0] == 'q' ? 4 : 8);
        return true;
    }
    const char *end = read_number(text, &number);
    if (end && *end == '/') { // 1/16, 3/4
        if (!parse_number(end + 1, &parts) || !parts || number > parts)
            return false;
        *bytes = (uint32_t)((uint64_t)chip_bytes * number / parts);
        return true;
    }
    *bytes = number;
    return end && (*end == '\0' || strcmp(end, "iB") == 0) && number <= chip_bytes;
}

/* "none", "all", "upper-half", "lower-1/16", "upper-64K", "0x100000..0x1FFFFF". */
static bool parse_area(const char *text, uint32_t chip_bytes, uint32_t *first, uint32_t *bytes)
{
    uint32_t last;
    *first = 0;
    *bytes = strcmp(text, "all") == 0 ? chip_bytes : 0;
    if (strcmp(text, "all") == 0 || strcmp(text, "none") == 0)
        return true;
    if (strncmp(text, "lower-", 6) == 0)
        return parse_amount(text + 6, chip_bytes, bytes);
    if (strncmp(text, "upper-", 6) == 0) {
        bool good = parse_amount(text + 6, chip_bytes, bytes);
        *first = good ? chip_bytes - *bytes : 0;
        return good;
    }
    if (!strstr(text, "..") || !parse_range(text, first, &last) || last >= chip_bytes)
        return false;
    *bytes = last - *first + 1;
    return true;
}

/* --- changing ---------------------------------------------------------------------------- */

/* Registers are kept before they change; and how they were left, after it. */
static enum exit_code keep_before(struct cm_job *job, struct tool *tool,
                                  const struct cm_guard *before)
{
    return host_code(tool, cm_job_keep_before(job, false, before->registers));
}

static enum exit_code write_registers(struct tool *tool, struct cm_job *job,
                                      const struct cm_guard *before, const struct cm_guard *wanted)
{
    struct cm_guard now;
    settings_show_change(tool, tool->session.part, before->registers, wanted->registers);
    enum exit_code code = keep_before(job, tool, before);
    if (code)
        return code;
    enum cm_status status = cm_guard_restore(&tool->session, wanted);
    if (!status)
        status = cm_guard_look(&tool->session, &now);
    if (status == CM_PROTECTED)
        return guard_fail_held(tool, before);
    if (status)
        return tool_fail(tool, status);
    cm_job_forget_lifted(job, NULL);
    cm_job_end_record(job, &(struct cm_change_end){0});
    guard_say(tool, &now);
    return EXIT_GOOD;
}

/* The software data protection of EEPROMs and page flash: all of the chip, and not to be read back.
 */
static enum exit_code switch_data_protection(struct tool *tool, bool on)
{
    const struct cm_about *about = tool->session.kit->about;
    enum cm_status status = CM_BAD_ARGUMENT;
    if (about->protect_data)
        status = on ? about->protect_data(&tool->session) : about->unprotect_data(&tool->session);
    if (status)
        return tool_fail(tool, status);
    say_last(tool, on ? "the command that protects all of the chip was sent; only a write can show "
                        "that it was taken"
                      : "the command that ends software data protection was sent; only a write can "
                        "show that it was taken");
    return EXIT_GOOD;
}

static enum exit_code lift(struct tool *tool, struct cm_job *job, const struct cm_guard *guard)
{
    struct cm_guard now;
    if (guard->unreadable && guard->bytes == 0)
        return switch_data_protection(tool, false);
    if (guard->bytes == 0) {
        cm_job_forget_lifted(job, NULL);
        say_last(tool, "nothing is protected; it was so before");
        return EXIT_GOOD;
    }
    enum exit_code code = guard->count ? keep_before(job, tool, guard) : EXIT_GOOD;
    if (code)
        return code;
    enum cm_status status = cm_guard_lift(&tool->session, guard, CM_LIFT_FREE);
    if (status == CM_PROTECTED)
        return guard_fail_held(tool, guard);
    if (!status)
        status = cm_guard_look(&tool->session, &now);
    if (status)
        return tool_fail(tool, status);
    cm_job_forget_lifted(job, NULL);
    cm_job_end_record(job, &(struct cm_change_end){0});
    guard_say(tool, &now);
    say_last(tool, "protection is lifted, and stays so until it is set again");
    return EXIT_GOOD;
}

static enum exit_code set(struct tool *tool, struct cm_job *job, const struct cm_guard *guard,
                          const char *text)
{
    struct cm_region region;
    struct cm_guard wanted = *guard;
    uint32_t first, bytes;
    char area[120], evidence[400];
    cm_region(&tool->session, CM_REGION_MAIN, &region);
    if (!parse_area(text, region.bytes, &first, &bytes))
        return tool_fail_as(tool, EXIT_USAGE, "this is not an area of the chip", text,
                            "none, all, upper-half, lower-1/16, upper-64K, or 0x000000..0x0FFFFF");
    if (guard->unreadable && (bytes == 0 || bytes == region.bytes))
        return switch_data_protection(tool, bytes != 0);
    const struct cm_about *about = tool->session.kit->about;
    if (!about->guard_choose)
        return tool_fail_as(
            tool, EXIT_USAGE, "this part has no protection that could be set here",
            tool->session.part->name,
            guard->unreadable
                ? "its software data protection is for all of it: --set all, --set none"
            : guard->cost == CM_LIFT_VOLTAGE ? "its data sheet tells what 12 V on a pin would do"
                                             : "a pin of its own protects all of it: WP, on most");
    if (about->guard_choose(tool->session.part, &wanted, first, bytes) != CM_OK) {
        snprintf(evidence, sizeof evidence, "0x%06X to 0x%06X is wanted; the least that has it: %s",
                 (unsigned)first, (unsigned)(first + bytes - 1),
                 wanted.bytes ? guard_area_text(&wanted, region.bytes, area, sizeof area) : "none");
        return tool_fail_as(tool, EXIT_USAGE, "the chip's bits cannot protect just this area",
                            evidence, "nothing was changed; ask for an area that it has");
    }
    enum exit_code code = memcmp(wanted.registers, guard->registers, sizeof wanted.registers)
                              ? write_registers(tool, job, guard, &wanted)
                              : EXIT_GOOD;
    if (!code)
        say_last(tool, "protected: %s", guard_area_text(&wanted, region.bytes, area, sizeof area));
    return code;
}

static enum exit_code restore(struct tool *tool, struct cm_job *job, const struct cm_guard *guard,
                              const char *path)
{
    struct cm_capsule_file file;
    struct cm_guard wanted = *guard;
    enum exit_code code = host_code(tool, cm_capsule_file_load(&tool->host, path, &file));
    if (!code) {
        capsule_say(tool, &file);
        code = host_code(tool, cm_capsule_file_is_for(&tool->host, &file, &tool->session));
    }
    if (!code && !cm_capsule_file_settings(&file, &tool->session, wanted.registers))
        code = tool_fail_as(tool, EXIT_BAD_FILE, "the capsule can no longer be read", path,
                            "copy the file again");
    cm_capsule_file_free(&file);
    if (code)
        return code;
    tool->session.kit->about->guard_mean(tool->session.part, &wanted);
    if (memcmp(wanted.registers, guard->registers, sizeof wanted.registers) != 0)
        code = write_registers(tool, job, guard, &wanted);
    else
        guard_say(tool, guard);
    if (!code) {
        cm_job_forget_lifted(job, path);
        say_last(tool, "the registers are as %s has them", path);
    }
    return code;
}

static enum exit_code show(struct tool *tool, const struct cm_guard *guard)
{
    uint8_t settings[CM_SETTING_BYTES];
    enum exit_code code = session_code(tool, cm_read_settings(&tool->session, settings));
    if (code)
        return code;
    settings_show(tool, tool->session.part, settings);
    guard_say(tool, guard);
    say_last(tool, "%s; nothing was changed",
             guard->bytes ? "an erase or write there would do nothing"
                          : "all of the chip can be written");
    return EXIT_GOOD;
}

static enum exit_code change(struct tool *tool, struct cm_job *job, const struct cm_guard *guard)
{
    if (given.restore_from && !tool->session.kit->about->guard_mean)
        return tool_fail_as(tool, EXIT_USAGE, "this part has no registers to be restored",
                            tool->session.part->name, "--set all, --set none");
    if (given.restore_from)
        return restore(tool, job, guard, given.restore_from);
    guard_say(tool, guard);
    return given.lift ? lift(tool, job, guard) : set(tool, job, guard, given.area);
}

static enum exit_code guard_chip(struct tool *tool, struct cm_job *job)
{
    struct cm_guard guard;
    enum exit_code code = tool_begin(tool);
    if (code)
        return code;
    if (!is_memory(tool, tool->session.part))
        return tool_fail_as(tool, EXIT_USAGE, "guard is for memory chips", tool->session.part->name,
                            "a microcontroller has lock bits: see 'look' and 'tune'");
    code = session_code(tool, cm_guard_look(&tool->session, &guard));
    if (code)
        return code;
    bool changes = given.lift || given.area || given.restore_from;
    return changes ? change(tool, job, &guard) : show(tool, &guard);
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    if (things[0])
        return tool_fail_as(tool, EXIT_USAGE, "guard takes no things", things[0],
                            "coldmint guard [--lift | --set AREA | --restore FILE]");
    if ((given.lift != 0) + (given.area != NULL) + (given.restore_from != NULL) > 1)
        return tool_fail_as(tool, EXIT_USAGE, "one thing at a time",
                            "--lift, --set and --restore exclude each other", "give one of them");
    struct cm_job *job = job_new(tool, &given.job);
    enum exit_code code = job ? guard_chip(tool, job) : tool->words.code;
    cm_job_free(job);
    return code;
}

static const struct poptOption options[] = {
    {"lift", 0, POPT_ARG_NONE, &given.lift, 0, "remove all protection", NULL},
    {"set", 0, POPT_ARG_STRING, &given.area, 0,
     "protect this: none, all, upper-half, lower-1/16, upper-64K, 0x0..0xFFFF", "AREA"},
    {"restore", 0, POPT_ARG_STRING, &given.restore_from, 0,
     "put the registers back that a capsule has", "FILE"},
    NO_BACKUP_OPTION(given.job),
    POPT_TABLEEND};

const struct verb verb_guard = {
    .name = "guard",
    .things = "[options]",
    .summary = "show, lift, set or restore a memory's protection",
    .example = "coldmint guard --via sim:tune-store.yaml --set upper-quarter",
    .mistake = "lifting protection for one write and leaving it so: 'put --unprotect' puts it back "
               "by itself",
    .options = options,
    .run = run,
};
