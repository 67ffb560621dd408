/*
 * A board with a Cortex-M0+ (STM32G031x8, 3.3 V) as a probe, without any library of its maker.
 * Source: RM0444, "STM32G0x1 reference manual": sections RCC, GPIO, USART, SPI; and the Armv6-M
 * manual for SysTick and vectors.
 *
 * It is compiled, linked and measured by the tests. Nobody has run it on the chip yet: pins and
 * registers are from the manual, so look at them with a scope before a target is connected.
 *
 *     target     pin         target     pin          others           pin
 *     RESET      PA0         WP         PB0          computer         PA2 (TX), PA3 (RX)
 *     SELECT     PA4         HOLD       PB1          in a session     PC6
 *     SCK        PA5         SDA        PB7          busy             PA8
 *     MISO       PA6         SCL        PB6          error            PB3
 *     MOSI       PA7
 *
 * The processor runs at 16 MHz from its own oscillator, as it starts.
 */
#include <coldmint/probe.h>

#define REGISTER(address) (*(volatile uint32_t *)(address))
#define RCC_IOPENR        REGISTER(0x40021034u)
#define RCC_APBENR1       REGISTER(0x4002103Cu)
#define RCC_APBENR2       REGISTER(0x40021040u)
#define USART2(offset)    REGISTER(0x40004400u + (offset))
#define SPI1(offset)      REGISTER(0x40013000u + (offset))
#define SPI1_DATA         (*(volatile uint8_t *)0x4001300Cu)
#define SYSTICK(offset)   REGISTER(0xE000E010u + (offset))
#define NVIC_ISER         REGISTER(0xE000E100u)

enum { CPU_HZ = 16000000, BAUD = 1000000, MS_CYCLES = CPU_HZ / 1000, US_CYCLES = CPU_HZ / 1000000 };
enum { USART2_IRQ = 28, USART2_CLOCK = 1 << 17, SPI1_CLOCK = 1 << 12, PORTS_A_B_C = 7 };
enum { CR1 = 0x00, CR2 = 0x04, BRR = 0x0C, ISR = 0x1C, ICR = 0x20, RDR = 0x24, TDR = 0x28 };
enum { USART_ON = 1 << 0 | 1 << 2 | 1 << 3 | 1 << 5, RXNE = 1 << 5, TXE = 1 << 7, ERRORS = 0x0F };
enum { SPI_MASTER = 1 << 2 | 1 << 8 | 1 << 9, SPI_ON = 1 << 6, SPI_BYTES = 7 << 8 | 1 << 12 };
enum { SPI_STATUS = 0x08, SPI_RXNE = 1 << 0 };
enum { MODER = 0, IDR = 4, BSRR = 6, AFRL = 8 }; /* registers of a port, in words */
enum { BATCH_BYTES = 1024 + 256, OPS = 24, WINDOW = 2, BUFFER = BATCH_BYTES + CM_LINK_FRAME };
enum { RING = 256 };

/* --- pins -------------------------------------------------------------------------------- */

struct pin {
    volatile uint32_t *port;
    uint8_t bit;
};
#define PORT_A ((volatile uint32_t *)0x50000000u)
#define PORT_B ((volatile uint32_t *)0x50000400u)
#define PORT_C ((volatile uint32_t *)0x50000800u)

static const struct pin PINS[CM_LINE_COUNT] = {
    [CM_LINE_RESET] = {PORT_A, 0}, [CM_LINE_SELECT] = {PORT_A, 4}, [CM_LINE_SCK] = {PORT_A, 5},
    [CM_LINE_MISO] = {PORT_A, 6},  [CM_LINE_MOSI] = {PORT_A, 7},   [CM_LINE_WP] = {PORT_B, 0},
    [CM_LINE_HOLD] = {PORT_B, 1},  [CM_LINE_SDA] = {PORT_B, 7},    [CM_LINE_SCL] = {PORT_B, 6}};
static const struct pin LAMPS[] = {
    [CM_LAMP_SESSION] = {PORT_C, 6}, [CM_LAMP_BUSY] = {PORT_A, 8}, [CM_LAMP_ERROR] = {PORT_B, 3}};

enum mode { INPUT, OUTPUT, ALTERNATE };

static void set_mode(const struct pin *pin, enum mode mode)
{
    uint32_t mask = 3u << 2 * pin->bit;
    pin->port[MODER] = (pin->port[MODER] & ~mask) | (uint32_t)mode << 2 * pin->bit;
}

