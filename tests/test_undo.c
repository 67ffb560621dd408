/* Hardware: simulated benches, through the tool: going back to what was there before. */
#include "support/tool.h"
#include <jansson.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#define FIRMWARE(version) SOURCE_FOLDER "/demo/firmware/strike-node-" version ".hex"

static struct outcome outcome;
static char path[200], via[220];

/* A bench and a state folder of their own. */
static void begin(const char *name, const char *part)
{
    char folder[300];
    make_bench(name, part, "port:\n  measures_supply: true\n", path, via);
    snprintf(folder, sizeof folder, "%s/%s-kept", test_folder(), name);
    setenv("XDG_STATE_HOME", folder, 1);
}

/* A file of `count` bytes that begin with `first`. */
static void write_bytes(char *to, const char *name, int count, int first)
{
    write_file(to, 200, name, "");
    FILE *file = fopen(to, "wb");
    assert_non_null(file);
    for (int i = 0; i < count; i++)
        fputc((first + i * 7) & 0xFF, file);
    fclose(file);
}

static void a_put_is_undone_and_going_back_twice_goes_further(void **state)
{
    (void)state;
    begin("twice", "attiny84a");
    TOOL(0, "put", via, FIRMWARE("1.2"));
    TOOL(0, "put", via, FIRMWARE("1.4"));
    TOOL(0, "put", via, FIRMWARE("1.5"));
    TOOL(0, "undo", via, "--list");
    assert_says(outcome.out, "2 fit this chip, newest first");
    TOOL(0, "undo", via, "--plan");
    assert_says(outcome.out, "undoes    the last 'put' on this chip");
    assert_says(outcome.out, "planned only");
    TOOL(0, "match", via, FIRMWARE("1.5"));
    TOOL(0, "undo", via);
    assert_says(outcome.out, "is as it was before");
    TOOL(0, "match", via, FIRMWARE("1.4"));
    TOOL(0, "undo", via);
    TOOL(0, "match", via, FIRMWARE("1.2"));
    TOOL(10, "undo", via);
    assert_says(outcome.err, "every change on record has been undone already");
    TOOL(0, "match", via, FIRMWARE("1.2"));
    TOOL(0, "bench", "show", path);
    assert_says(outcome.out, "breaches  none");
}

/* What was kept before is of a later time than now: the order is that in which it was kept. */
static void a_clock_that_is_set_back_changes_no_order(void **state)
{
    char command[900];
    (void)state;
    begin("clock", "attiny84a");
    TOOL(0, "put", via, FIRMWARE("1.2"));
    TOOL(0, "put", via, FIRMWARE("1.4"));
    snprintf(command, sizeof command,
             "cd %s/clock-kept/coldmint && for file in */*; do later=$(echo \"$file\" | sed "
             "'s/20[0-9]*-\\([0-9]*\\)/20991231-120000/'); mv \"$file\" \"$later\"; done && sed -i "
             "'s/20[0-9]*-[0-9]*\\.mint/20991231-120000.mint/' changes/*",
             test_folder());
    assert_int_equal(system(command), 0);
    TOOL(0, "put", via, FIRMWARE("1.5"));
    TOOL(0, "undo", via, "--list", "--json");
    const char *newest = strstr(outcome.out, "20991231-120001"),
               *older = strstr(outcome.out, "20991231-120000");
    assert_non_null(newest);
    assert_non_null(older);
    assert_true(newest < older);
    TOOL(0, "undo", via);
    TOOL(0, "match", via, FIRMWARE("1.4"));
    TOOL(0, "undo", via);
    TOOL(0, "match", via, FIRMWARE("1.2"));
}

static void settings_and_an_erase_are_undone(void **state)
{
    (void)state;
    begin("settings", "attiny84a");
    TOOL(0, "put", via, FIRMWARE("1.4"));
    TOOL(0, "tune", via, "clock-divide=by-1");
    TOOL(0, "undo", via);
    assert_says(outcome.out, "the last 'tune' on this chip");
    TOOL(0, "tune", via, "--json");
    assert_says(outcome.out, "\"clock-divide\": \"by-8\"");
    TOOL(0, "erase", via);
    TOOL(0, "undo", via);
    assert_says(outcome.out, "the last 'erase' on this chip");
    TOOL(0, "match", via, FIRMWARE("1.4"));
}

static void a_memory_and_its_protection_are_put_back(void **state)
{
    char one[200], other[200];
    (void)state;
    make_bench("store", "w25q16", "port:\n  measures_supply: true\n", path, via);
    begin("store", "w25q16");
    char *text = read_file(path);
    char *supply = strstr(text, "5000");
    memcpy(supply, "3300", 4);
    write_file(path, sizeof path, "store.yaml", text);
    free(text);
    write_bytes(one, "one.bin", 70000, 1);
    write_bytes(other, "other.bin", 70000, 90);
    TOOL(0, "put", via, one);
    TOOL(0, "put", via, other);
    TOOL(0, "guard", via, "--set=upper-half");
    TOOL(0, "undo", via);
    assert_says(outcome.out, "the last 'guard' on this chip");
    TOOL(0, "guard", via);
    assert_says(outcome.out, "all of the chip can be written");
    TOOL(0, "undo", via);
    assert_says(outcome.out, "the last 'put' on this chip");
    TOOL(0, "match", via, one);
}

