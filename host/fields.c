/*
 * Field maps of settings blocks, read by their schema.
 */
#include "overlay.h"
#include "value.h"
#include <coldmint/host/fields.h>
#include <cyaml/cyaml.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <yaml_numbers.h>
#include <yaml_text.h>

enum { MOST_FIELDS = 256, MOST_CHOICES = 64, TEXT = 100 };

struct choice {
    char *word;
    int64_t value;
};

struct field {
    char *name, *type, *unit, *first;
    uint32_t at;
    int64_t *least, *most;
    struct choice *choices;
    unsigned choices_count;
    struct value_format format; /* not from the file */
};

struct cm_fields_file {
    char *title, *block, *checksum;
    uint32_t bytes;
    struct field *fields;
    unsigned fields_count;
    /* from the checksum's text */
    struct value_format sum;
    uint32_t sum_at, sum_first, sum_last;
};

static const cyaml_schema_field_t CHOICE_FIELDS[] = {
    CYAML_FIELD_STRING_PTR("word", CYAML_FLAG_POINTER, struct choice, word, 1, TEXT),
    CYAML_FIELD_INT("value", CYAML_FLAG_DEFAULT, struct choice, value), CYAML_FIELD_END};
static const cyaml_schema_value_t CHOICE = {
    CYAML_VALUE_MAPPING(CYAML_FLAG_DEFAULT, struct choice, CHOICE_FIELDS)};
#define OPTIONAL (CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL)
static const cyaml_schema_field_t FIELD_FIELDS[] = {
    CYAML_FIELD_STRING_PTR("name", CYAML_FLAG_POINTER, struct field, name, 1, TEXT),
    CYAML_FIELD_UINT("at", CYAML_FLAG_DEFAULT, struct field, at),
    CYAML_FIELD_STRING_PTR("type", CYAML_FLAG_POINTER, struct field, type, 1, TEXT),
    CYAML_FIELD_STRING_PTR("unit", OPTIONAL, struct field, unit, 1, TEXT),
    CYAML_FIELD_STRING_PTR("default", OPTIONAL, struct field, first, 0, TEXT),
    CYAML_FIELD_INT_PTR("least", OPTIONAL, struct field, least),
    CYAML_FIELD_INT_PTR("most", OPTIONAL, struct field, most),
    CYAML_FIELD_SEQUENCE("choices", OPTIONAL, struct field, choices, &CHOICE, 1, MOST_CHOICES),
    CYAML_FIELD_END};
static const cyaml_schema_value_t FIELD = {
    CYAML_VALUE_MAPPING(CYAML_FLAG_DEFAULT, struct field, FIELD_FIELDS)};
static const cyaml_schema_field_t MAP_FIELDS[] = {
    CYAML_FIELD_STRING_PTR("block", CYAML_FLAG_POINTER, struct cm_fields_file, title, 1, TEXT),
    CYAML_FIELD_STRING_PTR("place", CYAML_FLAG_POINTER, struct cm_fields_file, block, 1, TEXT),
    CYAML_FIELD_UINT("bytes", CYAML_FLAG_DEFAULT, struct cm_fields_file, bytes),
    CYAML_FIELD_STRING_PTR("checksum", OPTIONAL, struct cm_fields_file, checksum, 1, TEXT),
    CYAML_FIELD_SEQUENCE("fields", CYAML_FLAG_POINTER, struct cm_fields_file, fields, &FIELD, 1,
                         MOST_FIELDS),
    CYAML_FIELD_END};
static const cyaml_schema_value_t MAP = {
    CYAML_VALUE_MAPPING(CYAML_FLAG_POINTER, struct cm_fields_file, MAP_FIELDS)};
static const cyaml_config_t SETTINGS = {
    .log_fn = NULL, .mem_fn = cyaml_mem, .flags = CYAML_CFG_NO_ALIAS};

