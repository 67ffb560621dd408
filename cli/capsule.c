/*
 * Capsules as files: read where they lie, and written while the chip is read, so that a capsule of
 * any size takes the same memory.
 */
#include "capsule.h"
#include "repeats.h"
#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

enum { KEEP_BYTES = 131072 };

/* --- reading ----------------------------------------------------------------------------- */

bool capsule_is_one(const char *path)
{
    static const char BEGINNING[] = "\x0A\x10"
                                    "coldmint capsule";
    char bytes[sizeof BEGINNING - 1];
    int file = file_open(path);
    bool is_one = file >= 0 && pread(file, bytes, sizeof bytes, 0) == (ssize_t)sizeof bytes &&
                  memcmp(bytes, BEGINNING, sizeof bytes) == 0;
    if (file >= 0)
        close(file);
    const char *dot = strrchr(path, '.');
    return is_one || (dot && strcmp(dot, ".mint") == 0);
}

enum exit_code capsule_load(struct tool *tool, const char *path, struct capsule_file *file)
{
    char what[400], evidence[200];
    memset(file, 0, sizeof *file);
    file->path = path;
    file->reader = file_reader_open(path);
    if (!file->reader) {
        snprintf(what, sizeof what, "%.300s: cannot be read", path);
        return tool_fail_as(tool, EXIT_BAD_FILE, what, strerror(errno), "check the name");
    }
    uint32_t bytes = file_reader_bytes(file->reader);
    struct cm_capsule_input input = {file->reader, file_reader_read, bytes};
    if (cm_capsule_open(&file->capsule, &input) == CM_OK)
        return EXIT_GOOD;
    snprintf(what, sizeof what, "%.300s: is not a whole capsule", path);
    snprintf(evidence, sizeof evidence, "%s, near byte %u of %u",
             cm_capsule_fault_word(file->capsule.fault), (unsigned)file->capsule.fault_offset,
             (unsigned)bytes);
    return tool_fail_as(tool, EXIT_BAD_FILE, what, evidence,
                        "nothing was changed; copy the file again, or take another backup");
}

void capsule_free(struct capsule_file *file)
{
    file_reader_close(file->reader);
    file->reader = NULL;
}

void capsule_say(struct tool *tool, const struct capsule_file *file)
{
    const struct cm_capsule_facts *facts = &file->capsule.facts;
    char when[40];
    time_t seconds = (time_t)facts->time;
    struct tm parts;
    if (!gmtime_r(&seconds, &parts) || !strftime(when, sizeof when, "%Y-%m-%d %H:%M UTC", &parts))
        snprintf(when, sizeof when, "no time");
    say(tool, "file", "%s, capsule of %s, %s, by %s%s%s", file->path, facts->chip, when,
        facts->tool, facts->notes[0] ? ": " : "", facts->notes);
    set_json(tool, "capsule",
             json_pack("{s:o, s:o, s:I, s:o, s:o}", "path", json_text(file->path), "chip",
                       json_text(facts->chip), "time", (json_int_t)facts->time, "tool",
                       json_text(facts->tool), "notes", json_text(facts->notes)));
}

enum exit_code capsule_check_chip(struct tool *tool, const struct capsule_file *file)
{
    const struct cm_capsule_facts *facts = &file->capsule.facts;
    const struct cm_part *part = tool->session.part;
    struct cm_region region;
    char evidence[300];
    bool named = strcmp(facts->chip, part->name) == 0; // all there is of a part without an id
    bool same = (part->id_bytes || named) && facts->id_bytes == part->id_bytes &&
                memcmp(facts->id, part->id, part->id_bytes) == 0;
    for (uint8_t i = 0; same && i < file->capsule.region_count; i++) {
        int index = cm_region_by_name(&tool->session, file->capsule.regions[i].name);
        same = index >= 0 && cm_region(&tool->session, (uint8_t)index, &region) &&
               region.bytes == file->capsule.regions[i].bytes;
    }
    if (same)
        return EXIT_GOOD;
    snprintf(evidence, sizeof evidence,
             "it is of %s, id %02X %02X %02X; the chip is %s, id %02X %02X %02X", facts->chip,
             facts->id[0], facts->id[1], facts->id[2], chip_name(tool), part->id[0], part->id[1],
             part->id[2]);
    return tool_fail_as(tool, EXIT_WRONG_CHIP, "the capsule is of another kind of chip", evidence,
                        "connect a chip of its kind, or take another capsule");
}

