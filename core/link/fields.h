/* Fields of protocol buffers, one by one, on nanopb's streams. */
#ifndef CM_LINK_FIELDS_H
#define CM_LINK_FIELDS_H

#include <pb_decode.h>
#include <pb_encode.h>
#include <stdbool.h>
#include <stdint.h>

/* --- to write ---------------------------------------------------------------------------- */

/* A number; 0 is left out, as proto3 has it. */
static inline bool cm_put_number(pb_ostream_t *stream, uint32_t tag, uint32_t value)
{
    return !value || (pb_encode_tag(stream, PB_WT_VARINT, tag) && pb_encode_varint(stream, value));
}

static inline bool cm_put_bytes(pb_ostream_t *stream, uint32_t tag, const uint8_t *bytes,
                                uint32_t count)
{
    return !count ||
           (pb_encode_tag(stream, PB_WT_STRING, tag) && pb_encode_string(stream, bytes, count));
}

/* --- to read ----------------------------------------------------------------------------- */

/* The next field: its tag, and what it holds. */
struct cm_field {
    uint32_t tag;
    uint32_t number;      /* of a varint */
    const uint8_t *bytes; /* of bytes, strings and messages; where they lie */
    uint32_t count;
};

/* A message that is read where it lies. */
struct cm_fields {
    const uint8_t *bytes;
    uint32_t count;
    uint32_t at;
};

/* The next field of a message; false at its end. A field of another kind, or one that does not fit
 * the message, ends it, and `is_damaged` is set. */
bool cm_next_field(struct cm_fields *fields, struct cm_field *field, bool *is_damaged);

#endif
