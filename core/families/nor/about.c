/*
 * SPI flash, and the EEPROMs of the 25 series, as people know them: packages, and what their
 * silence means.
 */
#include "../pinouts.h"
#include <coldmint/ee25.h>
#include <coldmint/nor.h>

static const struct cm_pinout PINOUTS[] = {
    {"SOIC-8", CM_PACKAGE_DUAL, 8, "CS/SELECT DO/MISO WP GND DI/MOSI CLK/SCK HOLD VCC", ""},
    {"DIP-8", CM_PACKAGE_DUAL, 8, "CS/SELECT DO/MISO WP GND DI/MOSI CLK/SCK HOLD VCC", ""},
    {"WSON-8", CM_PACKAGE_DUAL, 8, "CS/SELECT DO/MISO WP GND DI/MOSI CLK/SCK HOLD VCC", ""},
};

static const struct cm_pinout *pinout(const struct cm_part *part, uint8_t number)
{
    return cm_pinout_of(PINOUTS, sizeof PINOUTS / sizeof PINOUTS[0], part, number);
}

#define ID_BROUGHT   "9F brought {0} {1} {2}; {tries} tries, in three ways, also woken and reset"
#define STATUS_READS "its status reads {0} whatever it is told"
#define STAYS_HIGH                                                                                 \
    "MISO stays high: is the clip seated, the right way round, and SELECT wired? Is the hold pin " \
    "high?"

static const struct cm_cause FLASH_CAUSES[] = {
    {CM_NO_CHIP, CM_ANSWER_ONES, NULL, ID_BROUGHT, STAYS_HIGH},
    {CM_NO_CHIP, CM_ANSWER_ZEROS, NULL, ID_BROUGHT,
     "MISO stays low: has the chip power? Is MISO shorted, or swapped with MOSI?"},
    {CM_NO_CHIP, CM_ANSWER_ANY, NULL, ID_BROUGHT,
     "something answers, and not twice alike: seat the clip again; in circuit, feed less or hold "
     "the processor in reset"},
    {CM_UNKNOWN_CHIP, CM_ANSWER_ANY, NULL, NULL,
     "it does not describe itself either (no SFDP). With its size it can be used: --chip plain-4M; "
     "by hand with 'coldmint raw'"},
    {.status = CM_OK}};

static const struct cm_cause EEPROM_CAUSES[] = {
    {CM_NO_CHIP, CM_ANSWER_ONES, NULL, STATUS_READS, STAYS_HIGH},
    {CM_NO_CHIP, CM_ANSWER_ANY, NULL, STATUS_READS,
     "MISO stays at one value: has the chip power, and is SELECT wired? Parts up to 4 Kbit take no "
     "write enable while their WP pin is low, and look just so: take WP high"},
    {CM_UNKNOWN_CHIP, CM_ANSWER_ANY, "something answers as a memory does, but it brings no id",
     "its write enable latch does as it is told; 9F, 90 and AB brought nothing",
     "a serial EEPROM has none: read its name off the package and give it with --chip; in circuit, "
     "feed less or hold the processor in reset"},
    {.status = CM_OK}};

static const char *guard_words(const struct cm_nor_part *row)
{
    if (!row->guard)
        return "no block protection";
    if (row->guard->by_sector)
        return "a lock for each sector, all set by power-up";
    if (row->guard->vague)
        return "block protection; which bits mean which area is not known here: any is taken for "
               "all";
    return row->guard->volatile_bits ? "block protection by area, all set by power-up"
                                     : "block protection by area";
}

static bool fact(const struct cm_part *part, uint8_t number, struct cm_fact *out)
{
    static const char *const WIDE[] = {"", "; opcodes of their own with four address bytes",
                                       "; four address bytes by a mode (B7)",
                                       "; four address bytes by a mode (B7, enabled)"};
    const struct cm_nor_part *row = cm_nor_row(part);
    const struct cm_fact facts[] = {
        {"reading", "at {0} MHz{t}", {row->clock_hz / 1000000}, WIDE[row->wide]},
        {"writing",
         "{0:kk} ms each, {1:kk} at most",
         {row->times->program_us, row->times->program_max_us},
         NULL},
        {"guard", "{t}", {0}, guard_words(row)}};
    if (number >= sizeof facts / sizeof facts[0])
        return false;
    *out = facts[number];
    return true;
}

/* `found` is the first member of the row, and that of a struct cm_nor_found. */
static void describe_size(struct cm_part *found, uint32_t bytes)
{
    cm_nor_describe_plain((struct cm_nor_found *)(void *)found, bytes);
}

const struct cm_about cm_nor_about = {.kind = "SPI flash",
                                      .causes = FLASH_CAUSES,
                                      .pinout = pinout,
                                      .describe_size = describe_size,
                                      .fact = fact,
                                      .guard_choose = cm_nor_guard_choose,
                                      .guard_mean = cm_nor_guard_mean};
const struct cm_about cm_ee25_about = {.kind = "SPI EEPROM",
                                       .causes = EEPROM_CAUSES,
                                       .pinout = pinout,
                                       .fact = fact,
                                       .guard_choose = cm_nor_guard_choose,
                                       .guard_mean = cm_nor_guard_mean};
