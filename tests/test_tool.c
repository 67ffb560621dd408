/* Hardware: simulated benches, through the command-line tool as people run it. */
#define _GNU_SOURCE /* kill, usleep */
#include "support/chance.h"
#include "support/tool.h"
#include <fcntl.h>
#include <jansson.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

static const char FIRMWARE[] = SOURCE_FOLDER "/demo/firmware/strike-node-1.4.hex";
static const char OLD_FIRMWARE[] = SOURCE_FOLDER "/demo/firmware/strike-node-1.2.hex";

static struct outcome outcome;

static json_t *parsed(void)
{
    json_error_t error;
    json_t *object = json_loads(outcome.out, 0, &error);
    if (!object)
        fail_msg("%s in:\n%s", error.text, outcome.out);
    return object;
}

static void the_story_of_one_chip(void **state)
{
    char path[200], via[220], kept[200];
    (void)state;
    make_bench("story", "attiny84a", "port:\n  measures_supply: true\n", path, via);
    run_tool(&outcome, "look", via, NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "attiny84 or attiny84a");
    assert_says(outcome.out, "5.00 V");
    assert_says(outcome.out, "8192 bytes, blank");
    run_tool(&outcome, "put", via, "--chip=ATtiny84A", FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "13 of 13 pages to write, nothing to erase");
    assert_says(outcome.out, "attiny84a holds strike-node-1.4.hex");
    run_tool(&outcome, "put", via, "--chip=attiny84a", FIRMWARE, NULL);
    assert_says(outcome.out, "nothing to do: all 13 pages are right already");
    run_tool(&outcome, "match", via, FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "all 788 bytes match");
    run_tool(&outcome, "match", via, OLD_FIRMWARE, NULL);
    assert_int_equal(outcome.code, 1);
    assert_says(outcome.out, "0x0140  file  31 2E 32");
    assert_says(outcome.err, "the first at 0x0142: file 0x32, chip 0x34");
    snprintf(kept, sizeof kept, "%s/kept", test_folder());
    run_tool(&outcome, "keep", via, "--region=flash", kept, NULL);
    assert_int_equal(outcome.code, 0);
    strcat(kept, ".hex");
    run_tool(&outcome, "match", via, kept, NULL);
    assert_says(outcome.out, "all 8192 bytes match");
    static const char *const FORMATS[] = {"srec", "raw"};
    for (int i = 0; i < 2; i++) { // in every format, and back
        char other[200];
        snprintf(other, sizeof other, "%s/kept-%s", test_folder(), FORMATS[i]);
        run_tool(&outcome, "keep", via, "--format", FORMATS[i], other, NULL);
        assert_int_equal(outcome.code, 0);
        strcat(other, i == 0 ? ".srec" : ".bin");
        run_tool(&outcome, "match", via, other, NULL);
        assert_says(outcome.out, i == 0 ? "S-records: 8192 bytes" : "raw bytes: 8192 bytes");
        assert_says(outcome.out, "all 8192 bytes match");
    }
    run_tool(&outcome, "match", via, SOURCE_FOLDER "/demo/firmware/strike-node-1.4.srec", NULL);
    assert_says(outcome.out, "all 788 bytes match");
    run_tool(&outcome, "erase", via, NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "put", via, kept, NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "bench", "show", path, NULL);
    assert_says(outcome.out, "breaches  none");
    run_tool(&outcome, "bench", "show", via, NULL); // the bench named by --via
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "story.yaml)");
}

