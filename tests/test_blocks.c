/* Hardware: simulated SPI memories, worked on by the engine that erases by blocks. */
#include "support/memory_rig.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct memory_rig rig;

static void fill_chip(uint32_t seed)
{
    fill_pattern(rig.image, rig.model->row->bytes, seed);
    for (uint32_t i = 0; i < rig.model->row->bytes; i++)
        nor_model_set(rig.model, i, rig.image[i]);
}

/* The plan is the cheapest: sectors where few pages change, a block where many do, the chip where
 * all do; and what it predicts comes true within a twentieth. */
static void the_cheapest_erases_are_taken(void **state)
{
    static const struct {
        uint32_t first, count, erases, erased;
    } CASES[] = {{0x10000, 100, 1, 4096},
                 {0x20000, 8192, 2, 8192},
                 {0x30000, 0x10000, 1, 0x10000},
                 {0x123400, 40960, 1, 0x10000}};
    (void)state;
    memory_rig_open(&rig, "w25q16", "");
    memory_rig_identify(&rig, RIG_WORKSPACE);
    fill_chip(1);
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        fill_pattern(rig.image + CASES[i].first, CASES[i].count, 9);
        want_part(&rig, CASES[i].first, CASES[i].count);
        struct cm_report plan;
        assert_int_equal(cm_plan(&rig.session, &rig.put, &plan), CM_OK);
        assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
        assert_int_equal(plan.erases, rig.report.erases);
        assert_int_equal(rig.report.erased_bytes, CASES[i].erased);
        assert_int_equal(plan.pages_written, rig.report.pages_written);
        if (rig.report.actual_us > plan.predicted_us + plan.predicted_us / 10 ||
            plan.predicted_us > rig.report.actual_us + rig.report.actual_us / 10)
            fail_msg("%u us predicted, %u taken", (unsigned)plan.predicted_us,
                     (unsigned)rig.report.actual_us);
        assert_holds_image(&rig);
    }
    assert_no_memory_breach(rig.model);
    memory_rig_close(&rig);
    memory_rig_open(&rig, "sst25vf040b", ""); // a chip erase of 35 ms against eight blocks of 18
    memory_rig_identify(&rig, RIG_WORKSPACE);
    rig.put.unprotect = true;
    fill_chip(1);
    fill_pattern(rig.image, rig.model->row->bytes, 2);
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
    assert_int_equal(rig.report.erases, 1);
    assert_int_equal(rig.report.erased_bytes, rig.model->row->bytes);
    assert_holds_image(&rig);
    memory_rig_close(&rig);
}

/* A page that begins blank, and is not: its bits are cleared before that shows. The erase that
 * would mend it takes other bytes along, which nobody allowed. "Refused" would say that nothing has
 * changed. */
static void what_is_refused_behind_a_write_is_in_doubt(void **state)
{
    enum { AT = 0x1000, COUNT = 16, NEIGHBOUR = 0x1F00 };
    (void)state;
    memory_rig_open(&rig, "w25q16", "");
    memory_rig_identify(&rig, RIG_WORKSPACE);
    nor_model_set(rig.model, AT + 3, 0x00);
    nor_model_set(rig.model, NEIGHBOUR, 0x12);
    fill_pattern(rig.image + AT, COUNT, 5);
    want_part(&rig, AT, COUNT);
    rig.put.carry = (struct cm_carry){.saved = NULL};
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_IN_DOUBT);
    assert_int_equal(rig.session.failure.step, CM_STEP_CARRY);
    assert_int_equal(nor_model_at(rig.model, NEIGHBOUR), 0x12);
    memory_rig_close(&rig);
}

struct saved_rest {
    uint32_t calls, bytes;
};

static enum cm_status save_rest(void *context, uint8_t region, uint32_t address,
                                const uint8_t *bytes, uint32_t count)
{
    struct saved_rest *rest = context;
    assert_int_equal(region, CM_NOR_FLASH);
    for (uint32_t i = 0; i < count; i++) // as it stands in the chip, which has not been erased yet
        assert_int_equal(nor_model_at(rig.model, address + i), bytes[i]);
    rest->calls++;
    rest->bytes += count;
    return CM_OK;
}

/* What else is in a sector is handed over before its erase, and there again after it; all addresses
 * and lengths around a sector's bounds. */
