/* Hardware: simulated memories in sockets and on two and three wires, through the command-line tool
 * as a process of its own. */
#include "support/memory_rig.h"
#include "support/tool.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct outcome outcome;
static char bench[200], via[220];

static void stand(const char *part, const char *more)
{
    setenv("XDG_STATE_HOME", test_folder(), 1);
    setenv("XDG_CONFIG_HOME", test_folder(), 1);
    make_bench("rom-tool", part, more, bench, via);
    cm_sim_renew(bench);
}

static void no_breaches(void)
{
    TOOL(0, "bench", "show", bench);
    assert_says(outcome.out, "breaches  none");
}

/* Back up, look inside, place, put, match, restore: the story of a ROM in a socket. */
static void test_a_bank_of_a_rom_is_replaced(void **state)
{
    char old[200], tune[200], new[220], kept[220];
    (void)state;
    make_file(old, "old.bin", 512 * 1024, 1);
    make_file(tune, "tune.bin", 60000, 2);
    snprintf(new, sizeof new, "%s/new.bin", test_folder());
    snprintf(kept, sizeof kept, "%s/kept.mint", test_folder());
    stand("sst39sf040", "  flash: old.bin\n");
    TOOL(0, "look", via, "--chip", "sst39sf040");
    assert_says(outcome.out, "70 ns a cycle");
    TOOL(0, "keep", via, "--chip", "sst39sf040", kept);
    TOOL(0, "image", "match", kept, old);
    TOOL(0, "image", "place", old, tune, "--bank", "3", "--bank-size", "64K", "-o", new);
    TOOL(0, "put", via, "--chip", "sst39sf040", new);
    assert_says(outcome.out, "erases of 60 KiB in all"); // fifteen sectors of the bank
    TOOL(0, "match", via, "--chip", "sst39sf040", new);
    TOOL(0, "put", via, "--chip", "sst39sf040", new);
    assert_says(outcome.out, "it did before");
    TOOL(0, "put", via, "--chip", "sst39sf040", kept);
    TOOL(0, "match", via, "--chip", "sst39sf040", old);
    no_breaches();
}

static void test_a_socket_is_not_asked_without_a_name(void **state)
{
    (void)state;
    stand("at28c256", "");
    TOOL(2, "look", via);
    assert_says(outcome.err, "takes that for data");
    TOOL(0, "look", via, "--chip", "at28c256");
    assert_says(outcome.out, "blank");
    no_breaches();
    stand("am29f040b", "");
    TOOL(0, "look", via, "--chip", "any-flash");
    assert_says(outcome.out, "am29f040b");
    stand("sst39vf400a", "");
    TOOL(0, "look", via, "--chip", "any-flash");
    assert_says(outcome.out, "id BF 80 27");
    stand("27c256", "");
    TOOL(4, "look", via, "--chip", "any-flash");
}

static void test_seats_are_explained(void **state)
{
    (void)state;
    stand("sst39sf040", "  seat: one-pin-up\n");
    TOOL(4, "look", via, "--chip", "sst39sf040");
    assert_says(outcome.err, "one pin too high");
    stand("sst39sf040", "  seat: one-pin-down\n");
    TOOL(4, "look", via, "--chip", "sst39sf040");
    assert_says(outcome.err, "nobody drives the bus");
    stand("sst39sf040", "  seat: turned\nport:\n  measures_supply: true\n");
    TOOL(4, "look", via, "--chip", "sst39sf040");
    assert_says(outcome.err, "wrong way round");
    stand("sst39sf040", "  seat: turned\n");
    TOOL(4, "look", via, "--chip", "sst39sf040");
    assert_says(outcome.err, "held low");
    stand("am29f040b", "");
    TOOL(5, "look", via, "--chip", "sst39sf040");
    assert_says(outcome.err, "am29f040b");
}

static void test_software_data_protection(void **state)
{
    char file[200];
    (void)state;
    make_file(file, "file.bin", 5000, 3);
    stand("at28c256", "  status: [1]\n");
    TOOL(6, "put", via, "--chip", "at28c256", file);
    assert_says(outcome.err, "software data protection");
    TOOL(0, "put", via, "--chip", "at28c256", "--unprotect", file);
    TOOL(6, "put", via, "--chip", "at28c256", "--no-backup",
         SOURCE_FOLDER "/demo/firmware/bell-7.hex");
    TOOL(0, "guard", via, "--chip", "at28c256", "--lift");
    TOOL(0, "put", via, "--chip", "at28c256", "--no-backup",
         SOURCE_FOLDER "/demo/firmware/bell-7.hex");
    TOOL(0, "guard", via, "--chip", "at28c256", "--set", "all");
    TOOL(6, "put", via, "--chip", "at28c256", file);
    TOOL(2, "guard", via, "--chip", "at28c256", "--set", "upper-half");
    no_breaches();
}

