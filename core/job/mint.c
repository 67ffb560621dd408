/*
 * Mint: settings and contents in one job, in the order that is fast and safe. See mint.h for the
 * steps.
 *
 * Fuses take effect when the chip leaves programming mode, so a faster clock costs one way in anew
 * (about 20 ms on an AVR), and pays with every byte after it.
 */
#include "access.h"
#include "setting_stage.h"
#include <coldmint/image.h>
#include <coldmint/mint.h>
#include <string.h>

/* The bits of `wanted` that must wait to the end: what locks, and what ends access. */
static void hold_back(const struct cm_words *words, const struct cm_part *part,
                      const struct cm_mint_steps *steps, uint8_t *early)
{
    struct cm_fence fence;
    struct cm_setting_byte byte;
    for (uint8_t i = 0; cm_next_fence(words, part, steps->now, steps->late, i, &fence);
         i = (uint8_t)(fence.index + 1)) {
        if (fence.kind == CM_FENCE_ENDS_ACCESS)
            cm_set_setting(&fence.setting, early, cm_setting_value(&fence.setting, steps->now));
    }
    for (uint8_t i = 0; words->byte(part, i, &byte); i++) {
        if (byte.only_falls)
            early[i] = steps->now[i];
    }
}

/* A clock that is slower waits to the end, too. One from the board of which nothing is known is as
 * fast as the bus shows. */
static bool is_slower(const struct cm_session *session, uint32_t then, uint32_t now)
{
    return then && then < (now ? now : session->clock_hz * 4);
}

static void keep_clock(const struct cm_words *words, const struct cm_part *part,
                       struct cm_mint_steps *steps)
{
    for (uint8_t i = 0; i < cm_setting_byte_count(words, part); i++) {
        uint8_t clock = words->clock_mask(part, i);
        steps->early[i] = (uint8_t)((steps->early[i] & ~clock) | (steps->now[i] & clock));
    }
}

/* Reserved bits stay as they are read. */
static void take_named(const struct cm_words *words, const struct cm_part *part,
                       const uint8_t *wanted, struct cm_mint_steps *steps)
{
    struct cm_setting_byte byte;
    memcpy(steps->late, steps->now, sizeof steps->late);
    for (uint8_t i = 0; words->byte(part, i, &byte); i++)
        steps->late[i] = (uint8_t)((steps->now[i] & ~byte.named) | (wanted[i] & byte.named));
}

static bool is_open(const struct cm_words *words, const struct cm_part *part, const uint8_t *bytes)
{
    struct cm_setting_byte byte;
    for (uint8_t i = 0; words->byte(part, i, &byte); i++) {
        if (byte.only_falls && (~bytes[i] & byte.named))
            return false;
    }
    return true;
}

static bool has_clock(const struct cm_words *words, const struct cm_part *part)
{
    uint8_t i = cm_setting_byte_count(words, part);
    while (i > 0 && words->clock_mask(part, (uint8_t)(i - 1)) == 0)
        i--;
    return i > 0;
}

/* After an erase the bytes that only fall are open. */
static void open_up(const struct cm_words *words, const struct cm_part *part, uint8_t *bytes)
{
    struct cm_setting_byte byte;
    for (uint8_t i = 0; words->byte(part, i, &byte); i++) {
        if (byte.only_falls)
            bytes[i] |= byte.named;
    }
}

enum cm_status cm_mint_steps(struct cm_session *session, const struct cm_mint *mint,
                             struct cm_mint_steps *steps)
{
    const struct cm_words *words = cm_words_of(session);
    struct cm_guard guard;
    memset(steps, 0, sizeof *steps);
    memset(&guard, 0, sizeof guard);
    enum cm_status status = mint->settings ? cm_check_masks(session) : CM_OK;
    if (!status)
        status = cm_read_settings(session, steps->now);
    if (!status)
        status = cm_check_supply(session);
    const struct cm_part *part = session->part;
    if (!status && !is_open(words, part, steps->now)) // an open chip bars nothing
        status = cm_guard_look(session, &guard);
    if (status)
        return status;
    take_named(words, part, mint->settings ? mint->settings : steps->now, steps);
    struct cm_setting_byte barred;
    steps->unlocks = cm_settings_barred(words, part, &guard, steps->now, steps->late, &barred);
    if (steps->unlocks && !mint->put.unprotect)
        return cm_fail_locked(session, &guard);
    if (steps->unlocks)
        open_up(words, part, steps->now);
    memcpy(steps->early, steps->late, sizeof steps->early);
    hold_back(words, part, steps, steps->early);
    if (!has_clock(words, part)) // nothing becomes faster; and registers may protect what is to be
                                 // written
        memcpy(steps->early, steps->now, sizeof steps->early);
    steps->cpu_hz_now = words->cpu_hz(part, steps->now, mint->board_hz);
    steps->cpu_hz_then = words->cpu_hz(part, steps->early, mint->board_hz);
    if (is_slower(session, steps->cpu_hz_then, steps->cpu_hz_now)) {
        keep_clock(words, part, steps);
        steps->cpu_hz_then = steps->cpu_hz_now;
    }
    steps->reenters = cm_changes_clock(words, part, steps->now, steps->early);
    steps->changes_early = memcmp(steps->now, steps->early, sizeof steps->now) != 0;
    steps->changes_late = memcmp(steps->early, steps->late, sizeof steps->now) != 0;
    return CM_OK;
}

