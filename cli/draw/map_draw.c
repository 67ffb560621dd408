/*
 * The map, drawn: on paper, or in the terminal.
 *
 *     0x000000  ████████████████····················································
 *         a sign is 1 KiB
 *
 * Signs differ in shape, so that they are told apart without colour; where the terminal's
 * characters are not UTF-8, ASCII stands in.
 */
#include "map_draw.h"
#include "map_paper.h"
#include "say.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

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
    if (at_bank) {
        char text[SHORT_TEXT];
        printf("  ");
        print_shown(stdout, map_bank_text(map, address, text, sizeof text));
    }
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
