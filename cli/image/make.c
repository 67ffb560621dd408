/*
 * The acts that make files of files: place, join, cut, fill, convert, swap, split, weave. Each
 * makes a view of its inputs and writes it.
 */
#include "image.h"
#include "numbers.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static enum exit_code usage(struct tool *tool, const char *what, const char *evidence,
                            const char *advice)
{
    return tool_fail_as(tool, EXIT_USAGE, what, evidence ? evidence : "", advice);
}

/* Loads `count` files; 0: as many as are named, two at least. Returns how many, or 0 with the
 * failure told in `code`. */
static unsigned load_inputs(struct tool *tool, const char *const *things, unsigned wanted,
                            const char *form, struct input *inputs, enum exit_code *code)
{
    unsigned count = 0;
    while (count < MOST_INPUTS && things[count])
        count++;
    if (things[count] || (wanted ? count != wanted : count < 2)) {
        *code = usage(tool, "this takes other files than that", things[0], form);
        return 0;
    }
    *code = EXIT_GOOD;
    for (unsigned i = 0; i < count && !*code; i++) {
        *code = input_load(tool, things[i], &inputs[i]);
        if (!*code)
            input_say(tool, i ? "" : "from", &inputs[i]);
    }
    return count;
}

static enum exit_code finish(struct tool *tool, struct view *view, struct input *inputs,
                             unsigned count, enum exit_code code, const char *what)
{
    if (!code)
        code = write_output(tool, view_source(view), image_options.output, inputs, count);
    if (!code) {
        struct cm_source source = view_source(view);
        code = map_of_source(tool, &source, image_options.output);
    }
    if (!code)
        say_last(tool, "%s", what);
    for (unsigned i = 0; i < count; i++)
        input_free(&inputs[i]);
    return code;
}

static enum exit_code need_range(struct tool *tool, uint32_t *first, uint32_t *last)
{
    if (image_options.range && parse_range(image_options.range, first, last))
        return EXIT_GOOD;
    return usage(tool, image_options.range ? "this is not a range" : "which range?",
                 image_options.range ? image_options.range : "--range is missing",
                 "--range 0x8000..0xFFFF, 32K+16K, or 0x8000.. to the end");
}

/* --- place ------------------------------------------------------------------------------- */

static enum exit_code bank_size(struct tool *tool, uint32_t *size)
{
    const char *given = image_options.map.bank_size;
    return given && parse_number(given, size) && *size
               ? EXIT_GOOD
               : usage(tool, "how large is a bank?", given ? given : "--bank-size is missing",
                       "--bank-size 64K");
}

/* Where it goes: an address, or a bank of a size. `room` is how much there is. */
static enum exit_code find_place(struct tool *tool, const struct input *master, uint32_t *to,
                                 uint32_t *room)
{
    char evidence[200];
    uint32_t size;
    *room = UINT32_MAX;
    if (image_options.at && image_options.bank < 0)
        return parse_number(image_options.at, to)
                   ? EXIT_GOOD
                   : usage(tool, "this is not an address", image_options.at,
                           "--at 0x30000 or --at 192K");
    if (image_options.at || image_options.bank < 0)
        return usage(tool, "where to?",
                     image_options.at ? "--at and --bank are both given"
                                      : "neither --at nor --bank is given",
                     "--at 0x30000, or --bank 3 with --bank-size 64K");
    enum exit_code code = bank_size(tool, &size);
    if (code)
        return code;
    uint64_t begin = (uint64_t)size * (unsigned)image_options.bank;
    if (begin + size > (uint64_t)master->last + 1) {
        snprintf(evidence, sizeof evidence,
                 "bank %d would be 0x%llX to 0x%llX; the master ends at 0x%X: it has banks 0 to %u",
                 image_options.bank, (unsigned long long)begin,
                 (unsigned long long)(begin + size - 1), (unsigned)master->last,
                 (unsigned)(((uint64_t)master->last + 1) / size) - 1);
        return usage(tool, "the master has no such bank", evidence, "banks are counted from 0");
    }
    *to = (uint32_t)begin;
    *room = size;
    return EXIT_GOOD;
}

