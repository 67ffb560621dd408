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

#include <coldmint/status.h>
#include <stddef.h>

/** The wires that the core can name. */
enum cm_line {
    CM_LINE_RESET,
    CM_LINE_SCK,
    CM_LINE_MOSI,
    CM_LINE_MISO,
    CM_LINE_SELECT, /**< chip select of a memory, active low */
    CM_LINE_WP,     /**< its write protect pin, active low */
    CM_LINE_HOLD,   /**< its hold pin, active low */
    CM_LINE_SUPPLY, /**< for sense only: the target's supply in mV */
    CM_LINE_COUNT
};

#define CM_LINE_BIT(line) (1u << (line))

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
    const struct cm_poll *ready; /**< after each item: wait for this; NULL: do not */
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
cm_expand_fn cm_expand_poll, cm_expand_each, cm_expand_frames;

/** One operation of a batch. The port writes results into it. */
struct cm_op {
    enum cm_op_kind kind;
    cm_expand_fn *expand; /**< of POLL, EACH and FRAMES: the function above that is called like it */
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
};

/**
 * A port. The obligations:
 *
 *  0. Every function gets the port; what it needs beyond that is in port->context.
 *  1. Functions block until done. They return CM_OK, or CM_PORT_FAILED where the hardware or the system refused.
 *  2. Until the first CM_OP_CLOCK and after cm_close, every line is released and the supply is as it was found.
 *  3. `line`, with CM_RELEASED, lets the line float or go to its pull-up.
 *  4. `shift` is SPI mode 0, most significant bit first; SCK idles low between calls. `in` may be NULL or equal `out`; `out` may be NULL, and
 *     anything goes out then. Memories are talked to in one direction at a time, so a half-duplex bus will do for them.
 *  5. `wait_us` waits at least as long as it is told; longer only costs time. `now_us` may wrap around.
 *  6. `clock` takes the nearest clock that is not faster than the wanted one, and writes what it took. The core asks for
 *     none below traits.clock_min_hz, and never for 0: to let go of the bus it releases those of SCK and MOSI that `line` can drive.
 *  7. After a failure the core releases lines and bus through `line` and `clock`; a port with `run` must accept that batch.
 *
 *  8. Two changes of SELECT are 100 ns apart or more: that is how long a memory wants to be deselected.
 *  9. A port whose hardware restarts in mid-job has let go of every line. It counts that in `restarts`, returns CM_CONTACT_LOST
 *     from what it was doing, and works again: the core finds the chip anew, as after any loss of contact.
 *
 * Members may be NULL: `run` (the core expands batches), `clock` (one fixed clock), `supply`, `sense`. A port with
 * `run` needs `now_us` beside it, and nothing else.
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
    uint32_t half_bit_us; /**< for cm_lines_shift: half a clock period */
    uint32_t restarts;    /**< counted by the port: times that its hardware restarted in the middle of its work (obligation 9) */
};

/**
 * Runs a batch on a port: as a whole where the port can, else expanded onto its small functions. On failure `trouble` says
 * where. Operations behind the failing one have not been started.
 */
enum cm_status cm_port_run(struct cm_port *port, struct cm_op *ops, uint32_t count, struct cm_trouble *trouble);

/**
 * `clock` and `shift` for a port that has nothing but lines: they make SPI mode 0 from RESET's neighbours SCK, MOSI and MISO
 * by `line`, `sense` and `wait_us`. 500 kHz at the most.
 */
enum cm_status cm_lines_clock(struct cm_port *port, uint32_t want_hz, uint32_t *real_hz);
enum cm_status cm_lines_shift(struct cm_port *port, const uint8_t *out, uint8_t *in, uint32_t bytes);

/** True where the port has the functions that SPI needs. Which lines are wanted is each family's own. */
bool cm_port_has_spi(const struct cm_port *port);

#endif
