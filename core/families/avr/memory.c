/*
 * The memories of an AVR, and the family's table of functions.
 *
 * Data sheets, "Serial programming instruction set". Every instruction is four bytes; what is read
 * comes with the fourth.
 *
 *     flash   read 20/28 word-address(2) -> byte    load page 40/48 00 word-in-page byte
 *             write page 4C word-address(2) 00
 *             the second opcode of a pair (bit 3 set) is for the high byte of the word; the low
 *             byte is loaded first
 *             beyond 64 Kwords: 4D 00 upper-address 00 first ("load extended address byte"), for
 *             reads and page writes
 *     eeprom  read A0 address(2) -> byte            write C0 address(2) byte
 *             load page C1 00 in-page byte          write page C2 address(2) 00
 *     fuses   read 50 00 00 / 58 08 00 / 50 08 00 -> low / high / extended
 *             write AC A0 / AC A8 / AC A4 00 byte
 *     lock    read 58 00 00 -> byte         write AC E0 00 byte
 *     others  calibration 38 00 n -> byte   chip erase AC 80 00 00
 *
 * A page buffer is filled whole, around the bytes that matter with what is there: no sheet says
 * what it holds before. A page is loaded, written, waited for and read back in one batch. Parts,
 * and memories, without pages are in classic.c.
 */
#include "avr.h"
#include <coldmint/job.h>
#include <string.h>

static const uint8_t READ_FUSE[3][2] = {{0x50, 0x00}, {0x58, 0x08}, {0x50, 0x08}};
static const uint8_t READ_LOCK[2] = {0x58, 0x00};
static const uint8_t WRITE_FUSE[3] = {0xA0, 0xA8, 0xA4};
static const uint8_t READ_OPCODE[CM_AVR_REGION_COUNT] = {
    [CM_AVR_FLASH] = 0x20, [CM_AVR_EEPROM] = 0xA0, [CM_AVR_CALIBRATION] = 0x38};

enum {
    WRITE_LOCK = 0xE0,
    MOST_PAGE = 256,
    CHUNK_BYTES = 16, // unit of a program call where there are no pages
    LOCK_BITS = 0x03, // LB2 LB1: 10 bars writing, 00 reading too
    LB2 = 0x02,
    BOOT_LOCK_BITS = 0x3C,
    UNLOCKED = 0xFF,
    BASE_OF_DATA = 0x800000, // of data memory; EEPROM, fuses and lock bits follow, 64 KiB apart
    CONTENTS = CM_REGION_BIT(CM_AVR_FLASH) | CM_REGION_BIT(CM_AVR_EEPROM),
    CHIP_ERASE_CLEARS = CONTENTS | CM_REGION_BIT(CM_AVR_LOCK),
};

const char *const cm_avr_region_names[CM_AVR_REGION_COUNT] = {"flash", "eeprom", "fuses", "lock",
                                                              "calibration"};

static uint32_t page_bytes_of(const struct cm_avr_part *part, uint8_t index)
{
    return index == CM_AVR_FLASH ? part->flash_page_bytes : part->eeprom_page_bytes;
}

static bool region(const struct cm_part *any, uint8_t index, struct cm_region *out)
{
    static const uint8_t TRAITS[CM_AVR_REGION_COUNT] = {
        [CM_AVR_FLASH] = CM_REGION_WRITABLE,
        [CM_AVR_EEPROM] = CM_REGION_WRITABLE | CM_REGION_REWRITES,
        [CM_AVR_FUSES] = CM_REGION_WRITABLE | CM_REGION_SETTINGS | CM_REGION_REWRITES,
        [CM_AVR_LOCK] = CM_REGION_WRITABLE | CM_REGION_SETTINGS,
        [CM_AVR_CALIBRATION] = CM_REGION_SETTINGS};
    const struct cm_avr_part *part = cm_avr_row(any);
    const uint32_t bytes[CM_AVR_REGION_COUNT] = {part->flash_bytes, part->eeprom_bytes,
                                                 part->fuse_bytes, part->fuse_bytes > 0,
                                                 part->calibration_bytes};
    if (index >= CM_AVR_REGION_COUNT)
        return false;
    out->name = cm_avr_region_names[index];
    out->base = index ? BASE_OF_DATA + index * 0x10000u : 0; // as the linker scripts have it
    out->bytes = bytes[index];
    out->erased = 0xFF;
    out->traits = TRAITS[index];
    out->page_bytes = 1;
    if (index <= CM_AVR_EEPROM)
        out->page_bytes = page_bytes_of(part, index);
    if (out->page_bytes == 0) { // byte by byte
        out->page_bytes = CHUNK_BYTES;
        out->traits |= CM_REGION_BYTE_COSTS;
    }
    return true;
}

