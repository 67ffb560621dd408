/*
 * The fuses and lock bits of the AVR parts in words.
 *
 * Data sheets, "Memory programming": tables of fuse bytes and lock bits; "System clock and clock
 * options": tables of CKSEL and SUT; "System control": table of BODLEVEL. A programmed bit is 0.
 * What siblings share is written once: a sub-family's clocks are a list of tables, and the part's
 * row says which list (tools/avr-parts.py). Values that stand in no table are reserved, or we have
 * no sheet at hand that lists them; they are shown as bits and fenced.
 *
 * Start-up: the sheets' second column, the delay after reset, in CK and milliseconds. Those of the
 * ATtiny say 4 and 64 ms where the ATmega say 4.1 and 65 ms for the same counts of the watchdog
 * oscillator; one table has both.
 */
#include "setting_tables.h"

#define FREE        CM_FENCE_NONE, CM_SOURCE_NONE
#define BOARD(kind) CM_FENCE_SOURCE, CM_SOURCE_##kind
#define LAST_CHOICE                                                                                \
    {                                                                                              \
        0, 0, 0, 0, NULL, NULL, 0                                                                  \
    }

static const char NEEDS_CLOCK[] = "the board must drive the clock pin";
static const char NEEDS_CRYSTAL[] = "needs a crystal or resonator on the board";
static const char NEEDS_WATCH_CRYSTAL[] =
    "needs a 32.768 kHz crystal on the board; programming is slow then";
static const char NEEDS_RC[] = "needs a resistor and a capacitor on the board";
static const char SLOW[] = "programming is slow then: SCK at most a quarter of it";

/* --- start-up times: SUT, by kind of clock ----------------------------------------------- */

static const struct cm_choice START_TABLES[START_COUNT][9] = {
    [START_RC] = {{0, FREE, 0, "6ck", NULL, 0},
                  {1, FREE, 0, "6ck+4ms", NULL, 0},
                  {2, FREE, 0, "6ck+65ms", NULL, 0},
                  LAST_CHOICE},
    [START_CRYSTAL_0] = {{0, FREE, 0, "258ck+4ms", NULL, 0},
                         {1, FREE, 0, "258ck+65ms", NULL, 0},
                         {2, FREE, 0, "1Kck", NULL, 0},
                         {3, FREE, 0, "1Kck+4ms", NULL, 0},
                         LAST_CHOICE},
    [START_CRYSTAL_1] = {{0, FREE, 0, "1Kck+65ms", NULL, 0},
                         {1, FREE, 0, "16Kck", NULL, 0},
                         {2, FREE, 0, "16Kck+4ms", NULL, 0},
                         {3, FREE, 0, "16Kck+65ms", NULL, 0},
                         LAST_CHOICE},
    [START_WATCH] = {{0, FREE, 0, "no-delay", NULL, 0},
                     {1, FREE, 0, "4ms", NULL, 0},
                     {2, FREE, 0, "65ms", NULL, 0},
                     LAST_CHOICE},
    [START_WATCH_SUT] = {{0, FREE, 0, "1Kck+4ms", NULL, 0},
                         {1, FREE, 0, "1Kck+65ms", NULL, 0},
                         {2, FREE, 0, "32Kck+65ms", NULL, 0},
                         LAST_CHOICE},
    [START_OLD_RC] = {{0, FREE, 0, "18ck", NULL, 0},
                      {1, FREE, 0, "18ck+4ms", NULL, 0},
                      {2, FREE, 0, "18ck+65ms", NULL, 0},
                      {3, FREE, 0, "6ck+4ms", NULL, 0},
                      LAST_CHOICE},
    [START_PLL] = {{0, FREE, 0, "1Kck+4ms", NULL, 0},
                   {1, FREE, 0, "16Kck+4ms", NULL, 0},
                   {2, FREE, 0, "1Kck+65ms", NULL, 0},
                   {3, FREE, 0, "16Kck+65ms", NULL, 0},
                   LAST_CHOICE},
    [START_PLL_26] = {{0, FREE, 0, "1Kck", NULL, 0},
                      {1, FREE, 0, "1Kck+4ms", NULL, 0},
                      {2, FREE, 0, "1Kck+65ms", NULL, 0},
                      {3, FREE, 0, "16Kck", NULL, 0},
                      LAST_CHOICE},
    // ATtiny441, 841, 1634: one bit. We are sure of the internal oscillators only; the rest follows
    // their tables' order.
    [START_ONE_BIT] = {{0, FREE, 0, "6ck+16ms", NULL, 0}, LAST_CHOICE},
    [START_ONE_BIT_0] = {{0, FREE, 0, "258ck+16ms", NULL, 0},
                         {1, FREE, 0, "1Kck+16ms", NULL, 0},
                         LAST_CHOICE},
    [START_ONE_BIT_1] = {{0, FREE, 0, "16Kck+16ms", NULL, 0}, LAST_CHOICE},
    [START_BATTERY] = {{0, FREE, 0, "4ms", NULL, 0},
                       {1, FREE, 0, "8ms", NULL, 0},
                       {2, FREE, 0, "16ms", NULL, 0},
                       {3, FREE, 0, "32ms", NULL, 0},
                       {4, FREE, 0, "64ms", NULL, 0},
                       {5, FREE, 0, "128ms", NULL, 0},
                       {6, FREE, 0, "256ms", NULL, 0},
                       {7, FREE, 0, "512ms", NULL, 0},
                       LAST_CHOICE},
};

