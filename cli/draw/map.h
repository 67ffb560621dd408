/*
 * A map: an address space as a grid of cells, each blank, used, different, absent; and protected or
 * not. Drawn to paper, or in the terminal by block characters.
 */
#ifndef CM_CLI_MAP_H
#define CM_CLI_MAP_H

#include "tool.h"

enum map_cell {
    MAP_ABSENT = 0, /* no byte is known there */
    MAP_BLANK = 1,
    MAP_USED = 2,
    MAP_DIFFERS = 4,
    MAP_PROTECTED = 8 /* beside the others */
};

enum { MAP_COLUMNS = 64, MAP_MOST_ROWS = 32, MAP_MOST_CELLS = MAP_COLUMNS * MAP_MOST_ROWS };

struct map {
    uint32_t first, bytes; /* the address space */
    uint32_t cell_bytes;   /* a power of two */
    uint32_t cells;
    uint8_t states[MAP_MOST_CELLS];
    uint32_t bank_bytes;           /* 0: none */
    const char *bank_names;        /* between commas; or NULL */
    uint32_t sector_bytes;         /* the smallest that can be erased; 0: unknown */
    uint64_t blank, used, differs; /* bytes */
    char title[200], what[200];
};

/* Covers `bytes` from `first` on by as many cells as fit; a cell is never less than 16 bytes. */
void map_begin(struct map *map, uint32_t first, uint32_t bytes);

/* Takes bytes that are there. They need not come in order. */
void map_add(struct map *map, uint32_t address, const uint8_t *bytes, uint32_t count,
             uint8_t erased);
void map_differs(struct map *map, uint32_t address);
void map_protect(struct map *map, uint32_t first, uint32_t bytes);

/* The options of verbs that draw maps. */
struct map_options {
    char *path, *bank_size, *bank_names;
};

/* "bank 3 tune": what a bank is called. */
const char *map_bank_text(const struct map *map, uint32_t address, char *text, size_t bytes);

/* Begins the map of a region of the chip at hand: its size, its sectors, what of it is protected.
 */
enum exit_code map_begin_chip(struct tool *tool, const struct map_options *given, struct map *map,
                              uint8_t region);

/* --bank-size, where it was given: checked. */
enum exit_code map_banks(struct tool *tool, const struct map_options *given, struct map *map);

/* Rows of a verb's table, for its own struct map_options. */
#define MAP_OPTION(name, member, words, value)                                                     \
    {                                                                                              \
        name, 0, POPT_ARG_STRING, &(member), 0, words, value                                       \
    }
#define BANK_NAMES_WORDS "what the banks are called on the map, from bank 0 on: \"intro,play,tune\""
#define MAP_OPTIONS(given)                                                                         \
    MAP_OPTION("map", (given).path,                                                                \
               "draw the address space to a .svg, .pdf or .png file; - draws it in the terminal",  \
               "FILE"),                                                                            \
        MAP_OPTION("bank-size", (given).bank_size, "the size of a bank: 64K", "SIZE"),             \
        MAP_OPTION("bank-names", (given).bank_names, BANK_NAMES_WORDS, "NAMES")

#endif
