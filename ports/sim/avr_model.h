/*
 * A strict model of an 8-bit AVR on its serial programming pins, at the level of pins, bytes and
 * time.
 *
 * Written from the data sheets, beside the driver and not from it: what a sheet forbids is a breach
 * here, is counted, and has the effect that a real part may show. From the parts table it takes
 * sizes and the names of fuse bits; times and clocks are its own.
 */
#ifndef CM_SIM_AVR_MODEL_H
#define CM_SIM_AVR_MODEL_H

#include <coldmint/avr.h>

enum avr_breach {
    BREACH_SCK_TOO_FAST,
    BREACH_RESET_PULSE_SHORT,
    BREACH_ENABLE_TOO_EARLY,
    BREACH_WHILE_BUSY,
    BREACH_UNKNOWN_INSTRUCTION,
    BREACH_ADDRESS,
    BREACH_HIGH_BEFORE_LOW,
    BREACH_NOT_ERASED,
    BREACH_LOCKED,
    BREACH_SUPPLY,
    BREACH_EXTENDED_ADDRESS,
    BREACH_RESERVED_FUSE,
    BREACH_COUNT
};

/* What each breach is, in words. */
extern const char *const avr_breach_words[BREACH_COUNT];

enum { AVR_PAGE_MAX = 256 };

struct avr_model {
    const struct cm_avr_part *row;
    uint8_t *flash, *eeprom;
    uint8_t fuses[3], lock, calibration[4];
    uint8_t active_fuses[3]; /* as latched when the part last left reset */
    bool deaf; /* by those: no reset pin, or it is the debugger's, or no serial programming */
    uint32_t board_hz;     /* crystal or clock that the board provides; 0: none */
    uint32_t cpu_hz;       /* 0: no clock, the part is deaf */
    uint32_t trim_percent; /* real frequency of internal oscillators, in percent of their name; 100
                              is usual */
    uint32_t slow_percent; /* busy times as a part of the data sheet's; 100 is usual */
    uint16_t supply_mv;
    uint64_t now_ns, busy_until_ns, reset_low_ns, reset_high_ns;
    bool reset_low, sck_high, enabled, in_step;
    bool answered, was_busy; /* the instruction at hand */
    uint8_t instruction[4], at, out, bit, shifting;
    uint64_t edge_ns;
    uint8_t extended;
    bool extended_known;
    uint8_t page[AVR_PAGE_MAX], eeprom_page[AVR_PAGE_MAX];
    bool page_loaded[AVR_PAGE_MAX], eeprom_loaded[AVR_PAGE_MAX];
    uint32_t breaches[BREACH_COUNT];
    uint32_t page_writes, eeprom_writes, erases, setting_writes; /* wear, for tests and reports */
};

/* Makes a factory-new part; false without memory. */
bool avr_model_init(struct avr_model *model, const struct cm_avr_part *row);
void avr_model_free(struct avr_model *model);

/* The CPU clock that the fuses give. */
uint32_t avr_model_clock(const struct cm_avr_part *row, const uint8_t *fuses, uint32_t board_hz);

/* Value (0 or 1) of a fuse bit by name; -1 where the part has none. */
int avr_model_fuse(const struct cm_avr_part *row, const uint8_t *fuses, const char *name);

void avr_model_supply(struct avr_model *model, uint16_t mv);
void avr_model_reset(struct avr_model *model, bool low);

/* One byte over SPI with clock halves of half_ns; moves the time on. */
uint8_t avr_model_byte(struct avr_model *model, uint8_t byte, uint64_t half_ns);

/* The same by pins: an edge of SCK with MOSI as it stands, and what MISO shows. */
void avr_model_sck(struct avr_model *model, bool high, bool mosi);
bool avr_model_miso(const struct avr_model *model);

/* All breaches together. */
uint32_t avr_model_breaches(const struct avr_model *model);

#endif