/* --- clock sources: CKSEL ---------------------------------------------------------------- */

static const struct cm_choice EXTERNAL[] = {
    {0, BOARD(CLOCK), START_RC, "external-clock", NEEDS_CLOCK, 0}, LAST_CHOICE};
static const struct cm_choice RC8_AT_2[] = {{2, FREE, START_RC, "internal-8MHz", NULL, 8000000},
                                            LAST_CHOICE};
static const struct cm_choice RC128K_AT_3[] = {{3, FREE, START_RC, "internal-128kHz", SLOW, 128000},
                                               LAST_CHOICE};
static const struct cm_choice RC128K_AT_4[] = {{4, FREE, START_RC, "internal-128kHz", SLOW, 128000},
                                               LAST_CHOICE};
static const struct cm_choice PLL_AT_1[] = {
    {1, FREE, START_PLL, "internal-16MHz-pll", NULL, 16000000}, LAST_CHOICE};
static const struct cm_choice WATCH_AT_4_5[] = {
    {4, BOARD(WATCH_CRYSTAL), START_WATCH, "crystal-32kHz-1Kck", NEEDS_WATCH_CRYSTAL, 32768},
    {5, BOARD(WATCH_CRYSTAL), START_WATCH, "crystal-32kHz-32Kck", NEEDS_WATCH_CRYSTAL, 32768},
    LAST_CHOICE};
static const struct cm_choice WATCH_AT_6_7[] = {
    {6, BOARD(WATCH_CRYSTAL), START_WATCH, "crystal-32kHz-1Kck", NEEDS_WATCH_CRYSTAL, 32768},
    {7, BOARD(WATCH_CRYSTAL), START_WATCH, "crystal-32kHz-32Kck", NEEDS_WATCH_CRYSTAL, 32768},
    LAST_CHOICE};
static const struct cm_choice WATCH_AT_4_TO_7[] = {
    {4, BOARD(WATCH_CRYSTAL), START_WATCH, "crystal-32kHz-1Kck", NEEDS_WATCH_CRYSTAL, 32768},
    {5, BOARD(WATCH_CRYSTAL), START_WATCH, "crystal-32kHz-32Kck", NEEDS_WATCH_CRYSTAL, 32768},
    {6, BOARD(WATCH_CRYSTAL), START_WATCH, "crystal-32kHz-1Kck-caps", NEEDS_WATCH_CRYSTAL,
     32768}, // internal capacitors
    {7, BOARD(WATCH_CRYSTAL), START_WATCH, "crystal-32kHz-32Kck-caps", NEEDS_WATCH_CRYSTAL, 32768},
    LAST_CHOICE};
static const struct cm_choice WATCH_AT_6[] = {
    {6, BOARD(WATCH_CRYSTAL), START_WATCH_SUT, "crystal-32kHz", NEEDS_WATCH_CRYSTAL, 32768},
    LAST_CHOICE};
static const struct cm_choice WATCH_AT_9[] = {
    {9, BOARD(WATCH_CRYSTAL), START_WATCH_SUT, "crystal-32kHz", NEEDS_WATCH_CRYSTAL, 32768},
    LAST_CHOICE};
static const struct cm_choice FULL_SWING_AT_6_7[] = {
    {6, BOARD(CRYSTAL), START_CRYSTAL_0, "resonator-full-swing", NEEDS_CRYSTAL, 0},
    {7, BOARD(CRYSTAL), START_CRYSTAL_1, "crystal-full-swing", NEEDS_CRYSTAL, 0},
    LAST_CHOICE};
static const struct cm_choice CRYSTALS_FROM_8[] = {
    {8, BOARD(CRYSTAL), START_CRYSTAL_0, "resonator-0.4-0.9MHz", NEEDS_CRYSTAL, 0},
    {9, BOARD(CRYSTAL), START_CRYSTAL_1, "resonator-0.4-0.9MHz-slow", NEEDS_CRYSTAL, 0},
    {10, BOARD(CRYSTAL), START_CRYSTAL_0, "resonator-0.9-3MHz", NEEDS_CRYSTAL, 0},
    {11, BOARD(CRYSTAL), START_CRYSTAL_1, "crystal-0.9-3MHz", NEEDS_CRYSTAL, 0},
    {12, BOARD(CRYSTAL), START_CRYSTAL_0, "resonator-3-8MHz", NEEDS_CRYSTAL, 0},
    {13, BOARD(CRYSTAL), START_CRYSTAL_1, "crystal-3-8MHz", NEEDS_CRYSTAL, 0},
    {14, BOARD(CRYSTAL), START_CRYSTAL_0, "resonator-8MHz-up", NEEDS_CRYSTAL, 0},
    {15, BOARD(CRYSTAL), START_CRYSTAL_1, "crystal-8MHz-up", NEEDS_CRYSTAL, 0},
    LAST_CHOICE};
