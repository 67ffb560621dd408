/*
 * Capsules as files. A capsule is read whole into memory: on a host that is the simplest place that does not change under us.
 */
#include "capsule.h"
#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

/* --- reading ------------------------------------------------------------------------------------------------------ */

bool capsule_is_one(const char *path)
{
    static const char BEGINNING[] = "\x0A\x10"
                                    "coldmint capsule";
    char bytes[sizeof BEGINNING - 1];
    FILE *file = fopen(path, "rb");
    bool is_one = file && fread(bytes, 1, sizeof bytes, file) == sizeof bytes && memcmp(bytes, BEGINNING, sizeof bytes) == 0;
    if (file)
        fclose(file);
    const char *dot = strrchr(path, '.');
    return is_one || (dot && strcmp(dot, ".mint") == 0);
}

static enum cm_status from_memory(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    memcpy(bytes, (const char *)context + offset, count);
    return CM_OK;
}

enum exit_code capsule_load(struct tool *tool, const char *path, struct capsule_file *file)
{
    char what[400], evidence[200];
    size_t bytes = 0;
    memset(file, 0, sizeof *file);
    file->path = path;
    enum exit_code code = file_read_whole(tool, path, &file->contents, &bytes);
    if (code)
        return code;
    struct cm_capsule_input input = {file->contents, from_memory, (uint32_t)bytes};
    if (cm_capsule_open(&file->capsule, &input) == CM_OK)
        return EXIT_GOOD;
    snprintf(what, sizeof what, "%.300s: is not a whole capsule", path);
    snprintf(evidence, sizeof evidence, "%s, near byte %u of %u", cm_capsule_fault_word(file->capsule.fault),
             (unsigned)file->capsule.fault_offset, (unsigned)bytes);
    return tool_fail_as(tool, EXIT_BAD_FILE, what, evidence, "nothing was changed; copy the file again, or take another backup");
}

void capsule_free(struct capsule_file *file)
{
    free(file->contents);
    file->contents = NULL;
}

void capsule_say(struct tool *tool, const struct capsule_file *file)
{
    const struct cm_capsule_facts *facts = &file->capsule.facts;
    char when[40];
    time_t seconds = (time_t)facts->time;
    struct tm parts;
    if (!gmtime_r(&seconds, &parts) || !strftime(when, sizeof when, "%Y-%m-%d %H:%M UTC", &parts))
        snprintf(when, sizeof when, "no time");
    say(tool, "file", "%s, capsule of %s, %s, by %s%s%s", file->path, facts->chip, when, facts->tool, facts->notes[0] ? ": " : "",
        facts->notes);
    set_json(tool, "capsule",
             json_pack("{s:s, s:s, s:I, s:s, s:s}", "path", file->path, "chip", facts->chip, "time", (json_int_t)facts->time,
                       "tool", facts->tool, "notes", facts->notes));
}

enum exit_code capsule_check_chip(struct tool *tool, const struct capsule_file *file)
{
    const struct cm_capsule_facts *facts = &file->capsule.facts;
    const struct cm_part *part = tool->session.part;
    struct cm_region region;
    char evidence[300];
    bool same = cm_part_by_name(&tool_kit, 1, facts->chip) && facts->id_bytes == part->id_bytes &&
                memcmp(facts->id, part->id, part->id_bytes) == 0;
    for (uint8_t i = 0; same && i < file->capsule.region_count; i++) {
        int index = cm_region_by_name(&tool->session, file->capsule.regions[i].name);
        same = index >= 0 && cm_region(&tool->session, (uint8_t)index, &region) && region.bytes == file->capsule.regions[i].bytes;
    }
    if (same)
        return EXIT_GOOD;
    snprintf(evidence, sizeof evidence, "it is of %s, id %02X %02X %02X; the chip is %s, id %02X %02X %02X", facts->chip,
             facts->id[0], facts->id[1], facts->id[2], chip_name(tool), part->id[0], part->id[1], part->id[2]);
    return tool_fail_as(tool, EXIT_WRONG_CHIP, "the capsule is of another kind of chip", evidence,
                        "connect a chip of its kind, or take another capsule");
}

