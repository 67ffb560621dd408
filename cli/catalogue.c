/*
 * The catalogue: which recipes and capsules of a folder fit the chip that is found, by board and
 * version, newest first.
 *
 * A recipe may say how its board is known: `marker: eeprom 0x1F0 NODE-C` is a text at a place of
 * the chip. Where the place holds another recipe's text, this is another board, and the recipe is
 * refused. Where it is blank the board is not known, and the recipe writes its own.
 */
#include "catalogue.h"
#include "capsule.h"
#include <ctype.h>
#include <dirent.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>
#include <time.h>

char *catalogue_board, *catalogue_version;

enum { MOST_ENTRIES = 400, PATH_BYTES = 4096 };

struct entry {
    char path[PATH_BYTES];
    struct recipe *recipe; /* NULL: a capsule */
    char title[120], version[40], chip[20];
    bool fits, this_board, other_board;
};

struct catalogue {
    struct tool *tool;
    struct entry *entries;
    unsigned count, unreadable;
    char board[60]; /* known by a marker; "" not */
};

/* --- markers ----------------------------------------------------------------------------- */

/* What stands at the marker's place. False: it is blank, or cannot be read. */
static bool read_marker(struct tool *tool, const struct recipe *recipe, char *text, size_t room)
{
    size_t length = strlen(recipe->marker_text);
    int region = cm_region_by_name(&tool->session, recipe->marker_region);
    bool blank = true;
    text[0] = '\0';
    if (region < 0 || length >= room ||
        cm_read(&tool->session, (uint8_t)region, recipe->marker_at, (uint8_t *)text,
                (uint32_t)length) != CM_OK)
        return false;
    text[length] = '\0';
    for (size_t i = 0; i < length; i++) {
        blank &= (uint8_t)text[i] == 0xFF;
        if (!isprint((unsigned char)text[i]))
            text[i] = '?';
    }
    return !blank;
}

enum exit_code catalogue_check_marker(struct tool *tool, const struct recipe *recipe)
{
    char text[MARKER_BYTES + 1], evidence[300];
    if (!recipe->marker.text || !read_marker(tool, recipe, text, sizeof text) ||
        strcmp(text, recipe->marker_text) == 0)
        return EXIT_GOOD;
    snprintf(evidence, sizeof evidence,
             "%s at 0x%X reads \"%s\"; line %u of the recipe wants \"%s\"%s%s",
             recipe->marker_region, (unsigned)recipe->marker_at, text, recipe->marker.line,
             recipe->marker_text, recipe->board.text ? ", board " : "",
             recipe->board.text ? recipe->board.text : "");
    return tool_fail_as(tool, EXIT_WRONG_CHIP, "this is another board than the recipe is for",
                        evidence,
                        "nothing was changed; 'mint --from FOLDER' lists what is for this board. "
                        "If the marker is wrong, write it "
                        "anew with 'put --region'");
}

/* --- reading the folder ------------------------------------------------------------------ */

static bool has_ending(const char *name, const char *ending)
{
    size_t length = strlen(name), tail = strlen(ending);
    return length > tail && strcasecmp(name + length - tail, ending) == 0;
}

static void take_recipe(struct catalogue *catalogue, struct entry *entry)
{
    struct tool *tool = catalogue->tool;
    const struct words words = tool->words;
    struct recipe *recipe = calloc(1, sizeof *recipe);
    if (recipe && recipe_load(tool, entry->path, recipe) == EXIT_GOOD) {
        entry->recipe = recipe;
        snprintf(entry->title, sizeof entry->title, "%s", recipe->title.text);
        snprintf(entry->version, sizeof entry->version, "%s",
                 recipe->version.text ? recipe->version.text : "");
        snprintf(entry->chip, sizeof entry->chip, "%s", recipe->chip.text);
        catalogue->count++;
        return;
    }
    say(tool, "note", "%s is left out: %s; %s", entry->path, tool->words.what,
        tool->words.evidence);
    tool->words = words; // the folder is worth listing all the same
    catalogue->unreadable++;
    if (recipe)
        recipe_free(recipe);
    free(recipe);
}

static void take_capsule(struct catalogue *catalogue, struct entry *entry)
{
    struct tool *tool = catalogue->tool;
    const struct words words = tool->words;
    struct capsule_file *file = calloc(1, sizeof *file);
    if (file && capsule_load(tool, entry->path, file) == EXIT_GOOD) {
        const struct cm_capsule_facts *facts = &file->capsule.facts;
        time_t when = (time_t)facts->time;
        struct tm parts;
        snprintf(entry->title, sizeof entry->title, "%.119s",
                 facts->notes[0] ? facts->notes : "a capsule");
        strftime(entry->version, sizeof entry->version, "%Y-%m-%d", gmtime_r(&when, &parts));
        snprintf(entry->chip, sizeof entry->chip, "%.19s", facts->chip);
        catalogue->count++;
    } else {
        say(tool, "note", "%s is left out: %s", entry->path, tool->words.what);
        tool->words = words;
        catalogue->unreadable++;
    }
    if (file)
        capsule_free(file);
    free(file);
}

