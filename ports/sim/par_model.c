/*
 * The strict model of parallel memories. Sources: the data sheets' chapters "Command definitions", "Write operation status", "Software data protection" and "AC characteristics" of the parts that the table's groups
 * are named after; JESD68.01 for the query.
 *
 * A write cycle that is no step of a known command ends the command: nothing happens, and it is counted. While something is under way every reading shows its status.
 */
#include "par_model.h"
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
    [PAR_BREACH_PULSE] = "program pulse of the wrong length or voltage",
    [PAR_BREACH_CONFLICT] = "data lines driven by both sides",
};

enum {
    ALIVE_FROM_MV = 2000,
    BYTE_LOAD_NS = 150000,
    PROTECTED_NS = 2000,
    LEAST_PULSE_NS = 95000,
    MOST_PULSE_NS = 105000,
    STATUS_7 = 0x80,
    STATUS_6 = 0x40,
    STATUS_5 = 0x20,
    KIB = 1024
};

static void breach(struct par_model *model, enum par_breach kind)
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

static bool is_wide(const struct par_model *model)
{
    return model->row->traits & CM_PAR_WIDE;
}

static uint32_t units(const struct par_model *model)
{
    return is_wide(model) ? model->row->bytes / 2 : model->row->bytes;
}

static uint16_t unit_at(const struct par_model *model, uint32_t address)
{
    address %= units(model);
    if (!is_wide(model))
        return par_model_at(model, address);
    return (uint16_t)(par_model_at(model, 2 * address) | par_model_at(model, 2 * address + 1) << 8);
}

static void power_up(struct par_model *model)
{
    model->step = 0;
    model->armed = model->id_mode = model->cfi_mode = model->loading = model->erasing = false;
    model->pending_count = 0;
    model->busy_until_ns = 0;
}

void par_model_init(struct par_model *model, const struct cm_par_part *row, enum par_kind kind, uint8_t *memory)
{
    memset(model, 0, sizeof *model);
    model->row = row;
    model->kind = kind;
    model->memory = memory;
    model->slow_percent = 100;
    model->worn_at = model->stuck_at = UINT32_MAX;
    model->ce = model->oe = model->we = true;
}

void par_model_supply(struct par_model *model, uint16_t mv)
{
    bool was_off = model->supply_mv < ALIVE_FROM_MV;
    model->supply_mv = mv;
    if (was_off && mv >= ALIVE_FROM_MV)
        power_up(model);
}

static void start_busy(struct par_model *model, uint64_t from_ns, uint64_t us)
{
    model->busy_until_ns = from_ns + us * 10 * model->slow_percent;
}

/* --- protection ------------------------------------------------------------------------------------------------------ */

static uint32_t sector_bytes(const struct par_model *model)
{
    const struct cm_par_erases *erases = model->row->erases;
    return erases && erases->units[0].bytes ? erases->units[0].bytes : model->row->bytes;
}

bool par_model_protects(const struct par_model *model, uint32_t address)
{
    const struct cm_par_part *row = model->row;
    if ((row->traits & CM_PAR_BOOT_LOCK_LOW) && model->boot_low_locked && address < row->boot_bytes)
        return true;
    if ((row->traits & CM_PAR_BOOT_LOCK_HIGH) && model->boot_high_locked && address >= row->bytes - row->boot_bytes)
        return true;
    return (row->traits & CM_PAR_SECTOR_LOCKS) && (model->sector_locks >> address / sector_bytes(model) & 1);
}

static bool may_write(struct par_model *model, uint32_t first, uint32_t bytes)
{
    bool supplied = model->supply_mv >= model->row->part.supply_min_mv && model->supply_mv <= model->row->part.supply_max_mv;
    if (!supplied)
        breach(model, PAR_BREACH_SUPPLY);
    uint32_t step = bytes < KIB ? bytes : KIB;
    for (uint32_t at = first; at < first + bytes; at += step) {
        if (par_model_protects(model, at)) {
            breach(model, PAR_BREACH_PROTECTED);
            return false;
        }
    }
    return supplied;
}

