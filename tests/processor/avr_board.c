/*
 * The processor is simulated by Debian's library for that; its SPI tells whole bytes, its ports
 * every change of a pin. What it does to a line is done to the same line of the bench, at the same
 * time; what the bench answers is put on its inputs.
 */
#define _GNU_SOURCE
#include "avr_board.h"
#include <fcntl.h>
#include <pty/pty.h>
#include <simavr/avr_adc.h>
#include <simavr/avr_eeprom.h>
#include <simavr/avr_extint.h>
#include <simavr/avr_ioport.h>
#include <simavr/avr_spi.h>
#include <simavr/avr_uart.h>
#include <simavr/sim_avr.h>
#include <simavr/sim_elf.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

enum {
    MHZ = AVR_BOARD_MHZ,
    HZ = MHZ * 1000000,
    SLICE = HZ / 1000,
    MOST_WIRES = 48,
    IN = 1 << 18,
    SETTLED = 4 * MHZ,
    PORTS = 4
};
enum { UCSR0A_AT = 0xC0, UBRR0L_AT = 0xC4, U2X = 1 << 1, BITS = 10 };
enum { UART_KEEPS = 3, NONSENSE = 0x5A };
enum { RAM_START = 0x100, PAINT = 0xA5 };
enum { SPCR_AT = 0x4C, SPSR_AT = 0x4D, SPDR_AT = 0x4E };
/* Ports A to D of both processors: registers PIN, DDR and PORT of each, one behind the other. */
enum { PINA_AT = 0x20, PORT_STEP = 3, DDR = 1, PORT = 2 };

/* A pin of the processor, and the line of the target that it is wired to. */
struct wire {
    char port;
    uint8_t bit;
    uint8_t line;
    uint8_t level;
};

static const struct wire WIRES_328P[] = {
    {'B', 0, CM_LINE_RESET, 0}, {'B', 1, CM_LINE_SELECT, 0}, {'B', 3, CM_LINE_MOSI, 0},
    {'B', 4, CM_LINE_MISO, 0},  {'B', 5, CM_LINE_SCK, 0},    {'D', 4, CM_LINE_WP, 0},
    {'D', 5, CM_LINE_HOLD, 0},  {'C', 4, CM_LINE_SDA, 0},    {'C', 5, CM_LINE_SCL, 0}};
/* The shift registers behind SCK and MOSI are the bench's. */
static const struct wire WIRES_1284P[] = {
    {'A', 1, CM_LINE_RESET, 0},  {'A', 2, CM_LINE_SELECT, 0}, {'B', 5, CM_LINE_MOSI, 0},
    {'B', 6, CM_LINE_MISO, 0},   {'B', 7, CM_LINE_SCK, 0},    {'A', 3, CM_LINE_WP, 0},
    {'A', 4, CM_LINE_HOLD, 0},   {'A', 5, CM_LINE_SDA, 0},    {'A', 6, CM_LINE_SCL, 0},
    {'C', 0, CM_LINE_D0, 0},     {'C', 1, CM_LINE_D0 + 1, 0}, {'C', 2, CM_LINE_D0 + 2, 0},
    {'C', 3, CM_LINE_D0 + 3, 0}, {'C', 4, CM_LINE_D0 + 4, 0}, {'C', 5, CM_LINE_D0 + 5, 0},
    {'C', 6, CM_LINE_D0 + 6, 0}, {'C', 7, CM_LINE_D0 + 7, 0}, {'D', 2, CM_LINE_CE, 0},
    {'D', 3, CM_LINE_OE, 0},     {'D', 4, CM_LINE_WE, 0},     {'D', 5, CM_LINE_LATCH, 0},
    {'D', 6, CM_LINE_A9_ID, 0},  {'D', 7, CM_LINE_VPP, 0}};

