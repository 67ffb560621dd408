/*
 * Expands a batch onto a simple port.
 *
 * A port with nothing but small functions gets each operation as calls of those. An EACH is shifted in groups of a few
 * instructions, so that a port whose calls are dear (a system call each) is called less often. When data is only compared, the
 * first instruction goes alone: most pages that differ do so in their first byte, and no needless byte shall cross the wire.
 */
#include <coldmint/port.h>
#include <string.h>

enum { GROUP_BYTES = 48 }; // eight instructions of 6 bytes, twelve of 4

/* Every answer byte but the first and the last repeats the byte sent before it. */
static bool echo_holds(const uint8_t *out, const uint8_t *in, uint32_t bytes, struct cm_trouble *trouble)
{
    for (uint32_t i = 1; i + 1 < bytes; i++) {
        if (in[i] != out[i - 1]) {
            trouble->expected = out[i - 1];
            trouble->found = in[i];
            return false;
        }
    }
    return true;
}

static enum cm_status run_poll(struct cm_port *port, const struct cm_poll *poll, struct cm_trouble *trouble)
{
    uint8_t answer[CM_CODE_MAX];
    uint32_t start = port->now_us(port);
    for (bool late = false;;) {
        enum cm_status status = port->shift(port, poll->code, answer, poll->bytes);
        if (status)
            return status;
        if (poll->echo && !echo_holds(poll->code, answer, poll->bytes, trouble))
            return CM_CONTACT_LOST;
        if ((answer[poll->at] & poll->mask) == poll->want)
            return CM_OK;
        if (late) {
            trouble->expected = poll->want;
            trouble->found = answer[poll->at];
            return CM_TIMED_OUT;
        }
        late = port->now_us(port) - start > poll->timeout_us; // then ask once more: we may have been held up
    }
}

static void fill_instruction(const struct cm_each *each, uint32_t item, uint8_t *code)
{
    memcpy(code, each->code, each->bytes);
    uint32_t unit = each->first + item;
    uint32_t address = each->toggle ? unit >> 1 : unit;
    if (each->toggle && (unit & 1))
        code[0] ^= each->toggle;
    address &= each->address_mask;
    for (uint8_t i = each->address_bytes; i-- > 0; address >>= 8)
        code[each->address_at + i] = (uint8_t)address;
    if (each->data == CM_EACH_OUT && each->out)
        code[each->data_at] = each->out[item];
}

static bool compares(const struct cm_each *each)
{
    return each->data >= CM_EACH_MATCH; // and CM_EACH_FITS, the last of them
}

static bool data_holds(const struct cm_each *each, uint32_t item, uint8_t found, struct cm_trouble *trouble)
{
    if (each->data == CM_EACH_IN)
        each->in[item] = found;
    if (!compares(each))
        return true;
    uint8_t want = each->out[item];
    bool holds = each->data == CM_EACH_MATCH ? found == want : (found & want) == want;
    if (!holds) {
        trouble->expected = want;
        trouble->found = found;
    }
    return holds;
}

static enum cm_status check_answer(const struct cm_each *each, uint32_t item, const uint8_t *out, const uint8_t *in,
                                   struct cm_trouble *trouble)
{
    trouble->address = each->first + item;
    trouble->placed = each->address_bytes != 0;
    if (each->echo && !echo_holds(out, in, each->bytes, trouble))
        return CM_CONTACT_LOST;
    return data_holds(each, item, in[each->data_at], trouble) ? CM_OK : CM_DIFFERS;
}

/* Group of instructions that go out in one call. */
static uint32_t group_size(const struct cm_each *each, uint32_t item)
{
    bool waits = each->ready || each->pause_us;
    uint32_t most = waits || (compares(each) && item == 0) ? 1u : (uint32_t)GROUP_BYTES / each->bytes;
    uint32_t left = each->count - item;
    return left < most ? left : most;
}

enum cm_status cm_expand_each(struct cm_port *port, const struct cm_each *each, struct cm_trouble *trouble)
{
    uint8_t out[GROUP_BYTES], in[GROUP_BYTES];
    for (uint32_t item = 0, group; item < each->count; item += group) {
        group = group_size(each, item);
        for (uint32_t i = 0; i < group; i++)
            fill_instruction(each, item + i, out + i * each->bytes);
        enum cm_status status = port->shift(port, out, in, group * each->bytes);
        for (uint32_t i = 0; i < group && !status; i++)
            status = check_answer(each, item + i, out + i * each->bytes, in + i * each->bytes, trouble);
        if (!status && each->ready)
            status = run_poll(port, each->ready, trouble);
        if (status)
            return status;
        if (each->pause_us)
            port->wait_us(port, each->pause_us);
    }
    return CM_OK;
}

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
        return port->line(port, op->line.line, op->line.level);
    case CM_OP_SENSE:
        return port->sense ? port->sense(port, op->sense.line, &op->sense.value) : CM_PORT_LACKS;
    case CM_OP_WAIT:
        port->wait_us(port, op->wait.us);
        return CM_OK;
    case CM_OP_SHIFT:
        return port->shift(port, op->shift.out, op->shift.in, op->shift.bytes);
    case CM_OP_POLL:
        return run_poll(port, &op->poll, trouble);
    case CM_OP_EACH:
        return cm_expand_each(port, &op->each, trouble);
    case CM_OP_FRAMES:
        return op->frames.expand(port, &op->frames, trouble);
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

bool cm_port_has_spi(const struct cm_port *port)
{
    return port->now_us && (port->run || (port->shift && port->line));
}
