/* Stands in for avr-libc where a test compiles the demo's boot loader for this computer: an
 * ATtiny84A of arrays. */
#ifndef CM_TEST_AVR_CHIP_H
#define CM_TEST_AVR_CHIP_H

#include <stddef.h>
#include <stdint.h>

enum { SIGNATURE_0 = 0x1E, SIGNATURE_1 = 0x93, SIGNATURE_2 = 0x0C, SPM_PAGESIZE = 64, E2END = 511 };
#define FLASHEND 0x1FFF

extern uint8_t chip_flash[FLASHEND + 1], chip_eeprom[E2END + 1];

/* Registers that the boards use. A pin is read as the line stands at the time. */
#define _BV(bit) (1 << (bit))
enum { PB2 = 2 };
extern uint8_t MCUSR, PORTB, DDRB;
uint8_t chip_pins(void);
#define PINB chip_pins()

/* Self-programming: a word into the page buffer, and what is done with it. */
void boot_page_fill(uint32_t address, uint16_t word);
void boot_page_erase(uint32_t address);
void boot_page_write(uint32_t address);
void boot_spm_busy_wait(void);

#endif
