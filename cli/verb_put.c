/*
 * put: make the chip hold these images.
 */
#include "tool.h"
#include <glob.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <time.h>
#include <unistd.h>

enum { MOST_FILES = 8 };

struct job {
    struct tool *tool;
    struct image_file files[MOST_FILES];
    struct cm_want wants[MOST_FILES];
    uint8_t count;
    char carried_path[4096];
};

/* "eeprom=FILE", or FILE for the region that --region or the default says. */
static enum exit_code split_thing(struct tool *tool, const char *thing, uint8_t *region, const char **path)
{
    const char *equals = strchr(thing, '=');
    char name[20] = "", evidence[300];
    *path = thing;
    if (equals && (size_t)(equals - thing) < sizeof name && !memchr(thing, '/', (size_t)(equals - thing))) {
        memcpy(name, thing, (size_t)(equals - thing));
        *path = equals + 1;
    } else {
        snprintf(name, sizeof name, "%s", tool->region ? tool->region : "flash");
    }
    int index = cm_region_by_name(&tool->session, name);
    if (index == CM_REGION_MAIN || index == CM_REGION_DATA) {
        *region = (uint8_t)index;
        return EXIT_GOOD;
    }
    snprintf(evidence, sizeof evidence, "'%s' for %.200s", name, *path);
    return tool_fail_as(tool, EXIT_USAGE, "no such memory to put a file into", evidence, "flash=FILE or eeprom=FILE");
}

/* Loads a file for a region and adds it to the job; an ELF file may hold nothing for it. */
static enum exit_code add_file(struct job *job, const char *path, uint8_t index, json_t *list)
{
    struct tool *tool = job->tool;
    struct cm_region region;
    if (job->count == MOST_FILES)
        return tool_fail_as(tool, EXIT_USAGE, "too many files at once", path, "eight at most");
    struct image_file *file = &job->files[job->count];
    cm_region(&tool->session, index, &region);
    enum exit_code code = image_file_load(tool, path, region.name, file);
    if (code || file->bytes == 0) {
        image_file_free(file);
        return code;
    }
    job->wants[job->count++] = (struct cm_want){index, file->source};
    say(tool, "file", "%s, %s: %u bytes, 0x%04X to 0x%04X, for %s", path, file->format, (unsigned)file->bytes,
        (unsigned)file->first, (unsigned)file->last, region.name);
    json_array_append_new(list, json_pack("{s:s, s:s, s:s, s:I, s:I, s:I}", "path", path, "format", file->format, "region",
                                          region.name, "bytes", (json_int_t)file->bytes, "first", (json_int_t)file->first, "last",
                                          (json_int_t)file->last));
    return EXIT_GOOD;
}

/* An ELF file for which no memory is named brings what it holds for the eeprom, too. */
static enum exit_code load_files(struct job *job, const char *const *things)
{
    struct tool *tool = job->tool;
    json_t *list = json_array();
    set_json(tool, "files", list);
    for (; *things; things++) {
        const char *path;
        uint8_t region = CM_REGION_MAIN, before = job->count;
        enum exit_code code = split_thing(tool, *things, &region, &path);
        bool named = path != *things || tool->region;
        if (!code)
            code = add_file(job, path, region, list);
        bool is_elf = !code && job->count > before && strcmp(job->files[before].format, "ELF") == 0;
        if (is_elf && !named)
            code = add_file(job, path, CM_REGION_DATA, list);
        if (!code && job->count == before)
            code = tool_fail_as(tool, EXIT_BAD_FILE, "the file holds nothing for this memory", path,
                                "name another: eeprom=FILE or flash=FILE");
        if (code)
            return code;
    }
    return EXIT_GOOD;
}

/* Two files for the same bytes are a mistake. */
static enum exit_code check_overlap(struct job *job)
{
    for (uint8_t a = 0; a < job->count; a++) {
        for (uint8_t b = 0; b < a; b++) {
            uint32_t start, bytes, other, other_bytes;
            const struct cm_source *one = &job->wants[a].source, *two = &job->wants[b].source;
            if (job->wants[a].region != job->wants[b].region)
                continue;
            for (uint32_t at = 0; one->extent(one->context, at, &start, &bytes); at = start + bytes) {
                char evidence[400];
                if (!two->extent(two->context, start, &other, &other_bytes) || other >= start + bytes) {
                    if (start + bytes < start)
                        break;
                    continue;
                }
                snprintf(evidence, sizeof evidence, "%.150s and %.150s both have bytes at 0x%04X", job->files[b].path,
                         job->files[a].path, (unsigned)other);
                return tool_fail_as(job->tool, EXIT_BAD_FILE, "two files want the same bytes", evidence,
                                    "put them one after the other, or join them first");
            }
        }
    }
    return EXIT_GOOD;
}

/* --- EEPROM carried over an erase ------------------------------------------------------------------------------ */

static void make_folders(char *path)
{
    for (char *slash = strchr(path + 1, '/'); slash; slash = strchr(slash + 1, '/')) {
        *slash = '\0';
        mkdir(path, 0777);
        *slash = '/';
    }
}