/* --- the plan ---------------------------------------------------------------------------- */

static uint8_t count_changed(const uint8_t *a, const uint8_t *b)
{
    uint8_t count = 0;
    for (uint8_t i = 0; i < CM_SETTING_BYTES; i++)
        count = (uint8_t)(count + (a[i] != b[i]));
    return count;
}

static uint32_t settings_cost(const struct cm_session *session, const struct cm_mint_steps *steps)
{
    const struct cm_words *words = cm_words_of(session);
    uint32_t bytes = (uint32_t)count_changed(steps->now, steps->early) +
                     count_changed(steps->early, steps->late);
    return bytes * words->write_us(session->part) + (steps->reenters ? words->reenter_us : 0);
}

enum cm_status cm_mint_plan(struct cm_session *session, const struct cm_mint *mint,
                            struct cm_mint_report *report, uint32_t *predicted_us)
{
    memset(report, 0, sizeof *report);
    enum cm_status status = cm_mint_steps(session, mint, &report->steps);
    if (status)
        return status;
    struct cm_session ahead =
        *session; // as it will be: reading at today's clock, reckoning with tomorrow's
    if (report->steps.reenters && report->steps.cpu_hz_then)
        ahead.clock_hz = report->steps.cpu_hz_then / 4;
    status = mint->put.want_count ? cm_plan(&ahead, &mint->put, &report->put) : CM_OK;
    session->failure = ahead.failure;
    *predicted_us = report->put.predicted_us + settings_cost(session, &report->steps);
    if (report->steps.unlocks)
        *predicted_us += cm_lift_us(session);
    return status;
}

/* --- the job ----------------------------------------------------------------------------- */

/* Saves the data region from the erase that unlocks, as cm_put does from its own. */
static enum cm_status save_data(struct cm_session *session, const struct cm_put *put,
                                const struct cm_guard *guard, struct cm_report *report)
{
    const struct cm_carry *carry = &put->carry;
    const uint8_t data = CM_REGION_BIT(CM_REGION_DATA);
    struct cm_region region;
    bool at_risk = cm_region(session, CM_REGION_DATA, &region) && region.bytes && !put->lose_data &&
                   (guard->clears & data) && !(guard->bars_reading & data);
    enum cm_status status = CM_OK;
    if (!at_risk)
        return status;
    status = cm_check_blank(session, CM_REGION_DATA, NULL, NULL);
    if (status != CM_DIFFERS)
        return status;
    if (!carry->bytes || carry->size < region.bytes || !cm_may_carry(put))
        return cm_fail_at(session, CM_REFUSED, CM_STEP_CARRY, region.name,
                          session->failure.address);
    status = cm_read_twice(session, CM_REGION_DATA, 0, carry->bytes, region.bytes);
    if (!status && carry->saved)
        status = carry->saved(carry->context, CM_REGION_DATA, 0, carry->bytes, region.bytes);
    report->carried = status == CM_OK;
    return status;
}

static enum cm_status put_data_back(struct cm_session *session, const struct cm_put *put)
{
    struct cm_region region;
    cm_region(session, CM_REGION_DATA, &region);
    struct cm_memory memory = {.bytes = put->carry.bytes, .count = region.bytes};
    struct cm_want want = {CM_REGION_DATA, cm_memory_source(&memory)};
    struct cm_put back = {.wants = &want, .want_count = 1};
    struct cm_report report;
    return cm_put(session, &back, &report);
}

static enum cm_status unlock(struct cm_session *session, const struct cm_mint *mint,
                             struct cm_report *report)
{
    struct cm_progress progress = {CM_STEP_ERASE, "chip", 0, 1};
    struct cm_guard guard;
    enum cm_status status = cm_guard_look(session, &guard);
    if (!status)
        status = save_data(session, &mint->put, &guard, report);
    if (!status)
        status =
            cm_report_progress(session, mint->put.progress, mint->put.progress_context, &progress);
    return status ? status : cm_guard_lift(session, &guard, CM_LIFT_CONTENTS);
}

/* The byte with the clock alone at the old one: the others are written faster at the new. */
static enum cm_status write_early(struct cm_session *session, struct cm_mint_report *report)
{
    const struct cm_words *words = cm_words_of(session);
    const struct cm_mint_steps *steps = &report->steps;
    uint8_t with_clock[CM_SETTING_BYTES];
    enum cm_status status = CM_OK;
    memcpy(with_clock, steps->now, sizeof with_clock);
    for (uint8_t i = 0; steps->reenters && i < cm_setting_byte_count(words, session->part); i++) {
        if (words->clock_mask(session->part, i))
            with_clock[i] = steps->early[i];
    }
    if (steps->reenters)
        status = cm_write_setting_bytes(session, steps->now, with_clock, &report->settings_written);
    if (!status && steps->reenters)
        status = cm_reenter_at(session, steps->cpu_hz_then);
    return status ? status
                  : cm_write_setting_bytes(session, with_clock, steps->early,
                                           &report->settings_written);
}

