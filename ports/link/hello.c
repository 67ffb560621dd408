/*
 * How a session with a probe begins: finding the rate of its line, its word about itself, and a
 * faster rate where both can.
 */
#include "inside.h"
#include "line.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/random.h>
#include <time.h>
#include <unistd.h>

enum {
    HELLO_MS = 100,    /* beside the bytes of the answer, */
    HELLO_BYTES = 130, /* of which there are so many at most */
    ROUNDS = 5,        /* over all rates: a board that restarts when its line is opened may take
                          seconds before it listens */
    RATE_MS = 700      /* then a probe that hears nothing at a new rate is back at the old one */
};

static uint16_t new_session(void)
{
    uint16_t session = 0;
    if (getrandom(&session, sizeof session, GRND_NONBLOCK) != sizeof session)
        session = (uint16_t)(link_now_us() ^ (uint32_t)getpid());
    return session ? session : 1;
}

static int hello_ms(const struct link *link)
{
    return HELLO_MS + (int)(HELLO_BYTES * LINK_BITS * 1000u / link->baud);
}

/* Has this probe as much room as the one that our memory was made for? Before there is any, each
 * has. */
static bool fits_our_memory(const struct link *link, const struct cm_link_limits *limits)
{
    const struct cm_link_limits *own = &link->probe.limits;
    return !link->sent || (own->batch_bytes == limits->batch_bytes && own->ops == limits->ops &&
                           own->window == limits->window);
}

/* Says hello once, and takes the answer. One of a probe that is not the one of before ends the
 * link: it has its memory from that one. */
static bool say_hello(struct link *link)
{
    static const uint8_t ZERO = 0; // ends whatever the probe has of a frame
    struct cm_link_probe probe;
    size_t payload;
    if (!link_send_bytes(link, &ZERO, 1) || !link_send_frame(link, CM_LINK_HELLO, NULL, 0) ||
        !link_await(link, CM_LINK_HELLO, hello_ms(link), &payload) ||
        !cm_link_get_probe(&probe, link_payload(link), payload))
        return false;
    if (probe.limits.batch_bytes > LINK_MOST_DATA)
        probe.limits.batch_bytes = LINK_MOST_DATA;
    if (!fits_our_memory(link, &probe.limits)) {
        link_lose(link, LINK_OTHER);
        return false;
    }
    link->probe = probe;
    return true;
}

static void begin(struct link *link)
{
    link->session = new_session();
    link->next = link->acknowledged = 0;
    link->deaf_until = link->sent_by = link_now_us();
    link->restarts = 0;
    link->last.count = 0;
    link->owes_word = false;
}

static void set_baud(struct link *link, uint32_t baud)
{
    link->baud = baud;
    (void)line_set_baud(link->line, baud);
}

/* --- a faster rate ----------------------------------------------------------------------- */

/* Is the probe there, at the rate that is set? */
static bool is_there(struct link *link)
{
    enum { TRIES = 3 };
    size_t payload;
    for (int i = 0; i < TRIES; i++) {
        if (link_send_frame(link, CM_LINK_ASK, NULL, 0) &&
            link_await(link, CM_LINK_AGAIN, HELLO_MS, &payload))
            return true;
    }
    return false;
}

/* Where nothing is heard at the new rate, both go back to the old one. */
static void raise_rate(struct link *link)
{
    static const struct timespec LONG_ENOUGH = {0, RATE_MS * 1000000L};
    uint32_t old = link->baud, new = line_fastest_baud(link->probe.limits.fastest_baud);
    const uint8_t wanted[4] = {(uint8_t) new, (uint8_t)(new >> 8), (uint8_t)(new >> 16),
                               (uint8_t)(new >> 24)};
    size_t payload;
    if (new <= old || !link_send_frame(link, CM_LINK_RATE, wanted, sizeof wanted) ||
        !link_await(link, CM_LINK_RATE, hello_ms(link), &payload) || payload != sizeof wanted ||
        memcmp(link_payload(link), wanted, sizeof wanted) != 0)
        return;
    set_baud(link, new);
    if (is_there(link))
        return;
    set_baud(link, old);
    nanosleep(&LONG_ENOUGH, NULL);
    if (!is_there(link))
        link_lose(link, LINK_SILENT);
}

/* --- all --------------------------------------------------------------------------------- */

bool link_find_probe(struct link *link, uint32_t baud)
{
    static const uint32_t USUAL[] = {115200, 1000000, 500000, 57600, 9600, 38400, 19200};
    bool is_known = baud || !isatty(link->line);
    size_t rates = is_known ? 1 : sizeof USUAL / sizeof USUAL[0];
    begin(link);
    for (size_t i = 0; i < ROUNDS * (is_known ? 4 : rates); i++) {
        if (link->lost || link_is_stopped(link))
            break;
        set_baud(link, baud ? baud : USUAL[i % rates]);
        if (!say_hello(link)) {
            link_note_words(link);
            continue;
        }
        link->first_baud = link->baud;
        if (!is_known)
            raise_rate(link);
        return !link->lost;
    }
    return false;
}

/* A probe that has restarted, or has heard nobody, is at the rate that it begins with. */
enum cm_status link_begin_anew(struct link *link)
{
    enum { TRIES = 30 };
    bool is_back = false, was_raised = link->baud != link->first_baud;
    link->state.restarts++;
    begin(link);
    set_baud(link, link->first_baud);
    for (int i = 0; i < TRIES && !is_back && !link->lost && !link_is_stopped(link); i++)
        is_back = say_hello(link);
    if (is_back && was_raised)
        raise_rate(link);
    if (!is_back)
        link_lose(link, link_is_stopped(link) ? LINK_STOPPED : LINK_SILENT);
    return is_back ? CM_CONTACT_LOST : CM_PORT_FAILED;
}
