/*
 * Recipes. The YAML is read with libyaml's document interface, not through a schema: every node
 * knows its line, keys of `settings` are the part's own, and an error shall name line, key and
 * choices exactly.
 */
#include "recipe.h"
#include "settings.h"
#include <sim/yaml_text.h>
#include <stddef.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <yaml.h>

/* What is being read. */
struct reading {
    struct tool *tool;
    struct recipe *recipe;
    yaml_document_t document;
};

static enum exit_code fail(const struct reading *reading, const yaml_node_t *node, const char *what,
                           const char *evidence, const char *advice)
{
    char where[500], text[300];
    snprintf(text, sizeof text, "%.180s: %s", reading->recipe->path, what);
    snprintf(where, sizeof where, "line %u: %s", node ? (unsigned)node->start_mark.line + 1 : 1,
             evidence);
    return tool_fail_as(reading->tool, EXIT_BAD_FILE, text, where, advice);
}

static const char *scalar(const yaml_node_t *node)
{
    return node && node->type == YAML_SCALAR_NODE ? (const char *)node->data.scalar.value : NULL;
}

/* --- values ------------------------------------------------------------------------------ */

static enum exit_code take_text(struct reading *reading, const char *key, const yaml_node_t *node,
                                struct recipe_text *out)
{
    const char *text = scalar(node);
    char evidence[120];
    snprintf(evidence, sizeof evidence, "key '%.60s'", key);
    if (!text || !*text || strlen(text) > 1000)
        return fail(reading, node, "a plain value is needed here", evidence,
                    "for example chip: attiny84a");
    out->text = strdup(text);
    out->line = (unsigned)node->start_mark.line + 1;
    return EXIT_GOOD;
}

/* One text, or a list of them. */
static enum exit_code take_texts(struct reading *reading, const char *key, const yaml_node_t *node,
                                 struct recipe_text *list, uint8_t *count)
{
    if (node->type != YAML_SEQUENCE_NODE) {
        enum exit_code code = take_text(reading, key, node, list);
        *count = !code;
        return code;
    }
    for (yaml_node_item_t *item = node->data.sequence.items.start;
         item < node->data.sequence.items.top; item++) {
        if (*count == MOST_RECIPE_FILES)
            return fail(reading, node, "too many in this list", key, "six at most");
        enum exit_code code = take_text(
            reading, key, yaml_document_get_node(&reading->document, *item), &list[*count]);
        if (code)
            return code;
        ++*count;
    }
    return EXIT_GOOD;
}

/* A mapping of setting names to words. */
static enum exit_code take_choices(struct reading *reading, const char *key,
                                   const yaml_node_t *node)
{
    struct recipe *recipe = reading->recipe;
    if (node->type != YAML_MAPPING_NODE)
        return fail(reading, node, "names and words are needed here", key,
                    "one a line, for example  clock: internal-8MHz");
    for (yaml_node_pair_t *pair = node->data.mapping.pairs.start;
         pair < node->data.mapping.pairs.top; pair++) {
        if (recipe->choice_count == MOST_CHOICES)
            return fail(reading, node, "too many settings", key, "forty at most");
        struct recipe_choice *choice = &recipe->choices[recipe->choice_count++];
        enum exit_code code = take_text(
            reading, key, yaml_document_get_node(&reading->document, pair->key), &choice->name);
        if (!code)
            code =
                take_text(reading, choice->name.text,
                          yaml_document_get_node(&reading->document, pair->value), &choice->word);
        for (uint8_t i = 0; !code && i + 1 < recipe->choice_count; i++) {
            if (strcmp(recipe->choices[i].name.text, choice->name.text) == 0)
                code = fail(reading, yaml_document_get_node(&reading->document, pair->key),
                            "a setting is named twice", choice->name.text, "keep one of them");
        }
        if (code)
            return code;
    }
    return EXIT_GOOD;
}

/* --- keys -------------------------------------------------------------------------------- */

enum kind { TEXT, TEXTS, CHOICES };

