/*
 * A unit of the ledger as texts and as JSON.
 */
#include "ledger.h"
#include "say.h"
#include <stdio.h>
#include <string.h>

const char *unit_begun_text(const struct cm_unit_record *unit, char *text)
{
    return second_text(unit->begun / 1000, text);
}

const char *unit_number_of(const struct cm_unit_record *unit, char *text)
{
    snprintf(text, SHORT_TEXT, unit->has_number ? "%llu" : "-", (unsigned long long)unit->number);
    return text;
}

json_t *unit_own(const struct cm_unit_record *unit)
{
    return unit->own[0] ? json_loads(unit->own, 0, NULL) : NULL;
}

json_t *unit_json(const struct cm_unit_record *unit)
{
    char begun[SHORT_TEXT];
    json_t *object = json_pack(
        "{s:o, s:o, s:o, s:o, s:o, s:o, s:o, s:o, s:o, s:o, s:o, s:o, s:b, s:o, s:o, s:I}", "key",
        json_text(unit->key), "series", json_text(unit->series), "recipe", json_text(unit->recipe),
        "version", json_text(unit->version), "board", json_text(unit->board), "chip",
        json_text(unit->chip), "chip_id", json_text(unit->chip_id), "port", json_text(unit->port),
        "station", json_text(unit->station), "images", json_text(unit->images), "settings_before",
        json_text(unit->settings_before), "settings_after", json_text(unit->settings_after),
        "passed", (int)unit->passed, "cause", json_text(unit->cause), "begun",
        json_text(unit_begun_text(unit, begun)), "took_ms", (json_int_t)unit->took_ms);
    if (unit->has_number)
        json_object_set_new(object, "number", json_integer((json_int_t)unit->number));
    json_t *own = unit_own(unit);
    if (own)
        json_object_set_new(object, "own", own);
    return object;
}
