/*
 * A chip restored from a capsule: its memories and settings become what is wanted, in one mint.
 */
#include <coldmint/capsule.h>
#include <coldmint/restore.h>
#include <string.h>

static enum cm_status fail(struct cm_session *session, enum cm_status status)
{
    memset(&session->failure, 0, sizeof session->failure);
    session->failure.status = status;
    session->failure.step = CM_STEP_OPEN;
    return status;
}

/* The setting bytes that a region of the capsule holds. */
static enum cm_status take_settings(struct cm_session *session, const struct cm_capsule *capsule,
                                    struct cm_restore *restore)
{
    const struct cm_words *words = cm_words_of(session);
    struct cm_setting_byte byte;
    struct cm_region region;
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; !status && words->byte(session->part, i, &byte); i++) {
        int index =
            cm_region(session, byte.region, &region) ? cm_capsule_region(capsule, region.name) : -1;
        if (index < 0)
            continue;
        struct cm_source source =
            cm_capsule_source(capsule, (uint8_t)index, &restore->places[index]);
        status = source.read(source.context, byte.address, &restore->settings[i], 1);
    }
    return status ? fail(session, status) : CM_OK;
}

enum cm_status cm_restore_begin(struct cm_session *session, const struct cm_capsule *capsule,
                                struct cm_restore *restore)
{
    struct cm_region region;
    memset(restore, 0, sizeof *restore);
    enum cm_status status = cm_require(session);
    if (status)
        return status;
    if (!cm_capsule_fits(session, capsule))
        return fail(session, CM_WRONG_CHIP);
    if (capsule->has_work)
        return fail(session, CM_BAD_IMAGE);
    if (cm_words_of(session)) {
        status = cm_read_settings(session,
                                  restore->settings); // those that the capsule does not hold stay
        if (!status)
            status = take_settings(session, capsule, restore);
        restore->mint.settings = restore->settings;
    }
    if (status)
        return status;
    restore->mint.put.wants = restore->wants;
    restore->mint.put.lose_data = true; // all of it is wanted anew
    for (uint8_t i = 0; i < capsule->region_count; i++) {
        int index = cm_region_by_name(session, capsule->regions[i].name);
        cm_region(session, (uint8_t)index, &region);
        if (index < 0 || (region.traits & CM_REGION_SETTINGS) ||
            !(region.traits & CM_REGION_WRITABLE))
            continue;
        restore->wants[restore->mint.put.want_count++] =
            (struct cm_want){(uint8_t)index, cm_capsule_source(capsule, i, &restore->places[i])};
    }
    session->asserted = session->part; // by the capsule
    return CM_OK;
}

enum cm_status cm_restore(struct cm_session *session, const struct cm_capsule *capsule,
                          struct cm_mint_report *report)
{
    struct cm_restore restore;
    memset(report, 0, sizeof *report);
    enum cm_status status = cm_restore_begin(session, capsule, &restore);
    if (!status && !restore.mint.settings)
        return cm_put(session, &restore.mint.put, &report->put);
    return status ? status : cm_mint(session, &restore.mint, report);
}