struct avr_board {
    avr_t *avr;
    const struct cm_port *target;
    struct pty_line line;
    struct wire wires[MOST_WIRES];
    size_t wire_count;
    uint8_t pulled[PORTS], inputs[PORTS]; /* from outside, of ports A to D */
    avr_irq_t *pins[PORTS][8];            /* where they have been asked for */
    avr_irq_t *spi_in, *uart_in;
    avr_uart_t *uart;
    bool is_fed;     /* bytes of the serial line are on their way */
    bool is_at_rate; /* the computer is at the rate of the processor */
    uint32_t spi_divisor;
    uint16_t free_from; /* RAM behind the variables */
    uint64_t settled; /* cycle from which on the target's outputs no longer change by themselves */
    uint32_t target_us; /* the bench's time when the processor began */
    uint64_t begun_ns;
    uint8_t in[IN];
    size_t in_at, in_count;
    struct avr_board_line counts; /* bytes of the serial line */
    unsigned loss;                /* frames of a hundred that lose a byte, either way */
    bool loses[2];                /* the frame at hand, in and out */
};

static uint64_t host_ns(void)
{
    struct timespec now;
    clock_gettime(CLOCK_MONOTONIC, &now);
    return (uint64_t)now.tv_sec * 1000000000u + (uint64_t)now.tv_nsec;
}

/* --- the target -------------------------------------------------------------------------- */

/* The bench's time goes up to the processor's. */
static void keep_up(struct avr_board *board)
{
    uint64_t now = board->avr->cycle / MHZ;
    uint32_t seen = board->target->lines->now_us(board->target) - board->target_us;
    int32_t behind = (int32_t)((uint32_t)now - seen);
    if (behind > 0)
        board->target->lines->wait_us(board->target, (uint32_t)behind);
}

/* Once at the pin, and once as what pulls it from outside: the library goes back to that. Asking
 * the library takes long, so that it is told changes only. */
static void set_pin(struct avr_board *board, const struct wire *wire, bool high)
{
    uint8_t port = (uint8_t)(wire->port - 'A'), bit = (uint8_t)(1u << wire->bit);
    uint8_t pulled = (uint8_t)(high ? board->pulled[port] | bit : board->pulled[port] & ~bit);
    if (pulled != board->pulled[port] || !(board->inputs[port] & bit)) {
        board->pulled[port] = pulled;
        board->inputs[port] |= bit;
        avr_ioport_external_t external = {
            .name = (unsigned char)wire->port, .mask = board->inputs[port], .value = pulled};
        avr_ioctl(board->avr, AVR_IOCTL_IOPORT_SET_EXTERNAL(wire->port), &external);
    }
    avr_irq_t **pin = &board->pins[port][wire->bit];
    if (!*pin)
        *pin = avr_io_getirq(board->avr, AVR_IOCTL_IOPORT_GETIRQ(wire->port), wire->bit);
    if ((*pin)->value != (uint32_t)high)
        avr_raise_irq(*pin, high);
}

/* What the target shows on lines that the processor does not drive. */
static void show_inputs(struct avr_board *board)
{
    for (size_t i = 0; i < board->wire_count; i++) {
        const struct wire *wire = &board->wires[i];
        uint16_t value = 0;
        if (wire->level == CM_RELEASED &&
            board->target->lines->sense(board->target, (enum cm_line)wire->line, &value) == CM_OK)
            set_pin(board, wire, value);
    }
}

/* The target answers some time behind a change: its outputs are looked at again until then. */
static avr_cycle_count_t look_again(struct avr_t *avr, avr_cycle_count_t when, void *context)
{
    struct avr_board *board = context;
    keep_up(board);
    show_inputs(board);
    return avr->cycle < board->settled ? when + MHZ : 0;
}

static void drive(struct avr_board *board)
{
    const uint8_t *registers = board->avr->data;
    bool has_changed = false;
    keep_up(board);
    for (size_t i = 0; i < board->wire_count; i++) {
        struct wire *wire = &board->wires[i];
        const uint8_t *port = registers + PINA_AT + PORT_STEP * (wire->port - 'A');
        uint8_t level = CM_RELEASED;
        if (port[DDR] >> wire->bit & 1)
            level = port[PORT] >> wire->bit & 1 ? CM_HIGH : CM_LOW;
        if (level == wire->level || wire->line == CM_LINE_MISO)
            continue;
        wire->level = level;
        has_changed = true;
        cm_ignore(board->target->lines->line(board->target, (enum cm_line)wire->line,
                                             (enum cm_level)level));
    }
    if (!has_changed)
        return;
    show_inputs(board);
    if (board->settled < board->avr->cycle)
        avr_cycle_timer_register(board->avr, MHZ, look_again, board);
    board->settled = board->avr->cycle + SETTLED;
}