bool capsule_settings(const struct tool *tool, struct capsule_file *file, uint8_t *bytes)
{
    struct cm_setting_byte byte;
    struct cm_region region;
    for (uint8_t i = 0; words_of(tool->session.part)->byte(tool->session.part, i, &byte); i++) {
        int index = cm_region(&tool->session, byte.region, &region)
                        ? cm_capsule_region(&file->capsule, region.name)
                        : -1;
        if (index < 0)
            continue;
        struct cm_source source =
            cm_capsule_source(&file->capsule, (uint8_t)index, &file->places[index]);
        if (source.read(source.context, byte.address, &bytes[i], 1) != CM_OK)
            return false;
    }
    return true;
}

bool capsule_equal(struct capsule_file *one, struct capsule_file *other)
{
    uint8_t mine[4096], its[4096];
    bool same = one->capsule.region_count == other->capsule.region_count;
    for (uint8_t i = 0; same && i < one->capsule.region_count; i++) {
        const struct cm_capsule_region *region = &one->capsule.regions[i],
                                       *its_region = &other->capsule.regions[i];
        same = strcmp(region->name, its_region->name) == 0 && region->bytes == its_region->bytes;
        struct cm_source a = cm_capsule_source(&one->capsule, i, &one->places[i]);
        struct cm_source b = cm_capsule_source(&other->capsule, i, &other->places[i]);
        for (uint32_t at = 0, part; same && at < region->bytes; at += part) {
            part = region->bytes - at < sizeof mine ? region->bytes - at : (uint32_t)sizeof mine;
            same = a.read(a.context, at, mine, part) == CM_OK &&
                   b.read(b.context, at, its, part) == CM_OK && memcmp(mine, its, part) == 0;
        }
    }
    return same;
}

/* --- writing ----------------------------------------------------------------------------- */

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

/* A capsule in the making. */
struct keeping {
    struct tool *tool;
    struct cm_capsule_writer writer;
    struct cm_capsule_region regions[CM_CAPSULE_REGIONS];
    uint8_t indices[CM_CAPSULE_REGIONS], count, at; /* the chip's region of each; the one at hand */
    const uint8_t *settings;
    struct kept_facts *facts;
    struct repeats repeats;
};

static enum cm_status take(struct keeping *keeping, uint32_t address, const uint8_t *bytes,
                           uint32_t count)
{
    repeats_take(&keeping->repeats, address, bytes, count);
    for (uint32_t i = 0; i < count && keeping->facts->blank; i++)
        keeping->facts->blank = bytes[i] == keeping->regions[keeping->at].erased;
    return cm_capsule_write(&keeping->writer, keeping->regions, keeping->at, address, bytes, count);
}

/* A memory, chunk by chunk, each read twice. Not cm_keep: this runs in the midst of a put, whose
 * findings are in the session's workspace. */
static enum cm_status keep_memory(struct keeping *keeping, uint8_t index,
                                  const struct cm_region *region)
{
    struct tool *tool = keeping->tool;
    enum cm_status status = CM_OK;
    uint32_t most =
        tool->session.clock_hz / 256 < KEEP_BYTES ? tool->session.clock_hz / 256 : KEEP_BYTES;
    most = most < 1024 ? 1024 : most;
    uint8_t *chunk = malloc(KEEP_BYTES);
    repeats_begin(&keeping->repeats, tool->session.part,
                  index == CM_REGION_MAIN ? region->bytes : 0);
    for (uint32_t at = 0, part; chunk && !status && at < region->bytes; at += part) {
        part = region->bytes - at < most ? region->bytes - at : most;
        status = cm_read_twice(&tool->session, index, at, chunk, part);
        struct cm_progress progress = {CM_STEP_READ, region->name, at + part, region->bytes};
        if (!status)
            status = take(keeping, at, chunk, part);
        if (!status && !tool_progress(tool, &progress))
            status = CM_STOPPED;
    }
    free(chunk);
    uint32_t every = repeats_end(&keeping->repeats);
    keeping->facts->repeats_every = index == CM_REGION_MAIN ? every : keeping->facts->repeats_every;
    return chunk ? status : CM_NO_ROOM;
}

