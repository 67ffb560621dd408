/*
 * The map's cells, and the map in the terminal.
 *
 *     0x000000  ████████████████····················································
 *         a sign is 1 KiB
 *
 * Signs differ in shape, so that they are told apart without colour; where the terminal's
 * characters are not UTF-8, ASCII stands in.
 */
#include "map.h"
#include "map_paper.h"
#include "numbers.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { LEAST_CELL = 16 };

void map_begin(struct map *map, uint32_t first, uint32_t bytes)
{
    memset(map, 0, sizeof *map);
    map->cell_bytes = LEAST_CELL;
    while ((uint64_t)map->cell_bytes * MAP_MOST_CELLS < (uint64_t)bytes + first % map->cell_bytes)
        map->cell_bytes *= 2;
    map->first = first - first % map->cell_bytes;
    map->bytes = bytes + (first - map->first);
    map->cells = (uint32_t)(((uint64_t)map->bytes + map->cell_bytes - 1) / map->cell_bytes);
}

static uint8_t *cell_at(struct map *map, uint32_t address)
{
    uint32_t cell = address < map->first ? UINT32_MAX : (address - map->first) / map->cell_bytes;
    return cell < map->cells ? &map->states[cell] : NULL;
}

static uint32_t count_blank(const uint8_t *bytes, uint32_t count, uint8_t erased)
{
    uint32_t blank = 0;
    for (uint32_t i = 0; i < count; i++)
        blank += bytes[i] == erased;
    return blank;
}

void map_add(struct map *map, uint32_t address, const uint8_t *bytes, uint32_t count,
             uint8_t erased)
{
    for (uint32_t part; count; count -= part, bytes += part, address += part) {
        uint8_t *cell = cell_at(map, address);
        part = map->cell_bytes - address % map->cell_bytes;
        part = part < count ? part : count;
        uint32_t blank = count_blank(bytes, part, erased);
        map->blank += blank;
        map->used += part - blank;
        if (cell)
            *cell |= blank < part ? MAP_USED : MAP_BLANK;
    }
}

void map_differs(struct map *map, uint32_t address)
{
    uint8_t *cell = cell_at(map, address);
    map->differs++;
    if (cell)
        *cell |= MAP_DIFFERS;
}

void map_protect(struct map *map, uint32_t first, uint32_t bytes)
{
    for (uint64_t at = first; at < (uint64_t)first + bytes; at += map->cell_bytes) {
        uint8_t *cell = cell_at(map, (uint32_t)at);
        if (cell)
            *cell |= MAP_PROTECTED;
    }
}

enum exit_code map_begin_chip(struct tool *tool, const struct map_options *given, struct map *map,
                              uint8_t index)
{
    struct cm_session *session = &tool->session;
    struct cm_region region;
    struct cm_erase_unit unit;
    struct cm_guard guard;
    cm_region(session, index, &region);
    map_begin(map, 0, region.bytes);
    if (cm_erase_unit(session, index, 0, &unit) && unit.clears == CM_REGION_BIT(index))
        map->sector_bytes = unit.bytes;
    snprintf(map->title, sizeof map->title, "%s, %s", chip_name(tool), region.name);
    enum cm_status status = index == CM_REGION_MAIN ? cm_guard_look(session, &guard) : CM_OK;
    if (status)
        return tool_fail(tool, status);
    for (uint32_t cell = 0; index == CM_REGION_MAIN && guard.bytes && cell < map->cells; cell++) {
        if (cm_guard_covers(&guard, index, cell * map->cell_bytes, map->cell_bytes))
            map_protect(map, cell * map->cell_bytes, map->cell_bytes);
    }
    return map_banks(tool, given, map);
}

enum exit_code map_banks(struct tool *tool, const struct map_options *given, struct map *map)
{
    if (!given->bank_size)
        return EXIT_GOOD;
    bool good = parse_number(given->bank_size, &map->bank_bytes) &&
                map->bank_bytes >= map->cell_bytes && map->bank_bytes % map->cell_bytes == 0;
    return good ? EXIT_GOOD
                : tool_fail_as(tool, EXIT_USAGE, "this is no size of a bank that could be shown",
                               given->bank_size, "a power of two, not too small for the map: 64K");
}

/* --- in the terminal --------------------------------------------------------------------- */

static bool speaks_utf8(void)
{
    const char *names[] = {"LC_ALL", "LC_CTYPE", "LANG"};
    for (int i = 0; i < 3; i++) {
        const char *value = getenv(names[i]);
        if (value && *value)
            return strstr(value, "UTF-8") || strstr(value, "utf8") || strstr(value, "utf-8") ||
                   strstr(value, "UTF8");
    }
    return false;
}

