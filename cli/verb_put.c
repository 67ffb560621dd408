/*
 * put: make the chip hold these images, or be again what a capsule kept.
 */
#include "capsule.h"
#include "job.h"
#include "settings.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

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
        snprintf(name, sizeof name, "%s", tool->region ? tool->region : main_region(tool));
    }
    int index = cm_region_by_name(&tool->session, name);
    if (index == CM_REGION_MAIN || index == CM_REGION_DATA) {
        *region = (uint8_t)index;
        return EXIT_GOOD;
    }
    snprintf(evidence, sizeof evidence, "'%s' for %.200s", name, *path);
    return tool_fail_as(tool, EXIT_USAGE, "no such memory to put a file into", evidence,
                        is_memory(tool->session.part)
                            ? "this chip has one memory: leave the name out"
                            : "flash=FILE or eeprom=FILE");
}

/* Bytes at the addresses of fuses, for instance. */
static void tell_left_out(struct tool *tool, const struct job *job, uint8_t before)
{
    const struct image_file *file = &job->files[before];
    uint32_t loaded = 0;
    for (uint8_t i = before; i < job->file_count; i++)
        loaded += job->files[i].bytes;
    bool is_elf = strcmp(file->format, "ELF") == 0; // there that is as it should be
    if (!is_elf && file->is_placed && file->image.byte_count > loaded)
        say(tool, "note", "%u more bytes of it are at addresses of other regions",
            (unsigned)(file->image.byte_count - loaded));
}

/* A file of a linker for which no memory is named brings what it holds for the eeprom, too. */
static enum exit_code load_files(struct job *job, const char *const *things)
{
    struct tool *tool = job->tool;
    json_t *list = json_array();
    set_json(tool, "files", list);
    for (; *things; things++) {
        const char *path;
        uint8_t region = CM_REGION_MAIN, before = job->file_count;
        enum exit_code code = split_thing(tool, *things, &region, &path);
        bool named = path != *things || tool->region;
        if (!code)
            code = job_add_file(job, path, region, list);
        if (!code && !named && job->file_count > before && job_file_has_more(&job->files[before]))
            code = job_add_rest(job, path, CM_REGION_DATA, list);
        if (!code && job->file_count > before)
            tell_left_out(tool, job, before);
        if (!code && job->file_count == before)
            code = tool_fail_as(tool, EXIT_BAD_FILE, "the file holds nothing for this memory", path,
                                "name another: eeprom=FILE or flash=FILE");
        if (code)
            return code;
    }
    return EXIT_GOOD;
}

/* --- settings that a file carries -------------------------------------------------------- */

/* Lays the bytes that a file has for a region of settings over those in the job. */
static enum exit_code take_setting_region(struct job *job, const char *path, uint8_t index,
                                          bool *found)
{
    struct tool *tool = job->tool;
    struct cm_setting_byte byte;
    struct cm_region region;
    struct image_file file;
    uint32_t start, count;
    cm_region(&tool->session, index, &region);
    enum exit_code code = image_file_load(tool, path, region.name, &file);
    for (uint8_t i = 0;
         !code && file.bytes && words_of(tool->session.part)->byte(tool->session.part, i, &byte);
         i++) {
        bool has = byte.region == index && file.is_placed &&
                   file.source.extent(file.source.context, byte.address, &start, &count) &&
                   start == byte.address;
        if (has)
            file.source.read(file.source.context, byte.address, &job->settings[i], 1);
        *found |= has;
    }
    image_file_free(&file);
    return code;
}

/* The file is read once for each region that settings live in: their bytes stand together. */
static enum exit_code take_settings(struct job *job, const char *path, bool *found)
{
    struct cm_setting_byte byte;
    enum exit_code code = EXIT_GOOD;
    int last = -1;
    for (uint8_t i = 0;
         !code && words_of(job->tool->session.part)->byte(job->tool->session.part, i, &byte); i++) {
        if (byte.region != last)
            code = take_setting_region(job, path, byte.region, found);
        last = byte.region;
    }
    return code;
}

/* Files of linkers: what lies at the addresses of settings is for them. Each is looked at once,
 * though it may be in the job for more than one region. */
static bool may_carry_settings(const struct job *job, uint8_t index)
{
    bool is_first = index == 0 || job->files[index].path != job->files[index - 1].path;
    return is_first && job_file_has_more(&job->files[index]);
}

static bool any_may_carry_settings(const struct job *job)
{
    uint8_t i = 0;
    while (i < job->file_count && !may_carry_settings(job, i))
        i++;
    return i < job->file_count;
}

static enum exit_code want_settings(struct job *job, const uint8_t *now)
{
    struct tool *tool = job->tool;
    job->has_settings = true;
    enum exit_code code = settings_check_allowed(tool, tool->session.part);
    return code ? code
                : settings_check_fences(tool, tool->session.part, now, job->settings,
                                        (const char *const *)tool->allow, tool_supply_mv(tool),
                                        ALL_FENCES);
}

