/* Hardware: none. Work on files, through the command-line tool as a process of its own; and
 * formats, through the library. */
#include "support/crc.h"
#include "support/memory_rig.h"
#include "support/tool.h"
#include <jansson.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct outcome outcome;

/* --- files in the test's folder ---------------------------------------------------------- */

static const char *path_of(const char *name)
{
    static char paths[8][220];
    static unsigned turn;
    char *path = paths[turn++ % 8];
    snprintf(path, 220, "%s/%s", test_folder(), name);
    return path;
}

static void write_bytes(const char *name, const uint8_t *bytes, size_t count)
{
    FILE *file = fopen(path_of(name), "wb");
    assert_non_null(file);
    assert_int_equal(fwrite(bytes, 1, count, file), count);
    fclose(file);
}

static size_t read_bytes(const char *name, uint8_t *bytes, size_t room)
{
    FILE *file = fopen(path_of(name), "rb");
    if (!file)
        fail_msg("there is no %s", name);
    size_t count = fread(bytes, 1, room, file);
    fclose(file);
    return count;
}

static void assert_file(const char *name, const uint8_t *bytes, size_t count)
{
    uint8_t *found = malloc(count + 1);
    assert_int_equal(read_bytes(name, found, count + 1), count);
    assert_memory_equal(found, bytes, count);
    free(found);
}

enum { MASTER = 512 * 1024, BANK = 64 * 1024, TUNE = 50000 };
static uint8_t master[MASTER], tune[TUNE], wanted[MASTER];

static void make_files(void)
{
    fill_pattern(master, MASTER, 1);
    memset(master + 7 * BANK, 0xFF, BANK);
    fill_pattern(tune, TUNE, 2);
    memcpy(tune + 100, "HARVEST HOME", 12);
    write_bytes("master.bin", master, MASTER);
    write_bytes("tune.bin", tune, TUNE);
    memcpy(wanted, master, MASTER);
    memcpy(wanted + 3 * BANK, tune, TUNE);
    remove(path_of("new.bin"));
}

/* --- place, cut, join, fill -------------------------------------------------------------- */

static void test_a_file_goes_into_a_bank(void **state)
{
    (void)state;
    make_files();
    TOOL(0, "image", "place", path_of("master.bin"), path_of("tune.bin"), "--bank", "3",
         "--bank-size", "64K", "-o", path_of("new"));
    assert_file("new.bin", wanted, MASTER); // the extension is that of the master's format
    TOOL(10, "image", "place", path_of("master.bin"), path_of("tune.bin"), "--bank", "3",
         "--bank-size", "64K", "-o", path_of("new.bin"));
    assert_says(outcome.err, "is there already");
    remove(path_of("new-2.0.bin"));
    TOOL(0, "image", "convert", path_of("new.bin"), "-o", path_of("new-2.0"));
    assert_file("new-2.0.bin", wanted, MASTER);
    TOOL(0, "image", "place", path_of("new.bin"), path_of("tune.bin"), "--at", "7M", "-o",
         path_of("longer.bin"));
    assert_says(outcome.out, "longer than the master");
    TOOL(0, "image", "place", path_of("new.bin"), path_of("tune.bin"), "--at", "0x30000", "-o",
         path_of("new.bin"), "--replace");
    assert_says(outcome.out, "was one of the inputs");
    assert_file("new.bin", wanted, MASTER);
}

static void test_a_bank_that_is_not_there_is_refused(void **state)
{
    (void)state;
    make_files();
    TOOL(2, "image", "place", path_of("master.bin"), path_of("tune.bin"), "--bank", "8",
         "--bank-size", "64K", "-o", path_of("new.bin"));
    assert_says(outcome.err, "it has banks 0 to 7");
    TOOL(2, "image", "place", path_of("master.bin"), path_of("tune.bin"), "--bank", "3",
         "--bank-size", "32K", "-o", path_of("new.bin"));
    assert_says(outcome.err, "larger than a bank");
    TOOL(2, "image", "place", path_of("master.bin"), path_of("tune.bin"), "-o", path_of("new.bin"));
    TOOL(2, "image", "place", path_of("master.bin"), path_of("tune.bin"), "--at", "0", "--bank",
         "1", "-o", path_of("new.bin"));
    TOOL(2, "image", "place", path_of("master.bin"), path_of("tune.bin"), "--at", "0");
    assert_null(read_file(path_of("new.bin")));
}

