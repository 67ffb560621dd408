/* Hardware: serial EEPROMs on two and three wires and on SPI, as strict models: sessions begun at a
 * bad moment, and readings and writes with a wire off for the time of one byte. */
#include "support/memory_rig.h"
#include "support/rom_rig.h"
#include <sim/i2c24_model.h>
#include <sim/wires.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct rom_rig rig;

static void want_status(enum cm_status status, enum cm_status wanted, const char *when)
{
    if (status != wanted)
        fail_msg("%s, %s: %s, where it should be %s; at 0x%X, expected %02X, found %02X", rig.part,
                 when, cm_status_word(status), cm_status_word(wanted),
                 (unsigned)rig.session.failure.address, rig.session.failure.expected,
                 rig.session.failure.found);
}

/* One wire off for so many clocks, which begin so many clocks from now; or, with NULL, all mended.
 */
static void disturb_for(const char *wire, unsigned from, unsigned clocks)
{
    char text[SIM_WIRE_TEXT];
    struct sim_faults *faults = cm_sim_faults(rig.sim);
    faults->wire_count = wire != NULL;
    snprintf(text, sizeof text, "%s@%u+%u", wire ? wire : "mosi=low", from, clocks);
    assert_true(sim_wire_parse(text, &faults->wires[0]));
    cm_sim_restart_faults(rig.sim);
}

static void disturb(const char *wire, unsigned from)
{
    disturb_for(wire, from, 9);
}

static void want(uint32_t first, uint32_t count)
{
    rig.memory = (struct cm_memory){rig.image + first, count, first};
    rig.want = (struct cm_want){CM_REGION_MAIN, cm_memory_source(&rig.memory)};
}

/* A chip that still writes answers late, and parts with block bits in their address answer at
 * several. */
static void a_session_begun_in_a_write_cycle_waits(void **state)
{
    static const char *const PARTS[] = {"24lc16b", "24lc04b", "24lc1025", "24lc256", "24c02"};
    static const unsigned LEFT_US[] = {20, 150, 400, 1000, 2000, 4900, 9000};
    (void)state;
    for (size_t i = 0; i < sizeof PARTS / sizeof PARTS[0]; i++) {
        for (size_t k = 0; k < sizeof LEFT_US / sizeof LEFT_US[0]; k++) {
            rom_rig_open(&rig, PARTS[i], "");
            struct i2c24_model *model = cm_sim_i2c(rig.sim);
            model->busy_until_ns = model->now_ns + LEFT_US[k] * 1000ull;
            rom_rig_identify(&rig);
            want_status(rom_rig_put(&rig, 0, 40), CM_OK, "begun in a write cycle");
            for (uint32_t at = 0; at < rig.bytes; at++)
                assert_int_equal(cm_sim_at(rig.sim, at), at < 40 ? rig.image[at] : 0xFF);
            rom_rig_close(&rig);
        }
    }
}

/* Once found, the chip is looked for where it was, and nowhere else. */
static void a_known_address_stays_known(void **state)
{
    (void)state;
    rom_rig_open(&rig, "24lc256", "");
    cm_sim_i2c(rig.sim)->pins = 3;
    rom_rig_identify(&rig);
    assert_int_equal(family_state(&rig.session, 0), 0x53);
    uint64_t begun = cm_sim_clocks(rig.sim);
    assert_int_equal(cm_recover(&rig.session), CM_OK);
    assert_true(cm_sim_clocks(rig.sim) - begun < 80); // asked once, then one byte read
    rom_rig_close(&rig);
}

static void parts_that_show_all_ones_while_they_write(void **state)
{
    static const char *const PARTS[] = {"at25010b", "at25040b", "at25320b", "at25256b", "at25m01"};
    (void)state;
    for (size_t i = 0; i < sizeof PARTS / sizeof PARTS[0]; i++) {
        rom_rig_open(&rig, PARTS[i], "");
        rom_rig_identify(&rig);
        want_status(rom_rig_put(&rig, 0, 100), CM_OK, "all ones in its status");
        for (uint32_t at = 0; at < 100; at++)
            assert_int_equal(cm_sim_at(rig.sim, at), rig.image[at]);
        assert_no_rom_breach(&rig);
        rom_rig_close(&rig);
    }
}

