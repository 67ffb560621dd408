/* Hardware: the models of memories in sockets and on two and three wires, by themselves: what a
 * data sheet forbids is counted, and does nothing. */
#include "support/support.h"
#include <stdlib.h>
#include <string.h>

static uint8_t cells[512 * 1024];

/* --- parallel ---------------------------------------------------------------------------- */

enum { NS = 70 };
static struct par_model par;

static void begin(const struct cm_par_part *row, enum par_kind kind)
{
    memset(cells, 0, sizeof cells);
    par_model_init(&par, row, kind, cells);
    par_model_supply(&par, row->part.supply_max_mv);
}

static void put(uint32_t address, uint16_t data)
{
    uint32_t pulse = par.row->times->pulse.low_ns, whole = pulse + par.row->times->pulse.high_ns;
    par_model_write(&par, address, data, pulse,
                    whole > par.row->cycle_ns ? whole : par.row->cycle_ns);
}

static uint16_t get(uint32_t address)
{
    return par_model_read(&par, address, par.row->cycle_ns);
}

static void command(uint8_t last)
{
    put(0x5555, 0xAA);
    put(0x2AAA, 0x55);
    put(0x5555, last);
}

static void pass_ms(unsigned ms)
{
    par.now_ns += ms * 1000000ull;
}

static void assert_breached(enum par_breach kind, uint32_t times)
{
    assert_int_equal(par.breaches[kind], times);
    assert_int_equal(par_model_breaches(&par), times);
}

static void test_a_byte_takes_its_time_and_shows_its_status(void **state)
{
    (void)state;
    begin(&cm_sst39sf040, PAR_FLASH);
    command(0xA0);
    put(0x1234, 0x5A);
    uint16_t first = get(0x1234), second = get(0x1234);
    assert_int_equal(first & 0x80, 0x80); // the complement of bit 7
    assert_int_equal((first ^ second) & 0x40, 0x40);
    put(0x2000, 0x00);
    assert_breached(PAR_BREACH_WHILE_BUSY, 1);
    pass_ms(1);
    assert_int_equal(get(0x1234), 0x5A);
    assert_int_equal(get(0x2000), 0xFF);
}

static void test_commands_are_whole_or_nothing(void **state)
{
    (void)state;
    begin(&cm_sst39sf040, PAR_FLASH);
    put(0x5555, 0xAA);
    put(0x2AAB, 0x55);
    assert_breached(PAR_BREACH_SEQUENCE, 1);
    put(0x5555, 0xA0);
    put(0x1234, 0x00);
    pass_ms(1);
    assert_int_equal(get(0x1234), 0xFF);
    begin(&cm_sst39sf040, PAR_FLASH);
    put(0x555, 0xAA); // fifteen address lines are decoded
    assert_breached(PAR_BREACH_SEQUENCE, 1);
    begin(&cm_am29f040b, PAR_FLASH);
    put(0x555, 0xAA); // eleven here
    put(0x2AA, 0x55);
    put(0x555, 0x90);
    par.now_ns += 1000;
    assert_int_equal(get(0), 0x01);
    assert_int_equal(get(1), 0xA4);
    put(0, 0xF0);
    par.now_ns += 1000;
    assert_int_equal(get(0), 0xFF);
    assert_int_equal(par_model_breaches(&par), 0);
}

static void test_bits_go_to_0_and_sectors_to_1(void **state)
{
    (void)state;
    begin(&cm_sst39sf040, PAR_FLASH);
    par_model_set(&par, 0x1000, 0x0F);
    par_model_set(&par, 0x2000, 0x00);
    command(0xA0);
    put(0x1000, 0xFF);
    pass_ms(1);
    assert_int_equal(get(0x1000), 0x0F);
    assert_breached(PAR_BREACH_NOT_ERASED, 1);
    command(0x80);
    put(0x5555, 0xAA);
    put(0x2AAA, 0x55);
    put(0x1ABC, 0x30);
    assert_int_equal(get(0x1000) & 0x80, 0); // bit 7 is 0 while it erases
    pass_ms(20);
    assert_int_equal(get(0x1000), 0xFF);
    assert_int_equal(get(0x2000), 0x00);
}

static void test_cycles_modes_and_supply_are_minded(void **state)
{
    (void)state;
    begin(&cm_sst39sf040, PAR_FLASH);
    par_model_read(&par, 0, 60);
    assert_breached(PAR_BREACH_CYCLE, 1);
    begin(&cm_at29c010a, PAR_FLASH);
    command(0x90);
    get(0);
    assert_breached(PAR_BREACH_MODE_TIME, 1); // this one wants 10 ms
    pass_ms(11);
    assert_int_equal(get(0), 0x1F);
    begin(&cm_sst39sf040, PAR_FLASH);
    par_model_supply(&par, 4000);
    command(0xA0);
    put(0, 0);
    pass_ms(1);
    assert_int_equal(get(0), 0xFF);
    assert_breached(PAR_BREACH_SUPPLY, 1);
}

