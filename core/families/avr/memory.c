/*
 * The memories of an AVR, and the family's table of functions.
 *
 * Data sheets, "Serial programming instruction set". Every instruction is four bytes; what is read comes with the fourth.
 *
 *     flash   read 20/28 word-address(2) -> byte          load page 40/48 00 word-in-page byte     write page 4C word-address(2) 00
 *             the second opcode of a pair (bit 3 set) is for the high byte of the word; the low byte is loaded first
 *             beyond 64 Kwords: 4D 00 upper-address 00 first ("load extended address byte"), for reads and page writes
 *     eeprom  read A0 address(2) -> byte    write C0 address(2) byte    load page C1 00 in-page byte    write page C2 address(2) 00
 *     fuses   read 50 00 00 / 58 08 00 / 50 08 00 -> low / high / extended       write AC A0 / AC A8 / AC A4 00 byte
 *     lock    read 58 00 00 -> byte         write AC E0 00 byte
 *     others  calibration 38 00 n -> byte   chip erase AC 80 00 00
 *
 * A page buffer is filled whole, with FF around the bytes that matter: no sheet says what it holds before.
 * A page is loaded, written, waited for and read back in one batch.
 */
#include "avr.h"
#include <string.h>

static const uint8_t CHIP_ERASE[INSTRUCTION] = {0xAC, 0x80, 0x00, 0x00};
static const uint8_t READ_FUSE[3][INSTRUCTION] = {{0x50, 0x00}, {0x58, 0x08}, {0x50, 0x08}};
static const uint8_t WRITE_FUSE[3][2] = {{0xAC, 0xA0}, {0xAC, 0xA8}, {0xAC, 0xA4}};
static const uint8_t READ_LOCK[INSTRUCTION] = {0x58, 0x00};
static const uint8_t WRITE_LOCK[2] = {0xAC, 0xE0};

enum {
    HIGH_BYTE = 0x08,             // bit of the flash opcodes that selects the high byte
    WORDS_64K = 0x20000,          // bytes that two address bytes reach
    CHUNK_BYTES = 16,             // unit of a program call where there are no pages
    LOCK_BITS = 0x03,             // LB2 LB1
    BOOT_LOCK_BITS = 0x3C,
    LB1_PROGRAMMED_BARS_WRITING = 0x01, // mode 2; and with LB2 too, mode 3, reading
    LB2_PROGRAMMED_BARS_READING = 0x02,
    UNLOCKED = 0xFF,
};

static const char *const REGION_NAMES[CM_AVR_REGION_COUNT] = {"flash", "eeprom", "fuses", "lock", "calibration"};

static bool has_settings(const struct cm_avr_part *part)
{
    return part->fuse_bytes > 0;
}

static bool has_segments(const struct cm_avr_part *part)
{
    return part->flash_bytes > WORDS_64K;
}

static bool region(const struct cm_part *any, uint8_t index, struct cm_region *out)
{
    const struct cm_avr_part *part = (const struct cm_avr_part *)(const void *)any;
    if (index >= CM_AVR_REGION_COUNT)
        return false;
    *out = (struct cm_region){.name = REGION_NAMES[index], .page_bytes = 1, .erased = 0xFF};
    switch ((enum cm_avr_region)index) {
    case CM_AVR_FLASH:
        out->bytes = part->flash_bytes;
        out->page_bytes = part->flash_page_bytes ? part->flash_page_bytes : CHUNK_BYTES;
        out->traits = (uint8_t)(CM_REGION_WRITABLE | CM_REGION_ERASED | (part->flash_page_bytes ? 0 : CM_REGION_BYTE_COSTS));
        break;
    case CM_AVR_EEPROM:
        out->bytes = part->eeprom_bytes;
        out->page_bytes = part->eeprom_page_bytes ? part->eeprom_page_bytes : CHUNK_BYTES;
        out->traits = (uint8_t)(CM_REGION_WRITABLE | CM_REGION_REWRITES | CM_REGION_ERASED |
                                (part->eeprom_page_bytes ? 0 : CM_REGION_BYTE_COSTS));
        break;
    case CM_AVR_FUSES:
        out->bytes = part->fuse_bytes;
        out->traits = CM_REGION_WRITABLE | CM_REGION_REWRITES | CM_REGION_SETTINGS;
        break;
    case CM_AVR_LOCK:
        out->bytes = has_settings(part) ? 1 : 0;
        out->traits = CM_REGION_WRITABLE | CM_REGION_ERASED | CM_REGION_SETTINGS;
        break;
    default:
        out->bytes = part->calibration_bytes;
        out->traits = CM_REGION_SETTINGS;
        break;
    }
    return true;
}

