/**
 * Files that come into being whole or not at all, and files that are read where they lie.
 *
 *     struct cm_new_file file;
 *     if (cm_new_file_open(&host, "node.hex", &file)) {
 *         fprintf(file.stream, ...);
 *         good = cm_new_file_commit(&host, &file); // or cm_new_file_drop
 *     }
 */
#ifndef COLDMINT_HOST_FILES_H
#define COLDMINT_HOST_FILES_H

#include <coldmint/decls.h>
#include <coldmint/host/context.h>
#include <stdio.h>

CM_DECLS_BEGIN

enum { CM_FILE_PATH = 4096 };

/* --- to write ---------------------------------------------------------------------------- */

/** A file in the making, under a temporary name beside its own. */
struct cm_new_file {
    FILE *stream;
    /** What has come to stand at its path meanwhile is not overwritten. */
    bool exclusive;
    char path[CM_FILE_PATH];
    char temporary[CM_FILE_PATH + 128];
};

/** Begins a file. Refused where one is there, unless `host->replace`. What a killed process has
 * left unfinished at this path is removed. Errors: CM_ERROR_FILE_NAME, CM_ERROR_FILE_EXISTS,
 * CM_ERROR_FILE_UNWRITABLE. */
CM_MUST_CHECK bool cm_new_file_open(struct cm_host *host, const char *path,
                                    struct cm_new_file *file);

/** Writes it to the disk and gives it its name. Errors: CM_ERROR_FILE_INCOMPLETE,
 * CM_ERROR_FILE_RACED; the temporary file is removed. */
CM_MUST_CHECK bool cm_new_file_commit(struct cm_host *host, struct cm_new_file *file);

/** The same under the first free name of STEM, STEM-2, ... with the extension. */
CM_MUST_CHECK bool cm_new_file_commit_as(struct cm_host *host, struct cm_new_file *file,
                                         const char *stem, const char *extension);

/** Gives it up. A file that was committed is left alone. */
void cm_new_file_drop(struct cm_new_file *file);

/** A cm_text_fn on the file's `stream`. */
CM_MUST_CHECK enum cm_status cm_new_file_text(void *stream, const char *text, size_t bytes);

/* --- to read ----------------------------------------------------------------------------- */

/** Opens a file from its beginning; -1 with errno set. A pipe is read whole the first time, and is
 * a file from then on, until cm_host_end. Close the descriptor. */
int cm_file_open(struct cm_host *host, const char *path);

/** The whole of a file of up to 256 MiB; free `contents`. Errors: CM_ERROR_FILE_UNREADABLE,
 * CM_ERROR_FILE_LARGE, CM_ERROR_FILE_EMPTY, CM_ERROR_STOPPED. */
CM_MUST_CHECK bool cm_file_read_whole(struct cm_host *host, const char *path, char **contents,
                                      size_t *bytes);

/** A file read where it lies, of up to 2 GiB (a pipe of up to 256 MiB). Once somebody else has
 * changed the file, reading it is an error: half of it would be the old one. */
struct cm_file_reader;

/** NULL with errno set: it cannot be opened. */
struct cm_file_reader *cm_file_reader_open(struct cm_host *host, const char *path);
void cm_file_reader_close(struct cm_file_reader *reader); /**< NULL is allowed */
uint32_t cm_file_reader_bytes(const struct cm_file_reader *reader);

/** The `read` of a source and of a capsule's input; the context is the reader. */
CM_MUST_CHECK enum cm_status cm_file_reader_read(void *reader, uint32_t offset, uint8_t *bytes,
                                                 uint32_t count);

/** All of the file as a source, from address 0. */
struct cm_source cm_file_reader_source(struct cm_file_reader *reader);

CM_DECLS_END

#endif
