/* Hardware: none. Capsules in memory: written, read, and damaged at every byte. */
#include "support/crc.h"
#include "support/support.h"
#include <coldmint/capsule.h>
#include <stdlib.h>
#include <string.h>

enum { MOST_BYTES = 1 << 20 };

struct buffer {
    uint8_t *bytes;
    size_t count, room;
};

static enum cm_status append(void *context, const char *text, size_t bytes)
{
    struct buffer *buffer = context;
    if (buffer->count + bytes > buffer->room)
        return CM_NO_ROOM;
    memcpy(buffer->bytes + buffer->count, text, bytes);
    buffer->count += bytes;
    return CM_OK;
}

static enum cm_status from_buffer(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    struct buffer *buffer = context;
    assert_true(offset <= buffer->count &&
                count <= buffer->count - offset); // never beyond what it was told
    memcpy(bytes, buffer->bytes + offset, count);
    return CM_OK;
}

static uint32_t next_random(void)
{
    static uint32_t state = 2463534242u;
    state ^= state << 13;
    state ^= state >> 17;
    return state ^= state << 5;
}

static const struct cm_capsule_facts FACTS = {.chip = "attiny84a",
                                              .family = "avr",
                                              .id = {0x1E, 0x93, 0x0C},
                                              .id_bytes = 3,
                                              .supply_mv = 4980,
                                              .time = 1795430400,
                                              .tool = "a test",
                                              .notes = "bell 7, north side"};
static const struct cm_capsule_region REGIONS[] = {
    {"flash", 8192, 0xFF, {0}}, {"eeprom", 512, 0xFF, {0}}, {"fuses", 3, 0xFF, {0}}};

/* Patches of data in what is otherwise erased. */
static void fill(uint8_t *bytes, uint32_t count, uint8_t erased)
{
    memset(bytes, erased, count);
    for (int i = 0; i < 6; i++) {
        uint32_t start = next_random() % count, length = next_random() % (count / 2 + 1);
        for (uint32_t at = start; at < count && at < start + length; at++)
            bytes[at] = (uint8_t)(next_random() >> 7);
    }
}

static void write_capsule(struct buffer *buffer, uint8_t (*contents)[8192])
{
    struct cm_capsule_writer writer;
    buffer->count = 0;
    assert_int_equal(cm_capsule_write_begin(&writer, &FACTS, REGIONS, 3, append, buffer), CM_OK);
    for (uint8_t i = 0; i < 3; i++)
        assert_int_equal(cm_capsule_write(&writer, REGIONS, i, 0, contents[i], REGIONS[i].bytes),
                         CM_OK);
    assert_int_equal(cm_capsule_write_end(&writer), CM_OK);
}

static enum cm_status open_buffer(struct cm_capsule *capsule, struct buffer *buffer)
{
    struct cm_capsule_input input = {buffer, from_buffer, (uint32_t)buffer->count};
    return cm_capsule_open(capsule, &input);
}

static struct buffer *new_buffer(void)
{
    struct buffer *buffer = malloc(sizeof *buffer);
    *buffer = (struct buffer){malloc(MOST_BYTES), 0, MOST_BYTES};
    return buffer;
}

static void free_buffer(struct buffer *buffer)
{
    free(buffer->bytes);
    free(buffer);
}