struct sign {
    const char *utf8, *ascii, *code, *meaning;
};

static const struct sign *sign_of(uint8_t state)
{
    static const struct sign ABSENT = {" ", " ", "", "nothing known"},
                             BLANK = {"\u00B7", ".", "2", "blank"},
                             USED = {"\u2588", "#", "36", "used"},
                             DIFFERS = {"\u259A", "X", "1;31", "differs"},
                             GUARDED = {"\u2591", "-", "35", "blank, protected"},
                             HELD = {"\u2593", "@", "35", "used, protected"};
    bool guarded = state & MAP_PROTECTED;
    return state & MAP_DIFFERS ? &DIFFERS
           : state & MAP_USED  ? guarded ? &HELD : &USED
           : state & MAP_BLANK ? guarded ? &GUARDED : &BLANK
                               : &ABSENT;
}

static void print_row(const struct map *map, uint32_t row, bool utf8)
{
    uint32_t begin = row * MAP_COLUMNS, address = map->first + begin * map->cell_bytes;
    bool at_bank = map->bank_bytes && address % map->bank_bytes == 0;
    printf("  0x%06X  ", (unsigned)address);
    for (uint32_t cell = begin; cell < begin + MAP_COLUMNS && cell < map->cells; cell++) {
        const struct sign *sign = sign_of(map->states[cell]);
        printf("%s%s%s", ink(sign->code), utf8 ? sign->utf8 : sign->ascii, ink("0"));
    }
    if (at_bank)
        printf("  bank %u", (unsigned)(address / map->bank_bytes));
    printf("\n");
}

/* Rows that are all blank, one after the other, are told and not shown. */
static bool is_dull(const struct map *map, uint32_t row)
{
    for (uint32_t cell = row * MAP_COLUMNS; cell < (row + 1) * MAP_COLUMNS && cell < map->cells;
         cell++) {
        if (map->states[cell] != map->states[row * MAP_COLUMNS])
            return false;
    }
    return true;
}

static void print_legend(const struct map *map, bool utf8)
{
    static const uint8_t STATES[] = {MAP_USED, MAP_BLANK, MAP_DIFFERS, MAP_USED | MAP_PROTECTED,
                                     MAP_BLANK | MAP_PROTECTED};
    char text[SHORT_TEXT];
    printf("  a sign is %s:", amount_text(map->cell_bytes, text));
    for (size_t i = 0; i < sizeof STATES; i++) {
        const struct sign *sign = sign_of(STATES[i]);
        bool present = false;
        for (uint32_t cell = 0; cell < map->cells && !present; cell++)
            present = sign_of(map->states[cell]) == sign;
        if (present)
            printf("  %s%s%s %s", ink(sign->code), utf8 ? sign->utf8 : sign->ascii, ink("0"),
                   sign->meaning);
    }
    printf("\n");
}

static void print_map(const struct map *map)
{
    bool utf8 = speaks_utf8();
    uint32_t rows = (map->cells + MAP_COLUMNS - 1) / MAP_COLUMNS;
    printf("\n");
    for (uint32_t row = 0; row < rows; row++) {
        uint32_t alike = 1;
        while (!map->bank_bytes && row + alike < rows && is_dull(map, row) &&
               is_dull(map, row + alike) &&
               map->states[row * MAP_COLUMNS] == map->states[(row + alike) * MAP_COLUMNS])
            alike++;
        print_row(map, row, utf8);
        if (alike > 2) {
            printf("  ...       %u more rows like it\n", (unsigned)alike - 1);
            row += alike - 1;
        }
    }
    print_legend(map, utf8);
    printf("\n");
}

/* --- all --------------------------------------------------------------------------------- */

enum exit_code map_draw(struct tool *tool, const struct map_options *given, const struct map *map)
{
    char path[CM_FILE_PATH];
    set_json(tool, "map",
             json_pack("{s:I, s:I, s:I, s:I, s:I, s:I}", "first", (json_int_t)map->first, "bytes",
                       (json_int_t)map->bytes, "cell_bytes", (json_int_t)map->cell_bytes,
                       "blank_bytes", (json_int_t)map->blank, "used_bytes", (json_int_t)map->used,
                       "differing_bytes", (json_int_t)map->differs));
    if (strcmp(given->path, "-") == 0) {
        if (!tool->given.json)
            print_map(map);
        return EXIT_GOOD;
    }
    cm_name_with_extension(path, sizeof path, given->path, ".svg");
    enum exit_code code = map_on_paper(tool, map, path);
    if (!code)
        say(tool, "map", "%s", path);
    return code;
}