/* --- extended address ----------------------------------------------------------------------------------------- */

struct segment {
    uint8_t code[INSTRUCTION];
    uint8_t number;
    bool needed;
};

static void add_segment(struct cm_session *session, struct cm_avr_batch *batch, uint8_t index, uint32_t address,
                        struct segment *segment)
{
    segment->number = (uint8_t)(address / WORDS_64K);
    bool stands = session->segment_known && session->segment == segment->number;
    segment->needed = index == CM_AVR_FLASH && has_segments(cm_avr_part_of(session)) && !stands;
    if (!segment->needed)
        return;
    memcpy(segment->code, (const uint8_t[INSTRUCTION]){0x4D, 0x00, segment->number, 0x00}, INSTRUCTION);
    cm_avr_add_instruction(session, batch, segment->code);
}

static enum cm_status run_in_segment(struct cm_session *session, struct cm_avr_batch *batch, const struct segment *segment)
{
    enum cm_status status = cm_avr_run(session, batch);
    if (!status && segment->needed) {
        session->segment = segment->number;
        session->segment_known = true;
    }
    return status;
}

static uint32_t within_segment(uint32_t address, uint32_t count)
{
    uint32_t room = WORDS_64K - address % WORDS_64K;
    return count < room ? count : room;
}

/* --- reading -------------------------------------------------------------------------------------------------- */

static struct cm_each *add_reads(struct cm_session *session, struct cm_avr_batch *batch, uint8_t index, uint32_t address,
                                 uint32_t count, enum cm_each_data data)
{
    struct cm_each *each = &cm_avr_add(batch, CM_OP_EACH)->each;
    *each = (struct cm_each){.bytes = INSTRUCTION, .address_at = 1, .address_bytes = 2, .data_at = 3, .data = data,
                             .echo = session->echoes, .address_mask = 0xFFFF, .first = address, .count = count};
    if (index == CM_AVR_FLASH) {
        each->code[0] = 0x20;
        each->toggle = HIGH_BYTE;
    } else if (index == CM_AVR_EEPROM) {
        each->code[0] = 0xA0;
    } else {
        each->code[0] = 0x38;
    }
    return each;
}

static enum cm_status read_setting(struct cm_session *session, enum cm_step step, uint8_t index, uint32_t address,
                                   uint8_t *byte)
{
    const struct cm_avr_part *part = cm_avr_part_of(session);
    struct cm_avr_batch batch;
    uint8_t answer[INSTRUCTION];
    cm_avr_begin(&batch, step, REGION_NAMES[index], address);
    cm_avr_add_instruction(session, &batch, index == CM_AVR_LOCK ? READ_LOCK : READ_FUSE[address]);
    batch.ops[0].shift.in = answer;
    enum cm_status status = cm_avr_run(session, &batch);
    *byte = answer[3];
    if (index == CM_AVR_LOCK) // unused lock bits are "x" in the sheets: make them 1, as a write must
        *byte |= (uint8_t)~(part->boot_max_bytes ? LOCK_BITS | BOOT_LOCK_BITS : LOCK_BITS);
    return status;
}

static enum cm_status read_settings(struct cm_session *session, uint8_t index, uint32_t address, uint8_t *bytes, uint32_t count)
{
    enum cm_status status = CM_OK;
    for (uint32_t i = 0; i < count && !status; i++)
        status = read_setting(session, CM_STEP_SETTINGS, index, address + i, &bytes[i]);
    return status;
}

static bool is_setting(uint8_t index)
{
    return index == CM_AVR_FUSES || index == CM_AVR_LOCK;
}

static void add_proof(struct cm_session *session, struct cm_avr_batch *batch)
{
    if (session->echoes)
        return;
    struct cm_each *each = &cm_avr_add(batch, CM_OP_EACH)->each; // FF from a loose wire looks like a blank chip: ask who is there
    *each = (struct cm_each){.code = {0x30}, .bytes = INSTRUCTION, .address_at = 2, .address_bytes = 1, .data_at = 3,
                             .data = CM_EACH_MATCH, .address_mask = 0x03, .count = SIGNATURE_BYTES, .out = session->id};
}

