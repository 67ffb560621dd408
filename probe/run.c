/*
 * One batch: run on the watched port, and its result put where it stays until the computer has it.
 *
 * A file of its own, so that what the one needs of the stack is not there while the other runs.
 */
#include "run.h"

static const struct cm_bus *bus_of(const struct cm_probe *probe, uint8_t id)
{
    static const struct cm_bus *const BUSES[] = {
        [CM_BUS_SHIFT] = &cm_bus_shift,           [CM_BUS_SPI] = &cm_bus_spi,
        [CM_BUS_THREE_WIRE] = &cm_bus_three_wire, [CM_BUS_I2C] = &cm_bus_i2c,
#ifndef CM_PROBE_SMALL
        [CM_BUS_PARALLEL] = &cm_bus_parallel,
#endif
    };
    return probe->board->buses >> id & 1 ? BUSES[id] : NULL;
}

enum cm_status cm_probe_run(struct cm_probe *probe, const struct cm_link_batch *batch,
                            struct cm_run *run)
{
    run->port = &probe->port;
    run->bus = bus_of(probe, batch->bus);
    run->ops = batch->ops;
    run->op_count = batch->op_count;
    return run->bus ? cm_interpret(run) : CM_PORT_LACKS;
}

/* Where there is no room for all values, the computer asked for more than it may. */
void cm_probe_keep(struct cm_probe_slot *slot, enum cm_status status,
                   const struct cm_link_batch *batch, const struct cm_run *run, uint32_t restarts)
{
    struct cm_link_result result = {
        .status = status,
        .op = run->op,
        .address = run->address,
        .placed = run->placed,
        .expected = run->expected,
        .found = run->found,
        .restarts = restarts,
        .data_count = batch->all - batch->kept,
    };
    size_t count =
        cm_link_put_result(&result, batch->ops, batch->op_count, slot->result, sizeof slot->result);
    if (!count) {
        result = (struct cm_link_result){.status = CM_PORT_LACKS};
        count = cm_link_put_result(&result, NULL, 0, slot->result, sizeof slot->result);
    }
    slot->result_count = (uint8_t)count;
    slot->data = (struct cm_link_span){batch->data + batch->kept, result.data_count};
}