static const struct cm_choice CRYSTALS_ONE_BIT[] = {
    {8, BOARD(CRYSTAL), START_ONE_BIT_0, "resonator-0.4-0.9MHz", NEEDS_CRYSTAL, 0},
    {9, BOARD(CRYSTAL), START_ONE_BIT_1, "resonator-0.4-0.9MHz-slow", NEEDS_CRYSTAL, 0},
    {10, BOARD(CRYSTAL), START_ONE_BIT_0, "resonator-0.9-3MHz", NEEDS_CRYSTAL, 0},
    {11, BOARD(CRYSTAL), START_ONE_BIT_1, "crystal-0.9-3MHz", NEEDS_CRYSTAL, 0},
    {12, BOARD(CRYSTAL), START_ONE_BIT_0, "resonator-3-8MHz", NEEDS_CRYSTAL, 0},
    {13, BOARD(CRYSTAL), START_ONE_BIT_1, "crystal-3-8MHz", NEEDS_CRYSTAL, 0},
    {14, BOARD(CRYSTAL), START_ONE_BIT_0, "resonator-8MHz-up", NEEDS_CRYSTAL, 0},
    {15, BOARD(CRYSTAL), START_ONE_BIT_1, "crystal-8MHz-up", NEEDS_CRYSTAL, 0},
    LAST_CHOICE};
// ATmega8 to 128, 8515, 8535, ATtiny26. With CKOPT programmed the crystals' ranges all reach up to
// 16 MHz.
static const struct cm_choice OLD_CLOCKS[] = {
    {1, FREE, START_RC, "internal-1MHz", NULL, 1000000},
    {2, FREE, START_RC, "internal-2MHz", NULL, 2000000},
    {3, FREE, START_RC, "internal-4MHz", NULL, 4000000},
    {4, FREE, START_RC, "internal-8MHz", NULL, 8000000},
    {5, BOARD(RC), START_OLD_RC, "rc-0.1-0.9MHz", NEEDS_RC, 0},
    {6, BOARD(RC), START_OLD_RC, "rc-0.9-3MHz", NEEDS_RC, 0},
    {7, BOARD(RC), START_OLD_RC, "rc-3-8MHz", NEEDS_RC, 0},
    {8, BOARD(RC), START_OLD_RC, "rc-8-12MHz", NEEDS_RC, 0},
    {10, BOARD(CRYSTAL), START_CRYSTAL_0, "resonator-0.4-0.9MHz", NEEDS_CRYSTAL, 0},
    {11, BOARD(CRYSTAL), START_CRYSTAL_1, "resonator-0.4-0.9MHz-slow", NEEDS_CRYSTAL, 0},
    {12, BOARD(CRYSTAL), START_CRYSTAL_0, "resonator-0.9-3MHz", NEEDS_CRYSTAL, 0},
    {13, BOARD(CRYSTAL), START_CRYSTAL_1, "crystal-0.9-3MHz", NEEDS_CRYSTAL, 0},
    {14, BOARD(CRYSTAL), START_CRYSTAL_0, "resonator-3MHz-up", NEEDS_CRYSTAL, 0},
    {15, BOARD(CRYSTAL), START_CRYSTAL_1, "crystal-3MHz-up", NEEDS_CRYSTAL, 0},
    LAST_CHOICE};
static const struct cm_choice TINY13_CLOCKS[] = {
    {1, FREE, START_RC, "internal-4.8MHz", NULL, 4800000},
    {2, FREE, START_RC, "internal-9.6MHz", NULL, 9600000},
    LAST_CHOICE};
static const struct cm_choice TINY25_CLOCKS[] = {
    {1, FREE, START_PLL, "internal-16MHz-pll", NULL, 16000000},
    {2, FREE, START_RC, "internal-8MHz", NULL, 8000000},
    {3, FREE, START_RC, "internal-6.4MHz",
     "the timer behaves as an ATtiny15's; the CPU runs at 1.6 MHz", 1600000},
    {4, FREE, START_RC, "internal-128kHz", SLOW, 128000},
    LAST_CHOICE};
static const struct cm_choice TINY2313_CLOCKS[] = {
    {2, FREE, START_RC, "internal-4MHz", NULL, 4000000},
    {4, FREE, START_RC, "internal-8MHz", NULL, 8000000},
    {6, FREE, START_RC, "internal-128kHz", SLOW, 128000},
    LAST_CHOICE};
