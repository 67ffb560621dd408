/*
 * What a frame does to an SPI memory when SELECT rises: programming, erasing, registers, modes.
 * Sources: as nor_model.c.
 */
#include "nor_inside.h"
#include <string.h>

enum {
    WAKE_NS = 30000,    // t_RES1
    REGISTER_US = 8000, // t_W, typical 5 to 10 ms
};

/* --- what a frame does, when SELECT rises ------------------------------------------------ */

static bool may_write(struct nor_model *model)
{
    const struct cm_part *part = &model->row->part;
    bool enabled = model->wel;
    if (!enabled)
        nor_breached(model, NOR_BREACH_NO_ENABLE);
    else if (model->supply_mv < part->supply_min_mv || model->supply_mv > part->supply_max_mv) {
        nor_breached(model, NOR_BREACH_SUPPLY);
        enabled = false;
    }
    return enabled;
}

static void write_cells(struct nor_model *model, uint32_t address, const uint8_t *bytes,
                        uint32_t count, uint32_t page)
{
    uint32_t base = address & ~(page - 1);
    for (uint32_t i = 0; i < count; i++) {
        uint32_t at = base + ((address + i) & (page - 1));
        nor_model_set(model, at,
                      model->row->rewrites ? bytes[i] : nor_model_at(model, at) & bytes[i]);
    }
    model->programs++;
    nor_start_busy(model, model->row->times->program_us);
}

/* Page program: with more bytes than a page has, the last of them count. */
static void program(struct nor_model *model)
{
    uint32_t page = model->row->page_bytes < 8 ? 1 : model->row->page_bytes,
             count = model->data_bytes;
    uint8_t last[NOR_PAGE_MAX];
    if (!may_write(model))
        return;
    model->wel = false;
    if (count == 0) {
        nor_breached(model, NOR_BREACH_FRAME);
        return;
    }
    if (count > page)
        nor_breached(model, NOR_BREACH_PAGE_WRAP);
    if (nor_model_protects(model, nor_masked(model, model->address))) {
        nor_breached(model, NOR_BREACH_PROTECTED);
        return;
    }
    uint32_t kept = count < page ? count : page, skip = count - kept;
    for (uint32_t i = 0; i < kept; i++)
        last[i] = model->page[(skip + i) % NOR_PAGE_MAX];
    uint32_t base = nor_masked(model, model->address) & ~(page - 1);
    write_cells(model, base + ((model->address + skip) & (page - 1)), last, kept, page);
}

/* Auto address increment: the first frame brings the address, the others follow; 04 ends it. */
static void program_word(struct nor_model *model)
{
    if (!model->in_words && !may_write(model))
        return;
    if (model->data_bytes != 2 || (!model->in_words && (model->address & 1))) {
        nor_breached(model, NOR_BREACH_FRAME);
        return;
    }
    if (!model->in_words)
        model->word_address = nor_masked(model, model->address);
    if (nor_model_protects(model, model->word_address)) {
        nor_breached(model, NOR_BREACH_PROTECTED);
        model->in_words = model->wel = false;
        return;
    }
    write_cells(model, model->word_address, model->page, 2, 2);
    model->word_address = nor_masked(model, model->word_address + 2);
    model->in_words = true;
}

static void erase_area(struct nor_model *model, uint32_t first, uint32_t bytes, uint64_t us)
{
    if (!may_write(model))
        return;
    model->wel = false;
    if (nor_any_protected(model, first, bytes)) {
        nor_breached(model, NOR_BREACH_PROTECTED);
        return;
    }
    for (uint32_t at = first; at - first < bytes; at++) {
        if (at != model->worn_at && model->memory[at])
            model->memory[at] = 0;
    }
    model->erases++;
    nor_start_busy(model, us);
}

static void erase_chip(struct nor_model *model)
{
    const struct cm_nor_erases *erases = model->row->erases;
    uint64_t us = (uint64_t)erases->chip_ms_per_mib * 1000 * model->row->bytes / 1048576;
    erase_area(model, 0, model->row->bytes, us);
}

/* Bits of a register that cannot be cleared again. */
static uint8_t one_time_bits(const struct nor_model *model, uint8_t index)
{
    const struct cm_nor_guard *guard = model->row->guard;
    return guard && guard->tb_fixed && guard->tb_register == index ? guard->tb_mask : 0;
}

static bool registers_held(const struct nor_model *model)
{
    const struct cm_nor_guard *guard = model->row->guard;
    if (model->registers_stuck ||
        (guard && nor_has_bit(model, guard->srl_register, guard->srl_mask)))
        return true;
    return guard && nor_has_bit(model, 0, guard->lock_mask) && model->wp_low;
}

static void set_register(struct nor_model *model, uint8_t index, uint8_t byte)
{
    uint8_t kept = model->row->status->kept[index], fixed = one_time_bits(model, index);
    model->registers[index] = (uint8_t)((byte & kept) | (model->registers[index] & fixed));
}

/* A status write of a part with sector locks: bits 5 to 2 all 0 or all 1 go to every sector, unless
 * the lock bit stands. */
