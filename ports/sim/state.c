/*
 * The state of a bench: state.json in its folder, written to a temporary name, synced and renamed.
 * Memories are lists of rows that are not blank, {"at": address, "hex": "..."}.
 */
#include "state.h"
#include <ctype.h>
#include <errno.h>
#include <holder.h>
#include <fcntl.h>
#include <jansson.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <sys/statvfs.h>
#include <time.h>
#include <unistd.h>

enum { ROW = 32, FORMAT = 1 };
static const char MEMORY[] = "/memory.cells";

static char *join(const char *a, const char *b)
{
    size_t bytes = strlen(a) + strlen(b) + 1;
    char *joined = malloc(bytes);
    if (joined)
        snprintf(joined, bytes, "%s%s", a, b);
    return joined;
}

char *sim_state_folder(const char *bench_path)
{
    const char *dot = strrchr(bench_path, '.'), *slash = strrchr(bench_path, '/');
    size_t stem = dot && (!slash || dot > slash) ? (size_t)(dot - bench_path) : strlen(bench_path);
    char *copy = strndup(bench_path, stem);
    char *folder = copy ? join(copy, ".state") : NULL;
    free(copy);
    return folder;
}

/* --- writing ----------------------------------------------------------------------------- */

static bool is_blank(const uint8_t *bytes, uint32_t count)
{
    for (uint32_t i = 0; i < count; i++) {
        if (bytes[i] != 0xFF)
            return false;
    }
    return true;
}

static json_t *memory_rows(const uint8_t *bytes, uint32_t count)
{
    json_t *rows = json_array();
    for (uint32_t at = 0; at < count; at += ROW) {
        uint32_t length = count - at < ROW ? count - at : ROW;
        char text[2 * ROW + 1];
        if (is_blank(bytes + at, length))
            continue;
        for (uint32_t i = 0; i < length; i++)
            snprintf(text + 2 * i, 3, "%02X", bytes[at + i]);
        json_array_append_new(rows, json_pack("{s:I, s:s}", "at", (json_int_t)at, "hex", text));
    }
    return rows;
}

static json_t *numbers_u8(const uint8_t *values, size_t count)
{
    json_t *array = json_array();
    for (size_t i = 0; i < count; i++)
        json_array_append_new(array, json_integer(values[i]));
    return array;
}

static json_t *wires_array(const struct sim_faults *faults)
{
    json_t *array = json_array();
    for (uint8_t i = 0; i < faults->wire_count; i++) {
        char text[SIM_WIRE_TEXT];
        sim_wire_print(&faults->wires[i], text);
        json_array_append_new(array, json_string(text));
    }
    return array;
}

static json_t *faults_object(const struct sim_faults *faults, uint64_t clocks)
{
    return json_pack("{s:I, s:I, s:I, s:I, s:b, s:I, s:b, s:b, s:I, s:I, s:b, s:I, s:b, s:o, s:I}",
                     "contact_lost_after_bytes", (json_int_t)faults->contact_lost_after_bytes,
                     "contact_back_after_bytes", (json_int_t)faults->contact_back_after_bytes,
                     "flip_every_bytes", (json_int_t)faults->flip_every_bytes, "slow_percent",
                     (json_int_t)faults->slow_percent, "no_power", faults->no_power,
                     "restart_every_bytes", (json_int_t)faults->restart_every_bytes, "reset_held",
                     faults->reset_held, "no_rights", faults->no_rights, "worn_at",
                     (json_int_t)faults->worn_at, "stuck_at", (json_int_t)faults->stuck_at,
                     "registers_stuck", faults->registers_stuck, "stretch_us",
                     (json_int_t)faults->stretch_us, "sda_held", faults->sda_held, "wires",
                     wires_array(faults), "clocks", (json_int_t)clocks);
}

/* A memory's cells are in a file of their own. */
static json_t *memory_object(const struct sim_state *state)
{
    const struct nor_model *model = &state->model->nor;
    json_t *breaches = json_array();
    for (int i = 0; i < NOR_BREACH_COUNT; i++)
        json_array_append_new(breaches, json_integer(model->breaches[i]));
    return json_pack(
        "{s:i, s:s, s:I, s:I, s:I, s:I, s:I, s:I, s:i, s:b, s:b, s:o, s:o, s:o, s:o}", "format",
        FORMAT, "part", model->row->part.name, "time_ns", (json_int_t)model->now_ns, "bytes",
        (json_int_t)*state->bytes, "fault_bytes", (json_int_t)*state->fault_bytes, "programs",
        (json_int_t)model->programs, "erases", (json_int_t)model->erases, "busy_until_ns",
        (json_int_t)model->busy_until_ns, "supply_mv", (int)model->supply_mv, "wide", model->wide,
        "asleep", model->asleep, "registers", numbers_u8(model->registers, CM_NOR_REGISTERS),
        "locks", numbers_u8(model->sector_locks, sizeof model->sector_locks), "faults",
        faults_object(state->faults, *state->fault_clocks), "breaches", breaches);
}