/* t_SU;DAT: SDA is there some time before SCL rises, however fast the port's calls are. */
static void data_are_set_up_before_scl_rises(void **state)
{
    static const char *const PARTS[] = {"24lc256", "24c02"};
    (void)state;
    for (size_t i = 0; i < 2; i++) {
        rom_rig_open(&rig, PARTS[i], "port:\n  only_lines: true\n");
        rom_rig_identify(&rig);
        want_status(rom_rig_put(&rig, 0, 100), CM_OK, "by lines");
        assert_no_rom_breach(&rig);
        rom_rig_close(&rig);
    }
}

/* One acknowledgement that does not come is no write protection. */
static void a_slip_in_a_write_is_no_protection(void **state)
{
    enum { PLACES = 120, STEP = 7 };
    (void)state;
    rom_rig_open(&rig, "24lc256", "");
    for (unsigned place = test_first_place(); place < PLACES; place += test_place_step()) {
        rom_rig_identify(&rig);
        fill_pattern(rig.image, 64, place + 1);
        disturb("sda=high", place * STEP);
        enum cm_status status = rom_rig_put(&rig, 0, 64);
        disturb(NULL, 0);
        if (status != CM_OK && status != CM_IN_DOUBT)
            want_status(status, CM_OK, "a slip");
        for (uint32_t at = 0; at < 64; at++)
            assert_int_equal(cm_sim_at(rig.sim, at), rig.image[at]);
        cm_close(&rig.session);
    }
    rom_rig_close(&rig);
}

/* A reading that was cut off at any of its bits: the device holds SDA for the zeros it still has to
 * send. */
static void a_reading_that_was_cut_off_anywhere_is_cleared(void **state)
{
    static const uint8_t SENT[] = {0x00, 0x55, 0xAA, 0x0F, 0x80, 0x01};
    (void)state;
    for (size_t i = 0; i < sizeof SENT; i++) {
        for (uint8_t bit = 0; bit < 8; bit++) {
            rom_rig_open(&rig, "24lc64", "port:\n  only_lines: true\n");
            struct i2c24_model *model = cm_sim_i2c(rig.sim);
            for (uint32_t at = 0; at < 16; at++)
                i2c24_model_set(model, at, SENT[i]);
            i2c24_model_cut(model);
            model->out = SENT[i];
            model->bit = bit;
            model->holds_sda = !(SENT[i] >> (7 - bit) & 1);
            model->sda = !model->holds_sda;
            want_status(rom_rig_try(&rig), CM_OK, "cut off in a reading");
            rom_rig_close(&rig);
        }
    }
}

/* --- what one reading says --------------------------------------------------------------- */

static const struct {
    const char *part, *wire;
    uint8_t erased;
} DEAD[] = {{"24lc02b", "sda=high", 0xFF},
            {"25lc020a", "select=high", 0xFF},
            {"25lc020a", "miso=high", 0xFF},
            {"93lc56b", "miso=high", 0xFF}};

static void set_cell(uint32_t address, uint8_t byte)
{
    if (cm_sim_i2c(rig.sim))
        i2c24_model_set(cm_sim_i2c(rig.sim), address, byte);
    else if (cm_sim_three_wire(rig.sim))
        cm_sim_three_wire(rig.sim)->memory[address] = (uint8_t)~byte;
    else if (cm_sim_parallel(rig.sim))
        cm_sim_parallel(rig.sim)->memory[address] = (uint8_t)~byte;
    else
        cm_sim_memory(rig.sim)->memory[address] = (uint8_t)~byte;
}

/* A byte that is not blank, hidden for the time it takes: neither "blank" nor "equal" is said of
 * the chip, at any place. */
