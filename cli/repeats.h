/*
 * Contents that repeat themselves: a part of 8 KiB, read under the name of one of 32 KiB, shows
 * what it holds four times.
 */
#ifndef CM_CLI_REPEATS_H
#define CM_CLI_REPEATS_H

#include <stdbool.h>
#include <stdint.h>

struct tool;
struct cm_part;

struct repeats {
    uint8_t *bytes; /* all that was read so far; NULL where there was no memory for it */
    uint32_t size;
};

/* Begins, for a memory of so many bytes; and takes what was read of it, in any order. Only a part
 * without an id could be a smaller one than its name says: of others nothing is taken. */
void repeats_begin(struct repeats *repeats, const struct cm_part *part, uint32_t size);
void repeats_take(struct repeats *repeats, uint32_t address, const uint8_t *bytes, uint32_t count);

/* The smallest power of two, less than the size, after which everything comes again; 0: none does,
 * or all bytes are one value. Frees what was taken. */
uint32_t repeats_end(struct repeats *repeats);

/* Tells, where they do. */
void repeats_say(struct tool *tool, uint32_t every);

#endif