/* Keys of a recipe: which member they fill. */
static const struct key {
    const char *name;
    enum kind kind;
    bool required;
    size_t member, count;
} KEYS[] = {
    {"recipe", TEXT, true, offsetof(struct recipe, title), 0},
    {"chip", TEXT, true, offsetof(struct recipe, chip), 0},
    {"board", TEXT, false, offsetof(struct recipe, board), 0},
    {"marker", TEXT, false, offsetof(struct recipe, marker), 0},
    {"version", TEXT, false, offsetof(struct recipe, version), 0},
    {"supply", TEXT, false, offsetof(struct recipe, supply), 0},
    {"board-clock", TEXT, false, offsetof(struct recipe, board_clock), 0},
    {"settings", CHOICES, false, 0, 0},
    {"flash", TEXTS, false, offsetof(struct recipe, flash), offsetof(struct recipe, flash_count)},
    {"enter", TEXT, false, offsetof(struct recipe, enter), 0},
    {"eeprom", TEXTS, false, offsetof(struct recipe, eeprom),
     offsetof(struct recipe, eeprom_count)},
    {"lock", CHOICES, false, 0, 0},
    {"allow", TEXTS, false, offsetof(struct recipe, allow), offsetof(struct recipe, allow_count)},
};
enum { KEY_COUNT = sizeof KEYS / sizeof KEYS[0] };

static void list_keys(char *text, size_t bytes)
{
    size_t used = (size_t)snprintf(text, bytes, "one of: ");
    for (int i = 0; i < KEY_COUNT && used < bytes; i++)
        used += (size_t)snprintf(text + used, bytes - used, "%s%s", i ? ", " : "", KEYS[i].name);
}

static enum exit_code take_key(struct reading *reading, const yaml_node_t *name,
                               const yaml_node_t *value, bool *seen)
{
    const char *key = scalar(name);
    char evidence[200], known[300];
    snprintf(evidence, sizeof evidence, "key '%.60s'", key ? key : "?");
    for (int i = 0; i < KEY_COUNT; i++) {
        char *member = (char *)reading->recipe + KEYS[i].member;
        if (!key || strcmp(KEYS[i].name, key) != 0)
            continue;
        if (seen[i])
            return fail(reading, name, "a key stands there twice", evidence, "keep one of them");
        seen[i] = true;
        if (KEYS[i].kind == TEXT)
            return take_text(reading, key, value, (struct recipe_text *)(void *)member);
        if (KEYS[i].kind == TEXTS)
            return take_texts(reading, key, value, (struct recipe_text *)(void *)member,
                              (uint8_t *)reading->recipe + KEYS[i].count);
        return take_choices(reading, key, value);
    }
    list_keys(known, sizeof known);
    return fail(reading, name, "no such key", evidence, known);
}

static enum exit_code take_document(struct reading *reading)
{
    yaml_node_t *root = yaml_document_get_root_node(&reading->document);
    bool seen[KEY_COUNT] = {false};
    char evidence[100];
    if (!root || root->type != YAML_MAPPING_NODE)
        return fail(reading, root, "is not a recipe", "it has no keys", "see docs/recipe.md");
    for (yaml_node_pair_t *pair = root->data.mapping.pairs.start;
         pair < root->data.mapping.pairs.top; pair++) {
        enum exit_code code =
            take_key(reading, yaml_document_get_node(&reading->document, pair->key),
                     yaml_document_get_node(&reading->document, pair->value), seen);
        if (code)
            return code;
    }
    for (int i = 0; i < KEY_COUNT; i++) {
        snprintf(evidence, sizeof evidence, "key '%s' is missing", KEYS[i].name);
        if (KEYS[i].required && !seen[i])
            return fail(reading, root, "is not a whole recipe", evidence,
                        "add it; see docs/recipe.md");
    }
    return EXIT_GOOD;
}

/* --- meanings ---------------------------------------------------------------------------- */

static enum exit_code fail_text(struct tool *tool, const struct recipe *recipe,
                                const struct recipe_text *text, const char *key, const char *what,
                                const char *advice)
{
    char whole[300], evidence[400];
    snprintf(whole, sizeof whole, "%.180s: %s", recipe->path, what);
    snprintf(evidence, sizeof evidence, "line %u, key '%s': %.200s", text->line, key, text->text);
    return tool_fail_as(tool, EXIT_BAD_FILE, whole, evidence, advice);
}

