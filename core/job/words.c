/*
 * Settings in words, without a chip: values, words, choices, fences. For any family.
 *
 * A setting's bits are packed: bit by bit from the lowest bit of its mask up. So CKSEL3..0 = 0010
 * is the value 2 wherever the field lies.
 */
#include "session.h"
#include <coldmint/settings.h>
#include <string.h>

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
