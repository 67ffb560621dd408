/*
 * The strict model of SPI memories. Sources: the data sheets' chapters "Instructions", "Status
 * register" and "AC characteristics" of the parts that the table's groups are named after; JESD216
 * for SFDP, JESD252 for the reset.
 *
 * An instruction is what comes between two edges of SELECT. Reading answers while it comes in;
 * everything that changes something is done when SELECT rises, and only if the frame ended on a
 * whole byte, the write enable latch was set, and nothing protects what it would change. Otherwise
 * nothing happens.
 */
#include "nor_inside.h"
#include <string.h>

const char *const nor_breach_words[NOR_BREACH_COUNT] = {
    [NOR_BREACH_WHILE_BUSY] = "instruction while the part was busy",
    [NOR_BREACH_NO_ENABLE] = "write without write enable",
    [NOR_BREACH_PROTECTED] = "write or erase of a protected area",
    [NOR_BREACH_REGISTERS_HELD] = "write to registers that are held",
    [NOR_BREACH_PAGE_WRAP] = "more bytes than a page has",
    [NOR_BREACH_ADDRESS] = "address beyond the memory's end",
    [NOR_BREACH_FRAME] = "instruction of the wrong length",
    [NOR_BREACH_CLOCK] = "SCK too fast for a plain read",
    [NOR_BREACH_DESELECT] = "SELECT high for too short a time",
    [NOR_BREACH_SUPPLY] = "write with the supply outside the part's range",
    [NOR_BREACH_POWER_DOWN] = "instruction in deep power-down",
    [NOR_BREACH_WORD_MODE] = "other instruction during word programming",
};

enum {
    DESELECT_NS = 100, // t_SHSL of the slowest sheets
    ALIVE_FROM_MV = 1500,
    FASTEST_HZ_SLACK = 1001, // a period in whole nanoseconds may be a little short
};

void nor_breached(struct nor_model *model, enum nor_breach kind)
{
    model->breaches[kind]++;
}

uint32_t nor_model_breaches(const struct nor_model *model)
{
    uint32_t sum = 0;
    for (int i = 0; i < NOR_BREACH_COUNT; i++)
        sum += model->breaches[i];
    return sum;
}

uint8_t nor_model_at(const struct nor_model *model, uint32_t address)
{
    uint8_t byte = (uint8_t)~model->memory[address];
    return address == model->stuck_at ? byte | 1u : byte;
}

void nor_model_set(struct nor_model *model, uint32_t address, uint8_t byte)
{
    if (nor_model_at(model, address) != byte)
        model->memory[address] = (uint8_t)~byte;
}

/* What the power brings: volatile protection is set, modes are left. */
void nor_power_up(struct nor_model *model)
{
    const struct cm_nor_guard *guard = model->row->guard;
    model->wel = model->status_enabled = model->wide = model->asleep = model->reset_armed =
        model->in_words = false;
    model->busy_until_ns = 0;
    if (!guard || !guard->volatile_bits)
        return;
    for (int i = 0; i < 4; i++)
        model->registers[0] |= guard->bp[i];
    memset(model->sector_locks, 0xFF, sizeof model->sector_locks);
    if (guard->by_sector)
        model->registers[0] = 0x0C;
}

void nor_model_init(struct nor_model *model, const struct cm_nor_part *row, uint8_t *memory)
{
    memset(model, 0, sizeof *model);
    model->row = row;
    model->memory = memory;
    model->slow_percent = 100;
    model->worn_at = model->stuck_at = UINT32_MAX;
    model->has_sfdp = nor_model_make_sfdp(row, model->sfdp);
    nor_power_up(model);
}

void nor_model_supply(struct nor_model *model, uint16_t mv)
{
    bool was_off = model->supply_mv < ALIVE_FROM_MV;
    model->supply_mv = mv;
    if (was_off && mv >= ALIVE_FROM_MV)
        nor_power_up(model);
}

static bool is_busy(const struct nor_model *model)
{
    return model->now_ns < model->busy_until_ns;
}

void nor_start_busy(struct nor_model *model, uint64_t us)
{
    model->busy_until_ns = model->now_ns + us * 10 * model->slow_percent;
}

/* --- protection -------------------------------------------------------------------------- */

bool nor_has_bit(const struct nor_model *model, uint8_t index, uint8_t mask)
{
    return mask && (model->registers[index] & mask);
}

/* How many 64ths, blocks or quarters the BP number means, as a fraction of the chip: the sheets'
 * tables in one rule each. */
