/**
 * The port contract: all that the core ever asks of hardware.
 *
 * The core hands a port an array of operations, a *batch*. The port runs them in order and stops at the first that
 * fails. A port that can do more than toggle pins (a probe at the end of a link, say) takes the batch whole, in `run`. A
 * simple port leaves `run` NULL and fills in the small functions; the core expands batches onto them
 * (core/bus/expand.c). The smallest port has `line`, `sense`, `wait_us` and `now_us`, and lets the core make the bus clock from
 * those: cm_lines_shift and cm_lines_clock. examples/smallest-port.c is such a port, annotated.
 */
#ifndef COLDMINT_PORT_H
#define COLDMINT_PORT_H

#include <coldmint/decls.h>
#include <coldmint/status.h>
#include <stddef.h>

CM_DECLS_BEGIN

/** The wires that the core can name. */
enum cm_line {
    CM_LINE_RESET,
    CM_LINE_SCK,
    CM_LINE_MOSI,
    CM_LINE_MISO,
    CM_LINE_SELECT,  /**< chip select of a memory, active low */
    CM_LINE_WP,      /**< its write protect pin, active low */
    CM_LINE_HOLD,    /**< its hold pin, active low */
    CM_LINE_SUPPLY,  /**< for sense only: the target's supply in mV */
    CM_LINE_CE,      /**< chip enable of a parallel memory, active low */
    CM_LINE_OE,      /**< its output enable, active low */
    CM_LINE_WE,      /**< its write enable, active low; the program pin of an EPROM */
    CM_LINE_A9_ID,   /**< high: the identification voltage (12 V) on A9 */
    CM_LINE_VPP,     /**< high: the programming voltage on its pin */
    CM_LINE_LATCH,   /**< a rising edge takes over what was shifted into registers that drive the address lines */
    CM_LINE_SDA,     /**< data of a two-wire bus; released is high */
    CM_LINE_SCL,     /**< its clock */
    CM_LINE_COUNT,   /**< of those that traits name by bits; beyond them: */
    CM_LINE_D0 = 32, /**< data line 0 of a parallel bus, and so on to D15 */
    CM_LINE_A0 = 64, /**< address line 0, and so on to A31 */
    CM_LINE_END = 96
};

#define CM_LINE_BIT(line) ((uint32_t)1 << (line))

enum cm_level { CM_LOW, CM_HIGH, CM_RELEASED };

enum {
    CM_CODE_MAX = 6, /**< longest instruction of a poll or an each, in bytes */
};

/** A short instruction repeated until (answer[at] & mask) == want, or until the time is up; asked once more after that. */
struct cm_poll {
    uint8_t code[CM_CODE_MAX];
    uint8_t bytes; /**< length of the instruction */
    uint8_t at;    /**< place of the answer's byte that counts */
    uint8_t mask;
    uint8_t want;
    bool echo; /**< check the echo, as in struct cm_each */
    uint8_t
        never; /**< in frames: what a chip that is there never answers here, but a loose wire does: CM_CONTACT_LOST at once; 0: none */
    uint32_t pause_us; /**< in frames: between two askings, so that the bus is not kept busy for nothing */
    uint32_t timeout_us;
};

/** What happens with the data byte of each instruction. */
enum cm_each_data {
    CM_EACH_OUT,   /**< goes to the chip, from `out` */
    CM_EACH_IN,    /**< comes from the chip, to `in` */
    CM_EACH_MATCH, /**< comes from the chip and must equal the byte in `out` */
    CM_EACH_FITS,  /**< comes from the chip and must have a 1 wherever the byte in `out` has one: it can be programmed */
};

/**
 * One instruction for every item, item after item; or a single one, with its echo checked, where count is 1 and address_bytes
 * 0.
 *
 * The unit number of item i is first + i. Where `toggle` is 0 the address is the unit number; where it is not, two units
 * share an address (the low and the high byte of a word) and code[0] is XORed with `toggle` for the odd one. The address
 * goes into `address_bytes` bytes from `address_at` on, most significant first, after AND with `address_mask`.
 *
 * With `echo`, every answer byte but the first and the last must repeat the byte sent before it: that is what AVR parts do, and
 * what a loose wire does not.
 */