static const struct cm_choice TINY441_CLOCKS[] = {
    {0, BOARD(CLOCK), START_ONE_BIT, "external-clock", NEEDS_CLOCK, 0},
    {2, FREE, START_ONE_BIT, "internal-8MHz", NULL, 8000000},
    {4, FREE, START_ONE_BIT, "internal-32kHz", SLOW, 32000},
    {6, BOARD(WATCH_CRYSTAL), START_ONE_BIT, "crystal-32kHz", NEEDS_WATCH_CRYSTAL, 32768},
    LAST_CHOICE};
static const struct cm_choice RC32K_AT_3[] = {{3, FREE, START_RC, "internal-32kHz", SLOW, 32000},
                                              LAST_CHOICE};
static const struct cm_choice PWM_PLLS[] = {
    {1, BOARD(CLOCK), START_PLL, "external-clock-pll", NEEDS_CLOCK, 0},
    {3, FREE, START_PLL, "internal-16MHz-pll", NULL, 16000000},
    {4, BOARD(CRYSTAL), START_CRYSTAL_0, "resonator-pll", NEEDS_CRYSTAL, 0},
    {5, BOARD(CRYSTAL), START_CRYSTAL_1, "crystal-pll", NEEDS_CRYSTAL, 0},
    LAST_CHOICE};
// The RC oscillator of the radio parts runs at 16 MHz, and the clock prescaler begins with a
// division by two.
static const struct cm_choice RADIO_CLOCKS[] = {
    {6, BOARD(CRYSTAL), START_CRYSTAL_0, "radio-crystal-6", NEEDS_CRYSTAL, 0},
    {7, BOARD(CRYSTAL), START_CRYSTAL_1, "radio-crystal-7", NEEDS_CRYSTAL, 0},
    {8, BOARD(CRYSTAL), START_CRYSTAL_0, "radio-crystal-8", NEEDS_CRYSTAL, 0},
    {9, BOARD(CRYSTAL), START_CRYSTAL_1, "radio-crystal-9", NEEDS_CRYSTAL, 0},
    {10, BOARD(CRYSTAL), START_CRYSTAL_0, "radio-crystal-10", NEEDS_CRYSTAL, 0},
    {11, BOARD(CRYSTAL), START_CRYSTAL_1, "radio-crystal-11", NEEDS_CRYSTAL, 0},
    {12, BOARD(CRYSTAL), START_CRYSTAL_0, "radio-crystal-12", NEEDS_CRYSTAL, 0},
    {13, BOARD(CRYSTAL), START_CRYSTAL_1, "radio-crystal-13", NEEDS_CRYSTAL, 0},
    {14, BOARD(CRYSTAL), START_CRYSTAL_0, "radio-crystal-14", NEEDS_CRYSTAL, 0},
    {15, BOARD(CRYSTAL), START_CRYSTAL_1, "radio-crystal", NEEDS_CRYSTAL, 0},
    LAST_CHOICE};
// ATmega163 and 323, as they are delivered. Their other clocks are in no sheet at hand: such values
// are shown as bits, and fenced.
static const struct cm_choice EARLY_CLOCKS[] = {
    {2, FREE, START_OLD_RC, "internal-1MHz", NULL, 1000000}, LAST_CHOICE};
// The battery parts have internal oscillators only; how fast the values make them is in no sheet at
// hand.
static const struct cm_choice OSCSELS[] = {{1, FREE, START_BATTERY, "internal-1", NULL, 0},
                                           {2, FREE, START_BATTERY, "internal-2", NULL, 0},
                                           LAST_CHOICE};

