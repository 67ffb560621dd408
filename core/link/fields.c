/*
 * Messages, written and read field by field.
 */
#include "fields.h"

enum { VARINT = 0, LENGTH = 2, KIND_BITS = 3 };

/* --- to write ---------------------------------------------------------------------------- */

static void put_byte(struct cm_message *message, uint8_t byte)
{
    if (message->count == message->room)
        message->is_full = true;
    else
        message->bytes[message->count++] = byte;
}

/* Seven bits a byte, the lowest first; bit 7: more follow. */
static void put_varint(struct cm_message *message, uint32_t value)
{
    for (; value > 0x7F; value >>= 7)
        put_byte(message, (uint8_t)(value | 0x80));
    put_byte(message, (uint8_t)value);
}

void cm_put_element(struct cm_message *message, uint8_t tag, uint32_t value)
{
    put_varint(message, (uint16_t)(tag << KIND_BITS | VARINT));
    put_varint(message, value);
}

void cm_put_number(struct cm_message *message, uint8_t tag, uint32_t value)
{
    if (value)
        cm_put_element(message, tag, value);
}

void cm_put_length(struct cm_message *message, uint8_t tag, size_t count)
{
    put_varint(message, (uint16_t)(tag << KIND_BITS | LENGTH));
    put_varint(message, (uint32_t)count);
}

static void put_counted(struct cm_message *message, uint8_t tag, const uint8_t *bytes, size_t count)
{
    cm_put_length(message, tag, count);
    for (size_t i = 0; i < count; i++)
        put_byte(message, bytes[i]);
}

void cm_put_bytes(struct cm_message *message, uint8_t tag, const uint8_t *bytes, size_t count)
{
    if (count)
        put_counted(message, tag, bytes, count);
}

void cm_put_message(struct cm_message *message, uint8_t tag, const struct cm_message *own)
{
    put_counted(message, tag, own->bytes, own->count);
    message->is_full |= own->is_full;
}

/* --- to read ----------------------------------------------------------------------------- */

/* False: it is longer than a number of 32 bits, or than the message. */
static bool get_varint(struct cm_fields *fields, uint32_t *value)
{
    enum { MOST_BITS = 32 };
    *value = 0;
    for (uint8_t shift = 0; shift < MOST_BITS && fields->at < fields->count; shift += 7) {
        uint8_t byte = fields->bytes[fields->at++];
        *value |= (uint32_t)(byte & 0x7F) << shift;
        if (!(byte & 0x80))
            return true;
    }
    return false;
}

static bool get_field(struct cm_fields *fields, struct cm_field *field)
{
    uint32_t key, length;
    if (!get_varint(fields, &key))
        return false;
    uint8_t kind = (uint8_t)(key & ((1 << KIND_BITS) - 1));
    field->tag = key >> KIND_BITS;
    if (kind == VARINT)
        return get_varint(fields, &field->number);
    if (kind != LENGTH || !get_varint(fields, &length) || length > fields->count - fields->at)
        return false;
    field->bytes = fields->bytes + fields->at;
    field->count = (size_t)length;
    fields->at += field->count;
    return true;
}

bool cm_next_field(struct cm_fields *fields, struct cm_field *field, bool *is_damaged)
{
    *field = (struct cm_field){0};
    if (fields->at >= fields->count)
        return false;
    bool good = get_field(fields, field);
    *is_damaged |= !good;
    return good;
}
