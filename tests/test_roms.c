/*
 * Memories in sockets and on two and three wires, all parts of all tables, on the simulated bench.
 * Hardware: strict models, pin by pin where the port is lines.
 */
#include "support/memory_rig.h"
#include "support/rom_rig.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct rom_rig rig;

static void check_put(uint32_t first, uint32_t count)
{
    enum cm_status status = rom_rig_put(&rig, first, count);
    if (status)
        fail_msg("%s: put: %s at 0x%X, expected %02X, found %02X", rig.part, cm_status_word(status),
                 (unsigned)rig.session.failure.address, rig.session.failure.expected,
                 rig.session.failure.found);
}

/* The last of a large part, with all its address bits; all of a small one. */
enum { WINDOW = 32 * 1024, SERIAL_WINDOW = 4 * 1024 };

/* Written as new, found equal without a write, changed in two places, found right: and nothing
 * against the data sheet. */
static void walk(const char *part, const char *more)
{
    rom_rig_open(&rig, part, more);
    rom_rig_identify(&rig);
    uint32_t window = rig.port->traits.data_lines ? WINDOW : SERIAL_WINDOW;
    uint32_t count = rig.bytes > 2 * window ? window : rig.bytes, first = rig.bytes - count,
             at = first + count / 2 + 1;
    check_put(first, count);
    assert_rom_holds(&rig, first);
    check_put(first, count);
    assert_int_equal(rig.report.pages_written, 0);
    struct cm_erase_unit unit = {.bytes = 0};
    bool whole_only =
        cm_erase_unit(&rig.session, CM_REGION_MAIN, 0, &unit) && unit.bytes == rig.bytes;
    fill_pattern(rig.image + at, rig.bytes < 64 ? 3 : 29, 7);
    rig.image[rig.bytes - 1] ^= 0x10;
    if (whole_only &&
        first > 0) { // other contents would have to be carried over the erase of the whole chip
        assert_int_equal(rom_rig_put(&rig, first, count), CM_NO_ROOM);
    } else {
        check_put(whole_only ? 0 : at, whole_only ? rig.bytes : rig.bytes < 64 ? 3 : 29);
        check_put(whole_only ? 0 : rig.bytes - 1, whole_only ? rig.bytes : 1);
        assert_rom_holds(&rig, first);
    }
    assert_no_rom_breach(&rig);
    rom_rig_close(&rig);
}

static void walk_all(const struct cm_part *const *parts, int count, const char *more)
{
    for (int i = 0; i < count; i++) {
        if (test_takes_part((uint32_t)i))
            walk(parts[i]->name, more);
    }
}

static void test_every_flash_takes_an_image_and_changes(void **state)
{
    (void)state;
    if (test_is_packed_way())
        return; // nothing packs on this bus
    walk_all(cm_par_all_parts, CM_PAR_PART_COUNT, "");
}

static void test_every_parallel_eeprom_does(void **state)
{
    (void)state;
    if (test_is_packed_way())
        return; // nothing packs on this bus
    walk_all(cm_ee28_all_parts, CM_EE28_PART_COUNT, "");
}

static void test_every_i2c_eeprom_does(void **state)
{
    (void)state;
    if (test_is_packed_way())
        return; // nothing packs on this bus
    walk_all(cm_i2c24_all_parts, CM_I2C24_PART_COUNT, "");
}

static void test_every_three_wire_eeprom_does(void **state)
{
    (void)state;
    walk_all(cm_m93_all_parts, CM_M93_PART_COUNT, "");
}

/* --- buses made of lines ----------------------------------------------------------------- */

static void test_lines_and_shift_registers_will_do(void **state)
{
    static const char *const PORTS[] = {"port:\n  only_lines: true\n",
                                        "port:\n  registers: true\n"};
    static const char *const PARTS[] = {"sst39sf512", "at28c64b", "at29c256", "am29f200bb"};
    (void)state;
    for (size_t i = 0; i < 2; i++) {
        for (size_t k = 0; k < 4; k++) {
            rom_rig_open(&rig, PARTS[k], PORTS[i]);
            rom_rig_identify(&rig);
            check_put(rig.bytes - 600, 600);
            for (uint32_t at = rig.bytes - 600; at < rig.bytes; at++)
                assert_int_equal(cm_sim_at(rig.sim, at), rig.image[at]);
            assert_no_rom_breach(&rig);
            rom_rig_close(&rig);
        }
    }
}

