/*
 * The first byte of each of several pages, compared in one batch. A file of its own: only a kit
 * with `strides` carries it.
 */
#include "avr.h"

static enum cm_status match_starts(struct cm_session *session, uint8_t region, uint32_t address,
                                   const uint8_t *bytes, uint32_t pages)
{
    struct cm_region facts;
    if (!cm_region(session, region, &facts))
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_COMPARE);
    uint32_t last = address + (pages - 1) * facts.page_bytes;
    if (address / AVR_SEGMENT_BYTES !=
        last / AVR_SEGMENT_BYTES) // beyond what two address bytes reach: not known
        return cm_fail_at(session, CM_DIFFERS, CM_STEP_COMPARE, facts.name, address);
    cm_batch_begin(session, CM_STEP_COMPARE, facts.name, address);
    if (region == CM_AVR_FLASH)
        cm_avr_add_segment(session, address);
    cm_batch_repeat(session, address, pages * facts.page_bytes, facts.page_bytes, 1);
    cm_avr_add_reads(session, region, CM_DATA_MATCH, bytes);
    session->batch.ops[session->batch.count - 1].exchange.count = 1;
    cm_batch_proof(session);
    if (!cm_avr_state(session)->echoes)
        cm_avr_add_proof(session);
    return cm_avr_run(session);
}

const struct cm_strides cm_avr_strides = {.before = cm_stride_pages, .match_starts = match_starts};
