/*
 * The record of a change: which backup is from before it, and how it left the chip.
 *
 *     {"verb": "put", "id": "1E930C", "chip": "attiny84a",
 *      "backup": ".../backups/attiny84a-1E930C-20261123-101500.mint", "was_blank": false,
 *      "ended": true, "settings": "62DFFFFF",
 *      "regions": {"flash": {"bytes": 8192, "block": 256, "crc32": [...]}}}
 *
 * How the chip was left is not read from it once more: a job that ended well changed nothing but
 * what was wanted, so it is the backup with the images over it. Sums are CRC-32 as of zlib, one for
 * each block, so that a difference has a place.
 */
#include "inside.h"
#include "left.h"
#include <coldmint/host/backup.h>
#include <jansson.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>
#include <zlib.h>

enum { LEAST_BLOCK = 256, MOST_BLOCKS = 256 };

static uint32_t block_bytes(uint32_t bytes)
{
    return bytes / MOST_BLOCKS > LEAST_BLOCK ? bytes / MOST_BLOCKS : LEAST_BLOCK;
}

static json_t *sums(const uint8_t *bytes, uint32_t count)
{
    json_t *list = json_array();
    for (uint32_t at = 0, part; at < count; at += part) {
        part = count - at < block_bytes(count) ? count - at : block_bytes(count);
        json_array_append_new(list, json_integer((json_int_t)crc32(0, bytes + at, part)));
    }
    return list;
}

static json_t *region_sums(const uint8_t *bytes, uint32_t count)
{
    return json_pack("{s:I, s:I, s:o}", "bytes", (json_int_t)count, "block",
                     (json_int_t)block_bytes(count), "crc32", sums(bytes, count));
}

static bool is_memory_region(const struct cm_region *region)
{
    return region->bytes && !(region->traits & CM_REGION_SETTINGS) &&
           (region->traits & CM_REGION_WRITABLE);
}

/* --- how the chip was left --------------------------------------------------------------- */

/* A chip erase clears it, and nothing was carried over. */
static bool is_cleared(const struct cm_change_end *how, const struct cm_guard *guard, uint8_t index)
{
    return how->is_erased && (guard->clears & CM_REGION_BIT(index)) &&
           (index != CM_REGION_DATA || how->is_data_lost);
}

static json_t *sums_left(struct cm_session *session, const struct before *before,
                         const struct cm_change_end *how)
{
    json_t *regions = json_object();
    struct cm_guard guard;
    struct cm_region region;
    if (cm_guard_look(session, &guard) != CM_OK)
        return regions;
    for (uint8_t i = 0; cm_region(session, i, &region); i++) {
        if (!is_memory_region(&region))
            continue;
        uint8_t *bytes =
            left_bytes(before, is_cleared(how, &guard, i), i, &region, how->wants, how->want_count);
        if (bytes)
            json_object_set_new(regions, region.name, region_sums(bytes, region.bytes));
        free(bytes);
    }
    return regions;
}

/* --- settings ---------------------------------------------------------------------------- */

static void settings_text(struct cm_session *session, char *text, size_t room)
{
    uint8_t bytes[CM_SETTING_BYTES];
    const struct cm_words *words = cm_words_of(session);
    uint8_t count = words ? cm_setting_byte_count(words, session->part) : 0;
    text[0] = '\0';
    if (count && cm_read_settings(session, bytes) != CM_OK)
        count = 0;
    for (uint8_t i = 0; i < count && 2u * i + 3 <= room; i++)
        snprintf(text + 2 * i, room - 2u * i, "%02X", bytes[i]);
}

/* --- records ----------------------------------------------------------------------------- */

static bool write_record(struct cm_host *host, const struct cm_change *change, json_t *record)
{
    struct cm_error before = host->error;
    bool replace = host->replace;
    struct cm_new_file file;
    host->replace = true;
    bool good = cm_new_file_open(host, change->path, &file);
    if (good && json_dumpf(record, file.stream, JSON_INDENT(1)) != 0) {
        cm_new_file_drop(&file);
        good = false;
    }
    good = good && cm_new_file_commit(host, &file);
    host->replace = replace;
    host->error = before;
    return good;
}

static json_t *new_record(const struct cm_session *session, const struct cm_change *change)
{
    char id[ID_BYTES];
    return json_pack("{s:s, s:s, s:s, s:s, s:b, s:b}", "verb", change->verb, "id",
                     part_id_text(session->part, id), "chip", session->part->name, "backup",
                     change->backup.path, "was_blank", (int)change->backup.is_blank, "ended", 0);
}