/* A model's members that its kind lists, whatever their size. */
static uint64_t field_value(const struct sim_field *field)
{
    uint64_t value = 0;
    memcpy(&value, field->at, field->bytes); // of a little-endian computer
    return value;
}

static json_t *plain_object(const struct sim_state *state)
{
    struct sim_field fields[SIM_MOST_FIELDS];
    int count = state->kind->fields(state->model, fields);
    const uint32_t *breached = sim_breaches(state->kind, state->model);
    json_t *breaches = json_array(), *object;
    for (int i = 0; i < state->kind->breach_count; i++)
        json_array_append_new(breaches, json_integer(breached[i]));
    object = json_pack(
        "{s:i, s:s, s:I, s:I, s:I, s:o, s:o}", "format", FORMAT, "part", state->part->name,
        "time_ns", (json_int_t)*sim_now_ns(state->kind, state->model), "bytes",
        (json_int_t)*state->bytes, "fault_bytes", (json_int_t)*state->fault_bytes, "faults",
        faults_object(state->faults, *state->fault_clocks), "breaches", breaches);
    for (int i = 0; object && i < count; i++)
        json_object_set_new(object, fields[i].name,
                            json_integer((json_int_t)field_value(&fields[i])));
    return object;
}

static json_t *state_object(const struct sim_state *state)
{
    if (state->kind->fields)
        return plain_object(state);
    if (state->kind == &sim_nor)
        return memory_object(state);
    const struct avr_model *model = &state->model->avr;
    json_t *breaches = json_array();
    for (int i = 0; i < BREACH_COUNT; i++)
        json_array_append_new(breaches, json_integer(model->breaches[i]));
    return json_pack("{s:i, s:s, s:I, s:I, s:I, s:I, s:I, s:I, s:I, s:o, s:i, s:o, s:o, s:o, s:o}",
                     "format", FORMAT, "part", model->row->part.name, "time_ns",
                     (json_int_t)model->now_ns, "bytes", (json_int_t)*state->bytes, "fault_bytes",
                     (json_int_t)*state->fault_bytes, "page_writes", (json_int_t)model->page_writes,
                     "eeprom_writes", (json_int_t)model->eeprom_writes, "erases",
                     (json_int_t)model->erases, "setting_writes", (json_int_t)model->setting_writes,
                     "fuses", numbers_u8(model->fuses, 3), "lock", (int)model->lock, "faults",
                     faults_object(state->faults, *state->fault_clocks), "breaches", breaches,
                     "flash", memory_rows(model->flash, model->row->flash_bytes), "eeprom",
                     memory_rows(model->eeprom, model->row->eeprom_bytes));
}

int sim_state_lock(const char *folder, char *error)
{
    enum { TRIES = 500, PAUSE_NS = 20000000 };
    const struct timespec pause = {.tv_nsec = PAUSE_NS};
    int lock = -1;
    if (mkdir(folder, 0777) == 0 || errno == EEXIST)
        lock = open(folder, O_RDONLY | O_DIRECTORY | O_NOFOLLOW | O_CLOEXEC);
    if (lock < 0) {
        bool is_link = errno == ELOOP || errno == ENOTDIR;
        snprintf(error, SIM_ERROR_BYTES, "%s: %s", folder,
                 is_link ? "is a link or a file; the state wants a folder of its own"
                         : strerror(errno));
        return -1;
    }
    for (int i = 0; i < TRIES; i++) {
        if (flock(lock, LOCK_EX | LOCK_NB) == 0)
            return lock;
        if (errno != EWOULDBLOCK && errno != EINTR) { // a file system without locks
            snprintf(error, SIM_ERROR_BYTES, "%s cannot be locked: %s", folder, strerror(errno));
            close(lock);
            return -1;
        }
        if (nanosleep(&pause, NULL) != 0)
            break; // interrupted
    }
    close(lock);
    if (!holder_of(folder, error, SIM_ERROR_BYTES))
        snprintf(error, SIM_ERROR_BYTES, "another command is at work on this bench");
    errno = EBUSY;
    return -1;
}

