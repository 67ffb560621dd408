/**
 * The port contract: everything that the core asks of hardware.
 *
 * A port is a small struct: tables of functions (interfaces), the port's own context, and its
 * traits. An interface that the hardware does not have is NULL. Only `lines` is needed: the core
 * makes each bus from lines (cm_spi_by_lines and the others below).
 *
 *     lines      drive and sense named lines, feed the supply, wait, read a clock
 *     spi        set the clock, shift bytes out and in; with expensive calls also whole frames
 *     parallel   set the cycle time, write a cycle, read cycles, release the bus
 *     i2c        set the clock, one transfer
 *     run        a whole batch at once (coldmint/batch.h), for a port at the far end of a link
 *
 * examples/smallest-port.c is the smallest port; docs/adding-a-port.md says how to add one.
 */
#ifndef COLDMINT_PORT_H
#define COLDMINT_PORT_H

#include <coldmint/decls.h>
#include <coldmint/status.h>
#include <stddef.h>

CM_DECLS_BEGIN

/** The lines between port and target. Active low lines are named without a bar. */
enum cm_line {
    CM_LINE_RESET,
    CM_LINE_SCK,
    CM_LINE_MOSI,
    CM_LINE_MISO,
    CM_LINE_SELECT,  /**< chip select of a memory: active low; of the 93 series active high */
    CM_LINE_WP,      /**< write protect, active low */
    CM_LINE_HOLD,    /**< hold, active low */
    CM_LINE_SUPPLY,  /**< for sense only: the target's supply in mV */
    CM_LINE_CE,      /**< chip enable of a parallel memory, active low */
    CM_LINE_OE,      /**< output enable, active low */
    CM_LINE_WE,      /**< write enable, active low; the program pin of an EPROM */
    CM_LINE_A9_ID,   /**< high: identification voltage (12 V) on A9 */
    CM_LINE_VPP,     /**< high: programming voltage on the VPP pin */
    CM_LINE_LATCH,   /**< rising edge: shift registers put a new address on the address lines */
    CM_LINE_SDA,     /**< I2C data; released is high */
    CM_LINE_SCL,     /**< I2C clock; released is high */
    CM_LINE_COUNT,   /**< of the lines that traits name by bits; beyond them: */
    CM_LINE_D0 = 32, /**< data line 0 of a parallel bus, up to D15 */
    CM_LINE_A0 = 64, /**< address line 0, up to A31 */
    CM_LINE_END = 96
};

#define CM_LINE_BIT(line) ((uint32_t)1 << (line))

enum cm_level { CM_LOW, CM_HIGH, CM_RELEASED };

struct cm_port;
struct cm_run;

/**
 * Lines, supply and time. Obligations:
 *
 * 1. `line` drives one line. CM_RELEASED: the line floats, or goes to its pull-up.
 * 2. `sense` reads a line as 0 or 1, and CM_LINE_SUPPLY in mV. NULL: the port cannot sense.
 * 3. `supply` feeds the target with `mv` millivolts; 0: off. NULL: the port has no supply.
 * 4. `wait_us` waits `us` microseconds or longer; longer only costs time.
 * 5. `now_us` reads a clock in microseconds that may wrap around. Time limits follow it.
 * 6. Two changes of SELECT are 100 ns apart or more: a memory must be deselected for that time.
 */
struct cm_lines {
    enum cm_status (*line)(const struct cm_port *port, enum cm_line line, enum cm_level level);
    enum cm_status (*sense)(const struct cm_port *port, enum cm_line line, uint16_t *value);
    enum cm_status (*supply)(const struct cm_port *port, uint16_t mv);
    void (*wait_us)(const struct cm_port *port, uint32_t us);
    uint32_t (*now_us)(const struct cm_port *port);
};

/** One frame: SELECT low, the head out, `count` bytes out or in, SELECT high. */
struct cm_frame {
    const uint8_t *head;
    const uint8_t *out; /**< NULL: nothing goes out behind the head */
    uint8_t *in;        /**< NULL: nothing comes in */
    uint32_t head_count;
    uint32_t count; /**< bytes of `out` or `in` */
};

