/*
 * What each unit gets of its own, joined to the images of a job.
 *
 *     file     |==============================|        what the images have there is left out,
 *     entries         |number|     |sum|                and the entries are wants beside them
 *
 * Checksums are made last, over files and entries: crc32 is that of IEEE 802.3, crc16 that of
 * ITU-T V.41 from 0 (polynomial 1021, most significant bit first).
 */
#include "unit.h"
#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <zlib.h>

enum format_kind { INTEGER, TEXT, SUM };

/* An entry in its parts: "eeprom 0x1E0 u32-little number". */
struct entry {
    char memory[12], place[80], value[200];
    enum format_kind kind;
    uint8_t bytes;
    bool is_big;
};

/* An entry on the chip. */
struct piece {
    const struct cm_recipe_text *text;
    struct entry entry;
    uint8_t region;
    uint32_t at;
    uint8_t bytes[CM_UNIT_BYTES];
    struct cm_memory memory;
};

/* An image without what the pieces fill. */
struct rest {
    const struct job_unit *unit;
    struct cm_source inner;
    uint8_t region;
};

struct job_unit {
    struct piece pieces[CM_RECIPE_UNIT];
    uint8_t count;
    struct rest rests[CM_JOB_WANTS];
};

/* --- entries ----------------------------------------------------------------------------- */

/* "u32-little", "text-12", "crc16-big" */
static bool parse_format(const char *text, struct entry *entry)
{
    char word[8], order[8] = "";
    unsigned number;
    int end = 0;
    if (sscanf(text, "text-%2u%n", &number, &end) == 1 && !text[end]) {
        *entry = (struct entry){.kind = TEXT, .bytes = (uint8_t)number};
        return number >= 1 && number <= CM_UNIT_BYTES;
    }
    int fields = sscanf(text, "%7[a-z]%2u%n-%7[a-z]%n", word, &number, &end, order, &end);
    bool has_order = fields == 3 && (!strcmp(order, "little") || !strcmp(order, "big"));
    if (fields < 2 || !isdigit((unsigned char)text[strlen(word)]) || text[end] ||
        (fields == 3 && !has_order))
        return false;
    entry->is_big = has_order && strcmp(order, "big") == 0;
    entry->bytes = (uint8_t)(number / 8);
    entry->kind = strcmp(word, "crc") == 0 ? SUM : INTEGER;
    if (entry->kind == SUM)
        return has_order && (number == 16 || number == 32);
    return strcmp(word, "u") == 0 && number % 8 == 0 && number >= 8 && number <= 64 &&
           (has_order || number == 8);
}

