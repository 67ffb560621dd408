/*
 * image match: two files compared, byte by byte over all that either of them has.
 */
#include "image.h"
#include "numbers.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { MOST_RUNS = 12, NEAR = 16 };

struct comparing {
    struct tool *tool;
    const struct input *a, *b;
    struct map map;
    bool draws;
    uint64_t differing, only_a, only_b, compared;
    uint32_t run_first, run_last; /* of differences that are near one another */
    uint64_t run_bytes;
    unsigned runs, hidden;
    uint32_t first_at;
    uint8_t first_a, first_b;
    json_t *list;
    uint8_t a_bytes[CHUNK_BYTES], b_bytes[CHUNK_BYTES];
};

static void end_run(struct comparing *work)
{
    if (work->run_bytes == 0)
        return;
    if (work->runs++ < MOST_RUNS) {
        say(work->tool, work->runs == 1 ? "differ" : "", "0x%06X to 0x%06X  %llu bytes",
            (unsigned)work->run_first, (unsigned)work->run_last,
            (unsigned long long)work->run_bytes);
        json_array_append_new(work->list,
                              json_pack("{s:I, s:I, s:I}", "first", (json_int_t)work->run_first,
                                        "last", (json_int_t)work->run_last, "bytes",
                                        (json_int_t)work->run_bytes));
    } else {
        work->hidden++;
    }
    work->run_bytes = 0;
}

static void take_difference(struct comparing *work, uint32_t address, uint8_t a, uint8_t b)
{
    if (work->differing++ == 0) {
        work->first_at = address;
        work->first_a = a;
        work->first_b = b;
    }
    if (work->run_bytes && address - work->run_last > NEAR)
        end_run(work);
    if (work->run_bytes++ == 0)
        work->run_first = address;
    work->run_last = address;
    if (work->draws)
        map_differs(&work->map, address);
}

/* A stretch that both have. */
static bool compare_both(struct comparing *work, uint32_t start, uint32_t count)
{
    for (uint32_t done = 0, part; done < count; done += part) {
        part = count - done < CHUNK_BYTES ? count - done : CHUNK_BYTES;
        if (work->a->source.read(work->a->source.context, start + done, work->a_bytes, part) !=
                CM_OK ||
            work->b->source.read(work->b->source.context, start + done, work->b_bytes, part) !=
                CM_OK ||
            tool_interrupted)
            return false;
        if (work->draws)
            map_add(&work->map, start + done, work->a_bytes, part, 0xFF);
        for (uint32_t i = 0; memcmp(work->a_bytes + i, work->b_bytes + i, part - i) != 0; i++) {
            while (work->a_bytes[i] == work->b_bytes[i])
                i++;
            for (; i < part && work->a_bytes[i] != work->b_bytes[i]; i++)
                take_difference(work, start + done + i, work->a_bytes[i], work->b_bytes[i]);
            if (i == part)
                break;
        }
    }
    work->compared += count;
    return true;
}

/* Stretch by stretch: both, the one, or the other. */
static bool compare_all(struct comparing *work)
{
    uint64_t at = 0;
    for (;;) {
        uint32_t a_start, a_count, b_start, b_count;
        bool has_a = at <= UINT32_MAX && work->a->source.extent(work->a->source.context,
                                                                (uint32_t)at, &a_start, &a_count);
        bool has_b = at <= UINT32_MAX && work->b->source.extent(work->b->source.context,
                                                                (uint32_t)at, &b_start, &b_count);
        if (!has_a && !has_b)
            return true;
        uint64_t a_end = has_a ? (uint64_t)a_start + a_count : UINT64_MAX,
                 b_end = has_b ? (uint64_t)b_start + b_count : UINT64_MAX;
        uint64_t begin = !has_a || (has_b && b_start < a_start) ? b_start : a_start;
        bool in_a = has_a && a_start <= begin, in_b = has_b && b_start <= begin;
        uint64_t end = in_a && in_b ? (a_end < b_end ? a_end : b_end)
                       : in_a       ? (has_b && b_start < a_end ? b_start : a_end)
                                    : (has_a && a_start < b_end ? a_start : b_end);
        if (in_a && in_b && !compare_both(work, (uint32_t)begin, (uint32_t)(end - begin)))
            return false;
        work->only_a += in_a && !in_b ? end - begin : 0;
        work->only_b += in_b && !in_a ? end - begin : 0;
        at = end;
    }
}