static void on_port(struct avr_irq_t *irq, uint32_t value, void *context)
{
    (void)irq, (void)value;
    drive(context);
}

/* Of the processor's SPI clock, in cycles; from the registers. */
static uint32_t spi_divisor(const struct avr_board *board)
{
    static const uint8_t DIVISORS[] = {4, 16, 64, 128};
    return (uint32_t)DIVISORS[board->avr->data[SPCR_AT] & 3] >> (board->avr->data[SPSR_AT] & 1);
}

/* The library takes 100 us for every byte: its timer is set to what the registers say. */
static void on_spdr(struct avr_t *avr, avr_io_addr_t address, uint8_t value, void *context)
{
    enum { TAKES = 100 * MHZ };
    const struct avr_board *board = context;
    avr_cycle_timer_slot_p slot = avr->cycle_timers.timer;
    (void)address, (void)value;
    while (slot && slot->when != avr->cycle + TAKES)
        slot = slot->next;
    if (!slot)
        return;
    avr_cycle_timer_t done = slot->timer;
    void *param = slot->param;
    avr_cycle_timer_cancel(avr, done, param);
    avr_cycle_timer_register(avr, 8 * spi_divisor(board), done, param);
}

/* A byte of the processor's SPI. */
static void on_spi(struct avr_irq_t *irq, uint32_t value, void *context)
{
    struct avr_board *board = context;
    uint8_t out = (uint8_t)value, in = 0xFF;
    uint32_t divisor = spi_divisor(board), hz;
    (void)irq;
    keep_up(board);
    if (board->target->spi && divisor != board->spi_divisor)
        cm_ignore(board->target->spi->clock(board->target, HZ / divisor, &hz));
    board->spi_divisor = divisor;
    if (board->target->spi)
        cm_ignore(board->target->spi->shift(board->target, &out, &in, 1));
    avr_raise_irq(board->spi_in, in);
}

/* --- the serial line --------------------------------------------------------------------- */

/* The library reckons it when UBRR is written, whatever U2X says afterwards. */
static void set_byte_time(struct avr_board *board)
{
    const uint8_t *registers = board->avr->data;
    uint32_t ubrr = registers[UBRR0L_AT] | (uint32_t)registers[UBRR0L_AT + 1] << 8,
             bit = (registers[UCSR0A_AT] & U2X ? 8 : 16) * (ubrr + 1);
    board->uart->cycles_per_byte = (avr_cycle_count_t)BITS * bit;
}

/* Is the computer's end at the processor's rate? At any other, both hear nonsense. */
static bool is_at_rate(const struct avr_board *board)
{
    uint32_t own = (uint32_t)(BITS * HZ / board->uart->cycles_per_byte),
             baud = pty_line_baud(&board->line);
    return baud > own - own / 30 && baud < own + own / 30;
}

/* Frames end with zeros: one in some loses its first byte. */
static bool is_spoilt(struct avr_board *board, int way, uint8_t byte)
{
    bool is_lost = byte && board->loses[way];
    board->loses[way] = !byte && (unsigned)rand() % 100 < board->loss;
    return is_lost;
}

static void on_uart(struct avr_irq_t *irq, uint32_t value, void *context)
{
    struct avr_board *board = context;
    uint8_t byte = (uint8_t)(board->is_at_rate ? value : value ^ NONSENSE);
    (void)irq;
    board->counts.out++;
    if (!is_spoilt(board, 1, (uint8_t)value) && write(board->line.line, &byte, 1) != 1)
        return; // nobody reads: it is lost, as on a wire
}

void avr_board_listen(struct avr_board *board)
{
    if (board->in_at == board->in_count)
        board->in_at = board->in_count = 0;
    if (board->in_count == sizeof board->in)
        return;
    ssize_t got =
        read(board->line.line, board->in + board->in_count, sizeof board->in - board->in_count);
    board->in_count += got > 0 ? (size_t)got : 0;
}

/* A byte has arrived. The receiver keeps two, and a third in its shift register; what comes while
 * they are there is lost. A wire does not wait. */
