/*
 * image find: all places of a text or of bytes; or, where nothing is looked for, the texts that a
 * file holds, the likeliest first.
 *
 *     found      0x030000  |LARKSPUR CARILLON 2.0...........|
 *                0x04A210  |L.A.R.K.S.P.U.R................|  UTF-16, low byte first
 */
#include "image.h"
#include "needle.h"
#include "numbers.h"
#include "say.h"
#include "texts.h"
#include "words/fail.h"
#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { USUAL_PLACES = 32, MOST_PLACES = 10000, CONTEXT = 32 };

struct finding {
    struct tool *tool;
    const struct cm_source *source;
    const char *path;
    uint64_t count, most; /* shown */
    json_t *list;
};

static uint64_t rows_asked(void)
{
    if (image_options.rows == UNSET)
        return USUAL_PLACES;
    return image_options.rows ? (uint64_t)image_options.rows : MOST_PLACES;
}

/* --- places ------------------------------------------------------------------------------ */

/* What stands there, as far as the file has bytes. */
static void context_text(const struct cm_source *source, uint32_t address, char *text)
{
    uint8_t bytes[CONTEXT];
    uint32_t start, count;
    text[0] = '\0';
    if (!source->extent(source->context, address, &start, &count) || start != address)
        return;
    count = count < CONTEXT ? count : CONTEXT;
    if (source->read(source->context, address, bytes, count) != CM_OK)
        return;
    for (uint32_t i = 0; i < count; i++)
        text[i] = bytes[i] < 0x80 && isprint(bytes[i]) ? (char)bytes[i] : '.';
    text[count] = '\0';
}

static bool take_place(void *context, uint32_t address, const struct needle *needle)
{
    struct finding *finding = context;
    char text[CONTEXT + 1];
    if (finding->count++ >= finding->most)
        return true;
    context_text(finding->source, address, text);
    say(finding->tool, finding->count == 1 ? "found" : "", "0x%06X  |%s|%s%s", (unsigned)address,
        text, needle->form[0] ? "  " : "", needle->form);
    json_array_append_new(finding->list,
                          json_pack("{s:I, s:s}", "at", (json_int_t)address, "form", needle->form));
    return true;
}

static enum exit_code end_places(const struct finding *finding, uint32_t first, uint32_t last)
{
    struct tool *tool = finding->tool;
    char evidence[100];
    set_json(tool, "count", json_integer((json_int_t)finding->count));
    if (finding->count > finding->most)
        say(tool, "", "... and %llu more; --rows N shows more",
            (unsigned long long)(finding->count - finding->most));
    if (finding->count) {
        say_last(tool, "found %llu time%s", (unsigned long long)finding->count,
                 finding->count == 1 ? "" : "s");
        return EXIT_GOOD;
    }
    snprintf(evidence, sizeof evidence, "looked from 0x%X to 0x%X%s", (unsigned)first,
             (unsigned)last, image_options.bytes ? "" : ", plain and in UTF-16");
    return tool_fail_as(tool, EXIT_DIFFERS,
                        image_options.bytes ? "these bytes are not in the file"
                                            : "the text is not in the file",
                        evidence,
                        image_options.bytes || image_options.any_case
                            ? "if the ROM's bytes are swapped, 'coldmint image swap' first"
                            : "--any-case, or 'coldmint image find FILE' for the texts it holds");
}

static enum exit_code find_places(struct finding *finding, const char *text, uint32_t first,
                                  uint32_t last)
{
    struct tool *tool = finding->tool;
    struct needles *needles = malloc(sizeof *needles);
    if (!needles)
        return tool_fail_memory(tool);
    enum exit_code code = image_options.bytes
                              ? needles_of_bytes(tool, needles, image_options.bytes)
                              : needles_of_text(tool, needles, text, image_options.any_case);
    if (!code && !needles_search(needles, finding->source, first, last, take_place, finding))
        code = input_fail(tool, finding->path);
    if (!code)
        code = end_places(finding, first, last);
    free(needles);
    return code;
}

/* --- texts ------------------------------------------------------------------------------- */

static void take_text(void *context, const struct text *text)
{
    text_list_add(context, text);
}

static bool take_chunk(void *context, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    texts_take(context, address, bytes, count);
    return !tool_interrupted;
}