static enum exit_code read_folder(struct catalogue *catalogue, const char *folder)
{
    DIR *list = opendir(folder);
    if (!list)
        return tool_fail_as(catalogue->tool, EXIT_BAD_FILE, "this is no folder that can be read",
                            folder, "--from FOLDER: with recipes (.yaml) and capsules (.mint)");
    for (struct dirent *item; (item = readdir(list)) != NULL && catalogue->count < MOST_ENTRIES;) {
        struct entry *entry = &catalogue->entries[catalogue->count];
        memset(entry, 0, sizeof *entry);
        int length = snprintf(entry->path, sizeof entry->path, "%s/%s", folder, item->d_name);
        if (length < 0 || (size_t)length >= sizeof entry->path || item->d_name[0] == '.')
            continue;
        if (has_ending(item->d_name, ".yaml") || has_ending(item->d_name, ".yml"))
            take_recipe(catalogue, entry);
        else if (has_ending(item->d_name, ".mint"))
            take_capsule(catalogue, entry);
    }
    closedir(list);
    return EXIT_GOOD;
}

/* --- order ------------------------------------------------------------------------------- */

/* 1.10 is newer than 1.9: digits are compared as numbers. */
static int compare_versions(const char *a, const char *b)
{
    while (*a && *b) {
        if (isdigit((unsigned char)*a) && isdigit((unsigned char)*b)) {
            char *a_end, *b_end;
            unsigned long x = strtoul(a, &a_end, 10), y = strtoul(b, &b_end, 10);
            if (x != y)
                return x < y ? -1 : 1;
            a = a_end;
            b = b_end;
            continue;
        }
        if (*a != *b)
            return (unsigned char)*a < (unsigned char)*b ? -1 : 1;
        a++;
        b++;
    }
    return (*a != '\0') - (*b != '\0');
}

static const char *board_of(const struct entry *entry)
{
    return entry->recipe && entry->recipe->board.text ? entry->recipe->board.text : "";
}

/* This board first, recipes before capsules, then by title and board, newest first. */
static int compare_entries(const void *one, const void *other)
{
    const struct entry *a = one, *b = other;
    if (a->other_board != b->other_board)
        return a->other_board ? 1 : -1;
    if (!a->recipe != !b->recipe)
        return a->recipe ? -1 : 1;
    int order = strcasecmp(a->title, b->title);
    if (order == 0)
        order = strcasecmp(board_of(a), board_of(b));
    return order ? order : -compare_versions(a->version, b->version);
}

/* --- the chip and the board -------------------------------------------------------------- */

static bool is_chip(const struct tool *tool, const char *name)
{
    if (strcmp(tool->session.part->name, name) == 0)
        return true;
    for (uint16_t i = 0; !tool->chip && cm_candidate(&tool->session, i); i++) {
        if (strcmp(cm_candidate(&tool->session, i)->name, name) == 0)
            return true;
    }
    return false;
}

static void learn_board(struct catalogue *catalogue)
{
    char text[MARKER_BYTES + 1];
    bool marked = false;
    for (unsigned i = 0; i < catalogue->count; i++) {
        struct entry *entry = &catalogue->entries[i];
        entry->fits = is_chip(catalogue->tool, entry->chip);
        if (!entry->fits || !entry->recipe || !entry->recipe->marker.text ||
            !read_marker(catalogue->tool, entry->recipe, text, sizeof text))
            continue;
        marked = true;
        entry->this_board = strcmp(text, entry->recipe->marker_text) == 0;
        entry->other_board = !entry->this_board;
        if (entry->this_board && entry->recipe->board.text)
            snprintf(catalogue->board, sizeof catalogue->board, "%s", entry->recipe->board.text);
    }
    for (unsigned i = 0; i < catalogue->count && catalogue->board[0]; i++) {
        struct entry *entry = &catalogue->entries[i];
        if (board_of(entry)[0] && strcmp(board_of(entry), catalogue->board) != 0)
            entry->other_board = true;
    }
    if (catalogue->board[0])
        say(catalogue->tool, "board", "%s, as its marker says", catalogue->board);
    else
        say(catalogue->tool, "board",
            marked ? "its marker is in no recipe here" : "not known: no marker on the chip");
    set_json(catalogue->tool, "board", json_text(catalogue->board));
}

