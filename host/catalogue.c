/*
 * The catalogue: which recipes and capsules of a folder fit the chip that is found, by board and
 * version, newest first.
 */
#include "inside.h"
#include <coldmint/host/capsule_file.h>
#include <coldmint/host/catalogue.h>
#include <ctype.h>
#include <dirent.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <strings.h>
#include <time.h>

/* --- reading the folder ------------------------------------------------------------------ */

static bool has_ending(const char *name, const char *ending)
{
    size_t length = strlen(name), tail = strlen(ending);
    return length > tail && strcasecmp(name + length - tail, ending) == 0;
}

static bool read_recipe(struct cm_host *host, struct cm_catalogue_entry *entry)
{
    struct cm_recipe *recipe = calloc(1, sizeof *recipe);
    if (!recipe)
        return host_fail(host, CM_ERROR_NO_MEMORY, entry->path);
    if (!cm_recipe_load(host, entry->path, recipe)) {
        cm_recipe_free(recipe);
        free(recipe);
        return false;
    }
    entry->recipe = recipe;
    HOST_COPY(entry->title, recipe->title.text);
    HOST_COPY(entry->version, recipe->version.text);
    HOST_COPY(entry->chip, recipe->chip.text);
    return true;
}

static bool read_capsule(struct cm_host *host, struct cm_catalogue_entry *entry)
{
    struct cm_capsule_file *file = calloc(1, sizeof *file);
    if (!file)
        return host_fail(host, CM_ERROR_NO_MEMORY, entry->path);
    bool good = cm_capsule_file_load(host, entry->path, file);
    if (good) {
        const struct cm_capsule_facts *facts = &file->capsule.facts;
        const struct cm_capsule_work *work = &file->capsule.work;
        time_t when = (time_t)facts->time;
        struct tm parts;
        HOST_COPY(entry->title, facts->notes[0] ? facts->notes : "a capsule");
        if (gmtime_r(&when, &parts))
            strftime(entry->version, sizeof entry->version, "%Y-%m-%d", &parts);
        HOST_COPY(entry->chip, facts->chip);
        entry->is_job = file->capsule.has_work;
        if (entry->is_job) {
            HOST_COPY(entry->title, work->title);
            HOST_COPY(entry->version, work->version);
            HOST_COPY(entry->job_board, work->board);
        }
    }
    cm_capsule_file_free(file);
    free(file);
    return good;
}

/* Adds the file that the entry behind the last one names, if it is one for a catalogue. */
static void take_file(struct cm_host *host, struct cm_catalogue *catalogue)
{
    struct cm_catalogue_entry *entry = &catalogue->entries[catalogue->count];
    bool is_capsule = has_ending(entry->path, ".mint"),
         is_recipe = has_ending(entry->path, ".yaml") || has_ending(entry->path, ".yml");
    struct stat facts;
    if (!is_capsule && !is_recipe)
        return;
    bool is_file = stat(entry->path, &facts) == 0 && S_ISREG(facts.st_mode); // a pipe would hang
    if (is_file && (is_capsule ? read_capsule(host, entry) : read_recipe(host, entry)))
        catalogue->count++;
    else if (catalogue->left_out)
        catalogue->left_out(catalogue->context, entry->path);
}

bool cm_catalogue_read(struct cm_host *host, const char *folder, struct cm_catalogue *catalogue)
{
    catalogue->entries = calloc(CM_CATALOGUE_ENTRIES + 1, sizeof *catalogue->entries);
    if (!catalogue->entries)
        return host_fail(host, CM_ERROR_NO_MEMORY, folder);
    DIR *list = opendir(folder);
    if (!list)
        return host_fail(host, CM_ERROR_FOLDER, folder);
    for (struct dirent *item;
         (item = readdir(list)) != NULL && catalogue->count < CM_CATALOGUE_ENTRIES;) {
        struct cm_catalogue_entry *entry = &catalogue->entries[catalogue->count];
        memset(entry, 0, sizeof *entry);
        int length = snprintf(entry->path, sizeof entry->path, "%s/%s", folder, item->d_name);
        if (length >= 0 && (size_t)length < sizeof entry->path && item->d_name[0] != '.')
            take_file(host, catalogue);
    }
    closedir(list);
    return true;
}