enum exit_code image_place(struct tool *tool, const char *const *things)
{
    struct input inputs[MOST_INPUTS] = {0};
    enum exit_code code;
    char evidence[300], what[200] = "";
    uint32_t to = 0, room = 0;
    unsigned count = load_inputs(
        tool, things, 2, "coldmint image place MASTER FILE --bank 3 --bank-size 64K -o NEW.bin",
        inputs, &code);
    if (!code)
        code = find_place(tool, &inputs[0], &to, &room);
    uint32_t length = inputs[1].last - inputs[1].first + 1;
    if (!code && length > room) {
        snprintf(evidence, sizeof evidence, "%s has %u bytes, a bank has %u", inputs[1].path,
                 (unsigned)length, (unsigned)room);
        code = usage(tool, "the file is larger than a bank", evidence,
                     "cut it, or place it with --at, over several");
    }
    if (!code && (length == 0 || length - 1 > UINT32_MAX - to))
        code = usage(tool, "the file would reach beyond 4 GiB", inputs[1].path,
                     "choose another place");
    struct view moved = {.kind = VIEW_MOVED,
                         .inner = {inputs[1].source},
                         .count = 1,
                         .first = inputs[1].first,
                         .last = inputs[1].last,
                         .to = to};
    struct view joined = {.kind = VIEW_JOINED,
                          .inner = {view_source(&moved), inputs[0].source},
                          .count = 2,
                          .fill = 0xFF};
    if (!code && to + (length - 1) > inputs[0].last)
        say(tool, "note", "the new file is longer than the master: it ends at 0x%X, not 0x%X",
            (unsigned)(to + (length - 1)), (unsigned)inputs[0].last);
    if (!code && room != UINT32_MAX && length < room)
        say(tool, "note", "the rest of the bank, %u bytes, stays as the master has it",
            (unsigned)(room - length));
    snprintf(what, sizeof what, "%u bytes are at 0x%X to 0x%X of the new master", (unsigned)length,
             (unsigned)to, (unsigned)(to + (length - 1)));
    return finish(tool, &joined, inputs, count, code, what);
}

/* --- join -------------------------------------------------------------------------------- */

/* The first byte that two of them have. */
static bool find_overlap(const struct cm_source *a, const struct cm_source *b, uint32_t *address)
{
    uint32_t a_start, a_count, b_start, b_count, at = 0;
    while (a->extent(a->context, at, &a_start, &a_count) &&
           b->extent(b->context, at, &b_start, &b_count)) {
        uint32_t a_last = a_start + (a_count - 1), b_last = b_start + (b_count - 1),
                 begin = a_start > b_start ? a_start : b_start;
        if (begin <= a_last && begin <= b_last) {
            *address = begin;
            return true;
        }
        at = (a_last < b_last ? a_last : b_last) + 1;
        if (at == 0)
            return false;
    }
    return false;
}

static enum exit_code check_overlaps(struct tool *tool, const struct input *inputs, unsigned count)
{
    char evidence[500];
    uint32_t address;
    for (unsigned i = 0; i < count; i++) {
        for (unsigned k = 0; k < i; k++) {
            if (!find_overlap(&inputs[k].source, &inputs[i].source, &address))
                continue;
            snprintf(evidence, sizeof evidence, "both %.180s and %.180s have bytes at 0x%X",
                     inputs[k].path, inputs[i].path, (unsigned)address);
            return tool_fail_as(tool, EXIT_BAD_FILE, "the files overlap", evidence,
                                "each into a bank of its own: --bank-size SIZE; or move one first "
                                "('image cut --at'), or place it over the other ('image place')");
        }
    }
    return EXIT_GOOD;
}

/* The first file into bank 0, the next into bank 1, ... Each begins where its bank does. */
static enum exit_code into_banks(struct tool *tool, const struct input *inputs, unsigned count,
                                 struct view *moved)
{
    uint32_t size;
    char evidence[400];
    enum exit_code code = bank_size(tool, &size);
    for (unsigned i = 0; i < count && !code; i++) {
        const struct input *input = &inputs[i];
        if (input->last - input->first >= size) {
            snprintf(evidence, sizeof evidence, "%.300s has %u bytes, a bank has %u", input->path,
                     (unsigned)(input->last - input->first) + 1, (unsigned)size);
            return tool_fail_as(tool, EXIT_BAD_FILE, "a file is larger than a bank", evidence,
                                "cut it, or take larger banks");
        }
        if ((uint64_t)size * (i + 1) > UINT32_MAX)
            return usage(tool, "the banks would reach beyond 4 GiB", input->path,
                         "take smaller banks");
        moved[i] = (struct view){.kind = VIEW_MOVED,
                                 .inner = {input->source},
                                 .count = 1,
                                 .first = input->first,
                                 .last = input->last,
                                 .to = size * i};
        say(tool, "bank", "%u  0x%06X to 0x%06X  %s", i, (unsigned)(size * i),
            (unsigned)(size * i + (input->last - input->first)), input->path);
    }
    return code;
}

