/*
 * Facts of the AVR parts that are not in avr-libc's headers: times, and how a row's fuse bits are found by name.
 *
 * Times are the data sheets' "minimum wait delay before writing the next flash or EEPROM location", t_WD. Where the siblings of
 * a row, or two revisions of one sheet, differ, the longest stands here: waiting longer only costs time, and parts that can be
 * polled say themselves when they are ready.
 */
#include "parts.h"
#include <string.h>

// AT90S and the first ATtiny: given by supply, 9 ms and 18 ms at 3.2 V, less above; a third more for supplies below that.
const struct cm_avr_times cm_avr_times_classic = {
    .t_wd_flash_us = 12000, .t_wd_eeprom_us = 12000, .t_wd_fuse_us = 12000, .t_wd_erase_us = 24000};

// ATmega103: table "Minimum wait delay", 3.2 V column.
const struct cm_avr_times cm_avr_times_mega103 = {
    .t_wd_flash_us = 56000, .t_wd_eeprom_us = 9000, .t_wd_fuse_us = 9000, .t_wd_erase_us = 112000};

// ATmega161, 163, 323: we hold no two sheets that agree (11 to 22 ms a page, 28 ms an erase): the longer, doubled for the erase.
const struct cm_avr_times cm_avr_times_early_paged = {
    .t_wd_flash_us = 22000, .t_wd_eeprom_us = 11000, .t_wd_fuse_us = 11000, .t_wd_erase_us = 56000};

// ATmega8 to 128, 8515, 8535, 162, ATtiny26. ATmega64 and 128 have 5.0 ms for a page in their early sheets.
const struct cm_avr_times cm_avr_times_paged = {
    .t_wd_flash_us = 5000, .t_wd_eeprom_us = 9000, .t_wd_fuse_us = 5000, .t_wd_erase_us = 10000};

// All later ones. 4.5 ms a page, 3.6 to 9.0 ms an EEPROM write, 9.0 ms an erase (10.5 ms in late sheets).
const struct cm_avr_times cm_avr_times_polled = {
    .t_wd_flash_us = 4500, .t_wd_eeprom_us = 9000, .t_wd_fuse_us = 4500, .t_wd_erase_us = 10500};

/* Length of the word at `text`; the words of a row are separated by one blank. */
static size_t word_length(const char *text)
{
    size_t length = 0;
    while (text[length] && text[length] != ' ')
        length++;
    return length;
}

static const char *next_word(const char *text)
{
    text += word_length(text);
    return *text ? text + 1 : text;
}

uint8_t cm_avr_fuse_mask(const struct cm_avr_part *part, uint8_t index)
{
    uint8_t mask = 0;
    const char *word = part->fuse_bits[index];
    for (uint8_t bit = 1; bit && *word; bit = (uint8_t)(bit << 1), word = next_word(word)) {
        if (*word != '-')
            mask |= bit;
    }
    return mask;
}

bool cm_avr_fuse_bit(const struct cm_avr_part *part, const char *name, uint8_t *index, uint8_t *mask)
{
    size_t length = word_length(name);
    for (*index = 0; *index < part->fuse_bytes; (*index)++) {
        const char *word = part->fuse_bits[*index];
        for (*mask = 1; *mask && *word; *mask = (uint8_t)(*mask << 1), word = next_word(word)) {
            if (word_length(word) == length && memcmp(word, name, length) == 0)
                return true;
        }
    }
    return false;
}
