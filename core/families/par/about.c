/*
 * Parallel memories as people know them: packages, and what their silence means.
 *
 * Packages are shown from above; the JEDEC pinouts that all makers share (JESD21-C). Parts with
 * fewer address lines have the others unconnected, or other functions that are named.
 *
 * A DIP of 28 pins sits at the lower end of a socket for 32: its pin 1 is in the socket's 3.
 */
#include "../pinouts.h"
#include <coldmint/par.h>

#define LOW_HALF_28 "A7 A6 A5 A4 A3 A2 A1 A0 D0 D1 D2 GND D3 D4 D5 D6 D7 "
static const char FLASH_4M[] = "A18 A16 A15 A12 A7 A6 A5 A4 A3 A2 A1 A0 D0 D1 D2 GND D3 D4 D5 D6 "
                               "D7 CE A10 OE A11 A9 A8 A13 A14 A17 WE VCC";
static const char FLASH_2M[] = "NC A16 A15 A12 A7 A6 A5 A4 A3 A2 A1 A0 D0 D1 D2 GND D3 D4 D5 D6 D7 "
                               "CE A10 OE A11 A9 A8 A13 A14 A17 WE VCC";
static const char FLASH_1M[] = "NC A16 A15 A12 A7 A6 A5 A4 A3 A2 A1 A0 D0 D1 D2 GND D3 D4 D5 D6 D7 "
                               "CE A10 OE A11 A9 A8 A13 A14 NC WE VCC";
static const char FLASH_512K[] = "NC NC A15 A12 A7 A6 A5 A4 A3 A2 A1 A0 D0 D1 D2 GND D3 D4 D5 D6 "
                                 "D7 CE A10 OE A11 A9 A8 A13 A14 NC WE VCC";
static const char EEPROM_256K[] = "A14 A12 " LOW_HALF_28 "CE A10 OE A11 A9 A8 A13 WE VCC";
static const char EEPROM_64K[] = "NC A12 " LOW_HALF_28 "CE A10 OE A11 A9 A8 NC WE VCC";
static const char EEPROM_16K[] =
    "A7 A6 A5 A4 A3 A2 A1 A0 D0 D1 D2 GND D3 D4 D5 D6 D7 CE A10 OE WE A9 A8 VCC";
static const char EPROM_8M[] = "A19 A16 A15 A12 A7 A6 A5 A4 A3 A2 A1 A0 D0 D1 D2 GND D3 D4 D5 D6 "
                               "D7 CE A10 OE/OE+VPP A11 A9 A8 A13 A14 A17 A18 VCC";
static const char EPROM_4M[] = "VPP A16 A15 A12 A7 A6 A5 A4 A3 A2 A1 A0 D0 D1 D2 GND D3 D4 D5 D6 "
                               "D7 CE A10 OE A11 A9 A8 A13 A14 A17 A18 VCC";
static const char EPROM_2M[] = "VPP A16 A15 A12 A7 A6 A5 A4 A3 A2 A1 A0 D0 D1 D2 GND D3 D4 D5 D6 "
                               "D7 CE A10 OE A11 A9 A8 A13 A14 A17 PGM/WE VCC";
static const char EPROM_1M[] = "VPP A16 A15 A12 A7 A6 A5 A4 A3 A2 A1 A0 D0 D1 D2 GND D3 D4 D5 D6 "
                               "D7 CE A10 OE A11 A9 A8 A13 A14 NC PGM/WE VCC";
static const char EPROM_512K[] = "A15 A12 " LOW_HALF_28 "CE A10 OE/OE+VPP A11 A9 A8 A13 A14 VCC";
static const char EPROM_256K[] = "VPP A12 " LOW_HALF_28 "CE A10 OE A11 A9 A8 A13 A14 VCC";
static const char EPROM_128K[] = "VPP A12 " LOW_HALF_28 "CE A10 OE A11 A9 A8 A13 PGM/WE VCC";
static const char EPROM_64K[] = "VPP A12 " LOW_HALF_28 "CE A10 OE A11 A9 A8 NC PGM/WE VCC";
static const char EPROM_32K[] =
    "A7 A6 A5 A4 A3 A2 A1 A0 D0 D1 D2 GND D3 D4 D5 D6 D7 CE A10 OE/OE+VPP A11 A9 A8 VCC";
