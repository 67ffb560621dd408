/* Hardware: the simulated AVR itself, talked to byte by byte: what the data sheet forbids must not
 * pass here. */
#include "support/support.h"
#include <string.h>

enum { HALF_NS = 2500 }; // 200 kHz

static struct avr_model model;

static uint32_t say4(uint8_t a, uint8_t b, uint8_t c, uint8_t d)
{
    const uint8_t code[4] = {a, b, c, d};
    uint32_t answer = 0;
    for (int i = 0; i < 4; i++)
        answer = answer << 8 | avr_model_byte(&model, code[i], HALF_NS);
    return answer;
}

static void pass_us(uint32_t us)
{
    model.now_ns += us * 1000ull;
}

static void power_on(const struct cm_avr_part *row)
{
    assert_true(avr_model_init(&model, row));
    avr_model_supply(&model, 5000);
    pass_us(1000);
}

static void enter(void)
{
    avr_model_reset(&model, true);
    pass_us(20000);
    assert_int_equal(say4(0xAC, 0x53, 0, 0) & 0xFFFF00, 0xAC5300);
}

static int start(void **state)
{
    (void)state;
    power_on(&cm_attiny84a);
    return 0;
}

static int stop(void **state)
{
    (void)state;
    avr_model_free(&model);
    return 0;
}

static void it_says_who_it_is_only_after_programming_enable(void **state)
{
    (void)state;
    avr_model_reset(&model, true);
    pass_us(20000);
    assert_int_not_equal(say4(0x30, 0, 0, 0) & 0xFF, 0x1E);
    avr_model_reset(&model, false);
    pass_us(10);
    enter();
    assert_int_equal(say4(0x30, 0, 0, 0) & 0xFF, 0x1E);
    assert_int_equal(say4(0x30, 0, 1, 0) & 0xFF, 0x93);
    assert_int_equal(say4(0x30, 0, 2, 0) & 0xFF, 0x0C);
    assert_int_equal(avr_model_breaches(&model), 0);
}

static void twenty_milliseconds_are_insisted_on(void **state)
{
    (void)state;
    avr_model_reset(&model, true);
    pass_us(19000);
    say4(0xAC, 0x53, 0, 0);
    assert_int_equal(model.breaches[BREACH_ENABLE_TOO_EARLY], 1);
    assert_int_not_equal(say4(0x30, 0, 0, 0) & 0xFF, 0x1E);
}

static void a_pulse_of_less_than_two_cycles_is_not_seen(void **state)
{
    (void)state;
    enter();
    avr_model_reset(&model, false);
    pass_us(1); // one cycle at 1 MHz
    avr_model_reset(&model, true);
    assert_int_equal(model.breaches[BREACH_RESET_PULSE_SHORT], 1);
}

static void a_fast_clock_throws_it_out_of_step(void **state)
{
    (void)state;
    enter();
    avr_model_byte(&model, 0x30, 1999); // a half of 1.999 us at 1 MHz: not more than two cycles
    assert_int_equal(model.breaches[BREACH_SCK_TOO_FAST], 1);
    assert_int_not_equal(say4(0x30, 0, 0, 0) & 0xFF, 0x1E);
}

static void it_must_not_be_disturbed_while_busy(void **state)
{
    (void)state;
    enter();
    say4(0xAC, 0x80, 0, 0);
    assert_int_equal(say4(0xF0, 0, 0, 0) & 1, 1);
    say4(0x30, 0, 0, 0);
    assert_int_equal(model.breaches[BREACH_WHILE_BUSY], 1);
    pass_us(9000);
    assert_int_equal(say4(0xF0, 0, 0, 0) & 1, 0);
}

static void flash_bits_only_fall(void **state)
{
    (void)state;
    enter();
    for (int round = 0; round < 2; round++) {
        say4(0x40, 0, 0, round ? 0xF0 : 0x0F);
        say4(0x48, 0, 0, 0xAA);
        say4(0x4C, 0, 0, 0);
        pass_us(4500);
    }
    assert_int_equal(model.flash[0], 0x00);
    assert_int_equal(model.flash[1], 0xAA);
    assert_int_equal(model.flash[2], 0xFF);
    assert_int_equal(model.breaches[BREACH_NOT_ERASED], 1);
    say4(0x48, 0, 1, 0);
    assert_int_equal(model.breaches[BREACH_HIGH_BEFORE_LOW], 1);
    say4(0x4C, 0x10, 0, 0); // word 4096 of 4096
    assert_int_equal(model.breaches[BREACH_ADDRESS], 1);
}

