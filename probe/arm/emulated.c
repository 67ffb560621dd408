/*
 * An emulated Arm board (AST2500) as a probe: its serial line is UART5, its target the SPI memory
 * behind SPI1. It has no other hardware: this is the port of examples/bare-metal with a serial
 * line.
 *
 * The controller is half duplex: in its user mode a byte stored in the chip's window goes out, a
 * byte loaded from there comes in. That is enough for memories.
 */
#include <coldmint/probe.h>

#define REGISTER(address) (*(volatile uint32_t *)(address))
#define UART_DATA         REGISTER(0x1E784000u) // as a 16550, registers 4 bytes apart
#define UART_LINE_STATUS  REGISTER(0x1E784014u)
#define SPI_CONFIG        REGISTER(0x1E630000u) // bit 16: chip 0 may be written
#define SPI_CONTROL       REGISTER(0x1E630010u) // of chip 0
#define SPI_WINDOW        ((volatile uint8_t *)0x30000000u)
#define TIMER_COUNT       REGISTER(0x1E782000u) // counts down, 1 MHz
#define TIMER_RELOAD      REGISTER(0x1E782004u)
#define TIMER_CONTROL     REGISTER(0x1E782030u)

enum { USER_MODE_SELECTED = 3, USER_MODE_DESELECTED = 7, ENABLE_WRITES = 1 << 16, TIMER_1_MHZ = 3 };
enum { DATA_READY = 0x01, ROOM_TO_SEND = 0x20 };
enum { BATCH_BYTES = 4096 + 512, OPS = 32, WINDOW = 3, BUFFER = BATCH_BYTES + CM_LINK_FRAME };

/* --- the port ---------------------------------------------------------------------------- */

/* This board cannot let its lines float; deselected is as near as it comes. */
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
static const struct cm_port PORT = {
    .lines = &LINES,
    .spi = &SPI,
    .state = &state,
    .traits = {.lines = CM_LINE_BIT(CM_LINE_SELECT), .clock_max_hz = 25000000},
};

/* --- the serial line --------------------------------------------------------------------- */

static int receive(void *context)
{
    (void)context;
    return UART_LINE_STATUS & DATA_READY ? (int)(UART_DATA & 0xFF) : -1;
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
    .port = &PORT,
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
    SPI_CONFIG |= ENABLE_WRITES;
    TIMER_RELOAD = UINT32_MAX;
    TIMER_COUNT = UINT32_MAX;
    TIMER_CONTROL = TIMER_1_MHZ;
    cm_probe_begin(&probe);
    for (;;)
        cm_probe_step(&probe);
}

__attribute__((naked, section(".start"))) void _start(void)
{
    __asm__ volatile("ldr sp, =0x84000000\n bl main\n");
}
