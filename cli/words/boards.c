/*
 * Where the lines of a board are: of a probe's, as its firmware has them: probe/avr/atmega328p.h
 * and atmega1284p.h. A test compares them.
 */
#include "words/boards.h"
#include <string.h>

#define PROBE_328P   "probe-328p"
#define PROBE_1284P  "probe-1284p"
#define HEADER_40    "header-40"
#define SERIAL_LINES "serial-lines"
const char board_names[] = PROBE_328P ", " PROBE_1284P ", " HEADER_40 ", " SERIAL_LINES;

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
     .feeding = "from the chip's own board; to measure it, 10 kOhm from there to A0 (PC0) of the "
                "probe, and 10 kOhm on to ground"},
    {.name = PROBE_1284P,
     .what = "a board with an ATmega1284P at 16 MHz",
     .mv = 5000,
     .pins = {[ROLE_RESET] = "PA1",
              [ROLE_SELECT] = "PA2",
              [ROLE_MOSI] = "PB5",
              [ROLE_MISO] = "PB6",
              [ROLE_SCK] = "PB7",
              [ROLE_SDA] = "PA5",
              [ROLE_SCL] = "PA6",
              [ROLE_WP] = "PA3",
              [ROLE_HOLD] = "PA4",
              [ROLE_CE] = "PD2",
              [ROLE_OE] = "PD3",
              [ROLE_OE_VPP] = "PD3, PD7",
              [ROLE_WE] = "PD4",
              [ROLE_ADDRESS] = "registers",
              [ROLE_DATA] = "PC0-PC7",
              [ROLE_VPP] = "by PD7",
              [ROLE_SUPPLY] = "its board",
              [ROLE_GROUND] = "GND"},
     .feeding = "from the chip's own board; to measure it, 10 kOhm from there to PA0 of the probe, "
                "and 10 kOhm on to ground",
     .addresses =
         "three 74HC595 in a chain, fed as the chip is: PB5 to the data input of the first, PB7 "
         "to the shift clock and PD5 to the latch of all; outputs A to H of the first are A0 "
         "to A7, of the second A8 to A15, of the third A16 to A23; 10 kOhm from CE, OE and WE "
         "to the supply"},
    {.name = HEADER_40,
     .what = "the 40-pin header of a single-board computer",
     .mv = 3300,
     .pins = {[ROLE_RESET] = "22 (GPIO25)",
              [ROLE_SELECT] = "24 (CE0)",
              [ROLE_MOSI] = "19 (MOSI)",
              [ROLE_MISO] = "21 (MISO)",
              [ROLE_SCK] = "23 (SCLK)",
              [ROLE_SDA] = "3 (SDA1)",
              [ROLE_SCL] = "5 (SCL1)",
              [ROLE_WP] = "18 (GPIO24)",
              [ROLE_HOLD] = "17 (3.3 V)",
              [ROLE_SUPPLY] = "17 (3.3 V)",
              [ROLE_GROUND] = "25"},
     .feeding =
         "3.3 V from pin 17, for a chip that takes that and nothing else; a chip on a board of "
         "its own is fed there, and pin 17 stays free. docs/desk.md has the desk to it"},
    {.name = SERIAL_LINES,
     .what = "the modem lines of a USB-to-serial converter",
     .mv = 5000,
     .pins = {[ROLE_RESET] = "TXD (1 kOhm)",
              [ROLE_MOSI] = "DTR (1 kOhm)",
              [ROLE_MISO] = "CTS (1 kOhm)",
              [ROLE_SCK] = "RTS (1 kOhm)",
              [ROLE_SUPPLY] = "its board",
              [ROLE_GROUND] = "GND"},
     .feeding =
         "from the chip's own board, or from the converter if it gives the chip's voltage; never "
         "both. docs/desk.md has the desk to it"},
};

const struct board_pins *board_named(const char *name)
{
    for (size_t i = 0; i < sizeof BOARDS / sizeof BOARDS[0]; i++) {
        if (strcmp(BOARDS[i].name, name) == 0)
            return &BOARDS[i];
    }
    return NULL;
}