static void test_three_wires_made_of_lines_will_do(void **state)
{
    (void)state;
    walk("93lc66a", "port:\n  only_lines: true\n");
    walk("93lc86b", "port:\n  only_lines: true\n");
}

/* --- protection -------------------------------------------------------------------------- */

static void test_software_data_protection_is_found_by_writing_and_stays(void **state)
{
    static const char *const PARTS[] = {"at28c256", "at28c64b", "at29c010a", "sst29ee010",
                                        "x28c64"};
    (void)state;
    for (size_t i = 0; i < sizeof PARTS / sizeof PARTS[0]; i++) {
        rom_rig_open(&rig, PARTS[i], "  status: [1]\n");
        rom_rig_identify(&rig);
        assert_int_equal(rom_rig_put(&rig, 0, 1000), CM_PROTECTED);
        assert_int_equal(cm_sim_at(rig.sim, 0), 0xFF);
        rig.put.unprotect = true;
        check_put(0, 1000);
        for (uint32_t at = 0; at < 1000; at++)
            assert_int_equal(cm_sim_at(rig.sim, at), rig.image[at]);
        assert_true(cm_sim_parallel(rig.sim)->sdp); // as it was
        assert_int_equal(cm_par_unprotect(&rig.session), CM_OK);
        assert_false(cm_sim_parallel(rig.sim)->sdp);
        rig.put.unprotect = true; // where it is off it stays off
        check_put(2000, 100);
        assert_false(cm_sim_parallel(rig.sim)->sdp);
        assert_int_equal(cm_par_protect(&rig.session), CM_OK);
        assert_true(cm_sim_parallel(rig.sim)->sdp);
        assert_no_rom_breach(&rig);
        rom_rig_close(&rig);
    }
}

static void test_locked_sectors_and_boot_blocks_are_told_and_left(void **state)
{
    struct cm_guard guard;
    (void)state;
    rom_rig_open(&rig, "am29f040b", "  status: [0, 0x0C]\n"); // sectors 2 and 3
    rom_rig_identify(&rig);
    assert_int_equal(cm_guard_look(&rig.session, &guard), CM_OK);
    assert_int_equal(guard.first, 2 * 65536);
    assert_int_equal(guard.bytes, 2 * 65536);
    assert_int_equal(guard.cost, CM_LIFT_VOLTAGE);
    assert_int_equal(rom_rig_put(&rig, 2 * 65536 - 100, 200), CM_PROTECTED);
    rig.put.unprotect = true;
    assert_int_equal(rom_rig_put(&rig, 2 * 65536 - 100, 200), CM_PROTECTED);
    check_put(65536, 2000);
    assert_no_rom_breach(&rig);
    rom_rig_close(&rig);

    rom_rig_open(&rig, "at49f040", "  status: [2]\n");
    rom_rig_identify(&rig);
    assert_int_equal(cm_guard_look(&rig.session, &guard), CM_OK);
    assert_int_equal(guard.first, 0);
    assert_int_equal(guard.bytes, 16384);
    rom_rig_close(&rig);

    rom_rig_open(&rig, "at29c020", "  status: [4]\n");
    rom_rig_identify(&rig);
    assert_int_equal(cm_guard_look(&rig.session, &guard), CM_OK);
    assert_int_equal(guard.first, 256 * 1024 - 8192);
    rom_rig_close(&rig);
}

static void test_a_write_protect_pin_on_i2c_is_told(void **state)
{
    (void)state;
    rom_rig_open(&rig, "24c16", "port:\n  drives_wp: true\n");
    rom_rig_identify(&rig);
    check_put(0, 100);
    assert_no_rom_breach(&rig);
    cm_sim_i2c(rig.sim)->wp_high = true;
    assert_int_equal(rom_rig_put(&rig, 200, 100), CM_PROTECTED); // it takes all, and does not write
    rom_rig_close(&rig);
}