struct cm_each {
    uint8_t code[CM_CODE_MAX];
    uint8_t bytes;
    uint8_t toggle;
    uint8_t address_at;
    uint8_t address_bytes;
    uint8_t data_at;
    enum cm_each_data data;
    bool echo;
    uint32_t address_mask;
    uint32_t first;
    uint32_t count;
    const uint8_t *out;          /**< count bytes, for OUT, MATCH and FITS; NULL with OUT: the byte in `code` goes out each time */
    uint8_t *in;                 /**< count bytes, for IN */
    uint32_t pause_us;           /**< after each item: wait so long */
};

/**
 * Instructions to a memory on SPI, each in a frame of its own: SELECT low, opcode, address, dummy bytes, data, SELECT high.
 *
 * `count` bytes from `first` on are worked through in frames that end where the address is a multiple of `piece` (a page, a sector; 0: one
 * frame for all). Without address bytes there is one frame, with `count` bytes of data. Addresses go most significant byte first; where the address
 * has the bit above its address bytes, the opcode is XORed with `toggle` (small EEPROMs have the ninth address bit there).
 *
 * A frame may be preceded by `enable`, and followed by `ready`, then by reading the piece back and comparing it with `out`. So a whole run of
 * pages, each enabled, programmed, waited for and proven, is one operation; so is a run of sectors to erase (OUT, and `out` is NULL).
 */
struct cm_frames {
    uint8_t opcode;        /**< 0: no frame; only `ready` */
    uint8_t toggle;        /**< see above; 0: none */
    uint8_t address_bytes; /**< 0 to 4 */
    uint8_t dummies;       /**< bytes between address and data */
    uint8_t enable;        /**< opcode in a frame of its own before each frame; 0: none */
    uint8_t verify;        /**< opcode that reads each piece back; CM_DIFFERS where it is not what was written; 0: none */
    bool chained;          /**< address and enable go with the first frame only; `finish` goes after the last (word programming) */
    uint8_t finish;
    uint8_t sample;                /**< with IN: bytes of each frame, one after the other into `in`, instead of all; 0: all */
    enum cm_each_data data;        /**< what happens with the data */
    uint32_t first;                /**< address of the first byte */
    uint32_t count;                /**< bytes */
    uint32_t piece;                /**< a power of two, or 0 */
    const uint8_t *out;            /**< `count` bytes, for OUT, MATCH and FITS; NULL with OUT: no data go with the frames */
    uint8_t *in;                   /**< `count` bytes, for IN */
    const struct cm_poll *enabled; /**< after `enable`, in a frame: asked once; CM_DIFFERS where it does not hold */
    const struct cm_poll *ready;   /**< after each frame, in frames: wait for this */
};

/** One write cycle on a parallel bus. */
struct cm_cycle {
    uint32_t address;
    uint16_t data;
};

/**
 * Cycles on a parallel bus: `count` bytes from byte address `first` on, in pieces that end where the address is a multiple of `piece` (a unit, a page, a sector; 0: one
 * piece for all). On a 16-bit bus (`wide`) a cycle carries two bytes, the low one first, and the bus address is half the byte address.
 *
 * Each piece is preceded by the cycles in `before`: unlock cycles and a command. What is written may be waited for at the piece's last unit, as JEDEC
 * flash and EEPROMs show it: bit 7 is the complement of what was written until it is done, and reads alike twice then. The piece may be read back behind it. So a whole run of pages or of
 * single bytes, each unlocked, programmed, waited for and proven, is one operation. Without `count` the cycles in `before` are all, and without either the bus is let go.
 *
 * The cycles of a piece follow on one another within 100 us: that is how long a page stays open.
 */
struct cm_cycles {
    const struct cm_cycle *before;
    uint8_t before_count;
    uint8_t fill;           /**< OUT without `out`: this goes to the first address of each piece, and FF is waited for (an erase) */
    bool wide;              /**< see above */
    bool sparing;           /**< OUT: units that are FF are left out, in pieces of one unit */
    bool verify; /**< OUT: each piece, spared or not, is read back; CM_DIFFERS where it is not what
                    is wanted */
    uint8_t sample;         /**< with IN: bytes of each piece, one after the other into `in`, instead of all; 0: all */
    enum cm_each_data data; /**< what happens with the data */
    uint32_t first;         /**< byte address */
    uint32_t count;         /**< bytes */
    uint32_t piece;         /**< a power of two, or 0 */
    const uint8_t *out;     /**< as in struct cm_frames */
    uint8_t *in;
    uint32_t pulse_ns;   /**< how long CE and WE stay low in a write cycle, */
    uint32_t rest_ns;    /**< and then high, at least */
    uint32_t early_us;   /**< after each piece: wait so long before asking; */
    uint32_t pause_us;   /**< and so long between two askings */
    uint32_t timeout_us; /**< CM_TIMED_OUT after that; 0: do not wait for anything */
};