static enum cm_status read(struct cm_session *session, uint8_t index, uint32_t address, uint8_t *bytes, uint32_t count)
{
    enum cm_status status = CM_OK;
    if (is_setting(index))
        return read_settings(session, index, address, bytes, count);
    for (uint32_t part; count && !status; address += part, bytes += part, count -= part) {
        struct cm_avr_batch batch;
        struct segment segment;
        part = within_segment(address, count);
        cm_avr_begin(&batch, CM_STEP_READ, REGION_NAMES[index], address);
        add_segment(session, &batch, index, address, &segment);
        add_reads(session, &batch, index, address, part, CM_EACH_IN)->in = bytes;
        add_proof(session, &batch);
        status = run_in_segment(session, &batch, &segment);
        if (status == CM_DIFFERS)
            status = session->failure.status = CM_CONTACT_LOST;
    }
    return status;
}

static enum cm_status compare_settings(struct cm_session *session, uint8_t index, uint32_t address, const uint8_t *bytes,
                                       uint32_t count)
{
    for (uint32_t i = 0; i < count; i++) {
        uint8_t byte;
        enum cm_status status = read_setting(session, CM_STEP_COMPARE, index, address + i, &byte);
        if (status)
            return status;
        if (byte != bytes[i])
            return cm_fail_byte(session, CM_DIFFERS, CM_STEP_COMPARE, REGION_NAMES[index], address + i, bytes[i], byte);
    }
    return CM_OK;
}

static enum cm_status compare(struct cm_session *session, uint8_t index, uint32_t address, const uint8_t *bytes,
                              uint32_t count, enum cm_each_data how)
{
    enum cm_status status = CM_OK;
    if (is_setting(index))
        return compare_settings(session, index, address, bytes, count);
    for (uint32_t part; count && !status; address += part, bytes += part, count -= part) {
        struct cm_avr_batch batch;
        struct segment segment;
        part = within_segment(address, count);
        cm_avr_begin(&batch, CM_STEP_COMPARE, REGION_NAMES[index], address);
        add_segment(session, &batch, index, address, &segment);
        add_reads(session, &batch, index, address, part, how)->out = bytes;
        add_proof(session, &batch);
        status = run_in_segment(session, &batch, &segment);
    }
    return status;
}

static enum cm_status match(struct cm_session *session, uint8_t index, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    return compare(session, index, address, bytes, count, CM_EACH_MATCH);
}

static enum cm_status fits(struct cm_session *session, uint8_t index, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    return compare(session, index, address, bytes, count, CM_EACH_FITS);
}

/* --- programming ---------------------------------------------------------------------------------------------- */

static void add_verify(struct cm_session *session, struct cm_avr_batch *batch, uint8_t index, uint32_t address,
                       const uint8_t *bytes, uint32_t count)
{
    batch->verify = batch->count;
    add_reads(session, batch, index, address, count, CM_EACH_MATCH)->out = bytes;
}

/* Loads part of the page buffer; NULL loads FF. */
static void add_load(struct cm_session *session, struct cm_avr_batch *batch, uint8_t index, uint32_t page_bytes, uint32_t address,
                     const uint8_t *bytes, uint32_t count)
{
    if (count == 0)
        return;
    struct cm_each *each = &cm_avr_add(batch, CM_OP_EACH)->each;
    bool flash = index == CM_AVR_FLASH;
    *each = (struct cm_each){.code = {flash ? 0x40 : 0xC1, 0x00, 0x00, 0xFF}, .bytes = INSTRUCTION,
                             .toggle = flash ? HIGH_BYTE : 0, .address_at = 2, .address_bytes = 1, .data_at = 3,
                             .data = CM_EACH_OUT, .echo = session->echoes, .first = address, .count = count, .out = bytes};
    each->address_mask = (flash ? page_bytes / 2 : page_bytes) - 1; // word or byte within the page
}

