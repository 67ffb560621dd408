/*
 * Lines of an AVR board, and its port.
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

/* --- the port ---------------------------------------------------------------------------- */

static const struct cm_lines LINES = {
    .line = set_line, .sense = sense, .wait_us = clock_wait_us, .now_us = clock_now_us};
static struct cm_port_state state;
const struct cm_port board_port = {
    .lines = &LINES,
    .spi = &board_spi,
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
