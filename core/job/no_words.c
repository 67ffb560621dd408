/*
 * Words of chips that have no settings, and those parts of them that memories have not.
 */
#include "no_words.h"

uint32_t cm_no_cpu_hz(const struct cm_part *part, const uint8_t *bytes, uint32_t board_hz)
{
    (void)part, (void)bytes, (void)board_hz;
    return 0;
}

uint8_t cm_no_clock_mask(const struct cm_part *part, uint8_t byte)
{
    (void)part, (void)byte;
    return 0;
}

uint16_t cm_no_brown_out_mv(const struct cm_part *part, const uint8_t *bytes)
{
    (void)part, (void)bytes;
    return 0;
}

uint32_t cm_no_boot_bytes(const struct cm_part *part, const uint8_t *bytes)
{
    (void)part, (void)bytes;
    return 0;
}

static bool no_byte(const struct cm_part *part, uint8_t index, struct cm_setting_byte *out)
{
    (void)part, (void)index, (void)out;
    return false;
}

static bool no_setting(const struct cm_part *part, const uint8_t *bytes, uint8_t index,
                       struct cm_setting *out)
{
    (void)part, (void)bytes, (void)index, (void)out;
    return false;
}

static uint32_t no_write_us(const struct cm_part *part)
{
    (void)part;
    return 0;
}

const struct cm_words cm_no_words = {
    .byte = no_byte,
    .setting = no_setting,
    .cpu_hz = cm_no_cpu_hz,
    .clock_mask = cm_no_clock_mask,
    .brown_out_mv = cm_no_brown_out_mv,
    .boot_bytes = cm_no_boot_bytes,
    .write_us = no_write_us,
};
