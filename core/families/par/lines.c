/*
 * Do the address lines move? A line that is off makes two places read alike, and a write to one of them goes to the other; reading back says that all is good.
 *
 *     A4 off, and low:    1000 .. 100F reads as it is      1010 .. 101F reads the same: so 16 bytes at 1000 are compared with those at 1010
 *
 * That two places differ proves the line between them. That they are alike proves nothing of blank chips, and of contents that repeat themselves; the engine (core/job/blocks.c) knows what may
 * repeat itself.
 */
#include "par.h"
#include <string.h>

static bool are_all_the_same(const uint8_t *bytes)
{
    return memcmp(bytes, bytes + 1, CM_PROOF_BYTES - 1) == 0;
}

/* Of a line among the lowest: are bytes that it leads to one another alike? */
static bool are_pairs_alike(const uint8_t *bytes, uint32_t bit)
{
    for (uint32_t i = 0; i < CM_PROOF_BYTES; i++) {
        if (bytes[i] != bytes[i ^ bit])
            return false;
    }
    return true;
}

enum cm_status cm_par_prove(struct cm_session *session, uint32_t address, const uint8_t *bytes, uint32_t *unproven)
{
    enum { AT_ONCE = 4 };
    const struct cm_par_part *part = cm_par_part_of(session);
    uint8_t here[CM_PROOF_BYTES], there[AT_ONCE][CM_PROOF_BYTES];
    bool is_known = bytes != NULL;
    address &= ~(uint32_t)(CM_PROOF_BYTES - 1);
    enum cm_status status = CM_OK;
    if (is_known)
        memcpy(here, bytes, sizeof here);
    else
        status = cm_par_read(session, CM_ACCESS_READ, address, here, sizeof here);
    *unproven &= part->bytes - cm_par_unit(session); // the lines that there are
    if (are_all_the_same(here)) {
        *unproven = is_known ? 0 : *unproven; // it would not show
        return status;
    }
    for (uint32_t bit = cm_par_unit(session); !is_known && bit < CM_PROOF_BYTES; bit <<= 1)
        *unproven &= are_pairs_alike(here, bit) ? UINT32_MAX : ~bit;
    for (uint32_t bit = CM_PROOF_BYTES; !status && bit < part->bytes;) {
        uint32_t bits[AT_ONCE];
        uint8_t count = 0;
        cm_batch_begin(session, CM_STEP_COMPARE, NULL, 0);
        for (; count < AT_ONCE && bit < part->bytes; bit <<= 1) {
            if (!(*unproven & bit))
                continue;
            bits[count] = bit;
            cm_par_add(session, address ^ bit, CM_PROOF_BYTES, NULL, 0)->in = there[count];
            count++;
        }
        status = count ? cm_batch_run(session) : CM_OK;
        while (count-- > 0 && !status)
            *unproven &= memcmp(here, there[count], sizeof here) != 0 ? ~bits[count] : UINT32_MAX;
    }
    return status;
}
