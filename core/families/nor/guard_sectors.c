/*
 * Parts with a lock for each sector: 36 protects, 39 unprotects, 3C tells; all are locked by
 * power-up. The status register has a summary of them: none, some, all. A write of the status
 * register with that field all 0 or all 1 does so to every sector. A file of its own: only rows
 * that name it carry it.
 */
#include "nor.h"

enum {
    SECTOR_BYTES = 65536,
    CMD_LOCK_SECTOR = 0x36,
    CMD_READ_LOCK = 0x3C,
    GLOBAL_BITS = 0x3C,              // bits 5 to 2 of the status
    SUMMARY_BITS = NOR_SUMMARY_BITS, // of them, those that tell
    NO_GLOBAL = 0x20,                // a value of those bits that touches no sector
};

static enum cm_status read_locks(struct cm_session *session, struct cm_guard *guard)
{
    enum cm_status status = CM_OK;
    for (uint32_t at = 0; !status && at < cm_nor_part_of(session)->bytes; at += SECTOR_BYTES) {
        uint8_t lock = 0;
        cm_batch_begin(session, CM_STEP_SETTINGS, "locks", at);
        cm_batch_repeat(session, at, 1, 0, 1);
        cm_nor_add_at(session, CMD_READ_LOCK, 0, CM_DATA_IN, &lock);
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
    guard->first = 0;
    guard->bytes = 0;
    if (summary == 0)
        return CM_OK;
    if (summary != SUMMARY_BITS)
        return read_locks(session, guard);
    guard->bytes = cm_nor_part_of(session)->bytes;
    return CM_OK;
}

/* One write of the status register, which does not read back: what comes of its global bits is seen
 * in the summary. */
static enum cm_status write_global(struct cm_session *session, uint8_t byte)
{
    return cm_nor_write_registers(session, CMD_WRITE_STATUS, &byte, 1);
}

/* The summary must say what it should. */
static enum cm_status prove(struct cm_session *session, uint8_t wanted)
{
    uint8_t now[CM_NOR_REGISTERS];
    enum cm_status status = cm_nor_read_status(session, now);
    if (!status && ((now[0] ^ wanted) & SUMMARY_BITS))
        status = cm_fail_byte(session, CM_PROTECTED, CM_STEP_SETTINGS, "status", 0, wanted, now[0]);
    return status;
}

static enum cm_status lift_sectors(struct cm_session *session, struct cm_guard *guard)
{
    enum cm_status status = CM_OK;
    if (guard->registers[0] & cm_nor_part_of(session)->guard->lock_mask)
        status = write_global(
            session, NO_GLOBAL); // the lock first; while it stands the others are not heard
    if (!status)
        status = write_global(session, 0);
    return status ? status : prove(session, 0);
}

static enum cm_status restore_sectors(struct cm_session *session, struct cm_guard *guard)
{
    uint8_t summary = guard->registers[0] & SUMMARY_BITS,
            lock = guard->registers[0] & cm_nor_part_of(session)->guard->lock_mask;
    enum cm_status status = write_global(session, summary == SUMMARY_BITS ? GLOBAL_BITS : 0);
    for (uint32_t sector = 0;
         !status && summary && summary != SUMMARY_BITS && sector < CM_GUARD_LOCKS * 8u; sector++) {
        if (!(guard->locks[sector / 8] >> sector % 8 & 1))
            continue;
        cm_batch_begin(session, CM_STEP_SETTINGS, "locks", sector * SECTOR_BYTES);
        cm_nor_add(session, CMD_WRITE_ENABLE);
        cm_batch_repeat(session, sector * SECTOR_BYTES, 1, 0, 1);
        cm_nor_add_at(session, CMD_LOCK_SECTOR, 0, CM_DATA_NONE, NULL);
        status = cm_nor_run(session);
    }
    if (!status && lock)
        status = write_global(session, lock | NO_GLOBAL);
    return status ? status : prove(session, summary);
}

const struct cm_nor_sector_locks cm_nor_sector_locks = {
    .look = look_at_sectors, .lift = lift_sectors, .restore = restore_sectors};
