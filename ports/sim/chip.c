/*
 * The kinds of chip behind the port's one table.
 */
#include "chip.h"
#include "bench.h"
#include <coldmint/coldmint.h>

#define NUMBER(member)                                                                             \
    {                                                                                              \
#member, &model->member, sizeof model->member                                              \
    }

/* Where a kind's model has what all models have. */
#define PLACES(kind, count)                                                                        \
    .now_ns = offsetof(union sim_model, kind.now_ns),                                              \
    .supply_mv = offsetof(union sim_model, kind.supply_mv),                                        \
    .slow_percent = offsetof(union sim_model, kind.slow_percent),                                  \
    .breaches = offsetof(union sim_model, kind.breaches), .breach_count = (count)

/* --- AVR --------------------------------------------------------------------------------- */

static void avr_supply(union sim_model *model, uint16_t mv)
{
    avr_model_supply(&model->avr, mv);
}

static uint8_t avr_byte(union sim_model *model, uint8_t byte, uint64_t half_ns)
{
    return avr_model_byte(&model->avr, byte, half_ns);
}

static void avr_sck(union sim_model *model, bool high, bool mosi)
{
    avr_model_sck(&model->avr, high, mosi);
}

static bool avr_miso(union sim_model *model)
{
    return avr_model_miso(&model->avr);
}

static bool avr_in_byte(const union sim_model *model)
{
    return model->avr.bit != 0;
}

static void avr_line(union sim_model *model, enum cm_line line, bool low)
{
    if (line == CM_LINE_RESET)
        avr_model_reset(&model->avr, low);
}

const struct sim_kind sim_avr = {.lines = CM_LINE_BIT(CM_LINE_RESET),
                                 .max_hz = 8000000,
                                 PLACES(avr, BREACH_COUNT),
                                 .breach_words = avr_breach_words,
                                 .supply = avr_supply,
                                 .byte = avr_byte,
                                 .sck = avr_sck,
                                 .miso = avr_miso,
                                 .in_byte = avr_in_byte,
                                 .line = avr_line};

/* --- SPI memories ------------------------------------------------------------------------ */

static void nor_supply(union sim_model *model, uint16_t mv)
{
    nor_model_supply(&model->nor, mv);
}

static uint8_t nor_byte(union sim_model *model, uint8_t byte, uint64_t half_ns)
{
    return nor_model_byte(&model->nor, byte, half_ns);
}

static void nor_sck(union sim_model *model, bool high, bool mosi)
{
    nor_model_sck(&model->nor, high, mosi);
}

static bool nor_miso(union sim_model *model)
{
    return nor_model_miso(&model->nor);
}

static bool nor_in_byte(const union sim_model *model)
{
    return model->nor.bit != 0;
}

static uint8_t nor_at(const union sim_model *model, uint32_t address)
{
    return nor_model_at(&model->nor, address);
}

static void nor_line(union sim_model *model, enum cm_line line, bool low)
{
    if (line == CM_LINE_SELECT)
        nor_model_select(&model->nor, low);
    else if (line == CM_LINE_WP)
        model->nor.wp_low = low;
    else if (line == CM_LINE_HOLD)
        model->nor.hold_low = low;
}

static void nor_init(union sim_model *model, const struct cm_part *part, uint8_t *cells)
{
    nor_model_init(&model->nor, cm_nor_row(part), cells);
}

static void nor_settle(union sim_model *any, const struct sim_bench_chip *chip)
{
    struct nor_model *model = &any->nor;
    for (unsigned i = 0; i < chip->status_count && i < CM_NOR_REGISTERS; i++)
        model->registers[i] = chip->status[i] & model->row->status->kept[i];
}

static void nor_mend(union sim_model *model, const struct sim_faults *faults)
{
    model->nor.worn_at = faults->worn_at - 1; // 0 becomes UINT32_MAX: nowhere
    model->nor.stuck_at = faults->stuck_at - 1;
    model->nor.registers_stuck = faults->registers_stuck;
}

const struct sim_kind sim_nor = {.lines = CM_LINE_BIT(CM_LINE_SELECT),
                                 .max_hz = 33000000,
                                 PLACES(nor, NOR_BREACH_COUNT),
                                 .breach_words = nor_breach_words,
                                 .supply = nor_supply,
                                 .byte = nor_byte,
                                 .sck = nor_sck,
                                 .miso = nor_miso,
                                 .in_byte = nor_in_byte,
                                 .line = nor_line,
                                 .init = nor_init,
                                 .settle = nor_settle,
                                 .mend = nor_mend,
                                 .at = nor_at};

/* --- parallel memories ------------------------------------------------------------------- */

static void par_supply(union sim_model *model, uint16_t mv)
{
    par_model_supply(&model->par, mv);
}

static uint8_t par_at(const union sim_model *model, uint32_t address)
{
    return par_model_at(&model->par, address);
}

