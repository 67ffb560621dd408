/*
 * What each unit gets of its own, laid over the images of a job. Checksums are made last, over
 * files and entries.
 */
#include "unit.h"
#include "overlay.h"
#include "value.h"
#include <coldmint/host/amounts.h>
#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* An entry in its parts: "eeprom 0x1E0 u32-little number". */
struct entry {
    char memory[12], place[80], value[200];
    struct value_format format;
};

/* An entry on the chip. */
struct piece {
    const struct cm_recipe_text *text;
    struct entry entry;
    uint8_t region;
    uint32_t at;
    uint8_t bytes[VALUE_TEXT_BYTES];
};

struct job_unit {
    struct piece pieces[CM_RECIPE_UNIT];
    struct overlay overlay;
};

/* --- entries ----------------------------------------------------------------------------- */

static bool parse_entry(const char *text, struct entry *entry)
{
    char memory[12], place[80], format[24];
    int begin = 0;
    memset(entry, 0, sizeof *entry);
    if (strlen(text) >= sizeof entry->value ||
        sscanf(text, "%11s %79s %23s %n", memory, place, format, &begin) < 3 || !begin ||
        !text[begin] || !value_format_parse(format, &entry->format))
        return false;
    HOST_COPY(entry->memory, memory);
    HOST_COPY(entry->place, place);
    HOST_COPY(entry->value, text + begin);
    return true;
}

bool unit_entry_is_good(const char *text)
{
    struct entry entry;
    return parse_entry(text, &entry);
}

static bool fail_entry(struct cm_job *job, const struct cm_recipe *recipe,
                       const struct cm_recipe_text *text, enum cm_error_kind kind,
                       const char *detail)
{
    struct cm_error *error = host_error(job->host, kind, recipe->path);
    error->line = text->line;
    HOST_COPY(error->text, text->text);
    HOST_COPY(error->detail, detail);
    return false;
}

/* --- values ------------------------------------------------------------------------------ */

/* A name's value: the number, in so many digits at least, or a column; false: there is none. */
static bool value_of(const struct cm_unit_facts *facts, const char *name, unsigned digits,
                     char *value, size_t room)
{
    if (strcmp(name, "number") == 0 && facts->has_number) {
        snprintf(value, room, "%0*llu", (int)digits, (unsigned long long)facts->number);
        return true;
    }
    for (uint8_t i = 0; i < facts->column_count; i++) {
        if (strcmp(facts->names[i], name) == 0) {
            snprintf(value, room, "%s", facts->values[i]);
            return true;
        }
    }
    return false;
}

/* A text with {names} in it; a name alone stands for itself. False: one has no value, or it is too
 * long. */
static bool fill_in(const struct cm_unit_facts *facts, const char *text, char *filled, size_t room)
{
    size_t used = 0;
    if (value_of(facts, text, 0, filled, room))
        return true;
    while (*text && used + 1 < room) {
        char name[CM_UNIT_VALUE], value[CM_UNIT_VALUE + 24];
        unsigned digits = 0;
        int end = 0;
        bool is_name = *text == '{' && (sscanf(text, "{%63[^:}]:%u}%n", name, &digits, &end) == 2 ||
                                        sscanf(text, "{%63[^:}]}%n", name, &end) == 1);
        if (!is_name || !end || digits > 20) {
            filled[used++] = *text++;
            continue;
        }
        if (!value_of(facts, name, digits, value, sizeof value) || used + strlen(value) >= room)
            return false;
        used += (size_t)snprintf(filled + used, room - used, "%s", value);
        text += end;
    }
    filled[used] = '\0';
    return !*text;
}

/* Names a value that this unit does not have? The first such name. A number is a number or a name;
 * a text stands for itself, but for what is in braces. */
static bool lacks_value(const struct cm_unit_facts *facts, const struct entry *entry, char *name)
{
    char value[CM_UNIT_VALUE + 24];
    const char *text = entry->value;
    bool is_number = entry->format.kind != VALUE_TEXT;
    if (is_number && isalpha((unsigned char)text[0])) {
        host_copy(name, CM_UNIT_VALUE, text);
        return !value_of(facts, text, 0, value, sizeof value);
    }
    for (const char *at = text; (at = strchr(at, '{')) != NULL; at++) {
        bool is_name = sscanf(at, "{%63[^:}]", name) == 1 && strchr(at, '}');
        if (is_name && !value_of(facts, name, 0, value, sizeof value))
            return true;
    }
    return false;
}

static bool fail_column(struct cm_job *job, const struct cm_recipe *recipe,
                        const struct cm_recipe_text *text, const char *name)
{
    const struct cm_unit_facts *facts = job->unit_facts;
    fail_entry(job, recipe, text, CM_ERROR_UNIT_COLUMN, "number");
    struct cm_error *error = &job->host->error;
    HOST_COPY(error->key, name);
    for (uint8_t i = 0; i < facts->column_count; i++) {
        size_t used = i ? strlen(error->detail) : 0;
        snprintf(error->detail + used, sizeof error->detail - used, "%s%s", i ? ", " : "",
                 facts->names[i]);
    }
    return false;
}

