/*
 * image show: bytes as hex and text, from where a range begins or a text or bytes are found. Rows
 * that are all one byte are told, not shown one by one.
 *
 *     0x030000  4C 41 52 4B 53 50 55 52  20 43 41 52 49 4C 4C 4F  |LARKSPUR CARILLO|
 *     0x030040  ... 4096 rows of FF
 */
#include "image.h"
#include "needle.h"
#include "say.h"
#include "words/fail.h"
#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { ROW = 16, USUAL_ROWS = 32 };

struct showing {
    struct tool *tool;
    struct cm_source source;
    uint32_t found, found_bytes; /* what was looked for, to be marked; 0 bytes: nothing */
    unsigned rows, most;         /* shown; 0: all */
    uint8_t chunk[CHUNK_BYTES];
    uint32_t chunk_at, chunk_bytes;
};

/* Bytes of a row that are there, through a large chunk: rows are small, and files are not. */
static uint8_t take_row(struct showing *showing, uint32_t row, uint8_t *bytes, bool *present)
{
    uint8_t any = 0;
    for (uint32_t i = 0; i < ROW; i++) {
        uint32_t address = row + i, start, count;
        present[i] = false;
        if (address < showing->chunk_at || address - showing->chunk_at >= showing->chunk_bytes) {
            if (!showing->source.extent(showing->source.context, address, &start, &count) ||
                start != address)
                continue;
            count = count < sizeof showing->chunk ? count : (uint32_t)sizeof showing->chunk;
            if (showing->source.read(showing->source.context, start, showing->chunk, count) !=
                CM_OK)
                continue;
            showing->chunk_at = start;
            showing->chunk_bytes = count;
        }
        bytes[i] = showing->chunk[address - showing->chunk_at];
        present[i] = true;
        any++;
    }
    return any;
}

static const char *byte_colour(const struct showing *showing, uint32_t address, uint8_t byte)
{
    bool found = showing->found_bytes && address >= showing->found &&
                 address - showing->found < showing->found_bytes;
    return found ? "1;7" : byte == 0xFF || byte == 0x00 ? "2" : isprint(byte) ? "32" : "36";
}

static void print_row(const struct showing *showing, uint32_t row, const uint8_t *bytes,
                      const bool *present)
{
    const char *off = ink("0");
    printf("  0x%06X  ", (unsigned)row);
    for (uint32_t i = 0; i < ROW; i++) {
        const char *gap = i == ROW / 2 - 1 ? "  " : " ";
        if (present[i])
            printf("%s%02X%s%s", ink(byte_colour(showing, row + i, bytes[i])), bytes[i], off, gap);
        else
            printf("--%s", gap);
    }
    printf(" |");
    for (uint32_t i = 0; i < ROW; i++)
        printf("%s%c%s", present[i] ? ink(byte_colour(showing, row + i, bytes[i])) : "",
               !present[i]         ? ' '
               : isprint(bytes[i]) ? bytes[i]
                                   : '.',
               present[i] ? off : "");
    printf("|\n");
}

static bool is_one_byte(const uint8_t *bytes, const bool *present, uint8_t any)
{
    for (uint32_t i = 0; i < ROW; i++) {
        if (!present[i] || bytes[i] != bytes[0])
            return false;
    }
    return any == ROW;
}

/* How many rows from `row` on, `last` at most, are nothing but this byte. */
static uint32_t count_alike(struct showing *showing, uint32_t row, uint32_t last, uint8_t byte)
{
    uint8_t bytes[ROW];
    bool present[ROW];
    uint32_t count = 0;
    for (uint64_t at = row; at <= last; at += ROW, count++) {
        uint8_t any = take_row(showing, (uint32_t)at, bytes, present);
        if (!is_one_byte(bytes, present, any) || bytes[0] != byte)
            break;
    }
    return count;
}

/* The rows of a range, gaps left out. Returns the first address that was not shown; 0: all was. */
static uint64_t show_rows(struct showing *showing, uint32_t first, uint32_t last)
{
    uint8_t bytes[ROW];
    bool present[ROW];
    uint32_t start = 0, count = 0;
    for (uint64_t row = first & ~(uint32_t)(ROW - 1); row <= last; row += ROW) {
        bool inside = count && row >= start && row - start < count;
        if (!inside &&
            (!showing->source.extent(showing->source.context, (uint32_t)row, &start, &count) ||
             start > last))
            break;
        if (start > row + ROW - 1)
            row = start & ~(uint32_t)(ROW - 1);
        if (showing->most && showing->rows == showing->most)
            return row;
        uint8_t any = take_row(showing, (uint32_t)row, bytes, present);
        print_row(showing, (uint32_t)row, bytes, present);
        showing->rows++;
        if (tool_interrupted)
            return row + ROW;
        if (!is_one_byte(bytes, present, any) || row + ROW > last)
            continue;
        uint32_t alike = count_alike(showing, (uint32_t)row + ROW, last, bytes[0]);
        if (alike > 1) {
            printf("  0x%06X  ... %u row%s of %02X\n", (unsigned)row + ROW, (unsigned)alike,
                   alike == 1 ? "" : "s", bytes[0]);
            row += (uint64_t)alike * ROW;
        }
    }
    return 0;
}

