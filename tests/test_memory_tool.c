/* Hardware: simulated SPI memories, through the command-line tool as a process of its own. */
#include "support/memory_rig.h"
#include "support/tool.h"
#include <fcntl.h>
#include <glob.h>
#include <jansson.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

static struct outcome outcome;
static char bench[200], via[220];

/* A bench with this part, at 3.3 V; the tool's own files go into a folder beside it. */
static void stand(const char *part, const char *more)
{
    char text[800];
    snprintf(text, sizeof text, "bench: in a test\nchip:\n  part: %s\n  supply_mv: 3300\n%s", part,
             more);
    write_file(bench, sizeof bench, "memory-tool.yaml", text);
    cm_sim_renew(bench);
    snprintf(via, sizeof via, "--via=sim:%s", bench);
    setenv("XDG_STATE_HOME", test_folder(), 1);
    setenv("XDG_CONFIG_HOME", test_folder(), 1);
}

static void no_breaches(void)
{
    TOOL(0, "bench", "show", bench);
    assert_says(outcome.out, "breaches  none");
}

static void a_protected_chip_is_explained(void **state)
{
    char image[200];
    (void)state;
    stand("w25q16", "  status: [0x10, 0x02, 0x00]\n");
    make_file(image, "all.bin", 1 << 21, 1);
    TOOL(0, "look", via);
    assert_says(outcome.out, "512 KiB at the upper end, 0x180000 to 0x1FFFFF");
    assert_says(outcome.out, "................################]");
    TOOL(6, "put", via, image);
    assert_says(outcome.err, "an erase or a write at 0x180000 would do nothing");
    assert_says(outcome.err, "status 0x10 protects 512 KiB at the upper end");
    assert_says(outcome.err, "--unprotect");
    TOOL(6, "put", via, "--plan", image);
    TOOL(0, "put", via, "--unprotect", image);
    assert_says(outcome.out, "protection lifted for it");
    assert_says(outcome.out, "protection put back");
    TOOL(0, "match", via, image);
    TOOL(0, "guard", via);
    assert_says(outcome.out, "status 0x10 0x02 0x00");
    TOOL(6, "erase", via);
    TOOL(0, "erase", via, "--unprotect");
    TOOL(0, "erase", via, "--unprotect");
    assert_says(outcome.out, "it was before");
    no_breaches();
}

static void areas_are_set_lifted_and_put_back(void **state)
{
    char kept[300];
    (void)state;
    stand("w25q32", "");
    TOOL(0, "guard", via, "--set", "upper-1/4");
    assert_says(outcome.out, "1 MiB at the upper end");
    snprintf(kept, sizeof kept, "%s/registers.mint", test_folder());
    TOOL(0, "keep", via, kept);
    TOOL(0, "guard", via, "--set", "0x000000..0x1FFFFF");
    assert_says(outcome.out, "2 MiB at the lower end");
    TOOL(2, "guard", via, "--set", "upper-1/3");
    assert_says(outcome.err, "the least that has it: 2 MiB at the upper end");
    TOOL(2, "guard", via, "--set", "most of it");
    TOOL(2, "guard", via, "--set", "all", "--lift");
    TOOL(0, "guard", via, "--restore", kept);
    assert_says(outcome.out, "0x300000 to 0x3FFFFF");
    TOOL(0, "guard", via, "--lift");
    assert_says(outcome.out, "guarded   nothing");
    TOOL(0, "put", via, kept); // a capsule brings its registers along
    TOOL(0, "guard", via);
    assert_says(outcome.out, "0x300000 to 0x3FFFFF");
    TOOL(10, "tune", via, "lock-down=locked");
    no_breaches();
    stand("attiny84a", "");
    TOOL(2, "guard", via);
    assert_says(outcome.err, "lock bits");
}

static void held_registers_are_explained(void **state)
{
    char image[200];
    (void)state;
    make_file(image, "small.bin", 4096, 1);
    stand("w25q16", "  status: [0x9C, 0x00, 0x00]\n  wp_low: true\n");
    TOOL(6, "put", via, "--unprotect", image);
    assert_says(outcome.err, "while the WP pin is low");
    TOOL(6, "guard", via, "--lift");
    TOOL(0, "guard", via);
    assert_says(outcome.out, "this port has no wire to it");
    stand("w25q16", "  status: [0x1C, 0x01, 0x00]\n");
    TOOL(6, "guard", via, "--set", "none");
    assert_says(outcome.err, "until the supply has been off");
}

