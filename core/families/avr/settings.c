/*
 * From a part's row to its settings: which fields the names of its fuse bits tell of, where they
 * lie, and which tables read them.
 *
 * A field is known by the stem of its bits' names: CKSEL0 to CKSEL3 are CKSEL. So the rows say all
 * there is to say of a part.
 */
#include "setting_tables.h"

/* Is the bit's name at `at` the stem, and a digit or none behind it? */
static bool is_of_field(const char *at, const char *stem)
{
    while (*stem && *at == *stem) {
        at++;
        stem++;
    }
    if (*stem)
        return false;
    if (*at >= '0' && *at <= '9')
        at++;
    return *at == '\0' || *at == ' ';
}

static uint8_t mask_in(const char *names, const char *stem)
{
    uint8_t mask = 0;
    for (uint8_t bit = 0; bit < 8 && *names; bit++) {
        if (is_of_field(names, stem))
            mask |= (uint8_t)(1u << bit);
        while (*names && *names != ' ')
            names++;
        names += *names == ' ';
    }
    return mask;
}

/* Where a field lies in a part; mask 0 where the part has none. */
static uint8_t find(const struct cm_avr_part *row, const char *stem, uint8_t *byte)
{
    for (*byte = 0; *byte < row->fuse_bytes; ++*byte) {
        uint8_t mask = mask_in(row->fuse_bits[*byte], stem);
        if (mask)
            return mask;
    }
    return 0;
}

static const struct cm_choice *const *boot_sizes(const struct cm_avr_part *row)
{
    uint8_t i = 0;
    while (i < 3 && 1024u << i < row->boot_max_bytes)
        i++;
    return cm_avr_boot_choices[i];
}

static const struct cm_choice *const *brown_outs(const struct cm_avr_part *row,
                                                 const struct cm_setting *level)
{
    uint8_t bits = cm_setting_width(level);
    return bits == 1   ? cm_avr_level_1_bit
           : bits == 2 ? cm_avr_level_2_bits
                       : cm_avr_level_choices[row->brown_out];
}

static const struct cm_choice *clock_choice(const struct cm_avr_part *row, const uint8_t *bytes);

/* What SUT means hangs on the clock. The battery parts have one table; a clock without a name has
 * none. */
static const struct cm_choice *const *starts(const struct cm_avr_part *row, const uint8_t *bytes)
{
    uint8_t byte, pll = find(row, "PLLCK", &byte);
    if (pll && !(bytes[byte] & pll))
        return cm_avr_start_choices[START_PLL_26];
    if (row->clock == CM_AVR_CLOCK_BATTERY)
        return cm_avr_start_choices[START_BATTERY];
    const struct cm_choice *clock = clock_choice(row, bytes);
    return clock ? cm_avr_start_choices[clock->start] : NULL;
}

static void describe(const struct cm_avr_part *row, const uint8_t *bytes,
                     const struct cm_avr_field *field, struct cm_setting *out)
{
    out->name = field->name;
    out->bits = field->stem;
    out->choices = field->choices;
    if (out->choices)
        return;
    if (field->stem[0] == 'S') // SUT
        out->choices = starts(row, bytes);
    else if (field->stem[0] == 'B') // BODLEVEL, BOOTSZ
        out->choices = field->stem[2] == 'D' ? brown_outs(row, out) : boot_sizes(row);
    else
        out->choices = cm_avr_clock_choices[row->clock];
}

static bool lock_setting(const struct cm_avr_part *row, uint8_t index, struct cm_setting *out)
{
    if (!row->fuse_bytes || index >= (row->boot_max_bytes ? CM_AVR_LOCK_FIELDS : 1))
        return false;
    *out = cm_avr_lock_settings[index];
    out->byte = row->fuse_bytes;
    return true;
}

static bool setting(const struct cm_part *part, const uint8_t *bytes, uint8_t index,
                    struct cm_setting *out)
{
    const struct cm_avr_part *row = cm_avr_row(part);
    for (uint8_t i = 0; i < CM_AVR_FIELD_COUNT; i++) {
        out->mask = find(row, cm_avr_fields[i].stem, &out->byte);
        if (!out->mask || index-- != 0)
            continue;
        describe(row, bytes, &cm_avr_fields[i], out);
        return true;
    }
    return lock_setting(row, index, out);
}