/* Beginning of the names of this part's saved EEPROMs. */
static void carried_stem(const struct tool *tool, char *stem, size_t bytes)
{
    const char *state = getenv("XDG_STATE_HOME"), *home = getenv("HOME");
    bool has_state = state && *state;
    snprintf(stem, bytes, "%s%s/coldmint/carried/%s-eeprom-",
             has_state ? state
             : home    ? home
                       : ".",
             has_state ? "" : "/.local/state", tool->session.part->name);
}

static void name_carried_file(struct job *job)
{
    char stamp[32], stem[3000];
    time_t now = time(NULL);
    struct tm parts;
    strftime(stamp, sizeof stamp, "%Y%m%d-%H%M%S", gmtime_r(&now, &parts));
    carried_stem(job->tool, stem, sizeof stem);
    snprintf(job->carried_path, sizeof job->carried_path, "%s%s-%ld.hex", stem, stamp, (long)getpid());
    make_folders(job->carried_path);
}

/* An earlier put was cut off between the erase and the end: what it had saved is still there. */
static void tell_left_behind(struct tool *tool)
{
    char pattern[3100];
    glob_t found;
    carried_stem(tool, pattern, sizeof pattern - 10);
    strcat(pattern, "*.hex");
    if (glob(pattern, 0, NULL, &found) == 0 && found.gl_pathc > 0)
        say(tool, "note", "an earlier put was cut off; the eeprom it had saved is in %s: add eeprom=THAT-FILE, then remove it",
            found.gl_pathv[found.gl_pathc - 1]);
    globfree(&found);
}

/* The erase is next: what it takes along is put on disk first. */
static enum cm_status save_carried(void *context, uint8_t region, const uint8_t *bytes, uint32_t count)
{
    struct job *job = context;
    struct new_file file;
    struct cm_record_writer writer;
    (void)region;
    name_carried_file(job);
    if (new_file_open(job->tool, job->carried_path, &file))
        return CM_REFUSED;
    cm_record_write_begin(&writer, CM_RECORDS_INTEL, new_file_text, file.stream);
    if (cm_record_write(&writer, 0, bytes, count) || cm_record_write_end(&writer)) {
        new_file_drop(&file);
        return CM_REFUSED;
    }
    if (new_file_commit(job->tool, &file))
        return CM_REFUSED;
    say(job->tool, "eeprom", "%u bytes saved, to be carried over the erase", (unsigned)count);
    return CM_OK;
}

static void end_carry(struct job *job, enum cm_status status)
{
    if (!job->carried_path[0])
        return;
    if (status == CM_OK) {
        unlink(job->carried_path);
        return;
    }
    struct words *words = &job->tool->words;
    size_t used = strlen(words->try);
    snprintf(words->try + used, sizeof words->try - used, ". The EEPROM's contents are in %.250s: add eeprom=THAT-FILE",
             job->carried_path);
}

/* --- the job --------------------------------------------------------------------------------------------------- */

static bool say_plan(void *context, const struct cm_report *report)
{
    struct tool *tool = context;
    char time[SHORT_TEXT];
    tool_progress_end(tool);
    tool->planned_work = report->pages_written || report->erase;
    seconds_text(report->predicted_us, time, sizeof time);
    if (!tool->planned_work)
        say(tool, "plan", "nothing to do: all %u pages are right already", (unsigned)report->pages);
    else
        say(tool, "plan", "%s%u of %u pages to write%s%s; about %s", report->erase ? "chip erase, then " : "",
            (unsigned)report->pages_written, (unsigned)report->pages, report->erase ? "" : ", nothing to erase",
            report->carried ? ", eeprom carried over" : "", time);
    return true;
}

static void say_done(struct tool *tool, const struct cm_report *report)
{
    char took[SHORT_TEXT], expected[SHORT_TEXT];
    if (report->pages_written)
        say(tool, "done", "%s%u pages, %u bytes written and read back in %s (%s expected)%s", report->erase ? "erased; " : "",
            (unsigned)report->pages_written, (unsigned)report->bytes_written, seconds_text(report->actual_us, took, sizeof took),
            seconds_text(report->predicted_us, expected, sizeof expected), report->relocked ? "; lock byte put back" : "");
    if (tool->session.recoveries)
        say(tool, "note", "contact was lost and found again %u times", (unsigned)tool->session.recoveries);
}

static void name_files(const struct job *job, char *names, size_t bytes)
{
    size_t used = 0;
    names[0] = '\0';
    for (uint8_t i = 0; i < job->count && used < bytes; i++) {
        if (i > 0 && strcmp(job->files[i].path, job->files[i - 1].path) == 0)
            continue; // an ELF file for two memories
        const char *slash = strrchr(job->files[i].path, '/');
        used += (size_t)snprintf(names + used, bytes - used, "%s%s", i ? " and " : "", slash ? slash + 1 : job->files[i].path);
    }
}