/* --- looking for something --------------------------------------------------------------- */

struct looking {
    struct showing *showing;
    int left; /* until it is the one that is asked for */
};

static bool take_place(void *context, uint32_t address, const struct needle *needle)
{
    struct looking *looking = context;
    if (--looking->left)
        return true;
    looking->showing->found = address;
    looking->showing->found_bytes = needle->length;
    return false;
}

static enum exit_code look_for(struct showing *showing, const struct needles *needles,
                               uint32_t *first, uint32_t last)
{
    char evidence[400];
    struct looking looking = {showing, image_options.nth > 0 ? image_options.nth : 1};
    if (!needles_search(needles, &showing->source, *first, last, take_place, &looking))
        return input_fail(showing->tool, "");
    if (showing->found_bytes) {
        *first = showing->found;
        say(showing->tool, "found", "at 0x%06X", (unsigned)showing->found);
        set_json(showing->tool, "found", json_integer((json_int_t)showing->found));
        return EXIT_GOOD;
    }
    snprintf(evidence, sizeof evidence, "looked from 0x%X to 0x%X%s", (unsigned)*first,
             (unsigned)last, image_options.nth > 1 ? "; there are fewer of them" : "");
    return tool_fail_as(
        showing->tool, EXIT_DIFFERS,
        image_options.find ? "the text is not in the file" : "these bytes are not in the file",
        evidence, "'coldmint image find' looks for all of them, with --any-case for capitals");
}

static enum exit_code find(struct showing *showing, uint32_t *first, uint32_t last)
{
    struct needles *needles = malloc(sizeof *needles);
    if (!needles)
        return tool_fail_memory(showing->tool);
    enum exit_code code = image_options.find
                              ? needles_of_text(showing->tool, needles, image_options.find, false)
                              : needles_of_bytes(showing->tool, needles, image_options.bytes);
    if (!code)
        code = look_for(showing, needles, first, last);
    free(needles);
    return code;
}

static json_t *json_bytes(const struct showing *showing, uint32_t first, uint32_t last)
{
    enum { MOST = 4096 };
    json_t *rows = json_array();
    uint32_t start, count, left = MOST;
    uint8_t bytes[ROW];
    for (uint64_t at = first;
         left && at <= last &&
         showing->source.extent(showing->source.context, (uint32_t)at, &start, &count) &&
         start <= last;
         at = (uint64_t)start + count) {
        char hex[2 * ROW + 1] = "";
        count = count < ROW ? count : ROW;
        count = (uint64_t)last - start + 1 < count ? last - start + 1 : count;
        if (showing->source.read(showing->source.context, start, bytes, count) != CM_OK)
            break;
        for (uint32_t i = 0; i < count; i++)
            snprintf(hex + 2 * i, 3, "%02X", bytes[i]);
        json_array_append_new(rows, json_pack("{s:I, s:s}", "at", (json_int_t)start, "hex", hex));
        left -= count < left ? count : left;
    }
    return rows;
}

/* --- the act ----------------------------------------------------------------------------- */

static enum exit_code show(struct showing *showing, const struct input *input)
{
    struct tool *tool = showing->tool;
    uint32_t first = input->first, last = input->last;
    enum exit_code code = input_range(tool, input, &first, &last);
    if (!code && (image_options.find || image_options.bytes))
        code = find(showing, &first, last);
    if (code)
        return code;
    showing->most = image_options.rows >= 0                       ? (unsigned)image_options.rows
                    : image_options.range && last - first < 65536 ? 0
                                                                  : USUAL_ROWS;
    if (tool->given.json) {
        set_json(tool, "rows", json_bytes(showing, first, last));
        return EXIT_GOOD;
    }
    uint64_t rest = show_rows(showing, first, last);
    if (rest && rest <= last)
        say_last(tool, "%s goes on at 0x%06llX: --range 0x%llX.., or --rows 0 for all of it",
                 input->path, (unsigned long long)rest, (unsigned long long)rest);
    else
        say_last(tool, "shown to its end, 0x%06X", (unsigned)last);
    return EXIT_GOOD;
}

enum exit_code image_show(struct tool *tool, const char *const *things)
{
    struct input input;
    if (!things[0] || things[1])
        return tool_fail_as(tool, EXIT_USAGE, "show takes one file",
                            things[0] ? things[1] : "none is named", "coldmint image show FILE");
    enum exit_code code = input_load(tool, things[0], &input);
    struct showing *showing = calloc(1, sizeof *showing);
    if (!code && !showing)
        code = tool_fail_memory(tool);
    if (!code) {
        *showing = (struct showing){.tool = tool, .source = input.source};
        input_say(tool, "file", &input);
        code = show(showing, &input);
    }
    if (!code)
        code = map_of_source(tool, &input.source, input.path);
    free(showing);
    input_free(&input);
    return code;
}