static bool fail(struct cm_host *host, const char *path, const char *what, const char *name)
{
    struct cm_error *error = host_error(host, CM_ERROR_FIELDS, path);
    snprintf(error->detail, sizeof error->detail, "%s%s%.100s", name[0] ? "field '" : "", name,
             name[0] ? "': " : "");
    snprintf(error->detail + strlen(error->detail), sizeof error->detail - strlen(error->detail),
             "%s", what);
    return false;
}

/* --- reading a map ----------------------------------------------------------------------- */

/* "crc16-little at 30 over 0 to 29" */
static bool parse_checksum(struct cm_fields_file *file)
{
    char format[24];
    uint32_t numbers[3];
    int begin = 0;
    if (!file->checksum)
        return true;
    if (sscanf(file->checksum, "%23s %n", format, &begin) != 1 ||
        !host_numbers(file->checksum + begin, "at # over # to #", numbers) ||
        !value_format_parse(format, &file->sum) || file->sum.kind != VALUE_SUM)
        return false;
    const uint32_t at = numbers[0], first = numbers[1], last = numbers[2];
    file->sum_at = at;
    file->sum_first = first;
    file->sum_last = last;
    bool is_inside = at < file->bytes && file->sum.bytes <= file->bytes - at && first <= last &&
                     last < file->bytes;
    return is_inside && (last < at || first >= at + file->sum.bytes); // it is not over itself
}

static bool overlaps(const struct field *one, const struct field *other)
{
    return one->at < other->at + other->format.bytes && other->at < one->at + one->format.bytes;
}

static bool check_field(struct cm_host *host, const char *path, const struct cm_fields_file *file,
                        unsigned index)
{
    struct field *field = &file->fields[index];
    if (strpbrk(field->name, "= \t\n"))
        return fail(host, path, "a name has neither spaces nor '='", field->name);
    if (!value_format_parse(field->type, &field->format) || field->format.kind == VALUE_SUM)
        return fail(host, path, "its type is u8, u16-little, i8, text-12 or the like", field->name);
    if (field->at >= file->bytes || field->format.bytes > file->bytes - field->at)
        return fail(host, path, "it reaches beyond the block", field->name);
    if (file->checksum && field->at < file->sum_at + file->sum.bytes &&
        file->sum_at < field->at + field->format.bytes)
        return fail(host, path, "it lies over the checksum", field->name);
    for (unsigned i = 0; i < index; i++) {
        if (strcmp(file->fields[i].name, field->name) == 0)
            return fail(host, path, "the name is there twice", field->name);
        if (overlaps(&file->fields[i], field))
            return fail(host, path, "it lies over another", field->name);
    }
    return true;
}

static bool check(struct cm_host *host, struct cm_fields *map)
{
    struct cm_fields_file *file = map->own;
    uint32_t at;
    int begin = 0;
    if (sscanf(file->block, "%11s %n", map->memory, &begin) != 1 ||
        !host_numbers(file->block + begin, "#", &at))
        return fail(host, map->path, "place is a memory and an address: eeprom 0x100", "");
    if (file->bytes == 0 || file->bytes > CM_FIELDS_BYTES)
        return fail(host, map->path, "bytes is 1 to 4096", "");
    if (!parse_checksum(file))
        return fail(host, map->path, "checksum is like  crc16-little at 30 over 0 to 29", "");
    map->at = at;
    map->bytes = file->bytes;
    map->title = file->title;
    map->count = file->fields_count;
    for (unsigned i = 0; i < file->fields_count; i++) {
        if (!check_field(host, map->path, file, i))
            return false;
    }
    return true;
}