// Each row ends with a NULL: six tables at most.
const struct cm_choice *const cm_avr_clock_choices[CM_AVR_CLOCK_COUNT][7] = {
    [CM_AVR_CLOCK_MEGA48] = {EXTERNAL, RC8_AT_2, RC128K_AT_3, WATCH_AT_4_5, FULL_SWING_AT_6_7,
                             CRYSTALS_FROM_8},
    [CM_AVR_CLOCK_OLD_MEGA] = {EXTERNAL, OLD_CLOCKS, WATCH_AT_9},
    [CM_AVR_CLOCK_EARLY] = {EARLY_CLOCKS},
    [CM_AVR_CLOCK_TINY26] = {EXTERNAL, OLD_CLOCKS, WATCH_AT_9},
    [CM_AVR_CLOCK_TINY13] = {EXTERNAL, TINY13_CLOCKS, RC128K_AT_3},
    [CM_AVR_CLOCK_TINY24] = {EXTERNAL, RC8_AT_2, RC128K_AT_4, WATCH_AT_6, CRYSTALS_FROM_8},
    [CM_AVR_CLOCK_TINY25] = {EXTERNAL, TINY25_CLOCKS, WATCH_AT_6, CRYSTALS_FROM_8},
    [CM_AVR_CLOCK_TINY261] = {EXTERNAL, PLL_AT_1, RC8_AT_2, RC128K_AT_3, WATCH_AT_4_TO_7,
                              CRYSTALS_FROM_8},
    [CM_AVR_CLOCK_TINY2313] = {EXTERNAL, TINY2313_CLOCKS, CRYSTALS_FROM_8},
    [CM_AVR_CLOCK_TINY48] = {EXTERNAL, RC8_AT_2, RC128K_AT_3},
    [CM_AVR_CLOCK_TINY87] = {EXTERNAL, RC8_AT_2, RC128K_AT_3, WATCH_AT_4_TO_7, CRYSTALS_FROM_8},
    [CM_AVR_CLOCK_TINY441] = {TINY441_CLOCKS, CRYSTALS_ONE_BIT},
    [CM_AVR_CLOCK_TINY828] = {EXTERNAL, RC8_AT_2, RC32K_AT_3},
    [CM_AVR_CLOCK_CAN] = {EXTERNAL, RC8_AT_2, WATCH_AT_4_TO_7, CRYSTALS_FROM_8},
    [CM_AVR_CLOCK_LCD] = {EXTERNAL, RC8_AT_2, WATCH_AT_6_7, CRYSTALS_FROM_8},
    [CM_AVR_CLOCK_USB] = {EXTERNAL, RC8_AT_2, WATCH_AT_4_5, CRYSTALS_FROM_8},
    [CM_AVR_CLOCK_USB82] = {EXTERNAL, RC8_AT_2, RC128K_AT_3, FULL_SWING_AT_6_7, CRYSTALS_FROM_8},
    [CM_AVR_CLOCK_PWM] = {EXTERNAL, RC8_AT_2, PWM_PLLS, CRYSTALS_FROM_8},
    [CM_AVR_CLOCK_PWM81] = {EXTERNAL, RC8_AT_2,
                            CRYSTALS_FROM_8}, // the rest of their table is not at hand
    [CM_AVR_CLOCK_RADIO] = {EXTERNAL, RC8_AT_2, RC128K_AT_3, RADIO_CLOCKS},
    [CM_AVR_CLOCK_BATTERY] = {OSCSELS},
};

/* --- brown-out levels: BODLEVEL ---------------------------------------------------------- */

static const char HELD[] = "below this supply the chip is held in reset";
static const char NO_WATCH[] = "a falling supply may corrupt the EEPROM";
#define LEVEL(value, word, mv)                                                                     \
    {                                                                                              \
        value, FREE, 0, word, HELD, mv                                                             \
    }
#define NO_LEVEL(value)                                                                            \
    {                                                                                              \
        value, FREE, 0, "off", NO_WATCH, 0                                                         \
    }

static const struct cm_choice LEVELS_OFF[] = {NO_LEVEL(7), LAST_CHOICE};
static const struct cm_choice LEVELS_USUAL[] = {LEVEL(6, "1.8V", 1800), LEVEL(5, "2.7V", 2700),
                                                LEVEL(4, "4.3V", 4300), LAST_CHOICE};
static const struct cm_choice LEVELS_2_BITS[] = {NO_LEVEL(3), LEVEL(2, "1.8V", 1800),
                                                 LEVEL(1, "2.7V", 2700), LEVEL(0, "4.3V", 4300),
                                                 LAST_CHOICE};
static const char WITH_DETECTOR[] =
    "with the detector on, the chip is held in reset below this supply";
static const struct cm_choice LEVELS_1_BIT[] = {{1, FREE, 0, "2.7V", WITH_DETECTOR, 2700},
                                                {0, FREE, 0, "4.0V", WITH_DETECTOR, 4000},
                                                LAST_CHOICE};
static const struct cm_choice LEVELS_TINY25[] = {LEVEL(3, "2.3V", 2300), LEVEL(2, "2.2V", 2200),
                                                 LEVEL(1, "1.9V", 1900), LEVEL(0, "2.0V", 2000),
                                                 LAST_CHOICE};
static const struct cm_choice LEVELS_BODACT[] = {LEVEL(7, "1.8V-as-delivered", 1800), LAST_CHOICE};
static const struct cm_choice LEVELS_CAN[] = {
    LEVEL(6, "4.1V", 4100), LEVEL(5, "4.0V", 4000), LEVEL(4, "3.9V", 3900), LEVEL(3, "3.8V", 3800),
    LEVEL(2, "2.7V", 2700), LEVEL(1, "2.6V", 2600), LEVEL(0, "2.5V", 2500), LAST_CHOICE};
static const struct cm_choice LEVELS_USB[] = {
    LEVEL(6, "2.0V", 2000), LEVEL(5, "2.2V", 2200), LEVEL(4, "2.4V", 2400), LEVEL(3, "2.6V", 2600),
    LEVEL(2, "3.4V", 3400), LEVEL(1, "3.5V", 3500), LEVEL(0, "4.3V", 4300), LAST_CHOICE};