static bool fill_piece(struct cm_job *job, const struct cm_recipe *recipe, struct piece *piece)
{
    char value[300];
    const struct cm_unit_facts *facts = job->unit_facts;
    const struct value_format *format = &piece->entry.format;
    if (format->kind == VALUE_SUM)
        return true;
    char name[CM_UNIT_VALUE];
    if (lacks_value(facts, &piece->entry, name))
        return fail_column(job, recipe, piece->text, name);
    bool good = fill_in(facts, piece->entry.value, value, sizeof value);
    if (good && format->kind != VALUE_TEXT)
        good = value_take_number(format, value, piece->bytes);
    else if (good && (good = strlen(value) <= format->bytes))
        memcpy(piece->bytes, value, strlen(value));
    return good ||
           fail_entry(job, recipe, piece->text, CM_ERROR_UNIT_VALUE,
                      fill_in(facts, piece->entry.value, value, sizeof value) ? value
                                                                              : piece->entry.value);
}

/* --- places ------------------------------------------------------------------------------ */

/* A symbol of one of the recipe's ELF files, as an address of the region. */
static bool find_symbol(struct cm_job *job, const struct cm_recipe *recipe, const char *name,
                        uint8_t region, uint32_t *at)
{
    for (uint8_t i = 0; i < recipe->flash_count + recipe->eeprom_count; i++) {
        const bool is_flash = i < recipe->flash_count;
        const struct cm_recipe_text *file =
            is_flash ? &recipe->flash[i] : &recipe->eeprom[i - recipe->flash_count];
        char path[CM_FILE_PATH];
        uint32_t address;
        struct cm_region found;
        cm_recipe_file(recipe, file, path, sizeof path);
        if (!host_elf_symbol(job->host, path, name, &address) ||
            cm_region_at(job->session->family, job->session->part, address) != region)
            continue;
        cm_region(job->session, region, &found);
        *at = address - found.base;
        return true;
    }
    return false;
}

static bool place_piece(struct cm_job *job, const struct cm_recipe *recipe, struct piece *piece)
{
    struct cm_region region = {.bytes = 0};
    const char *place = piece->entry.place;
    int index = cm_region_by_name(job->session, piece->entry.memory);
    bool good = index >= 0 && cm_region(job->session, (uint8_t)index, &region) &&
                !(region.traits & CM_REGION_SETTINGS);
    piece->region = (uint8_t)index;
    if (good && *place >= '0' && *place <= '9') {
        uint64_t at;
        good = cm_parse_number(&place, &at) && !*place && at < region.bytes;
        piece->at = (uint32_t)at;
    } else if (good) {
        good = find_symbol(job, recipe, place, piece->region, &piece->at);
    }
    good =
        good && piece->at < region.bytes && piece->entry.format.bytes <= region.bytes - piece->at;
    return good || fail_entry(job, recipe, piece->text, CM_ERROR_UNIT_PLACE, "");
}

/* --- checksums --------------------------------------------------------------------------- */

/* A byte as the unit will hold it; false: nothing is written there. */
static bool byte_at(const struct cm_job *job, uint8_t region, uint32_t address, uint8_t *byte)
{
    const struct overlay_piece *piece = overlay_at(&job->unit->overlay, region, address);
    if (piece) {
        *byte = piece->bytes[address - piece->at];
        return true;
    }
    for (uint8_t i = 0; i < job->want_count; i++) {
        const struct cm_source *source = &job->wants[i].source;
        uint32_t start, bytes;
        if (job->wants[i].region == region &&
            source->extent(source->context, address, &start, &bytes) && start == address)
            return source->read(source->context, address, byte, 1) == CM_OK;
    }
    return false;
}

static bool sum_up(struct cm_job *job, const struct cm_recipe *recipe, struct piece *piece)
{
    uint32_t ends[2], sum = 0;
    uint8_t byte;
    if (!host_numbers(piece->entry.value, "# to #", ends) || ends[1] < ends[0] ||
        ends[1] - ends[0] > UINT16_MAX)
        return fail_entry(job, recipe, piece->text, CM_ERROR_UNIT_VALUE, piece->entry.value);
    const uint32_t first = ends[0], last = ends[1];
    for (uint32_t at = first; at <= last; at++) {
        bool is_own = at >= piece->at && at - piece->at < piece->entry.format.bytes;
        if (is_own || !byte_at(job, piece->region, at, &byte)) {
            fail_entry(job, recipe, piece->text, CM_ERROR_UNIT_SUM, "");
            job->host->error.address = at;
            return false;
        }
        sum = value_sum_add(&piece->entry.format, sum, byte);
    }
    value_put(&piece->entry.format, piece->bytes, sum);
    return true;
}

/* --- all together ------------------------------------------------------------------------ */

