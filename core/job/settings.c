/*
 * Settings in words, for any family: values, words, fences, and the careful way to change them on a
 * chip.
 *
 * A setting's bits are packed: bit by bit from the lowest bit of its mask up. So CKSEL3..0 = 0010
 * is the value 2 wherever the field lies.
 */
#include "access.h"
#include "setting_stage.h"
#include <coldmint/job.h>
#include <coldmint/settings.h>
#include <string.h>

/* --- without a chip ---------------------------------------------------------------------- */

const struct cm_words *cm_words_of(const struct cm_session *session)
{
    for (uint8_t k = 0; k < session->kit_count; k++) {
        if (session->kits[k].family == session->family && session->kits[k].words)
            return session->kits[k].words;
    }
    return NULL;
}

uint8_t cm_setting_byte_count(const struct cm_words *words, const struct cm_part *part)
{
    struct cm_setting_byte byte;
    uint8_t count = 0;
    while (count < CM_SETTING_BYTES && words->byte(part, count, &byte))
        count++;
    return count;
}

uint8_t cm_setting_width(const struct cm_setting *setting)
{
    uint8_t bits = 0;
    for (uint32_t mask = setting->mask; mask; mask &= mask - 1)
        bits++;
    return bits;
}

uint32_t cm_setting_value(const struct cm_setting *setting, const uint8_t *bytes)
{
    uint32_t value = 0;
    uint8_t at = 0;
    for (uint8_t bit = 0; bit < 32; bit++) {
        if (setting->mask >> bit & 1)
            value |= (uint32_t)(bytes[setting->byte + bit / 8] >> bit % 8 & 1) << at++;
    }
    return value;
}

void cm_set_setting(const struct cm_setting *setting, uint8_t *bytes, uint32_t value)
{
    for (uint8_t bit = 0; bit < 32; bit++) {
        if (!(setting->mask >> bit & 1))
            continue;
        uint8_t *byte = &bytes[setting->byte + bit / 8];
        *byte = (uint8_t)((*byte & ~(1u << bit % 8)) | (value & 1) << bit % 8);
        value >>= 1;
    }
}

const struct cm_choice *cm_setting_choice(const struct cm_setting *setting, uint32_t value)
{
    for (const struct cm_choice *const *table = setting->choices; table && *table; table++) {
        for (const struct cm_choice *choice = *table; choice->word; choice++) {
            if (choice->value == value)
                return choice;
        }
    }
    return NULL;
}

/* A value without a word: its bits, or of a wide setting its digits. */
static const char BITS[] = "bits-", DIGITS[] = "0x";
enum { NARROW = 8, BITS_A_DIGIT = 4 };

static uint8_t copy_text(char *text, const char *from)
{
    uint8_t at = 0;
    while (at < CM_WORD_BYTES - 1 && *from)
        text[at++] = *from++;
    text[at] = '\0';
    return at;
}

static void write_number(const struct cm_setting *setting, uint32_t value, char *text)
{
    uint8_t left = cm_setting_width(setting), step = left > NARROW ? BITS_A_DIGIT : 1;
    uint8_t at = copy_text(text, left > NARROW ? DIGITS : BITS);
    while (left > 0) {
        uint8_t odd = left % step; // the first digit may have fewer bits
        left = (uint8_t)(left - (odd ? odd : step));
        text[at++] = "0123456789ABCDEF"[value >> left & ((1u << step) - 1)];
    }
    text[at] = '\0';
}

const char *cm_setting_word(const struct cm_setting *setting, uint32_t value, char *text)
{
    const struct cm_choice *choice = cm_setting_choice(setting, value);
    if (choice)
        copy_text(text, choice->word);
    else
        write_number(setting, value, text);
    return text;
}

/* Parts share tables of choices: a narrow field has only those that fit. */
static bool fits(const struct cm_setting *setting, uint32_t value)
{
    uint8_t width = cm_setting_width(setting);
    return width == 32 || value >> width == 0;
}

/* The number behind a prefix, in digits of so many bits. Returns how many digits; 0 where there is
 * anything else. */
static uint8_t read_digits(const char *text, const char *prefix, uint8_t step, uint32_t *value)
{
    uint8_t digits = 0;
    *value = 0;
    for (; *prefix; prefix++) {
        if (*text++ != *prefix)
            return 0;
    }
    for (; *text; text++) {
        uint32_t decimal = (uint32_t)(*text - '0'), letter = (uint32_t)((*text | 0x20) - 'a');
        uint32_t digit = letter < 6 ? letter + 10 : decimal;
        if (digit >= 1u << step || (letter >= 6 && decimal > 9) || *value >> (32 - step))
            return 0;
        *value = *value << step | digit;
        digits++;
    }
    return digits;
}