static const char EPROM_16K[] =
    "A7 A6 A5 A4 A3 A2 A1 A0 D0 D1 D2 GND D3 D4 D5 D6 D7 CE A10 OE VPP A9 A8 VCC";

/* The 28-pin parts in PLCC-32: four pins are not connected, one on each side. */
#define CARRIER_MIDDLE "A7 A6 A5 A4 A3 A2 A1 A0 NC D0 D1 D2 GND NC D3 D4 D5 D6 D7 CE A10 "
static const char EEPROM_256K_PLCC[] = "NC A14 A12 " CARRIER_MIDDLE "OE NC A11 A9 A8 A13 WE VCC";
static const char EEPROM_64K_PLCC[] = "NC NC A12 " CARRIER_MIDDLE "OE NC A11 A9 A8 NC WE VCC";
static const char EPROM_512K_PLCC[] =
    "NC A15 A12 " CARRIER_MIDDLE "OE/OE+VPP NC A11 A9 A8 A13 A14 VCC";
static const char EPROM_256K_PLCC[] = "NC VPP A12 " CARRIER_MIDDLE "OE NC A11 A9 A8 A13 A14 VCC";

#define FLASH_4M_PARTS                                                                             \
    "sst39sf040 sst39vf040 am29f040b am29lv040b mx29f040 mx29lv040 m29f040b m29w040b en29f040a "   \
    "a29040b hy29f040a pm39f040 "                                                                  \
    "pm39lv040 w39l040 at49f040 at49bv040 at29c040a at29lv040a w29c040 at28c040"
#define FLASH_2M_PARTS                                                                             \
    "sst39sf020a sst39vf020 am29f002bb am29f002bt mx29f002t mx29f002b m29f002bt m29f002bb "        \
    "pm29f002t pm29f002b pm39f020 pm39lv020 "                                                      \
    "w39l020 w49f002u w49f020 at49f020 at29c020 at29lv020 w29c020c sst29ee020"
#define FLASH_1M_PARTS                                                                             \
    "sst39sf010a sst39vf010 am29f010b am29lv010b m29f010b m29w010b a29010 pm39f010 pm39lv010 "     \
    "w39f010 w39l010 at49f010 at29c010a "                                                          \
    "at29lv010a w29ee011 sst29ee010 at28c010 x28c010"
#define FLASH_512K_PARTS "sst39sf512 sst39vf512 pm39lv512 at49f512 at29c512 at29lv512 sst29ee512"

