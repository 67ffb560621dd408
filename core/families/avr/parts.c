/*
 * The AVR parts with a 4-wire serial programming mode, a row a part. Each row is an object of its own: a build
 * that names only some of them carries only those (link with --gc-sections).
 */
/* Written by tools/avr-parts.py from avr-libc's device headers; change the script, not this file. */
#include "parts.h"

// clang-format off
// Names of a fuse byte's bits, from bit 0 up; shared by all parts that have such a byte.
static const char BITS_0[] = "- BODLEVEL0 BODLEVEL1 - - - - -";
static const char BITS_1[] = "- BODLEVEL0 BODLEVEL1 BODLEVEL2 - - - -";
static const char BITS_2[] = "- BODLEVEL0 BODLEVEL1 BODLEVEL2 M161C - - -";
static const char BITS_3[] = "BODEN BODLEVEL EESAVE SPIEN RSTDISBL - - -";
static const char BITS_4[] = "BODLEVEL0 BODLEVEL1 BODLEVEL2 - - - - -";
static const char BITS_5[] = "BODLEVEL0 BODLEVEL1 BODLEVEL2 EESAVE WDTON SPIEN DWEN RSTDISBL";
static const char BITS_6[] = "BODLEVEL0 BODLEVEL1 BODLEVEL2 HWBE - - - -";
static const char BITS_7[] = "BODLEVEL0 BODLEVEL1 BODLEVEL2 PSCINRB PSCRV PSC0RB PSC2RBA PSC2RB";
static const char BITS_8[] = "BODLEVEL0 BODLEVEL1 BODLEVEL2 PSCRVB PSCRVA PSCRB - -";
static const char BITS_9[] = "BOOTRST BOOTSZ0 BOOTSZ1 - - - - -";
static const char BITS_10[] = "BOOTRST BOOTSZ0 BOOTSZ1 - BODACT0 BODACT1 BODPD0 BODPD1";
static const char BITS_11[] = "BOOTRST BOOTSZ0 BOOTSZ1 - PSCRV PSC0RB - PSC2RB";
static const char BITS_12[] = "BOOTRST BOOTSZ0 BOOTSZ1 - PSCRV PSC0RB PSC1RB PSC2RB";
static const char BITS_13[] = "BOOTRST BOOTSZ0 BOOTSZ1 DWEN - - - -";
static const char BITS_14[] = "BOOTRST BOOTSZ0 BOOTSZ1 DWEN CKDIV - - -";
static const char BITS_15[] = "BOOTRST BOOTSZ0 BOOTSZ1 EESAVE - SPIEN JTAGEN OCDEN";
static const char BITS_16[] = "BOOTRST BOOTSZ0 BOOTSZ1 EESAVE CKOPT SPIEN JTAGEN OCDEN";
static const char BITS_17[] = "BOOTRST BOOTSZ0 BOOTSZ1 EESAVE CKOPT SPIEN WDTON RSTDISBL";
static const char BITS_18[] = "BOOTRST BOOTSZ0 BOOTSZ1 EESAVE CKOPT SPIEN WDTON S8515C";
static const char BITS_19[] = "BOOTRST BOOTSZ0 BOOTSZ1 EESAVE CKOPT SPIEN WDTON S8535C";
static const char BITS_20[] = "BOOTRST BOOTSZ0 BOOTSZ1 EESAVE WDTON SPIEN DWEN RSTDISBL";
static const char BITS_21[] = "BOOTRST BOOTSZ0 BOOTSZ1 EESAVE WDTON SPIEN JTAGEN OCDEN";
static const char BITS_22[] = "BOOTRST BOOTSZ0 BOOTSZ1 EESAVE WDTON SPIEN RSTDISBL DWEN";
static const char BITS_23[] = "CKSEL0 CKSEL1 - - SUT0 SUT1 CKOUT CKDIV8";
static const char BITS_24[] = "CKSEL0 CKSEL1 CKSEL2 CKSEL3 - - BODEN BODLEVEL";
static const char BITS_25[] = "CKSEL0 CKSEL1 CKSEL2 CKSEL3 - SPIEN BODEN BODLEVEL";
static const char BITS_26[] = "CKSEL0 CKSEL1 CKSEL2 CKSEL3 SUT0 - CKOUT CKDIV8";
static const char BITS_27[] = "CKSEL0 CKSEL1 CKSEL2 CKSEL3 SUT0 SUT1 BODEN BODLEVEL";
static const char BITS_28[] = "CKSEL0 CKSEL1 CKSEL2 CKSEL3 SUT0 SUT1 CKOPT PLLCK";
static const char BITS_29[] = "CKSEL0 CKSEL1 CKSEL2 CKSEL3 SUT0 SUT1 CKOUT CKDIV8";
static const char BITS_30[] = "CKSEL0 CKSEL1 SUT0 SUT1 CKDIV8 WDTON EESAVE SPIEN";
static const char BITS_31[] = "OSCSEL0 OSCSEL1 SUT0 SUT1 SUT2 SPIEN EESAVE WDTON";
static const char BITS_32[] = "OSCSEL0 SUT0 SUT1 CKDIV8 BODEN SPIEN EESAVE WDTON";
static const char BITS_33[] = "RSTDISBL BODLEVEL0 BODLEVEL1 - - - - -";
static const char BITS_34[] = "RSTDISBL BODLEVEL0 BODLEVEL1 BODLEVEL2 - - - -";
static const char BITS_35[] = "RSTDISBL BODLEVEL0 BODLEVEL1 BODLEVEL2 WDTON SPIEN EESAVE DWEN";
static const char BITS_36[] = "RSTDISBL BODLEVEL0 BODLEVEL1 DWEN SELFPRGEN - - -";
static const char BITS_37[] = "SELFPRGEN - - - - - - -";
static const char BITS_38[] = "SELFPRGEN BODACT0 BODACT1 BODPD0 BODPD1 - - -";
static const char BITS_39[] = "SELFPRGEN BODACT0 BODACT1 BODPD0 BODPD1 ULPOSCSEL0 ULPOSCSEL1 ULPOSCSEL2";
static const char BITS_40[] = "SUT0 SUT1 SUT2 SELFPRGEN DWEN SPIEN EESAVE WDTON";
static const char BITS_41[] = "WDTON M103C - - - - - -";

const struct cm_avr_part cm_at90can128 = {
    .part = {.name = "at90can128", .id = {0x1E, 0x97, 0x81}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 131072, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x0E}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_CAN, .brown_out = CM_AVR_BROWN_OUT_CAN,
    .fuse_bits = {BITS_29, BITS_21, BITS_1},
};

const struct cm_avr_part cm_at90can32 = {
    .part = {.name = "at90can32", .id = {0x1E, 0x95, 0x81}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x0E}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_CAN, .brown_out = CM_AVR_BROWN_OUT_CAN,
    .fuse_bits = {BITS_29, BITS_21, BITS_1},
};

const struct cm_avr_part cm_at90can64 = {
    .part = {.name = "at90can64", .id = {0x1E, 0x96, 0x81}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x0E}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_CAN, .brown_out = CM_AVR_BROWN_OUT_CAN,
    .fuse_bits = {BITS_29, BITS_21, BITS_1},
};

const struct cm_avr_part cm_at90pwm1 = {
    .part = {.name = "at90pwm1", .id = {0x1E, 0x93, 0x83}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0xB7}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_PWM, .brown_out = CM_AVR_BROWN_OUT_PWM,
    .fuse_bits = {BITS_29, BITS_5, BITS_11},
};