static void each_failure_has_its_code_and_three_parts(void **state)
{
    static const struct {
        const char *name, *part, *bench, *options[4];
        int code;
        const char *says;
    } CASES[] = {
        {"f1", "attiny84a", "", {"put"}, 2, "nothing to put"},
        {"f2",
         "attiny84a",
         "",
         {"put", "--chip=attiny85", FIRMWARE},
         5,
         "id 1E 93 0C, which is attiny84 or attiny84a; attiny85 has 1E 93 0B"},
        {"f3", "attiny84a", "", {"put", "--chip=attiny84b", FIRMWARE}, 2, "no such chip is known"},
        {"f4", "attiny84a", "wires: [miso=low]\n", {"look"}, 4, "MISO stays low"},
        {"f5", "attiny84a", "wires: [miso=high]\n", {"look"}, 4, "MISO stays high"},
        {"f6",
         "attiny84a",
         "port:\n  measures_supply: true\nfaults:\n  no_power: true\n",
         {"look"},
         4,
         "the target has no power"},
        {"f7", "attiny84a", "  lock: 0xFC\n", {"put", FIRMWARE}, 6, "the lock byte reads 0xFC"},
        {"f8", "attiny84a", "  lock: 0xFC\n", {"keep", "--region=flash"}, 6, "lock bits forbid"},
        {"f9",
         "attiny84a",
         "faults:\n  contact_lost_after_bytes: 3000\n",
         {"put", FIRMWARE},
         8,
         "contact with the chip was lost while"},
        {"f10", "attiny13", "", {"put", FIRMWARE, "--region=fuses"}, 2, "no such memory"},
        {"f11", "attiny84a", "", {"put", "nowhere.hex"}, 9, "nowhere.hex: cannot be read"},
        {"f12", "attiny84a", "", {"put", "/"}, 9, "it is a folder"},
        {"f13", "attiny84a", "", {"look", "--clock=fast"}, 2, "--clock is not a frequency"},
        {"f14", "attiny84a", "", {"look", "--colour"}, 2, "--colour"},
        {"f15", "attiny84a", "", {"keep", "x", "y"}, 2, "keep writes one file"},
        {"f16",
         "attiny84a",
         "faults:\n  slow_percent: 5000\n",
         {"put", FIRMWARE},
         7,
         "busy for longer than its data sheet allows"},
        {"f17",
         "atmega128rfa1",
         "port:\n  measures_supply: true\n",
         {"put", FIRMWARE, "--anyway"},
         10,
         "5.00 V measured; atmega128rfa1 works from 1.8 to 3.6 V"},
    };
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        char path[200], via[220];
        make_bench(CASES[i].name, CASES[i].part, CASES[i].bench, path, via);
        run_tool(&outcome, CASES[i].options[0], via, CASES[i].options[1], CASES[i].options[2],
                 NULL);
        if (outcome.code != CASES[i].code)
            fail_msg("%s: exit %d\n%s%s", CASES[i].name, outcome.code, outcome.out, outcome.err);
        assert_says(outcome.err, CASES[i].says);
        assert_says(outcome.err, "failed");
        assert_says(outcome.err, "try");
        run_tool(&outcome, "bench", "renew", path, NULL);
        run_tool(&outcome, CASES[i].options[0], via, "--json", CASES[i].options[1],
                 CASES[i].options[2], NULL);
        assert_int_equal(outcome.code, CASES[i].code);
        if (CASES[i].code == 2 && strcmp(CASES[i].name, "f14") == 0)
            continue; // the option that does not exist comes before --json is read
        json_t *answer = parsed();
        assert_int_equal(json_integer_value(json_object_get(answer, "exit")), CASES[i].code);
        assert_true(json_is_false(json_object_get(answer, "good")));
        assert_non_null(
            json_string_value(json_object_get(json_object_get(answer, "failure"), "what")));
        json_decref(answer);
    }
    run_tool(&outcome, "look", "--via=fork:lift", NULL);
    assert_int_equal(outcome.code, 3);
    run_tool(&outcome, "look", NULL);
    assert_int_equal(outcome.code, 3);
    run_tool(&outcome, "dance", NULL);
    assert_int_equal(outcome.code, 2);
}

static void a_bench_file_with_a_mistake_names_its_line(void **state)
{
    char path[200], via[220];
    (void)state;
    make_bench("wrong1", "attiny84a", "  colour: red\n", path, via);
    run_tool(&outcome, "look", via, NULL);
    assert_int_equal(outcome.code, 3);
    assert_says(outcome.err, "near line 4: Unexpected key: colour");
    make_bench("wrong2", "attiny99", "", path, via);
    run_tool(&outcome, "look", via, NULL);
    assert_says(outcome.err, "no part is called 'attiny99'");
    make_bench("wrong3", "attiny84a", "  flash: missing.hex\n", path, via);
    run_tool(&outcome, "look", via, NULL);
    assert_says(outcome.err, "missing.hex");
}

/* 100,000 records with a wrong checksum at the very end. */
static void a_bad_last_line_changes_nothing_and_is_named(void **state)
{
    char path[200], via[220], hex[200];
    (void)state;
    make_bench("bad", "atmega2560", "  board_clock_hz: 16000000\n", path, via);
    write_file(hex, sizeof hex, "long.hex", "");
    FILE *file = fopen(hex, "w");
    for (unsigned i = 0; i < 99999; i++) {
        if (i % 0x8000 == 0)
            fprintf(file, ":02000004%04X%02X\n", i / 0x8000, (0x100 - 6 - i / 0x8000) & 0xFF);
        unsigned at = i * 2 % 0x10000, sum = 2 + (at >> 8) + (at & 0xFF) + 0x12 + 0x34;
        fprintf(file, ":02%04X001234%02X\n", at, (0x100 - (sum & 0xFF)) & 0xFF);
    }
    fprintf(file, ":0200000012340F\n:00000001FF\n");
    fclose(file);
    run_tool(&outcome, "put", via, hex, NULL);
    assert_int_equal(outcome.code, 9);
    assert_says(outcome.err,
                "line 100004, column 15: the checksum is wrong: it says 0F, its bytes need B8");
    run_tool(&outcome, "bench", "show", path, NULL);
    assert_says(outcome.out, "erases 0, pages written 0");
}

