/*
 * The board of the examples: its pins are wired to a simulated bench that has lines only.
 */
#include "board.h"
#include <coldmint/coldmint.h>
#include <sim/sim.h>
#include <stdio.h>

static struct cm_sim *bench;

static const struct cm_port *wires(void)
{
    return cm_sim_port(bench);
}

static enum cm_line line_of(enum pin pin)
{
    static const enum cm_line LINES[] = {CM_LINE_RESET, CM_LINE_SCK, CM_LINE_MOSI, CM_LINE_MISO,
                                         CM_LINE_LATCH, CM_LINE_CE,  CM_LINE_OE,   CM_LINE_WE};
    return pin >= PIN_D0 ? (enum cm_line)(CM_LINE_D0 + (pin - PIN_D0)) : LINES[pin];
}

void pin_set(enum pin pin, enum drive drive)
{
    static const enum cm_level LEVELS[] = {CM_LOW, CM_HIGH, CM_RELEASED};
    wires()->lines->line(wires(), line_of(pin), LEVELS[drive]);
}

bool pin_get(enum pin pin)
{
    uint16_t value = 0;
    wires()->lines->sense(wires(), line_of(pin), &value);
    return value;
}

void delay_us(uint32_t us)
{
    wires()->lines->wait_us(wires(), us);
}

uint32_t micros(void)
{
    return wires()->lines->now_us(wires());
}

bool board_begin(const char *path)
{
    char error[SIM_ERROR_BYTES];
    bench = cm_sim_open(path, error);
    if (!bench)
        fprintf(stderr, "%s\n", error);
    return bench != NULL;
}

void board_end(void)
{
    cm_sim_close(bench);
}