static bool read_texts(const struct cm_source *source, struct texts *texts, uint32_t first,
                       uint32_t last)
{
    uint8_t *chunk = malloc(CHUNK_BYTES);
    bool is_good = chunk && each_chunk(source, first, last, chunk, take_chunk, texts);
    texts_end(texts);
    free(chunk);
    return is_good;
}

void texts_say(struct tool *tool, const struct text_list *list, json_t *json)
{
    for (unsigned i = 0; i < list->count; i++) {
        const struct text *text = &list->texts[i];
        say(tool, i ? "" : "texts", "0x%06X  \"%s\"%s%s", (unsigned)text->at, text->text,
            text->length > TEXT_ROOM ? " ..." : "", text->is_wide ? "  UTF-16" : "");
        json_array_append_new(
            json, json_pack("{s:I, s:s, s:I, s:b}", "at", (json_int_t)text->at, "text", text->text,
                            "length", (json_int_t)text->length, "wide", (int)text->is_wide));
    }
}

static void say_texts(struct finding *finding, const struct text_list *list)
{
    struct tool *tool = finding->tool;
    texts_say(tool, list, finding->list);
    if (list->left_out)
        say(tool, "",
            "... and %llu less likely ones; --rows N shows more, --least N takes longer "
            "ones",
            (unsigned long long)list->left_out);
    set_json(tool, "count", json_integer((json_int_t)(list->count + list->left_out)));
    say_last(tool, "%llu texts of %u characters or more, the likeliest first",
             (unsigned long long)(list->count + list->left_out),
             image_options.least == UNSET ? TEXTS_LEAST : (unsigned)image_options.least);
}

static enum exit_code find_texts(struct finding *finding, uint32_t first, uint32_t last)
{
    struct tool *tool = finding->tool;
    struct text_list list = {
        .room = (unsigned)(finding->most < MOST_PLACES ? finding->most : MOST_PLACES)};
    struct texts *texts = calloc(1, sizeof *texts);
    list.texts = calloc(list.room, sizeof *list.texts);
    enum exit_code code = texts && list.texts ? EXIT_GOOD : tool_fail_memory(tool);
    if (!code) {
        texts->least = image_options.least == UNSET ? TEXTS_LEAST : (uint32_t)image_options.least;
        texts->found = take_text;
        texts->context = &list;
        if (!read_texts(finding->source, texts, first, last))
            code = input_fail(tool, finding->path);
    }
    if (!code)
        say_texts(finding, &list);
    free(list.texts);
    free(texts);
    return code;
}

/* --- the act ----------------------------------------------------------------------------- */

static enum exit_code check(struct tool *tool, const char *const *things)
{
    bool has_text = things[0] && things[1];
    if (!things[0] || (has_text && things[2]))
        return tool_fail_as(tool, EXIT_USAGE, "find takes one file, and one text",
                            things[0] ? things[2] : "none is named",
                            "coldmint image find FILE \"A TEXT OF SEVERAL WORDS\"");
    if (has_text && image_options.bytes)
        return tool_fail_as(tool, EXIT_USAGE, "a text or --bytes: one of them", things[1],
                            "leave one of them out");
    if (!has_text && image_options.any_case)
        return tool_fail_as(tool, EXIT_USAGE, "--any-case is for a text", "none is given",
                            "coldmint image find FILE TEXT --any-case");
    if ((has_text || image_options.bytes) && image_options.least != UNSET)
        return tool_fail_as(tool, EXIT_USAGE, "--least is for the list of texts",
                            "something else is looked for", "leave it out");
    return EXIT_GOOD;
}

enum exit_code image_find(struct tool *tool, const char *const *things)
{
    struct input input = {.bytes = 0};
    enum exit_code code = check(tool, things);
    if (!code)
        code = input_load(tool, things[0], &input);
    uint32_t first = input.first, last = input.last;
    if (!code)
        code = input_range(tool, &input, &first, &last);
    if (!code) {
        struct finding finding = {.tool = tool,
                                  .source = &input.source,
                                  .path = input.path,
                                  .most = rows_asked(),
                                  .list = json_array()};
        set_json(tool, things[1] || image_options.bytes ? "places" : "texts", finding.list);
        input_say(tool, "file", &input);
        code = things[1] || image_options.bytes ? find_places(&finding, things[1], first, last)
                                                : find_texts(&finding, first, last);
    }
    input_free(&input);
    return code;
}