static void what_is_written_is_read(void **state)
{
    static uint8_t contents[3][8192], page[8192];
    struct buffer *buffer = new_buffer();
    (void)state;
    for (int round = 0; round < 200; round++) {
        struct cm_capsule capsule;
        struct cm_capsule_place place;
        for (uint8_t i = 0; i < 3; i++)
            fill(contents[i], REGIONS[i].bytes, 0xFF);
        write_capsule(buffer, contents);
        assert_int_equal(open_buffer(&capsule, buffer), CM_OK);
        assert_memory_equal(&capsule.facts, &FACTS, sizeof FACTS);
        for (uint8_t i = 0; i < 3; i++) {
            struct cm_source source = cm_capsule_source(&capsule, i, &place);
            uint32_t start, count, all = REGIONS[i].bytes;
            assert_true(source.extent(source.context, 0, &start, &count) && start == 0 &&
                        count == all);
            assert_false(source.extent(source.context, all, &start, &count));
            for (uint32_t at = 0, length; at < all; at += length) {
                length = 1 + next_random() % 300 < all - at ? 1 + next_random() % 300 : all - at;
                length = length < all - at ? length : all - at;
                assert_int_equal(source.read(source.context, at, page, length), CM_OK);
                assert_memory_equal(page, contents[i] + at, length);
            }
            for (int n = 0; n < 20; n++) { // and in any order
                uint32_t at = next_random() % all, length = 1 + next_random() % (all - at);
                assert_int_equal(source.read(source.context, at, page, length), CM_OK);
                assert_memory_equal(page, contents[i] + at, length);
            }
        }
    }
    free_buffer(buffer);
}

static void every_flipped_bit_and_every_cut_is_seen(void **state)
{
    static uint8_t contents[3][8192];
    struct buffer *buffer = new_buffer();
    struct cm_capsule capsule;
    (void)state;
    for (uint8_t i = 0; i < 3; i++)
        memset(contents[i], 0xFF, sizeof contents[i]);
    memcpy(contents[0], "a program", 9);
    memcpy(contents[0] + 4000, "and more of it", 14);
    memcpy(contents[1] + 100, "settings", 8);
    write_capsule(buffer, contents);
    size_t whole = buffer->count;
    for (size_t at = 0; at < whole * 8; at++) {
        buffer->bytes[at / 8] ^= (uint8_t)(1u << at % 8);
        assert_int_equal(open_buffer(&capsule, buffer), CM_BAD_IMAGE);
        assert_int_not_equal(capsule.fault, CM_CAPSULE_OK);
        buffer->bytes[at / 8] ^= (uint8_t)(1u << at % 8);
    }
    for (buffer->count = 0; buffer->count < whole; buffer->count++)
        assert_int_equal(open_buffer(&capsule, buffer), CM_BAD_IMAGE);
    assert_int_equal(open_buffer(&capsule, buffer), CM_OK);
    free_buffer(buffer);
}

/* Ends a file, however odd, with the right checksum, so that what is behind it is looked at. */
static void seal(struct buffer *buffer)
{
    uint32_t crc = slow_crc(buffer->bytes, buffer->count);
    buffer->bytes[buffer->count++] = 0x3D;
    for (int i = 0; i < 4; i++)
        buffer->bytes[buffer->count++] = (uint8_t)(crc >> 8 * i);
}

static void faults_behind_a_good_checksum_are_named(void **state)
{
    static const char HEAD[] = "\x0A\x10"
                               "coldmint capsule\x10\x01";
    static const char CHIP[] = "\x1A\x0C\x0A\x03"
                               "abc\x1A\x03\x1E\x93\x0C\x20\x05";
    static const char REGION[] = "\x2A\x08\x0A\x04"
                                 "main\x10\x10";
    static const struct {
        const char *parts;
        size_t bytes;
        enum cm_capsule_fault fault;
    } CASES[] = {
        {"\x32\x02\x08\x00", 4, CM_CAPSULE_PART_SUM},         // an empty part without a checksum
        {"\x32\x02\x08\x05", 4, CM_CAPSULE_BOUNDS},           // of a region that is not there
        {"\x32\x02\x08\x01", 4, CM_CAPSULE_BOUNDS},           // of the one behind the last
        {"\x32\x82\x00\x08\x00", 5, CM_CAPSULE_MALFORMED},    // its length in a longer form
        {"\x32\x06\x10\x0F\x1A\x02xx", 8, CM_CAPSULE_BOUNDS}, // beyond its end
        {"\x32\x06\x10\xFF\xFF\xFF\xFF\x0F", 8, CM_CAPSULE_BOUNDS}, // far beyond
        {"\x32\x7F\x08\x00", 4, CM_CAPSULE_MALFORMED},              // longer than the file
        {"\x32\x04\x1A\x7Fxx", 6, CM_CAPSULE_MALFORMED},            // data longer than the part
        {"\x07", 1, CM_CAPSULE_MALFORMED},                          // no such wire type
        {"\x2A\x08\x0A\x04main\x10\x10", 10, CM_CAPSULE_MALFORMED}, // a region twice
        {"\x10\x02", 2, CM_CAPSULE_VERSION},                        // a later version
        {"", 0, CM_CAPSULE_OK},                                     // nothing wrong
        {"\x7A\x03new", 5, CM_CAPSULE_OK}, // a field of a later minor version
    };
    struct buffer *buffer = new_buffer();
    struct cm_capsule capsule;
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        buffer->count = 0;
        append(buffer, HEAD, sizeof HEAD - 1);
        append(buffer, CHIP, sizeof CHIP - 1);
        append(buffer, REGION, sizeof REGION - 1);
        append(buffer, CASES[i].parts, CASES[i].bytes);
        seal(buffer);
        open_buffer(&capsule, buffer);
        if (capsule.fault != CASES[i].fault)
            fail_msg("case %u: '%s', not '%s'", (unsigned)i, cm_capsule_fault_word(capsule.fault),
                     cm_capsule_fault_word(CASES[i].fault));
    }
    free_buffer(buffer);
}