/* A link in its place, which somebody may have put there, is not followed. */
static bool write_synced(const char *path, const char *text)
{
    unlink(path);
    int file = open(path, O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, 0666);
    if (file < 0)
        return false;
    size_t left = strlen(text);
    while (left > 0) {
        ssize_t written = write(file, text, left);
        if (written < 0 && errno == EINTR)
            continue;
        if (written <= 0)
            break;
        text += written;
        left -= (size_t)written;
    }
    bool good = left == 0 && fsync(file) == 0;
    return (close(file) == 0) && good;
}

bool sim_state_save(const char *folder, const struct sim_state *state)
{
    json_t *object = state_object(state);
    char *text = object ? json_dumps(object, JSON_INDENT(1)) : NULL;
    char *path = join(folder, "/state.json"), *temporary = join(folder, "/state.json.new");
    bool made = mkdir(folder, 0777) == 0 || errno == EEXIST;
    bool good = text && path && temporary && made && write_synced(temporary, text) &&
                rename(temporary, path) == 0;
    int error = errno;
    free(temporary);
    free(path);
    free(text);
    json_decref(object);
    errno = error;
    return good;
}

bool sim_state_remove(const char *folder)
{
    char *path = join(folder, "/state.json"), *temporary = join(folder, "/state.json.new"),
         *memory = join(folder, MEMORY);
    bool good = path && temporary && (unlink(path) == 0 || errno == ENOENT);
    if (temporary)
        unlink(temporary);
    if (memory)
        unlink(memory);
    free(memory);
    rmdir(folder); // stays if somebody put something else there
    free(temporary);
    free(path);
    return good;
}

/* --- a memory's cells -------------------------------------------------------------------- */

/* The file is one of holes: what is not there yet must find room later, when an error can no longer
 * be told. */
static bool has_room(int file, uint32_t bytes)
{
    struct stat facts;
    struct statvfs disk;
    if (fstat(file, &facts) != 0 || fstatvfs(file, &disk) != 0)
        return false;
    uint64_t there = (uint64_t)facts.st_blocks * 512, wanted = there < bytes ? bytes - there : 0;
    if ((uint64_t)disk.f_bavail * disk.f_frsize >= wanted)
        return true;
    errno = ENOSPC;
    return false;
}

uint8_t *sim_memory_map(const char *folder, uint32_t bytes)
{
    char *path = join(folder, MEMORY), *state = join(folder, "/state.json");
    bool made = mkdir(folder, 0777) == 0 || errno == EEXIST;
    bool is_new = !state || access(state, F_OK) !=
                                0; // cells without a state are of a chip that was thrown away
    int file =
        path && made
            ? open(path, O_RDWR | O_CREAT | O_NOFOLLOW | O_CLOEXEC | (is_new ? O_TRUNC : 0), 0666)
            : -1;
    void *memory = MAP_FAILED;
    if (file >= 0 && has_room(file, bytes) && ftruncate(file, (off_t)bytes) == 0)
        memory = mmap(NULL, bytes, PROT_READ | PROT_WRITE, MAP_SHARED, file, 0);
    int error = errno;
    if (file >= 0)
        close(file); // the mapping stays
    free(path);
    free(state);
    errno = error;
    return memory == MAP_FAILED ? NULL : memory;
}

void sim_memory_unmap(uint8_t *memory, uint32_t bytes)
{
    munmap(memory, bytes);
}

/* --- reading ----------------------------------------------------------------------------- */

static bool hex_byte(const char *text, uint8_t *byte)
{
    char digits[3] = {text[0], text[0] ? text[1] : '\0', '\0'};
    *byte = (uint8_t)strtoul(digits, NULL, 16);
    return isxdigit((unsigned char)digits[0]) && isxdigit((unsigned char)digits[1]);
}

static bool load_row(const json_t *row, uint8_t *bytes, uint32_t count)
{
    json_int_t at = json_integer_value(json_object_get(row, "at"));
    const char *text = json_string_value(json_object_get(row, "hex"));
    size_t length = text ? strlen(text) : 1;
    if (length % 2 || at < 0 || at > (json_int_t)count || length / 2 > count - (size_t)at)
        return false;
    for (size_t i = 0; i < length / 2; i++) {
        if (!hex_byte(text + 2 * i, &bytes[(size_t)at + i]))
            return false;
    }
    return true;
}