/* --- programming ----------------------------------------------------------------------------------------------------- */

static void program_byte(struct par_model *model, uint32_t address, uint8_t byte)
{
    uint8_t old = par_model_at(model, address);
    if ((old & byte) != byte)
        breach(model, PAR_BREACH_NOT_ERASED);
    par_model_set(model, address, old & byte);
}

static void program_unit(struct par_model *model, uint32_t address, uint16_t data)
{
    uint32_t at = (address % units(model)) * (is_wide(model) ? 2u : 1u);
    model->last_data = data;
    model->erasing = false;
    if (!may_write(model, at, 1)) {
        model->busy_until_ns = model->now_ns + PROTECTED_NS;
        return;
    }
    program_byte(model, at, (uint8_t)data);
    if (is_wide(model))
        program_byte(model, at + 1, (uint8_t)(data >> 8));
    model->programs++;
    start_busy(model, model->now_ns, model->row->times->program_us);
}

/* --- page loading ---------------------------------------------------------------------------------------------------- */

/* The time for another byte is over: what was loaded is written. */
static void commit_page(struct par_model *model)
{
    bool taken = (!model->sdp || model->page_unlocked) && may_write(model, model->page_base, model->row->page_bytes);
    uint64_t begins = model->loaded_ns + BYTE_LOAD_NS;
    model->loading = model->page_unlocked = false;
    model->step = 0;
    start_busy(model, begins, model->row->times->program_us); // the timers run whether it is taken or not
    if (!taken)
        return;
    for (uint32_t i = 0; i < model->row->page_bytes; i++) {
        if (model->filled[i])
            par_model_set(model, model->page_base + i, model->page[i]);
        else if (model->row->traits & CM_PAR_WHOLE_PAGES)
            par_model_set(model, model->page_base + i, 0xFF);
    }
    model->programs++;
}

static void load_byte(struct par_model *model, uint32_t address, uint8_t byte)
{
    uint32_t page = model->row->page_bytes, base = address % model->row->bytes & ~(page - 1);
    if (!model->loading) {
        memset(model->filled, 0, sizeof model->filled);
    } else if (base != model->page_base) {
        for (uint32_t i = 0; i < page; i++) {
            if (model->filled[i]) {
                breach(model, PAR_BREACH_ACROSS_PAGES);
                break;
            }
        }
    }
    model->loading = true;
    model->page_base = base;
    model->page[address & (page - 1)] = byte;
    model->filled[address & (page - 1)] = true;
    model->last_data = byte;
    model->last_load = address;
    model->loaded_ns = model->now_ns;
    model->erasing = false;
}

static void load_nothing(struct par_model *model)
{
    memset(model->filled, 0, sizeof model->filled);
    model->loading = true;
    model->pending_count = 0;
    model->loaded_ns = model->now_ns;
}

/* --- commands -------------------------------------------------------------------------------------------------------- */

/* Parts with large sectors decode eleven address lines for commands, the others fifteen, or all they have. */
static bool is_at(const struct par_model *model, uint32_t address, uint32_t wanted)
{
    uint32_t mask = sector_bytes(model) >= 16 * KIB && model->row->erases && model->row->erases->units[0].bytes ? 0x7FF : 0x7FFF;
    if (units(model) <= mask)
        mask = units(model) - 1;
    return ((address ^ wanted) & mask) == 0;
}

static void erase_bytes(struct par_model *model, uint32_t first, uint32_t bytes, uint32_t us)
{
    model->erasing = true;
    model->last_data = 0xFFFF;
    bool whole = bytes == model->row->bytes;
    if (whole ? !may_write(model, 0, 1) && !(model->row->traits & CM_PAR_SECTOR_LOCKS) : !may_write(model, first, bytes)) {
        model->busy_until_ns = model->now_ns + 100000;
        return;
    }
    for (uint32_t i = first; i < first + bytes; i++) {
        if (i != model->worn_at && !par_model_protects(model, i))
            par_model_set(model, i, 0xFF);
    }
    model->erases++;
    start_busy(model, model->now_ns, us);
}

