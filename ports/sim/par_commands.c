/*
 * What write cycles mean to a parallel memory: commands, programming, pages being loaded, an
 * EPROM's pulses.
 *
 * A write cycle that is no step of a known command ends the command: nothing happens, and it is
 * counted.
 */
#include "par_inside.h"
#include <string.h>

enum {
    BYTE_LOAD_NS = 150000,
    PROTECTED_NS = 2000,
    LEAST_PULSE_NS = 95000,
    MOST_PULSE_NS = 105000,
    KIB = 1024
};

/* --- programming ------------------------------------------------------------------------- */

/* False where a bit is 0 that was to become 1: that takes an erase. */
static bool program_byte(struct par_model *model, uint32_t address, uint8_t byte)
{
    uint8_t old = par_model_at(model, address);
    bool reached = (old & byte) == byte;
    if (!reached)
        par_breached(model, PAR_BREACH_NOT_ERASED);
    if (address == model->weak_at && model->weak_pulses) {
        model->weak_pulses--;
        return reached;
    }
    par_model_set(model, address, old & byte);
    return reached;
}

static void program_unit(struct par_model *model, uint32_t address, uint16_t data)
{
    uint32_t at = (address % par_units(model)) * (par_is_wide(model) ? 2u : 1u);
    model->last_data = data;
    model->last_load = address;
    model->erasing = false;
    if (!par_may_write(model, at, 1)) {
        model->busy_until_ns = model->now_ns + PROTECTED_NS;
        return;
    }
    bool reached = program_byte(model, at, (uint8_t)data);
    if (par_is_wide(model))
        reached &= program_byte(model, at + 1, (uint8_t)(data >> 8));
    model->programs++;
    // "exceeded timing limits": parts with bit 5 try until they give up, and stay so
    model->gave_up = !reached && par_has_large_sectors(model);
    par_start_busy(model, model->now_ns,
                   model->gave_up ? model->row->times->program_max_us
                                  : model->row->times->program_us);
}

/* --- page loading ------------------------------------------------------------------------ */

