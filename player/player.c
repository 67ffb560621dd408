/*
 * The player: a unit from the supply to the last lock bit, counted before and after.
 */
#include <coldmint/player.h>
#include "settings.h"
#include <string.h>

static enum cm_status fail(struct cm_player *player, enum cm_player_fault fault,
                           enum cm_status status)
{
    player->fault = status ? fault : CM_PLAYER_GOOD;
    return status;
}

enum cm_status cm_player_open(struct cm_player *player)
{
    struct cm_capsule *capsule = &player->capsule;
    enum cm_status status = cm_capsule_open(capsule, &player->input);
    if (!status)
        status = cm_capsule_check_seal(capsule, player->maker, player->verify, &player->seal);
    if (status)
        return fail(player, CM_PLAYER_CAPSULE, status);
    if (!capsule->has_work)
        return fail(player, CM_PLAYER_NO_JOB, CM_REFUSED);
    if (player->store)
        status = cm_tally_find(&player->tally, player->store, player->seal.digest);
    else if (capsule->work.units)
        status = CM_REFUSED;
    return fail(player, CM_PLAYER_STORE, status);
}

uint32_t cm_player_left(const struct cm_player *player)
{
    return cm_tally_left(&player->tally, player->capsule.work.units);
}

/* --- counting ---------------------------------------------------------------------------- */

static enum cm_status record(struct cm_player *player, enum cm_tally_kind kind,
                             enum cm_status result)
{
    struct cm_tally_record *last = &player->tally.last;
    if (!player->store)
        return CM_OK;
    last->status = (uint8_t)result;
    last->fault = (uint8_t)player->fault;
    last->step = (uint8_t)player->session.failure.step;
    last->address = player->session.failure.address;
    last->milliseconds = player->milliseconds;
    return fail(player, CM_PLAYER_STORE, cm_tally_note(&player->tally, kind));
}

enum cm_status cm_player_count(struct cm_player *player)
{
    bool is_open = player->tally.last.kind == CM_TALLY_BEGUN;
    player->has_changed = true;
    return is_open ? CM_OK : record(player, CM_TALLY_BEGUN, CM_OK);
}

/* --- a unit ------------------------------------------------------------------------------ */

/* The board's supply, off for a moment where the capsule says so. Either side may feed a board,
 * never both: one that has a supply is left to it, and one whose port has none, too; it is measured
 * then.
 */
static enum cm_status feed(struct cm_player *player)
{
    enum { OFF_US = 200000 };
    const struct cm_capsule_work *work = &player->capsule.work;
    const struct cm_lines *lines = player->port->lines;
    enum cm_status status = CM_OK;
    if (!work->feed_mv || (!lines->supply && work->supply_from_mv && lines->sense))
        return CM_OK;
    if (!lines->supply)
        return player->session.failure.status = CM_PORT_LACKS;
    if (work->power_cycle) {
        status = lines->supply(player->port, 0);
        lines->wait_us(player->port, OFF_US);
    }
    if (status || cm_has_own_supply(&player->session))
        return status;
    return cm_feed(&player->session, work->feed_mv);
}

static enum cm_status find_chip(struct cm_player *player)
{
    struct cm_session *session = &player->session;
    enum cm_status status = cm_open(session, player->port, player->kits, player->kit_count,
                                    player->workspace, player->workspace_bytes);
    if (!status)
        status = feed(player);
    if (!status)
        status = cm_identify(session, player->capsule.facts.chip);
    if (status)
        return fail(player, CM_PLAYER_UNIT, status);
    status = cm_work_begin(session, &player->capsule, &player->restore, &player->check);
    return fail(player, player->check.fault == CM_WORK_FAILED ? CM_PLAYER_UNIT : CM_PLAYER_BOARD,
                status);
}

/* A struct cm_put's `planned`. */
static bool on_plan(void *context, const struct cm_report *report)
{
    bool changes = report->pages_written || report->erase;
    return !changes || cm_player_count(context) == CM_OK;
}

static enum cm_status put(struct cm_player *player)
{
    struct cm_put *what = &player->restore.mint.put;
    if (!what->want_count)
        return CM_OK;
    what->carry = player->carry;
    what->progress = player->progress;
    what->progress_context = player->context;
    what->planned = on_plan;
    what->planned_context = player;
    return cm_put(&player->session, what, &player->report);
}

static enum cm_status make(struct cm_player *player)
{
    enum cm_status status = cm_player_unlock(player);
    if (!status)
        status = cm_player_write_early(player);
    if (!status)
        status = put(player);
    if (!status)
        status = cm_player_write_late(player);
    // where the store failed, that is the news
    return status && player->fault == CM_PLAYER_STORE ? status
                                                      : fail(player, CM_PLAYER_UNIT, status);
}

static enum cm_status play(struct cm_player *player)
{
    const struct cm_lines *lines = player->port->lines;
    uint32_t begun = lines->now_us(player->port);
    player->milliseconds = 0;
    enum cm_status status = find_chip(player);
    if (!status)
        status = make(player);
    cm_close(&player->session);
    player->milliseconds = (lines->now_us(player->port) - begun) / 1000;
    return status;
}

enum cm_status cm_player_play(struct cm_player *player)
{
    if (!cm_player_left(player))
        return fail(player, CM_PLAYER_LIMIT, CM_REFUSED);
    memset(&player->report, 0, sizeof player->report);
    player->has_changed = false;
    enum cm_status status = play(player);
    if (!status)
        return player->tally.last.kind == CM_TALLY_BEGUN ? record(player, CM_TALLY_MADE, status)
                                                         : CM_OK;
    enum cm_player_fault fault = player->fault;
    if (fault != CM_PLAYER_STORE)
        cm_ignore(record(player, CM_TALLY_FAILED, status)); // how the unit ended is the news
    return fail(player, fault, status);
}

/* --- without a computer ------------------------------------------------------------------ */

static void show(struct cm_player *player, enum cm_player_lamp lamp)
{
    if (player->lamp)
        player->lamp(player->context, lamp);
}

static bool goes_on(struct cm_player *player)
{
    enum { ASK_US = 10000 };
    if (player->stop && player->stop(player->context))
        return false;
    player->port->lines->wait_us(player->port, ASK_US);
    return true;
}

void cm_player_run(struct cm_player *player)
{
    show(player, cm_player_left(player) ? CM_LAMP_READY : CM_LAMP_DARK);
    for (bool was_down = true; goes_on(player);) {
        bool is_down = player->button(player->context), starts = is_down && !was_down;
        was_down = is_down;
        if (!starts)
            continue;
        show(player, CM_LAMP_PLAYING);
        bool is_good = cm_player_play(player) == CM_OK;
        show(player, is_good ? CM_LAMP_PASS : CM_LAMP_FAIL);
        if (player->beep)
            player->beep(player->context, is_good);
    }
    show(player, CM_LAMP_DARK);
}
