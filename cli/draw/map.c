/*
 * The map's cells: what is known of each part of an address space.
 */
#include "map.h"
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

const char *map_bank_text(const struct map *map, uint32_t address, char *text, size_t bytes)
{
    const uint32_t bank = address / map->bank_bytes;
    const char *name = map->bank_names;
    for (uint32_t i = 0; name && i < bank; i++) {
        name = strchr(name, ',');
        name = name ? name + 1 : NULL;
    }
    const int length = name ? (int)strcspn(name, ",") : 0;
    snprintf(text, bytes, "bank %u%s%.*s", (unsigned)bank, length ? " " : "", length,
             name ? name : "");
    return text;
}

enum exit_code map_banks(struct tool *tool, const struct map_options *given, struct map *map)
{
    if (given->bank_names && !given->bank_size)
        return tool_fail_as(tool, EXIT_USAGE, "--bank-names needs --bank-size", given->bank_names,
                            "--bank-size 64K --bank-names intro,play,tune");
    if (!given->bank_size)
        return EXIT_GOOD;
    map->bank_names = given->bank_names;
    bool good = parse_number(given->bank_size, &map->bank_bytes) &&
                map->bank_bytes >= map->cell_bytes && map->bank_bytes % map->cell_bytes == 0;
    return good ? EXIT_GOOD
                : tool_fail_as(tool, EXIT_USAGE, "this is no size of a bank that could be shown",
                               given->bank_size, "a power of two, not too small for the map: 64K");
}
