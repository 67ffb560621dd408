/* A link from the inside: what frames.c, hello.c and link.c share. */
#ifndef CM_LINK_INSIDE_H
#define CM_LINK_INSIDE_H

#include "link.h"
#include "pieces.h"
#include <pthread.h>
#include <stdatomic.h>

/* Why the line is of no use until it is opened anew. */
enum link_loss {
    LINK_FINE,
    LINK_UNPLUGGED,
    LINK_SILENT,  /* the probe no longer answers, or not as one does */
    LINK_ENDLESS, /* it sends, and never what is due */
    LINK_OTHER,   /* another probe answers, with memory of another size */
    LINK_STOPPED  /* the caller wants to end, and will not wait */
};

enum {
    LINK_BITS = 10,    /* of a byte on the line */
    LINK_HEARD = 24,   /* bytes */
    LINK_ASK_MS = 400, /* nothing has come for so long, at the most: something was lost */
    LINK_READ = 4096,
    LINK_MOST_DATA = 1 << 20 /* of a batch: a probe may have room for more */
};

/* A piece on its way. */
struct sent {
    struct piece piece;
    uint8_t *line;
    size_t bytes;
};

struct link {
    struct cm_port port;
    struct cm_port_state state;
    struct cm_link_probe probe;
    int line;
    char place[300];                /* by which it was opened */
    uint32_t baud, first_baud;      /* the rate, and the one that the probe begins with */
    _Atomic uint8_t lost;           // enum link_loss; the pulse may find that out, too
    bool (*stopped)(void *context); /* the caller's: does it want to end? */
    void *stopped_context;
    uint8_t heard[LINK_HEARD]; /* what a line says on which no probe answers */
    uint8_t heard_count;
    pthread_t pulse;
    pthread_mutex_t writing;
    pthread_cond_t ending;
    bool is_ending, has_pulse;
    uint16_t session;
    uint8_t next, acknowledged; /* piece to be sent; result that is due */
    struct sent *sent;          /* of each piece on its way, by its sequence */
    struct shape last;          /* of the piece that was sent last */
    struct piece cut;           /* the next piece, */
    bool is_cut;                /* if there is one; */
    bool is_announced;          /* and its operations travel ahead */
    bool owes_word; /* bytes have come that the probe keeps until it hears that they have */
    uint8_t *payload;
    size_t room; /* of a payload */
    struct cm_link_intake intake;
    uint8_t in[LINK_READ];
    uint32_t in_at, in_count;
    uint32_t restarts;   /* of the port behind the probe */
    uint32_t round_us;   /* a round trip of a short frame, at the least */
    uint32_t sent_by;    /* when the last byte that was sent has crossed the line */
    uint32_t deaf_until; /* until then AGAIN speaks of what has been sent again already */
    struct link_counts counts;
};

/* --- frames.c ---------------------------------------------------------------------------- */

/* Microseconds of this computer. */
uint32_t link_now_us(void);

/* False: the line is gone. */
bool link_send_bytes(struct link *link, const uint8_t *bytes, size_t count);
bool link_send_frame(struct link *link, enum cm_link_kind kind, const uint8_t *payload,
                     size_t count);

/* Has the line a rate? Else its bytes take no time. */
bool link_has_rate(const struct link *link);

/* Does the caller want to end? */
static inline bool link_is_stopped(const struct link *link)
{
    return link->stopped && link->stopped(link->stopped_context);
}

/* The line is of no use any more; the first reason stays. */
static inline void link_lose(struct link *link, enum link_loss why)
{
    uint8_t fine = LINK_FINE;
    atomic_compare_exchange_strong(&link->lost, &fine, (uint8_t)why);
}

/* The next whole frame, in link->intake; false: nothing came for so long, or more than the longest
 * frame has and none of it was one; or the line is gone, or the caller wants to end. */
bool link_next_frame(struct link *link, int timeout_ms, struct cm_link_frame *frame,
                     size_t *payload);

/* The same, of this kind and of our session, so long in all: others are passed over. */
bool link_await(struct link *link, enum cm_link_kind kind, int timeout_ms, size_t *payload);

/* Where its payload lies. */
static inline const uint8_t *link_payload(const struct link *link)
{
    return link->intake.bytes + CM_LINK_HEAD;
}

/* Begins and ends the thread that tells the probe that we are here. */
void link_begin_pulse(struct link *link);
void link_end_pulse(struct link *link);

/* --- heard.c ----------------------------------------------------------------------------- */

/* Keeps what was read last, which is no answer of a probe. */
void link_note_words(struct link *link);

/* Why no probe has been found, or one that we do not know, into `error` (LINE_ERROR bytes). */
void link_explain(const struct link *link, bool is_found, char *error);

/* --- answers.c --------------------------------------------------------------------------- */

/* Sends a piece, for the first time or again. False: the line is gone. */
bool link_send_piece(struct link *link, uint8_t sequence);

/* Waits for the result that is due: its payload is in link->intake. */
CM_MUST_CHECK enum cm_status link_await_result(struct link *link, size_t *payload);

/* The piece of a sequence that is on its way. */
static inline struct sent *link_sent(struct link *link, uint8_t sequence)
{
    return &link->sent[sequence % link->probe.limits.window];
}

/* --- hello.c ----------------------------------------------------------------------------- */

/* Finds a probe, at this rate or, with 0, at any of the usual ones, which is then raised. */
bool link_find_probe(struct link *link, uint32_t baud);

/* Begins a session with a probe that has lost ours. */
CM_MUST_CHECK enum cm_status link_begin_anew(struct link *link);

#endif
