/*
 * Building a batch in the session, an operation at a time, and running it. For the drivers of all
 * families.
 *
 * A batch belongs to one place in one region: a failure is recorded with the address of the item
 * that failed.
 */
#ifndef CM_JOB_BATCH_H
#define CM_JOB_BATCH_H

#include "session.h"

/* One row of a fixed sequence of lines and waits. */
struct cm_line_step {
    uint8_t line;     /* enum cm_line */
    uint8_t level;    /* enum cm_level */
    uint16_t wait_us; /* after it */
};

void cm_batch_begin(struct cm_session *session, enum cm_step step, const char *region,
                    uint32_t address);
struct cm_op *cm_batch_add(struct cm_session *session, enum cm_op_kind kind);
void cm_batch_wait(struct cm_session *session, uint32_t us);

/* Adds an exchange: the head's first byte, how many bytes the head has, and the data. */
struct cm_exchange *cm_batch_exchange(struct cm_session *session, uint8_t first, uint8_t head_count,
                                      enum cm_data data, const uint8_t *bytes);

/* Adds a repeat of the next `ops` operations. */
struct cm_repeat *cm_batch_repeat(struct cm_session *session, uint32_t first, uint32_t count,
                                  uint32_t chunk, uint8_t ops);

/* Bytes of a chunk that is written: the page, or less where a head and a page are more than the
 * port can send in one call. */
uint32_t cm_batch_chunk(const struct cm_session *session, uint32_t page_bytes, uint8_t head);

/* Sets the bus clock, within what the port can do. */
struct cm_op *cm_batch_clock(struct cm_session *session, uint32_t hz);

/* The operations added from here on prove a write. */
static inline void cm_batch_verify(struct cm_session *session)
{
    session->batch.verify = session->batch.count;
}

/* The operations added from here on ask who is there: a mismatch of them is lost contact, at the
 * batch's own address. */
static inline void cm_batch_proof(struct cm_session *session)
{
    session->batch.proof = session->batch.count;
}

/* Runs the batch; a failure is left in the session. For a mismatch in the proof of a write it is
 * CM_WRITE_FAILED. */
CM_MUST_CHECK enum cm_status cm_batch_run(struct cm_session *session);

/* Runs the batch and leaves no record: for releasing the target after a failure, and for asking
 * whether the chip is there. */
CM_MUST_CHECK enum cm_status cm_batch_try(struct cm_session *session);

/* Adds SELECT, write protect and hold of a memory, those of them that the port has wires to, all at
 * one level. */
void cm_batch_memory_lines(struct cm_session *session, enum cm_level level);

/* Releases lines, those of them that the port can drive, in this order; ignores failures. */
void cm_batch_release(struct cm_session *session, const uint8_t *lines, uint8_t count);

/* Adds a sequence of lines and waits. */
void cm_batch_lines(struct cm_session *session, const struct cm_line_step *steps, uint8_t count);

#endif