/* The sector that an address is in: a unit, or the part of one at the end that is cut up. */
static void erase_at(struct par_model *model, uint32_t address, uint8_t opcode)
{
    const struct cm_par_erases *erases = model->row->erases;
    uint32_t at = (address % units(model)) * (is_wide(model) ? 2u : 1u);
    for (int i = 0; erases && i < CM_PAR_UNITS && erases->units[i].bytes; i++) {
        const struct cm_par_erase *unit = &erases->units[i];
        if (unit->opcode != opcode)
            continue;
        uint32_t start = at & ~(unit->bytes - 1), end = start + unit->bytes;
        bool cut = erases->boot[0] && (erases->boot_at_top ? end == model->row->bytes : start == 0);
        for (int b = 0; cut && b < CM_PAR_BOOT_SECTORS; b++) {
            end = start + erases->boot[b] * (uint32_t)KIB;
            if (at < end)
                break;
            start = end;
        }
        erase_bytes(model, start, end - start, unit->us);
        return;
    }
    breach(model, PAR_BREACH_SEQUENCE);
}

static void change_mode(struct par_model *model, bool id)
{
    model->id_mode = id;
    model->cfi_mode = model->loading = false;
    model->mode_from_ns = model->now_ns + model->row->times->id_us * 1000ull;
}

static bool loads_pages(const struct par_model *model)
{
    return model->kind == PAR_EE28 || model->row->page_bytes > 1;
}

/* The third cycle of a command, at the first unlock address. */
static bool command(struct par_model *model, uint8_t data)
{
    bool has_id = model->kind == PAR_FLASH;
    switch (data) {
    case 0xA0:
        if (loads_pages(model) && !(model->row->traits & CM_PAR_SDP))
            return false;
        model->armed = true;
        if (loads_pages(model)) {
            model->sdp = model->page_unlocked = true;
            load_nothing(model);
            model->armed = false;
        }
        return true;
    case 0x90:
        if (has_id)
            change_mode(model, true);
        return has_id;
    case 0xF0:
        if (has_id)
            change_mode(model, false);
        return has_id;
    default:
        return false;
    }
}

/* The sixth cycle. */
static bool long_command(struct par_model *model, uint32_t address, uint8_t data)
{
    if (loads_pages(model)) {
        if (data != 0x20 || !(model->row->traits & CM_PAR_SDP) || !is_at(model, address, 0x5555))
            return false;
        model->sdp = false;
        load_nothing(model);
        model->page_unlocked = true;
        return true;
    }
    if (data == 0x10 && is_at(model, address, 0x5555) && model->row->erases && model->row->erases->chip_us)
        erase_bytes(model, 0, model->row->bytes, model->row->erases->chip_us);
    else
        erase_at(model, address, data);
    return true;
}

/* Is this cycle the next one of a command? Then the step is taken, and at its end the command is done. */
static bool decode(struct par_model *model, uint32_t address, uint8_t data)
{
    static const struct {
        uint32_t address;
        uint8_t data;
    } STEPS[] = {{0x5555, 0xAA}, {0x2AAA, 0x55}, {0x5555, 0x80}, {0x5555, 0xAA}, {0x2AAA, 0x55}};
    uint8_t step = model->step;
    if (step < 5 && data == STEPS[step].data && is_at(model, address, STEPS[step].address)) {
        model->step++;
        return true;
    }
    model->step = 0;
    if (step == 2 && is_at(model, address, 0x5555))
        return command(model, data);
    if (step == 5)
        return long_command(model, address, data);
    if (data == STEPS[0].data && is_at(model, address, STEPS[0].address)) {
        model->step = 1;
        return true;
    }
    return false;
}

