/*
 * A bare-metal port: a parallel flash that is mapped into the processor's memory. All that the
 * library asks of this hardware is in this file.
 *
 * Two boards, by what the compiler is told: with FLASH_BITS of 16 a cycle carries a half word, with
 * 8 a byte. The processor's bus makes the cycles, with CE, OE and WE as they should be: those lines
 * are named since the family asks for them, and there is nothing to be done to them.
 */
#include "board.h"
#include <coldmint/coldmint.h>

#if FLASH_BITS == 16
static volatile uint16_t *const FLASH = (volatile uint16_t *)0xFE000000u;
#else
static volatile uint8_t *const FLASH = (volatile uint8_t *)0xE2000000u;
#endif
enum {
    CONTROL = CM_LINE_BIT(CM_LINE_CE) | CM_LINE_BIT(CM_LINE_OE) | CM_LINE_BIT(CM_LINE_WE),
    ADDRESS_LINES = 26
};

static enum cm_status set_line(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    (void)port, (void)level;
    return line < CM_LINE_COUNT && (CONTROL & CM_LINE_BIT(line)) ? CM_OK : CM_PORT_LACKS;
}

static enum cm_status bus_write(const struct cm_port *port, uint32_t address, uint16_t data,
                                const struct cm_pulse *pulse)
{
    enum { OWN_PULSE_NS = 250 }; // of the processor's bus, and as long a pause
    (void)port;
    if (pulse->low_ns > OWN_PULSE_NS || pulse->high_ns > OWN_PULSE_NS)
        return CM_PORT_LACKS;
#if FLASH_BITS == 16
    FLASH[address] = data;
#else
    FLASH[address] = (uint8_t)data;
#endif
    return CM_OK;
}

static enum cm_status bus_read(const struct cm_port *port, uint32_t address, uint8_t *bytes,
                               uint32_t count)
{
    (void)port;
    for (uint32_t i = 0; i < count; i++) {
        uint16_t data = FLASH[address + i];
        *bytes++ = (uint8_t)data;
        if (FLASH_BITS == 16)
            *bytes++ = (uint8_t)(data >> 8);
    }
    return CM_OK;
}

static uint32_t now_us(const struct cm_port *port)
{
    (void)port;
    return board_host_us();
}

static void wait_us(const struct cm_port *port, uint32_t us)
{
    uint32_t start = now_us(port);
    while (us && now_us(port) - start < us)
        continue;
}

static const struct cm_lines LINES = {.line = set_line, .wait_us = wait_us, .now_us = now_us};
static const struct cm_parallel PARALLEL = {.write = bus_write, .read = bus_read};
static struct cm_port_state state;
const struct cm_port board_port = {
    .lines = &LINES,
    .parallel = &PARALLEL,
    .state = &state,
    .traits = {.lines = CONTROL, .data_lines = FLASH_BITS, .address_lines = ADDRESS_LINES},
};

static struct cm_par_found by_its_own_table;
const struct cm_kit board_kit = {.family = &cm_par,
                                 .parts = cm_par_all_parts,
                                 .part_count = CM_PAR_PART_COUNT,
                                 .carrier = &cm_carry_sectors,
                                 .found = &by_its_own_table.row.part,
                                 .describe = cm_par_by_cfi};

void board_begin(void) {}
