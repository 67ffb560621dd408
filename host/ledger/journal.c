/*
 * The journal: units that a server has not got yet, one JSON object a line, in a file of the
 * user's.
 *
 *     record -> journal, synced -> server -> the journal is emptied
 *
 * A process that is killed anywhere in between delivers again; the unit's key makes that no second
 * one. A last line that was cut off by the end of power was never said to be recorded. What the
 * server refuses for good, or is none of its ledger's lines, goes into a file beside, with the
 * reason.
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
    // several stations on one computer have one each; a new password is no new ledger
    uLong sum = crc32(0, (const Bytef *)ledger->shown, (uInt)strlen(ledger->shown) + 1);
    sum = crc32(sum, (const Bytef *)ledger->station, (uInt)strlen(ledger->station));
    snprintf(ledger->journal, sizeof ledger->journal, "%s/journal-%08lx.jsonl", folder, sum);
    snprintf(ledger->aside, sizeof ledger->aside, "%s/refused-%08lx.jsonl", folder, sum);
    make_folders(ledger->journal);
    return true;
}

/* Opened and locked: another process of this station waits. What is no file is not waited for. */
static int open_lines(struct cm_ledger *ledger, const char *path)
{
    enum { FLAGS = O_RDWR | O_CREAT | O_APPEND | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK };
    struct stat facts;
    int file = open(path, FLAGS, 0600);
    bool is_file = file >= 0 && fstat(file, &facts) == 0 && S_ISREG(facts.st_mode);
    if (is_file && flock(file, LOCK_EX) == 0)
        return file;
    host_fail_system(ledger->host, CM_ERROR_FILE_UNWRITABLE, path,
                     file >= 0 && !is_file ? EINVAL : errno);
    if (file >= 0)
        close(file);
    return -1;
}

/* The journal from its beginning on, locked; NULL: the failure is the host's. */
static FILE *open_journal(struct cm_ledger *ledger)
{
    int file = open_lines(ledger, ledger->journal);
    FILE *lines = file >= 0 ? fdopen(file, "a+") : NULL;
    if (lines)
        rewind(lines);
    else if (file >= 0)
        close(file);
    return lines;
}