static void equal_and_blank_are_not_said_of_one_reading(void **state)
{
    enum { ODD_ONE = 200, STEP = 7 };
    (void)state;
    for (size_t i = 0; i < sizeof DEAD / sizeof DEAD[0]; i++) {
        rom_rig_open(&rig, DEAD[i].part, "");
        rom_rig_identify(&rig);
        uint32_t count = rig.bytes < 512 ? rig.bytes : 512;
        set_cell(ODD_ONE, 0x12);
        memset(rig.image, DEAD[i].erased, rig.bytes);
        want(0, count);
        uint64_t begun = cm_sim_clocks(rig.sim);
        assert_int_equal(cm_compare(&rig.session, &rig.want, NULL, NULL, NULL, &rig.report),
                         CM_DIFFERS);
        unsigned clocks = (unsigned)(cm_sim_clocks(rig.sim) - begun);
        for (unsigned from = STEP * test_first_place(); from < clocks;
             from += STEP * test_place_step()) {
            disturb(DEAD[i].wire, from);
            enum cm_status status =
                cm_compare(&rig.session, &rig.want, NULL, NULL, NULL, &rig.report);
            if (status == CM_OK)
                fail_msg("%s, %s@%u: said to match", rig.part, DEAD[i].wire, from);
            disturb(DEAD[i].wire, from);
            status = cm_is_blank(&rig.session, CM_REGION_MAIN, NULL, NULL);
            if (status == CM_OK)
                fail_msg("%s, %s@%u: said to be blank", rig.part, DEAD[i].wire, from);
            disturb(DEAD[i].wire, from);
            rig.put = (struct cm_put){.wants = &rig.want, .want_count = 1};
            status = cm_put(&rig.session, &rig.put, &rig.report);
            disturb(NULL, 0);
            if (status == CM_OK && cm_sim_at(rig.sim, ODD_ONE) != 0xFF)
                fail_msg("%s, %s@%u: put is said to be done", rig.part, DEAD[i].wire, from);
            set_cell(ODD_ONE, 0x12);
        }
        rom_rig_close(&rig);
    }
}

/* And of a chip that is right no reading that was disturbed says that it differs. */
static void no_difference_is_said_of_one_reading(void **state)
{
    enum { STEP = 5 };
    (void)state;
    for (size_t i = 0; i < sizeof DEAD / sizeof DEAD[0]; i++) {
        rom_rig_open(&rig, DEAD[i].part, "");
        rom_rig_identify(&rig);
        uint32_t count = rig.bytes < 512 ? rig.bytes : 512;
        for (uint32_t at = 0; at < count; at++)
            set_cell(at, rig.image[at]);
        want(0, count);
        uint64_t begun = cm_sim_clocks(rig.sim);
        assert_int_equal(cm_compare(&rig.session, &rig.want, NULL, NULL, NULL, &rig.report), CM_OK);
        unsigned clocks = (unsigned)(cm_sim_clocks(rig.sim) - begun);
        for (unsigned from = STEP * test_first_place(); from < clocks;
             from += STEP * test_place_step()) {
            disturb(DEAD[i].wire, from);
            if (cm_compare(&rig.session, &rig.want, NULL, NULL, NULL, &rig.report) == CM_DIFFERS)
                fail_msg("%s, %s@%u: said to differ", rig.part, DEAD[i].wire, from);
            disturb(NULL, 0);
        }
        rom_rig_close(&rig);
    }
}

/* What dead wires can answer is read twice, and no more. */
static void an_unchanged_chip_costs_two_readings(void **state)
{
    (void)state;
    rom_rig_open(&rig, "24lc64", "");
    rom_rig_identify(&rig);
    want_status(rom_rig_put(&rig, 0, 4096), CM_OK, "at first");
    uint64_t begun = cm_sim_clocks(rig.sim);
    want_status(rom_rig_put(&rig, 0, 4096), CM_OK, "again");
    assert_int_equal(rig.report.pages_written, 0);
    assert_in_range(cm_sim_clocks(rig.sim) - begun, 2 * 4096 * 9, 2 * 4096 * 9 * 11 / 10);
    rom_rig_close(&rig);
}

/* --- words of two bytes ------------------------------------------------------------------ */

/* A byte beside the image shares its word. Whatever a bad moment makes of that word, its own value
 * comes back. */