static const struct cm_pinout PINOUTS[] = {
    {"DIP-32", CM_PACKAGE_DUAL, 32, FLASH_4M, FLASH_4M_PARTS},
    {"PLCC-32", CM_PACKAGE_CHIP_CARRIER, 32, FLASH_4M, FLASH_4M_PARTS},
    {"DIP-32", CM_PACKAGE_DUAL, 32, FLASH_2M, FLASH_2M_PARTS},
    {"PLCC-32", CM_PACKAGE_CHIP_CARRIER, 32, FLASH_2M, FLASH_2M_PARTS},
    {"DIP-32", CM_PACKAGE_DUAL, 32, FLASH_1M, FLASH_1M_PARTS},
    {"PLCC-32", CM_PACKAGE_CHIP_CARRIER, 32, FLASH_1M, FLASH_1M_PARTS},
    {"DIP-32", CM_PACKAGE_DUAL, 32, FLASH_512K, FLASH_512K_PARTS},
    {"PLCC-32", CM_PACKAGE_CHIP_CARRIER, 32, FLASH_512K, FLASH_512K_PARTS},
    {"DIP-28", CM_PACKAGE_DUAL, 28, EEPROM_256K,
     "at28c256 at28hc256 cat28c256 x28c256 x28hc256 at29c256"},
    {"PLCC-32", CM_PACKAGE_CHIP_CARRIER, 32, EEPROM_256K_PLCC,
     "at28c256 at28hc256 cat28c256 x28c256 x28hc256 at29c256"},
    {"DIP-28", CM_PACKAGE_DUAL, 28, EEPROM_64K,
     "at28c64 at28c64b at28hc64b cat28c64b x28c64 28c64a"},
    {"PLCC-32", CM_PACKAGE_CHIP_CARRIER, 32, EEPROM_64K_PLCC,
     "at28c64 at28c64b at28hc64b cat28c64b x28c64 28c64a"},
    {"DIP-24", CM_PACKAGE_DUAL, 24, EEPROM_16K, "at28c16 cat28c16a 28c16a"},
    {"DIP-32", CM_PACKAGE_DUAL, 32, EPROM_8M, "27c080"},
    {"DIP-32", CM_PACKAGE_DUAL, 32, EPROM_4M, "27c040 am27c040 at27c040 m27c4001"},
    {"PLCC-32", CM_PACKAGE_CHIP_CARRIER, 32, EPROM_4M, "27c040 am27c040 at27c040 m27c4001"},
    {"DIP-32", CM_PACKAGE_DUAL, 32, EPROM_2M, "27c020 am27c020 at27c020 m27c2001 sst27sf020"},
    {"PLCC-32", CM_PACKAGE_CHIP_CARRIER, 32, EPROM_2M,
     "27c020 am27c020 at27c020 m27c2001 sst27sf020"},
    {"DIP-32", CM_PACKAGE_DUAL, 32, EPROM_1M,
     "27c010 am27c010 at27c010 m27c1001 tms27c010a sst27sf010"},
    {"PLCC-32", CM_PACKAGE_CHIP_CARRIER, 32, EPROM_1M,
     "27c010 am27c010 at27c010 m27c1001 tms27c010a sst27sf010"},
    {"DIP-28", CM_PACKAGE_DUAL, 28, EPROM_512K,
     "27c512 am27c512 at27c512r m27c512 tms27c512 w27c512 sst27sf512 27512"},
    {"PLCC-32", CM_PACKAGE_CHIP_CARRIER, 32, EPROM_512K_PLCC,
     "27c512 am27c512 at27c512r m27c512 tms27c512 w27c512 sst27sf512 27512"},
    {"DIP-28", CM_PACKAGE_DUAL, 28, EPROM_256K,
     "27c256 am27c256 at27c256r m27c256b tms27c256 27256"},
    {"PLCC-32", CM_PACKAGE_CHIP_CARRIER, 32, EPROM_256K_PLCC,
     "27c256 am27c256 at27c256r m27c256b tms27c256 27256"},
    {"DIP-28", CM_PACKAGE_DUAL, 28, EPROM_128K, "27c128 am27c128 27128"},
    {"DIP-28", CM_PACKAGE_DUAL, 28, EPROM_64K, "27c64 am27c64 2764"},
    {"DIP-24", CM_PACKAGE_DUAL, 24, EPROM_32K, "2732"},
    {"DIP-24", CM_PACKAGE_DUAL, 24, EPROM_16K, "2716"},
};
enum { PINOUT_COUNT = sizeof PINOUTS / sizeof PINOUTS[0] };

static const struct cm_pinout *parallel(const struct cm_part *part, uint8_t number)
{
    return cm_pinout_of(PINOUTS, PINOUT_COUNT, part, number);
}

const struct cm_pinout *cm_par_pinout_row(uint16_t number)
{
    return number < PINOUT_COUNT ? &PINOUTS[number] : NULL;
}

