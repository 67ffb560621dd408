/*
 * Capsules written from a chip, while it is read.
 */
#include "inside.h"
#include <coldmint/host/capsule_file.h>
#include <errno.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

/* At once: half a second's, in whole messages of a port whose calls have a limit. */
enum {
    KEEP_BYTES = 1048576,
    KEEP_PARTS_S = 16 /* bits are eight times as many */,
    KEEP_STEP = 4096
};

static void describe_chip(struct cm_session *session, const struct cm_chip_keep *how,
                          struct cm_capsule_facts *facts)
{
    const struct cm_part *part = session->part;
    memset(facts, 0, sizeof *facts);
    snprintf(facts->chip, sizeof facts->chip, "%s", part->name);
    snprintf(facts->family, sizeof facts->family, "%s", session->family->name);
    memcpy(facts->id, part->id, part->id_bytes);
    facts->id_bytes = part->id_bytes;
    facts->supply_mv = supply_or_0(session);
    facts->time = (int64_t)time(NULL);
    HOST_COPY(facts->tool, how->tool ? how->tool : "coldmint " CM_VERSION);
    HOST_COPY(facts->notes, how->notes);
}

/* A capsule in the making. */
struct keeping {
    struct cm_session *session;
    const struct cm_chip_keep *how;
    struct cm_capsule_writer writer;
    struct cm_capsule_region regions[CM_CAPSULE_REGIONS];
    uint8_t indices[CM_CAPSULE_REGIONS], count, at; /* the chip's region of each; the one at hand */
    struct cm_chip_kept *facts;
    struct cm_repeats repeats;
};

static bool go_on(const struct keeping *keeping, const struct cm_progress *progress)
{
    const struct cm_chip_keep *how = keeping->how;
    return !how->progress || how->progress(how->progress_context, progress);
}

static enum cm_status take(struct keeping *keeping, uint32_t address, const uint8_t *bytes,
                           uint32_t count)
{
    cm_repeats_take(&keeping->repeats, address, bytes, count);
    for (uint32_t i = 0; i < count && keeping->facts->blank; i++)
        keeping->facts->blank = bytes[i] == keeping->regions[keeping->at].erased;
    return cm_capsule_write(&keeping->writer, keeping->regions, keeping->at, address, bytes, count);
}

/* A memory, chunk by chunk, each read twice. Not cm_keep: this runs in the midst of a put, whose
 * findings are in the session's workspace. */
static enum cm_status keep_memory(struct keeping *keeping, uint8_t index,
                                  const struct cm_region *region)
{
    struct cm_session *session = keeping->session;
    enum cm_status status = CM_OK;
    uint32_t most = session->clock_hz / KEEP_PARTS_S & ~(uint32_t)(KEEP_STEP - 1);
    most = most < KEEP_STEP ? KEEP_STEP : most > KEEP_BYTES ? KEEP_BYTES : most;
    uint8_t *chunk = malloc(KEEP_BYTES);
    cm_repeats_begin(&keeping->repeats, session->part, index == CM_REGION_MAIN ? region->bytes : 0);
    for (uint32_t at = 0, part; chunk && !status && at < region->bytes; at += part) {
        part = region->bytes - at < most ? region->bytes - at : most;
        status = cm_read_twice(session, index, at, chunk, part);
        struct cm_progress progress = {CM_STEP_READ, region->name, at + part, region->bytes};
        if (!status)
            status = take(keeping, at, chunk, part);
        if (!status && !go_on(keeping, &progress))
            status = CM_STOPPED;
    }
    free(chunk);
    uint32_t every = cm_repeats_end(&keeping->repeats);
    keeping->facts->repeats_every = index == CM_REGION_MAIN ? every : keeping->facts->repeats_every;
    return chunk ? status : CM_NO_ROOM;
}

/* Which regions: settings always, memories where they are asked for and can be read. */
static enum cm_status choose_regions(struct keeping *keeping)
{
    struct cm_session *session = keeping->session;
    struct cm_guard guard;
    struct cm_region region;
    enum cm_status status = cm_guard_look(session, &guard);
    keeping->facts->locked = !status && guard.bars_reading;
    for (uint8_t i = 0;
         !status && cm_region(session, i, &region) && keeping->count < CM_CAPSULE_REGIONS; i++) {
        bool is_readable = (region.traits & CM_REGION_SETTINGS) ||
                           (keeping->how->memories && !keeping->facts->locked);
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
    struct cm_session *session = keeping->session;
    const struct cm_words *words = cm_words_of(session);
    struct cm_setting_byte byte;
    uint8_t bytes[CM_SETTING_BYTES];
    enum cm_status status =
        count <= sizeof bytes ? cm_read_twice(session, index, 0, bytes, count) : CM_NO_ROOM;
    for (uint8_t i = 0;
         !status && words && keeping->how->settings && words->byte(session->part, i, &byte); i++) {
        if (byte.region == index)
            bytes[byte.address] = keeping->how->settings[i];
    }
    return status
               ? status
               : cm_capsule_write(&keeping->writer, keeping->regions, keeping->at, 0, bytes, count);
}

static enum cm_status keep_regions(struct keeping *keeping)
{
    struct cm_session *session = keeping->session;
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

bool cm_chip_keep(struct cm_host *host, struct cm_session *session, const char *path,
                  const struct cm_chip_keep *how, struct cm_new_file *file,
                  struct cm_chip_kept *kept)
{
    struct keeping keeping = {.session = session, .how = how, .facts = kept};
    struct cm_capsule_facts facts;
    *kept = (struct cm_chip_kept){.blank = true};
    enum cm_status status = choose_regions(&keeping);
    if (status)
        return host_fail_session(host, status);
    describe_chip(session, how, &facts);
    if (!cm_new_file_open(host, path, file))
        return false;
    uint32_t begun = session->port->lines->now_us(session->port);
    bool wrote = cm_capsule_write_begin(&keeping.writer, &facts, keeping.regions, keeping.count,
                                        cm_new_file_text, file->stream) == CM_OK;
    status = wrote ? keep_regions(&keeping) : CM_BAD_IMAGE;
    if (!status)
        status = cm_capsule_write_end(&keeping.writer);
    kept->took_us = session->port->lines->now_us(session->port) - begun;
    if (!status)
        return true;
    bool disk = keeping.writer.status != CM_OK || !wrote;
    int error = errno;
    cm_new_file_drop(file);
    if (disk)
        return host_fail_system(host, CM_ERROR_CAPSULE_UNWRITABLE, path, error);
    host_fail_session(host, status);
    if (status == CM_DIFFERS)
        host->error.kind = CM_ERROR_READS_DIFFER;
    return false;
}