static void the_rest_of_a_sector_is_carried(void **state)
{
    (void)state;
    memory_rig_open(&rig, "w25q40bw", "");
    memory_rig_identify(&rig, 24 * 1024);
    fill_chip(4);
    static const uint32_t EDGES[] = {0, 1, 255, 256, 257, 4095, 4096, 4097, 8191, 8192};
    uint32_t seed = 100;
    for (size_t a = 0; a < 10; a++) {
        for (size_t b = a + 1; b < 10; b++) {
            struct saved_rest rest = {0};
            rig.put.carry = (struct cm_carry){.saved = save_rest, .context = &rest};
            fill_pattern(rig.image + 0x8000 + EDGES[a], EDGES[b] - EDGES[a], seed++);
            want_part(&rig, 0x8000 + EDGES[a], EDGES[b] - EDGES[a]);
            assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
            assert_holds_image(&rig);
            assert_int_equal(rest.bytes, rig.report.carried_bytes);
        }
    }
    assert_no_memory_breach(rig.model);
    memory_rig_close(&rig);
}

/* With too little memory to carry a sector the job ends before it begins; where nothing is to be
 * carried a page of memory will do. */
static void a_small_workspace_is_enough_or_told(void **state)
{
    (void)state;
    memory_rig_open(&rig, "w25q16", "");
    memory_rig_identify(&rig, 1024);
    fill_chip(1);
    fill_pattern(rig.image, 3 * 0x10000, 5);
    want_part(&rig, 0, 3 * 0x10000);
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
    assert_holds_image(&rig);
    uint32_t erases = rig.model->erases;
    rig.image[0x40000] ^= 0xFF;
    want_part(&rig, 0x40000, 1);
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_NO_ROOM);
    assert_int_equal(rig.model->erases, erases);
    assert_int_equal(cm_open(&rig.session, rig.port, rig.kits, 2, rig.workspace, 200), CM_OK);
    assert_int_equal(cm_identify(&rig.session, NULL), CM_OK);
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_NO_ROOM);
    memory_rig_close(&rig);
}

static bool count_plans(void *context, const struct cm_report *report)
{
    (void)report;
    ++*(unsigned *)context;
    return true;
}

/* A page that begins blank and is not: found out by its reading back, told, and its sector erased;
 * what else is in the sector stays. */
static void a_page_that_only_begins_blank_is_found_out(void **state)
{
    unsigned plans = 0;
    (void)state;
    memory_rig_open(&rig, "w25q16", "");
    memory_rig_identify(&rig, RIG_WORKSPACE);
    memset(rig.image, 0xFF, rig.model->row->bytes);
    fill_pattern(rig.image + 0x5000, 0x300, 3);
    nor_model_set(rig.model, 0x5180, 0x00);
    nor_model_set(rig.model, 0x5FFF, 0x5A);
    rig.image[0x5FFF] = 0x5A;
    want_part(&rig, 0x5000, 0x300);
    rig.put.planned = count_plans;
    rig.put.planned_context = &plans;
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
    assert_int_equal(plans, 2);
    assert_int_equal(rig.report.erases, 1);
    assert_holds_image(&rig);
    assert_no_memory_breach(rig.model);
    memory_rig_close(&rig);
}

static void worn_and_stuck_cells_are_named(void **state)
{
    (void)state;
    memory_rig_open(&rig, "w25q16", "faults:\n  worn_at: 74566\n"); // 0x12345
    memory_rig_identify(&rig, RIG_WORKSPACE);
    fill_chip(1);
    nor_model_set(rig.model, 0x12345, 0x00);
    fill_pattern(rig.image + 0x12000, 0x1000, 6);
    rig.image[0x12345] = 0xFF;
    want_part(&rig, 0x12000, 0x1000);
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_WRITE_FAILED);
    assert_int_equal(rig.session.failure.address, 0x12345);
    assert_int_equal(rig.session.failure.found, 0x00);
    memory_rig_close(&rig);
    memory_rig_open(&rig, "w25q16", "faults:\n  stuck_at: 74566\n");
    memory_rig_identify(&rig, RIG_WORKSPACE);
    rig.image[0x12345] = 0x40;
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_WRITE_FAILED);
    assert_int_equal(rig.session.failure.address, 0x12345);
    assert_int_equal(rig.session.failure.found, 0x41);
    memory_rig_close(&rig);
}