/* --- EPROMs ------------------------------------------------------------------------------ */

#define PROGRAMMER                                                                                 \
    "port:\n  raises_a9: true\n  raises_vpp: true\n  feeds_from_mv: 3000\n  feeds_to_mv: 6500\n"

static void rom_rig_fed(const char *part, const char *more)
{
    char text[400];
    rom_rig_open(&rig, part, more);
    rom_rig_close(&rig);
    snprintf(text, sizeof text, "bench: fed by the port\nchip:\n  part: %s\n  supply_mv: 0\n%s",
             part, more);
    write_file(rig.path, sizeof rig.path, "rom.yaml", text);
    cm_sim_renew(rig.path);
    rig.sim = cm_sim_open(rig.path, text);
    assert_non_null(rig.sim);
    rig.port = cm_sim_port(rig.sim);
    rig.image = malloc(rig.bytes);
    fill_pattern(rig.image, rig.bytes, 3);
    assert_int_equal(
        cm_open(&rig.session, rig.port, rig.kits, ROM_KITS, rig.workspace, sizeof rig.workspace),
        CM_OK);
    assert_int_equal(cm_feed(&rig.session, 5000), CM_OK);
}

static void test_an_eprom_is_programmed_where_the_port_has_the_voltages(void **state)
{
    (void)state;
    for (int i = 0; i < CM_EPROM_PART_COUNT; i++) {
        const struct cm_par_part *row = cm_par_row(cm_eprom_all_parts[i]);
        rom_rig_fed(row->part.name, PROGRAMMER);
        assert_int_equal(cm_identify(&rig.session, row->part.name), CM_OK);
        if (row->a9_id[0])
            assert_memory_equal(rig.session.id, row->a9_id, 2);
        uint32_t first = rig.bytes - 2000;
        enum cm_status due = row->program_mv ? CM_OK : CM_PORT_LACKS;
        assert_int_equal(rom_rig_put(&rig, first, 2000), due);
        for (uint32_t at = first; !due && at < rig.bytes; at++)
            assert_int_equal(cm_sim_at(rig.sim, at), rig.image[at]);
        if (!due) { // a bit that is 0 stays so
            rig.image[first + 10] ^= 0xFF;
            assert_int_equal(rom_rig_put(&rig, first, 2000), CM_REFUSED);
            assert_int_equal(rig.session.failure.address, first + 10);
        }
        assert_no_rom_breach(&rig);
        rom_rig_close(&rig);
    }
}

static void test_an_eprom_is_read_by_any_port_and_never_written_to(void **state)
{
    (void)state;
    rom_rig_open(&rig, "27c256", "");
    rom_rig_identify(&rig);
    assert_int_equal(cm_is_blank(&rig.session, 0, NULL, NULL), CM_OK);
    assert_int_equal(rom_rig_put(&rig, 0, 10), CM_PORT_LACKS);
    assert_no_rom_breach(&rig);
    rom_rig_close(&rig);
}

static void test_another_eprom_than_the_asserted_is_told(void **state)
{
    (void)state;
    rom_rig_open(&rig, "am27c256", PROGRAMMER);
    rig.part = "m27c256b";
    assert_int_equal(rom_rig_try(&rig), CM_WRONG_CHIP);
    assert_int_equal(rig.session.failure.answer[0], 0x01);
    rom_rig_close(&rig);
}

/* --- nothing lost ------------------------------------------------------------------------ */

/* An EEPROM that is asked who it is as a flash would be takes that for data. By its own name it is
 * not asked. */
static void test_an_eeprom_is_not_written_to_by_looking(void **state)
{
    (void)state;
    rom_rig_open(&rig, "at28c256", "");
    rom_rig_identify(&rig);
    assert_int_equal(cm_is_blank(&rig.session, 0, NULL, NULL), CM_OK);
    assert_int_equal(cm_sim_parallel(rig.sim)->programs, 0);
    rom_rig_close(&rig);
}

