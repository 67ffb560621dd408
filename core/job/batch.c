/*
 * Building a batch in the session, and running it.
 */
#include "batch.h"
#include <string.h>

enum { NO_OP = 0xFF };

void cm_batch_begin(struct cm_session *session, enum cm_step step, const char *region,
                    uint32_t address)
{
    struct cm_batch *batch = &session->batch;
    batch->count = 0;
    batch->unanswered = CM_CONTACT_LOST;
    batch->verify = batch->proof = NO_OP;
    batch->step = (uint8_t)step;
    batch->region = region;
    batch->address = address;
}

struct cm_op *cm_batch_add(struct cm_session *session, enum cm_op_kind kind)
{
    struct cm_batch *batch = &session->batch;
    if (batch->count == CM_BATCH_OPS) {
        batch->count--;
        batch->ops[0].kind = NO_OP; // such a batch stops before it has done anything
    }
    struct cm_op *op = &batch->ops[batch->count++];
    memset(op, 0, sizeof *op);
    op->kind = (uint8_t)kind;
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
        op->line.line = steps->line;
        op->line.level = steps->level;
        cm_batch_wait(session, steps->wait_us);
    }
}

void cm_batch_memory_lines(struct cm_session *session, enum cm_level level)
{
    for (uint8_t line = CM_LINE_SELECT; line <= CM_LINE_HOLD; line++) {
        if (!(session->port->traits.lines & CM_LINE_BIT(line)))
            continue;
        struct cm_op *op = cm_batch_add(session, CM_OP_LINE);
        op->line.line = line;
        op->line.level = (uint8_t)level;
    }
}

void cm_batch_release(struct cm_session *session, const uint8_t *lines, uint8_t count)
{
    cm_batch_begin(session, CM_STEP_LEAVE, NULL, 0);
    for (; count; count--, lines++) {
        if (!(session->port->traits.lines & CM_LINE_BIT(*lines)))
            continue;
        struct cm_op *op = cm_batch_add(session, CM_OP_LINE);
        op->line.line = *lines;
        op->line.level = CM_RELEASED;
    }
    cm_ignore(cm_batch_try(session));
}

struct cm_exchange *cm_batch_exchange(struct cm_session *session, uint8_t first, uint8_t head_count,
                                      enum cm_data data, const uint8_t *bytes)
{
    struct cm_exchange *exchange = &cm_batch_add(session, CM_OP_EXCHANGE)->exchange;
    exchange->head[0] = first;
    exchange->head_count = head_count;
    exchange->data = (uint8_t)data;
    exchange->out = bytes;
    return exchange;
}

struct cm_repeat *cm_batch_repeat(struct cm_session *session, uint32_t first, uint32_t count,
                                  uint32_t chunk, uint8_t ops)
{
    struct cm_repeat *repeat = &cm_batch_add(session, CM_OP_REPEAT)->repeat;
    *repeat = (struct cm_repeat){first, count, chunk, ops};
    return repeat;
}

uint32_t cm_batch_chunk(const struct cm_session *session, uint32_t page_bytes, uint8_t head)
{
    uint32_t most = session->port->traits.transfer_max;
    while (most && page_bytes > 1 && page_bytes + head > most)
        page_bytes /= 2;
    return page_bytes;
}

static enum cm_status run_batch(struct cm_session *session, struct cm_run *run)
{
    struct cm_batch *batch = &session->batch;
    run->port = session->port;
    run->bus = session->family->bus;
    run->ops = batch->ops;
    run->op_count = batch->count;
    run->op = 0; // a port that fails may say nothing of where
    run->placed = false;
    run->expected = run->found = 0;
    enum cm_status status = cm_port_run(run);
    return status == CM_BAD_ANSWER || status == CM_NACK ? (enum cm_status)batch->unanswered
                                                        : status;
}

enum cm_status cm_batch_try(struct cm_session *session)
{
    struct cm_run run;
    return run_batch(session, &run);
}

enum cm_status cm_batch_run(struct cm_session *session)
{
    const struct cm_batch *batch = &session->batch;
    struct cm_run run;
    enum cm_status status = run_batch(session, &run);
    enum cm_step step = (enum cm_step)batch->step;
    if (!status)
        return CM_OK;
    if (status == CM_PORT_FAILED || status == CM_PORT_LACKS)
        return cm_fail(session, status, step);
    uint32_t address = run.placed ? run.address : batch->address;
    if (run.op >= batch->proof) {
        address = batch->address;
        status = status == CM_DIFFERS ? CM_CONTACT_LOST : status;
    } else if (run.op >= batch->verify) {
        step = CM_STEP_VERIFY;
        status = status == CM_DIFFERS ? CM_WRITE_FAILED : status;
    }
    if (!batch->region)
        return cm_fail(session, status, step);
    return cm_fail_byte(session, status, step, batch->region, address, run.expected, run.found);
}