/* --- extended address -------------------------------------------------------------------- */

/* Adds what loads the extended address byte for a flash address, if the chip does not hold it
 * already. */
void cm_avr_add_segment(struct cm_session *session, uint32_t address)
{
    uint8_t segment = (uint8_t)(address / AVR_SEGMENT_BYTES);
    if (cm_avr_part_of(session)->flash_bytes <= AVR_SEGMENT_BYTES ||
        (cm_avr_state(session)->segment_known && cm_avr_state(session)->segment == segment))
        return;
    cm_avr_state(session)->segment = segment;
    cm_avr_state(session)->segment_known = true; // until a batch fails
    cm_avr_add_instruction(session, 0x4D, 0x00, segment, 0x00);
}

/* --- settings ---------------------------------------------------------------------------- */

/*
 * Out of step, an instruction is another one, and mostly one without an answer: then the third byte
 * comes back in its place, which is 0 here. 58 is C0 three bits late, "write EEPROM", and any clock
 * completes it: so behind a 0 comes a RESET pulse, and what is not 0 is asked for again before the
 * signature proves that the part is in step.
 */
static enum cm_status read_setting(struct cm_session *session, uint8_t index, uint32_t address,
                                   uint8_t *byte)
{
    const struct cm_avr_part *part = cm_avr_part_of(session);
    const uint8_t *code = index == CM_AVR_LOCK ? READ_LOCK : READ_FUSE[address];
    enum cm_status status = CM_OK;
    for (uint8_t again = 0; again < 2 && !status; again++) {
        cm_batch_begin(session, CM_STEP_SETTINGS, cm_avr_region_names[index], address);
        cm_batch_proof(session);
        cm_avr_add_read(session, code[0], code[1], 0x00, again ? CM_DATA_MATCH : CM_DATA_IN, byte);
        if (again)
            cm_avr_add_proof(session);
        status = cm_avr_run(session);
        if (!status && *byte == 0) // perhaps its own third byte
            status = cm_avr_enter(session);
    }
    // unused lock bits are "x" in the sheets: make them 1, as a write must
    if (index == CM_AVR_LOCK)
        *byte |= (uint8_t) ~(part->boot_max_bytes ? LOCK_BITS | BOOT_LOCK_BITS : LOCK_BITS);
    return status;
}

/* One fuse byte or the lock byte. Bits without a name are written as they are read. */
static enum cm_status program_setting(struct cm_session *session, uint8_t index, uint32_t address,
                                      uint8_t wanted)
{
    const struct cm_avr_part *part = cm_avr_part_of(session);
    bool lock = index == CM_AVR_LOCK;
    uint8_t mask = lock ? 0xFF : part->fuse_mask[address], now;
    for (bool written = false;; written = true) {
        enum cm_status status = read_setting(session, index, address, &now);
        if (status || ((now ^ wanted) & mask) == 0)
            return status;
        if (written)
            return cm_fail_byte(session, CM_WRITE_FAILED, CM_STEP_SETTINGS,
                                cm_avr_region_names[index], address, wanted, now);
        cm_batch_begin(session, CM_STEP_SETTINGS, cm_avr_region_names[index], address);
        cm_avr_add_instruction(session, 0xAC, lock ? WRITE_LOCK : WRITE_FUSE[address], 0x00,
                               (uint8_t)((wanted & mask) | (now & ~mask)));
        cm_avr_add_ready(session, part->times->t_wd_fuse_us);
        status = cm_avr_run(session);
        if (status)
            return status;
    }
}

