/*
 * keep: all that the chip holds into a capsule, or one memory into an image file; every byte read
 * twice.
 */
#include "begin.h"
#include "progress.h"
#include "say.h"
#include "words/capsule.h"
#include "words/fail.h"
#include <errno.h>
#include <stdio.h>
#include <string.h>

static struct {
    char *region, *format, *notes;
    int replace, even_blank;
} given;

struct kept {
    struct tool *tool;
    bool has_data; /* not all of it is blank */
    struct cm_repeats repeats;
    struct cm_new_file file;
    struct cm_image_writer writer;
};

static enum cm_status take(void *context, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    struct kept *kept = context;
    cm_repeats_take(&kept->repeats, address, bytes, count);
    for (uint32_t i = 0; i < count && !kept->has_data; i++)
        kept->has_data = bytes[i] != 0xFF;
    return cm_image_write(&kept->writer, address, bytes, count);
}

static bool on_progress(void *context, const struct cm_progress *progress)
{
    return tool_progress(((struct kept *)context)->tool, progress);
}

static enum exit_code fail_format(struct tool *tool, const char *asked)
{
    return tool_fail_as(tool, EXIT_USAGE, "no such format to write", asked,
                        "--format hex, srec or raw");
}

/* The name as asked, with the extension of its format if it has none; or one made from chip and
 * memory. */
static enum exit_code name_file(struct tool *tool, const char *asked, const char *region,
                                char *path, size_t bytes, const struct cm_file_format **format)
{
    const struct cm_file_format *by_extension =
        asked ? cm_format_by_extension(&tool->host, asked) : NULL;
    char made[100];
    *format = given.format   ? cm_format_by_name(&tool->host, given.format)
              : by_extension ? by_extension
                             : &cm_format_hex;
    if (!*format || !(*format)->write)
        return fail_format(tool, given.format ? given.format : asked);
    snprintf(made, sizeof made, "%s-%s", tool->session.part->name, region);
    cm_name_with_extension(path, bytes, asked ? asked : made, (*format)->extensions[0]);
    return EXIT_GOOD;
}

static enum exit_code fail_reading(struct tool *tool, enum cm_status status)
{
    enum exit_code code = tool_fail(tool, status);
    return status != CM_DIFFERS
               ? code
               : tool_fail_as(tool, EXIT_CONTACT_LOST, "two reads of the chip do not agree",
                              tool->words.evidence, "seat the clip again and repeat");
}

/* A part that has no id cannot be told from an empty socket, where all that is read is what the
 * wires rest at. */
static enum exit_code check_is_there(struct tool *tool, bool blank)
{
    if (tool->session.part->id_bytes || !blank || given.even_blank)
        return EXIT_GOOD;
    return tool_fail_as(
        tool, EXIT_NO_CHIP, "all bytes are FF: nothing may be in the socket",
        "this part has no id that could be asked for, and a bus that nobody drives reads FF",
        "look at the seat and at pin 1; if the chip really is blank, --even-blank keeps it");
}

static enum exit_code keep(struct tool *tool, const char *path, int region,
                           const struct cm_file_format *format)
{
    struct kept kept = {.tool = tool};
    struct cm_region memory;
    struct cm_report report;
    char took[SHORT_TEXT];
    enum exit_code code = host_code(tool, cm_new_file_open(&tool->host, path, &kept.file));
    if (code)
        return code;
    cm_region(&tool->session, (uint8_t)region, &memory);
    cm_repeats_begin(&kept.repeats, tool->session.part, memory.bytes);
    cm_image_write_begin(&kept.writer, format, kept.file.stream);
    enum cm_status status =
        cm_keep(&tool->session, (uint8_t)region, take, on_progress, &kept, &report);
    if (!status)
        status = cm_image_write_end(&kept.writer);
    int error = errno;
    uint32_t every = cm_repeats_end(&kept.repeats);
    tool_progress_end(tool);
    if (status) {
        cm_new_file_drop(&kept.file);
        if (status == CM_BAD_IMAGE)
            return tool_fail_as(tool, EXIT_BAD_FILE, "the file cannot be written", path,
                                disk_advice(error));
        return fail_reading(tool, status);
    }
    code = check_is_there(tool, !kept.has_data);
    if (code)
        cm_new_file_drop(&kept.file);
    else
        code = host_code(tool, cm_new_file_commit(&tool->host, &kept.file));
    if (code)
        return code;
    set_json(tool, "file", json_text(path));
    set_json(tool, "report", json_report(&report));
    say(tool, "done", "%u bytes, read twice alike, in %s", (unsigned)report.bytes,
        seconds_text(report.actual_us, took, sizeof took));
    repeats_say(tool, every);
    say_last(tool, "%s holds what the chip holds", path);
    return EXIT_GOOD;
}

/* --- all of the chip, into a capsule ----------------------------------------------------- */