enum exit_code image_join(struct tool *tool, const char *const *things)
{
    struct input inputs[MOST_INPUTS] = {0};
    struct view joined = {.kind = VIEW_JOINED, .fill = 0xFF}, *moved = NULL;
    enum exit_code code;
    unsigned count =
        load_inputs(tool, things, 0, "coldmint image join A B ... -o NEW.hex", inputs, &code);
    const bool has_banks = image_options.map.bank_size != NULL;
    if (!code && has_banks)
        moved = calloc(count, sizeof *moved);
    if (!code && has_banks)
        code = moved ? into_banks(tool, inputs, count, moved) : tool_fail_memory(tool);
    else if (!code)
        code = check_overlaps(tool, inputs, count);
    for (unsigned i = 0; i < count && !code; i++)
        joined.inner[joined.count++] = has_banks ? view_source(&moved[i]) : inputs[i].source;
    code = finish(tool, &joined, inputs, count, code,
                  has_banks ? "joined; each file has a bank of its own"
                            : "joined; no byte was in two of them");
    free(moved);
    return code;
}

/* --- cut, fill, convert ------------------------------------------------------------------ */

enum exit_code image_cut(struct tool *tool, const char *const *things)
{
    struct input inputs[MOST_INPUTS] = {0};
    enum exit_code code;
    uint32_t first = 0, last = 0;
    unsigned count =
        load_inputs(tool, things, 1, "coldmint image cut FILE --range 0x30000..0x3FFFF -o PART.bin",
                    inputs, &code);
    if (!code)
        code = need_range(tool, &first, &last);
    uint32_t to = first;
    if (!code && image_options.at && !parse_number(image_options.at, &to))
        code = usage(tool, "this is not an address", image_options.at,
                     "--at 0: where the part begins in the new file");
    if (!code && first > inputs[0].last)
        code = usage(tool, "the range begins behind the file's end", image_options.range,
                     "'coldmint image info' tells what it has");
    if (!code && last > inputs[0].last)
        last = inputs[0].last;
    if (!code && last - first > UINT32_MAX - to)
        code = usage(tool, "the part would reach beyond 4 GiB", image_options.at,
                     "choose another --at");
    struct view moved = {.kind = VIEW_MOVED,
                         .inner = {inputs[0].source},
                         .count = 1,
                         .first = first,
                         .last = last,
                         .to = to};
    return finish(tool, &moved, inputs, count, code, "cut out; the file it came from is as it was");
}

enum exit_code image_fill(struct tool *tool, const char *const *things)
{
    struct input inputs[MOST_INPUTS] = {0};
    enum exit_code code;
    uint32_t first = 0, last = 0;
    uint8_t with = 0xFF;
    unsigned count =
        load_inputs(tool, things, 1,
                    "coldmint image fill FILE --range 0..512K --with FF -o NEW.bin", inputs, &code);
    if (!code)
        code = need_range(tool, &first, &last);
    if (!code && last == UINT32_MAX)
        code =
            usage(tool, "to where?", image_options.range, "a fill wants both ends: --range 0+512K");
    const char *byte = image_options.with;
    if (!code && byte && (!cm_parse_byte(byte, &with) || byte[2]))
        code = usage(tool, "this is not a byte", image_options.with,
                     "--with FF: two hexadecimal digits");
    struct view filled = {.kind = VIEW_FILLED,
                          .inner = {inputs[0].source},
                          .count = 1,
                          .first = first,
                          .last = last,
                          .fill = with};
    return finish(tool, &filled, inputs, count, code,
                  "filled where there was nothing; bytes that were there stay");
}

enum exit_code image_convert(struct tool *tool, const char *const *things)
{
    struct input inputs[MOST_INPUTS] = {0};
    enum exit_code code;
    unsigned count =
        load_inputs(tool, things, 1, "coldmint image convert FILE -o NEW.srec", inputs, &code);
    struct view same = {.kind = VIEW_MOVED,
                        .inner = {inputs[0].source},
                        .count = 1,
                        .first = inputs[0].first,
                        .last = inputs[0].last,
                        .to = inputs[0].first};
    return finish(tool, &same, inputs, count, code, "the same bytes at the same addresses");
}

/* --- words ------------------------------------------------------------------------------- */

/* Every run begins and ends with a group. */
static enum exit_code check_groups(struct tool *tool, const struct input *input, uint32_t ways)
{
    char evidence[300];
    uint32_t start, count;
    for (uint64_t at = 0; at <= UINT32_MAX &&
                          input->source.extent(input->source.context, (uint32_t)at, &start, &count);
         at = (uint64_t)start + count) {
        if (start % ways == 0 && count % ways == 0)
            continue;
        snprintf(evidence, sizeof evidence, "%s has %u bytes from 0x%X on, and %u go together",
                 input->path, (unsigned)count, (unsigned)start, (unsigned)ways);
        return tool_fail_as(tool, EXIT_BAD_FILE, "the bytes do not come in whole groups", evidence,
                            "fill it up first: 'coldmint image fill'");
    }
    return EXIT_GOOD;
}

