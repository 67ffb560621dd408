/*
 * The strict model of EEPROMs on I2C. Sources: the data sheets' chapters "Bus
 * characteristics", "Write operations", "Read operations".
 *
 * The part looks at SDA when SCL rises, and changes it when SCL falls. While it writes it does not
 * acknowledge its address. A page write wraps round within the page.
 */
#include "i2c24_model.h"
#include <string.h>

const char *const i2c24_breach_words[I2C24_BREACH_COUNT] = {
    [I2C24_BREACH_PAGE_WRAP] = "more bytes than a page has",
    [I2C24_BREACH_CLOCK] = "SCL too fast",
    [I2C24_BREACH_SETUP] = "SDA changed just before SCL rose",
    [I2C24_BREACH_PROTECTED] = "write with the write protect pin high",
    [I2C24_BREACH_SUPPLY] = "write with the supply outside the part's range",
    [I2C24_BREACH_UNFINISHED] = "STOP in the middle of a byte",
};

enum {
    ALIVE_FROM_MV = 1500,
    TYPE = 0x50,
    LEAST_HIGH_NS_AT_400K = 600,
    LEAST_LOW_NS_AT_400K = 1300,
    FAST_HZ = 400000
};

static void breach(struct i2c24_model *model, enum i2c24_breach kind)
{
    model->breaches[kind]++;
}

uint32_t i2c24_model_breaches(const struct i2c24_model *model)
{
    uint32_t sum = 0;
    for (int i = 0; i < I2C24_BREACH_COUNT; i++)
        sum += model->breaches[i];
    return sum;
}

uint8_t i2c24_model_at(const struct i2c24_model *model, uint32_t address)
{
    uint8_t byte = (uint8_t)~model->memory[address];
    return address == model->stuck_at ? byte | 1u : byte;
}

void i2c24_model_set(struct i2c24_model *model, uint32_t address, uint8_t byte)
{
    if (i2c24_model_at(model, address) != byte)
        model->memory[address] = (uint8_t)~byte;
}

static void go_idle(struct i2c24_model *model)
{
    model->state = I2C24_IDLE;
    model->holds_sda = false;
    model->bit = 0;
}

void i2c24_model_init(struct i2c24_model *model, const struct cm_i2c24_part *row, uint8_t *memory)
{
    memset(model, 0, sizeof *model);
    model->row = row;
    model->memory = memory;
    model->slow_percent = 100;
    model->stuck_at = UINT32_MAX;
    model->scl = model->sda = true;
}

void i2c24_model_supply(struct i2c24_model *model, uint16_t mv)
{
    if (model->supply_mv < ALIVE_FROM_MV && mv >= ALIVE_FROM_MV) {
        go_idle(model);
        model->busy_until_ns = 0;
        model->address = 0;
    }
    model->supply_mv = mv;
}

/* Address bits that are in the device's address. */
static unsigned block_bits(const struct i2c24_model *model)
{
    unsigned bits = 0;
    while ((uint32_t)1 << (8u * model->row->address_bytes + bits) < model->row->bytes)
        bits++;
    return bits;
}

/* Is the device's address ours? Its bits that are not ours to choose are the pins'. */
static bool is_called(const struct i2c24_model *model, uint8_t byte)
{
    unsigned mask = ((1u << block_bits(model)) - 1) << model->row->block_shift;
    return (byte >> 1 & 0x78) == TYPE && ((byte >> 1 & 7 & ~mask) == (model->pins & 7 & ~mask)) &&
           model->now_ns >= model->busy_until_ns;
}

static void begin_device(struct i2c24_model *model, uint8_t byte)
{
    unsigned bits = block_bits(model);
    model->acks = is_called(model, byte);
    model->device = byte;
    if (!model->acks) {
        model->state = I2C24_DEAF;
        return;
    }
    uint32_t block =
        bits ? (uint32_t)(byte >> 1 >> model->row->block_shift) & ((1u << bits) - 1) : 0;
    uint32_t below = 8u * model->row->address_bytes;
    model->address = (model->address & ((1u << below) - 1)) | block << below;
    if (byte & 1) {
        model->state = I2C24_SENDING;
        return;
    }
    model->address = block << below;
    model->heads_left = model->row->address_bytes;
    model->loaded = 0;
    model->state = I2C24_ADDRESS;
}

static void take_data(struct i2c24_model *model, uint8_t byte)
{
    uint32_t page = model->row->page_bytes;
    if (model->loaded == 0) {
        model->first = model->address;
        for (uint32_t i = 0, base = model->address & ~(page - 1); i < page; i++)
            model->page[i] = i2c24_model_at(model, base + i);
    }
    if (model->loaded++ >= page)
        breach(model, I2C24_BREACH_PAGE_WRAP);
    else if (model->loaded > 1 && (model->address & (page - 1)) == 0)
        breach(model, I2C24_BREACH_PAGE_WRAP);
    model->page[model->address & (page - 1)] = byte;
    model->address = (model->address & ~(page - 1)) | ((model->address + 1) & (page - 1));
}

/* A whole byte came in; whether it is acknowledged. */
static void take(struct i2c24_model *model, uint8_t byte)
{
    model->acks = true;
    switch (model->state) {
    case I2C24_DEVICE:
        begin_device(model, byte);
        break;
    case I2C24_ADDRESS:
        model->address = (model->address & ~0xFFFFu) |
                         ((model->row->address_bytes == 1 ? model->address & 0xFF00
                                                          : model->address << 8 & 0xFF00) |
                          byte);
        model->address &= model->row->bytes - 1;
        if (--model->heads_left == 0)
            model->state = I2C24_DATA;
        break;
    case I2C24_DATA:
        take_data(model, byte);
        break;
    default:
        model->acks = false;
        break;
    }
}

