/*
 * AVR parts as people know them: packages, and what their silence means.
 *
 * Pinouts: data sheets, "Pin configurations" and table "Pin mapping serial
 * programming". A row is a package of a group of pin-compatible parts. Packages without leads, and
 * parts whose sheet is not at hand, have none.
 *
 * Most parts are programmed over their SPI pins. The ATmega64, 128, 103, 1281, 2561 and the AT90CAN
 * are not: their data go over PE0 (in) and PE1 (out), while SCK is the SPI's.
 */
#include "../pinouts.h"
#include <coldmint/avr.h>
#include <coldmint/settings.h>
#include <string.h>

static const char EIGHT[] = "PB5/RESET PB3 PB4 GND PB0/MOSI PB1/MISO PB2/SCK VCC";
static const char EIGHT_15[] = "PB5/RESET PB4 PB3 GND PB0/MOSI PB1/MISO PB2/SCK VCC";
static const char FOURTEEN[] =
    "VCC PB0 PB1 PB3/RESET PB2 PA7 PA6/MOSI PA5/MISO PA4/SCK PA3 PA2 PA1 PA0 GND";
static const char TWENTY_2313[] = "PA2/RESET PD0 PD1 PA1 PA0 PD2 PD3 PD4 PD5 GND PD6 PB0 PB1 PB2 "
                                  "PB3 PB4 PB5/MOSI PB6/MISO PB7/SCK VCC";
static const char TWENTY_26[] = "PB0/MOSI PB1/MISO PB2/SCK PB3 VCC GND PB4 PB5 PB6 PB7/RESET PA7 "
                                "PA6 PA5 PA4 AVCC AGND PA3 PA2 PA1 PA0";
static const char TWENTY_167[] = "PA0 PA1 PA2/MISO PA3 AVCC AGND PA4/MOSI PA5/SCK PA6 PA7 "
                                 "PB7/RESET PB6 PB5 PB4 VCC GND PB3 PB2 PB1 PB0";
static const char TWENTY_1634[] = "PB0 PA7 PA6 PA5 PA4 PA3 PA2 PA1 PA0 GND VCC PC5 PC4 PC3/RESET "
                                  "PC2 PC1/SCK PC0 PB3 PB2/MISO PB1/MOSI";
static const char TWENTY_EIGHT[] =
    "PC6/RESET PD0 PD1 PD2 PD3 PD4 VCC GND PB6 PB7 PD5 PD6 PD7 PB0 "
    "PB1 PB2 PB3/MOSI PB4/MISO PB5/SCK AVCC AREF GND PC0 PC1 PC2 PC3 PC4 PC5";
static const char TWENTY_EIGHT_88[] =
    "PC6/RESET PD0 PD1 PD2 PD3 PD4 VCC GND PB6 PB7 PD5 PD6 PD7 PB0 "
    "PB1 PB2 PB3/MOSI PB4/MISO PB5/SCK AVCC PC7 GND PC0 PC1 PC2 PC3 PC4 PC5";
static const char QUAD_32[] =
    "PD3 PD4 GND VCC GND VCC PB6 PB7 PD5 PD6 PD7 PB0 PB1 PB2 PB3/MOSI PB4/MISO "
    "PB5/SCK AVCC ADC6 AREF GND ADC7 PC0 PC1 PC2 PC3 PC4 PC5 PC6/RESET PD0 PD1 PD2";
static const char QUAD_32_PB[] =
    "PD3 PD4 PE0 VCC GND PE1 PB6 PB7 PD5 PD6 PD7 PB0 PB1 PB2 PB3/MOSI PB4/MISO "
    "PB5/SCK AVCC PE2 AREF GND PE3 PC0 PC1 PC2 PC3 PC4 PC5 PC6/RESET PD0 PD1 PD2";
static const char QUAD_32_USB[] =
    "XTAL1 PC0 GND VCC PC2 PD0 PD1 PD2 PD3 PD4 PD5 PD6 PD7 PB0 PB1/SCK PB2/MOSI "
    "PB3/MISO PB4 PB5 PB6 PB7 PC7 PC6 PC1/RESET PC5 PC4 UCAP UGND D+ D- UVCC AVCC";
static const char FORTY[] =
    "PB0 PB1 PB2 PB3 PB4 PB5/MOSI PB6/MISO PB7/SCK RESET VCC GND XTAL2 XTAL1 PD0 PD1 PD2 PD3 PD4 "
    "PD5 PD6 "
    "PD7 PC0 PC1 PC2 PC3 PC4 PC5 PC6 PC7 AVCC GND AREF PA7 PA6 PA5 PA4 PA3 PA2 PA1 PA0";
