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
    CM_LINK_VERSION = 1,
    CM_LINK_HEAD = 5, /**< bytes of a frame before its payload */
    CM_LINK_CRC = 4,  /**< and behind it */
    CM_LINK_BOARD = 24,
    CM_LINK_FRAME = CM_LINK_HEAD + CM_LINK_CRC
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
    CM_LINK_END,    /**< ends the session: the target is released. Answered by the same */
    CM_LINK_RESULT, /**< what became of a batch; payload: struct cm_link_result and bytes */
    CM_LINK_AGAIN,  /**< `sequence` is the batch that is expected next; where that is before
                         `acknowledged`, it was lost on its way */
    CM_LINK_STRANGER /**< no such session: the probe has restarted, or gave the host up */
};

/** A frame without its payload. */
struct cm_link_frame {
    uint8_t kind;         /**< enum cm_link_kind */
    uint8_t sequence;     /**< of the batch; each one's is the one before it plus 1 */
    uint8_t acknowledged; /**< to the probe: results before this one have come; with AGAIN: batches
                             before this one have been sent */
    uint16_t session;     /**< never 0 */
};

/** Writes a frame as it goes over the line, into `line` (CM_LINK_LINE_BYTES). The payload may not
 * lie in it. Returns its bytes. */
uint32_t cm_link_encode(const struct cm_link_frame *frame, const uint8_t *payload, uint32_t bytes,
                        uint8_t *line);

/**
 * Reads a frame in place: `line` holds what came before a zero. True, and the payload at
 * line + CM_LINK_HEAD, its bytes in `payload_bytes`. False: it is damaged.
 */
bool cm_link_decode(uint8_t *line, uint32_t bytes, struct cm_link_frame *frame,
                    uint32_t *payload_bytes);

/* --- how a probe describes itself -------------------------------------------------------- */

struct cm_link_probe {
    uint8_t version;
    char board[CM_LINK_BOARD];
    /** Bytes that move with one batch, out and in together; operations of one batch; batches on
     * their way at once. */
    uint32_t data_bytes;
    uint8_t ops;
    uint8_t window;
    /** The buses that it can do: 1 << enum cm_bus_id. */
    uint8_t buses;
    struct cm_traits traits;
};

uint32_t cm_link_put_probe(const struct cm_link_probe *probe, uint8_t *bytes, uint32_t room);
bool cm_link_get_probe(struct cm_link_probe *probe, const uint8_t *bytes, uint32_t count);

/* --- batches ----------------------------------------------------------------------------- */

/** Most write cycles of one batch, on a parallel bus. */
enum { CM_LINK_CYCLES = 24 };

/**
 * A batch on the line. Data lie in one memory: bytes that only go out first, then those that go
 * both ways, then those that only come in. `at` tells where those of each operation begin.
 */
struct cm_link_batch {
    uint8_t bus;    /**< enum cm_bus_id */
    bool continues; /**< runs only if the batch before it ended well */
    uint8_t op_count;
    struct cm_op *ops;   /**< `out` and `in` are not looked at */
    const uint32_t *at;  /**< of each operation; UINT32_MAX: it has no data */
    const uint8_t *data; /**< `sent` bytes */
    uint32_t sent;       /**< bytes that go out */
    uint32_t kept;       /**< of these, at the beginning: bytes that do not come back */
    uint32_t all;        /**< bytes of the memory */
};

/** Writes a batch as payload; 0: there is no room. */
uint32_t cm_link_put_batch(const struct cm_link_batch *batch, uint8_t *bytes, uint32_t room);

/** Where a probe keeps a batch that it reads. */
struct cm_link_store {
    struct cm_op *ops;
    uint8_t most_ops;
    struct cm_cycle *cycles; /**< NULL: no parallel bus */
    struct cm_pulse *pulses;
    uint8_t most_cycles, most_pulses;
    uint8_t *data;
    uint32_t data_bytes;
};

/** Reads a batch into the store; pointers in its operations point into that. False: it is damaged,
 * or larger than the store. */
bool cm_link_get_batch(struct cm_link_batch *batch, const struct cm_link_store *store,
                       const uint8_t *bytes, uint32_t count);

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

/** Writes a result and the values that its operations brought, as payload; 0: no room. */
uint32_t cm_link_put_result(const struct cm_link_result *result, const struct cm_op *ops,
                            uint8_t op_count, uint8_t *bytes, uint32_t room);

/** Reads it; the values go into `ops`, data point into `bytes`. */
bool cm_link_get_result(struct cm_link_result *result, struct cm_op *ops, uint8_t op_count,
                        const uint8_t *bytes, uint32_t count);

CM_DECLS_END

#endif
