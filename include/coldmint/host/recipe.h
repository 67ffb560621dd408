/**
 * Recipes: the wanted state of a unit, in words, from a YAML file. docs/recipe.md lists its keys.
 *
 *     struct cm_recipe recipe;
 *     if (cm_recipe_load(&host, "strike-node.yaml", &recipe))
 *         ... cm_job_want_recipe (coldmint/host/job.h) ...
 *     cm_recipe_free(&recipe);
 */
#ifndef COLDMINT_HOST_RECIPE_H
#define COLDMINT_HOST_RECIPE_H

#include <coldmint/decls.h>
#include <coldmint/host/context.h>
#include <coldmint/host/unit.h>

CM_DECLS_BEGIN

enum {
    CM_RECIPE_CHOICES = 40, /**< most settings and lock choices */
    CM_RECIPE_FILES = 6,    /**< most files of a region, and most names under `allow` */
    CM_RECIPE_UNIT = 16,    /**< most entries of `unit` */
    CM_RECIPE_MARKER = 32   /**< most bytes of a marker's text */
};

/** A text of the recipe, and the line where it stands. */
struct cm_recipe_text {
    char *text;
    unsigned line;
};

/** "clock: internal-8MHz" */
struct cm_recipe_choice {
    struct cm_recipe_text name, word;
};

/** What becomes of a unit that was made before: left as it is, made again under its own number, or
 * given a new one. */
enum cm_known_unit { CM_KNOWN_LEAVE, CM_KNOWN_AGAIN, CM_KNOWN_NEW };

/** "leave", "again", "new". False: it is none of them. */
bool cm_known_unit_parse(const char *text, enum cm_known_unit *known);

/** A recipe. Texts that it does not have are NULL. */
struct cm_recipe {
    /** The caller's. */
    const char *path;
    struct cm_recipe_text title, chip, board, version, supply, board_clock, enter, marker, numbers,
        feed, power_cycle, known;
    /** Of `settings` and of `lock`. */
    struct cm_recipe_choice choices[CM_RECIPE_CHOICES];
    struct cm_recipe_text flash[CM_RECIPE_FILES], eeprom[CM_RECIPE_FILES], allow[CM_RECIPE_FILES];
    /** What each unit gets of its own (coldmint/host/unit.h). */
    struct cm_recipe_text unit[CM_RECIPE_UNIT];
    uint8_t choice_count, flash_count, eeprom_count, allow_count, unit_count;
    /** Where its numbers come from, and what becomes of a unit that has one. */
    struct cm_number_range range;
    enum cm_known_unit known_unit;
    const struct cm_part *part;
    /** 0: any that the part allows. */
    uint16_t supply_from_mv, supply_to_mv;
    /** The port feeds the board so; 0: the board has its own supply. And switches the supply off
     * for a moment before it asks for the chip. */
    uint16_t feed_mv;
    bool has_power_cycle;
    /** Clock of the board's crystal or oscillator; 0: none. */
    uint32_t board_hz;
    /** The marker's parts: how a board says which it is. */
    char marker_region[12], marker_text[CM_RECIPE_MARKER + 1];
    uint32_t marker_at;
};

/** Reads and checks a recipe, as far as that goes without a chip. Errors: CM_ERROR_RECIPE_...,
 * CM_ERROR_SETTING_..., CM_ERROR_FILE_... Free it in any case. */
CM_MUST_CHECK bool cm_recipe_load(struct cm_host *host, const char *path, struct cm_recipe *recipe);
void cm_recipe_free(struct cm_recipe *recipe);

/** Makes the recipe's choices in setting bytes. Errors: CM_ERROR_SETTING_... with path and line. */
CM_MUST_CHECK bool cm_recipe_choose(struct cm_host *host, const struct cm_recipe *recipe,
                                    uint8_t *bytes);

/** A file's path, relative to the recipe, into `path`. */
void cm_recipe_file(const struct cm_recipe *recipe, const struct cm_recipe_text *file, char *path,
                    size_t bytes);

/** Is the supply, as measured, what the recipe wants? 0 mV is unknown. Error: CM_ERROR_SUPPLY. */
CM_MUST_CHECK bool cm_recipe_check_supply(struct cm_host *host, const struct cm_recipe *recipe,
                                          uint16_t mv);

/** What stands at the marker's place of the chip, what cannot be shown as '?'. False: it is blank,
 * or cannot be read. `text` has CM_RECIPE_MARKER + 1 bytes. */
bool cm_recipe_read_marker(struct cm_session *session, const struct cm_recipe *recipe, char *text);

/** Is the board on the wires the recipe's, as far as its marker tells? Error:
 * CM_ERROR_OTHER_BOARD. */
CM_MUST_CHECK bool cm_recipe_check_marker(struct cm_host *host, struct cm_session *session,
                                          const struct cm_recipe *recipe);

CM_DECLS_END

#endif