static enum exit_code tell(struct comparing *work)
{
    struct tool *tool = work->tool;
    char evidence[500];
    if (work->hidden)
        say(tool, "", "... and %u more stretches", work->hidden);
    if (work->only_a)
        say(tool, "only in", "%s: %llu bytes", work->a->path, (unsigned long long)work->only_a);
    if (work->only_b)
        say(tool, "only in", "%s: %llu bytes", work->b->path, (unsigned long long)work->only_b);
    set_json(tool, "differing_bytes", json_integer((json_int_t)work->differing));
    set_json(tool, "only_in",
             json_pack("[I, I]", (json_int_t)work->only_a, (json_int_t)work->only_b));
    if (!work->differing && !work->only_a && !work->only_b) {
        say_last(tool, "all %llu bytes match", (unsigned long long)work->compared);
        return EXIT_GOOD;
    }
    int used = snprintf(evidence, sizeof evidence, "%llu of %llu bytes differ",
                        (unsigned long long)work->differing, (unsigned long long)work->compared);
    if (work->differing)
        used += snprintf(evidence + used, sizeof evidence - (size_t)used,
                         ", the first at 0x%X: %02X and %02X", (unsigned)work->first_at,
                         work->first_a, work->first_b);
    if (work->only_a || work->only_b)
        snprintf(evidence + used, sizeof evidence - (size_t)used,
                 "; %llu bytes are in one of them alone",
                 (unsigned long long)(work->only_a + work->only_b));
    return tool_fail_as(
        tool, EXIT_DIFFERS, "the files differ", evidence,
        "'coldmint image show FILE --range ADDRESS+256' shows them; --map FILE.png where");
}

enum exit_code image_match(struct tool *tool, const char *const *things)
{
    struct input inputs[2] = {0};
    if (!things[0] || !things[1] || things[2])
        return tool_fail_as(tool, EXIT_USAGE, "match takes two files",
                            things[0] ? things[0] : "none is named", "coldmint image match A B");
    struct comparing *work = calloc(1, sizeof *work);
    enum exit_code code = work ? EXIT_GOOD : tool_fail_memory(tool);
    for (int i = 0; i < 2 && !code; i++) {
        code = input_load(tool, things[i], &inputs[i]);
        if (!code)
            input_say(tool, i ? "with" : "file", &inputs[i]);
    }
    if (!code) {
        uint32_t last = inputs[0].last > inputs[1].last ? inputs[0].last : inputs[1].last;
        *work = (struct comparing){.tool = tool,
                                   .a = &inputs[0],
                                   .b = &inputs[1],
                                   .draws = image_options.map.path != NULL,
                                   .list = json_array()};
        set_json(tool, "differences", work->list);
        map_begin(&work->map, 0, last == UINT32_MAX ? last : last + 1);
        snprintf(work->map.title, sizeof work->map.title, "%.80s and %.80s", inputs[0].path,
                 inputs[1].path);
        bool whole = compare_all(work);
        end_run(work);
        code = whole ? tell(work)
                     : tool_fail_as(tool, tool_interrupted ? EXIT_INTERRUPTED : EXIT_BAD_FILE,
                                    "a file cannot be read to its end", things[0],
                                    "run the command again");
    }
    if (work && work->draws && (code == EXIT_GOOD || code == EXIT_DIFFERS)) {
        snprintf(work->map.what, sizeof work->map.what, "%llu of %llu bytes differ",
                 (unsigned long long)work->differing, (unsigned long long)work->compared);
        enum exit_code drawn = map_banks(tool, &image_options.map, &work->map);
        if (!drawn)
            drawn = map_draw(tool, &image_options.map, &work->map);
        code = drawn ? drawn : code;
    }
    for (int i = 0; i < 2; i++)
        input_free(&inputs[i]);
    free(work);
    return code;
}