static enum cm_status access_settings(struct cm_session *session, enum cm_access_kind kind,
                                      uint8_t index, uint32_t address, uint8_t *bytes,
                                      uint32_t count)
{
    enum cm_status status = CM_OK;
    for (; count && !status; count--, address++, bytes++) {
        uint8_t byte;
        if (kind == CM_ACCESS_PROGRAM) {
            status = program_setting(session, index, address, *bytes);
            continue;
        }
        status = read_setting(session, index, address, &byte);
        if (kind == CM_ACCESS_READ)
            *bytes = byte;
        else if (!status && byte != *bytes)
            status = cm_fail_byte(session, CM_DIFFERS, CM_STEP_COMPARE, cm_avr_region_names[index],
                                  address, *bytes, byte);
    }
    return status;
}

/* --- reading and comparing --------------------------------------------------------------- */

void cm_avr_add_reads(struct cm_session *session, uint8_t index, enum cm_data data,
                      const uint8_t *bytes)
{
    cm_avr_add_each(session, READ_OPCODE[index], data, bytes);
}

/* Where flash has no pages, a read that arrives one bit late is 40, and programs a byte: so each is
 * followed by one of the signature, which shows that the next will arrive in step. */
void cm_avr_add_run(struct cm_session *session, uint8_t index, enum cm_data data, uint32_t address,
                    const uint8_t *bytes, uint32_t count)
{
    uint8_t single = !cm_avr_part_of(session)->flash_page_bytes;
    cm_batch_repeat(session, address, count, single, (uint8_t)(single + 1));
    cm_avr_add_reads(session, index, data, bytes);
    if (!single)
        return;
    struct cm_exchange *proof = cm_avr_add_instruction(session, READ_SIGNATURE, 0, 0, 0);
    proof->mask = 0xFF;
    proof->want = session->id[0];
}

static enum cm_status read(struct cm_session *session, enum cm_access_kind kind, uint8_t index,
                           uint32_t address, uint8_t *bytes, uint32_t count)
{
    cm_batch_begin(session, kind == CM_ACCESS_READ ? CM_STEP_READ : CM_STEP_COMPARE,
                   cm_avr_region_names[index], address);
    if (index == CM_AVR_FLASH)
        cm_avr_add_segment(session, address);
    cm_avr_add_run(session, index, (enum cm_data)kind, address, bytes, count);
    cm_batch_proof(session);
    if (kind == CM_ACCESS_READ || !cm_avr_state(session)->echoes)
        cm_avr_add_proof(session); // of a loose wire, or of a part out of step
    return cm_avr_run(session);
}

uint32_t cm_avr_write_us(const struct cm_session *session, uint8_t index)
{
    const struct cm_avr_times *times = cm_avr_part_of(session)->times;
    return index == CM_AVR_FLASH ? times->t_wd_flash_us : times->t_wd_eeprom_us;
}

/* --- programming ------------------------------------------------------------------------- */

/* Page by page: loads the buffer, writes it, waits and reads back. Of EEPROM only the bytes that
 * were loaded change. */
