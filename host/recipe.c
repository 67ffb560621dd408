/*
 * Recipes. The YAML is read with libyaml's document interface, not through a schema: every node
 * knows its line, keys of `settings` are the part's own, and an error shall name line, key and
 * choices exactly.
 */
#include "inside.h"
#include "unit.h"
#include <coldmint/host/amounts.h>
#include <coldmint/host/recipe.h>
#include <coldmint/host/settings.h>
#include <yaml_text.h>
#include <stddef.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <yaml.h>

/* What is being read. */
struct reading {
    struct cm_host *host;
    struct cm_recipe *recipe;
    yaml_document_t document;
};

static bool fail(const struct reading *reading, enum cm_error_kind kind, const yaml_node_t *node,
                 const char *text)
{
    struct cm_error *error = host_error(reading->host, kind, reading->recipe->path);
    error->line = node ? (uint32_t)node->start_mark.line + 1 : 1;
    HOST_COPY(error->text, text);
    return false;
}

static bool fail_count(const struct reading *reading, enum cm_error_kind kind,
                       const yaml_node_t *node, const char *text, uint32_t limit)
{
    fail(reading, kind, node, text);
    reading->host->error.limit = limit;
    return false;
}

static const char *scalar(const yaml_node_t *node)
{
    return node && node->type == YAML_SCALAR_NODE ? (const char *)node->data.scalar.value : NULL;
}

/* --- values ------------------------------------------------------------------------------ */

static bool take_text(struct reading *reading, const char *key, const yaml_node_t *node,
                      struct cm_recipe_text *out)
{
    enum { MOST = 1000 };
    const char *text = scalar(node);
    if (!text || !*text || strlen(text) > MOST)
        return fail(reading, CM_ERROR_RECIPE_VALUE, node, key);
    out->text = strdup(text);
    out->line = (unsigned)node->start_mark.line + 1;
    return out->text || host_fail(reading->host, CM_ERROR_NO_MEMORY, reading->recipe->path);
}

/* One text, or a list of them. */
static bool take_texts(struct reading *reading, const char *key, const yaml_node_t *node,
                       struct cm_recipe_text *list, uint8_t *count, uint8_t most)
{
    if (node->type != YAML_SEQUENCE_NODE) {
        *count = take_text(reading, key, node, list);
        return *count;
    }
    for (yaml_node_item_t *item = node->data.sequence.items.start;
         item < node->data.sequence.items.top; item++) {
        if (*count == most)
            return fail_count(reading, CM_ERROR_RECIPE_LIST, node, key, most);
        if (!take_text(reading, key, yaml_document_get_node(&reading->document, *item),
                       &list[*count]))
            return false;
        ++*count;
    }
    return true;
}

/* The choice that was read last has a name of its own. */
static bool is_named_once(const struct cm_recipe *recipe)
{
    const char *name = recipe->choices[recipe->choice_count - 1].name.text;
    for (uint8_t i = 0; i + 1 < recipe->choice_count; i++) {
        if (strcmp(recipe->choices[i].name.text, name) == 0)
            return false;
    }
    return true;
}

/* A mapping of setting names to words. */
static bool take_choices(struct reading *reading, const char *key, const yaml_node_t *node)
{
    struct cm_recipe *recipe = reading->recipe;
    if (node->type != YAML_MAPPING_NODE)
        return fail(reading, CM_ERROR_RECIPE_NAMES, node, key);
    for (yaml_node_pair_t *pair = node->data.mapping.pairs.start;
         pair < node->data.mapping.pairs.top; pair++) {
        const yaml_node_t *name = yaml_document_get_node(&reading->document, pair->key);
        if (recipe->choice_count == CM_RECIPE_CHOICES)
            return fail_count(reading, CM_ERROR_RECIPE_SETTINGS, node, key, CM_RECIPE_CHOICES);
        struct cm_recipe_choice *choice = &recipe->choices[recipe->choice_count++];
        if (!take_text(reading, key, name, &choice->name))
            return false;
        if (!take_text(reading, choice->name.text,
                       yaml_document_get_node(&reading->document, pair->value), &choice->word))
            return false;
        if (!is_named_once(recipe))
            return fail(reading, CM_ERROR_RECIPE_SETTING_TWICE, name, choice->name.text);
    }
    return true;
}

