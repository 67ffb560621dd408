/* Hardware: none. The boot loader's side of a strike node, compiled for this computer: its one-wire
 * line in time, and its reset vector. */
#include "support/support.h"
#include <avr/io.h>
#include <loader.h>
#include <string.h>

enum { BIT_US = 104, MOST_US = 20000, LINE = _BV(PB2), OWN_JUMP = 0x19FE };

uint8_t chip_flash[FLASHEND + 1], chip_eeprom[E2END + 1], MCUSR, PORTB, DDRB;

/* The line, microsecond by microsecond: what somebody else drives, and what the node does. */
static bool theirs_low[MOST_US], ours_low[MOST_US];
static uint32_t now_us;
static uint8_t page[SPM_PAGESIZE];
static jmp_buf out;

void _delay_us(double us)
{
    for (uint32_t end = now_us + (uint32_t)us; now_us < end && now_us < MOST_US; now_us++)
        ours_low[now_us] = (DDRB & LINE) && !(PORTB & LINE);
}

uint8_t chip_pins(void)
{
    bool low = now_us >= MOST_US || theirs_low[now_us] || ((DDRB & LINE) && !(PORTB & LINE));
    return low ? 0 : LINE;
}

void boot_page_fill(uint32_t address, uint16_t word)
{
    page[address % SPM_PAGESIZE] = (uint8_t)word;
    page[address % SPM_PAGESIZE + 1] = (uint8_t)(word >> 8);
}

void boot_page_erase(uint32_t address)
{
    memset(chip_flash + address, 0xFF, SPM_PAGESIZE);
}

void boot_page_write(uint32_t address)
{
    for (int i = 0; i < SPM_PAGESIZE; i++)
        chip_flash[address + (uint32_t)i] &= page[i];
    memset(page, 0xFF, sizeof page); // as the part does after a write
}

void boot_spm_busy_wait(void) {}

void application(void)
{
    longjmp(out, 1);
}

static void begin(void)
{
    memset(theirs_low, 0, sizeof theirs_low);
    memset(ours_low, 0, sizeof ours_low);
    memset(chip_flash, 0xFF, sizeof chip_flash);
    memset(page, 0xFF, sizeof page);
    now_us = 0;
    board_begin();
}

/* Somebody sends a byte, with bits of so many microseconds: start low, eight bits from the lowest
 * on, stop high. */
static void send(uint32_t at_us, uint8_t byte, uint32_t bit_us)
{
    uint16_t frame = (uint16_t)(0x200 | byte << 1);
    for (uint32_t bit = 0; bit < 10; bit++) {
        for (uint32_t us = 0; us < bit_us; us++)
            theirs_low[at_us + bit * bit_us + us] = !(frame >> bit & 1);
    }
}

static void every_byte_is_heard_also_from_clocks_that_are_off(void **state)
{
    static const uint32_t BITS_US[] = {BIT_US, BIT_US * 97 / 100, BIT_US * 103 / 100};
    (void)state;
    for (int speed = 0; speed < 3; speed++) {
        for (unsigned byte = 0; byte < 256; byte++) {
            uint8_t heard = 0;
            begin();
            send(333, (uint8_t)byte, BITS_US[speed]);
            assert_true(board_receive(&heard, 10));
            assert_int_equal(heard, byte);
        }
    }
}

static void silence_is_not_waited_for_forever(void **state)
{
    uint8_t heard;
    (void)state;
    begin();
    assert_false(board_receive(&heard, 10));
    assert_in_range(now_us, 8000, 12000);
}

static void what_it_says_can_be_read_in_the_middle_of_each_bit(void **state)
{
    (void)state;
    for (unsigned byte = 0; byte < 256; byte++) {
        begin();
        _delay_us(50);
        board_send((uint8_t)byte);
        uint16_t frame = (uint16_t)(0x200 | byte << 1);
        for (uint32_t bit = 0; bit < 10; bit++)
            assert_int_equal(ours_low[50 + BIT_US / 2 + bit * BIT_US - bit * 2],
                             !(frame >> bit & 1));
        assert_int_equal(DDRB & LINE, 0); // let go: others may speak
        assert_int_equal(PORTB & LINE, LINE);
    }
}

/* Page 0 through the loader ends as the same flash that a recipe makes of loader and application.
 */
static void the_reset_vector_stays_the_loaders(void **state)
{
    uint16_t vector = 0xC02A, own_jump;
    (void)state;
    begin();
    assert_false(board_has_application());
    for (uint16_t at = 0; at < SPM_PAGESIZE; at += 2)
        board_fill(at, at == 0 ? vector : (uint16_t)(0x9500 + at));
    board_write(0);
    assert_true(cm_avr_lead_reset_to(&cm_attiny84a.part, 0x1A00, &vector, &own_jump));
    assert_int_equal(chip_flash[0] | chip_flash[1] << 8, vector);
    assert_int_equal(chip_flash[OWN_JUMP] | chip_flash[OWN_JUMP + 1] << 8, own_jump);
    assert_int_equal(chip_flash[2] | chip_flash[3] << 8, 0x9502);
    assert_int_equal(chip_flash[OWN_JUMP - 1], 0xFF);
    assert_true(board_has_application());
    if (setjmp(out) == 0) {
        board_run();
        fail_msg("the application was not started");
    }
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(every_byte_is_heard_also_from_clocks_that_are_off),
        cmocka_unit_test(silence_is_not_waited_for_forever),
        cmocka_unit_test(what_it_says_can_be_read_in_the_middle_of_each_bit),
        cmocka_unit_test(the_reset_vector_stays_the_loaders),
    };
    return cmocka_run_group_tests_name("loader-node", tests, NULL, NULL);
}
