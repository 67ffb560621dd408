/*
 * Texts that a file holds.
 *
 * Code has printable runs by chance: short ones, with letters, digits and signs in any order. What
 * was written to be read has words: letters of one case that follow one another, vowels among them,
 * and blanks between. Each of these counts; the sum is the score.
 */
#include "texts.h"
#include <ctype.h>
#include <string.h>

static bool is_vowel(char c)
{
    return c && strchr("aeiouyAEIOUY", c) != NULL;
}

/* What one word is worth: nothing without a vowel, less where its case changes inside. */
static int score_word(const char *word, size_t length)
{
    enum { LEAST = 3, LETTER = 2, CHANGE = 5 };
    unsigned vowels = 0, changes = 0;
    for (size_t i = 0; i < length; i++) {
        vowels += is_vowel(word[i]);
        bool is_upper = isupper((unsigned char)word[i]) != 0;
        changes += i && is_upper != (isupper((unsigned char)word[i - 1]) != 0) &&
                   (i > 1 || is_upper); // one capital may begin a word
    }
    if (length < LEAST)
        return 0;
    int score = vowels && vowels < length ? (int)length * LETTER : -(int)length;
    return score - (int)changes * CHANGE;
}

static int score_of(const char *text)
{
    enum { SIGN = 2 };
    int score = 0;
    for (size_t length; *text; text += length) {
        length = 0;
        while (isalpha((unsigned char)text[length]))
            length++;
        if (length) {
            score += score_word(text, length);
            continue;
        }
        length = 1;
        if (!isdigit((unsigned char)*text) && !strchr(" .,:'-()/!", *text))
            score -= SIGN;
    }
    return score;
}

static void end_run(struct texts *texts, struct text_run *run)
{
    if (run->text.length >= texts->least) {
        run->text.score = score_of(run->text.text);
        texts->found(texts->context, &run->text);
    }
    run->text.length = 0;
    run->wants_0 = false;
}

static void add(struct text_run *run, uint32_t address, uint8_t byte)
{
    struct text *text = &run->text;
    if (!text->length)
        text->at = address;
    if (text->length < TEXT_ROOM) {
        text->text[text->length] = (char)byte;
        text->text[text->length + 1] = '\0';
    }
    text->length++;
}

static bool is_printable(uint8_t byte)
{
    return byte >= ' ' && byte < 0x7F;
}

static void take_plain(struct texts *texts, uint32_t address, uint8_t byte)
{
    if (is_printable(byte))
        add(&texts->plain, address, byte);
    else if (texts->plain.text.length)
        end_run(texts, &texts->plain);
}

/* The last character has no zero behind it: either the zeros came before each, the high byte first;
 * or it is none of these. */
static void end_wide(struct texts *texts, struct text_run *run)
{
    struct text *text = &run->text;
    if (run->had_0) {
        text->at--;
    } else {
        text->length--;
        if (text->length < TEXT_ROOM)
            text->text[text->length] = '\0';
    }
    end_run(texts, run);
}

/* A character, a zero, a character, a zero. */
static void take_wide(struct texts *texts, uint32_t address, uint8_t byte)
{
    struct text_run *run = &texts->wide;
    run->text.is_wide = true;
    if (run->wants_0 && byte == 0) {
        run->wants_0 = false;
        return;
    }
    if (run->wants_0)
        end_wide(texts, run);
    if (is_printable(byte)) {
        run->had_0 = run->text.length ? run->had_0 : texts->was_0;
        add(run, address, byte);
        run->wants_0 = true;
    } else if (run->text.length) {
        end_run(texts, run);
    }
}

void texts_take(struct texts *texts, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    if (texts->next != address)
        texts_end(texts);
    for (uint32_t i = 0; i < count; i++) {
        take_plain(texts, address + i, bytes[i]);
        take_wide(texts, address + i, bytes[i]);
        texts->was_0 = bytes[i] == 0;
    }
    texts->next = (uint64_t)address + count;
}

void texts_end(struct texts *texts)
{
    end_run(texts, &texts->plain);
    if (texts->wide.wants_0)
        end_wide(texts, &texts->wide);
    else
        end_run(texts, &texts->wide);
    texts->was_0 = false;
}

void text_list_add(struct text_list *list, const struct text *text)
{
    unsigned at = list->count;
    while (at && list->texts[at - 1].score < text->score)
        at--;
    list->left_out += list->count == list->room;
    if (at == list->room)
        return;
    list->count += list->count < list->room;
    memmove(&list->texts[at + 1], &list->texts[at], (list->count - 1 - at) * sizeof list->texts[0]);
    list->texts[at] = *text;
}
