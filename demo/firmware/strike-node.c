/*
 * The strike node of Larkspur Carillon: one node a bell. It listens on the carillon's one-wire line
 * (PB2, 2400 baud, 8N1), and when a strike for its own number comes, it drives its hammer's coil
 * (PA0) for a time that the wanted loudness gives. A lamp (PA1) shows that it lives.
 *
 * A strike is three bytes: 0xB0 + node number, loudness 0 to 127, and the sum of both without its
 * top bit. EEPROM: byte 0 the node's number, byte 1 the coil's trim in percent, bytes 2 to 9 the
 * bell's name.
 */
#include <avr/eeprom.h>
#include <avr/interrupt.h>
#include <avr/io.h>
#include <avr/pgmspace.h>
#include <avr/signature.h> // the ELF file says which chip it is for
#include <avr/sleep.h>
#include <avr/wdt.h>
#include <util/delay.h>

#ifndef VERSION
#define VERSION "1.4"
#endif

#ifdef WITH_FUSES
#include <avr/fuse.h>
FUSES = {.low = 0xE2, .high = 0xD5, .extended = 0xFE}; // as recipes/strike-node.yaml has them
#endif

enum {
    COIL = _BV(PA0),
    LAMP = _BV(PA1),
    LINE = _BV(PB2),
    STRIKE = 0xB0,
    BIT_US = 417,
    SETTLE_MS = 2
};

const char BANNER[] PROGMEM = "Larkspur Carillon strike node " VERSION;

/* Coil time in units of 0.1 ms by loudness: a bell answers to the square of the hammer's speed. */
#define CURVE(n) (uint16_t)(60 + (n) * (n) / 54 + (n) / 3)
#define CURVE8(n)                                                                                  \
    CURVE(n), CURVE(n + 1), CURVE(n + 2), CURVE(n + 3), CURVE(n + 4), CURVE(n + 5), CURVE(n + 6),  \
        CURVE(n + 7)
static const uint16_t COIL_TIMES[128] PROGMEM = {
    CURVE8(0UL),  CURVE8(8UL),   CURVE8(16UL),  CURVE8(24UL), CURVE8(32UL), CURVE8(40UL),
    CURVE8(48UL), CURVE8(56UL),  CURVE8(64UL),  CURVE8(72UL), CURVE8(80UL), CURVE8(88UL),
    CURVE8(96UL), CURVE8(104UL), CURVE8(112UL), CURVE8(120UL)};

static uint8_t node_number, trim_percent;

static void load_settings(void)
{
    node_number = eeprom_read_byte((const uint8_t *)0) & 0x0F;
    trim_percent = eeprom_read_byte((const uint8_t *)1);
    if (trim_percent < 50 || trim_percent > 150)
        trim_percent = 100;
}

/* One byte off the line, sampled in the middle of each bit. */
static uint8_t receive(void)
{
    uint8_t byte = 0;
    while (PINB & LINE)
        wdt_reset();
    _delay_us(BIT_US * 3 / 2);
    for (uint8_t i = 0; i < 8; i++) {
        byte = byte >> 1 | (PINB & LINE ? 0x80 : 0);
        _delay_us(BIT_US);
    }
    return byte;
}

static void strike(uint8_t loudness)
{
    uint32_t tenths = (uint32_t)pgm_read_word(&COIL_TIMES[loudness]) * trim_percent / 100;
    PORTA |= COIL | LAMP;
    while (tenths--) {
        _delay_us(100);
        wdt_reset();
    }
    PORTA &= (uint8_t)~COIL;
    _delay_ms(SETTLE_MS);
    PORTA &= (uint8_t)~LAMP;
}

#ifdef WITH_SELF_TEST
/* From 1.4 on: three soft strikes after power-on, so that the fitter hears that coil and hammer
 * work. */
static void self_test(void)
{
    for (uint8_t i = 0; i < 3; i++) {
        strike((uint8_t)(10 + 5 * i));
        for (uint8_t j = 0; j < 30; j++) {
            _delay_ms(10);
            wdt_reset();
        }
    }
}
#endif

int main(void)
{
    DDRA = COIL | LAMP;
    PORTB = LINE;
    load_settings();
    wdt_enable(WDTO_2S);
#ifdef WITH_SELF_TEST
    self_test();
#endif
    for (;;) {
        uint8_t address = receive();
        if (address != (uint8_t)(STRIKE + node_number))
            continue;
        uint8_t loudness = receive(), check = receive();
        if (loudness < 128 && check == ((address + loudness) & 0x7F))
            strike(loudness);
        else if (pgm_read_byte(BANNER)) // a garbled strike: a short blink
            PINA = LAMP;
    }
}