static void test_locked_sectors_take_nothing(void **state)
{
    (void)state;
    begin(&cm_am29f040b, PAR_FLASH);
    par.sector_locks = 2;
    command(0xA0);
    put(0x10000, 0x00);
    pass_ms(1);
    assert_int_equal(get(0x10000), 0xFF);
    assert_breached(PAR_BREACH_PROTECTED, 1);
    command(0x90);
    par.now_ns += 1000;
    assert_int_equal(get(0x10002), 1);
    assert_int_equal(get(0x20002), 0);
}

/* Of a boot-sector part each of the small sectors has a lock of its own. */
static void each_boot_sector_has_its_lock(void **state)
{
    (void)state;
    begin(&cm_am29f002bb, PAR_FLASH); // 16, 8, 8, 32, then 64 KiB each
    par.sector_locks = 1u << 2 | 1u << 4;
    command(0x90);
    par.now_ns += 1000;
    assert_int_equal(get(0x0002), 0);
    assert_int_equal(get(0x4002), 0);
    assert_int_equal(get(0x6002), 1);
    assert_int_equal(get(0x8002), 0);
    assert_int_equal(get(0x10002), 1);
    assert_true(par_model_protects(&par, 0x7FFF) && !par_model_protects(&par, 0x8000));
    begin(&cm_am29f002bt, PAR_FLASH); // 64 KiB each, then 32, 8, 8, 16
    par.sector_locks = 1u << 6;
    assert_true(par_model_protects(&par, 0x3FFFF) && !par_model_protects(&par, 0x3BFFF));
}

/* A bit that is 0 and should become 1 is never done: AMD's parts show bit 5 until they are reset,
 * SST's the wrong bit 7. */
static void a_0_that_should_become_1_is_never_done(void **state)
{
    (void)state;
    begin(&cm_am29f010b, PAR_FLASH);
    cells[0x100] = 0x80; // reads 7F
    command(0xA0);
    put(0x100, 0xFF);
    pass_ms(10);
    uint16_t first = get(0x100), second = get(0x100);
    assert_int_equal(first & 0x20, 0x20);
    assert_int_equal((first ^ second) & 0x40, 0x40);
    assert_int_equal(first & 0x80, 0);
    put(0, 0xF0);
    par.now_ns += 1000;
    assert_int_equal(get(0x100), 0x7F);
    assert_breached(PAR_BREACH_NOT_ERASED, 1);
    begin(&cm_sst39sf040, PAR_FLASH);
    cells[0x100] = 0x80;
    command(0xA0);
    put(0x100, 0xFF);
    pass_ms(10);
    assert_int_equal(get(0x100), 0x7F);
    assert_int_equal(get(0x100), 0x7F);
}

static void write_pulses_are_minded(void **state)
{
    (void)state;
    begin(&cm_at29c256, PAR_FLASH);
    par_model_write(&par, 0, 0x12, 60, 120);
    assert_breached(PAR_BREACH_PULSE, 1);
    begin(&cm_sst39sf010a, PAR_FLASH);
    par_model_write(&par, 0x5555, 0xAA, 35, 70);
    assert_breached(PAR_BREACH_PULSE, 1);
    par_model_write(&par, 0x2AAA, 0x55, 40, 70);
    assert_breached(PAR_BREACH_PULSE, 1);
}

static void test_pages_close_and_keep_to_themselves(void **state)
{
    (void)state;
    begin(&cm_at28c256, PAR_EE28);
    put(0x40, 1);
    put(0x41, 2);
    par.now_ns += 200000; // no more come
    put(0x42, 3);
    assert_breached(PAR_BREACH_WHILE_BUSY, 1);
    pass_ms(11);
    assert_int_equal(get(0x41), 2);
    assert_int_equal(get(0x42), 0xFF);
    put(0x80, 1);
    put(0xC0, 2);
    assert_int_equal(par.breaches[PAR_BREACH_ACROSS_PAGES], 1);
}

