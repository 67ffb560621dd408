/**
 * Catalogues: a folder of recipes and capsules, its index read from the files themselves.
 *
 *     struct cm_catalogue catalogue;
 *     if (cm_catalogue_read(&host, "recipes", &catalogue)) {
 *         cm_catalogue_sort(&catalogue, &session, is_asserted); // which fit the chip, newest first
 *         entry = cm_catalogue_choose(&host, &catalogue, &wanted);
 *     }
 *     cm_catalogue_free(&catalogue);
 */
#ifndef COLDMINT_HOST_CATALOGUE_H
#define COLDMINT_HOST_CATALOGUE_H

#include <coldmint/decls.h>
#include <coldmint/capsule.h>
#include <coldmint/host/recipe.h>
#include <coldmint/host/files.h>

CM_DECLS_BEGIN

enum { CM_CATALOGUE_ENTRIES = 400 };

struct cm_catalogue_entry {
    char path[CM_FILE_PATH];
    /** NULL: a capsule. */
    struct cm_recipe *recipe;
    /** Of a capsule: it is a job, and as good as a recipe; its board. */
    bool is_job;
    char job_board[CM_WORK_BOARD];
    char title[120], version[40], chip[20];
    /** It is for the chip that is found; and by the board's marker for this board, or another. */
    bool fits, this_board, other_board;
};

struct cm_catalogue {
    /** At most CM_CATALOGUE_ENTRIES. */
    struct cm_catalogue_entry *entries;
    unsigned count;
    /** Told of each file that cannot be read, and why (host->error). Set it before
     * cm_catalogue_read, with the rest zero. NULL: not told. */
    void (*left_out)(void *context, const char *path);
    void *context;
    /** The board as a marker tells it; "": not known. */
    char board[60];
    /** There is a marker on the chip, of any board. */
    bool is_marked;
};

/** Which recipe is meant. Members but the title may be NULL. */
struct cm_catalogue_choice {
    const char *title, *board, *version;
};

/** Reads a folder. Errors: CM_ERROR_FOLDER, CM_ERROR_NO_MEMORY. Free it in any case. */
CM_MUST_CHECK bool cm_catalogue_read(struct cm_host *host, const char *folder,
                                     struct cm_catalogue *catalogue);

/**
 * Finds out which entries fit the session's chip and board, and sorts them: this board first,
 * recipes and jobs before backups, by title and board, newest first. `is_asserted`: the chip is
 * known by its name, not only by its id.
 */
void cm_catalogue_sort(struct cm_catalogue *catalogue, struct cm_session *session,
                       bool is_asserted);

/** The newest recipe that is meant; NULL: CM_ERROR_WHICH_BOARD, CM_ERROR_TITLE,
 * CM_ERROR_TITLE_NOT_HERE. */
const struct cm_catalogue_entry *cm_catalogue_choose(struct cm_host *host,
                                                     const struct cm_catalogue *catalogue,
                                                     const struct cm_catalogue_choice *choice);

/** An entry's board; "": it names none. */
const char *cm_catalogue_board(const struct cm_catalogue_entry *entry);

void cm_catalogue_free(struct cm_catalogue *catalogue);

CM_DECLS_END

#endif
