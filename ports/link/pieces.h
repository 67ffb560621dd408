/* A batch of the core, cut into pieces that fit a probe. */
#ifndef CM_LINK_PIECES_H
#define CM_LINK_PIECES_H

#include <coldmint/link.h>

enum { PIECE_OPS = 64, PIECE_REGIONS = 64, SHAPE_BYTES = 4096 };

/* The batch, and how far it is cut. */
struct pieces {
    struct cm_run *run;
    const struct cm_link_limits *limits; /* of the probe */
    uint32_t op;                         /* the next one */
    uint32_t at;                         /* bytes of its repeat that are in pieces already */
    uint32_t trust;                      /* most bytes of the next piece of a comparison */
    bool is_careful; /* the last piece has no more: only what it brings tells if more makes sense */
};

/* Bytes of the core's that a piece moves, and their place in the probe's memory. */
struct region {
    uint8_t *bytes;
    uint32_t count, at;
    uint8_t way; /* 0: out, 1: both ways, 2: in */
};

/* A piece. Its data lie in `data`, which has room for limits->batch_bytes. */
struct piece {
    struct cm_op ops[PIECE_OPS];
    uint32_t at[PIECE_OPS];
    uint32_t from[PIECE_OPS]; /* the operation of the batch that each is */
    struct region regions[PIECE_REGIONS];
    uint32_t region_count;
    uint32_t op_bytes; /* that its operations take in a message */
    uint32_t values;   /* operations that bring one */
    bool is_filled;    /* its data leave no room for its operations: unless they are those of the
                          piece before it, they travel ahead */
    struct cm_link_batch batch;
    uint8_t *data;
};

/* What two pieces may have in common: their operations, but for where the first repeat begins and
 * how many bytes it has. */
struct shape {
    uint8_t bytes[SHAPE_BYTES];
    size_t count; /* 0: there is none */
    uint32_t first, run;
};

/* Compares the piece with the one before it, and says in its batch if only the difference need be
 * sent. `last` becomes its own. */
void shape_piece(struct piece *piece, struct shape *last);

/* The next piece. CM_OK with batch.op_count 0: there is none left. CM_DECLINED: the batch cannot be
 * cut so small. */
enum cm_status next_piece(struct pieces *pieces, struct piece *piece);

/* The operations of a piece alone: its repeat has no byte, so nothing happens. */
void announce_piece(const struct piece *piece, struct piece *ahead);

/* Copies what goes out into the piece; right before it is sent for the first time. */
void fill_piece(struct piece *piece);

/* Does a piece move bytes that one before it brings? Then it waits for its result. */
bool needs_result_of(const struct piece *piece, const struct piece *before);

/* What came back of it goes to where the core wants it. */
void take_back(struct cm_run *run, const struct piece *piece, const struct cm_link_result *result);

#endif
