/*
 * What became of a batch, as a message.
 */
#include "fields.h"
#include <coldmint/link.h>
#include <string.h>

enum { STATUS = 1, OP, ADDRESS, PLACED, EXPECTED, FOUND, RESTARTS, VALUES, DATA };

/* A value of 0 has its place in the list, too. */
static void put_value(struct cm_message *message, const struct cm_op *op)
{
    cm_put_element(message, VALUES, op->kind == CM_OP_CLOCK ? op->clock.real_hz : op->sense.value);
}

size_t cm_link_put_result(const struct cm_link_result *result, const struct cm_op *ops,
                          uint8_t op_count, uint8_t *bytes, size_t room)
{
    struct cm_message message = {bytes, room, 0, false};
    cm_put_element(&message, STATUS, result->status); // never a message of no byte
    cm_put_number(&message, OP, result->op);
    cm_put_number(&message, ADDRESS, result->address);
    cm_put_number(&message, PLACED, result->placed);
    cm_put_number(&message, EXPECTED, result->expected);
    cm_put_number(&message, FOUND, result->found);
    cm_put_number(&message, RESTARTS, result->restarts);
    for (uint8_t i = 0; i < op_count; i++) {
        if (cm_link_has_value(&ops[i]))
            put_value(&message, &ops[i]);
    }
    if (result->data_count)
        cm_put_length(&message, DATA, result->data_count);
    return message.is_full ? 0 : message.count;
}

/* To the next operation from `*at` on that brings a value; false: there is none. */
static bool find_value(const struct cm_op *ops, uint8_t op_count, uint8_t *at)
{
    while (*at < op_count && !cm_link_has_value(&ops[*at]))
        ++*at;
    return *at < op_count;
}

/* That operation takes it. */
static void take_value(struct cm_op *ops, uint8_t op_count, uint8_t *at, uint32_t value)
{
    if (!find_value(ops, op_count, at))
        return;
    if (ops[*at].kind == CM_OP_CLOCK)
        ops[*at].clock.real_hz = value;
    else
        ops[*at].sense.value = (uint16_t)value;
    ++*at;
}

bool cm_link_get_result(struct cm_link_result *result, struct cm_op *ops, uint8_t op_count,
                        const uint8_t *bytes, size_t count)
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
            result->data_count = (uint32_t)field.count;
        } else if (field.tag == VALUES) {
            take_value(ops, op_count, &at, field.number);
        } else if (field.tag < VALUES) {
            numbers[field.tag] = field.number;
        }
    }
    result->status = numbers[STATUS] < CM_STATUS_COUNT || numbers[STATUS] == CM_DECLINED
                         ? (enum cm_status)numbers[STATUS]
                         : CM_PORT_FAILED;
    bool lacks_value = result->status == CM_OK && find_value(ops, op_count, &at);
    result->op = numbers[OP];
    result->address = numbers[ADDRESS];
    result->placed = numbers[PLACED] != 0;
    result->expected = (uint8_t)numbers[EXPECTED];
    result->found = (uint8_t)numbers[FOUND];
    result->restarts = numbers[RESTARTS];
    return !is_damaged && !lacks_value;
}
