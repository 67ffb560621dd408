/*
 * Building a batch in the session, and running it.
 */
#include "batch.h"
#include <string.h>

enum { NO_OP = 0xFF };

void cm_batch_begin(struct cm_session *session, enum cm_step step, const char *region, uint32_t address)
{
    struct cm_batch *batch = &session->batch;
    batch->count = 0;
    batch->is_over = false;
    batch->verify = batch->proof = NO_OP;
    batch->step = (uint8_t)step;
    batch->region = region;
    batch->address = address;
}

struct cm_op *cm_batch_add(struct cm_session *session, enum cm_op_kind kind)
{
    struct cm_batch *batch = &session->batch;
    batch->is_over |= batch->count == CM_BATCH_OPS;
    batch->count =
        (uint8_t)(batch->count -
                  batch->is_over); // the last one is written over, and the batch does not run
    struct cm_op *op = &batch->ops[batch->count++];
    memset(op, 0, sizeof *op);
    op->kind = kind;
    return op;
}

struct cm_op *cm_batch_clock(struct cm_session *session, uint32_t hz)
{
    const struct cm_traits *traits = &session->port->traits;
    struct cm_op *op = cm_batch_add(session, CM_OP_CLOCK);
    if (traits->clock_max_hz && hz > traits->clock_max_hz)
        hz = traits->clock_max_hz;
    op->clock.want_hz = hz < traits->clock_min_hz ? traits->clock_min_hz : hz;
    return op;
}

void cm_batch_wait(struct cm_session *session, uint32_t us)
{
    cm_batch_add(session, CM_OP_WAIT)->wait.us = us;
}

void cm_batch_lines(struct cm_session *session, const struct cm_line_step *steps, uint8_t count)
{
    for (; count; count--, steps++) {
        struct cm_op *op = cm_batch_add(session, CM_OP_LINE);
        op->line.line = (enum cm_line)steps->line;
        op->line.level = (enum cm_level)steps->level;
        cm_batch_wait(session, steps->wait_us);
    }
}

void cm_batch_memory_lines(struct cm_session *session, enum cm_level level)
{
    for (uint8_t line = CM_LINE_SELECT; line <= CM_LINE_HOLD; line++) {
        if (!(session->port->traits.lines & CM_LINE_BIT(line)))
            continue;
        struct cm_op *op = cm_batch_add(session, CM_OP_LINE);
        op->line.line = (enum cm_line)line;
        op->line.level = level;
    }
}

void cm_batch_release(struct cm_session *session, const uint8_t *lines, uint8_t count)
{
    cm_batch_begin(session, CM_STEP_LEAVE, NULL, 0);
    for (; count; count--, lines++) {
        if (!(session->port->traits.lines & CM_LINE_BIT(*lines)))
            continue;
        struct cm_op *op = cm_batch_add(session, CM_OP_LINE);
        op->line.line = (enum cm_line) * lines;
        op->line.level = CM_RELEASED;
    }
    cm_ignore(cm_batch_try(session));
}

static enum cm_status run(struct cm_session *session, struct cm_trouble *trouble)
{
    if (session->batch.is_over)
        return CM_NO_ROOM;
    return cm_port_run(session->port, session->batch.ops, session->batch.count, trouble);
}

enum cm_status cm_batch_try(struct cm_session *session)
{
    struct cm_trouble trouble;
    return run(session, &trouble);
}

enum cm_status cm_batch_run(struct cm_session *session)
{
    const struct cm_batch *batch = &session->batch;
    struct cm_trouble trouble = {0};
    enum cm_status status = run(session, &trouble);
    enum cm_step step = (enum cm_step)batch->step;
    if (!status)
        return CM_OK;
    if (status == CM_PORT_FAILED || status == CM_PORT_LACKS || trouble.op >= batch->count)
        return cm_fail(session, status, step);
    uint32_t address = trouble.placed ? trouble.address : batch->address;
    if (trouble.op >= batch->proof) {
        address = batch->address;
        status = status == CM_DIFFERS ? CM_CONTACT_LOST : status;
    }
    if (trouble.op == batch->verify) {
        step = CM_STEP_VERIFY;
        status = status == CM_DIFFERS ? CM_WRITE_FAILED : status;
    }
    if (!batch->region)
        return cm_fail(session, status, step);
    return cm_fail_byte(session, status, step, batch->region, address, trouble.expected, trouble.found);
}