/* Starts a put that takes some seconds, sends it a signal in the midst of writing, and waits for
 * its end. */
static int interrupt_put(const char *image, int signal_number)
{
    const char *const put[] = {"coldmint", "put", via, "--unprotect", "--no-backup", image, NULL};
    pid_t child = start_tool(put);
    char pattern[300];
    snprintf(pattern, sizeof pattern, "%s/coldmint/lifted/*.mint", test_folder());
    for (int i = 0; i < 2000;
         i++) { // until the registers are in their file: then the lifting begins
        glob_t found;
        bool there = glob(pattern, 0, NULL, &found) == 0;
        globfree(&found);
        if (there)
            break;
        nanosleep(&(struct timespec){.tv_nsec = 5000000}, NULL);
    }
    nanosleep(&(struct timespec){.tv_nsec = 300000000}, NULL);
    kill(child, signal_number);
    return end_of_tool(child);
}

static void ctrl_c_leaves_the_registers_as_they_were(void **state)
{
    char image[200];
    (void)state;
    stand("w25q16", "  status: [0x1C, 0x02, 0x00]\npace: 1\n");
    make_file(image, "all.bin", 1 << 21, 2);
    assert_int_equal(interrupt_put(image, SIGINT), 130);
    TOOL(0, "guard", via);
    assert_says(outcome.out, "status 0x1C 0x02 0x00");
    assert_null(strstr(outcome.out, "cut off"));
    no_breaches();
}

/* A put is killed with protection lifted; from here on the bench is as fast as it can be. */
static void kill_a_put(const char *image)
{
    char text[400];
    stand("w25q16", "  status: [0x1C, 0x02, 0x00]\npace: 1\n");
    assert_int_equal(interrupt_put(image, SIGKILL), 128 + SIGKILL);
    snprintf(text, sizeof text, "bench: in a test\nchip:\n  part: w25q16\n  supply_mv: 3300\n");
    write_file(bench, sizeof bench, "memory-tool.yaml", text);
}

static void a_killed_put_leaves_the_registers_in_a_file(void **state)
{
    char image[200], path[400] = "";
    (void)state;
    make_file(image, "all.bin", 1 << 21, 3);
    kill_a_put(image);
    TOOL(0, "look", via);
    assert_says(outcome.out, "guarded   nothing");
    assert_says(outcome.out, "cut off with this chip's protection lifted");
    const char *said = strstr(outcome.out, "coldmint guard --restore ");
    assert_non_null(said);
    sscanf(said, "coldmint guard --restore %399s", path);
    TOOL(0, "guard", via, "--restore", path);
    TOOL(0, "guard", via);
    assert_says(outcome.out, "status 0x1C 0x02 0x00");
    assert_null(strstr(outcome.out, "cut off"));
    TOOL(0, "put", via, "--unprotect", "--no-backup", image); // and the same command goes on
    TOOL(0, "match", via, image);
    TOOL(0, "guard", via);
    assert_says(outcome.out, "status 0x1C 0x02 0x00");
}

static void what_a_killed_put_has_lifted_goes_back(void **state)
{
    char image[200], other[200];
    (void)state;
    make_file(image, "all.bin", 1 << 21, 3);
    make_file(other, "other.bin", 4096, 4);
    for (int is_plain = 0; is_plain < 2; is_plain++) {
        kill_a_put(image);
        TOOL(0, "put", via, "--plan", other);
        TOOL(0, "guard", via);
        assert_says(outcome.out, "guarded   nothing");
        const char *how = is_plain ? "--no-backup" : "--unprotect";
        TOOL(0, "put", via, how, is_plain ? other : image);
        const char *once = strstr(outcome.out, "cut off with this chip's protection");
        assert_non_null(once);
        assert_null(strstr(once + 1, "cut off with this chip's protection"));
        assert_says(outcome.out, "it is back, status 0x1C");
        TOOL(0, "guard", via);
        assert_says(outcome.out, "status 0x1C 0x02 0x00");
        assert_null(strstr(outcome.out, "cut off"));
        TOOL(0, "match", via, is_plain ? other : image);
    }
    kill_a_put(image); // and whoever sets it by hand hears no more of it
    TOOL(0, "guard", via, "--set", "upper-1/4");
    TOOL(0, "guard", via, "--lift");
    TOOL(0, "put", via, "--no-backup", other);
    TOOL(0, "guard", via);
    assert_says(outcome.out, "guarded   nothing");
    assert_null(strstr(outcome.out, "cut off"));
}

