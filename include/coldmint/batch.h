/**
 * Batches: what the core hands to a port, for authors of families, links and ports with `run`.
 *
 * A batch is an array of operations on one bus. They run in order; the first that fails ends the
 * batch. A *poll* and a *repeat* are prefixes of the operations behind them, so programming pages
 * of an SPI memory reads like its data sheet:
 *
 *     repeat   for 1000 to 2FFF, chunks of 100, 6 operations
 *       exchange 06
 *       exchange 05, answer & 02 must be 02
 *       exchange 02 address(3), bytes out
 *       poll     every 6 us, 3 ms at most
 *       exchange 05, answer & 01 must be 00
 *       exchange 03 address(3), bytes must match
 *
 * cm_interpret runs a batch by the small interfaces of a port. It loops and polls; a bus
 * (struct cm_bus) adds how one exchange goes over its wires.
 */
#ifndef COLDMINT_BATCH_H
#define COLDMINT_BATCH_H

#include <coldmint/decls.h>
#include <coldmint/port.h>

CM_DECLS_BEGIN

/** What happens with the data of an exchange, in the lowest bits of `data`; flags stand above. */
enum cm_data {
    CM_DATA_NONE,
    CM_DATA_IN,    /**< bytes come in, to `in` */
    CM_DATA_BOTH,  /**< bytes of `in` go out, and the answers take their place */
    CM_DATA_OUT,   /**< bytes go out, from `out` */
    CM_DATA_MATCH, /**< bytes come in and must equal those of `out`, else CM_DIFFERS */
    CM_DATA_FITS,  /**< bytes come in and must be 1 wherever those of `out` are: programmable */
    CM_DATA_DONE,  /**< parallel: is the last unit of the chunk written? See CM_DATA_DONE below */
    CM_DATA_MASK = 0x07,

    CM_ECHO = 0x08,  /**< shift: each answer but the first and the last repeats the byte sent before
                        it, else CM_CONTACT_LOST */
    CM_AGAIN = 0x20, /**< MATCH: the bytes were read before, and equal ones are expected: they are
                        not asked for in a small portion first */
    CM_SPARE = 0x10, /**< parallel, OUT: a run of FF is left out, with the rest of the body; */
    CM_COMPARE = 0x20, /**< it is compared instead */
    CM_WORDS = 0x10,   /**< three wire: of each two bytes the second goes first */
    CM_CHAIN = 0x40,   /**< SPI: the address goes out in the first chunk only */
    CM_LATE = 0x80     /**< SPI: the check may be judged after the next exchange has gone out */
};

/** One write cycle of a parallel bus. */
struct cm_cycle {
    uint32_t address;
    uint16_t data;
};

/** The head of an exchange on a parallel bus: write cycles, and the pulse of all it writes. */
struct cm_cycles {
    const struct cm_cycle *list;
    const struct cm_pulse *pulse;
};

/**
 * One transaction. What goes out first is the *head*: fixed bytes, into which the chunk's address
 * is put. How the head and the data go over the wires is the bus's:
 *
 *     shift       head and a data byte in both directions at once, 8 bytes at most; in a repeat
 *                 one such instruction for each byte of the chunk, with its own address, or one a
 *                 chunk where there are no data. BOTH: any number of bytes, without a head
 *     SPI         SELECT low, head out, dummies, data, SELECT high
 *     three wire  the same with SELECT high; see core/bus/three_wire.c
 *     I2C         head[0] is the device; head and OUT data in one transfer, or head, repeated START
 *                 and IN data
 *     parallel    the head is write cycles; OUT data are write cycles, others are read
 *
 * The address: rotated right by `address_turn` (0 to 31) of 32 bits, without the bits of
 * `address_less`, it is ORed into the last `address_bytes` of the head, most significant byte
 * first. Address bits that belong elsewhere: the address rotated right by `fold_turn`, ANDed with
 * `fold_mask`, is ORed into head[0].
 *
 * The check: where `mask` is not 0, the last byte that comes in for head and dummies must be
 * (answer & mask) == want, else CM_BAD_ANSWER. It is checked before data move. So these have one
 * byte at least; on the shift bus (but for BOTH) and on I2C always.
 *
 * Data move at the chunk's place in `in` or `out`. Where `count` is not 0 exactly that many bytes
 * move, and those of one chunk follow those of the chunk before: to sample, or outside of a repeat.
 *
 * CM_DATA_DONE: the last unit of the chunk is read; where a bit of it is wrong, once more.
 * CM_BAD_ANSWER until bit 7 is right and both readings are equal (JESD68 data polling and toggle
 * bit); then it is compared as with MATCH.
 * Without `out` the chunk was erased: its first unit, and FF.
 */
struct cm_exchange {
    union {
        const uint8_t *out;
        uint8_t *in;
    };
    union {
        uint8_t head[8];
        struct cm_cycles cycles;
    };
    uint8_t head_count;    /**< bytes of `head`, or cycles */
    uint8_t address_bytes; /**< 0: the head is fixed */
    uint8_t address_turn;
    uint8_t address_less;
    uint8_t fold_turn;
    uint8_t fold_mask;
    uint8_t dummies; /**< bytes behind the head before data, 8 - head_count at most */
    uint8_t mask;
    uint8_t want; /**< of the check; parallel, OUT without `out`: this goes to the first unit */
    uint8_t data; /**< enum cm_data */
    uint16_t count;
};