/* One memory is kept where a memory, a format or a file of such a format is asked for. */
static bool wants_one_memory(const struct tool *tool, const char *path)
{
    return given.region || given.format || (path && cm_format_by_extension(&tool->host, path));
}

/* What a locked chip answers would look like a backup, and be none. */
static enum exit_code check_readable(struct tool *tool)
{
    struct cm_guard guard;
    char evidence[200];
    enum cm_status status = cm_guard_look(&tool->session, &guard);
    if (status)
        return tool_fail(tool, status);
    if (!guard.bars_reading)
        return EXIT_GOOD;
    snprintf(evidence, sizeof evidence,
             "the lock byte reads 0x%02X: the chip would answer, and not with what it holds",
             guard.registers[0]);
    return tool_fail_as(
        tool, EXIT_PROTECTED, "the chip is locked against reading, so there is nothing to keep",
        evidence,
        "'keep --region fuses' still works; the memories can only be cleared, with 'erase'");
}

static enum exit_code keep_all(struct tool *tool, const char *asked)
{
    char path[4096], took[SHORT_TEXT];
    struct cm_new_file file;
    struct cm_chip_kept facts;
    const struct cm_chip_keep how = {.memories = true,
                                     .notes = given.notes,
                                     .progress = tool_progress,
                                     .progress_context = tool};
    struct cm_region region;
    cm_name_with_extension(path, sizeof path, asked ? asked : tool->session.part->name, ".mint");
    if (given.notes && strlen(given.notes) >= CM_CAPSULE_NOTES)
        return tool_fail_as(tool, EXIT_USAGE, "the notes are too long for a capsule",
                            "199 bytes are the most", "make them shorter");
    enum exit_code code = check_readable(tool);
    if (code)
        return code;
    code = host_code(tool, cm_chip_keep(&tool->host, &tool->session, path, &how, &file, &facts));
    tool_progress_end(tool);
    if (!code && (code = check_is_there(tool, facts.blank)) != EXIT_GOOD)
        cm_new_file_drop(&file);
    else if (!code)
        code = host_code(tool, cm_new_file_commit(&tool->host, &file));
    if (code)
        return code;
    for (uint8_t i = 0, shown = 0; cm_region(&tool->session, i, &region); i++) {
        if (region.bytes)
            say(tool, shown++ ? "" : "bytes", "%-12s %9u", region.name, (unsigned)region.bytes);
    }
    set_json(tool, "file", json_text(path));
    say(tool, "done", "%u bytes, read twice alike, in %s", (unsigned)facts.bytes,
        seconds_text(facts.took_us, took, sizeof took));
    repeats_say(tool, facts.repeats_every);
    say_last(tool, "%s holds all that the chip holds", path);
    return EXIT_GOOD;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    char path[4096];
    const struct cm_file_format *format;
    tool->host.replace = given.replace;
    if (things[0] && things[1])
        return tool_fail_as(tool, EXIT_USAGE, "keep writes one file", things[1],
                            "coldmint keep [FILE] [--region eeprom]");
    enum exit_code code = tool_begin(tool);
    if (code)
        return code;
    if (!wants_one_memory(tool, things[0]))
        return keep_all(tool, things[0]);
    const char *name = given.region ? given.region : main_region(tool);
    int region = cm_region_by_name(&tool->session, name);
    if (region < 0)
        return tool_fail_as(tool, EXIT_USAGE, "no such memory", name,
                            is_memory(tool, tool->session.part)
                                ? "this chip has its memory and 'status'"
                                : "--region flash, eeprom, fuses, lock or calibration");
    code = name_file(tool, things[0], name, path, sizeof path, &format);
    return code ? code : keep(tool, path, region, format);
}

static const struct poptOption options[] = {
    {"region", 'r', POPT_ARG_STRING, &given.region, 0,
     "keep one memory, instead of all in a capsule", "REGION"},
    {"format", 0, POPT_ARG_STRING, &given.format, 0,
     "of one memory: hex, srec or raw; by the file's extension if not given", "FORMAT"},
    {"notes", 0, POPT_ARG_STRING, &given.notes, 0, "a line to be kept in the capsule", "TEXT"},
    {"replace", 0, POPT_ARG_NONE, &given.replace, 0, "overwrite the file if it exists", NULL},
    {"even-blank", 0, POPT_ARG_NONE, &given.even_blank, 0,
     "for a part without an id: keep it even if all bytes are FF", NULL},
    POPT_TABLEEND};

const struct verb verb_keep = {
    .name = "keep",
    .things = "[options] [FILE]",
    .summary =
        "back up all of the chip into a capsule, or one memory into a file; every byte read twice",
    .example = "coldmint keep --via sim:node.yaml before-the-update",
    .mistake = "keeping the flash only, as a .hex file: eeprom and fuses belong to a full restore, "
               "and a capsule has them",
    .options = options,
    .run = run,
};
