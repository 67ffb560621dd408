/*
 * Block protection: which area the bits mean, and the bits for an area.
 *
 *     SR7   SR6  SR5  SR4  SR3  SR2  SR1  SR0          for instance; each row says where its bits are
 *     lock  SEC  TB   BP2  BP1  BP0  WEL  busy
 *
 * BP counts steps: 1 is the smallest unit, each step doubles it, the highest value is the whole chip. TB puts the area at the lower end, SEC makes the unit 4 KiB, CMP turns
 * protected and unprotected round. So the area is always one run at one end of the chip, and its registers are found by trying them all.
 *
 * Parts with a lock for each sector (36 protects, 39 unprotects, 3C tells) have a summary of them in the status register: none, some, all. A write of the status register with that
 * field all 0 or all 1 does so to every sector.
 */
#include "nor.h"
#include <string.h>

enum {
    SECTOR_BYTES = 65536,
    SMALL_UNIT = 4096,
    SMALL_MOST = 32768,
    CMD_LOCK_SECTOR = 0x36,
    CMD_READ_LOCK = 0x3C,
    GLOBAL_BITS = 0x3C,  // bits 5 to 2 of the status of a part with sector locks
    SUMMARY_BITS = 0x0C, // of them, those that tell
    NO_GLOBAL = 0x20,    // a value of those bits that touches no sector
};

/* --- areas ------------------------------------------------------------------------------------------------------ */

static uint8_t level_of(const struct cm_nor_guard *rules, const uint8_t *registers, uint8_t *highest)
{
    uint8_t level = 0;
    *highest = 0;
    for (uint8_t i = 0; i < sizeof rules->bp && rules->bp[i]; i++) {
        level |= (uint8_t)((registers[0] & rules->bp[i]) ? 1u << i : 0u);
        *highest |= (uint8_t)(1u << i);
    }
    return level;
}

/* Bytes that a level means, of the part's end that TB says. */
static uint32_t level_bytes(const struct cm_nor_part *part, uint8_t level, uint8_t highest, bool small)
{
    const struct cm_nor_guard *rules = part->guard;
    uint32_t unit = rules->fraction ? part->bytes / rules->fraction : 0, most = part->bytes;
    if (unit < rules->least_bytes)
        unit = rules->least_bytes;
    if (level == 0 || level == highest)
        return level ? part->bytes : 0;
    if (small) {
        unit = SMALL_UNIT;
        most = SMALL_MOST;
    }
    while (--level && unit < most)
        unit *= 2;
    return unit < most ? unit : most;
}

/* The area that registers mean. */
static void find_area(const struct cm_nor_part *part, struct cm_guard *guard)
{
    const struct cm_nor_guard *rules = part->guard;
    const uint8_t *registers = guard->registers;
    uint8_t highest, level = level_of(rules, registers, &highest);
    bool lower = rules->tb_mask && (registers[rules->tb_register] & rules->tb_mask);
    bool turned = rules->cmp_mask && (registers[rules->cmp_register] & rules->cmp_mask);
    uint32_t bytes;
    guard->vague = rules->vague;
    if (rules->mirrored && level > highest / 2 && level < highest) { // all but what the mirror image of the value would name
        bytes = part->bytes - level_bytes(part, (uint8_t)(highest - level), highest, false);
        bytes = bytes ? bytes : part->bytes;
        lower = true;
    } else {
        bytes = level_bytes(part, level, highest, (registers[0] & rules->sec_mask) != 0);
    }
    if (rules->vague)
        bytes = level ? part->bytes : 0;
    if (turned) {
        bytes = part->bytes - bytes;
        lower = !lower;
    }
    guard->bytes = bytes;
    guard->first = lower || !bytes ? 0 : part->bytes - bytes;
}

static uint8_t hold_of(const struct cm_nor_guard *rules, const uint8_t *registers)
{
    if (rules->srl_mask && (registers[rules->srl_register] & rules->srl_mask))
        return CM_GUARD_UNTIL_POWER_OFF;
    return registers[0] & rules->lock_mask ? CM_GUARD_BY_PIN : CM_GUARD_FREE;
}

/* Locks of single blocks (WPS): the bits mean nothing then, and every block is locked at power-up. */
static bool has_block_locks(const struct cm_nor_guard *rules, const uint8_t *registers)
{
    return rules->wps_mask && (registers[rules->wps_register] & rules->wps_mask);
}

/* --- locks of sectors ------------------------------------------------------------------------------------------- */

