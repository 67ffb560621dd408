/* Hardware: simulated SPI memories, each alone on a bench, at 33 MHz or what they stand. */
#include "support/memory_rig.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct memory_rig rig;

enum { WINDOW = 20000, CHANGED = 4500 };

/* The end of the chip holds the image. */
static void assert_window(const uint8_t *image, uint32_t first, uint32_t count)
{
    for (uint32_t i = 0; i < count; i++) {
        if (nor_model_at(rig.model, first + i) != image[i])
            fail_msg("%s: 0x%06X holds %02X, not %02X", rig.model->row->part.name,
                     (unsigned)(first + i), nor_model_at(rig.model, first + i), image[i]);
    }
}

static void put_bytes(uint8_t *bytes, uint32_t first, uint32_t count)
{
    rig.memory = (struct cm_memory){bytes, count, first};
    enum cm_status status = cm_put(&rig.session, &rig.put, &rig.report);
    if (status)
        fail_msg("%s: %s at 0x%06X, %02X for %02X", rig.model->row->part.name,
                 cm_status_word(status), (unsigned)rig.session.failure.address,
                 rig.session.failure.found, rig.session.failure.expected);
}

/* Every part of both tables: its end is filled, changed in the middle, and found right; nothing on
 * the wires was against its data sheet. */
static void every_part_is_written_and_changed(void **state)
{
    static uint8_t image[WINDOW];
    (void)state;
    for (int i = 0; i < CM_NOR_PART_COUNT + CM_EE25_PART_COUNT; i++) {
        if (!test_takes_part((uint32_t)i))
            continue;
        const struct cm_part *part =
            i < CM_NOR_PART_COUNT ? cm_nor_all_parts[i] : cm_ee25_all_parts[i - CM_NOR_PART_COUNT];
        uint32_t bytes = cm_nor_row(part)->bytes, count = bytes < WINDOW ? bytes : WINDOW,
                 first = bytes - count;
        memory_rig_open(&rig, part->name, "");
        memory_rig_identify(&rig, RIG_WORKSPACE);
        rig.put.unprotect = true;
        fill_pattern(image, count, 3);
        put_bytes(image, first, count);
        assert_window(image, first, count);
        uint32_t at = count / 3, some = count < 4 * CHANGED ? count / 4 : CHANGED;
        fill_pattern(image + at, some, 7);
        put_bytes(image + at, first + at, some);
        assert_window(image, first, count);
        put_bytes(image, first, count);
        assert_int_equal(rig.report.pages_written, 0);
        assert_no_memory_breach(rig.model);
        memory_rig_close(&rig);
    }
}

/* --- who is there ------------------------------------------------------------------------ */

/* A chip in no table tells of itself, and is worked with. */
static void a_chip_in_no_table_tells_of_itself(void **state)
{
    static const char *const PARTS[] = {"w25q32", "w25q512jv", "n25q256", "mx25l25635f", "n25q512"};
    (void)state;
    for (size_t i = 0; i < sizeof PARTS / sizeof PARTS[0]; i++) {
        static uint8_t image[0x3000];
        memory_rig_open(&rig, PARTS[i], "");
        rig.kits[0].part_count = 0;
        assert_int_equal(
            cm_open(&rig.session, rig.port, rig.kits, 1, rig.workspace, sizeof rig.workspace),
            CM_OK);
        assert_int_equal(cm_identify(&rig.session, NULL), CM_OK);
        assert_int_equal(cm_nor_row(rig.session.part)->bytes, rig.model->row->bytes);
        assert_int_equal(cm_nor_row(rig.session.part)->erases->units[0].bytes, 4096);
        fill_pattern(image, sizeof image, 2);
        rig.memory =
            (struct cm_memory){image, sizeof image, rig.model->row->bytes - (uint32_t)sizeof image};
        assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
        for (uint32_t n = 0; n < sizeof image; n++)
            assert_int_equal(nor_model_at(rig.model, rig.memory.offset + n), image[n]);
        assert_no_memory_breach(rig.model);
        memory_rig_close(&rig);
    }
    memory_rig_open(&rig, "m25p80", ""); // and one that has nothing to tell stays unknown
    rig.kits[0].part_count = 0;
    assert_int_equal(
        cm_open(&rig.session, rig.port, rig.kits, 1, rig.workspace, sizeof rig.workspace), CM_OK);
    assert_int_equal(cm_identify(&rig.session, NULL), CM_UNKNOWN_CHIP);
    memory_rig_close(&rig);
}