/**
 * SPI mode 0, most significant bit first. Obligations:
 *
 * 7. `clock` takes the nearest clock that is not faster than `want_hz`, writes what it took, and
 *    brings the bus to idle: SCK and MOSI low. `want_hz` is never below traits.clock_min_hz, and
 *    never 0. NULL: there is one fixed clock.
 * 8. `shift` moves any number of bytes. SCK is low between calls. `in` may be NULL or equal `out`;
 *    `out` may be NULL: then the port sends any value. Memories are talked to in one direction at a
 *    time, so a half-duplex bus is enough for them; AVR parts need both directions at once.
 * 9. `frames` sends a list of frames in one call, in order. Each frame, and all of them together,
 *    have at most traits.transfer_max bytes. Optional: without it the core makes frames from `line`
 *    and `shift`.
 * 10. `packed` is cm_spi_packed where a call is expensive (a system call, a USB transfer) and
 *    `frames` is there; it joins as much as is safe in one call. `packed_shift` is cm_shift_packed,
 *    for the instructions of AVR parts. NULL: a call is cheap, and the code is not linked.
 */
struct cm_spi {
    enum cm_status (*clock)(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz);
    enum cm_status (*shift)(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                            uint32_t bytes);
    enum cm_status (*frames)(const struct cm_port *port, const struct cm_frame *frames,
                             uint8_t count);
    enum cm_status (*packed)(struct cm_run *run);
    enum cm_status (*packed_shift)(struct cm_run *run);
};
enum cm_status cm_spi_packed(struct cm_run *run);
enum cm_status cm_shift_packed(struct cm_run *run);

/** Shortest times of a write cycle, in nanoseconds: CE and WE low, and then high. */
struct cm_pulse {
    uint32_t low_ns;
    uint32_t high_ns;
};

/**
 * A parallel bus. Obligations:
 *
 * 11. `clock` sets cycles of 1/want_hz seconds or longer, and writes what it took.
 * 12. `write`: address and data are set, then CE and WE go low together, and high again, as `pulse`
 *     says; the whole cycle lasts a period of the clock that was set, or longer.
 * 13. `read`: `count` cycles from `address` on, ascending. On a 16-bit bus each gives two bytes,
 *     the low one first. CE and OE are low for a period at least. OE goes low before CE, and high
 *     after it: a chip takes no write while OE is low, even if the wire of its WE is open.
 * 14. Both leave CE, OE and WE high and the data lines released. Data lines have pull-ups: a bus
 *     that nobody drives reads FF. Between cycles the core drives OE through `line`, with VPP.
 * 15. `release` releases address and data lines. NULL: there is nothing to release.
 */
struct cm_parallel {
    enum cm_status (*clock)(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz);
    enum cm_status (*write)(const struct cm_port *port, uint32_t address, uint16_t data,
                            const struct cm_pulse *pulse);
    enum cm_status (*read)(const struct cm_port *port, uint32_t address, uint8_t *bytes,
                           uint32_t count);
    enum cm_status (*release)(const struct cm_port *port);
};

/**
 * One I2C transfer (UM10204): START, address and bytes out; repeated START, address and bytes in;
 * STOP. Each half may be absent. Without both the device is only asked to acknowledge its address.
 */
struct cm_transfer {
    uint8_t device;      /**< seven bits */
    uint8_t head_count;  /**< bytes of `head`, which go before `out` in the same half */
    const uint8_t *head; /**< the memory's address */
    const uint8_t *out;
    uint32_t out_count;
    uint8_t *in;
    uint32_t in_count;
};

/**
 * I2C. Obligations:
 *
 * 16. `clock` as for SPI; both lines are released.
 * 17. `transfer` returns CM_NACK where the device does not acknowledge its address, and
 *     CM_CONTACT_LOST where it does not acknowledge a byte. After any end the bus is free.
 * 18. Each half has at most traits.transfer_max bytes.
 */