/** A transfer on a two-wire (I2C) bus: START, address and bytes out; repeated START, address and bytes in; STOP. Either half may be absent, and with neither the device is only asked to acknowledge. */
struct cm_transfer {
    uint8_t device;     /**< seven bits */
    uint8_t head_count; /**< bytes before `out`, in the same half */
    uint8_t head[2];
    const uint8_t *out;
    uint32_t out_count;
    uint8_t *in;
    uint32_t in_count;
};

/**
 * A memory on a two-wire bus: `count` bytes from `first` on, in transfers that end where the address is a multiple of `piece`. Where the address has bits above its address bytes they go
 * into the device's own, from bit `block_shift` on. After writing, the device is asked until it acknowledges; the piece is then read back.
 */
struct cm_two_wire {
    uint8_t device;        /**< its seven bits, those of the block 0 */
    uint8_t address_bytes; /**< 1 or 2 */
    uint8_t block_shift;
    bool verify;    /**< OUT: each piece is read back */
    uint8_t sample; /**< as in struct cm_frames */
    enum cm_each_data data;
    uint32_t first;
    uint32_t count;
    uint32_t piece; /**< a power of two, or 0 */
    const uint8_t *out;
    uint8_t *in;
    uint32_t timeout_us; /**< longest time that the device does not acknowledge after a write */
};

/**
 * A three-wire memory (93 series): instructions of a start bit, two bits of opcode, an address and a word, while SELECT is HIGH. `count` bytes from `first` on, a word for each instruction;
 * of words of two bytes the low one is first. With OUT, the write enable goes before the first word, each is waited for and read back, and the write disable goes behind the last. Without `count`: with OUT the write disable alone, else waiting until the part is ready.
 */
struct cm_three_wire {
    uint8_t address_bits;
    uint8_t word_bytes; /**< 1 or 2 */
    enum cm_each_data data;
    uint32_t first;
    uint32_t count;
    const uint8_t *out;
    uint8_t *in;
    uint32_t timeout_us; /**< longest time of a write */
};

enum cm_op_kind {
    CM_OP_SUPPLY, /**< feed the target with so many mV; 0 is off */
    CM_OP_CLOCK,  /**< set the bus clock and bring the bus to idle: SCK and MOSI driven low. 0 Hz: let go of the bus */
    CM_OP_LINE,   /**< drive a line low or high, or release it */
    CM_OP_SENSE,  /**< read a line (0 or 1), or the supply in mV */
    CM_OP_WAIT,   /**< at least so many microseconds */
    CM_OP_SHIFT,  /**< bytes out and in, full duplex, most significant bit first, SPI mode 0 */
    CM_OP_POLL,
    CM_OP_EACH,
    CM_OP_FRAMES,
    CM_OP_CYCLES,
    CM_OP_TWO_WIRE,
    CM_OP_THREE_WIRE,
    CM_OP_KIND_COUNT
};

struct cm_port;
struct cm_trouble;
struct cm_op;

/**
 * An operation by the port's small functions, for a port without `run`. Driving SELECT is `line`; a memory's data go through `shift` in one direction at a time.
 * The driver names it in the operation, so that a build carries those that its families use and no others.
 */
typedef enum cm_status cm_expand_fn(struct cm_port *port, const struct cm_op *op, struct cm_trouble *trouble);
cm_expand_fn cm_expand_poll, cm_expand_each, cm_expand_frames, cm_expand_cycles, cm_expand_two_wire, cm_expand_three_wire;

/** One operation of a batch. The port writes results into it. */
struct cm_op {
    enum cm_op_kind kind;
    cm_expand_fn *expand; /**< of POLL and those behind it: the function above that is called like it */
    union {
        struct {
            uint16_t mv;
        } supply;
        struct {
            uint32_t want_hz;
            uint32_t real_hz; /**< written by the port: what it took, never more than wanted */
        } clock;
        struct {
            enum cm_line line;
            enum cm_level level;
        } line;
        struct {
            enum cm_line line;
            uint16_t value; /**< written by the port */
        } sense;
        struct {
            uint32_t us;
        } wait;
        struct {
            const uint8_t *out;
            uint8_t *in; /**< may be NULL, and may equal out */
            uint32_t bytes;
        } shift;
        struct cm_poll poll;
        struct cm_each each;
        struct cm_frames frames;
        struct cm_cycles cycles;
        struct cm_two_wire two;
        struct cm_three_wire three;
    };
};