static void set_level(const struct pin *pin, bool high)
{
    pin->port[BSRR] = 1u << (pin->bit + (high ? 0 : 16));
    set_mode(pin, OUTPUT);
}

/* --- time: SysTick, a turn a millisecond ------------------------------------------------- */

static volatile uint32_t milliseconds;

void count_millisecond(void);

void count_millisecond(void)
{
    milliseconds++;
}

/* Read until no turn has ended in between. */
static uint32_t now_us(const struct cm_port *port)
{
    uint32_t before, ticks;
    (void)port;
    do {
        before = milliseconds;
        ticks = SYSTICK(8);
    } while (before != milliseconds);
    return before * 1000 + (MS_CYCLES - 1 - ticks) / US_CYCLES;
}

static void wait_us(const struct cm_port *port, uint32_t us)
{
    uint32_t begun = now_us(port);
    while (us && now_us(port) - begun <= us)
        continue;
}

/* --- the port ---------------------------------------------------------------------------- */

static uint32_t spi_control; /* 0: the clock is too slow for the SPI */
static uint32_t half_us;

static enum cm_status set_line(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    (void)port;
    if (line >= CM_LINE_COUNT || !PINS[line].port)
        return CM_PORT_LACKS;
    if (level == CM_RELEASED)
        set_mode(&PINS[line], INPUT);
    else
        set_level(&PINS[line], level == CM_HIGH);
    return CM_OK;
}

static enum cm_status sense(const struct cm_port *port, enum cm_line line, uint16_t *value)
{
    (void)port;
    if (line >= CM_LINE_COUNT || !PINS[line].port)
        return CM_PORT_LACKS;
    *value = PINS[line].port[IDR] >> PINS[line].bit & 1;
    return CM_OK;
}

/* The clock is divided by 2 to 256; below that it is made here. */
static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    const uint32_t fastest_hz = CPU_HZ / 2;
    uint32_t power = 0;
    (void)port;
    set_level(&PINS[CM_LINE_SCK], false);
    set_level(&PINS[CM_LINE_MOSI], false);
    while (power < 8 && fastest_hz >> power > want_hz)
        power++;
    spi_control = power < 8 ? SPI_MASTER | SPI_ON | power << 3 : 0;
    half_us = (500000 + want_hz - 1) / want_hz;
    *real_hz = power < 8 ? fastest_hz >> power : 500000 / half_us;
    return CM_OK;
}

static uint8_t shift_slowly(uint8_t out)
{
    uint8_t in = 0;
    for (uint8_t mask = 0x80; mask; mask >>= 1) {
        uint16_t level = 0;
        set_level(&PINS[CM_LINE_MOSI], out & mask);
        wait_us(NULL, half_us);
        cm_ignore(sense(NULL, CM_LINE_MISO, &level));
        in |= level ? mask : 0;
        set_level(&PINS[CM_LINE_SCK], true);
        wait_us(NULL, half_us);
        set_level(&PINS[CM_LINE_SCK], false);
    }
    return in;
}

static uint8_t shift_byte(uint8_t out)
{
    SPI1_DATA = out;
    while (!(SPI1(SPI_STATUS) & SPI_RXNE))
        continue;
    return SPI1_DATA;
}

static enum cm_status shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                            uint32_t bytes)
{
    (void)port;
    if (spi_control) {
        SPI1(CR1) = spi_control;
        set_mode(&PINS[CM_LINE_SCK], ALTERNATE);
        set_mode(&PINS[CM_LINE_MOSI], ALTERNATE);
        set_mode(&PINS[CM_LINE_MISO], ALTERNATE);
    }
    for (uint32_t i = 0; i < bytes; i++) {
        uint8_t sent = out ? out[i] : 0, came = spi_control ? shift_byte(sent) : shift_slowly(sent);
        if (in)
            in[i] = came;
    }
    return CM_OK;
}

static const struct cm_lines LINES = {
    .line = set_line, .sense = sense, .wait_us = wait_us, .now_us = now_us};
static const struct cm_spi SPI = {.clock = set_clock, .shift = shift};
static struct cm_port_state state;
enum {
    DRIVEN = CM_LINE_BIT(CM_LINE_RESET) | CM_LINE_BIT(CM_LINE_SELECT) | CM_LINE_BIT(CM_LINE_SCK) |
             CM_LINE_BIT(CM_LINE_MOSI) | CM_LINE_BIT(CM_LINE_WP) | CM_LINE_BIT(CM_LINE_HOLD) |
             CM_LINE_BIT(CM_LINE_SDA) | CM_LINE_BIT(CM_LINE_SCL)
};
static const struct cm_port PORT = {
    .lines = &LINES,
    .spi = &SPI,
    .i2c = &cm_i2c_by_lines,
    .state = &state,
    .traits = {.lines = DRIVEN,
               .senses = DRIVEN | CM_LINE_BIT(CM_LINE_MISO),
               .clock_max_hz = CPU_HZ / 2},
};

