/*
 * The settings of a chip: reading them, what they say of its clock and its boot section, and the
 * careful way to change them. Their words are in words.c.
 */
#include "setting_stage.h"
#include "access.h"
#include <coldmint/job.h>
#include <coldmint/settings.h>
#include <string.h>

/* Are they in memory with an erase of its own, as option bytes are? */
static bool is_erasable(const struct cm_session *session, uint8_t region)
{
    struct cm_erase_unit unit;
    return cm_erase_unit(session, region, 0, &unit);
}

/* How many setting bytes from this one on lie one behind the other. */
static uint8_t run_of(const struct cm_words *words, const struct cm_part *part, uint8_t index,
                      const struct cm_setting_byte *first)
{
    struct cm_setting_byte next;
    uint8_t count = 1;
    while (words->byte(part, (uint8_t)(index + count), &next) && next.region == first->region &&
           next.address == first->address + count)
        count++;
    return count;
}

enum cm_status cm_read_settings(struct cm_session *session, uint8_t *bytes)
{
    const struct cm_words *words = cm_words_of(session);
    struct cm_setting_byte byte;
    memset(bytes, 0xFF, CM_SETTING_BYTES);
    if (!words || !session->part)
        return cm_fail(session, words ? CM_BAD_ARGUMENT : CM_PORT_LACKS, CM_STEP_SETTINGS);
    enum cm_status status = CM_OK;
    for (uint8_t i = 0, run; !status && words->byte(session->part, i, &byte);
         i = (uint8_t)(i + run)) {
        run = run_of(words, session->part, i, &byte);
        struct cm_access access = {
            CM_ACCESS_READ, byte.region, byte.address, {.in = &bytes[i]}, run};
        if (is_erasable(session, byte.region)) // it is read as memory is
            status = cm_read_twice(session, byte.region, byte.address, &bytes[i], run);
        else
            status = cm_access(session, &access);
    }
    return status;
}

enum cm_status cm_learn_clock(struct cm_session *session, uint32_t board_hz)
{
    const struct cm_words *words = cm_words_of(session);
    uint8_t bytes[CM_SETTING_BYTES];
    enum cm_status status = cm_require_part(session, CM_STEP_SETTINGS);
    if (status)
        return status;
    if (!words)
        return cm_fail(session, CM_PORT_LACKS, CM_STEP_SETTINGS);
    if (session->cpu_hz)
        return CM_OK;
    status = cm_read_settings(session, bytes);
    if (status)
        return status;
    uint32_t own_hz = words->cpu_hz(session->part, bytes, 0), hz = own_hz / 10 * 9;
    if (own_hz == 0)
        hz = words->cpu_hz(session->part, bytes, board_hz);
    if (hz / 6 <= session->clock_hz)
        return CM_OK;
    session->cpu_hz = hz;
    session->clock_hz = 0;
    return cm_find_chip(session);
}

enum cm_status cm_find_boot(struct cm_session *session, struct cm_boot *boot)
{
    const struct cm_words *words = cm_words_of(session);
    struct cm_guard guard;
    struct cm_region region;
    uint8_t bytes[CM_SETTING_BYTES], chunk[32];
    memset(boot, 0, sizeof *boot);
    if (!words || !cm_region(session, CM_REGION_MAIN, &region))
        return CM_OK;
    enum cm_status status = cm_read_settings(session, bytes);
    boot->bytes = status ? 0 : words->boot_bytes(session->part, bytes);
    if (boot->bytes == 0)
        return status;
    boot->start = region.bytes - boot->bytes;
    status = cm_look_if_hidden(session, &guard);
    boot->readable = !(guard.bars_reading & CM_REGION_BIT(CM_REGION_MAIN));
    boot->in_use = !boot->readable;
    for (uint32_t at = boot->start; !status && !boot->in_use && at < region.bytes;
         at += sizeof chunk) {
        struct cm_access access = {CM_ACCESS_READ, CM_REGION_MAIN, at, {.in = chunk}, sizeof chunk};
        status = cm_access(session, &access);
        for (uint8_t i = 0; !status && i < sizeof chunk; i++)
            boot->in_use |= chunk[i] != region.erased;
    }
    return status;
}

