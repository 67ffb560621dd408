/*
 * SFDP contents for the simulated parts, by JESD216B: header, one basic table of 16 words, and for
 * large parts the 4-byte address table.
 */
#include "nor_model.h"
#include <string.h>

enum { BASIC_AT = 0x30, BASIC_WORDS = 16, WIDE_AT = 0x80, WIDE_WORDS = 2, LARGE = 1 << 24 };

/* Parts that have SFDP: those of the generations with uniform 4 KiB sectors and a second register,
 * and Micron's. */
static bool has_sfdp(const struct cm_nor_part *row)
{
    bool micron = row->part.id[0] == 0x20 && (row->part.id[1] == 0xBA || row->part.id[1] == 0xBB);
    return row->erases && row->erases->units[0].bytes == 4096 && row->page_bytes == 256 &&
           (micron || row->status->count > 1);
}

static void put_word(uint8_t *table, unsigned number, uint32_t value)
{
    for (unsigned i = 0; i < 4; i++)
        table[4 * (number - 1) + i] = (uint8_t)(value >> 8 * i);
}

static unsigned power_of(uint32_t bytes)
{
    unsigned power = 0;
    while (bytes >> power > 1)
        power++;
    return power;
}

/* Seven bits: count less one, and unit 1, 16, 128 ms or 1 s. */
static uint32_t erase_time(uint32_t us)
{
    static const uint32_t UNITS[] = {1000, 16000, 128000, 1000000};
    for (uint32_t unit = 0; unit < 4; unit++) {
        if (us <= 32 * UNITS[unit])
            return ((us + UNITS[unit] - 1) / UNITS[unit] - 1) | unit << 5;
    }
    return 31 | 3u << 5;
}

static void make_basic(const struct cm_nor_part *row, uint8_t *table)
{
    const struct cm_nor_erase *units = row->erases->units;
    uint32_t sizes[2] = {0, 0}, times = 3; // the longest takes eight times the typical
    bool large = row->bytes > LARGE;
    put_word(table, 1, 0xFF000000u | (large ? 1u << 17 : 0) | 0x20u << 8 | 0xE5);
    put_word(table, 2,
             row->bytes >= 0x20000000u ? 0x80000000u | (power_of(row->bytes) + 3)
                                       : row->bytes * 8 - 1);
    for (unsigned i = 0; i < CM_NOR_ERASES && units[i].bytes; i++) {
        sizes[i / 2] |= (power_of(units[i].bytes) | (uint32_t)units[i].opcode << 8) << 16 * (i % 2);
        times |= erase_time(units[i].us) << (4 + 7 * i);
    }
    put_word(table, 8, sizes[0]);
    put_word(table, 9, sizes[1]);
    put_word(table, 10, times);
    uint32_t program = (uint32_t)(row->times->program_us + 63) / 64 - 1;
    uint32_t chip_ms = row->erases->chip_ms_per_mib * (row->bytes >> 20 ? row->bytes >> 20 : 1),
             chip = (chip_ms + 3999) / 4000;
    chip = chip > 32 ? 32 : chip;
    put_word(table, 11, (chip - 1) << 24 | 2u << 29 | program << 8 | 1u << 13 | 8u << 4 | 3);
    put_word(table, 14, row->status->flag_status ? 2u << 2 : 1u << 2);
    uint32_t enter = row->wide == CM_NOR_WREN_B7     ? 2
                     : row->wide == CM_NOR_OPCODES_4 ? 32
                     : large                         ? 1
                                                     : 0;
    put_word(table, 16, enter << 24 | 1u << 12);
}

static void make_wide(const struct cm_nor_part *row, uint8_t *table)
{
    uint32_t opcodes = 0, supported = 1u | 1u << 6;
    for (unsigned i = 0; i < CM_NOR_ERASES && row->erases->units[i].bytes; i++) {
        supported |= 1u << (9 + i);
        opcodes |= (uint32_t)row->erases->units[i].opcode_4 << 8 * i;
    }
    put_word(table, 1, supported);
    put_word(table, 2, opcodes);
}

static void make_header(uint8_t *sfdp, unsigned number, uint16_t id, uint8_t words,
                        uint32_t pointer)
{
    uint8_t *header = sfdp + 8 * (1 + number);
    const uint8_t bytes[] = {(uint8_t)id,
                             6,
                             1,
                             words,
                             (uint8_t)pointer,
                             (uint8_t)(pointer >> 8),
                             (uint8_t)(pointer >> 16),
                             (uint8_t)(id >> 8)};
    memcpy(header, bytes, sizeof bytes);
}

bool nor_model_make_sfdp(const struct cm_nor_part *row, uint8_t *sfdp)
{
    bool wide = row->wide == CM_NOR_OPCODES_4;
    memset(sfdp, 0xFF, NOR_SFDP_BYTES);
    if (!has_sfdp(row))
        return false;
    memcpy(sfdp, "SFDP", 4);
    sfdp[4] = 6;
    sfdp[5] = 1;
    sfdp[6] = wide;
    make_header(sfdp, 0, 0xFF00, BASIC_WORDS, BASIC_AT);
    memset(sfdp + BASIC_AT, 0, 4 * BASIC_WORDS);
    make_basic(row, sfdp + BASIC_AT);
    if (wide) {
        make_header(sfdp, 1, 0xFF84, WIDE_WORDS, WIDE_AT);
        make_wide(row, sfdp + WIDE_AT);
    }
    return true;
}
