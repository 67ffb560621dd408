/* What the files of the host library share: failures, folders, texts. */
#ifndef CM_HOST_INSIDE_H
#define CM_HOST_INSIDE_H

#include <coldmint/host/files.h>

/* Leaves a failure, with everything but its kind and path zero; fill in the rest. */
struct cm_error *host_error(struct cm_host *host, enum cm_error_kind kind, const char *path);

/* The same, and false, for `return`. */
bool host_fail(struct cm_host *host, enum cm_error_kind kind, const char *path);
bool host_fail_system(struct cm_host *host, enum cm_error_kind kind, const char *path, int error);
bool host_fail_session(struct cm_host *host, enum cm_status status);

/* A file that could not be opened or read, by its errno: stopped meanwhile, too large, or why the
 * system refused. */
bool host_fail_opening(struct cm_host *host, const char *path, int error);

/* Copies a text into an array, cut where it is full. */
void host_copy(char *to, size_t room, const char *text);
#define HOST_COPY(array, text) host_copy(array, sizeof(array), text)

/* Is the text this pattern? A '#' is a number as people write it (cm_parse_number, up to 32 bits),
 * and goes into `numbers`; a blank is blanks; all else stands for itself. */
bool host_numbers(const char *text, const char *pattern, uint32_t *numbers);

/* The target's supply in mV; 0: the port cannot measure it. */
uint16_t supply_or_0(struct cm_session *session);

/* Folder for what is kept for the user of one kind (FOLDER_BYTES); and the folders above a file,
 * made for the user alone. */
enum { FOLDER_BYTES = 2000, NAME_BYTES = 200, STAMP_BYTES = 24, STAMP_CHARS = 15 };
bool state_folder(struct cm_host *host, const char *kind, char *folder);
void make_folders(char *path);

/* The user's home, as the environment says it or the system knows it; NULL: neither. */
const char *home_folder(void);

/* The time now as file names have it: 20261123-101500. Returns `text` (STAMP_BYTES). */
const char *stamp_text(char *text);

/* The same for a new file of a folder where the order of the names counts: behind all that are
 * there, even if the clock has been set back since. */
const char *stamp_behind(const char *folder, char *text);

/* Where a path's name has its stamp; "": nowhere. */
const char *stamp_in(const char *path);

/* The first bytes of a part's id as file names have them: EF4016. Returns `text` (ID_BYTES). */
enum { ID_BYTES = 8 };
const char *part_id_text(const struct cm_part *part, char *text);

/* Files of a folder whose names begin and end so, the last by name first. Free them. */
struct paths {
    char **names;
    size_t count;
};
struct paths paths_in(const char *folder, const char *begin, const char *end);
/* The same without those of processes that are still at work. */
struct paths paths_left_in(const char *folder, const char *begin, const char *end);
void paths_free(struct paths *paths);

/* A number for names of files: of this thread, and of no other one that lives. Sockets of one
 * program keep their chips at the same time. */
long own_number(void);

/* Removes what killed processes have left unfinished there. */
void remove_left_over(const char *folder, const char *begin);

/* All that was written so far is in the file, for whoever opens it. CM_ERROR_FILE_INCOMPLETE. */
CM_MUST_CHECK bool new_file_flush(struct cm_host *host, struct cm_new_file *file);

/* Holds a file for as long as this process lives; and does another process that lives hold it? */
void file_hold(const char *path);
bool file_is_in_use(const char *path);

#endif
