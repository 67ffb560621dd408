/*
 * A strict model of a three-wire EEPROM, edge by edge. Written from the data sheets, beside the
 * driver and not from it.
 */
#ifndef CM_SIM_M93_MODEL_H
#define CM_SIM_M93_MODEL_H

#include <coldmint/m93.h>

enum m93_breach {
    M93_BREACH_NO_ENABLE,
    M93_BREACH_WHILE_BUSY,
    M93_BREACH_FRAME,
    M93_BREACH_CLOCK,
    M93_BREACH_SELECT,
    M93_BREACH_SUPPLY,
    M93_BREACH_COUNT
};

extern const char *const m93_breach_words[M93_BREACH_COUNT];

enum m93_out { M93_LOW, M93_HIGH, M93_OPEN };

struct m93_model {
    const struct cm_m93_part *row;
    uint8_t *memory; /* inverted, so that a file of holes is a blank chip */
    uint16_t supply_mv;
    uint64_t now_ns, busy_until_ns, deselected_ns;
    bool selected, sck_high, enabled, started, deaf, shows_status;
    uint8_t bits;     /* of the instruction, from the start bit on */
    uint32_t taken;   /* what came since: the last 32 of them */
    uint8_t opcode;   /* of it, once its two bits are there */
    uint32_t sent;    /* bits of data that went out */
    enum m93_out out; /* MISO */
    bool pulled_low;  /* where nobody drives it */
    uint32_t slow_percent, stuck_at;
    uint32_t breaches[M93_BREACH_COUNT], programs;
};

void m93_model_init(struct m93_model *model, const struct cm_m93_part *row, uint8_t *memory);
void m93_model_supply(struct m93_model *model, uint16_t mv);
void m93_model_select(struct m93_model *model, bool high);
uint8_t m93_model_byte(struct m93_model *model, uint8_t byte, uint64_t half_ns);
void m93_model_sck(struct m93_model *model, bool high, bool mosi);
bool m93_model_miso(const struct m93_model *model);
uint8_t m93_model_at(const struct m93_model *model, uint32_t address);
void m93_model_set(struct m93_model *model, uint32_t address, uint8_t byte);
uint32_t m93_model_breaches(const struct m93_model *model);

#endif