static void test_a_part_is_cut_out_and_joined_again(void **state)
{
    (void)state;
    make_files();
    TOOL(0, "image", "cut", path_of("master.bin"), "--range", "0..0x2FFFF", "-o",
         path_of("low.hex"), "--replace");
    TOOL(0, "image", "cut", path_of("master.bin"), "--range", "192K+320K", "-o",
         path_of("high.srec"), "--replace");
    TOOL(0, "image", "join", path_of("high.srec"), path_of("low.hex"), "-o", path_of("new.bin"),
         "--replace");
    assert_file("new.bin", master, MASTER);
    TOOL(0, "image", "cut", path_of("master.bin"), "--range", "0x20000..0x3FFFF", "-o",
         path_of("middle.hex"), "--replace");
    TOOL(9, "image", "join", path_of("low.hex"), path_of("middle.hex"), "-o", path_of("never.bin"));
    assert_says(outcome.err, "both");
    assert_says(outcome.err, "0x20000");
    assert_null(read_file(path_of("never.bin")));
    TOOL(0, "image", "cut", path_of("master.bin"), "--range", "0x30000+16", "--at", "0", "-o",
         path_of("first.hex"), "--replace");
    TOOL(0, "image", "info", path_of("first.hex"), "--json");
    assert_says(outcome.out, "\"first\": 0");
}

static void test_gaps_are_filled_and_bytes_stay(void **state)
{
    uint8_t filled[64];
    (void)state;
    memset(filled, 0xA5, sizeof filled);
    memcpy(filled + 16, "sixteen bytes!!!", 16);
    write_bytes("some.bin", filled + 16, 16);
    TOOL(0, "image", "cut", path_of("some.bin"), "--range", "0+16", "--at", "16", "-o",
         path_of("some.hex"), "--replace");
    TOOL(0, "image", "fill", path_of("some.hex"), "--range", "0+64", "--with", "A5", "-o",
         path_of("filled.bin"), "--replace");
    assert_file("filled.bin", filled, sizeof filled);
    TOOL(2, "image", "fill", path_of("some.hex"), "--range", "0+64", "--with", "A5B", "-o",
         path_of("x.bin"));
    TOOL(2, "image", "fill", path_of("some.hex"), "--range", "0..", "-o", path_of("x.bin"));
    TOOL(2, "image", "fill", path_of("some.hex"), "-o", path_of("x.bin"));
}

/* --- words ------------------------------------------------------------------------------- */

static void test_words_are_swapped_split_and_woven_back(void **state)
{
    uint8_t swapped[TUNE];
    (void)state;
    make_files();
    for (size_t i = 0; i < TUNE; i++)
        swapped[i] = tune[i ^ 1];
    TOOL(0, "image", "swap", path_of("tune.bin"), "-o", path_of("swapped.bin"), "--replace");
    assert_file("swapped.bin", swapped, TUNE);
    TOOL(0, "image", "split", path_of("tune.bin"), "-o", path_of("rom.bin"), "--replace");
    uint8_t even[TUNE / 2], odd[TUNE / 2];
    for (size_t i = 0; i < TUNE / 2; i++) {
        even[i] = tune[2 * i];
        odd[i] = tune[2 * i + 1];
    }
    assert_file("rom-even.bin", even, sizeof even);
    assert_file("rom-odd.bin", odd, sizeof odd);
    TOOL(0, "image", "weave", path_of("rom-even.bin"), path_of("rom-odd.bin"), "-o",
         path_of("woven.bin"), "--replace");
    assert_file("woven.bin", tune, TUNE);
    TOOL(0, "image", "split", path_of("tune.bin"), "--ways", "4", "-o", path_of("rom4.hex"),
         "--replace");
    TOOL(0, "image", "weave", path_of("rom4-0.hex"), path_of("rom4-1.hex"), path_of("rom4-2.hex"),
         path_of("rom4-3.hex"), "-o", path_of("woven4.bin"), "--replace");
    assert_file("woven4.bin", tune, TUNE);
    write_bytes("uneven.bin", tune, 33);
    TOOL(9, "image", "swap", path_of("uneven.bin"), "-o", path_of("x.bin"));
    assert_says(outcome.err, "whole groups");
    TOOL(9, "image", "weave", path_of("uneven.bin"), path_of("rom-odd.bin"), "-o",
         path_of("x.bin"));
    TOOL(2, "image", "split", path_of("tune.bin"), "--ways", "1", "-o", path_of("x.bin"));
}

