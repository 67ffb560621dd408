/* Hardware: each AVR part of the table on a simulated bench, and what goes wrong between it and us.
 */
#include "support/support.h"
#include <stdio.h>
#include <string.h>

static const struct cm_avr_part *row_of(uint16_t i)
{
    return cm_avr_row(cm_avr_all_parts[i]);
}

/* --- the table --------------------------------------------------------------------------- */

static bool is_power_of_two(uint32_t value)
{
    return value && (value & (value - 1)) == 0;
}

static void the_table_holds_together(void **state)
{
    (void)state;
    for (uint16_t i = 0; i < CM_AVR_PART_COUNT; i++) {
        const struct cm_avr_part *row = row_of(i);
        assert_int_equal(row->part.id[0], 0x1E);
        assert_ptr_equal(cm_part_by_name(&test_kit, 1, row->part.name), &row->part);
        assert_true(is_power_of_two(row->flash_bytes) && row->flash_bytes >= 1024);
        assert_true(row->flash_page_bytes == 0 ||
                    (is_power_of_two(row->flash_page_bytes) && row->flash_page_bytes <= 256));
        assert_true(row->eeprom_page_bytes == 0 || row->eeprom_bytes % row->eeprom_page_bytes == 0);
        assert_true(row->boot_max_bytes < row->flash_bytes);
        assert_true(row->part.supply_min_mv < row->part.supply_max_mv);
        assert_true((row->generation == CM_AVR_CLASSIC) == (row->flash_page_bytes == 0));
        for (uint8_t f = 0; f < row->fuse_bytes; f++)
            assert_int_equal(row->fuse_default[f] | row->fuse_mask[f],
                             0xFF); // reserved bits are 1 by default
    }
}

/* Parts with the same id must be programmed in the same way, since the id alone cannot tell them
 * apart. */
static void twins_are_programmed_alike(void **state)
{
    (void)state;
    for (uint16_t a = 0; a < CM_AVR_PART_COUNT; a++) {
        for (uint16_t b = 0; b < a; b++) {
            const struct cm_avr_part *one = row_of(a), *two = row_of(b);
            if (memcmp(one->part.id, two->part.id, 3) != 0)
                continue;
            assert_int_equal(one->flash_bytes, two->flash_bytes);
            assert_int_equal(one->flash_page_bytes, two->flash_page_bytes);
            assert_int_equal(one->eeprom_bytes, two->eeprom_bytes);
            assert_int_equal(one->eeprom_page_bytes, two->eeprom_page_bytes);
            assert_int_equal(one->generation, two->generation);
            assert_int_equal(one->fuse_bytes, two->fuse_bytes);
        }
    }
}

static void every_status_and_fault_has_words(void **state)
{
    (void)state;
    for (int i = 0; i <= CM_STATUS_COUNT; i++)
        assert_true(strlen(cm_status_word((enum cm_status)i)) > 3);
    for (int i = 0; i <= CM_RECORD_FAULT_COUNT; i++)
        assert_true(strlen(cm_record_fault_word((enum cm_record_fault)i)) > 3);
}

/* --- every part, by the data sheet ------------------------------------------------------- */

/* Fills the ends of flash, leaves the middle: quick, and it reaches extended addresses. */
static void want_both_ends(struct rig *rig, struct cm_image *image, void *memory, size_t bytes)
{
    uint32_t flash = rig->model->row->flash_bytes;
    cm_image_init(image, memory, bytes);
    assert_int_equal(cm_image_add(image, 0, rig->image, 300, 1), CM_OK);
    assert_int_equal(cm_image_add(image, flash - 333, rig->image + flash - 333, 333, 2), CM_OK);
    rig->want.source = cm_image_source(image);
}

