/* Hardware: none. Tables that a serial flash memory could tell of itself, whole and damaged. */
#include "support/support.h"
#include <coldmint/sfdp.h>
#include <string.h>

enum { SPACE = 512, BASIC_AT = 0x30, ADDRESS_4_AT = 0x80 };

/* The tables' address space; reads behind `readable` fail. */
struct space {
    uint8_t bytes[SPACE];
    uint32_t readable, reads;
};

static enum cm_status read_space(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    struct space *space = context;
    space->reads += count;
    if (address + count > space->readable) {
        if (space->readable < SPACE)
            return CM_CONTACT_LOST;
        memset(bytes, 0xFF, count); // nothing is there
        return CM_OK;
    }
    memcpy(bytes, space->bytes + address, count);
    return CM_OK;
}

static void put_word(struct space *space, uint32_t at, uint32_t word)
{
    for (int i = 0; i < 4; i++)
        space->bytes[at + (uint32_t)i] = (uint8_t)(word >> 8 * i);
}

static void put_header(struct space *space, uint32_t at, uint16_t id, uint8_t minor, uint8_t dwords,
                       uint32_t pointer)
{
    put_word(space, at, (id & 0xFFu) | (uint32_t)minor << 8 | 1u << 16 | (uint32_t)dwords << 24);
    put_word(space, at + 4, pointer | (uint32_t)(id >> 8) << 24);
}

/* A memory of 32 MiB: 4, 32 and 64 KiB erases, pages of 256, 3- and 4-byte addresses; revision B,
 * 16 words. */
static void make_space(struct space *space)
{
    static const uint32_t BASIC[16] = {
        [0] = 0xFFF320E5,   // 3 or 4 address bytes, erase 20, status nonvolatile
        [1] = 0x0FFFFFFF,   // 256 Mbit
        [7] = 0x520F200C,   // 4 KiB by 20, 32 KiB by 52
        [8] = 0x0000D810,   // 64 KiB by D8
        [13] = 0x00000004,  // busy in the status register
        [14] = 0x00500000,  // quad enable: 5
        [15] = 0x01001000}; // B7 alone; 66 99
    memset(space, 0xFF, sizeof *space);
    space->readable = SPACE;
    space->reads = 0;
    memcpy(space->bytes, "SFDP\x06\x01\x01\xFF", 8);
    put_header(space, 8, 0xFF00, 6, 16, BASIC_AT);
    put_header(space, 16, 0xFF84, 0, 2, ADDRESS_4_AT);
    for (uint32_t i = 0; i < 16; i++)
        put_word(space, BASIC_AT + 4 * i, BASIC[i]);
    // 3 times the typical doubled: (2 + 1) * 2; 45 ms, 128 ms and 144 ms, in units of 1, 16 and 16
    // ms
    put_word(space, BASIC_AT + 36,
             2u | 2u << 4 | 1u << 9 | 7u << 11 | 1u << 16 | 8u << 18 | 1u << 23);
    // 2 times; page 2^8; 704 us = 11 x 64; chip 80 s = 20 x 4 s
    put_word(space, BASIC_AT + 40, 0u | 8u << 4 | 10u << 8 | 1u << 13 | 19u << 24 | 2u << 29);
    put_word(space, ADDRESS_4_AT, 1u | 1u << 6 | 1u << 9 | 1u << 11);
    put_word(space, ADDRESS_4_AT + 4, 0x00DC5C21);
}

static enum cm_sfdp_fault parse(struct space *space, struct cm_sfdp *sfdp)
{
    enum cm_sfdp_fault fault;
    enum cm_status status = cm_sfdp_parse(read_space, space, sfdp, &fault);
    assert_int_equal(status, fault ? CM_BAD_IMAGE : CM_OK);
    return fault;
}

