/*
 * put: make the chip hold these images, or be again what a capsule kept.
 */
#include "begin.h"
#include "block.h"
#include "job.h"
#include "say.h"
#include "words/capsule.h"
#include "words/fail.h"
#include "words/settings.h"
#include <stdio.h>
#include <string.h>

static struct {
    struct job_options job;
    char *region, *carry, *carry_to;
    int settings_too;
} given;

/* "eeprom=FILE", or FILE for the region that --region or the default says. */
static enum exit_code split_thing(struct tool *tool, const char *thing, uint8_t *region,
                                  const char **path)
{
    const char *equals = strchr(thing, '=');
    char name[20] = "", evidence[300];
    *path = thing;
    if (equals && (size_t)(equals - thing) < sizeof name &&
        !memchr(thing, '/', (size_t)(equals - thing))) {
        memcpy(name, thing, (size_t)(equals - thing));
        *path = equals + 1;
    } else {
        snprintf(name, sizeof name, "%s", given.region ? given.region : main_region(tool));
    }
    int index = cm_region_by_name(&tool->session, name);
    if (index == CM_REGION_MAIN || index == CM_REGION_DATA) {
        *region = (uint8_t)index;
        return EXIT_GOOD;
    }
    snprintf(evidence, sizeof evidence, "'%s' for %.200s", name, *path);
    return tool_fail_as(tool, EXIT_USAGE, "no such memory to put a file into", evidence,
                        is_memory(tool, tool->session.part)
                            ? "this chip has one memory: leave the name out"
                            : "flash=FILE or eeprom=FILE");
}

/* A file of a linker for which no memory is named brings what it holds for the eeprom, too. */
static enum exit_code load_file(struct tool *tool, struct cm_job *job, const char *thing)
{
    const char *path;
    uint8_t region = CM_REGION_MAIN;
    bool added = false, more;
    enum exit_code code = split_thing(tool, thing, &region, &path);
    bool is_named = path != thing || given.region;
    if (!code)
        code = host_code(tool, cm_job_want_file(job, path, region, &added));
    if (!code && !added)
        code = tool_fail_as(tool, EXIT_BAD_FILE, "the file holds nothing for this memory", path,
                            "name another: eeprom=FILE or flash=FILE");
    if (!code && !is_named)
        code = host_code(tool, cm_job_want_rest(job, path, CM_REGION_DATA, &more));
    if (!code)
        cm_job_tell_left_out(job, path);
    return code;
}

static enum exit_code load_files(struct tool *tool, struct cm_job *job, const char *const *things)
{
    enum exit_code code = EXIT_GOOD;
    set_json(tool, "files", json_array());
    for (; *things && !code; things++)
        code = load_file(tool, job, *things);
    return code;
}

/* Fuses and lock bits in the files are told, and wanted with --settings. */
static enum exit_code look_for_settings(struct tool *tool, struct cm_job *job)
{
    uint8_t now[CM_SETTING_BYTES], wanted[CM_SETTING_BYTES];
    bool found;
    memset(wanted, 0, sizeof wanted);
    enum exit_code code = host_code(tool, cm_job_settings_in_files(job, wanted, &found));
    if (code || !found)
        return code;
    code = session_code(tool, cm_read_settings(&tool->session, now));
    memcpy(wanted, now, sizeof wanted);
    if (!code)
        code = host_code(tool, cm_job_settings_in_files(job, wanted, &found));
    if (code || memcmp(wanted, now, sizeof now) == 0)
        return code;
    if (given.settings_too)
        return host_code(tool, cm_job_want_settings(job, now, wanted, CM_ALL_FENCES));
    say(tool, "note",
        "the file also wants other fuses or lock bits than the chip has; --settings writes them:");
    settings_show_change(tool, tool->session.part, now, wanted);
    return EXIT_GOOD;
}

static struct block_carry carried;