static void put_both_memories(struct rig *rig)
{
    static _Alignas(8) uint8_t memory[CM_IMAGE_MEMORY(40)];
    struct cm_image image;
    uint8_t eeprom[64];
    uint32_t flash = rig->model->row->flash_bytes,
             bytes = rig->model->row->eeprom_bytes < 64 ? rig->model->row->eeprom_bytes : 64;
    memcpy(eeprom, "settings of a bell, kept in its node ..........................", 64);
    struct cm_memory data = {eeprom, bytes - 1, 1};
    struct cm_want wants[2] = {rig->want, {CM_AVR_EEPROM, cm_memory_source(&data)}};
    want_both_ends(rig, &image, memory, sizeof memory);
    wants[0] = rig->want;
    rig->put = (struct cm_put){.wants = wants, .want_count = bytes ? 2 : 1};
    assert_int_equal(cm_put(&rig->session, &rig->put, &rig->report), CM_OK);
    assert_memory_equal(rig->model->flash, rig->image, 300);
    assert_memory_equal(rig->model->flash + flash - 333, rig->image + flash - 333, 333);
    assert_memory_equal(rig->model->eeprom + 1, eeprom, bytes - 1);
    assert_int_equal(rig->model->eeprom[0], 0xFF);
    uint32_t writes = rig->model->page_writes + rig->model->eeprom_writes;
    assert_int_equal(cm_put(&rig->session, &rig->put, &rig->report), CM_OK); // again: nothing
    assert_int_equal(rig->model->page_writes + rig->model->eeprom_writes, writes);
    assert_int_equal(rig->report.pages_equal, rig->report.pages);
}

static void change_to_another_image(struct rig *rig)
{
    static _Alignas(8) uint8_t memory[CM_IMAGE_MEMORY(40)];
    struct cm_image image;
    fill_image(rig, 1000);
    want_both_ends(rig, &image, memory, sizeof memory);
    rig->put.lose_data = true;
    assert_int_equal(cm_put(&rig->session, &rig->put, &rig->report), CM_OK);
    assert_true(rig->report.erase);
    assert_memory_equal(rig->model->flash, rig->image, 300);
}

static void every_part_is_programmed_without_a_breach(void **state)
{
    (void)state;
    for (uint16_t i = 0; i < CM_AVR_PART_COUNT; i++) {
        if (!test_takes_part(i))
            continue;
        struct rig rig;
        uint8_t calibration[4];
        bool watch_crystal = i % 2;
        rig_open(&rig, row_of(i)->part.name, "");
        if (rig.model->cpu_hz == 0) { // the default is a crystal: the board has one
            rig_close(&rig);
            rig_open(&rig, row_of(i)->part.name,
                     watch_crystal ? "  board_clock_hz: 1000000\n"
                                   : "  board_clock_hz: 16000000\n");
        }
        fill_image(&rig, i);
        rig_identify(&rig);
        put_both_memories(&rig);
        change_to_another_image(&rig);
        assert_int_equal(
            cm_read(&rig.session, CM_AVR_CALIBRATION, 0, calibration, row_of(i)->calibration_bytes),
            CM_OK);
        assert_memory_equal(calibration, rig.model->calibration, row_of(i)->calibration_bytes);
        if (row_of(i)->flash_bytes <= 8192) { // the larger ones only take longer
            assert_int_equal(cm_blank(&rig.session, &(struct cm_blank){0}, &rig.report), CM_OK);
            assert_true(rig.report.erase);
        }
        cm_close(&rig.session);
        assert_no_breach(rig.model);
        rig_close(&rig);
    }
}

/* --- the way in -------------------------------------------------------------------------- */

static void the_clock_is_found(void **state)
{
    static const struct {
        const char *bench;
        uint32_t told_hz, found_hz;
    } CASES[] = {
        {"", 0, 200000},                             // 1 MHz as delivered
        {"", 1000000, 249756},                       // told: just under a quarter
        {"", 8000000, 200000},                       // told wrongly: found all the same
        {"  fuses: [0xE4, 0xDF, 0xFF]\n", 0, 25000}, // 128 kHz
        {"  fuses: [0xE6, 0xDF, 0xFF]\n  board_clock_hz: 32768\n", 0, 6000}, // a watch crystal
        {"  fuses: [0xFF, 0xDF, 0xFF]\n  board_clock_hz: 20000000\n", 20000000,
         3330078}, // a sixth from 12 MHz on
        {"  fuses: [0xFF, 0xDF, 0xFF]\n  board_clock_hz: 20000000\n", 0,
         3150000}, // and found without being told:
        {"  fuses: [0xFF, 0xDF, 0xFF]\n  board_clock_hz: 16000000\n", 0, 2062500},
        {"  fuses: [0xE2, 0xDF, 0xFF]\n", 0, 1612500}, // 8 MHz
        {"  fuses: [0xFF, 0xDF, 0xFF]\n  board_clock_hz: 4000000\n", 0, 900000},
        {"  fuses: [0xE2, 0xDF, 0xFF]\nfaults:\n  reset_held: true\n", 0,
         200000}, // reset pulses do not get through: no faster clock is tried
        {"  fuses: [0xE2, 0xDF, 0xFF]\nport:\n  max_clock_hz: 500000\n", 0, 470000},
        {"port:\n  max_clock_hz: 100000\n", 8000000, 100000}, // what the port can do
    };
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        struct rig rig;
        rig_open(&rig, "attiny84a", CASES[i].bench);
        rig.session.cpu_hz = CASES[i].told_hz;
        rig_identify(&rig);
        assert_int_equal(rig.session.clock_hz, CASES[i].found_hz);
        fill_image(&rig, 1);
        rig.memory.count = 200;
        assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
        assert_int_equal(rig.model->breaches[BREACH_SCK_TOO_FAST], 0);
        rig_close(&rig);
    }
}