static void a_whole_set_of_tables_is_understood(void **state)
{
    struct space space;
    struct cm_sfdp sfdp;
    (void)state;
    make_space(&space);
    assert_int_equal(parse(&space, &sfdp), CM_SFDP_OK);
    assert_int_equal(sfdp.bytes, 32 << 20);
    assert_int_equal(sfdp.page_bytes, 256);
    assert_int_equal(sfdp.addresses, CM_SFDP_ADDRESS_3_OR_4);
    assert_int_equal(sfdp.enter_4, CM_SFDP_B7);
    assert_true(sfdp.resets_by_66_99 && !sfdp.busy_in_flag_status && !sfdp.status_is_volatile);
    assert_int_equal(sfdp.quad_enable, 5);
    assert_int_equal(sfdp.read_4, 0x13);
    assert_int_equal(sfdp.program_4, 0x12);
    static const struct cm_sfdp_erase ERASES[] = {
        {4096, 48000, 288000, 0x20, 0x21},
        {32768, 128000, 768000, 0x52, 0}, // the second table has no bit for it
        {65536, 144000, 864000, 0xD8, 0xDC}};
    for (int i = 0; i < 3; i++) {
        assert_int_equal(sfdp.erases[i].bytes, ERASES[i].bytes);
        assert_int_equal(sfdp.erases[i].opcode, ERASES[i].opcode);
        assert_int_equal(sfdp.erases[i].opcode_4, ERASES[i].opcode_4);
        assert_int_equal(sfdp.erases[i].typical_us, ERASES[i].typical_us);
        assert_int_equal(sfdp.erases[i].max_us, ERASES[i].max_us);
    }
    assert_int_equal(sfdp.erases[3].bytes, 0);
    assert_int_equal(sfdp.program_us, 704);
    assert_int_equal(sfdp.program_max_us, 1408);
    assert_int_equal(sfdp.chip_erase_us, 80000000);
    assert_true(space.reads <= 400);
}

static void the_first_edition_tells_less(void **state)
{
    struct space space;
    struct cm_sfdp sfdp;
    (void)state;
    make_space(&space);
    put_header(&space, 8, 0xFF00, 0, 9, BASIC_AT);
    space.bytes[6] = 0; // one header
    assert_int_equal(parse(&space, &sfdp), CM_SFDP_OK);
    assert_int_equal(sfdp.bytes, 32 << 20);
    assert_int_equal(sfdp.page_bytes, 256);
    assert_int_equal(sfdp.erases[0].typical_us, 0);
    assert_int_equal(sfdp.program_us, 0);
    assert_int_equal(sfdp.read_4, 0);
}

/* Revision 1.0 as some makers shipped it: their own id in the header, and four words of the table.
 */
static void sfdp_of_revision_1_0_is_used_for_what_it_tells(void **state)
{
    struct space space;
    struct cm_sfdp sfdp;
    (void)state;
    make_space(&space);
    memcpy(space.bytes, "SFDP\x00\x01\x00\xFF", 8);
    memcpy(space.bytes + 8, "\xEF\x00\x01\x04", 4); // a maker's id, revision 1.0, four words
    put_word(&space, BASIC_AT, 0xFFF120E5);         // 4 KiB erase by 20
    put_word(&space, BASIC_AT + 4, 0x00FFFFFF);     // 2 MiB
    assert_int_equal(parse(&space, &sfdp), CM_SFDP_OK);
    assert_int_equal(sfdp.bytes, 2 << 20);
    assert_int_equal(sfdp.erases[0].bytes, 4096);
    assert_int_equal(sfdp.erases[0].opcode, 0x20);
    assert_int_equal(sfdp.erases[1].bytes, 0);
    space.bytes[11] = 3; // too short even for that
    assert_int_equal(parse(&space, &sfdp), CM_SFDP_SHORT);
}