/* Fuses and lock bits in the files are told, and wanted with --settings. */
static enum exit_code look_for_settings(struct job *job)
{
    struct tool *tool = job->tool;
    uint8_t now[CM_SETTING_BYTES];
    bool found = false;
    if (!any_may_carry_settings(job))
        return EXIT_GOOD;
    enum cm_status status = cm_read_settings(&tool->session, now);
    enum exit_code code = status ? tool_fail(tool, status) : EXIT_GOOD;
    memcpy(job->settings, now, sizeof now);
    for (uint8_t i = 0; i < job->file_count && !code; i++) {
        if (may_carry_settings(job, i))
            code = take_settings(job, job->files[i].path, &found);
    }
    if (code || !found || memcmp(job->settings, now, sizeof now) == 0)
        return code;
    if (tool->settings_too)
        return want_settings(job, now);
    say(tool, "note",
        "the file also wants other fuses or lock bits than the chip has; --settings writes them:");
    settings_show_change(tool, tool->session.part, now, job->settings);
    return EXIT_GOOD;
}

static void say_verdict(struct job *job)
{
    struct tool *tool = job->tool;
    char names[200];
    job_names(job, names, sizeof names);
    if (tool->only_plan)
        say_last(tool, "planned only; %s is unchanged", chip_name(tool));
    else
        say_last(tool, "%s holds %s%s", chip_name(tool), names,
                 tool->planned_work ? "" : "; it did before");
}

static enum exit_code put_files(struct job *job, const char *const *things)
{
    enum exit_code code = tool_begin(job->tool);
    if (!code)
        carry_tell_left_behind(job->tool);
    if (!code)
        code = load_files(job, things);
    if (!code)
        code = job_check_overlap(job);
    if (!code)
        code = job_check_fit(job);
    if (!code)
        code = look_for_settings(job);
    if (!code)
        code = job_run(job);
    if (!code)
        say_verdict(job);
    return code;
}

/* Every memory of a capsule is wanted whole, and every setting; what can only be read is compared
 * by match. */
static enum exit_code want_capsule(struct job *job)
{
    struct tool *tool = job->tool;
    enum cm_status status = cm_restore_begin(&tool->session, &job->capsule.capsule, &job->restore);
    if (status)
        return tool_fail(tool, status);
    for (uint8_t i = 0; i < job->restore.mint.put.want_count; i++) {
        job->want_names[job->want_count] = job->capsule.path;
        job->wants[job->want_count++] = job->restore.wants[i];
    }
    memcpy(job->settings, job->restore.settings, sizeof job->settings);
    job->has_settings = true;
    return EXIT_GOOD;
}

/* A capsule is its own word for locks and clocks: the chip it was kept from ran so. What would
 * close the chip is still refused. */
static enum exit_code put_capsule(struct job *job, const char *const *things)
{
    const unsigned kinds = 1u << CM_FENCE_ENDS_ACCESS | 1u << CM_FENCE_NOT_HERE;
    struct tool *tool = job->tool;
    uint8_t now[CM_SETTING_BYTES];
    if (things[1])
        return tool_fail_as(tool, EXIT_USAGE, "a capsule is put alone", things[1],
                            "it holds all of a chip");
    enum exit_code code = capsule_load(tool, things[0], &job->capsule);
    if (!code)
        code = tool_begin(tool);
    if (!code) {
        capsule_say(tool, &job->capsule);
        code = capsule_check_chip(tool, &job->capsule);
    }
    if (!code)
        code = settings_check_allowed(tool, tool->session.part);
    enum cm_status status = code ? CM_OK : cm_read_settings(&tool->session, now);
    if (code || status)
        return code ? code : tool_fail(tool, status);
    code = want_capsule(job);
    if (!code)
        code = settings_check_fences(tool, tool->session.part, now, job->settings,
                                     (const char *const *)tool->allow, tool_supply_mv(tool), kinds);
    if (!code)
        code = job_run(job);
    if (!code)
        say_verdict(job);
    return code;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    if (!things[0])
        return tool_fail_as(tool, EXIT_USAGE, "nothing to put", "no file is named",
                            "coldmint put FILE, or flash=FILE eeprom=FILE");
    enum exit_code code = job_check_options(tool);
    if (code)
        return code;
    struct job *job = calloc(1, sizeof *job);
    if (!job)
        return tool_fail_as(tool, EXIT_BAD_FILE, "there is not enough memory", "",
                            "close other programs");
    job->tool = tool;
    code = capsule_is_one(things[0]) ? put_capsule(job, things) : put_files(job, things);
    job_free(job);
    free(job);
    return code;
}

static const struct poptOption options[] = {
    {"region", 'r', POPT_ARG_STRING, &the_tool.region, 0,
     "memory that a file without REGION= is for; the main one if not given", "REGION"},
    {"plan", 0, POPT_ARG_NONE, &the_tool.only_plan, 0, "say what would be done, and do nothing",
     NULL},
    {"unprotect", 0, POPT_ARG_NONE, &the_tool.unprotect, 0,
     "a locked chip may be erased, its lock byte is put back; a memory's protection is lifted for "
     "the job and put back",
     NULL},
    ANYWAY_OPTION,
    KEEP_BOOT_OPTION,
    LOSE_BOOT_OPTION,
    {"settings", 0, POPT_ARG_NONE, &the_tool.settings_too, 0,
     "also write the fuses and lock bits that a linker's file carries", NULL},
    {"allow", 0, POPT_ARG_ARGV, &the_tool.allow, 0,
     "of a capsule or a linker's file: make a choice of this setting that is refused otherwise",
     "SETTING"},
    NO_BACKUP_OPTION,
    WAIT_OPTION,
    LOSE_DATA_OPTION,
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