/* A locked chip was erased, and the job ended before its lock was put back. */
static void tell_lifted_lock(struct tool *tool, const struct cm_report *report)
{
    size_t used = strlen(tool->words.try);
    if (report->unlocked)
        snprintf(tool->words.try + used, sizeof tool->words.try - used, ". The lock byte was 0x%02X and is not back", report->lock);
}

/* Waits for the clip to be seated again, as long as the person allows. */
static bool wait_for_contact(void *context, const struct cm_failure *failure)
{
    enum { PAUSE_US = 200000 };
    struct tool *tool = context;
    uint32_t now_us = tool->port->now_us(tool->port);
    if (!tool->waiting) {
        tool_progress_end(tool);
        fprintf(stderr, "contact lost while %s %s at 0x%04X; waiting up to %d s for it\n", step_words(failure->step),
                failure->region ? failure->region : "the chip", (unsigned)failure->address, tool->wait_seconds);
        tool->waiting = true;
        tool->waiting_since_us = now_us;
    }
    tool->port->wait_us(tool->port, PAUSE_US);
    return !tool_interrupted && now_us - tool->waiting_since_us < (uint32_t)tool->wait_seconds * 1000000u;
}

static enum exit_code put(struct job *job)
{
    struct tool *tool = job->tool;
    struct cm_report report;
    struct cm_region data;
    uint8_t *carry = cm_region(&tool->session, CM_REGION_DATA, &data) && data.bytes ? malloc(data.bytes) : NULL;
    struct cm_put put = {.wants = job->wants,
                         .want_count = job->count,
                         .unprotect = tool->unprotect,
                         .lose_data = tool->lose_data,
                         .carry = {.bytes = carry, .size = carry ? data.bytes : 0, .saved = save_carried, .context = job},
                         .progress = tool_progress,
                         .progress_context = tool,
                         .planned = say_plan,
                         .planned_context = tool};
    if (tool->wait_seconds > 0) {
        tool->session.on_lost = wait_for_contact;
        tool->session.lost_context = tool;
    }
    enum cm_status status = tool->only_plan ? cm_plan(&tool->session, &put, &report) : cm_put(&tool->session, &put, &report);
    tool_progress_end(tool);
    if (tool->only_plan && !status)
        say_plan(tool, &report);
    set_json(tool, "report", json_report(&report));
    enum exit_code code = status ? tool_fail(tool, status) : EXIT_GOOD;
    end_carry(job, status);
    tell_lifted_lock(tool, &report);
    free(carry);
    if (code) {
        if (tool->planned_work)
            say(tool, "so far", "%u of %u pages are right", (unsigned)(report.pages_written + report.pages_equal),
                (unsigned)report.pages);
        return code;
    }
    char names[200];
    name_files(job, names, sizeof names);
    if (tool->planned_work && !tool->only_plan)
        say_done(tool, &report);
    if (tool->only_plan)
        say_last(tool, "planned only; %s is unchanged", chip_name(tool));
    else
        say_last(tool, "%s holds %s%s", chip_name(tool), names, tool->planned_work ? "" : "; it did before");
    return EXIT_GOOD;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    if (!things[0])
        return tool_fail_as(tool, EXIT_USAGE, "nothing to put", "no file is named", "coldmint put FILE, or flash=FILE eeprom=FILE");
    if (tool->wait_seconds < 0 || tool->wait_seconds > 3600)
        return tool_fail_as(tool, EXIT_USAGE, "--wait is not a number of seconds that makes sense", "0 to 3600",
                            "for example --wait 30");
    struct job job = {.tool = tool};
    enum exit_code code = tool_begin(tool);
    if (!code)
        tell_left_behind(tool);
    if (!code)
        code = load_files(&job, things);
    if (!code)
        code = check_overlap(&job);
    if (!code)
        code = put(&job);
    for (uint8_t i = 0; i < MOST_FILES; i++)
        image_file_free(&job.files[i]);
    return code;
}

static const struct poptOption options[] = {
    {"region", 'r', POPT_ARG_STRING, &the_tool.region, 0, "memory that a file without REGION= is for; flash if not given",
     "REGION"},
    {"plan", 0, POPT_ARG_NONE, &the_tool.only_plan, 0, "say what would be done, and do nothing", NULL},
    {"unprotect", 0, POPT_ARG_NONE, &the_tool.unprotect, 0, "a locked chip may be erased; its lock byte is put back", NULL},
    {"wait", 0, POPT_ARG_INT, &the_tool.wait_seconds, 0, "if contact is lost, wait so long for it and go on", "SECONDS"},
    {"lose-data", 0, POPT_ARG_NONE, &the_tool.lose_data, 0, "a chip erase may clear the eeprom, instead of carrying it over", NULL},
    POPT_TABLEEND};

const struct verb verb_put = {
    .name = "put",
    .things = "[options] [REGION=]FILE ...",
    .summary = "make the chip hold these images; erase and write only what differs, and prove it",
    .example = "coldmint put --via sim:node.yaml --chip attiny84a strike-node.hex",
    .mistake = "taking another board's file: --chip NAME stops the job when the wrong chip is on the wires",
    .options = options,
    .run = run,
};
