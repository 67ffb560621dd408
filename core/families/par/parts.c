/* Made by tools/par-parts.py: change it there. Parallel memories. */
#include "par.h"
#include <coldmint/par_parts.h>

static const struct cm_par_erases ERASES_SST = {.units = {{4096, 18000, 25000, 0x30}}, .chip_us = 70000, .chip_max_us = 100000};
static const struct cm_par_erases ERASES_SST_WIDE = {.units = {{4096, 18000, 25000, 0x30}, {65536, 18000, 25000, 0x50}}, .chip_us = 70000, .chip_max_us = 100000};
static const struct cm_par_erases ERASES_PM39 = {.units = {{4096, 55000, 100000, 0x30}, {65536, 55000, 100000, 0x50}}, .chip_us = 55000, .chip_max_us = 100000};
static const struct cm_par_erases ERASES_W39 = {.units = {{4096, 12500, 50000, 0x30}}, .chip_us = 50000, .chip_max_us = 200000};
static const struct cm_par_erases ERASES_AM16 = {.units = {{16384, 1000000, 15000000, 0x30}}, .chip_us = 8000000, .chip_max_us = 64000000};
static const struct cm_par_erases ERASES_AM64 = {.units = {{65536, 1000000, 15000000, 0x30}}, .chip_us = 8000000, .chip_max_us = 64000000};
static const struct cm_par_erases ERASES_AM64_TOP = {.units = {{65536, 1000000, 15000000, 0x30}}, .chip_us = 7000000, .chip_max_us = 64000000, .boot = {32, 8, 8, 16}, .boot_at_top = true};
static const struct cm_par_erases ERASES_AM64_BOTTOM = {.units = {{65536, 1000000, 15000000, 0x30}}, .chip_us = 7000000, .chip_max_us = 64000000, .boot = {16, 8, 8, 32}};
static const struct cm_par_erases ERASES_WHOLE = {.chip_us = 3000000, .chip_max_us = 10000000};
static const struct cm_par_erases ERASES_W49 = {.chip_us = 100000, .chip_max_us = 200000};
static const struct cm_par_times TIMES_SST = {
    .program_us = 14, .program_max_us = 20, .id_us = 1, .pulse = {40, 30}};
static const struct cm_par_times TIMES_SST_WIDE = {
    .program_us = 14, .program_max_us = 20, .id_us = 1, .pulse = {40, 30},
    .words = &cm_par_words};
static const struct cm_par_times TIMES_SST_FAST = {
    .program_us = 7, .program_max_us = 10, .id_us = 1, .pulse = {40, 30},
    .words = &cm_par_words};
static const struct cm_par_times TIMES_AM = {
    .program_us = 7, .program_max_us = 300, .id_us = 1, .pulse = {50, 30}};
static const struct cm_par_times TIMES_AM_WIDE = {
    .program_us = 11, .program_max_us = 500, .id_us = 1, .pulse = {50, 30},
    .words = &cm_par_words};
static const struct cm_par_times TIMES_PM39 = {
    .program_us = 20, .program_max_us = 40, .id_us = 1, .pulse = {50, 40}};
static const struct cm_par_times TIMES_W39 = {
    .program_us = 35, .program_max_us = 50, .id_us = 10, .pulse = {100, 100}};
static const struct cm_par_times TIMES_AT49 = {
    .program_us = 30, .program_max_us = 50, .id_us = 1, .pulse = {90, 90}};
static const struct cm_par_times TIMES_W49 = {
    .program_us = 35, .program_max_us = 50, .id_us = 10, .pulse = {100, 100}};
static const struct cm_par_times TIMES_AT29 = {
    .program_us = 10000, .program_max_us = 10000, .id_us = 10000, .pulse = {90, 100},
    .write_pages = cm_par_write_pages};
static const struct cm_par_times TIMES_W29 = {
    .program_us = 5000, .program_max_us = 10000, .id_us = 10, .pulse = {70, 150},
    .write_pages = cm_par_write_pages};
static const struct cm_par_times TIMES_EE = {
    .program_us = 5000, .program_max_us = 10000, .id_us = 10, .pulse = {100, 50},
    .write_pages = cm_par_write_pages};
static const struct cm_par_times TIMES_EE_SLOW = {
    .program_us = 10000, .program_max_us = 10000, .id_us = 10, .pulse = {100, 50},
    .write_pages = cm_par_write_pages};
static const struct cm_par_times TIMES_EE_BYTE = {
    .program_us = 1000, .program_max_us = 2000, .id_us = 10, .pulse = {100, 50},
    .write_pages = cm_par_write_pages};
static const struct cm_par_times TIMES_EPROM = {
    .program_us = 100, .program_max_us = 105, .id_us = 10, .pulse = {0, 0}};
static const struct cm_par_times TIMES_EPROM_WIDE = {
    .program_us = 100, .program_max_us = 105, .id_us = 10, .pulse = {0, 0},
    .words = &cm_par_words};

