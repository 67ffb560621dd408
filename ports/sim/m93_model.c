/*
 * The strict model of three-wire EEPROMs. Sources: the data sheets' chapters "Instruction set" and
 * "Synchronous data timing" of the 93C46 to 93C86.
 *
 * An instruction is a start bit, two bits of opcode, an address and, to write, a word, each bit
 * taken with the rising edge of SCK. Data come out behind the rising edges, a 0 before them. What
 * writes begins when SELECT falls.
 */
#include "m93_model.h"
#include <string.h>

const char *const m93_breach_words[M93_BREACH_COUNT] = {
    [M93_BREACH_NO_ENABLE] = "write without write enable",
    [M93_BREACH_WHILE_BUSY] = "instruction while the part was busy",
    [M93_BREACH_FRAME] = "instruction of the wrong length",
    [M93_BREACH_CLOCK] = "SCK too fast",
    [M93_BREACH_SELECT] = "SELECT low for too short a time",
    [M93_BREACH_SUPPLY] = "write with the supply outside the part's range",
};

enum { ALIVE_FROM_MV = 1500, T_CSL_NS = 250 };

static void breach(struct m93_model *model, enum m93_breach kind)
{
    model->breaches[kind]++;
}

uint32_t m93_model_breaches(const struct m93_model *model)
{
    uint32_t sum = 0;
    for (int i = 0; i < M93_BREACH_COUNT; i++)
        sum += model->breaches[i];
    return sum;
}

uint8_t m93_model_at(const struct m93_model *model, uint32_t address)
{
    uint8_t byte = (uint8_t)~model->memory[address];
    return address == model->stuck_at ? byte | 1u : byte;
}

void m93_model_set(struct m93_model *model, uint32_t address, uint8_t byte)
{
    if (m93_model_at(model, address) != byte)
        model->memory[address] = (uint8_t)~byte;
}

void m93_model_init(struct m93_model *model, const struct cm_m93_part *row, uint8_t *memory)
{
    memset(model, 0, sizeof *model);
    model->row = row;
    model->memory = memory;
    model->slow_percent = 100;
    model->stuck_at = UINT32_MAX;
    model->out = M93_OPEN;
}

void m93_model_supply(struct m93_model *model, uint16_t mv)
{
    if (model->supply_mv < ALIVE_FROM_MV && mv >= ALIVE_FROM_MV) {
        model->enabled = model->started = false;
        model->busy_until_ns = 0;
    }
    model->supply_mv = mv;
}

static unsigned word_bits(const struct m93_model *model)
{
    return 8u * model->row->word_bytes;
}

static unsigned head_bits(const struct m93_model *model)
{
    return 3u + model->row->address_bits;
}

static uint32_t word_at(const struct m93_model *model, uint32_t address)
{
    uint32_t words = model->row->bytes / model->row->word_bytes,
             at = address % words * model->row->word_bytes;
    return model->row->word_bytes == 1
               ? m93_model_at(model, at)
               : (uint32_t)(m93_model_at(model, at) | m93_model_at(model, at + 1) << 8);
}

static void set_word(struct m93_model *model, uint32_t address, uint32_t word)
{
    uint32_t words = model->row->bytes / model->row->word_bytes,
             at = address % words * model->row->word_bytes;
    m93_model_set(model, at, (uint8_t)word);
    if (model->row->word_bytes == 2)
        m93_model_set(model, at + 1, (uint8_t)(word >> 8));
}

static void start_write(struct m93_model *model)
{
    model->programs++;
    model->shows_status = true;
    model->busy_until_ns =
        model->now_ns + (uint64_t)model->row->write_us * 10 * model->slow_percent;
}

static bool may_write(struct m93_model *model)
{
    bool supplied = model->supply_mv >= model->row->part.supply_min_mv &&
                    model->supply_mv <= model->row->part.supply_max_mv;
    if (!supplied)
        breach(model, M93_BREACH_SUPPLY);
    if (!model->enabled)
        breach(model, M93_BREACH_NO_ENABLE);
    return supplied && model->enabled;
}

/* Opcode 00: the two highest address bits tell what. */
static void act_special(struct m93_model *model, uint32_t which, unsigned bits, uint32_t data)
{
    uint32_t words = model->row->bytes / model->row->word_bytes;
    bool fills = which == 1 || which == 2;
    if (bits != head_bits(model) + (which == 1 ? word_bits(model) : 0))
        breach(model, M93_BREACH_FRAME);
    else if (!fills)
        model->enabled = which == 3;
    else if (may_write(model)) {
        for (uint32_t i = 0; i < words; i++)
            set_word(model, i, which == 1 ? data : 0xFFFF);
        start_write(model);
    }
}