static avr_cycle_count_t arrive(struct avr_t *avr, avr_cycle_count_t when, void *context)
{
    struct avr_board *board = context;
    (void)avr;
    uint8_t byte = board->in[board->in_at++];
    board->counts.in++;
    const uart_fifo_t *unread = &board->uart->input;
    if (((unread->write - unread->read) & (uart_fifo_fifo_size - 1)) >= UART_KEEPS)
        board->counts.lost++;
    else if (!is_spoilt(board, 0, byte))
        avr_raise_irq(board->uart_in, board->is_at_rate ? byte : byte ^ NONSENSE);
    board->is_fed = board->in_at != board->in_count;
    return board->is_fed ? when + board->uart->cycles_per_byte : 0;
}

static void feed_uart(struct avr_board *board)
{
    avr_board_listen(board);
    set_byte_time(board);
    board->is_at_rate = is_at_rate(board);
    if (board->is_fed || board->in_at == board->in_count)
        return;
    board->is_fed = true;
    avr_cycle_timer_register(board->avr, board->uart->cycles_per_byte, arrive, board);
}

void avr_board_lose(struct avr_board *board, unsigned percent)
{
    board->loss = percent;
}

struct avr_board_line avr_board_line(const struct avr_board *board)
{
    return board->counts;
}

/* --- all --------------------------------------------------------------------------------- */

static void on(struct avr_board *board, uint32_t group, int index, avr_irq_notify_t call)
{
    avr_irq_register_notify(avr_io_getirq(board->avr, group, index), call, board);
}

static void connect(struct avr_board *board)
{
    uint32_t flags = 0, uart = AVR_IOCTL_UART_GETIRQ('0');
    int spi = avr_io_getirq(board->avr, AVR_IOCTL_SPI_GETIRQ(0), 0) ? 0 : '0';
    avr_ioctl(board->avr, AVR_IOCTL_UART_GET_FLAGS('0'), &flags);
    flags &= ~(uint32_t)(AVR_UART_FLAG_STDIO | AVR_UART_FLAG_POLL_SLEEP);
    avr_ioctl(board->avr, AVR_IOCTL_UART_SET_FLAGS('0'), &flags);
    // the firmware has no interrupt by a pin's level: the library need not look every cycle
    for (uint8_t i = 0; i < EXTINT_COUNT; i++)
        avr_extint_set_strict_lvl_trig(board->avr, i, 0);
    board->uart_in = avr_io_getirq(board->avr, uart, UART_IRQ_INPUT);
    on(board, uart, UART_IRQ_OUTPUT, on_uart);
    for (avr_io_t *io = board->avr->io_port; io && !board->uart; io = io->next) {
        avr_uart_t *uart = (avr_uart_t *)(void *)io; // it is the first member of one
        if (strcmp(io->kind, "uart") == 0 && uart->name == '0')
            board->uart = uart;
    }
    board->spi_in = avr_io_getirq(board->avr, AVR_IOCTL_SPI_GETIRQ(spi), SPI_IRQ_INPUT);
    on(board, AVR_IOCTL_SPI_GETIRQ(spi), SPI_IRQ_OUTPUT, on_spi);
    avr_register_io_write(board->avr, SPDR_AT, on_spdr, board);
    for (char port = 'A'; port <= 'D'; port++) {
        if (!avr_io_getirq(board->avr, AVR_IOCTL_IOPORT_GETIRQ(port), 0))
            continue;
        on(board, AVR_IOCTL_IOPORT_GETIRQ(port), IOPORT_IRQ_REG_PORT, on_port);
        on(board, AVR_IOCTL_IOPORT_GETIRQ(port), IOPORT_IRQ_DIRECTION_ALL, on_port);
    }
}

static void be_quiet(avr_t *avr, const int level, const char *format, va_list arguments)
{
    (void)avr, (void)level, (void)format, (void)arguments;
}

