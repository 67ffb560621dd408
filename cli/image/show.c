/*
 * image show: bytes as hex and text, from where a range begins or a text or bytes are found. Rows
 * that are all one byte are told, not shown one by one.
 *
 *     0x030000  4C 41 52 4B 53 50 55 52  20 43 41 52 49 4C 4C 4F  |LARKSPUR CARILLO|
 *     0x030040  ... 4096 rows of FF
 */
#define _GNU_SOURCE // memmem
#include "image.h"
#include "numbers.h"
#include "say.h"
#include "words/fail.h"
#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { ROW = 16, USUAL_ROWS = 32, MOST_NEEDLE = 256 };

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

static bool parse_bytes(const char *text, uint8_t *bytes, uint32_t *count)
{
    *count = 0;
    while (*text) {
        if (isspace((unsigned char)*text)) {
            text++;
            continue;
        }
        if (*count == MOST_NEEDLE || !cm_parse_byte(text, &bytes[*count]))
            return false;
        ++*count;
        text += 2;
    }
    return *count > 0;
}

static bool search_run(struct showing *showing, uint32_t start, uint64_t count,
                       const uint8_t *needle, uint32_t length, int *left)
{
    uint32_t at = 0;
    while (count - at >= length) {
        uint32_t part = count - at < sizeof showing->chunk ? (uint32_t)(count - at)
                                                           : (uint32_t)sizeof showing->chunk;
        if (showing->source.read(showing->source.context, start + at, showing->chunk, part) !=
            CM_OK)
            return false;
        for (const uint8_t *from = showing->chunk;
             (from = memmem(from, part - (size_t)(from - showing->chunk), needle, length)) != NULL;
             from++) {
            if (--*left == 0) {
                showing->found = start + at + (uint32_t)(from - showing->chunk);
                showing->found_bytes = length;
                return true;
            }
        }
        if (part < sizeof showing->chunk)
            return false;
        at += part - (length - 1);
    }
    return false;
}

static enum exit_code find(struct showing *showing, uint32_t *first, uint32_t last)
{
    uint8_t needle[MOST_NEEDLE];
    uint32_t length = 0, start, count;
    char evidence[400];
    int left = image_options.nth > 0 ? image_options.nth : 1;
    bool text = image_options.find != NULL;
    if (text) {
        length = (uint32_t)strnlen(image_options.find, MOST_NEEDLE);
        memcpy(needle, image_options.find, length);
    }
    if (text ? length == 0 : !parse_bytes(image_options.bytes, needle, &length))
        return tool_fail_as(showing->tool, EXIT_USAGE, "there is nothing to look for",
                            text ? image_options.find : image_options.bytes,
                            "--find TEXT, or --bytes \"DE AD BE EF\"");
    for (uint64_t at = *first;
         at <= last &&
         showing->source.extent(showing->source.context, (uint32_t)at, &start, &count) &&
         start <= last;
         at = (uint64_t)start + count) {
        uint64_t most = (uint64_t)last - start + 1;
        if (search_run(showing, start, count < most ? count : most, needle, length, &left))
            break;
    }
    showing->chunk_bytes = 0;
    if (showing->found_bytes) {
        *first = showing->found;
        say(showing->tool, "found", "at 0x%06X", (unsigned)showing->found);
        set_json(showing->tool, "found", json_integer((json_int_t)showing->found));
        return EXIT_GOOD;
    }
    snprintf(evidence, sizeof evidence, "looked from 0x%X to 0x%X%s", (unsigned)*first,
             (unsigned)last, image_options.nth > 1 ? "; there are fewer of them" : "");
    return tool_fail_as(showing->tool, EXIT_DIFFERS,
                        text ? "the text is not in the file" : "these bytes are not in the file",
                        evidence, "a text is found only as it is written, with its capitals");
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
    if (image_options.range &&
        (!parse_range(image_options.range, &first, &last) || first > input->last))
        return tool_fail_as(tool, EXIT_USAGE, "this is not a range of the file",
                            image_options.range, "--range 0x8000..0x80FF, 32K+256, or 0x8000..");
    last = last < input->last ? last : input->last;
    enum exit_code code =
        image_options.find || image_options.bytes ? find(showing, &first, last) : EXIT_GOOD;
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
        say(tool, "file", "%s, %s: %u bytes, 0x%04X to 0x%04X", input.path, input.format,
            (unsigned)input.bytes, (unsigned)input.first, (unsigned)input.last);
        code = show(showing, &input);
    }
    if (!code)
        code = map_of_source(tool, &input.source, input.path);
    free(showing);
    input_free(&input);
    return code;
}
