/* Hardware: simulated SPI memories with protection of all kinds, at 33 MHz or what they stand. */
#include "support/memory_rig.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct memory_rig rig;

/* What a part's registers protect, as the driver says and as the model does, for every value of the
 * bits. */
static void areas_are_what_the_data_sheet_says(void **state)
{
    static const char *const PARTS[] = {
        "w25q32",      "w25q16",      "w25q128",   "w25q256", "w25x40",    "mx25l1606e",
        "mx25l6406e",  "mx25l12835f", "n25q128",   "n25q064", "m25p80",    "m25p64",
        "sst25vf016b", "s25fl128p",   "is25lp064", "25lc256", "mx25l4005", "w25x10"};
    (void)state;
    for (size_t i = 0; i < sizeof PARTS / sizeof PARTS[0]; i++) {
        if (!test_takes_part((uint32_t)i))
            continue;
        memory_rig_open(&rig, PARTS[i], "");
        memory_rig_identify(&rig, 8192);
        const struct cm_nor_part *row = rig.model->row;
        for (unsigned value = 0; value < 0x200; value++) {
            struct cm_guard guard;
            rig.model->registers[0] = (uint8_t)(value & row->status->kept[0] & 0x7C);
            rig.model->registers[1] =
                (uint8_t)((value & 0x100 ? 0xFF : 0) &
                          (row->guard->cmp_mask |
                           (row->guard->tb_register == 1 ? row->guard->tb_mask : 0)));
            assert_int_equal(cm_guard_look(&rig.session, &guard), CM_OK);
            for (uint32_t at = 0; at<row->bytes; at += row->bytes> 65536 ? 4096 : 256) {
                if (cm_guard_covers(&guard, CM_REGION_MAIN, at, 1) !=
                    nor_model_protects(rig.model, at))
                    fail_msg("%s, status %02X %02X: 0x%06X", PARTS[i], rig.model->registers[0],
                             rig.model->registers[1], (unsigned)at);
            }
        }
        memory_rig_close(&rig);
    }
}

/* Fixed points of the tables, so that driver and model cannot be wrong in the same way. */
static void some_areas_by_the_sheets_own_tables(void **state)
{
    static const struct {
        const char *part;
        uint8_t registers[2];
        uint32_t first, bytes;
    } ROWS[] = {
        {"w25q32", {0x04, 0x00}, 0x3F0000, 0x10000},
        {"w25q32", {0x18, 0x00}, 0x200000, 0x200000},
        {"w25q32", {0x1C, 0x00}, 0, 0x400000},
        {"w25q32", {0x24, 0x00}, 0, 0x10000},
        {"w25q32", {0x44, 0x00}, 0x3FF000, 0x1000},
        {"w25q32", {0x50, 0x00}, 0x3F8000, 0x8000},
        {"w25q32", {0x04, 0x40}, 0, 0x3F0000},
        {"w25q32", {0x00, 0x40}, 0, 0x400000},
        {"w25q32", {0x1C, 0x40}, 0, 0},
        {"w25q128", {0x04, 0x00}, 0xFC0000, 0x40000},
        {"w25q64", {0x04, 0x00}, 0x7E0000, 0x20000},
        {"w25q256", {0x04, 0x00}, 0x1FF0000, 0x10000},
        {"mx25l3206e", {0x24, 0x00}, 0, 0x200000},
        {"mx25l3206e", {0x28, 0x00}, 0, 0x300000},
        {"mx25l3206e", {0x38, 0x00}, 0, 0x3F0000},
        {"m25p80", {0x10, 0x00}, 0x80000, 0x80000},
        {"m25p16", {0x14, 0x00}, 0x100000, 0x100000},
        {"n25q128", {0x40, 0x00}, 0x800000, 0x800000},
        {"sst25vf032b", {0x18, 0x00}, 0x200000, 0x200000},
        {"25lc256", {0x08, 0x00}, 0x4000, 0x4000},
    };
    (void)state;
    for (size_t i = 0; i < sizeof ROWS / sizeof ROWS[0]; i++) {
        struct cm_guard guard;
        memory_rig_open(&rig, ROWS[i].part, "");
        memory_rig_identify(&rig, 8192);
        memcpy(rig.model->registers, ROWS[i].registers, 2);
        assert_int_equal(cm_guard_look(&rig.session, &guard), CM_OK);
        if (guard.first != ROWS[i].first || guard.bytes != ROWS[i].bytes)
            fail_msg("%s, %02X %02X: 0x%06X, %u bytes", ROWS[i].part, ROWS[i].registers[0],
                     ROWS[i].registers[1], (unsigned)guard.first, (unsigned)guard.bytes);
        memory_rig_close(&rig);
    }
}