/* The settings held back; the lock bits after all others, since they bar those. */
static enum cm_status write_late(struct cm_session *session, struct cm_mint_report *report)
{
    const struct cm_words *words = cm_words_of(session);
    const struct cm_mint_steps *steps = &report->steps;
    uint8_t open[CM_SETTING_BYTES];
    struct cm_setting_byte byte;
    memcpy(open, steps->late, sizeof open);
    for (uint8_t i = 0; words->byte(session->part, i, &byte); i++) {
        if (byte.only_falls)
            open[i] = steps->early[i];
    }
    enum cm_status status =
        cm_write_setting_bytes(session, steps->early, open, &report->settings_written);
    return status ? status
                  : cm_write_setting_bytes(session, open, steps->late, &report->settings_written);
}

/* The end of the job: the settings read once more, and a clock that changed last of all proven by
 * entering anew. */
static enum cm_status prove(struct cm_session *session, const struct cm_mint_report *report)
{
    const struct cm_words *words = cm_words_of(session);
    const struct cm_mint_steps *steps = &report->steps;
    uint8_t bytes[CM_SETTING_BYTES];
    struct cm_setting_byte byte;
    enum cm_status status = CM_OK;
    bool ends = cm_ends_access(words, session->part, steps->early, steps->late);
    if (!ends && cm_changes_clock(words, session->part, steps->early, steps->late))
        status = cm_reenter_at(session, words->cpu_hz(session->part, steps->late, 0));
    if (!status)
        status = cm_read_settings(session, bytes);
    for (uint8_t i = 0; !status && words->byte(session->part, i, &byte); i++) {
        if ((bytes[i] ^ steps->late[i]) & byte.named)
            status = cm_fail_byte(session, CM_WRITE_FAILED, CM_STEP_SETTINGS, byte.name,
                                  byte.address, steps->late[i], bytes[i]);
    }
    return status;
}

/* The images once more, after doubt behind them. What is beside them nobody knows, and behind lock
 * bits nothing. */
static enum cm_status look_again(struct cm_session *session, const struct cm_mint *mint,
                                 struct cm_mint_report *report)
{
    struct cm_guard guard;
    struct cm_report unused;
    report->put.doubted = true;
    enum cm_status status = cm_look_if_hidden(session, &guard);
    if (!status && guard.bars_reading)
        return cm_fail_at(session, CM_IN_DOUBT, CM_STEP_VERIFY, "chip", 0);
    for (uint8_t i = 0; !status && i < mint->put.want_count; i++)
        status = cm_compare(session, &mint->put.wants[i], NULL, NULL, NULL, &unused);
    if (status)
        return status == CM_DIFFERS ? cm_refine(session, CM_WRITE_FAILED) : status;
    struct cm_region region;
    struct cm_wanted wanted = cm_wanted_of(&mint->put);
    for (uint8_t i = 0; cm_region(session, i, &region) && (!status || status == CM_IN_DOUBT); i++) {
        if (!(region.traits & CM_REGION_SETTINGS)) // those have been read
            status = cm_doubt_unwanted(session, &wanted, i, &report->put);
    }
    return status;
}

/* A step that ends in doubt is gone on from; the job then ends so. */
static enum cm_status remember_doubt(enum cm_status status, bool *doubtful)
{
    *doubtful |= status == CM_IN_DOUBT;
    return status == CM_IN_DOUBT ? CM_OK : status;
}

enum cm_status cm_mint(struct cm_session *session, const struct cm_mint *mint,
                       struct cm_mint_report *report)
{
    memset(report, 0, sizeof *report);
    bool doubtful = false;
    uint32_t begun = cm_now_us(session);
    enum cm_status status = cm_mint_steps(session, mint, &report->steps);
    if (!status && report->steps.unlocks)
        status = unlock(session, mint, &report->put);
    if (!status)
        status = write_early(session, report);
    if (!status && report->put.carried)
        status = remember_doubt(put_data_back(session, &mint->put), &doubtful);
    bool carried = report->put.carried;
    if (!status && mint->put.want_count)
        status = remember_doubt(cm_put(session, &mint->put, &report->put), &doubtful);
    report->put.carried |= carried;
    if (!status)
        status = write_late(session, report);
    if (!status && report->settings_written)
        status = prove(session, report);
    if (!status && session->doubts)
        status = look_again(session, mint, report);
    session->doubts = 0; // told, by what it ends with
    if (!status && doubtful)
        status = cm_fail_at(session, CM_IN_DOUBT, CM_STEP_VERIFY, "chip", 0);
    report->actual_us = cm_now_us(session) - begun;
    return status;
}