static uint64_t area_of(const struct nor_model *model, unsigned number, unsigned highest)
{
    const struct cm_nor_guard *guard = model->row->guard;
    uint64_t size = model->row->bytes, step = guard->fraction ? size / guard->fraction : NOR_BLOCK;
    if (number == 0)
        return 0;
    if (number == highest)
        return size;
    if (nor_has_bit(model, 0, guard->sec_mask)) { // 4, 8, 16, 32, 32, 32 KiB
        uint64_t small = (uint64_t)NOR_SMALL_SECTOR << (number - 1);
        return small > 8 * NOR_SMALL_SECTOR ? 8 * NOR_SMALL_SECTOR : small;
    }
    if (step < guard->least_bytes)
        step = guard->least_bytes;
    uint64_t area = step << (number - 1);
    return area > size ? size : area;
}

bool nor_model_protects(const struct nor_model *model, uint32_t address)
{
    const struct cm_nor_guard *guard = model->row->guard;
    if (!guard)
        return false;
    if (guard->by_sector)
        return model->sector_locks[address / NOR_BLOCK / 8] >> address / NOR_BLOCK % 8 & 1;
    if (nor_has_bit(model, guard->wps_register, guard->wps_mask))
        return true; // each block by itself, and all are locked at power-up; the unlock
                     // instructions are not modelled
    unsigned number = 0, highest = 0;
    for (unsigned i = 0; i < 4 && guard->bp[i]; i++) {
        number |= (model->registers[0] & guard->bp[i] ? 1u : 0u) << i;
        highest |= 1u << i;
    }
    uint64_t size = model->row->bytes, area;
    bool upper = !nor_has_bit(model, guard->tb_register, guard->tb_mask), inside;
    if (guard->mirrored && number > 7 &&
        number <
            highest) { // 1001: lower half, 1010: lower three quarters, ... 1110: all but one unit
        uint64_t open = area_of(model, 15 - number, highest);
        inside = open >= size || address < size - open;
    } else {
        area = area_of(model, number, highest);
        inside = upper ? address >= size - area : address < area;
    }
    return inside != nor_has_bit(model, guard->cmp_register, guard->cmp_mask);
}

bool nor_any_protected(const struct nor_model *model, uint32_t first, uint32_t bytes)
{
    for (uint64_t at = first; at < (uint64_t)first + bytes;
         at += bytes < NOR_SMALL_SECTOR ? bytes : NOR_SMALL_SECTOR) {
        if (nor_model_protects(model, (uint32_t)at))
            return true;
    }
    return false;
}

/* --- what a frame asks for --------------------------------------------------------------- */

/* Address bytes of an instruction; -1: it has none of that name. */
static int address_bytes(const struct nor_model *model, uint8_t opcode)
{
    const struct cm_nor_part *row = model->row;
    int plain = model->wide ? 4 : row->address_bytes;
    bool four = row->wide == CM_NOR_OPCODES_4;
    uint8_t a8 = row->high_in_opcode ? (uint8_t)(opcode & ~0x08) : opcode;
    if (a8 == 0x02 || a8 == 0x03)
        return plain;
    if (opcode == 0x0B && !row->rewrites)
        return plain;
    if (opcode == 0x0C && four)
        return 4;
    if (opcode == 0xAD && row->page_bytes == 2)
        return 3;
    if ((opcode == 0x12 || opcode == 0x13) && four)
        return 4;
    for (int i = 0; row->erases && i < CM_NOR_ERASES && row->erases->units[i].bytes; i++) {
        if (opcode == row->erases->units[i].opcode)
            return plain;
        if (four && opcode == row->erases->units[i].opcode_4)
            return 4;
    }
    if (row->guard && row->guard->by_sector && (opcode == 0x36 || opcode == 0x39 || opcode == 0x3C))
        return plain;
    if (opcode == 0x5A && model->has_sfdp)
        return 3;
    if (opcode == 0x90 || opcode == 0xAB)
        return 3;
    return -1;
}

uint32_t nor_masked(const struct nor_model *model, uint32_t address)
{
    uint32_t top = model->row->bytes - 1;
    return address & top;
}