/* A line says which ledger it is for, so that it can never go to another. */
static json_t *to_json(const struct cm_ledger *ledger, const struct cm_unit_record *unit)
{
    json_t *object =
        json_pack("{s:s, s:b, s:I, s:I}", "ledger", ledger->shown, "passed", (int)unit->passed,
                  "begun", (json_int_t)unit->begun, "took_ms", (json_int_t)unit->took_ms);
    for (int i = 0; i < LEDGER_TEXTS && object; i++)
        json_object_set_new(object, ledger_texts[i].name,
                            json_string((const char *)unit + ledger_texts[i].at));
    if (object && unit->has_number)
        json_object_set_new(object, "number", json_integer((json_int_t)unit->number));
    return object;
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
    for (int i = 0; i < LEDGER_TEXTS; i++) {
        const char *value = json_string_value(json_object_get(object, ledger_texts[i].name));
        host_copy((char *)unit + ledger_texts[i].at, ledger_texts[i].room, value);
    }
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

/* Adds a line, synced to disk. */
static bool add_line(struct cm_ledger *ledger, const char *path, const json_t *object)
{
    char *text = object ? json_dumps(object, JSON_COMPACT) : NULL, *line = NULL;
    int length = text ? asprintf(&line, "%s\n", text) : -1;
    free(text);
    if (length < 0)
        return host_fail(ledger->host, CM_ERROR_NO_MEMORY, path);
    int file = open_lines(ledger, path);
    if (file < 0) {
        free(line);
        return false;
    }
    errno = ENOSPC; // a write that was short has no other reason
    bool kept = end_last_line(file) && write(file, line, (size_t)length) == (ssize_t)length &&
                fsync(file) == 0;
    int error = errno;
    free(line);
    close(file);
    return kept || host_fail_system(ledger->host, CM_ERROR_FILE_INCOMPLETE, path, error);
}

bool ledger_keep(struct cm_ledger *ledger, const struct cm_unit_record *unit)
{
    json_t *object = to_json(ledger, unit);
    bool kept = add_line(ledger, ledger->journal, object);
    json_decref(object);
    ledger->in_journal += kept;
    return kept;
}

/* --- delivering -------------------------------------------------------------------------- */

/* What a journal's lines come to. */
struct delivery {
    struct cm_ledger *ledger;
    json_t *refused; /* lines that can never be delivered, with the reason */
    uint32_t left;   /* lines that the next try may deliver */
    bool is_whole;   /* all lines were read, and those that are refused are known */
};

/* A line as text: bytes that are none become characters of their own. */
static json_t *line_text(const char *line)
{
    size_t length = strcspn(line, "\n"), used = 0;
    json_t *exact = json_stringn(line, length);
    char *text = exact ? NULL : malloc(2 * length + 1);
    for (size_t i = 0; text && i < length; i++) {
        unsigned char byte = (unsigned char)line[i];
        if (byte >= 0x80)
            text[used++] = (char)(0xC0 | byte >> 6);
        text[used++] = (char)(byte >= 0x80 ? 0x80 | (byte & 0x3F) : byte);
    }
    json_t *string = text ? json_stringn(text, used) : exact;
    free(text);
    return string;
}

/* It goes where it blocks nobody. */
static void refuse(struct delivery *delivery, const char *line, const char *why)
{
    json_t *reason = json_stringn(why, strcspn(why, "\n"));
    json_t *object = json_pack("{s:o*, s:o*}", "reason", reason, "line", line_text(line));
    delivery->is_whole &= object && json_array_append_new(delivery->refused, object) == 0;
}

static enum store_status deliver_line(struct delivery *delivery, const char *line,
                                      const json_t *object)
{
    struct cm_ledger *ledger = delivery->ledger;
    struct cm_unit_record unit;
    const char *whose = json_string_value(json_object_get(object, "ledger"));
    enum store_status status = STORE_REFUSED;
    if (!json_string_value(json_object_get(object, "key"))) {
        refuse(delivery, line, "it is not a whole line");
    } else if (!whose || strcmp(whose, ledger->shown) != 0) {
        refuse(delivery, line, "it is for another ledger");
    } else {
        from_json(object, &unit);
        status = ledger_insert(ledger, &unit);
        if (status == STORE_REFUSED)
            refuse(delivery, line, ledger->why);
    }
    return status == STORE_REFUSED ? STORE_OK : status;
}

/* Delivers each line. One that a lost power has cut off was never said to be recorded. */
static enum store_status deliver_lines(struct delivery *delivery, FILE *lines)
{
    char *line = NULL;
    size_t room = 0;
    enum store_status status = STORE_OK;
    while (getline(&line, &room, lines) > 0) {
        json_error_t fault;
        json_t *object = json_loads(line, 0, &fault);
        delivery->is_whole &= object || json_error_code(&fault) != json_error_out_of_memory;
        if (!status && delivery->is_whole)
            status = deliver_line(delivery, line, object);
        delivery->left += status != STORE_OK;
        json_decref(object);
    }
    free(line);
    delivery->is_whole &= !ferror(lines);
    return status;
}

void ledger_count_journal(struct cm_ledger *ledger)
{
    char *line = NULL;
    size_t room = 0;
    FILE *lines = open_journal(ledger);
    ledger->in_journal = 0;
    if (!lines)
        return;
    while (getline(&line, &room, lines) > 0)
        ledger->in_journal++;
    free(line);
    fclose(lines);
}

/* When all others are delivered: then they come here once. */
static bool set_aside(struct cm_ledger *ledger, const json_t *refused)
{
    size_t index;
    json_t *object;
    json_array_foreach(refused, index, object)
    {
        if (!add_line(ledger, ledger->aside, object))
            return false;
        ledger->set_aside++;
    }
    return true;
}

/* The journal is emptied when each line is where it belongs. */
static bool settle(const struct delivery *delivery, enum store_status status, int file)
{
    struct cm_ledger *ledger = delivery->ledger;
    if (!delivery->is_whole)
        return host_fail_system(ledger->host, CM_ERROR_FILE_UNREADABLE, ledger->journal, EIO);
    if (status)
        return status == STORE_AWAY || ledger_fail(ledger, status);
    if (!set_aside(ledger, delivery->refused))
        return false;
    if (ftruncate(file, 0) == 0)
        (void)fsync(file);
    return true;
}

bool ledger_deliver(struct cm_ledger *ledger)
{
    struct delivery delivery = {.ledger = ledger, .is_whole = true};
    if (!ledger->journal[0])
        return true;
    FILE *lines = open_journal(ledger);
    if (!lines)
        return false;
    delivery.refused = json_array();
    enum store_status status = deliver_lines(&delivery, lines);
    ledger->in_journal = delivery.left;
    bool good = settle(&delivery, status, fileno(lines));
    json_decref(delivery.refused);
    fclose(lines);
    return good;
}