static enum cm_status count_bytes(void *context, const char *bytes, size_t count)
{
    (void)bytes;
    *(size_t *)context += count;
    return CM_OK;
}

/* What no reader has room for is not written. */
static void more_than_a_reader_takes_is_refused(void **state)
{
    static const struct cm_capsule_region REGIONS_9[CM_CAPSULE_REGIONS + 1] = {{"r", 1, 0, {0}}};
    struct cm_capsule_facts facts = {.chip = "abc", .id_bytes = sizeof facts.id + 1};
    struct cm_capsule_work work = {.title = "t", .setting_count = CM_SETTING_BYTES + 1};
    struct cm_capsule_writer writer;
    size_t count = 0;
    (void)state;
    assert_int_equal(cm_capsule_write_begin(&writer, &facts, REGIONS_9, 1, count_bytes, &count),
                     CM_BAD_ARGUMENT);
    facts.id_bytes = 0;
    assert_int_equal(cm_capsule_write_begin(&writer, &facts, REGIONS_9, CM_CAPSULE_REGIONS + 1,
                                            count_bytes, &count),
                     CM_BAD_ARGUMENT);
    assert_int_equal(
        cm_capsule_write_work(&writer, &facts, &work, REGIONS_9, 1, count_bytes, &count),
        CM_BAD_ARGUMENT);
    assert_int_equal(count, 0);
}

static void a_full_sink_is_told(void **state)
{
    static uint8_t contents[3][8192];
    struct cm_capsule_writer writer;
    struct buffer *buffer = new_buffer();
    (void)state;
    fill(contents[0], 8192, 0xFF);
    write_capsule(buffer, contents);
    size_t whole = buffer->count;
    for (buffer->room = 0; buffer->room < whole; buffer->room += 1 + buffer->room / 50) {
        buffer->count = 0;
        cm_ignore(cm_capsule_write_begin(&writer, &FACTS, REGIONS, 3, append, buffer));
        for (uint8_t i = 0; i < 3; i++)
            cm_ignore(cm_capsule_write(&writer, REGIONS, i, 0, contents[i], REGIONS[i].bytes));
        assert_int_equal(cm_capsule_write_end(&writer), CM_NO_ROOM);
    }
    free_buffer(buffer);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(what_is_written_is_read),
        cmocka_unit_test(every_flipped_bit_and_every_cut_is_seen),
        cmocka_unit_test(faults_behind_a_good_checksum_are_named),
        cmocka_unit_test(more_than_a_reader_takes_is_refused),
        cmocka_unit_test(a_full_sink_is_told),
    };
    return cmocka_run_group_tests_name("capsule", tests, NULL, NULL);
}
