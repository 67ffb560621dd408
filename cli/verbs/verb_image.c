/*
 * image: work on files, without hardware. Its acts are in cli/image/.
 */
#include "image/image.h"
#include "options.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

struct image_options image_options = {
    .bank = UNSET, .rows = UNSET, .nth = UNSET, .ways = UNSET, .least = UNSET};

#define OUTPUT "output format replace map bank-size bank-names region"

static const struct act ACTS[] = {
    {.name = "show",
     .things = "[options] FILE",
     .summary = "bytes as hex and text",
     .example = "coldmint image show master.bin --find LARKSPUR",
     .options = "range find bytes nth rows map bank-size bank-names region",
     .run = image_show},
    {.name = "find",
     .things = "[options] FILE [TEXT]",
     .summary =
         "all places of a text or of bytes; without either, the texts that the file holds, the "
         "likeliest first",
     .example = "coldmint image find master.bin --bytes \"73 ?? 72\"",
     .options = "range bytes any-case least rows region",
     .run = image_find},
    {.name = "info",
     .things = "[options] FILE",
     .summary = "what a file holds, its checksums, and for which parts it can be",
     .example = "coldmint image info --chip w25q64 master.bin",
     .options = "map bank-size bank-names region",
     .run = image_info},
    {.name = "match",
     .things = "[options] A B",
     .summary = "compare two files, byte by byte",
     .example = "coldmint image match old.bin new.bin",
     .options = "map bank-size bank-names region",
     .run = image_match},
    {.name = "place",
     .things = "[options] MASTER FILE",
     .summary = "a file into a larger one, at an address or in a bank",
     .example =
         "coldmint image place master.bin tune.bin --bank 3 --bank-size 64K -o master-new.bin",
     .options = "at bank " OUTPUT,
     .run = image_place},
    {.name = "join",
     .things = "[options] A B ...",
     .summary = "files that do not overlap into one; with --bank-size each into a bank of its own",
     .example = "coldmint image join --bank-size 8K a.bin b.bin c.bin -o master.bin",
     .options = OUTPUT,
     .run = image_join},
    {.name = "cut",
     .things = "--range RANGE [options] FILE",
     .summary = "a part of a file into a file of its own",
     .example = "coldmint image cut master.bin --range 0x30000..0x3FFFF -o tune.bin",
     .options = "range at " OUTPUT,
     .run = image_cut},
    {.name = "fill",
     .things = "[options] FILE",
     .summary = "gaps become bytes",
     .example = "coldmint image fill app.hex --with FF --range 0..32K -o app.bin",
     .options = "range with " OUTPUT,
     .run = image_fill},
    {.name = "convert",
     .things = "[options] FILE",
     .summary = "the same bytes in another format",
     .example = "coldmint image convert app.hex -o app.bin",
     .options = OUTPUT,
     .run = image_convert},
    {.name = "swap",
     .things = "[options] FILE",
     .summary = "the bytes of each word in the opposite order",
     .example = "coldmint image swap program.bin -o swapped.bin",
     .options = "ways " OUTPUT,
     .run = image_swap},
    {.name = "split",
     .things = "[options] FILE",
     .summary = "the bytes of each word into a file each: even and odd",
     .example = "coldmint image split program.bin -o program.bin",
     .options = "ways " OUTPUT,
     .run = image_split},
    {.name = "weave",
     .things = "[options] EVEN ODD ...",
     .summary = "put together again what was split",
     .example = "coldmint image weave even.bin odd.bin -o program.bin",
     .options = OUTPUT,
     .run = image_weave},
    {.name = "label",
     .things = "[options] FILE",
     .summary = "a label to stick on the chip: title, part, checksums, a code",
     .example = "coldmint image label master.bin --title \"LARKSPUR 2.0\" -o label.pdf",
     .options = "title output replace region",
     .run = image_label},
    {.name = NULL},
};

/* --- a map of one source ----------------------------------------------------------------- */

enum exit_code map_of_source(struct tool *tool, const struct cm_source *source, const char *title)
{
    uint32_t first, last, start, count;
    uint64_t bytes;
    if (!image_options.map.path || !cm_source_bounds(source, &first, &last, &bytes))
        return EXIT_GOOD;
    struct map *map = malloc(sizeof *map);
    uint8_t *chunk = malloc(CHUNK_BYTES);
    enum exit_code code = map && chunk ? EXIT_GOOD : tool_fail_memory(tool);
    if (!code) {
        uint32_t base =
            first > 16 * (last - first) ? first & ~0xFFFu : 0; // what lies far up, by itself
        map_begin(map, base, last - base + (last - base < UINT32_MAX));
        snprintf(map->title, sizeof map->title, "%s", title);
        snprintf(map->what, sizeof map->what, "%llu bytes, 0x%X to 0x%X", (unsigned long long)bytes,
                 (unsigned)first, (unsigned)last);
    }
    for (uint64_t at = 0; !code && at <= UINT32_MAX &&
                          source->extent(source->context, (uint32_t)at, &start, &count) && count;
         at = (uint64_t)start + count) {
        for (uint32_t done = 0, part; done < count; done += part) {
            part = count - done < CHUNK_BYTES ? count - done : CHUNK_BYTES;
            if (source->read(source->context, start + done, chunk, part) == CM_OK)
                map_add(map, start + done, chunk, part, 0xFF);
        }
    }
    if (!code)
        code = map_banks(tool, &image_options.map, map);
    if (!code)
        code = map_draw(tool, &image_options.map, map);
    free(chunk);
    free(map);
    return code;
}