struct avr_board *avr_board_open(const char *mcu, const char *firmware, struct cm_sim *sim)
{
    struct avr_board *board = calloc(1, sizeof *board);
    elf_firmware_t image;
    memset(&image, 0, sizeof image);
    avr_global_logger_set(be_quiet);
    if (!board || !pty_line_open(&board->line, O_NONBLOCK) ||
        elf_read_firmware(firmware, &image) != 0 || !(board->avr = avr_make_mcu_by_name(mcu))) {
        fprintf(stderr, "%s cannot run %s\n", mcu, firmware);
        exit(3);
    }
    avr_init(board->avr);
    image.frequency = HZ;
    avr_load_firmware(board->avr, &image);
    board->avr->frequency = HZ;
    board->avr->vcc = board->avr->avcc = board->avr->aref = 5000;
    board->target = cm_sim_port(sim);
    board->target_us = board->target->lines->now_us(board->target);
    bool is_large = strcmp(mcu, "atmega1284p") == 0;
    const struct wire *wires = is_large ? WIRES_1284P : WIRES_328P;
    size_t bytes = is_large ? sizeof WIRES_1284P : sizeof WIRES_328P;
    memcpy(board->wires, wires, bytes);
    board->wire_count = bytes / sizeof *wires;
    for (size_t i = 0; i < board->wire_count; i++)
        board->wires[i].level = CM_RELEASED;
    connect(board);
    board->free_from = (uint16_t)(RAM_START + image.datasize + image.bsssize);
    memset(board->avr->data + board->free_from, PAINT, board->avr->ramend + 1u - board->free_from);
    board->begun_ns = host_ns();
    show_inputs(board);
    return board;
}

const char *avr_board_device(const struct avr_board *board)
{
    return board->line.device;
}

int avr_board_held(const struct avr_board *board)
{
    return board->line.held;
}

/* The target's supply, halved, is on the first analogue input. */
static void show_supply(struct avr_board *board)
{
    uint16_t mv = 0;
    if (board->target->lines->sense(board->target, CM_LINE_SUPPLY, &mv) == CM_OK)
        avr_raise_irq(avr_io_getirq(board->avr, AVR_IOCTL_ADC_GETIRQ, ADC_IRQ_ADC0), mv / 2u);
}

bool avr_board_run(struct avr_board *board, unsigned pace)
{
    avr_t *avr = board->avr;
    avr_cycle_count_t end = avr->cycle + SLICE;
    feed_uart(board);
    show_supply(board);
    while (avr->cycle < end) {
        int state = avr_run(avr);
        if (state == cpu_Done || state == cpu_Crashed)
            return false;
    }
    keep_up(board);
    if (pace == AVR_BOARD_UNPACED)
        return true;
    uint64_t due = board->begun_ns + avr->cycle * (1000 / MHZ) / pace, now = host_ns();
    if (due > now) {
        const struct timespec wait = {0, (long)(due - now)};
        nanosleep(&wait, NULL);
    } else {
        board->begun_ns += now - due; // what was missed is not made up for
    }
    return true;
}

uint64_t avr_board_cycles(const struct avr_board *board)
{
    return board->avr->cycle;
}

/* What was written over the paint. */
uint32_t avr_board_stack(const struct avr_board *board)
{
    uint32_t at = board->free_from, end = board->avr->ramend + 1u;
    while (at < end && board->avr->data[at] == PAINT)
        at++;
    return end - at;
}

uint32_t avr_board_ram(const struct avr_board *board)
{
    return board->free_from - RAM_START + avr_board_stack(board);
}

void avr_board_hold(struct avr_board *board, char port, uint8_t bit, bool high)
{
    const struct wire wire = {port, bit, 0, 0};
    set_pin(board, &wire, high);
}

bool avr_board_shows(struct avr_board *board, char port, uint8_t bit)
{
    avr_ioport_state_t state;
    avr_ioctl(board->avr, AVR_IOCTL_IOPORT_GETSTATE(port), &state);
    return state.ddr & state.port & 1u << bit;
}

static void move_eeprom(struct avr_board *board, uint32_t operation, uint8_t *bytes, uint32_t count)
{
    avr_eeprom_desc_t place = {.ee = bytes, .offset = 0, .size = count};
    avr_ioctl(board->avr, operation, &place);
}

void avr_board_read_eeprom(struct avr_board *board, uint8_t *bytes, uint32_t count)
{
    move_eeprom(board, AVR_IOCTL_EEPROM_GET, bytes, count);
}

void avr_board_write_eeprom(struct avr_board *board, const uint8_t *bytes, uint32_t count)
{
    move_eeprom(board, AVR_IOCTL_EEPROM_SET, (uint8_t *)(uintptr_t)bytes, count);
}

void avr_board_reset(struct avr_board *board)
{
    avr_reset(board->avr);
    drive(board);
}

void avr_board_close(struct avr_board *board)
{
    pty_line_close(&board->line);
    avr_terminate(board->avr);
    free(board);
}
