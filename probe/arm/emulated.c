/*
 * An emulated Arm board (AST2500) as a probe: its serial line is UART5, its target the SPI memory
 * behind SPI1. A program's port is a probe's, too: this is that of examples/bare-metal, and a
 * serial line.
 */
#include "board.h"
#include <coldmint/probe.h>

#define REGISTER(address) (*(volatile uint32_t *)(address))
#define UART_DATA         REGISTER(0x1E784000u) // as a 16550, registers 4 bytes apart
#define UART_LINE_STATUS  REGISTER(0x1E784014u)
enum { DATA_READY = 0x01, ROOM_TO_SEND = 0x20 };
enum { BATCH_BYTES = 4096 + 512, OPS = 32, WINDOW = 3, BUFFER = BATCH_BYTES + CM_LINK_FRAME };

/* --- the serial line --------------------------------------------------------------------- */

static uint8_t receive(void *context, uint8_t *bytes, uint8_t most)
{
    uint8_t count = 0;
    (void)context;
    while (count < most && UART_LINE_STATUS & DATA_READY)
        bytes[count++] = (uint8_t)UART_DATA;
    return count;
}

static void send(void *context, const uint8_t *bytes, size_t count)
{
    (void)context;
    for (; count; count--) {
        while (!(UART_LINE_STATUS & ROOM_TO_SEND))
            continue;
        UART_DATA = *bytes++;
    }
}

/* --- the probe --------------------------------------------------------------------------- */

static uint8_t buffers[WINDOW][BUFFER];
static struct cm_probe_slot slots[WINDOW];
static struct cm_op ops[OPS];
static const struct cm_probe_board BOARD = {
    .name = "emulated Arm board",
    .port = &board_port,
    .buses = 1 << CM_BUS_SPI,
    .window = WINDOW,
    .receive = receive,
    .send = send,
    .buffer_bytes = BUFFER,
    .slots = slots,
};

int main(void)
{
    static struct cm_probe probe = {.board = &BOARD, .store = {.ops = ops, .most_ops = OPS}};
    for (int i = 0; i < WINDOW; i++)
        slots[i].bytes = buffers[i];
    board_begin();
    cm_probe_begin(&probe);
    for (;;)
        cm_probe_step(&probe);
}

__attribute__((naked, section(".start"))) void _start(void)
{
    __asm__ volatile("ldr sp, =0x84000000\n bl main\n");
}