/* --- keys -------------------------------------------------------------------------------- */

enum kind { TEXT, TEXTS, CHOICES };

/* Keys of a recipe: which member they fill. */
static const struct key {
    const char *name;
    enum kind kind;
    bool required;
    size_t member, count;
    uint8_t most; /* of a list; 0: as many as there may be files */
} KEYS[] = {
    {"recipe", TEXT, true, offsetof(struct cm_recipe, title), 0, 0},
    {"chip", TEXT, true, offsetof(struct cm_recipe, chip), 0, 0},
    {"board", TEXT, false, offsetof(struct cm_recipe, board), 0, 0},
    {"marker", TEXT, false, offsetof(struct cm_recipe, marker), 0, 0},
    {"version", TEXT, false, offsetof(struct cm_recipe, version), 0, 0},
    {"supply", TEXT, false, offsetof(struct cm_recipe, supply), 0, 0},
    {"feed", TEXT, false, offsetof(struct cm_recipe, feed), 0, 0},
    {"power-cycle", TEXT, false, offsetof(struct cm_recipe, power_cycle), 0, 0},
    {"board-clock", TEXT, false, offsetof(struct cm_recipe, board_clock), 0, 0},
    {"settings", CHOICES, false, 0, 0, 0},
    {"flash", TEXTS, false, offsetof(struct cm_recipe, flash),
     offsetof(struct cm_recipe, flash_count), 0},
    {"enter", TEXT, false, offsetof(struct cm_recipe, enter), 0, 0},
    {"known", TEXT, false, offsetof(struct cm_recipe, known), 0, 0},
    {"eeprom", TEXTS, false, offsetof(struct cm_recipe, eeprom),
     offsetof(struct cm_recipe, eeprom_count), 0},
    {"lock", CHOICES, false, 0, 0, 0},
    {"allow", TEXTS, false, offsetof(struct cm_recipe, allow),
     offsetof(struct cm_recipe, allow_count), 0},
    {"numbers", TEXT, false, offsetof(struct cm_recipe, numbers), 0, 0},
    {"unit", TEXTS, false, offsetof(struct cm_recipe, unit), offsetof(struct cm_recipe, unit_count),
     CM_RECIPE_UNIT},
};
enum { KEY_COUNT = sizeof KEYS / sizeof KEYS[0] };

static bool fail_key(const struct reading *reading, const yaml_node_t *node, const char *key)
{
    struct cm_error *error = &reading->host->error;
    size_t used = 0;
    fail(reading, CM_ERROR_RECIPE_KEY, node, key ? key : "?");
    for (int i = 0; i < KEY_COUNT && used < sizeof error->detail; i++)
        used += (size_t)snprintf(error->detail + used, sizeof error->detail - used, "%s%s",
                                 i ? ", " : "", KEYS[i].name);
    return false;
}

static bool take_value(struct reading *reading, const struct key *key, const yaml_node_t *value)
{
    char *member = (char *)reading->recipe + key->member;
    switch (key->kind) {
    case TEXT:
        return take_text(reading, key->name, value, (struct cm_recipe_text *)(void *)member);
    case TEXTS:
        return take_texts(reading, key->name, value, (struct cm_recipe_text *)(void *)member,
                          (uint8_t *)reading->recipe + key->count,
                          key->most ? key->most : (uint8_t)CM_RECIPE_FILES);
    default:
        return take_choices(reading, key->name, value);
    }
}