static const char QUAD_44[] =
    "PB5/MOSI PB6/MISO PB7/SCK RESET VCC GND XTAL2 XTAL1 PD0 PD1 PD2 PD3 PD4 PD5 PD6 PD7 VCC GND "
    "PC0 PC1 PC2 PC3 "
    "PC4 PC5 PC6 PC7 AVCC GND AREF PA7 PA6 PA5 PA4 PA3 PA2 PA1 PA0 VCC GND PB0 PB1 PB2 PB3 PB4";
static const char FORTY_8515[] =
    "PB0 PB1 PB2 PB3 PB4 PB5/MOSI PB6/MISO PB7/SCK RESET PD0 PD1 PD2 PD3 PD4 PD5 PD6 PD7 XTAL2 "
    "XTAL1 GND "
    "PC0 PC1 PC2 PC3 PC4 PC5 PC6 PC7 PE2 PE1 PE0 PA7 PA6 PA5 PA4 PA3 PA2 PA1 PA0 VCC";
static const char QUAD_44_USB[] =
    "PE6 UVCC D- D+ UGND UCAP VBUS PB0 PB1/SCK PB2/MOSI PB3/MISO PB7 RESET VCC GND XTAL2 XTAL1 PD0 "
    "PD1 PD2 PD3 PD5 "
    "GND AVCC PD4 PD6 PD7 PB4 PB5 PB6 PC6 PC7 PE2 VCC GND PF7 PF6 PF5 PF4 PF1 PF0 AREF GND AVCC";
#define QUAD_64_FROM_14                                                                            \
    "PB4 PB5 PB6 PB7 PG3 PG4 RESET VCC GND XTAL2 XTAL1 PD0 PD1 PD2 PD3 PD4 PD5 PD6 PD7 PG0 PG1 "   \
    "PC0 PC1 PC2 PC3 PC4 PC5 PC6 PC7 "                                                             \
    "PG2 PA7 PA6 PA5 PA4 PA3 PA2 PA1 PA0 VCC GND PF7 PF6 PF5 PF4 PF3 PF2 PF1 PF0 AREF GND AVCC"
static const char QUAD_64_PE[] =
    "PEN/PG5 PE0/MOSI PE1/MISO PE2 PE3 PE4 PE5 PE6 PE7 PB0 PB1/SCK PB2 PB3 " QUAD_64_FROM_14;
static const char QUAD_64_LCD[] =
    "LCDCAP PE0 PE1 PE2 PE3 PE4 PE5 PE6 PE7 PB0 PB1/SCK PB2/MOSI PB3/MISO " QUAD_64_FROM_14;
static const char QUAD_64_USB[] = "PE6 PE7 UVCC D- D+ UGND UCAP VBUS PE3 PB0 PB1/SCK PB2/MOSI "
                                  "PB3/MISO PB4 PB5 PB6 PB7 PE4 PE5 RESET VCC GND XTAL2 XTAL1 PD0 "
                                  "PD1 PD2 PD3 PD4 PD5 PD6 PD7 PE0 PE1 PC0 PC1 PC2 PC3 PC4 PC5 PC6 "
                                  "PC7 PE2 PA7 PA6 PA5 PA4 PA3 PA2 PA1 PA0 VCC GND "
                                  "PF7 PF6 PF5 PF4 PF3 PF2 PF1 PF0 AREF GND AVCC";
static const char QUAD_100[] = "PG5 PE0 PE1 PE2 PE3 PE4 PE5 PE6 PE7 VCC GND PH0 PH1 PH2 PH3 PH4 "
                               "PH5 PH6 PB0 PB1/SCK PB2/MOSI PB3/MISO PB4 PB5 PB6 PB7 PH7 "
                               "PG3 PG4 RESET VCC GND XTAL2 XTAL1 PL0 PL1 PL2 PL3 PL4 PL5 PL6 PL7 "
                               "PD0 PD1 PD2 PD3 PD4 PD5 PD6 PD7 PG0 PG1 PC0 PC1 PC2 PC3 "
                               "PC4 PC5 PC6 PC7 VCC GND PJ0 PJ1 PJ2 PJ3 PJ4 PJ5 PJ6 PG2 PA7 PA6 "
                               "PA5 PA4 PA3 PA2 PA1 PA0 PJ7 VCC GND PK7 PK6 PK5 PK4 PK3 "
                               "PK2 PK1 PK0 PF7 PF6 PF5 PF4 PF3 PF2 PF1 PF0 AREF GND AVCC";