static enum cm_status program_flash_page(struct cm_session *session, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    const struct cm_avr_part *part = cm_avr_part_of(session);
    uint32_t page = address - address % part->flash_page_bytes, end = page + part->flash_page_bytes;
    const uint8_t write[INSTRUCTION] = {0x4C, (uint8_t)(page >> 9), (uint8_t)(page >> 1), 0x00};
    struct cm_avr_batch batch;
    struct segment segment;
    cm_avr_begin(&batch, CM_STEP_PROGRAM, REGION_NAMES[CM_AVR_FLASH], address);
    add_segment(session, &batch, CM_AVR_FLASH, page, &segment);
    add_load(session, &batch, CM_AVR_FLASH, part->flash_page_bytes, page, NULL, address - page);
    add_load(session, &batch, CM_AVR_FLASH, part->flash_page_bytes, address, bytes, count);
    add_load(session, &batch, CM_AVR_FLASH, part->flash_page_bytes, address + count, NULL, end - address - count);
    cm_avr_add_instruction(session, &batch, write);
    cm_avr_add_ready(session, &batch, part->times->t_wd_flash_us);
    add_verify(session, &batch, CM_AVR_FLASH, address, bytes, count);
    return run_in_segment(session, &batch, &segment);
}

/* EEPROM by page: only bytes that were loaded change. */
static enum cm_status program_eeprom_page(struct cm_session *session, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    const struct cm_avr_part *part = cm_avr_part_of(session);
    uint32_t page = address - address % part->eeprom_page_bytes;
    const uint8_t write[INSTRUCTION] = {0xC2, (uint8_t)(page >> 8), (uint8_t)page, 0x00};
    struct cm_avr_batch batch;
    cm_avr_begin(&batch, CM_STEP_PROGRAM, REGION_NAMES[CM_AVR_EEPROM], address);
    add_load(session, &batch, CM_AVR_EEPROM, part->eeprom_page_bytes, address, bytes, count);
    cm_avr_add_instruction(session, &batch, write);
    cm_avr_add_ready(session, &batch, part->times->t_wd_eeprom_us);
    add_verify(session, &batch, CM_AVR_EEPROM, address, bytes, count);
    return cm_avr_run(session, &batch);
}

/* Flash of the classic parts and EEPROM of those without page access: byte by byte, each waited for. */
static enum cm_status program_bytes(struct cm_session *session, uint8_t index, uint32_t address, const uint8_t *bytes,
                                    uint32_t count)
{
    const struct cm_avr_part *part = cm_avr_part_of(session);
    bool flash = index == CM_AVR_FLASH, polled = part->generation == CM_AVR_POLLED;
    uint32_t t_wd_us = flash ? part->times->t_wd_flash_us : part->times->t_wd_eeprom_us;
    struct cm_poll ready = cm_avr_ready(session, t_wd_us);
    struct cm_avr_batch batch;
    cm_avr_begin(&batch, CM_STEP_PROGRAM, REGION_NAMES[index], address);
    cm_avr_add(&batch, CM_OP_EACH)->each = (struct cm_each){
        .code = {flash ? 0x40 : 0xC0}, .bytes = INSTRUCTION, .toggle = flash ? HIGH_BYTE : 0, .address_at = 1, .address_bytes = 2,
        .data_at = 3, .data = CM_EACH_OUT, .echo = session->echoes, .address_mask = 0xFFFF, .first = address, .count = count,
        .out = bytes, .ready = polled ? &ready : NULL, .pause_us = polled ? 0 : t_wd_us};
    add_verify(session, &batch, index, address, bytes, count);
    return cm_avr_run(session, &batch);
}

/* One fuse byte or the lock byte. Bits without a name are written as they are read. */
static enum cm_status program_setting(struct cm_session *session, uint8_t index, uint32_t address, uint8_t wanted)
{
    const struct cm_avr_part *part = cm_avr_part_of(session);
    bool lock = index == CM_AVR_LOCK;
    uint8_t mask = lock ? 0xFF : cm_avr_fuse_mask(part, (uint8_t)address), now;
    enum cm_status status = read_setting(session, CM_STEP_SETTINGS, index, address, &now);
    if (status || ((now ^ wanted) & mask) == 0)
        return status;
    const uint8_t *opcode = lock ? WRITE_LOCK : WRITE_FUSE[address];
    const uint8_t write[INSTRUCTION] = {opcode[0], opcode[1], 0x00, (uint8_t)((wanted & mask) | (now & ~mask))};
    struct cm_avr_batch batch;
    cm_avr_begin(&batch, CM_STEP_SETTINGS, REGION_NAMES[index], address);
    cm_avr_add_instruction(session, &batch, write);
    cm_avr_add_ready(session, &batch, part->times->t_wd_fuse_us);
    status = cm_avr_run(session, &batch);
    if (!status)
        status = read_setting(session, CM_STEP_SETTINGS, index, address, &now);
    if (status || ((now ^ wanted) & mask) == 0)
        return status;
    return cm_fail_byte(session, CM_WRITE_FAILED, CM_STEP_SETTINGS, REGION_NAMES[index], address, wanted, now);
}

