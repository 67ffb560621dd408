/*
 * The record of a failure, and the words for its status.
 */
#include "session.h"
#include <string.h>

enum cm_status cm_refine(struct cm_session *session, enum cm_status status)
{
    uint8_t doubt = (uint8_t)(status - CM_WRITE_FAILED); // this one and the next two
    bool only_asks =
        status == CM_TIMED_OUT && session->failure.step < CM_STEP_ERASE; // whether a chip is there
    if (doubt <= CM_CONTACT_LOST - CM_WRITE_FAILED && !only_asks)
        session->doubts |= (uint8_t)(1u << doubt);
    return session->failure.status = status;
}

enum cm_status cm_fail(struct cm_session *session, enum cm_status status, enum cm_step step)
{
    struct cm_failure *failure = &session->failure;
    memset(failure, 0, sizeof *failure);
    failure->step = step;
    return cm_refine(session, status);
}

enum cm_status cm_fail_at(struct cm_session *session, enum cm_status status, enum cm_step step,
                          const char *region, uint32_t address)
{
    cm_fail(session, status, step);
    session->failure.region = region;
    session->failure.address = address;
    session->failure.has_address = true;
    return status;
}

enum cm_status cm_fail_byte(struct cm_session *session, enum cm_status status, enum cm_step step,
                            const char *region, uint32_t address, uint8_t expected, uint8_t found)
{
    cm_fail_at(session, status, step, region, address);
    session->failure.has_bytes = true;
    session->failure.expected = expected;
    session->failure.found = found;
    return status;
}

static const char *const STATUS_WORDS[CM_STATUS_COUNT] = {
    [CM_OK] = "good",
    [CM_DIFFERS] = "differs",
    [CM_BAD_ARGUMENT] = "bad argument",
    [CM_PORT_FAILED] = "port failed",
    [CM_PORT_LACKS] = "port cannot do it",
    [CM_NO_POWER] = "no power",
    [CM_NO_CHIP] = "no chip answers",
    [CM_UNKNOWN_CHIP] = "unknown chip",
    [CM_WRONG_CHIP] = "wrong chip",
    [CM_PROTECTED] = "protected",
    [CM_WRITE_FAILED] = "write failed",
    [CM_TIMED_OUT] = "timed out",
    [CM_CONTACT_LOST] = "contact lost",
    [CM_BAD_IMAGE] = "bad image",
    [CM_TOO_LARGE] = "too large",
    [CM_NO_ROOM] = "no room",
    [CM_REFUSED] = "refused",
    [CM_SUPPLY_OUTSIDE] = "supply outside range",
    [CM_STOPPED] = "stopped",
    [CM_IN_DOUBT] = "other bytes may have changed",
    [CM_BAD_ANSWER] = "wrong answer",
    [CM_NACK] = "no acknowledge",
    [CM_DECLINED] = "declined",
};

const char *cm_status_word(enum cm_status status)
{
    return status < CM_STATUS_COUNT ? STATUS_WORDS[status] : "unknown status";
}
