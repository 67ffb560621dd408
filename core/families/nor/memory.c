/*
 * The memories of an SPI part, and the family's table of functions.
 *
 *     read      03 address -> bytes, as many as are wanted          13 with four address bytes
 *     program   06, 02 address bytes (within one page)              12
 *               words.c has those without pages
 *     erase     06, 20 / 52 / D8 address                            21 / 5C / DC; C7 for all
 *     ready     05 -> status, bit 0 is busy, bit 1 write enable
 *
 * A run of pages is one operation: each is enabled, the enable is looked at, the page goes out, is
 * waited for and read back. So a loose wire shows before the page that it would spoil, or in it.
 */
#include "nor.h"
#include <coldmint/job.h>
#include <string.h>

enum {
    CMD_PROGRAM_4 = 0x12,
    OVERHEAD_BITS =
        80, // of a page: enable, status, opcode and address, poll, and the head of its reading back
    WHOLE_CHIP = 0xFF, // instead of an opcode with four address bytes: there is no address
    FACTOR_MAX = 6,    // an erase of the whole chip gets so many times its typical time
};

static const char *const REGION_NAMES[2][CM_NOR_STATUS + 1] = {{"flash", "", "status"},
                                                               {"eeprom", "", "status"}};

bool cm_nor_region(const struct cm_part *any, uint8_t index, struct cm_region *region)
{
    const struct cm_nor_part *part = cm_nor_row(any);
    if (index > CM_NOR_STATUS)
        return false;
    memset(region, 0, sizeof *region);
    region->name = REGION_NAMES[part->rewrites][index];
    region->page_bytes = 1;
    region->erased = 0xFF;
    if (index == CM_NOR_FLASH) {
        region->bytes = part->bytes;
        region->page_bytes =
            part->page_bytes < 8 ? 256 : part->page_bytes; // without pages: a convenient portion
        region->traits =
            part->rewrites ? CM_REGION_WRITABLE | CM_REGION_REWRITES : CM_REGION_WRITABLE;
    } else if (index == CM_NOR_STATUS) {
        region->bytes = part->status->count;
        region->traits = CM_REGION_WRITABLE | CM_REGION_SETTINGS | CM_REGION_REWRITES;
    }
    return true;
}

/* --- status as a region ------------------------------------------------------------------ */

static enum cm_status access_status(struct cm_session *session, const struct cm_access *access)
{
    uint32_t address = access->address, count = access->count;
    uint8_t now[CM_NOR_REGISTERS];
    enum cm_status status = cm_nor_read_status(session, now);
    if (status)
        return status;
    if (access->kind == CM_ACCESS_READ)
        memcpy(access->in, now + address, count);
    if (access->kind == CM_ACCESS_PROGRAM) {
        memcpy(now + address, access->out, count);
        return cm_nor_write_status(session, now);
    }
    for (uint32_t i = 0; i < count; i++) {
        if (access->out[i] != now[address + i])
            return cm_fail_byte(session, CM_DIFFERS, CM_STEP_COMPARE, "status", address + i,
                                access->out[i], now[address + i]);
    }
    return CM_OK;
}

/* --- reading and comparing --------------------------------------------------------------- */

static const char *name_of(const struct cm_session *session)
{
    return REGION_NAMES[cm_nor_part_of(session)->rewrites][CM_NOR_FLASH];
}

static enum cm_status read(struct cm_session *session, const struct cm_access *access)
{
    cm_batch_begin(session, access->kind == CM_ACCESS_READ ? CM_STEP_READ : CM_STEP_COMPARE,
                   name_of(session), access->address);
    cm_batch_repeat(session, access->address, access->count, 0, 1);
    cm_nor_add_read(session, (enum cm_data)access->kind, access->out);
    return cm_nor_run_read(session);
}

enum cm_status cm_nor_sample(struct cm_session *session, uint8_t region, uint32_t address,
                             uint32_t count, uint32_t piece, uint8_t *bytes)
{
    (void)region;
    cm_batch_begin(session, CM_STEP_COMPARE, name_of(session), address);
    cm_batch_repeat(session, address, count, piece, 1);
    cm_nor_add_read(session, CM_DATA_IN, bytes)->count = 1;
    return cm_nor_run_read(session);
}

/* --- programming ------------------------------------------------------------------------- */

void cm_nor_begin_program(struct cm_session *session, uint32_t address)
{
    cm_batch_begin(session, CM_STEP_PROGRAM, name_of(session), address);
}

enum cm_status cm_nor_program_pages(struct cm_session *session, uint32_t address,
                                    const uint8_t *bytes, uint32_t count, uint32_t page_bytes)
{
    enum { OPS = 6, HEAD = 5 };
    const struct cm_nor_times *times = cm_nor_part_of(session)->times;
    cm_nor_begin_program(session, address);
    cm_batch_repeat(session, address, count, cm_batch_chunk(session, page_bytes, HEAD), OPS);
    cm_nor_add_enable(session);
    cm_nor_add_at(session, CMD_PROGRAM, CMD_PROGRAM_4, CM_DATA_OUT, bytes);
    cm_nor_add_ready(session, times->program_us, times->program_max_us);
    cm_batch_verify(session);
    cm_nor_add_read(session, CM_DATA_MATCH, bytes);
    return cm_nor_run_write(session);
}