/* "5V", or "4.5V to 5.5V" */
static bool parse_supply(const char *text, uint16_t *from, uint16_t *to)
{
    char first[20];
    const char *middle = strstr(text, " to ");
    snprintf(first, sizeof first, "%.*s", middle && middle - text < 19 ? (int)(middle - text) : 19,
             text);
    *from = parse_volts(first);
    *to = middle ? parse_volts(middle + 4) : *from;
    if (!middle) { // a tenth to either side
        *from = (uint16_t)(*from - *from / 10);
        *to = (uint16_t)(*to + *to / 10);
    }
    return *from && *to && *from <= *to;
}

/* One choice; the line makes an error easy to find. */
static enum exit_code choose(struct tool *tool, const struct recipe *recipe,
                             const struct recipe_choice *choice, uint8_t *bytes)
{
    char text[200], where[300];
    snprintf(text, sizeof text, "%.90s=%.90s", choice->name.text, choice->word.text);
    snprintf(where, sizeof where, "%.180s, line %u: ", recipe->path, choice->name.line);
    return settings_choose(tool, recipe->part, bytes, text, where, EXIT_BAD_FILE);
}

enum exit_code recipe_choose(struct tool *tool, const struct recipe *recipe, uint8_t *bytes)
{
    enum exit_code code = EXIT_GOOD;
    for (uint8_t rank = 0; rank < RANKS; rank++) {
        for (uint8_t i = 0; i < recipe->choice_count && !code; i++) {
            if (settings_rank(recipe->part, bytes, recipe->choices[i].name.text) == rank)
                code = choose(tool, recipe, &recipe->choices[i], bytes);
        }
    }
    return code;
}

static enum exit_code check_choices(struct tool *tool, const struct recipe *recipe)
{
    struct cm_setting setting;
    uint8_t bytes[CM_SETTING_BYTES];
    settings_as_delivered(recipe->part, bytes);
    for (uint8_t i = 0; i < recipe->allow_count; i++) {
        if (!cm_setting_by_name(words_of(recipe->part), recipe->part, bytes, recipe->allow[i].text,
                                &setting))
            return fail_text(tool, recipe, &recipe->allow[i], "allow",
                             "this part has no such setting", "'coldmint tune' lists them");
    }
    return recipe_choose(tool, recipe, bytes);
}

/* "eeprom 0x1F0 NODE-C": a memory, a place, a text. */
static bool parse_marker(struct recipe *recipe)
{
    unsigned long at;
    int begin = 0;
    const char *text = recipe->marker.text;
    if (sscanf(text, "%11s %li %n", recipe->marker_region, (long *)&at, &begin) < 2 || begin == 0)
        return false;
    size_t length = strlen(text + begin);
    recipe->marker_at = (uint32_t)at;
    if (length == 0 || length > MARKER_BYTES || at > UINT32_MAX - MARKER_BYTES)
        return false;
    memcpy(recipe->marker_text, text + begin, length + 1);
    return strcmp(recipe->marker_region, "flash") == 0 ||
           strcmp(recipe->marker_region, "eeprom") == 0;
}

