/* What drivers and jobs share of a session's inside. */
#ifndef CM_JOB_SESSION_H
#define CM_JOB_SESSION_H

#include <coldmint/session.h>

/* Starts the record of a failure anew and returns `status`. */
enum cm_status cm_fail(struct cm_session *session, enum cm_status status, enum cm_step step);

/* The same with a place in a region. */
enum cm_status cm_fail_at(struct cm_session *session, enum cm_status status, enum cm_step step, const char *region,
                          uint32_t address);

/* The same with the bytes as evidence. */
enum cm_status cm_fail_byte(struct cm_session *session, enum cm_status status, enum cm_step step, const char *region,
                            uint32_t address, uint8_t expected, uint8_t found);

#endif