static void par_line(union sim_model *any, enum cm_line line, bool low)
{
    struct par_model *model = &any->par;
    if (line == CM_LINE_A9_ID)
        model->a9_high = !low;
    else if (line == CM_LINE_VPP)
        model->vpp_high = !low;
}

static void par_init(union sim_model *model, const struct cm_part *part, uint8_t *cells)
{
    par_model_init(&model->par, cm_par_row(part), PAR_FLASH, cells);
}

static void ee28_init(union sim_model *model, const struct cm_part *part, uint8_t *cells)
{
    par_model_init(&model->par, cm_par_row(part), PAR_EE28, cells);
}

static void eprom_init(union sim_model *model, const struct cm_part *part, uint8_t *cells)
{
    par_model_init(&model->par, cm_par_row(part), PAR_EPROM, cells);
}

/* The first byte of `status`: bit 0 is the software data protection, bits 1 and 2 the boot locks;
 * the bytes behind it are sector locks. */
static void par_settle(union sim_model *any, const struct sim_bench_chip *chip)
{
    struct par_model *model = &any->par;
    uint8_t first = chip->status_count ? chip->status[0] : 0;
    model->sdp = first & 1;
    model->boot_low_locked = first >> 1 & 1;
    model->boot_high_locked = first >> 2 & 1;
    for (unsigned i = 1; i < chip->status_count; i++)
        model->sector_locks |= (uint32_t)chip->status[i] << 8 * (i - 1);
}

static void par_mend(union sim_model *model, const struct sim_faults *faults)
{
    model->par.worn_at = faults->worn_at - 1;
    model->par.stuck_at = faults->stuck_at - 1;
}

static int par_fields(union sim_model *any, struct sim_field *fields)
{
    struct par_model *model = &any->par;
    const struct sim_field all[] = {
        NUMBER(busy_until_ns),    NUMBER(supply_mv),    NUMBER(programs),
        NUMBER(erases),           NUMBER(sdp),          NUMBER(boot_low_locked),
        NUMBER(boot_high_locked), NUMBER(sector_locks), NUMBER(id_mode)};
    for (size_t i = 0; i < sizeof all / sizeof all[0]; i++)
        fields[i] = all[i];
    return sizeof all / sizeof all[0];
}

#define PARALLEL(init_function)                                                                    \
    {                                                                                              \
        .lines = CM_LINE_BIT(CM_LINE_CE) | CM_LINE_BIT(CM_LINE_OE) | CM_LINE_BIT(CM_LINE_WE),      \
        .rest_low = CM_LINE_BIT(CM_LINE_A9_ID) | CM_LINE_BIT(CM_LINE_VPP), .bus = SIM_PARALLEL,    \
        .max_hz = 20000000, PLACES(par, PAR_BREACH_COUNT), .breach_words = par_breach_words,       \
        .supply = par_supply, .line = par_line, .init = init_function, .settle = par_settle,       \
        .mend = par_mend, .at = par_at, .fields = par_fields                                       \
    }
const struct sim_kind sim_par = PARALLEL(par_init);
const struct sim_kind sim_ee28 = PARALLEL(ee28_init);
const struct sim_kind sim_eprom = PARALLEL(eprom_init);

/* --- I2C --------------------------------------------------------------------------------- */

static void i2c24_supply(union sim_model *model, uint16_t mv)
{
    i2c24_model_supply(&model->i2c24, mv);
}

static uint8_t i2c24_at(const union sim_model *model, uint32_t address)
{
    return i2c24_model_at(&model->i2c24, address);
}

static void i2c24_line(union sim_model *model, enum cm_line line, bool low)
{
    if (line == CM_LINE_WP)
        model->i2c24.wp_high = !low;
}

static void i2c24_init(union sim_model *model, const struct cm_part *part, uint8_t *cells)
{
    i2c24_model_init(&model->i2c24, cm_i2c24_row(part), cells);
}

/* The first byte of `status` is how the address pins are wired. */
static void i2c24_settle(union sim_model *model, const struct sim_bench_chip *chip)
{
    model->i2c24.pins = chip->status_count ? chip->status[0] & 7 : 0;
}

static void i2c24_mend(union sim_model *model, const struct sim_faults *faults)
{
    model->i2c24.stuck_at = faults->stuck_at - 1;
    model->i2c24.stretch_us = faults->stretch_us;
    if (faults->sda_held)
        i2c24_model_cut(&model->i2c24);
}

static int i2c24_fields(union sim_model *any, struct sim_field *fields)
{
    struct i2c24_model *model = &any->i2c24;
    const struct sim_field all[] = {NUMBER(busy_until_ns), NUMBER(supply_mv), NUMBER(programs),
                                    NUMBER(address), NUMBER(pins)};
    for (size_t i = 0; i < sizeof all / sizeof all[0]; i++)
        fields[i] = all[i];
    return sizeof all / sizeof all[0];
}

