/*
 * image: work on files, without hardware. Its acts are in cli/image/.
 */
#include "image/image.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

struct image_options image_options = {.bank = UNSET, .rows = UNSET, .nth = UNSET, .ways = UNSET};

static const struct {
    const char *name;
    enum exit_code (*run)(struct tool *tool, const char *const *things);
} ACTS[] = {
    {"show", image_show},   {"info", image_info},       {"match", image_match},
    {"place", image_place}, {"join", image_join},       {"cut", image_cut},
    {"fill", image_fill},   {"convert", image_convert}, {"swap", image_swap},
    {"split", image_split}, {"weave", image_weave},
};
enum { ACT_COUNT = sizeof ACTS / sizeof ACTS[0] };

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
    for (int i = 0; i < ACT_COUNT; i++) {
        if (things[0] && strcmp(ACTS[i].name, things[0]) == 0) {
            tool->host.replace = image_options.replace;
            set_json(tool, "act", json_text(ACTS[i].name));
            return ACTS[i].run(tool, things + 1);
        }
        snprintf(known + strlen(known), sizeof known - strlen(known), "%s%s", i ? ", " : "",
                 ACTS[i].name);
    }
    return tool_fail_as(tool, EXIT_USAGE,
                        things[0] ? "image does not do that" : "image does several things",
                        things[0] ? things[0] : "none is named", known);
}

static const struct poptOption options[] = {
    {"range", 0, POPT_ARG_STRING, &image_options.range, 0,
     "show, cut, fill: 0x8000..0x80FF, 32K+256, or 0x8000.. to the end", "RANGE"},
    {"find", 0, POPT_ARG_STRING, &image_options.find, 0, "show: from where this text is", "TEXT"},
    {"bytes", 0, POPT_ARG_STRING, &image_options.bytes, 0,
     "show: from where these bytes are, \"DE AD BE EF\"", "HEX"},
    {"nth", 0, POPT_ARG_INT, &image_options.nth, 0, "show: the second, third, ... of them", "N"},
    {"rows", 0, POPT_ARG_INT, &image_options.rows, 0, "show: number of rows; 0 for all", "N"},
    {"at", 0, POPT_ARG_STRING, &image_options.at, 0,
     "place: the address; cut: where the part begins in the new file", "ADDRESS"},
    {"bank", 0, POPT_ARG_INT, &image_options.bank, 0, "place: the bank, counted from 0", "N"},
    {"with", 0, POPT_ARG_STRING, &image_options.with, 0, "fill: the byte; FF if not given", "HEX"},
    {"ways", 0, POPT_ARG_INT, &image_options.ways, 0,
     "swap, split: bytes that go together; 2 if not given", "N"},
    {"region", 'r', POPT_ARG_STRING, &image_options.region, 0,
     "of an ELF file or a capsule: which memory; flash if not given", "REGION"},
    {"output", 'o', POPT_ARG_STRING, &image_options.output, 0,
     "the new file; its extension says the format", "FILE"},
    {"format", 'f', POPT_ARG_STRING, &image_options.format, 0,
     "hex, srec or raw, whatever the extension", "FORMAT"},
    {"replace", 0, POPT_ARG_NONE, &image_options.replace, 0, "overwrite the new file if it exists",
     NULL},
    MAP_OPTIONS(image_options.map),
    POPT_TABLEEND};

const struct verb verb_image = {
    .name = "image",
    .things = "show|info|match|place|join|cut|fill|convert|swap|split|weave [options] FILE...",
    .summary = "work on files: look into them, compare, place, join, cut, fill, convert, swap, "
               "split, weave",
    .example =
        "coldmint image place master.bin tune.bin --bank 3 --bank-size 64K -o master-new.bin",
    .mistake = "placing a HEX file by --at and forgetting that it has addresses of its own: its "
               "first byte goes to --at",
    .options = options,
    .heeds = HEEDS_CHIP,
    .run = run,
};