static void act(struct m93_model *model)
{
    unsigned bits = model->bits, extra = bits > head_bits(model) ? bits - head_bits(model) : 0;
    if (bits < head_bits(model) || extra > word_bits(model)) {
        breach(model, M93_BREACH_FRAME);
        return;
    }
    uint32_t head = model->taken >> extra, address = head & ((1u << model->row->address_bits) - 1),
             data = extra ? model->taken & ((1u << extra) - 1) : 0;
    unsigned opcode = head >> model->row->address_bits & 3;
    if (opcode == 0)
        act_special(model, address >> (model->row->address_bits - 2), bits, data);
    else if (opcode == 1 && extra != word_bits(model))
        breach(model, M93_BREACH_FRAME);
    else if (opcode == 1 && may_write(model)) {
        set_word(model, address, data);
        start_write(model);
    } else if (opcode == 3 && extra == 0 && may_write(model)) {
        set_word(model, address, 0xFFFF);
        start_write(model);
    }
}

void m93_model_select(struct m93_model *model, bool high)
{
    if (high == model->selected || model->supply_mv < ALIVE_FROM_MV)
        return;
    model->selected = high;
    if (high) {
        if (model->deselected_ns && model->now_ns - model->deselected_ns < T_CSL_NS)
            breach(model, M93_BREACH_SELECT);
        model->started = model->deaf = false;
        model->bits = 0;
        model->sent = 0;
        model->taken = 0;
        return;
    }
    model->deselected_ns = model->now_ns;
    bool reads = model->started && model->bits >= 3 && model->opcode == 2;
    if (model->started && !reads)
        act(model);
    model->started = false;
    model->out = M93_OPEN;
}

static bool is_reading(const struct m93_model *model)
{
    return model->bits == head_bits(model) && (model->taken >> model->row->address_bits & 3) == 2;
}

/* Behind a word comes the next; or, of parts that do not read on, nothing. */
static void send_bit(struct m93_model *model)
{
    uint32_t first = model->taken & ((1u << model->row->address_bits) - 1),
             word = word_at(model, first + model->sent / word_bits(model));
    unsigned bit = word_bits(model) - 1 - model->sent % word_bits(model);
    bool ends = !model->row->reads_on && model->sent == word_bits(model);
    model->out = ends ? M93_OPEN : word >> bit & 1 ? M93_HIGH : M93_LOW;
    if (!ends)
        model->sent++;
}

/* A bit is taken; what goes out changes behind it. */
static void rise(struct m93_model *model, bool bit)
{
    if (!model->selected || model->deaf || model->supply_mv < ALIVE_FROM_MV)
        return;
    if (!model->started) {
        if (!bit)
            return;
        if (model->now_ns < model->busy_until_ns) {
            breach(model, M93_BREACH_WHILE_BUSY);
            model->deaf = true;
            return;
        }
        model->started = true;
        model->shows_status = false;
        model->taken = 1;
        model->bits = 1;
        return;
    }
    if (is_reading(model)) {
        send_bit(model);
        return;
    }
    model->taken = model->taken << 1 | bit;
    if (model->bits < UINT8_MAX) // more than any instruction has; it does not begin anew
        model->bits++;
    if (model->bits == 3)
        model->opcode = model->taken & 3;
    if (is_reading(model))
        model->out = M93_LOW; // the 0 before the data
}

bool m93_model_miso(const struct m93_model *model)
{
    enum m93_out out = model->out;
    if (!model->selected || model->supply_mv < ALIVE_FROM_MV)
        out = M93_OPEN;
    else if (!model->started && model->shows_status)
        out = model->now_ns < model->busy_until_ns ? M93_LOW : M93_HIGH;
    return out == M93_OPEN ? !model->pulled_low : out == M93_HIGH;
}

void m93_model_sck(struct m93_model *model, bool high, bool mosi)
{
    if (high == model->sck_high)
        return;
    model->sck_high = high;
    if (high)
        rise(model, mosi);
}

uint8_t m93_model_byte(struct m93_model *model, uint8_t byte, uint64_t half_ns)
{
    uint8_t in = 0;
    if (500000000ull / half_ns > model->row->clock_hz * 1001ull / 1000 && model->selected)
        breach(model, M93_BREACH_CLOCK);
    for (int bit = 7; bit >= 0; bit--) {
        model->now_ns += half_ns;
        in = (uint8_t)(in << 1 |
                       m93_model_miso(model)); // taken with the edge, before the part changes it
        m93_model_sck(model, true, byte >> bit & 1);
        model->now_ns += half_ns;
        m93_model_sck(model, false, false);
    }
    return in;
}
