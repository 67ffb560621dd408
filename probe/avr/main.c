/*
 * The program: memory for batches, and the loop.
 */
#include "board.h"
#include <avr/interrupt.h>
#include <avr/wdt.h>

enum { BUFFER = BATCH_BYTES + CM_LINK_FRAME };

static const struct pin LAMPS[] PROGMEM = {
    [CM_LAMP_SESSION] = SESSION_LAMP, [CM_LAMP_BUSY] = BUSY_LAMP, [CM_LAMP_ERROR] = ERROR_LAMP};
static uint8_t buffers[WINDOW][BUFFER];
static struct cm_probe_slot slots[WINDOW];
static struct cm_op ops[OPS];
#if HAS_PARALLEL
enum { MOST_CYCLES = 64, MOST_PULSES = OPS };
static struct cm_cycle cycles[MOST_CYCLES];
static struct cm_pulse pulses[MOST_PULSES];
#endif

static void light(void *context, enum cm_lamp lamp, bool on)
{
    struct pin pin = pin_from(&LAMPS[lamp]);
    (void)context;
    if (on)
        pin_high(pin);
    else
        pin_low(pin);
}

static const struct cm_probe_board BOARD = {
    .name = BOARD_NAME,
    .port = &board_port,
    .buses = BUSES,
    .window = WINDOW,
    .longest_wait_us = UART_RING * 4, // a fifth of the time that the line's ring takes to fill
    .longest_shift = UART_RING / 4,
    .receive = uart_receive,
    .send = uart_send,
    .lamp = light,
    .buffer_bytes = BUFFER,
    .slots = slots,
};
static struct cm_probe probe;

bool board_look(void)
{
    return cm_probe_look(&probe);
}

int main(void)
{
    wdt_disable(); // a boot loader may have left it on
    probe.board = &BOARD;
    probe.store.ops = ops;
    probe.store.most_ops = OPS;
    for (uint8_t i = 0; i < WINDOW; i++)
        slots[i].bytes = buffers[i];
    for (uint8_t i = CM_LAMP_SESSION; i <= CM_LAMP_ERROR; i++)
        light(0, (enum cm_lamp)i, false);
#if HAS_PARALLEL
    probe.store.cycles = cycles;
    probe.store.most_cycles = MOST_CYCLES;
    probe.store.pulses = pulses;
    probe.store.most_pulses = MOST_PULSES;
    parallel_begin();
#endif
    uart_begin();
    clock_begin();
    supply_begin();
    sei();
    cm_probe_begin(&probe);
    for (;;)
        cm_probe_step(&probe);
}
