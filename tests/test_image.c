/* Hardware: none. Sparse images, Intel HEX and S-records. */
#include "support/support.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { BLOCKS = 2000 };
static _Alignas(8) uint8_t memory[CM_IMAGE_MEMORY(BLOCKS)], other_memory[CM_IMAGE_MEMORY(BLOCKS)];

static enum cm_record_fault read_hex(struct cm_image *image, struct cm_record_reader *reader,
                                     const char *text, size_t piece)
{
    cm_image_init(image, memory, sizeof memory);
    cm_record_begin(reader, cm_record_into_image, image);
    for (size_t at = 0, bytes = strlen(text); at < bytes; at += piece)
        cm_ignore(cm_record_feed(reader, text + at, bytes - at < piece ? bytes - at : piece));
    cm_ignore(cm_record_end(reader));
    return reader->fault;
}

static void an_image_keeps_gaps(void **state)
{
    struct cm_image image;
    uint8_t bytes[8];
    uint32_t start, count, first, last;
    (void)state;
    cm_image_init(&image, memory, sizeof memory);
    assert_false(cm_image_extent(&image, 0, &start, &count));
    // over a block's end
    assert_int_equal(cm_image_add(&image, 0x13E, (const uint8_t *)"abcd", 4, 2), CM_OK);
    assert_int_equal(cm_image_add(&image, 0x10, (const uint8_t *)"xy", 2, 1), CM_OK);
    assert_true(cm_image_extent(&image, 0, &start, &count));
    assert_int_equal(start, 0x10);
    assert_int_equal(count, 2);
    assert_true(cm_image_extent(&image, 0x12, &start, &count));
    assert_int_equal(start, 0x13E);
    assert_int_equal(count, 4);
    assert_true(cm_image_extent(&image, 0x140, &start, &count));
    assert_int_equal(start, 0x140);
    assert_int_equal(count, 2);
    assert_false(cm_image_extent(&image, 0x142, &start, &count));
    cm_image_read(&image, 0x13C, bytes, 8, 0xEE);
    assert_memory_equal(bytes,
                        "\xEE\xEE"
                        "abcd"
                        "\xEE\xEE",
                        8);
    cm_image_bounds(&image, &first, &last);
    assert_int_equal(first, 0x10);
    assert_int_equal(last, 0x141);
}

static void overlaps_and_ends_are_refused(void **state)
{
    struct cm_image image;
    (void)state;
    cm_image_init(&image, memory, sizeof memory);
    assert_int_equal(cm_image_add(&image, 100, (const uint8_t *)"abcd", 4, 7), CM_OK);
    assert_int_equal(cm_image_add(&image, 96, (const uint8_t *)"efghi", 5, 9), CM_BAD_IMAGE);
    assert_int_equal(image.clash_address, 100);
    assert_int_equal(image.clash_line, 7);
    assert_int_equal(image.byte_count, 4);
    assert_int_equal(cm_image_add(&image, UINT32_MAX, (const uint8_t *)"ab", 2, 1), CM_TOO_LARGE);
    assert_int_equal(cm_image_add(&image, UINT32_MAX, (const uint8_t *)"a", 1, 1), CM_OK);
    cm_image_init(&image, memory, CM_IMAGE_MEMORY(1));
    assert_int_equal(cm_image_add(&image, 0, (const uint8_t *)"a", 1, 1), CM_OK);
    assert_int_equal(cm_image_add(&image, 64, (const uint8_t *)"a", 1, 1), CM_NO_ROOM);
}

static void all_record_types_are_read(void **state)
{
    struct cm_image image;
    struct cm_record_reader reader;
    uint8_t byte;
    const char *text = ":020000021000EC\r\n" // segment 1000: base 0x10000
                       ":02FFFF00AABB9B\r"   // wraps to the segment's start
                       ":020000040001F9\n"   // linear 0x0001
                       ":0180000044"         // 0x18000 (checksum follows)
                       "3B\n\n"
                       ":0400000300001234B3\n" // CS:IP
                       ":04000005000000CD2A\n" // start
                       ":00000001FF\n";
    (void)state;
    for (size_t piece = 1; piece < 40; piece++) {
        assert_int_equal(read_hex(&image, &reader, text, piece), CM_RECORD_OK);
        cm_image_read(&image, 0x1FFFF, &byte, 1, 0);
        assert_int_equal(byte, 0xAA);
        cm_image_read(&image, 0x10000, &byte, 1, 0);
        assert_int_equal(byte, 0xBB);
        cm_image_read(&image, 0x18000, &byte, 1, 0);
        assert_int_equal(byte, 0x44);
        assert_int_equal(image.byte_count, 3);
        assert_true(reader.has_start);
        assert_int_equal(reader.start, 0xCD);
    }
}

