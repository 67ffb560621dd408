/*
 * Fields of protocol buffers, one by one: https://protobuf.dev/programming-guides/encoding, varints
 * and length-delimited fields.
 *
 * Written here, and not with nanopb as a capsule is: its package has a library for computers
 * only, and its numbers of 64 bits cost an 8-bit processor more than all the rest of the link.
 */
#ifndef CM_LINK_FIELDS_H
#define CM_LINK_FIELDS_H

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

/* --- to write ---------------------------------------------------------------------------- */

/* A message that is being written. Where it is full, nothing more is written. */
struct cm_message {
    uint8_t *bytes;
    size_t room, count;
    bool is_full;
};

/* A number; 0 is left out, as proto3 has it. An element of a list is there even so. */
void cm_put_number(struct cm_message *message, uint8_t tag, uint32_t value);
void cm_put_element(struct cm_message *message, uint8_t tag, uint32_t value);

/* Bytes, unless there are none; a message, even an empty one; what goes before bytes that are sent
 * by themselves. */
void cm_put_bytes(struct cm_message *message, uint8_t tag, const uint8_t *bytes, size_t count);
void cm_put_length(struct cm_message *message, uint8_t tag, size_t count);
void cm_put_message(struct cm_message *message, uint8_t tag, const struct cm_message *own);

/* --- to read ----------------------------------------------------------------------------- */

/* The next field: its tag, and what it holds. */
struct cm_field {
    uint32_t tag;
    uint32_t number;      /* of a varint */
    const uint8_t *bytes; /* of bytes, strings and messages; where they lie */
    size_t count;
};

/* A message that is read where it lies. */
struct cm_fields {
    const uint8_t *bytes;
    size_t count;
    size_t at;
};

/* The next field of a message; false at its end. A field of another kind, or one that does not fit
 * the message, ends it, and `is_damaged` is set. */
bool cm_next_field(struct cm_fields *fields, struct cm_field *field, bool *is_damaged);

#endif