static void locked_is_locked_until_erased(void **state)
{
    (void)state;
    model.flash[0] = 0x77;
    enter();
    say4(0xAC, 0xE0, 0, 0xFC);
    pass_us(4500);
    assert_int_equal(say4(0x20, 0, 0, 0) & 0xFF, 0xFF);
    say4(0xC0, 0, 0, 1);
    say4(0xAC, 0xA0, 0, 0x62);
    assert_int_equal(model.breaches[BREACH_LOCKED], 2);
    assert_int_equal(model.eeprom[0], 0xFF);
    say4(0xAC, 0xE0, 0, 0xFF); // lock bits cannot be set back
    pass_us(4500);
    assert_int_equal(model.lock, 0xFC);
    say4(0xAC, 0x80, 0, 0);
    pass_us(9000);
    assert_int_equal(model.lock, 0xFF);
    assert_int_equal(model.flash[0], 0xFF);
}

static void new_fuses_count_from_the_next_reset(void **state)
{
    (void)state;
    enter();
    assert_int_equal(model.cpu_hz, 1000000);
    say4(0xAC, 0xA0, 0, 0xE2); // no division by eight
    pass_us(4500);
    assert_int_equal(model.cpu_hz, 1000000);
    avr_model_reset(&model, false);
    assert_int_equal(model.cpu_hz, 8000000);
    say4(0xAC, 0xA4, 0, 0x00);
    assert_int_equal(model.breaches[BREACH_RESERVED_FUSE], 0); // it did not listen
    pass_us(10);
    enter();
    say4(0xAC, 0xA4, 0, 0x00);
    assert_int_equal(model.breaches[BREACH_RESERVED_FUSE], 1);
}

static void what_a_part_does_not_have_it_does_not_do(void **state)
{
    (void)state;
    enter();
    say4(0x4D, 0, 1, 0);
    say4(0x12, 0x34, 0x56, 0x78);
    assert_int_equal(model.breaches[BREACH_UNKNOWN_INSTRUCTION], 2);
    avr_model_free(&model);
    power_on(&cm_atmega8);
    enter();
    say4(0xF0, 0, 0, 0); // no RDY/BSY
    say4(0xC1, 0, 0, 0); // no EEPROM pages
    assert_int_equal(model.breaches[BREACH_UNKNOWN_INSTRUCTION], 2);
}

static void large_parts_want_the_extended_address(void **state)
{
    (void)state;
    avr_model_free(&model);
    power_on(&cm_atmega2560);
    model.flash[0x20000] = 0x42;
    enter();
    say4(0x20, 0, 0, 0);
    assert_int_equal(model.breaches[BREACH_EXTENDED_ADDRESS], 1);
    say4(0x4D, 0, 1, 0);
    assert_int_equal(say4(0x20, 0, 0, 0) & 0xFF, 0x42);
}

static void clocks_follow_the_fuses(void **state)
{
    static const struct {
        const struct cm_avr_part *row;
        uint8_t low;
        uint32_t hz;
    } CASES[] = {
        {&cm_attiny84a, 0x62, 1000000},  {&cm_attiny84a, 0x64, 16000},
        {&cm_attiny85, 0xE1, 16000000},  {&cm_attiny13a, 0x6A, 1200000},
        {&cm_atmega8, 0xE4, 8000000},    {&cm_atmega8, 0xE1, 1000000},
        {&cm_atmega328p, 0x62, 1000000}, {&cm_atmega328p, 0xFF, 0},
        {&cm_attiny2313, 0x64, 1000000}, {&cm_attiny841, 0x42, 1000000},
    };
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        uint8_t fuses[3] = {CASES[i].low, 0xFF, 0xFF};
        assert_int_equal(avr_model_clock(CASES[i].row, fuses, 0), CASES[i].hz);
    }
}

int main(void)
{
#define MODEL_TEST(name) cmocka_unit_test_setup_teardown(name, start, stop)
    const struct CMUnitTest tests[] = {
        MODEL_TEST(it_says_who_it_is_only_after_programming_enable),
        MODEL_TEST(twenty_milliseconds_are_insisted_on),
        MODEL_TEST(a_pulse_of_less_than_two_cycles_is_not_seen),
        MODEL_TEST(a_fast_clock_throws_it_out_of_step),
        MODEL_TEST(it_must_not_be_disturbed_while_busy),
        MODEL_TEST(flash_bits_only_fall),
        MODEL_TEST(locked_is_locked_until_erased),
        MODEL_TEST(new_fuses_count_from_the_next_reset),
        MODEL_TEST(what_a_part_does_not_have_it_does_not_do),
        MODEL_TEST(large_parts_want_the_extended_address),
        MODEL_TEST(clocks_follow_the_fuses),
    };
    return cmocka_run_group_tests_name("model", tests, NULL, NULL);
}