static void the_neighbour_in_a_word_outlives_a_failed_write(void **state)
{
    enum { AT = 0x7B, STEP = 4 };
    static const char *const WIRES[] = {"mosi=low", "mosi=high", "miso=low", "select=low"};
    (void)state;
    rom_rig_open(&rig, "93lc66b", "");
    for (size_t i = 0; i < sizeof WIRES / sizeof WIRES[0]; i++) {
        for (unsigned from = STEP * test_first_place(); from < 1600;
             from += STEP * test_place_step()) {
            for (uint32_t at = 0; at < rig.bytes; at++)
                set_cell(at, (uint8_t)(at ^ 0xAE));
            rom_rig_identify(&rig);
            rig.image[AT - 1] = 0x31;
            disturb(WIRES[i], from);
            cm_ignore(rom_rig_put(&rig, AT - 1, 1));
            disturb(NULL, 0);
            enum cm_status status = rom_rig_put(&rig, AT - 1, 1);
            if (cm_sim_at(rig.sim, AT) != (AT ^ 0xAE) || cm_sim_at(rig.sim, AT - 1) != 0x31)
                fail_msg("%s@%u, %s: the word holds %02X %02X", WIRES[i], from,
                         cm_status_word(status), cm_sim_at(rig.sim, AT - 1),
                         cm_sim_at(rig.sim, AT));
            cm_close(&rig.session);
        }
    }
    rom_rig_close(&rig);
}

/* --- a write that nobody asked for ------------------------------------------------------- */

/* As if an instruction had been misread as a write of another word. */
static bool write_beside(void *context, const struct cm_progress *progress)
{
    unsigned *left = context;
    if (progress->step == CM_STEP_PROGRAM && *left && --*left == 0)
        set_cell(rig.bytes - 2, 0x11);
    return true;
}

static void a_stray_write_beside_the_image_is_told(void **state)
{
    static const char *const PARTS[] = {"93lc66b", "93c46", "at28c16", "at28c64b"};
    (void)state;
    for (size_t i = 0; i < 2 * sizeof PARTS / sizeof PARTS[0]; i++) {
        unsigned left = i % 2; // or none
        rom_rig_open(&rig, PARTS[i / 2], "");
        rom_rig_identify(&rig);
        rig.put.progress = write_beside;
        rig.put.progress_context = &left;
        enum cm_status status = rom_rig_put(&rig, 8, 80);
        want_status(status, i % 2 ? CM_IN_DOUBT : CM_OK, PARTS[i / 2]);
        assert_int_equal(rig.report.doubtful_bytes, i % 2 ? rig.bytes - 80 : 0);
        rom_rig_close(&rig);
    }
}

/* --- three wires: who drives MISO ---------------------------------------------------------- */

/* A board may pull MISO down; a part drives it behind a write, and while it is read. */
static void a_pull_down_on_miso_hides_no_part(void **state)
{
    static const char *const PARTS[] = {"93lc66b", "93c46", "at93c56-8", "93aa86a"};
    (void)state;
    for (size_t i = 0; i < sizeof PARTS / sizeof PARTS[0]; i++) {
        rom_rig_open(&rig, PARTS[i], "  miso_pulled_low: true\n");
        want_status(rom_rig_try(&rig), CM_OK, rig.part); // a blank one
        want_status(rom_rig_put(&rig, 0, rig.bytes), CM_OK, rig.part);
        assert_rom_holds(&rig, 0);
        cm_close(&rig.session);
        want_status(rom_rig_try(&rig), CM_OK, rig.part);
        want_status(cm_match(&rig.session, CM_REGION_MAIN, 0, rig.image, rig.bytes), CM_OK,
                    rig.part);
        memset(rig.image, 0, rig.bytes);
        want_status(rom_rig_put(&rig, 0, rig.bytes), CM_OK, rig.part);
        assert_no_rom_breach(&rig);
        cm_close(&rig.session);
        // nothing tells it from a wire to ground
        want_status(rom_rig_try(&rig), CM_NO_CHIP, rig.part);
        rom_rig_close(&rig);
    }
}

/* --- a reading that becomes a write ------------------------------------------------------ */

static bool is_as_it_was(uint32_t from)
{
    bool same = true;
    for (uint32_t at = from; at < rig.bytes; at++)
        same &= cm_sim_at(rig.sim, at) == (uint8_t)(at ^ 0xAE);
    return same;
}

