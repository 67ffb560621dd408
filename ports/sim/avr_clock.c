/*
 * Which clock the fuses of an AVR select: data sheets, "System clock and clock options", tables of
 * CKSEL.
 *
 * The sub-families number their sources differently. A rule holds for the parts whose name begins
 * as it says; the first that fits counts.
 */
#include "avr_model.h"
#include <string.h>

enum { BOARD = 0 }; // in a rule: the board's crystal or clock

struct source {
    uint8_t cksel;
    uint32_t hz;
};

struct rule {
    const char *names[12]; // beginnings of part names
    uint8_t cksel_mask;
    struct source sources[6]; // others are the board's
    uint32_t fixed_hz;        // not 0: there is only one clock
};

static const struct rule RULES[] = {
    {.names = {"attiny441", "attiny841", "attiny1634"},
     .cksel_mask = 0x0F,
     .sources = {{2, 8000000}, {4, 32000}}},
    {.names = {"attiny828"}, .cksel_mask = 0x03, .sources = {{2, 8000000}, {3, 32000}}},
    {.names = {"attiny48", "attiny88"}, .cksel_mask = 0x03, .sources = {{2, 8000000}, {3, 128000}}},
    {.names = {"at90pwm", "atmega16m1", "atmega32m1", "atmega64m1", "atmega32c1", "atmega64c1"},
     .cksel_mask = 0x0F,
     .sources = {{2, 8000000}, {3, 16000000}}},
    {.names = {"attiny24", "attiny44", "attiny84", "attiny43u"},
     .cksel_mask = 0x0F,
     .sources = {{2, 8000000}, {4, 128000}}},
    {.names = {"attiny25", "attiny45", "attiny85"},
     .cksel_mask = 0x0F,
     .sources = {{1, 16000000}, {2, 8000000}, {3, 6400000}, {4, 128000}}},
    {.names = {"attiny261", "attiny461", "attiny861"},
     .cksel_mask = 0x0F,
     .sources = {{1, 16000000}, {2, 8000000}, {3, 128000}}},
    {.names = {"attiny2313", "attiny4313"},
     .cksel_mask = 0x0F,
     .sources = {{2, 4000000}, {4, 8000000}, {6, 128000}}},
    {.names = {"attiny13"},
     .cksel_mask = 0x03,
     .sources = {{1, 4800000}, {2, 9600000}, {3, 128000}}},
    {.names = {"attiny26", "atmega8515", "atmega8535", "atmega128rf"},
     .cksel_mask = 0x0F,
     .sources = {{1, 1000000}, {2, 2000000}, {3, 4000000}, {4, 8000000}}},
    {.names = {"attiny87", "attiny167", "ata"},
     .cksel_mask = 0x0F,
     .sources = {{2, 8000000}, {3, 128000}}},
    {.names = {"atmega163", "atmega323"}, .cksel_mask = 0x0F, .sources = {{2, 1000000}}},
    {.names = {"attiny12"}, .fixed_hz = 1200000},
    {.names = {"attiny15"}, .fixed_hz = 1600000},
    {.names = {"attiny22"}, .fixed_hz = 1000000},
    {.names = {"atmega8hva", "atmega16hv", "atmega32hv", "atmega64hv"}, .fixed_hz = 1000000},
};

// ATmega8, 16, 32, 64, 128 (and A) by their whole names: many other names begin alike.
static const char *const OLD_MEGAS[] = {"atmega8",   "atmega8a",  "atmega16", "atmega16a",
                                        "atmega32",  "atmega32a", "atmega64", "atmega64a",
                                        "atmega128", "atmega128a"};
static const struct rule OLD_MEGA = {
    .cksel_mask = 0x0F, .sources = {{1, 1000000}, {2, 2000000}, {3, 4000000}, {4, 8000000}}};
static const struct rule OTHER_MEGA = {.cksel_mask = 0x0F, .sources = {{2, 8000000}, {3, 128000}}};

static const struct rule *rule_for(const char *name)
{
    for (size_t i = 0; i < sizeof OLD_MEGAS / sizeof OLD_MEGAS[0]; i++) {
        if (strcmp(name, OLD_MEGAS[i]) == 0)
            return &OLD_MEGA;
    }
    for (size_t i = 0; i < sizeof RULES / sizeof RULES[0]; i++) {
        for (const char *const *begin = RULES[i].names; *begin; begin++) {
            if (strncmp(name, *begin, strlen(*begin)) == 0)
                return &RULES[i];
        }
    }
    return &OTHER_MEGA;
}

static uint32_t source_hz(const struct rule *rule, uint8_t cksel, uint32_t board_hz)
{
    for (const struct source *source = rule->sources; source->hz; source++) {
        if (source->cksel == cksel)
            return source->hz;
    }
    return board_hz;
}

int avr_model_fuse(const struct cm_avr_part *row, const uint8_t *fuses, const char *name)
{
    for (uint8_t byte = 0; byte < row->fuse_bytes; byte++) {
        const char *text = row->fuse_bits[byte];
        for (uint8_t bit = 0; bit < 8 && *text; bit++) {
            size_t length = strcspn(text, " ");
            if (length == strlen(name) && strncmp(text, name, length) == 0)
                return fuses[byte] >> bit & 1;
            text += length + (text[length] == ' ');
        }
    }
    return -1;
}

uint32_t avr_model_clock(const struct cm_avr_part *row, const uint8_t *fuses, uint32_t board_hz)
{
    const struct rule *rule = rule_for(row->part.name);
    if (rule->fixed_hz)
        return rule->fixed_hz;
    if (row->fuse_bytes == 0)
        return board_hz ? board_hz : 4000000; // classic parts run on a crystal; a board without one
                                              // would be no board
    uint32_t hz = source_hz(rule, fuses[0] & rule->cksel_mask, board_hz);
    int divide = avr_model_fuse(row, fuses, "CKDIV8");
    return divide == 0 ? hz / 8 : hz;
}
