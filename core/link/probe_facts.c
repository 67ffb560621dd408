/*
 * What a probe tells of itself, as a message.
 */
#include "fields.h"
#include <coldmint/link.h>
#include <stddef.h>
#include <string.h>

/* Tags of numbers: which member each is. */
enum { VERSION = 1, BOARD, BATCH_BYTES, OPS, WINDOW, BUSES, FASTEST_BAUD, TRAITS };

static void traits_to_numbers(const struct cm_traits *traits, uint32_t *numbers)
{
    const uint32_t all[] = {traits->lines,        traits->senses,        traits->clock_min_hz,
                            traits->clock_max_hz, traits->supply_min_mv, traits->supply_max_mv,
                            traits->data_lines,   traits->address_lines, traits->transfer_max};
    memcpy(numbers, all, sizeof all);
}

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

size_t cm_link_put_probe(const struct cm_link_probe *probe, uint8_t *bytes, size_t room)
{
    struct cm_message message = {bytes, room, 0, false};
    uint32_t numbers[TRAIT_COUNT];
    traits_to_numbers(&probe->traits, numbers);
    cm_put_number(&message, VERSION, probe->version);
    cm_put_bytes(&message, BOARD, (const uint8_t *)probe->board, strlen(probe->board));
    cm_put_number(&message, BATCH_BYTES, probe->batch_bytes);
    cm_put_number(&message, OPS, probe->ops);
    cm_put_number(&message, WINDOW, probe->window);
    cm_put_number(&message, BUSES, probe->buses);
    cm_put_number(&message, FASTEST_BAUD, probe->fastest_baud);
    for (uint8_t i = 0; i < TRAIT_COUNT; i++)
        cm_put_number(&message, (uint8_t)(TRAITS + i), numbers[i]);
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
    probe->batch_bytes = numbers[BATCH_BYTES];
    probe->ops = (uint8_t)numbers[OPS];
    probe->window = (uint8_t)numbers[WINDOW];
    probe->buses = (uint8_t)numbers[BUSES];
    probe->fastest_baud = numbers[FASTEST_BAUD];
    numbers_to_traits(numbers + TRAITS, &probe->traits);
    return !is_damaged && probe->version && probe->batch_bytes && probe->ops && probe->window;
}