/* Which regions: settings always, memories where they are asked for and can be read. */
static enum cm_status choose_regions(struct keeping *keeping, bool memories)
{
    struct cm_session *session = &keeping->tool->session;
    struct cm_guard guard;
    struct cm_region region;
    enum cm_status status = cm_guard_look(session, &guard);
    keeping->facts->locked = !status && guard.bars_reading;
    for (uint8_t i = 0;
         !status && cm_region(session, i, &region) && keeping->count < CM_CAPSULE_REGIONS; i++) {
        bool is_readable =
            (region.traits & CM_REGION_SETTINGS) || (memories && !keeping->facts->locked);
        if (!region.bytes || !is_readable)
            continue;
        struct cm_capsule_region *kept = &keeping->regions[keeping->count];
        keeping->indices[keeping->count++] = i;
        snprintf(kept->name, sizeof kept->name, "%s", region.name);
        kept->bytes = region.bytes;
        kept->erased = region.erased;
        keeping->facts->bytes += region.bytes;
    }
    return status;
}

/* Settings are few: they are read at once, and taken as the caller knew them before, where it did.
 */
static enum cm_status keep_settings(struct keeping *keeping, uint8_t index, uint32_t count)
{
    struct tool *tool = keeping->tool;
    const struct cm_words *words = words_of(tool->session.part);
    struct cm_setting_byte byte;
    uint8_t bytes[16];
    enum cm_status status =
        count <= sizeof bytes ? cm_read_twice(&tool->session, index, 0, bytes, count) : CM_NO_ROOM;
    for (uint8_t i = 0; !status && keeping->settings && words->byte(tool->session.part, i, &byte);
         i++) {
        if (byte.region == index)
            bytes[byte.address] = keeping->settings[i];
    }
    return status
               ? status
               : cm_capsule_write(&keeping->writer, keeping->regions, keeping->at, 0, bytes, count);
}

static enum cm_status keep_regions(struct keeping *keeping)
{
    struct cm_session *session = &keeping->tool->session;
    enum cm_status status = CM_OK;
    struct cm_region region;
    for (keeping->at = 0; !status && keeping->at < keeping->count; keeping->at++) {
        uint8_t index = keeping->indices[keeping->at];
        cm_region(session, index, &region);
        if (region.traits & CM_REGION_SETTINGS)
            status = keep_settings(keeping, index, region.bytes);
        else
            status = keep_memory(keeping, index, &region);
    }
    return status;
}

enum exit_code capsule_keep(struct tool *tool, const char *path, bool memories,
                            const uint8_t *settings, const char *notes, struct new_file *file,
                            struct kept_facts *kept)
{
    struct keeping keeping = {.tool = tool, .settings = settings, .facts = kept};
    struct cm_capsule_facts facts;
    *kept = (struct kept_facts){.blank = true};
    enum cm_status status = choose_regions(&keeping, memories);
    if (status)
        return tool_fail(tool, status);
    describe_chip(tool, notes, &facts);
    enum exit_code code = new_file_open(tool, path, file);
    if (code)
        return code;
    uint32_t begun = tool->port->lines->now_us(tool->port);
    bool wrote = cm_capsule_write_begin(&keeping.writer, &facts, keeping.regions, keeping.count,
                                        new_file_text, file->stream) == CM_OK;
    status = wrote ? keep_regions(&keeping) : CM_BAD_IMAGE;
    tool_progress_end(tool);
    if (!status)
        status = cm_capsule_write_end(&keeping.writer);
    kept->took_us = tool->port->lines->now_us(tool->port) - begun;
    if (!status)
        return EXIT_GOOD;
    bool disk = keeping.writer.status != CM_OK || !wrote;
    int error = errno;
    new_file_drop(file);
    if (disk)
        return tool_fail_as(tool, EXIT_BAD_FILE, "the capsule cannot be written", strerror(error),
                            disk_advice(error));
    code = tool_fail(tool, status);
    return status != CM_DIFFERS
               ? code
               : tool_fail_as(tool, EXIT_CONTACT_LOST, "two reads of the chip do not agree",
                              tool->words.evidence,
                              "nothing was changed; seat the clip again and repeat");
}
