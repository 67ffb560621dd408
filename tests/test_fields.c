/* Hardware: simulated benches, through the tool: an application's settings block by a map of its
 * fields, shown, changed, and carried over an update. */
#include "support/tool.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct outcome outcome;
static char via[320], map[300], newer[300];

static const char MAP[] =
    "block: settings of a strike node\nplace: eeprom 0x100\nbytes: 32\n"
    "checksum: crc16-little at 30 over 0 to 29\nfields:\n"
    "  - {name: bell, at: 0, type: u8, least: 1, most: 47, default: 1}\n"
    "  - {name: strike-time, at: 2, type: u16-little, unit: us, least: 200, most: 9000}\n"
    "  - {name: trim, at: 4, type: i8, unit: cents, least: -50, most: 50}\n"
    "  - {name: damper, at: 5, type: u8, choices: [{word: off, value: 0}, {word: soft, value: "
    "1}]}\n"
    "  - {name: label, at: 8, type: text-12}\n";

/* The next version: another place, wider types, a field less and one more. */
static const char NEWER[] =
    "block: settings of a strike node, second form\nplace: eeprom 0x140\nbytes: 40\n"
    "checksum: crc32-big at 36 over 0 to 35\nfields:\n"
    "  - {name: label, at: 0, type: text-16}\n"
    "  - {name: bell, at: 16, type: u32-big}\n"
    "  - {name: trim, at: 20, type: i16-little, least: -5, most: 5, default: 2}\n"
    "  - {name: strike-time, at: 22, type: u32-little}\n"
    "  - {name: felt, at: 26, type: u8, default: 7}\n";

static void new_chip(const char *name)
{
    char file[60], text[200], path[300];
    snprintf(file, sizeof file, "%s.yaml", name);
    snprintf(text, sizeof text, "bench: %s\nchip:\n  part: attiny84a\n  supply_mv: 5000\n", name);
    write_file(path, sizeof path, file, text);
    snprintf(via, sizeof via, "sim:%s", path);
    write_file(map, sizeof map, "map.yaml", MAP);
    write_file(newer, sizeof newer, "newer.yaml", NEWER);
}

static void fields_are_shown_and_changed(void **state)
{
    (void)state;
    new_chip("shown");
    TOOL(0, "tune", "--via", via, "--map", map);
    assert_says(outcome.out, "its checksum is WRONG");
    TOOL(10, "tune", "--via", via, "--map", map, "bell=7");
    assert_says(outcome.err, "eeprom at 0x0100");
    TOOL(0, "tune", "--via", via, "--map", map, "--anyway", "bell=7", "strike-time=1800", "trim=-3",
         "damper=soft", "label=tenor");
    TOOL(0, "tune", "--via", via, "--map", map);
    assert_says(outcome.out, "1800 us");
    assert_says(outcome.out, "-3 cents");
    assert_says(outcome.out, "tenor");
    assert_says(outcome.out, "off or soft");
    TOOL(0, "tune", "--via", via, "--map", map, "--plan", "damper=off");
    TOOL(0, "tune", "--via", via, "--map", map, "damper=off");
    assert_says(outcome.out, "soft -> off");
    TOOL(0, "tune", "--via", via, "--map", map, "damper=off");
    assert_says(outcome.out, "it had them before");
    TOOL(0, "tune", "--via", via, "--map", map, "--json");
    assert_says(outcome.out, "\"damper\": \"off\"");
    TOOL(0, "undo", "--via", via, "--chip", "attiny84a", "--plan");
}

static void what_a_field_cannot_be_is_told(void **state)
{
    static const char *const CASES[][2] = {{"bell=0", "1 to 47"},
                                           {"bell=48", "1 to 47"},
                                           {"bell=x", "1 to 47"},
                                           {"bell=-1", "1 to 47"},
                                           {"damper=hard", "off or soft"},
                                           {"trim=-51", "-50 to 50"},
                                           {"trim=200", "-50 to 50"},
                                           {"label=a label too long", "12 bytes"},
                                           {"nothing=1", "strike-time"},
                                           {"bell", "NAME=VALUE"},
                                           {"strike-time=70000", "200 to 9000"}};
    (void)state;
    new_chip("limits");
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        TOOL(2, "tune", "--via", via, "--map", map, "--anyway", "trim=1", CASES[i][0]);
        assert_says(outcome.err, CASES[i][1]);
    }
    TOOL(0, "tune", "--via", via, "--map", map);
    assert_says(outcome.out, "WRONG"); // nothing was written
}