static bool take_key(struct reading *reading, const yaml_node_t *name, const yaml_node_t *value,
                     bool *seen)
{
    const char *key = scalar(name);
    for (int i = 0; i < KEY_COUNT; i++) {
        if (!key || strcmp(KEYS[i].name, key) != 0)
            continue;
        if (seen[i])
            return fail(reading, CM_ERROR_RECIPE_KEY_TWICE, name, key);
        seen[i] = true;
        return take_value(reading, &KEYS[i], value);
    }
    return fail_key(reading, name, key);
}

static bool take_document(struct reading *reading)
{
    yaml_node_t *root = yaml_document_get_root_node(&reading->document);
    bool seen[KEY_COUNT] = {false};
    if (!root || root->type != YAML_MAPPING_NODE)
        return fail(reading, CM_ERROR_RECIPE_NO_KEYS, root, NULL);
    for (yaml_node_pair_t *pair = root->data.mapping.pairs.start;
         pair < root->data.mapping.pairs.top; pair++) {
        if (!take_key(reading, yaml_document_get_node(&reading->document, pair->key),
                      yaml_document_get_node(&reading->document, pair->value), seen))
            return false;
    }
    for (int i = 0; i < KEY_COUNT; i++) {
        if (KEYS[i].required && !seen[i])
            return fail(reading, CM_ERROR_RECIPE_KEY_MISSING, root, KEYS[i].name);
    }
    return true;
}

/* --- meanings ---------------------------------------------------------------------------- */

static bool fail_text(struct cm_host *host, enum cm_error_kind kind, const struct cm_recipe *recipe,
                      const struct cm_recipe_text *text, const char *key)
{
    struct cm_error *error = host_error(host, kind, recipe->path);
    error->line = text->line;
    HOST_COPY(error->key, key);
    HOST_COPY(error->text, text->text);
    return false;
}

/* "5V", or "4.5V to 5.5V" */
static bool parse_supply(const char *text, uint16_t *from, uint16_t *to)
{
    char first[20];
    const char *middle = strstr(text, " to ");
    snprintf(first, sizeof first, "%.*s", middle && middle - text < 19 ? (int)(middle - text) : 19,
             text);
    *from = cm_parse_volts(first);
    *to = middle ? cm_parse_volts(middle + 4) : *from;
    if (!middle) { // a tenth to either side
        *from = (uint16_t)(*from - *from / 10);
        *to = (uint16_t)(*to + *to / 10);
    }
    return *from && *to && *from <= *to;
}

/* One choice; the line makes an error easy to find. */
static bool choose(struct cm_host *host, const struct cm_recipe *recipe,
                   const struct cm_recipe_choice *choice, uint8_t *bytes)
{
    char text[CM_ERROR_TEXT];
    snprintf(text, sizeof text, "%.120s=%.120s", choice->name.text, choice->word.text);
    if (cm_setting_choose(host, recipe->part, bytes, text))
        return true;
    HOST_COPY(host->error.path, recipe->path);
    host->error.line = choice->name.line;
    return false;
}

bool cm_recipe_choose(struct cm_host *host, const struct cm_recipe *recipe, uint8_t *bytes)
{
    for (uint8_t rank = 0; rank < CM_SETTING_RANKS; rank++) {
        for (uint8_t i = 0; i < recipe->choice_count; i++) {
            const char *name = recipe->choices[i].name.text;
            if (cm_setting_rank(host, recipe->part, bytes, name) == rank &&
                !choose(host, recipe, &recipe->choices[i], bytes))
                return false;
        }
    }
    return true;
}

static bool check_choices(struct cm_host *host, const struct cm_recipe *recipe)
{
    const struct cm_words *words = cm_host_kit_of(host, recipe->part)->words;
    struct cm_setting setting;
    uint8_t bytes[CM_SETTING_BYTES];
    cm_settings_as_delivered(host, recipe->part, bytes);
    for (uint8_t i = 0; i < recipe->allow_count; i++) {
        if (!cm_setting_by_name(words, recipe->part, bytes, recipe->allow[i].text, &setting))
            return fail_text(host, CM_ERROR_RECIPE_ALLOW, recipe, &recipe->allow[i], "allow");
    }
    return cm_recipe_choose(host, recipe, bytes);
}