/* What asks a flash for its id is data to an unprotected EEPROM. */
static void test_an_eeprom_takes_what_it_is_asked_for_data(void **state)
{
    (void)state;
    begin(&cm_at28c256, PAR_EE28);
    command(0x90);
    pass_ms(11);
    assert_int_equal(get(0x5555), 0x90);
    assert_true(par.programs > 0);
    begin(&cm_at28c256, PAR_EE28);
    command(0xA0); // software data protection on
    pass_ms(11);
    assert_true(par.sdp);
    command(0x90);
    pass_ms(11);
    assert_int_equal(get(0x5555), 0xFF);
    command(0x80);
    command(0x20);
    pass_ms(11);
    assert_false(par.sdp);
    assert_int_equal(get(0x5555), 0xFF); // and neither command was data
}

static void test_page_flash_clears_what_it_is_not_given(void **state)
{
    (void)state;
    begin(&cm_at29c010a, PAR_FLASH);
    par_model_set(&par, 0x100, 0x12);
    par_model_set(&par, 0x101, 0x34);
    put(0x101, 0x56);
    pass_ms(11);
    assert_int_equal(get(0x100), 0xFF);
    assert_int_equal(get(0x101), 0x56);
}

static void test_an_eprom_wants_voltages_and_its_pulse(void **state)
{
    (void)state;
    begin(&cm_am27c256, PAR_EPROM);
    put(0, 0);
    assert_breached(PAR_BREACH_PULSE, 1);
    par_model_supply(&par, 6250);
    par.vpp_high = true;
    par_model_write(&par, 0, 0x81, 100000, 150);
    par_model_write(&par, 1, 0x00, 300000, 150);
    assert_breached(PAR_BREACH_PULSE, 2);
    assert_int_equal(get(0), 0x81);
    assert_int_equal(get(1), 0xFF);
    par.a9_high = true;
    assert_int_equal(get(0), 0x01);
    assert_int_equal(get(1), 0x10);
}

/* --- I2C --------------------------------------------------------------------------------- */

static struct i2c24_model i2c;
static bool scl, sda;

static void set(bool clock, bool data)
{
    i2c.now_ns += 5000;
    scl = clock;
    sda = data;
    i2c24_model_lines(&i2c, scl, sda);
}

static void start(void)
{
    set(scl, true);
    set(true, true);
    set(true, false);
    set(false, false);
}

static void stop(void)
{
    set(false, false);
    set(true, false);
    set(true, true);
}

static bool send(uint8_t byte)
{
    for (int i = 7; i >= 0; i--) {
        bool bit = byte >> i & 1;
        set(false, bit);
        set(true, bit);
        set(false, bit);
    }
    set(false, true);
    set(true, true);
    bool ack = !i2c24_model_sda(&i2c, true);
    set(false, true);
    return ack;
}

static void begin_i2c(const struct cm_i2c24_part *row)
{
    memset(cells, 0, sizeof cells);
    i2c24_model_init(&i2c, row, cells);
    i2c24_model_supply(&i2c, 5000);
    scl = sda = true;
}

static void test_a_page_wraps_round_and_is_written_behind_the_stop(void **state)
{
    (void)state;
    begin_i2c(&cm_24c02);
    start();
    assert_true(send(0xA0));
    assert_true(send(6));
    for (uint8_t i = 0; i < 4; i++)
        assert_true(send((uint8_t)(0x10 + i)));
    assert_int_equal(i2c24_model_at(&i2c, 6), 0xFF); // not before the STOP
    stop();
    assert_int_equal(i2c24_model_at(&i2c, 6), 0x10);
    assert_int_equal(i2c24_model_at(&i2c, 0), 0x12); // round within the page
    assert_int_equal(i2c.breaches[I2C24_BREACH_PAGE_WRAP], 1);
    start();
    assert_false(send(0xA0)); // it writes, and does not answer
    stop();
    i2c.now_ns += 11000000;
    start();
    assert_true(send(0xA0));
    stop();
}

static void test_an_address_and_a_stop_writes_nothing(void **state)
{
    (void)state;
    begin_i2c(&cm_24c02);
    start();
    assert_true(send(0xA0));
    assert_true(send(0x11));
    assert_true(send(0x22)); // the second address byte of a larger part would be data,
    start();                 // but for the repeated START
    assert_true(send(0xA1));
    stop();
    assert_int_equal(i2c.programs, 0);
    start();
    assert_false(send(0xB0)); // of another kind
    assert_int_equal(i2c24_model_breaches(&i2c), 0);
}

