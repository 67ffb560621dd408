/*
 * What the interpreter of batches hands to a bus for each exchange, and what the buses share.
 *
 * A bus adds how one exchange goes over its wires; chunks, polls and repeats are the interpreter's
 * (interpret.c). An exchange function returns CM_SPARED where nothing of this chunk is to be done.
 */
#ifndef CM_BUS_RUN_H
#define CM_BUS_RUN_H

#include <coldmint/batch.h>

#define CM_SPARED CM_DECLINED

enum { CM_HEAD_BYTES = 8, CM_SHIFT_BYTES = CM_HEAD_BYTES + 1 };

/* Sets exchange, bytes and count for the operation at `op`. */
static inline void cm_run_load(struct cm_run *run)
{
    const struct cm_exchange *exchange = &run->ops[run->op].exchange;
    uint32_t at = run->at;
    run->exchange = exchange;
    run->count = run->chunk;
    if (exchange->count) {
        run->count = exchange->count;
        at = run->index * run->count;
    }
    run->bytes = exchange->in ? exchange->in + at : NULL;
}

/* Writes head, address and dummies to `head`; returns how many bytes that are. */
uint8_t cm_run_head(const struct cm_run *run, uint8_t *head);

/* The chunk behind the one at hand; false behind the last. The mask of chunk 0 is all ones: then
 * there is room for all. */
static inline bool cm_run_next_chunk(struct cm_run *run)
{
    const struct cm_repeat *repeat = run->repeat;
    run->index++;
    run->at += run->chunk;
    run->address = repeat->first + run->at;
    uint32_t left = repeat->count - run->at, mask = repeat->chunk - 1,
             room = mask - (run->address & mask);
    run->chunk = (room < left - 1 ? room : left - 1) + 1;
    return left != 0;
}

/* CM_BAD_ANSWER where the check does not hold; the answer is left in the run. */
CM_MUST_CHECK enum cm_status cm_run_check(struct cm_run *run, uint8_t answer);

/* Judges bytes that came in from `at` on in this chunk: CM_DIFFERS at the first that does not do.
 */
CM_MUST_CHECK enum cm_status cm_run_judge(struct cm_run *run, uint32_t at, const uint8_t *found,
                                          uint32_t count);

/* Reads bytes of the chunk, from `at` on. */
typedef enum cm_status cm_read_fn(struct cm_run *run, uint32_t at, uint8_t *bytes, uint32_t count);

/* Compares the chunk in groups. The first is small: where memory and image differ they mostly do so
 * in the first bytes, and no needless byte shall cross the wires. */
CM_MUST_CHECK enum cm_status cm_run_compare(struct cm_run *run, cm_read_fn *read, uint8_t *group,
                                            uint32_t group_bytes);

/* An SPI frame of single calls. */
CM_MUST_CHECK enum cm_status cm_spi_plain(struct cm_run *run);

/* Bytes that are compared at once, on the stack of the bus. A build may say how many. */
#ifndef CM_GROUP_BYTES
#if UINTPTR_MAX > 0xFFFFFFFF
#define CM_GROUP_BYTES 4096
#else
#define CM_GROUP_BYTES 64
#endif
#endif
/* The same for I2C, where each group costs a head of four bytes. */
#ifndef CM_I2C_GROUP_BYTES
#define CM_I2C_GROUP_BYTES (CM_GROUP_BYTES < 256 ? 256 : CM_GROUP_BYTES)
#endif
enum { CM_GROUP_CHEAP = CM_GROUP_BYTES < 64 ? CM_GROUP_BYTES : 64 };
_Static_assert(CM_GROUP_BYTES >= 16, "smaller groups cost more than they save");

/* Bytes of a group: few where calls are cheap, for those behind a difference are read for nothing.
 */
static inline uint32_t cm_group_room(const struct cm_run *run, uint32_t cheap, uint32_t most)
{
    return run->port->traits.call_us ? most : cheap;
}

static inline uint8_t cm_data_of(const struct cm_exchange *exchange)
{
    return exchange->data & CM_DATA_MASK;
}

static inline bool cm_is_compared(const struct cm_exchange *exchange)
{
    return cm_data_of(exchange) >= CM_DATA_MATCH;
}

/* The clock of the buses on `spi`. */
CM_MUST_CHECK enum cm_status cm_spi_clock(const struct cm_port *port, uint32_t want_hz,
                                          uint32_t *real_hz);

/* What a call of `line` takes, in sixteenths of a microsecond: a line is driven to where it is. */
uint32_t cm_lines_call_16(const struct cm_port *port, enum cm_line line, enum cm_level level);

/* The clock that lines make with the half period that is set, where each bit takes so many calls of
 * `line` or `sense`. */
uint32_t cm_lines_real_hz(const struct cm_port *port, enum cm_line line, enum cm_level level,
                          uint8_t calls);

#endif
