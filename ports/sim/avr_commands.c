/*
 * What instructions do to an AVR: loading, writing, erasing, fuses and lock bits. Sources: as
 * avr_model.c.
 */
#include "avr_inside.h"
#include <string.h>

/* --- instructions that act --------------------------------------------------------------- */

static void chip_erase(struct avr_model *model)
{
    memset(model->flash, 0xFF, model->row->flash_bytes);
    if (avr_model_fuse(model->row, model->fuses, "EESAVE") != 0)
        memset(model->eeprom, 0xFF, model->row->eeprom_bytes);
    model->lock = 0xFF;
    model->erases++;
    avr_start_busy(model, avr_busy_times(model)->erase);
    if (model->row->generation == CM_AVR_CLASSIC || model->row->generation == CM_AVR_EARLY_PAGED)
        model->enabled = model->in_step = false; // "give RESET a positive pulse, and start over"
}

static void program_flash_byte(struct avr_model *model, uint32_t address, uint8_t byte)
{
    if (byte & ~model->flash[address])
        avr_breached(model, BREACH_NOT_ERASED);
    model->flash[address] &= byte;
}

static void load_flash(struct avr_model *model)
{
    uint8_t high = model->instruction[0] >> 3 & 1, byte = model->instruction[3];
    if (model->row->flash_page_bytes == 0) {
        if (avr_may_write(model)) {
            program_flash_byte(model, avr_word_address(model) * 2 + high, byte);
            avr_start_busy(model, avr_busy_times(model)->flash);
        }
        return;
    }
    uint32_t at = (uint32_t)model->instruction[2] * 2 % model->row->flash_page_bytes;
    if (high && !model->page_loaded[at])
        avr_breached(model, BREACH_HIGH_BEFORE_LOW);
    model->page[at + high] = byte;
    model->page_loaded[at + high] = true;
}

static void write_flash_page(struct avr_model *model)
{
    uint32_t bytes = model->row->flash_page_bytes,
             page = avr_word_address(model) * 2 / bytes * bytes;
    if (!avr_may_write(model))
        return;
    for (uint32_t i = 0; i < bytes; i++)
        program_flash_byte(model, page + i, model->page_loaded[i] ? model->page[i] : 0xFF);
    memset(model->page_loaded, 0, sizeof model->page_loaded);
    model->page_writes++;
    avr_start_busy(model, avr_busy_times(model)->flash);
}

static void write_eeprom(struct avr_model *model)
{
    uint32_t address = avr_eeprom_address(model);
    if (!avr_may_write(model))
        return;
    model->eeprom[address] = model->instruction[3];
    model->eeprom_writes++;
    avr_start_busy(model, avr_busy_times(model)->eeprom);
}

static void load_eeprom(struct avr_model *model)
{
    uint32_t at = model->instruction[2] % model->row->eeprom_page_bytes;
    model->eeprom_page[at] = model->instruction[3];
    model->eeprom_loaded[at] = true;
}

static void write_eeprom_page(struct avr_model *model)
{
    uint32_t bytes = model->row->eeprom_page_bytes,
             page = avr_eeprom_address(model) / bytes * bytes;
    if (!avr_may_write(model))
        return;
    for (uint32_t i = 0; i < bytes; i++) {
        if (model->eeprom_loaded[i])
            model->eeprom[page + i] = model->eeprom_page[i];
    }
    memset(model->eeprom_loaded, 0, sizeof model->eeprom_loaded);
    model->eeprom_writes++;
    avr_start_busy(model, avr_busy_times(model)->eeprom);
}

static uint8_t reserved_bits(const struct avr_model *model, uint8_t byte)
{
    uint8_t reserved = 0;
    const char *text = model->row->fuse_bits[byte];
    for (uint8_t bit = 0; bit < 8 && *text; bit++) {
        size_t length = strcspn(text, " ");
        if (*text == '-')
            reserved |= (uint8_t)(1u << bit);
        text += length + (text[length] == ' ');
    }
    return reserved;
}

static void write_fuse(struct avr_model *model, uint8_t byte)
{
    uint8_t value = model->instruction[3];
    if (byte >= model->row->fuse_bytes) {
        avr_breached(model, BREACH_UNKNOWN_INSTRUCTION);
        return;
    }
    if (!avr_may_write(model))
        return;
    if (~value & reserved_bits(model, byte))
        avr_breached(model, BREACH_RESERVED_FUSE);
    bool spien = avr_model_fuse(model->row, model->fuses, "SPIEN") == 0;
    uint8_t before = model->fuses[byte];
    model->fuses[byte] = value | reserved_bits(model, byte);
    if (spien && avr_model_fuse(model->row, model->fuses, "SPIEN") == 1)
        model->fuses[byte] = before; // SPIEN is not accessible in serial programming mode
    model->setting_writes++;
    avr_start_busy(model, avr_busy_times(model)->fuse);
}

static void write_lock(struct avr_model *model)
{
    model->lock &= model->instruction[3] | 0xC0; // only an erase sets lock bits
    model->setting_writes++;
    avr_start_busy(model, avr_busy_times(model)->fuse);
}

/* Instructions that begin with AC. False for those that the part lacks. */
static bool act_on_ac(struct avr_model *model)
{
    uint8_t second = model->instruction[1];
    if (second == 0x53)
        return true;
    if (second == 0x80)
        chip_erase(model);
    else if (!avr_has_fuses(model))
        return false;
    else if (second == 0xA0)
        write_fuse(model, 0);
    else if (second == 0xA8)
        write_fuse(model, 1);
    else if (second == 0xA4)
        write_fuse(model, 2);
    else if (second == 0xE0)
        write_lock(model);
    else
        return false;
    return true;
}

static bool act(struct avr_model *model)
{
    bool paged = model->row->flash_page_bytes > 0, eeprom_paged = model->row->eeprom_page_bytes > 0;
    switch (model->instruction[0]) {
    case 0xAC:
        return act_on_ac(model);
    case 0x40:
    case 0x48:
        load_flash(model);
        return true;
    case 0x4C:
        if (paged)
            write_flash_page(model);
        return paged;
    case 0x4D:
        model->extended = model->instruction[2];
        model->extended_known = true;
        return model->row->flash_bytes > AVR_WORDS_64K_BYTES;
    case 0xC0:
        write_eeprom(model);
        return true;
    case 0xC1:
        if (eeprom_paged)
            load_eeprom(model);
        return eeprom_paged;
    case 0xC2:
        if (eeprom_paged)
            write_eeprom_page(model);
        return eeprom_paged;
    default:
        return false;
    }
}

static bool is_enable(const struct avr_model *model)
{
    return model->instruction[0] == 0xAC && model->instruction[1] == 0x53;
}

void avr_complete(struct avr_model *model)
{
    if (!model->enabled) {
        bool early = model->now_ns - model->reset_low_ns < AVR_ENABLE_AFTER_US * 1000ull;
        if (early)
            avr_breached(model, BREACH_ENABLE_TOO_EARLY);
        model->enabled = is_enable(model) && !early;
        // The classic parts go on listening: a programmer brings them into step by single pulses on
        // SCK.
        model->in_step = model->enabled || model->row->generation == CM_AVR_CLASSIC;
        return;
    }
    if (model->was_busy)
        avr_breached(model, BREACH_WHILE_BUSY);
    else if (!model->answered && !act(model))
        avr_breached(model, BREACH_UNKNOWN_INSTRUCTION);
}