static enum cm_status program(struct cm_session *session, uint32_t address, const uint8_t *bytes,
                              uint32_t count)
{
    const struct cm_nor_part *part = cm_nor_part_of(session);
    return part->times->program
               ? part->times->program(session, address, bytes, count)
               : cm_nor_program_pages(session, address, bytes, count, part->page_bytes);
}

enum cm_status cm_nor_access(struct cm_session *session, const struct cm_access *access)
{
    if (access->region == CM_NOR_STATUS)
        return access_status(session, access);
    return access->kind == CM_ACCESS_PROGRAM
               ? program(session, access->address, access->out, access->count)
               : read(session, access);
}

/* --- erasing ----------------------------------------------------------------------------- */

static uint32_t chip_us(const struct cm_nor_part *part)
{
    uint32_t us =
        part->erases->chip_ms_per_mib *
        (part->bytes >> 10); // 1024 KiB a MiB, for 1000 us a ms: a little more than the sheet's
    return us < UINT32_MAX / FACTOR_MAX ? us : UINT32_MAX / FACTOR_MAX;
}

/* The erase units of a part, and the whole chip behind them. */
static bool find_unit(const struct cm_nor_part *part, uint8_t index, struct cm_nor_erase *unit)
{
    uint8_t count = 0;
    if (!part->erases)
        return false;
    while (count < CM_NOR_ERASES && part->erases->units[count].bytes &&
           part->erases->units[count].bytes <= part->bytes)
        count++;
    if (index < count)
        *unit = part->erases->units[index];
    else if (index == count && part->erases->chip_opcode)
        *unit = (struct cm_nor_erase){part->bytes, chip_us(part), FACTOR_MAX * chip_us(part),
                                      part->erases->chip_opcode, WHOLE_CHIP};
    else
        return false;
    return true;
}

bool cm_nor_erase_unit(const struct cm_part *part, uint8_t region, uint8_t index,
                       struct cm_erase_unit *out)
{
    struct cm_nor_erase unit;
    if (region != CM_NOR_FLASH || !find_unit(cm_nor_row(part), index, &unit))
        return false;
    *out = (struct cm_erase_unit){unit.bytes, unit.us, CM_REGION_BIT(CM_NOR_FLASH)};
    return true;
}

enum cm_status cm_nor_erase(struct cm_session *session, uint8_t region, uint8_t index,
                            uint32_t address)
{
    enum { OPS = 5 };
    struct cm_nor_erase unit;
    (void)region;
    if (!find_unit(cm_nor_part_of(session), index, &unit))
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_ERASE);
    cm_batch_begin(session, CM_STEP_ERASE, name_of(session), address);
    cm_batch_repeat(session, address, unit.bytes, unit.bytes, OPS);
    cm_nor_add_enable(session);
    if (unit.opcode_4 == WHOLE_CHIP)
        cm_nor_add(session, unit.opcode);
    else
        cm_nor_add_at(session, unit.opcode, unit.opcode_4, CM_DATA_NONE, NULL);
    cm_nor_add_ready(session, unit.us, unit.max_us);
    return cm_nor_run_write(session);
}

/* --- the rest ---------------------------------------------------------------------------- */

uint32_t cm_nor_cost_us(struct cm_session *session, uint8_t index, enum cm_cost cost,
                        uint32_t bytes)
{
    const struct cm_nor_part *part = cm_nor_part_of(session);
    (void)index;
    // frames to enable, ask, program, ask twice and read back: SELECT twice and the shifts; packed,
    // all of them up to the first poll are one call, and reading back is one more; pages are looked
    // at many in a call. While the chip is busy, asking it takes no time of its own
    enum { CALLS_A_PAGE = 20, CALLS_A_WORD = 11, PACKED_A_PAGE = 2, PACKED_A_WORD = 1 };
    if (cost == CM_COST_READ)
        return cm_bits_us(session, 8 * bytes) + cm_calls_us(session, cm_compare_calls(bytes));
    bool by_words = part->page_bytes < 8;
    uint32_t writes = (bytes + part->page_bytes - 1) / part->page_bytes;
    uint32_t own_bits = by_words ? 40 : OVERHEAD_BITS;
    uint32_t calls = by_words ? CALLS_A_WORD : CALLS_A_PAGE,
             packed = by_words ? PACKED_A_WORD : PACKED_A_PAGE;
    return writes * part->times->program_us + cm_bits_us(session, 16 * bytes + writes * own_bits) +
           cm_packed_us(session, writes * calls, writes * packed);
}

static const struct cm_blocks_rules BLOCKS = {.sample = cm_nor_sample,
                                              .settle = cm_settle_registers};

const struct cm_family cm_nor = {
    .name = "nor",
    .bus = &cm_bus_spi,
    .lines = CM_LINE_BIT(CM_LINE_SELECT),
    .state_bytes = sizeof(struct cm_nor_state),
    .enter = cm_nor_enter,
    .identify = cm_nor_identify,
    .settle = cm_nor_settle,
    .leave = cm_nor_leave,
    .region = cm_nor_region,
    .erase_unit = cm_nor_erase_unit,
    .access = cm_nor_access,
    .erase = cm_nor_erase,
    .cost_us = cm_nor_cost_us,
    .guard = &cm_nor_guard_rules,
    .put = cm_put_by_blocks,
    .blocks = &BLOCKS,
};
