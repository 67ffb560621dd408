/*
 * Settings from a capsule: bytes with the bits that are wanted, in order. Which of them make the
 * chip faster, and which must wait, was worked out when the capsule was written; so nothing here
 * needs the tables of settings and their words.
 */
#include "settings.h"
#include <coldmint/guard.h>

/* The chip's region of a setting. */
static uint8_t region_of(const struct cm_player *player, const struct cm_work_setting *setting)
{
    return (uint8_t)cm_region_by_name(&player->session,
                                      player->capsule.regions[setting->region].name);
}

/* The bits of a setting that differ from what is wanted, and the byte as it is. */
static enum cm_status look(struct cm_player *player, const struct cm_work_setting *setting,
                           uint8_t *now, uint8_t *differing)
{
    enum cm_status status =
        cm_read_twice(&player->session, region_of(player, setting), setting->address, now, 1);
    *differing = (uint8_t)((*now ^ setting->value) & setting->chosen);
    return status;
}

static enum cm_status fail(struct cm_player *player, enum cm_status status)
{
    struct cm_failure *failure = &player->session.failure;
    *failure = (struct cm_failure){.status = status, .step = CM_STEP_SETTINGS};
    return status;
}

enum cm_status cm_player_unlock(struct cm_player *player)
{
    const struct cm_capsule_work *work = &player->capsule.work;
    struct cm_guard guard;
    enum cm_status status = cm_guard_look(&player->session, &guard);
    bool is_barred = work->unprotect && guard.bars_reading; // what it holds nobody can compare
    if (status || guard.cost != CM_LIFT_CONTENTS || !cm_guard_is_on(&guard))
        return status;
    for (uint8_t i = 0; !status && i < work->setting_count; i++) {
        const struct cm_work_setting *setting = &work->settings[i];
        uint8_t now, differing;
        status = look(player, setting, &now, &differing);
        is_barred |= (setting->locks ? differing & ~now : differing) != 0;
    }
    if (status || !is_barred)
        return status;
    if (!work->unprotect)
        return fail(player, CM_PROTECTED);
    status = cm_player_count(player);
    return status ? status : cm_guard_lift(&player->session, &guard, CM_LIFT_CONTENTS);
}

/* Writes the bits of `which` that differ. */
static enum cm_status write(struct cm_player *player, const struct cm_work_setting *setting,
                            uint8_t which, bool *wrote)
{
    uint8_t now, differing;
    enum cm_status status = look(player, setting, &now, &differing);
    if (status || !(differing & which))
        return status;
    status = cm_player_count(player);
    if (status)
        return status;
    *wrote = true;
    now ^= (uint8_t)(differing & which);
    return cm_program(&player->session, region_of(player, setting), setting->address, &now, 1);
}

/* Enters anew, which makes settings take effect, as fast as this clock allows. */
static enum cm_status enter_at(struct cm_session *session, uint32_t hz)
{
    session->cpu_hz = hz;
    session->clock_hz = 0;
    return cm_recover(session);
}

/* An internal oscillator may be a tenth slower than its name. */
enum cm_status cm_player_write_early(struct cm_player *player)
{
    const struct cm_capsule_work *work = &player->capsule.work;
    enum cm_status status = CM_OK;
    bool wrote = false;
    for (uint8_t i = 0; !status && i < work->setting_count; i++)
        status = write(player, &work->settings[i], work->settings[i].early, &wrote);
    if (!status && (wrote || work->then_hz))
        status = enter_at(&player->session, work->then_hz / 10 * 9);
    return status;
}

static enum cm_status prove(struct cm_player *player)
{
    const struct cm_capsule_work *work = &player->capsule.work;
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; !status && i < work->setting_count; i++) {
        uint8_t now, differing;
        status = look(player, &work->settings[i], &now, &differing);
        if (!status && differing)
            status = fail(player, CM_WRITE_FAILED);
    }
    return status;
}

/* What bars later work comes last, in a pass of its own; by then contact must have been good, since
 * nobody looks at the contents again. */
enum cm_status cm_player_write_late(struct cm_player *player)
{
    const struct cm_capsule_work *work = &player->capsule.work;
    enum cm_status status = CM_OK;
    bool wrote = false;
    for (uint8_t pass = 0; !status && pass < 2; pass++) {
        for (uint8_t i = 0; !status && i < work->setting_count; i++) {
            if (work->settings[i].locks == pass)
                status = write(player, &work->settings[i], work->settings[i].chosen, &wrote);
        }
    }
    if (!status && wrote && !work->closes)
        status = enter_at(&player->session, 0);
    if (!status)
        status = prove(player);
    if (!status && player->session.doubts)
        status = fail(player, CM_IN_DOUBT);
    return status;
}
