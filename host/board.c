/*
 * Is this the board that a recipe is for?
 *
 * A recipe may say how its board is known: `marker: eeprom 0x1F0 NODE-C` is a text at a place of
 * the chip. Where the place holds another text, this is another board, and the recipe is refused.
 * Where it is blank the board is not known, and the recipe writes its own.
 */
#include "inside.h"
#include <coldmint/host/recipe.h>
#include <ctype.h>
#include <string.h>

bool cm_recipe_read_marker(struct cm_session *session, const struct cm_recipe *recipe, char *text)
{
    size_t length = strlen(recipe->marker_text);
    int region = cm_region_by_name(session, recipe->marker_region);
    bool is_blank = true;
    text[0] = '\0';
    if (region < 0 || cm_read(session, (uint8_t)region, recipe->marker_at, (uint8_t *)text,
                              (uint32_t)length) != CM_OK)
        return false;
    text[length] = '\0';
    for (size_t i = 0; i < length; i++) {
        is_blank &= (uint8_t)text[i] == 0xFF;
        if (!isprint((unsigned char)text[i]))
            text[i] = '?';
    }
    return !is_blank;
}

bool cm_recipe_check_marker(struct cm_host *host, struct cm_session *session,
                            const struct cm_recipe *recipe)
{
    char text[CM_RECIPE_MARKER + 1];
    if (!recipe->marker.text || !cm_recipe_read_marker(session, recipe, text) ||
        strcmp(text, recipe->marker_text) == 0)
        return true;
    struct cm_error *error = host_error(host, CM_ERROR_OTHER_BOARD, recipe->path);
    error->line = recipe->marker.line;
    error->address = recipe->marker_at;
    HOST_COPY(error->key, recipe->marker_region);
    HOST_COPY(error->text, text);
    snprintf(error->detail, sizeof error->detail, "\"%s\"%s%.60s", recipe->marker_text,
             recipe->board.text ? ", board " : "", recipe->board.text ? recipe->board.text : "");
    return false;
}

bool cm_recipe_check_supply(struct cm_host *host, const struct cm_recipe *recipe, uint16_t mv)
{
    if (mv == 0 || recipe->supply_from_mv == 0 ||
        (mv >= recipe->supply_from_mv && mv <= recipe->supply_to_mv))
        return true;
    struct cm_error *error = host_error(host, CM_ERROR_SUPPLY, recipe->path);
    error->line = recipe->supply.line;
    error->found_mv = mv;
    error->expected_mv = recipe->supply_from_mv;
    error->limit_mv = recipe->supply_to_mv;
    return false;
}