static void what_is_no_map_is_told(void **state)
{
    static const char *const CASES[] = {
        "block: b\n",
        "block: b\nplace: eeprom\nbytes: 4\nfields: [{name: a, at: 0, type: u8}]\n",
        "block: b\nplace: eeprom 0\nbytes: 0\nfields: [{name: a, at: 0, type: u8}]\n",
        "block: b\nplace: eeprom 0\nbytes: 4\nfields: [{name: a, at: 4, type: u8}]\n",
        "block: b\nplace: eeprom 0\nbytes: 4\nfields: [{name: a, at: 1, type: u32-little}]\n",
        "block: b\nplace: eeprom 0\nbytes: 4\nfields: [{name: a, at: 0, type: crc16-big}]\n",
        "block: b\nplace: eeprom 0\nbytes: 4\nfields: [{name: 'a b', at: 0, type: u8}]\n",
        "block: b\nplace: eeprom 0\nbytes: 4\nfields: [{name: a, at: 0, type: u8}, {name: a, at: "
        "1, "
        "type: u8}]\n",
        "block: b\nplace: eeprom 0\nbytes: 4\nfields: [{name: a, at: 0, type: u16-big}, {name: c, "
        "at: 1, type: u8}]\n",
        "block: b\nplace: eeprom 0\nbytes: 4\nchecksum: crc16-big at 2 over 0 to 2\n"
        "fields: [{name: a, at: 0, type: u8}]\n",
        "block: b\nplace: eeprom 0\nbytes: 4\nchecksum: crc16-big at 2 over 0 to 1\n"
        "fields: [{name: a, at: 3, type: u8}]\n",
        "block: b\nplace: eeprom 0x1FE\nbytes: 4\nfields: [{name: a, at: 0, type: u8}]\n",
        "block: b\nplace: cellar 0\nbytes: 4\nfields: [{name: a, at: 0, type: u8}]\n",
    };
    char path[300];
    (void)state;
    new_chip("maps");
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        write_file(path, sizeof path, "bad.yaml", CASES[i]);
        TOOL(9, "tune", "--via", via, "--map", path);
        assert_says(outcome.err, "bad.yaml");
    }
}

/* A new program and a new EEPROM image: the block stays, or goes over to the newer form. */
static void a_block_is_carried_over_an_update(void **state)
{
    char image[300], program[300];
    char bytes[513];
    (void)state;
    new_chip("carried");
    memset(bytes, 'e', 512);
    bytes[512] = '\0';
    write_file(image, sizeof image, "eeprom.bin", bytes);
    write_file(program, sizeof program, "program.bin", "a program, or what passes for one here");
    char eeprom[320];
    snprintf(eeprom, sizeof eeprom, "eeprom=%s", image);
    TOOL(10, "put", "--via", via, "--chip", "attiny84a", "--carry", map, program, eeprom);
    TOOL(0, "tune", "--via", via, "--map", map, "--anyway", "bell=7", "strike-time=1800",
         "trim=-30", "damper=soft", "label=tenor");
    TOOL(0, "put", "--via", via, "--chip", "attiny84a", "--anyway", "--carry", map, program,
         eeprom);
    assert_says(outcome.out, "carried");
    TOOL(0, "tune", "--via", via, "--map", map);
    assert_says(outcome.out, "-30 cents");
    TOOL(1, "match", "--via", via, "--region", "eeprom", image); // the block alone is another
    TOOL(0, "put", "--via", via, "--chip", "attiny84a", "--anyway", "--carry", map, "--carry-to",
         newer, program, eeprom);
    assert_says(outcome.out, "3 of 5 fields");
    assert_says(outcome.out, "trim=-30");
    TOOL(0, "tune", "--via", via, "--map", newer);
    assert_says(outcome.out, "tenor");
    assert_says(outcome.out, "1800");
    assert_true(strstr(outcome.out, "WRONG") == NULL);
    TOOL(0, "tune", "--via", via, "--map", newer, "--json");
    assert_says(outcome.out, "\"felt\": \"7\"");
    assert_says(outcome.out, "\"trim\": \"2\"");
    TOOL(2, "put", "--via", via, "--chip", "attiny84a", "--carry-to", newer, program);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(fields_are_shown_and_changed),
        cmocka_unit_test(what_a_field_cannot_be_is_told),
        cmocka_unit_test(what_is_no_map_is_told),
        cmocka_unit_test(a_block_is_carried_over_an_update),
    };
    return cmocka_run_group_tests_name("fields", tests, NULL, NULL);
}