static void a_part_of_a_full_chip_is_changed(void **state)
{
    char image[200], hex[200];
    (void)state;
    stand("w25q16", "");
    make_file(image, "all.bin", 1 << 21, 4);
    TOOL(0, "put", via, image);
    assert_says(outcome.out, "nothing to erase, 8192 of 8192 pages");
    write_file(hex, sizeof hex, "few.hex", ":020000040012E8\n:0434560011223344C8\n:00000001FF\n");
    TOOL(0, "put", via, hex);
    assert_says(outcome.out, "1 erase of 4 KiB");
    assert_says(outcome.out, "backup");
    assert_says(outcome.out, "carried   4092 bytes");
    TOOL(0, "match", via, hex);
    TOOL(1, "match", via, image);
    assert_says(outcome.err, "4 of 2097152 bytes differ, the first at 0x123456");
    char pattern[300];
    snprintf(pattern, sizeof pattern, "%s/coldmint/carried/*rest*", test_folder());
    glob_t found;
    assert_int_equal(glob(pattern, 0, NULL, &found), GLOB_NOMATCH);
    TOOL(0, "put", via, "--json", image);
    json_t *answer = json_loads(outcome.out, 0, NULL);
    json_t *report = json_object_get(answer, "report");
    assert_int_equal(json_integer_value(json_object_get(report, "erases")), 1);
    assert_int_equal(json_integer_value(json_object_get(report, "erased_bytes")), 4096);
    json_decref(answer);
    no_breaches();
}

/* The same chip, on a bench of another pace. */
static void set_pace(const char *pace)
{
    char text[200];
    snprintf(text, sizeof text, "bench: in a test\nchip:\n  part: w25x20\n  supply_mv: 3300\n%s",
             pace);
    write_file(bench, sizeof bench, "memory-tool.yaml", text);
}

/* Starts a put that shares a sector with other bytes, and kills it some time behind the moment
 * when those are on disk. */
static void kill_put_behind_carry(const char *image, unsigned ms)
{
    const char *const put[] = {"coldmint", "put", via, image, NULL};
    char pattern[300];
    glob_t found;
    set_pace("pace: 0.2\n");
    pid_t child = start_tool(put);
    snprintf(pattern, sizeof pattern, "%s/coldmint/carried/*rest*.hex", test_folder());
    for (int i = 0; i < 4000 && glob(pattern, 0, NULL, &found) != 0; i++)
        nanosleep(&(struct timespec){.tv_nsec = 2000000}, NULL);
    globfree(&found);
    nanosleep(&(struct timespec){.tv_sec = ms / 1000, .tv_nsec = ms % 1000 * 1000000L}, NULL);
    kill(child, SIGKILL);
    int end = end_of_tool(child);
    assert_true(end == 128 + SIGKILL || end == 0);
    set_pace("");
}

/* A put was killed in a sector that it shares with bytes beside its image, at any moment behind
 * the erase: the same put again does not say that nothing is to do, and the bytes are back. */
static void what_a_killed_put_has_carried_goes_back(void **state)
{
    enum { PART = 1536, KILLS = 5, STEP_MS = 55, FIRST_MS = 30 };
    static uint8_t bytes[1 << 18];
    char all[200], part[200], wanted[200], pattern[300];
    unsigned back = 0;
    glob_t found;
    (void)state;
    for (unsigned i = 0; i < KILLS; i++) {
        stand("w25x20", "");
        make_file(all, "all.bin", 1 << 18, 5 + i);
        TOOL(0, "put", via, all);
        make_file(part, "part.bin", PART, 50 + i);
        kill_put_behind_carry(part, FIRST_MS + STEP_MS * i);
        TOOL(0, "put", via, part);
        back += strstr(outcome.out, "beside its image") != NULL;
        FILE *file = fopen(all, "rb");
        assert_int_equal(fread(bytes, 1, sizeof bytes, file), sizeof bytes);
        fclose(file);
        file = fopen(part, "rb");
        assert_int_equal(fread(bytes, 1, PART, file), PART);
        fclose(file);
        snprintf(wanted, sizeof wanted, "%s/wanted.bin", test_folder());
        file = fopen(wanted, "wb");
        fwrite(bytes, 1, sizeof bytes, file);
        fclose(file);
        TOOL(0, "match", via, wanted);
        snprintf(pattern, sizeof pattern, "%s/coldmint/carried/*rest*", test_folder());
        assert_int_equal(glob(pattern, 0, NULL, &found), GLOB_NOMATCH);
    }
    assert_true(back > 0);
}