static const struct cm_choice LEVELS_USB82[] = {
    LEVEL(6, "2.7V", 2700), LEVEL(5, "2.9V", 2900), LEVEL(4, "3.0V", 3000), LEVEL(3, "3.5V", 3500),
    LEVEL(2, "3.6V", 3600), LEVEL(1, "4.0V", 4000), LEVEL(0, "4.3V", 4300), LAST_CHOICE};
static const struct cm_choice LEVELS_PWM[] = {
    LEVEL(6, "4.5V", 4500), LEVEL(5, "2.7V", 2700), LEVEL(4, "4.3V", 4300), LEVEL(3, "4.4V", 4400),
    LEVEL(2, "4.2V", 4200), LEVEL(1, "2.8V", 2800), LEVEL(0, "2.6V", 2600), LAST_CHOICE};
static const struct cm_choice LEVELS_RADIO[] = {
    LEVEL(6, "1.8V", 1800), LEVEL(5, "1.9V", 1900), LEVEL(4, "2.0V", 2000), LEVEL(3, "2.1V", 2100),
    LEVEL(2, "2.2V", 2200), LEVEL(1, "2.3V", 2300), LEVEL(0, "2.4V", 2400), LAST_CHOICE};

const struct cm_choice *const cm_avr_level_choices[CM_AVR_BROWN_OUT_COUNT][4] = {
    [CM_AVR_BROWN_OUT_USUAL] = {LEVELS_OFF, LEVELS_USUAL},
    [CM_AVR_BROWN_OUT_TINY25] = {LEVELS_OFF, LEVELS_USUAL, LEVELS_TINY25},
    [CM_AVR_BROWN_OUT_BODACT] = {LEVELS_BODACT, LEVELS_USUAL},
    [CM_AVR_BROWN_OUT_CAN] = {LEVELS_OFF, LEVELS_CAN},
    [CM_AVR_BROWN_OUT_USB] = {LEVELS_OFF, LEVELS_USB},
    [CM_AVR_BROWN_OUT_USB82] = {LEVELS_OFF, LEVELS_USB82},
    [CM_AVR_BROWN_OUT_PWM] = {LEVELS_OFF, LEVELS_PWM},
    [CM_AVR_BROWN_OUT_RADIO] = {LEVELS_OFF, LEVELS_RADIO},
};

/* --- the other fields -------------------------------------------------------------------- */

static const struct cm_choice BOOT_SIZES_1024[] = {{3, FREE, 0, "128-bytes", NULL, 128},
                                                   {2, FREE, 0, "256-bytes", NULL, 256},
                                                   {1, FREE, 0, "512-bytes", NULL, 512},
                                                   {0, FREE, 0, "1024-bytes", NULL, 1024},
                                                   LAST_CHOICE};
static const struct cm_choice BOOT_SIZES_2048[] = {{3, FREE, 0, "256-bytes", NULL, 256},
                                                   {2, FREE, 0, "512-bytes", NULL, 512},
                                                   {1, FREE, 0, "1024-bytes", NULL, 1024},
                                                   {0, FREE, 0, "2048-bytes", NULL, 2048},
                                                   LAST_CHOICE};
static const struct cm_choice BOOT_SIZES_4096[] = {{3, FREE, 0, "512-bytes", NULL, 512},
                                                   {2, FREE, 0, "1024-bytes", NULL, 1024},
                                                   {1, FREE, 0, "2048-bytes", NULL, 2048},
                                                   {0, FREE, 0, "4096-bytes", NULL, 4096},
                                                   LAST_CHOICE};
static const struct cm_choice BOOT_SIZES_8192[] = {{3, FREE, 0, "1024-bytes", NULL, 1024},
                                                   {2, FREE, 0, "2048-bytes", NULL, 2048},
                                                   {1, FREE, 0, "4096-bytes", NULL, 4096},
                                                   {0, FREE, 0, "8192-bytes", NULL, 8192},
                                                   LAST_CHOICE};

static const struct cm_choice DIVIDE[] = {
    {1, FREE, 0, "by-1", NULL, 0},
    {0, FREE, 0, "by-8", "the CPU starts at an eighth of its clock", 0},
    LAST_CHOICE};
static const struct cm_choice CLOCK_OUT[] = {
    {1, FREE, 0, "off", NULL, 0},
    {0, FREE, 0, "on", "a pin puts the clock out and does nothing else", 0},
    LAST_CHOICE};
static const struct cm_choice SWING[] = {
    {1, FREE, 0, "small", NULL, 0},
    {0, FREE, 0, "full", "for crystals up to 16 MHz; not for the internal clock", 0},
    LAST_CHOICE};
static const struct cm_choice OFF_ON[] = {
    {1, FREE, 0, "off", NULL, 0}, {0, FREE, 0, "on", NULL, 0}, LAST_CHOICE};
static const struct cm_choice ON_PLL[] = {
    {1, FREE, 0, "off", NULL, 0},
    {0, FREE, 0, "on", "goes with clock=internal-1MHz only, and makes it 16 MHz", 0},
    LAST_CHOICE};