#define MEGA48_PARTS                                                                               \
    "atmega8 atmega8a atmega48 atmega48a atmega48p atmega48pa atmega88 atmega88a atmega88p "       \
    "atmega88pa atmega168 atmega168a "                                                             \
    "atmega168p atmega168pa atmega328 atmega328p"
#define MEGA16_PARTS                                                                               \
    "atmega16 atmega16a atmega32 atmega32a atmega8535 atmega163 atmega323 atmega164a atmega164p "  \
    "atmega164pa atmega324a "                                                                      \
    "atmega324p "                                                                                  \
    "atmega324pa atmega644 atmega644a atmega644p atmega644pa atmega1284 atmega1284p"
#define LCD_PARTS                                                                                  \
    "atmega165 atmega165a atmega165p atmega165pa atmega169 atmega169a atmega169p atmega169pa "     \
    "atmega325 atmega325a atmega325p "                                                             \
    "atmega325pa atmega329 atmega329a atmega329p atmega329pa atmega645 atmega645a atmega645p "     \
    "atmega649 atmega649a atmega649p"

static const struct cm_pinout PINOUTS[] = {
    {"DIP-8", CM_PACKAGE_DUAL, 8, EIGHT,
     "attiny12 attiny13 attiny13a attiny25 attiny45 attiny85 attiny22 at90s2323 at90s2343"},
    {"DIP-8", CM_PACKAGE_DUAL, 8, EIGHT_15, "attiny15"},
    {"SOIC-8", CM_PACKAGE_DUAL, 8, EIGHT,
     "attiny12 attiny13 attiny13a attiny25 attiny45 attiny85 at90s2323 at90s2343"},
    {"DIP-14", CM_PACKAGE_DUAL, 14, FOURTEEN,
     "attiny24 attiny24a attiny44 attiny44a attiny84 attiny84a"},
    {"SOIC-14", CM_PACKAGE_DUAL, 14, FOURTEEN,
     "attiny24 attiny24a attiny44 attiny44a attiny84 attiny84a attiny441 attiny841"},
    {"DIP-20", CM_PACKAGE_DUAL, 20, TWENTY_2313,
     "attiny2313 attiny2313a attiny4313 at90s2313 at90s1200"},
    {"SOIC-20", CM_PACKAGE_DUAL, 20, TWENTY_2313,
     "attiny2313 attiny2313a attiny4313 at90s2313 at90s1200"},
    {"DIP-20", CM_PACKAGE_DUAL, 20, TWENTY_26,
     "attiny26 attiny261 attiny261a attiny461 attiny461a attiny861 attiny861a"},
    {"SOIC-20", CM_PACKAGE_DUAL, 20, TWENTY_26,
     "attiny26 attiny261 attiny261a attiny461 attiny461a attiny861 attiny861a"},
    {"SOIC-20", CM_PACKAGE_DUAL, 20, TWENTY_167, "attiny87 attiny167"},
    {"SOIC-20", CM_PACKAGE_DUAL, 20, TWENTY_1634, "attiny1634"},
    {"DIP-28", CM_PACKAGE_DUAL, 28, TWENTY_EIGHT, MEGA48_PARTS " at90s4433"},
    {"DIP-28", CM_PACKAGE_DUAL, 28, TWENTY_EIGHT_88, "attiny48 attiny88"},
    {"TQFP-32", CM_PACKAGE_QUAD, 32, QUAD_32, MEGA48_PARTS},
    {"TQFP-32", CM_PACKAGE_QUAD, 32, QUAD_32_PB, "atmega48pb atmega88pb atmega168pb atmega328pb"},
    {"TQFP-32", CM_PACKAGE_QUAD, 32, QUAD_32_USB,
     "atmega8u2 atmega16u2 atmega32u2 at90usb82 at90usb162"},
    {"DIP-40", CM_PACKAGE_DUAL, 40, FORTY, MEGA16_PARTS " at90s8535 at90s4434"},
    {"TQFP-44", CM_PACKAGE_QUAD, 44, QUAD_44, MEGA16_PARTS " at90s8535 at90s4434"},
    {"DIP-40", CM_PACKAGE_DUAL, 40, FORTY_8515,
     "atmega8515 atmega162 atmega161 at90s8515 at90s4414"},
    {"TQFP-44", CM_PACKAGE_QUAD, 44, QUAD_44_USB, "atmega16u4 atmega32u4"},
    {"TQFP-64", CM_PACKAGE_QUAD, 64, QUAD_64_PE,
     "atmega64 atmega64a atmega128 atmega128a atmega103 atmega1281 atmega2561 at90can32 at90can64 "
     "at90can128"},
    {"TQFP-64", CM_PACKAGE_QUAD, 64, QUAD_64_LCD, LCD_PARTS},
    {"TQFP-64", CM_PACKAGE_QUAD, 64, QUAD_64_USB, "at90usb646 at90usb647 at90usb1286 at90usb1287"},
    {"TQFP-100", CM_PACKAGE_QUAD, 100, QUAD_100, "atmega640 atmega1280 atmega2560"},
};
enum { PINOUT_COUNT = sizeof PINOUTS / sizeof PINOUTS[0], ELF_AVR = 83 };