/* Another chip of the same kind in its place gets nothing of the first one's. */
static void what_was_carried_does_not_go_into_another_chip(void **state)
{
    char all[200], part[200], pattern[300];
    glob_t found;
    (void)state;
    stand("w25x20", "");
    make_file(all, "all.bin", 1 << 18, 70);
    TOOL(0, "put", via, all);
    make_file(part, "part.bin", 1536, 71);
    kill_put_behind_carry(part, 100);
    stand("w25x20", ""); // a new one, blank
    TOOL(0, "put", via, part);
    assert_says(outcome.out, "this may be another chip");
    snprintf(all, sizeof all, "%s/new.bin", test_folder());
    TOOL(0, "keep", via, all);
    FILE *file = fopen(all, "rb");
    assert_int_equal(fseek(file, 1536, SEEK_SET), 0);
    for (int byte; (byte = getc(file)) != EOF;)
        assert_int_equal(byte, 0xFF);
    fclose(file);
    snprintf(pattern, sizeof pattern, "%s/coldmint/carried/*rest*", test_folder());
    assert_int_equal(glob(pattern, 0, NULL, &found), 0);
    for (size_t i = 0; i < found.gl_pathc; i++)
        unlink(found.gl_pathv[i]);
    globfree(&found);
}

static void raw_frames_go_out_and_come_back(void **state)
{
    (void)state;
    stand("w25q16", "");
    TOOL(0, "raw", via, "9F -> 3", "05 -> 1");
    assert_says(outcome.out, "EF 40 15");
    TOOL(10, "raw", via, "06", "C7");
    assert_says(outcome.err, "nothing was sent");
    TOOL(0, "raw", via, "--write", "06", "02 00 10 00 48 69", "wait 2ms", "05 -> 1 until 00/01",
         "03 00 10 00 -> 4");
    assert_says(outcome.out, "48 69 FF FF");
    TOOL(7, "raw", via, "05 -> 1 until 80/80");
    static const char *const WRONG[] = {"",
                                        "9",
                                        "9G",
                                        "9F ->",
                                        "9F -> 0",
                                        "9F -> 3 until",
                                        "9F -> 3 until 0",
                                        "wait",
                                        "wait 5",
                                        "-> 3",
                                        "05 -> 1 until 02/01"};
    for (size_t i = 0; i < sizeof WRONG / sizeof WRONG[0]; i++)
        TOOL(2, "raw", via, WRONG[i]);
    stand("attiny84a", "");
    TOOL(3, "raw", via, "9F -> 3");
}

static void an_eeprom_is_taken_by_its_name(void **state)
{
    char image[200];
    (void)state;
    stand("25lc256", "  status: [0x04]\n");
    make_file(image, "eeprom.bin", 32768, 5);
    TOOL(5, "look", via);
    assert_says(outcome.err, "give it with --chip");
    TOOL(6, "put", via, "--chip", "25lc256", image);
    TOOL(0, "put", via, "--chip", "25lc256", "--unprotect", image);
    TOOL(0, "match", via, "--chip", "25lc256", image);
    TOOL(0, "guard", via, "--chip", "25lc256");
    assert_says(outcome.out, "8 KiB at the upper end");
    TOOL(0, "erase", via, "--chip", "25lc256", "--unprotect");
    no_breaches();
}

