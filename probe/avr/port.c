/*
 * Lines and SPI of an AVR board.
 *
 * Data sheet, "SPI": the clock is F_CPU divided by 2 to 128. Slower targets get a clock that is
 * made here, on the same pins with the SPI switched off.
 */
#include "board.h"

/* Those without a pin are all zero. */
static const struct pin PINS[] PROGMEM = {
    [CM_LINE_RESET] = RESET_PIN, [CM_LINE_SCK] = SCK_PIN,       [CM_LINE_MOSI] = MOSI_PIN,
    [CM_LINE_MISO] = MISO_PIN,   [CM_LINE_SELECT] = SELECT_PIN, [CM_LINE_WP] = WP_PIN,
    [CM_LINE_HOLD] = HOLD_PIN,   [CM_LINE_SDA] = SDA_PIN,       [CM_LINE_SCL] = SCL_PIN,
#if HAS_PARALLEL
    [CM_LINE_CE] = CE_PIN,       [CM_LINE_OE] = OE_PIN,         [CM_LINE_WE] = WE_PIN,
    [CM_LINE_A9_ID] = A9_ID_PIN, [CM_LINE_VPP] = VPP_PIN,       [CM_LINE_LATCH] = LATCH_PIN,
#endif
};

static const struct pin SCK = SCK_PIN, MOSI = MOSI_PIN, MISO = MISO_PIN;

enum { SLOWEST = 7 }; /* F_CPU is divided by 2 to the power of 1 to 7 */

/* Of the clock that is set: for the SPI, or half a period of our own. */
static uint8_t control, speed;
static uint16_t half_us;

/* Without a pin, `in` is NULL. */
static struct pin pin_of(enum cm_line line)
{
    static const struct pin NONE = {0, 0};
    return (uint8_t)line < sizeof PINS / sizeof PINS[0] ? pin_from(&PINS[line]) : NONE;
}

/* --- lines ------------------------------------------------------------------------------- */

static enum cm_status set_line(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    struct pin pin = pin_of(line);
    (void)port;
    if (!pin.in)
        return CM_PORT_LACKS;
    if (line == CM_LINE_SCK || line == CM_LINE_MOSI)
        SPCR = 0; // it would hold them
    if (level == CM_RELEASED)
        pin_release(pin);
    else if (level == CM_HIGH)
        pin_high(pin);
    else
        pin_low(pin);
    return CM_OK;
}

static enum cm_status sense(const struct cm_port *port, enum cm_line line, uint16_t *value)
{
    struct pin pin = pin_of(line);
    (void)port;
    if (line == CM_LINE_SUPPLY)
        *value = supply_mv();
    else if (pin.in)
        *value = pin_get(pin);
    else
        return CM_PORT_LACKS;
    return CM_OK;
}

/* --- SPI --------------------------------------------------------------------------------- */

/* The fastest that is not faster than wanted. */
static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    uint8_t power = 1;
    (void)port;
    pin_low(SCK);
    pin_low(MOSI);
    while (power <= SLOWEST && F_CPU >> power > want_hz)
        power++;
    if (power > SLOWEST) {
        half_us = (uint16_t)((500000 + want_hz - 1) / want_hz);
        control = 0;
        SPCR = 0;
        *real_hz = 500000u / half_us;
        return CM_OK;
    }
    *real_hz = F_CPU >> power;
    // SPR1 SPR0 and SPI2X: 4, 16, 64, 128, and half of each of the first three
    uint8_t rate = (uint8_t)((power - 1) / 2);
    bool is_doubled = power & 1 && power != SLOWEST;
    control = (uint8_t)(1 << SPE | 1 << MSTR | rate);
    speed = is_doubled ? 1 << SPI2X : 0;
    return CM_OK;
}

static uint8_t shift_slowly(uint8_t out)
{
    uint8_t in = 0;
    for (uint8_t mask = 0x80; mask; mask >>= 1) {
        if (out & mask)
            pin_high(MOSI);
        else
            pin_low(MOSI);
        clock_wait_us(0, half_us);
        if (pin_get(MISO))
            in |= mask;
        pin_high(SCK);
        clock_wait_us(0, half_us);
        pin_low(SCK);
    }
    return in;
}

static inline uint8_t shift_byte(uint8_t out)
{
    SPDR = out;
    while (!(SPSR & 1 << SPIF))
        continue;
    return SPDR;
}

static enum cm_status shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                            uint32_t bytes)
{
    (void)port;
    SPCR = control;
    SPSR = speed;
    for (uint16_t left = (uint16_t)bytes; left; left--) {
        uint8_t byte = out ? *out++ : 0;
        byte = control ? shift_byte(byte) : shift_slowly(byte);
        if (in)
            *in++ = byte;
    }
    return CM_OK;
}

/* --- the port ---------------------------------------------------------------------------- */

static const struct cm_lines LINES = {
    .line = set_line, .sense = sense, .wait_us = clock_wait_us, .now_us = clock_now_us};
static const struct cm_spi SPI_TABLE = {.clock = set_clock, .shift = shift};
static struct cm_port_state state;
const struct cm_port board_port = {
    .lines = &LINES,
    .spi = &SPI_TABLE,
    .i2c = &board_i2c,
#if HAS_PARALLEL
    .parallel = &board_parallel,
#endif
    .state = &state,
    .traits = {.lines = BOARD_LINES,
#if HAS_PARALLEL
               .data_lines = 8,
               .address_lines = ADDRESS_LINES,
#endif
               .senses = BOARD_LINES | CM_LINE_BIT(CM_LINE_MISO) | CM_LINE_BIT(CM_LINE_SUPPLY),
               .clock_max_hz = F_CPU / 2},
};
