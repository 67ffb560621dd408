/*
 * A look along the address lines. A line that is off makes two places read alike, and a write to
 * one of them goes to the other; reading back says that all is good.
 *
 *     A4 off, and low:    1000 .. 100F reads as it is      1010 .. 101F reads the same
 *
 * What that means the engine knows (core/job/blocks_wires.c).
 */
#include "par.h"
#include <string.h>

enum cm_status cm_par_prove(struct cm_session *session, uint32_t address, const uint8_t *bytes,
                            uint32_t count, uint32_t *alike)
{
    enum { AT_ONCE = 4 };
    const struct cm_par_part *part = cm_par_part_of(session);
    uint32_t unit = cm_par_unit(session), bit = unit;
    uint32_t whole = ((address & (unit - 1)) + count + unit - 1) & ~(unit - 1);
    uint8_t there[AT_ONCE][CM_PROOF_BYTES];
    enum cm_status status = CM_OK;
    *alike = 0;
    while (!status && bit < part->bytes) {
        uint32_t first = bit;
        cm_batch_begin(session, CM_STEP_COMPARE, NULL, 0);
        for (uint8_t i = 0; i < AT_ONCE && bit < part->bytes; i++, bit <<= 1) {
            uint32_t from = (address ^ bit) & ~(unit - 1);
            cm_par_add_read(session, CM_DATA_IN, from, there[i],
                            bit < CM_PROOF_BYTES ? unit : whole);
        }
        status = cm_batch_run(session);
        for (uint8_t i = 0; !status && first < bit; i++, first <<= 1) {
            uint32_t skip = address & (unit - 1), most = first < CM_PROOF_BYTES ? 1 : count;
            *alike |= memcmp(there[i] + skip, bytes, most) == 0 ? first : 0;
        }
    }
    return status;
}
