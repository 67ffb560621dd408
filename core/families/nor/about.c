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
     "it tells nothing of itself either (no SFDP). With its size it can be used: --chip plain-4M; "
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

const struct cm_about cm_nor_about = {
    .kind = "SPI flash", .causes = FLASH_CAUSES, .pinout = pinout, .known_by_size = true};
const struct cm_about cm_ee25_about = {
    .kind = "SPI EEPROM", .causes = EEPROM_CAUSES, .pinout = pinout};