/* "eeprom 0x1F0 NODE-C": a memory, a place, a text. */
static bool parse_marker(struct cm_recipe *recipe)
{
    uint64_t at;
    int begin = 0;
    const char *text = recipe->marker.text;
    if (sscanf(text, "%11s %n", recipe->marker_region, &begin) != 1)
        return false;
    text += begin;
    if (!cm_parse_number(&text, &at) || at > UINT32_MAX - CM_RECIPE_MARKER)
        return false;
    size_t blanks = strspn(text, " \t"), length = strlen(text + blanks);
    if (!blanks || length == 0 || length > CM_RECIPE_MARKER)
        return false;
    recipe->marker_at = (uint32_t)at;
    memcpy(recipe->marker_text, text + blanks, length + 1);
    return strcmp(recipe->marker_region, "flash") == 0 ||
           strcmp(recipe->marker_region, "eeprom") == 0;
}

/* A power cycle is for the port that feeds the board. */
static bool check_feed(struct cm_host *host, struct cm_recipe *recipe)
{
    recipe->feed_mv = recipe->feed.text ? cm_parse_volts(recipe->feed.text) : 0;
    if (recipe->feed.text && !recipe->feed_mv)
        return fail_text(host, CM_ERROR_RECIPE_FEED, recipe, &recipe->feed, "feed");
    const char *cycle = recipe->power_cycle.text ? recipe->power_cycle.text : "no";
    recipe->has_power_cycle = strcmp(cycle, "yes") == 0;
    if ((!recipe->has_power_cycle && strcmp(cycle, "no") != 0) ||
        (recipe->has_power_cycle && !recipe->feed_mv))
        return fail_text(host, CM_ERROR_RECIPE_POWER_CYCLE, recipe, &recipe->power_cycle,
                         "power-cycle");
    return true;
}

bool cm_known_unit_parse(const char *text, enum cm_known_unit *known)
{
    static const char *const WORDS[] = {"leave", "again", "new"};
    for (int i = 0; i < (int)(sizeof WORDS / sizeof WORDS[0]); i++) {
        if (strcmp(text, WORDS[i]) == 0) {
            *known = (enum cm_known_unit)i;
            return true;
        }
    }
    return false;
}

static bool check(struct cm_host *host, struct cm_recipe *recipe)
{
    recipe->part = cm_host_part(host, recipe->chip.text);
    if (!recipe->part)
        return fail_text(host, CM_ERROR_RECIPE_CHIP, recipe, &recipe->chip, "chip");
    if (recipe->marker.text && !parse_marker(recipe))
        return fail_text(host, CM_ERROR_RECIPE_MARKER, recipe, &recipe->marker, "marker");
    if (recipe->supply.text &&
        !parse_supply(recipe->supply.text, &recipe->supply_from_mv, &recipe->supply_to_mv))
        return fail_text(host, CM_ERROR_RECIPE_SUPPLY, recipe, &recipe->supply, "supply");
    if (!check_feed(host, recipe))
        return false;
    recipe->board_hz = recipe->board_clock.text ? cm_parse_clock(recipe->board_clock.text) : 0;
    if (recipe->board_clock.text && !recipe->board_hz)
        return fail_text(host, CM_ERROR_RECIPE_CLOCK, recipe, &recipe->board_clock, "board-clock");
    if (recipe->enter.text && strcmp(recipe->enter.text, "reset-vector") != 0)
        return fail_text(host, CM_ERROR_RECIPE_ENTER, recipe, &recipe->enter, "enter");
    if (recipe->enter.text && recipe->flash_count < 2)
        return fail_text(host, CM_ERROR_RECIPE_ENTER_ALONE, recipe, &recipe->enter, "enter");
    if (recipe->numbers.text && !cm_number_range_parse(recipe->numbers.text, &recipe->range))
        return fail_text(host, CM_ERROR_RECIPE_NUMBERS, recipe, &recipe->numbers, "numbers");
    if (recipe->known.text && !cm_known_unit_parse(recipe->known.text, &recipe->known_unit))
        return fail_text(host, CM_ERROR_RECIPE_KNOWN, recipe, &recipe->known, "known");
    for (uint8_t i = 0; i < recipe->unit_count; i++) {
        if (!unit_entry_is_good(recipe->unit[i].text))
            return fail_text(host, CM_ERROR_RECIPE_UNIT, recipe, &recipe->unit[i], "unit");
    }
    return check_choices(host, recipe);
}