static bool load_memory(const json_t *rows, uint8_t *bytes, uint32_t count)
{
    size_t i;
    const json_t *row;
    memset(bytes, 0xFF, count);
    json_array_foreach(rows, i, row)
    {
        if (!load_row(row, bytes, count))
            return false;
    }
    return json_is_array(rows);
}

static bool load_wires(const json_t *array, struct sim_faults *faults)
{
    size_t i;
    const json_t *text;
    json_array_foreach(array, i, text)
    {
        if (i >= SIM_WIRE_FAULTS || !json_is_string(text) ||
            !sim_wire_parse(json_string_value(text), &faults->wires[i]))
            return false;
        faults->wire_count = (uint8_t)(i + 1);
    }
    return true;
}

static bool load_faults(json_t *object, const struct sim_state *state)
{
    json_int_t lost, back, flip, slow, restart = 0, worn = 0, stuck = 0, stretch = 0, clocks = 0;
    struct sim_faults *faults = state->faults;
    json_t *wires = NULL;
    int no_power, held = 0, no_rights = 0, registers = 0, sda = 0;
    if (json_unpack(object,
                    "{s:I, s:I, s:I, s:I, s:b, s?I, s?b, s?b, s?I, s?I, s?b, s?I, s?b, s?o, s?I}",
                    "contact_lost_after_bytes", &lost, "contact_back_after_bytes", &back,
                    "flip_every_bytes", &flip, "slow_percent", &slow, "no_power", &no_power,
                    "restart_every_bytes", &restart, "reset_held", &held, "no_rights", &no_rights,
                    "worn_at", &worn, "stuck_at", &stuck, "registers_stuck", &registers,
                    "stretch_us", &stretch, "sda_held", &sda, "wires", &wires, "clocks", &clocks))
        return false;
    *faults = (struct sim_faults){.contact_lost_after_bytes = (uint32_t)lost,
                                  .contact_back_after_bytes = (uint32_t)back,
                                  .flip_every_bytes = (uint32_t)flip,
                                  .slow_percent = (uint32_t)slow,
                                  .no_power = no_power,
                                  .restart_every_bytes = (uint32_t)restart,
                                  .reset_held = held,
                                  .no_rights = no_rights,
                                  .worn_at = (uint32_t)worn,
                                  .stuck_at = (uint32_t)stuck,
                                  .registers_stuck = registers,
                                  .stretch_us = (uint32_t)stretch,
                                  .sda_held = sda};
    *state->fault_clocks = (uint64_t)clocks;
    return load_wires(wires, faults);
}

static bool load_numbers(const json_t *array, uint8_t *bytes, size_t count)
{
    for (size_t i = 0; i < count; i++)
        bytes[i] = (uint8_t)json_integer_value(json_array_get(array, i));
    return json_array_size(array) == count;
}

static bool load_memory_object(json_t *object, struct sim_state *state)
{
    struct nor_model *model = &state->model->nor;
    const char *part;
    json_int_t time_ns, bytes, fault_bytes, programs, erases, busy_until_ns;
    json_t *registers, *locks, *faults, *breaches;
    int format, supply_mv, wide, asleep;
    if (json_unpack(
            object, "{s:i, s:s, s:I, s:I, s:I, s:I, s:I, s:I, s:i, s:b, s:b, s:o, s:o, s:o, s:o}",
            "format", &format, "part", &part, "time_ns", &time_ns, "bytes", &bytes, "fault_bytes",
            &fault_bytes, "programs", &programs, "erases", &erases, "busy_until_ns", &busy_until_ns,
            "supply_mv", &supply_mv, "wide", &wide, "asleep", &asleep, "registers", &registers,
            "locks", &locks, "faults", &faults, "breaches", &breaches) ||
        format != FORMAT || strcmp(part, model->row->part.name) != 0)
        return false;
    for (size_t i = 0; i < NOR_BREACH_COUNT; i++)
        model->breaches[i] = (uint32_t)json_integer_value(json_array_get(breaches, i));
    model->now_ns = (uint64_t)time_ns;
    model->busy_until_ns = (uint64_t)busy_until_ns;
    model->programs = (uint32_t)programs;
    model->erases = (uint32_t)erases;
    model->supply_mv = (uint16_t)supply_mv; // as it was left: the board has not been off since
    model->wide = wide;
    model->asleep = asleep;
    *state->bytes = (uint64_t)bytes;
    *state->fault_bytes = (uint64_t)fault_bytes;
    return load_faults(faults, state) &&
           load_numbers(registers, model->registers, CM_NOR_REGISTERS) &&
           load_numbers(locks, model->sector_locks, sizeof model->sector_locks);
}