/* The setting bytes of a region, as a source. */
struct in_region {
    const struct cm_words *words;
    const struct cm_part *part;
    uint8_t region;
    uint8_t bytes[CM_SETTING_BYTES];
};

static bool extent_in_region(void *context, uint32_t from, uint32_t *start, uint32_t *count)
{
    const struct in_region *in = context;
    struct cm_setting_byte byte;
    *count = 0;
    for (uint8_t i = 0; in->words->byte(in->part, i, &byte); i++) {
        bool is_next = byte.region == in->region && byte.address >= from &&
                       (*count == 0 || byte.address < *start);
        if (!is_next)
            continue;
        *start = byte.address;
        *count = run_of(in->words, in->part, i, &byte);
    }
    return *count > 0;
}

static enum cm_status read_in_region(void *context, uint32_t address, uint8_t *bytes,
                                     uint32_t count)
{
    const struct in_region *in = context;
    struct cm_setting_byte byte;
    for (uint8_t i = 0; in->words->byte(in->part, i, &byte); i++) {
        if (byte.region == in->region && byte.address - address < count)
            bytes[byte.address - address] = in->bytes[i];
    }
    return CM_OK;
}

/* Settings in a region with an erase of its own are put there as contents are. Reserved bits stay
 * as they were read. */
static enum cm_status put_region(struct cm_session *session, uint8_t region, const uint8_t *now,
                                 const uint8_t *wanted, uint8_t *written)
{
    struct in_region in = {cm_words_of(session), session->part, region, {0}};
    struct cm_setting_byte byte;
    uint8_t changed = 0;
    for (uint8_t i = 0; in.words->byte(in.part, i, &byte); i++) {
        uint8_t bits = byte.region == region ? byte.named : 0;
        in.bytes[i] = (uint8_t)((now[i] & ~bits) | (wanted[i] & bits));
        changed = (uint8_t)(changed + (in.bytes[i] != now[i]));
    }
    if (changed == 0)
        return CM_OK;
    struct cm_want want = {region, {&in, extent_in_region, read_in_region}};
    struct cm_put put = {.wants = &want, .want_count = 1, .carry.in_memory = true};
    struct cm_report report;
    enum cm_status status = cm_put(session, &put, &report);
    *written = (uint8_t)(*written + (status ? 0 : changed));
    return status;
}

static enum cm_status put_regions(struct cm_session *session, const uint8_t *now,
                                  const uint8_t *wanted, uint8_t *written)
{
    struct cm_region region;
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; !status && cm_region(session, i, &region); i++) {
        if ((region.traits & CM_REGION_SETTINGS) && is_erasable(session, i))
            status = put_region(session, i, now, wanted, written);
    }
    return status;
}

/* Writes the bytes that differ, those with the clock last: if contact goes in between, the chip
 * still runs as it did. */
enum cm_status cm_write_setting_bytes(struct cm_session *session, const uint8_t *now,
                                      const uint8_t *wanted, uint8_t *written)
{
    const struct cm_words *words = cm_words_of(session);
    struct cm_setting_byte byte;
    enum cm_status status = put_regions(session, now, wanted, written);
    for (uint8_t pass = 0; pass < 2; pass++) {
        for (uint8_t i = 0; !status && words->byte(session->part, i, &byte); i++) {
            uint8_t changed = (uint8_t)((now[i] ^ wanted[i]) & byte.named),
                    bits = (uint8_t)(now[i] ^ changed); // reserved ones as read
            bool has_clock = words->clock_mask(session->part, i) != 0;
            if (!changed || has_clock != (pass == 1) || is_erasable(session, byte.region))
                continue;
            struct cm_access access = {CM_ACCESS_PROGRAM, byte.region, byte.address, {&bits}, 1};
            status = cm_access(session, &access);
            *written = (uint8_t)(*written + (status == CM_OK));
        }
    }
    return status;
}

bool cm_changes_clock(const struct cm_words *words, const struct cm_part *part, const uint8_t *now,
                      const uint8_t *wanted)
{
    for (uint8_t i = 0; i < cm_setting_byte_count(words, part); i++) {
        if ((now[i] ^ wanted[i]) & words->clock_mask(part, i))
            return true;
    }
    return false;
}

