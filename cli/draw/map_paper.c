/*
 * The map on paper, 1280 by 800: a grid of cells with addresses at its left and banks at its right,
 * and a legend with amounts below.
 *
 *     blank      an empty frame
 *     used       filled
 *     differs    filled in another colour, with a cross
 *     protected  beside these: a bar along the lower edge
 *
 * Each is told by its pattern; colour comes on top of that. Lines part sectors where cells are as
 * small as they, and banks.
 */
#include "map_paper.h"
#include "paper.h"
#include "text.h"
#include <stdio.h>
#include <string.h>

enum { GRID_X = 130, GRID_Y = 120, GRID_WIDTH = 1020, GRID_HEIGHT = 560, LEGEND_Y = 742 };

static const struct rgb USED = {0.13, 0.42, 0.52}, DIFFERS = {0.85, 0.33, 0.08},
                        PROTECTED = {0.42, 0.18, 0.58}, FRAME = {0.78, 0.79, 0.82},
                        BANK = {0.12, 0.12, 0.14};

struct grid {
    const struct map *map;
    uint32_t rows;
    double width, height; /* of a cell */
};

static void draw_cell(cairo_t *cr, double x, double y, double width, double height, uint8_t state)
{
    double gap = width > 6 && height > 6 ? 1 : 0.3;
    cairo_rectangle(cr, x + gap, y + gap, width - 2 * gap, height - 2 * gap);
    if (state & MAP_DIFFERS || state & MAP_USED) {
        paper_ink(cr, state & MAP_DIFFERS ? DIFFERS : USED);
        cairo_fill(cr);
    } else if (state & MAP_BLANK) {
        paper_ink(cr, FRAME);
        cairo_set_line_width(cr, 1);
        cairo_stroke(cr);
    } else {
        cairo_new_path(cr);
    }
    if (state & MAP_DIFFERS) {
        paper_ink(cr, PAPER_WHITE);
        cairo_set_line_width(cr, width > 10 ? 2 : 1.2);
        cairo_move_to(cr, x + gap + 2, y + gap + 2);
        cairo_line_to(cr, x + width - gap - 2, y + height - gap - 2);
        cairo_move_to(cr, x + width - gap - 2, y + gap + 2);
        cairo_line_to(cr, x + gap + 2, y + height - gap - 2);
        cairo_stroke(cr);
    }
    if (state & MAP_PROTECTED) {
        double bar = height / 4 < 6 ? height / 4 : 6;
        paper_ink(cr, PAPER_WHITE);
        cairo_rectangle(cr, x + gap, y + height - gap - bar - 1.5, width - 2 * gap, bar + 1.5);
        cairo_fill(cr);
        paper_ink(cr, PROTECTED);
        cairo_rectangle(cr, x, y + height - gap - bar, width, bar);
        cairo_fill(cr);
    }
}

static void draw_row(cairo_t *cr, const struct grid *grid, uint32_t row)
{
    const struct map *map = grid->map;
    char text[20];
    double y = GRID_Y + row * grid->height;
    uint32_t every = grid->rows > 16 ? 2 : 1;
    if (row % every == 0) {
        snprintf(text, sizeof text, "%06X",
                 (unsigned)(map->first + row * MAP_COLUMNS * map->cell_bytes));
        paper_ink(cr, PAPER_PALE);
        paper_mono(cr, GRID_X - 14, y + grid->height / 2, 13, RIGHT, text);
    }
    for (uint32_t column = 0; column < MAP_COLUMNS; column++) {
        uint32_t cell = row * MAP_COLUMNS + column;
        if (cell < map->cells)
            draw_cell(cr, GRID_X + column * grid->width, y, grid->width, grid->height,
                      map->states[cell]);
    }
}

/* A frame and a number for each bank; where banks are whole rows they stand at the right. */
static void draw_banks(cairo_t *cr, const struct grid *grid)
{
    const struct map *map = grid->map;
    uint32_t row_bytes = MAP_COLUMNS * map->cell_bytes;
    char text[20];
    if (!map->bank_bytes || map->bank_bytes % row_bytes)
        return;
    for (uint64_t at = (map->first + map->bank_bytes - 1) / map->bank_bytes * map->bank_bytes;
         at < (uint64_t)map->first + map->bytes; at += map->bank_bytes) {
        double y = GRID_Y + (double)(at - map->first) / row_bytes * grid->height,
               height = (double)map->bank_bytes / row_bytes * grid->height;
        paper_ink(cr, BANK);
        cairo_set_line_width(cr, 1.5);
        cairo_rectangle(cr, GRID_X - 3, y, GRID_WIDTH + 6, height);
        cairo_stroke(cr);
        map_bank_text(map, (uint32_t)at, text, sizeof text);
        paper_text(cr, GRID_X + GRID_WIDTH + 16, y + height / 2, 14, true, LEFT, text);
    }
}