static void write_global(struct nor_model *model)
{
    uint8_t byte = model->page[0], global = byte & 0x3C;
    if (!(model->registers[0] & 0x80) && (global == 0 || global == 0x3C))
        memset(model->sector_locks, global ? 0xFF : 0x00, sizeof model->sector_locks);
    model->registers[0] = byte & 0x80;
}

static void write_registers(struct nor_model *model, uint8_t first)
{
    const struct cm_nor_status *status = model->row->status;
    bool enabled = (model->wel && status->enable == 0x06) || model->status_enabled;
    model->status_enabled = false;
    if (!enabled) {
        nor_breached(model, NOR_BREACH_NO_ENABLE);
        return;
    }
    model->wel = false;
    uint8_t most = 1;
    while (first == 0 && most < status->count && status->write[most] == status->write[0])
        most++;
    if (model->data_bytes == 0 || model->data_bytes > most) {
        nor_breached(model, NOR_BREACH_FRAME);
        return;
    }
    if (registers_held(model)) {
        nor_breached(model, NOR_BREACH_REGISTERS_HELD);
        return;
    }
    if (model->row->guard && model->row->guard->by_sector)
        write_global(model);
    else
        for (uint8_t i = 0; i < most;
             i++) // those that do not come are cleared, as the older sheets say
            set_register(model, (uint8_t)(first + i), i < model->data_bytes ? model->page[i] : 0);
    model->register_writes++;
    model->registers_changed = true;
    nor_start_busy(model, model->row->rewrites ? model->row->times->program_us : REGISTER_US);
}

static void lock_sector(struct nor_model *model, bool lock)
{
    uint32_t sector = nor_masked(model, model->address) / NOR_BLOCK;
    if (!may_write(model))
        return;
    model->wel = false;
    if (model->registers[0] & 0x80) {
        nor_breached(model, NOR_BREACH_REGISTERS_HELD);
        return;
    }
    if (lock)
        model->sector_locks[sector / 8] |= (uint8_t)(1u << sector % 8);
    else
        model->sector_locks[sector / 8] &= (uint8_t) ~(1u << sector % 8);
    model->registers_changed = true;
}

void nor_wake(struct nor_model *model)
{
    if (model->asleep)
        model->awake_from_ns = model->now_ns + WAKE_NS;
    model->asleep = false;
}

static void switch_width(struct nor_model *model, bool wide)
{
    uint8_t way = model->row->wide;
    if (way != CM_NOR_B7 && way != CM_NOR_WREN_B7)
        return;
    if (way == CM_NOR_WREN_B7 && !model->wel) {
        nor_breached(model, NOR_BREACH_NO_ENABLE);
        return;
    }
    model->wel = way == CM_NOR_WREN_B7 ? false : model->wel;
    model->wide = wide;
}

/* Erase instructions of the row. */
static bool act_erase(struct nor_model *model)
{
    const struct cm_nor_erases *erases = model->row->erases;
    for (int i = 0; erases && i < CM_NOR_ERASES && erases->units[i].bytes; i++) {
        const struct cm_nor_erase *unit = &erases->units[i];
        if (model->opcode != unit->opcode &&
            !(model->row->wide == CM_NOR_OPCODES_4 && model->opcode == unit->opcode_4))
            continue;
        if (model->data_bytes)
            nor_breached(model, NOR_BREACH_FRAME);
        else
            erase_area(model, nor_masked(model, model->address) & ~(unit->bytes - 1), unit->bytes,
                       unit->us);
        return true;
    }
    if (!erases || !erases->chip_opcode ||
        (model->opcode != erases->chip_opcode && model->opcode != 0xC7 && model->opcode != 0x60))
        return false;
    if (model->bytes == 1)
        erase_chip(model);
    else
        nor_breached(model, NOR_BREACH_FRAME);
    return true;
}

void nor_act(struct nor_model *model)
{
    const struct cm_nor_status *status = model->row->status;
    uint8_t opcode = model->row->high_in_opcode ? (uint8_t)(model->opcode & ~0x08) : model->opcode;
    bool armed = model->reset_armed;
    model->reset_armed = false;
    if (act_erase(model))
        return;
    for (uint8_t i = 1; i < status->count; i++) {
        if (status->write[i] == opcode && opcode != 0x01 && opcode != 0) {
            write_registers(model, i);
            return;
        }
    }
    switch (opcode) {
    case 0x01:
        write_registers(model, 0);
        break;
    case 0x02:
    case 0x12:
        program(model);
        break;
    case 0x04:
        model->wel = model->in_words = false;
        break;
    case 0x06: // EEPROMs up to 4 Kbit: "the write protect pin low resets the write enable latch"
        model->wel = !(model->row->rewrites && model->row->bytes <= 512 && model->wp_low);
        break;
    case 0x50:
        model->status_enabled = status->enable == 0x50;
        break;
    case 0x36:
    case 0x39:
        if (model->row->guard && model->row->guard->by_sector)
            lock_sector(model, opcode == 0x36);
        break;
    case 0x66:
        model->reset_armed = true;
        break;
    case 0x99:
        if (armed && model->has_sfdp)
            nor_power_up(model);
        break;
    case 0xAD:
        program_word(model);
        break;
    case 0xB7:
    case 0xE9:
        switch_width(model, opcode == 0xB7);
        break;
    case 0xB9:
        model->asleep = true;
        break;
    default:
        break;
    }
}