static void linear_data_wraps_at_four_gigabytes(void **state)
{
    struct cm_image image;
    struct cm_record_reader reader;
    uint8_t byte;
    (void)state;
    assert_int_equal(
        read_hex(&image, &reader, ":02000004FFFFFC\n:02FFFF00AABB9B\n:00000001FF\n", 7),
        CM_RECORD_OK);
    cm_image_read(&image, UINT32_MAX, &byte, 1, 0);
    assert_int_equal(byte, 0xAA);
    cm_image_read(&image, 0, &byte, 1, 0);
    assert_int_equal(byte, 0xBB);
}

struct fault_case {
    const char *text;
    enum cm_record_fault fault;
    uint32_t line, column;
};

static void check_faults(const struct fault_case *cases, size_t count)
{
    for (size_t i = 0; i < count; i++) {
        struct cm_image image;
        struct cm_record_reader reader;
        assert_int_equal(read_hex(&image, &reader, cases[i].text, 3), cases[i].fault);
        assert_int_equal(reader.line, cases[i].line);
        assert_int_equal(reader.column, cases[i].column);
        // it stands still
        assert_int_equal(cm_record_feed(&reader, ":00000001FF\n", 12), CM_BAD_IMAGE);
        assert_int_equal(reader.fault, cases[i].fault);
    }
}

static void faults_name_line_and_column(void **state)
{
    static const struct fault_case CASES[] = {
        {":00000001FF\nx", CM_RECORD_NO_MARK, 2, 1},
        {":0000000G01FF\n", CM_RECORD_NOT_A_DIGIT, 1, 9},
        {"\n\n:0100000001\n", CM_RECORD_TOO_SHORT, 3, 12},
        {":00000001FF00\n", CM_RECORD_TOO_LONG, 1, 12},
        {":0100000001FE\n:0100010001FC\n", CM_RECORD_CHECKSUM, 2, 13},
        {":00000006FA\n", CM_RECORD_TYPE, 1, 11},
        {":0100000400FB\n", CM_RECORD_TYPE_LENGTH, 1, 13},
        {":00000001FF\n:00000001FF\n", CM_RECORD_AFTER_END, 2, 1},
        {":0100000001FE\n", CM_RECORD_NO_END, 2, 0},
        {"", CM_RECORD_NO_END, 1, 0},
        {":0100000001", CM_RECORD_TOO_SHORT, 1, 11},
        {":0100000001FE\n:0100000002FD\n", CM_RECORD_SINK, 2, 13},
    };
    (void)state;
    check_faults(CASES, sizeof CASES / sizeof CASES[0]);
}

static void a_wrong_checksum_says_both_values(void **state)
{
    struct cm_image image;
    struct cm_record_reader reader;
    (void)state;
    read_hex(&image, &reader, ":0100000001FD\n", 64);
    assert_int_equal(reader.found, 0xFD);
    assert_int_equal(reader.expected, 0xFE);
}

struct text {
    char bytes[400000];
    size_t count;
};

static enum cm_status append(void *context, const char *text, size_t bytes)
{
    struct text *all = context;
    assert_true(all->count + bytes < sizeof all->bytes);
    memcpy(all->bytes + all->count, text, bytes);
    all->count += bytes;
    all->bytes[all->count] = '\0';
    return CM_OK;
}

/* 400 random sparse images out and in again, byte for byte, in both formats. */
static void images_survive_the_round_trip(void **state)
{
    static struct text text;
    (void)state;
    srand(7);
    for (int round = 0; round < 400; round++) {
        enum cm_record_format format = round % 2 ? CM_RECORDS_INTEL : CM_RECORDS_MOTOROLA;
        struct cm_image image, again;
        struct cm_record_reader reader;
        struct cm_record_writer writer;
        uint32_t start, count;
        cm_image_init(&again, other_memory, sizeof other_memory);
        for (int i = 0; i < 30; i++) {
            uint8_t bytes[100];
            for (size_t b = 0; b < sizeof bytes; b++)
                bytes[b] = (uint8_t)rand();
            cm_ignore(cm_image_add(&again, (uint32_t)rand() % 0x40000, bytes,
                                   (uint32_t)rand() % 100, 1)); // overlaps are refused: fine
        }
        text.count = 0;
        cm_record_write_begin(&writer, format, append, &text);
        for (uint32_t at = 0; cm_image_extent(&again, at, &start, &count); at = start + count) {
            uint8_t bytes[20000];
            cm_image_read(&again, start, bytes, count, 0);
            assert_int_equal(cm_record_write(&writer, start, bytes, count), CM_OK);
        }
        assert_int_equal(cm_record_write_end(&writer), CM_OK);
        assert_int_equal(read_hex(&image, &reader, text.bytes, 1 + (size_t)rand() % 5000),
                         CM_RECORD_OK);
        assert_int_equal(image.byte_count, again.byte_count);
        for (uint32_t at = 0; cm_image_extent(&again, at, &start, &count); at = start + count) {
            uint8_t one[20000], two[20000];
            cm_image_read(&again, start, one, count, 0);
            cm_image_read(&image, start, two, count, 1);
            assert_memory_equal(one, two, count);
        }
    }
}