bool cm_change_begin(struct cm_host *host, struct cm_session *session,
                     const struct cm_backup *backup, const char *verb, struct cm_change *change)
{
    char folder[FOLDER_BYTES], stamp[STAMP_BYTES], id[ID_BYTES];
    struct cm_error before = host->error;
    memset(change, 0, sizeof *change);
    change->backup = *backup;
    HOST_COPY(change->verb, verb);
    if (!state_folder(host, "changes", folder)) {
        host->error = before;
        return false;
    }
    snprintf(change->path, sizeof change->path, "%s/%s-%ld-%s.json", folder,
             stamp_behind(folder, stamp), own_number(), part_id_text(session->part, id));
    make_folders(change->path);
    json_t *record = new_record(session, change);
    bool good = write_record(host, change, record);
    json_decref(record);
    if (!good)
        change->path[0] = '\0';
    return good;
}

bool cm_change_end(struct cm_host *host, struct cm_session *session, struct cm_change *change,
                   const struct cm_change_end *how)
{
    struct cm_capsule_file backup = {.path = NULL};
    char settings[2 * CM_SETTING_BYTES + 1];
    bool has_before = change->backup.is_blank;
    struct cm_error before = host->error;
    if (!change->path[0])
        return true;
    json_t *record = new_record(session, change);
    if (!has_before && change->backup.path[0])
        has_before = cm_capsule_file_load(host, change->backup.path, &backup);
    settings_text(session, settings, sizeof settings);
    json_object_set_new(record, "ended", json_boolean(!how->is_vague));
    json_object_set_new(record, "settings", json_string(settings));
    if (has_before && !how->is_vague)
        json_object_set_new(
            record, "regions",
            sums_left(session, &(struct before){&backup, change->backup.is_blank}, how));
    cm_capsule_file_free(&backup);
    host->error = before;
    bool good = write_record(host, change, record);
    json_decref(record);
    return good;
}

/* --- going back -------------------------------------------------------------------------- */

/* The chip as it is, for comparing with records: read as records ask for it, each region once. */
struct now {
    struct cm_host *host;
    struct cm_session *session;
    cm_progress_fn *progress;
    void *context;
    json_t *regions;
    char settings[2 * CM_SETTING_BYTES + 1];
    /* where it is not as the newest record says */
    char region[CM_ERROR_TEXT];
    uint32_t address;
    bool is_undone; /* it is as a way back has left it */
};

static bool read_region(struct now *now, uint8_t index, const struct cm_region *region)
{
    enum { CHUNK = 65536 };
    uint8_t *bytes = malloc(region->bytes);
    enum cm_status status = bytes ? CM_OK : CM_NO_ROOM;
    for (uint32_t at = 0, part; !status && at < region->bytes; at += part) {
        part = region->bytes - at < CHUNK ? region->bytes - at : CHUNK;
        status = cm_read(now->session, index, at, bytes + at, part);
        struct cm_progress progress = {CM_STEP_READ, region->name, at + part, region->bytes};
        if (!status && now->progress && !now->progress(now->context, &progress))
            status = CM_STOPPED;
    }
    if (!status)
        json_object_set_new(now->regions, region->name, region_sums(bytes, region->bytes));
    free(bytes);
    return !status || host_fail_session(now->host, status);
}

/* The first block that differs from a record, in `address`; false where none does. */
static bool differs(const json_t *mine, const json_t *its, uint32_t *address)
{
    const json_t *my_sums = json_object_get(mine, "crc32"),
                 *its_sums = json_object_get(its, "crc32");
    size_t count = json_array_size(my_sums);
    json_int_t block = json_integer_value(json_object_get(mine, "block"));
    *address = 0;
    if (count != json_array_size(its_sums))
        return true;
    for (size_t i = 0; i < count; i++) {
        *address = (uint32_t)(block * (json_int_t)i);
        if (json_integer_value(json_array_get(my_sums, i)) !=
            json_integer_value(json_array_get(its_sums, i)))
            return true;
    }
    return false;
}

/* Is the chip as the record says that it was left? If not, `region` and `address` say where. A
 * failure to read is left in the host, and `now->regions` is NULL then. */
static bool is_left_so(struct now *now, const json_t *record, const char **region,
                       uint32_t *address)
{
    static const char SETTINGS[] = "settings";
    struct cm_region found;
    const json_t *regions = json_object_get(record, "regions");
    const char *settings = json_string_value(json_object_get(record, "settings"));
    *address = 0;
    *region = SETTINGS;
    if (!settings || strcmp(settings, now->settings) != 0)
        return false;
    for (uint8_t i = 0; cm_region(now->session, i, &found); i++) {
        const json_t *its = json_object_get(regions, found.name);
        if (!its)
            continue;
        if (!json_object_get(now->regions, found.name) && !read_region(now, i, &found)) {
            json_decref(now->regions);
            now->regions = NULL;
            return false;
        }
        *region = found.name;
        if (differs(json_object_get(now->regions, found.name), its, address))
            return false;
    }
    return true;
}