static void test_seats_are_told_apart(void **state)
{
    static const struct {
        const char *seat;
        uint8_t answer;
    } SEATS[] = {{"one-pin-up", 0xFB}, {"one-pin-down", 0xFF}, {"empty", 0xFF}};
    char more[80];
    (void)state;
    for (size_t i = 0; i < 3; i++) {
        snprintf(more, sizeof more, "  seat: %s\n", SEATS[i].seat);
        rom_rig_open(&rig, "sst39sf040", more);
        assert_int_equal(rom_rig_try(&rig), CM_NO_CHIP);
        for (int k = 0; k < 4; k++)
            assert_int_equal(rig.session.failure.answer[k], SEATS[i].answer);
        rom_rig_close(&rig);
    }
    rom_rig_open(&rig, "sst39sf040", "  seat: turned\nport:\n  measures_supply: true\n");
    assert_int_equal(rom_rig_try(&rig), CM_NO_POWER);
    assert_int_equal(rig.session.failure.measured_mv, 700);
    rom_rig_close(&rig);
}

static void test_contents_that_begin_like_the_id_do_not_hide_the_chip(void **state)
{
    (void)state;
    rom_rig_open(&rig, "sst39sf010a", "");
    par_model_set(cm_sim_parallel(rig.sim), 0, 0xBF);
    par_model_set(cm_sim_parallel(rig.sim), 1, 0xB5);
    rom_rig_identify(&rig);
    rom_rig_close(&rig);
}

static void test_the_wrong_flash_is_named(void **state)
{
    (void)state;
    rom_rig_open(&rig, "am29f040b", "");
    rig.part = "sst39sf040";
    assert_int_equal(rom_rig_try(&rig), CM_WRONG_CHIP);
    assert_int_equal(rig.session.id[1], 0xA4);
    rom_rig_close(&rig);
}

/* The contact breaks at many places: the failure names a place within a page or a sector, and the
 * same put goes on. */
static void test_contact_lost_at_many_places(void **state)
{
    static const char *const PARTS[] = {"sst39sf512", "at29c512", "24c64", "93lc66b"};
    (void)state;
    for (size_t k = 0; k < 4; k++) {
        for (uint32_t after = 40 + 397 * test_first_place(); after < 6000;
             after += 397 * test_place_step()) {
            char more[100];
            snprintf(more, sizeof more, "faults:\n  contact_lost_after_bytes: %u\n",
                     (unsigned)after);
            rom_rig_open(&rig, PARTS[k], more);
            uint32_t count = rig.bytes < 2000 ? rig.bytes : 2000;
            enum cm_status status = rom_rig_try(&rig);
            if (!status)
                status = rom_rig_put(&rig, 0, count);
            if (status && status != CM_CONTACT_LOST && status != CM_NO_CHIP)
                fail_msg("%s after %u: %s", rig.part, (unsigned)after, cm_status_word(status));
            cm_close(&rig.session);
            cm_sim_faults(rig.sim)->contact_lost_after_bytes = 0;
            cm_sim_restart_faults(rig.sim);
            rom_rig_identify(&rig);
            check_put(0, count);
            for (uint32_t at = 0; at < count; at++)
                assert_int_equal(cm_sim_at(rig.sim, at), rig.image[at]);
            rom_rig_close(&rig);
        }
    }
}

static void test_a_worn_cell_fails_with_its_address(void **state)
{
    (void)state;
    rom_rig_open(&rig, "sst39sf010a", "faults:\n  stuck_at: 4661\n");
    rom_rig_identify(&rig);
    rig.image[4660] &= 0xFE;
    assert_int_equal(rom_rig_put(&rig, 4096, 4096), CM_WRITE_FAILED);
    assert_int_equal(rig.session.failure.address, 4660);
    rom_rig_close(&rig);
}

static void test_slow_parts_are_waited_for(void **state)
{
    (void)state;
    walk("sst39sf512", "faults:\n  slow_percent: 130\n");
    walk("at28c64", "faults:\n  slow_percent: 150\n");
    walk("24lc64", "faults:\n  slow_percent: 140\n");
    walk("93c46", "faults:\n  slow_percent: 150\n");
}