/* The upper half of an address stands before the first record that needs it, and not before each.
 */
static void an_upper_half_is_written_once(void **state)
{
    enum { BYTES = 0x18000, PIECE = 16 };
    static struct text text;
    uint8_t bytes[PIECE] = {1, 2, 3};
    struct cm_record_writer writer;
    unsigned count = 0;
    (void)state;
    text.count = 0;
    cm_record_write_begin(&writer, CM_RECORDS_INTEL, append, &text);
    for (uint32_t at = 0; at < BYTES; at += PIECE)
        assert_int_equal(cm_record_write(&writer, at, bytes, PIECE), CM_OK);
    assert_int_equal(cm_record_write_end(&writer), CM_OK);
    for (size_t at = 0; at + 9 < text.count; at++)
        count += memcmp(text.bytes + at, ":02000004", 9) == 0;
    assert_int_equal(count, 1); // behind 64 KiB
}

/* --- S-records --------------------------------------------------------------------------- */

static void all_s_records_are_read(void **state)
{
    struct cm_image image;
    struct cm_record_reader reader;
    uint8_t bytes[4];
    const char *text = "S00600004844521B\r\n" // HDR
                       "S1050010AABB85\n"     // two bytes at 0x0010
                       "S205123456CC92\n"     // one at 0x123456
                       "s30689ABCDEFDD2C\r"   // one at 0x89ABCDEF, and a small s
                       "S5030003F9\n"
                       "S804123456"
                       "5F\n";
    (void)state;
    for (size_t piece = 1; piece < 30; piece++) {
        assert_int_equal(read_hex(&image, &reader, text, piece), CM_RECORD_OK);
        assert_int_equal(reader.format, CM_RECORDS_MOTOROLA);
        assert_int_equal(image.byte_count, 4);
        cm_image_read(&image, 0x10, bytes, 2, 0);
        assert_memory_equal(bytes, "\xAA\xBB", 2);
        cm_image_read(&image, 0x123456, bytes, 1, 0);
        assert_int_equal(bytes[0], 0xCC);
        cm_image_read(&image, 0x89ABCDEF, bytes, 1, 0);
        assert_int_equal(bytes[0], 0xDD);
        assert_int_equal(reader.start, 0x123456);
    }
}

static void s_record_faults_are_told(void **state)
{
    static const struct fault_case CASES[] = {
        {"S1050010AABB86\n", CM_RECORD_CHECKSUM, 1, 14},
        {"S4030000FC\n", CM_RECORD_TYPE, 1, 2},
        {"SX\n", CM_RECORD_TYPE, 1, 2},
        {"S\n", CM_RECORD_TOO_SHORT, 1, 2},
        {"S", CM_RECORD_TOO_SHORT, 1, 1},
        {"S102", CM_RECORD_TOO_SHORT, 1, 4},
        {"S10200FD\n", CM_RECORD_TYPE_LENGTH, 1, 8}, // no room for its address
        {"S1050010AABB85\nS5030002FA\n", CM_RECORD_COUNT, 2, 10},
        {"S1050010AABB85\n", CM_RECORD_NO_END, 2, 0},
        {"S9030000FC\nS9030000FC\n", CM_RECORD_AFTER_END, 2, 1},
        {"S1050010AABB85\n:00000001FF\n", CM_RECORD_NO_MARK, 2, 1},
        {":00000001FF\nS9030000FC\n", CM_RECORD_NO_MARK, 2, 1},
        {"S1050010AABB8500\n", CM_RECORD_TOO_LONG, 1, 15},
    };
    (void)state;
    check_faults(CASES, sizeof CASES / sizeof CASES[0]);
}

