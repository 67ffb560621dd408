/*
 * A bare-metal port: an SPI memory behind the controller of an Arm board. All that the library asks
 * of this hardware is in this file.
 *
 * The controller (SPI1 of an AST2500) is half duplex: in its user mode a byte stored in the chip's
 * window goes out, a byte loaded from there comes in. That is enough for memories, which are talked
 * to in one direction at a time. The chip is selected by the mode bits of the same register.
 */
#include "board.h"
#include <coldmint/coldmint.h>

#define REGISTER(address) (*(volatile uint32_t *)(address))
#define SPI_CONFIG        REGISTER(0x1E630000u) // bit 16: chip 0 may be written
#define SPI_CONTROL       REGISTER(0x1E630010u) // of chip 0
#define SPI_WINDOW        ((volatile uint8_t *)0x30000000u)
#define TIMER_COUNT       REGISTER(0x1E782000u) // counts down, 1 MHz
#define TIMER_RELOAD      REGISTER(0x1E782004u)
#define TIMER_CONTROL     REGISTER(0x1E782030u)

enum { USER_MODE_SELECTED = 3, USER_MODE_DESELECTED = 7, ENABLE_WRITES = 1 << 16, TIMER_1_MHZ = 3 };

/* Obligation 1: this board cannot let its lines float; deselected is as near as it comes. */
static enum cm_status set_line(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    (void)port;
    if (line != CM_LINE_SELECT)
        return CM_PORT_LACKS;
    SPI_CONTROL = level == CM_LOW ? USER_MODE_SELECTED : USER_MODE_DESELECTED;
    return CM_OK;
}

/* One direction at a time. */
static enum cm_status shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                            uint32_t bytes)
{
    (void)port;
    if (out && in)
        return CM_PORT_LACKS;
    for (uint32_t i = 0; i < bytes; i++) {
        if (in)
            in[i] = *SPI_WINDOW;
        else
            *SPI_WINDOW = out ? out[i] : 0;
    }
    return CM_OK;
}

static uint32_t now_us(const struct cm_port *port)
{
    (void)port;
    return UINT32_MAX - TIMER_COUNT;
}

static void wait_us(const struct cm_port *port, uint32_t us)
{
    uint32_t start = now_us(port);
    while (now_us(port) - start < us)
        continue;
}

static const struct cm_lines LINES = {.line = set_line, .wait_us = wait_us, .now_us = now_us};
static const struct cm_spi SPI = {.shift = shift};
static struct cm_port_state state;
const struct cm_port board_port = {
    .lines = &LINES,
    .spi = &SPI,
    .state = &state,
    .traits = {.lines = CM_LINE_BIT(CM_LINE_SELECT), .clock_max_hz = 25000000},
};

static struct cm_nor_found by_its_own_tables;
const struct cm_kit board_kit = {.family = &cm_nor,
                                 .parts = cm_nor_all_parts,
                                 .part_count = CM_NOR_PART_COUNT,
                                 .carrier = &cm_carry_sectors,
                                 .found = &by_its_own_tables.row.part,
                                 .describe = cm_nor_by_sfdp};

void board_begin(void)
{
    SPI_CONFIG |= ENABLE_WRITES;
    TIMER_RELOAD = UINT32_MAX;
    TIMER_COUNT = UINT32_MAX;
    TIMER_CONTROL = TIMER_1_MHZ;
}