static const struct cm_choice DETECTOR[] = {
    {1, FREE, 0, "off", NO_WATCH, 0}, {0, FREE, 0, "on", NULL, 0}, LAST_CHOICE};
static const struct cm_choice DETECTOR_MODES[] = {{3, FREE, 0, "off", NO_WATCH, 0},
                                                  {2, FREE, 0, "on", NULL, 0},
                                                  {1, FREE, 0, "sampled", NULL, 0},
                                                  LAST_CHOICE};
static const struct cm_choice WATCHDOG[] = {
    {1, FREE, 0, "by-program", NULL, 0},
    {0, FREE, 0, "always-on", "a program that does not tend to it is reset again and again", 0},
    LAST_CHOICE};
static const struct cm_choice ON_ERASE[] = {
    {1, FREE, 0, "cleared", NULL, 0},
    {0, FREE, 0, "kept", "the eeprom outlives a chip erase", 0},
    LAST_CHOICE};
static const struct cm_choice SERIAL[] = {{0, FREE, 0, "on", NULL, 0},
                                          {1, CM_FENCE_NOT_HERE, CM_SOURCE_NONE, 0, "off",
                                           "the chip would no longer listen to these pins", 0},
                                          LAST_CHOICE};
static const struct cm_choice DEBUG_WIRE[] = {
    {1, FREE, 0, "off", NULL, 0},
    {0, CM_FENCE_ENDS_ACCESS, CM_SOURCE_NONE, 0, "on",
     "the reset pin becomes the debugger's, and these pins are dead until a debugger releases them",
     0},
    LAST_CHOICE};
static const struct cm_choice RESET_PIN[] = {
    {1, FREE, 0, "reset", NULL, 0},
    {0, CM_FENCE_ENDS_ACCESS, CM_SOURCE_NONE, 0, "io",
     "only a high-voltage programmer can open the chip again", 0},
    LAST_CHOICE};
static const struct cm_choice JTAG[] = {
    {1, FREE, 0, "off", NULL, 0},
    {0, FREE, 0, "on", "four pins belong to JTAG, unless the program turns it off", 0},
    LAST_CHOICE};
static const struct cm_choice ON_CHIP_DEBUG[] = {
    {1, FREE, 0, "off", NULL, 0},
    {0, FREE, 0, "on", "some clocks run in all sleep modes, which takes current", 0},
    LAST_CHOICE};
static const struct cm_choice BOOT_RESET[] = {
    {1, FREE, 0, "application", NULL, 0},
    {0, FREE, 0, "boot-section", "the chip starts in its boot section: a loader must be there", 0},
    LAST_CHOICE};
static const struct cm_choice HARDWARE_BOOT[] = {
    {1, FREE, 0, "off", NULL, 0},
    {0, FREE, 0, "on", "the HWB pin held low at reset starts the boot section", 0},
    LAST_CHOICE};
static const struct cm_choice AS_OLD_PART[] = {
    {1, FREE, 0, "off", NULL, 0},
    {0, FREE, 0, "on", "the chip behaves as its forerunner, and new features are gone", 0},
    LAST_CHOICE};
static const struct cm_choice PIN_LEVEL[] = {
    {1, FREE, 0, "high", NULL, 0}, {0, FREE, 0, "low", NULL, 0}, LAST_CHOICE};
static const struct cm_choice PIN_AFTER_RESET[] = {
    {1, FREE, 0, "as-port", NULL, 0},
    {0, FREE, 0, "at-reset-level", "the outputs take psc-reset-level while in reset", 0},
    LAST_CHOICE};
static const struct cm_choice ULTRA_LOW_POWER[] = {
    {7, FREE, 0, "32kHz", NULL, 32000},   {6, FREE, 0, "64kHz", NULL, 64000},
    {5, FREE, 0, "128kHz", NULL, 128000}, {4, FREE, 0, "256kHz", NULL, 256000},
    {3, FREE, 0, "512kHz", NULL, 512000}, LAST_CHOICE};
#define LOCKS CM_FENCE_LOCKS, CM_SOURCE_NONE
static const struct cm_choice MEMORY_LOCK[] = {
    {3, FREE, 0, "open", NULL, 0},
    {2, LOCKS, 0, "no-writing", "only a chip erase lets flash, eeprom and fuses be written again",
     0},
    {0, LOCKS, 0, "no-writing-or-reading",
     "only a chip erase opens it, and nothing can be read back before", 0},
    LAST_CHOICE};
static const struct cm_choice SECTION_LOCK[] = {
    {3, FREE, 0, "open", NULL, 0},
    {2, LOCKS, 0, "no-writing",
     "the chip's own code cannot write there; only a chip erase opens it", 0},
    {0, LOCKS, 0, "no-writing-or-reading",
     "the chip's own code can neither write nor read there; only a chip erase opens it", 0},
    {1, LOCKS, 0, "no-reading",
     "the other section's code cannot read there; only a chip erase opens it", 0},
    LAST_CHOICE};