static void the_quiet_supply_is_used_for_the_job(void **state)
{
    char image[200];
    (void)state;
    stand("w25q16", "");
    write_file(bench, sizeof bench, "memory-tool.yaml",
               "bench: in circuit\nchip:\n  part: w25q16\n  supply_mv: 0\n  neighbour_from_mv: "
               "3000\nport:\n  measures_supply: "
               "true\n  feeds_from_mv: 1800\n  feeds_to_mv: 5000\n");
    cm_sim_renew(bench);
    make_file(image, "small.bin", 4096, 6);
    TOOL(4, "put", via, "--chip", "w25q16", "--feed", "3.3", image);
    assert_says(outcome.err, "in circuit, feed less or hold the processor in reset: at 3.30 V");
    TOOL(2, "put", via, "--feed", "search", image);
    assert_says(outcome.err, "never goes above it");
    TOOL(0, "put", via, "--chip", "w25q16", "--feed", "search", image);
    assert_says(outcome.out, "3.6 V: the id came right 0 of 32 times");
    assert_says(outcome.out, "2.9 V: the id came right 32 of 32 times");
    TOOL(0, "match", via, "--chip", "w25q16", "--feed", "2.9", image);
    write_file(
        bench, sizeof bench, "memory-tool.yaml",
        "bench: in circuit\nchip:\n  part: w25q16\n  supply_mv: 3300\n  neighbour_from_mv: 3000\n");
    run_tool(&outcome, "look", via, NULL);
    assert_says(outcome.out, "something else talks on these wires");
}

/* Status registers have no addresses in files: none of the memory's bytes are taken for them. */
static void a_hex_file_is_no_wish_for_registers(void **state)
{
    char its_path[200], its_via[220], file[200];
    (void)state;
    make_bench("hex", "w25q16", "port:\n  measures_supply: true\n", its_path, its_via);
    char *text = read_file(its_path);
    memcpy(strstr(text, "5000"), "3300", 4);
    write_file(its_path, sizeof its_path, "hex.yaml", text);
    free(text);
    write_file(file, sizeof file, "bells.hex", ":04000000DEADBEEFC4\n:00000001FF\n");
    TOOL(0, "put", its_via, "--unprotect", "--settings", file);
    assert_null(strstr(outcome.out, "registers"));
    assert_null(strstr(outcome.out, "change"));
    assert_null(strstr(outcome.out, "fuses"));
}

static void a_chip_in_no_table_is_still_worked_with(void **state)
{
    (void)state;
    stand("w25q16", "");
    TOOL(0, "chips", "w25q16");
    assert_says(outcome.out, "65536 bytes: 150 ms");
    TOOL(0, "wires", "w25q16");
    assert_says(outcome.out, "SELECT     CS   1");
    TOOL(0, "look", via, "--chip", "plain-2M"); // only its size is told
    char image[200];
    make_file(image, "plain.bin", 1 << 21, 12);
    TOOL(0, "put", via, "--chip", "plain-2M", image);
    TOOL(0, "match", via, "--chip", "plain-2M", image);
    TOOL(2, "look", via, "--chip", "plain-3M");
    TOOL(0, "chips", "mx25");
    TOOL(5, "look", via, "--chip", "w25q32");
    assert_says(outcome.err, "id EF 40 15");
    TOOL(2, "put", via, "eeprom=x.bin");
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(a_protected_chip_is_explained),
        cmocka_unit_test(areas_are_set_lifted_and_put_back),
        cmocka_unit_test(held_registers_are_explained),
        cmocka_unit_test(ctrl_c_leaves_the_registers_as_they_were),
        cmocka_unit_test(a_killed_put_leaves_the_registers_in_a_file),
        cmocka_unit_test(what_a_killed_put_has_lifted_goes_back),
        cmocka_unit_test(what_a_killed_put_has_carried_goes_back),
        cmocka_unit_test(what_was_carried_does_not_go_into_another_chip),
        cmocka_unit_test(a_part_of_a_full_chip_is_changed),
        cmocka_unit_test(raw_frames_go_out_and_come_back),
        cmocka_unit_test(an_eeprom_is_taken_by_its_name),
        cmocka_unit_test(the_quiet_supply_is_used_for_the_job),
        cmocka_unit_test(a_hex_file_is_no_wish_for_registers),
        cmocka_unit_test(a_chip_in_no_table_is_still_worked_with),
    };
    return cmocka_run_group_tests_name("memory-tool", tests, NULL, NULL);
}
