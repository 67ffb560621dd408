/**
 * A probe: the far end of a link, on a board of its own. This is all of it that does not depend on
 * the board; probe/README.md says how to put it on one.
 *
 *     static struct cm_probe probe = {.board = &board};
 *     cm_probe_begin(&probe);
 *     for (;;)
 *         cm_probe_step(&probe);
 *
 * The target is safe, its lines released and its supply as it was found: before the first session,
 * behind each, after any failure, and when nothing has come from the computer for a second.
 *
 * Part of the library coldmint-link.
 */
#ifndef COLDMINT_PROBE_H
#define COLDMINT_PROBE_H

#include <coldmint/decls.h>
#include <coldmint/link.h>

CM_DECLS_BEGIN

/** Lamps, where the board has them. */
enum cm_lamp { CM_LAMP_SESSION, CM_LAMP_BUSY, CM_LAMP_ERROR };

/** Room for a batch, and for its result. Only `bytes` is set by the program. */
struct cm_probe_slot {
    /** buffer_bytes: the batch as it came in, with its data; what came from the target stays there
     * until the computer has it. */
    uint8_t *bytes;
    size_t count;     /**< of the frame that came in */
    uint8_t state;    /**< empty, waiting to be run, or done */
    uint8_t sequence; /**< of the batch */
    uint8_t result_count;
    uint8_t result[32]; /**< the payload of the result, without its data */
    struct cm_link_span data;
};

/** What a board gives. All memory is the board's. */
struct cm_probe_board {
    const char *name;
    /** Its hardware, as the core sees it: the port of a program on this board. */
    const struct cm_port *port;
    /** The buses that it can do: 1 << enum cm_bus_id. */
    uint8_t buses;
    /** Batches that may be on their way at once. */
    uint8_t window;
    /** How long nobody may look at the serial line, since it keeps only so much: waits are cut into
     * pieces of this length (0: 2 ms), and data on SPI or from a parallel bus into pieces of so
     * many bytes (0: any). */
    uint16_t longest_wait_us, longest_shift;
    /** Bytes that have come from the serial line, so many at most; returns their number, 0 where
     * there are none. Never waits. */
    uint8_t (*receive)(void *context, uint8_t *bytes, uint8_t most);
    /** Sends bytes, or puts them where they will be sent from. */
    cm_link_send_fn *send;
    /** Microseconds, to find out that the computer is silent; NULL: the port's clock. */
    uint32_t (*clock_us)(void *context);
    /** NULL: there are no lamps. */
    void (*lamp)(void *context, enum cm_lamp lamp, bool on);
    /** Sets the rate of the serial line, when all that was sent is out; 0: the one that it begins
     * with. NULL: it stays. `fastest_baud`: the most that makes sense. False: it cannot. */
    bool (*set_baud)(void *context, uint32_t baud);
    uint32_t fastest_baud;
    void *context;
    /** Bytes of a slot: CM_LINK_FRAME, 20 (from 16 KiB on 40), and those that one batch may move. A
     * page of each memory that is to be written must go into it. */
    size_t buffer_bytes;
    /** As many as the window. */
    struct cm_probe_slot *slots;
};

enum { CM_PROBE_SILENCE_US = 1000000, CM_PROBE_PULSE_US = 200000 };

/** A probe. Only `board`, and the memory of `store`, is set by the program; the rest is zero at the
 * beginning. */
struct cm_probe {
    const struct cm_probe_board *board;
    struct cm_link_store store; /**< operations of the batch that runs */

    struct cm_port port; /**< the board's, with a look at the serial line in every call */
    struct cm_lines lines;
    struct cm_spi spi;
    struct cm_link_intake intake;
    uint8_t small[CM_LINK_SHORT]; /**< where each frame begins */
    uint8_t pending;              /**< HELLO, with its session, or END that came during a batch */
    uint16_t pending_session;
    uint32_t heard_us, pulsed_us;
#ifndef CM_PROBE_SMALL
    uint32_t rate_us; /**< since when the rate of the line is another one, */
#endif
    bool is_rate_new;  /**< and no frame has come at it */
    uint32_t restarts; /**< of the board's port, when the session began */
    uint16_t session;  /**< 0: none */
    uint8_t received;  /**< batch that is taken next */
    uint8_t expected;  /**< batch that runs next */
    uint8_t looks;
    uint8_t unseen;     /**< short calls */
    uint8_t owed, sent; /**< an answer to the computer */
    bool has_failed;    /**< the batch before the next one */
    bool is_working;
    bool is_over; /**< a batch, in the middle: the computer is silent, or wants its end */
    bool is_fed;  /**< the target, by us */
#ifndef CM_PROBE_SMALL
    bool scl_is_low;
#endif
};

/** Makes the target safe, and waits for a session. */
void cm_probe_begin(struct cm_probe *probe);

/** Takes what has come in, and runs a batch if one is whole. Returns soon where there is none. */
void cm_probe_step(struct cm_probe *probe);

/** For a board's own bus whose transfers take longer than the serial line may wait, of 100 ms at
 * most: takes what has come in, between two bytes. False: the batch shall end; return
 * CM_PORT_FAILED. */
bool cm_probe_look(struct cm_probe *probe);

CM_DECLS_END

#endif