/* --- the serial line --------------------------------------------------------------------- */

static volatile uint8_t ring[RING];
static volatile uint32_t head, tail;

void take_byte(void);

void take_byte(void)
{
    USART2(ICR) = ERRORS;
    uint8_t byte = (uint8_t)USART2(RDR);
    if (head - tail < RING)
        ring[head++ % RING] = byte;
}

static uint8_t receive(void *context, uint8_t *bytes, uint8_t most)
{
    uint8_t count = 0;
    (void)context;
    while (count < most && head != tail)
        bytes[count++] = ring[tail++ % RING];
    return count;
}

static void send(void *context, const uint8_t *bytes, size_t count)
{
    (void)context;
    for (; count; count--) {
        while (!(USART2(ISR) & TXE))
            continue;
        USART2(TDR) = *bytes++;
    }
}

/* --- the probe --------------------------------------------------------------------------- */

static void light(void *context, enum cm_lamp lamp, bool on)
{
    (void)context;
    set_level(&LAMPS[lamp], on);
}

static uint8_t buffers[WINDOW][BUFFER];
static struct cm_probe_slot slots[WINDOW];
static struct cm_op ops[OPS];
static const struct cm_probe_board BOARD = {
    .name = "Cortex-M0+",
    .port = &PORT,
    .buses = 1 << CM_BUS_SHIFT | 1 << CM_BUS_SPI | 1 << CM_BUS_THREE_WIRE | 1 << CM_BUS_I2C,
    .window = WINDOW,
    .longest_wait_us = 1000,
    .longest_shift = 64,
    .receive = receive,
    .send = send,
    .lamp = light,
    .buffer_bytes = BUFFER,
    .slots = slots,
};

/* SPI1 is alternate function 0 of PA5 to PA7, which they have after a reset; USART2 is 1 of PA2 and
 * PA3. */
static void begin_hardware(void)
{
    static const struct pin TX = {PORT_A, 2}, RX = {PORT_A, 3};
    RCC_IOPENR |= PORTS_A_B_C;
    RCC_APBENR1 |= USART2_CLOCK;
    RCC_APBENR2 |= SPI1_CLOCK;
    PORT_A[AFRL] |= 1u << 4 * TX.bit | 1u << 4 * RX.bit;
    set_mode(&TX, ALTERNATE);
    set_mode(&RX, ALTERNATE);
    SYSTICK(4) = MS_CYCLES - 1;
    SYSTICK(8) = 0;
    SYSTICK(0) = 7; // processor clock, interrupt, on
    USART2(BRR) = CPU_HZ / BAUD;
    USART2(CR1) = USART_ON;
    SPI1(CR2) = SPI_BYTES;
    NVIC_ISER = 1u << USART2_IRQ;
}

int main(void)
{
    static struct cm_probe probe = {.board = &BOARD, .store = {.ops = ops, .most_ops = OPS}};
    for (int i = 0; i < WINDOW; i++)
        slots[i].bytes = buffers[i];
    begin_hardware();
    cm_probe_begin(&probe);
    for (;;)
        cm_probe_step(&probe);
}

/* --- start-up ---------------------------------------------------------------------------- */

extern uint32_t data_begin[], data_end[], bss_begin[], bss_end[], stack_top[];
extern const uint32_t data_image[];
void reset(void);

void reset(void)
{
    uintptr_t data_bytes = (uintptr_t)data_end - (uintptr_t)data_begin,
              bss_bytes = (uintptr_t)bss_end - (uintptr_t)bss_begin;
    for (uintptr_t i = 0; i < data_bytes / sizeof *data_begin; i++)
        data_begin[i] = data_image[i];
    for (uintptr_t i = 0; i < bss_bytes / sizeof *bss_begin; i++)
        bss_begin[i] = 0;
    main();
}

static void stop(void)
{
    for (;;)
        continue;
}

/* The stack, the exceptions of the processor, and the interrupts up to the one that is used. */
__attribute__((section(".vectors"), used)) static void (*const VECTORS[])(void) = {
    [0] = (void (*)(void))(uintptr_t)stack_top,
    [1] = reset,
    [2] = stop,
    [3] = stop,
    [15] = count_millisecond,
    [16 + USART2_IRQ] = take_byte};