/* Puts blanks over blanks, and one byte, with others beside. */
static enum cm_status put_blanks(uint32_t count)
{
    memset(rig.image, 0xFF, count);
    rig.image[count / 2] = 0x31;
    for (uint32_t at = 0; at < rig.bytes; at++)
        set_cell(at, (uint8_t)(at < count ? 0xFF : at ^ 0xAE));
    return rom_rig_put(&rig, 0, count);
}

/* One bit of the device address, or a START, and a part on two wires takes the FF of a released bus
 * for data. Blanks were to be read, so nothing looks wrong; but the device is asked behind each
 * reading, and is busy. */
static void a_reading_that_becomes_a_write_is_told(void **state)
{
    enum { COUNT = 24, STEP = 13 };
    static const char *const PARTS[] = {"24lc16b", "24lc64"};
    static const char *const WIRES[] = {"sda=low", "sda=high", "scl=low", "scl=high"};
    (void)state;
    for (size_t i = 0; i < 4 * 2; i++) {
        rom_rig_open(&rig, PARTS[i / 4], "");
        rom_rig_identify(&rig);
        uint64_t begun = cm_sim_clocks(rig.sim);
        want_status(put_blanks(COUNT), CM_OK, "good wires");
        uint64_t clocks = cm_sim_clocks(rig.sim) - begun;
        for (unsigned from = STEP * test_first_place(); from < clocks;
             from += STEP * test_place_step()) {
            rom_rig_identify(&rig);
            disturb_for(WIRES[i % 4], from, 1 + from % 4);
            if (put_blanks(COUNT) == CM_OK && !is_as_it_was(COUNT))
                fail_msg("%s, %s@%u: good, and others changed", rig.part, WIRES[i % 4], from);
            disturb(NULL, 0);
            cm_close(&rig.session);
        }
        rom_rig_close(&rig);
    }
}

/* A portion is read at once only where the part has shown that it reads on. */
static void a_part_that_does_not_read_on_is_read_by_words(void **state)
{
    static const struct {
        const char *is, *called;
    } CASES[] = {{"93c66", "93lc66b"}, {"at93c46-8", "93aa46a"}, {"93lc66b", "93lc66b"}};
    static uint8_t found[512];
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        rom_rig_open(&rig, CASES[i].is, "");
        for (uint32_t at = 0; at < rig.bytes; at++)
            rig.image[at] = (uint8_t)(at < 40 ? 0x5A : at * 7); // where it begins nothing shows
        rom_rig_identify(&rig);
        want_status(rom_rig_put(&rig, 0, rig.bytes), CM_OK, rig.part);
        cm_close(&rig.session);
        rig.part = CASES[i].called;
        want_status(rom_rig_try(&rig), CM_OK, rig.part);
        want_status(cm_read(&rig.session, CM_REGION_MAIN, 0, found, rig.bytes), CM_OK, rig.part);
        assert_memory_equal(found, rig.image, rig.bytes);
        rom_rig_close(&rig);
    }
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(a_session_begun_in_a_write_cycle_waits),
        cmocka_unit_test(a_known_address_stays_known),
        cmocka_unit_test(parts_that_show_all_ones_while_they_write),
        cmocka_unit_test(data_are_set_up_before_scl_rises),
        cmocka_unit_test(a_slip_in_a_write_is_no_protection),
        cmocka_unit_test(a_reading_that_was_cut_off_anywhere_is_cleared),
        cmocka_unit_test(equal_and_blank_are_not_said_of_one_reading),
        cmocka_unit_test(no_difference_is_said_of_one_reading),
        cmocka_unit_test(an_unchanged_chip_costs_two_readings),
        cmocka_unit_test(the_neighbour_in_a_word_outlives_a_failed_write),
        cmocka_unit_test(a_stray_write_beside_the_image_is_told),
        cmocka_unit_test(a_reading_that_becomes_a_write_is_told),
        cmocka_unit_test(a_pull_down_on_miso_hides_no_part),
        cmocka_unit_test(a_part_that_does_not_read_on_is_read_by_words),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
