/*
 * What a job's capsule says of the work, beside the contents.
 */
#include "reader.h"

#define ROW(kind, member) CM_ROW(kind, struct cm_capsule_work, member)
static const struct cm_wire_row WORK_ROWS[] = {
    [WORK_TITLE - 1] = ROW(CM_ROW_TEXT, title),
    [WORK_BOARD - 1] = ROW(CM_ROW_TEXT, board),
    [WORK_VERSION - 1] = ROW(CM_ROW_TEXT, version),
    [WORK_SUPPLY_FROM_MV - 1] = ROW(CM_ROW_NUMBER, supply_from_mv),
    [WORK_SUPPLY_TO_MV - 1] = ROW(CM_ROW_NUMBER, supply_to_mv),
    [WORK_FEED_MV - 1] = ROW(CM_ROW_NUMBER, feed_mv),
    [WORK_POWER_CYCLE - 1] = ROW(CM_ROW_FLAG, power_cycle),
    [WORK_BOARD_HZ - 1] = ROW(CM_ROW_NUMBER, board_hz),
    [WORK_THEN_HZ - 1] = ROW(CM_ROW_NUMBER, then_hz),
    [WORK_CLOSES - 1] = ROW(CM_ROW_FLAG, closes),
    [WORK_UNPROTECT - 1] = ROW(CM_ROW_FLAG, unprotect),
    [WORK_LOSE_DATA - 1] = ROW(CM_ROW_FLAG, lose_data),
    [WORK_UNITS - 1] = ROW(CM_ROW_NUMBER, units),
    [WORK_SETTINGS - 1] = {CM_ROW_PASSED, 0, 0},
    [WORK_MARKER - 1] = {CM_ROW_PASSED, 0, 0},
};
static const struct cm_wire_row MARKER_ROWS[] = {
    [MARKER_REGION - 1] = ROW(CM_ROW_NUMBER, marker_region),
    [MARKER_ADDRESS - 1] = ROW(CM_ROW_NUMBER, marker_at),
    [MARKER_BYTES - 1] = ROW(CM_ROW_NUMBER, marker_bytes),
};
#undef ROW
#define ROW(kind, member) CM_ROW(kind, struct cm_work_setting, member)
static const struct cm_wire_row SETTING_ROWS[] = {
    [SETTING_REGION - 1] = ROW(CM_ROW_NUMBER, region),
    [SETTING_ADDRESS - 1] = ROW(CM_ROW_NUMBER, address),
    [SETTING_VALUE - 1] = ROW(CM_ROW_NUMBER, value),
    [SETTING_CHOSEN - 1] = ROW(CM_ROW_NUMBER, chosen),
    [SETTING_EARLY - 1] = ROW(CM_ROW_NUMBER, early),
    [SETTING_LOCKS - 1] = ROW(CM_ROW_FLAG, locks),
};
#undef ROW

static bool read_setting(const struct cm_wire *wire, const struct cm_wire_field *message,
                         struct cm_capsule_work *work)
{
    if (work->setting_count == CM_SETTING_BYTES)
        return false;
    struct cm_work_setting *setting = &work->settings[work->setting_count++];
    return cm_wire_read(wire, message, SETTING_ROWS, SETTING_LOCKS, setting) &&
           (setting->early & ~setting->chosen) == 0;
}

bool cm_capsule_read_work(const struct cm_wire *wire, const struct cm_wire_field *message,
                          struct cm_capsule *capsule)
{
    struct cm_wire inner = cm_wire_inner(wire, message);
    struct cm_wire_field field;
    struct cm_capsule_work *work = &capsule->work;
    bool good = !capsule->has_work;
    capsule->has_work = true;
    while (good && cm_wire_next(&inner, &field)) {
        if (cm_wire_is_bytes(&field, WORK_SETTINGS))
            good = read_setting(&inner, &field, work);
        else if (cm_wire_is_bytes(&field, WORK_MARKER))
            good = cm_wire_read(&inner, &field, MARKER_ROWS, MARKER_BYTES, work);
        else
            good = cm_wire_take(&inner, &field, WORK_ROWS, WORK_MARKER, work);
    }
    return good && cm_wire_is_whole(&inner) && work->title[0] &&
           work->supply_from_mv <= work->supply_to_mv && work->marker_bytes <= CM_WORK_MARKER;
}
