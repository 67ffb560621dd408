/*
 * Registers that a put was not to touch. An instruction that was misread may have written them: a
 * bit of noise makes "write status" of "read status". So they are looked at behind the last change,
 * and put back as they were.
 *
 * A file of its own: only families with such registers carry it.
 */
#include "blocks.h"
#include <string.h>

static enum cm_status put_back(struct cm_blocks *work)
{
    enum { CONTENTS = CM_REGION_BIT(CM_REGION_MAIN) | CM_REGION_BIT(CM_REGION_DATA) };
    struct cm_guard now;
    // nothing can have been misread; or they are wanted otherwise
    if (!(work->has_change || work->report->doubted) || work->report->lifts ||
        work->regions & ~CONTENTS)
        return CM_OK;
    enum cm_status status = cm_guard_look(work->session, &now);
    if (!status && memcmp(now.registers, work->guard.registers, sizeof now.registers) != 0)
        status = cm_guard_restore(work->session, &work->guard);
    return status == CM_PROTECTED ? cm_refine(work->session, CM_IN_DOUBT) : status;
}

enum cm_status cm_settle_registers(struct cm_blocks *work, enum cm_status status)
{
    return status ? status : put_back(work);
}

enum cm_status cm_settle_registers_always(struct cm_blocks *work, enum cm_status status)
{
    struct cm_failure failure = work->session->failure;
    if (status != CM_WRITE_FAILED)
        return cm_settle_registers(work, status);
    cm_ignore(put_back(work));
    work->session->failure = failure; // the first one sticks
    return status;
}