static enum cm_status program_pages(struct cm_session *session, uint8_t index, uint32_t page_bytes,
                                    uint32_t address, const uint8_t *bytes, uint32_t count)
{
    enum { LOAD, WRITE, OPCODES };
    static const uint8_t OPCODE[][OPCODES] = {
        [CM_AVR_FLASH] = {0x40, 0x4C}, [CM_AVR_EEPROM] = {0xC1, 0xC2}};
    uint8_t units = (uint8_t) - (page_bytes >> (index == CM_AVR_FLASH)); // of a page, as a mask
    cm_batch_begin(session, CM_STEP_PROGRAM, cm_avr_region_names[index], address);
    if (index == CM_AVR_FLASH)
        cm_avr_add_segment(session, address);
    struct cm_repeat *repeat = cm_batch_repeat(session, address, count, page_bytes, 0);
    uint8_t before = session->batch.count;
    struct cm_exchange *load = cm_avr_add_each(session, OPCODE[index][LOAD], CM_DATA_OUT, bytes);
    load->address_bytes = 1; // word or byte within the page
    load->address_less = units;
    struct cm_exchange *write = cm_avr_add_each(session, OPCODE[index][WRITE], CM_DATA_OUT, NULL);
    write->address_turn = load->address_turn;
    write->address_less = (uint8_t)~units;
    cm_avr_add_ready(session, cm_avr_write_us(session, index));
    cm_batch_verify(session);
    cm_avr_add_reads(session, index, CM_DATA_MATCH, bytes);
    repeat->ops = (uint8_t)(session->batch.count - before);
    return cm_avr_run(session);
}

/*
 * A page of flash is loaded whole: no sheet says what its buffer holds before. What is not wanted
 * of it is loaded as it reads, so that all of it can be read back: a wire that is off while
 * something else fills it up would write where nobody looks.
 */
static enum cm_status complete_page(struct cm_session *session, uint32_t page_bytes,
                                    uint32_t address, const uint8_t *bytes, uint32_t count)
{
    uint8_t whole[MOST_PAGE];
    uint32_t page = address & ~(page_bytes - 1);
    enum cm_status status = read(session, CM_ACCESS_READ, CM_AVR_FLASH, page, whole, page_bytes);
    if (!status)
        status = read(session, CM_ACCESS_AGAIN, CM_AVR_FLASH, page, whole, page_bytes);
    if (status)
        return status == CM_DIFFERS ? cm_refine(session, CM_CONTACT_LOST) : status;
    memcpy(whole + (address - page), bytes, count);
    return program_pages(session, CM_AVR_FLASH, page_bytes, page, whole, page_bytes);
}

static enum cm_status program(struct cm_session *session, uint8_t index, uint32_t address,
                              const uint8_t *bytes, uint32_t count)
{
    const struct cm_avr_part *part = cm_avr_part_of(session);
    uint32_t page_bytes = page_bytes_of(part, index);
    if (index == CM_AVR_FLASH && count < page_bytes)
        return complete_page(session, page_bytes, address, bytes, count);
    return page_bytes ? program_pages(session, index, page_bytes, address, bytes, count)
                      : part->times->program_bytes(session, index, address, bytes, count);
}

/* No batch goes beyond what two address bytes reach. */
static enum cm_status access(struct cm_session *session, const struct cm_access *access)
{
    enum cm_access_kind kind = (enum cm_access_kind)access->kind;
    uint8_t index = access->region, *bytes = access->in;
    uint32_t address = access->address, count = access->count;
    if (index == CM_AVR_FUSES || index == CM_AVR_LOCK)
        return access_settings(session, kind, index, address, bytes, count);
    enum cm_status status = CM_OK;
    for (uint32_t part; count && !status; address += part, bytes += part, count -= part) {
        part = AVR_SEGMENT_BYTES - address % AVR_SEGMENT_BYTES;
        part = count < part ? count : part;
        status = kind == CM_ACCESS_PROGRAM ? program(session, index, address, bytes, part)
                                           : read(session, kind, index, address, bytes, part);
    }
    return status;
}

/* The chip erase is the only one there is. */
static bool erase_unit(const struct cm_part *any, uint8_t index, uint8_t unit,
                       struct cm_erase_unit *out)
{
    const struct cm_avr_part *part = cm_avr_row(any);
    *out = (struct cm_erase_unit){part->flash_bytes, part->times->t_wd_erase_us, CHIP_ERASE_CLEARS};
    return index == CM_AVR_FLASH && unit == 0;
}

