/*
 * A memory's frames on a simple port.
 *
 *     SELECT ~~\____________________________________________/~~~~\____________________/~~
 *     MOSI      | opcode | address 1..4 | dummies | data out |     | status |
 *     MISO                                        | data in  |              | answer |
 *
 * Data that are only compared come in small groups, the first one smallest: where memory and image differ they mostly do so in a page's first bytes,
 * and no needless byte shall cross the wire.
 */
#include "compare.h"

enum { HEAD_BYTES = 10 };

static enum cm_status select_chip(struct cm_port *port)
{
    return port->line(port, CM_LINE_SELECT, CM_LOW);
}

/* Ends a frame; the first failure counts. */
static enum cm_status deselect_chip(struct cm_port *port, enum cm_status status)
{
    enum cm_status high = port->line(port, CM_LINE_SELECT, CM_HIGH);
    return status ? status : high;
}

static enum cm_status send_opcode(struct cm_port *port, uint8_t opcode)
{
    enum cm_status status = select_chip(port);
    if (!status)
        status = port->shift(port, &opcode, NULL, 1);
    return deselect_chip(port, status);
}

/* Asks once. The bytes before the answer go out, the answer comes in. */
static enum cm_status ask(struct cm_port *port, const struct cm_poll *poll, uint8_t *answer)
{
    enum cm_status status = select_chip(port);
    if (!status)
        status = port->shift(port, poll->code, NULL, poll->at);
    if (!status)
        status = port->shift(port, NULL, answer, 1);
    return deselect_chip(port, status);
}

static bool poll_holds(const struct cm_poll *poll, uint8_t answer, struct cm_trouble *trouble)
{
    trouble->expected = poll->want;
    trouble->found = answer;
    return (answer & poll->mask) == poll->want;
}

static enum cm_status wait_ready(struct cm_port *port, const struct cm_poll *poll, struct cm_trouble *trouble)
{
    struct cm_deadline deadline = cm_deadline_begin(port);
    for (bool late = false;;) {
        uint8_t answer = 0;
        enum cm_status status = ask(port, poll, &answer);
        bool holds = poll_holds(poll, answer, trouble);
        if (!status && poll->never && answer == poll->never)
            return CM_CONTACT_LOST;
        if (status || holds)
            return status;
        if (late)
            return CM_TIMED_OUT;
        if (poll->pause_us)
            port->wait_us(port, poll->pause_us);
        late = cm_deadline_is_over(
            port, &deadline, poll->timeout_us); // then ask once more: we may have been held up
    }
}

static enum cm_status enable(struct cm_port *port, const struct cm_frames *frames, struct cm_trouble *trouble)
{
    uint8_t answer = 0;
    if (!frames->enable)
        return CM_OK;
    enum cm_status status = send_opcode(port, frames->enable);
    if (status || !frames->enabled)
        return status;
    status = ask(port, frames->enabled, &answer);
    return status || poll_holds(frames->enabled, answer, trouble) ? status : CM_DIFFERS;
}

/* Opcode, address and dummy bytes; `dummies` of them go with reading only. */
static enum cm_status send_head(struct cm_port *port, const struct cm_frames *frames, uint8_t opcode, uint32_t address,
                                bool has_address)
{
    uint8_t head[HEAD_BYTES] = {opcode}, bytes = 1;
    if (has_address) {
        if (frames->toggle && address >> 8 * frames->address_bytes & 1)
            head[0] ^= frames->toggle;
        for (uint8_t i = frames->address_bytes; i > 0; i--)
            head[bytes++] = (uint8_t)(address >> 8 * (i - 1));
    }
    bytes = (uint8_t)(bytes + (opcode == frames->opcode ? frames->dummies : 0));
    return port->shift(port, head, NULL, bytes);
}

/* Compares what comes in with `wanted`. */
static enum cm_status compare(struct cm_port *port, enum cm_each_data data, uint32_t address, const uint8_t *wanted, uint32_t count,
                              struct cm_trouble *trouble)
{
    uint8_t found[CM_GROUP_MOST];
    for (uint32_t at = 0, part; at < count; at += part) {
        part = cm_group_after(port, at, count - at);
        enum cm_status status = port->shift(port, NULL, found, part);
        if (status)
            return status;
        status = cm_judge(data, address + at, wanted + at, found, part, trouble);
        if (status)
            return status;
    }
    return CM_OK;
}

static enum cm_status move_data(struct cm_port *port, const struct cm_frames *frames, uint32_t at, uint32_t item, uint32_t count,
                                struct cm_trouble *trouble)
{
    switch (frames->data) {
    case CM_EACH_IN:
        if (frames->sample)
            return cm_shift_all(port, NULL, frames->in + item * frames->sample, frames->sample);
        return cm_shift_all(port, NULL, frames->in + at, count);
    case CM_EACH_OUT:
        return frames->out ? cm_shift_all(port, frames->out + at, NULL, count) : CM_OK;
    default:
        return compare(port, frames->data, frames->first + at, frames->out + at, count, trouble);
    }
}

/* Reads a piece back and compares it with what went out. */
static enum cm_status read_back(struct cm_port *port, const struct cm_frames *frames, uint32_t at, uint32_t count,
                                struct cm_trouble *trouble)
{
    uint32_t address = frames->first + at;
    enum cm_status status = select_chip(port);
    if (!status)
        status = send_head(port, frames, frames->verify, address, true);
    if (!status)
        status = compare(port, CM_EACH_MATCH, address, frames->out + at, count, trouble);
    return deselect_chip(port, status);
}

static enum cm_status run_frame(struct cm_port *port, const struct cm_frames *frames, uint32_t at, uint32_t item, uint32_t count,
                                struct cm_trouble *trouble)
{
    bool is_bare = frames->chained && at > 0;
    trouble->address = frames->first + at;
    trouble->placed = frames->address_bytes != 0;
    enum cm_status status = is_bare ? CM_OK : enable(port, frames, trouble);
    if (!status && frames->opcode) {
        status = select_chip(port);
        if (!status)
            status = send_head(port, frames, frames->opcode, frames->first + at, !is_bare);
        if (!status)
            status = move_data(port, frames, at, item, count, trouble);
        status = deselect_chip(port, status);
    }
    if (!status && frames->ready)
        status = wait_ready(port, frames->ready, trouble);
    if (!status && frames->verify)
        status = read_back(port, frames, at, count, trouble);
    return status;
}

enum cm_status cm_expand_frames(struct cm_port *port, const struct cm_op *op, struct cm_trouble *trouble)
{
    const struct cm_frames *frames = &op->frames;
    enum cm_status status = CM_OK;
    uint32_t at = 0, item = 0, part;
    do {
        part = frames->count - at;
        uint32_t room = frames->piece ? frames->piece - ((frames->first + at) & (frames->piece - 1)) : part;
        part = part < room ? part : room;
        status = run_frame(port, frames, at, item++, part, trouble);
        at += part;
    } while (!status && at < frames->count);
    if (frames->finish) {
        enum cm_status finished = send_opcode(port, frames->finish);
        status = status ? status : finished;
    }
    return status;
}