static uint8_t status_byte(struct nor_model *model, uint8_t index)
{
    uint8_t byte = model->registers[index];
    if (index > 0)
        return byte;
    if (is_busy(model) && model->row->rewrites && strncmp(model->row->part.name, "at25", 4) == 0)
        return 0xFF; // "bits 0 to 7 are ones during an internal write cycle"
    if (model->row->guard && model->row->guard->by_sector) {
        unsigned locked = 0, sectors = (model->row->bytes + NOR_BLOCK - 1) / NOR_BLOCK;
        for (unsigned i = 0; i < sectors; i++)
            locked += model->sector_locks[i / 8] >> i % 8 & 1;
        byte = (uint8_t)((byte & ~0x0C) |
                         (locked == 0         ? 0
                          : locked == sectors ? 0x0C
                                              : 0x04) |
                         (model->wp_low ? 0 : 0x10));
    }
    if (model->in_words)
        byte |= 0x40;
    return (uint8_t)(byte | (model->wel ? 2 : 0) | (is_busy(model) ? 1 : 0));
}

/* Register that an opcode reads, or -1. */
static int register_of(const struct nor_model *model, uint8_t opcode)
{
    for (int i = 0; i < model->row->status->count; i++) {
        if (opcode == model->row->status->read[i])
            return i;
    }
    return -1;
}

static uint8_t id_byte(const struct nor_model *model, uint32_t at)
{
    const struct cm_part *part = &model->row->part;
    return at < part->id_bytes ? part->id[at] : 0x00;
}

/* The answer to data byte `at` of the frame's instruction, before it has come in. */
static uint8_t answer(struct nor_model *model, uint32_t at)
{
    const struct cm_part *part = &model->row->part;
    int index = register_of(model, model->opcode);
    bool tagged = part->id_bytes && (part->id[0] == 0x90 || part->id[0] == 0xAB);
    uint8_t opcode = model->row->high_in_opcode ? (uint8_t)(model->opcode & ~0x08) : model->opcode;
    if (index >= 0)
        return status_byte(model, (uint8_t)index);
    switch (opcode) {
    case 0x9F:
        return part->id_bytes && !tagged ? id_byte(model, at) : 0xFF;
    case 0x70:
        return model->row->status->flag_status ? (is_busy(model) ? 0x00 : 0x80) : 0xFF;
    case 0x03:
    case 0x13:
        return nor_model_at(model, nor_masked(model, model->address + at));
    case 0x0B:
    case 0x0C: // behind a dummy byte
        return at && !model->row->rewrites
                   ? nor_model_at(model, nor_masked(model, model->address + at - 1))
                   : 0xFF;
    case 0x3C:
        return model->sector_locks[nor_masked(model, model->address) / NOR_BLOCK / 8] >>
                           nor_masked(model, model->address) / NOR_BLOCK % 8 &
                       1
                   ? 0xFF
                   : 0x00;
    case 0x5A:
        return at > 0 && model->address + at - 1 < NOR_SFDP_BYTES
                   ? model->sfdp[model->address + at - 1]
                   : 0xFF;
    case 0x90:
        return part->id_bytes && part->id[0] == 0x90 ? part->id[1 + (at & 1)]
               : tagged || part->id_bytes < 3        ? 0xFF
               : at & 1                              ? (uint8_t)(part->id[2] - 1)
                                                     : part->id[0];
    case 0xAB:
        return part->id_bytes && part->id[0] == 0xAB ? part->id[1]
               : part->id_bytes                      ? (uint8_t)(part->id[2] - 1)
                                                     : 0xFF;
    default:
        return 0xFF;
    }
}

/* --- pins -------------------------------------------------------------------------------- */

static bool listens(const struct nor_model *model)
{
    return model->selected && !model->hold_low && model->supply_mv >= ALIVE_FROM_MV;
}

void nor_model_select(struct nor_model *model, bool low)
{
    if (low == model->selected)
        return;
    if (low) {
        if (model->deselected_ns && model->now_ns - model->deselected_ns < DESELECT_NS)
            nor_breached(model, NOR_BREACH_DESELECT);
        model->bytes = model->data_bytes = model->address = 0;
        model->bit = 0;
        model->deaf = model->streams = false;
        model->selected = true;
        return;
    }
    bool heard = listens(model) && model->bytes > 0 && !model->deaf;
    int addresses = address_bytes(model, model->opcode);
    bool bare_word = model->in_words && model->opcode == 0xAD;
    model->selected = model->streams = false;
    model->deselected_ns = model->now_ns;
    if (heard && model->bit != 0)
        nor_breached(model, NOR_BREACH_FRAME);
    else if (heard && model->opcode == 0xAB)
        nor_wake(model);
    else if (heard && (bare_word || addresses < 0 || model->bytes > (uint32_t)addresses))
        nor_act(model);
}