const struct cm_avr_part cm_at90pwm161 = {
    .part = {.name = "at90pwm161", .id = {0x1E, 0x94, 0x8B}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xD9, 0xFD},
    .fuse_mask = {0xFF, 0xFF, 0xFF}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_PWM81, .brown_out = CM_AVR_BROWN_OUT_PWM,
    .fuse_bits = {BITS_29, BITS_20, BITS_7},
};

const struct cm_avr_part cm_at90pwm2 = {
    .part = {.name = "at90pwm2", .id = {0x1E, 0x93, 0x81}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0xF7}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_PWM, .brown_out = CM_AVR_BROWN_OUT_PWM,
    .fuse_bits = {BITS_29, BITS_5, BITS_12},
};

const struct cm_avr_part cm_at90pwm216 = {
    .part = {.name = "at90pwm216", .id = {0x1E, 0x94, 0x83}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0xF7}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_PWM, .brown_out = CM_AVR_BROWN_OUT_PWM,
    .fuse_bits = {BITS_29, BITS_5, BITS_12},
};

const struct cm_avr_part cm_at90pwm2b = {
    .part = {.name = "at90pwm2b", .id = {0x1E, 0x93, 0x83}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0xF7}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_PWM, .brown_out = CM_AVR_BROWN_OUT_PWM,
    .fuse_bits = {BITS_29, BITS_5, BITS_12},
};

const struct cm_avr_part cm_at90pwm3 = {
    .part = {.name = "at90pwm3", .id = {0x1E, 0x93, 0x81}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0xF7}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_PWM, .brown_out = CM_AVR_BROWN_OUT_PWM,
    .fuse_bits = {BITS_29, BITS_5, BITS_12},
};

const struct cm_avr_part cm_at90pwm316 = {
    .part = {.name = "at90pwm316", .id = {0x1E, 0x94, 0x83}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0xF7}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_PWM, .brown_out = CM_AVR_BROWN_OUT_PWM,
    .fuse_bits = {BITS_29, BITS_5, BITS_12},
};

const struct cm_avr_part cm_at90pwm3b = {
    .part = {.name = "at90pwm3b", .id = {0x1E, 0x93, 0x83}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0xF7}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_PWM, .brown_out = CM_AVR_BROWN_OUT_PWM,
    .fuse_bits = {BITS_29, BITS_5, BITS_12},
};

const struct cm_avr_part cm_at90pwm81 = {
    .part = {.name = "at90pwm81", .id = {0x1E, 0x93, 0x88}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xD9, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0xFF}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_PWM81, .brown_out = CM_AVR_BROWN_OUT_PWM,
    .fuse_bits = {BITS_29, BITS_20, BITS_7},
};

const struct cm_avr_part cm_at90s1200 = {
    .part = {.name = "at90s1200", .id = {0x1E, 0x90, 0x01}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 6000},
    .generation = CM_AVR_CLASSIC, .times = &cm_avr_times_classic,
    .flash_bytes = 1024, .flash_page_bytes = 0, .boot_max_bytes = 0,
    .eeprom_bytes = 64, .eeprom_page_bytes = 0,
    .calibration_bytes = 0, .fuse_bytes = 0,
};

const struct cm_avr_part cm_at90s2313 = {
    .part = {.name = "at90s2313", .id = {0x1E, 0x91, 0x01}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 6000},
    .generation = CM_AVR_CLASSIC, .times = &cm_avr_times_classic,
    .flash_bytes = 2048, .flash_page_bytes = 0, .boot_max_bytes = 0,
    .eeprom_bytes = 128, .eeprom_page_bytes = 0,
    .calibration_bytes = 0, .fuse_bytes = 0,
};

const struct cm_avr_part cm_at90s2323 = {
    .part = {.name = "at90s2323", .id = {0x1E, 0x91, 0x02}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 6000},
    .generation = CM_AVR_CLASSIC, .times = &cm_avr_times_classic,
    .flash_bytes = 2048, .flash_page_bytes = 0, .boot_max_bytes = 0,
    .eeprom_bytes = 128, .eeprom_page_bytes = 0,
    .calibration_bytes = 0, .fuse_bytes = 0,
};

const struct cm_avr_part cm_at90s2343 = {
    .part = {.name = "at90s2343", .id = {0x1E, 0x91, 0x03}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 6000},
    .generation = CM_AVR_CLASSIC, .times = &cm_avr_times_classic,
    .flash_bytes = 2048, .flash_page_bytes = 0, .boot_max_bytes = 0,
    .eeprom_bytes = 128, .eeprom_page_bytes = 0,
    .calibration_bytes = 0, .fuse_bytes = 0,
};

const struct cm_avr_part cm_at90s4414 = {
    .part = {.name = "at90s4414", .id = {0x1E, 0x92, 0x01}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 6000},
    .generation = CM_AVR_CLASSIC, .times = &cm_avr_times_classic,
    .flash_bytes = 4096, .flash_page_bytes = 0, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 0,
    .calibration_bytes = 0, .fuse_bytes = 0,
};

const struct cm_avr_part cm_at90s4433 = {
    .part = {.name = "at90s4433", .id = {0x1E, 0x92, 0x03}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 6000},
    .generation = CM_AVR_CLASSIC, .times = &cm_avr_times_classic,
    .flash_bytes = 4096, .flash_page_bytes = 0, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 0,
    .calibration_bytes = 0, .fuse_bytes = 0,
};

const struct cm_avr_part cm_at90s4434 = {
    .part = {.name = "at90s4434", .id = {0x1E, 0x92, 0x02}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 6000},
    .generation = CM_AVR_CLASSIC, .times = &cm_avr_times_classic,
    .flash_bytes = 4096, .flash_page_bytes = 0, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 0,
    .calibration_bytes = 0, .fuse_bytes = 0,
};

const struct cm_avr_part cm_at90s8515 = {
    .part = {.name = "at90s8515", .id = {0x1E, 0x93, 0x01}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 6000},
    .generation = CM_AVR_CLASSIC, .times = &cm_avr_times_classic,
    .flash_bytes = 8192, .flash_page_bytes = 0, .boot_max_bytes = 0,
    .eeprom_bytes = 512, .eeprom_page_bytes = 0,
    .calibration_bytes = 0, .fuse_bytes = 0,
};

const struct cm_avr_part cm_at90s8535 = {
    .part = {.name = "at90s8535", .id = {0x1E, 0x93, 0x03}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 6000},
    .generation = CM_AVR_CLASSIC, .times = &cm_avr_times_classic,
    .flash_bytes = 8192, .flash_page_bytes = 0, .boot_max_bytes = 0,
    .eeprom_bytes = 512, .eeprom_page_bytes = 0,
    .calibration_bytes = 0, .fuse_bytes = 0,
};