/* Registers are a region, too: a put writes them as given, behind the contents. */
static void registers_can_be_put(void **state)
{
    uint8_t registers[3];
    (void)state;
    memory_rig_open(&rig, "w25q32", "");
    memory_rig_identify(&rig, 8192);
    memcpy(registers, rig.model->registers, sizeof registers);
    registers[0] = 0x1C; // all of it protected
    struct cm_memory memory = {registers, sizeof registers, 0};
    struct cm_memory head = {rig.image, 5000, 0};
    const struct cm_want wants[] = {{CM_NOR_STATUS, cm_memory_source(&memory)},
                                    {CM_NOR_FLASH, cm_memory_source(&head)}};
    struct cm_put put = {.wants = wants, .want_count = 2, .carry.in_memory = true};
    assert_int_equal(cm_put(&rig.session, &put, &rig.report), CM_OK);
    assert_memory_equal(rig.model->registers, registers, sizeof registers);
    uint8_t *back = malloc(5000);
    assert_int_equal(cm_read(&rig.session, CM_NOR_FLASH, 0, back, 5000), CM_OK);
    assert_memory_equal(back, rig.image, 5000);
    free(back);
    assert_int_equal(cm_put(&rig.session, &put, &rig.report), CM_OK);
    assert_int_equal(rig.report.pages_written, 0);
    assert_no_memory_breach(rig.model);
    memory_rig_close(&rig);
}

/* Every area that a part can protect is found by its bounds, set, and read back; what it cannot is
 * told with the next larger one. */
static void areas_are_set_by_range(void **state)
{
    struct cm_guard guard, now;
    (void)state;
    memory_rig_open(&rig, "w25q32", "  status: [0x80, 0x02, 0x60]\n");
    memory_rig_identify(&rig, 8192);
    static const uint32_t RANGES[][2] = {
        {0, 0},        {0, 0x400000},       {0x200000, 0x200000}, {0, 0x1000}, {0x3FC000, 0x4000},
        {0, 0x3F0000}, {0x100000, 0x300000}};
    for (size_t i = 0; i < sizeof RANGES / sizeof RANGES[0]; i++) {
        assert_int_equal(cm_guard_look(&rig.session, &guard), CM_OK);
        assert_int_equal(cm_nor_guard_choose(rig.session.part, &guard, RANGES[i][0], RANGES[i][1]),
                         CM_OK);
        assert_int_equal(cm_guard_restore(&rig.session, &guard), CM_OK);
        assert_int_equal(cm_guard_look(&rig.session, &now), CM_OK);
        assert_int_equal(now.bytes, RANGES[i][1]);
        assert_int_equal(now.bytes ? now.first : 0, RANGES[i][0]);
        assert_int_equal(rig.model->registers[0] & 0x80, 0x80); // what has no part in it stays
        assert_int_equal(rig.model->registers[1] & 0x3F, 0x02);
        assert_int_equal(rig.model->registers[2], 0x60);
    }
    assert_int_equal(cm_nor_guard_choose(rig.session.part, &guard, 0x300000, 0x80000), CM_DIFFERS);
    assert_true(guard.first <= 0x300000 && guard.first + guard.bytes >= 0x380000);
    assert_no_memory_breach(rig.model);
    memory_rig_close(&rig);
}

static enum cm_status note_lifting(void *context, const struct cm_guard *guard)
{
    *(struct cm_guard *)context = *guard;
    return CM_OK;
}

static bool stop_after_some(void *context, const struct cm_progress *progress)
{
    unsigned *left = context;
    return progress->step == CM_STEP_COMPARE || (*left)-- > 0;
}

