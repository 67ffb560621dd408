/*
 * What protects parallel memories, as far as it shows.
 *
 *     sector locks   in id mode, address 2 of a sector reads 1 where it is locked
 *         set and lifted by 12 V on pins alone
 *     boot block     in id mode, address 2 (lower) or 2 below the last 16 bytes reads 1
 *         permanently
 *     software data protection of EEPROMs and page flash: cannot be read; a write that does
 *         nothing shows it (pages.c)
 *
 * Nothing of this is lifted here: cm_guard_lift says CM_PROTECTED.
 */
#include "par.h"

enum { LOCK_ADDRESS = 2, LOCKED = 1, HIGH_BOOT_FROM_END = 14 };

/* The lock of the sector or boot block that is asked for at this byte address; of a bus of 16 bits,
 * the low byte. */
static enum cm_status read_lock(struct cm_session *session, uint32_t address, bool *locked)
{
    uint8_t shown[2] = {0};
    cm_batch_begin(session, CM_STEP_SETTINGS, "flash", address);
    cm_par_add_id_mode(session);
    cm_par_add_read(session, CM_DATA_IN, address, shown, cm_par_unit(session));
    cm_par_add_device(session); // a bus that nobody drives would read as locked
    cm_par_add_read_mode(session);
    enum cm_status status = cm_batch_run(session);
    *locked = shown[0] & LOCKED;
    return status == CM_DIFFERS ? cm_refine(session, CM_CONTACT_LOST) : status;
}

/* The protected area grows to hold this one, too. */
static void cover(struct cm_guard *guard, uint32_t first, uint32_t bytes)
{
    uint32_t end = first + bytes, old_end = guard->first + guard->bytes;
    if (!guard->bytes || first < guard->first)
        guard->first = first;
    guard->bytes = (end > old_end ? end : old_end) - guard->first;
}

uint32_t cm_par_sector_at(const struct cm_par_part *part, uint32_t address)
{
    const struct cm_par_erases *erases = part->erases;
    uint32_t unit = erases->units[0].bytes, first = erases->boot_at_top ? part->bytes - unit : 0;
    for (uint8_t i = 0; i < CM_PAR_BOOT_SECTORS && erases->boot[i]; i++) {
        uint32_t bytes = erases->boot[i] * (uint32_t)1024;
        if (address == first)
            return bytes;
        first += bytes;
    }
    return unit;
}

static enum cm_status look_at_sectors(struct cm_session *session, struct cm_guard *guard)
{
    const struct cm_par_part *part = cm_par_part_of(session);
    enum cm_status status = CM_OK;
    for (uint32_t at = 0, sector; !status && at < part->bytes; at += sector) {
        bool locked = false;
        sector = cm_par_sector_at(part, at);
        status = read_lock(session, at + LOCK_ADDRESS * cm_par_unit(session), &locked);
        if (locked)
            cover(guard, at, sector);
    }
    return status;
}

static enum cm_status look(struct cm_session *session, struct cm_guard *guard)
{
    const struct cm_par_part *part = cm_par_part_of(session);
    enum cm_status status = CM_OK;
    bool locked = false;
    *guard =
        (struct cm_guard){.cost = CM_LIFT_VOLTAGE, .unreadable = cm_par_has(session, CM_PAR_SDP)};
    if (cm_par_has(session, CM_PAR_SECTOR_LOCKS))
        status = look_at_sectors(session, guard);
    if (!status && cm_par_has(session, CM_PAR_BOOT_LOCK_LOW))
        status = read_lock(session, LOCK_ADDRESS, &locked);
    if (!status && locked)
        cover(guard, 0, part->boot_bytes);
    locked = false;
    if (!status && cm_par_has(session, CM_PAR_BOOT_LOCK_HIGH))
        status = read_lock(session, part->bytes - HIGH_BOOT_FROM_END, &locked);
    if (!status && locked)
        cover(guard, part->bytes - part->boot_bytes, part->boot_bytes);
    return status;
}

static enum cm_status look_at_pages(struct cm_session *session, struct cm_guard *guard)
{
    guard->unreadable = cm_par_has(session, CM_PAR_SDP);
    return CM_OK;
}

static enum cm_status lift(struct cm_session *session, struct cm_guard *guard)
{
    cm_par_state(session)->unguarded = guard->unreadable; // writing finds out
    if (guard->bytes)
        return cm_fail_at(session, CM_PROTECTED, CM_STEP_SETTINGS, "flash", guard->first);
    return CM_OK;
}

static enum cm_status restore(struct cm_session *session, struct cm_guard *guard)
{
    (void)guard;
    cm_par_state(session)->unguarded = false; // it was never lifted
    return CM_OK;
}

const struct cm_guard_rules cm_par_guard_rules = {.look = look, .lift = lift, .restore = restore};
const struct cm_guard_rules cm_par_page_guard_rules = {
    .look = look_at_pages, .lift = lift, .restore = restore};