/* --- looking ----------------------------------------------------------------------------- */

static void test_bytes_are_shown_from_where_they_are_found(void **state)
{
    (void)state;
    make_files();
    TOOL(0, "image", "show", path_of("tune.bin"), "--find", "HARVEST", "--rows", "1");
    assert_says(outcome.out, "found     at 0x000064");
    assert_says(outcome.out, "HARVEST HOME");
    TOOL(1, "image", "show", path_of("tune.bin"), "--find", "harvest");
    TOOL(0, "image", "show", path_of("tune.bin"), "--bytes", "48 41 52 56", "--rows", "1");
    TOOL(1, "image", "show", path_of("tune.bin"), "--find", "HARVEST", "--nth", "2");
    TOOL(2, "image", "show", path_of("tune.bin"), "--bytes", "4 8");
    TOOL(0, "image", "show", path_of("master.bin"), "--range", "0x70000..0x7FFFF");
    assert_says(outcome.out, "... 4095 rows of FF");
    TOOL(2, "image", "show", path_of("tune.bin"), "--range", "9..8");
    TOOL(2, "image", "show", path_of("tune.bin"), "--range", "1G");
}

/* A text of one kind at this place, in each form that a ROM may have it in. */
static void test_all_places_of_a_text_are_found(void **state)
{
    static const char LOW_FIRST[] = "L\0a\0r\0k\0s\0p\0u\0r\0 \0T\0w\0o",
                      HIGH_FIRST[] = "\0L\0a\0r\0k\0s\0p\0u\0r";
    (void)state;
    make_files();
    memset(tune, 0xFF, TUNE);
    memcpy(tune + 40, "LARKSPUR", 8);
    memcpy(tune + 1000, "Larkspur", 8);
    memcpy(tune + 2000, LOW_FIRST, sizeof LOW_FIRST);
    memcpy(tune + 3000, HIGH_FIRST, sizeof HIGH_FIRST - 1);
    memcpy(tune + TUNE - 8, "Larkspur", 8);
    write_bytes("tune.bin", tune, TUNE);
    TOOL(0, "image", "find", path_of("tune.bin"), "Larkspur");
    assert_says(outcome.out, "found 4 times");
    assert_says(outcome.out, "0x0007D0  |L.a.r.k");
    assert_says(outcome.out, "UTF-16, low byte first");
    assert_says(outcome.out, "0x000BB8  |.L.a.r.k");
    assert_says(outcome.out, "UTF-16, high byte first");
    assert_says(outcome.out, "0x00C348  |Larkspur|");
    TOOL(0, "image", "find", path_of("tune.bin"), "lARKSPUR", "--any-case");
    assert_says(outcome.out, "found 5 times");
    // inside a longer text the low byte first looks like the high byte first, a byte earlier
    TOOL(0, "image", "find", path_of("tune.bin"), "Two");
    assert_says(outcome.out, "found 1 time\n");
    TOOL(1, "image", "find", path_of("tune.bin"), "lARKSPUR");
    assert_says(outcome.err, "--any-case");
    TOOL(0, "image", "find", path_of("tune.bin"), "--bytes", "72 ?? 73", "--json");
    assert_says(outcome.out, "\"count\": 2");
    TOOL(0, "image", "find", path_of("tune.bin"), "Larkspur", "--range", "1001..2100");
    assert_says(outcome.out, "found 1 time\n");
    TOOL(2, "image", "find", path_of("tune.bin"), "--bytes", "?? ??");
    TOOL(2, "image", "find", path_of("tune.bin"), "x", "--bytes", "72");
    TOOL(2, "image", "find", path_of("tune.bin"), "--any-case");
    TOOL(2, "image", "find", path_of("tune.bin"), "x", "--least", "4");
}