static void s_records_end_as_their_addresses_want(void **state)
{
    static const struct {
        uint32_t address;
        const char *text;
    } CASES[] = {
        {0x10, "S1050010AABB85\nS5030001FB\nS9030000FC\n"},
        {0x123456, NULL},
        {0x89ABCDEF, NULL},
    };
    static struct text text;
    struct cm_record_writer writer;
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        text.count = 0;
        cm_record_write_begin(&writer, CM_RECORDS_MOTOROLA, append, &text);
        assert_int_equal(cm_record_write(&writer, CASES[i].address, (const uint8_t *)"\xAA\xBB", 2),
                         CM_OK);
        assert_int_equal(cm_record_write_end(&writer), CM_OK);
        struct cm_image image;
        struct cm_record_reader reader;
        assert_int_equal(read_hex(&image, &reader, text.bytes, 5), CM_RECORD_OK);
        assert_int_equal(reader.type, '9' - (int)i);
        if (CASES[i].text)
            assert_string_equal(text.bytes, CASES[i].text);
    }
}

/* Beside a plain array of bytes: blocks come in a random order, and are found by any address. */
static void a_sparse_image_is_what_an_array_is(void **state)
{
    enum { SPAN = 8192, ROUNDS = 300, PIECES = 60 };
    static uint8_t bytes[SPAN], is_there[SPAN];
    (void)state;
    for (unsigned round = 0; round < ROUNDS; round++) {
        struct cm_image image;
        uint32_t seed = round + 1, count = 0;
        memset(is_there, 0, sizeof is_there);
        cm_image_init(&image, memory, sizeof memory);
        for (unsigned i = 0; i < PIECES; i++) {
            seed = seed * 1664525u + 1013904223u;
            uint32_t at = (seed >> 8) % (SPAN - 40), length = 1 + seed % 40;
            uint8_t piece[40];
            bool clashes = false;
            for (uint32_t k = 0; k < length; k++) {
                piece[k] = (uint8_t)(seed >> 3 ^ k);
                clashes |= is_there[at + k];
            }
            // the highest addresses of all, too
            const uint32_t base = round % 2 ? UINT32_MAX - (SPAN - 1) : 0;
            enum cm_status status = cm_image_add(&image, base + at, piece, length, i);
            assert_int_equal(status, clashes ? CM_BAD_IMAGE : CM_OK);
            for (uint32_t k = 0; k < length && !clashes; k++, count++) {
                bytes[at + k] = piece[k];
                is_there[at + k] = 1;
            }
        }
        assert_int_equal(image.byte_count, count);
        for (uint32_t at = 0; at < SPAN; at += 1 + at % 7) {
            const uint32_t base = round % 2 ? UINT32_MAX - (SPAN - 1) : 0;
            uint32_t start = at, end, first, length;
            while (start < SPAN && !is_there[start])
                start++;
            for (end = start; end < SPAN && is_there[end]; end++)
                assert_true(end < SPAN);
            assert_int_equal(cm_image_extent(&image, base + at, &first, &length), start < SPAN);
            if (start == SPAN)
                continue;
            assert_int_equal(first, base + start);
            assert_int_equal(length, end - start);
            uint8_t read[SPAN];
            cm_image_read(&image, first, read, length, 0xFF);
            assert_memory_equal(read, bytes + start, length);
        }
    }
}

static void records_in_any_order_make_the_same_image(void **state)
{
    struct cm_image image;
    struct cm_record_reader reader;
    uint32_t start, count;
    static char text[70000];
    (void)state;
    text[0] = '\0';
    for (int i = 999; i >= 0; i--) { // backwards
        char line[40];
        unsigned address = (unsigned)i * 4, sum = 4 + (address >> 8) + (address & 0xFF) + 4 * 0x21;
        snprintf(line, sizeof line, ":04%04X0021212121%02X\n", address,
                 (unsigned)(0x100 - (sum & 0xFF)) & 0xFF);
        strcat(text, line);
    }
    strcat(text, ":00000001FF\n");
    assert_int_equal(read_hex(&image, &reader, text, 4096), CM_RECORD_OK);
    assert_true(cm_image_extent(&image, 0, &start, &count));
    assert_int_equal(start, 0);
    assert_int_equal(count, 4000);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(an_image_keeps_gaps),
        cmocka_unit_test(overlaps_and_ends_are_refused),
        cmocka_unit_test(all_record_types_are_read),
        cmocka_unit_test(linear_data_wraps_at_four_gigabytes),
        cmocka_unit_test(faults_name_line_and_column),
        cmocka_unit_test(a_wrong_checksum_says_both_values),
        cmocka_unit_test(images_survive_the_round_trip),
        cmocka_unit_test(an_upper_half_is_written_once),
        cmocka_unit_test(all_s_records_are_read),
        cmocka_unit_test(s_record_faults_are_told),
        cmocka_unit_test(s_records_end_as_their_addresses_want),
        cmocka_unit_test(a_sparse_image_is_what_an_array_is),
        cmocka_unit_test(records_in_any_order_make_the_same_image),
    };
    return cmocka_run_group_tests_name("image", tests, NULL, NULL);
}
