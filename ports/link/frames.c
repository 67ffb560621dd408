/*
 * Frames to a probe and from it, over a line of this computer.
 *
 * A thread tells the probe several times a second that we are here. When it no longer does, since
 * this process was killed or stopped, the probe releases the target.
 */
#include "inside.h"
#include "line.h"
#include <time.h>
#include <unistd.h>

enum { PULSE_MS = 200 /* the probe waits for a second */ };

uint32_t link_now_us(void)
{
    struct timespec now;
    clock_gettime(CLOCK_MONOTONIC, &now);
    return (uint32_t)((uint64_t)now.tv_sec * 1000000u + (uint64_t)now.tv_nsec / 1000u);
}

/* --- sending ----------------------------------------------------------------------------- */

bool link_has_rate(const struct link *link)
{
    return isatty(link->line);
}

static uint32_t line_us_of(const struct link *link, size_t bytes)
{
    return (uint32_t)(bytes * LINK_BITS * 1000000u / link->baud);
}

bool link_send_bytes(struct link *link, const uint8_t *bytes, size_t count)
{
    pthread_mutex_lock(&link->writing);
    bool good = !link->lost && line_write(link->line, bytes, count);
    if (!good)
        link_lose(link, LINK_UNPLUGGED);
    uint32_t now = link_now_us(), line_us = link_has_rate(link) ? line_us_of(link, count) : 0;
    link->sent_by = ((int32_t)(link->sent_by - now) > 0 ? link->sent_by : now) + line_us;
    link->counts.out += count;
    pthread_mutex_unlock(&link->writing);
    return good;
}

bool link_send_frame(struct link *link, enum cm_link_kind kind, const uint8_t *payload,
                     size_t count)
{
    uint8_t line[CM_LINK_LINE_BYTES(CM_LINK_SHORT)];
    const struct cm_link_frame frame = {(uint8_t)kind, link->next, link->acknowledged,
                                        link->session};
    link->owes_word = false;
    return link_send_bytes(link, line, cm_link_encode(&frame, payload, count, line));
}

/* A lone zero between two frames says that we are here. */
static void *pulse(void *context)
{
    static const uint8_t ZERO = 0;
    struct link *link = context;
    pthread_mutex_lock(&link->writing);
    while (!link->is_ending) {
        struct timespec until;
        clock_gettime(CLOCK_MONOTONIC, &until);
        until.tv_nsec += PULSE_MS * 1000000L;
        until.tv_sec += until.tv_nsec / 1000000000L;
        until.tv_nsec %= 1000000000L;
        pthread_cond_timedwait(&link->ending, &link->writing, &until);
        if (!link->is_ending && !link->lost && !line_write(link->line, &ZERO, 1))
            link_lose(link, LINK_UNPLUGGED);
    }
    pthread_mutex_unlock(&link->writing);
    return NULL;
}

void link_begin_pulse(struct link *link)
{
    link->has_pulse = pthread_create(&link->pulse, NULL, pulse, link) == 0;
}

void link_end_pulse(struct link *link)
{
    pthread_mutex_lock(&link->writing);
    link->is_ending = true;
    pthread_cond_signal(&link->ending);
    pthread_mutex_unlock(&link->writing);
    if (link->has_pulse)
        pthread_join(link->pulse, NULL);
}

/* --- receiving --------------------------------------------------------------------------- */

/* What has been read, into the frame at hand, up to its end; true: it is whole, and not damaged. */
static bool take_bytes(struct link *link, struct cm_link_frame *frame, size_t *payload)
{
    struct cm_link_intake *intake = &link->intake;
    enum cm_link_taken taken;
    link->in_at += (uint32_t)cm_link_take(intake, link->in + link->in_at,
                                          link->in_count - link->in_at, &taken);
    if (taken == CM_LINK_FULL)
        intake->is_damaged = true;
    return taken == CM_LINK_WHOLE && cm_link_open(intake, frame, payload);
}

/* The longest frame there is, as it goes over the line. */
static size_t longest_frame(const struct link *link)
{
    enum { HELLO = 256 };
    return CM_LINK_LINE_BYTES(link->room > HELLO ? link->room : HELLO);
}

/* More of the line, if there is any. */
static bool read_on(struct link *link, int timeout_ms)
{
    int got = link->lost ? -1 : line_read(link->line, link->in, sizeof link->in, timeout_ms);
    if (got < 0)
        link_lose(link, LINK_UNPLUGGED);
    link->in_at = 0;
    link->in_count = got > 0 ? (uint32_t)got : 0;
    link->counts.in += link->in_count;
    return got > 0;
}

bool link_next_frame(struct link *link, int timeout_ms, struct cm_link_frame *frame,
                     size_t *payload)
{
    enum { STOP_US = 300000 };
    const uint32_t begun = link_now_us();
    size_t passed = 0;
    do {
        for (passed += link->in_count - link->in_at; link->in_at < link->in_count;) {
            if (take_bytes(link, frame, payload))
                return true;
        }
        if (link_is_stopped(link) && link_now_us() - begun > STOP_US)
            return false;
    } while (passed < longest_frame(link) && read_on(link, timeout_ms));
    return false;
}

bool link_await(struct link *link, enum cm_link_kind kind, int timeout_ms, size_t *payload)
{
    const uint32_t begun = link_now_us(), most_us = (uint32_t)timeout_ms * 1000u;
    for (uint32_t gone = 0; gone <= most_us && !link->lost && !link_is_stopped(link);
         gone = link_now_us() - begun) {
        struct cm_link_frame frame;
        int left_ms = (int)((most_us - gone) / 1000u) + 1;
        if (link_next_frame(link, left_ms, &frame, payload) && frame.kind == kind &&
            frame.session == link->session)
            return true;
    }
    return false;
}