static void files_that_are_no_images_are_refused(void **state)
{
    static const struct {
        const char *name, *text, *says;
    } CASES[] = {
        {"empty.hex", "", "is empty"},
        {"poem.txt", "the bells, the bells\n", "text, but neither Intel HEX nor S-records"},
        {"poem.hex", "the bells, the bells\n",
         "line 1, column 1: a record must begin with ':', or with S"},
        {"twice.hex", ":0100000001FE\n:0100000002FD\n:00000001FF\n",
         "line 2, column 13: the data cannot be taken: address 0x0000 is set twice"},
        {"none.hex", ":00000001FF\n", "holds no data"},
        {"far.hex", ":0100000001FE\n:020000040001F9\n:0100000001FE\n:00000001FF\n",
         "the file has bytes at 0x10000; flash of attiny84a ends at 0x1FFF"},
        {"program.elf", "\177ELF", "its header is damaged"},
    };
    char path[200], via[220];
    (void)state;
    make_bench("images", "attiny84a", "", path, via);
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        char file[200];
        write_file(file, sizeof file, CASES[i].name, CASES[i].text);
        run_tool(&outcome, "put", via, "--chip=attiny84a", file, NULL);
        assert_int_equal(outcome.code, 9);
        assert_says(outcome.err, CASES[i].says);
    }
    run_tool(&outcome, "bench", "show", path, NULL);
    assert_says(outcome.out, "erases 0, pages written 0");
}