static void test_texts_are_listed_with_the_likeliest_first(void **state)
{
    (void)state;
    make_files();
    fill_pattern(tune, TUNE, 2);
    memcpy(tune + 100, "q7$K;z}P", 8);
    memcpy(tune + 5000, "the harvest is home, insert coin\0", 33);
    memcpy(tune + 6000,
           "\xFF\xFF"
           "p\0l\0a\0y\0e\0r\0 \0o\0n\0e\0",
           22);
    write_bytes("tune.bin", tune, TUNE);
    TOOL(0, "image", "find", path_of("tune.bin"));
    assert_says(outcome.out, "texts     0x001388  \"the harvest is home, insert coin\"\n"
                             "          0x001772  \"player one\"  UTF-16");
    TOOL(0, "image", "find", path_of("tune.bin"), "--least", "20");
    assert_says(outcome.out, "1 texts of 20 characters");
    TOOL(0, "image", "info", path_of("tune.bin"));
    assert_says(outcome.out, "the harvest is home");
    assert_null(strstr(outcome.out, "q7$K")); // by chance, and for 'find' to list
}

static void test_files_are_joined_into_banks(void **state)
{
    (void)state;
    make_files();
    write_bytes("second.bin", tune, 1000);
    TOOL(0, "image", "join", "--bank-size", "64K", path_of("tune.bin"), path_of("second.bin"),
         path_of("second.bin"), "-o", path_of("new.bin"));
    memset(wanted, 0xFF, MASTER);
    memcpy(wanted, tune, TUNE);
    memcpy(wanted + BANK, tune, 1000);
    memcpy(wanted + 2 * BANK, tune, 1000);
    assert_file("new.bin", wanted, 2 * BANK + 1000);
    TOOL(9, "image", "join", "--bank-size", "32K", path_of("tune.bin"), path_of("second.bin"), "-o",
         path_of("newer.bin"));
    assert_says(outcome.err, "has 50000 bytes, a bank has 32768");
    TOOL(9, "image", "join", path_of("tune.bin"), path_of("second.bin"), "-o",
         path_of("newer.bin"));
    assert_says(outcome.err, "--bank-size");
    TOOL(0, "image", "show", path_of("new.bin"), "--map", "-", "--bank-size", "64K", "--bank-names",
         "tune,play");
    assert_says(outcome.out, "bank 0 tune");
    assert_says(outcome.out, "bank 1 play");
    assert_says(outcome.out, "bank 2\n");
}

static void test_a_label_is_drawn(void **state)
{
    (void)state;
    make_files();
    TOOL(0, "image", "label", path_of("tune.bin"), "--title", "HARVEST 2", "-o",
         path_of("label.svg"), "--replace");
    assert_says(outcome.out, "label     HARVEST 2\n          50000 bytes\n          sum ");
    TOOL(0, "image", "label", path_of("tune.bin"), "-o", path_of("label.png"), "--replace");
    TOOL(2, "image", "label", path_of("tune.bin"));
}

/* An option that an act passes over would be taken for done. */
static void test_each_act_has_its_options(void **state)
{
    (void)state;
    make_files();
    TOOL(2, "image", "info", path_of("tune.bin"), "--bank", "3");
    assert_says(outcome.err, "image info takes no --bank");
    assert_says(outcome.err, "it is for place");
    TOOL(0, "image", "find", "--help");
    assert_says(outcome.out, "--any-case");
    assert_null(strstr(outcome.out, "--ways"));
    TOOL(0, "help", "image", "split");
    assert_says(outcome.out, "--ways");
    TOOL(0, "image", "--help");
    assert_says(outcome.out, "weave ");
}