static enum cm_status read_locks(struct cm_session *session, struct cm_guard *guard)
{
    enum cm_status status = CM_OK;
    for (uint32_t at = 0; !status && at < cm_nor_part_of(session)->bytes; at += SECTOR_BYTES) {
        uint8_t lock = 0;
        cm_batch_begin(session, CM_STEP_SETTINGS, "locks", at);
        struct cm_frames *frames = cm_nor_add_at(session, CMD_READ_LOCK, 0, at, 1);
        frames->data = CM_EACH_IN;
        frames->in = &lock;
        cm_nor_add_proof(session);
        status = cm_nor_run(session);
        uint32_t sector = at / SECTOR_BYTES;
        if (!status && lock && sector / 8 < CM_GUARD_LOCKS) {
            guard->locks[sector / 8] |= (uint8_t)(1u << sector % 8);
            guard->first = guard->bytes ? guard->first : at;
            guard->bytes = at + SECTOR_BYTES - guard->first;
        }
    }
    return status;
}

static enum cm_status look_at_sectors(struct cm_session *session, struct cm_guard *guard)
{
    uint8_t summary = guard->registers[0] & SUMMARY_BITS;
    guard->by_sector = true;
    guard->lock_bytes = SECTOR_BYTES;
    guard->first = 0;
    guard->bytes = 0;
    if (summary == 0)
        return CM_OK;
    if (summary != SUMMARY_BITS)
        return read_locks(session, guard);
    guard->bytes = cm_nor_part_of(session)->bytes;
    return CM_OK;
}

/* One write of the status register, which is not read back: what comes of its global bits is seen in the summary. */
static enum cm_status write_global(struct cm_session *session, uint8_t byte)
{
    struct cm_poll ready;
    cm_nor_set_ready(session, &ready, 0, cm_nor_part_of(session)->times->status_max_us);
    cm_batch_begin(session, CM_STEP_SETTINGS, "status", 0);
    struct cm_frames *frames = cm_nor_add_frames(session, CMD_WRITE_STATUS);
    frames->enable = CMD_WRITE_ENABLE;
    frames->data = CM_EACH_OUT;
    frames->out = &byte;
    frames->count = 1;
    frames->ready = &ready;
    return cm_nor_run(session);
}

static enum cm_status lift_sectors(struct cm_session *session, const struct cm_guard *guard)
{
    enum cm_status status = CM_OK;
    if (guard->registers[0] & cm_nor_part_of(session)->guard->lock_mask)
        status = write_global(session, NO_GLOBAL); // the lock first; while it stands the others are not heard
    return status ? status : write_global(session, 0);
}

static enum cm_status restore_sectors(struct cm_session *session, const struct cm_guard *guard)
{
    uint8_t summary = guard->registers[0] & SUMMARY_BITS, lock = guard->registers[0] & cm_nor_part_of(session)->guard->lock_mask;
    enum cm_status status = write_global(session, summary == SUMMARY_BITS ? GLOBAL_BITS : 0);
    for (uint32_t sector = 0; !status && summary && summary != SUMMARY_BITS && sector < CM_GUARD_LOCKS * 8u; sector++) {
        if (!(guard->locks[sector / 8] >> sector % 8 & 1))
            continue;
        cm_batch_begin(session, CM_STEP_SETTINGS, "locks", sector * SECTOR_BYTES);
        cm_nor_add_at(session, CMD_LOCK_SECTOR, 0, sector * SECTOR_BYTES, 1)->enable = CMD_WRITE_ENABLE;
        status = cm_nor_run(session);
    }
    if (!status && lock)
        status = write_global(session, lock | NO_GLOBAL);
    return status;
}

/* --- the rules -------------------------------------------------------------------------------------------------- */

static enum cm_status look(struct cm_session *session, struct cm_guard *guard)
{
    const struct cm_nor_part *part = cm_nor_part_of(session);
    if (!part->guard)
        return CM_OK;
    memset(guard, 0, sizeof *guard);
    guard->count = part->status->count;
    enum cm_status status = cm_nor_read_status(session, guard->registers);
    if (status)
        return status;
    guard->hold = hold_of(part->guard, guard->registers);
    if (part->guard->by_sector)
        return look_at_sectors(session, guard);
    find_area(part, guard);
    if (has_block_locks(part->guard, guard->registers)) {
        guard->by_sector = true;
        guard->first = 0;
        guard->bytes = part->bytes; // each may be open; at power-up all are locked
    }
    return CM_OK;
}

/* The registers with nothing protected: the lock against writing them goes too, where it does not outlast that. */
static void open_registers(const struct cm_nor_guard *rules, const uint8_t *registers, uint8_t *open)
{
    memcpy(open, registers, CM_NOR_REGISTERS);
    for (uint8_t i = 0; i < sizeof rules->bp; i++)
        open[0] &= (uint8_t)~rules->bp[i];
    open[0] &= (uint8_t) ~(rules->lock_mask | rules->sec_mask);
    open[rules->cmp_register] &= (uint8_t)~rules->cmp_mask;
    open[rules->wps_register] &= (uint8_t)~rules->wps_mask;
}

/* A register that does not take what is written is held: by its pin, or for good. */
static enum cm_status write_or_held(struct cm_session *session, const uint8_t *registers)
{
    enum cm_status status = cm_nor_write_status(session, registers);
    return status == CM_WRITE_FAILED ? cm_refine(session, CM_PROTECTED) : status;
}

