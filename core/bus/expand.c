/*
 * Expands a batch onto a simple port.
 *
 * A port with nothing but small functions gets each operation as calls of those. Those that are loops in themselves are expanded by functions that the operation names: each.c, frames.c.
 */
#include <coldmint/port.h>
#include <string.h>

/* Lets go of those of the bus lines that the port can let go of. */
static enum cm_status release_bus(struct cm_port *port)
{
    enum cm_status status = CM_OK;
    for (uint8_t line = CM_LINE_SCK; line <= CM_LINE_MOSI && !status; line++) {
        if (port->traits.lines & CM_LINE_BIT(line))
            status = port->line(port, (enum cm_line)line, CM_RELEASED);
    }
    return status;
}

static enum cm_status run_op(struct cm_port *port, struct cm_op *op, struct cm_trouble *trouble)
{
    switch (op->kind) {
    case CM_OP_SUPPLY:
        return port->supply ? port->supply(port, op->supply.mv) : CM_PORT_LACKS;
    case CM_OP_CLOCK:
        if (op->clock.want_hz == 0)
            return release_bus(port);
        op->clock.real_hz = op->clock.want_hz;
        return port->clock ? port->clock(port, op->clock.want_hz, &op->clock.real_hz) : CM_OK;
    case CM_OP_LINE:
        return port->line ? port->line(port, op->line.line, op->line.level) : CM_PORT_LACKS;
    case CM_OP_SENSE:
        return port->sense ? port->sense(port, op->sense.line, &op->sense.value) : CM_PORT_LACKS;
    case CM_OP_WAIT:
        port->wait_us(port, op->wait.us);
        return CM_OK;
    case CM_OP_SHIFT:
        return port->shift ? port->shift(port, op->shift.out, op->shift.in, op->shift.bytes)
                           : CM_PORT_LACKS;
    case CM_OP_POLL:
    case CM_OP_EACH:
    case CM_OP_FRAMES:
    case CM_OP_CYCLES:
    case CM_OP_TWO_WIRE:
    case CM_OP_THREE_WIRE:
        return op->expand(port, op, trouble);
    case CM_OP_KIND_COUNT:
        break;
    }
    return CM_BAD_ARGUMENT;
}

enum cm_status cm_port_run(struct cm_port *port, struct cm_op *ops, uint32_t count, struct cm_trouble *trouble)
{
    memset(trouble, 0, sizeof *trouble);
    if (port->run)
        return port->run(port, ops, count, trouble);
    for (uint32_t i = 0; i < count; i++) {
        trouble->op = i;
        enum cm_status status = run_op(port, &ops[i], trouble);
        if (status)
            return status;
    }
    return CM_OK;
}
