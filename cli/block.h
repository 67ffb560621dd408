/* An application's settings block in words, by a map of its fields: tune --map, put --carry. */
#ifndef CM_CLI_BLOCK_H
#define CM_CLI_BLOCK_H

#include "job.h"

/* Shows the block, or changes fields of it: NAME=VALUE. */
enum exit_code block_tune(struct tool *tool, struct cm_job *job, const struct job_options *given,
                          const char *map_path, const char *const *things);

/* What a put carries over: the chip's block by one map, to the place and form of another. */
struct block_carry {
    struct cm_fields *map, *new_map;
    uint8_t block[CM_FIELDS_BYTES], new_block[CM_FIELDS_BYTES];
};

/* Reads the block and wants it again; `to` NULL: in the same form. The chip is there, and the files
 * are wanted. Free it behind the job. */
enum exit_code block_carry(struct tool *tool, struct cm_job *job, struct block_carry *carry,
                           const char *from, const char *to);
void block_carry_free(struct block_carry *carry);

#endif