/* Contact goes after so many bytes, all through a job that erases, programs and reads back: noticed
 * within a page, and the same job goes on when it is back. */
static void lost_contact_is_noticed_within_a_page(void **state)
{
    (void)state;
    for (uint32_t lost = 40; lost < 60000; lost = lost * 5 / 4 + 13) {
        char yaml[80];
        snprintf(yaml, sizeof yaml, "  status: [0x04, 0x00, 0x00]\n");
        memory_rig_open(&rig, "w25q16", yaml);
        fill_chip(1);
        fill_pattern(rig.image + 0x1FE100, 0x1800, 8);
        want_part(&rig, 0x1FE100, 0x1800);
        memory_rig_identify(&rig, RIG_WORKSPACE);
        rig.put.unprotect = true;
        struct saved_rest rest = {0};
        rig.put.carry = (struct cm_carry){.saved = save_rest, .context = &rest};
        cm_sim_faults(rig.sim)->contact_lost_after_bytes = lost;
        cm_sim_restart_faults(rig.sim);
        uint32_t programs = rig.model->programs;
        enum cm_status status = cm_put(&rig.session, &rig.put, &rig.report);
        if (status == CM_OK) {
            memory_rig_close(&rig);
            break; // all was done before
        }
        if (status != CM_CONTACT_LOST && status != CM_NO_CHIP)
            fail_msg("%u bytes: %s", (unsigned)lost, cm_status_word(status));
        assert_true(rig.model->programs - programs <= 40);
        *cm_sim_faults(rig.sim) = (struct sim_faults){0};
        cm_sim_restart_faults(rig.sim);
        rig.model->registers[0] = 0x04; // put back by hand, as 'guard --restore' would
        if (rest.calls == 0) {          // before the erase: the same command goes on
            memory_rig_identify(&rig, RIG_WORKSPACE);
            assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
            assert_holds_image(&rig);
        }
        memory_rig_close(&rig);
    }
}

/* Contact goes and comes back in the midst: the job goes on by itself, also where the chip was
 * without power and its volatile protection is back. */
static void a_moment_without_contact_is_survived(void **state)
{
    static const char *const PARTS[] = {"w25q16", "sst25vf016b", "w25q256", "25lc256"};
    (void)state;
    for (uint32_t lost = 60; lost < 40000; lost = lost * 3 + 17) {
        for (size_t i = 0; i < 4; i++) {
            memory_rig_open(&rig, PARTS[i], "");
            memory_rig_identify(&rig, RIG_WORKSPACE);
            static uint8_t image[0x3000];
            fill_pattern(image, sizeof image, 11);
            rig.memory = (struct cm_memory){image, sizeof image,
                                            rig.model->row->bytes - (uint32_t)sizeof image};
            rig.put.unprotect = true;
            cm_sim_faults(rig.sim)->contact_lost_after_bytes = lost;
            cm_sim_faults(rig.sim)->contact_back_after_bytes = 30;
            cm_sim_restart_faults(rig.sim);
            enum cm_status status = cm_put(&rig.session, &rig.put, &rig.report);
            // there is more in the chip than was wanted
            assert_int_equal(status == CM_IN_DOUBT, rig.report.doubted);
            if (status && status != CM_IN_DOUBT)
                fail_msg("%s, lost after %u: %s at 0x%06X", PARTS[i], (unsigned)lost,
                         cm_status_word(status), (unsigned)rig.session.failure.address);
            for (uint32_t n = 0; n < sizeof image; n++)
                assert_int_equal(nor_model_at(rig.model, rig.memory.offset + n), image[n]);
            memory_rig_close(&rig);
        }
    }
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(what_is_refused_behind_a_write_is_in_doubt),
        cmocka_unit_test(the_cheapest_erases_are_taken),
        cmocka_unit_test(the_rest_of_a_sector_is_carried),
        cmocka_unit_test(a_small_workspace_is_enough_or_told),
        cmocka_unit_test(a_page_that_only_begins_blank_is_found_out),
        cmocka_unit_test(worn_and_stuck_cells_are_named),
        cmocka_unit_test(lost_contact_is_noticed_within_a_page),
        cmocka_unit_test(a_moment_without_contact_is_survived),
    };
    return cmocka_run_group_tests_name("blocks", tests, NULL, NULL);
}