/** Where and why a batch stopped. */
struct cm_trouble {
    uint32_t op;      /**< index of the operation that failed */
    uint32_t address; /**< that an each or the frames had come to */
    bool placed;      /**< there is such an address */
    uint8_t expected; /**< for CM_CONTACT_LOST and CM_DIFFERS */
    uint8_t found;
};

/** What a port can do. The core asks for nothing else, and says plainly what is missing. */
struct cm_traits {
    uint32_t lines;         /**< CM_LINE_BIT of each line that `line` can drive */
    uint32_t senses;        /**< CM_LINE_BIT of each line that `sense` can read, CM_LINE_SUPPLY among them */
    uint32_t clock_min_hz;  /**< 0: any */
    uint32_t clock_max_hz;  /**< 0: any */
    uint16_t supply_min_mv; /**< range it can feed the target with; both 0: it cannot */
    uint16_t supply_max_mv;
    uint8_t data_lines;    /**< of a parallel bus: 8 or 16; 0: there is none */
    uint8_t address_lines; /**< of it */
    /** Most bytes of one `shift`, and of either half of one `two_wire` transfer (its address
     * counted); 0: any. The core splits what is longer. */
    uint32_t transfer_max;
    /** What a call of a small function costs beyond its work, in microseconds: a system call, a USB
     * transfer. More is read at once then, and predictions tell. */
    uint16_t call_us;
};

/**
 * A port. The obligations:
 *
 *  0. Every function gets the port; what it needs beyond that is in port->context.
 *  1. Functions block until done. They return CM_OK, or CM_PORT_FAILED where the hardware or the
 *     system refused.
 *  2. Until the first CM_OP_CLOCK and after cm_close, every line is released and the supply is as
 *     it was found.
 *  3. `line`, with CM_RELEASED, lets the line float or go to its pull-up.
 *  4. `shift` is SPI mode 0, most significant bit first; SCK idles low between calls. `in` may be
 *     NULL or equal `out`; `out` may be NULL, and anything goes out then. Memories are talked to
 *     in one direction at a time, so a half-duplex bus will do for them.
 *  5. `wait_us` waits at least as long as it is told; longer only costs time. `now_us` may wrap
 *     around.
 *  6. `clock` takes the nearest clock that is not faster than the wanted one, and writes what it
 *     took. The core asks for none below traits.clock_min_hz, and never for 0: to let go of the
 *     bus it releases those of SCK and MOSI that `line` can drive.
 *  7. After a failure the core releases lines and bus through `line` and `clock`; a port with
 *     `run` must accept that batch.
 *  8. Two changes of SELECT are 100 ns apart or more: that is how long a memory wants to be
 *     deselected.
 *  9. A port whose hardware restarts in mid-job has let go of every line. It counts that in
 *     `restarts`, returns CM_CONTACT_LOST from what it was doing, and works again: the core finds
 *     the chip anew, as after any loss of contact.
 * 10. `bus_read` and `bus_write` leave CE, OE and WE high and the data lines released. A write
 *     cycle sets address and data, then CE and WE go low together for `pulse_ns` at least, and
 *     stay high for `rest_ns` at least; the whole cycle lasts a period of the clock that was set.
 *     A read cycle has CE and OE low for a whole period at least; OE goes low before CE and high
 *     after it, for a chip takes no write while OE is low, should the wire of its WE be off. Data
 *     lines are pulled up: a bus that nobody drives reads FF. OE is the only line of these that
 *     the core drives by itself between cycles, through `line`, with VPP.
 * 11. `two_wire` returns CM_NO_CHIP where the device does not acknowledge its address,
 *     CM_CONTACT_LOST where it does not acknowledge a byte. After any end the bus is free.
 *
 * A port that names SELECT, RESET or LATCH among its lines has `shift`; one that names CE has
 * `bus_read` and `bus_write`; one that names SDA has `two_wire`.
 *
 * Members may be NULL beyond that: `run` (the core expands batches), `clock` (one fixed clock),
 * `supply`, `sense`. A port with `run` needs `now_us` beside it, and nothing else.
 */