static void what_cannot_be_is_refused(void **state)
{
    static const struct {
        uint32_t at, word;
        enum cm_sfdp_fault fault;
    } CASES[] = {
        {0, 0xFFFFFFFF, CM_SFDP_ABSENT},
        {0, 0x00000000, CM_SFDP_ABSENT},
        {8, 0xFF02FF00, CM_SFDP_NO_BASIC},               // a major revision that nobody knows
        {8, 0x08010600, CM_SFDP_SHORT},                  // eight words
        {BASIC_AT + 4, 0x0FFFFFFE, CM_SFDP_SIZE},        // not whole bytes
        {BASIC_AT + 4, 0x0EFFFFFF, CM_SFDP_SIZE},        // no power of two
        {BASIC_AT + 4, 0x80000023, CM_SFDP_SIZE},        // 4 GiB
        {BASIC_AT + 4, 0xFFFFFFFF, CM_SFDP_SIZE},        // far beyond
        {BASIC_AT + 28, 0x520F207F, CM_SFDP_ERASE_TYPE}, // an erase type of 2^127
        {BASIC_AT + 28, 0x520F201A, CM_SFDP_ERASE_TYPE}, // larger than the memory
        {BASIC_AT + 28, 0x520F2003, CM_SFDP_ERASE_TYPE}, // of eight bytes
    };
    struct space space;
    struct cm_sfdp sfdp;
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        make_space(&space);
        put_word(&space, CASES[i].at, CASES[i].word);
        if (parse(&space, &sfdp) != CASES[i].fault)
            fail_msg("case %u is not seen", (unsigned)i);
    }
    make_space(&space);
    put_word(&space, BASIC_AT + 28, 0);
    put_word(&space, BASIC_AT + 32, 0);
    put_word(&space, BASIC_AT, 0xFFF120E7);
    assert_int_equal(parse(&space, &sfdp), CM_SFDP_ERASE_TYPE); // none at all
    put_word(&space, BASIC_AT + 28, 0x00000000);
    put_word(&space, BASIC_AT + 4, 0x80000022); // 2 GiB, by its power
    put_word(&space, BASIC_AT + 32, 0xD810);
    assert_int_equal(parse(&space, &sfdp), CM_SFDP_OK);
    assert_int_equal(sfdp.bytes, 1u << 31);
}

static void a_read_that_fails_is_told(void **state)
{
    struct space space;
    struct cm_sfdp sfdp;
    (void)state;
    make_space(&space);
    for (space.readable = 0; space.readable < ADDRESS_4_AT + 8; space.readable++)
        assert_int_equal(parse(&space, &sfdp), CM_SFDP_UNREAD);
    assert_int_equal(parse(&space, &sfdp), CM_SFDP_OK);
}

/* What is understood of damaged tables is still a memory that could be. */
static void damaged_tables_never_make_an_impossible_memory(void **state)
{
    struct space space;
    struct cm_sfdp sfdp;
    uint32_t random = 2463534242u;
    (void)state;
    for (int round = 0; round < 200000; round++) {
        make_space(&space);
        for (int i = 0; i < 1 + round % 6; i++) {
            random = random * 1664525u + 1013904223u;
            space.bytes[(random >> 8) % (ADDRESS_4_AT + 8)] = (uint8_t)(random >> 24);
        }
        if (parse(&space, &sfdp) != CM_SFDP_OK)
            continue;
        assert_true(sfdp.bytes >= 512 && (sfdp.bytes & (sfdp.bytes - 1)) == 0);
        assert_true(sfdp.page_bytes >= 8 && (sfdp.page_bytes & (sfdp.page_bytes - 1)) == 0);
        assert_in_range(sfdp.erases[0].bytes, 256, sfdp.bytes);
        for (int i = 1; i < CM_SFDP_ERASES && sfdp.erases[i].bytes; i++)
            assert_in_range(sfdp.erases[i].bytes, sfdp.erases[i - 1].bytes, sfdp.bytes);
        assert_true(space.reads <= 400);
    }
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(a_whole_set_of_tables_is_understood),
        cmocka_unit_test(the_first_edition_tells_less),
        cmocka_unit_test(sfdp_of_revision_1_0_is_used_for_what_it_tells),
        cmocka_unit_test(what_cannot_be_is_refused),
        cmocka_unit_test(a_read_that_fails_is_told),
        cmocka_unit_test(damaged_tables_never_make_an_impossible_memory),
    };
    return cmocka_run_group_tests_name("sfdp", tests, NULL, NULL);
}
