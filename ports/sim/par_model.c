/*
 * The strict model of parallel memories. Sources: the data sheets' chapters "Command definitions",
 * "Write operation status", "Software data protection" and "AC characteristics" of the parts that
 * the table's groups are named after; JESD68.01 for the query.
 *
 * Here are cells, protection, reading and pins; par_commands.c has what write cycles mean. While
 * something is under way every reading shows its status.
 */
#include "par_inside.h"
#include <string.h>

const char *const par_breach_words[PAR_BREACH_COUNT] = {
    [PAR_BREACH_WHILE_BUSY] = "write cycle while the part was busy",
    [PAR_BREACH_SEQUENCE] = "write cycle that is part of no command",
    [PAR_BREACH_CYCLE] = "cycle shorter than the part's",
    [PAR_BREACH_PROTECTED] = "write or erase of a protected area",
    [PAR_BREACH_NOT_ERASED] = "program of a bit that was not erased",
    [PAR_BREACH_ACROSS_PAGES] = "bytes of several pages in one page load",
    [PAR_BREACH_MODE_TIME] = "reading before the id mode had come or gone",
    [PAR_BREACH_SUPPLY] = "write with the supply outside the part's range",
    [PAR_BREACH_PULSE] = "write pulse of the wrong length or voltage",
    [PAR_BREACH_CONFLICT] = "data lines driven by both sides",
};

enum { STATUS_7 = 0x80, STATUS_6 = 0x40, STATUS_5 = 0x20, KIB = 1024 };

void par_breached(struct par_model *model, enum par_breach kind)
{
    model->breaches[kind]++;
}

uint32_t par_model_breaches(const struct par_model *model)
{
    uint32_t sum = 0;
    for (int i = 0; i < PAR_BREACH_COUNT; i++)
        sum += model->breaches[i];
    return sum;
}

uint8_t par_model_at(const struct par_model *model, uint32_t address)
{
    uint8_t byte = (uint8_t)~model->memory[address];
    return address == model->stuck_at ? byte | 1u : byte;
}

void par_model_set(struct par_model *model, uint32_t address, uint8_t byte)
{
    if (par_model_at(model, address) != byte)
        model->memory[address] = (uint8_t)~byte;
}

bool par_is_wide(const struct par_model *model)
{
    return model->row->traits & CM_PAR_WIDE;
}

uint32_t par_units(const struct par_model *model)
{
    return par_is_wide(model) ? model->row->bytes / 2 : model->row->bytes;
}

static uint16_t unit_at(const struct par_model *model, uint32_t address)
{
    address %= par_units(model);
    if (!par_is_wide(model))
        return par_model_at(model, address);
    return (uint16_t)(par_model_at(model, 2 * address) | par_model_at(model, 2 * address + 1) << 8);
}

static void power_up(struct par_model *model)
{
    model->step = 0;
    model->gave_up = model->armed = model->id_mode = model->cfi_mode = model->loading =
        model->erasing = false;
    model->pending_count = 0;
    model->busy_until_ns = 0;
}

void par_model_init(struct par_model *model, const struct cm_par_part *row, enum par_kind kind,
                    uint8_t *memory)
{
    memset(model, 0, sizeof *model);
    model->row = row;
    model->kind = kind;
    model->memory = memory;
    model->slow_percent = 100;
    model->worn_at = model->stuck_at = model->weak_at = UINT32_MAX;
    model->ce = model->oe = model->we = true;
}

void par_model_supply(struct par_model *model, uint16_t mv)
{
    bool was_off = model->supply_mv < PAR_ALIVE_FROM_MV;
    model->supply_mv = mv;
    if (was_off && mv >= PAR_ALIVE_FROM_MV)
        power_up(model);
}

void par_start_busy(struct par_model *model, uint64_t from_ns, uint64_t us)
{
    model->busy_until_ns = from_ns + us * 10 * model->slow_percent;
}

/* --- protection -------------------------------------------------------------------------- */

uint32_t par_sector_bytes(const struct par_model *model)
{
    const struct cm_par_erases *erases = model->row->erases;
    return erases && erases->units[0].bytes ? erases->units[0].bytes : model->row->bytes;
}

bool par_has_large_sectors(const struct par_model *model)
{
    const struct cm_par_erases *erases = model->row->erases;
    return erases && erases->units[0].bytes >= 16 * KIB;
}