/* SST, 5 V */
const struct cm_par_part cm_sst39sf512 = {
    .part = {.name = "sst39sf512", .id = {0xBF, 0xB4}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 65536, .cycle_ns = 70, .page_bytes = 1,
    .erases = &ERASES_SST, .times = &TIMES_SST};
const struct cm_par_part cm_sst39sf010a = {
    .part = {.name = "sst39sf010a", .id = {0xBF, 0xB5}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 70, .page_bytes = 1,
    .erases = &ERASES_SST, .times = &TIMES_SST};
const struct cm_par_part cm_sst39sf020a = {
    .part = {.name = "sst39sf020a", .id = {0xBF, 0xB6}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 70, .page_bytes = 1,
    .erases = &ERASES_SST, .times = &TIMES_SST};
const struct cm_par_part cm_sst39sf040 = {
    .part = {.name = "sst39sf040", .id = {0xBF, 0xB7}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 70, .page_bytes = 1,
    .erases = &ERASES_SST, .times = &TIMES_SST};
/* SST, 3 V */
const struct cm_par_part cm_sst39vf512 = {
    .part = {.name = "sst39vf512", .id = {0xBF, 0xD4}, .id_bytes = 2, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 65536, .cycle_ns = 90, .page_bytes = 1,
    .erases = &ERASES_SST, .times = &TIMES_SST};
const struct cm_par_part cm_sst39vf010 = {
    .part = {.name = "sst39vf010", .id = {0xBF, 0xD5}, .id_bytes = 2, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 131072, .cycle_ns = 90, .page_bytes = 1,
    .erases = &ERASES_SST, .times = &TIMES_SST};
const struct cm_par_part cm_sst39vf020 = {
    .part = {.name = "sst39vf020", .id = {0xBF, 0xD6}, .id_bytes = 2, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 262144, .cycle_ns = 90, .page_bytes = 1,
    .erases = &ERASES_SST, .times = &TIMES_SST};
const struct cm_par_part cm_sst39vf040 = {
    .part = {.name = "sst39vf040", .id = {0xBF, 0xD7}, .id_bytes = 2, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .cycle_ns = 90, .page_bytes = 1,
    .erases = &ERASES_SST, .times = &TIMES_SST};
/* SST, 16 bits */
const struct cm_par_part cm_sst39vf200a = {
    .part = {.name = "sst39vf200a", .id = {0xBF, 0x89, 0x27}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 262144, .cycle_ns = 90, .page_bytes = 1, .traits = CM_PAR_WIDE,
    .erases = &ERASES_SST_WIDE, .times = &TIMES_SST_WIDE};
const struct cm_par_part cm_sst39vf400a = {
    .part = {.name = "sst39vf400a", .id = {0xBF, 0x80, 0x27}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .cycle_ns = 90, .page_bytes = 1, .traits = CM_PAR_WIDE,
    .erases = &ERASES_SST_WIDE, .times = &TIMES_SST_WIDE};
const struct cm_par_part cm_sst39vf800a = {
    .part = {.name = "sst39vf800a", .id = {0xBF, 0x81, 0x27}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .cycle_ns = 90, .page_bytes = 1, .traits = CM_PAR_WIDE,
    .erases = &ERASES_SST_WIDE, .times = &TIMES_SST_WIDE};
const struct cm_par_part cm_sst39vf160 = {
    .part = {.name = "sst39vf160", .id = {0xBF, 0x82, 0x27}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .cycle_ns = 90, .page_bytes = 1, .traits = CM_PAR_WIDE,
    .erases = &ERASES_SST_WIDE, .times = &TIMES_SST_WIDE};
const struct cm_par_part cm_sst39vf1601 = {
    .part = {.name = "sst39vf1601", .id = {0xBF, 0x4B, 0x23}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .cycle_ns = 90, .page_bytes = 1, .traits = CM_PAR_WIDE,
    .erases = &ERASES_SST_WIDE, .times = &TIMES_SST_FAST};
const struct cm_par_part cm_sst39vf1602 = {
    .part = {.name = "sst39vf1602", .id = {0xBF, 0x4A, 0x23}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .cycle_ns = 90, .page_bytes = 1, .traits = CM_PAR_WIDE,
    .erases = &ERASES_SST_WIDE, .times = &TIMES_SST_FAST};
/* AMD */
const struct cm_par_part cm_am29f010b = {
    .part = {.name = "am29f010b", .id = {0x01, 0x20}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM16, .times = &TIMES_AM};
const struct cm_par_part cm_am29f040b = {
    .part = {.name = "am29f040b", .id = {0x01, 0xA4}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64, .times = &TIMES_AM};
const struct cm_par_part cm_am29lv010b = {
    .part = {.name = "am29lv010b", .id = {0x01, 0x6E}, .id_bytes = 2, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 131072, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM16, .times = &TIMES_AM};
const struct cm_par_part cm_am29lv040b = {
    .part = {.name = "am29lv040b", .id = {0x01, 0x4F}, .id_bytes = 2, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64, .times = &TIMES_AM};
/* AMD with boot sectors */
const struct cm_par_part cm_am29f002bt = {
    .part = {.name = "am29f002bt", .id = {0x01, 0xB0}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64_TOP, .times = &TIMES_AM};
const struct cm_par_part cm_am29f002bb = {
    .part = {.name = "am29f002bb", .id = {0x01, 0x34}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64_BOTTOM, .times = &TIMES_AM};
/* AMD, 16 bits */
const struct cm_par_part cm_am29f200bt = {
    .part = {.name = "am29f200bt", .id = {0x01, 0x51, 0x22}, .id_bytes = 3, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_WIDE | CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64_TOP, .times = &TIMES_AM_WIDE};
const struct cm_par_part cm_am29f200bb = {
    .part = {.name = "am29f200bb", .id = {0x01, 0x57, 0x22}, .id_bytes = 3, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_WIDE | CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64_BOTTOM, .times = &TIMES_AM_WIDE};
const struct cm_par_part cm_am29f400bt = {
    .part = {.name = "am29f400bt", .id = {0x01, 0x23, 0x22}, .id_bytes = 3, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_WIDE | CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64_TOP, .times = &TIMES_AM_WIDE};
const struct cm_par_part cm_am29f400bb = {
    .part = {.name = "am29f400bb", .id = {0x01, 0xAB, 0x22}, .id_bytes = 3, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_WIDE | CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64_BOTTOM, .times = &TIMES_AM_WIDE};
const struct cm_par_part cm_am29lv400bt = {
    .part = {.name = "am29lv400bt", .id = {0x01, 0xB9, 0x22}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_WIDE | CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64_TOP, .times = &TIMES_AM_WIDE};
const struct cm_par_part cm_am29lv400bb = {
    .part = {.name = "am29lv400bb", .id = {0x01, 0xBA, 0x22}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_WIDE | CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64_BOTTOM, .times = &TIMES_AM_WIDE};
/* Macronix */
const struct cm_par_part cm_mx29f040 = {
    .part = {.name = "mx29f040", .id = {0xC2, 0xA4}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64, .times = &TIMES_AM};
const struct cm_par_part cm_mx29lv040 = {
    .part = {.name = "mx29lv040", .id = {0xC2, 0x4F}, .id_bytes = 2, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64, .times = &TIMES_AM};
const struct cm_par_part cm_mx29f002t = {
    .part = {.name = "mx29f002t", .id = {0xC2, 0xB0}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64_TOP, .times = &TIMES_AM};
const struct cm_par_part cm_mx29f002b = {
    .part = {.name = "mx29f002b", .id = {0xC2, 0x34}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64_BOTTOM, .times = &TIMES_AM};
/* ST */
const struct cm_par_part cm_m29f010b = {
    .part = {.name = "m29f010b", .id = {0x20, 0x20}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM16, .times = &TIMES_AM};
const struct cm_par_part cm_m29f040b = {
    .part = {.name = "m29f040b", .id = {0x20, 0xE2}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64, .times = &TIMES_AM};
const struct cm_par_part cm_m29f002bt = {
    .part = {.name = "m29f002bt", .id = {0x20, 0xB0}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64_TOP, .times = &TIMES_AM};
const struct cm_par_part cm_m29f002bb = {
    .part = {.name = "m29f002bb", .id = {0x20, 0x34}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64_BOTTOM, .times = &TIMES_AM};
const struct cm_par_part cm_m29w010b = {
    .part = {.name = "m29w010b", .id = {0x20, 0x23}, .id_bytes = 2, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 131072, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM16, .times = &TIMES_AM};
const struct cm_par_part cm_m29w040b = {
    .part = {.name = "m29w040b", .id = {0x20, 0xE3}, .id_bytes = 2, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64, .times = &TIMES_AM};
/* Other makers of the same; ids in general use */
const struct cm_par_part cm_en29f040a = {
    .part = {.name = "en29f040a", .id = {0x1C, 0x04}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64, .times = &TIMES_AM};
const struct cm_par_part cm_a29010 = {
    .part = {.name = "a29010", .id = {0x37, 0xA4}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM16, .times = &TIMES_AM};
const struct cm_par_part cm_a29040b = {
    .part = {.name = "a29040b", .id = {0x37, 0x86}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64, .times = &TIMES_AM};
const struct cm_par_part cm_hy29f040a = {
    .part = {.name = "hy29f040a", .id = {0xAD, 0xA4}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64, .times = &TIMES_AM};
const struct cm_par_part cm_pm29f002t = {
    .part = {.name = "pm29f002t", .id = {0x9D, 0x1D}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64_TOP, .times = &TIMES_AM};
const struct cm_par_part cm_pm29f002b = {
    .part = {.name = "pm29f002b", .id = {0x9D, 0x2D}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_SECTOR_LOCKS,
    .erases = &ERASES_AM64_BOTTOM, .times = &TIMES_AM};
/* PMC; ids in general use */
const struct cm_par_part cm_pm39f010 = {
    .part = {.name = "pm39f010", .id = {0x9D, 0x1C}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 90, .page_bytes = 1,
    .erases = &ERASES_PM39, .times = &TIMES_PM39};
const struct cm_par_part cm_pm39f020 = {
    .part = {.name = "pm39f020", .id = {0x9D, 0x4D}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 90, .page_bytes = 1,
    .erases = &ERASES_PM39, .times = &TIMES_PM39};
const struct cm_par_part cm_pm39f040 = {
    .part = {.name = "pm39f040", .id = {0x9D, 0x4E}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 90, .page_bytes = 1,
    .erases = &ERASES_PM39, .times = &TIMES_PM39};
const struct cm_par_part cm_pm39lv512 = {
    .part = {.name = "pm39lv512", .id = {0x9D, 0x1B}, .id_bytes = 2, .supply_min_mv = 3000, .supply_max_mv = 3600},
    .bytes = 65536, .cycle_ns = 90, .page_bytes = 1,
    .erases = &ERASES_PM39, .times = &TIMES_PM39};
const struct cm_par_part cm_pm39lv010 = {
    .part = {.name = "pm39lv010", .id = {0x9D, 0x1C}, .id_bytes = 2, .supply_min_mv = 3000, .supply_max_mv = 3600},
    .bytes = 131072, .cycle_ns = 90, .page_bytes = 1,
    .erases = &ERASES_PM39, .times = &TIMES_PM39};
const struct cm_par_part cm_pm39lv020 = {
    .part = {.name = "pm39lv020", .id = {0x9D, 0x3D}, .id_bytes = 2, .supply_min_mv = 3000, .supply_max_mv = 3600},
    .bytes = 262144, .cycle_ns = 90, .page_bytes = 1,
    .erases = &ERASES_PM39, .times = &TIMES_PM39};
const struct cm_par_part cm_pm39lv040 = {
    .part = {.name = "pm39lv040", .id = {0x9D, 0x3E}, .id_bytes = 2, .supply_min_mv = 3000, .supply_max_mv = 3600},
    .bytes = 524288, .cycle_ns = 90, .page_bytes = 1,
    .erases = &ERASES_PM39, .times = &TIMES_PM39};
/* Winbond */
const struct cm_par_part cm_w39f010 = {
    .part = {.name = "w39f010", .id = {0xDA, 0xA1}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 90, .page_bytes = 1,
    .erases = &ERASES_W39, .times = &TIMES_W39};
const struct cm_par_part cm_w39l010 = {
    .part = {.name = "w39l010", .id = {0xDA, 0x31}, .id_bytes = 2, .supply_min_mv = 3000, .supply_max_mv = 3600},
    .bytes = 131072, .cycle_ns = 90, .page_bytes = 1,
    .erases = &ERASES_W39, .times = &TIMES_W39};
const struct cm_par_part cm_w39l020 = {
    .part = {.name = "w39l020", .id = {0xDA, 0xB5}, .id_bytes = 2, .supply_min_mv = 3000, .supply_max_mv = 3600},
    .bytes = 262144, .cycle_ns = 90, .page_bytes = 1,
    .erases = &ERASES_W39, .times = &TIMES_W39};
const struct cm_par_part cm_w39l040 = {
    .part = {.name = "w39l040", .id = {0xDA, 0xB6}, .id_bytes = 2, .supply_min_mv = 3000, .supply_max_mv = 3600},
    .bytes = 524288, .cycle_ns = 90, .page_bytes = 1,
    .erases = &ERASES_W39, .times = &TIMES_W39};
/* Winbond, erased as a whole */
const struct cm_par_part cm_w49f002u = {
    .part = {.name = "w49f002u", .id = {0xDA, 0x0B}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_BOOT_LOCK_LOW, .boot_bytes = 16384,
    .erases = &ERASES_W49, .times = &TIMES_W49};
const struct cm_par_part cm_w49f020 = {
    .part = {.name = "w49f020", .id = {0xDA, 0x8C}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_BOOT_LOCK_LOW, .boot_bytes = 8192,
    .erases = &ERASES_W49, .times = &TIMES_W49};
/* Atmel, erased as a whole */
const struct cm_par_part cm_at49f512 = {
    .part = {.name = "at49f512", .id = {0x1F, 0x03}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 65536, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_BOOT_LOCK_LOW, .boot_bytes = 8192,
    .erases = &ERASES_WHOLE, .times = &TIMES_AT49};
const struct cm_par_part cm_at49f010 = {
    .part = {.name = "at49f010", .id = {0x1F, 0x17}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_BOOT_LOCK_LOW, .boot_bytes = 8192,
    .erases = &ERASES_WHOLE, .times = &TIMES_AT49};
const struct cm_par_part cm_at49f020 = {
    .part = {.name = "at49f020", .id = {0x1F, 0x0B}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_BOOT_LOCK_LOW, .boot_bytes = 8192,
    .erases = &ERASES_WHOLE, .times = &TIMES_AT49};
const struct cm_par_part cm_at49f040 = {
    .part = {.name = "at49f040", .id = {0x1F, 0x13}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_BOOT_LOCK_LOW, .boot_bytes = 16384,
    .erases = &ERASES_WHOLE, .times = &TIMES_AT49};
const struct cm_par_part cm_at49bv040 = {
    .part = {.name = "at49bv040", .id = {0x1F, 0x13}, .id_bytes = 2, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .traits = CM_PAR_BOOT_LOCK_LOW, .boot_bytes = 16384,
    .erases = &ERASES_WHOLE, .times = &TIMES_AT49};
/* Atmel page flash */
const struct cm_par_part cm_at29c256 = {
    .part = {.name = "at29c256", .id = {0x1F, 0xDC}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 32768, .cycle_ns = 120, .page_bytes = 64, .traits = CM_PAR_WHOLE_PAGES | CM_PAR_SDP,
    .times = &TIMES_AT29};
const struct cm_par_part cm_at29c512 = {
    .part = {.name = "at29c512", .id = {0x1F, 0x5D}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 65536, .cycle_ns = 120, .page_bytes = 128, .traits = CM_PAR_WHOLE_PAGES | CM_PAR_SDP,
    .times = &TIMES_AT29};
const struct cm_par_part cm_at29c010a = {
    .part = {.name = "at29c010a", .id = {0x1F, 0xD5}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 120, .page_bytes = 128, .traits = CM_PAR_WHOLE_PAGES | CM_PAR_SDP | CM_PAR_BOOT_LOCK_LOW | CM_PAR_BOOT_LOCK_HIGH, .boot_bytes = 8192,
    .times = &TIMES_AT29};
const struct cm_par_part cm_at29c020 = {
    .part = {.name = "at29c020", .id = {0x1F, 0xDA}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 256, .traits = CM_PAR_WHOLE_PAGES | CM_PAR_SDP | CM_PAR_BOOT_LOCK_LOW | CM_PAR_BOOT_LOCK_HIGH, .boot_bytes = 8192,
    .times = &TIMES_AT29};
const struct cm_par_part cm_at29c040a = {
    .part = {.name = "at29c040a", .id = {0x1F, 0xA4}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 256, .traits = CM_PAR_WHOLE_PAGES | CM_PAR_SDP | CM_PAR_BOOT_LOCK_LOW | CM_PAR_BOOT_LOCK_HIGH, .boot_bytes = 16384,
    .times = &TIMES_AT29};
const struct cm_par_part cm_at29lv512 = {
    .part = {.name = "at29lv512", .id = {0x1F, 0x3D}, .id_bytes = 2, .supply_min_mv = 3000, .supply_max_mv = 3600},
    .bytes = 65536, .cycle_ns = 120, .page_bytes = 128, .traits = CM_PAR_WHOLE_PAGES | CM_PAR_SDP,
    .times = &TIMES_AT29};
const struct cm_par_part cm_at29lv010a = {
    .part = {.name = "at29lv010a", .id = {0x1F, 0x35}, .id_bytes = 2, .supply_min_mv = 3000, .supply_max_mv = 3600},
    .bytes = 131072, .cycle_ns = 120, .page_bytes = 128, .traits = CM_PAR_WHOLE_PAGES | CM_PAR_SDP | CM_PAR_BOOT_LOCK_LOW | CM_PAR_BOOT_LOCK_HIGH, .boot_bytes = 8192,
    .times = &TIMES_AT29};
const struct cm_par_part cm_at29lv020 = {
    .part = {.name = "at29lv020", .id = {0x1F, 0xBA}, .id_bytes = 2, .supply_min_mv = 3000, .supply_max_mv = 3600},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 256, .traits = CM_PAR_WHOLE_PAGES | CM_PAR_SDP | CM_PAR_BOOT_LOCK_LOW | CM_PAR_BOOT_LOCK_HIGH, .boot_bytes = 8192,
    .times = &TIMES_AT29};
const struct cm_par_part cm_at29lv040a = {
    .part = {.name = "at29lv040a", .id = {0x1F, 0xC4}, .id_bytes = 2, .supply_min_mv = 3000, .supply_max_mv = 3600},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 256, .traits = CM_PAR_WHOLE_PAGES | CM_PAR_SDP | CM_PAR_BOOT_LOCK_LOW | CM_PAR_BOOT_LOCK_HIGH, .boot_bytes = 16384,
    .times = &TIMES_AT29};
/* Winbond page flash */
const struct cm_par_part cm_w29ee011 = {
    .part = {.name = "w29ee011", .id = {0xDA, 0xC1}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 120, .page_bytes = 128, .traits = CM_PAR_WHOLE_PAGES | CM_PAR_SDP | CM_PAR_BOOT_LOCK_LOW | CM_PAR_BOOT_LOCK_HIGH, .boot_bytes = 8192,
    .times = &TIMES_W29};
const struct cm_par_part cm_w29c020c = {
    .part = {.name = "w29c020c", .id = {0xDA, 0x45}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 128, .traits = CM_PAR_WHOLE_PAGES | CM_PAR_SDP | CM_PAR_BOOT_LOCK_LOW | CM_PAR_BOOT_LOCK_HIGH, .boot_bytes = 8192,
    .times = &TIMES_W29};
const struct cm_par_part cm_w29c040 = {
    .part = {.name = "w29c040", .id = {0xDA, 0x46}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 256, .traits = CM_PAR_WHOLE_PAGES | CM_PAR_SDP | CM_PAR_BOOT_LOCK_LOW | CM_PAR_BOOT_LOCK_HIGH, .boot_bytes = 16384,
    .times = &TIMES_W29};
/* SST page flash */
const struct cm_par_part cm_sst29ee512 = {
    .part = {.name = "sst29ee512", .id = {0xBF, 0x5D}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 65536, .cycle_ns = 120, .page_bytes = 128, .traits = CM_PAR_WHOLE_PAGES | CM_PAR_SDP,
    .times = &TIMES_W29};
const struct cm_par_part cm_sst29ee010 = {
    .part = {.name = "sst29ee010", .id = {0xBF, 0x07}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 120, .page_bytes = 128, .traits = CM_PAR_WHOLE_PAGES | CM_PAR_SDP,
    .times = &TIMES_W29};
const struct cm_par_part cm_sst29ee020 = {
    .part = {.name = "sst29ee020", .id = {0xBF, 0x10}, .id_bytes = 2, .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 128, .traits = CM_PAR_WHOLE_PAGES | CM_PAR_SDP,
    .times = &TIMES_W29};

const struct cm_part *const cm_par_all_parts[CM_PAR_PART_COUNT] = {&cm_sst39sf512.part, &cm_sst39sf010a.part, &cm_sst39sf020a.part, &cm_sst39sf040.part, &cm_sst39vf512.part, &cm_sst39vf010.part, &cm_sst39vf020.part, &cm_sst39vf040.part, &cm_sst39vf200a.part, &cm_sst39vf400a.part, &cm_sst39vf800a.part, &cm_sst39vf160.part, &cm_sst39vf1601.part, &cm_sst39vf1602.part, &cm_am29f010b.part, &cm_am29f040b.part, &cm_am29lv010b.part, &cm_am29lv040b.part, &cm_am29f002bt.part, &cm_am29f002bb.part, &cm_am29f200bt.part, &cm_am29f200bb.part, &cm_am29f400bt.part, &cm_am29f400bb.part, &cm_am29lv400bt.part, &cm_am29lv400bb.part, &cm_mx29f040.part, &cm_mx29lv040.part, &cm_mx29f002t.part, &cm_mx29f002b.part, &cm_m29f010b.part, &cm_m29f040b.part, &cm_m29f002bt.part, &cm_m29f002bb.part, &cm_m29w010b.part, &cm_m29w040b.part, &cm_en29f040a.part, &cm_a29010.part, &cm_a29040b.part, &cm_hy29f040a.part, &cm_pm29f002t.part, &cm_pm29f002b.part, &cm_pm39f010.part, &cm_pm39f020.part, &cm_pm39f040.part, &cm_pm39lv512.part, &cm_pm39lv010.part, &cm_pm39lv020.part, &cm_pm39lv040.part, &cm_w39f010.part, &cm_w39l010.part, &cm_w39l020.part, &cm_w39l040.part, &cm_w49f002u.part, &cm_w49f020.part, &cm_at49f512.part, &cm_at49f010.part, &cm_at49f020.part, &cm_at49f040.part, &cm_at49bv040.part, &cm_at29c256.part, &cm_at29c512.part, &cm_at29c010a.part, &cm_at29c020.part, &cm_at29c040a.part, &cm_at29lv512.part, &cm_at29lv010a.part, &cm_at29lv020.part, &cm_at29lv040a.part, &cm_w29ee011.part, &cm_w29c020c.part, &cm_w29c040.part, &cm_sst29ee512.part, &cm_sst29ee010.part, &cm_sst29ee020.part};

/* Atmel */
const struct cm_par_part cm_at28c16 = {
    .part = {.name = "at28c16", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 2048, .cycle_ns = 150, .page_bytes = 1,
    .times = &TIMES_EE_BYTE};
const struct cm_par_part cm_at28c64 = {
    .part = {.name = "at28c64", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 8192, .cycle_ns = 150, .page_bytes = 1,
    .times = &TIMES_EE_BYTE};
const struct cm_par_part cm_at28c17 = {
    .part = {.name = "at28c17", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 2048, .cycle_ns = 150, .page_bytes = 1,
    .times = &TIMES_EE_BYTE};
/* Atmel by pages */
const struct cm_par_part cm_at28c64b = {
    .part = {.name = "at28c64b", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 8192, .cycle_ns = 150, .page_bytes = 64, .traits = CM_PAR_SDP,
    .times = &TIMES_EE_SLOW};
const struct cm_par_part cm_at28hc64b = {
    .part = {.name = "at28hc64b", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 8192, .cycle_ns = 150, .page_bytes = 64, .traits = CM_PAR_SDP,
    .times = &TIMES_EE_SLOW};
const struct cm_par_part cm_at28c256 = {
    .part = {.name = "at28c256", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 32768, .cycle_ns = 150, .page_bytes = 64, .traits = CM_PAR_SDP,
    .times = &TIMES_EE_SLOW};
const struct cm_par_part cm_at28hc256 = {
    .part = {.name = "at28hc256", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 32768, .cycle_ns = 150, .page_bytes = 64, .traits = CM_PAR_SDP,
    .times = &TIMES_EE_SLOW};
const struct cm_par_part cm_at28c010 = {
    .part = {.name = "at28c010", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 150, .page_bytes = 128, .traits = CM_PAR_SDP,
    .times = &TIMES_EE_SLOW};
const struct cm_par_part cm_at28c040 = {
    .part = {.name = "at28c040", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 150, .page_bytes = 256, .traits = CM_PAR_SDP,
    .times = &TIMES_EE_SLOW};
/* Catalyst */
const struct cm_par_part cm_cat28c16a = {
    .part = {.name = "cat28c16a", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 2048, .cycle_ns = 150, .page_bytes = 1,
    .times = &TIMES_EE_SLOW};
const struct cm_par_part cm_cat28c64b = {
    .part = {.name = "cat28c64b", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 8192, .cycle_ns = 150, .page_bytes = 32, .traits = CM_PAR_SDP,
    .times = &TIMES_EE_SLOW};
const struct cm_par_part cm_cat28c256 = {
    .part = {.name = "cat28c256", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 32768, .cycle_ns = 150, .page_bytes = 64, .traits = CM_PAR_SDP,
    .times = &TIMES_EE_SLOW};
/* Xicor */
const struct cm_par_part cm_x28c64 = {
    .part = {.name = "x28c64", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 8192, .cycle_ns = 150, .page_bytes = 64, .traits = CM_PAR_SDP,
    .times = &TIMES_EE};
const struct cm_par_part cm_x28c256 = {
    .part = {.name = "x28c256", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 32768, .cycle_ns = 150, .page_bytes = 64, .traits = CM_PAR_SDP,
    .times = &TIMES_EE};
const struct cm_par_part cm_x28hc256 = {
    .part = {.name = "x28hc256", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 32768, .cycle_ns = 150, .page_bytes = 128, .traits = CM_PAR_SDP,
    .times = &TIMES_EE};
const struct cm_par_part cm_x28c010 = {
    .part = {.name = "x28c010", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 150, .page_bytes = 256, .traits = CM_PAR_SDP,
    .times = &TIMES_EE};
/* Microchip */
const struct cm_par_part cm_28c16a = {
    .part = {.name = "28c16a", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 2048, .cycle_ns = 150, .page_bytes = 1,
    .times = &TIMES_EE_BYTE};
const struct cm_par_part cm_28c64a = {
    .part = {.name = "28c64a", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 8192, .cycle_ns = 150, .page_bytes = 1,
    .times = &TIMES_EE_BYTE};

const struct cm_part *const cm_ee28_all_parts[CM_EE28_PART_COUNT] = {&cm_at28c16.part, &cm_at28c64.part, &cm_at28c17.part, &cm_at28c64b.part, &cm_at28hc64b.part, &cm_at28c256.part, &cm_at28hc256.part, &cm_at28c010.part, &cm_at28c040.part, &cm_cat28c16a.part, &cm_cat28c64b.part, &cm_cat28c256.part, &cm_x28c64.part, &cm_x28c256.part, &cm_x28hc256.part, &cm_x28c010.part, &cm_28c16a.part, &cm_28c64a.part};

/* EPROMs with a pin for VPP */
const struct cm_par_part cm_27c64 = {
    .part = {.name = "27c64", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 8192, .cycle_ns = 150, .page_bytes = 1, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_27c128 = {
    .part = {.name = "27c128", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 16384, .cycle_ns = 150, .page_bytes = 1, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_27c256 = {
    .part = {.name = "27c256", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 32768, .cycle_ns = 150, .page_bytes = 1, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_27c010 = {
    .part = {.name = "27c010", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 150, .page_bytes = 1, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_27c020 = {
    .part = {.name = "27c020", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 150, .page_bytes = 1, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_27c040 = {
    .part = {.name = "27c040", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 150, .page_bytes = 1, .program_mv = 6250,
    .times = &TIMES_EPROM};
/* EPROMs with VPP on OE */
const struct cm_par_part cm_27c512 = {
    .part = {.name = "27c512", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 65536, .cycle_ns = 150, .page_bytes = 1, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_27c080 = {
    .part = {.name = "27c080", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 1048576, .cycle_ns = 150, .page_bytes = 1, .program_mv = 6250,
    .times = &TIMES_EPROM};
/* AMD */
const struct cm_par_part cm_am27c64 = {
    .part = {.name = "am27c64", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 8192, .cycle_ns = 150, .page_bytes = 1, .a9_id = {0x01, 0x15}, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_am27c128 = {
    .part = {.name = "am27c128", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 16384, .cycle_ns = 150, .page_bytes = 1, .a9_id = {0x01, 0x16}, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_am27c256 = {
    .part = {.name = "am27c256", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 32768, .cycle_ns = 150, .page_bytes = 1, .a9_id = {0x01, 0x10}, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_am27c512 = {
    .part = {.name = "am27c512", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 65536, .cycle_ns = 150, .page_bytes = 1, .a9_id = {0x01, 0x91}, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_am27c010 = {
    .part = {.name = "am27c010", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 150, .page_bytes = 1, .a9_id = {0x01, 0x0E}, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_am27c020 = {
    .part = {.name = "am27c020", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 150, .page_bytes = 1, .a9_id = {0x01, 0x97}, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_am27c040 = {
    .part = {.name = "am27c040", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 150, .page_bytes = 1, .a9_id = {0x01, 0x9B}, .program_mv = 6250,
    .times = &TIMES_EPROM};
/* Atmel */
const struct cm_par_part cm_at27c256r = {
    .part = {.name = "at27c256r", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 32768, .cycle_ns = 120, .page_bytes = 1, .a9_id = {0x1E, 0x8C}, .program_mv = 6500,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_at27c512r = {
    .part = {.name = "at27c512r", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 65536, .cycle_ns = 120, .page_bytes = 1, .a9_id = {0x1E, 0x0D}, .program_mv = 6500,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_at27c010 = {
    .part = {.name = "at27c010", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 120, .page_bytes = 1, .a9_id = {0x1E, 0x05}, .program_mv = 6500,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_at27c020 = {
    .part = {.name = "at27c020", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .a9_id = {0x1E, 0x86}, .program_mv = 6500,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_at27c040 = {
    .part = {.name = "at27c040", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .a9_id = {0x1E, 0x0B}, .program_mv = 6500,
    .times = &TIMES_EPROM};
/* ST */
const struct cm_par_part cm_m27c256b = {
    .part = {.name = "m27c256b", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 32768, .cycle_ns = 120, .page_bytes = 1, .a9_id = {0x20, 0x8D}, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_m27c512 = {
    .part = {.name = "m27c512", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 65536, .cycle_ns = 120, .page_bytes = 1, .a9_id = {0x20, 0x3D}, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_m27c1001 = {
    .part = {.name = "m27c1001", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 120, .page_bytes = 1, .a9_id = {0x20, 0x05}, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_m27c2001 = {
    .part = {.name = "m27c2001", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .a9_id = {0x20, 0x61}, .program_mv = 6250,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_m27c4001 = {
    .part = {.name = "m27c4001", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 120, .page_bytes = 1, .a9_id = {0x20, 0x41}, .program_mv = 6250,
    .times = &TIMES_EPROM};
/* Texas */
const struct cm_par_part cm_tms27c256 = {
    .part = {.name = "tms27c256", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 32768, .cycle_ns = 150, .page_bytes = 1, .a9_id = {0x97, 0x04}, .program_mv = 6500,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_tms27c512 = {
    .part = {.name = "tms27c512", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 65536, .cycle_ns = 150, .page_bytes = 1, .a9_id = {0x97, 0x85}, .program_mv = 6500,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_tms27c010a = {
    .part = {.name = "tms27c010a", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 150, .page_bytes = 1, .a9_id = {0x97, 0xD6}, .program_mv = 6500,
    .times = &TIMES_EPROM};
/* NMOS, read only here */
const struct cm_par_part cm_2716 = {
    .part = {.name = "2716", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 2048, .cycle_ns = 450, .page_bytes = 1,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_2732 = {
    .part = {.name = "2732", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 4096, .cycle_ns = 450, .page_bytes = 1,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_2764 = {
    .part = {.name = "2764", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 8192, .cycle_ns = 450, .page_bytes = 1,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_27128 = {
    .part = {.name = "27128", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 16384, .cycle_ns = 450, .page_bytes = 1,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_27256 = {
    .part = {.name = "27256", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 32768, .cycle_ns = 450, .page_bytes = 1,
    .times = &TIMES_EPROM};
const struct cm_par_part cm_27512 = {
    .part = {.name = "27512", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 65536, .cycle_ns = 450, .page_bytes = 1,
    .times = &TIMES_EPROM};
/* Erased by 14 V, which is not done here */
const struct cm_par_part cm_w27c512 = {
    .part = {.name = "w27c512", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 65536, .cycle_ns = 120, .page_bytes = 1, .a9_id = {0xDA, 0x08},
    .times = &TIMES_EPROM};
const struct cm_par_part cm_sst27sf512 = {
    .part = {.name = "sst27sf512", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 65536, .cycle_ns = 120, .page_bytes = 1, .a9_id = {0xBF, 0xA4},
    .times = &TIMES_EPROM};
const struct cm_par_part cm_sst27sf010 = {
    .part = {.name = "sst27sf010", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 120, .page_bytes = 1, .a9_id = {0xBF, 0xA5},
    .times = &TIMES_EPROM};
const struct cm_par_part cm_sst27sf020 = {
    .part = {.name = "sst27sf020", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 262144, .cycle_ns = 120, .page_bytes = 1, .a9_id = {0xBF, 0xA6},
    .times = &TIMES_EPROM};
/* 16 bits */
const struct cm_par_part cm_27c1024 = {
    .part = {.name = "27c1024", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 131072, .cycle_ns = 150, .page_bytes = 1, .traits = CM_PAR_WIDE,
    .times = &TIMES_EPROM_WIDE};
const struct cm_par_part cm_27c4096 = {
    .part = {.name = "27c4096", .supply_min_mv = 4500, .supply_max_mv = 5500},
    .bytes = 524288, .cycle_ns = 150, .page_bytes = 1, .traits = CM_PAR_WIDE,
    .times = &TIMES_EPROM_WIDE};

const struct cm_part *const cm_eprom_all_parts[CM_EPROM_PART_COUNT] = {&cm_27c64.part, &cm_27c128.part, &cm_27c256.part, &cm_27c010.part, &cm_27c020.part, &cm_27c040.part, &cm_27c512.part, &cm_27c080.part, &cm_am27c64.part, &cm_am27c128.part, &cm_am27c256.part, &cm_am27c512.part, &cm_am27c010.part, &cm_am27c020.part, &cm_am27c040.part, &cm_at27c256r.part, &cm_at27c512r.part, &cm_at27c010.part, &cm_at27c020.part, &cm_at27c040.part, &cm_m27c256b.part, &cm_m27c512.part, &cm_m27c1001.part, &cm_m27c2001.part, &cm_m27c4001.part, &cm_tms27c256.part, &cm_tms27c512.part, &cm_tms27c010a.part, &cm_2716.part, &cm_2732.part, &cm_2764.part, &cm_27128.part, &cm_27256.part, &cm_27512.part, &cm_w27c512.part, &cm_sst27sf512.part, &cm_sst27sf010.part, &cm_sst27sf020.part, &cm_27c1024.part, &cm_27c4096.part};