static enum cm_status program(struct cm_session *session, uint8_t index, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    const struct cm_avr_part *part = cm_avr_part_of(session);
    if (is_setting(index))
        return program_setting(session, index, address, bytes[0]);
    if (index == CM_AVR_FLASH && part->flash_page_bytes)
        return program_flash_page(session, address, bytes, count);
    if (index == CM_AVR_EEPROM && part->eeprom_page_bytes)
        return program_eeprom_page(session, address, bytes, count);
    return program_bytes(session, index, address, bytes, count);
}

static enum cm_status erase(struct cm_session *session)
{
    const struct cm_avr_part *part = cm_avr_part_of(session);
    struct cm_avr_batch batch;
    cm_avr_begin(&batch, CM_STEP_ERASE, REGION_NAMES[CM_AVR_FLASH], 0);
    cm_avr_add_instruction(session, &batch, CHIP_ERASE);
    cm_avr_add_ready(session, &batch, part->times->t_wd_erase_us);
    enum cm_status status = cm_avr_run(session, &batch);
    bool starts_over = part->generation == CM_AVR_CLASSIC || part->generation == CM_AVR_EARLY_PAGED;
    return status || !starts_over ? status : cm_avr_enter(session); // "wait t_WD_ERASE, give RESET a positive pulse, and start over"
}

/* --- protection and cost -------------------------------------------------------------------------------------- */

static enum cm_status protection(struct cm_session *session, struct cm_protection *out)
{
    const struct cm_avr_part *part = cm_avr_part_of(session);
    uint8_t index, mask, fuse;
    if (!has_settings(part))
        return CM_OK; // these parts do not tell
    enum cm_status status = read_setting(session, CM_STEP_SETTINGS, CM_AVR_LOCK, 0, &out->lock);
    out->has_lock = true;
    out->open_lock = UNLOCKED;
    out->bars_reading = !(out->lock & LB2_PROGRAMMED_BARS_READING);
    out->bars_writing = out->bars_reading || !(out->lock & LB1_PROGRAMMED_BARS_WRITING);
    if (status || !cm_avr_fuse_bit(part, "EESAVE", &index, &mask))
        return status;
    status = read_setting(session, CM_STEP_SETTINGS, CM_AVR_FUSES, index, &fuse);
    out->keeps_data = !(fuse & mask);
    return status;
}

/* Time of `count` instructions on the wire. */
static uint32_t instructions_us(const struct cm_session *session, uint32_t count)
{
    uint32_t sixteenths = session->clock_hz ? 512000000u / session->clock_hz : 0; // of a microsecond, for one
    return (uint32_t)((uint64_t)count * sixteenths >> 4);
}

static uint32_t cost_us(struct cm_session *session, uint8_t index, enum cm_cost cost, uint32_t bytes)
{
    const struct cm_avr_part *part = cm_avr_part_of(session);
    bool flash = index == CM_AVR_FLASH;
    uint32_t page = flash ? part->flash_page_bytes : part->eeprom_page_bytes;
    uint32_t writes = page ? (bytes + page - 1) / page : bytes;
    switch (cost) {
    case CM_COST_READ:
        return instructions_us(session, bytes);
    case CM_COST_ERASE:
        return part->times->t_wd_erase_us + instructions_us(session, 2);
    default:
        return writes * (flash ? part->times->t_wd_flash_us : part->times->t_wd_eeprom_us) +
               instructions_us(session, bytes * 2 + writes * 2);
    }
}

const struct cm_family cm_avr = {
    .name = "avr",
    .enter = cm_avr_enter,
    .identify = cm_avr_identify,
    .leave = cm_avr_leave,
    .region = region,
    .read = read,
    .match = match,
    .fits = fits,
    .program = program,
    .erase = erase,
    .protection = protection,
    .cost_us = cost_us,
};
