/*
 * Three-wire EEPROMs as people know them: packages, and what their silence means.
 */
#include "../pinouts.h"
#include <coldmint/m93.h>

static const struct cm_pinout PINOUTS[] = {
    {"SOIC-8", CM_PACKAGE_DUAL, 8, "CS/SELECT CLK/SCK DI/MOSI DO/MISO GND ORG NC VCC", ""},
    {"DIP-8", CM_PACKAGE_DUAL, 8, "CS/SELECT CLK/SCK DI/MOSI DO/MISO GND ORG NC VCC", ""},
};

static const struct cm_pinout *pinout(const struct cm_part *part, uint8_t number)
{
    return cm_pinout_of(PINOUTS, sizeof PINOUTS / sizeof PINOUTS[0], part, number);
}

static const struct cm_cause CAUSES[] = {
    {CM_NO_CHIP, CM_ANSWER_ANY, NULL,
     "MISO does not go high while the part is selected, and its contents are nothing but 0; or "
     "they do not begin with a 0 ({found})",
     "is SELECT wired (it is high to select), and the organisation right: a name with -8 is for "
     "bytes? Is MISO held low by another chip?"},
    {.status = CM_OK}};

const struct cm_about cm_m93_about = {
    .kind = "93-series EEPROM", .causes = CAUSES, .pinout = pinout, .looks_like_nothing = true};
