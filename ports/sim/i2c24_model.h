/*
 * A strict model of a serial EEPROM on an I2C bus, edge by edge. Written from the data sheets
 * and UM10204, beside the driver and not from it.
 */
#ifndef CM_SIM_I2C24_MODEL_H
#define CM_SIM_I2C24_MODEL_H

#include <coldmint/i2c24.h>

enum i2c24_breach {
    I2C24_BREACH_PAGE_WRAP,
    I2C24_BREACH_CLOCK,
    I2C24_BREACH_SETUP,
    I2C24_BREACH_PROTECTED,
    I2C24_BREACH_SUPPLY,
    I2C24_BREACH_UNFINISHED,
    I2C24_BREACH_COUNT
};

extern const char *const i2c24_breach_words[I2C24_BREACH_COUNT];

enum i2c24_state { I2C24_IDLE, I2C24_DEVICE, I2C24_ADDRESS, I2C24_DATA, I2C24_SENDING, I2C24_DEAF };
enum { I2C24_PAGE_MAX = 256 };

struct i2c24_model {
    const struct cm_i2c24_part *row;
    uint8_t *memory; /* inverted, so that a file of holes is a blank chip */
    uint16_t supply_mv;
    uint64_t now_ns, busy_until_ns, fallen_ns, stretch_until_ns, changed_ns;
    /* pins */
    bool scl, sda;  /* as the bus shows them */
    bool holds_sda; /* pulled low by the part */
    bool wp_high;
    uint8_t pins;        /* its address pins */
    uint32_t stretch_us; /* holds SCL after each byte for so long */
    /* the transfer */
    uint8_t state, bit, shifting, out, heads_left, device;
    bool acks, ack_came;
    uint32_t address, first, loaded;
    uint8_t page[I2C24_PAGE_MAX];
    /* what is wrong with it */
    uint32_t slow_percent, stuck_at;
    /* what has been done */
    uint32_t breaches[I2C24_BREACH_COUNT], programs;
};

void i2c24_model_init(struct i2c24_model *model, const struct cm_i2c24_part *row, uint8_t *memory);
void i2c24_model_supply(struct i2c24_model *model, uint16_t mv);

/* The lines as the master drives them: true is released. The time is model->now_ns, which the
 * caller moves on. */
void i2c24_model_lines(struct i2c24_model *model, bool scl, bool sda);
bool i2c24_model_sda(const struct i2c24_model *model, bool driven);
bool i2c24_model_scl(const struct i2c24_model *model, bool driven);

/* Leaves the part as a transfer that was cut off does: in the middle of sending a byte of zeros. */
void i2c24_model_cut(struct i2c24_model *model);

uint8_t i2c24_model_at(const struct i2c24_model *model, uint32_t address);
void i2c24_model_set(struct i2c24_model *model, uint32_t address, uint8_t byte);
uint32_t i2c24_model_breaches(const struct i2c24_model *model);

#endif
