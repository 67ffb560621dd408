/*
 * The journal: units that a server has not got yet, one JSON object a line, in a file of the
 * user's.
 *
 *     record -> journal, synced -> server -> the journal is emptied
 *
 * A process that is killed anywhere in between delivers again; the unit's key makes that no second
 * one. A last line that was cut off by the end of power was never said to be recorded.
 */
#define _GNU_SOURCE
#include "inside.h"
#include <errno.h>
#include <fcntl.h>
#include <jansson.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>
#include <zlib.h>

bool ledger_find_journal(struct cm_ledger *ledger)
{
    char folder[FOLDER_BYTES];
    if (!state_folder(ledger->host, "ledger", folder))
        return false;
    // several stations on one computer have one each
    uLong sum = crc32(crc32(0, (const Bytef *)ledger->place, (uInt)strlen(ledger->place)),
                      (const Bytef *)ledger->station, (uInt)strlen(ledger->station));
    snprintf(ledger->journal, sizeof ledger->journal, "%s/journal-%08lx.jsonl", folder, sum);
    make_folders(ledger->journal);
    return true;
}

/* Opened and locked: another process of this station waits. */
static int open_journal(struct cm_ledger *ledger)
{
    int file = open(ledger->journal, O_RDWR | O_CREAT | O_APPEND | O_CLOEXEC | O_NOFOLLOW, 0600);
    if (file >= 0 && flock(file, LOCK_EX) == 0)
        return file;
    host_fail_system(ledger->host, CM_ERROR_FILE_UNWRITABLE, ledger->journal, errno);
    if (file >= 0)
        close(file);
    return -1;
}

static json_t *to_json(const struct cm_unit_record *unit)
{
    json_t *object = json_pack(
        "{s:s, s:s, s:s, s:s, s:s, s:s, s:s, s:s, s:s, s:s, s:s, s:s, s:b, s:s, s:I, s:I}", "key",
        unit->key, "series", unit->series, "recipe", unit->recipe, "version", unit->version,
        "board", unit->board, "chip", unit->chip, "chip_id", unit->chip_id, "port", unit->port,
        "station", unit->station, "images", unit->images, "before", unit->settings_before, "after",
        unit->settings_after, "passed", (int)unit->passed, "cause", unit->cause, "begun",
        (json_int_t)unit->begun, "took_ms", (json_int_t)unit->took_ms);
    if (object && unit->has_number)
        json_object_set_new(object, "number", json_integer((json_int_t)unit->number));
    return object;
}

static void copy_text(const json_t *object, const char *key, char *text, size_t room)
{
    const char *value = json_string_value(json_object_get(object, key));
    host_copy(text, room, value ? value : "");
}

static void from_json(const json_t *object, struct cm_unit_record *unit)
{
    const json_t *number = json_object_get(object, "number");
    memset(unit, 0, sizeof *unit);
    unit->has_number = number != NULL;
    unit->number = (uint64_t)json_integer_value(number);
    unit->passed = json_is_true(json_object_get(object, "passed"));
    unit->begun = json_integer_value(json_object_get(object, "begun"));
    unit->took_ms = (uint32_t)json_integer_value(json_object_get(object, "took_ms"));
    const struct {
        const char *key;
        char *text;
        size_t room;
    } TEXTS[] = {{"key", unit->key, sizeof unit->key},
                 {"series", unit->series, sizeof unit->series},
                 {"recipe", unit->recipe, sizeof unit->recipe},
                 {"version", unit->version, sizeof unit->version},
                 {"board", unit->board, sizeof unit->board},
                 {"chip", unit->chip, sizeof unit->chip},
                 {"chip_id", unit->chip_id, sizeof unit->chip_id},
                 {"port", unit->port, sizeof unit->port},
                 {"station", unit->station, sizeof unit->station},
                 {"images", unit->images, sizeof unit->images},
                 {"before", unit->settings_before, sizeof unit->settings_before},
                 {"after", unit->settings_after, sizeof unit->settings_after},
                 {"cause", unit->cause, sizeof unit->cause}};
    for (size_t i = 0; i < sizeof TEXTS / sizeof TEXTS[0]; i++)
        copy_text(object, TEXTS[i].key, TEXTS[i].text, TEXTS[i].room);
}

/* A line that a lost power cut off stays a line of its own. */
static bool end_last_line(int file)
{
    struct stat facts;
    char last = '\n';
    if (fstat(file, &facts) != 0)
        return false;
    if (facts.st_size && pread(file, &last, 1, facts.st_size - 1) != 1)
        return false;
    return last == '\n' || write(file, "\n", 1) == 1;
}

bool ledger_keep(struct cm_ledger *ledger, const struct cm_unit_record *unit)
{
    json_t *object = to_json(unit);
    char *text = object ? json_dumps(object, JSON_COMPACT) : NULL, *line = NULL;
    json_decref(object);
    int length = text ? asprintf(&line, "%s\n", text) : -1;
    free(text);
    if (length < 0)
        return host_fail(ledger->host, CM_ERROR_NO_MEMORY, ledger->journal);
    int file = open_journal(ledger);
    errno = file < 0 ? errno : ENOSPC; // a write that was short has no other reason
    bool kept = file >= 0 && end_last_line(file) &&
                write(file, line, (size_t)length) == (ssize_t)length && fsync(file) == 0;
    int error = errno;
    free(line);
    if (file >= 0)
        close(file);
    ledger->in_journal += kept;
    return kept || host_fail_system(ledger->host, CM_ERROR_FILE_INCOMPLETE, ledger->journal, error);
}

/* Delivers each line; `left`: those that could not be. A line that is none was cut off by a lost
 * power. Were all of them read? */
static enum store_status deliver_lines(struct cm_ledger *ledger, FILE *lines, uint32_t *left,
                                       bool *all_read)
{
    char *line = NULL;
    size_t room = 0;
    enum store_status status = STORE_OK;
    *left = 0;
    *all_read = true;
    while (getline(&line, &room, lines) > 0) {
        struct cm_unit_record unit;
        json_error_t fault;
        json_t *object = json_loads(line, 0, &fault);
        *all_read &= object || json_error_code(&fault) != json_error_out_of_memory;
        bool is_whole = object && json_string_value(json_object_get(object, "key"));
        if (is_whole && !status) {
            from_json(object, &unit);
            status = ledger_insert(ledger, &unit);
        }
        *left += is_whole && status;
        json_decref(object);
    }
    free(line);
    *all_read &= !ferror(lines);
    return status;
}

void ledger_count_journal(struct cm_ledger *ledger)
{
    char *line = NULL;
    size_t room = 0;
    FILE *lines = fopen(ledger->journal, "re");
    ledger->in_journal = 0;
    while (lines && getline(&line, &room, lines) > 0)
        ledger->in_journal++;
    free(line);
    if (lines)
        fclose(lines);
}

bool ledger_deliver(struct cm_ledger *ledger)
{
    if (!ledger->journal[0])
        return true;
    int file = open_journal(ledger);
    FILE *lines = file >= 0 ? fdopen(file, "a+") : NULL;
    if (!lines)
        return false;
    rewind(lines);
    bool all_read;
    enum store_status status = deliver_lines(ledger, lines, &ledger->in_journal, &all_read);
    if (!status && all_read && ftruncate(file, 0) == 0)
        (void)fsync(file);
    fclose(lines);
    if (!all_read)
        return host_fail_system(ledger->host, CM_ERROR_FILE_UNREADABLE, ledger->journal, EIO);
    return status != STORE_FAILED || ledger_fail(ledger, status);
}
