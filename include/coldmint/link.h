/**
 * The link between a computer and a probe: frames on a serial line, and batches in them.
 *
 * docs/link.md describes the protocol, core/link/link.proto its messages. This header is for those
 * who write either end; a program that only uses a probe opens "link:DEVICE" (coldmint/ports.h),
 * and a board that becomes a probe uses coldmint/probe.h.
 *
 *     frame     kind, sequence, acknowledged, session (2), payload, CRC-32 (4)
 *     on line   the frame with its zeros taken out (COBS), then one zero
 *
 * Part of the library coldmint-link.
 */
#ifndef COLDMINT_LINK_H
#define COLDMINT_LINK_H

#include <coldmint/batch.h>
#include <coldmint/decls.h>

CM_DECLS_BEGIN

enum {
    CM_LINK_VERSION = 2,
    CM_LINK_HEAD = 5, /**< bytes of a frame before its payload */
    CM_LINK_CRC = 4,  /**< and behind it */
    CM_LINK_BOARD = 24,
    CM_LINK_FRAME = CM_LINK_HEAD + CM_LINK_CRC,
    CM_LINK_VALUES = 2, /**< clock and sense operations of one batch */
    CM_LINK_SHORT = 16  /**< frames of so many bytes or fewer are always taken by a probe; longer
                             ones only while it has room for a batch */
};

/** Most bytes that a frame with `payload` bytes takes on the line. */
#define CM_LINK_LINE_BYTES(payload)                                                                \
    ((payload) + CM_LINK_FRAME + ((payload) + CM_LINK_FRAME) / 254u + 2u)

/** Kinds of frames. */
enum cm_link_kind {
    CM_LINK_HELLO = 1, /**< begins a session; payload: none. The answer is of the same kind, its
                            payload is a struct cm_link_probe */
    CM_LINK_BATCH,     /**< a batch; payload: see cm_link_put_batch */
    CM_LINK_PULSE,  /**< from the probe, while it works: it is alive. The computer sends a lone zero
                         for that, which is no frame */
    CM_LINK_ASK,    /**< asks for the results from `acknowledged` on; AGAIN follows them */
    CM_LINK_END,    /**< ends the session, and a batch that is running: the target is released.
                         Answered by the same */
    CM_LINK_RESULT, /**< what became of a batch; payload: struct cm_link_result and bytes */
    CM_LINK_AGAIN,  /**< `sequence` is the batch that is expected next; where that is before
                         `acknowledged`, it was lost on its way */
    CM_LINK_STRANGER, /**< no such session: the probe has restarted, or gave the host up */
    CM_LINK_TAKEN,    /**< results before `acknowledged` have arrived; no answer */
    CM_LINK_RATE      /**< payload: the rate of the line that is wanted, as a number of 4 bytes. The
                           answer has the one that is taken from then on; 0: none */
};

/** A frame without its payload. */
struct cm_link_frame {
    uint8_t kind;         /**< enum cm_link_kind */
    uint8_t sequence;     /**< of the batch; each one's is the one before it plus 1 */
    uint8_t acknowledged; /**< to the probe: results before this one have come; with AGAIN: batches
                             before this one have been sent */
    uint16_t session;     /**< never 0 */
};

/** A part of a payload. */
struct cm_link_span {
    const uint8_t *bytes;
    size_t count;
};

/** Sends bytes, or puts them where they will be sent from. */
typedef void cm_link_send_fn(void *context, const uint8_t *bytes, size_t count);

/** Sends a frame, whose payload is two spans, as it goes over the line. */
void cm_link_send(const struct cm_link_frame *frame, const struct cm_link_span payload[2],
                  cm_link_send_fn *send, void *context);

/** Writes a frame as it goes over the line, into `line` (CM_LINK_LINE_BYTES). The payload may not
 * lie in it. Returns its bytes. */
size_t cm_link_encode(const struct cm_link_frame *frame, const uint8_t *payload, size_t count,
                      uint8_t *line);

/** A frame that is coming in. All zero at the beginning, but for `bytes` and `room`. */
struct cm_link_intake {
    uint8_t *bytes; /**< where it goes */
    size_t room;
    size_t count;
    /** Of the first `summed` bytes: reckoned as it comes, so that the end of a frame takes no
     * longer than the rest of it. */
    uint32_t crc;
    size_t summed;
    /** Bytes before the next zero of the frame. */
    uint8_t left;
    bool has_begun, owes_zero, is_damaged;
};

enum cm_link_taken {
    CM_LINK_MORE,   /**< the frame goes on, or has not begun */
    CM_LINK_FULL,   /**< no room for the next byte: give it again where there is more; or set
                         `is_damaged`, and the rest of the frame is passed over */
    CM_LINK_WHOLE,  /**< cm_link_open says what it is; the next byte begins another one */
    CM_LINK_DAMAGED /**< it has ended, and was none */
};

/** Takes bytes from the line, up to the end of a frame; returns how many it has taken. `taken`:
 * what has come of them. */
size_t cm_link_take(struct cm_link_intake *intake, const uint8_t *bytes, size_t count,
                    enum cm_link_taken *taken);

