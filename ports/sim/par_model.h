/*
 * A strict model of a parallel memory: JEDEC flash by units and by pages, EEPROMs of the 28 series,
 * EPROMs, cycle by cycle.
 *
 * Written from the data sheets, beside the driver and not from it. From the parts table it takes
 * sizes, times and traits; command decoding, status bits and page loading are its own.
 */
#ifndef CM_SIM_PAR_MODEL_H
#define CM_SIM_PAR_MODEL_H

#include <coldmint/batch.h>
#include <coldmint/par.h>
#include <coldmint/port.h>

enum par_breach {
    PAR_BREACH_WHILE_BUSY,
    PAR_BREACH_SEQUENCE,
    PAR_BREACH_CYCLE,
    PAR_BREACH_PROTECTED,
    PAR_BREACH_NOT_ERASED,
    PAR_BREACH_ACROSS_PAGES,
    PAR_BREACH_MODE_TIME,
    PAR_BREACH_SUPPLY,
    PAR_BREACH_PULSE,
    PAR_BREACH_CONFLICT,
    PAR_BREACH_COUNT
};

extern const char *const par_breach_words[PAR_BREACH_COUNT];

enum par_kind { PAR_FLASH, PAR_EE28, PAR_EPROM };
enum { PAR_PAGE_MAX = 256 };

struct par_model {
    const struct cm_par_part *row;
    enum par_kind kind;
    uint8_t *memory; /* inverted, so that a file of holes is a blank chip */
    uint16_t supply_mv;
    uint64_t now_ns, busy_until_ns, mode_from_ns;
    /* the command decoder */
    uint8_t step; /* cycles of a command heard so far */
    bool armed;   /* to program, or to take a page */
    bool id_mode, cfi_mode;
    /* what is under way */
    bool erasing, gave_up; /* the latter: bit 5 shows it, until a reset */
    uint16_t last_data;
    uint8_t toggle;
    /* a page being loaded */
    bool loading, page_unlocked;
    uint32_t page_base, last_load;
    uint64_t loaded_ns;
    struct cm_cycle pending[6]; /* cycles that may be a command, or data */
    uint8_t pending_count;
    uint8_t page[PAR_PAGE_MAX];
    bool filled[PAR_PAGE_MAX];
    /* protection */
    bool sdp, boot_low_locked, boot_high_locked;
    uint32_t sector_locks;
    /* pins that are not part of a cycle */
    bool a9_high, vpp_high;
    /* by pins */
    bool ce, oe, we; /* true: high */
    uint32_t pin_address;
    uint16_t pin_data, pin_answer;
    uint64_t pulse_from_ns;
    /* what is wrong with it */
    uint32_t slow_percent, worn_at, stuck_at;
    uint32_t weak_at, weak_pulses; /* the byte here takes only the pulse after so many */
    /* what has been done */
    uint32_t breaches[PAR_BREACH_COUNT], programs, erases;
};

void par_model_init(struct par_model *model, const struct cm_par_part *row, enum par_kind kind,
                    uint8_t *memory);
void par_model_supply(struct par_model *model, uint16_t mv);

/* One cycle of period_ns, of which CE and WE are low for pulse_ns; moves the time on. Addresses are
 * the bus's: of a wide part, words. */
void par_model_write(struct par_model *model, uint32_t address, uint16_t data, uint64_t pulse_ns,
                     uint64_t period_ns);
uint16_t par_model_read(struct par_model *model, uint32_t address, uint64_t period_ns);

/* The same by pins. CE, OE and WE are active low; data are driven by the port while `drives` says
 * so. */
void par_model_pins(struct par_model *model, bool ce, bool oe, bool we, uint32_t address,
                    uint16_t data);

/* The byte at an address, as a reader sees it. */
uint8_t par_model_at(const struct par_model *model, uint32_t address);
void par_model_set(struct par_model *model, uint32_t address, uint8_t byte);
bool par_model_protects(const struct par_model *model, uint32_t address);
uint32_t par_model_breaches(const struct par_model *model);

#endif
