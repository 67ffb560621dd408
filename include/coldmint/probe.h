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

/** Room for one result, as it goes over the line, kept until the computer has it. */
struct cm_probe_slot {
    uint8_t *line;
    uint32_t bytes; /**< 0: empty */
    uint8_t sequence;
};

/** What a board gives. All memory is the board's. */
struct cm_probe_board {
    const char *name;
    /** Its hardware, as the core sees it: the port of a program on this board. */
    const struct cm_port *port;
    /** The buses that it can do: 1 << enum cm_bus_id. */
    uint8_t buses;
    /** The next byte from the serial line; -1: there is none. Never waits. */
    int (*receive)(void *context);
    /** Sends bytes, or puts them where they will be sent from. */
    void (*send)(void *context, const uint8_t *bytes, uint32_t count);
    /** Microseconds, to find out that the computer is silent; NULL: the port's clock. */
    uint32_t (*clock_us)(void *context);
    /** NULL: there are no lamps. */
    void (*lamp)(void *context, enum cm_lamp lamp, bool on);
    void *context;
    /** Where a batch lies while it runs. */
    struct cm_link_store store;
    /** A frame that is coming in, and one that goes out: CM_LINK_LINE_BYTES of the longest payload.
     */
    uint8_t *line;
    uint32_t line_bytes;
    /** What has come in and is not looked at yet: as many frames as the window has. A power of two.
     */
    uint8_t *ring;
    uint32_t ring_bytes;
    /** Results: as many as batches may be on their way; each has CM_LINK_LINE_BYTES of
     * store.data_bytes and CM_PROBE_RESULT more. */
    struct cm_probe_slot *slots;
    uint8_t window;
};

enum { CM_PROBE_RESULT = 96, CM_PROBE_SILENCE_US = 1000000, CM_PROBE_PULSE_US = 200000 };

/** A probe. Only `board` is set by the program; the rest is zero at the beginning. */
struct cm_probe {
    const struct cm_probe_board *board;

    struct cm_port port; /**< the board's, with a look at the serial line in every call */
    struct cm_lines lines;
    struct cm_spi spi;
    uint32_t head, tail; /**< of the ring */
    uint32_t line_count;
    bool line_overflows, last_was_zero;
    uint32_t heard_us, pulsed_us;
    uint32_t restarts; /**< of the board's port, when the session began */
    uint16_t session;  /**< 0: none */
    uint8_t expected;  /**< batch */
    bool has_failed;   /**< the batch before the next one */
    bool is_working;
    bool is_silent; /**< the computer, during a batch */
    bool is_fed;    /**< the target, by us */
};

/** Makes the target safe, and waits for a session. */
void cm_probe_begin(struct cm_probe *probe);

/** Takes what has come in, and runs a batch if one is whole. Returns soon where there is none. */
void cm_probe_step(struct cm_probe *probe);

CM_DECLS_END

#endif