enum cm_status cm_reenter_at(struct cm_session *session, uint32_t cpu_hz)
{
    session->cpu_hz = cpu_hz;
    session->clock_hz = 0;
    enum cm_status status = cm_find_chip(session);
    if (status || cpu_hz == 0 || session->clock_hz > cpu_hz / 8)
        return status;
    session->cpu_hz =
        cpu_hz / 10 * 9; // it answers slowly only: an internal oscillator may be a tenth off
    session->clock_hz = 0;
    return cm_find_chip(session);
}

bool cm_ends_access(const struct cm_words *words, const struct cm_part *part, const uint8_t *now,
                    const uint8_t *wanted)
{
    struct cm_fence fence;
    for (uint8_t i = 0; cm_next_fence(words, part, now, wanted, i, &fence);
         i = (uint8_t)(fence.index + 1)) {
        if (fence.kind == CM_FENCE_ENDS_ACCESS)
            return true;
    }
    return false;
}

bool cm_settings_barred(const struct cm_words *words, const struct cm_part *part,
                        const struct cm_guard *guard, const uint8_t *now, const uint8_t *wanted,
                        struct cm_setting_byte *byte)
{
    for (uint8_t i = 0; words->byte(part, i, byte); i++) {
        uint8_t changed = (uint8_t)((now[i] ^ wanted[i]) & byte->named);
        bool is_barred = guard->bars_writing & CM_REGION_BIT(byte->region);
        if (byte->only_falls ? (changed & wanted[i]) != 0 : changed && is_barred)
            return true;
    }
    return false;
}

static enum cm_status check_open(struct cm_session *session, const uint8_t *now,
                                 const uint8_t *wanted)
{
    struct cm_guard guard;
    struct cm_setting_byte byte;
    enum cm_status status = cm_guard_look(session, &guard);
    if (status ||
        !cm_settings_barred(cm_words_of(session), session->part, &guard, now, wanted, &byte))
        return status;
    return cm_fail_byte(session, CM_PROTECTED, CM_STEP_SETTINGS, byte.name, byte.address,
                        guard.open, guard.registers[0]);
}

/* Parts that share an id may have other fuses: which of them it is must be said. */
enum cm_status cm_check_masks(struct cm_session *session)
{
    const struct cm_words *words = cm_words_of(session);
    struct cm_setting_byte mine, its;
    const struct cm_part *other;
    for (uint16_t n = 0;
         words && session->part && !session->asserted && (other = cm_candidate(session, n)) != NULL;
         n++) {
        for (uint8_t i = 0; words->byte(session->part, i, &mine); i++) {
            if (!words->byte(other, i, &its) || its.named != mine.named)
                return cm_fail_at(session, CM_REFUSED, CM_STEP_SETTINGS, mine.name, mine.address);
        }
    }
    return CM_OK;
}

enum cm_status cm_tune(struct cm_session *session, const uint8_t *wanted,
                       struct cm_tune_report *report)
{
    memset(report, 0, sizeof *report);
    enum cm_status status = cm_check_masks(session);
    if (!status)
        status = cm_read_settings(session, report->before);
    memcpy(report->after, report->before, sizeof report->after);
    if (!status)
        status = cm_check_supply(session);
    if (!status)
        status = check_open(session, report->before, wanted);
    if (!status)
        status = cm_write_setting_bytes(session, report->before, wanted, &report->written);
    if (status)
        return status;
    const struct cm_words *words = cm_words_of(session);
    report->cpu_hz = words->cpu_hz(session->part, wanted, 0);
    bool goes_on = !cm_ends_access(words, session->part, report->before, wanted);
    if (goes_on && cm_changes_clock(words, session->part, report->before, wanted)) {
        report->reentered = true;
        status = cm_reenter_at(session, report->cpu_hz);
    }
    if (!status)
        status = cm_read_settings(session, report->after);
    bool doubtful = !status && session->doubts; // nobody looks at the contents here
    session->doubts = 0;                        // told, by what it ends with
    return doubtful ? cm_fail(session, CM_IN_DOUBT, CM_STEP_SETTINGS) : status;
}