/* Ticks above the grid where sectors begin, as far as cells are finer than they. */
static void draw_sectors(cairo_t *cr, const struct grid *grid)
{
    const struct map *map = grid->map;
    uint32_t cells = map->sector_bytes / map->cell_bytes;
    if (cells < 2 || cells > MAP_COLUMNS)
        return;
    paper_ink(cr, PAPER_PALE);
    cairo_set_line_width(cr, 0.7);
    for (uint32_t column = 0; column <= MAP_COLUMNS; column += cells) {
        cairo_move_to(cr, GRID_X + column * grid->width, GRID_Y - 7);
        cairo_line_to(cr, GRID_X + column * grid->width, GRID_Y + grid->rows * grid->height);
        cairo_stroke(cr);
    }
}

static const char *about_text(uint64_t bytes, char *text)
{
    if (bytes >= 1 << 20)
        snprintf(text, SHORT_TEXT, bytes % (1 << 20) ? "%.2f MiB" : "%.0f MiB",
                 (double)bytes / (1 << 20));
    else if (bytes >= 1024)
        snprintf(text, SHORT_TEXT, bytes % 1024 ? "%.1f KiB" : "%.0f KiB", (double)bytes / 1024);
    else
        count_text((uint32_t)bytes, "byte", text);
    return text;
}

static bool has_state(const struct map *map, uint8_t state)
{
    for (uint32_t i = 0; i < map->cells; i++) {
        if (map->states[i] & state)
            return true;
    }
    return false;
}

static void draw_legend(cairo_t *cr, const struct map *map)
{
    static const struct {
        uint8_t state, shown;
        const char *word;
    } ENTRIES[] = {{MAP_USED, MAP_USED, "used"},
                   {MAP_BLANK, MAP_BLANK, "blank"},
                   {MAP_DIFFERS, MAP_DIFFERS, "differs"},
                   {MAP_PROTECTED, MAP_PROTECTED | MAP_BLANK, "protected"}};
    const uint64_t bytes[] = {map->used, map->blank, map->differs, 0};
    char text[120], number[SHORT_TEXT], sector[SHORT_TEXT];
    double x = GRID_X;
    for (size_t i = 0; i < sizeof ENTRIES / sizeof ENTRIES[0]; i++) {
        if (!has_state(map, ENTRIES[i].state))
            continue;
        draw_cell(cr, x, LEGEND_Y - 11, 22, 22, ENTRIES[i].shown);
        paper_ink(cr, PAPER_INK);
        snprintf(text, sizeof text, bytes[i] ? "%s  %s" : "%s", ENTRIES[i].word,
                 about_text(bytes[i], number));
        paper_text(cr, x + 32, LEGEND_Y, 15, false, LEFT, text);
        x += 210;
    }
    paper_ink(cr, PAPER_PALE);
    snprintf(text, sizeof text, "a cell is %s", about_text(map->cell_bytes, number));
    if (map->sector_bytes)
        snprintf(text + strlen(text), sizeof text - strlen(text), "; a sector %s",
                 about_text(map->sector_bytes, sector));
    paper_text(cr, GRID_X + GRID_WIDTH, LEGEND_Y, 14, false, RIGHT, text);
}

static void draw(cairo_t *cr, const void *context)
{
    const struct map *map = context;
    struct grid grid = {.map = map,
                        .rows = (map->cells + MAP_COLUMNS - 1) / MAP_COLUMNS,
                        .width = (double)GRID_WIDTH / MAP_COLUMNS};
    grid.height = (double)GRID_HEIGHT / (grid.rows < 8 ? 8 : grid.rows);
    paper_ink(cr, PAPER_INK);
    paper_text(cr, GRID_X, 48, 26, true, LEFT, map->title);
    paper_ink(cr, PAPER_PALE);
    paper_text(cr, GRID_X, 82, 15, false, LEFT, map->what);
    for (uint32_t row = 0; row < grid.rows; row++)
        draw_row(cr, &grid, row);
    draw_sectors(cr, &grid);
    draw_banks(cr, &grid);
    draw_legend(cr, map);
}

enum exit_code map_on_paper(struct tool *tool, const struct map *map, const char *path)
{
    return paper_draw(tool, path, draw, map);
}
