/*
 * The strict AVR model. Source: the data sheets' chapters "Serial downloading" (algorithm,
 * instruction set, timing) and "Program and data memory lock bits".
 *
 * A part listens while RESET is low. Its first instruction must be Programming Enable, not before
 * 20 ms have passed. Each instruction is four bytes; while one byte goes in, the byte before it
 * comes out, and data of a read with the fourth.
 */
#include "avr_inside.h"
#include <stdlib.h>
#include <string.h>

const char *const avr_breach_words[BREACH_COUNT] = {
    [BREACH_SCK_TOO_FAST] = "SCK too fast for the CPU clock",
    [BREACH_RESET_PULSE_SHORT] = "reset pulse shorter than two CPU cycles",
    [BREACH_ENABLE_TOO_EARLY] = "instruction less than 20 ms after reset",
    [BREACH_WHILE_BUSY] = "instruction while the part was busy",
    [BREACH_UNKNOWN_INSTRUCTION] = "instruction that the part does not have",
    [BREACH_ADDRESS] = "address beyond the memory's end",
    [BREACH_HIGH_BEFORE_LOW] = "high byte of a word loaded before its low byte",
    [BREACH_NOT_ERASED] = "flash written where it was not erased",
    [BREACH_LOCKED] = "write to a locked part",
    [BREACH_SUPPLY] = "supply outside the part's range",
    [BREACH_EXTENDED_ADDRESS] = "no extended address byte loaded",
    [BREACH_RESERVED_FUSE] = "reserved fuse bit programmed",
};

/* By generation, as the sheets of the generation's best-known part say. */
static const struct avr_busy BUSY_US[] = {
    [CM_AVR_CLASSIC] = {9000, 9000, 9000, 18000},      // AT90S8515 at 3.2 V
    [CM_AVR_EARLY_PAGED] = {14000, 9000, 9000, 28000}, // ATmega161
    [CM_AVR_PAGED] = {4500, 9000, 4500, 9000},         // ATmega8
    [CM_AVR_POLLED] = {4500, 3600, 4500, 9000},        // ATmega48
};

enum { ALIVE_FROM_MV = 1500 };

void avr_breached(struct avr_model *model, enum avr_breach kind)
{
    model->breaches[kind]++;
}

uint32_t avr_model_breaches(const struct avr_model *model)
{
    uint32_t sum = 0;
    for (int i = 0; i < BREACH_COUNT; i++)
        sum += model->breaches[i];
    return sum;
}

bool avr_model_init(struct avr_model *model, const struct cm_avr_part *row)
{
    memset(model, 0, sizeof *model);
    model->row = row;
    model->flash = malloc(row->flash_bytes);
    model->eeprom = malloc(row->eeprom_bytes ? row->eeprom_bytes : 1u);
    if (!model->flash || !model->eeprom) {
        avr_model_free(model);
        return false;
    }
    memset(model->flash, 0xFF, row->flash_bytes);
    memset(model->eeprom, 0xFF, row->eeprom_bytes);
    memset(model->page, 0xFF, sizeof model->page);
    memcpy(model->fuses, row->fuse_default, sizeof model->fuses);
    memcpy(model->active_fuses, model->fuses, sizeof model->fuses);
    memcpy(model->calibration, (const uint8_t[4]){0x9E, 0x5B, 0xA1, 0xA7},
           sizeof model->calibration);
    model->lock = 0xFF;
    model->slow_percent = model->trim_percent = 100;
    return true;
}

void avr_model_free(struct avr_model *model)
{
    free(model->flash);
    free(model->eeprom);
    model->flash = model->eeprom = NULL;
}

/* --- power and reset --------------------------------------------------------------------- */

static void start_running(struct avr_model *model)
{
    memcpy(model->active_fuses, model->fuses, sizeof model->fuses);
    model->cpu_hz = avr_model_clock(model->row, model->fuses, model->board_hz);
    if (avr_model_clock(model->row, model->fuses, 0)) // not the board's
        model->cpu_hz = model->cpu_hz / 100 * model->trim_percent;
    model->deaf = avr_model_fuse(model->row, model->active_fuses, "RSTDISBL") == 0 ||
                  avr_model_fuse(model->row, model->active_fuses, "DWEN") == 0 ||
                  avr_model_fuse(model->row, model->active_fuses, "SPIEN") == 1;
    model->enabled = false;
}