static bool make_pieces(struct cm_job *job, const struct cm_recipe *recipe, struct job_unit *unit)
{
    for (uint8_t i = 0; i < recipe->unit_count; i++) {
        struct piece *piece = &unit->pieces[i];
        piece->text = &recipe->unit[i];
        if (!parse_entry(piece->text->text, &piece->entry) || !place_piece(job, recipe, piece) ||
            !fill_piece(job, recipe, piece))
            return false;
        unit->overlay.pieces[i] = (struct overlay_piece){
            piece->region, piece->at, piece->entry.format.bytes, piece->bytes, piece->text->text};
    }
    unit->overlay.count = recipe->unit_count;
    return true;
}

/* --- the number that a unit has already -------------------------------------------------- */

/* What the chip has at an entry's place, as far as it may be read. False: it may not, or it is
 * blank. */
static bool read_piece(struct cm_job *job, struct piece *piece)
{
    struct cm_guard guard;
    const uint8_t count = piece->entry.format.bytes;
    bool is_blank = true;
    if (cm_guard_look(job->session, &guard) != CM_OK ||
        guard.bars_reading & CM_REGION_BIT(piece->region) ||
        cm_read_twice(job->session, piece->region, piece->at, piece->bytes, count) != CM_OK)
        return false;
    for (uint8_t i = 0; i < count; i++)
        is_blank = is_blank && piece->bytes[i] == 0xFF;
    return !is_blank;
}

/* A text with the number in it, "N-{number:6}": what this number would make of it is what is
 * there. */
static bool number_of_text(const struct piece *piece, uint64_t *number)
{
    enum { DIGITS = 20 };
    const char *text = piece->entry.value, *brace = strchr(text, '{');
    const size_t before = brace ? (size_t)(brace - text) : 0, room = piece->entry.format.bytes;
    char digits[DIGITS + 1], filled[300];
    size_t count = 0;
    while (brace && count < DIGITS && before + count < room &&
           isdigit(piece->bytes[before + count])) {
        digits[count] = (char)piece->bytes[before + count];
        count++;
    }
    digits[count] = '\0';
    const char *end = digits;
    struct cm_unit_facts facts = {.has_number = true};
    if (!count || !cm_parse_number(&end, &facts.number) || *end ||
        !fill_in(&facts, text, filled, sizeof filled) || strlen(filled) > room)
        return false;
    *number = facts.number;
    return memcmp(filled, piece->bytes, strlen(filled)) == 0 &&
           (strlen(filled) == room || piece->bytes[strlen(filled)] == 0);
}

static bool has_number_of(const struct piece *piece)
{
    const bool is_text = piece->entry.format.kind == VALUE_TEXT;
    return is_text ? strstr(piece->entry.value, "{number") != NULL
                   : piece->entry.format.kind == VALUE_INTEGER &&
                         strcmp(piece->entry.value, "number") == 0;
}

static bool number_of(const struct piece *piece, uint64_t *number)
{
    if (piece->entry.format.kind == VALUE_TEXT)
        return number_of_text(piece, number);
    *number = value_get(&piece->entry.format, piece->bytes);
    return true;
}

static bool find_number(struct cm_job *job, const struct cm_recipe *recipe, uint64_t *number)
{
    bool found = false;
    for (uint8_t i = 0; i < recipe->unit_count; i++) {
        struct piece piece = {.text = &recipe->unit[i]};
        uint64_t one;
        if (!parse_entry(piece.text->text, &piece.entry) || !has_number_of(&piece))
            continue;
        if (!place_piece(job, recipe, &piece) || !read_piece(job, &piece) ||
            !number_of(&piece, &one) || (found && one != *number))
            return false;
        *number = one;
        found = true;
    }
    return found;
}

/* Read once: who asks whether the unit is known, and its backup, want the same. */
bool cm_job_find_number(struct cm_job *job, const struct cm_recipe *recipe, uint64_t *number)
{
    if (!job->is_number_read)
        job->had_number = find_number(job, recipe, &job->number_before);
    job->is_number_read = true;
    *number = job->number_before;
    return job->had_number;
}

/* --- the job ----------------------------------------------------------------------------- */

bool unit_want(struct cm_job *job, const struct cm_recipe *recipe)
{
    if (!recipe->unit_count)
        return true;
    if (!job->unit_facts)
        return fail_entry(job, recipe, &recipe->unit[0], CM_ERROR_UNIT_NUMBER, "");
    struct job_unit *unit = job->unit = calloc(1, sizeof *job->unit);
    if (!unit)
        return host_fail(job->host, CM_ERROR_NO_MEMORY, recipe->path);
    if (!make_pieces(job, recipe, unit))
        return false;
    uint64_t before; // the backup's notes have it
    (void)cm_job_find_number(job, recipe, &before);
    overlay_leave_out(job, &unit->overlay);
    for (uint8_t i = 0; i < recipe->unit_count; i++) {
        struct piece *piece = &unit->pieces[i];
        if (piece->entry.format.kind == VALUE_SUM && !sum_up(job, recipe, piece))
            return false;
    }
    return overlay_want(job, &unit->overlay);
}

void unit_free(struct job_unit *unit)
{
    free(unit);
}
