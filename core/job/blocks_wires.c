/*
 * A look along the address wires, before and after a put: for memories whose address is on wires of
 * its own.
 */
#include "blocks.h"

/*
 * A wire of the address that is off makes two places read alike, and what is written to one of them
 * goes to the other: reading back says that all is good. So where the first change will be, the
 * place that each wire leads to is compared with the bytes that are wanted, before and after. If
 * such a place is beside the images and has become alike, it was written to.
 */
static enum cm_status look(struct cm_blocks *work, uint32_t *alike)
{
    uint32_t start, count, room = CM_PROOF_BYTES - work->change % CM_PROOF_BYTES;
    *alike = 0;
    if (!cm_wanted_run(work, work->change, work->region.bytes, &start, &count))
        return CM_OK;
    count = count < room ? count : room;
    enum cm_status status = cm_load_wanted(work, work->change, work->buffer, count);
    return status ? status
                  : work->session->family->blocks->prove(work->session, work->change, work->buffer,
                                                         count, alike);
}

enum cm_status cm_along_wires(struct cm_blocks *work, bool is_after)
{
    uint32_t alike, start, count;
    enum cm_status status = look(work, &alike);
    if (!is_after) {
        work->alike = alike;
        return status;
    }
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