static bool parse_entry(const char *text, struct entry *entry)
{
    char memory[12], place[80], format[24];
    int begin = 0;
    if (strlen(text) >= sizeof entry->value ||
        sscanf(text, "%11s %79s %23s %n", memory, place, format, &begin) < 3 || !begin ||
        !text[begin])
        return false;
    memset(entry, 0, sizeof *entry);
    if (!parse_format(format, entry))
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

static void put_integer(struct piece *piece, uint64_t value)
{
    const uint8_t count = piece->entry.bytes;
    for (uint8_t i = 0; i < count; i++)
        piece->bytes[piece->entry.is_big ? count - 1 - i : i] = (uint8_t)(value >> 8 * i);
}

static bool fill_integer(struct piece *piece, const char *text)
{
    char *end;
    unsigned long long value = strtoull(text, &end, 0);
    bool is_number = *text >= '0' && *text <= '9' && !*end;
    if (is_number && strcmp(text, "18446744073709551615") != 0 && value == UINT64_MAX)
        return false; // more than 64 bits
    if (!is_number || (piece->entry.bytes < 8 && value >> 8 * piece->entry.bytes))
        return false;
    put_integer(piece, value);
    return true;
}

/* Decimal numbers may begin with zeros: they are not octal. */
static const char *without_zeros(const char *text)
{
    while (text[0] == '0' && text[1] >= '0' && text[1] <= '9')
        text++;
    return text;
}

static bool fill_piece(struct cm_job *job, const struct cm_recipe *recipe, struct piece *piece)
{
    char value[300];
    const struct cm_unit_facts *facts = job->unit_facts;
    if (piece->entry.kind == SUM)
        return true;
    bool good = fill_in(facts, piece->entry.value, value, sizeof value);
    if (good && piece->entry.kind == INTEGER)
        good = fill_integer(piece, without_zeros(value));
    else if (good && (good = strlen(value) <= piece->entry.bytes))
        memcpy(piece->bytes, value, strlen(value));
    return good ||
           fail_entry(job, recipe, piece->text, CM_ERROR_UNIT_VALUE,
                      fill_in(facts, piece->entry.value, value, sizeof value) ? value
                                                                              : piece->entry.value);
}

/* --- places ------------------------------------------------------------------------------ */

/* A symbol of one of the recipe's ELF files, as an address of the region. */
static bool find_symbol(struct cm_job *job, const char *name, uint8_t region, uint32_t *at)
{
    for (uint8_t i = 0; i < job->file_count; i++) {
        uint32_t address;
        struct cm_region found;
        if (!host_elf_symbol(job->host, job->files[i].path, name, &address) ||
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
    char *end;
    const char *place = piece->entry.place;
    int index = cm_region_by_name(job->session, piece->entry.memory);
    bool good = index >= 0 && cm_region(job->session, (uint8_t)index, &region) &&
                !(region.traits & CM_REGION_SETTINGS);
    piece->region = (uint8_t)index;
    if (good && *place >= '0' && *place <= '9') {
        unsigned long at = strtoul(place, &end, 0);
        good = !*end && at < region.bytes;
        piece->at = (uint32_t)at;
    } else if (good) {
        good = find_symbol(job, place, piece->region, &piece->at);
    }
    good = good && piece->at < region.bytes && piece->entry.bytes <= region.bytes - piece->at;
    return good || fail_entry(job, recipe, piece->text, CM_ERROR_UNIT_PLACE, "");
}

/* --- images without what the pieces fill ------------------------------------------------- */

static const struct piece *piece_at(const struct job_unit *unit, uint8_t region, uint32_t address)
{
    for (uint8_t i = 0; i < unit->count; i++) {
        const struct piece *piece = &unit->pieces[i];
        if (piece->region == region && address >= piece->at &&
            address - piece->at < piece->entry.bytes)
            return piece;
    }
    return NULL;
}

static bool rest_extent(void *context, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    const struct rest *rest = context;
    for (;;) {
        if (!rest->inner.extent(rest->inner.context, from, start, bytes))
            return false;
        const struct piece *piece = piece_at(rest->unit, rest->region, *start);
        if (!piece)
            break;
        from = piece->at + piece->entry.bytes;
        if (from < *start) // it ends where addresses do
            return false;
    }
    for (uint8_t i = 0; i < rest->unit->count; i++) {
        const struct piece *piece = &rest->unit->pieces[i];
        if (piece->region == rest->region && piece->at > *start && piece->at - *start < *bytes)
            *bytes = piece->at - *start;
    }
    return true;
}

static enum cm_status rest_read(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    const struct rest *rest = context;
    return rest->inner.read(rest->inner.context, address, bytes, count);
}

static void leave_out(struct cm_job *job, struct job_unit *unit)
{
    for (uint8_t i = 0; i < job->want_count; i++) {
        unit->rests[i] = (struct rest){unit, job->wants[i].source, job->wants[i].region};
        job->wants[i].source = (struct cm_source){
            .extent = rest_extent, .read = rest_read, .context = &unit->rests[i]};
    }
}

/* --- checksums --------------------------------------------------------------------------- */

/* A byte as the unit will hold it; false: nothing is written there. */
static bool byte_at(const struct cm_job *job, uint8_t region, uint32_t address, uint8_t *byte)
{
    const struct piece *piece = piece_at(job->unit, region, address);
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

static uint32_t add_to_crc16(uint32_t sum, uint8_t byte)
{
    sum ^= (uint32_t)byte << 8;
    for (int bit = 0; bit < 8; bit++)
        sum = sum & 0x8000 ? (sum << 1 ^ 0x1021) & 0xFFFF : sum << 1;
    return sum;
}

static bool sum_up(struct cm_job *job, const struct cm_recipe *recipe, struct piece *piece)
{
    unsigned first, last;
    int end = 0;
    uint32_t sum = 0;
    uint8_t byte;
    if (sscanf(piece->entry.value, "%i to %i%n", (int *)&first, (int *)&last, &end) != 2 ||
        piece->entry.value[end] || last < first || last - first > UINT16_MAX)
        return fail_entry(job, recipe, piece->text, CM_ERROR_UNIT_VALUE, piece->entry.value);
    for (uint32_t at = first; at <= last; at++) {
        bool is_own = at >= piece->at && at - piece->at < piece->entry.bytes;
        if (is_own || !byte_at(job, piece->region, at, &byte)) {
            fail_entry(job, recipe, piece->text, CM_ERROR_UNIT_SUM, "");
            job->host->error.address = at;
            return false;
        }
        sum = piece->entry.bytes == 2 ? add_to_crc16(sum, byte) : (uint32_t)crc32(sum, &byte, 1);
    }
    put_integer(piece, sum);
    return true;
}

/* --- all together ------------------------------------------------------------------------ */

static bool want_piece(struct cm_job *job, const struct cm_recipe *recipe, struct piece *piece)
{
    if (job->want_count == CM_JOB_WANTS) {
        host_error(job->host, CM_ERROR_TOO_MANY_FILES, recipe->path)->limit = CM_JOB_FILES;
        return false;
    }
    piece->memory = (struct cm_memory){piece->bytes, piece->entry.bytes, piece->at};
    job->want_names[job->want_count] = piece->text->text;
    job->wants[job->want_count++] =
        (struct cm_want){piece->region, cm_memory_source(&piece->memory)};
    return true;
}

static bool make_pieces(struct cm_job *job, const struct cm_recipe *recipe, struct job_unit *unit)
{
    for (uint8_t i = 0; i < recipe->unit_count; i++) {
        struct piece *piece = &unit->pieces[i];
        piece->text = &recipe->unit[i];
        if (!parse_entry(piece->text->text, &piece->entry) || !place_piece(job, recipe, piece) ||
            !fill_piece(job, recipe, piece))
            return false;
    }
    unit->count = recipe->unit_count;
    return true;
}

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
    leave_out(job, unit);
    for (uint8_t i = 0; i < unit->count; i++) {
        if (unit->pieces[i].entry.kind == SUM && !sum_up(job, recipe, &unit->pieces[i]))
            return false;
    }
    for (uint8_t i = 0; i < unit->count; i++) {
        if (!want_piece(job, recipe, &unit->pieces[i]))
            return false;
    }
    return true;
}

void unit_free(struct job_unit *unit)
{
    free(unit);
}