const struct cm_avr_part cm_at90usb1286 = {
    .part = {.name = "at90usb1286", .id = {0x1E, 0x97, 0x82}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 131072, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xF3},
    .fuse_mask = {0xFF, 0xFF, 0x0F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_USB, .brown_out = CM_AVR_BROWN_OUT_USB,
    .fuse_bits = {BITS_29, BITS_21, BITS_6},
};

const struct cm_avr_part cm_at90usb1287 = {
    .part = {.name = "at90usb1287", .id = {0x1E, 0x97, 0x82}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 131072, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xF3},
    .fuse_mask = {0xFF, 0xFF, 0x0F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_USB, .brown_out = CM_AVR_BROWN_OUT_USB,
    .fuse_bits = {BITS_29, BITS_21, BITS_6},
};

const struct cm_avr_part cm_at90usb162 = {
    .part = {.name = "at90usb162", .id = {0x1E, 0x94, 0x82}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x5E, 0xD9, 0xF4},
    .fuse_mask = {0xFF, 0xFF, 0x0F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_USB82, .brown_out = CM_AVR_BROWN_OUT_USB82,
    .fuse_bits = {BITS_29, BITS_22, BITS_6},
};

const struct cm_avr_part cm_at90usb646 = {
    .part = {.name = "at90usb646", .id = {0x1E, 0x96, 0x82}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xF3},
    .fuse_mask = {0xFF, 0xFF, 0x0F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_USB, .brown_out = CM_AVR_BROWN_OUT_USB,
    .fuse_bits = {BITS_29, BITS_21, BITS_6},
};

const struct cm_avr_part cm_at90usb647 = {
    .part = {.name = "at90usb647", .id = {0x1E, 0x96, 0x82}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xF3},
    .fuse_mask = {0xFF, 0xFF, 0x0F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_USB, .brown_out = CM_AVR_BROWN_OUT_USB,
    .fuse_bits = {BITS_29, BITS_21, BITS_6},
};

const struct cm_avr_part cm_at90usb82 = {
    .part = {.name = "at90usb82", .id = {0x1E, 0x93, 0x82}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x5E, 0xD9, 0xF4},
    .fuse_mask = {0xFF, 0xFF, 0x0F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_USB82, .brown_out = CM_AVR_BROWN_OUT_USB82,
    .fuse_bits = {BITS_29, BITS_22, BITS_6},
};

const struct cm_avr_part cm_ata5272 = {
    .part = {.name = "ata5272", .id = {0x1E, 0x93, 0x87}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 128, .boot_max_bytes = 0,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY87, .brown_out = CM_AVR_BROWN_OUT_TINY25,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_ata5505 = {
    .part = {.name = "ata5505", .id = {0x1E, 0x94, 0x87}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 0,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY87, .brown_out = CM_AVR_BROWN_OUT_TINY25,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_ata6612c = {
    .part = {.name = "ata6612c", .id = {0x1E, 0x93, 0x0A}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_9},
};

const struct cm_avr_part cm_ata6613c = {
    .part = {.name = "ata6613c", .id = {0x1E, 0x94, 0x06}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_9},
};

const struct cm_avr_part cm_ata6614q = {
    .part = {.name = "ata6614q", .id = {0x1E, 0x95, 0x0F}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xD9, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_20, BITS_4},
};

const struct cm_avr_part cm_ata6616c = {
    .part = {.name = "ata6616c", .id = {0x1E, 0x93, 0x87}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 128, .boot_max_bytes = 0,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY87, .brown_out = CM_AVR_BROWN_OUT_TINY25,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_ata6617c = {
    .part = {.name = "ata6617c", .id = {0x1E, 0x94, 0x87}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 0,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY87, .brown_out = CM_AVR_BROWN_OUT_TINY25,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_ata664251 = {
    .part = {.name = "ata664251", .id = {0x1E, 0x94, 0x87}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 0,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY87, .brown_out = CM_AVR_BROWN_OUT_TINY25,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_atmega103 = {
    .part = {.name = "atmega103", .id = {0x1E, 0x97, 0x01}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_EARLY_PAGED, .times = &cm_avr_times_mega103,
    .flash_bytes = 131072, .flash_page_bytes = 256, .boot_max_bytes = 0,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 0,
    .calibration_bytes = 0, .fuse_bytes = 0,
};

const struct cm_avr_part cm_atmega128 = {
    .part = {.name = "atmega128", .id = {0x1E, 0x97, 0x02}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_PAGED, .times = &cm_avr_times_paged,
    .flash_bytes = 131072, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 0,
    .calibration_bytes = 4, .fuse_bytes = 3,
    .fuse_default = {0xE1, 0x99, 0xFD},
    .fuse_mask = {0xFF, 0xFF, 0x03}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_OLD_MEGA, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_27, BITS_16, BITS_41},
};

const struct cm_avr_part cm_atmega1280 = {
    .part = {.name = "atmega1280", .id = {0x1E, 0x97, 0x03}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 131072, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega1281 = {
    .part = {.name = "atmega1281", .id = {0x1E, 0x97, 0x04}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 131072, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega1284 = {
    .part = {.name = "atmega1284", .id = {0x1E, 0x97, 0x06}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 131072, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega1284p = {
    .part = {.name = "atmega1284p", .id = {0x1E, 0x97, 0x05}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 131072, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega1284rfr2 = {
    .part = {.name = "atmega1284rfr2", .id = {0x1E, 0xA7, 0x03}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 3600},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 131072, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFE},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_RADIO, .brown_out = CM_AVR_BROWN_OUT_RADIO,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega128a = {
    .part = {.name = "atmega128a", .id = {0x1E, 0x97, 0x02}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_PAGED, .times = &cm_avr_times_paged,
    .flash_bytes = 131072, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 0,
    .calibration_bytes = 4, .fuse_bytes = 3,
    .fuse_default = {0xE1, 0x99, 0xFD},
    .fuse_mask = {0xFF, 0xFF, 0x03}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_OLD_MEGA, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_27, BITS_16, BITS_41},
};

const struct cm_avr_part cm_atmega128rfa1 = {
    .part = {.name = "atmega128rfa1", .id = {0x1E, 0xA7, 0x01}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 3600},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 131072, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFE},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_RADIO, .brown_out = CM_AVR_BROWN_OUT_RADIO,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega128rfr2 = {
    .part = {.name = "atmega128rfr2", .id = {0x1E, 0xA7, 0x02}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 3600},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 131072, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFE},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_RADIO, .brown_out = CM_AVR_BROWN_OUT_RADIO,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega16 = {
    .part = {.name = "atmega16", .id = {0x1E, 0x94, 0x03}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_PAGED, .times = &cm_avr_times_paged,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 0,
    .calibration_bytes = 4, .fuse_bytes = 2,
    .fuse_default = {0xE1, 0x99},
    .fuse_mask = {0xFF, 0xFF}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_OLD_MEGA, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_27, BITS_16},
};

const struct cm_avr_part cm_atmega161 = {
    .part = {.name = "atmega161", .id = {0x1E, 0x94, 0x01}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_EARLY_PAGED, .times = &cm_avr_times_early_paged,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 1024,
    .eeprom_bytes = 512, .eeprom_page_bytes = 0,
    .calibration_bytes = 0, .fuse_bytes = 0,
};

const struct cm_avr_part cm_atmega162 = {
    .part = {.name = "atmega162", .id = {0x1E, 0x94, 0x04}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_PAGED, .times = &cm_avr_times_paged,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 0,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x1E}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_CAN, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_2},
};

const struct cm_avr_part cm_atmega163 = {
    .part = {.name = "atmega163", .id = {0x1E, 0x94, 0x02}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_EARLY_PAGED, .times = &cm_avr_times_early_paged,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 0,
    .calibration_bytes = 1, .fuse_bytes = 2,
    .fuse_default = {0xD2, 0xFF},
    .fuse_mask = {0xEF, 0x07}, .eesave_byte = 0, .eesave_mask = 0x00,
    .clock = CM_AVR_CLOCK_EARLY, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_25, BITS_9},
};

const struct cm_avr_part cm_atmega164a = {
    .part = {.name = "atmega164a", .id = {0x1E, 0x94, 0x0F}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega164p = {
    .part = {.name = "atmega164p", .id = {0x1E, 0x94, 0x0A}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega164pa = {
    .part = {.name = "atmega164pa", .id = {0x1E, 0x94, 0x0A}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega165 = {
    .part = {.name = "atmega165", .id = {0x1E, 0x94, 0x05}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x0E}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_1},
};

const struct cm_avr_part cm_atmega165a = {
    .part = {.name = "atmega165a", .id = {0x1E, 0x94, 0x10}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x0F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_34},
};

const struct cm_avr_part cm_atmega165p = {
    .part = {.name = "atmega165p", .id = {0x1E, 0x94, 0x07}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x0E}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_1},
};

const struct cm_avr_part cm_atmega165pa = {
    .part = {.name = "atmega165pa", .id = {0x1E, 0x94, 0x07}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x0F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_34},
};

const struct cm_avr_part cm_atmega168 = {
    .part = {.name = "atmega168", .id = {0x1E, 0x94, 0x06}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_9},
};

const struct cm_avr_part cm_atmega168a = {
    .part = {.name = "atmega168a", .id = {0x1E, 0x94, 0x06}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_9},
};

const struct cm_avr_part cm_atmega168p = {
    .part = {.name = "atmega168p", .id = {0x1E, 0x94, 0x0B}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_9},
};

const struct cm_avr_part cm_atmega168pa = {
    .part = {.name = "atmega168pa", .id = {0x1E, 0x94, 0x0B}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_9},
};

const struct cm_avr_part cm_atmega168pb = {
    .part = {.name = "atmega168pb", .id = {0x1E, 0x94, 0x15}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_9},
};

const struct cm_avr_part cm_atmega169 = {
    .part = {.name = "atmega169", .id = {0x1E, 0x94, 0x05}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x0E}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_1},
};

const struct cm_avr_part cm_atmega169a = {
    .part = {.name = "atmega169a", .id = {0x1E, 0x94, 0x11}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x0E}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_1},
};

const struct cm_avr_part cm_atmega169p = {
    .part = {.name = "atmega169p", .id = {0x1E, 0x94, 0x05}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x0E}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_1},
};

const struct cm_avr_part cm_atmega169pa = {
    .part = {.name = "atmega169pa", .id = {0x1E, 0x94, 0x05}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x0F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_34},
};

const struct cm_avr_part cm_atmega16a = {
    .part = {.name = "atmega16a", .id = {0x1E, 0x94, 0x03}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_PAGED, .times = &cm_avr_times_paged,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 0,
    .calibration_bytes = 4, .fuse_bytes = 2,
    .fuse_default = {0xC1, 0x99},
    .fuse_mask = {0xFF, 0xFF}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_OLD_MEGA, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_27, BITS_16},
};

const struct cm_avr_part cm_atmega16hva = {
    .part = {.name = "atmega16hva", .id = {0x1E, 0x94, 0x0C}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 1,
    .fuse_default = {0xDF},
    .fuse_mask = {0xFF}, .eesave_byte = 0, .eesave_mask = 0x40,
    .clock = CM_AVR_CLOCK_BATTERY, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_40},
};

const struct cm_avr_part cm_atmega16hvb = {
    .part = {.name = "atmega16hvb", .id = {0x1E, 0x94, 0x0D}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 2,
    .fuse_default = {0xDE, 0xE9},
    .fuse_mask = {0xFF, 0x1F}, .eesave_byte = 0, .eesave_mask = 0x40,
    .clock = CM_AVR_CLOCK_BATTERY, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_31, BITS_14},
};

const struct cm_avr_part cm_atmega16m1 = {
    .part = {.name = "atmega16m1", .id = {0x1E, 0x94, 0x84}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xD9, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x3F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_PWM, .brown_out = CM_AVR_BROWN_OUT_PWM,
    .fuse_bits = {BITS_29, BITS_20, BITS_8},
};

const struct cm_avr_part cm_atmega16u2 = {
    .part = {.name = "atmega16u2", .id = {0x1E, 0x94, 0x89}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x5E, 0xD9, 0xF4},
    .fuse_mask = {0xFF, 0xFF, 0x0F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_USB82, .brown_out = CM_AVR_BROWN_OUT_USB82,
    .fuse_bits = {BITS_29, BITS_22, BITS_6},
};

const struct cm_avr_part cm_atmega16u4 = {
    .part = {.name = "atmega16u4", .id = {0x1E, 0x94, 0x88}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x5E, 0x99, 0xF3},
    .fuse_mask = {0xFF, 0xFF, 0x0F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_USB, .brown_out = CM_AVR_BROWN_OUT_USB,
    .fuse_bits = {BITS_29, BITS_21, BITS_6},
};

const struct cm_avr_part cm_atmega2560 = {
    .part = {.name = "atmega2560", .id = {0x1E, 0x98, 0x01}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 262144, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega2561 = {
    .part = {.name = "atmega2561", .id = {0x1E, 0x98, 0x02}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 262144, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega2564rfr2 = {
    .part = {.name = "atmega2564rfr2", .id = {0x1E, 0xA8, 0x03}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 3600},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 262144, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 8192, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFE},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_RADIO, .brown_out = CM_AVR_BROWN_OUT_RADIO,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega256rfr2 = {
    .part = {.name = "atmega256rfr2", .id = {0x1E, 0xA8, 0x02}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 3600},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 262144, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 8192, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFE},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_RADIO, .brown_out = CM_AVR_BROWN_OUT_RADIO,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega32 = {
    .part = {.name = "atmega32", .id = {0x1E, 0x95, 0x02}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_PAGED, .times = &cm_avr_times_paged,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 0,
    .calibration_bytes = 4, .fuse_bytes = 2,
    .fuse_default = {0xE1, 0x99},
    .fuse_mask = {0xFF, 0xFF}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_OLD_MEGA, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_27, BITS_16},
};

const struct cm_avr_part cm_atmega323 = {
    .part = {.name = "atmega323", .id = {0x1E, 0x95, 0x01}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_EARLY_PAGED, .times = &cm_avr_times_early_paged,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 0,
    .calibration_bytes = 1, .fuse_bytes = 2,
    .fuse_default = {0xF2, 0x9F},
    .fuse_mask = {0xCF, 0xEF}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_EARLY, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_24, BITS_15},
};

const struct cm_avr_part cm_atmega324a = {
    .part = {.name = "atmega324a", .id = {0x1E, 0x95, 0x15}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega324p = {
    .part = {.name = "atmega324p", .id = {0x1E, 0x95, 0x08}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega324pa = {
    .part = {.name = "atmega324pa", .id = {0x1E, 0x95, 0x11}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega325 = {
    .part = {.name = "atmega325", .id = {0x1E, 0x95, 0x05}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega3250 = {
    .part = {.name = "atmega3250", .id = {0x1E, 0x95, 0x06}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega3250a = {
    .part = {.name = "atmega3250a", .id = {0x1E, 0x95, 0x06}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega3250p = {
    .part = {.name = "atmega3250p", .id = {0x1E, 0x95, 0x0E}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega3250pa = {
    .part = {.name = "atmega3250pa", .id = {0x1E, 0x95, 0x0E}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega325a = {
    .part = {.name = "atmega325a", .id = {0x1E, 0x95, 0x05}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega325p = {
    .part = {.name = "atmega325p", .id = {0x1E, 0x95, 0x0D}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega325pa = {
    .part = {.name = "atmega325pa", .id = {0x1E, 0x95, 0x0D}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega328 = {
    .part = {.name = "atmega328", .id = {0x1E, 0x95, 0x14}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xD9, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_20, BITS_4},
};

const struct cm_avr_part cm_atmega328p = {
    .part = {.name = "atmega328p", .id = {0x1E, 0x95, 0x0F}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xD9, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_20, BITS_4},
};

const struct cm_avr_part cm_atmega328pb = {
    .part = {.name = "atmega328pb", .id = {0x1E, 0x95, 0x16}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xD9, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_20, BITS_4},
};

const struct cm_avr_part cm_atmega329 = {
    .part = {.name = "atmega329", .id = {0x1E, 0x95, 0x03}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega3290 = {
    .part = {.name = "atmega3290", .id = {0x1E, 0x95, 0x04}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega3290a = {
    .part = {.name = "atmega3290a", .id = {0x1E, 0x95, 0x04}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega3290p = {
    .part = {.name = "atmega3290p", .id = {0x1E, 0x95, 0x0C}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega3290pa = {
    .part = {.name = "atmega3290pa", .id = {0x1E, 0x95, 0x0C}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega329a = {
    .part = {.name = "atmega329a", .id = {0x1E, 0x95, 0x03}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega329p = {
    .part = {.name = "atmega329p", .id = {0x1E, 0x95, 0x0B}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega329pa = {
    .part = {.name = "atmega329pa", .id = {0x1E, 0x95, 0x0B}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega32a = {
    .part = {.name = "atmega32a", .id = {0x1E, 0x95, 0x02}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_PAGED, .times = &cm_avr_times_paged,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 0,
    .calibration_bytes = 4, .fuse_bytes = 2,
    .fuse_default = {0xE1, 0x99},
    .fuse_mask = {0xFF, 0xFF}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_OLD_MEGA, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_27, BITS_16},
};

const struct cm_avr_part cm_atmega32c1 = {
    .part = {.name = "atmega32c1", .id = {0x1E, 0x95, 0x86}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xD9, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x3F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_PWM, .brown_out = CM_AVR_BROWN_OUT_PWM,
    .fuse_bits = {BITS_29, BITS_20, BITS_8},
};

const struct cm_avr_part cm_atmega32hvb = {
    .part = {.name = "atmega32hvb", .id = {0x1E, 0x95, 0x10}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 2,
    .fuse_default = {0xDE, 0xE9},
    .fuse_mask = {0xFF, 0x1F}, .eesave_byte = 0, .eesave_mask = 0x40,
    .clock = CM_AVR_CLOCK_BATTERY, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_31, BITS_14},
};

const struct cm_avr_part cm_atmega32m1 = {
    .part = {.name = "atmega32m1", .id = {0x1E, 0x95, 0x84}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xD9, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x3F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_PWM, .brown_out = CM_AVR_BROWN_OUT_PWM,
    .fuse_bits = {BITS_29, BITS_20, BITS_8},
};

const struct cm_avr_part cm_atmega32u2 = {
    .part = {.name = "atmega32u2", .id = {0x1E, 0x95, 0x8A}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x5E, 0xD9, 0xF4},
    .fuse_mask = {0xFF, 0xFF, 0x0F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_USB82, .brown_out = CM_AVR_BROWN_OUT_USB82,
    .fuse_bits = {BITS_29, BITS_22, BITS_6},
};

const struct cm_avr_part cm_atmega32u4 = {
    .part = {.name = "atmega32u4", .id = {0x1E, 0x95, 0x87}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 32768, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x5E, 0x99, 0xF3},
    .fuse_mask = {0xFF, 0xFF, 0x0F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_USB, .brown_out = CM_AVR_BROWN_OUT_USB,
    .fuse_bits = {BITS_29, BITS_21, BITS_6},
};

const struct cm_avr_part cm_atmega48 = {
    .part = {.name = "atmega48", .id = {0x1E, 0x92, 0x05}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 4096, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_atmega48a = {
    .part = {.name = "atmega48a", .id = {0x1E, 0x92, 0x05}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 4096, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_atmega48p = {
    .part = {.name = "atmega48p", .id = {0x1E, 0x92, 0x0A}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 4096, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_atmega48pa = {
    .part = {.name = "atmega48pa", .id = {0x1E, 0x92, 0x0A}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 4096, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_atmega48pb = {
    .part = {.name = "atmega48pb", .id = {0x1E, 0x92, 0x10}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 4096, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_atmega64 = {
    .part = {.name = "atmega64", .id = {0x1E, 0x96, 0x02}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_PAGED, .times = &cm_avr_times_paged,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 0,
    .calibration_bytes = 4, .fuse_bytes = 3,
    .fuse_default = {0xE1, 0x99, 0xFD},
    .fuse_mask = {0xFF, 0xFF, 0x03}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_OLD_MEGA, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_27, BITS_16, BITS_41},
};

const struct cm_avr_part cm_atmega640 = {
    .part = {.name = "atmega640", .id = {0x1E, 0x96, 0x08}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 4096, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega644 = {
    .part = {.name = "atmega644", .id = {0x1E, 0x96, 0x09}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega644a = {
    .part = {.name = "atmega644a", .id = {0x1E, 0x96, 0x09}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega644p = {
    .part = {.name = "atmega644p", .id = {0x1E, 0x96, 0x0A}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega644pa = {
    .part = {.name = "atmega644pa", .id = {0x1E, 0x96, 0x0A}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega644rfr2 = {
    .part = {.name = "atmega644rfr2", .id = {0x1E, 0xA6, 0x03}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 3600},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFE},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_RADIO, .brown_out = CM_AVR_BROWN_OUT_RADIO,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega645 = {
    .part = {.name = "atmega645", .id = {0x1E, 0x96, 0x05}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega6450 = {
    .part = {.name = "atmega6450", .id = {0x1E, 0x96, 0x06}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega6450a = {
    .part = {.name = "atmega6450a", .id = {0x1E, 0x96, 0x06}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega6450p = {
    .part = {.name = "atmega6450p", .id = {0x1E, 0x96, 0x0E}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega645a = {
    .part = {.name = "atmega645a", .id = {0x1E, 0x96, 0x05}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega645p = {
    .part = {.name = "atmega645p", .id = {0x1E, 0x96, 0x0D}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega649 = {
    .part = {.name = "atmega649", .id = {0x1E, 0x96, 0x03}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega6490 = {
    .part = {.name = "atmega6490", .id = {0x1E, 0x96, 0x04}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega6490a = {
    .part = {.name = "atmega6490a", .id = {0x1E, 0x96, 0x04}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega6490p = {
    .part = {.name = "atmega6490p", .id = {0x1E, 0x96, 0x0C}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega649a = {
    .part = {.name = "atmega649a", .id = {0x1E, 0x96, 0x03}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_33},
};

const struct cm_avr_part cm_atmega649p = {
    .part = {.name = "atmega649p", .id = {0x1E, 0x96, 0x0B}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x06}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_LCD, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_21, BITS_0},
};

const struct cm_avr_part cm_atmega64a = {
    .part = {.name = "atmega64a", .id = {0x1E, 0x96, 0x02}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_PAGED, .times = &cm_avr_times_paged,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 0,
    .calibration_bytes = 4, .fuse_bytes = 3,
    .fuse_default = {0xE1, 0x99, 0xFD},
    .fuse_mask = {0xFF, 0xFF, 0x03}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_OLD_MEGA, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_27, BITS_16, BITS_41},
};

const struct cm_avr_part cm_atmega64c1 = {
    .part = {.name = "atmega64c1", .id = {0x1E, 0x96, 0x86}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xD9, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x3F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_PWM, .brown_out = CM_AVR_BROWN_OUT_PWM,
    .fuse_bits = {BITS_29, BITS_20, BITS_8},
};

const struct cm_avr_part cm_atmega64hve2 = {
    .part = {.name = "atmega64hve2", .id = {0x1E, 0x96, 0x10}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 128, .boot_max_bytes = 8192,
    .eeprom_bytes = 1024, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 2,
    .fuse_default = {0xD7, 0xF9},
    .fuse_mask = {0xFF, 0x0F}, .eesave_byte = 0, .eesave_mask = 0x40,
    .clock = CM_AVR_CLOCK_BATTERY, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_32, BITS_13},
};

const struct cm_avr_part cm_atmega64m1 = {
    .part = {.name = "atmega64m1", .id = {0x1E, 0x96, 0x84}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xD9, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x3F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_PWM, .brown_out = CM_AVR_BROWN_OUT_PWM,
    .fuse_bits = {BITS_29, BITS_20, BITS_8},
};

const struct cm_avr_part cm_atmega64rfr2 = {
    .part = {.name = "atmega64rfr2", .id = {0x1E, 0xA6, 0x02}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 3600},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 65536, .flash_page_bytes = 256, .boot_max_bytes = 8192,
    .eeprom_bytes = 2048, .eeprom_page_bytes = 8,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0x99, 0xFE},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_RADIO, .brown_out = CM_AVR_BROWN_OUT_RADIO,
    .fuse_bits = {BITS_29, BITS_21, BITS_4},
};

const struct cm_avr_part cm_atmega8 = {
    .part = {.name = "atmega8", .id = {0x1E, 0x93, 0x07}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_PAGED, .times = &cm_avr_times_paged,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 0,
    .calibration_bytes = 4, .fuse_bytes = 2,
    .fuse_default = {0xE1, 0xD9},
    .fuse_mask = {0xFF, 0xFF}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_OLD_MEGA, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_27, BITS_17},
};

const struct cm_avr_part cm_atmega8515 = {
    .part = {.name = "atmega8515", .id = {0x1E, 0x93, 0x06}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_PAGED, .times = &cm_avr_times_paged,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 0,
    .calibration_bytes = 4, .fuse_bytes = 2,
    .fuse_default = {0xE1, 0xD9},
    .fuse_mask = {0xFF, 0xFF}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_OLD_MEGA, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_27, BITS_18},
};

const struct cm_avr_part cm_atmega8535 = {
    .part = {.name = "atmega8535", .id = {0x1E, 0x93, 0x08}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_PAGED, .times = &cm_avr_times_paged,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 0,
    .calibration_bytes = 4, .fuse_bytes = 2,
    .fuse_default = {0xC1, 0xD9},
    .fuse_mask = {0xFF, 0xFF}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_OLD_MEGA, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_27, BITS_19},
};

const struct cm_avr_part cm_atmega88 = {
    .part = {.name = "atmega88", .id = {0x1E, 0x93, 0x0A}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_9},
};

const struct cm_avr_part cm_atmega88a = {
    .part = {.name = "atmega88a", .id = {0x1E, 0x93, 0x0A}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_9},
};

const struct cm_avr_part cm_atmega88p = {
    .part = {.name = "atmega88p", .id = {0x1E, 0x93, 0x0F}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_9},
};

const struct cm_avr_part cm_atmega88pa = {
    .part = {.name = "atmega88pa", .id = {0x1E, 0x93, 0x0F}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_9},
};

const struct cm_avr_part cm_atmega88pb = {
    .part = {.name = "atmega88pb", .id = {0x1E, 0x93, 0x16}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xF9},
    .fuse_mask = {0xFF, 0xFF, 0x07}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_MEGA48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_9},
};

const struct cm_avr_part cm_atmega8a = {
    .part = {.name = "atmega8a", .id = {0x1E, 0x93, 0x07}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_PAGED, .times = &cm_avr_times_paged,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 512, .eeprom_page_bytes = 0,
    .calibration_bytes = 4, .fuse_bytes = 2,
    .fuse_default = {0xE1, 0xD9},
    .fuse_mask = {0xFF, 0xFF}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_OLD_MEGA, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_27, BITS_17},
};

const struct cm_avr_part cm_atmega8hva = {
    .part = {.name = "atmega8hva", .id = {0x1E, 0x93, 0x10}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 128, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 1,
    .fuse_default = {0xDF},
    .fuse_mask = {0xFF}, .eesave_byte = 0, .eesave_mask = 0x40,
    .clock = CM_AVR_CLOCK_BATTERY, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_40},
};

const struct cm_avr_part cm_atmega8u2 = {
    .part = {.name = "atmega8u2", .id = {0x1E, 0x93, 0x89}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 128, .boot_max_bytes = 4096,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x5E, 0xD9, 0xF4},
    .fuse_mask = {0xFF, 0xFF, 0x0F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_USB82, .brown_out = CM_AVR_BROWN_OUT_USB82,
    .fuse_bits = {BITS_29, BITS_22, BITS_6},
};

const struct cm_avr_part cm_attiny12 = {
    .part = {.name = "attiny12", .id = {0x1E, 0x90, 0x05}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_CLASSIC, .times = &cm_avr_times_classic,
    .flash_bytes = 1024, .flash_page_bytes = 0, .boot_max_bytes = 0,
    .eeprom_bytes = 64, .eeprom_page_bytes = 0,
    .calibration_bytes = 1, .fuse_bytes = 0,
};

const struct cm_avr_part cm_attiny13 = {
    .part = {.name = "attiny13", .id = {0x1E, 0x90, 0x07}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 1024, .flash_page_bytes = 32, .boot_max_bytes = 0,
    .eeprom_bytes = 64, .eeprom_page_bytes = 4,
    .calibration_bytes = 2, .fuse_bytes = 2,
    .fuse_default = {0x6A, 0xFF},
    .fuse_mask = {0xFF, 0x1F}, .eesave_byte = 0, .eesave_mask = 0x40,
    .clock = CM_AVR_CLOCK_TINY13, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_30, BITS_36},
};

const struct cm_avr_part cm_attiny13a = {
    .part = {.name = "attiny13a", .id = {0x1E, 0x90, 0x07}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 1024, .flash_page_bytes = 32, .boot_max_bytes = 0,
    .eeprom_bytes = 64, .eeprom_page_bytes = 4,
    .calibration_bytes = 2, .fuse_bytes = 2,
    .fuse_default = {0x6A, 0xFF},
    .fuse_mask = {0xFF, 0x1F}, .eesave_byte = 0, .eesave_mask = 0x40,
    .clock = CM_AVR_CLOCK_TINY13, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_30, BITS_36},
};

const struct cm_avr_part cm_attiny15 = {
    .part = {.name = "attiny15", .id = {0x1E, 0x90, 0x06}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_CLASSIC, .times = &cm_avr_times_classic,
    .flash_bytes = 1024, .flash_page_bytes = 0, .boot_max_bytes = 0,
    .eeprom_bytes = 64, .eeprom_page_bytes = 0,
    .calibration_bytes = 1, .fuse_bytes = 0,
};

const struct cm_avr_part cm_attiny1634 = {
    .part = {.name = "attiny1634", .id = {0x1E, 0x94, 0x12}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 32, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xDF, 0xFF, 0x1F}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY441, .brown_out = CM_AVR_BROWN_OUT_BODACT,
    .fuse_bits = {BITS_26, BITS_5, BITS_38},
};

const struct cm_avr_part cm_attiny167 = {
    .part = {.name = "attiny167", .id = {0x1E, 0x94, 0x87}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 16384, .flash_page_bytes = 128, .boot_max_bytes = 0,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY87, .brown_out = CM_AVR_BROWN_OUT_TINY25,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny22 = {
    .part = {.name = "attiny22", .id = {0x1E, 0x91, 0x06}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_CLASSIC, .times = &cm_avr_times_classic,
    .flash_bytes = 2048, .flash_page_bytes = 0, .boot_max_bytes = 0,
    .eeprom_bytes = 128, .eeprom_page_bytes = 0,
    .calibration_bytes = 0, .fuse_bytes = 0,
};

const struct cm_avr_part cm_attiny2313 = {
    .part = {.name = "attiny2313", .id = {0x1E, 0x91, 0x0A}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 2048, .flash_page_bytes = 32, .boot_max_bytes = 0,
    .eeprom_bytes = 128, .eeprom_page_bytes = 4,
    .calibration_bytes = 2, .fuse_bytes = 3,
    .fuse_default = {0x64, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x40,
    .clock = CM_AVR_CLOCK_TINY2313, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_35, BITS_37},
};

const struct cm_avr_part cm_attiny2313a = {
    .part = {.name = "attiny2313a", .id = {0x1E, 0x91, 0x0A}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 2048, .flash_page_bytes = 32, .boot_max_bytes = 0,
    .eeprom_bytes = 128, .eeprom_page_bytes = 4,
    .calibration_bytes = 2, .fuse_bytes = 3,
    .fuse_default = {0x64, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x40,
    .clock = CM_AVR_CLOCK_TINY2313, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_35, BITS_37},
};

const struct cm_avr_part cm_attiny24 = {
    .part = {.name = "attiny24", .id = {0x1E, 0x91, 0x0B}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 2048, .flash_page_bytes = 32, .boot_max_bytes = 0,
    .eeprom_bytes = 128, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY24, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny24a = {
    .part = {.name = "attiny24a", .id = {0x1E, 0x91, 0x0B}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 2048, .flash_page_bytes = 32, .boot_max_bytes = 0,
    .eeprom_bytes = 128, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY24, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny25 = {
    .part = {.name = "attiny25", .id = {0x1E, 0x91, 0x08}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 2048, .flash_page_bytes = 32, .boot_max_bytes = 0,
    .eeprom_bytes = 128, .eeprom_page_bytes = 4,
    .calibration_bytes = 2, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY25, .brown_out = CM_AVR_BROWN_OUT_TINY25,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny26 = {
    .part = {.name = "attiny26", .id = {0x1E, 0x91, 0x09}, .id_bytes = 3,
             .supply_min_mv = 2700, .supply_max_mv = 5500},
    .generation = CM_AVR_PAGED, .times = &cm_avr_times_paged,
    .flash_bytes = 2048, .flash_page_bytes = 32, .boot_max_bytes = 0,
    .eeprom_bytes = 128, .eeprom_page_bytes = 0,
    .calibration_bytes = 4, .fuse_bytes = 2,
    .fuse_default = {0xE1, 0xF7},
    .fuse_mask = {0xFF, 0x1F}, .eesave_byte = 1, .eesave_mask = 0x04,
    .clock = CM_AVR_CLOCK_TINY26, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_28, BITS_3},
};

const struct cm_avr_part cm_attiny261 = {
    .part = {.name = "attiny261", .id = {0x1E, 0x91, 0x0C}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 2048, .flash_page_bytes = 32, .boot_max_bytes = 0,
    .eeprom_bytes = 128, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY261, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny261a = {
    .part = {.name = "attiny261a", .id = {0x1E, 0x91, 0x0C}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 2048, .flash_page_bytes = 32, .boot_max_bytes = 0,
    .eeprom_bytes = 128, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY261, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny4313 = {
    .part = {.name = "attiny4313", .id = {0x1E, 0x92, 0x0D}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 4096, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 2, .fuse_bytes = 3,
    .fuse_default = {0x64, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x40,
    .clock = CM_AVR_CLOCK_TINY2313, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_35, BITS_37},
};

const struct cm_avr_part cm_attiny43u = {
    .part = {.name = "attiny43u", .id = {0x1E, 0x92, 0x0C}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 4096, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 64, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY24, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny44 = {
    .part = {.name = "attiny44", .id = {0x1E, 0x92, 0x07}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 4096, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY24, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny441 = {
    .part = {.name = "attiny441", .id = {0x1E, 0x92, 0x15}, .id_bytes = 3,
             .supply_min_mv = 1700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 4096, .flash_page_bytes = 16, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xDF, 0xFF, 0xFF}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY441, .brown_out = CM_AVR_BROWN_OUT_BODACT,
    .fuse_bits = {BITS_26, BITS_5, BITS_39},
};

const struct cm_avr_part cm_attiny44a = {
    .part = {.name = "attiny44a", .id = {0x1E, 0x92, 0x07}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 4096, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY24, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny45 = {
    .part = {.name = "attiny45", .id = {0x1E, 0x92, 0x06}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 4096, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 2, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY25, .brown_out = CM_AVR_BROWN_OUT_TINY25,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny461 = {
    .part = {.name = "attiny461", .id = {0x1E, 0x92, 0x08}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 4096, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY261, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny461a = {
    .part = {.name = "attiny461a", .id = {0x1E, 0x92, 0x08}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 4096, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY261, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny48 = {
    .part = {.name = "attiny48", .id = {0x1E, 0x92, 0x09}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 4096, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 64, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x6E, 0xDF, 0xFF},
    .fuse_mask = {0xF3, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_23, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny828 = {
    .part = {.name = "attiny828", .id = {0x1E, 0x93, 0x14}, .id_bytes = 3,
             .supply_min_mv = 1700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 2048,
    .eeprom_bytes = 256, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x6E, 0xDF, 0xFF},
    .fuse_mask = {0xF3, 0xFF, 0xF7}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY828, .brown_out = CM_AVR_BROWN_OUT_BODACT,
    .fuse_bits = {BITS_23, BITS_5, BITS_10},
};

const struct cm_avr_part cm_attiny84 = {
    .part = {.name = "attiny84", .id = {0x1E, 0x93, 0x0C}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY24, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny841 = {
    .part = {.name = "attiny841", .id = {0x1E, 0x93, 0x15}, .id_bytes = 3,
             .supply_min_mv = 1700, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 16, .boot_max_bytes = 0,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xDF, 0xFF, 0xFF}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY441, .brown_out = CM_AVR_BROWN_OUT_BODACT,
    .fuse_bits = {BITS_26, BITS_5, BITS_39},
};

const struct cm_avr_part cm_attiny84a = {
    .part = {.name = "attiny84a", .id = {0x1E, 0x93, 0x0C}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY24, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny85 = {
    .part = {.name = "attiny85", .id = {0x1E, 0x93, 0x0B}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 2, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY25, .brown_out = CM_AVR_BROWN_OUT_TINY25,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny861 = {
    .part = {.name = "attiny861", .id = {0x1E, 0x93, 0x0D}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY261, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny861a = {
    .part = {.name = "attiny861a", .id = {0x1E, 0x93, 0x0D}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY261, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny87 = {
    .part = {.name = "attiny87", .id = {0x1E, 0x93, 0x87}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 128, .boot_max_bytes = 0,
    .eeprom_bytes = 512, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x62, 0xDF, 0xFF},
    .fuse_mask = {0xFF, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY87, .brown_out = CM_AVR_BROWN_OUT_TINY25,
    .fuse_bits = {BITS_29, BITS_5, BITS_37},
};

const struct cm_avr_part cm_attiny88 = {
    .part = {.name = "attiny88", .id = {0x1E, 0x93, 0x11}, .id_bytes = 3,
             .supply_min_mv = 1800, .supply_max_mv = 5500},
    .generation = CM_AVR_POLLED, .times = &cm_avr_times_polled,
    .flash_bytes = 8192, .flash_page_bytes = 64, .boot_max_bytes = 0,
    .eeprom_bytes = 64, .eeprom_page_bytes = 4,
    .calibration_bytes = 1, .fuse_bytes = 3,
    .fuse_default = {0x6E, 0xDF, 0xFF},
    .fuse_mask = {0xF3, 0xFF, 0x01}, .eesave_byte = 1, .eesave_mask = 0x08,
    .clock = CM_AVR_CLOCK_TINY48, .brown_out = CM_AVR_BROWN_OUT_USUAL,
    .fuse_bits = {BITS_23, BITS_5, BITS_37},
};

const struct cm_part *const cm_avr_all_parts[CM_AVR_PART_COUNT] = {
    &cm_at90can128.part,
    &cm_at90can32.part,
    &cm_at90can64.part,
    &cm_at90pwm1.part,
    &cm_at90pwm161.part,
    &cm_at90pwm2.part,
    &cm_at90pwm216.part,
    &cm_at90pwm2b.part,
    &cm_at90pwm3.part,
    &cm_at90pwm316.part,
    &cm_at90pwm3b.part,
    &cm_at90pwm81.part,
    &cm_at90s1200.part,
    &cm_at90s2313.part,
    &cm_at90s2323.part,
    &cm_at90s2343.part,
    &cm_at90s4414.part,
    &cm_at90s4433.part,
    &cm_at90s4434.part,
    &cm_at90s8515.part,
    &cm_at90s8535.part,
    &cm_at90usb1286.part,
    &cm_at90usb1287.part,
    &cm_at90usb162.part,
    &cm_at90usb646.part,
    &cm_at90usb647.part,
    &cm_at90usb82.part,
    &cm_ata5272.part,
    &cm_ata5505.part,
    &cm_ata6612c.part,
    &cm_ata6613c.part,
    &cm_ata6614q.part,
    &cm_ata6616c.part,
    &cm_ata6617c.part,
    &cm_ata664251.part,
    &cm_atmega103.part,
    &cm_atmega128.part,
    &cm_atmega1280.part,
    &cm_atmega1281.part,
    &cm_atmega1284.part,
    &cm_atmega1284p.part,
    &cm_atmega1284rfr2.part,
    &cm_atmega128a.part,
    &cm_atmega128rfa1.part,
    &cm_atmega128rfr2.part,
    &cm_atmega16.part,
    &cm_atmega161.part,
    &cm_atmega162.part,
    &cm_atmega163.part,
    &cm_atmega164a.part,
    &cm_atmega164p.part,
    &cm_atmega164pa.part,
    &cm_atmega165.part,
    &cm_atmega165a.part,
    &cm_atmega165p.part,
    &cm_atmega165pa.part,
    &cm_atmega168.part,
    &cm_atmega168a.part,
    &cm_atmega168p.part,
    &cm_atmega168pa.part,
    &cm_atmega168pb.part,
    &cm_atmega169.part,
    &cm_atmega169a.part,
    &cm_atmega169p.part,
    &cm_atmega169pa.part,
    &cm_atmega16a.part,
    &cm_atmega16hva.part,
    &cm_atmega16hvb.part,
    &cm_atmega16m1.part,
    &cm_atmega16u2.part,
    &cm_atmega16u4.part,
    &cm_atmega2560.part,
    &cm_atmega2561.part,
    &cm_atmega2564rfr2.part,
    &cm_atmega256rfr2.part,
    &cm_atmega32.part,
    &cm_atmega323.part,
    &cm_atmega324a.part,
    &cm_atmega324p.part,
    &cm_atmega324pa.part,
    &cm_atmega325.part,
    &cm_atmega3250.part,
    &cm_atmega3250a.part,
    &cm_atmega3250p.part,
    &cm_atmega3250pa.part,
    &cm_atmega325a.part,
    &cm_atmega325p.part,
    &cm_atmega325pa.part,
    &cm_atmega328.part,
    &cm_atmega328p.part,
    &cm_atmega328pb.part,
    &cm_atmega329.part,
    &cm_atmega3290.part,
    &cm_atmega3290a.part,
    &cm_atmega3290p.part,
    &cm_atmega3290pa.part,
    &cm_atmega329a.part,
    &cm_atmega329p.part,
    &cm_atmega329pa.part,
    &cm_atmega32a.part,
    &cm_atmega32c1.part,
    &cm_atmega32hvb.part,
    &cm_atmega32m1.part,
    &cm_atmega32u2.part,
    &cm_atmega32u4.part,
    &cm_atmega48.part,
    &cm_atmega48a.part,
    &cm_atmega48p.part,
    &cm_atmega48pa.part,
    &cm_atmega48pb.part,
    &cm_atmega64.part,
    &cm_atmega640.part,
    &cm_atmega644.part,
    &cm_atmega644a.part,
    &cm_atmega644p.part,
    &cm_atmega644pa.part,
    &cm_atmega644rfr2.part,
    &cm_atmega645.part,
    &cm_atmega6450.part,
    &cm_atmega6450a.part,
    &cm_atmega6450p.part,
    &cm_atmega645a.part,
    &cm_atmega645p.part,
    &cm_atmega649.part,
    &cm_atmega6490.part,
    &cm_atmega6490a.part,
    &cm_atmega6490p.part,
    &cm_atmega649a.part,
    &cm_atmega649p.part,
    &cm_atmega64a.part,
    &cm_atmega64c1.part,
    &cm_atmega64hve2.part,
    &cm_atmega64m1.part,
    &cm_atmega64rfr2.part,
    &cm_atmega8.part,
    &cm_atmega8515.part,
    &cm_atmega8535.part,
    &cm_atmega88.part,
    &cm_atmega88a.part,
    &cm_atmega88p.part,
    &cm_atmega88pa.part,
    &cm_atmega88pb.part,
    &cm_atmega8a.part,
    &cm_atmega8hva.part,
    &cm_atmega8u2.part,
    &cm_attiny12.part,
    &cm_attiny13.part,
    &cm_attiny13a.part,
    &cm_attiny15.part,
    &cm_attiny1634.part,
    &cm_attiny167.part,
    &cm_attiny22.part,
    &cm_attiny2313.part,
    &cm_attiny2313a.part,
    &cm_attiny24.part,
    &cm_attiny24a.part,
    &cm_attiny25.part,
    &cm_attiny26.part,
    &cm_attiny261.part,
    &cm_attiny261a.part,
    &cm_attiny4313.part,
    &cm_attiny43u.part,
    &cm_attiny44.part,
    &cm_attiny441.part,
    &cm_attiny44a.part,
    &cm_attiny45.part,
    &cm_attiny461.part,
    &cm_attiny461a.part,
    &cm_attiny48.part,
    &cm_attiny828.part,
    &cm_attiny84.part,
    &cm_attiny841.part,
    &cm_attiny84a.part,
    &cm_attiny85.part,
    &cm_attiny861.part,
    &cm_attiny861a.part,
    &cm_attiny87.part,
    &cm_attiny88.part,
};