static enum exit_code check(struct tool *tool, struct recipe *recipe)
{
    recipe->part = tool_part(recipe->chip.text);
    if (!recipe->part)
        return fail_text(tool, recipe, &recipe->chip, "chip", "no such chip is known",
                         "'coldmint chips' lists them; write the whole name");
    if (recipe->marker.text && !parse_marker(recipe))
        return fail_text(tool, recipe, &recipe->marker, "marker",
                         "is not a memory, a place and a text",
                         "for example  marker: eeprom 0x1F0 NODE-C");
    if (recipe->supply.text &&
        !parse_supply(recipe->supply.text, &recipe->supply_from_mv, &recipe->supply_to_mv))
        return fail_text(tool, recipe, &recipe->supply, "supply", "this is no supply",
                         "for example 5V, or 4.5V to 5.5V");
    recipe->board_hz = recipe->board_clock.text ? parse_clock(recipe->board_clock.text) : 0;
    if (recipe->board_clock.text && !recipe->board_hz)
        return fail_text(tool, recipe, &recipe->board_clock, "board-clock", "this is no frequency",
                         "for example 16MHz");
    if (recipe->enter.text && strcmp(recipe->enter.text, "reset-vector") != 0)
        return fail_text(tool, recipe, &recipe->enter, "enter", "no such way into a loader",
                         "one of: reset-vector");
    if (recipe->enter.text && recipe->flash_count < 2)
        return fail_text(tool, recipe, &recipe->enter, "enter",
                         "this needs a loader and an application",
                         "name both under flash, the loader first");
    return check_choices(tool, recipe);
}

static enum exit_code parse(struct reading *reading, const char *contents, size_t bytes)
{
    yaml_parser_t parser;
    char evidence[200];
    struct tool *tool = reading->tool;
    if (!yaml_parser_initialize(&parser))
        return tool_fail_as(tool, EXIT_BAD_FILE, "there is not enough memory", "",
                            "close other programs");
    yaml_parser_set_input_string(&parser, (const unsigned char *)contents, bytes);
    enum exit_code code;
    if (yaml_parser_load(&parser, &reading->document)) {
        code = take_document(reading);
        yaml_document_delete(&reading->document);
    } else {
        char what[300];
        snprintf(what, sizeof what, "%.180s: is not YAML", reading->recipe->path);
        snprintf(evidence, sizeof evidence, "line %u, column %u: %.120s",
                 (unsigned)parser.problem_mark.line + 1, (unsigned)parser.problem_mark.column + 1,
                 parser.problem ? parser.problem : "it ends too early");
        code = tool_fail_as(tool, EXIT_BAD_FILE, what, evidence,
                            "mend that line; docs/recipe.md has an example");
    }
    yaml_parser_delete(&parser);
    return code;
}

enum exit_code recipe_load(struct tool *tool, const char *path, struct recipe *recipe)
{
    struct reading reading = {.tool = tool, .recipe = recipe};
    char *contents = NULL;
    size_t bytes = 0;
    memset(recipe, 0, sizeof *recipe);
    recipe->path = path;
    enum exit_code code = file_read_whole(tool, path, &contents, &bytes);
    const char *why = code ? NULL : sim_yaml_refusal(contents, bytes);
    char what[300];
    snprintf(what, sizeof what, "%.180s: is no recipe", path);
    if (why)
        code = tool_fail_as(tool, EXIT_BAD_FILE, what, why, "docs/recipe.md has an example");
    else if (!code)
        code = parse(&reading, contents, bytes);
    free(contents);
    return code ? code : check(tool, recipe);
}

static void free_texts(struct recipe_text *texts, uint8_t count)
{
    for (uint8_t i = 0; i < count; i++)
        free(texts[i].text);
}

void recipe_free(struct recipe *recipe)
{
    struct recipe_text *const singles[] = {&recipe->title,   &recipe->chip,   &recipe->board,
                                           &recipe->version, &recipe->supply, &recipe->board_clock,
                                           &recipe->enter,   &recipe->marker};
    for (size_t i = 0; i < sizeof singles / sizeof singles[0]; i++)
        free(singles[i]->text);
    for (uint8_t i = 0; i < recipe->choice_count; i++) {
        free(recipe->choices[i].name.text);
        free(recipe->choices[i].word.text);
    }
    free_texts(recipe->flash, recipe->flash_count);
    free_texts(recipe->eeprom, recipe->eeprom_count);
    free_texts(recipe->allow, recipe->allow_count);
}

void recipe_file(const struct recipe *recipe, const struct recipe_text *file, char *path,
                 size_t bytes)
{
    const char *slash = strrchr(recipe->path, '/');
    bool is_beside = slash && file->text[0] != '/';
    snprintf(path, bytes, "%.*s%s", is_beside ? (int)(slash - recipe->path + 1) : 0, recipe->path,
             file->text);
}
