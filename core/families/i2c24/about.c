/*
 * EEPROMs on I2C as people know them: packages, and what their silence means.
 */
#include "../pinouts.h"
#include <coldmint/i2c24.h>

static const struct cm_pinout PINOUTS[] = {
    {"SOIC-8", CM_PACKAGE_DUAL, 8, "A0 A1 A2 GND SDA SCL WP VCC", ""},
    {"DIP-8", CM_PACKAGE_DUAL, 8, "A0 A1 A2 GND SDA SCL WP VCC", ""},
};

static const struct cm_pinout *pinout(const struct cm_part *part, uint8_t number)
{
    return cm_pinout_of(PINOUTS, sizeof PINOUTS / sizeof PINOUTS[0], part, number);
}

static const struct cm_cause CAUSES[] = {
    {CM_NO_CHIP, CM_ANSWER_ANY, NULL,
     "no device acknowledges {device}; asked twice, with the time of a write between",
     "SDA and SCL swapped? Each wants a pull-up of some 4.7 kOhm; has the chip power? 'coldmint "
     "look' without --chip lists what answers"},
    {CM_PROTECTED, CM_ANSWER_ANY, "the chip takes no writes at {address}",
     "it acknowledges its address, and not the data; or it takes them, and is ready at once, "
     "without having written",
     "its WP pin is high, most likely: take it to ground, or wire it to the port"},
    {.status = CM_OK}};

const struct cm_about cm_i2c24_about = {
    .kind = "I2C EEPROM", .first_device = CM_I2C24_DEVICE, .causes = CAUSES, .pinout = pinout};
