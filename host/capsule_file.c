/*
 * Capsules as files, read where they lie.
 */
#include "inside.h"
#include <coldmint/host/capsule_file.h>
#include <coldmint/host/pack.h>
#include <coldmint/restore.h>
#include <errno.h>
#include <string.h>
#include <unistd.h>

bool cm_capsule_is_file(struct cm_host *host, const char *path)
{
    static const char BEGINNING[] = "\x0A\x10"
                                    "coldmint capsule";
    char bytes[sizeof BEGINNING - 1];
    int file = cm_file_open(host, path);
    bool is_one = file >= 0 && pread(file, bytes, sizeof bytes, 0) == (ssize_t)sizeof bytes &&
                  memcmp(bytes, BEGINNING, sizeof bytes) == 0;
    if (file >= 0)
        close(file);
    const char *dot = strrchr(path, '.');
    return is_one || (dot && strcmp(dot, ".mint") == 0);
}

/* A backup needs no seal; a job does, by whomever. */
static bool is_sealed_right(struct cm_capsule_file *file)
{
    struct cm_capsule *capsule = &file->capsule;
    if (!capsule->has_work && !capsule->is_sealed)
        return true;
    return cm_capsule_check_seal(capsule, NULL, cm_maker_verify, &file->seal) == CM_OK;
}

bool cm_capsule_file_load(struct cm_host *host, const char *path, struct cm_capsule_file *file)
{
    memset(file, 0, sizeof *file);
    file->path = path;
    file->reader = cm_file_reader_open(host, path);
    if (!file->reader)
        return host_fail_opening(host, path, errno);
    uint32_t bytes = cm_file_reader_bytes(file->reader);
    struct cm_capsule_input input = {file->reader, cm_file_reader_read, bytes};
    if (cm_capsule_open(&file->capsule, &input) == CM_OK && is_sealed_right(file))
        return true;
    struct cm_error *error = host_error(host, CM_ERROR_CAPSULE_DAMAGED, path);
    error->capsule = file->capsule.fault;
    error->address = file->capsule.fault_offset;
    error->limit = bytes;
    if (file->capsule.fault == CM_CAPSULE_PART_SUM)
        snprintf(error->detail, sizeof error->detail, ": %s, from 0x%04X on",
                 file->capsule.regions[file->capsule.fault_region].name,
                 (unsigned)file->capsule.fault_address);
    return false;
}

void cm_capsule_file_free(struct cm_capsule_file *file)
{
    cm_file_reader_close(file->reader);
    file->reader = NULL;
}

bool cm_capsule_file_is_for(struct cm_host *host, const struct cm_capsule_file *file,
                            const struct cm_session *session)
{
    const struct cm_capsule_facts *facts = &file->capsule.facts;
    const struct cm_part *part = session->part;
    if (cm_capsule_fits(session, &file->capsule))
        return true;
    struct cm_error *error = host_error(host, CM_ERROR_CAPSULE_OTHER_CHIP, file->path);
    HOST_COPY(error->text, facts->chip);
    memcpy(error->id_found, facts->id, sizeof error->id_found);
    memcpy(error->id_expected, part->id, sizeof error->id_expected);
    error->id_bytes = part->id_bytes;
    return false;
}

bool cm_capsule_file_settings(struct cm_capsule_file *file, const struct cm_session *session,
                              uint8_t *bytes)
{
    struct cm_setting_byte byte;
    struct cm_region region;
    const struct cm_words *words = cm_words_of(session);
    for (uint8_t i = 0; words && words->byte(session->part, i, &byte); i++) {
        int index = cm_region(session, byte.region, &region)
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

void cm_capsule_file_chosen(const struct cm_capsule_file *file, const struct cm_kit *kit,
                            const struct cm_part *part, uint8_t *bytes, uint8_t *chosen)
{
    const struct cm_capsule *capsule = &file->capsule;
    struct cm_setting_byte byte;
    struct cm_region region;
    for (uint8_t i = 0; kit->words->byte(part, i, &byte); i++) {
        kit->family->region(part, byte.region, &region);
        for (uint8_t n = 0; n < capsule->work.setting_count; n++) {
            const struct cm_work_setting *setting = &capsule->work.settings[n];
            if (setting->address != byte.address ||
                strcmp(capsule->regions[setting->region].name, region.name) != 0)
                continue;
            bytes[i] = (uint8_t)((bytes[i] & ~setting->chosen) | setting->value);
            if (chosen)
                chosen[i] = setting->chosen;
        }
    }
}

bool cm_capsule_file_equal(struct cm_capsule_file *one, struct cm_capsule_file *other)
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
