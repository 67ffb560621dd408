/*
 * A strict model of an SPI memory: NOR flash and EEPROM of the 25 series, at the level of pins,
 * bytes and time.
 *
 * Written from the data sheets, beside the driver and not from it: what a sheet forbids is a breach
 * here, is counted, and has the effect that a real part may show (mostly: nothing happens). From
 * the parts table it takes sizes, opcodes and where the protection bits are; which area they mean,
 * times, and the contents of SFDP are its own.
 */
#ifndef CM_SIM_NOR_MODEL_H
#define CM_SIM_NOR_MODEL_H

#include <coldmint/nor.h>

enum nor_breach {
    NOR_BREACH_WHILE_BUSY,
    NOR_BREACH_NO_ENABLE,
    NOR_BREACH_PROTECTED,
    NOR_BREACH_REGISTERS_HELD,
    NOR_BREACH_PAGE_WRAP,
    NOR_BREACH_ADDRESS,
    NOR_BREACH_FRAME,
    NOR_BREACH_CLOCK,
    NOR_BREACH_DESELECT,
    NOR_BREACH_SUPPLY,
    NOR_BREACH_POWER_DOWN,
    NOR_BREACH_WORD_MODE,
    NOR_BREACH_COUNT
};

extern const char *const nor_breach_words[NOR_BREACH_COUNT];

enum { NOR_PAGE_MAX = 512, NOR_SFDP_BYTES = 0x100, NOR_LOCK_SECTORS = 256 };

struct nor_model {
    const struct cm_nor_part *row;
    uint8_t *memory; /* inverted, so that a file of holes is a blank chip */
    uint8_t registers[CM_NOR_REGISTERS];
    bool wel, status_enabled, wide, asleep, reset_armed, in_words;
    uint8_t sector_locks[NOR_LOCK_SECTORS / 8];
    uint8_t sfdp[NOR_SFDP_BYTES];
    bool has_sfdp;
    /* pins */
    bool selected, wp_low, hold_low, sck_high;
    uint16_t supply_mv;
    uint64_t now_ns, busy_until_ns, deselected_ns, awake_from_ns;
    /* the frame at hand */
    uint8_t opcode, bit, shifting, out;
    uint32_t bytes, address, data_bytes;
    uint8_t page[NOR_PAGE_MAX];
    bool deaf;    /* to the rest of it */
    bool streams; /* it reads the array, and the address has come: only data follow */
    uint32_t word_address;
    /* what is wrong with it */
    uint32_t slow_percent;
    uint32_t worn_at;     /* an erase leaves the byte here as it is; UINT32_MAX: nowhere */
    uint32_t stuck_at;    /* bit 0 of the byte here always reads 1 */
    bool registers_stuck; /* status registers do not take anything */
    /* what has been done */
    uint32_t breaches[NOR_BREACH_COUNT];
    uint32_t programs, erases, register_writes;
    bool registers_changed; /* since somebody last saved them */
};

/* Makes a factory-new part around `memory`, which is row->bytes long and the caller's. */
void nor_model_init(struct nor_model *model, const struct cm_nor_part *row, uint8_t *memory);

void nor_model_supply(struct nor_model *model, uint16_t mv);
void nor_model_select(struct nor_model *model, bool low);

/* One byte over SPI with clock halves of half_ns; moves the time on. */
uint8_t nor_model_byte(struct nor_model *model, uint8_t byte, uint64_t half_ns);

/* The same by pins. */
void nor_model_sck(struct nor_model *model, bool high, bool mosi);
bool nor_model_miso(struct nor_model *model);

/* The byte at an address, as a reader sees it. */
uint8_t nor_model_at(const struct nor_model *model, uint32_t address);
void nor_model_set(struct nor_model *model, uint32_t address, uint8_t byte);

/* Is the byte protected? */
bool nor_model_protects(const struct nor_model *model, uint32_t address);

uint32_t nor_model_breaches(const struct nor_model *model);

/* nor_sfdp.c: the tables that such a part carries. False: it has none. */
bool nor_model_make_sfdp(const struct cm_nor_part *row, uint8_t *sfdp);

#endif