/* What began like a command and is none was data. */
static void load_pending(struct par_model *model)
{
    uint8_t count = model->pending_count;
    model->pending_count = 0;
    for (uint8_t i = 0; i < count; i++)
        load_byte(model, model->pending[i].address, (uint8_t)model->pending[i].data);
}

/* A cycle of a part that loads pages: what may be a command is kept back, until it is one or is not. */
static void write_page_part(struct par_model *model, uint32_t address, uint8_t data)
{
    uint8_t before = model->step;
    if (!model->loading)
        model->page_unlocked = false;
    bool heard = decode(model, address, data);
    bool complete = heard && model->step == 0 && before != 0;
    if (complete || model->id_mode) {
        model->pending_count = 0;
        return;
    }
    if (heard) {
        if (model->step == 1 && before > 0)
            load_pending(model);
        if (!model->loading)
            load_nothing(model);
        model->pending[model->pending_count++] = (struct cm_cycle){address, data};
        model->loaded_ns = model->now_ns;
        return;
    }
    load_pending(model);
    load_byte(model, address, data);
}

static bool is_filled(const struct par_model *model)
{
    for (uint32_t i = 0; i < PAR_PAGE_MAX; i++) {
        if (model->filled[i])
            return true;
    }
    return false;
}

/* The time for another byte may be over. */
static void catch_up(struct par_model *model)
{
    if (!model->loading || model->now_ns < model->loaded_ns + BYTE_LOAD_NS)
        return;
    if (model->kind == PAR_EE28) {
        uint64_t loaded_ns = model->loaded_ns;
        load_pending(model);
        model->loaded_ns = loaded_ns;
    }
    model->pending_count = 0;
    if (is_filled(model)) {
        commit_page(model);
        return;
    }
    model->loading = false; // a command alone, such as that of the protection
    model->step = 0;
    start_busy(model, model->loaded_ns + BYTE_LOAD_NS, model->row->times->program_us);
}

static void write_flash(struct par_model *model, uint32_t address, uint16_t data)
{
    if (model->armed) {
        model->armed = false;
        program_unit(model, address, data);
        return;
    }
    if ((data & 0xFF) == 0xF0 && model->step < 2) { // the short reset
        model->step = 0;
        change_mode(model, false);
        return;
    }
    if ((data & 0xFF) == 0x98 && (address & 0xFF) == 0x55 && is_wide(model) && model->step == 0) {
        model->cfi_mode = true;
        return;
    }
    if (!decode(model, address, (uint8_t)data))
        breach(model, PAR_BREACH_SEQUENCE);
}

static void write_eprom(struct par_model *model, uint32_t address, uint16_t data, uint64_t pulse_ns)
{
    bool good = model->vpp_high && model->supply_mv >= 6000 && model->supply_mv <= 6750 && pulse_ns >= LEAST_PULSE_NS &&
                pulse_ns <= MOST_PULSE_NS;
    if (!good) {
        breach(model, PAR_BREACH_PULSE);
        return;
    }
    uint32_t at = (address % units(model)) * (is_wide(model) ? 2u : 1u);
    program_byte(model, at, (uint8_t)data);
    if (is_wide(model))
        program_byte(model, at + 1, (uint8_t)(data >> 8));
    model->programs++;
}

static void write_now(struct par_model *model, uint32_t address, uint16_t data, uint64_t pulse_ns)
{
    catch_up(model);
    if (model->supply_mv < ALIVE_FROM_MV)
        return;
    if (model->kind == PAR_EPROM) {
        write_eprom(model, address, data, pulse_ns);
        return;
    }
    if (model->now_ns < model->busy_until_ns) {
        breach(model, PAR_BREACH_WHILE_BUSY);
        return;
    }
    if (loads_pages(model))
        write_page_part(model, address, (uint8_t)data);
    else
        write_flash(model, address, data);
}

static void check_period(struct par_model *model, uint64_t period_ns)
{
    if (period_ns < model->row->cycle_ns)
        breach(model, PAR_BREACH_CYCLE);
}

