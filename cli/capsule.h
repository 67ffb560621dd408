/* Capsules as files: read, written from a chip, and kept as backups before a change. */
#ifndef CM_CLI_CAPSULE_H
#define CM_CLI_CAPSULE_H

#include "tool.h"
#include <coldmint/capsule.h>

/* A capsule in memory, with a place in each region for its source. */
struct capsule_file {
    struct cm_capsule capsule;
    struct cm_capsule_place places[CM_CAPSULE_REGIONS];
    char *contents;
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

/* The setting bytes that it holds, over those in `bytes`. */
void capsule_settings(const struct tool *tool, struct capsule_file *file, uint8_t *bytes);

/* All that a chip holds, read twice. Regions that are not read have no bytes. */
struct chip_contents {
    struct cm_capsule_region regions[CM_CAPSULE_REGIONS];
    uint8_t *bytes[CM_CAPSULE_REGIONS];
    uint8_t count;
    bool locked; /* lock bits bar reading the memories, so those are not among them */
};
enum cm_status chip_read(struct tool *tool, bool memories, struct chip_contents *contents);
void chip_contents_free(struct chip_contents *contents);

/* Writes it as a capsule; EXIT_GOOD or told. */
enum exit_code capsule_write(struct tool *tool, const struct chip_contents *contents, const char *notes, const char *path);

#endif