static void list(struct catalogue *catalogue)
{
    struct tool *tool = catalogue->tool;
    unsigned shown = 0;
    int width = 0;
    json_t *rows = json_array();
    for (unsigned i = 0; i < catalogue->count; i++) {
        int length = catalogue->entries[i].fits ? (int)strlen(catalogue->entries[i].title) : 0;
        width = length > width ? length : width;
    }
    for (unsigned i = 0; i < catalogue->count; i++) {
        const struct entry *entry = &catalogue->entries[i];
        char board[70] = "";
        if (!entry->fits)
            continue;
        if (board_of(entry)[0])
            snprintf(board, sizeof board, "board %.40s", board_of(entry));
        say(tool, shown++ ? "" : "fits", "%-*s  %-10s %-12s %s%s%s", width, entry->title, board,
            entry->version, colour("2"), entry->path, colour("0"));
        if (entry->other_board)
            say(tool, "", "%-*s  %s", width, "", "for another board than this one: refused");
        json_array_append_new(
            rows, json_pack("{s:o, s:o, s:o, s:o, s:b, s:b}", "title", json_text(entry->title),
                            "board", json_text(board_of(entry)), "version",
                            json_text(entry->version), "file", json_text(entry->path),
                            "other_board", entry->other_board, "capsule", entry->recipe == NULL));
    }
    set_json(tool, "catalogue", rows);
    if (shown)
        say_last(tool,
                 "%u of %u fit this chip; nothing was changed. To mint the newest: coldmint mint "
                 "--from FOLDER TITLE",
                 shown, catalogue->count);
    else
        say_last(tool, "none of %u fits this chip; nothing was changed", catalogue->count);
}

/* --- choosing ---------------------------------------------------------------------------- */

static bool is_meant(const struct catalogue *catalogue, const struct entry *entry, const char *name)
{
    const char *board = catalogue_board       ? catalogue_board
                        : catalogue->board[0] ? catalogue->board
                                              : NULL;
    return entry->fits && entry->recipe && strcasecmp(entry->title, name) == 0 &&
           (!catalogue_version || strcmp(catalogue_version, entry->version) == 0) &&
           (!board || !board_of(entry)[0] || strcmp(board, board_of(entry)) == 0);
}

static enum exit_code choose(struct catalogue *catalogue, const char *name, char *path)
{
    struct tool *tool = catalogue->tool;
    const struct entry *chosen = NULL;
    char evidence[500] = "";
    for (unsigned i = 0; i < catalogue->count; i++) {
        const struct entry *entry = &catalogue->entries[i];
        if (strcasecmp(entry->title, name) == 0 && entry->recipe)
            snprintf(evidence + strlen(evidence), sizeof evidence - strlen(evidence),
                     "%s%s for %s%s%s", evidence[0] ? "; " : "", entry->version,
                     board_of(entry)[0] ? "board " : "",
                     board_of(entry)[0] ? board_of(entry) : entry->chip,
                     entry->fits ? "" : " (another chip)");
        if (!is_meant(catalogue, entry, name))
            continue;
        if (chosen && strcmp(board_of(chosen), board_of(entry)) != 0)
            return tool_fail_as(tool, EXIT_REFUSED, "which board is this?", evidence,
                                "the chip has no marker that tells: --board NAME says it");
        if (!chosen) // newest first
            chosen = entry;
    }
    if (!chosen)
        return tool_fail_as(tool, evidence[0] && catalogue->board[0] ? EXIT_WRONG_CHIP : EXIT_USAGE,
                            evidence[0] ? "there is no such recipe for this chip and board"
                                        : "no recipe has this title",
                            evidence[0] ? evidence : name,
                            "'coldmint mint --from FOLDER' lists what fits");
    snprintf(path, PATH_BYTES, "%s", chosen->path);
    return EXIT_GOOD;
}

static void free_all(struct catalogue *catalogue)
{
    for (unsigned i = 0; catalogue->entries && i < catalogue->count; i++) {
        if (catalogue->entries[i].recipe)
            recipe_free(catalogue->entries[i].recipe);
        free(catalogue->entries[i].recipe);
    }
    free(catalogue->entries);
}

enum exit_code catalogue_choose(struct tool *tool, const char *folder, const char *name, char *path)
{
    struct catalogue catalogue = {.tool = tool,
                                  .entries = calloc(MOST_ENTRIES + 1, sizeof(struct entry))};
    path[0] = '\0';
    enum exit_code code = catalogue.entries
                              ? read_folder(&catalogue, folder)
                              : tool_fail_as(tool, EXIT_BAD_FILE, "there is not enough memory", "",
                                             "close other programs");
    if (!code)
        code = tool_begin(tool);
    if (!code) {
        learn_board(&catalogue);
        qsort(catalogue.entries, catalogue.count, sizeof *catalogue.entries, compare_entries);
        if (name)
            code = choose(&catalogue, name, path);
        else
            list(&catalogue);
    }
    free_all(&catalogue);
    return code;
}
