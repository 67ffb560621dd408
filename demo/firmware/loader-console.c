/*
 * The loader on the console (ATmega1284P, 16 MHz crystal): UART 0 at 38400 baud, in the hardware
 * boot section of 2048 bytes at 1F800. The fuses start it there (boot-reset), and the application's
 * own reset vector stays as it is.
 */
#include "loader.h"
#include <avr/boot.h>
#include <avr/io.h>
#include <avr/pgmspace.h>
#include <avr/wdt.h>
#include <util/delay.h>

enum { BOOT_BYTES = 2048, BAUD_DIVIDER = 51 };

const uint32_t application_end = FLASHEND + 1UL - BOOT_BYTES;

void board_begin(void)
{
    MCUSR = 0;
    wdt_disable(); // a watchdog reset leaves it running
    UCSR0A = _BV(U2X0);
    UBRR0 = BAUD_DIVIDER; // 16 MHz / 8 / 52 = 38462
    UCSR0B = _BV(RXEN0) | _BV(TXEN0);
}

bool board_receive(uint8_t *byte, uint16_t wait_ms)
{
    for (uint32_t i = wait_ms * 50UL; i > 0; i--) {
        if (UCSR0A & _BV(RXC0)) {
            *byte = UDR0;
            return true;
        }
        _delay_us(20);
    }
    return false;
}

void board_send(uint8_t byte)
{
    while (!(UCSR0A & _BV(UDRE0)))
        ;
    UCSR0A |= _BV(TXC0);
    UDR0 = byte;
}

bool board_has_application(void)
{
    return pgm_read_word(0) != 0xFFFF;
}

void board_run(void)
{
    while (!(UCSR0A & _BV(TXC0)))
        ; // the last byte of an answer
    UCSR0B = 0;
    application(); // by its own reset vector
}

void board_fill(uint32_t address, uint16_t word)
{
    boot_page_fill(address, word);
}

void board_write(uint32_t page)
{
    boot_page_erase(page);
    boot_spm_busy_wait();
    boot_page_write(page);
    boot_spm_busy_wait();
    boot_rww_enable();
}