static void test_write_protect_clock_and_half_bytes_are_minded(void **state)
{
    (void)state;
    begin_i2c(&cm_24c02);
    i2c.wp_high = true;
    start();
    send(0xA0);
    send(0);
    send(0);
    stop();
    assert_int_equal(i2c24_model_at(&i2c, 0), 0xFF);
    assert_int_equal(i2c.breaches[I2C24_BREACH_PROTECTED], 1);
    i2c.wp_high = false;
    start();
    send(0xA0);
    send(0);
    set(false, true);
    set(true, true);
    set(false, true);
    stop();
    assert_int_equal(i2c24_model_at(&i2c, 0), 0xFF);
    assert_int_equal(i2c.breaches[I2C24_BREACH_UNFINISHED], 1);
    start();
    i2c.now_ns += 100;
    i2c24_model_lines(&i2c, true, false);
    assert_int_equal(i2c.breaches[I2C24_BREACH_CLOCK], 1);
}

/* --- three wires ------------------------------------------------------------------------- */

static struct m93_model m93;

static void begin_m93(const struct cm_m93_part *row)
{
    memset(cells, 0, sizeof cells);
    m93_model_init(&m93, row, cells);
    m93_model_supply(&m93, 5000);
}

/* An instruction, filled up in front; returns what came with the last byte. */
static uint8_t instruct(uint32_t bits, int count)
{
    uint8_t in = 0;
    m93.now_ns += 1000;
    m93_model_select(&m93, true);
    for (int at = (count + 7) / 8 - 1; at >= 0; at--)
        in = m93_model_byte(&m93, (uint8_t)(bits >> 8 * at), 10000);
    m93_model_select(&m93, false);
    return in;
}

static void test_a_word_is_written_where_it_is_enabled(void **state)
{
    (void)state;
    begin_m93(&cm_93c46);
    instruct(5u << 22 | 3u << 16 | 0x1234, 25); // WRITE 3
    assert_int_equal(m93.breaches[M93_BREACH_NO_ENABLE], 1);
    instruct(4u << 6 | 0x30, 9); // EWEN
    instruct(5u << 22 | 3u << 16 | 0x1234, 25);
    assert_int_equal(m93_model_at(&m93, 6), 0x34);
    assert_int_equal(m93_model_at(&m93, 7), 0x12);
    instruct(6u << 6 | 3, 9); // while it is busy
    assert_int_equal(m93.breaches[M93_BREACH_WHILE_BUSY], 1);
    m93.now_ns += 10000000;
    instruct(5u << 22 | 4u << 16 | 0x1234, 24); // a bit is missing
    assert_int_equal(m93_model_at(&m93, 8), 0xFF);
    assert_int_equal(m93.breaches[M93_BREACH_FRAME], 1);
}

static void test_reading_begins_with_a_0(void **state)
{
    (void)state;
    begin_m93(&cm_93c46);
    m93_model_set(&m93, 6, 0xCD);
    m93_model_set(&m93, 7, 0xAB);
    m93.now_ns += 1000;
    m93_model_select(&m93, true);
    m93_model_byte(&m93, 0x03, 10000); // 6 zeros, 1, 1; then 0, address 3, and one clock for the 0
    uint8_t lead = m93_model_byte(&m93, 0x06, 10000);
    assert_int_equal(lead & 1, 0);
    assert_int_equal(m93_model_byte(&m93, 0, 10000), 0xAB);
    assert_int_equal(m93_model_byte(&m93, 0, 10000), 0xCD);
    m93_model_select(&m93, false);
    m93_model_select(&m93, true); // too soon
    assert_int_equal(m93.breaches[M93_BREACH_SELECT], 1);
    m93_model_byte(&m93, 0, 100); // too fast
    assert_int_equal(m93.breaches[M93_BREACH_CLOCK], 1);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(test_a_byte_takes_its_time_and_shows_its_status),
        cmocka_unit_test(test_commands_are_whole_or_nothing),
        cmocka_unit_test(test_bits_go_to_0_and_sectors_to_1),
        cmocka_unit_test(test_cycles_modes_and_supply_are_minded),
        cmocka_unit_test(test_locked_sectors_take_nothing),
        cmocka_unit_test(each_boot_sector_has_its_lock),
        cmocka_unit_test(a_0_that_should_become_1_is_never_done),
        cmocka_unit_test(write_pulses_are_minded),
        cmocka_unit_test(test_pages_close_and_keep_to_themselves),
        cmocka_unit_test(test_an_eeprom_takes_what_it_is_asked_for_data),
        cmocka_unit_test(test_page_flash_clears_what_it_is_not_given),
        cmocka_unit_test(test_an_eprom_wants_voltages_and_its_pulse),
        cmocka_unit_test(test_a_page_wraps_round_and_is_written_behind_the_stop),
        cmocka_unit_test(test_an_address_and_a_stop_writes_nothing),
        cmocka_unit_test(test_write_protect_clock_and_half_bytes_are_minded),
        cmocka_unit_test(test_a_word_is_written_where_it_is_enabled),
        cmocka_unit_test(test_reading_begins_with_a_0),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