static enum exit_code put_files(struct tool *tool, struct cm_job *job, const char *const *things)
{
    enum exit_code code = tool_begin(tool);
    if (code)
        return code;
    cm_job_tell_left_behind(job);
    code = load_files(tool, job, things);
    if (!code && given.carry)
        code = block_carry(tool, job, &carried, given.carry, given.carry_to);
    if (!code)
        code = host_code(tool, cm_job_check(job));
    return code ? code : look_for_settings(tool, job);
}

static enum exit_code put_capsule(struct tool *tool, struct cm_job *job, const char *const *things)
{
    if (given.carry)
        return tool_fail_as(tool, EXIT_USAGE, "a capsule brings its own settings block",
                            given.carry, "leave --carry out");
    if (things[1])
        return tool_fail_as(tool, EXIT_USAGE, "a capsule is put alone", things[1],
                            "it holds all of a chip");
    enum exit_code code = host_code(tool, cm_job_open_capsule(job, things[0]));
    if (!code)
        code = tool_begin(tool);
    if (code)
        return code;
    capsule_say(tool, &job->capsule);
    return host_code(tool, cm_job_want_capsule(job));
}

static enum exit_code put(struct tool *tool, struct cm_job *job, const char *const *things)
{
    enum exit_code code = cm_capsule_is_file(&tool->host, things[0])
                              ? put_capsule(tool, job, things)
                              : put_files(tool, job, things);
    if (!code)
        code = job_run(tool, job, &given.job);
    if (!code)
        job_say_verdict(tool, job);
    return code;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    if (!things[0])
        return tool_fail_as(tool, EXIT_USAGE, "nothing to put", "no file is named",
                            "coldmint put FILE, or flash=FILE eeprom=FILE");
    enum exit_code code = job_check_options(tool, &given.job);
    if (!code && given.carry_to && !given.carry)
        code = tool_fail_as(tool, EXIT_USAGE, "--carry-to needs --carry", given.carry_to,
                            "--carry OLD.yaml --carry-to NEW.yaml");
    struct cm_job *job = code ? NULL : job_new(tool, &given.job);
    if (job)
        code = put(tool, job, things);
    cm_job_free(job);
    block_carry_free(&carried);
    return job ? code : tool->words.code;
}

static const struct poptOption options[] = {
    {"region", 'r', POPT_ARG_STRING, &given.region, 0,
     "memory that a file without REGION= is for; the main one if not given", "REGION"},
    PLAN_OPTION(given.job, "say what would be done, and do nothing"),
    UNPROTECT_OPTION(given.job, UNPROTECT_WORDS),
    ANYWAY_OPTION(given.job),
    KEEP_BOOT_OPTION(given.job),
    LOSE_BOOT_OPTION(given.job),
    {"settings", 0, POPT_ARG_NONE, &given.settings_too, 0,
     "also write the fuses and lock bits that a linker's file carries", NULL},
    {"carry", 0, POPT_ARG_STRING, &given.carry, 0,
     "keep the application's settings block as the chip has it, by the map of its fields",
     "FIELDS.yaml"},
    {"carry-to", 0, POPT_ARG_STRING, &given.carry_to, 0,
     "with --carry: in the form of a newer version's map; fields go over by name", "FIELDS.yaml"},
    ALLOW_OPTION(given.job, "of a capsule or a linker's file: " ALLOW_WORDS),
    NO_BACKUP_OPTION(given.job),
    WAIT_OPTION(given.job),
    LOSE_DATA_OPTION(given.job),
    POPT_TABLEEND};

const struct verb verb_put = {
    .name = "put",
    .things = "[options] [REGION=]FILE ...",
    .summary = "make the chip hold these images; erase and write only what differs, and prove it",
    .example = "coldmint put --via sim:node.yaml --chip attiny84a strike-node.hex",
    .mistake = "taking another board's file: --chip NAME stops the job when the wrong chip is on "
               "the wires",
    .options = options,
    .run = run,
};