static void begin_reset(struct avr_model *model)
{
    model->reset_low_ns = model->now_ns;
    model->enabled = false;
    model->extended_known = false;
    model->in_step = !model->sck_high;
    model->at = model->bit = 0;
}

void avr_model_supply(struct avr_model *model, uint16_t mv)
{
    bool was_off = model->supply_mv < ALIVE_FROM_MV;
    model->supply_mv = mv;
    if (was_off && mv >= ALIVE_FROM_MV) {
        start_running(model);
        if (model->reset_low)
            begin_reset(model);
    }
}

void avr_model_reset(struct avr_model *model, bool low)
{
    if (low == model->reset_low)
        return;
    model->reset_low = low;
    if (!low) {
        model->reset_high_ns = model->now_ns;
        start_running(model);
        return;
    }
    uint64_t cycles = (model->now_ns - model->reset_high_ns) * model->cpu_hz;
    if (model->reset_high_ns && cycles < 2ull * 1000000000) {
        avr_breached(model, BREACH_RESET_PULSE_SHORT);
        return; // not noticed: the part goes on as it was
    }
    begin_reset(model);
}

static bool listens(const struct avr_model *model)
{
    return model->reset_low && model->supply_mv >= ALIVE_FROM_MV && model->cpu_hz != 0 &&
           !model->deaf;
}

/* --- busy -------------------------------------------------------------------------------- */

static bool is_busy(const struct avr_model *model)
{
    return model->now_ns < model->busy_until_ns;
}

void avr_start_busy(struct avr_model *model, uint32_t us)
{
    model->busy_until_ns = model->now_ns + (uint64_t)us * 10 * model->slow_percent;
}

const struct avr_busy *avr_busy_times(const struct avr_model *model)
{
    return &BUSY_US[model->row->generation];
}

static bool bars_writing(const struct avr_model *model)
{
    return (model->lock & 3) != 3;
}

static bool bars_reading(const struct avr_model *model)
{
    return (model->lock & 2) == 0;
}

bool avr_may_write(struct avr_model *model)
{
    if (model->supply_mv < model->row->part.supply_min_mv ||
        model->supply_mv > model->row->part.supply_max_mv)
        avr_breached(model, BREACH_SUPPLY);
    if (bars_writing(model))
        avr_breached(model, BREACH_LOCKED);
    return !bars_writing(model);
}

/* --- addresses --------------------------------------------------------------------------- */

uint32_t avr_word_address(struct avr_model *model)
{
    uint32_t word = (uint32_t)model->instruction[1] << 8 | model->instruction[2];
    if (model->row->flash_bytes > AVR_WORDS_64K_BYTES) {
        if (!model->extended_known)
            avr_breached(model, BREACH_EXTENDED_ADDRESS);
        word |= (uint32_t)model->extended << 16;
    }
    if (word * 2 >= model->row->flash_bytes)
        avr_breached(model, BREACH_ADDRESS);
    return word % (model->row->flash_bytes / 2);
}

uint32_t avr_eeprom_address(struct avr_model *model)
{
    uint32_t address = (uint32_t)model->instruction[1] << 8 | model->instruction[2];
    if (address >= model->row->eeprom_bytes)
        avr_breached(model, BREACH_ADDRESS);
    return model->row->eeprom_bytes ? address % model->row->eeprom_bytes : 0;
}

/* --- instructions that answer ------------------------------------------------------------ */

bool avr_has_fuses(const struct avr_model *model)
{
    return model->row->fuse_bytes > 0;
}

static uint8_t read_signature(const struct avr_model *model)
{
    return model->row->part.id[model->instruction[2] & 3];
}

/* The byte that comes with the fourth; known when three are in. Says false for an instruction that
 * answers nothing. */