static void a_protected_chip_is_left_alone_or_put_back(void **state)
{
    struct cm_guard noted = {.count = 0};
    (void)state;
    memory_rig_open(&rig, "w25q16", "  status: [0x1C, 0x02, 0x20]\n");
    memory_rig_identify(&rig, RIG_WORKSPACE);
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_PROTECTED);
    assert_int_equal(rig.session.failure.address, 0);
    assert_int_equal(rig.session.failure.found, 0x1C);
    assert_int_equal(rig.model->programs + rig.model->erases + rig.model->register_writes, 0);
    rig.put.unprotect = true;
    rig.put.lifting = note_lifting;
    rig.put.lifting_context = &noted;
    unsigned left = 3; // stopped in the middle
    rig.put.progress = stop_after_some;
    rig.put.progress_context = &left;
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_STOPPED);
    assert_true(rig.model->programs > 0 && rig.report.relocked && !rig.report.unlocked);
    assert_memory_equal(rig.model->registers, ((uint8_t[]){0x1C, 0x02, 0x20}), 3);
    assert_memory_equal(noted.registers, ((uint8_t[]){0x1C, 0x02, 0x20}), 3);
    left = UINT32_MAX;
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
    assert_holds_image(&rig);
    assert_memory_equal(rig.model->registers, ((uint8_t[]){0x1C, 0x02, 0x20}), 3);
    assert_no_memory_breach(rig.model);
    memory_rig_close(&rig);
}

/* As if noise had made a write of the status register of something else: bits of its protection. */
static bool protect_in_the_midst(void *context, const struct cm_progress *progress)
{
    unsigned *left = context;
    if (progress->step != CM_STEP_COMPARE && *left && --*left == 0)
        rig.model->registers[0] |= 0x0C;
    return true;
}

static void protection_that_noise_has_set_is_put_back(void **state)
{
    static const char *const PARTS[] = {"mx25l512", "25lc1024", "25lc080c", "m95040"};
    unsigned failed = 0;
    (void)state;
    for (size_t i = 0; i < 2 * sizeof PARTS / sizeof PARTS[0]; i++) {
        unsigned left = 1, part = (unsigned)i / 2;
        bool in_midst = i % 2 && part; // else behind all
        memory_rig_open(&rig, PARTS[part], "");
        memory_rig_identify(&rig, in_midst ? 900 : RIG_WORKSPACE);
        uint8_t before = rig.model->registers[0];
        rig.put.progress = protect_in_the_midst;
        rig.put.progress_context = &left;
        enum cm_status status = cm_put(&rig.session, &rig.put, &rig.report);
        assert_true(status == CM_OK || (in_midst && status == CM_WRITE_FAILED));
        failed += status != CM_OK;
        assert_int_equal(left, 0);
        assert_int_equal(rig.model->registers[0] & 0xFC, before & 0xFC);
        assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
        assert_holds_image(&rig);
        memory_rig_close(&rig);
    }
    assert_true(failed > 0);
}

/* The same where nothing was to be changed, and contact was bad while that was looked at. */
static void protection_is_looked_at_after_doubt(void **state)
{
    unsigned left = 1;
    (void)state;
    memory_rig_open(&rig, "mx25l512", "");
    memory_rig_identify(&rig, RIG_WORKSPACE);
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
    rig.session.doubts = 1;
    rig.put.progress = protect_in_the_midst;
    rig.put.progress_context = &left;
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
    assert_int_equal(left, 0);
    assert_true(rig.report.doubted && !rig.report.pages_written);
    assert_int_equal(rig.model->registers[0] & 0x0C, 0);
    memory_rig_close(&rig);
}

/* Where protection covers another part of the chip, nothing has to be lifted; nor is a larger erase
 * taken that would touch it. */
static void protection_elsewhere_does_not_matter(void **state)
{
    (void)state;
    memory_rig_open(&rig, "w25q16", "  status: [0x44, 0x00, 0x00]\n"); // the last 4 KiB
    memory_rig_identify(&rig, RIG_WORKSPACE);
    for (uint32_t i = 0; i < rig.model->row->bytes; i++)
        nor_model_set(rig.model, i, (uint8_t)(i >> 3));
    want_part(&rig, 0x1F0000, 0xF000);
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
    assert_int_equal(rig.model->register_writes, 0);
    for (uint32_t i = 0x1FF000; i < 0x200000; i++)
        assert_int_equal(nor_model_at(rig.model, i), (uint8_t)(i >> 3));
    want_part(&rig, 0x1FE000, 0x2000);
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_PROTECTED);
    assert_int_equal(rig.session.failure.address, 0x1FF000);
    assert_no_memory_breach(rig.model);
    memory_rig_close(&rig);
}

/* Held by its pin, locked until the power is off, or simply not taking it: told, and nothing else
 * is touched. */