static bool parse(struct cm_host *host, struct cm_fields *map)
{
    size_t bytes = 0;
    const char *why;
    char *text = yaml_read(map->path, &bytes, &why);
    if (!text)
        return fail(host, map->path, why, "");
    char unclear[TEXT];
    if (!yaml_numbers_are_clear(text, bytes, &MAP, unclear, sizeof unclear)) {
        free(text);
        return fail(host, map->path, unclear, "");
    }
    cyaml_err_t result = cyaml_load_data((const uint8_t *)text, bytes, &SETTINGS, &MAP,
                                         (cyaml_data_t **)&map->own, NULL);
    free(text);
    if (result != CYAML_OK || !map->own)
        return fail(host, map->path, result == CYAML_OK ? "it is empty" : cyaml_strerror(result),
                    "");
    return check(host, map);
}

struct cm_fields *cm_fields_load(struct cm_host *host, const char *path)
{
    struct cm_fields *map = calloc(1, sizeof *map);
    if (!map) {
        host_fail(host, CM_ERROR_NO_MEMORY, path);
        return NULL;
    }
    map->path = path;
    if (parse(host, map))
        return map;
    cm_fields_free(map);
    return NULL;
}

void cm_fields_free(struct cm_fields *map)
{
    if (map && map->own)
        cyaml_free(&SETTINGS, &MAP, map->own, 0);
    free(map);
}

/* --- values ------------------------------------------------------------------------------ */

const char *cm_fields_name(const struct cm_fields *map, uint32_t field)
{
    return map->own->fields[field].name;
}

int cm_fields_find(const struct cm_fields *map, const char *name)
{
    for (uint32_t i = 0; i < map->count; i++) {
        if (strcmp(map->own->fields[i].name, name) == 0)
            return (int)i;
    }
    return -1;
}

static const struct choice *choice_of(const struct field *field, int64_t value)
{
    for (unsigned i = 0; i < field->choices_count; i++) {
        if (field->choices[i].value == value)
            return &field->choices[i];
    }
    return NULL;
}

/* A value as it is written; without its unit. */
static void plain_text(const struct field *field, const uint8_t *block, char *text)
{
    const uint8_t *bytes = block + field->at;
    if (field->format.kind == VALUE_TEXT) {
        int length = 0; // up to its end, or to what was never written
        while (length < field->format.bytes && bytes[length] && bytes[length] != 0xFF)
            length++;
        snprintf(text, CM_FIELD_TEXT, "%.*s", length, (const char *)bytes);
        return;
    }
    int64_t value = (int64_t)value_get(&field->format, bytes);
    const struct choice *choice = choice_of(field, value);
    if (choice)
        snprintf(text, CM_FIELD_TEXT, "%s", choice->word);
    else if (field->format.kind == VALUE_SIGNED)
        snprintf(text, CM_FIELD_TEXT, "%lld", (long long)value);
    else
        snprintf(text, CM_FIELD_TEXT, "%llu", (unsigned long long)value);
}

const char *cm_fields_value(const struct cm_fields *map, uint32_t index, const uint8_t *block,
                            char *text)
{
    const struct field *field = &map->own->fields[index];
    plain_text(field, block, text);
    size_t used = strlen(text);
    bool is_word = field->format.kind != VALUE_TEXT &&
                   choice_of(field, (int64_t)value_get(&field->format, block + field->at));
    if (field->unit && !is_word)
        snprintf(text + used, CM_FIELD_TEXT - used, " %s", field->unit);
    return text;
}

const char *cm_fields_choices(const struct cm_fields *map, uint32_t index, char *text)
{
    const struct field *field = &map->own->fields[index];
    size_t used = 0;
    text[0] = '\0';
    for (unsigned i = 0; i < field->choices_count && used < CM_FIELD_TEXT; i++)
        used += (size_t)snprintf(text + used, CM_FIELD_TEXT - used, "%s%s",
                                 i == 0                          ? ""
                                 : i + 1 == field->choices_count ? " or "
                                                                 : ", ",
                                 field->choices[i].word);
    if (field->choices_count)
        return text;
    if (field->format.kind == VALUE_TEXT)
        snprintf(text, CM_FIELD_TEXT, "a text of %u bytes at most", field->format.bytes);
    else if (field->least && field->most)
        snprintf(text, CM_FIELD_TEXT, "%lld to %lld", (long long)*field->least,
                 (long long)*field->most);
    else if (field->least || field->most)
        snprintf(text, CM_FIELD_TEXT, field->least ? "%lld or more" : "%lld or less",
                 (long long)(field->least ? *field->least : *field->most));
    else
        snprintf(text, CM_FIELD_TEXT, "a number of %u bits", 8u * field->format.bytes);
    return text;
}