static bool answer(struct avr_model *model, uint8_t *out)
{
    const uint8_t *code = model->instruction;
    bool polls = model->row->generation == CM_AVR_POLLED && code[0] == 0xF0;
    if (is_busy(model) && !polls)
        return false;
    switch (code[0]) {
    case 0x20:
    case 0x28:
        *out = model->flash[avr_word_address(model) * 2 + (code[0] >> 3 & 1)];
        break;
    case 0xA0:
        *out = model->eeprom[avr_eeprom_address(model)];
        break;
    case 0x30:
        *out = read_signature(model);
        return true;
    case 0x38:
        *out =
            (code[2] & 3) < model->row->calibration_bytes ? model->calibration[code[2] & 3] : 0xFF;
        return true;
    case 0x50:
        if (!avr_has_fuses(model))
            return false;
        *out = code[1] & 0x08 ? model->fuses[2] : model->fuses[0];
        return true;
    case 0x58:
        if (!avr_has_fuses(model))
            return false;
        *out = code[1] & 0x08 ? model->fuses[1] : model->lock;
        return true;
    case 0xF0:
        *out = is_busy(model);
        return polls;
    default:
        return false;
    }
    if (bars_reading(model))
        *out = 0xFF;
    return true;
}

/* --- bytes and bits ---------------------------------------------------------------------- */

/* The AT90S1200 does not repeat what it hears. */
static bool echoes(const struct avr_model *model)
{
    return strcmp(model->row->part.name, "at90s1200") != 0;
}

/* Before Programming Enable nothing comes back but that instruction's own bytes, in their places.
 */
static bool hears_enable(const struct avr_model *model)
{
    static const uint8_t ENABLE[] = {0xAC, 0x53};
    return memcmp(model->instruction, ENABLE,
                  model->at < sizeof ENABLE ? model->at : sizeof ENABLE) == 0;
}

static void take_byte(struct avr_model *model, uint8_t byte)
{
    model->instruction[model->at++] = byte;
    model->out = echoes(model) && (model->enabled || hears_enable(model)) ? byte : 0x00;
    if (model->at == 3 && model->enabled) {
        model->answered = answer(model, &model->out);
        model->was_busy = is_busy(model) && !model->answered;
    }
    if (model->at == 4) {
        model->at = 0;
        avr_complete(model);
    }
}

/* A half of the clock must be longer than two CPU cycles, three from 12 MHz on. */
static bool check_half(struct avr_model *model, uint64_t half_ns)
{
    uint64_t cycles = model->cpu_hz < 12000000 ? 2 : 3;
    if (half_ns * model->cpu_hz > cycles * 1000000000)
        return true;
    if (model->enabled) // before that, a programmer may be trying
        avr_breached(model, BREACH_SCK_TOO_FAST);
    model->in_step = model->enabled = false;
    return false;
}

uint8_t avr_model_byte(struct avr_model *model, uint8_t byte, uint64_t half_ns)
{
    model->now_ns += 16 * half_ns;
    if (!listens(model))
        return model->supply_mv < ALIVE_FROM_MV ? 0x00 : 0xFF;
    if (!check_half(model, half_ns) || !model->in_step)
        return 0x00;
    uint8_t out = model->out;
    take_byte(model, byte);
    return out;
}

void avr_model_sck(struct avr_model *model, bool high, bool mosi)
{
    if (high == model->sck_high)
        return;
    uint64_t half_ns = model->now_ns - model->edge_ns;
    model->sck_high = high;
    model->edge_ns = model->now_ns;
    if (!listens(model) || (model->bit && !check_half(model, half_ns)) || !model->in_step)
        return;
    if (high) {
        model->shifting = (uint8_t)(model->shifting << 1 | mosi);
        model->bit++;
    } else if (model->bit == 8) {
        model->bit = 0;
        take_byte(model, model->shifting);
    }
}

bool avr_model_miso(const struct avr_model *model)
{
    if (!listens(model))
        return model->supply_mv >= ALIVE_FROM_MV;
    uint8_t shown = model->bit == 0 ? 0 : (uint8_t)(model->sck_high ? model->bit - 1 : model->bit);
    return model->in_step && (model->out >> (7 - (shown & 7)) & 1);
}
