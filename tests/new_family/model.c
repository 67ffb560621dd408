/*
 * The made-up chip on its made-up wires.
 *
 *     SELECT ~\_____________________________________________________________/~~
 *     in       opcode key address address count sum      data ... sum
 *     out                                            C3                 C3      a write
 *     out                                            C3  data ... sum           a reading
 *
 * A sum is of the bytes since the one before, and 5A. What does not add up, names another key than
 * that of this power-up, comes while the chip is busy, or against the read-out level, is answered
 * 3C and not done. A frame that is cut off does nothing.
 */
#include "chime.h"
#include <string.h>

enum {
    HELLO = 0x01,
    STATUS = 0x02,
    READ = 0x10,
    PROGRAM = 0x20,
    ERASE = 0x30,
    MASS_ERASE = 0x3F,
    ACCEPTED = 0xC3,
    REFUSED = 0x3C,
    COUNT_AT = 4,
    SUM_AT = 5,
    ANSWER_AT = 6,
    DATA_AT = 7,
    BYTE_US = 1,
    T_PROGRAM_US = 60,
    T_ERASE_US = 4000,
    T_MASS_ERASE_US = 16000
};

static uint8_t sum_of(const uint8_t *bytes, uint32_t count)
{
    uint8_t sum = 0x5A;
    while (count)
        sum = (uint8_t)(sum + bytes[--count]);
    return sum;
}

/* Bit 0 of the level hides the flash, bit 1 keeps it from changing; both while they are 0. */
static bool is_hidden(const struct chime_model *model)
{
    return !(model->level & 1);
}

static bool is_fixed(const struct chime_model *model)
{
    return (model->level & 3) != 3;
}

static uint8_t *memory_of(struct chime_model *model, uint32_t *bytes)
{
    uint8_t region = model->frame[0] & 0x0F;
    uint8_t *const memories[CHIME_REGIONS] = {model->flash, NULL, model->options, &model->level};
    static const uint32_t SIZES[CHIME_REGIONS] = {CHIME_FLASH_BYTES, 0, CHIME_OPTION_BYTES, 1};
    *bytes = region < CHIME_REGIONS ? SIZES[region] : 0;
    return region < CHIME_REGIONS ? memories[region] : NULL;
}

static uint32_t address_of(const struct chime_model *model)
{
    return (uint32_t)model->frame[2] << 8 | model->frame[3];
}

/* May the instruction in the frame's head be done? */
static bool accepts(struct chime_model *model)
{
    uint8_t opcode = model->frame[0], kind = opcode & 0xF0;
    uint32_t bytes, address = address_of(model), count = model->frame[COUNT_AT];
    if (model->frame[SUM_AT] != sum_of(model->frame, SUM_AT) || count > CHIME_PAGE)
        return false;
    if (opcode == HELLO || opcode == STATUS)
        return true;
    bool is_change = kind != READ, busy = model->now_us < model->busy_us;
    bool keyed = !is_change || model->frame[1] == model->key;
    bool barred =
        kind != READ && opcode != MASS_ERASE && (opcode & 0x0F) == CHIME_FLASH && is_fixed(model);
    bool known = opcode == MASS_ERASE || (kind >= READ && kind <= ERASE &&
                                          memory_of(model, &bytes) && address + count <= bytes);
    model->breaches += busy || !keyed || barred || !known;
    return known && keyed && !busy && !barred;
}

static void clear(struct chime_model *model, uint8_t *bytes, uint32_t count, uint32_t us)
{
    memset(bytes, 0xFF, count);
    model->busy_us = model->now_us + us;
}

static void erase(struct chime_model *model)
{
    uint8_t opcode = model->frame[0];
    if (opcode == MASS_ERASE) {
        clear(model, model->flash, sizeof model->flash, T_MASS_ERASE_US);
        model->level = CHIME_LEVEL_OPEN;
        model->mass_erases++;
    } else if (opcode == ERASE + CHIME_FLASH) {
        clear(model, model->flash + (address_of(model) & ~(CHIME_UNIT - 1u)), CHIME_UNIT,
              T_ERASE_US);
        model->page_erases++;
    } else if (opcode == ERASE + CHIME_OPTIONS) {
        clear(model, model->options, sizeof model->options, T_ERASE_US);
        model->option_erases++;
    }
}