struct cm_port {
    void *context; /**< the port's own */
    struct cm_traits traits;
    enum cm_status (*run)(struct cm_port *port, struct cm_op *ops, uint32_t count, struct cm_trouble *trouble);
    enum cm_status (*shift)(struct cm_port *port, const uint8_t *out, uint8_t *in, uint32_t bytes);
    enum cm_status (*line)(struct cm_port *port, enum cm_line line, enum cm_level level);
    enum cm_status (*sense)(struct cm_port *port, enum cm_line line, uint16_t *value);
    enum cm_status (*clock)(struct cm_port *port, uint32_t want_hz, uint32_t *real_hz);
    enum cm_status (*supply)(struct cm_port *port, uint16_t mv);
    void (*wait_us)(struct cm_port *port, uint32_t us);
    uint32_t (*now_us)(struct cm_port *port);
    enum cm_status (*bus_write)(struct cm_port *port, uint32_t address, uint16_t data,
                                uint32_t pulse_ns, uint32_t rest_ns);
    /** `count` cycles from `address` on, ascending; of a 16-bit bus two bytes each, the low one first. */
    enum cm_status (*bus_read)(struct cm_port *port, uint32_t address, uint8_t *bytes, uint32_t count);
    enum cm_status (*bus_release)(
        struct cm_port *port); /**< lets go of address and data lines; NULL: there is nothing to be done */
    enum cm_status (*two_wire)(struct cm_port *port, const struct cm_transfer *transfer);
    uint32_t half_bit_us; /**< for cm_lines_shift and its like: half a clock period */
    uint32_t bus_address; /**< for cm_lines_bus_...: what the address lines show */
    bool bus_driven;      /**< likewise: they show it */
    uint32_t restarts;    /**< counted by the port: times that its hardware restarted in the middle of its work (obligation 9) */
};

/**
 * Runs a batch on a port: as a whole where the port can, else expanded onto its small functions. On failure `trouble` says
 * where. Operations behind the failing one have not been started.
 */
CM_MUST_CHECK enum cm_status cm_port_run(struct cm_port *port, struct cm_op *ops, uint32_t count,
                                         struct cm_trouble *trouble);

/**
 * `clock` and `shift` for a port that has nothing but lines: they make SPI mode 0 from RESET's neighbours SCK, MOSI and MISO
 * by `line`, `sense` and `wait_us`. 500 kHz at the most.
 */
CM_MUST_CHECK enum cm_status cm_lines_clock(struct cm_port *port, uint32_t want_hz,
                                            uint32_t *real_hz);
CM_MUST_CHECK enum cm_status cm_lines_shift(struct cm_port *port, const uint8_t *out, uint8_t *in,
                                            uint32_t bytes);

/**
 * `bus_read` and `bus_write` for a port that has nothing but lines: A0, A1, ..., D0, D1, ... and CE, OE, WE. cm_registers_... are for a port whose address lines are at the outputs of a chain of
 * shift registers (74HC595 or their like): the address goes out through `shift`, most significant bit first, in as many bytes as traits.address_lines fill, and CM_LINE_LATCH rises. Address lines that do
 * not change from cycle to cycle are not driven anew.
 */
CM_MUST_CHECK enum cm_status cm_lines_bus_write(struct cm_port *port, uint32_t address,
                                                uint16_t data, uint32_t pulse_ns, uint32_t rest_ns);
CM_MUST_CHECK enum cm_status cm_lines_bus_read(struct cm_port *port, uint32_t address,
                                               uint8_t *bytes, uint32_t count);
CM_MUST_CHECK enum cm_status cm_lines_bus_release(struct cm_port *port);
CM_MUST_CHECK enum cm_status cm_registers_bus_write(struct cm_port *port, uint32_t address,
                                                    uint16_t data, uint32_t pulse_ns,
                                                    uint32_t rest_ns);
CM_MUST_CHECK enum cm_status cm_registers_bus_read(struct cm_port *port, uint32_t address,
                                                   uint8_t *bytes, uint32_t count);

/**
 * `two_wire` and its `clock` for a port that has nothing but the lines SDA and SCL. A device may hold SCL low (clock stretching) for 25 ms at most; one that holds SDA low, since it was cut off in the middle of a
 * byte, is clocked until it lets go.
 */
CM_MUST_CHECK enum cm_status cm_lines_two_wire(struct cm_port *port,
                                               const struct cm_transfer *transfer);
CM_MUST_CHECK enum cm_status cm_lines_two_wire_clock(struct cm_port *port, uint32_t want_hz,
                                                     uint32_t *real_hz);

CM_DECLS_END

#endif