/* --- I2C --------------------------------------------------------------------------------- */

static void test_a_device_that_holds_the_lines_is_waited_for_and_freed(void **state)
{
    (void)state;
    walk("24c04", "faults:\n  stretch_us: 300\n");
    rom_rig_open(&rig, "24c64", "faults:\n  sda_held: true\n");
    rom_rig_identify(&rig);
    check_put(0, 100);
    rom_rig_close(&rig);
}

static void test_address_pins_are_found(void **state)
{
    (void)state;
    rom_rig_open(&rig, "24lc64", "  status: [5]\n");
    rom_rig_identify(&rig);
    assert_int_equal(family_state(&rig.session, 0), 0x55);
    check_put(8000, 100);
    cm_close(&rig.session);
    assert_int_equal(
        cm_open(&rig.session, rig.port, rig.kits, ROM_KITS, rig.workspace, sizeof rig.workspace),
        CM_OK);
    rig.session.device = 0x51; // nobody there
    assert_int_equal(cm_identify(&rig.session, "24lc64"), CM_NO_CHIP);
    rom_rig_close(&rig);
}

/* --- what a part tells of itself --------------------------------------------------------- */

static void test_a_wide_flash_in_no_table_tells_of_itself(void **state)
{
    (void)state;
    rom_rig_open(&rig, "sst39vf400a", "");
    rig.kits[0].part_count = 0;
    assert_int_equal(
        cm_open(&rig.session, rig.port, rig.kits, 1, rig.workspace, sizeof rig.workspace), CM_OK);
    assert_int_equal(cm_identify(&rig.session, NULL), CM_OK);
    assert_int_equal(rig.found.par.row.bytes, 512 * 1024);
    assert_int_equal(rig.found.par.erases.units[0].bytes, 4096);
    check_put(100001, 3001);
    for (uint32_t at = 100001; at < 103002; at++)
        assert_int_equal(cm_sim_at(rig.sim, at), rig.image[at]);
    assert_no_rom_breach(&rig);
    rom_rig_close(&rig);
}

int main(int argc, char **argv)
{
    if (argc > 1)
        cmocka_set_test_filter(argv[1]);
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(test_every_flash_takes_an_image_and_changes),
        cmocka_unit_test(test_every_parallel_eeprom_does),
        cmocka_unit_test(test_every_i2c_eeprom_does),
        cmocka_unit_test(test_every_three_wire_eeprom_does),
        cmocka_unit_test(test_lines_and_shift_registers_will_do),
        cmocka_unit_test(test_three_wires_made_of_lines_will_do),
        cmocka_unit_test(test_software_data_protection_is_found_by_writing_and_stays),
        cmocka_unit_test(test_locked_sectors_and_boot_blocks_are_told_and_left),
        cmocka_unit_test(test_a_write_protect_pin_on_i2c_is_told),
        cmocka_unit_test(test_an_eprom_is_programmed_where_the_port_has_the_voltages),
        cmocka_unit_test(test_an_eprom_is_read_by_any_port_and_never_written_to),
        cmocka_unit_test(test_another_eprom_than_the_asserted_is_told),
        cmocka_unit_test(test_an_eeprom_is_not_written_to_by_looking),
        cmocka_unit_test(test_seats_are_told_apart),
        cmocka_unit_test(test_contents_that_begin_like_the_id_do_not_hide_the_chip),
        cmocka_unit_test(test_the_wrong_flash_is_named),
        cmocka_unit_test(test_contact_lost_at_many_places),
        cmocka_unit_test(test_a_worn_cell_fails_with_its_address),
        cmocka_unit_test(test_slow_parts_are_waited_for),
        cmocka_unit_test(test_a_device_that_holds_the_lines_is_waited_for_and_freed),
        cmocka_unit_test(test_address_pins_are_found),
        cmocka_unit_test(test_a_wide_flash_in_no_table_tells_of_itself),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