/* The value that a word stands for, "bits-0101" and "0x1F" included. */
static bool value_of(const struct cm_setting *setting, const char *word, uint32_t *value)
{
    for (const struct cm_choice *const *table = setting->choices; table && *table; table++) {
        for (const struct cm_choice *choice = *table; choice->word; choice++) {
            *value = choice->value;
            if (fits(setting, *value) && cm_is_same_text(choice->word, word) &&
                cm_setting_choice(setting, *value) == choice)
                return true;
        }
    }
    if (read_digits(word, BITS, 1, value) == cm_setting_width(setting))
        return true;
    return read_digits(word, DIGITS, 4, value) && fits(setting, *value);
}

bool cm_setting_by_name(const struct cm_words *words, const struct cm_part *part,
                        const uint8_t *bytes, const char *name, struct cm_setting *out)
{
    for (uint8_t i = 0; words->setting(part, bytes, i, out); i++) {
        if (cm_is_same_text(out->name, name))
            return true;
    }
    return false;
}

/* The value whose word is the same as that of a choice of another table; else the last that has a
 * name. */
static uint32_t counterpart(const struct cm_setting *setting, const struct cm_choice *choice)
{
    uint32_t last = 0;
    for (const struct cm_choice *const *table = setting->choices; table && *table; table++) {
        for (const struct cm_choice *own = *table; own->word; own++) {
            if (!fits(setting, own->value))
                continue;
            if (choice && cm_is_same_text(own->word, choice->word))
                return own->value;
            last = own->value > last ? own->value : last;
        }
    }
    return last;
}

/* What a value means may hang on another setting, as start-up bits do on the clock: with another
 * table the word is kept, not the bits. */
static void settle_dependents(const struct cm_words *words, const struct cm_part *part,
                              const uint8_t *before, uint8_t *bytes)
{
    struct cm_setting old, now;
    for (uint8_t i = 0;
         words->setting(part, bytes, i, &now) && words->setting(part, before, i, &old); i++) {
        if (old.choices != now.choices && now.choices)
            cm_set_setting(
                &now, bytes,
                counterpart(&now, cm_setting_choice(&old, cm_setting_value(&old, before))));
    }
}

enum cm_status cm_choose(const struct cm_words *words, const struct cm_part *part, uint8_t *bytes,
                         const char *name, const char *word)
{
    struct cm_setting setting;
    uint32_t value;
    uint8_t before[CM_SETTING_BYTES];
    if (!cm_setting_by_name(words, part, bytes, name, &setting))
        return CM_BAD_ARGUMENT;
    if (!value_of(&setting, word, &value))
        return CM_DIFFERS;
    memcpy(before, bytes, sizeof before);
    cm_set_setting(&setting, bytes, value);
    settle_dependents(words, part, before, bytes);
    return CM_OK;
}

static enum cm_fence_kind fence_of(const struct cm_setting *setting, bool only_falls,
                                   uint32_t before, uint32_t after)
{
    const struct cm_choice *from = cm_setting_choice(setting, before),
                           *to = cm_setting_choice(setting, after);
    if (before == after)
        return CM_FENCE_NONE;
    if (only_falls && (after & ~before))
        return CM_FENCE_OPENS;
    if (from && from->fence == CM_FENCE_NOT_HERE)
        return CM_FENCE_NOT_HERE;
    if (!to)
        return CM_FENCE_UNNAMED;
    if (to->fence == CM_FENCE_SOURCE && from && from->source == to->source)
        return CM_FENCE_NONE; // it is there: the chip runs on it
    return (enum cm_fence_kind)to->fence;
}

bool cm_next_fence(const struct cm_words *words, const struct cm_part *part, const uint8_t *before,
                   const uint8_t *after, uint8_t from, struct cm_fence *fence)
{
    struct cm_setting_byte byte;
    for (uint8_t i = from; words->setting(part, after, i, &fence->setting); i++) {
        const struct cm_setting *setting = &fence->setting;
        words->byte(part, setting->byte, &byte);
        fence->index = i;
        fence->value = cm_setting_value(setting, after);
        fence->kind =
            fence_of(setting, byte.only_falls, cm_setting_value(setting, before), fence->value);
        if (fence->kind != CM_FENCE_NONE)
            return true;
    }
    return false;
}

/* --- with a chip ------------------------------------------------------------------------- */

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