/* In id mode first two bytes, then two of the array. */
#define IN_ID_MODE "in id mode it reads {0} {1}, else {2} {3}; {tries} tries, at three speeds"
static const struct cm_cause FLASH_CAUSES[] = {
    {CM_NO_CHIP, CM_ANSWER_ONES, NULL, IN_ID_MODE,
     "nobody drives the bus: is the part in the socket, and not one pin too low? Pin 1 is at the "
     "lever; the pinout shows it. Or it is no flash: an EPROM or EEPROM goes by its own name"},
    {CM_NO_CHIP, CM_ANSWER_ONE_LOW, NULL, IN_ID_MODE,
     "every reading is {0}: one line is held low and nobody drives the others. That is how a part "
     "looks that sits one pin too high, its ground on that line: switch off, look at pin 1"},
    {CM_NO_CHIP, CM_ANSWER_ZEROS, NULL, IN_ID_MODE,
     "all lines are held low: the part may be the wrong way round. Switch off at once, and feel "
     "whether it is warm"},
    {CM_NO_CHIP, CM_ANSWER_TWICE, NULL, IN_ID_MODE,
     "the contents answer, and the id mode does not come: an EPROM or EEPROM (give its name), or "
     "WE does not reach the part"},
    {CM_NO_CHIP, CM_ANSWER_ANY, NULL, IN_ID_MODE,
     "something answers, and not twice alike: seat the part again, clean its pins; or use a slower "
     "clock"},
    {.status = CM_OK}};

static const struct cm_cause EPROM_CAUSES[] = {
    {CM_NO_CHIP, CM_ANSWER_ANY, NULL, "with A9 at 12 V it reads {0} {1}",
     "is the part in the socket, the right way round? Pin 1 is at the lever; the pinout shows it"},
    {CM_REFUSED, CM_ANSWER_ANY, "an EPROM cannot be erased here",
     "{address}: the chip has 0x{found}, the file wants 0x{expected}; only ultraviolet light makes "
     "a bit 1 again",
     "erase it under a lamp, see that it is blank, and write it then"},
    {.status = CM_OK}};

static uint8_t data_lines(const struct cm_part *part)
{
    return cm_par_row(part)->traits & CM_PAR_WIDE ? 16 : 8;
}

static uint16_t program_mv(const struct cm_part *part)
{
    return cm_par_row(part)->program_mv;
}

static bool fact(const struct cm_part *part, uint8_t number, struct cm_fact *out)
{
    const struct cm_par_part *row = cm_par_row(part);
    const struct cm_fact facts[] = {
        {"bus", "{0} bits; {1} ns a cycle", {data_lines(part), row->cycle_ns}, NULL},
        {"writing",
         "{t}, {0} us each, {1} at most",
         {row->times->program_us, row->times->program_max_us},
         row->page_bytes > 1 ? "pages" : "single units"}};
    if (number >= sizeof facts / sizeof facts[0])
        return false;
    *out = facts[number];
    return true;
}

/* An EPROM's: which voltages programming wants. */
static bool eprom_fact(const struct cm_part *part, uint8_t number, struct cm_fact *out)
{
    static const char *const PROGRAMMED[] = {
        "not programmed here", "where the port has {0:kk} V of supply and the programming voltage"};
    if (fact(part, number, out))
        return true;
    *out = (struct cm_fact){"", PROGRAMMED[program_mv(part) != 0], {program_mv(part)}, NULL};
    return number == 2;
}

const struct cm_about cm_par_about = {.kind = "parallel flash",
                                      .causes = FLASH_CAUSES,
                                      .pinout = parallel,
                                      .asks_by_writing = true,
                                      .fact = fact,
                                      .data_lines = data_lines,
                                      .protect_data = cm_par_protect,
                                      .unprotect_data = cm_par_unprotect};
const struct cm_about cm_ee28_about = {.kind = "parallel EEPROM",
                                       .pinout = parallel,
                                       .fact = fact,
                                       .data_lines = data_lines,
                                       .protect_data = cm_par_protect,
                                       .unprotect_data = cm_par_unprotect};
const struct cm_about cm_eprom_about = {.kind = "EPROM",
                                        .causes = EPROM_CAUSES,
                                        .pinout = parallel,
                                        .wants_voltages = true,
                                        .fact = eprom_fact,
                                        .program_mv = program_mv,
                                        .data_lines = data_lines};
