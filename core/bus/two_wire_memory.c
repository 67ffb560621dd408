/*
 * A memory on a two-wire bus, on a simple port.
 *
 *     write   START device+W, address, up to a page, STOP      then it does not acknowledge its address until it is done
 *     read    START device+W, address, START device+R, bytes ..., STOP
 *
 * The repeated START matters: a STOP behind the address would let a smaller memory take the second address byte for data, and write it.
 */
#include "compare.h"

static struct cm_transfer transfer_at(const struct cm_two_wire *two, uint32_t address)
{
    struct cm_transfer transfer = {.device = (uint8_t)(two->device | (address >> 8 * two->address_bytes) << two->block_shift)};
    for (uint8_t i = two->address_bytes; i > 0; i--)
        transfer.head[transfer.head_count++] = (uint8_t)(address >> 8 * (i - 1));
    return transfer;
}

static enum cm_status read_there(struct cm_port *port, const struct cm_two_wire *two, uint32_t address, uint8_t *bytes,
                                 uint32_t count)
{
    uint32_t most = port->traits.transfer_max ? port->traits.transfer_max : count;
    enum cm_status status = CM_OK;
    for (uint32_t at = 0; at < count && !status; at += most) {
        struct cm_transfer transfer = transfer_at(two, address + at);
        transfer.in = bytes + at;
        transfer.in_count = count - at < most ? count - at : most;
        status = port->two_wire(port, &transfer);
    }
    return status == CM_NO_CHIP ? CM_CONTACT_LOST : status;
}

enum { FIRST = 8, GROUP = 256 }; // bytes that are compared at once

/* The first group is small where a difference is likely there. Each has the address before it: that
 * a reading goes on where the last one ended ("current address read") proves nothing of which part
 * answers. */
static enum cm_status compare_there(struct cm_port *port, const struct cm_two_wire *two,
                                    enum cm_each_data data, uint32_t at, uint32_t count,
                                    uint32_t first, struct cm_trouble *trouble)
{
    uint8_t found[GROUP];
    uint32_t most = port->traits.transfer_max && port->traits.transfer_max < GROUP
                        ? port->traits.transfer_max
                        : (uint32_t)GROUP;
    enum cm_status status = CM_OK;
    for (uint32_t done = 0, part; !status && done < count; done += part) {
        uint32_t group = done || port->traits.call_us || first > most ? most : first;
        part = count - done < group ? count - done : group;
        struct cm_transfer transfer = transfer_at(two, two->first + at + done);
        transfer.in = found;
        transfer.in_count = part;
        status = port->two_wire(port, &transfer);
        if (!status)
            status =
                cm_judge(data, two->first + at + done, two->out + at + done, found, part, trouble);
    }
    return status == CM_NO_CHIP ? CM_CONTACT_LOST : status;
}

/* Asks until the device acknowledges: it does not while it writes. */
static enum cm_status wait_ready(struct cm_port *port, const struct cm_two_wire *two, uint8_t device)
{
    struct cm_transfer ask = {.device = device};
    struct cm_deadline deadline = cm_deadline_begin(port);
    for (bool late = false;;) {
        enum cm_status status = port->two_wire(port, &ask);
        if (status != CM_NO_CHIP || late)
            return status == CM_NO_CHIP ? CM_TIMED_OUT : status;
        late = cm_deadline_is_over(port, &deadline, two->timeout_us);
    }
}

static enum cm_status write_piece(struct cm_port *port, const struct cm_two_wire *two, uint32_t at, uint32_t count,
                                  struct cm_trouble *trouble)
{
    struct cm_transfer transfer = transfer_at(two, two->first + at);
    transfer.out = two->out + at;
    transfer.out_count = count;
    enum cm_status status = port->two_wire(port, &transfer);
    if (status)
        return status == CM_NO_CHIP ? CM_CONTACT_LOST : status;
    status = wait_ready(port, two, transfer.device);
    return status || !two->verify
               ? status
               : compare_there(port, two, CM_EACH_MATCH, at, count, GROUP, trouble);
}

static enum cm_status run_piece(struct cm_port *port, const struct cm_two_wire *two, uint32_t at, uint32_t item, uint32_t count,
                                struct cm_trouble *trouble)
{
    trouble->address = two->first + at;
    trouble->placed = true;
    if (two->data == CM_EACH_OUT)
        return write_piece(port, two, at, count, trouble);
    if (two->data != CM_EACH_IN)
        return compare_there(port, two, two->data, at, count, FIRST, trouble);
    if (two->sample)
        return read_there(port, two, two->first + at, two->in + item * two->sample, two->sample);
    return read_there(port, two, two->first + at, two->in + at, count);
}

enum cm_status cm_expand_two_wire(struct cm_port *port, const struct cm_op *op, struct cm_trouble *trouble)
{
    const struct cm_two_wire *two = &op->two;
    uint32_t most = port->traits.transfer_max; // of what is written, the address takes its share
    bool splits = two->data == CM_EACH_OUT && most > two->address_bytes;
    enum cm_status status = two->count ? CM_OK : wait_ready(port, two, two->device);
    for (uint32_t at = 0, item = 0, part; !status && at < two->count; at += part) {
        part = cm_piece_left(two->first, at, two->count, two->piece);
        if (splits && part > most - two->address_bytes)
            part = most - two->address_bytes;
        status = run_piece(port, two, at, item++, part, trouble);
    }
    return status;
}