/* --- the verb ---------------------------------------------------------------------------- */

/* The option whose number makes no sense, or NULL. */
static const char *out_of_range(void)
{
    const struct {
        const char *name;
        int value, least;
    } NUMBERS[] = {{"--bank", image_options.bank, 0},
                   {"--rows", image_options.rows, 0},
                   {"--nth", image_options.nth, 1},
                   {"--least", image_options.least, 3},
                   {"--ways", image_options.ways, 2}};
    for (size_t i = 0; i < sizeof NUMBERS / sizeof NUMBERS[0]; i++) {
        if (NUMBERS[i].value != UNSET && NUMBERS[i].value < NUMBERS[i].least)
            return NUMBERS[i].name;
    }
    return NULL;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    char known[200] = "";
    const char *wrong = out_of_range();
    if (wrong)
        return tool_fail_as(tool, EXIT_USAGE, "a number is out of its range", wrong,
                            "coldmint image --help");
    const struct act *act = find_act(tool->verb, things[0]);
    if (act) {
        tool->host.replace = image_options.replace;
        set_json(tool, "act", json_text(act->name));
        return act->run(tool, things + 1);
    }
    for (act = ACTS; act->name; act++)
        snprintf(known + strlen(known), sizeof known - strlen(known), "%s%s", known[0] ? ", " : "",
                 act->name);
    return tool_fail_as(tool, EXIT_USAGE,
                        things[0] ? "image does not do that" : "image does several things",
                        things[0] ? things[0] : "none is named", known);
}

static const struct poptOption options[] = {
    {"range", 0, POPT_ARG_STRING, &image_options.range, 0,
     "0x8000..0x80FF, 32K+256, or 0x8000.. to the end", "RANGE"},
    {"find", 0, POPT_ARG_STRING, &image_options.find, 0, "from where this text is", "TEXT"},
    {"bytes", 0, POPT_ARG_STRING, &image_options.bytes, 0,
     "these bytes, \"DE AD BE EF\"; ?? is any byte", "HEX"},
    {"any-case", 'i', POPT_ARG_NONE, &image_options.any_case, 0,
     "capitals or not, the text is the same", NULL},
    {"least", 0, POPT_ARG_INT, &image_options.least, 0,
     "texts of so many characters at least; 8 if not given", "N"},
    {"nth", 0, POPT_ARG_INT, &image_options.nth, 0, "the second, third, ... of them", "N"},
    {"rows", 0, POPT_ARG_INT, &image_options.rows, 0, "number of rows; 0 for all", "N"},
    {"at", 0, POPT_ARG_STRING, &image_options.at, 0,
     "the address; of a cut, where the part begins in the new file", "ADDRESS"},
    {"bank", 0, POPT_ARG_INT, &image_options.bank, 0, "the bank, counted from 0", "N"},
    {"with", 0, POPT_ARG_STRING, &image_options.with, 0, "the byte that fills; FF if not given",
     "HEX"},
    {"ways", 0, POPT_ARG_INT, &image_options.ways, 0, "bytes that go together; 2 if not given",
     "N"},
    {"region", 'r', POPT_ARG_STRING, &image_options.region, 0,
     "of an ELF file or a capsule: which memory; flash if not given", "REGION"},
    {"output", 'o', POPT_ARG_STRING, &image_options.output, 0,
     "the new file; its extension says the format", "FILE"},
    {"format", 'f', POPT_ARG_STRING, &image_options.format, 0,
     "hex, srec or raw, whatever the extension", "FORMAT"},
    {"title", 0, POPT_ARG_STRING, &image_options.title, 0,
     "what stands on the label; the file's name if not given", "TEXT"},
    {"replace", 0, POPT_ARG_NONE, &image_options.replace, 0, "overwrite the new file if it exists",
     NULL},
    MAP_OPTIONS(image_options.map),
    POPT_TABLEEND};

const struct verb verb_image = {
    .name = "image",
    .things = "ACT [options] FILE...",
    .summary = "work on files: look into them, search, compare, place, join, cut, fill, convert, "
               "swap, split, weave, label",
    .example =
        "coldmint image place master.bin tune.bin --bank 3 --bank-size 64K -o master-new.bin",
    .mistake = "placing a HEX file by --at and forgetting that it has addresses of its own: its "
               "first byte goes to --at",
    .options = options,
    .acts = ACTS,
    .heeds = HEEDS_CHIP,
    .run = run,
};
