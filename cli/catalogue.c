/*
 * The catalogue in words: which recipes and capsules of a folder fit the chip that is found.
 */
#include "catalogue.h"
#include "begin.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>
#include <string.h>

/* The folder is worth listing all the same. */
static void tell_left_out(void *context, const char *path)
{
    struct tool *tool = context;
    tool_fail_host(tool);
    say(tool, "note", "%s is left out: %s%s%s", path, tool->words.what,
        tool->words.evidence[0] ? "; " : "", tool->words.evidence);
    memset(&tool->words, 0, sizeof tool->words);
}

static void say_board(struct tool *tool, const struct cm_catalogue *catalogue)
{
    if (catalogue->board[0])
        say(tool, "board", "%s, as its marker says", catalogue->board);
    else
        say(tool, "board",
            catalogue->is_marked ? "its marker is in no recipe here"
                                 : "not known: no marker on the chip");
    set_json(tool, "board", json_text(catalogue->board));
}

static void list(struct tool *tool, const struct cm_catalogue *catalogue)
{
    unsigned shown = 0;
    int width = 0;
    json_t *rows = json_array();
    for (unsigned i = 0; i < catalogue->count; i++) {
        int length = catalogue->entries[i].fits ? (int)strlen(catalogue->entries[i].title) : 0;
        width = length > width ? length : width;
    }
    for (unsigned i = 0; i < catalogue->count; i++) {
        const struct cm_catalogue_entry *entry = &catalogue->entries[i];
        char board[70] = "";
        if (!entry->fits)
            continue;
        if (cm_catalogue_board(entry)[0])
            snprintf(board, sizeof board, "board %.40s", cm_catalogue_board(entry));
        say(tool, shown++ ? "" : "fits", "%-*s  %-10s %-12s %s%s%s", width, entry->title, board,
            entry->version, colour("2"), entry->path, colour("0"));
        if (entry->other_board)
            say(tool, "", "%-*s  %s", width, "", "for another board than this one: refused");
        json_array_append_new(
            rows, json_pack("{s:o, s:o, s:o, s:o, s:b, s:b}", "title", json_text(entry->title),
                            "board", json_text(cm_catalogue_board(entry)), "version",
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

/* The one that is meant; its path is copied, since the catalogue goes. */
static enum exit_code choose(struct tool *tool, const struct cm_catalogue *catalogue,
                             const struct cm_catalogue_choice *choice, char *path)
{
    const struct cm_catalogue_entry *entry = cm_catalogue_choose(&tool->host, catalogue, choice);
    if (!entry)
        return tool_fail_host(tool);
    snprintf(path, CM_FILE_PATH, "%s", entry->path);
    return EXIT_GOOD;
}

enum exit_code catalogue_choose(struct tool *tool, const char *folder,
                                const struct cm_catalogue_choice *choice, char *path)
{
    struct cm_catalogue catalogue = {.left_out = tell_left_out, .context = tool};
    path[0] = '\0';
    enum exit_code code = host_code(tool, cm_catalogue_read(&tool->host, folder, &catalogue));
    if (!code)
        code = tool_begin(tool);
    if (!code) {
        cm_catalogue_sort(&catalogue, &tool->session, tool->given.chip != NULL);
        say_board(tool, &catalogue);
        if (choice->title)
            code = choose(tool, &catalogue, choice, path);
        else
            list(tool, &catalogue);
    }
    cm_catalogue_free(&catalogue);
    return code;
}
