/*
 * What a new chip holds: a file of records, or raw bytes, beside the bench file.
 */
#include "inside.h"
#include <coldmint/coldmint.h>
#include <errno.h>
#include <stdio.h>
#include <string.h>

static enum cm_status into_memory(void *context, uint32_t address, const uint8_t *bytes,
                                  uint32_t count, uint32_t line)
{
    const struct sim_target *target = context;
    (void)line;
    if (count > target->count || address > target->count - count)
        return CM_TOO_LARGE;
    for (uint32_t i = 0; i < count; i++)
        target->bytes[address + i] = bytes[i] ^ target->flip;
    return CM_OK;
}

/* Reads records, or the raw bytes; false with the reason in `error`. */
static bool read_contents(FILE *file, const char *path, struct sim_target *target, char *error)
{
    struct cm_record_reader reader;
    char text[4096];
    size_t got, length = strlen(path);
    bool raw = length > 4 && strcmp(path + length - 4, ".bin") == 0;
    uint32_t at = 0;
    cm_record_begin(&reader, into_memory, target);
    while ((got = fread(text, 1, sizeof text, file)) > 0) {
        enum cm_status status =
            raw ? into_memory(target, at, (const uint8_t *)text, (uint32_t)got, 0)
                : cm_record_feed(&reader, text, got);
        if (raw && status)
            snprintf(error, SIM_ERROR_BYTES, "%.300s is larger than the chip", path);
        if (status)
            break;
        at += (uint32_t)got;
    }
    if (ferror(file))
        snprintf(error, SIM_ERROR_BYTES, "%.300s cannot be read to its end", path);
    if (raw || ferror(file))
        return error[0] == '\0';
    if (cm_record_end(&reader) == CM_OK)
        return true;
    snprintf(error, SIM_ERROR_BYTES, "%.300s, line %u: %s", path, (unsigned)reader.line,
             cm_record_fault_word(reader.fault));
    return false;
}

/* Fills a memory of the new chip from a file that is named relative to the bench file. */
bool sim_load_contents(const char *bench_path, const char *name, struct sim_target target,
                       char *error)
{
    const char *slash = strrchr(bench_path, '/');
    char path[4352];
    int folder = slash && name[0] != '/' ? (int)(slash - bench_path + 1) : 0;
    snprintf(path, sizeof path, "%.*s%s", folder, bench_path, name);
    FILE *file = fopen(path, "rb");
    if (!file) {
        snprintf(error, SIM_ERROR_BYTES, "%.300s: %s", path, strerror(errno));
        return false;
    }
    bool good = read_contents(file, path, &target, error);
    fclose(file);
    return good;
}