static void load_out(struct i2c24_model *model)
{
    uint32_t block = model->row->address_bytes == 1 ? 0x100 : 0x10000;
    model->out = i2c24_model_at(model, model->address);
    uint32_t next = (model->address + 1) % model->row->bytes;
    model->address =
        (model->address & ~(block - 1)) |
        (next & (block - 1) &
         (model->row->bytes - 1)); // some parts count on into the next block, some do not
}

static void write_page(struct i2c24_model *model)
{
    uint32_t page = model->row->page_bytes, base = model->first & ~(page - 1);
    bool supplied = model->supply_mv >= model->row->part.supply_min_mv &&
                    model->supply_mv <= model->row->part.supply_max_mv;
    if (model->wp_high) {
        breach(model, I2C24_BREACH_PROTECTED);
        return;
    }
    if (!supplied) {
        breach(model, I2C24_BREACH_SUPPLY);
        return;
    }
    for (uint32_t i = 0; i < page; i++)
        i2c24_model_set(model, base + i, model->page[i]);
    model->programs++;
    model->busy_until_ns =
        model->now_ns + (uint64_t)model->row->write_us * 8 *
                            model->slow_percent; // a little below the sheet's longest
}

static void on_start(struct i2c24_model *model)
{
    model->state = I2C24_DEVICE;
    model->bit = 0;
    model->holds_sda = false;
}

static void on_stop(struct i2c24_model *model)
{
    if (model->state == I2C24_DATA && model->loaded &&
        model->bit == 1) // the STOP's own rise of SCL counted as a bit
        write_page(model);
    else if (model->state == I2C24_DATA && model->bit > 1)
        breach(model, I2C24_BREACH_UNFINISHED);
    go_idle(model);
}

/* SCL rises: bits are taken. Nine of them are a byte and its acknowledgement. */
static void on_rise(struct i2c24_model *model)
{
    if (model->state == I2C24_IDLE || model->state == I2C24_DEAF)
        return;
    if (model->bit < 8)
        model->shifting = (uint8_t)(model->shifting << 1 | model->sda);
    else
        model->ack_came = !model->sda;
    model->bit++;
}

static void on_fall(struct i2c24_model *model)
{
    bool sends = model->state == I2C24_SENDING;
    if (model->state == I2C24_IDLE || model->state == I2C24_DEAF) {
        model->holds_sda = false;
        return;
    }
    if (model->bit == 8) { // time for the acknowledgement
        if (!sends)
            take(model, model->shifting);
        model->holds_sda = sends && model->state == I2C24_SENDING ? false : model->acks;
        return;
    }
    if (model->bit >= 9) {
        model->bit = 0;
        model->stretch_until_ns = model->now_ns + model->stretch_us * 1000ull;
        if (sends && model->device & 1 && model->loaded == UINT32_MAX && !model->ack_came) {
            model->state = I2C24_DEAF; // the master wants no more
            model->holds_sda = false;
            return;
        }
        if (model->state == I2C24_SENDING) {
            model->loaded = UINT32_MAX; // bytes have been sent from here on
            load_out(model);
        }
    }
    model->holds_sda = model->state == I2C24_SENDING && !(model->out >> (7 - model->bit) & 1);
}

static void check_clock(struct i2c24_model *model, bool rises)
{
    uint64_t gone = model->now_ns - model->fallen_ns,
             least = rises ? LEAST_LOW_NS_AT_400K : LEAST_HIGH_NS_AT_400K;
    if (model->row->clock_hz < FAST_HZ)
        least = rises ? 4700 : 4000;
    if (gone < least && model->state != I2C24_IDLE)
        breach(model, I2C24_BREACH_CLOCK);
    model->fallen_ns = model->now_ns;
}

bool i2c24_model_sda(const struct i2c24_model *model, bool driven)
{
    return driven && !(model->holds_sda && model->supply_mv >= ALIVE_FROM_MV);
}

bool i2c24_model_scl(const struct i2c24_model *model, bool driven)
{
    return driven &&
           !(model->now_ns < model->stretch_until_ns && model->supply_mv >= ALIVE_FROM_MV);
}

void i2c24_model_lines(struct i2c24_model *model, bool scl_driven, bool sda_driven)
{
    bool scl = i2c24_model_scl(model, scl_driven), sda = i2c24_model_sda(model, sda_driven);
    if (model->supply_mv < ALIVE_FROM_MV)
        return;
    if (scl && model->scl && sda != model->sda) {
        model->sda = sda;
        if (sda)
            on_stop(model);
        else
            on_start(model);
        return;
    }
    if (sda != model->sda)
        model->changed_ns = model->now_ns;
    model->sda = sda;
    if (scl == model->scl)
        return;
    model->scl = scl;
    check_clock(model, scl);
    uint64_t setup_ns = model->row->clock_hz < FAST_HZ ? 250 : 100;
    if (scl && model->state != I2C24_IDLE && model->now_ns - model->changed_ns < setup_ns)
        breach(model, I2C24_BREACH_SETUP);
    if (scl)
        on_rise(model);
    else
        on_fall(model);
    model->sda = i2c24_model_sda(model, sda_driven);
}

void i2c24_model_cut(struct i2c24_model *model)
{
    model->state = I2C24_SENDING;
    model->device = 1;
    model->bit = 3;
    model->out = 0;
    model->loaded = UINT32_MAX;
    model->holds_sda = true;
    model->scl = true;
    model->sda = false;
}
