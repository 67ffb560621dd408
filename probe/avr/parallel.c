/*
 * Cycles of a parallel memory: the address in three shift registers behind the SPI, the data on a
 * port of its own.
 *
 *     A     ==X  address  X==========      shifted in at F_CPU / 2, and shown by LATCH
 *     D     --X   data    X----------      driven for writing alone, else pulled up
 *     CE,WE ~~~~~~\______/~~~~~~~~~~~      both low for the pulse
 *
 *     OE    ~~~~~\________/~~~~~~~~~~      reading: OE goes low before CE, and high after it
 *     CE    ~~~~~~\______/~~~~~~~~~~~
 *
 * By calls for each change of a line this processor would need more than the 150 us that a byte may
 * take in a page of some EEPROMs.
 */
#include "board.h"
#include <util/delay_basic.h>

enum {
    ALL = 0xFF,
    CYCLES = 160, /* of the processor in one of the memory's, beside the wait */
    LOOP = 4,     /* and in a round of the wait */
    TICK_NS = 500 /* of Timer 1 */
};

static const struct pin CE = CE_PIN, OE = OE_PIN, WE = WE_PIN, LATCH = LATCH_PIN, SCK = SCK_PIN,
                        MOSI = MOSI_PIN;
static uint16_t rounds = 1; /* of the wait: a period of the clock that was set */

static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    uint32_t wanted = (F_CPU / LOOP + want_hz - 1) / want_hz;
    if (wanted > UINT16_MAX)
        return CM_PORT_LACKS;
    rounds = (uint16_t)wanted;
    uint32_t hz = F_CPU / (CYCLES + LOOP * wanted);
    *real_hz = hz < want_hz ? hz : want_hz;
    port->state->is_driven = false;
    pin_low(SCK);
    pin_low(MOSI);
    pin_low(LATCH);
    DATA_OUT = ALL; // pull-ups
    return CM_OK;
}

static inline void shift_byte(uint8_t byte)
{
    SPDR = byte;
    while (!(SPSR & 1 << SPIF))
        continue;
}

static void show_address(const struct cm_port *port, uint32_t address)
{
    struct cm_port_state *state = port->state;
    if (state->is_driven && state->address == address)
        return;
    state->is_driven = true;
    state->address = address;
    SPCR = 1 << SPE | 1 << MSTR;
    SPSR = 1 << SPI2X;
    shift_byte((uint8_t)(address >> 16));
    shift_byte((uint8_t)(address >> 8));
    shift_byte((uint8_t)address);
    pin_high(LATCH);
    pin_low(LATCH);
}

/* At least that long. By the timer it does not get longer where the serial line interrupts. Almost
 * every pulse is as long as the one before: that is not computed anew. */
static void hold(uint32_t ns)
{
    enum { SHORTEST_NS = 250, MOST_NS = 1000000 };
    static uint32_t last_ns;
    static uint16_t ticks;
    uint16_t begun = TCNT1;
    if (ns <= SHORTEST_NS) {
        _delay_loop_2(1);
        return;
    }
    if (ns > MOST_NS) {
        clock_wait_us(0, ns / 1000 + 1);
        return;
    }
    if (ns != last_ns) {
        last_ns = ns;
        ticks = (uint16_t)(ns / TICK_NS + 2);
    }
    while ((uint16_t)(TCNT1 - begun) < ticks)
        continue;
}

static enum cm_status write(const struct cm_port *port, uint32_t address, uint16_t data,
                            const struct cm_pulse *pulse)
{
    show_address(port, address);
    DATA_OUT = (uint8_t)data;
    DATA_DRIVEN = ALL;
    pin_low(CE);
    pin_low(WE);
    hold(pulse->low_ns);
    pin_high(WE);
    pin_high(CE);
    DATA_OUT = ALL;
    DATA_DRIVEN = 0;
    hold(pulse->high_ns);
    _delay_loop_2(rounds);
    return CM_OK;
}

static enum cm_status read(const struct cm_port *port, uint32_t address, uint8_t *bytes,
                           uint32_t count)
{
    for (uint16_t left = (uint16_t)count; left; left--, address++) {
        show_address(port, address);
        pin_low(OE);
        pin_low(CE);
        _delay_loop_2(rounds);
        *bytes++ = DATA_IN;
        pin_high(CE);
        pin_high(OE);
    }
    return CM_OK;
}

static enum cm_status release(const struct cm_port *port)
{
    port->state->is_driven = false;
    DATA_DRIVEN = 0;
    DATA_OUT = 0;
    return CM_OK;
}

/* Data sheet, "JTAG interface": JTD is written twice within four cycles. */
void parallel_begin(void)
{
    uint8_t control = MCUCR | 1 << JTD;
    MCUCR = control;
    MCUCR = control;
}

const struct cm_parallel board_parallel = {
    .clock = set_clock, .write = write, .read = read, .release = release};