/** Reads the head of a frame that came in whole; its payload is at intake->bytes + CM_LINK_HEAD.
 * False: it is damaged. */
bool cm_link_open(const struct cm_link_intake *intake, struct cm_link_frame *frame,
                  size_t *payload_bytes);

/* --- how a probe describes itself -------------------------------------------------------- */

/** What a probe has room for. */
struct cm_link_limits {
    /** Bytes that a batch takes as payload, together with those that come in; its operations;
     * batches on their way at once. */
    uint32_t batch_bytes;
    uint8_t ops;
    uint8_t window;
    /** The buses that it can do: 1 << enum cm_bus_id. */
    uint8_t buses;
    /** The fastest rate of the line that it can be asked for; 0: it keeps the one it has. */
    uint32_t fastest_baud;
};

struct cm_link_probe {
    struct cm_link_limits limits;
    uint8_t version;
    char board[CM_LINK_BOARD];
    struct cm_traits traits;
};

/** Writes that as payload; 0: there is no room. */
size_t cm_link_put_probe(const struct cm_link_limits *limits, const char *board,
                         const struct cm_traits *traits, uint8_t *bytes, size_t room);

/** Reads it. */
bool cm_link_get_probe(struct cm_link_probe *probe, const uint8_t *bytes, size_t count);

/* --- batches ----------------------------------------------------------------------------- */

/** Most write cycles of one batch, on a parallel bus. */
enum { CM_LINK_CYCLES = 24 };

/**
 * A batch on the line. Data lie in one memory: bytes that only go out first, then those that go
 * both ways, then those that only come in. `at` tells where those of each operation begin.
 *
 * A batch whose operations are those of the one before it does not send them again (`is_same`):
 * its first repeat goes on where the other ended, `skip` bytes further. So the operations of a
 * batch whose data leave no room for them may travel ahead, in a batch whose repeat has no byte.
 */
struct cm_link_batch {
    uint8_t bus;    /**< enum cm_bus_id */
    bool continues; /**< runs only if the batch before it ended well */
    bool is_same;
    uint32_t skip;  /**< of a batch that is the same */
    uint32_t count; /**< and the bytes of its repeat; 0: as many as the one before it has */
    uint8_t op_count;
    struct cm_op *ops;  /**< `out` and `in` are not looked at, when it is written */
    const uint32_t *at; /**< of each operation; UINT32_MAX: it has no data */
    uint8_t *data;      /**< the memory: `sent` bytes of it go out */
    uint32_t sent;
    uint32_t kept; /**< of these, at the beginning: bytes that do not come back */
    uint32_t all;  /**< bytes of the memory */
};

/** Writes a batch as payload; 0: there is no room. */
size_t cm_link_put_batch(const struct cm_link_batch *batch, uint8_t *bytes, size_t room);

/** Most bytes of one operation as it stands in a batch. */
enum { CM_LINK_OP_BYTES = 512 };

/** Does it bring a value? Of these a batch has CM_LINK_VALUES at most. */
static inline bool cm_link_has_value(const struct cm_op *op)
{
    return op->kind == CM_OP_CLOCK || op->kind == CM_OP_SENSE;
}

/** Writes one operation, as it stands in a batch; 0: there is no room. */
size_t cm_link_put_op(const struct cm_op *op, uint8_t bus, uint32_t at, uint8_t *bytes,
                      size_t room);

/** Where a probe keeps the operations of a batch. All zero at the beginning, but for the memory. */
struct cm_link_store {
    struct cm_op *ops;
    uint8_t most_ops;
    uint8_t most_cycles, most_pulses;
    struct cm_cycle *cycles; /**< NULL: no parallel bus */
    struct cm_pulse *pulses;
    /** Of the last batch, for the next one: */
    uint8_t op_count; /**< 0: there is none */
    uint8_t bus;
    uint8_t *data;
};

/** Reads a batch where it lies: its memory is in the payload, and behind it up to `room`. Its
 * operations go into the store, and point into that memory. False: it is damaged, or too large. */
bool cm_link_get_batch(struct cm_link_batch *batch, struct cm_link_store *store, uint8_t *bytes,
                       size_t count, size_t room);

/* --- results ----------------------------------------------------------------------------- */

/** What became of a batch. */
struct cm_link_result {
    enum cm_status status; /**< CM_DECLINED: not begun, since the batch before it failed */
    uint32_t op, address;
    bool placed;
    uint8_t expected, found;
    uint32_t restarts; /**< of the port behind the probe, since the session began */
    /** Bytes that came in. */
    const uint8_t *data;
    uint32_t data_count;
};

/** Writes a result and the values that its operations brought, as the first part of a payload; its
 * data are the second. 0: no room. */
size_t cm_link_put_result(const struct cm_link_result *result, const struct cm_op *ops,
                          uint8_t op_count, uint8_t *bytes, size_t room);

/** Reads it; the values go into `ops`, data point into `bytes`. False: it is damaged, or says that
 * all went well and lacks a value. */
bool cm_link_get_result(struct cm_link_result *result, struct cm_op *ops, uint8_t op_count,
                        const uint8_t *bytes, size_t count);

CM_DECLS_END

#endif
