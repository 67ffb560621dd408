/*
 * What a probe tells of itself, as a message.
 */
#include "fields.h"
#include <coldmint/link.h>
#include <stddef.h>
#include <string.h>

/* Tags of numbers: which member each is. */
enum { VERSION = 1, BOARD, BATCH_BYTES, OPS, WINDOW, BUSES, FASTEST_BAUD, TRAITS };

enum { TRAIT_COUNT = 9 };

static void numbers_to_traits(const uint32_t *numbers, struct cm_traits *traits)
{
    *traits = (struct cm_traits){.lines = numbers[0],
                                 .senses = numbers[1],
                                 .clock_min_hz = numbers[2],
                                 .clock_max_hz = numbers[3],
                                 .supply_min_mv = (uint16_t)numbers[4],
                                 .supply_max_mv = (uint16_t)numbers[5],
                                 .data_lines = (uint8_t)numbers[6],
                                 .address_lines = (uint8_t)numbers[7],
                                 .transfer_max = numbers[8]};
}

static void put_traits(struct cm_message *message, const struct cm_traits *traits)
{
    cm_put_number(message, TRAITS, traits->lines);
    cm_put_number(message, TRAITS + 1, traits->senses);
    cm_put_number(message, TRAITS + 2, traits->clock_min_hz);
    cm_put_number(message, TRAITS + 3, traits->clock_max_hz);
    cm_put_number(message, TRAITS + 4, traits->supply_min_mv);
    cm_put_number(message, TRAITS + 5, traits->supply_max_mv);
    cm_put_number(message, TRAITS + 6, traits->data_lines);
    cm_put_number(message, TRAITS + 7, traits->address_lines);
    cm_put_number(message, TRAITS + 8, traits->transfer_max);
}

size_t cm_link_put_probe(const struct cm_link_limits *limits, const char *board,
                         const struct cm_traits *traits, uint8_t *bytes, size_t room)
{
    struct cm_message message = {bytes, room, 0, false};
    size_t count = 0;
    while (count < CM_LINK_BOARD - 1 && board[count])
        count++;
    cm_put_number(&message, VERSION, CM_LINK_VERSION);
    cm_put_bytes(&message, BOARD, (const uint8_t *)board, count);
    cm_put_number(&message, BATCH_BYTES, limits->batch_bytes);
    cm_put_number(&message, OPS, limits->ops);
    cm_put_number(&message, WINDOW, limits->window);
    cm_put_number(&message, BUSES, limits->buses);
    cm_put_number(&message, FASTEST_BAUD, limits->fastest_baud);
    put_traits(&message, traits);
    return message.is_full ? 0 : message.count;
}

static void take_board(struct cm_link_probe *probe, const struct cm_field *field)
{
    size_t count = field->count < CM_LINK_BOARD - 1 ? field->count : CM_LINK_BOARD - 1;
    memcpy(probe->board, field->bytes, count);
    probe->board[count] = '\0';
}

bool cm_link_get_probe(struct cm_link_probe *probe, const uint8_t *bytes, size_t count)
{
    struct cm_fields fields = {bytes, count, 0};
    struct cm_field field;
    uint32_t numbers[TRAITS + TRAIT_COUNT] = {0};
    bool is_damaged = false;
    memset(probe, 0, sizeof *probe);
    while (cm_next_field(&fields, &field, &is_damaged)) {
        if (field.tag == BOARD && field.bytes)
            take_board(probe, &field);
        else if (field.tag < TRAITS + TRAIT_COUNT)
            numbers[field.tag] = field.number;
    }
    probe->version = (uint8_t)numbers[VERSION];
    probe->limits.batch_bytes = numbers[BATCH_BYTES];
    probe->limits.ops = (uint8_t)numbers[OPS];
    probe->limits.window = (uint8_t)numbers[WINDOW];
    probe->limits.buses = (uint8_t)numbers[BUSES];
    probe->limits.fastest_baud = numbers[FASTEST_BAUD];
    numbers_to_traits(numbers + TRAITS, &probe->traits);
    return !is_damaged && probe->version && probe->limits.batch_bytes && probe->limits.ops &&
           probe->limits.window;
}
