/*
 * A parallel flash that tells of itself: the common flash interface (JESD68.01).
 *
 *     55 <- 98      query mode (of some: 5555 <- AA, 2AAA <- 55, 5555 <- 98): from address 10 on
 *                   "QRY", the command set, supplies, times as powers of two, size, sectors
 *     F0            and back
 *
 * Only the command set that is spoken here (0002, with the older 0701 of the same commands) and
 * sectors of one size are taken; of parts that list sectors and blocks as two views, the first that
 * fills the chip.
 */
#include "par.h"
#include <string.h>

enum {
    MAKER_SST = 0xBF,
    QUERY = 0x10,
    QUERY_BYTES = 0x30,
    SET_AMD = 0x0002,
    SET_SST = 0x0701,
    MOST_REGIONS = 4,
    T_ID_US = 1,
    PULSE_NS = 60 /* the slower ones of both kinds */,
    MOST_BITS = 26
};

enum { /* places in what was read, which begins at 10 */
       SET = 0x13 - QUERY,
       VCC_MIN = 0x1B - QUERY,
       VCC_MAX = 0x1C - QUERY,
       PROGRAM = 0x1F - QUERY,
       ERASE = 0x21 - QUERY,
       CHIP = 0x22 - QUERY,
       PROGRAM_MOST = 0x23 - QUERY,
       ERASE_MOST = 0x25 - QUERY,
       CHIP_MOST = 0x26 - QUERY,
       SIZE = 0x27 - QUERY,
       REGIONS = 0x2C - QUERY,
       REGION = 0x2D - QUERY
};

static enum cm_status read_table(struct cm_session *session, const struct cm_cycle *ask,
                                 uint8_t ask_count, uint8_t *table)
{
    static const struct cm_cycle END[] = {{0, 0xF0}};
    uint8_t wide[2 * QUERY_BYTES] = {0}, unit = cm_par_unit(session);
    cm_batch_begin(session, CM_STEP_IDENTIFY, "id", 0);
    cm_par_command(session, ask, ask_count);
    cm_batch_wait(session, T_ID_US);
    cm_par_add_read(session, CM_DATA_IN, (uint32_t)QUERY * unit, wide,
                    (uint32_t)QUERY_BYTES * unit);
    cm_par_command(session, END, 1);
    cm_batch_wait(session, T_ID_US);
    enum cm_status status = cm_batch_run(session);
    for (uint8_t i = 0; i < QUERY_BYTES; i++)
        table[i] = wide[i * unit];
    return status;
}

static bool is_query(const uint8_t *table)
{
    return memcmp(table, "QRY", 3) == 0;
}

/* SST's parts want the whole unlock sequence before 98, AMD's and their like 98 alone. */
static enum cm_status ask_both_ways(struct cm_session *session, uint8_t *table)
{
    static const struct cm_cycle PLAIN[] = {{0x55, 0x98}}, UNLOCKED[] = {{UNLOCK_1, 0xAA},
                                                                         {UNLOCK_2, 0x55},
                                                                         {UNLOCK_1, 0x98}};
    bool unlocks = session->id[0] == MAKER_SST;
    enum cm_status status = CM_OK;
    table[0] = 0;
    for (uint8_t i = 0; i < 2 && !status && !is_query(table); i++, unlocks = !unlocks)
        status = unlocks ? read_table(session, UNLOCKED, 3, table)
                         : read_table(session, PLAIN, 1, table);
    return status;
}

/* 0x27 is 2.7 V. */
static uint16_t millivolts(uint8_t bcd)
{
    return (uint16_t)((bcd >> 4) * 1000 + (bcd & 15) * 100);
}

/* 2 to the power of a byte of the table, kept within reason. */
static uint32_t power(uint8_t bits)
{
    return (uint32_t)1 << (bits > MOST_BITS ? MOST_BITS : bits);
}

static uint32_t find_sector(const uint8_t *table, uint32_t bytes)
{
    for (uint8_t i = 0; i < table[REGIONS] && i < MOST_REGIONS; i++) {
        const uint8_t *region = table + REGION + 4 * i;
        uint32_t count = (region[0] | (uint32_t)region[1] << 8) + 1,
                 size = (region[2] | (uint32_t)region[3] << 8) * 256;
        bool is_power = size && !(size & (size - 1));
        if (is_power && count <= bytes / size && count * size == bytes)
            return size;
    }
    return 0;
}

static void fill_times(struct cm_par_found *found, const uint8_t *table, uint32_t sector,
                       bool is_wide)
{
    enum { MS = 1000, MOST_MS = 1048576 };
    uint32_t erase_ms = power(table[ERASE]), chip_ms = power(table[CHIP]);
    uint32_t erase_most = power((uint8_t)(table[ERASE] + table[ERASE_MOST])),
             chip_most = power((uint8_t)(table[CHIP] + table[CHIP_MOST]));
    found->times = (struct cm_par_times){.program_us = power(table[PROGRAM]),
                                         .program_max_us =
                                             power((uint8_t)(table[PROGRAM] + table[PROGRAM_MOST])),
                                         .pulse = {PULSE_NS, PULSE_NS},
                                         .id_us = T_ID_US,
                                         .words = is_wide ? &cm_par_words : NULL};
    found->erases = (struct cm_par_erases){
        .units = {{sector, (erase_ms < MOST_MS ? erase_ms : MOST_MS) * MS,
                   (erase_most < MOST_MS ? erase_most : MOST_MS) * MS, 0x30}}};
    if (table[CHIP] && chip_ms < MOST_MS) {
        found->erases.chip_us = chip_ms * MS;
        found->erases.chip_max_us = (chip_most < MOST_MS ? chip_most : MOST_MS) * MS;
    }
}

enum cm_status cm_par_by_cfi(struct cm_session *session)
{
    static const char NAME[] = "cfi flash";
    uint8_t table[QUERY_BYTES];
    struct cm_par_found *found = (struct cm_par_found *)(void *)session->kit->found;
    if (!found)
        return CM_UNKNOWN_CHIP;
    enum cm_status status = ask_both_ways(session, table);
    if (status)
        return status;
    uint16_t set = (uint16_t)(table[SET] | (unsigned)table[SET + 1] << 8);
    uint32_t bytes = table[SIZE] <= MOST_BITS ? power(table[SIZE]) : 0,
             sector = find_sector(table, bytes);
    if (!is_query(table) || (set != SET_AMD && set != SET_SST) || !sector)
        return CM_UNKNOWN_CHIP;
    memset(found, 0, sizeof *found);
    memcpy(found->row.part.name, NAME, sizeof NAME);
    memcpy(found->row.part.id, session->id, CM_ID_BYTES);
    found->row.part.id_bytes = (uint8_t)(1 + cm_par_unit(session));
    found->row.part.supply_min_mv = millivolts(table[VCC_MIN]);
    found->row.part.supply_max_mv = millivolts(table[VCC_MAX]);
    found->row.bytes = bytes;
    found->row.cycle_ns = 120;
    found->row.page_bytes = 1;
    found->row.traits = (uint8_t)((cm_par_unit(session) == 2 ? CM_PAR_WIDE : 0) |
                                  (set == SET_AMD ? CM_PAR_SECTOR_LOCKS : 0));
    found->row.erases = &found->erases;
    found->row.times = &found->times;
    fill_times(found, table, sector, cm_par_unit(session) == 2);
    session->part = &found->row.part;
    return CM_OK;
}
