/* Inside of the AVR driver: a batch in the making, between the way in (enter.c) and the memories (memory.c). */
#ifndef CM_AVR_DRIVER_H
#define CM_AVR_DRIVER_H

#include "../../job/session.h"
#include "parts.h"

enum { INSTRUCTION = 4, SIGNATURE_BYTES = 3, BATCH_OPS = 7, NO_OP = 0xFF };

/* A batch that belongs to one place, so that any failure can name it. */
struct cm_avr_batch {
    struct cm_op ops[BATCH_OPS];
    uint8_t count;
    uint8_t verify; /* index of the op whose mismatch means that a write failed, or NO_OP */
    enum cm_step step;
    const char *region;
    uint32_t address;
};

const struct cm_avr_part *cm_avr_part_of(const struct cm_session *session);

void cm_avr_begin(struct cm_avr_batch *batch, enum cm_step step, const char *region, uint32_t address);
struct cm_op *cm_avr_add(struct cm_avr_batch *batch, enum cm_op_kind kind);

/* Adds one instruction; `code` (4 bytes) must live until the batch has run. */
void cm_avr_add_instruction(struct cm_session *session, struct cm_avr_batch *batch, const uint8_t *code);

/* Adds what ends a write: Poll RDY/BSY where the part has it, else the data sheet's wait. */
void cm_avr_add_ready(struct cm_session *session, struct cm_avr_batch *batch, uint32_t t_wd_us);

/* The poll for that. */
struct cm_poll cm_avr_ready(const struct cm_session *session, uint32_t t_wd_us);

/* Runs the batch; leaves a failure with its place in the session. */
enum cm_status cm_avr_run(struct cm_session *session, struct cm_avr_batch *batch);

enum cm_status cm_avr_enter(struct cm_session *session);
enum cm_status cm_avr_identify(struct cm_session *session);
void cm_avr_leave(struct cm_session *session);

#endif
