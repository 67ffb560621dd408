/* What drivers and jobs share of a session's inside. */
#ifndef CM_JOB_SESSION_H
#define CM_JOB_SESSION_H

#include "../bus/run.h"
#include <coldmint/session.h>

/*
 * What has happened since a job began that may have changed other bytes than it was to change: an
 * instruction that the chip misread is obeyed. Noted with each record of such a failure
 * (cm_refine).
 */
enum cm_doubt {
    CM_DOUBT_WRITE = 1,   /* a write did not do what it was to do: it may have done so elsewhere; */
    CM_DOUBT_TIME = 2,    /* a write, or an erase, did not end */
    CM_DOUBT_CONTACT = 4, /* contact was lost */
};

_Static_assert(CM_TIMED_OUT == CM_WRITE_FAILED + 1 && CM_CONTACT_LOST == CM_WRITE_FAILED + 2,
               "cm_refine makes these bits of statuses");

/* Starts the record of a failure anew and returns `status`. */
enum cm_status cm_fail(struct cm_session *session, enum cm_status status, enum cm_step step);

/* The same with a place in a region; and with the bytes as evidence. */
enum cm_status cm_fail_at(struct cm_session *session, enum cm_status status, enum cm_step step,
                          const char *region, uint32_t address);
enum cm_status cm_fail_byte(struct cm_session *session, enum cm_status status, enum cm_step step,
                            const char *region, uint32_t address, uint8_t expected, uint8_t found);

/* Changes the status of the record and returns it. */
enum cm_status cm_refine(struct cm_session *session, enum cm_status status);

/*
 * What every public call checks first: that a part is known. One that was lost, and not found
 * again, is looked for anew: its state is unknown, and nothing else may be said to it. The reason
 * of a refusal is left in the session.
 */
CM_MUST_CHECK enum cm_status cm_require_part(struct cm_session *session, enum cm_step step);

/* The way in and the id; again where contact was so bad in between that the id did not come
 * through. */
CM_MUST_CHECK enum cm_status cm_find_chip(struct cm_session *session);

/* The port's clock. */
uint32_t cm_now_us(const struct cm_session *session);

/* Times that the port's hardware has restarted. */
static inline uint32_t cm_restarts(const struct cm_session *session)
{
    return session->port->state->restarts;
}

/* The part that is there; before it has been found, the one that was asserted; NULL: unknown. */
static inline const struct cm_part *cm_likely_part(const struct cm_session *session)
{
    return session->part ? session->part : session->asserted;
}

/* What so many calls of the port cost, for predictions; */
static inline uint32_t cm_calls_us(const struct cm_session *session, uint32_t calls)
{
    return calls * session->port->traits.call_us;
}

/* and where exchanges may travel together: single calls, or packed ones. */
static inline uint32_t cm_packed_us(const struct cm_session *session, uint32_t single,
                                    uint32_t packed)
{
    return cm_calls_us(session, session->port->traits.packs ? packed : single);
}

/* and on a bus whose exchanges travel together only where whole batches do. */
static inline uint32_t cm_whole_us(const struct cm_session *session, uint32_t single)
{
    enum { BATCH = 2 }; /* there and back */
    return cm_calls_us(session, session->port->run ? BATCH : single);
}

/* Microseconds that bits take on the wire, 0 where the clock is not known; 4096 bytes of them at
 * most fit the reckoning. */
static inline uint32_t cm_bits_us(const struct cm_session *session, uint32_t bits)
{
    uint32_t hz = session->clock_hz, khz = hz / 1000;
    return khz ? (bits * 1000 + khz / 2) / khz : hz ? bits * (1000000 / hz) : 0;
}

/* Calls that a comparison of so many bytes takes, where calls cost (core/bus/run.h). */
static inline uint32_t cm_compare_calls(uint32_t bytes)
{
    return bytes / CM_GROUP_BYTES + 1;
}

/* Are two texts the same? The core has no strcmp. */
static inline bool cm_is_same_text(const char *a, const char *b)
{
    while (*a && *a == *b) {
        a++;
        b++;
    }
    return *a == *b;
}

/* One access to a region, bounds checked, split into pages where it programs. */
CM_MUST_CHECK enum cm_status cm_checked(struct cm_session *session, const struct cm_access *access);

#endif
