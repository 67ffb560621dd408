/*
 * Block protection: which area the bits mean, and the bits for an area.
 *
 *     SR7   SR6  SR5  SR4  SR3  SR2  SR1  SR0          an example: the rows differ
 *     lock  SEC  TB   BP2  BP1  BP0  WEL  busy
 *
 * BP counts steps: 1 is the smallest unit, each step doubles it, the highest value is the whole
 * chip. TB puts the area at the lower end, SEC makes the unit 4 KiB, CMP turns protected and
 * unprotected round. So the area is always one run at one end of the chip, and its registers are
 * found by trying them all.
 */
#include "nor.h"
#include <string.h>

enum {
    SMALL_UNIT = 4096,
    SMALL_MOST = 32768,
};

/* --- areas ------------------------------------------------------------------------------- */

uint8_t cm_nor_level(const struct cm_nor_guard *rules, const uint8_t *registers, uint8_t *highest)
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
static uint32_t level_bytes(const struct cm_nor_part *part, uint8_t level, uint8_t highest,
                            bool small)
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
void cm_nor_find_area(const struct cm_nor_part *part, struct cm_guard *guard)
{
    const struct cm_nor_guard *rules = part->guard;
    const uint8_t *registers = guard->registers;
    uint8_t highest, level = cm_nor_level(rules, registers, &highest);
    bool lower = rules->tb_mask && (registers[rules->tb_register] & rules->tb_mask);
    bool turned = rules->cmp_mask && (registers[rules->cmp_register] & rules->cmp_mask);
    uint32_t bytes;
    guard->vague = rules->vague;
    if (rules->mirrored && level > highest / 2 &&
        level < highest) { // all but what the mirror image of the value would name
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

static uint8_t cost_of(const struct cm_nor_guard *rules, const uint8_t *registers)
{
    if (rules->srl_mask && (registers[rules->srl_register] & rules->srl_mask))
        return CM_LIFT_POWER;
    return registers[0] & rules->lock_mask ? CM_LIFT_PIN : CM_LIFT_FREE;
}

/* Locks of single blocks (WPS): the bits mean nothing then, and every block is locked at power-up.
 */
static bool has_block_locks(const struct cm_nor_guard *rules, const uint8_t *registers)
{
    return rules->wps_mask && (registers[rules->wps_register] & rules->wps_mask);
}

/* --- the rules --------------------------------------------------------------------------- */

static enum cm_status look(struct cm_session *session, struct cm_guard *guard)
{
    const struct cm_nor_part *part = cm_nor_part_of(session);
    memset(guard, 0, sizeof *guard);
    if (!part->guard)
        return CM_OK;
    guard->count = part->status->count;
    enum cm_status status = cm_nor_read_status(session, guard->registers);
    if (status)
        return status;
    guard->cost = cost_of(part->guard, guard->registers);
    if (part->guard->by_sector)
        return part->guard->by_sector->look(session, guard);
    cm_nor_find_area(part, guard);
    if (has_block_locks(part->guard, guard->registers)) {
        guard->by_sector = true;
        guard->first = 0;
        guard->bytes = part->bytes; // each may be open; at power-up all are locked
    }
    return CM_OK;
}

/* The registers with nothing protected: the lock against writing them goes too, where it does not
 * outlast that. */
static void open_registers(const struct cm_nor_guard *rules, const uint8_t *registers,
                           uint8_t *open)
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

static enum cm_status lift(struct cm_session *session, struct cm_guard *guard)
{
    const struct cm_nor_guard *rules = cm_nor_part_of(session)->guard;
    uint8_t open[CM_NOR_REGISTERS];
    enum cm_status status = CM_OK;
    if (rules && rules->by_sector) {
        status = rules->by_sector->lift(session, guard);
    } else if (rules) {
        open_registers(rules, guard->registers, open);
        status = write_or_held(session, open);
    }
    cm_nor_state(session)->unguarded |= status == CM_OK;
    return status;
}

static enum cm_status restore(struct cm_session *session, struct cm_guard *guard)
{
    const struct cm_nor_guard *rules = cm_nor_part_of(session)->guard;
    // whatever comes of it: a chip found again shall not be opened anew
    cm_nor_state(session)->unguarded = false;
    if (!rules)
        return CM_OK;
    return rules->by_sector ? rules->by_sector->restore(session, guard)
                            : write_or_held(session, guard->registers);
}

const struct cm_guard_rules cm_nor_guard_rules = {.look = look, .lift = lift, .restore = restore};
