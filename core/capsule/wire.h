/*
 * Reading protocol buffers through a callback, field by field, where they lie:
 * https://protobuf.dev/programming-guides/encoding.
 *
 * Written here, and not with nanopb as the writer is: its package has a library for computers only,
 * and a player without one has no room for more than it needs.
 */
#ifndef CM_CAPSULE_WIRE_H
#define CM_CAPSULE_WIRE_H

#include <coldmint/capsule.h>
#include <stddef.h>

enum cm_wire_kind {
    CM_WIRE_NUMBER = 0,
    CM_WIRE_FIXED64 = 1,
    CM_WIRE_BYTES = 2,
    CM_WIRE_FIXED32 = 5
};

/* A message, from `at` to `end` of the input. */
struct cm_wire {
    const struct cm_capsule_input *input;
    uint32_t at, end;
    bool is_damaged; /* a field is none, or ends beyond the message */
    bool has_failed; /* the input has */
};

/* A field: its tag and kind, and its number; or where its bytes lie. */
struct cm_wire_field {
    uint32_t tag;
    uint8_t kind; /* enum cm_wire_kind */
    bool is_wide; /* a number of more than 32 bits, which is not told */
    uint32_t number;
    uint32_t at, count;
};

/* The next field; false at the end, and where the message is damaged or the input failed. */
bool cm_wire_next(struct cm_wire *wire, struct cm_wire_field *field);

/* Was it read to its end? */
bool cm_wire_is_whole(const struct cm_wire *wire);

/* Is it this field, and bytes? */
bool cm_wire_is_bytes(const struct cm_wire_field *field, uint32_t tag);

/* A field of bytes as a message of its own. */
struct cm_wire cm_wire_inner(const struct cm_wire *wire, const struct cm_wire_field *field);

/* Where the fields of a message go in a struct: a row for each tag from 1 on. */
enum cm_wire_row_kind {
    CM_ROW_PASSED,  /* read by somebody else */
    CM_ROW_NUMBER,  /* `room` bytes: 1, 2 or 4; a larger number is damage */
    CM_ROW_TIME,    /* int64_t, in seconds since 1970; one before that, or after 2106, is 0 */
    CM_ROW_FLAG,    /* a bool */
    CM_ROW_FIXED32, /* uint32_t */
    CM_ROW_TEXT,    /* `room` bytes, with a zero behind the last */
    CM_ROW_BYTES,   /* up to `room` bytes; how many comes in the byte behind them */
    CM_ROW_EXACT    /* just so many bytes */
};
struct cm_wire_row {
    uint8_t kind, room;
    uint16_t at;
};
#define CM_ROW(kind, type, member)                                                                 \
    {                                                                                              \
        kind, sizeof(((type *)0)->member), offsetof(type, member)                                  \
    }

/* Puts a field into a struct by the row of its tag; one behind the last row is of a later minor
 * version, and passed over. False: it is of another kind than its row, or does not fit. */
bool cm_wire_take(const struct cm_wire *wire, const struct cm_wire_field *field,
                  const struct cm_wire_row *rows, uint8_t count, void *message);

/* Reads a message into a struct. False: it is damaged, or the input failed. */
bool cm_wire_read(const struct cm_wire *wire, const struct cm_wire_field *message,
                  const struct cm_wire_row *rows, uint8_t count, void *out);

#endif