/* Bits go from 1 to 0. */
static void program(struct chime_model *model)
{
    uint32_t bytes, address = address_of(model);
    uint8_t *memory = memory_of(model, &bytes);
    for (uint32_t i = 0; i < model->frame[COUNT_AT]; i++)
        memory[address + i] &= model->frame[DATA_AT + i];
    model->busy_us = model->now_us + T_PROGRAM_US;
    model->writes++;
}

static uint8_t read_at(struct chime_model *model, uint32_t index)
{
    static const uint8_t ID[] = {0xC4, 0x1E, 0x07};
    uint8_t opcode = model->frame[0];
    uint32_t bytes;
    if (opcode == HELLO)
        return index < sizeof ID ? ID[index] : model->key;
    if (opcode == STATUS)
        return model->now_us < model->busy_us;
    const uint8_t *memory = memory_of(model, &bytes);
    bool hidden = (opcode & 0x0F) == CHIME_FLASH && is_hidden(model);
    return hidden ? 0x00 : memory[address_of(model) + index];
}

static bool is_reading(const struct chime_model *model)
{
    return model->frame[0] < PROGRAM;
}

/* What the chip says in the byte time at hand. */
static uint8_t say(struct chime_model *model)
{
    uint32_t count = model->frame[COUNT_AT], sum_at = DATA_AT + count;
    const uint8_t *data = model->frame + DATA_AT;
    if (model->at == ANSWER_AT)
        model->accepted = accepts(model);
    if (model->at == sum_at + 1)
        model->accepted &= is_reading(model) || data[count] == sum_of(data, count);
    if (model->at == ANSWER_AT || model->at == sum_at + 1 || !model->accepted)
        return model->accepted ? ACCEPTED : REFUSED;
    if (!is_reading(model) || model->at < DATA_AT)
        return 0x00;
    return model->at < sum_at ? read_at(model, model->at - DATA_AT) : sum_of(data, count);
}

/* One byte in each direction. */
static uint8_t cross(struct chime_model *model, uint8_t in)
{
    bool broken = model->bytes++ - model->broken_at < model->broken;
    model->now_us += BYTE_US;
    if (!model->selected)
        return 0xFF;
    uint8_t out = say(model), kept = broken ? 0xFF : in;
    if (model->at >= DATA_AT && is_reading(model))
        kept = out;
    if (model->at < sizeof model->frame)
        model->frame[model->at++] = kept;
    return broken ? 0xFF : out;
}

static enum cm_status shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                            uint32_t bytes)
{
    for (uint32_t i = 0; i < bytes; i++) {
        uint8_t came = cross(port->context, out ? out[i] : 0x00);
        if (in)
            in[i] = came;
    }
    return CM_OK;
}

/* Only a whole frame that was accepted to its end is done, when SELECT goes high. */
static enum cm_status line(const struct cm_port *port, enum cm_line which, enum cm_level level)
{
    struct chime_model *model = port->context;
    if (which != CM_LINE_SELECT)
        return CM_OK;
    uint32_t count = model->frame[COUNT_AT];
    uint8_t kind = model->frame[0] & 0xF0;
    bool is_whole = model->selected && model->accepted &&
                    model->at == DATA_AT + (kind == PROGRAM ? count + 2 : 0);
    if (level != CM_LOW && is_whole && kind == ERASE)
        erase(model);
    if (level != CM_LOW && is_whole && kind == PROGRAM)
        program(model);
    model->selected = level == CM_LOW;
    model->accepted = false;
    model->at = 0;
    memset(model->frame, 0, sizeof model->frame);
    return CM_OK;
}

static void wait_us(const struct cm_port *port, uint32_t us)
{
    ((struct chime_model *)port->context)->now_us += us;
}

static uint32_t now_us(const struct cm_port *port)
{
    return (uint32_t)((struct chime_model *)port->context)->now_us;
}

static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    (void)port;
    *real_hz = want_hz;
    return CM_OK;
}

void chime_model_begin(struct chime_model *model)
{
    static const struct cm_lines LINES = {.line = line, .wait_us = wait_us, .now_us = now_us};
    static const struct cm_spi SPI = {.clock = set_clock, .shift = shift};
    memset(model, 0, sizeof *model);
    memset(model->flash, 0xFF, sizeof model->flash);
    memset(model->options, 0xFF, sizeof model->options);
    model->level = CHIME_LEVEL_OPEN;
    model->key = 0x6D;
    model->port = (struct cm_port){.lines = &LINES,
                                   .spi = &SPI,
                                   .context = model,
                                   .state = &model->state,
                                   .traits = {.lines = CM_LINE_BIT(CM_LINE_SELECT)}};
}