/* The chip's clock drops in mid-job, and it loses step: the job finds it again and goes on slowly.
 */
static void a_clock_that_drops_is_followed(void **state)
{
    struct rig rig;
    (void)state;
    rig_open(&rig, "attiny84a", "");
    rig.session.cpu_hz = 1000000;
    rig_identify(&rig);
    fill_image(&rig, 2);
    rig.memory.count = 640;
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
    rig.model->fuses[0] = 0xE4; // from the next reset on: the 128 kHz oscillator
    rig.model->enabled = rig.model->in_step = false; // out of step
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_IN_DOUBT);
    assert_memory_equal(rig.model->flash, rig.image, 640);
    assert_int_equal(rig.session.clock_hz, 25000);
    rig_close(&rig);
}

static enum cm_status (*true_line)(const struct cm_port *, enum cm_line, enum cm_level);

/* A spike on the wires: whenever RESET falls, SCK pulses three times. */
static enum cm_status spiky_line(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    enum cm_status status = true_line(port, line, level);
    for (int i = 0; i < 6 && line == CM_LINE_RESET && level == CM_LOW; i++) {
        port->lines->wait_us(port, 5);
        true_line(port, CM_LINE_SCK, i % 2 ? CM_LOW : CM_HIGH);
    }
    return status;
}

/* The classic parts: out of step by three bits, and brought back by single pulses. */
static void a_classic_part_is_nudged_into_step(void **state)
{
    struct rig rig;
    (void)state;
    rig_open(&rig, "at90s8515", "port:\n  only_lines: true\n");
    struct cm_lines spiky = *rig.port->lines;
    true_line = spiky.line;
    spiky.line = spiky_line;
    rig.port->lines = &spiky;
    rig_identify(&rig);
    assert_int_equal(
        rig.session.tries,
        3 + 29); // reset pulses alone did not help: 3 bits and 29 pulses make an instruction
    assert_true(family_state(&rig.session, 0));
    fill_image(&rig, 6);
    rig.memory.count = 20;
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
    assert_memory_equal(rig.model->flash, rig.image, 20);
    rig_close(&rig);
}

/* Lifting costs the contents: only a guard that was read can agree to that; and what was not read
 * is not restored. */
static void a_guard_that_was_not_read_does_nothing(void **state)
{
    static const char *const PARTS[] = {"attiny84a", "at90s2313"};
    (void)state;
    for (int i = 0; i < 2; i++) {
        const struct cm_guard none = {.count = 0};
        struct cm_guard guard;
        struct rig rig;
        rig_open(&rig, PARTS[i], "");
        rig_identify(&rig);
        assert_int_equal(cm_guard_lift(&rig.session, &none, CM_LIFT_FREE), CM_BAD_ARGUMENT);
        assert_int_equal(cm_guard_lift(&rig.session, &none, CM_LIFT_CONTENTS), CM_BAD_ARGUMENT);
        assert_int_equal(cm_guard_restore(&rig.session, &none), CM_OK);
        assert_int_equal(rig.model->erases, 0);
        assert_int_equal(rig.model->lock, 0xFF);
        assert_int_equal(cm_guard_look(&rig.session, &guard), CM_OK);
        assert_int_equal(cm_guard_lift(&rig.session, &guard, CM_LIFT_FREE), CM_REFUSED);
        assert_int_equal(cm_guard_restore(&rig.session, &guard), CM_OK);
        assert_int_equal(rig.model->erases, 0);
        assert_int_equal(rig.model->lock, 0xFF);
        assert_int_equal(cm_guard_lift(&rig.session, &guard, CM_LIFT_CONTENTS), CM_OK);
        assert_int_equal(rig.model->erases, 1);
        rig_close(&rig);
    }
}