uint8_t par_sector_of(const struct par_model *model, uint32_t address, uint32_t *start,
                      uint32_t *bytes)
{
    const struct cm_par_erases *erases = model->row->erases;
    uint32_t unit = par_sector_bytes(model), units = model->row->bytes / unit,
             number = address / unit;
    uint8_t cuts = 0, before = 0;
    *start = number * unit;
    *bytes = unit;
    while (erases && cuts < CM_PAR_BOOT_SECTORS && erases->boot[cuts])
        cuts++;
    bool cut = cuts && number == (erases->boot_at_top ? units - 1 : 0);
    for (uint8_t i = 0; cut && i < cuts; i++) {
        *bytes = erases->boot[i] * (uint32_t)KIB;
        if (address < *start + *bytes)
            break;
        *start += *bytes;
        before++;
    }
    bool behind = cuts && !erases->boot_at_top && number > 0;
    return (uint8_t)(number + before + (behind ? cuts - 1u : 0));
}

static bool is_locked(const struct par_model *model, uint32_t address)
{
    uint32_t start, bytes;
    return (model->row->traits & CM_PAR_SECTOR_LOCKS) &&
           (model->sector_locks >> par_sector_of(model, address, &start, &bytes) & 1);
}

bool par_model_protects(const struct par_model *model, uint32_t address)
{
    const struct cm_par_part *row = model->row;
    if ((row->traits & CM_PAR_BOOT_LOCK_LOW) && model->boot_low_locked && address < row->boot_bytes)
        return true;
    if ((row->traits & CM_PAR_BOOT_LOCK_HIGH) && model->boot_high_locked &&
        address >= row->bytes - row->boot_bytes)
        return true;
    return is_locked(model, address);
}

bool par_may_write(struct par_model *model, uint32_t first, uint32_t bytes)
{
    bool supplied = model->supply_mv >= model->row->part.supply_min_mv &&
                    model->supply_mv <= model->row->part.supply_max_mv;
    if (!supplied)
        par_breached(model, PAR_BREACH_SUPPLY);
    uint32_t step = bytes < KIB ? bytes : KIB;
    for (uint32_t at = first; at < first + bytes; at += step) {
        if (par_model_protects(model, at)) {
            par_breached(model, PAR_BREACH_PROTECTED);
            return false;
        }
    }
    return supplied;
}

static void check_period(struct par_model *model, uint64_t period_ns)
{
    if (period_ns < model->row->cycle_ns)
        par_breached(model, PAR_BREACH_CYCLE);
}

/* How long CE and WE were low, and are high behind it. An EPROM's pulses are looked at where they
 * are taken. */
static void check_pulse(struct par_model *model, uint64_t low_ns, uint64_t high_ns)
{
    const struct cm_par_times *times = model->row->times;
    if (model->kind != PAR_EPROM &&
        (low_ns < times->pulse.low_ns || high_ns < times->pulse.high_ns))
        par_breached(model, PAR_BREACH_PULSE);
}

void par_model_write(struct par_model *model, uint32_t address, uint16_t data, uint64_t pulse_ns,
                     uint64_t period_ns)
{
    check_period(model, period_ns);
    model->now_ns += period_ns;
    check_pulse(model, pulse_ns, period_ns - pulse_ns);
    par_take_cycle(model, address, data, pulse_ns);
}

/* --- reading ----------------------------------------------------------------------------- */

static uint16_t id_at(const struct par_model *model, uint32_t address)
{
    const uint8_t *id = model->row->part.id;
    uint32_t bytes = model->row->bytes,
             at = (address % par_units(model)) * (par_is_wide(model) ? 2u : 1u),
             low = address & 0xFF;
    uint32_t start, sector;
    (void)par_sector_of(model, at, &start, &sector);
    if (low == 0 && at < 0x100)
        return id[0];
    if (low == 1 && at < 0x100)
        return (uint16_t)(id[1] | id[2] << 8); // of a part of 8 bits the last is 0
    if ((model->row->traits & CM_PAR_SECTOR_LOCKS) && at - start == (par_is_wide(model) ? 4u : 2u))
        return is_locked(model, at);
    if ((model->row->traits & CM_PAR_BOOT_LOCK_LOW) && at == 2)
        return model->boot_low_locked ? 0xFF : 0xFE;
    if ((model->row->traits & CM_PAR_BOOT_LOCK_HIGH) && at == bytes - 14)
        return model->boot_high_locked ? 0xFF : 0xFE;
    return 0;
}

static uint8_t log2_of(uint32_t value)
{
    uint8_t bits = 0;
    while (value > 1) {
        value >>= 1;
        bits++;
    }
    return bits;
}

