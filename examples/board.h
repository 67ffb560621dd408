/*
 * What any board's support package offers: pins and time. The example port is written on this; on
 * your board these four are yours. Here, examples/board_bench.c joins them to a simulated bench, so
 * that the example runs.
 */
#ifndef EXAMPLE_BOARD_H
#define EXAMPLE_BOARD_H

#include <stdbool.h>
#include <stdint.h>

enum pin {
    PIN_RESET,
    PIN_SCK,
    PIN_MOSI,
    PIN_MISO,
    PIN_LATCH,
    PIN_CE,
    PIN_OE,
    PIN_WE,
    PIN_D0 /* and so on to PIN_D0 + 7 */
};
enum drive { DRIVE_LOW, DRIVE_HIGH, FLOAT };

void pin_set(enum pin pin, enum drive drive);
bool pin_get(enum pin pin);
void delay_us(uint32_t us);
uint32_t micros(void);

/* Joins the pins to a bench, and takes them off it. */
bool board_begin(const char *bench);
void board_end(void);

#endif