static void lines_alone_suffice(void **state)
{
    struct rig rig;
    (void)state;
    rig_open(&rig, "attiny84a", "port:\n  only_lines: true\n");
    rig_identify(&rig);
    assert_true(family_state(&rig.session, 0));
    fill_image(&rig, 4);
    rig.memory.count = 500;
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
    assert_memory_equal(rig.model->flash, rig.image, 500);
    assert_no_breach(rig.model);
    rig_close(&rig);
}

static void clocks_below_the_port_s_range_are_not_tried(void **state)
{
    struct rig rig;
    (void)state;
    rig_open(&rig, "attiny84a", "wires: [miso=high]\n");
    rig.port->traits.clock_min_hz = 100000;
    assert_int_equal(cm_identify(&rig.session, NULL), CM_NO_CHIP);
    assert_int_equal(rig.session.tries, 6); // 200 kHz, and once more at the end
    rig_close(&rig);
}

static void each_silence_is_told_apart(void **state)
{
    static const struct {
        const char *part, *bench;
        enum cm_status status;
        uint8_t answer;
    } CASES[] = {
        {"attiny84a", "wires: [miso=high]\n", CM_NO_CHIP, 0xFF},
        {"attiny84a", "wires: [miso=low]\n", CM_NO_CHIP, 0x00},
        {"attiny84a", "faults:\n  no_power: true\n", CM_NO_CHIP, 0x00},
        {"attiny84a", "port:\n  measures_supply: true\nfaults:\n  no_power: true\n", CM_NO_POWER,
         0x00},
        {"attiny84a", "  fuses: [0x62, 0x5F, 0xFF]\n", CM_NO_CHIP, 0xFF}, // reset pin disabled
        {"atmega1284p", "  fuses: [0xFF, 0x99, 0xFF]\n", CM_NO_CHIP,
         0xFF}, // a crystal that is not there
        {"attiny84a", "faults:\n  contact_lost_after_bytes: 1\n", CM_NO_CHIP, 0xFF},
        {"attiny85", "", CM_WRONG_CHIP, 0x00},
    };
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        struct rig rig;
        rig_open(&rig, CASES[i].part, CASES[i].bench);
        const char *asserted = CASES[i].status == CM_WRONG_CHIP ? "attiny84a" : NULL;
        assert_int_equal(cm_identify(&rig.session, asserted), CASES[i].status);
        if (CASES[i].status == CM_NO_CHIP) {
            assert_int_equal(rig.session.failure.answer[2], CASES[i].answer);
            assert_int_equal(rig.session.failure.step, CM_STEP_ENTER);
        }
        assert_null(rig.session.part);
        assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_BAD_ARGUMENT);
        rig_close(&rig);
    }
}

static void a_port_feeds_the_target_while_it_is_held_in_reset(void **state)
{
    struct rig rig;
    (void)state;
    rig_open(&rig, "attiny84a",
             "port:\n  measures_supply: true\n  feeds_from_mv: 1800\n  feeds_to_mv: 5500\n");
    cm_close(&rig.session);
    assert_int_equal(cm_identify(&rig.session, NULL), CM_OK); // the board's own supply
    rig_close(&rig);
    rig_open(&rig, "attiny84a",
             "port:\n  measures_supply: true\n  feeds_from_mv: 1800\n  feeds_to_mv: 5500\n");
    assert_int_equal(cm_feed(&rig.session, 3300), CM_PORT_FAILED); // never both
    rig_close(&rig);
}

static void the_target_is_let_go(void **state)
{
    struct rig rig;
    uint16_t level;
    (void)state;
    rig_open(&rig, "attiny84a", "");
    rig_identify(&rig);
    assert_true(rig.model->reset_low);
    cm_close(&rig.session);
    assert_false(rig.model->reset_low);
    assert_int_equal(rig.port->lines->sense(rig.port, CM_LINE_RESET, &level), CM_OK);
    assert_int_equal(level, 1);
    cm_close(&rig.session); // twice does no harm
    rig_close(&rig);
}

/* --- settings ---------------------------------------------------------------------------- */