/* Is a number within the field's limits? */
static bool is_allowed(const struct field *field, const uint8_t *bytes)
{
    uint64_t value = value_get(&field->format, bytes);
    bool is_signed = field->format.kind == VALUE_SIGNED, is_huge = !is_signed && value > INT64_MAX;
    if (field->choices_count)
        return choice_of(field, (int64_t)value) != NULL;
    if (field->least && !is_huge && (int64_t)value < *field->least)
        return false;
    return !field->most || (!is_huge && (int64_t)value <= *field->most);
}

/* Puts a value in words into the block; false: the field does not allow it, and nothing changed. */
static bool take_value(const struct field *field, uint8_t *block, const char *text)
{
    uint8_t bytes[VALUE_TEXT_BYTES] = {0};
    if (field->format.kind == VALUE_TEXT) {
        if (strlen(text) > field->format.bytes)
            return false;
        memcpy(bytes, text, strlen(text));
        memcpy(block + field->at, bytes, field->format.bytes);
        return true;
    }
    bool found = false;
    for (unsigned i = 0; i < field->choices_count && !found; i++) {
        found = strcmp(field->choices[i].word, text) == 0;
        if (found)
            value_put(&field->format, bytes, (uint64_t)field->choices[i].value);
    }
    if (!found && (field->choices_count || !value_take_number(&field->format, text, bytes) ||
                   !is_allowed(field, bytes)))
        return false;
    memcpy(block + field->at, bytes, field->format.bytes);
    return true;
}

static bool fail_name(struct cm_host *host, const struct cm_fields *map, const char *choice)
{
    struct cm_error *error = host_error(host, CM_ERROR_FIELD_NAME, map->path);
    size_t used = 0;
    HOST_COPY(error->text, choice);
    for (uint32_t i = 0; i < map->count && used < sizeof error->detail; i++)
        used += (size_t)snprintf(error->detail + used, sizeof error->detail - used, "%s%s",
                                 i ? ", " : "", cm_fields_name(map, i));
    return false;
}

bool cm_fields_set(struct cm_host *host, const struct cm_fields *map, uint8_t *block,
                   const char *choice)
{
    char name[TEXT + 1];
    const char *equals = strchr(choice, '=');
    size_t length = equals ? (size_t)(equals - choice) : strlen(choice);
    snprintf(name, sizeof name, "%.*s", length < TEXT ? (int)length : TEXT, choice);
    int index = equals ? cm_fields_find(map, name) : -1;
    if (index < 0)
        return fail_name(host, map, choice);
    if (take_value(&map->own->fields[index], block, equals + 1))
        return true;
    struct cm_error *error = host_error(host, CM_ERROR_FIELD_VALUE, map->path);
    char choices[CM_FIELD_TEXT];
    HOST_COPY(error->text, choice);
    HOST_COPY(error->detail, cm_fields_choices(map, (uint32_t)index, choices));
    return false;
}

/* --- the block --------------------------------------------------------------------------- */

static uint32_t sum_of(const struct cm_fields_file *file, const uint8_t *block)
{
    uint32_t sum = 0;
    for (uint32_t at = file->sum_first; at <= file->sum_last; at++)
        sum = value_sum_add(&file->sum, sum, block[at]);
    return sum;
}

bool cm_fields_is_sound(const struct cm_fields *map, const uint8_t *block)
{
    const struct cm_fields_file *file = map->own;
    return !file->checksum || value_get(&file->sum, block + file->sum_at) == sum_of(file, block);
}

