/*
 * A look along the address, before, in and after a put, of memories that have no id.
 *
 * A wire of a parallel address that is off makes two places read alike, and what is written to one
 * of them goes to the other: reading back says that all is good. A serial memory that is smaller
 * than its name says does the same, since it does not look at the highest bits of an address.
 *
 *     24LC32A, named AT24C64D:    0000 .. 0FFF       1000 .. 1FFF reads the same, and is the same
 *
 * So where the first change will be, the place that each bit leads to is compared with the bytes
 * that are wanted, before and after. One that has become alike was written to.
 */
#include "blocks.h"
#include <string.h>

/* The first bytes that change, as many as are compared; 0: there are none. */
static enum cm_status load_first(struct cm_blocks *work, uint32_t *count)
{
    uint32_t start, room = CM_PROOF_BYTES - work->change % CM_PROOF_BYTES;
    if (!cm_wanted_run(work, work->change, work->region.bytes, &start, count)) {
        *count = 0;
        return CM_OK;
    }
    *count = *count < room ? *count : room;
    return cm_load_wanted(work, work->change, work->buffer, *count);
}

/* Those bits that lead to other bytes than are compared: a chip has the lowest ones. */
static enum cm_status prove_by_reading(struct cm_blocks *work, uint32_t count, uint32_t *alike)
{
    uint8_t there[CM_PROOF_BYTES];
    enum cm_status status = CM_OK;
    for (uint32_t bit = CM_PROOF_BYTES; !status && bit < work->region.bytes; bit <<= 1) {
        status = cm_access_bytes(work, CM_ACCESS_READ, work->change ^ bit, there, count);
        *alike |= memcmp(there, work->buffer, count) == 0 ? bit : 0;
    }
    return status;
}

static enum cm_status look(struct cm_blocks *work, uint32_t *alike)
{
    const struct cm_blocks_rules *rules = work->session->family->blocks;
    uint32_t count;
    *alike = 0;
    enum cm_status status = load_first(work, &count);
    if (status || !count)
        return status;
    return rules->prove ? rules->prove(work->session, work->change, work->buffer, count, alike)
                        : prove_by_reading(work, count, alike);
}

enum cm_status cm_look_before_change(struct cm_blocks *work)
{
    return look(work, &work->alike);
}

enum cm_status cm_look_after_changes(struct cm_blocks *work)
{
    uint32_t alike, start, count;
    enum cm_status status = look(work, &alike);
    alike &= ~work->alike;
    for (uint32_t bit = 1; !status && bit && bit < work->region.bytes; bit <<= 1) {
        uint32_t there = work->change ^ bit;
        bool is_wanted =
            cm_wanted_run(work, there, work->region.bytes, &start, &count) && start == there;
        if ((alike & bit) && !is_wanted)
            status =
                cm_fail_at(work->session, CM_IN_DOUBT, CM_STEP_VERIFY, work->region.name, there);
    }
    return status;
}

/* Once more where it fails, as every write: what shares a word with it is written back then. */
static enum cm_status write_first(struct cm_blocks *work, uint8_t *bytes, uint32_t count)
{
    enum cm_status status = CM_WRITE_FAILED;
    for (uint8_t i = 0; i < 2 && status == CM_WRITE_FAILED; i++)
        status = cm_access_bytes(work, CM_ACCESS_PROGRAM, work->change, bytes, count);
    return status;
}

enum cm_status cm_try_first(struct cm_blocks *work)
{
    uint8_t old[CM_PROOF_BYTES];
    uint32_t count, alike;
    enum cm_status status = look(work, &work->alike);
    if (!status)
        status = load_first(work, &count);
    if (!status)
        status = cm_access_bytes(work, CM_ACCESS_READ, work->change, old, count);
    if (!status)
        status = write_first(work, work->buffer, count);
    if (!status)
        status = look(work, &alike);
    if (status)
        return status;
    alike &= ~work->alike & ~(CM_PROOF_BYTES - 1u); // those below are among the bytes themselves
    if (alike && (work->region.traits & CM_REGION_REWRITES))
        status = write_first(work, old, count);
    return status || !alike ? status
                            : cm_fail_at(work->session, CM_WRONG_CHIP, CM_STEP_VERIFY,
                                         work->region.name, alike & ~(alike - 1));
}