/* A row that is silent about erases: the chip's own tables fill in, and all else is the row's. */
static void where_the_table_is_silent_the_chip_tells(void **state)
{
    static struct cm_nor_part silent;
    static const struct cm_part *const parts[] = {&silent.part};
    (void)state;
    memory_rig_open(&rig, "w25q32", "");
    silent = cm_w25q32;
    silent.erases = NULL;
    rig.kits[0].parts = parts;
    rig.kits[0].part_count = 1;
    assert_int_equal(
        cm_open(&rig.session, rig.port, rig.kits, 1, rig.workspace, sizeof rig.workspace), CM_OK);
    assert_int_equal(cm_identify(&rig.session, "w25q32"), CM_OK);
    assert_string_equal(rig.session.part->name, "w25q32");
    assert_ptr_equal(cm_nor_row(rig.session.part)->guard, silent.guard);
    assert_int_equal(cm_nor_row(rig.session.part)->erases->units[2].bytes, 65536);
    nor_model_set(rig.model, 0x1234, 0x00);
    want_part(&rig, 0, 0x2000);
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
    assert_int_equal(rig.report.erases, 1);
    assert_no_memory_breach(rig.model);
    memory_rig_close(&rig);
}

/* Asleep, in the midst of an erase, or left in the wide mode: found all the same. */
static void a_chip_is_found_however_it_was_left(void **state)
{
    (void)state;
    memory_rig_open(&rig, "w25q256", "");
    rig.model->asleep = true;
    memory_rig_identify(&rig, 8192);
    cm_close(&rig.session);
    rig.model->wide = true;
    memory_rig_identify(&rig, 8192);
    cm_close(&rig.session);
    assert_false(rig.model->wide); // let go as a board wants it
    rig.model->busy_until_ns = rig.model->now_ns + 700000000;
    memory_rig_identify(&rig, 8192);
    memory_rig_close(&rig);
    memory_rig_open(&rig, "w25q16", "wires: [miso=high]\n");
    assert_int_equal(cm_open(&rig.session, rig.port, rig.kits, 2, rig.workspace, 8192), CM_OK);
    assert_int_equal(cm_identify(&rig.session, NULL), CM_NO_CHIP);
    memory_rig_close(&rig);
    memory_rig_open(&rig, "25lc256", "");
    assert_int_equal(cm_open(&rig.session, rig.port, rig.kits, 2, rig.workspace, 8192), CM_OK);
    assert_int_equal(cm_identify(&rig.session, NULL), CM_UNKNOWN_CHIP); // no id: only by name
    assert_int_equal(cm_identify(&rig.session, "w25q16"), CM_NO_CHIP);
    memory_rig_close(&rig);
}

/* Every table's row: unique names, sizes that divide, units in order, ids that do not hide one
 * another. */
static void the_tables_are_sound(void **state)
{
    (void)state;
    assert_true(CM_NOR_PART_COUNT >= 150);
    for (int i = 0; i < CM_NOR_PART_COUNT; i++) {
        const struct cm_nor_part *row = cm_nor_row(cm_nor_all_parts[i]);
        assert_non_null(row->erases);
        assert_true(row->times && row->status && (row->bytes & (row->bytes - 1)) == 0);
        assert_true((row->bytes > 1 << 24) == (row->wide != CM_NOR_NARROW));
        for (int u = 0; u < CM_NOR_ERASES && row->erases->units[u].bytes; u++) {
            const struct cm_nor_erase *unit = &row->erases->units[u];
            assert_true((unit->bytes & (unit->bytes - 1)) == 0 && unit->us < unit->max_us);
            assert_true(u == 0 || unit->bytes > row->erases->units[u - 1].bytes);
            assert_true(row->wide != CM_NOR_OPCODES_4 || unit->opcode_4);
        }
        for (int other = 0; other < i; other++) {
            const struct cm_part *before = cm_nor_all_parts[other];
            assert_string_not_equal(before->name, row->part.name);
            bool hides = before->id_bytes < row->part.id_bytes &&
                         memcmp(before->id, row->part.id, before->id_bytes) == 0;
            if (hides)
                fail_msg("%s hides %s", before->name, row->part.name);
        }
    }
}

