/*
 * The status registers of SPI memories as settings in words. Which area the protection bits mean is
 * guard.c's; here each field stands by itself.
 *
 * Bits that no field names (quad enable, driver strength, one-time bits) are a setting of their own
 * for each register, shown as bits, and changed only where that is asked for by name.
 */
#include "../../job/no_words.h"
#include "nor.h"
#include <coldmint/settings.h>
#include <string.h>

static const struct cm_choice ENDS[] = {
    {.value = 0, .word = "upper"}, {.value = 1, .word = "lower"}, {.word = NULL}};
static const struct cm_choice UNITS[] = {
    {.value = 0, .word = "blocks"},
    {.value = 1, .word = "sectors", .means = "units of 4 KiB, 32 KiB at most"},
    {.word = NULL}};
static const struct cm_choice SENSES[] = {
    {.value = 0, .word = "as-named"}, {.value = 1, .word = "all-but"}, {.word = NULL}};
static const struct cm_choice HOLDS[] = {
    {.value = 0, .word = "open"},
    {.value = 1, .word = "by-pin", .means = "registers cannot be written while WP is low"},
    {.word = NULL}};
static const struct cm_choice LOCK_DOWN[] = {
    {.value = 0, .word = "open"},
    {.value = 1,
     .fence = CM_FENCE_LOCKS,
     .word = "locked",
     .means = "registers cannot be written until the power has been off, or never again"},
    {.word = NULL}};
static const struct cm_choice BLOCK_LOCKS[] = {
    {.value = 0, .word = "area"},
    {.value = 1,
     .word = "single-blocks",
     .means = "each block has a lock of its own, and all are locked at power-up"},
    {.word = NULL}};

static const struct cm_choice *const END_CHOICES[] = {ENDS, NULL};
static const struct cm_choice *const UNIT_CHOICES[] = {UNITS, NULL};
static const struct cm_choice *const SENSE_CHOICES[] = {SENSES, NULL};
static const struct cm_choice *const HOLD_CHOICES[] = {HOLDS, NULL};
static const struct cm_choice *const LOCK_DOWN_CHOICES[] = {LOCK_DOWN, NULL};
static const struct cm_choice *const BLOCK_LOCK_CHOICES[] = {BLOCK_LOCKS, NULL};

/* Levels of the protection bits: their meaning hangs on the part, their order does not. */
#define LEVEL(n)                                                                                   \
    {                                                                                              \
        .value = n, .word = "level-" #n                                                            \
    }
static const struct cm_choice LEVELS[] = {{.value = 0, .word = "none"},
                                          LEVEL(1),
                                          LEVEL(2),
                                          LEVEL(3),
                                          LEVEL(4),
                                          LEVEL(5),
                                          LEVEL(6),
                                          LEVEL(7),
                                          LEVEL(8),
                                          LEVEL(9),
                                          LEVEL(10),
                                          LEVEL(11),
                                          LEVEL(12),
                                          LEVEL(13),
                                          LEVEL(14),
                                          LEVEL(15),
                                          {.word = NULL}};
static const struct cm_choice *const LEVEL_CHOICES[] = {LEVELS, NULL};

static uint8_t level_mask(const struct cm_nor_guard *rules)
{
    uint8_t mask = 0;
    for (uint8_t i = 0; i < sizeof rules->bp; i++)
        mask |= rules->bp[i];
    return mask;
}

/* The fields of a part, those it lacks left out; then what is left of each register. */
static uint8_t list_fields(const struct cm_nor_part *part, struct cm_setting *fields)
{
    static const struct cm_nor_guard NONE = {.bp = {0}};
    static const char *const REST[] = {"others", "others-2", "others-3"};
    const struct cm_nor_guard *rules = part->guard ? part->guard : &NONE;
    const struct cm_setting all[] = {
        {"block-protect", "BP", 0, level_mask(rules), LEVEL_CHOICES},
        {"protect-end", "TB", rules->tb_register, rules->tb_fixed ? 0 : rules->tb_mask,
         END_CHOICES},
        {"protect-unit", "SEC", 0, rules->sec_mask, UNIT_CHOICES},
        {"protect-sense", "CMP", rules->cmp_register, rules->cmp_mask, SENSE_CHOICES},
        {"block-locks", "WPS", rules->wps_register, rules->wps_mask, BLOCK_LOCK_CHOICES},
        {"registers", "SRP", 0, rules->lock_mask, HOLD_CHOICES},
        {"lock-down", "SRL", rules->srl_register, rules->srl_mask, LOCK_DOWN_CHOICES},
    };
    uint8_t named[CM_NOR_REGISTERS] = {0}, count = 0;
    for (uint8_t i = 0; i < sizeof all / sizeof all[0]; i++) {
        uint8_t mask = (uint8_t)(all[i].mask & part->status->kept[all[i].byte]);
        if (!mask)
            continue;
        fields[count] = all[i];
        fields[count++].mask = mask;
        named[all[i].byte] |= mask;
    }
    for (uint8_t i = 0; i < part->status->count; i++) {
        uint8_t mask = part->status->kept[i] & (uint8_t)~named[i];
        if (mask)
            fields[count++] = (struct cm_setting){REST[i], "others", i, mask, NULL};
    }
    return count;
}

static bool setting_byte(const struct cm_part *any, uint8_t index, struct cm_setting_byte *out)
{
    static const char *const NAMES[] = {"status", "status 2", "status 3"};
    const struct cm_nor_part *part = cm_nor_row(any);
    if (index >= part->status->count)
        return false;
    *out = (struct cm_setting_byte){NAMES[index], CM_NOR_STATUS, index, part->status->kept[index],
                                    false};
    return true;
}

static bool setting(const struct cm_part *part, const uint8_t *bytes, uint8_t index,
                    struct cm_setting *out)
{
    enum { MOST_FIELDS = 10 };
    struct cm_setting fields[MOST_FIELDS];
    (void)bytes;
    uint8_t count = list_fields(cm_nor_row(part), fields);
    if (index < count)
        *out = fields[index];
    return index < count;
}

static uint32_t write_us(const struct cm_part *part)
{
    return cm_nor_row(part)->times->status_max_us;
}

const struct cm_words cm_nor_words = {
    .byte = setting_byte,
    .setting = setting,
    .cpu_hz = cm_no_cpu_hz,
    .clock_mask = cm_no_clock_mask,
    .brown_out_mv = cm_no_brown_out_mv,
    .boot_bytes = cm_no_boot_bytes,
    .write_us = write_us,
};