static enum cm_status erase(struct cm_session *session, uint8_t index, uint8_t unit,
                            uint32_t address)
{
    (void)index, (void)unit, (void)address;
    const struct cm_avr_part *part = cm_avr_part_of(session);
    cm_batch_begin(session, CM_STEP_ERASE, cm_avr_region_names[CM_AVR_FLASH], 0);
    cm_batch_proof(session);
    cm_avr_add_proof(session); // look before you touch
    cm_avr_add_instruction(session, 0xAC, 0x80, 0x00, 0x00);
    cm_avr_add_ready(session, part->times->t_wd_erase_us);
    enum cm_status status = cm_avr_run(session);
    // "wait t_WD_ERASE, give RESET a positive pulse, and start over"
    return status || !part->times->starts_over ? status : cm_avr_enter(session);
}

/* --- protection and cost ----------------------------------------------------------------- */

/* Lock bits, and the fuse that keeps the EEPROM over a chip erase. */
static enum cm_status look(struct cm_session *session, struct cm_guard *out)
{
    const struct cm_avr_part *part = cm_avr_part_of(session);
    uint8_t fuse;
    out->cost = CM_LIFT_CONTENTS;
    out->clears = CHIP_ERASE_CLEARS;
    if (!part->fuse_bytes)
        return CM_OK; // these parts do not tell
    out->count = 1;
    out->open = UNLOCKED;
    enum cm_status status = read_setting(session, CM_AVR_LOCK, 0, out->registers);
    out->bars_reading = out->registers[0] & LB2 ? 0 : CONTENTS;
    out->bars_writing =
        (out->registers[0] & LOCK_BITS) == LOCK_BITS ? 0 : CONTENTS | CM_REGION_BIT(CM_AVR_FUSES);
    if (status || !part->eesave_mask)
        return status;
    status = read_setting(session, CM_AVR_FUSES, part->eesave_byte, &fuse);
    if (!(fuse & part->eesave_mask))
        out->clears &= (uint8_t)~CM_REGION_BIT(CM_AVR_EEPROM);
    return status;
}

static enum cm_status lift(struct cm_session *session, struct cm_guard *guard)
{
    // else it is not from `look`, and nobody has agreed to its price
    if (guard->cost != CM_LIFT_CONTENTS)
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_SETTINGS);
    return erase(session, CM_AVR_FLASH, 0, 0);
}

static enum cm_status restore(struct cm_session *session, struct cm_guard *guard)
{
    if (!guard->count) // it was not read
        return CM_OK;
    return program_setting(session, CM_AVR_LOCK, 0, guard->registers[0]);
}

static const struct cm_guard_rules GUARD = {
    .look = look, .lift = lift, .restore = restore, .hides_contents = true};

static uint32_t cost_us(struct cm_session *session, uint8_t index, enum cm_cost cost,
                        uint32_t bytes)
{
    enum { CALLS_PACKED = 6 }; // of a page: load, write and poll, read back
    const struct cm_avr_part *part = cm_avr_part_of(session);
    uint32_t instructions = bytes, writes = 0;
    if (cost == CM_COST_PROGRAM) {
        uint32_t page = page_bytes_of(part, index);
        writes = page ? (bytes + page - 1) / page : bytes;
        instructions = 2 * (bytes + writes); // load and read back, write and poll
    }
    uint32_t sixteenths = session->clock_hz ? 512000000u / session->clock_hz
                                            : 0; // of a microsecond, for one instruction
    return writes * cm_avr_write_us(session, index) + (instructions * sixteenths >> 4) +
           cm_packed_us(session, instructions, CALLS_PACKED * (writes + 1));
}

const struct cm_family cm_avr = {
    .name = "avr",
    .bus = &cm_bus_shift,
    .lines = CM_LINE_BIT(CM_LINE_RESET),
    .state_bytes = sizeof(struct cm_avr_state),
    .enter = cm_avr_enter,
    .identify = cm_avr_identify,
    .leave = cm_avr_leave,
    .region = region,
    .erase_unit = erase_unit,
    .access = access,
    .erase = erase,
    .cost_us = cost_us,
    .guard = &GUARD,
    .put = cm_put_by_chip,
};
