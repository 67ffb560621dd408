/*
 * Transfers to a memory on I2C.
 *
 *     write   START device+W, address, bytes, STOP
 *     read    START device+W, address, START device+R, bytes ..., STOP
 *     ask     START device+W, STOP              does it acknowledge?
 *
 * Every group that is read has its address before it: that a reading goes on where the last one
 * ended ("current address read") proves nothing of which part answers. The repeated START matters:
 * a STOP behind the address would let a smaller memory take the second address byte for data, and
 * write it.
 */
#include "run.h"

enum { CHEAP = 256 };

/* One transfer at the run's address. */
static enum cm_status transfer(struct cm_run *run, uint8_t *in, uint32_t in_count)
{
    uint8_t head[CM_HEAD_BYTES];
    struct cm_transfer transfer = {.head = head + 1, .in = in, .in_count = in_count};
    transfer.head_count = (uint8_t)(cm_run_head(run, head) - 1);
    transfer.device = head[0];
    if (cm_data_of(run->exchange) == CM_DATA_OUT) {
        transfer.out = run->bytes;
        transfer.out_count = run->count;
    }
    return run->port->i2c->transfer(run->port, &transfer);
}

static enum cm_status read_at(struct cm_run *run, uint32_t at, uint8_t *bytes, uint32_t count)
{
    uint32_t most = run->port->traits.transfer_max, chunk = run->address;
    enum cm_status status = CM_OK;
    for (uint32_t part; !status && count; at += part, bytes += part, count -= part) {
        part = most && most < count ? most : count;
        run->address = chunk + at;
        status = transfer(run, bytes, part);
    }
    run->address = chunk;
    return status;
}

static enum cm_status i2c_exchange(struct cm_run *run)
{
    uint8_t group[CM_I2C_GROUP_BYTES], data = cm_data_of(run->exchange);
    if (data == CM_DATA_IN)
        return read_at(run, 0, run->bytes, run->count);
    return data > CM_DATA_OUT
               ? cm_run_compare(run, read_at, group,
                                sizeof group < CHEAP ? sizeof group
                                                     : cm_group_room(run, CHEAP, sizeof group))
               : transfer(run, NULL, 0);
}

static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    if (!port->i2c)
        return CM_PORT_LACKS;
    *real_hz = want_hz;
    return want_hz && port->i2c->clock ? port->i2c->clock(port, want_hz, real_hz) : CM_OK;
}

const struct cm_bus cm_bus_i2c = {.id = CM_BUS_I2C, .clock = set_clock, .exchange = i2c_exchange};