/* Is the instruction one that the part hears as it stands now? */
static bool hears(struct nor_model *model, uint8_t opcode)
{
    bool asks_status = register_of(model, opcode) >= 0 || opcode == 0x70;
    if (model->asleep || model->now_ns < model->awake_from_ns) {
        if (opcode != 0xAB)
            nor_breached(model, NOR_BREACH_POWER_DOWN);
        return opcode == 0xAB;
    }
    if (is_busy(model) && !asks_status && opcode != 0x66 && opcode != 0x99) {
        nor_breached(model, NOR_BREACH_WHILE_BUSY);
        return false;
    }
    if (model->in_words && opcode != 0xAD && opcode != 0x04 && opcode != 0x05) {
        nor_breached(model, NOR_BREACH_WORD_MODE);
        return false;
    }
    return !is_busy(model) || asks_status;
}

/* What goes out while the next byte comes in. */
static uint8_t reply(struct nor_model *model)
{
    int addresses = address_bytes(model, model->opcode);
    uint32_t head = 1 + (addresses > 0 ? (uint32_t)addresses : 0);
    if (!listens(model) || model->deaf || model->bytes < head)
        return 0xFF;
    return answer(model, model->bytes - head);
}

static bool is_fast_read(const struct nor_model *model)
{
    return (model->opcode == 0x0B || model->opcode == 0x0C) && !model->row->rewrites;
}

static void take(struct nor_model *model, uint8_t byte)
{
    if (!listens(model))
        return;
    if (model->bytes++ == 0) {
        model->opcode = byte;
        model->deaf = !hears(model, byte);
        if (model->row->high_in_opcode && (byte & 0xF7) <= 0x03 && (byte & 0xF7) >= 0x02)
            model->address = byte >> 3 & 1;
        return;
    }
    int addresses =
        model->in_words && model->opcode == 0xAD ? 0 : address_bytes(model, model->opcode);
    if (addresses > 0 && model->bytes - 1 <= (uint32_t)addresses) {
        model->address = model->address << 8 | byte;
        if (model->bytes - 1 == (uint32_t)addresses && model->address >= model->row->bytes &&
            model->opcode != 0x5A && model->row->bytes >= 512)
            nor_breached(model, NOR_BREACH_ADDRESS);
        bool reads = model->opcode == 0x03 || model->opcode == 0x13 ||
                     (model->row->high_in_opcode && model->opcode == 0x0B);
        model->streams = reads && !model->deaf && model->bytes - 1 == (uint32_t)addresses;
        return;
    }
    if (is_fast_read(model) && addresses > 0 && model->bytes - 2 == (uint32_t)addresses) {
        model->streams = !model->deaf; // that was the dummy byte
        return;
    }
    model->page[model->data_bytes++ % NOR_PAGE_MAX] = byte;
}

/* The plain read has a limit of its own. */
static void check_clock(struct nor_model *model, uint64_t half_ns)
{
    bool is_plain = model->opcode == 0x03 || model->opcode == 0x13,
         has_limit = is_plain || model->row->fast_hz || is_fast_read(model);
    uint64_t most_hz =
        !is_plain && model->row->fast_hz ? model->row->fast_hz : model->row->clock_hz;
    if (model->bytes == 1 && has_limit &&
        1000000000ull * 1000 / (2 * half_ns) > most_hz * FASTEST_HZ_SLACK)
        nor_breached(model, NOR_BREACH_CLOCK);
}

uint8_t nor_model_byte(struct nor_model *model, uint8_t byte, uint64_t half_ns)
{
    if (model->streams) { // the many bytes of a reading, without asking each time what they are
        model->now_ns += 16 * half_ns;
        model->bytes++;
        return nor_model_at(model, nor_masked(model, model->address + model->data_bytes++));
    }
    uint8_t out = reply(model);
    check_clock(model, half_ns);
    model->now_ns += 16 * half_ns;
    take(model, byte);
    return out;
}

void nor_model_sck(struct nor_model *model, bool high, bool mosi)
{
    if (high == model->sck_high)
        return;
    model->sck_high = high;
    if (!model->selected)
        return;
    if (high) {
        model->streams = false; // by pins, each byte is worked out
        if (model->bit == 0)
            model->out = reply(model);
        model->shifting = (uint8_t)(model->shifting << 1 | mosi);
        if (++model->bit == 8) {
            model->bit = 0;
            take(model, model->shifting);
        }
    }
}

/* What the line shows: the bit that is next, from the falling edge on; the one that was taken,
 * until then. */
bool nor_model_miso(struct nor_model *model)
{
    if (!listens(model))
        return true;
    if (model->sck_high)
        return model->out >> ((8 - model->bit) & 7) & 1;
    return (model->bit == 0 ? reply(model) : model->out) >> (7 - model->bit) & 1;
}