void capsule_settings(const struct tool *tool, struct capsule_file *file, uint8_t *bytes)
{
    struct cm_setting_byte byte;
    struct cm_region region;
    for (uint8_t i = 0; tool_kit.words->byte(tool->session.part, i, &byte); i++) {
        int index = cm_region(&tool->session, byte.region, &region) ? cm_capsule_region(&file->capsule, region.name) : -1;
        if (index < 0)
            continue;
        struct cm_source source = cm_capsule_source(&file->capsule, (uint8_t)index, &file->places[index]);
        source.read(source.context, byte.address, &bytes[i], 1);
    }
}

/* --- writing ------------------------------------------------------------------------------------------------------ */

enum cm_status chip_read(struct tool *tool, bool memories, struct chip_contents *contents)
{
    struct cm_session *session = &tool->session;
    struct cm_protection protection;
    struct cm_region region;
    memset(contents, 0, sizeof *contents);
    enum cm_status status = cm_protection(session, &protection);
    contents->locked = !status && protection.bars_reading;
    for (uint8_t i = 0; !status && cm_region(session, i, &region); i++) {
        bool is_readable = (region.traits & CM_REGION_SETTINGS) || (memories && !contents->locked);
        if (!region.bytes || !is_readable)
            continue;
        uint8_t n = contents->count, *bytes = malloc(region.bytes);
        if (!bytes)
            return CM_NO_ROOM;
        contents->bytes[n] = bytes;
        contents->count++;
        snprintf(contents->regions[n].name, sizeof contents->regions[n].name, "%s", region.name);
        contents->regions[n].bytes = region.bytes;
        contents->regions[n].erased = region.erased;
        for (uint32_t at = 0, part; !status && at < region.bytes; at += part) {
            part = region.bytes - at < 1024 ? region.bytes - at : 1024;
            status = cm_read_twice(session, i, at, bytes + at, part);
            struct cm_progress progress = {CM_STEP_READ, region.name, at + part, region.bytes};
            if (!status && !tool_progress(tool, &progress))
                status = CM_STOPPED;
        }
    }
    tool_progress_end(tool);
    return status;
}

void chip_contents_free(struct chip_contents *contents)
{
    for (uint8_t i = 0; i < contents->count; i++)
        free(contents->bytes[i]);
    contents->count = 0;
}

static void describe_chip(struct tool *tool, const char *notes, struct cm_capsule_facts *facts)
{
    const struct cm_part *part = tool->session.part;
    memset(facts, 0, sizeof *facts);
    snprintf(facts->chip, sizeof facts->chip, "%s", part->name);
    snprintf(facts->family, sizeof facts->family, "%s", tool->session.family->name);
    memcpy(facts->id, part->id, part->id_bytes);
    facts->id_bytes = part->id_bytes;
    facts->supply_mv = tool_supply_mv(tool);
    facts->time = (int64_t)time(NULL);
    snprintf(facts->tool, sizeof facts->tool, "coldmint %s", CM_VERSION);
    snprintf(facts->notes, sizeof facts->notes, "%s", notes ? notes : "");
}

enum exit_code capsule_write(struct tool *tool, const struct chip_contents *contents, const char *notes, const char *path)
{
    struct cm_capsule_writer writer;
    struct cm_capsule_facts facts;
    struct new_file file;
    describe_chip(tool, notes, &facts);
    enum exit_code code = new_file_open(tool, path, &file);
    if (code)
        return code;
    enum cm_status status = cm_capsule_write_begin(&writer, &facts, contents->regions, contents->count, new_file_text, file.stream);
    for (uint8_t i = 0; !status && i < contents->count; i++)
        status = cm_capsule_write(&writer, contents->regions, i, 0, contents->bytes[i], contents->regions[i].bytes);
    if (!status)
        status = cm_capsule_write_end(&writer);
    if (!status)
        return new_file_commit(tool, &file);
    new_file_drop(&file);
    return tool_fail_as(tool, EXIT_BAD_FILE, "the capsule cannot be written", strerror(errno), "make room on the disk");
}