static void test_eproms_and_whole_chips_say_what_they_cannot(void **state)
{
    char file[200];
    (void)state;
    make_file(file, "file.bin", 5000, 4);
    stand("27c256", "");
    TOOL(3, "put", via, "--chip", "27c256", file);
    assert_says(outcome.err, "cannot program an EPROM");
    // a plan ends as the job would
    TOOL(3, "put", via, "--chip", "27c256", "--plan", file);
    assert_says(outcome.err, "cannot program an EPROM");
    stand("27c256", "  eprom: file.bin\n");
    TOOL(0, "match", via, "--chip", "27c256", file);
    make_file(file, "file.bin", 5000, 5);
    TOOL(10, "put", via, "--chip", "27c256", file);
    assert_says(outcome.err, "ultraviolet");
    char whole[200];
    make_file(whole, "whole.bin", 128 * 1024, 6);
    stand("at49f010", "  flash: whole.bin\n");
    TOOL(9, "put", via, "--chip", "at49f010", file);
    assert_says(outcome.err, "image place");
    make_file(whole, "whole.bin", 128 * 1024, 7);
    TOOL(0, "put", via, "--chip", "at49f010", whole);
    no_breaches();
}

static void test_serial_eeproms_on_two_and_three_wires(void **state)
{
    char file[200];
    (void)state;
    make_file(file, "file.bin", 2048, 8);
    stand("24c16", "");
    TOOL(5, "look", via);
    assert_says(outcome.err, "50, 51, 52, 53, 54, 55, 56, 57");
    TOOL(0, "put", via, "--chip", "24c16", file);
    TOOL(0, "match", via, "--chip", "24c16", file);
    no_breaches();
    stand("24lc64", "  status: [3]\n");
    TOOL(5, "look", via);
    assert_says(outcome.err, "answer: 53");
    TOOL(0, "put", via, "--chip", "24LC64@53", file);
    TOOL(4, "look", via, "--chip", "24lc64@52");
    TOOL(2, "look", via, "--chip", "24lc64@99");
    no_breaches();
    stand("24c02", "");
    TOOL(3, "look", via, "--chip", "93c46");
    assert_says(outcome.err, "SELECT");
    stand("93c86", "");
    TOOL(0, "put", via, "--chip", "93c86", file);
    TOOL(0, "look", via, "--chip", "93c86", "--map", "-");
    TOOL(4, "look", via, "--chip", "93c46");
    no_breaches();
    TOOL(4, "look", via); // it has no id, and a quiet bus is no chip
}

/* What looks like something else is told as what it looks like. */
/* A programmer that starts again is no bus whose wires are swapped. */
static void test_restarts_on_two_wires_are_told(void **state)
{
    (void)state;
    for (unsigned every = 23; every < 200; every += 31) {
        char more[80];
        snprintf(more, sizeof more, "faults:\n  restart_every_bytes: %u\n", every);
        stand("24lc64", more);
        run_tool(&outcome, "look", via, NULL);
        assert_null(strstr(outcome.err, "swapped"));
        if (outcome.code != 5) // 5: it goes by its name
            assert_says(outcome.err, "began again");
        run_tool(&outcome, "match", via, "--chip", "24lc64", "file.bin", NULL);
        assert_null(strstr(outcome.err, "swapped"));
    }
}

static void test_what_serial_eeproms_look_like(void **state)
{
    char file[200], kept[300];
    (void)state;
    make_file(file, "file.bin", 8192, 9);
    stand("24lc64", "");
    TOOL(0, "put", via, "--chip", "24lc64", file);
    snprintf(kept, sizeof kept, "%s.kept.bin", file);
    TOOL(0, "keep", via, "--chip", "24lc256", kept, "--replace"); // the wrong name
    assert_says(outcome.out, "repeat every 8192 bytes");
    TOOL(0, "keep", via, "--chip", "24lc64", kept, "--replace");
    assert_null(strstr(outcome.out, "repeat every"));
    stand("25lc040a", "  wp_low: true\n"); // takes no write enable then
    TOOL(4, "look", via, "--chip", "25lc040a");
    assert_says(outcome.err, "WP");
    stand("93lc56b", "wires: [\"miso=low\"]\n");
    TOOL(4, "look", via, "--chip", "93lc56b");
    assert_says(outcome.err, "held low");
}