static void test_info_tells_sums_texts_and_parts(void **state)
{
    char crc[20], sum[20];
    uint32_t total = 0;
    (void)state;
    make_files();
    for (size_t i = 0; i < TUNE; i++)
        total += tune[i];
    snprintf(crc, sizeof crc, "%08X", (unsigned)slow_crc(tune, TUNE));
    snprintf(sum, sizeof sum, "%08X", (unsigned)total);
    TOOL(0, "image", "info", path_of("tune.bin"));
    assert_says(outcome.out, crc);
    assert_says(outcome.out, sum);
    assert_says(outcome.out, "HARVEST HOME");
    write_bytes("abc.bin", (const uint8_t *)"abc", 3);
    TOOL(0, "image", "info", path_of("abc.bin"));
    assert_says(outcome.out,
                "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad"); // FIPS 180-4
    TOOL(5, "image", "info", path_of("master.bin"), "--chip", "at28c256");
    assert_says(outcome.err, "ends at 0x7FFF");
    TOOL(0, "image", "info", SOURCE_FOLDER "/demo/firmware/strike-node-1.4.elf", "--chip",
         "attiny84a");
    TOOL(5, "image", "info", SOURCE_FOLDER "/demo/firmware/strike-node-1.4.elf", "--chip",
         "attiny85");
    assert_says(outcome.err, "signature 1E 93 0C");
    TOOL(5, "image", "info", SOURCE_FOLDER "/demo/firmware/strike-node-1.4.hex", "--chip",
         "atmega1284p");
    assert_says(outcome.err, "vectors are of one word");
    TOOL(5, "image", "info", SOURCE_FOLDER "/demo/firmware/console-2.0.hex", "--chip", "attiny84a");
}

static void test_files_are_compared_to_the_byte(void **state)
{
    (void)state;
    make_files();
    write_bytes("new.bin", wanted, MASTER);
    TOOL(0, "image", "match", path_of("master.bin"), path_of("master.bin"));
    TOOL(1, "image", "match", path_of("master.bin"), path_of("new.bin"), "--json");
    json_t *answer = json_loads(outcome.out, 0, NULL);
    uint32_t due = 0;
    for (size_t i = 0; i < MASTER; i++)
        due += master[i] != wanted[i];
    assert_int_equal(json_integer_value(json_object_get(answer, "differing_bytes")), due);
    json_decref(answer);
    wanted[MASTER - 1] ^= 1;
    write_bytes("last.bin", wanted, MASTER);
    TOOL(1, "image", "match", path_of("new.bin"), path_of("last.bin"));
    assert_says(outcome.err, "1 of 524288 bytes differ, the first at 0x7FFFF");
    write_bytes("short.bin", wanted, MASTER - 10);
    TOOL(1, "image", "match", path_of("new.bin"), path_of("short.bin"));
    assert_says(outcome.err, "10 bytes are in one of them alone");
    TOOL(0, "image", "match", SOURCE_FOLDER "/demo/firmware/strike-node-1.4.hex",
         SOURCE_FOLDER "/demo/firmware/strike-node-1.4.srec");
    TOOL(0, "image", "match", SOURCE_FOLDER "/demo/firmware/strike-node-1.4.hex",
         SOURCE_FOLDER "/demo/firmware/strike-node-1.4.elf");
}

static void test_maps_are_drawn(void **state)
{
    (void)state;
    make_files();
    write_bytes("new.bin", wanted, MASTER);
    TOOL(1, "image", "match", path_of("master.bin"), path_of("new.bin"), "--map",
         path_of("map.png"), "--bank-size", "64K");
    char *png = read_file(path_of("map.png"));
    assert_non_null(png);
    assert_memory_equal(png + 1, "PNG", 3);
    free(png);
    TOOL(0, "image", "info", path_of("master.bin"), "--map", path_of("map"));
    char *svg = read_file(path_of("map.svg"));
    assert_non_null(strstr(svg, "<svg"));
    free(svg);
    TOOL(10, "image", "info", path_of("master.bin"), "--map", path_of("map.svg"));
    TOOL(2, "image", "info", path_of("master.bin"), "--map", path_of("map.gif"));
    TOOL(2, "image", "info", path_of("master.bin"), "--map", "-", "--bank-size", "100");
    setenv("LC_ALL", "C.UTF-8", 1);
    TOOL(0, "image", "info", path_of("master.bin"), "--map", "-");
    assert_says(outcome.out, "\u2588\u2588\u2588\u2588");
    assert_says(outcome.out, "a sign is 256 bytes");
    setenv("LC_ALL", "C", 1);
    TOOL(0, "image", "info", path_of("master.bin"), "--map", "-");
    assert_says(outcome.out, "####");
}