struct cm_i2c {
    enum cm_status (*clock)(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz);
    enum cm_status (*transfer)(const struct cm_port *port, const struct cm_transfer *transfer);
};

/** What a port can do. The core keeps to it, and says what is missing. */
struct cm_traits {
    uint32_t lines;         /**< CM_LINE_BIT of each line that `line` can drive */
    uint32_t senses;        /**< CM_LINE_BIT of each line that `sense` can read */
    uint32_t holds;         /**< CM_LINE_BIT of each line that stays driven when it is released */
    uint32_t clock_min_hz;  /**< 0: any. Buses that are made from lines are kept in range, too */
    uint32_t clock_max_hz;  /**< 0: any */
    uint16_t supply_min_mv; /**< range that the port can feed; both 0: none */
    uint16_t supply_max_mv;
    uint8_t data_lines; /**< of a parallel bus: 8 or 16; 0: there is none */
    uint8_t address_lines;
    uint16_t call_us;      /**< cost of one call beside its work, in microseconds */
    bool packs;            /**< exchanges travel together in one call: by `packed`, or by `run` */
    uint32_t transfer_max; /**< most bytes of one call of `frames` or `transfer`; 0: any */
};

/** State that the core keeps for a port, and what the port counts. All zero at the beginning. */
struct cm_port_state {
    uint32_t half_bit_us; /**< SPI or I2C made from lines: half a clock period */
    uint32_t address;     /**< parallel bus made from lines: what the address lines show, */
    bool is_driven;       /**< if they are driven */
    uint32_t restarts;    /**< obligation 21 */
};

/**
 * A port. It may be const. Obligations of all its functions:
 *
 * 19. They block until done, and return CM_OK; CM_PORT_FAILED where the hardware or the system
 *     refused; CM_PORT_LACKS for what the hardware cannot do. They change nothing of the port.
 * 20. Before the first operation, and after cm_close, each line is released and the supply is as it
 *     was found. After a failure the core releases lines and bus; that must work.
 * 21. A port whose hardware restarts in the middle of a job has released every line by that. It
 *     adds 1 to state->restarts, returns CM_CONTACT_LOST from that call, and works again.
 * 22. A port that names SELECT, RESET or LATCH among its lines has `spi` (or `run`); one that names
 *     CE has `parallel`; one that names SDA has `i2c`.
 * 23. `run` takes a whole batch: see coldmint/batch.h. It may return CM_DECLINED before it did
 *     anything; then the core runs the batch by the interfaces. `lines` with `now_us` and `wait_us`
 *     is needed all the same. NULL: the core runs all batches.
 */
struct cm_port {
    const struct cm_lines *lines;
    const struct cm_spi *spi;
    const struct cm_parallel *parallel;
    const struct cm_i2c *i2c;
    enum cm_status (*run)(struct cm_run *run);
    void *context;               /**< the port's own */
    struct cm_port_state *state; /**< every port has one: cm_open refuses others */
    struct cm_traits traits;
};

/** SPI from SCK, MOSI and MISO by `line`, `sense` and `wait_us`; 500 kHz at most. */
extern const struct cm_spi cm_spi_by_lines;

/** I2C from SDA and SCL; 400 kHz at most. A device may stretch the clock for 25 ms; one that holds
 * SDA low is clocked until it releases it. */
extern const struct cm_i2c cm_i2c_by_lines;

/** A parallel bus from A0, A1, ..., D0, D1, ..., CE, OE and WE. Only address lines that change are
 * driven. */
extern const struct cm_parallel cm_parallel_by_lines;

/** The same with address lines that are outputs of a chain of shift registers (74HC595): the
 * address goes out through `spi`, most significant bit first, and CM_LINE_LATCH rises. */
extern const struct cm_parallel cm_parallel_by_registers;

CM_DECLS_END

#endif