/** Repeats the next exchange while its check fails or its device does not acknowledge. */
struct cm_poll {
    uint32_t early_us;    /**< delay before the first time */
    uint32_t interval_us; /**< delay between two times */
    uint32_t timeout_us;  /**< then it is asked once more; CM_TIMED_OUT */
    uint8_t floating;     /**< answer that only a floating line gives: CM_CONTACT_LOST; 0: none */
};

/**
 * Repeats the next `ops` operations for each chunk of `count` bytes from address `first` on. Chunks
 * end where the address is a multiple of `chunk`, a power of two; 0: one chunk. With `count` 0 they
 * do not run. A repeat holds no other repeat.
 */
struct cm_repeat {
    uint32_t first;
    uint32_t count;
    uint32_t chunk;
    uint8_t ops;
};

/** Number of chunks of a repeat; of its first `count` bytes where that is less than all. */
static inline uint32_t cm_repeat_chunks(const struct cm_repeat *repeat, uint32_t count)
{
    uint32_t chunk = repeat->chunk, first = chunk - (repeat->first & (chunk - 1));
    if (!count || !chunk || count <= first)
        return count != 0;
    return 2 + (count - first - 1) / chunk;
}

enum cm_op_kind {
    CM_OP_SUPPLY,   /**< feed the target */
    CM_OP_CLOCK,    /**< set the bus clock; 0 Hz: release the bus */
    CM_OP_LINE,     /**< drive or release a line */
    CM_OP_SENSE,    /**< read a line, or the supply */
    CM_OP_WAIT,     /**< wait for a time, or longer */
    CM_OP_EXCHANGE, /**< one transaction */
    CM_OP_POLL,     /**< prefix: repeat the next exchange until it holds */
    CM_OP_REPEAT    /**< prefix: repeat the next operations for each chunk */
};

/** One operation. Results are written into it. */
struct cm_op {
    uint8_t kind; /**< enum cm_op_kind */
    union {
        struct {
            uint16_t mv;
        } supply;
        struct {
            uint32_t want_hz;
            uint32_t real_hz; /**< result: what the port took, never more */
        } clock;
        struct {
            uint8_t line;  /**< enum cm_line */
            uint8_t level; /**< enum cm_level */
        } line;
        struct {
            uint16_t value; /**< result */
            uint8_t line;
        } sense;
        struct {
            uint32_t us;
        } wait;
        struct cm_exchange exchange;
        struct cm_poll poll;
        struct cm_repeat repeat;
    };
};

/**
 * A batch on its way over a port. The caller fills in the first four members, all else is zero;
 * cm_port_run does the rest. What a port that fails does not fill in stays so.
 */
struct cm_run {
    const struct cm_port *port;
    const struct cm_bus *bus;
    struct cm_op *ops;
    uint32_t op_count;
    /** Where it stopped: the operation that failed; */
    uint32_t op;
    /** the address of its chunk, or of the byte that differs, */
    uint32_t address;
    /** if there is one; */
    bool placed;
    /** and the byte of a check, an echo or a comparison that failed. */
    uint8_t expected;
    uint8_t found;
    /** For buses: the exchange that runs now, and its data in this chunk. */
    const struct cm_exchange *exchange;
    uint8_t *bytes;
    uint32_t count;
    /** The chunk: its bytes, and the bytes and the chunks before it. */
    uint32_t chunk;
    uint32_t at;
    uint32_t index;
    /** NULL: outside of a repeat. */
    const struct cm_repeat *repeat;
    /** Index behind the body of the repeat, or behind the batch. */
    uint32_t end;
};

/** A bus: how exchanges go over its wires. A program carries the buses that its families name. */
struct cm_bus {
    uint8_t id; /**< enum cm_bus_id, for links */
    /** Sets the clock; 0 Hz: releases the bus. CM_PORT_LACKS where the port has no such bus. */
    enum cm_status (*clock)(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz);
    /** Does `run->exchange`. */
    enum cm_status (*exchange)(struct cm_run *run);
};

enum cm_bus_id { CM_BUS_SHIFT, CM_BUS_SPI, CM_BUS_THREE_WIRE, CM_BUS_I2C, CM_BUS_PARALLEL };
extern const struct cm_bus cm_bus_shift, cm_bus_spi, cm_bus_three_wire, cm_bus_i2c, cm_bus_parallel;

/**
 * Runs a batch by the interfaces of its port. For the `run` of a port, such as a probe's firmware.
 * On failure the run tells where; operations behind that one have not begun. Errors: those of the
 * port; CM_DIFFERS, CM_BAD_ANSWER, CM_NACK, CM_TIMED_OUT, CM_CONTACT_LOST as above; CM_PORT_LACKS
 * where an interface is missing; CM_BAD_ARGUMENT where a prefix has nothing behind it.
 */
CM_MUST_CHECK enum cm_status cm_interpret(struct cm_run *run);

/** Runs a batch on its port: whole where the port can (`run`), else by its interfaces. */
CM_MUST_CHECK static inline enum cm_status cm_port_run(struct cm_run *run)
{
    enum cm_status status = run->port->run ? run->port->run(run) : CM_DECLINED;
    return status == CM_DECLINED ? cm_interpret(run) : status;
}

CM_DECLS_END

#endif