static void test_what_is_no_image_is_refused(void **state)
{
    (void)state;
    TOOL(2, "image");
    TOOL(2, "image", "shw", "x");
    TOOL(9, "image", "info", path_of("nothing-there.bin"));
    TOOL(9, "image", "show", test_folder());
    write_bytes("empty.bin", (const uint8_t *)"", 0);
    TOOL(9, "image", "info", path_of("empty.bin"));
    write_bytes("bad.hex", (const uint8_t *)":020000000102FC\n", 16);
    TOOL(9, "image", "convert", path_of("bad.hex"), "-o", path_of("x.bin"));
    assert_says(outcome.err, "line 1");
    TOOL(2, "image", "convert", path_of("tune.bin"), "-o", path_of("x.bin"), "--format", "tape");
}

/* --- all formats, a thousand sparse images ----------------------------------------------- */

enum { MOST_TEXT = 1 << 20, MOST_BLOCKS = 4096 };
static char text[MOST_TEXT];
static size_t text_bytes;
static _Alignas(8) uint8_t memories[2][CM_IMAGE_MEMORY(MOST_BLOCKS)];

static enum cm_status append(void *context, const char *bytes, size_t count)
{
    (void)context;
    if (text_bytes + count > MOST_TEXT)
        return CM_NO_ROOM;
    memcpy(text + text_bytes, bytes, count);
    text_bytes += count;
    return CM_OK;
}

static uint32_t next_random(void)
{
    static uint32_t state = 88172645u;
    state ^= state << 13;
    state ^= state >> 17;
    return state ^= state << 5;
}

/* Runs of all lengths, in any order, near one another or far away. */
static void make_sparse(struct cm_image *image)
{
    uint8_t bytes[600];
    cm_image_init(image, memories[0], sizeof memories[0]);
    uint32_t window = 1u << (8 + next_random() % 24), runs = 1 + next_random() % 12,
             base = next_random();
    for (uint32_t i = 0; i < runs; i++) {
        uint32_t count = 1 + next_random() % (next_random() % 4 ? 40 : 600),
                 at = base + next_random() % window;
        for (uint32_t k = 0; k < count; k++)
            bytes[k] = (uint8_t)next_random();
        if (at + (count - 1) >= at)
            cm_ignore(cm_image_add(image, at, bytes, count, 0)); // one that overlaps is left out
    }
}

static void assert_same(const struct cm_image *a, const struct cm_image *b)
{
    uint32_t start, count, other, others;
    uint8_t one[4096], two[4096];
    assert_int_equal(a->byte_count, b->byte_count);
    for (uint64_t at = 0; at <= UINT32_MAX && cm_image_extent(a, (uint32_t)at, &start, &count);
         at = (uint64_t)start + count) {
        assert_true(cm_image_extent(b, (uint32_t)at, &other, &others));
        assert_int_equal(start, other);
        assert_int_equal(count, others);
        for (uint32_t done = 0, part; done < count; done += part) {
            part = count - done < sizeof one ? count - done : (uint32_t)sizeof one;
            cm_image_read(a, start + done, one, part, 0);
            cm_image_read(b, start + done, two, part, 0);
            assert_memory_equal(one, two, part);
        }
    }
}

