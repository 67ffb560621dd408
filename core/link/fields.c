/*
 * Reading a message field by field, where it lies.
 */
#include "fields.h"

bool cm_next_field(struct cm_fields *fields, struct cm_field *field, bool *is_damaged)
{
    pb_istream_t stream =
        pb_istream_from_buffer(fields->bytes + fields->at, fields->count - fields->at);
    pb_wire_type_t kind;
    bool is_end = fields->at >= fields->count;
    uint32_t length = 0;
    *field = (struct cm_field){0};
    if (is_end)
        return false;
    bool good = pb_decode_tag(&stream, &kind, &field->tag, &is_end) && !is_end;
    if (good && kind == PB_WT_VARINT) {
        good = pb_decode_varint32(&stream, &field->number);
    } else if (good && kind == PB_WT_STRING) {
        good = pb_decode_varint32(&stream, &length) && length <= stream.bytes_left;
        field->bytes = fields->bytes + (fields->count - stream.bytes_left);
        field->count = length;
    } else {
        good = false;
    }
    fields->at = fields->count - (uint32_t)stream.bytes_left + (good ? length : 0);
    *is_damaged |= !good;
    return good;
}