/* A link of 1 ms a batch: the same job, and few batches. */
static void a_link_is_not_asked_page_by_page(void **state)
{
    uint32_t took[2];
    (void)state;
    for (int link = 0; link < 2; link++) {
        memory_rig_open(&rig, "w25q16", link ? "port:\n  batch_us: 1000\n" : "");
        memory_rig_identify(&rig, RIG_WORKSPACE);
        assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
        took[link] = rig.report.actual_us + rig.report.survey_us;
        assert_holds_image(&rig);
        assert_no_memory_breach(rig.model);
        memory_rig_close(&rig);
    }
    assert_true(took[1] < took[0] + took[0] / 10);
}

/* The port makes the clock from its lines: the same job by pins. */
static void lines_alone_will_do(void **state)
{
    (void)state;
    memory_rig_open(&rig, "mx25v1035f", "port:\n  only_lines: true\n");
    memory_rig_identify(&rig, 8192);
    want_part(&rig, 0x1FF00, 0x100);
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
    for (uint32_t i = 0x1FF00; i < 0x20000; i++)
        assert_int_equal(nor_model_at(rig.model, i), rig.image[i]);
    assert_no_memory_breach(rig.model);
    memory_rig_close(&rig);
}

/* In circuit: the supply is sought from the top, and the first at which the id is right every time
 * is kept. */
static void note_try(void *context, const struct cm_supply_try *tried)
{
    *(uint16_t *)context = tried->mv;
}

static void a_quiet_supply_is_found(void **state)
{
    char text[300], error[SIM_ERROR_BYTES];
    uint16_t last = 0;
    (void)state;
    memory_rig_open(&rig, "w25q16", "");
    cm_sim_close(rig.sim);
    snprintf(text, sizeof text,
             "bench: in circuit\nchip:\n  part: w25q16\n  supply_mv: 0\n  neighbour_from_mv: "
             "2850\nport:\n  feeds_from_mv: 1800\n  "
             "feeds_to_mv: 5000\n  measures_supply: true\n");
    write_file(rig.path, sizeof rig.path, "circuit.yaml", text);
    rig.sim = cm_sim_open(rig.path, error);
    rig.model = cm_sim_memory(rig.sim);
    assert_int_equal(cm_open(&rig.session, cm_sim_port(rig.sim), rig.kits, 2, rig.workspace, 8192),
                     CM_OK);
    assert_int_equal(cm_find_supply(&rig.session, "w25q16", note_try, &last), CM_OK);
    assert_int_equal(last, 2800);
    assert_int_equal(rig.session.supply_mv, 2800);
    assert_int_equal(cm_find_supply(&rig.session, "w25q99", note_try, &last), CM_BAD_ARGUMENT);
    // a 1.8 V part: never fed more than 2 V
    assert_int_equal(cm_find_supply(&rig.session, "w25q32dw", note_try, &last), CM_NO_CHIP);
    assert_true(rig.model->supply_mv <= 2000);
    memory_rig_close(&rig);
}

/* Above the limit of the plain read a chip is read by the fast one: only where the caller asked for
 * that clock, the part has it, and the port makes it. */