static void contact_comes_back_and_the_same_command_finishes(void **state)
{
    char path[200], via[220];
    (void)state;
    make_bench("slip", "attiny84a", "faults:\n  contact_lost_after_bytes: 3000\n", path, via);
    run_tool(&outcome, "put", via, "--json", FIRMWARE, NULL);
    assert_int_equal(outcome.code, 8);
    json_t *answer = parsed();
    json_int_t address =
        json_integer_value(json_object_get(json_object_get(answer, "failure"), "address"));
    json_int_t done =
        json_integer_value(json_object_get(json_object_get(answer, "report"), "pages_written"));
    assert_int_equal(address / 64, done);
    assert_in_range(done, 1, 12);
    json_decref(answer);
    run_tool(&outcome, "bench", "mend", path, NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "put", via, "--json", FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
    answer = parsed();
    json_t *report = json_object_get(answer, "report");
    assert_in_range(json_integer_value(json_object_get(report, "pages_written")), 13 - done - 1,
                    13 - done);
    json_decref(answer);
}

static void put_waits_for_the_clip_if_told_to(void **state)
{
    char path[200], via[220], bench[600];
    (void)state;
    snprintf(bench, sizeof bench,
             "  flash: %s\n  eeprom: " SOURCE_FOLDER "/demo/firmware/bell-7.hex\n  lock: 0xFE\n"
             "faults:\n  contact_lost_after_bytes: 9000\n  contact_back_after_bytes: 1000\n",
             OLD_FIRMWARE);
    make_bench("wait", "attiny84a", bench, path, via);
    run_tool(&outcome, "put", via, "--wait=60", "--unprotect", "--no-backup", FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(
        outcome.out,
        "lock byte put back"); // neither the lock nor the carried eeprom is forgotten over the wait
    assert_says(outcome.err, "waiting up to 60 s");
    assert_says(outcome.out, "contact was lost once, and found again");
    run_tool(&outcome, "match", via, "--region=eeprom", SOURCE_FOLDER "/demo/firmware/bell-7.hex",
             NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "bench", "renew", path, NULL);
    run_tool(&outcome, "put", via, "--wait=1", "--unprotect", "--no-backup", FIRMWARE,
             NULL); // not long enough
    assert_int_equal(outcome.code, 8);
    assert_says(outcome.err, " flash at 0x0");
}

static void eeprom_is_carried_or_given_up_on_request(void **state)
{
    char path[200], via[220], bench[500];
    (void)state;
    snprintf(bench, sizeof bench,
             "  flash: %s\n  eeprom: " SOURCE_FOLDER "/demo/firmware/bell-7.hex\n", OLD_FIRMWARE);
    make_bench("carry", "attiny84a", bench, path, via);
    run_tool(&outcome, "put", via, "--plan", FIRMWARE, NULL);
    assert_says(outcome.out, "chip erase, then 13 of 13 pages to write, eeprom carried over");
    assert_says(outcome.out, "planned only");
    run_tool(&outcome, "put", via, FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "match", via, "--region=eeprom", SOURCE_FOLDER "/demo/firmware/bell-7.hex",
             NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "put", via, "--lose-data", OLD_FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "look", via, NULL);
    assert_says(outcome.out, "512 bytes, blank");
    run_tool(&outcome, "put", via, OLD_FIRMWARE,
             "eeprom=" SOURCE_FOLDER "/demo/firmware/bell-7.hex", NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "holds strike-node-1.2.hex and bell-7.hex");
    run_tool(&outcome, "put", via, OLD_FIRMWARE, FIRMWARE, NULL);
    assert_int_equal(outcome.code, 9);
    assert_says(outcome.err, "two files want the same bytes");
}

/* A little ELF file with one segment for each memory that is given. */
static void write_elf(const char *path, uint16_t machine, const uint32_t (*segments)[3],
                      unsigned count, const char *bytes)
{
    uint8_t head[52] = {0x7F, 'E', 'L', 'F', 1, 1, 1};
    FILE *file = fopen(path, "wb");
    assert_non_null(file);
    head[16] = 2; // executable
    head[18] = (uint8_t)machine;
    head[20] = 1;
    head[28] = 52; // program headers follow at once
    head[40] = 52;
    head[42] = 32;
    head[44] = (uint8_t)count;
    fwrite(head, 1, sizeof head, file);
    for (unsigned i = 0; i < count; i++) { // {file offset, physical address, size}
        uint32_t header[8] = {
            1, segments[i][0], segments[i][1], segments[i][1], segments[i][2], segments[i][2], 5,
            1};
        fwrite(header, 4, 8, file);
    }
    fwrite(bytes, 1, strlen(bytes), file);
    assert_int_equal(fclose(file), 0);
}

static void elf_files_bring_their_memories_and_their_signature(void **state)
{
    enum { AT = 52 + 2 * 32 };
    static const uint32_t BOTH[][3] = {{AT, 0, 16}, {AT + 16, 0x810004, 8}},
                          OUTSIDE[][3] = {{AT, 0, 4000}}, TWICE[][3] = {{AT, 0, 16}, {AT, 8, 4}},
                          DATA_ONLY[][3] = {{AT, 0x810000, 8}};
    char path[200], via[220], elf[220];
    (void)state;
    make_bench("elf", "attiny84a", "", path, via);
    snprintf(elf, sizeof elf, "%s/made.elf", test_folder());
    write_elf(elf, 83, BOTH, 2, "0123456789abcdefTheresia");
    run_tool(&outcome, "put", via, elf, NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "ELF: 16 bytes, 0x0000 to 0x000F, for flash");
    assert_says(outcome.out, "ELF: 8 bytes, 0x0004 to 0x000B, for eeprom");
    assert_says(outcome.out, "holds made.elf\n");
    run_tool(&outcome, "match", via, "--region=eeprom", elf, NULL);
    assert_says(outcome.out, "all 8 bytes match");
    write_elf(elf, 40, BOTH, 2, "0123456789abcdefTheresia");
    run_tool(&outcome, "put", via, elf, NULL);
    assert_int_equal(outcome.code, 9);
    assert_says(outcome.err, "another kind of processor");
    write_elf(elf, 83, OUTSIDE, 1, "short");
    run_tool(&outcome, "put", via, elf, NULL);
    assert_says(outcome.err, "point outside the file");
    write_elf(elf, 83, TWICE, 2, "0123456789abcdef");
    run_tool(&outcome, "put", via, elf, NULL);
    assert_int_equal(outcome.code, 9);
    write_elf(elf, 83, DATA_ONLY, 1, "01234567................................");
    run_tool(&outcome, "put", via, elf, NULL);
    assert_says(outcome.err, "holds nothing for this memory");
    run_tool(&outcome, "match", via, elf, NULL); // and frees what it had read: the sanitizers watch
    assert_int_equal(outcome.code, 9);
    run_tool(&outcome, "put", via, SOURCE_FOLDER "/demo/firmware/strike-node-1.4.elf", NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "match", via, FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0); // the same bytes as in the HEX file
    make_bench("elf85", "attiny85", "", path, via);
    run_tool(&outcome, "put", via, SOURCE_FOLDER "/demo/firmware/strike-node-1.4.elf", NULL);
    assert_int_equal(outcome.code, 5);
    assert_says(outcome.err, "it carries the signature 1E 93 0C; the chip has 1E 93 0B");
}

/* The compiler's ELF file with bytes changed: never a crash, and never a chip that is touched by
 * what is refused. */
static void damaged_elf_files_do_no_harm(void **state)
{
    char path[200], via[220], elf[220];
    static uint8_t whole[16384];
    (void)state;
    make_bench("elfuzz", "attiny84a", "", path, via);
    FILE *file = fopen(SOURCE_FOLDER "/demo/firmware/strike-node-1.4.elf", "rb");
    assert_non_null(file);
    size_t bytes = fread(whole, 1, sizeof whole, file);
    fclose(file);
    snprintf(elf, sizeof elf, "%s/damaged.elf", test_folder());
    srand(test_seed());
    for (int round = 0; round < (test_does_all() ? 600 : 20); round++) {
        static uint8_t damaged[16384];
        memcpy(damaged, whole, bytes);
        for (int i = 0; i < 3; i++)
            damaged[rand() % 260] = (uint8_t)rand(); // header, program headers, first code
        file = fopen(elf, "wb");
        fwrite(damaged, 1, round % 3 ? bytes : (size_t)rand() % bytes, file);
        fclose(file);
        run_tool(&outcome, "put", via, "--plan", elf, NULL);
        assert_true(outcome.code == 0 || outcome.code == 5 || outcome.code == 9);
    }
}

/* The contact goes between the erase and the end: what was saved is named, and brings the settings
 * back. */
static void a_put_cut_off_after_the_erase_leaves_the_eeprom_on_disk(void **state)
{
    char path[200], via[220], bench[500], thing[500];
    (void)state;
    snprintf(bench, sizeof bench,
             "  flash: %s\n  eeprom: " SOURCE_FOLDER
             "/demo/firmware/bell-7.hex\nfaults:\n  contact_lost_after_bytes: 8000\n",
             OLD_FIRMWARE);
    make_bench("cut", "attiny84a", bench, path, via);
    run_tool(&outcome, "put", via, "--no-backup", FIRMWARE, NULL);
    assert_int_equal(outcome.code, 8);
    assert_says(outcome.err, "The EEPROM's contents are in ");
    run_tool(&outcome, "bench", "mend", path, NULL);
    run_tool(&outcome, "put", via, FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
    const char *saved = strstr(outcome.out, "saved is in ");
    assert_non_null(saved);
    snprintf(thing, sizeof thing, "eeprom=%.*s", (int)strcspn(saved + 12, ":"), saved + 12);
    run_tool(&outcome, "put", via, FIRMWARE, thing, NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "match", via, "--region=eeprom", SOURCE_FOLDER "/demo/firmware/bell-7.hex",
             NULL);
    assert_int_equal(outcome.code, 0);
    unlink(thing + 7);
}

static void files_come_into_being_whole_and_are_not_overwritten(void **state)
{
    char path[200], via[220], kept[220];
    (void)state;
    make_bench("files", "attiny84a", "", path, via);
    snprintf(kept, sizeof kept, "%s/keep.bin", test_folder());
    run_tool(&outcome, "keep", via, kept, NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "keep", via, kept, NULL);
    assert_int_equal(outcome.code, 10);
    assert_says(outcome.err, "is there already");
    run_tool(&outcome, "keep", via, "--replace", kept, NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "keep", via, "/nowhere/at/all.hex", NULL);
    assert_int_equal(outcome.code, 9);
    run_tool(&outcome, "keep", via, "--format=morse", kept, NULL);
    assert_int_equal(outcome.code, 2);
    int limits = access("/dev/full", W_OK);
    if (limits == 0) { // a full disk must not pass for success
        char command[900];
        snprintf(command, sizeof command, "%s look %s > /dev/full", TOOL_PATH, via);
        assert_int_not_equal(system(command), 0);
    }
}

/* Kills the tool at many moments; the file is the old one or the new one, and the bench loads. */
static void a_killed_tool_leaves_whole_files(void **state)
{
    char path[200], via[220], kept[220];
    (void)state;
    make_bench("kill", "attiny84a", "pace: 20\n", path, via);
    snprintf(kept, sizeof kept, "%s/killed.hex", test_folder());
    srand(test_seed());
    for (int round = 0; round < (test_does_all() ? 240 : 12); round++) {
        const char *put[] = {"coldmint", "put", via, round % 4 ? FIRMWARE : OLD_FIRMWARE, NULL};
        const char *keep[] = {"coldmint", "keep", via, "--replace", kept, NULL};
        pid_t child = start_tool(round % 2 ? put : keep);
        usleep((useconds_t)(rand() % 120000));
        kill(child, SIGKILL);
        (void)end_of_tool(child);
        run_tool(&outcome, "bench", "show", path, NULL);
        assert_int_equal(outcome.code, 0);
        char *text = read_file(kept);
        assert_true(!text || (strlen(text) > 20000 && strstr(text, ":00000001FF\n")));
        free(text);
    }
    run_tool(&outcome, "put", via, FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
}

static void control_c_stops_cleanly(void **state)
{
    char path[200], via[220];
    (void)state;
    make_bench("stop", "attiny84a", "pace: 0.1\n", path,
               via); // a put of 3 s, so that it is sure to be in the middle
    const char *put[] = {"coldmint", "put", via, FIRMWARE, NULL};
    pid_t child = start_tool(put);
    usleep(1500000);
    kill(child, SIGINT);
    assert_int_equal(end_of_tool(child), 130);
    run_tool(&outcome, "put", via, FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
}

/* Reads a VCD file back: the bytes that a chip would see on rising edges of SCK while RESET is low,
 * and what it answered, as it stood until SCK fell. */
static unsigned decode_vcd(const char *path, uint8_t *out, uint8_t *in, unsigned most)
{
    FILE *file = fopen(path, "r");
    char line[200];
    unsigned long long time = 0, now;
    int reset = 1, mosi = 0, miso = 0, bits = 0, high = 0;
    unsigned count = 0;
    assert_non_null(file);
    while (fgets(line, sizeof line, file)) {
        if (sscanf(line, "#%llu", &now) == 1) {
            assert_true(now >= time);
            time = now;
        } else if (strlen(line) == 3 && strchr("01z", line[0])) {
            int level = line[0] == '1';
            reset = line[1] == 'r' ? line[0] != '0' : reset;
            mosi = line[1] == 'o' ? level : mosi;
            miso = line[1] == 'i' ? level : miso;
            if (line[1] != 'c' || reset || count >= most)
                continue;
            if (level)
                out[count] = (uint8_t)(out[count] << 1 | mosi);
            else if (high)
                in[count] = (uint8_t)(in[count] << 1 | miso);
            count += high && !level && ++bits % 8 == 0;
            high = level;
        }
    }
    fclose(file);
    return count;
}

static void a_recording_holds_what_crossed_the_wires(void **state)
{
    static const uint8_t OUT[] = {0xAC, 0x53, 0x00, 0x00, 0x30, 0x00, 0x00, 0x00, 0x30, 0x00, 0x01};
    static const char *const PORTS[] = {"", "port:\n  only_lines: true\n"};
    (void)state;
    for (int i = 0; i < 2; i++) {
        char path[200], via[220], vcd[220], name[20];
        uint8_t out[64] = {0}, in[64] = {0};
        snprintf(name, sizeof name, "vcd%d", i);
        make_bench(name, "attiny84a", PORTS[i], path, via);
        snprintf(vcd, sizeof vcd, "%s/%s.vcd", test_folder(), name);
        run_tool(&outcome, "put", via, "--clock=1MHz", "--record", vcd, FIRMWARE, NULL);
        assert_int_equal(outcome.code, 0);
        assert_int_equal(decode_vcd(vcd, out, in, 60), 60);
        assert_memory_equal(out, OUT, sizeof OUT);
        assert_int_equal(in[2], 0x53);
        assert_int_equal(in[7], 0x1E);
        run_tool(&outcome, "look", via, "--record", vcd, NULL);
        assert_int_equal(outcome.code, 10); // it is there already
        snprintf(vcd, sizeof vcd, "%s/%s-failed", test_folder(), name);
        run_tool(&outcome, "put", via, "--chip=attiny85", "--record", vcd, FIRMWARE, NULL);
        assert_int_equal(outcome.code, 5); // a failure is recorded too, and stays the failure
        strcat(vcd, ".vcd");
        assert_int_equal(decode_vcd(vcd, out, in, 4), 4);
    }
}

static void the_target_is_fed_by_one_side_only(void **state)
{
    char path[200], via[220];
    (void)state;
    make_bench("fed", "attiny84a",
               "port:\n  measures_supply: true\n  feeds_from_mv: 1800\n  feeds_to_mv: 5000\n", path,
               via);
    run_tool(&outcome, "look", via, "--feed=3.3", NULL);
    assert_int_equal(outcome.code, 10);
    assert_says(outcome.err, "5.00 V measured before anything was switched on");
    write_file(path, sizeof path, "unfed.yaml",
               "bench: x\nchip:\n  part: attiny84a\n  supply_mv: 0\nport:\n  measures_supply: "
               "true\n  feeds_from_mv: 1800\n"
               "  feeds_to_mv: 5000\n");
    snprintf(via, sizeof via, "--via=sim:%s", path);
    run_tool(&outcome, "look", via, NULL);
    assert_int_equal(outcome.code, 4);
    assert_says(outcome.err, "the target has no power");
    run_tool(&outcome, "put", via, "--feed=3.3V", FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "look", via, "--feed=3.3", NULL);
    assert_says(outcome.out, "3.30 V, within");
    run_tool(&outcome, "look", via, "--feed=5.5", NULL);
    assert_int_equal(outcome.code, 3);
    assert_says(outcome.err, "it can feed 1.80 to 5.00 V");
    run_tool(&outcome, "look", via, "--feed=much", NULL);
    assert_int_equal(outcome.code, 2);
    run_tool(&outcome, "bench", "show", path, NULL);
    assert_says(outcome.out, "breaches  none");
}

static void help_comes_from_the_tables(void **state)
{
    static const char *const VERBS[] = {"look", "keep", "put", "match", "erase", "chips", "bench"};
    (void)state;
    run_tool(&outcome, "--help", NULL);
    assert_int_equal(outcome.code, 0);
    for (size_t i = 0; i < sizeof VERBS / sizeof VERBS[0]; i++) {
        assert_says(outcome.out, VERBS[i]);
        static struct outcome verb;
        run_tool(&verb, VERBS[i], "--help", NULL);
        assert_int_equal(verb.code, 0);
        assert_says(verb.out, "example:");
        assert_says(verb.out, "the usual mistake:");
    }
    run_tool(&outcome, "chips", "attiny84a", NULL);
    assert_says(outcome.out, "1E 93 0C");
    run_tool(&outcome, "chips", "--json", NULL);
    json_t *answer = parsed();
    assert_int_equal(json_array_size(json_object_get(answer, "chips")),
                     CM_AVR_PART_COUNT + CM_NOR_PART_COUNT + CM_EE25_PART_COUNT +
                         CM_PAR_PART_COUNT + CM_EE28_PART_COUNT + CM_EPROM_PART_COUNT +
                         CM_I2C24_PART_COUNT + CM_M93_PART_COUNT);
    json_decref(answer);
}

/* What is no bench is left out; a title is shown, not obeyed. */
static void ports_lists_the_benches_of_a_folder(void **state)
{
    char folder[300], before[300], path[200];
    (void)state;
    assert_non_null(getcwd(before, sizeof before));
    snprintf(folder, sizeof folder, "%s/ports", test_folder());
    assert_int_equal(mkdir(folder, 0700), 0);
    assert_int_equal(chdir(folder), 0);
    run_tool(&outcome, "ports", NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "there is none here");
    run_tool(&outcome, "bench", "make", "node", "--chip=attiny84a", NULL);
    write_file(path, sizeof path, "ports/other.yaml", "chip: attiny84a\n");
    write_file(path, sizeof path, "ports/odd.yaml", "# first\nbench: a \033[31mred\rone\n");
    write_file(path, sizeof path, "ports/empty.yaml", "");
    assert_int_equal(mkdir("folder.yaml", 0700), 0);
    assert_int_equal(mkfifo("pipe.yaml", 0600), 0);
    run_tool(&outcome, "ports", NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "sim:node.yaml                 attiny84a, factory-new");
    assert_says(outcome.out, "2 to program through");
    assert_null(strchr(outcome.out, '\033'));
    assert_null(strstr(outcome.out, "other"));
    run_tool(&outcome, "ports", "--json", NULL);
    json_t *answer = parsed();
    assert_int_equal(json_array_size(json_object_get(answer, "ports")), 2);
    json_decref(answer);
    run_tool(&outcome, "ports", "node.yaml", NULL);
    assert_int_equal(outcome.code, 2);
    assert_int_equal(chdir(before), 0);
}

static void benches_are_made_broken_mended_and_renewed(void **state)
{
    char path[200], via[220];
    (void)state;
    snprintf(path, sizeof path, "%s/made", test_folder());
    run_tool(&outcome, "bench", "make", path, NULL);
    assert_int_equal(outcome.code, 2);
    run_tool(&outcome, "bench", "make", path, "--chip=atmega328p", NULL);
    assert_int_equal(outcome.code, 0);
    strcat(path, ".yaml");
    snprintf(via, sizeof via, "--via=sim:%s", path);
    run_tool(&outcome, "look", via, NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "bench", "break", path, "miso=low", "slow=300", NULL);
    assert_says(outcome.out, "MISO is open, and reads low");
    run_tool(&outcome, "look", via, NULL);
    assert_int_equal(outcome.code, 4);
    run_tool(&outcome, "bench", "break", path, "power=offish", NULL);
    assert_int_equal(outcome.code, 2);
    run_tool(&outcome, "bench", "break", path, "miso=good", "mosi=noise@812+24", "sck=mosi/1000",
             NULL);
    assert_says(outcome.out,
                "MOSI is open, and reads at random from clock 812 of the bus on, for 24 clocks");
    assert_says(outcome.out, "SCK is shorted to MOSI in one clock of 1000");
    run_tool(&outcome, "bench", "show", path, NULL); // it outlives the command
    assert_says(outcome.out, "mosi=noise@812+24");
    static const char *const WRONG[] = {"mosi=",     "mosi=mosi",           "all=sck",
                                        "mosi=low@", "mosi=low@9999999999", "sda=low+1x",
                                        "d16=low"};
    for (size_t i = 0; i < sizeof WRONG / sizeof WRONG[0]; i++) {
        run_tool(&outcome, "bench", "break", path, WRONG[i], NULL);
        assert_int_equal(outcome.code, 2);
    }
    run_tool(&outcome, "bench", "mend", path, NULL);
    run_tool(&outcome, "put", via, FIRMWARE, "--anyway", NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "bench", "renew", path, NULL);
    run_tool(&outcome, "look", via, NULL);
    assert_says(outcome.out, "32768 bytes, blank");
    run_tool(&outcome, "bench", "show", path, "--json", NULL);
    json_t *answer = parsed();
    assert_int_equal(json_object_size(json_object_get(answer, "breaches")), 0);
    json_decref(answer);
}

static void a_damaged_state_is_told_and_left_alone(void **state)
{
    char path[200], via[220], file[260];
    (void)state;
    make_bench("damaged", "attiny84a", "", path, via);
    run_tool(&outcome, "look", via, NULL);
    snprintf(file, sizeof file, "%s/damaged.state/state.json", test_folder());
    FILE *stream = fopen(file, "w");
    fputs("{\"format\": 1, \"part\": \"attiny84a\"}", stream);
    fclose(stream);
    run_tool(&outcome, "look", via, NULL);
    assert_int_equal(outcome.code, 3);
    assert_says(outcome.err, "is not the state of this bench");
    char *text = read_file(file);
    assert_string_equal(text, "{\"format\": 1, \"part\": \"attiny84a\"}");
    free(text);
}

static void via_comes_from_the_environment_and_the_configuration(void **state)
{
    char path[200], via[220], config[600], folder[200];
    (void)state;
    make_bench("config", "attiny84a", "", path, via);
    setenv("COLDMINT_VIA", via + 6, 1);
    run_tool(&outcome, "look", NULL);
    assert_int_equal(outcome.code, 0);
    unsetenv("COLDMINT_VIA");
    snprintf(folder, sizeof folder, "mkdir -p %s/coldmint", test_folder());
    assert_int_equal(system(folder), 0);
    snprintf(config, sizeof config, "via: %s\nclock: 1MHz\n", via + 6);
    write_file(path, sizeof path, "coldmint/config.yaml", config);
    run_tool(&outcome, "look", NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "249.8 kHz");
    write_file(path, sizeof path, "coldmint/config.yaml", "vai: x\n");
    run_tool(&outcome, "look", NULL);
    assert_int_equal(outcome.code, 3);
    assert_says(outcome.err, "is passed over");
    unlink(path);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(the_story_of_one_chip),
        cmocka_unit_test(each_failure_has_its_code_and_three_parts),
        cmocka_unit_test(a_bench_file_with_a_mistake_names_its_line),
        cmocka_unit_test(a_bad_last_line_changes_nothing_and_is_named),
        cmocka_unit_test(files_that_are_no_images_are_refused),
        cmocka_unit_test(contact_comes_back_and_the_same_command_finishes),
        cmocka_unit_test(put_waits_for_the_clip_if_told_to),
        cmocka_unit_test(eeprom_is_carried_or_given_up_on_request),
        cmocka_unit_test(elf_files_bring_their_memories_and_their_signature),
        cmocka_unit_test(damaged_elf_files_do_no_harm),
        cmocka_unit_test(a_put_cut_off_after_the_erase_leaves_the_eeprom_on_disk),
        cmocka_unit_test(files_come_into_being_whole_and_are_not_overwritten),
        cmocka_unit_test(a_killed_tool_leaves_whole_files),
        cmocka_unit_test(control_c_stops_cleanly),
        cmocka_unit_test(a_recording_holds_what_crossed_the_wires),
        cmocka_unit_test(the_target_is_fed_by_one_side_only),
        cmocka_unit_test(help_comes_from_the_tables),
        cmocka_unit_test(ports_lists_the_benches_of_a_folder),
        cmocka_unit_test(benches_are_made_broken_mended_and_renewed),
        cmocka_unit_test(a_damaged_state_is_told_and_left_alone),
        cmocka_unit_test(via_comes_from_the_environment_and_the_configuration),
    };
    test_folder();
    return cmocka_run_group_tests_name("tool", tests, NULL, NULL);
}