#define ONE(table)                                                                                 \
    (const struct cm_choice *const[])                                                              \
    {                                                                                              \
        table, NULL                                                                                \
    }

const struct cm_avr_field cm_avr_fields[CM_AVR_FIELD_COUNT] = {
    {"clock", "CKSEL", NULL},
    {"clock", "OSCSEL", NULL},
    {"pll", "PLLCK", ONE(ON_PLL)}, // before what hangs on it
    {"start-up", "SUT", NULL},
    {"clock-divide", "CKDIV", ONE(DIVIDE)},
    {"clock-out", "CKOUT", ONE(CLOCK_OUT)},
    {"oscillator-swing", "CKOPT", ONE(SWING)},
    {"ultra-low-power-clock", "ULPOSCSEL", ONE(ULTRA_LOW_POWER)},
    {"brown-out-detector", "BODEN", ONE(DETECTOR)},
    {"brown-out", "BODLEVEL", NULL},
    {"brown-out-awake", "BODACT", ONE(DETECTOR_MODES)},
    {"brown-out-asleep", "BODPD", ONE(DETECTOR_MODES)},
    {"watchdog", "WDTON", ONE(WATCHDOG)},
    {"eeprom-on-erase", "EESAVE", ONE(ON_ERASE)},
    {"boot-size", "BOOTSZ", NULL},
    {"boot-reset", "BOOTRST", ONE(BOOT_RESET)},
    {"hardware-boot", "HWBE", ONE(HARDWARE_BOOT)},
    {"self-programming", "SELFPRGEN", ONE(OFF_ON)},
    {"reset-pin", "RSTDISBL", ONE(RESET_PIN)},
    {"serial-programming", "SPIEN", ONE(SERIAL)},
    {"debug-wire", "DWEN", ONE(DEBUG_WIRE)},
    {"jtag", "JTAGEN", ONE(JTAG)},
    {"on-chip-debug", "OCDEN", ONE(ON_CHIP_DEBUG)},
    {"as-atmega103", "M103C", ONE(AS_OLD_PART)},
    {"as-atmega161", "M161C", ONE(AS_OLD_PART)},
    {"as-at90s8515", "S8515C", ONE(AS_OLD_PART)},
    {"as-at90s8535", "S8535C", ONE(AS_OLD_PART)},
    {"psc-reset-level", "PSCRV", ONE(PIN_LEVEL)},
    {"psc-a-reset-level", "PSCRVA", ONE(PIN_LEVEL)},
    {"psc-b-reset-level", "PSCRVB", ONE(PIN_LEVEL)},
    {"psc-in-reset", "PSCRB", ONE(PIN_AFTER_RESET)},
    {"psc-input-in-reset", "PSCINRB", ONE(PIN_AFTER_RESET)},
    {"psc0-in-reset", "PSC0RB", ONE(PIN_AFTER_RESET)},
    {"psc1-in-reset", "PSC1RB", ONE(PIN_AFTER_RESET)},
    {"psc2-in-reset", "PSC2RB", ONE(PIN_AFTER_RESET)},
    {"psc2a-in-reset", "PSC2RBA", ONE(PIN_AFTER_RESET)},
};

/* The lock byte's fields are the same in all parts; the last two only where there is a boot
 * section. */
const struct cm_setting cm_avr_lock_settings[CM_AVR_LOCK_FIELDS] = {
    {"memory-lock", "LB", 0, 0x03, ONE(MEMORY_LOCK)},
    {"application-lock", "BLB0", 0, 0x0C, ONE(SECTION_LOCK)},
    {"boot-lock", "BLB1", 0, 0x30, ONE(SECTION_LOCK)},
};

/* BOOTSZ, by the largest boot section: 1024 << index. */
const struct cm_choice *const cm_avr_boot_choices[4][2] = {
    {BOOT_SIZES_1024}, {BOOT_SIZES_2048}, {BOOT_SIZES_4096}, {BOOT_SIZES_8192}};

const struct cm_choice *const cm_avr_level_1_bit[2] = {LEVELS_1_BIT},
                              *const cm_avr_level_2_bits[2] = {LEVELS_2_BITS};

const struct cm_choice *const cm_avr_start_choices[START_COUNT][2] = {
    {START_TABLES[START_RC]},        {START_TABLES[START_CRYSTAL_0]},
    {START_TABLES[START_CRYSTAL_1]}, {START_TABLES[START_WATCH]},
    {START_TABLES[START_WATCH_SUT]}, {START_TABLES[START_OLD_RC]},
    {START_TABLES[START_PLL]},       {START_TABLES[START_PLL_26]},
    {START_TABLES[START_ONE_BIT]},   {START_TABLES[START_ONE_BIT_0]},
    {START_TABLES[START_ONE_BIT_1]}, {START_TABLES[START_BATTERY]}};