static bool take(struct cm_host *host, const json_t *record, struct cm_undo *undo)
{
    const char *backup = json_string_value(json_object_get(record, "backup")),
               *verb = json_string_value(json_object_get(record, "verb"));
    HOST_COPY(undo->path, backup);
    HOST_COPY(undo->verb, verb);
    undo->was_cut_off = !json_is_true(json_object_get(record, "ended"));
    if (undo->path[0] && access(undo->path, R_OK) == 0)
        return true;
    if (json_is_true(json_object_get(record, "was_blank")))
        return host_fail(host, CM_ERROR_BEFORE_BLANK, NULL);
    return host_fail(host, CM_ERROR_NO_BACKUP, undo->path);
}

static bool is_of_undo(const json_t *record)
{
    const char *verb = json_string_value(json_object_get(record, "verb"));
    return verb && strcmp(verb, "undo") == 0;
}

/* A record of this kind of chip; NULL: it is none. */
static json_t *load_record(const struct cm_session *session, const char *path)
{
    json_t *record = json_load_file(path, 0, NULL);
    const char *chip = json_string_value(json_object_get(record, "chip"));
    if (chip && (session->part->id_bytes || strcmp(chip, session->part->name) == 0))
        return record;
    json_decref(record);
    return NULL;
}

static bool fail_other_hands(const struct now *now)
{
    struct cm_error *error = host_error(now->host, CM_ERROR_OTHER_HANDS, NULL);
    HOST_COPY(error->text, now->region);
    error->address = now->address;
    return false;
}

/* No record fits: the newest backup, if that is asked for. */
static bool take_newest(const struct now *now, bool anyway, struct cm_undo *undo)
{
    struct cm_backup_entry *entries;
    unsigned count;
    char folder[FOLDER_BYTES];
    if (!cm_backups_of(now->host, now->session, &entries, &count) ||
        !state_folder(now->host, "backups", folder))
        return false;
    if (count)
        HOST_COPY(undo->path, entries[0].path);
    free(entries);
    if (!count)
        return host_fail(now->host, CM_ERROR_NO_BACKUP, folder);
    if (now->is_undone && !anyway)
        return host_fail(now->host, CM_ERROR_UNDONE, folder);
    return anyway || fail_other_hands(now);
}

/* Does this record tell the state that the chip is in? Of a change that was cut off nothing can be
 * told: the newest is taken at its word. */
static bool fits(struct now *now, const json_t *record, bool is_newest)
{
    const char *region = "";
    uint32_t address = 0;
    if (!json_is_true(json_object_get(record, "ended")))
        return is_newest;
    bool is_so = is_left_so(now, record, &region, &address);
    if (!is_so && is_newest) {
        HOST_COPY(now->region, region);
        now->address = address;
    }
    return is_so;
}

/* Looks through the records, newest first. True: it is decided, in `good`. What a way back has left
 * is passed over, so that going back twice goes further back. */
static bool look_through(struct now *now, const struct paths *records, struct cm_undo *undo,
                         bool *good)
{
    bool is_newest = true, is_decided = false;
    for (size_t i = 0; i < records->count && !is_decided; i++) {
        json_t *record = load_record(now->session, records->names[i]);
        if (!record)
            continue;
        bool is_so = fits(now, record, is_newest);
        is_decided = !now->regions || (is_so && !is_of_undo(record));
        now->is_undone |= is_so;
        if (is_decided && now->regions)
            *good = take(now->host, record, undo);
        json_decref(record);
        is_newest = false;
    }
    return is_decided;
}

bool cm_undo_find(struct cm_host *host, struct cm_session *session, bool anyway,
                  cm_progress_fn *progress, void *context, struct cm_undo *undo)
{
    struct now now = {.host = host,
                      .session = session,
                      .progress = progress,
                      .context = context,
                      .regions = json_object()};
    char folder[FOLDER_BYTES], id[ID_BYTES], end[24];
    bool good = false;
    memset(undo, 0, sizeof *undo);
    if (!state_folder(host, "changes", folder))
        return false;
    snprintf(end, sizeof end, "-%s.json", part_id_text(session->part, id));
    settings_text(session, now.settings, sizeof now.settings);
    struct paths records = paths_in(folder, "", end);
    bool is_decided = look_through(&now, &records, undo, &good);
    paths_free(&records);
    json_decref(now.regions);
    return is_decided ? good : take_newest(&now, anyway, undo);
}