/* The query table of a wide part with sectors of one size. */
static uint8_t cfi_at(const struct par_model *model, uint32_t place)
{
    const struct cm_par_part *row = model->row;
    uint32_t sector = par_sector_bytes(model), count = row->bytes / sector - 1;
    switch (place) {
    case 0x10:
        return 'Q';
    case 0x11:
        return 'R';
    case 0x12:
        return 'Y';
    case 0x13:
        return 0x02;
    case 0x1B:
        return (uint8_t)(row->part.supply_min_mv / 1000 << 4 |
                         row->part.supply_min_mv % 1000 / 100);
    case 0x1C:
        return (uint8_t)(row->part.supply_max_mv / 1000 << 4 |
                         row->part.supply_max_mv % 1000 / 100);
    case 0x1F:
        return log2_of(row->times->program_us);
    case 0x21:
        return row->erases ? log2_of(row->erases->units[0].us / 1000) : 0;
    case 0x23:
    case 0x25:
        return 4;
    case 0x27:
        return log2_of(row->bytes);
    case 0x2C:
        return 1;
    case 0x2D:
        return (uint8_t)count;
    case 0x2E:
        return (uint8_t)(count >> 8);
    case 0x2F:
        return (uint8_t)(sector / 256);
    case 0x30:
        return (uint8_t)(sector / 256 >> 8);
    default:
        return 0;
    }
}

/* Status while something is under way: bit 7 the complement, bit 6 the other way each time; bit 5
 * where the part has given up. */
static uint16_t status(struct par_model *model)
{
    uint8_t byte = (uint8_t)(~model->last_data & STATUS_7);
    if (model->erasing)
        byte = 0;
    model->toggle ^= STATUS_6;
    bool toggles =
        !(model->kind == PAR_EE28 &&
          !(model->row->traits & CM_PAR_SDP)); // the oldest EEPROMs have data polling alone
    return (uint16_t)(byte | (toggles ? model->toggle & STATUS_6 : 0) |
                      (model->gave_up ? STATUS_5 : 0));
}

/* Lines that are still wrong just behind the end of a write: "valid data on the entire data bus
 * will appear in subsequent successive read cycles after an interval of 1 us" (SST39SF sheets,
 * "Data# polling"; AMD's say the same without a time). Where it was written, polling shows that all
 * is over, and no more. */
static uint16_t not_yet(const struct par_model *model, uint32_t address)
{
    enum { INTERVAL_NS = 1000, WRONG = 0x2A2A };
    bool by_units = model->kind == PAR_FLASH && model->row->page_bytes <= 1;
    return by_units && model->busy_until_ns && address != model->last_load &&
                   model->now_ns - model->busy_until_ns < INTERVAL_NS
               ? WRONG
               : 0;
}

static uint16_t read_now(struct par_model *model, uint32_t address)
{
    par_catch_up(model);
    if (model->supply_mv < PAR_ALIVE_FROM_MV)
        return 0xFFFF;
    if (model->kind == PAR_EPROM) {
        if (model->a9_high && model->row->a9_id[0])
            return model->row->a9_id[address & 1];
        return unit_at(model, address);
    }
    if (model->now_ns < model->busy_until_ns || model->loading || model->gave_up)
        return status(model);
    if (model->now_ns < model->mode_from_ns) {
        par_breached(model, PAR_BREACH_MODE_TIME);
        return 0;
    }
    if (model->cfi_mode)
        return cfi_at(model, address & 0xFF);
    return model->id_mode ? id_at(model, address)
                          : unit_at(model, address) ^ not_yet(model, address);
}

uint16_t par_model_read(struct par_model *model, uint32_t address, uint64_t period_ns)
{
    check_period(model, period_ns);
    model->now_ns += period_ns;
    return read_now(model, address);
}

/* --- by pins ----------------------------------------------------------------------------- */

void par_model_pins(struct par_model *model, bool ce, bool oe, bool we, uint32_t address,
                    uint16_t data)
{
    // "write inhibit": OE low keeps a chip from writing, but not an EPROM from its pulse
    bool inhibits = model->kind != PAR_EPROM;
    bool wrote = !model->ce && !model->we && (model->oe || !inhibits),
         writes = !ce && !we && (oe || !inhibits), read = !model->ce && !model->oe && model->we,
         reads = !ce && !oe && we;
    if (!ce && !we && !oe && inhibits && (model->ce || model->we || model->oe))
        par_breached(model, PAR_BREACH_CONFLICT);
    if (writes && !wrote)
        model->pulse_from_ns = model->now_ns;
    if (wrote && !writes) { // what stood on the lines before the edge
        check_pulse(model, model->now_ns - model->pulse_from_ns, UINT64_MAX);
        par_take_cycle(model, model->pin_address, model->pin_data,
                       model->now_ns - model->pulse_from_ns);
    }
    model->ce = ce;
    model->oe = oe;
    model->we = we;
    model->pin_address = address;
    model->pin_data = data;
    if (reads && !read)
        model->pin_answer = read_now(model, address);
}