static enum cm_status prove(struct cm_session *session, const struct cm_guard *wanted)
{
    struct cm_guard now;
    enum cm_status status = look(session, &now);
    if (!status && now.bytes != wanted->bytes)
        status = cm_fail_byte(session, CM_PROTECTED, CM_STEP_SETTINGS, "status", 0, wanted->registers[0], now.registers[0]);
    return status;
}

static enum cm_status lift(struct cm_session *session, const struct cm_guard *guard)
{
    const struct cm_nor_guard *rules = cm_nor_part_of(session)->guard;
    struct cm_guard none = {.bytes = 0};
    uint8_t open[CM_NOR_REGISTERS];
    if (!rules)
        return CM_OK;
    enum cm_status status;
    if (rules->by_sector) {
        status = lift_sectors(session, guard);
    } else {
        open_registers(rules, guard->registers, open);
        status = write_or_held(session, open);
    }
    return status ? status : prove(session, &none);
}

static enum cm_status restore(struct cm_session *session, const struct cm_guard *guard)
{
    const struct cm_nor_guard *rules = cm_nor_part_of(session)->guard;
    if (!rules)
        return CM_OK;
    enum cm_status status = rules->by_sector ? restore_sectors(session, guard) : write_or_held(session, guard->registers);
    return status ? status : prove(session, guard);
}

/* Sets the bits of a mask to a number, the lowest bit first. */
static uint8_t with_level(const struct cm_nor_guard *rules, uint8_t byte, uint8_t level)
{
    for (uint8_t i = 0; i < sizeof rules->bp; i++)
        byte = (uint8_t)((level >> i & 1) ? byte | rules->bp[i] : byte & ~rules->bp[i]);
    return byte;
}

static void set_bit(uint8_t *byte, uint8_t mask, bool on)
{
    *byte = (uint8_t)(on ? *byte | mask : *byte & ~mask);
}

/* Candidate number: the level in the lowest four bits, then TB, SEC, CMP. False where the part lacks what it needs. */
static bool make_candidate(const struct cm_nor_part *part, uint8_t number, struct cm_guard *guard)
{
    const struct cm_nor_guard *rules = part->guard;
    bool tb = number & 0x10, sec = number & 0x20, cmp = number & 0x40;
    uint8_t highest, level = number & 0x0F;
    (void)level_of(rules, guard->registers, &highest);
    if (level > highest || (tb && (!rules->tb_mask || rules->tb_fixed)) || (sec && !rules->sec_mask) || (cmp && !rules->cmp_mask))
        return false;
    guard->registers[0] = with_level(rules, guard->registers[0], level);
    if (rules->tb_mask && !rules->tb_fixed)
        set_bit(&guard->registers[rules->tb_register], rules->tb_mask, tb);
    set_bit(&guard->registers[0], rules->sec_mask, sec);
    if (rules->cmp_mask)
        set_bit(&guard->registers[rules->cmp_register], rules->cmp_mask, cmp);
    find_area(part, guard);
    return true;
}

static enum cm_status choose(const struct cm_part *any, struct cm_guard *guard, uint32_t first, uint32_t bytes)
{
    const struct cm_nor_part *part = cm_nor_row(any);
    struct cm_guard best = *guard;
    bool found = false;
    if (!part->guard || part->guard->by_sector || bytes > part->bytes || first > part->bytes - bytes)
        return CM_DIFFERS;
    if (part->guard->vague && bytes && bytes < part->bytes)
        return CM_DIFFERS;
    for (uint8_t number = 0; number < 0x80; number++) {
        struct cm_guard candidate = *guard;
        if (part->guard->wps_mask)
            candidate.registers[part->guard->wps_register] &= (uint8_t)~part->guard->wps_mask;
        candidate.by_sector = false;
        if (!make_candidate(part, number, &candidate))
            continue;
        bool holds = bytes == 0 ? candidate.bytes == 0
                                : candidate.bytes && candidate.first <= first && first + bytes <= candidate.first + candidate.bytes;
        if (holds && (!found || candidate.bytes < best.bytes)) {
            best = candidate;
            found = true;
        }
    }
    *guard = best;
    return found && best.bytes == bytes && (bytes == 0 || best.first == first) ? CM_OK : CM_DIFFERS;
}

static void mean(const struct cm_part *any, struct cm_guard *guard)
{
    const struct cm_nor_part *part = cm_nor_row(any);
    if (!part->guard)
        return;
    if (!part->guard->by_sector) {
        find_area(part, guard);
        return;
    }
    if (guard->registers[0] & SUMMARY_BITS)
        guard->registers[0] |= SUMMARY_BITS;
    guard->bytes = guard->registers[0] & SUMMARY_BITS ? part->bytes : 0;
    guard->first = 0;
}

const struct cm_guard_rules cm_nor_guard_rules = {.mean = mean, .look = look, .lift = lift, .restore = restore, .choose = choose};