static void fuses_and_lock_are_written_once_and_proven(void **state)
{
    struct rig rig;
    uint8_t bytes[3];
    const uint8_t wanted[3] = {0xE2, 0xD7, 0x00},
                  lock = 0xFE; // the extended byte's reserved bits are asked to be 0
    (void)state;
    rig_open(&rig, "attiny84a", "");
    rig_identify(&rig);
    assert_int_equal(cm_program(&rig.session, CM_AVR_FUSES, 0, wanted, 3), CM_OK);
    assert_int_equal(cm_read(&rig.session, CM_AVR_FUSES, 0, bytes, 3), CM_OK);
    assert_memory_equal(bytes, "\xE2\xD7\xFE", 3);
    assert_int_equal(rig.model->setting_writes, 3);
    assert_int_equal(cm_program(&rig.session, CM_AVR_FUSES, 0, wanted, 3),
                     CM_OK); // equal: not written again
    assert_int_equal(rig.model->setting_writes, 3);
    const uint8_t no_spi = 0xF7;
    assert_int_equal(cm_program(&rig.session, CM_AVR_FUSES, 1, &no_spi, 1),
                     CM_WRITE_FAILED); // SPIEN cannot be changed this way
    assert_int_equal(rig.session.failure.expected, 0xF7);
    assert_int_equal(rig.session.failure.found, 0xD7);
    assert_int_equal(cm_program(&rig.session, CM_AVR_LOCK, 0, &lock, 1), CM_OK);
    assert_int_equal(rig.model->lock, 0xFE);
    assert_int_equal(cm_match(&rig.session, CM_AVR_LOCK, 0, &lock, 1), CM_OK);
    assert_no_breach(rig.model);
    rig_close(&rig);
}

static void bounds_are_checked(void **state)
{
    struct rig rig;
    uint8_t byte = 0;
    (void)state;
    rig_open(&rig, "attiny84a", "");
    rig_identify(&rig);
    assert_int_equal(cm_read(&rig.session, CM_AVR_FLASH, 8192, &byte, 1), CM_BAD_ARGUMENT);
    assert_int_equal(cm_read(&rig.session, CM_AVR_FLASH, 1, &byte, UINT32_MAX), CM_BAD_ARGUMENT);
    assert_int_equal(cm_read(&rig.session, 9, 0, &byte, 1), CM_BAD_ARGUMENT);
    assert_int_equal(cm_program(&rig.session, CM_AVR_CALIBRATION, 0, &byte, 1), CM_BAD_ARGUMENT);
    assert_int_equal(cm_read(&rig.session, CM_AVR_FLASH, 8192, &byte, 0), CM_OK);
    assert_int_equal(cm_region_by_name(&rig.session, "eeprom"), CM_AVR_EEPROM);
    assert_int_equal(cm_region_by_name(&rig.session, "eepro"), -1);
    rig_close(&rig);
}

/* --- a part that does not echo ----------------------------------------------------------- */

static void without_an_echo_lost_contact_is_noticed_too(void **state)
{
    (void)state;
    for (uint32_t lost = 200; lost < 3000; lost += 171) {
        struct rig rig;
        char faults[80];
        snprintf(faults, sizeof faults, "faults:\n  contact_lost_after_bytes: %u\n",
                 (unsigned)lost);
        rig_open(&rig, "at90s1200", faults);
        rig_identify(&rig);
        assert_false(family_state(&rig.session, 0));
        fill_image(&rig, 3);
        rig.memory.count = 512;
        assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_CONTACT_LOST);
        rig_close(&rig);
    }
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(the_table_holds_together),
        cmocka_unit_test(twins_are_programmed_alike),
        cmocka_unit_test(every_status_and_fault_has_words),
        cmocka_unit_test(every_part_is_programmed_without_a_breach),
        cmocka_unit_test(the_clock_is_found),
        cmocka_unit_test(a_clock_that_drops_is_followed),
        cmocka_unit_test(a_classic_part_is_nudged_into_step),
        cmocka_unit_test(a_guard_that_was_not_read_does_nothing),
        cmocka_unit_test(lines_alone_suffice),
        cmocka_unit_test(clocks_below_the_port_s_range_are_not_tried),
        cmocka_unit_test(each_silence_is_told_apart),
        cmocka_unit_test(a_port_feeds_the_target_while_it_is_held_in_reset),
        cmocka_unit_test(the_target_is_let_go),
        cmocka_unit_test(fuses_and_lock_are_written_once_and_proven),
        cmocka_unit_test(bounds_are_checked),
        cmocka_unit_test(without_an_echo_lost_contact_is_noticed_too),
    };
    return cmocka_run_group_tests_name("avr", tests, NULL, NULL);
}