static bool setting_byte(const struct cm_part *part, uint8_t index, struct cm_setting_byte *out)
{
    static const char *const NAMES[] = {"low fuse", "high fuse", "extended fuse"};
    const struct cm_avr_part *row = cm_avr_row(part);
    if (!row->fuse_bytes || index > row->fuse_bytes)
        return false;
    if (index < row->fuse_bytes) {
        *out = (struct cm_setting_byte){NAMES[index], CM_AVR_FUSES, index, row->fuse_mask[index],
                                        false};
        return true;
    }
    *out = (struct cm_setting_byte){"lock byte", CM_AVR_LOCK, 0, row->boot_max_bytes ? 0x3F : 0x03,
                                    true};
    return true;
}

/* The choice that a field of the bytes stands at; NULL where the part lacks the field or the value
 * has no name. */
static const struct cm_choice *choice_at(const struct cm_avr_part *row, const uint8_t *bytes,
                                         const char *stem)
{
    struct cm_setting found;
    found.mask = find(row, stem, &found.byte);
    for (uint8_t i = 0; found.mask && i < CM_AVR_FIELD_COUNT; i++) {
        if (cm_avr_fields[i].stem[0] != stem[0] || mask_in(cm_avr_fields[i].stem, stem) == 0)
            continue;
        describe(row, bytes, &cm_avr_fields[i], &found);
        return cm_setting_choice(&found, cm_setting_value(&found, bytes));
    }
    return NULL;
}

static const struct cm_choice *clock_choice(const struct cm_avr_part *row, const uint8_t *bytes)
{
    return choice_at(row, bytes, "CKSEL");
}

static bool is_programmed(const struct cm_avr_part *row, const uint8_t *bytes, const char *stem)
{
    uint8_t byte, mask = find(row, stem, &byte);
    return mask && !(bytes[byte] & mask);
}

static uint32_t cpu_hz(const struct cm_part *part, const uint8_t *bytes, uint32_t board_hz)
{
    const struct cm_avr_part *row = cm_avr_row(part);
    const struct cm_choice *clock = clock_choice(row, bytes);
    bool is_boards = clock && clock->amount == 0;
    uint32_t hz = is_boards ? board_hz : clock ? clock->amount : 0;
    if (is_programmed(row, bytes, "PLLCK"))
        hz = 16000000; // the PLL's
    return is_programmed(row, bytes, "CKDIV") ? hz / 8 : hz;
}

static uint8_t clock_mask(const struct cm_part *part, uint8_t byte)
{
    static const char *const STEMS[] = {"CKSEL", "OSCSEL", "CKDIV", "PLLCK", "CKOPT"};
    const struct cm_avr_part *row = cm_avr_row(part);
    uint8_t mask = 0;
    for (uint8_t i = 0; byte < row->fuse_bytes && i < sizeof STEMS / sizeof STEMS[0]; i++)
        mask |= mask_in(row->fuse_bits[byte], STEMS[i]);
    return mask;
}

static uint16_t brown_out_mv(const struct cm_part *part, const uint8_t *bytes)
{
    const struct cm_avr_part *row = cm_avr_row(part);
    const struct cm_choice *level = choice_at(row, bytes, "BODLEVEL"),
                           *mode = choice_at(row, bytes, "BODACT");
    uint8_t byte;
    bool off = (find(row, "BODEN", &byte) && !is_programmed(row, bytes, "BODEN")) ||
               (mode && mode->value == 3);
    return level && !off ? (uint16_t)level->amount : 0;
}

static uint32_t boot_bytes(const struct cm_part *part, const uint8_t *bytes)
{
    const struct cm_avr_part *row = cm_avr_row(part);
    const struct cm_choice *size = choice_at(row, bytes, "BOOTSZ");
    return size && row->boot_max_bytes && is_programmed(row, bytes, "BOOTRST") ? size->amount : 0;
}

static uint32_t write_us(const struct cm_part *part)
{
    return cm_avr_row(part)->times->t_wd_fuse_us;
}

const struct cm_words cm_avr_words = {
    .byte = setting_byte,
    .setting = setting,
    .cpu_hz = cpu_hz,
    .clock_mask = clock_mask,
    .brown_out_mv = brown_out_mv,
    .boot_bytes = boot_bytes,
    .write_us = write_us,
    .reenter_us = 20300, // reset pulses, and 20 ms before the first instruction
};