static void through(enum cm_record_format format, const struct cm_image *image)
{
    struct cm_record_writer writer;
    struct cm_record_reader reader;
    struct cm_image again;
    uint32_t start, count;
    uint8_t bytes[64];
    text_bytes = 0;
    cm_record_write_begin(&writer, format, append, NULL);
    for (uint64_t at = 0; at <= UINT32_MAX && cm_image_extent(image, (uint32_t)at, &start, &count);
         at = (uint64_t)start + count) {
        for (uint32_t done = 0, part; done < count; done += part) {
            part = 1 + next_random() % sizeof bytes;
            part = count - done < part ? count - done : part;
            cm_image_read(image, start + done, bytes, part, 0);
            assert_int_equal(cm_record_write(&writer, start + done, bytes, part), CM_OK);
        }
    }
    assert_int_equal(cm_record_write_end(&writer), CM_OK);
    cm_image_init(&again, memories[1], sizeof memories[1]);
    cm_record_begin(&reader, cm_record_into_image, &again);
    for (size_t at = 0, part; at < text_bytes; at += part) {
        part = 1 + next_random() % 999;
        part = text_bytes - at < part ? text_bytes - at : part;
        assert_int_equal(cm_record_feed(&reader, text + at, part), CM_OK);
    }
    assert_int_equal(cm_record_end(&reader), CM_OK);
    assert_same(image, &again);
}

static void test_a_thousand_sparse_images_survive_every_format(void **state)
{
    (void)state;
    for (int i = 0; i < 1000; i++) {
        struct cm_image image;
        make_sparse(&image);
        through(CM_RECORDS_INTEL, &image);
        through(CM_RECORDS_MOTOROLA, &image);
    }
}

/* The tool's own way from each format to each: with gaps where the format has them, filled where it
 * has none. */
static void test_the_tool_converts_between_all_formats(void **state)
{
    static const char *const NAMES[] = {"a.hex", "a.srec", "a.bin"};
    uint8_t raw[3000];
    (void)state;
    memset(raw, 0xFF, sizeof raw);
    fill_pattern(raw, 700, 5);
    fill_pattern(raw + 2100, 900, 6);
    write_bytes("one.bin", raw, 700);
    write_bytes("two.bin", raw + 2100, 900);
    TOOL(0, "image", "cut", path_of("two.bin"), "--range", "0..", "--at", "2100", "-o",
         path_of("two.hex"), "--replace");
    TOOL(0, "image", "join", path_of("one.bin"), path_of("two.hex"), "-o", path_of("a.hex"),
         "--replace");
    for (int from = 0; from < 3; from++) {
        TOOL(0, "image", "convert", path_of("a.hex"), "-o",
             path_of(from ? NAMES[from] : "copy.hex"), "--replace");
        for (int to = 0; to < 3; to++) {
            char name[20];
            snprintf(name, sizeof name, "b%s", NAMES[to] + 1);
            TOOL(0, "image", "convert", path_of(NAMES[from]), "-o", path_of(name), "--replace");
            TOOL(from != 2 && to == 2 ? 1 : 0, "image", "match", path_of(NAMES[from]),
                 path_of(name)); // the gap is FF now
            TOOL(0, "image", "convert", path_of(name), "-o", path_of("raw.bin"), "--replace");
            assert_file("raw.bin", raw, sizeof raw);
        }
    }
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(test_a_file_goes_into_a_bank),
        cmocka_unit_test(test_a_bank_that_is_not_there_is_refused),
        cmocka_unit_test(test_a_part_is_cut_out_and_joined_again),
        cmocka_unit_test(test_gaps_are_filled_and_bytes_stay),
        cmocka_unit_test(test_words_are_swapped_split_and_woven_back),
        cmocka_unit_test(test_bytes_are_shown_from_where_they_are_found),
        cmocka_unit_test(test_all_places_of_a_text_are_found),
        cmocka_unit_test(test_texts_are_listed_with_the_likeliest_first),
        cmocka_unit_test(test_files_are_joined_into_banks),
        cmocka_unit_test(test_a_label_is_drawn),
        cmocka_unit_test(test_each_act_has_its_options),
        cmocka_unit_test(test_info_tells_sums_texts_and_parts),
        cmocka_unit_test(test_files_are_compared_to_the_byte),
        cmocka_unit_test(test_maps_are_drawn),
        cmocka_unit_test(test_what_is_no_image_is_refused),
        cmocka_unit_test(test_a_thousand_sparse_images_survive_every_format),
        cmocka_unit_test(test_the_tool_converts_between_all_formats),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
