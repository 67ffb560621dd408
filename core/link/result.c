/*
 * What became of a batch, as a message.
 */
#include "fields.h"
#include <coldmint/link.h>
#include <string.h>

enum { STATUS = 1, OP, ADDRESS, PLACED, EXPECTED, FOUND, RESTARTS, VALUES, DATA };

static bool has_value(const struct cm_op *op)
{
    return op->kind == CM_OP_CLOCK || op->kind == CM_OP_SENSE;
}

/* A value of 0 has its place in the list, too. */
static bool put_value(pb_ostream_t *stream, const struct cm_op *op)
{
    uint32_t value = op->kind == CM_OP_CLOCK ? op->clock.real_hz : op->sense.value;
    return pb_encode_tag(stream, PB_WT_VARINT, VALUES) && pb_encode_varint(stream, value);
}

uint32_t cm_link_put_result(const struct cm_link_result *result, const struct cm_op *ops,
                            uint8_t op_count, uint8_t *bytes, uint32_t room)
{
    pb_ostream_t stream = pb_ostream_from_buffer(bytes, room);
    bool good = cm_put_number(&stream, STATUS, result->status) &&
                cm_put_number(&stream, OP, result->op) &&
                cm_put_number(&stream, ADDRESS, result->address) &&
                cm_put_number(&stream, PLACED, result->placed) &&
                cm_put_number(&stream, EXPECTED, result->expected) &&
                cm_put_number(&stream, FOUND, result->found) &&
                cm_put_number(&stream, RESTARTS, result->restarts);
    for (uint8_t i = 0; good && i < op_count; i++)
        good = !has_value(&ops[i]) || put_value(&stream, &ops[i]);
    good = good && cm_put_bytes(&stream, DATA, result->data, result->data_count);
    return good && stream.bytes_written ? (uint32_t)stream.bytes_written : 0;
}

/* The next operation from `*at` on that brings a value takes it. */
static void take_value(struct cm_op *ops, uint8_t op_count, uint8_t *at, uint32_t value)
{
    while (*at < op_count && !has_value(&ops[*at]))
        ++*at;
    if (*at == op_count)
        return;
    if (ops[*at].kind == CM_OP_CLOCK)
        ops[*at].clock.real_hz = value;
    else
        ops[*at].sense.value = (uint16_t)value;
    ++*at;
}

bool cm_link_get_result(struct cm_link_result *result, struct cm_op *ops, uint8_t op_count,
                        const uint8_t *bytes, uint32_t count)
{
    struct cm_fields fields = {bytes, count, 0};
    struct cm_field field;
    uint32_t numbers[VALUES] = {0};
    uint8_t at = 0;
    bool is_damaged = false;
    memset(result, 0, sizeof *result);
    while (cm_next_field(&fields, &field, &is_damaged)) {
        if (field.tag == DATA && field.bytes) {
            result->data = field.bytes;
            result->data_count = field.count;
        } else if (field.tag == VALUES) {
            take_value(ops, op_count, &at, field.number);
        } else if (field.tag < VALUES) {
            numbers[field.tag] = field.number;
        }
    }
    result->status = numbers[STATUS] < CM_STATUS_COUNT || numbers[STATUS] == CM_DECLINED
                         ? (enum cm_status)numbers[STATUS]
                         : CM_PORT_FAILED;
    result->op = numbers[OP];
    result->address = numbers[ADDRESS];
    result->placed = numbers[PLACED] != 0;
    result->expected = (uint8_t)numbers[EXPECTED];
    result->found = (uint8_t)numbers[FOUND];
    result->restarts = numbers[RESTARTS];
    return !is_damaged;
}