static const struct cm_pinout *pinout(const struct cm_part *part, uint8_t number)
{
    return cm_pinout_of(PINOUTS, PINOUT_COUNT, part, number);
}

const struct cm_pinout *cm_avr_pinout_row(uint16_t number)
{
    return number < PINOUT_COUNT ? &PINOUTS[number] : NULL;
}

#define ENABLE_ANSWER                                                                              \
    "answer to Programming Enable: {0} {1} {2} {3}, wanted 53 in the third place; {tries} tries, " \
    "{clocks}"

static const struct cm_cause CAUSES[] = {
    {CM_NO_CHIP, CM_ANSWER_ONES, NULL, ENABLE_ANSWER,
     "MISO stays high: is the plug on, the right way round, and RESET wired? A chip whose crystal "
     "is missing is silent too"},
    {CM_NO_CHIP, CM_ANSWER_ZEROS, NULL, ENABLE_ANSWER,
     "MISO stays low: has the target power? Is MISO shorted to ground, or swapped with MOSI?"},
    {CM_NO_CHIP, CM_ANSWER_ANY, NULL, ENABLE_ANSWER,
     "something answers, but not in step: seat the plug again, shorten the wires, take other parts "
     "off SCK and MISO"},
    {.status = CM_OK}};

/* The facts behind these: waits, then one line for each fuse byte. */
static bool fact(const struct cm_part *part, uint8_t number, struct cm_fact *out)
{
    static const char *const GENERATIONS[] = {
        "flash byte by byte, waits", "flash by page, reset after erase", "flash by page, waits",
        "flash and eeprom by page, RDY/BSY polled"};
    static const char *const FUSES[] = {"low      0x{0:x}  bits 0 to 7: {t}",
                                        "high     0x{0:x}  bits 0 to 7: {t}",
                                        "extended 0x{0:x}  bits 0 to 7: {t}"};
    const struct cm_avr_part *row = cm_avr_row(part);
    const bool has_boot = row->boot_max_bytes;
    if (number == 0 && has_boot) {
        *out = (struct cm_fact){"boot",
                                "boot section of up to {0} bytes at the end of flash",
                                {row->boot_max_bytes},
                                NULL};
        return true;
    }
    number = (uint8_t)(number - has_boot);
    if (number == 0) {
        *out = (struct cm_fact){"writing",
                                "{t}; page {0:k} ms, erase {1:k} ms at most",
                                {row->times->t_wd_flash_us, row->times->t_wd_erase_us},
                                GENERATIONS[row->generation]};
        return true;
    }
    uint8_t fuse = (uint8_t)(number - 1);
    if (fuse >= row->fuse_bytes)
        return false;
    *out = (struct cm_fact){
        fuse ? "" : "fuses", FUSES[fuse], {row->fuse_default[fuse]}, row->fuse_bits[fuse]};
    return true;
}

static void delivered(const struct cm_part *part, uint8_t *bytes)
{
    const struct cm_avr_part *row = cm_avr_row(part);
    memset(bytes, 0xFF, CM_SETTING_BYTES); // not locked
    memcpy(bytes, row->fuse_default, row->fuse_bytes);
}

const struct cm_about cm_avr_about = {.kind = "AVR",
                                      .program = "AVR",
                                      .elf_machine = ELF_AVR,
                                      .elf_id_at = 0x840000,
                                      .elf_id_bytes = 3,
                                      .causes = CAUSES,
                                      .pinout = pinout,
                                      .lead_reset_to = cm_avr_lead_reset_to,
                                      .reset_leads_to = cm_avr_reset_leads_to,
                                      .fact = fact,
                                      .delivered = delivered};