static void test_wires_know_sockets(void **state)
{
    (void)state;
    TOOL(0, "wires", "sst39sf040", "--package", "plcc-32");
    assert_says(outcome.out, " 4  3  2  1 32 31 30");
    TOOL(0, "wires", "27c256");
    assert_says(outcome.out, "VPP");
    TOOL(0, "wires", "w25q32");
    assert_says(outcome.out, "SOIC-8");
    TOOL(0, "wires", "24c16");
    TOOL(0, "wires", "93c46");
    for (int i = 0; i < CM_PAR_PART_COUNT; i++) {
        bool known = cm_par_about.pinout(cm_par_all_parts[i], 0) != NULL;
        bool in_dip = !(cm_par_row(cm_par_all_parts[i])->traits & CM_PAR_WIDE) &&
                      cm_par_row(cm_par_all_parts[i])->bytes <= 512 * 1024;
        if (known != in_dip)
            fail_msg("%s: pinout %s", cm_par_all_parts[i]->name, known ? "known" : "not known");
    }
}

/* --- the catalogue ----------------------------------------------------------------------- */

#define CATALOGUE SOURCE_FOLDER "/demo/catalogue"

static void test_a_catalogue_lists_what_fits_and_refuses_another_board(void **state)
{
    (void)state;
    stand("attiny84a", "");
    TOOL(0, "mint", via, "--from", CATALOGUE);
    assert_says(outcome.out, "4 of 5 fit");
    assert_says(outcome.out, "no marker on the chip");
    const char *newest = strstr(outcome.out, "c-1.5"), *older = strstr(outcome.out, "c-1.4");
    assert_true(newest && older && newest < older);
    TOOL(10, "mint", via, "--from", CATALOGUE, "strike node");
    assert_says(outcome.err, "which board is this");
    TOOL(0, "mint", via, "--from", CATALOGUE, "Strike Node", "--board", "C");
    assert_says(outcome.out, "version 1.5");
    TOOL(0, "mint", via, "--from", CATALOGUE);
    assert_says(outcome.out, "board     C, as its marker says");
    assert_says(outcome.out, "for another board than this one: refused");
    TOOL(5, "mint", via, "--from", CATALOGUE, "strike node", "--board", "B");
    TOOL(5, "mint", via, CATALOGUE "/strike-node-b-1.4.yaml");
    assert_says(outcome.err, "reads \"NODE-C\"");
    TOOL(0, "mint", via, "--from", CATALOGUE, "strike node", "--version", "1.4");
    assert_says(outcome.out, "version 1.4");
    TOOL(0, "mint", via, "--from", CATALOGUE, "strike node");
    TOOL(2, "mint", via, "--from", CATALOGUE, "no such thing");
    TOOL(5, "mint", via, "--from", CATALOGUE, "console");
    TOOL(9, "mint", via, "--from", CATALOGUE "/nowhere");
    TOOL(0, "bench", "show", bench);
    assert_says(outcome.out, "breaches  none");
}

static void test_a_marker_that_makes_no_sense_is_told(void **state)
{
    char path[200];
    (void)state;
    stand("attiny84a", "");
    write_file(path, sizeof path, "marker.yaml", "recipe: x\nchip: attiny84a\nmarker: here\n");
    TOOL(9, "mint", via, path);
    assert_says(outcome.err, "line 3");
    write_file(path, sizeof path, "marker.yaml",
               "recipe: x\nchip: attiny84a\nmarker: eeprom 0x1FF TOO-LONG\n");
    TOOL(9, "mint", via, path);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(test_a_bank_of_a_rom_is_replaced),
        cmocka_unit_test(test_a_socket_is_not_asked_without_a_name),
        cmocka_unit_test(test_seats_are_explained),
        cmocka_unit_test(test_software_data_protection),
        cmocka_unit_test(test_eproms_and_whole_chips_say_what_they_cannot),
        cmocka_unit_test(test_serial_eeproms_on_two_and_three_wires),
        cmocka_unit_test(test_restarts_on_two_wires_are_told),
        cmocka_unit_test(test_what_serial_eeproms_look_like),
        cmocka_unit_test(test_wires_know_sockets),
        cmocka_unit_test(test_a_catalogue_lists_what_fits_and_refuses_another_board),
        cmocka_unit_test(test_a_marker_that_makes_no_sense_is_told),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
