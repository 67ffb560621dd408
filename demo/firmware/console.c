/*
 * The console of Larkspur Carillon (ATmega1284P, 16 MHz): plays a change ringing on eight bells
 * over the one-wire line (UART 1, 2400 baud). A strike is three bytes, as the strike node wants
 * them.
 */
#include <avr/eeprom.h>
#include <avr/io.h>
#include <avr/pgmspace.h>
#include <avr/signature.h>
#include <util/delay.h>

enum { STRIKE = 0xB0, BELLS = 8, LOUDNESS = 96, LAMP = _BV(PB0), BEAT_MS = 280 };

const char BANNER[] PROGMEM = "Larkspur Carillon console 2.0";

/* Plain hunt on eight: each row exchanges neighbours, in turn from the first and from the second
 * bell on. */
static void hunt(uint8_t *row, uint8_t from)
{
    for (uint8_t i = from; i + 1 < BELLS; i += 2) {
        uint8_t bell = row[i];
        row[i] = row[i + 1];
        row[i + 1] = bell;
    }
}

static void send(uint8_t byte)
{
    while (!(UCSR1A & _BV(UDRE1)))
        ;
    UDR1 = byte;
}

static void strike(uint8_t bell)
{
    uint8_t address = (uint8_t)(STRIKE + bell);
    send(address);
    send(LOUDNESS);
    send((uint8_t)((address + LOUDNESS) & 0x7F));
    PINB = LAMP;
}

int main(void)
{
    uint8_t row[BELLS], turn = 0;
    uint8_t beat = eeprom_read_byte((const uint8_t *)0); // in units of 4 ms
    DDRB = LAMP;
    UBRR1 = 416;
    UCSR1B = _BV(TXEN1);
    for (uint8_t i = 0; i < BELLS; i++)
        row[i] = i;
    for (;;) {
        for (uint8_t i = 0; i < BELLS && pgm_read_byte(BANNER); i++) {
            strike(row[i]);
            for (uint8_t unit = beat > 10 && beat < 250 ? beat : BEAT_MS / 4; unit > 0; unit--)
                _delay_ms(4);
        }
        hunt(row, turn);
        turn ^= 1;
    }
}
