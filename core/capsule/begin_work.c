/*
 * A job from a capsule: is it for this chip and this board, and what shall be done?
 */
#include "reader.h"
#include <coldmint/restore.h>
#include <string.h>

static enum cm_status refuse(struct cm_session *session, struct cm_work_check *check,
                             enum cm_work_fault fault)
{
    memset(&session->failure, 0, sizeof session->failure);
    check->fault = fault;
    session->failure.step = CM_STEP_OPEN;
    return session->failure.status = CM_REFUSED;
}

static enum cm_status check_supply(struct cm_session *session, const struct cm_capsule_work *work,
                                   struct cm_work_check *check)
{
    enum cm_status status = cm_supply_mv(session, &check->mv);
    if (status == CM_PORT_LACKS) {
        check->mv = 0;
        return CM_OK;
    }
    if (status || !work->supply_from_mv)
        return status;
    bool good = check->mv >= work->supply_from_mv && check->mv <= work->supply_to_mv;
    return good ? CM_OK : refuse(session, check, CM_WORK_SUPPLY);
}

/* A marker that is there must be the job's. One that cannot be read is not known; the contents
 * cannot be read then either, which the job finds out. */
static enum cm_status check_marker(struct cm_session *session, const struct cm_capsule *capsule,
                                   struct cm_restore *restore, struct cm_work_check *check)
{
    const struct cm_capsule_work *work = &capsule->work;
    uint8_t wanted[CM_WORK_MARKER];
    struct cm_guard guard = {.bars_reading = 0};
    if (!work->marker_bytes)
        return CM_OK;
    int index = cm_region_by_name(session, capsule->regions[work->marker_region].name);
    enum cm_status status = cm_guard_look(session, &guard);
    if (status || guard.bars_reading & CM_REGION_BIT((unsigned)index))
        return status;
    struct cm_source source =
        cm_capsule_job_source(capsule, work->marker_region, &restore->places[work->marker_region]);
    status = source.read(source.context, work->marker_at, wanted, work->marker_bytes);
    if (!status)
        status = cm_read_twice(session, (uint8_t)index, work->marker_at, check->marker,
                               work->marker_bytes);
    uint8_t same = 0, blank = 0;
    for (uint8_t i = 0; i < work->marker_bytes; i++) {
        same = (uint8_t)(same + (check->marker[i] == wanted[i]));
        blank = (uint8_t)(blank + (check->marker[i] == 0xFF));
    }
    if (status || same == work->marker_bytes || blank == work->marker_bytes)
        return status;
    return refuse(session, check, CM_WORK_OTHER_BOARD);
}

/* What the parts hold is wanted; a region without any is not. */
static void take_contents(const struct cm_session *session, const struct cm_capsule *capsule,
                          struct cm_restore *restore)
{
    struct cm_put *put = &restore->mint.put;
    uint32_t start, bytes;
    put->wants = restore->wants;
    for (uint8_t i = 0; i < capsule->region_count; i++) {
        struct cm_source source = cm_capsule_job_source(capsule, i, &restore->places[i]);
        if (source.extent(source.context, 0, &start, &bytes))
            restore->wants[put->want_count++] = (struct cm_want){
                (uint8_t)cm_region_by_name(session, capsule->regions[i].name), source};
    }
    put->unprotect = capsule->work.unprotect;
    put->lose_data = capsule->work.lose_data;
    restore->mint.board_hz = capsule->work.board_hz;
}

enum cm_status cm_work_begin(struct cm_session *session, const struct cm_capsule *capsule,
                             struct cm_restore *restore, struct cm_work_check *check)
{
    memset(restore, 0, sizeof *restore);
    memset(check, 0, sizeof *check);
    if (!capsule->has_work)
        return refuse(session, check, CM_WORK_NO_JOB);
    enum cm_status status = cm_require(session);
    if (!status && !cm_capsule_fits(session, capsule))
        return refuse(session, check, CM_WORK_OTHER_CHIP);
    if (!status)
        status = check_supply(session, &capsule->work, check);
    if (!status)
        status = check_marker(session, capsule, restore, check);
    if (status && !check->fault)
        check->fault = CM_WORK_FAILED;
    if (status)
        return status;
    take_contents(session, capsule, restore);
    session->asserted = session->part; // by the capsule
    return CM_OK;
}