static bool load_plain_object(json_t *object, struct sim_state *state)
{
    struct sim_field fields[SIM_MOST_FIELDS];
    const char *part;
    json_int_t time_ns, bytes, fault_bytes;
    json_t *faults, *breaches;
    int format, count = state->kind->fields(state->model, fields);
    if (json_unpack(object, "{s:i, s:s, s:I, s:I, s:I, s:o, s:o}", "format", &format, "part", &part,
                    "time_ns", &time_ns, "bytes", &bytes, "fault_bytes", &fault_bytes, "faults",
                    &faults, "breaches", &breaches) ||
        format != FORMAT || strcmp(part, state->part->name) != 0)
        return false;
    for (int i = 0; i < state->kind->breach_count; i++)
        sim_breaches(state->kind, state->model)[i] =
            (uint32_t)json_integer_value(json_array_get(breaches, (size_t)i));
    for (int i = 0; i < count; i++) {
        uint64_t value = (uint64_t)json_integer_value(json_object_get(object, fields[i].name));
        memcpy(fields[i].at, &value, fields[i].bytes);
    }
    *sim_now_ns(state->kind, state->model) = (uint64_t)time_ns;
    *state->bytes = (uint64_t)bytes;
    *state->fault_bytes = (uint64_t)fault_bytes;
    return load_faults(faults, state);
}

static bool load_object(json_t *object, struct sim_state *state)
{
    if (state->kind->fields)
        return load_plain_object(object, state);
    if (state->kind == &sim_nor)
        return load_memory_object(object, state);
    struct avr_model *model = &state->model->avr;
    const char *part;
    json_int_t time_ns, bytes, fault_bytes, pages, eeprom_writes, erases, settings;
    json_t *fuses, *breaches, *flash, *eeprom, *faults;
    int format, lock;
    if (json_unpack(
            object, "{s:i, s:s, s:I, s:I, s:I, s:I, s:I, s:I, s:I, s:o, s:i, s:o, s:o, s:o, s:o}",
            "format", &format, "part", &part, "time_ns", &time_ns, "bytes", &bytes, "fault_bytes",
            &fault_bytes, "page_writes", &pages, "eeprom_writes", &eeprom_writes, "erases", &erases,
            "setting_writes", &settings, "fuses", &fuses, "lock", &lock, "faults", &faults,
            "breaches", &breaches, "flash", &flash, "eeprom", &eeprom))
        return false;
    if (format != FORMAT || strcmp(part, model->row->part.name) != 0 || json_array_size(fuses) != 3)
        return false;
    for (size_t i = 0; i < 3; i++)
        model->fuses[i] = (uint8_t)json_integer_value(json_array_get(fuses, i));
    for (size_t i = 0; i < BREACH_COUNT; i++)
        model->breaches[i] = (uint32_t)json_integer_value(json_array_get(breaches, i));
    model->lock = (uint8_t)lock;
    model->now_ns = (uint64_t)time_ns;
    model->page_writes = (uint32_t)pages;
    model->eeprom_writes = (uint32_t)eeprom_writes;
    model->erases = (uint32_t)erases;
    model->setting_writes = (uint32_t)settings;
    *state->bytes = (uint64_t)bytes;
    *state->fault_bytes = (uint64_t)fault_bytes;
    return load_faults(faults, state) &&
           load_memory(flash, model->flash, model->row->flash_bytes) &&
           load_memory(eeprom, model->eeprom, model->row->eeprom_bytes);
}

enum sim_state_found sim_state_load(const char *folder, struct sim_state *state, char *error)
{
    json_error_t reason;
    char *path = join(folder, "/state.json");
    enum sim_state_found found = SIM_STATE_NONE;
    if (path && access(path, F_OK) == 0) {
        json_t *object = json_load_file(path, 0, &reason);
        found = object && load_object(object, state) ? SIM_STATE_LOADED : SIM_STATE_BAD;
        if (found == SIM_STATE_BAD)
            snprintf(error, SIM_ERROR_BYTES, "%s is not the state of this bench%s%s", path,
                     object ? "" : ": ", object ? "" : reason.text);
        json_decref(object);
    }
    free(path);
    return found;
}