/* The time for another byte is over: what was loaded is written. */
static void commit_page(struct par_model *model)
{
    bool taken = (!model->sdp || model->page_unlocked) &&
                 par_may_write(model, model->page_base, model->row->page_bytes);
    uint64_t begins = model->loaded_ns + BYTE_LOAD_NS;
    model->loading = model->page_unlocked = false;
    model->step = 0;
    // the timers run whether it is taken or not
    par_start_busy(model, begins, model->row->times->program_us);
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
                par_breached(model, PAR_BREACH_ACROSS_PAGES);
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

/* --- commands ---------------------------------------------------------------------------- */

/* Parts with large sectors decode eleven address lines for commands, the others fifteen, or all
 * they have. */
static bool is_at(const struct par_model *model, uint32_t address, uint32_t wanted)
{
    uint32_t mask = par_has_large_sectors(model) ? 0x7FF : 0x7FFF;
    if (par_units(model) <= mask)
        mask = par_units(model) - 1;
    return ((address ^ wanted) & mask) == 0;
}

static void erase_bytes(struct par_model *model, uint32_t first, uint32_t bytes, uint32_t us)
{
    model->erasing = true;
    model->last_data = 0xFFFF;
    bool whole = bytes == model->row->bytes;
    if (whole ? !par_may_write(model, 0, 1) && !(model->row->traits & CM_PAR_SECTOR_LOCKS)
              : !par_may_write(model, first, bytes)) {
        model->busy_until_ns = model->now_ns + 100000;
        return;
    }
    for (uint32_t i = first; i < first + bytes; i++) {
        if (i != model->worn_at && !par_model_protects(model, i))
            par_model_set(model, i, 0xFF);
    }
    model->erases++;
    par_start_busy(model, model->now_ns, us);
}

/* The sector that an address is in: a unit, or the part of one at the end that is cut up. */
static void erase_at(struct par_model *model, uint32_t address, uint8_t opcode)
{
    const struct cm_par_erases *erases = model->row->erases;
    uint32_t at = (address % par_units(model)) * (par_is_wide(model) ? 2u : 1u);
    for (int i = 0; erases && i < CM_PAR_UNITS && erases->units[i].bytes; i++) {
        const struct cm_par_erase *unit = &erases->units[i];
        if (unit->opcode != opcode)
            continue;
        uint32_t start = at & ~(unit->bytes - 1), bytes = unit->bytes;
        if (i == 0)
            (void)par_sector_of(model, at, &start, &bytes);
        erase_bytes(model, start, bytes, unit->us);
        return;
    }
    par_breached(model, PAR_BREACH_SEQUENCE);
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
    case 0x98: // SST's way into the query
        model->cfi_mode = par_is_wide(model) && !par_has_large_sectors(model);
        return model->cfi_mode;
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
    if (data == 0x10 && is_at(model, address, 0x5555) && model->row->erases &&
        model->row->erases->chip_us)
        erase_bytes(model, 0, model->row->bytes, model->row->erases->chip_us);
    else
        erase_at(model, address, data);
    return true;
}

/* Is this cycle the next one of a command? Then the step is taken, and at its end the command is
 * done. */
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

/* A cycle of a part that loads pages: what may be a command is kept back, until it is one or is
 * not. */
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
void par_catch_up(struct par_model *model)
{
    if (!model->loading || model->now_ns < model->loaded_ns + BYTE_LOAD_NS)
        return;
    uint64_t loaded_ns = model->loaded_ns;
    load_pending(model); // a command that was cut off is data
    model->loaded_ns = loaded_ns;
    if (is_filled(model)) {
        commit_page(model);
        return;
    }
    model->loading = false; // a command alone, such as that of the protection
    model->step = 0;
    par_start_busy(model, model->loaded_ns + BYTE_LOAD_NS, model->row->times->program_us);
}

static void write_flash(struct par_model *model, uint32_t address, uint16_t data)
{
    if (model->gave_up) { // nothing but a reset counts
        model->gave_up = (data & 0xFF) != 0xF0;
        model->step = 0;
        return;
    }
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
    if ((data & 0xFF) == 0x98 && (address & 0xFF) == 0x55 && par_is_wide(model) &&
        model->step == 0 && par_has_large_sectors(model)) {
        model->cfi_mode = true;
        return;
    }
    bool is_nothing = (data & 0xFF) == 0xFF &&
                      model->step == 0; // no command has an FF: the sheets' chips stay as they are
    if (!is_nothing && !decode(model, address, (uint8_t)data))
        par_breached(model, PAR_BREACH_SEQUENCE);
}

static void write_eprom(struct par_model *model, uint32_t address, uint16_t data, uint64_t pulse_ns)
{
    bool good = model->vpp_high && model->supply_mv >= 6000 && model->supply_mv <= 6750 &&
                pulse_ns >= LEAST_PULSE_NS && pulse_ns <= MOST_PULSE_NS;
    if (!good) {
        par_breached(model, PAR_BREACH_PULSE);
        return;
    }
    uint32_t at = (address % par_units(model)) * (par_is_wide(model) ? 2u : 1u);
    (void)program_byte(model, at, (uint8_t)data);
    if (par_is_wide(model))
        (void)program_byte(model, at + 1, (uint8_t)(data >> 8));
    model->programs++;
}

void par_take_cycle(struct par_model *model, uint32_t address, uint16_t data, uint64_t pulse_ns)
{
    par_catch_up(model);
    if (model->supply_mv < PAR_ALIVE_FROM_MV)
        return;
    if (model->kind == PAR_EPROM) {
        write_eprom(model, address, data, pulse_ns);
        return;
    }
    if (model->now_ns < model->busy_until_ns) {
        par_breached(model, PAR_BREACH_WHILE_BUSY);
        return;
    }
    if (loads_pages(model))
        write_page_part(model, address, (uint8_t)data);
    else
        write_flash(model, address, data);
}