void par_model_write(struct par_model *model, uint32_t address, uint16_t data, uint64_t pulse_ns, uint64_t period_ns)
{
    check_period(model, period_ns);
    model->now_ns += pulse_ns > period_ns ? pulse_ns : period_ns;
    write_now(model, address, data, pulse_ns);
}

/* --- reading --------------------------------------------------------------------------------------------------------- */

static uint16_t id_at(const struct par_model *model, uint32_t address)
{
    const uint8_t *id = model->row->part.id;
    uint32_t bytes = model->row->bytes, at = (address % units(model)) * (is_wide(model) ? 2u : 1u), low = address & 0xFF;
    uint32_t place = at % sector_bytes(model);
    if (low == 0 && at < 0x100)
        return id[0];
    if (low == 1 && at < 0x100)
        return (uint16_t)(id[1] | id[2] << 8); // of a part of 8 bits the last is 0
    if ((model->row->traits & CM_PAR_SECTOR_LOCKS) && place == (is_wide(model) ? 4u : 2u))
        return model->sector_locks >> at / sector_bytes(model) & 1;
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
    uint32_t sector = sector_bytes(model), count = row->bytes / sector - 1;
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
        return (uint8_t)(row->part.supply_min_mv / 1000 << 4 | row->part.supply_min_mv % 1000 / 100);
    case 0x1C:
        return (uint8_t)(row->part.supply_max_mv / 1000 << 4 | row->part.supply_max_mv % 1000 / 100);
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

/* Status while something is under way: bit 7 the complement, bit 6 the other way each time. */
static uint16_t status(struct par_model *model)
{
    uint8_t byte = (uint8_t)(~model->last_data & STATUS_7);
    if (model->erasing)
        byte = 0;
    model->toggle ^= STATUS_6;
    bool toggles = !(model->kind == PAR_EE28 && !(model->row->traits & CM_PAR_SDP)); // the oldest EEPROMs have data polling alone
    return (uint16_t)(byte | (toggles ? model->toggle & STATUS_6 : 0));
}

static uint16_t read_now(struct par_model *model, uint32_t address)
{
    catch_up(model);
    if (model->supply_mv < ALIVE_FROM_MV)
        return 0xFFFF;
    if (model->kind == PAR_EPROM) {
        if (model->a9_high && model->row->a9_id[0])
            return model->row->a9_id[address & 1];
        return unit_at(model, address);
    }
    if (model->now_ns < model->busy_until_ns || model->loading)
        return status(model);
    if (model->now_ns < model->mode_from_ns) {
        breach(model, PAR_BREACH_MODE_TIME);
        return 0;
    }
    if (model->cfi_mode)
        return cfi_at(model, address & 0xFF);
    return model->id_mode ? id_at(model, address) : unit_at(model, address);
}

uint16_t par_model_read(struct par_model *model, uint32_t address, uint64_t period_ns)
{
    check_period(model, period_ns);
    model->now_ns += period_ns;
    return read_now(model, address);
}

/* --- by pins --------------------------------------------------------------------------------------------------------- */

void par_model_pins(struct par_model *model, bool ce, bool oe, bool we, uint32_t address, uint16_t data)
{
    bool wrote = !model->ce && !model->we, writes = !ce && !we, read = !model->ce && !model->oe && model->we,
         reads = !ce && !oe && we;
    if (writes && !oe)
        breach(model, PAR_BREACH_CONFLICT);
    if (writes && !wrote)
        model->pulse_from_ns = model->now_ns;
    if (wrote && !writes) // what stood on the lines before the edge
        write_now(model, model->pin_address, model->pin_data, model->now_ns - model->pulse_from_ns);
    model->ce = ce;
    model->oe = oe;
    model->we = we;
    model->pin_address = address;
    model->pin_data = data;
    if (reads && !read)
        model->pin_answer = read_now(model, address);
}