static void registers_that_are_held_are_told(void **state)
{
    static const struct {
        const char *yaml;
        uint8_t cost;
    } CASES[] = {
        {"  status: [0x9C, 0x00, 0x00]\n  wp_low: true\n", CM_LIFT_PIN},
        {"  status: [0x1C, 0x01, 0x00]\n", CM_LIFT_POWER},
        {"  status: [0x1C, 0x00, 0x00]\nfaults:\n  registers_stuck: true\n", CM_LIFT_FREE}};
    (void)state;
    for (size_t i = 0; i < 3; i++) {
        struct cm_guard guard;
        memory_rig_open(&rig, "w25q16", CASES[i].yaml);
        memory_rig_identify(&rig, RIG_WORKSPACE);
        assert_int_equal(cm_guard_look(&rig.session, &guard), CM_OK);
        assert_int_equal(guard.cost, CASES[i].cost);
        rig.put.unprotect = true;
        assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_PROTECTED);
        assert_int_equal(rig.model->programs + rig.model->erases, 0);
        assert_int_equal(rig.model->registers[0] & 0x1C, 0x1C);
        memory_rig_close(&rig);
    }
    memory_rig_open(
        &rig, "w25q16",
        "  status: [0x9C, 0x00, 0x00]\n  wp_low: true\nport:\n  drives_wp: true\n"); // and with a
                                                                                     // wire to it
    memory_rig_identify(&rig, RIG_WORKSPACE);
    rig.put.unprotect = true;
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
    assert_int_equal(rig.model->registers[0], 0x9C);
    assert_no_memory_breach(rig.model);
    memory_rig_close(&rig);
}

/* The same id, a later generation: 01 takes one byte only, and the second register has an opcode of
 * its own. The first way is tried, read back, and then the other. */
static void a_chip_that_wants_each_register_alone_gets_it(void **state)
{
    static struct cm_nor_part later;
    static struct cm_nor_status status;
    struct cm_guard guard;
    (void)state;
    memory_rig_open(&rig, "gd25q16", "");
    memory_rig_identify(&rig, RIG_WORKSPACE);
    later = *rig.model->row;
    status = *later.status;
    status.write[1] = 0x31;
    later.status = &status;
    rig.model->row = &later;
    rig.model->registers[1] = 0x02;
    assert_int_equal(cm_guard_look(&rig.session, &guard), CM_OK);
    // needs CMP, which is in the second
    assert_int_equal(cm_nor_guard_choose(rig.session.part, &guard, 0, 0x1F0000), CM_OK);
    assert_int_equal(cm_guard_restore(&rig.session, &guard), CM_OK);
    assert_int_equal(rig.model->registers[0], 0x04);
    assert_int_equal(rig.model->registers[1], 0x42);
    assert_int_equal(rig.model->breaches[NOR_BREACH_FRAME], 1); // the way that it did not take
    memory_rig_close(&rig);
}

/* A lock for each sector, some set: exactly those are set again. */
static void sector_locks_are_put_back(void **state)
{
    uint8_t before[NOR_LOCK_SECTORS / 8];
    (void)state;
    memory_rig_open(&rig, "at25df321a", "");
    memory_rig_identify(&rig, RIG_WORKSPACE);
    memset(rig.model->sector_locks, 0, sizeof before);
    rig.model->sector_locks[0] = 0x81;
    rig.model->sector_locks[7] = 0x80;
    memcpy(before, rig.model->sector_locks, sizeof before);
    want_part(&rig, 0x1000, 100);
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_PROTECTED);
    rig.put.unprotect = true;
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
    assert_memory_equal(rig.model->sector_locks, before, sizeof before);
    assert_no_memory_breach(rig.model);
    memory_rig_close(&rig);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(areas_are_what_the_data_sheet_says),
        cmocka_unit_test(some_areas_by_the_sheets_own_tables),
        cmocka_unit_test(registers_can_be_put),
        cmocka_unit_test(areas_are_set_by_range),
        cmocka_unit_test(a_protected_chip_is_left_alone_or_put_back),
        cmocka_unit_test(protection_that_noise_has_set_is_put_back),
        cmocka_unit_test(protection_is_looked_at_after_doubt),
        cmocka_unit_test(protection_elsewhere_does_not_matter),
        cmocka_unit_test(registers_that_are_held_are_told),
        cmocka_unit_test(a_chip_that_wants_each_register_alone_gets_it),
        cmocka_unit_test(sector_locks_are_put_back),
    };
    return cmocka_run_group_tests_name("guard", tests, NULL, NULL);
}