static void a_fast_clock_reads_by_the_fast_instruction(void **state)
{
    static const struct {
        const char *part, *port;
        uint32_t asked_hz, due_hz;
    } CASES[] = {{"w25q128", "  max_clock_hz: 104000000\n", 104000000, 104000000},
                 {"w25q128", "  max_clock_hz: 104000000\n  frames: true\n", 80000000, 80000000},
                 {"n25q128", "  max_clock_hz: 200000000\n", 200000000, 108000000},
                 {"w25q128", "  max_clock_hz: 104000000\n", 0, 33000000},
                 {"w25q64", "  max_clock_hz: 104000000\n", 104000000, 33000000},
                 {"w25q128", "  max_clock_hz: 20000000\n", 104000000, 20000000}};
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        char more[200];
        snprintf(more, sizeof more, "port:\n%s", CASES[i].port);
        memory_rig_open(&rig, CASES[i].part, more);
        assert_int_equal(cm_open(&rig.session, rig.port, rig.kits, 1, rig.workspace, RIG_WORKSPACE),
                         CM_OK);
        rig.session.cpu_hz = CASES[i].asked_hz;
        assert_int_equal(cm_identify(&rig.session, CASES[i].part), CM_OK);
        assert_int_equal(rig.session.clock_hz, CASES[i].due_hz);
        fill_pattern(rig.image, 20000, 3);
        want_part(&rig, 0, 20000);
        assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
        uint8_t again[20000];
        assert_int_equal(cm_read(&rig.session, CM_NOR_FLASH, 0, again, sizeof again), CM_OK);
        assert_memory_equal(again, rig.image, sizeof again);
        assert_no_memory_breach(rig.model);
        memory_rig_close(&rig);
    }
}

static void assert_as_long(const struct cm_part *one, const struct cm_part *other)
{
    const struct cm_nor_part *a = cm_nor_row(one), *b = cm_nor_row(other);
    bool good = a->times->program_max_us == b->times->program_max_us &&
                a->times->status_max_us == b->times->status_max_us;
    for (int i = 0; i < CM_NOR_ERASES * CM_NOR_ERASES && a->erases && b->erases; i++) {
        const struct cm_nor_erase *mine = &a->erases->units[i / CM_NOR_ERASES],
                                  *its = &b->erases->units[i % CM_NOR_ERASES];
        bool is_same = mine->bytes && its->bytes && mine->opcode == its->opcode;
        good = good && (!is_same || mine->max_us == its->max_us);
    }
    if (!good)
        fail_msg("%s and %s have one id, and other longest times", one->name, other->name);
}

/* Parts with one id are driven as the first of them: it waits as long as the slowest needs. */
static void parts_with_one_id_have_the_times_of_the_slowest(void **state)
{
    unsigned pairs = 0;
    (void)state;
    for (int i = 0; i < CM_NOR_PART_COUNT; i++) {
        for (int k = 0; k < i; k++) {
            const struct cm_part *one = cm_nor_all_parts[i], *other = cm_nor_all_parts[k];
            uint8_t bytes = one->id_bytes < other->id_bytes ? one->id_bytes : other->id_bytes;
            if (bytes && one->id_bytes == other->id_bytes &&
                memcmp(one->id, other->id, bytes) == 0) {
                assert_as_long(one, other);
                pairs++;
            }
        }
    }
    print_message("  %u pairs of parts with one id\n", pairs);
    assert_true(pairs > 0);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(parts_with_one_id_have_the_times_of_the_slowest),
        cmocka_unit_test(every_part_is_written_and_changed),
        cmocka_unit_test(a_chip_in_no_table_tells_of_itself),
        cmocka_unit_test(where_the_table_is_silent_the_chip_tells),
        cmocka_unit_test(a_chip_is_found_however_it_was_left),
        cmocka_unit_test(a_fast_clock_reads_by_the_fast_instruction),
        cmocka_unit_test(the_tables_are_sound),
        cmocka_unit_test(a_link_is_not_asked_page_by_page),
        cmocka_unit_test(lines_alone_will_do),
        cmocka_unit_test(a_quiet_supply_is_found),
    };
    return cmocka_run_group_tests_name("nor", tests, NULL, NULL);
}
