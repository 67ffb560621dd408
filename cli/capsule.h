/* Capsules as files: read, written from a chip, and kept as backups before a change. */
#ifndef CM_CLI_CAPSULE_H
#define CM_CLI_CAPSULE_H

#include "tool.h"
#include <coldmint/capsule.h>

/* A capsule's file, open, with a place in each region for its source. */
struct capsule_file {
    struct cm_capsule capsule;
    struct cm_capsule_place places[CM_CAPSULE_REGIONS];
    struct file_reader *reader;
    const char *path;
};

/* Does the file begin as a capsule does? */
bool capsule_is_one(const char *path);

/* Reads and checks a capsule. EXIT_GOOD, or the failure is told. Free it either way. */
enum exit_code capsule_load(struct tool *tool, const char *path, struct capsule_file *file);
void capsule_free(struct capsule_file *file);

/* Says which chip it is of, when and by what it was written. */
void capsule_say(struct tool *tool, const struct capsule_file *file);

/* Wrong chip if it is not of the kind that is connected. */
enum exit_code capsule_check_chip(struct tool *tool, const struct capsule_file *file);

/* The setting bytes that it holds, over those in `bytes`; false where the file can no longer be
 * read. */
bool capsule_settings(const struct tool *tool, struct capsule_file *file, uint8_t *bytes);

/* What was kept. */
struct kept_facts {
    uint32_t bytes, took_us;
    bool blank;             /* every memory is */
    uint32_t repeats_every; /* bytes after which the first memory comes again; 0: it does not */
    bool locked;            /* lock bits bar reading the memories, so those are not among them */
};

/*
 * Writes all that the chip holds, read twice, into a new capsule; without `memories` the settings
 * only. `settings` are those from before this command, or NULL: as they are. EXIT_GOOD: the file is
 * whole, and the caller commits or drops it; else the failure is told, and there is no file.
 */
enum exit_code capsule_keep(struct tool *tool, const char *path, bool memories,
                            const uint8_t *settings, const char *notes, struct new_file *file,
                            struct kept_facts *facts);

/* Do two capsules hold the same? */
bool capsule_equal(struct capsule_file *one, struct capsule_file *other);

#endif