static enum exit_code find_ways(struct tool *tool, int most, uint32_t *ways)
{
    *ways = image_options.ways != UNSET ? (uint32_t)image_options.ways : 2;
    return image_options.ways == UNSET || (image_options.ways >= 2 && image_options.ways <= most)
               ? EXIT_GOOD
               : usage(tool, "this number of ways is not offered", "--ways",
                       "2 for even and odd; 4, 8");
}

enum exit_code image_swap(struct tool *tool, const char *const *things)
{
    struct input inputs[MOST_INPUTS] = {0};
    enum exit_code code;
    uint32_t ways = 2;
    unsigned count =
        load_inputs(tool, things, 1, "coldmint image swap FILE -o NEW.bin", inputs, &code);
    if (!code)
        code = find_ways(tool, 16, &ways);
    if (!code)
        code = check_groups(tool, &inputs[0], ways);
    struct view swapped = {
        .kind = VIEW_SWAPPED, .inner = {inputs[0].source}, .count = 1, .ways = ways};
    return finish(tool, &swapped, inputs, count, code,
                  "the bytes of each word are in the opposite order");
}

/* NAME-even and NAME-odd, or NAME-0, NAME-1, ... before the extension. */
static void part_name(const char *asked, uint32_t ways, uint32_t part, char *path, size_t bytes)
{
    const char *slash = strrchr(asked, '/'), *dot = strrchr(slash ? slash : asked, '.');
    int stem = dot ? (int)(dot - asked) : (int)strlen(asked);
    if (ways == 2)
        snprintf(path, bytes, "%.*s-%s%s", stem, asked, part ? "odd" : "even", dot ? dot : "");
    else
        snprintf(path, bytes, "%.*s-%u%s", stem, asked, (unsigned)part, dot ? dot : "");
}

enum exit_code image_split(struct tool *tool, const char *const *things)
{
    struct input inputs[MOST_INPUTS] = {0};
    enum exit_code code;
    uint32_t ways = 2;
    char path[4096];
    unsigned count =
        load_inputs(tool, things, 1, "coldmint image split FILE -o NAME.bin", inputs, &code);
    if (!code)
        code = find_ways(tool, MOST_INPUTS, &ways);
    if (!code)
        code = check_groups(tool, &inputs[0], ways);
    if (!code && !image_options.output)
        code = usage(tool, "what shall the new files be called?", "-o is missing",
                     "-o NAME.bin makes NAME-even.bin and NAME-odd.bin");
    for (uint32_t part = 0; part < ways && !code; part++) {
        struct view split = {.kind = VIEW_SPLIT,
                             .inner = {inputs[0].source},
                             .count = 1,
                             .ways = ways,
                             .part = part};
        part_name(image_options.output, ways, part, path, sizeof path);
        code = write_output(tool, view_source(&split), path, inputs, count);
    }
    for (unsigned i = 0; i < count; i++)
        input_free(&inputs[i]);
    if (!code)
        say_last(tool, "split into %u; 'coldmint image weave' puts them together again",
                 (unsigned)ways);
    return code;
}

enum exit_code image_weave(struct tool *tool, const char *const *things)
{
    struct input inputs[MOST_INPUTS] = {0};
    struct view woven = {.kind = VIEW_WOVEN};
    enum exit_code code;
    char evidence[300];
    unsigned count =
        load_inputs(tool, things, 0, "coldmint image weave EVEN ODD -o NEW.bin", inputs, &code);
    for (unsigned i = 0; i < count && !code; i++) {
        uint32_t start, bytes, other, others;
        woven.inner[woven.count++] = inputs[i].source;
        bool alike = true;
        for (uint64_t at = 0;
             alike && at <= UINT32_MAX &&
             inputs[0].source.extent(inputs[0].source.context, (uint32_t)at, &start, &bytes);
             at = (uint64_t)start + bytes)
            alike =
                inputs[i].source.extent(inputs[i].source.context, (uint32_t)at, &other, &others) &&
                other == start && others == bytes;
        if (alike && inputs[i].bytes == inputs[0].bytes &&
            (uint64_t)(inputs[0].last + 1ull) * count <= UINT32_MAX)
            continue;
        snprintf(evidence, sizeof evidence, "%s has %u bytes to 0x%X, %s %u to 0x%X",
                 inputs[0].path, (unsigned)inputs[0].bytes, (unsigned)inputs[0].last,
                 inputs[i].path, (unsigned)inputs[i].bytes, (unsigned)inputs[i].last);
        code = tool_fail_as(tool, EXIT_BAD_FILE, "the parts are not alike", evidence,
                            "all must have bytes at the same addresses");
    }
    woven.ways = count;
    return finish(tool, &woven, inputs, count, code,
                  "a byte of each in turn; the first that is named is the even one");
}
