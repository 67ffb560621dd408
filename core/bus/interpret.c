/*
 * The interpreter of batches: the one place that loops and polls, for all buses.
 *
 *     repeat   sets the chunk, and goes back to its first operation until all chunks are done
 *     poll     tries the exchange behind it until its check holds, or the time is over; then once
 *              more, for the port may have been held up
 *
 * Everything else is one call of the port, or of the bus.
 */
#include "run.h"
#include <string.h>

/*
 * The exchange at hand, once; or with a poll until it holds. It ends by the port's clock; and where
 * that stands still, or wraps around before the time is over, by what was waited, and a sixteenth
 * of a microsecond for each try: the fastest cycles take longer.
 */
static enum cm_status run_exchange(struct cm_run *run, const struct cm_poll *poll)
{
    const struct cm_port *port = run->port;
    cm_run_load(run);
    if (!poll)
        return run->bus->exchange(run);
    uint32_t begun = port->lines->now_us(port), pause_us = poll->early_us, spent_16 = 0;
    for (bool late = false;;) {
        if (pause_us)
            port->lines->wait_us(port, pause_us);
        enum cm_status status = run->bus->exchange(run);
        if (poll->floating && run->found == poll->floating && (!status || status == CM_BAD_ANSWER))
            return CM_CONTACT_LOST;
        if (status != CM_BAD_ANSWER && status != CM_NACK)
            return status;
        if (late)
            return CM_TIMED_OUT;
        uint32_t took = port->lines->now_us(port) - begun;
        spent_16 += 16 * pause_us + 1;
        took = took > spent_16 / 16 ? took : spent_16 / 16;
        late = took > poll->timeout_us;
        pause_us = poll->interval_us;
    }
}

static enum cm_status run_plain(struct cm_run *run, struct cm_op *op)
{
    const struct cm_port *port = run->port;
    const struct cm_lines *lines = port->lines;
    switch (op->kind) {
    case CM_OP_SUPPLY:
        return lines->supply ? lines->supply(port, op->supply.mv) : CM_PORT_LACKS;
    case CM_OP_CLOCK:
        return run->bus->clock(port, op->clock.want_hz, &op->clock.real_hz);
    case CM_OP_LINE:
        return lines->line
                   ? lines->line(port, (enum cm_line)op->line.line, (enum cm_level)op->line.level)
                   : CM_PORT_LACKS;
    case CM_OP_SENSE:
        return lines->sense ? lines->sense(port, (enum cm_line)op->sense.line, &op->sense.value)
                            : CM_PORT_LACKS;
    case CM_OP_WAIT:
        lines->wait_us(port, op->wait.us);
        return CM_OK;
    default:
        return CM_BAD_ARGUMENT;
    }
}

/* Before the first chunk; or outside of a repeat, where there is none. */
static void begin(struct cm_run *run, const struct cm_repeat *repeat, uint32_t end)
{
    run->repeat = repeat;
    run->placed = repeat != NULL;
    run->end = end;
    run->at = run->chunk = run->address = 0;
    run->index = repeat ? UINT32_MAX : 0;
}

enum cm_status cm_interpret(struct cm_run *run)
{
    const struct cm_poll *poll = NULL; // of the next exchange
    uint32_t body = 0;
    run->end = run->op; // the first
    run->repeat = NULL;
    for (;;) {
        if (run->op == run->end) {
            if (poll)
                return CM_BAD_ARGUMENT;
            if (run->repeat && cm_run_next_chunk(run))
                run->op = body;
            else if (run->op == run->op_count)
                return CM_OK;
            else
                begin(run, NULL, run->op_count);
            continue;
        }
        struct cm_op *op = &run->ops[run->op];
        enum cm_status status = CM_OK;
        if (op->kind == CM_OP_EXCHANGE) {
            status = run_exchange(run, poll);
            poll = NULL;
        } else if (poll) {
            return CM_BAD_ARGUMENT;
        } else if (op->kind == CM_OP_POLL) {
            poll = &op->poll;
        } else if (op->kind == CM_OP_REPEAT) {
            if (run->repeat || op->repeat.ops >= run->end - run->op)
                return CM_BAD_ARGUMENT;
            body = run->op + 1;
            run->op += op->repeat.ops;
            begin(run, &op->repeat, run->op + 1);
        } else {
            status = run_plain(run, op);
        }
        if (status == CM_SPARED)
            run->op = run->end;
        else if (status)
            return status;
        else
            run->op++;
    }
}
