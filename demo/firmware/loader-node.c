/*
 * The loader on a strike node (ATtiny84A, 8 MHz), which has no boot section: the top 1536 bytes
 * from 1A00 on. It talks over the carillon's one-wire line (PB2, 9600 baud, 8N1, open drain). Needs
 * the self-programming fuse.
 *
 * The reset vector is the loader's: word 0 is a jump to it. The application's own jump is kept in
 * the word before the loader (19FE), and the loader ends by going there. Whoever joins the two
 * images does the same; so does this loader when it writes page 0.
 */
#include "loader.h"
#include <avr/boot.h>
#include <avr/io.h>
#include <avr/pgmspace.h>
#include <avr/wdt.h>
#include <util/delay.h>

enum { LOADER = 0x1A00, OWN_JUMP = LOADER - 2, RJMP = 0xC000, REACH = 0x0FFF, LINE = _BV(PB2) };
#define BIT_US 104

const uint32_t application_end = OWN_JUMP - OWN_JUMP % SPM_PAGESIZE;

static uint16_t own_jump;
static bool has_own_jump;

void board_begin(void)
{
    MCUSR = 0;
    wdt_disable();
    PORTB = LINE; // pulled up, as an input
}

/* Low drives the line, high lets it go. */
static void drive(bool high)
{
    if (high) {
        DDRB &= (uint8_t)~LINE;
        PORTB |= LINE;
    } else {
        PORTB &= (uint8_t)~LINE;
        DDRB |= LINE;
    }
    _delay_us(BIT_US - 2);
}

bool board_receive(uint8_t *byte, uint16_t wait_ms)
{
    uint32_t i = wait_ms * 100UL;
    while (PINB & LINE) {
        if (--i == 0)
            return false;
        _delay_us(9);
    }
    _delay_us(BIT_US * 3 / 2 - 4);
    for (uint8_t bit = 0; bit < 8; bit++) {
        *byte = (uint8_t)(*byte >> 1 | (PINB & LINE ? 0x80 : 0));
        _delay_us(BIT_US - 1);
    }
    return true;
}

void board_send(uint8_t byte)
{
    drive(false);
    for (uint8_t bit = 0; bit < 8; bit++, byte >>= 1)
        drive(byte & 1);
    drive(true);
}

bool board_has_application(void)
{
    return pgm_read_word(OWN_JUMP) != 0xFFFF;
}

void board_run(void)
{
    application(); // by the word before this loader
}

/* An rjmp counts in words from the one after it, and wraps around the 8 KiB of flash. */
static uint16_t jump(uint16_t from, uint16_t to)
{
    return (uint16_t)(RJMP | (((to - from) / 2 - 1) & REACH));
}

void board_fill(uint32_t address, uint16_t word)
{
    if (address == 0) {
        own_jump = jump(OWN_JUMP, (uint16_t)(((word & REACH) + 1) * 2));
        has_own_jump = true;
        word = jump(0, LOADER);
    }
    boot_page_fill(address, word);
}

static void write_page(uint16_t page)
{
    boot_page_erase(page);
    boot_spm_busy_wait();
    boot_page_write(page);
    boot_spm_busy_wait();
}

void board_write(uint32_t page)
{
    write_page((uint16_t)page);
    if (page != 0 || !has_own_jump)
        return;
    boot_page_fill(OWN_JUMP, own_jump);
    write_page(application_end);
}