static bool fail_yaml(const struct reading *reading, const yaml_parser_t *parser)
{
    struct cm_error *error = host_error(reading->host, CM_ERROR_RECIPE_YAML, reading->recipe->path);
    error->line = (uint32_t)parser->problem_mark.line + 1;
    error->column = (uint32_t)parser->problem_mark.column + 1;
    HOST_COPY(error->detail, parser->problem ? parser->problem : "it ends too early");
    return false;
}

static bool parse(struct reading *reading, const char *contents, size_t bytes)
{
    yaml_parser_t parser;
    if (!yaml_parser_initialize(&parser))
        return host_fail(reading->host, CM_ERROR_NO_MEMORY, reading->recipe->path);
    yaml_parser_set_input_string(&parser, (const unsigned char *)contents, bytes);
    bool is_yaml = yaml_parser_load(&parser, &reading->document),
         good = is_yaml ? take_document(reading) : fail_yaml(reading, &parser);
    if (is_yaml)
        yaml_document_delete(&reading->document);
    yaml_parser_delete(&parser);
    return good;
}

static bool read_contents(struct reading *reading, const char *contents, size_t bytes)
{
    const char *why = yaml_refusal(contents, bytes);
    if (!why)
        return parse(reading, contents, bytes);
    HOST_COPY(host_error(reading->host, CM_ERROR_RECIPE_REFUSED, reading->recipe->path)->detail,
              why);
    return false;
}

bool cm_recipe_load(struct cm_host *host, const char *path, struct cm_recipe *recipe)
{
    struct reading reading = {.host = host, .recipe = recipe};
    char *contents;
    size_t bytes;
    memset(recipe, 0, sizeof *recipe);
    recipe->path = path;
    bool good = cm_file_read_whole(host, path, &contents, &bytes) &&
                read_contents(&reading, contents, bytes) && check(host, recipe);
    free(contents);
    return good;
}

static void free_texts(struct cm_recipe_text *texts, uint8_t count)
{
    for (uint8_t i = 0; i < count; i++)
        free(texts[i].text);
}

void cm_recipe_free(struct cm_recipe *recipe)
{
    struct cm_recipe_text *const singles[] = {
        &recipe->title,   &recipe->chip,        &recipe->board,       &recipe->version,
        &recipe->supply,  &recipe->board_clock, &recipe->enter,       &recipe->marker,
        &recipe->numbers, &recipe->feed,        &recipe->power_cycle, &recipe->known};
    for (size_t i = 0; i < sizeof singles / sizeof singles[0]; i++)
        free(singles[i]->text);
    for (uint8_t i = 0; i < recipe->choice_count; i++) {
        free(recipe->choices[i].name.text);
        free(recipe->choices[i].word.text);
    }
    free_texts(recipe->flash, recipe->flash_count);
    free_texts(recipe->eeprom, recipe->eeprom_count);
    free_texts(recipe->allow, recipe->allow_count);
    free_texts(recipe->unit, recipe->unit_count);
}

void cm_recipe_file(const struct cm_recipe *recipe, const struct cm_recipe_text *file, char *path,
                    size_t bytes)
{
    const char *slash = strrchr(recipe->path, '/');
    bool is_beside = slash && file->text[0] != '/';
    snprintf(path, bytes, "%.*s%s", is_beside ? (int)(slash - recipe->path + 1) : 0, recipe->path,
             file->text);
}
