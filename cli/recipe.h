/* A recipe: the wanted state of a unit, in words, from a YAML file. docs/recipe.md lists its keys.
 */
#ifndef CM_CLI_RECIPE_H
#define CM_CLI_RECIPE_H

#include "tool.h"

enum { MOST_CHOICES = 40, MOST_RECIPE_FILES = 6, MARKER_BYTES = 32 };

/* A text of the recipe, and where it stands. */
struct recipe_text {
    char *text;
    unsigned line;
};

/* "clock: internal-8MHz" */
struct recipe_choice {
    struct recipe_text name, word;
};

struct recipe {
    const char *path;
    struct recipe_text title, chip, board, version, supply, board_clock, enter, marker;
    struct recipe_choice choices[MOST_CHOICES]; /* of settings and lock */
    struct recipe_text flash[MOST_RECIPE_FILES], eeprom[MOST_RECIPE_FILES],
        allow[MOST_RECIPE_FILES];
    uint8_t choice_count, lock_from, flash_count, eeprom_count, allow_count;
    const struct cm_part *part;
    uint16_t supply_from_mv, supply_to_mv; /* 0: any that the part allows */
    uint32_t board_hz;
    /* the marker's parts: how a board says which it is */
    char marker_region[12], marker_text[MARKER_BYTES + 1];
    uint32_t marker_at;
};

/* Reads and checks a recipe, as far as that goes without a chip. EXIT_GOOD, or the failure is told
 * with line, key and choices. */
enum exit_code recipe_load(struct tool *tool, const char *path, struct recipe *recipe);
void recipe_free(struct recipe *recipe);

/* A choice in words, applied to setting bytes. */
enum exit_code recipe_choose(struct tool *tool, const struct recipe *recipe, uint8_t *bytes);

/* A file's path, relative to the recipe. */
void recipe_file(const struct recipe *recipe, const struct recipe_text *file, char *path,
                 size_t bytes);

#endif