static void what_other_hands_have_changed_is_refused(void **state)
{
    (void)state;
    begin("hands", "attiny84a");
    TOOL(0, "put", via, FIRMWARE("1.4"));
    TOOL(0, "put", via, FIRMWARE("1.5"));
    TOOL(0, "put", via, "--no-backup", FIRMWARE("1.2"));
    TOOL(10, "undo", via);
    assert_says(outcome.err, "the chip is not as the last command on record left it");
    assert_says(outcome.err, "flash differs, first in the bytes from 0x0");
    TOOL(0, "match", via, FIRMWARE("1.2"));
    TOOL(0, "undo", via, "--anyway");
    assert_says(outcome.out, "no record tells how the chip came to be so");
    TOOL(0, "match", via, FIRMWARE("1.4"));
    TOOL(0, "undo", via, "--list"); // what other hands had put there is kept
    assert_says(outcome.out, "2 fit this chip");
    TOOL(0, "tune", via, "--no-backup", "clock-divide=by-1");
    TOOL(10, "undo", via);
    assert_says(outcome.err, "its settings are others");
}

static void a_chip_of_the_same_kind_is_told_apart(void **state)
{
    char other_path[200], other_via[220];
    (void)state;
    begin("same", "attiny84a");
    make_bench("other", "attiny84a", "port:\n  measures_supply: true\n", other_path, other_via);
    TOOL(0, "put", via, FIRMWARE("1.4"));
    TOOL(0, "put", via, FIRMWARE("1.5"));
    TOOL(10, "undo", other_via);
    assert_says(outcome.err, "the chip is not as the last command on record left it");
    TOOL(0, "undo", via);
    TOOL(0, "match", via, FIRMWARE("1.4"));
}

static void a_command_that_was_cut_off_is_undone(void **state)
{
    (void)state;
    begin("cut", "attiny84a");
    TOOL(0, "put", via, FIRMWARE("1.4"));
    TOOL(0, "bench", "break", path, "lost=75000");
    run_tool(&outcome, "put", via, FIRMWARE("1.5"), NULL);
    assert_int_equal(outcome.code, 8);
    TOOL(0, "bench", "mend", path);
    TOOL(0, "undo", via);
    assert_says(outcome.out, "the last 'put' on this chip, which was cut off");
    TOOL(0, "match", via, FIRMWARE("1.4"));
}

static void where_there_is_nothing_to_go_back_to_it_says_so(void **state)
{
    (void)state;
    begin("nothing", "attiny84a");
    TOOL(9, "undo", via);
    assert_says(outcome.err, "there is nothing to go back to");
    TOOL(0, "undo", via, "--list");
    assert_says(outcome.out, "0 backups fit this chip");
    TOOL(2, "undo", via, "a.mint");
    assert_says(outcome.err, "coldmint put FILE");
    TOOL(0, "put", via, FIRMWARE("1.4"));
    TOOL(0, "erase", via);
    TOOL(0, "put", via, FIRMWARE("1.5")); // fills blank bytes: nothing is lost, nothing kept
    TOOL(10, "undo", via);
}

static void a_backup_or_record_that_is_damaged_is_told(void **state)
{
    char command[400];
    (void)state;
    begin("damaged", "attiny84a");
    TOOL(0, "put", via, FIRMWARE("1.4"));
    TOOL(0, "put", via, FIRMWARE("1.5"));
    snprintf(command, sizeof command,
             "for f in %s/damaged-kept/coldmint/backups/*.mint; do printf x >>$f; done",
             test_folder());
    assert_int_equal(system(command), 0);
    TOOL(9, "undo", via);
    assert_says(outcome.err, "is not a whole capsule");
    TOOL(0, "match", via, FIRMWARE("1.5"));
    snprintf(command, sizeof command,
             "for f in %s/damaged-kept/coldmint/changes/*.json; do printf '{' >$f; done",
             test_folder());
    assert_int_equal(system(command), 0);
    TOOL(9, "undo", via); // no record, and no backup that fits
    assert_says(outcome.err, "there is nothing to go back to");
    TOOL(0, "match", via, FIRMWARE("1.5"));
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(a_put_is_undone_and_going_back_twice_goes_further),
        cmocka_unit_test(a_clock_that_is_set_back_changes_no_order),
        cmocka_unit_test(settings_and_an_erase_are_undone),
        cmocka_unit_test(a_memory_and_its_protection_are_put_back),
        cmocka_unit_test(what_other_hands_have_changed_is_refused),
        cmocka_unit_test(a_chip_of_the_same_kind_is_told_apart),
        cmocka_unit_test(a_command_that_was_cut_off_is_undone),
        cmocka_unit_test(where_there_is_nothing_to_go_back_to_it_says_so),
        cmocka_unit_test(a_backup_or_record_that_is_damaged_is_told),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