const struct sim_kind sim_i2c24 = {.lines = CM_LINE_BIT(CM_LINE_SDA) | CM_LINE_BIT(CM_LINE_SCL),
                                   .rest_low = CM_LINE_BIT(CM_LINE_WP),
                                   .bus = SIM_TWO_WIRE,
                                   .max_hz = 400000,
                                   PLACES(i2c24, I2C24_BREACH_COUNT),
                                   .breach_words = i2c24_breach_words,
                                   .supply = i2c24_supply,
                                   .line = i2c24_line,
                                   .init = i2c24_init,
                                   .settle = i2c24_settle,
                                   .mend = i2c24_mend,
                                   .at = i2c24_at,
                                   .fields = i2c24_fields};

/* --- three wires ------------------------------------------------------------------------- */

static void m93_supply(union sim_model *model, uint16_t mv)
{
    m93_model_supply(&model->m93, mv);
}

static uint8_t m93_byte(union sim_model *model, uint8_t byte, uint64_t half_ns)
{
    return m93_model_byte(&model->m93, byte, half_ns);
}

static void m93_sck(union sim_model *model, bool high, bool mosi)
{
    m93_model_sck(&model->m93, high, mosi);
}

static bool m93_miso(union sim_model *model)
{
    return m93_model_miso(&model->m93);
}

static uint8_t m93_at(const union sim_model *model, uint32_t address)
{
    return m93_model_at(&model->m93, address);
}

static void m93_line(union sim_model *model, enum cm_line line, bool low)
{
    if (line == CM_LINE_SELECT)
        m93_model_select(&model->m93, !low);
}

static void m93_init(union sim_model *model, const struct cm_part *part, uint8_t *cells)
{
    m93_model_init(&model->m93, cm_m93_row(part), cells);
}

static void m93_mend(union sim_model *model, const struct sim_faults *faults)
{
    model->m93.stuck_at = faults->stuck_at - 1;
}

static int m93_fields(union sim_model *any, struct sim_field *fields)
{
    struct m93_model *model = &any->m93;
    const struct sim_field all[] = {NUMBER(busy_until_ns), NUMBER(supply_mv), NUMBER(programs),
                                    NUMBER(enabled)};
    for (size_t i = 0; i < sizeof all / sizeof all[0]; i++)
        fields[i] = all[i];
    return sizeof all / sizeof all[0];
}

const struct sim_kind sim_m93 = {.lines = CM_LINE_BIT(CM_LINE_SELECT),
                                 .rest_low = CM_LINE_BIT(CM_LINE_SELECT),
                                 .max_hz = 4000000,
                                 PLACES(m93, M93_BREACH_COUNT),
                                 .breach_words = m93_breach_words,
                                 .supply = m93_supply,
                                 .byte = m93_byte,
                                 .sck = m93_sck,
                                 .miso = m93_miso,
                                 .line = m93_line,
                                 .init = m93_init,
                                 .mend = m93_mend,
                                 .at = m93_at,
                                 .fields = m93_fields};

/* --- the library's tables ---------------------------------------------------------------- */

static const struct {
    struct cm_kit kit;
    const struct sim_kind *kind;
} KINDS[] = {
    {{.family = &cm_avr, .parts = cm_avr_all_parts, .part_count = CM_AVR_PART_COUNT}, &sim_avr},
    {{.family = &cm_nor, .parts = cm_nor_all_parts, .part_count = CM_NOR_PART_COUNT}, &sim_nor},
    {{.family = &cm_ee25, .parts = cm_ee25_all_parts, .part_count = CM_EE25_PART_COUNT}, &sim_nor},
    {{.family = &cm_par, .parts = cm_par_all_parts, .part_count = CM_PAR_PART_COUNT}, &sim_par},
    {{.family = &cm_ee28, .parts = cm_ee28_all_parts, .part_count = CM_EE28_PART_COUNT}, &sim_ee28},
    {{.family = &cm_eprom, .parts = cm_eprom_all_parts, .part_count = CM_EPROM_PART_COUNT},
     &sim_eprom},
    {{.family = &cm_i2c24, .parts = cm_i2c24_all_parts, .part_count = CM_I2C24_PART_COUNT},
     &sim_i2c24},
    {{.family = &cm_m93, .parts = cm_m93_all_parts, .part_count = CM_M93_PART_COUNT}, &sim_m93},
};

const struct cm_part *sim_find_part(const char *name, const struct sim_kind **kind)
{
    for (size_t i = 0; i < sizeof KINDS / sizeof KINDS[0]; i++) {
        const struct cm_part *part = cm_part_by_name(&KINDS[i].kit, 1, name);
        *kind = KINDS[i].kind;
        if (part)
            return part;
    }
    return NULL;
}

uint32_t sim_memory_bytes(const struct cm_part *part, const struct sim_kind *kind)
{
    for (size_t i = 0; i < sizeof KINDS / sizeof KINDS[0]; i++) {
        struct cm_region region;
        if (KINDS[i].kind == kind && KINDS[i].kit.family->region(part, CM_REGION_MAIN, &region))
            return region.bytes;
    }
    return 0;
}