void cm_fields_seal(const struct cm_fields *map, uint8_t *block)
{
    const struct cm_fields_file *file = map->own;
    if (file->checksum)
        value_put(&file->sum, block + file->sum_at, sum_of(file, block));
}

uint32_t cm_fields_carry(const struct cm_fields *old_map, const uint8_t *old_block,
                         const struct cm_fields *map, uint8_t *block, char *refused)
{
    uint32_t taken = 0;
    size_t used = 0;
    refused[0] = '\0';
    for (uint32_t i = 0; i < map->count; i++) {
        const struct field *field = &map->own->fields[i];
        int old = cm_fields_find(old_map, field->name);
        char text[CM_FIELD_TEXT];
        if (old >= 0)
            plain_text(&old_map->own->fields[old], old_block, text);
        bool took = old >= 0 && take_value(field, block, text);
        taken += took;
        if (!took && field->first)
            (void)take_value(field, block, field->first);
        if (old >= 0 && !took && used < CM_ERROR_TEXT)
            used += (size_t)snprintf(refused + used, CM_ERROR_TEXT - used, "%s%s=%s",
                                     used ? ", " : "", field->name, text);
    }
    cm_fields_seal(map, block);
    return taken;
}

/* --- on the chip ------------------------------------------------------------------------- */

/* The region of a map on this chip; -1: the failure is the host's. */
static int region_of(struct cm_host *host, struct cm_session *session, const struct cm_fields *map)
{
    struct cm_region region;
    int index = cm_region_by_name(session, map->memory);
    if (index >= 0 && cm_region(session, (uint8_t)index, &region) &&
        !(region.traits & CM_REGION_SETTINGS) && map->bytes <= region.bytes &&
        map->at <= region.bytes - map->bytes)
        return index;
    fail(host, map->path, "this chip has no such place for the block", "");
    return -1;
}

bool cm_fields_read(struct cm_host *host, struct cm_session *session, const struct cm_fields *map,
                    uint8_t *block)
{
    int region = region_of(host, session, map);
    if (region < 0)
        return false;
    enum cm_status status = cm_read_twice(session, (uint8_t)region, map->at, block, map->bytes);
    return !status || host_fail_session(host, status);
}

/* What of a source lies in the block. */
static bool take_wanted(const struct cm_source *source, const struct cm_fields *map, uint8_t *block)
{
    uint32_t start, count;
    const uint32_t end = map->at + map->bytes;
    for (uint32_t at = map->at; source->extent(source->context, at, &start, &count) && start < end;
         at = start + count) {
        uint32_t part = count < end - start ? count : end - start;
        if (source->read(source->context, start, block + (start - map->at), part) != CM_OK)
            return false;
        if (part < count)
            return true;
    }
    return true;
}

bool cm_job_wanted_block(struct cm_job *job, const struct cm_fields *map, uint8_t *block)
{
    int region = region_of(job->host, job->session, map);
    if (region < 0)
        return false;
    memset(block, 0xFF, map->bytes);
    for (uint8_t i = 0; i < job->want_count; i++) {
        if (job->wants[i].region == region && !take_wanted(&job->wants[i].source, map, block))
            return host_fail(job->host, CM_ERROR_FILE_BROKE_OFF, job->want_names[i]);
    }
    return true;
}

bool cm_job_want_block(struct cm_job *job, const struct cm_fields *map, const uint8_t *block)
{
    int region = region_of(job->host, job->session, map);
    if (region < 0)
        return false;
    free(job->block);
    struct overlay *overlay = job->block = calloc(1, sizeof *job->block);
    if (!overlay)
        return host_fail(job->host, CM_ERROR_NO_MEMORY, map->path);
    overlay->pieces[0] =
        (struct overlay_piece){(uint8_t)region, map->at, map->bytes, block, map->title};
    overlay->count = 1;
    overlay_leave_out(job, overlay);
    return overlay_want(job, overlay);
}
