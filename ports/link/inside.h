/* A link from the inside: what frames.c, hello.c and link.c share. */
#ifndef CM_LINK_INSIDE_H
#define CM_LINK_INSIDE_H

#include "link.h"
#include "pieces.h"
#include <pthread.h>

enum {
    LINK_BITS = 10,    /* of a byte on the line */
    LINK_ASK_MS = 400, /* nothing has come for so long: something was lost */
    LINK_READ = 4096,
    LINK_RATES = 16
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
    char place[300];           /* by which it was opened */
    uint32_t baud, first_baud; /* the rate, and the one that the probe begins with */
    _Atomic bool is_gone;      // the pulse may find that out, too
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
    uint32_t restarts; /* of the port behind the probe */
    struct link_counts counts;
};

/* --- frames.c ---------------------------------------------------------------------------- */

/* Microseconds of this computer. */
uint32_t link_now_us(void);

/* False: the line is gone. */
bool link_send_bytes(struct link *link, const uint8_t *bytes, size_t count);
bool link_send_frame(struct link *link, enum cm_link_kind kind, const uint8_t *payload,
                     size_t count);

/* The next whole frame, in link->intake; false: none came in time, or the line is gone. */
bool link_next_frame(struct link *link, int timeout_ms, struct cm_link_frame *frame,
                     size_t *payload);

/* The same, of this kind and of our session: others are passed over. */
bool link_await(struct link *link, enum cm_link_kind kind, int timeout_ms, size_t *payload);

/* Where its payload lies. */
static inline const uint8_t *link_payload(const struct link *link)
{
    return link->intake.bytes + CM_LINK_HEAD;
}

/* Begins and ends the thread that tells the probe that we are here. */
void link_begin_pulse(struct link *link);
void link_end_pulse(struct link *link);

/* --- hello.c ----------------------------------------------------------------------------- */

/* Finds a probe, at this rate or, with 0, at any of the usual ones, which is then raised. */
bool link_find_probe(struct link *link, uint32_t baud);

/* Begins a session with a probe that has lost ours. */
CM_MUST_CHECK enum cm_status link_begin_anew(struct link *link);

#endif
