/*
 * Memories in sockets and on two and three wires, all parts of all tables, on the simulated bench. Hardware: strict models, pin by pin where the port is lines.
 */
#include "support/memory_rig.h"
#include "support/rom_rig.h"
#include <string.h>

static struct rom_rig rig;

static void check_put(uint32_t first, uint32_t count)
{
    enum cm_status status = rom_rig_put(&rig, first, count);
    if (status)
        fail_msg("%s: put: %s at 0x%X, expected %02X, found %02X", rig.part, cm_status_word(status), (unsigned)rig.session.failure.address,
                 rig.session.failure.expected, rig.session.failure.found);
}

/* Written as new, found equal without a write, changed in two places, found right: and nothing against the data sheet. */
static void walk(const char *part, const char *more)
{
    rom_rig_open(&rig, part, more);
    rom_rig_identify(&rig);
    check_put(0, rig.bytes);
    assert_rom_holds(&rig);
    check_put(0, rig.bytes);
    assert_int_equal(rig.report.pages_written, 0);
    uint32_t at = rig.bytes / 2 + 1, count = rig.bytes < 64 ? 3 : 29;
    fill_pattern(rig.image + at, count, 7);
    rig.image[rig.bytes - 1] ^= 0x10;
    struct cm_region region;
    cm_region(&rig.session, 0, &region);
    const struct cm_memory_rules *memory = rig.session.family->memory;
    struct cm_erase_unit unit = {0, 0};
    bool whole_only = memory->erase_unit && memory->erase_unit(&rig.session, 0, &unit) && unit.bytes == rig.bytes;
    check_put(whole_only ? 0 : at, whole_only ? rig.bytes : count);
    check_put(whole_only ? 0 : rig.bytes - 1, whole_only ? rig.bytes : 1);
    assert_rom_holds(&rig);
    assert_no_rom_breach(&rig);
    rom_rig_close(&rig);
}

static void walk_all(const struct cm_part *const *parts, int count, const char *more)
{
    for (int i = 0; i < count; i++)
        walk(parts[i]->name, more);
}

static void test_every_flash_takes_an_image_and_changes(void **state)
{
    (void)state;
    walk_all(cm_par_all_parts, CM_PAR_PART_COUNT, "");
}

static void test_every_parallel_eeprom_does(void **state)
{
    (void)state;
    walk_all(cm_ee28_all_parts, CM_EE28_PART_COUNT, "");
}

static void test_every_two_wire_eeprom_does(void **state)
{
    (void)state;
    for (int i = 0; i < CM_I2C24_PART_COUNT; i++) {
        if (cm_i2c24_row(cm_i2c24_all_parts[i])->bytes <= 8192 || i % 7 == 0)
            walk(cm_i2c24_all_parts[i]->name, "");
    }
}

static void test_every_three_wire_eeprom_does(void **state)
{
    (void)state;
    walk_all(cm_m93_all_parts, CM_M93_PART_COUNT, "");
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(test_every_flash_takes_an_image_and_changes),
        cmocka_unit_test(test_every_parallel_eeprom_does),
        cmocka_unit_test(test_every_two_wire_eeprom_does),
        cmocka_unit_test(test_every_three_wire_eeprom_does),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
