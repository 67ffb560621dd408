/*
 * Where the lines of a probe's board are, as its firmware has them: probe/avr/atmega328p.h. A test
 * compares the two.
 */
#include "words/boards.h"
#include <string.h>

#define PROBE_328P "probe-328p"
const char board_names[] = PROBE_328P;

static const struct board_pins BOARDS[] = {
    {.name = PROBE_328P,
     .what = "a board with an ATmega328P at 16 MHz",
     .mv = 5000,
     .pins = {[ROLE_RESET] = "8 (PB0)",
              [ROLE_SELECT] = "9 (PB1)",
              [ROLE_MOSI] = "11 (PB3)",
              [ROLE_MISO] = "12 (PB4)",
              [ROLE_SCK] = "13 (PB5)",
              [ROLE_SDA] = "A4 (PC4)",
              [ROLE_SCL] = "A5 (PC5)",
              [ROLE_WP] = "4 (PD4)",
              [ROLE_HOLD] = "5 (PD5)",
              [ROLE_SUPPLY] = "its board",
              [ROLE_GROUND] = "GND"},
     .measures = "A0 (PC0)"},
};

const struct board_pins *board_named(const char *name)
{
    for (size_t i = 0; i < sizeof BOARDS / sizeof BOARDS[0]; i++) {
        if (strcmp(BOARDS[i].name, name) == 0)
            return &BOARDS[i];
    }
    return NULL;
}
