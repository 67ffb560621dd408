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

/* The exchange at hand, once; or with a poll until it holds. */
static enum cm_status run_exchange(struct cm_run *run, const struct cm_poll *poll)
{
    const struct cm_port *port = run->port;
    struct cm_deadline deadline = {0, 0, 0};
    uint32_t pause_us = 0;
    if (poll) {
        deadline = cm_deadline_begin(port);
        pause_us = poll->early_us;
    }
    for (bool late = false;;) {
        if (pause_us)
            port->lines->wait_us(port, pause_us);
        run->found = 0;
        cm_run_load(run);
        enum cm_status status = run->bus->exchange(run);
        bool again = status == CM_BAD_ANSWER || status == CM_NACK;
        if (!poll || (status && !again))
            return status;
        if (poll->floating && run->found == poll->floating)
            return CM_CONTACT_LOST;
        if (!again)
            return CM_OK;
        if (late)
            return CM_TIMED_OUT;
        pause_us = poll->interval_us;
        late = cm_deadline_is_over(port, &deadline, poll->timeout_us);
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
        return lines->line ? lines->line(port, (enum cm_line)op->line.line,
                                         (enum cm_level)op->line.level)
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

/* The chunk behind the one at hand; false behind the last. */
static bool next_chunk(struct cm_run *run)
{
    const struct cm_repeat *repeat = run->repeat;
    run->index++;
    run->at += run->chunk;
    uint32_t left = repeat->count - run->at, room = left;
    run->address = repeat->first + run->at;
    if (repeat->chunk)
        room = repeat->chunk - (run->address & (repeat->chunk - 1));
    run->chunk = room < left ? room : left;
    return left != 0;
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
    uint32_t body = 0;
    run->op = run->end = 0;
    run->repeat = NULL;
    for (;;) {
        if (run->op == run->end) {
            if (run->repeat && next_chunk(run))
                run->op = body;
            else if (run->op == run->op_count)
                return CM_OK;
            else
                begin(run, NULL, run->op_count);
            continue;
        }
        struct cm_op *op = &run->ops[run->op];
        uint32_t left = run->end - run->op - 1;
        if (op->kind == CM_OP_REPEAT && !run->repeat && op->repeat.ops <= left) {
            body = run->op + 1;
            run->op = body + op->repeat.ops;
            begin(run, &op->repeat, run->op);
            continue;
        }
        const struct cm_poll *poll = NULL;
        if (op->kind == CM_OP_POLL && left && op[1].kind == CM_OP_EXCHANGE) {
            poll = &op++->poll;
            run->op++;
        }
        enum cm_status status =
            op->kind == CM_OP_EXCHANGE ? run_exchange(run, poll) : run_plain(run, op);
        if (status == CM_SPARED)
            run->op = run->end;
        else if (status)
            return status;
        else
            run->op++;
    }
}