void cm_catalogue_free(struct cm_catalogue *catalogue)
{
    for (unsigned i = 0; catalogue->entries && i < catalogue->count; i++) {
        if (catalogue->entries[i].recipe)
            cm_recipe_free(catalogue->entries[i].recipe);
        free(catalogue->entries[i].recipe);
    }
    free(catalogue->entries);
    catalogue->entries = NULL;
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

const char *cm_catalogue_board(const struct cm_catalogue_entry *entry)
{
    if (!entry->recipe)
        return entry->job_board;
    return entry->recipe->board.text ? entry->recipe->board.text : "";
}

static int compare_entries(const void *one, const void *other)
{
    const struct cm_catalogue_entry *a = one, *b = other;
    if (a->other_board != b->other_board)
        return a->other_board ? 1 : -1;
    const bool a_mints = a->recipe || a->is_job, b_mints = b->recipe || b->is_job;
    if (a_mints != b_mints)
        return a_mints ? -1 : 1;
    int order = strcasecmp(a->title, b->title);
    if (order == 0)
        order = strcasecmp(cm_catalogue_board(a), cm_catalogue_board(b));
    return order ? order : -compare_versions(a->version, b->version);
}

/* --- the chip and the board -------------------------------------------------------------- */

static bool is_chip(const struct cm_session *session, bool is_asserted, const char *name)
{
    if (strcmp(session->part->name, name) == 0)
        return true;
    for (uint16_t i = 0; !is_asserted && cm_candidate(session, i); i++) {
        if (strcmp(cm_candidate(session, i)->name, name) == 0)
            return true;
    }
    return false;
}

/* What the marker that a recipe looks for tells. */
static void ask_marker(struct cm_catalogue *catalogue, struct cm_catalogue_entry *entry,
                       struct cm_session *session)
{
    char text[CM_RECIPE_MARKER + 1];
    if (!entry->recipe->marker.text || !cm_recipe_read_marker(session, entry->recipe, text))
        return;
    catalogue->is_marked = true;
    entry->this_board = strcmp(text, entry->recipe->marker_text) == 0;
    entry->other_board = !entry->this_board;
    if (entry->this_board && entry->recipe->board.text)
        HOST_COPY(catalogue->board, entry->recipe->board.text);
}

void cm_catalogue_sort(struct cm_catalogue *catalogue, struct cm_session *session, bool is_asserted)
{
    for (unsigned i = 0; i < catalogue->count; i++) {
        struct cm_catalogue_entry *entry = &catalogue->entries[i];
        entry->fits = is_chip(session, is_asserted, entry->chip);
        if (entry->fits && entry->recipe)
            ask_marker(catalogue, entry, session);
    }
    for (unsigned i = 0; i < catalogue->count && catalogue->board[0]; i++) {
        struct cm_catalogue_entry *entry = &catalogue->entries[i];
        const char *board = cm_catalogue_board(entry);
        if (board[0] && strcmp(board, catalogue->board) != 0)
            entry->other_board = true;
    }
    qsort(catalogue->entries, catalogue->count, sizeof *catalogue->entries, compare_entries);
}

/* --- choosing ---------------------------------------------------------------------------- */

static bool has_title(const struct cm_catalogue_entry *entry, const char *title)
{
    return (entry->recipe || entry->is_job) && strcasecmp(entry->title, title) == 0;
}

static bool is_meant(const struct cm_catalogue *catalogue, const struct cm_catalogue_entry *entry,
                     const struct cm_catalogue_choice *choice)
{
    const char *board = choice->board         ? choice->board
                        : catalogue->board[0] ? catalogue->board
                                              : NULL,
               *its = cm_catalogue_board(entry);
    return entry->fits && has_title(entry, choice->title) &&
           (!choice->version || strcmp(choice->version, entry->version) == 0) &&
           (!board || !its[0] || strcmp(board, its) == 0);
}

/* All of this title, for the record: "1.5 for board C; 1.4 for attiny84a (another chip)". */
static void list_title(const struct cm_catalogue *catalogue, const char *title, char *text,
                       size_t room)
{
    size_t used = 0;
    text[0] = '\0';
    for (unsigned i = 0; i < catalogue->count && used < room; i++) {
        const struct cm_catalogue_entry *entry = &catalogue->entries[i];
        const char *board = cm_catalogue_board(entry);
        if (!has_title(entry, title))
            continue;
        used +=
            (size_t)snprintf(text + used, room - used, "%s%s for %s%s%s", used ? "; " : "",
                             entry->version, board[0] ? "board " : "",
                             board[0] ? board : entry->chip, entry->fits ? "" : " (another chip)");
    }
}

static void fail_choice(struct cm_host *host, enum cm_error_kind kind,
                        const struct cm_catalogue *catalogue, const char *title)
{
    struct cm_error *error = host_error(host, kind, NULL);
    HOST_COPY(error->text, title);
    HOST_COPY(error->key, catalogue->board);
    list_title(catalogue, title, error->detail, sizeof error->detail);
}

const struct cm_catalogue_entry *cm_catalogue_choose(struct cm_host *host,
                                                     const struct cm_catalogue *catalogue,
                                                     const struct cm_catalogue_choice *choice)
{
    const struct cm_catalogue_entry *chosen = NULL;
    bool has_any = false;
    for (unsigned i = 0; i < catalogue->count; i++) {
        const struct cm_catalogue_entry *entry = &catalogue->entries[i];
        has_any |= has_title(entry, choice->title);
        if (!is_meant(catalogue, entry, choice))
            continue;
        if (chosen && strcmp(cm_catalogue_board(chosen), cm_catalogue_board(entry)) != 0) {
            fail_choice(host, CM_ERROR_WHICH_BOARD, catalogue, choice->title);
            return NULL;
        }
        if (!chosen) // newest first
            chosen = entry;
    }
    if (!chosen)
        fail_choice(host, has_any ? CM_ERROR_TITLE_NOT_HERE : CM_ERROR_TITLE, catalogue,
                    choice->title);
    return chosen;
}
