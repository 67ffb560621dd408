/*
 * Fields of protocol buffers, read through a callback.
 */
#include "wire.h"
#include <string.h>

static bool damage(struct cm_wire *wire)
{
    wire->is_damaged = true;
    return false;
}

static bool take(struct cm_wire *wire, uint8_t *bytes, uint32_t count)
{
    if (count > wire->end - wire->at)
        return damage(wire);
    if (wire->input->read(wire->input->context, wire->at, bytes, count) != CM_OK) {
        wire->has_failed = true;
        return false;
    }
    wire->at += count;
    return true;
}

/* Seven bits a byte, the lowest first; bit 7: more follow. Numbers of more than 32 bits are told as
 * wide, and nothing else of them. */
static bool take_number(struct cm_wire *wire, uint32_t *number, bool *is_wide)
{
    enum { MOST_BITS = 64, BITS = 32, LAST_SHIFT = 28 };
    uint8_t byte;
    *number = 0;
    *is_wide = false;
    for (uint8_t shift = 0; shift < MOST_BITS; shift = (uint8_t)(shift + 7)) {
        if (!take(wire, &byte, 1))
            return false;
        uint8_t bits = byte & 0x7F;
        *is_wide |= shift > LAST_SHIFT ? bits != 0 : shift == LAST_SHIFT && bits > 0xF;
        if (shift < BITS)
            *number |= (uint32_t)bits << shift;
        if (!(byte & 0x80))
            return true;
    }
    return damage(wire);
}

static bool take_fixed(struct cm_wire *wire, struct cm_wire_field *field, uint8_t count)
{
    uint8_t bytes[8];
    if (!take(wire, bytes, count))
        return false;
    for (uint8_t i = 4; i > 0;)
        field->number = field->number << 8 | bytes[--i];
    return true;
}

bool cm_wire_next(struct cm_wire *wire, struct cm_wire_field *field)
{
    enum { KIND_BITS = 3 };
    uint32_t number;
    bool is_wide;
    if (wire->at >= wire->end || wire->is_damaged || wire->has_failed ||
        !take_number(wire, &number, &is_wide))
        return false;
    *field = (struct cm_wire_field){.kind = (uint8_t)(number & ((1 << KIND_BITS) - 1))};
    field->tag = number >> KIND_BITS;
    if (field->tag == 0 || is_wide)
        return damage(wire);
    switch (field->kind) {
    case CM_WIRE_NUMBER:
        return take_number(wire, &field->number, &field->is_wide);
    case CM_WIRE_FIXED32:
        return take_fixed(wire, field, 4);
    case CM_WIRE_FIXED64:
        return take_fixed(wire, field, 8);
    case CM_WIRE_BYTES:
        break;
    default:
        return damage(wire);
    }
    if (!take_number(wire, &number, &is_wide))
        return false;
    if (is_wide || number > wire->end - wire->at)
        return damage(wire);
    field->at = wire->at;
    field->count = number;
    wire->at += number;
    return true;
}

bool cm_wire_is_whole(const struct cm_wire *wire)
{
    return wire->at == wire->end && !wire->is_damaged && !wire->has_failed;
}

bool cm_wire_is_bytes(const struct cm_wire_field *field, uint32_t tag)
{
    return field->tag == tag && field->kind == CM_WIRE_BYTES;
}

struct cm_wire cm_wire_inner(const struct cm_wire *wire, const struct cm_wire_field *field)
{
    return (struct cm_wire){.input = wire->input, .at = field->at, .end = field->at + field->count};
}

/* --- messages ---------------------------------------------------------------------------- */

static bool set_number(void *out, uint8_t room, uint32_t number)
{
    switch (room) {
    case 1:
        *(uint8_t *)out = (uint8_t)number;
        return number <= UINT8_MAX;
    case 2:
        *(uint16_t *)out = (uint16_t)number;
        return number <= UINT16_MAX;
    default:
        *(uint32_t *)out = number;
        return true;
    }
}

static bool copy(const struct cm_wire *wire, const struct cm_wire_field *field, uint8_t kind,
                 uint8_t room, uint8_t *out)
{
    uint32_t most = (uint32_t)room - (kind == CM_ROW_TEXT);
    if (field->count > most || (kind == CM_ROW_EXACT && field->count != most))
        return false;
    if (kind != CM_ROW_EXACT)
        out[kind == CM_ROW_TEXT ? field->count : room] =
            kind == CM_ROW_TEXT ? 0 : (uint8_t)field->count;
    return !field->count ||
           wire->input->read(wire->input->context, field->at, out, field->count) == CM_OK;
}

static bool is_number(const struct cm_wire_field *field)
{
    return field->kind == CM_WIRE_NUMBER && !field->is_wide;
}

bool cm_wire_take(const struct cm_wire *wire, const struct cm_wire_field *field,
                  const struct cm_wire_row *rows, uint8_t count, void *message)
{
    if (field->tag > count)
        return true;
    const struct cm_wire_row *row = &rows[field->tag - 1];
    void *out = (char *)message + row->at;
    switch (row->kind) {
    case CM_ROW_PASSED:
        return true;
    case CM_ROW_NUMBER:
        return is_number(field) && set_number(out, row->room, field->number);
    case CM_ROW_TIME:
        *(int64_t *)out = field->is_wide ? 0 : field->number;
        return field->kind == CM_WIRE_NUMBER;
    case CM_ROW_FLAG:
        *(bool *)out = field->number != 0;
        return is_number(field) && field->number <= 1;
    case CM_ROW_FIXED32:
        return field->kind == CM_WIRE_FIXED32 && set_number(out, 4, field->number);
    default:
        return field->kind == CM_WIRE_BYTES && copy(wire, field, row->kind, row->room, out);
    }
}

bool cm_wire_read(const struct cm_wire *wire, const struct cm_wire_field *message,
                  const struct cm_wire_row *rows, uint8_t count, void *out)
{
    struct cm_wire inner = cm_wire_inner(wire, message);
    struct cm_wire_field field;
    while (cm_wire_next(&inner, &field)) {
        if (!cm_wire_take(&inner, &field, rows, count, out))
            return false;
    }
    return cm_wire_is_whole(&inner);
}
