/* Made by tools/nor-parts.py: change it there. SPI NOR flash. */
#include <coldmint/nor_parts.h>

static const struct cm_nor_erases ERASES_FS = {.units = {{32768, 600000, 1100000, 0x52, 0}}, .chip_opcode = 0xC7, .chip_ms_per_mib = 4000};
static const struct cm_nor_erases ERASES_ISSI_LQ = {.units = {{4096, 70000, 300000, 0x20, 0}, {32768, 130000, 500000, 0x52, 0}, {65536, 200000, 1000000, 0xD8, 0}}, .chip_opcode = 0xC7, .chip_ms_per_mib = 2600};
static const struct cm_nor_erases ERASES_NO_HALF = {.units = {{4096, 60000, 800000, 0x20, 0x21}, {65536, 500000, 4000000, 0xD8, 0xDC}}, .chip_opcode = 0xC7, .chip_ms_per_mib = 2600};
static const struct cm_nor_erases ERASES_OCTAL = {.units = {{4096, 50000, 400000, 0x20, 0x21}, {32768, 100000, 1000000, 0x52, 0x5C}, {131072, 150000, 2000000, 0xD8, 0xDC}}, .chip_opcode = 0xC7, .chip_ms_per_mib = 2600};
static const struct cm_nor_erases ERASES_PMC = {.units = {{4096, 60000, 150000, 0xD7, 0}, {32768, 60000, 150000, 0xD8, 0}}, .chip_opcode = 0xC7, .chip_ms_per_mib = 2600};
static const struct cm_nor_erases ERASES_SECTOR256 = {.units = {{262144, 520000, 3000000, 0xD8, 0xDC}}, .chip_opcode = 0xC7, .chip_ms_per_mib = 2100};
static const struct cm_nor_erases ERASES_SECTOR256_EITHER = {.units = {{262144, 520000, 8000000, 0xD8, 0xDC}}, .chip_opcode = 0xC7, .chip_ms_per_mib = 6600};
static const struct cm_nor_erases ERASES_SECTOR256_OLD = {.units = {{262144, 1600000, 8000000, 0xD8, 0}}, .chip_opcode = 0xC7, .chip_ms_per_mib = 6600};
static const struct cm_nor_erases ERASES_SECTOR32 = {.units = {{32768, 600000, 3000000, 0xD8, 0}}, .chip_opcode = 0xC7, .chip_ms_per_mib = 14000};
static const struct cm_nor_erases ERASES_SECTOR64 = {.units = {{65536, 600000, 3000000, 0xD8, 0xDC}}, .chip_opcode = 0xC7, .chip_ms_per_mib = 10000};
static const struct cm_nor_erases ERASES_SST = {.units = {{4096, 18000, 25000, 0x20, 0}, {32768, 18000, 25000, 0x52, 0}, {65536, 18000, 25000, 0xD8, 0}}, .chip_opcode = 0x60, .chip_ms_per_mib = 35};
static const struct cm_nor_erases ERASES_SST_OLD = {.units = {{4096, 18000, 25000, 0x20, 0}, {32768, 18000, 25000, 0x52, 0}}, .chip_opcode = 0x60, .chip_ms_per_mib = 70};
static const struct cm_nor_erases ERASES_SST_WF = {.units = {{4096, 36000, 75000, 0x20, 0}, {32768, 36000, 75000, 0x52, 0}, {65536, 36000, 75000, 0xD8, 0}}, .chip_opcode = 0x60, .chip_ms_per_mib = 150};
static const struct cm_nor_erases ERASES_SUBSECTOR = {.units = {{4096, 250000, 800000, 0x20, 0x21}, {65536, 700000, 3000000, 0xD8, 0xDC}}, .chip_opcode = 0xC7, .chip_ms_per_mib = 10700};
static const struct cm_nor_erases ERASES_UNIFORM = {.units = {{4096, 45000, 800000, 0x20, 0x21}, {32768, 120000, 2400000, 0x52, 0x5C}, {65536, 150000, 4000000, 0xD8, 0xDC}}, .chip_opcode = 0xC7, .chip_ms_per_mib = 2600};
static const struct cm_nor_times TIMES_AT25 = {.program_us = 1000, .program_max_us = 5000, .status_max_us = 40000};
static const struct cm_nor_times TIMES_FL_P = {.program_us = 1500, .program_max_us = 3000, .status_max_us = 500000};
static const struct cm_nor_times TIMES_LOW_POWER = {.program_us = 850, .program_max_us = 10000, .status_max_us = 30000};
static const struct cm_nor_times TIMES_M25P = {.program_us = 800, .program_max_us = 7000, .status_max_us = 15000};
static const struct cm_nor_times TIMES_MICRON = {.program_us = 500, .program_max_us = 5000, .status_max_us = 8000};
static const struct cm_nor_times TIMES_SLOW = {.program_us = 1400, .program_max_us = 5000, .status_max_us = 40000};
static const struct cm_nor_times TIMES_SPANSION = {.program_us = 340, .program_max_us = 2000, .status_max_us = 500000};
static const struct cm_nor_times TIMES_SPANSION_OR_P = {.program_us = 340, .program_max_us = 3000, .status_max_us = 500000};
static const struct cm_nor_times TIMES_SST = {.program_us = 10, .program_max_us = 25, .status_max_us = 10000, .program = cm_nor_program_words};
static const struct cm_nor_times TIMES_SST_OLD = {.program_us = 20, .program_max_us = 60, .status_max_us = 10000};
static const struct cm_nor_times TIMES_SST_WF = {.program_us = 25, .program_max_us = 60, .status_max_us = 10000, .program = cm_nor_program_words};
static const struct cm_nor_times TIMES_USUAL = {.program_us = 700, .program_max_us = 5000, .status_max_us = 40000};
static const struct cm_nor_status STATUS_AT25DF = {.count = 1, .enable = 0x06, .read = {0x05}, .write = {0x01}, .kept = {0x8C}};
static const struct cm_nor_status STATUS_GD25Q = {.count = 2, .enable = 0x06, .read = {0x05, 0x35}, .write = {0x01, 0x01}, .kept = {0xFC, 0x7B}};
static const struct cm_nor_status STATUS_ISSI = {.count = 2, .enable = 0x06, .read = {0x05, 0x48}, .write = {0x01, 0}, .kept = {0xFC, 0x02}};
static const struct cm_nor_status STATUS_MICRON = {.count = 1, .enable = 0x06, .read = {0x05}, .write = {0x01}, .kept = {0xFC}};
static const struct cm_nor_status STATUS_MICRON_STACKED = {.count = 1, .enable = 0x06, .read = {0x05}, .write = {0x01}, .kept = {0xFC}, .flag_status = true};
static const struct cm_nor_status STATUS_MX_CONFIG = {.count = 2, .enable = 0x06, .read = {0x05, 0x15}, .write = {0x01, 0x01}, .kept = {0xFC, 0xCF}};
static const struct cm_nor_status STATUS_ONE = {.count = 1, .enable = 0x06, .read = {0x05}, .write = {0x01}, .kept = {0xFC}};
static const struct cm_nor_status STATUS_ONE_SST = {.count = 1, .enable = 0x06, .read = {0x05}, .write = {0x01}, .kept = {0xBC}};
static const struct cm_nor_status STATUS_ONE_SST_OLD = {.count = 1, .enable = 0x50, .read = {0x05}, .write = {0x01}, .kept = {0x8C}};
static const struct cm_nor_status STATUS_SPANSION = {.count = 2, .enable = 0x06, .read = {0x05, 0x35}, .write = {0x01, 0x01}, .kept = {0x9C, 0xFE}, .clear = 0x30};
static const struct cm_nor_status STATUS_W25Q = {.count = 3, .enable = 0x06, .read = {0x05, 0x35, 0x15}, .write = {0x01, 0x01, 0x11}, .kept = {0xFC, 0x7B, 0xE4}};
static const struct cm_nor_status STATUS_W25Q_WIDE = {.count = 3, .enable = 0x06, .read = {0x05, 0x35, 0x15}, .write = {0x01, 0x01, 0x11}, .kept = {0xFC, 0x7B, 0xE6}};
static const struct cm_nor_status STATUS_W25X = {.count = 1, .enable = 0x06, .read = {0x05}, .write = {0x01}, .kept = {0xFC}};
static const struct cm_nor_guard GUARD_AT25DF = {.bp = {0x04, 0x08}, .fraction = 0, .least_bytes = 65536, .volatile_bits = true, .by_sector = &cm_nor_sector_locks, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_GD25Q = {.bp = {0x04, 0x08, 0x10}, .fraction = 64, .least_bytes = 65536, .tb_register = 0, .tb_mask = 0x20, .cmp_register = 1, .cmp_mask = 0x40, .srl_register = 1, .srl_mask = 0x01, .sec_mask = 0x40, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_ISSI = {.bp = {0x04, 0x08, 0x10, 0x20}, .fraction = 0, .least_bytes = 65536, .tb_fixed = true, .tb_register = 1, .tb_mask = 0x02, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_M25PX = {.bp = {0x04, 0x08, 0x10}, .fraction = 64, .least_bytes = 65536, .tb_register = 0, .tb_mask = 0x20, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_MICRON = {.bp = {0x04, 0x08, 0x10, 0x40}, .fraction = 0, .least_bytes = 65536, .tb_register = 0, .tb_mask = 0x20, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_MIRROR = {.bp = {0x04, 0x08, 0x10, 0x20}, .fraction = 64, .least_bytes = 65536, .mirrored = true, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_MX_CONFIG = {.bp = {0x04, 0x08, 0x10, 0x20}, .fraction = 0, .least_bytes = 65536, .tb_fixed = true, .tb_register = 1, .tb_mask = 0x08, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_SPANSION = {.bp = {0x04, 0x08, 0x10}, .fraction = 64, .least_bytes = 0, .tb_fixed = true, .tb_register = 1, .tb_mask = 0x20, .srl_register = 1, .srl_mask = 0x01, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_SST = {.bp = {0x04, 0x08, 0x10}, .fraction = 64, .least_bytes = 65536, .volatile_bits = true, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_SST2 = {.bp = {0x04, 0x08}, .fraction = 4, .least_bytes = 0, .volatile_bits = true, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_THREE = {.bp = {0x04, 0x08, 0x10}, .fraction = 64, .least_bytes = 65536, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_TWO = {.bp = {0x04, 0x08}, .fraction = 4, .least_bytes = 0, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_TWO_64 = {.bp = {0x04, 0x08}, .fraction = 64, .least_bytes = 65536, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_VAGUE3 = {.bp = {0x04, 0x08, 0x10}, .fraction = 64, .least_bytes = 65536, .vague = true, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_VAGUE4 = {.bp = {0x04, 0x08, 0x10, 0x20}, .fraction = 64, .least_bytes = 65536, .vague = true, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_W25Q = {.bp = {0x04, 0x08, 0x10}, .fraction = 64, .least_bytes = 65536, .tb_register = 0, .tb_mask = 0x20, .cmp_register = 1, .cmp_mask = 0x40, .srl_register = 1, .srl_mask = 0x01, .wps_register = 2, .wps_mask = 0x04, .sec_mask = 0x40, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_W25Q_WIDE = {.bp = {0x04, 0x08, 0x10, 0x20}, .fraction = 0, .least_bytes = 65536, .tb_register = 0, .tb_mask = 0x40, .cmp_register = 1, .cmp_mask = 0x40, .srl_register = 1, .srl_mask = 0x01, .wps_register = 2, .wps_mask = 0x04, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_W25X = {.bp = {0x04, 0x08, 0x10}, .fraction = 64, .least_bytes = 65536, .tb_register = 0, .tb_mask = 0x20, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_W25X2 = {.bp = {0x04, 0x08}, .fraction = 4, .least_bytes = 0, .tb_register = 0, .tb_mask = 0x20, .lock_mask = 0x80};

// Winbond
const struct cm_nor_part cm_w25x10 = {
    .part = {.name = "w25x10", .id = {0xEF, 0x30, 0x11}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 131072, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_W25X, .guard = &GUARD_W25X2};
const struct cm_nor_part cm_w25x20 = {
    .part = {.name = "w25x20", .id = {0xEF, 0x30, 0x12}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_W25X, .guard = &GUARD_W25X2};
const struct cm_nor_part cm_w25x40 = {
    .part = {.name = "w25x40", .id = {0xEF, 0x30, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_W25X, .guard = &GUARD_W25X};
const struct cm_nor_part cm_w25x80 = {
    .part = {.name = "w25x80", .id = {0xEF, 0x30, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_W25X, .guard = &GUARD_W25X};
const struct cm_nor_part cm_w25x16 = {
    .part = {.name = "w25x16", .id = {0xEF, 0x30, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_W25X, .guard = &GUARD_W25X};
const struct cm_nor_part cm_w25x32 = {
    .part = {.name = "w25x32", .id = {0xEF, 0x30, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_W25X, .guard = &GUARD_W25X};
const struct cm_nor_part cm_w25x64 = {
    .part = {.name = "w25x64", .id = {0xEF, 0x30, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_W25X, .guard = &GUARD_W25X};
const struct cm_nor_part cm_w25q20 = {
    .part = {.name = "w25q20", .id = {0xEF, 0x40, 0x12}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q40 = {
    .part = {.name = "w25q40", .id = {0xEF, 0x40, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q80 = {
    .part = {.name = "w25q80", .id = {0xEF, 0x40, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q16 = {
    .part = {.name = "w25q16", .id = {0xEF, 0x40, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q32 = {
    .part = {.name = "w25q32", .id = {0xEF, 0x40, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q64 = {
    .part = {.name = "w25q64", .id = {0xEF, 0x40, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q128 = {
    .part = {.name = "w25q128", .id = {0xEF, 0x40, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .fast_hz = 104000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q256 = {
    .part = {.name = "w25q256", .id = {0xEF, 0x40, 0x19}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_B7,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q_WIDE, .guard = &GUARD_W25Q_WIDE};
const struct cm_nor_part cm_w25q512jv = {
    .part = {.name = "w25q512jv", .id = {0xEF, 0x40, 0x20}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 67108864, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q_WIDE, .guard = &GUARD_W25Q_WIDE};
const struct cm_nor_part cm_w25q01jv = {
    .part = {.name = "w25q01jv", .id = {0xEF, 0x40, 0x21}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 134217728, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q_WIDE, .guard = &GUARD_W25Q_WIDE};

// Winbond, double rate
const struct cm_nor_part cm_w25q16jv_m = {
    .part = {.name = "w25q16jv-m", .id = {0xEF, 0x70, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q32jv_m = {
    .part = {.name = "w25q32jv-m", .id = {0xEF, 0x70, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q64jv_m = {
    .part = {.name = "w25q64jv-m", .id = {0xEF, 0x70, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q128jv_m = {
    .part = {.name = "w25q128jv-m", .id = {0xEF, 0x70, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q256jv_m = {
    .part = {.name = "w25q256jv-m", .id = {0xEF, 0x70, 0x19}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q_WIDE, .guard = &GUARD_W25Q_WIDE};
const struct cm_nor_part cm_w25q512jv_m = {
    .part = {.name = "w25q512jv-m", .id = {0xEF, 0x70, 0x20}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 67108864, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q_WIDE, .guard = &GUARD_W25Q_WIDE};
const struct cm_nor_part cm_w25q01jv_m = {
    .part = {.name = "w25q01jv-m", .id = {0xEF, 0x70, 0x21}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 134217728, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q_WIDE, .guard = &GUARD_W25Q_WIDE};
const struct cm_nor_part cm_w25q02jv_m = {
    .part = {.name = "w25q02jv-m", .id = {0xEF, 0x70, 0x22}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 268435456, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q_WIDE, .guard = &GUARD_W25Q_WIDE};

// Winbond, 1.8 V
const struct cm_nor_part cm_w25q40bw = {
    .part = {.name = "w25q40bw", .id = {0xEF, 0x50, 0x13}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q80bw = {
    .part = {.name = "w25q80bw", .id = {0xEF, 0x50, 0x14}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q20ew = {
    .part = {.name = "w25q20ew", .id = {0xEF, 0x60, 0x12}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q40ew = {
    .part = {.name = "w25q40ew", .id = {0xEF, 0x60, 0x13}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q80ew = {
    .part = {.name = "w25q80ew", .id = {0xEF, 0x60, 0x14}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q16dw = {
    .part = {.name = "w25q16dw", .id = {0xEF, 0x60, 0x15}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q32dw = {
    .part = {.name = "w25q32dw", .id = {0xEF, 0x60, 0x16}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q64dw = {
    .part = {.name = "w25q64dw", .id = {0xEF, 0x60, 0x17}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q128fw = {
    .part = {.name = "w25q128fw", .id = {0xEF, 0x60, 0x18}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q16jw_m = {
    .part = {.name = "w25q16jw-m", .id = {0xEF, 0x80, 0x15}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q32jw_m = {
    .part = {.name = "w25q32jw-m", .id = {0xEF, 0x80, 0x16}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q64jw_m = {
    .part = {.name = "w25q64jw-m", .id = {0xEF, 0x80, 0x17}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q128jw_m = {
    .part = {.name = "w25q128jw-m", .id = {0xEF, 0x80, 0x18}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q, .guard = &GUARD_W25Q};
const struct cm_nor_part cm_w25q256fw = {
    .part = {.name = "w25q256fw", .id = {0xEF, 0x60, 0x19}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_B7,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q_WIDE, .guard = &GUARD_W25Q_WIDE};
const struct cm_nor_part cm_w25q512nw = {
    .part = {.name = "w25q512nw", .id = {0xEF, 0x60, 0x20}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 67108864, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q_WIDE, .guard = &GUARD_W25Q_WIDE};
const struct cm_nor_part cm_w25q256jw_m = {
    .part = {.name = "w25q256jw-m", .id = {0xEF, 0x80, 0x19}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_B7,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_W25Q_WIDE, .guard = &GUARD_W25Q_WIDE};

// GigaDevice
const struct cm_nor_part cm_gd25q512 = {
    .part = {.name = "gd25q512", .id = {0xC8, 0x40, 0x10}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 65536, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_gd25q10 = {
    .part = {.name = "gd25q10", .id = {0xC8, 0x40, 0x11}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 131072, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_gd25q20 = {
    .part = {.name = "gd25q20", .id = {0xC8, 0x40, 0x12}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25q40 = {
    .part = {.name = "gd25q40", .id = {0xC8, 0x40, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25q80 = {
    .part = {.name = "gd25q80", .id = {0xC8, 0x40, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25q16 = {
    .part = {.name = "gd25q16", .id = {0xC8, 0x40, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25q32 = {
    .part = {.name = "gd25q32", .id = {0xC8, 0x40, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25q64 = {
    .part = {.name = "gd25q64", .id = {0xC8, 0x40, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25q128 = {
    .part = {.name = "gd25q128", .id = {0xC8, 0x40, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25vq16 = {
    .part = {.name = "gd25vq16", .id = {0xC8, 0x42, 0x15}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25q256 = {
    .part = {.name = "gd25q256", .id = {0xC8, 0x40, 0x19}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_B7,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_gd25q512mc = {
    .part = {.name = "gd25q512mc", .id = {0xC8, 0x40, 0x20}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 67108864, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_B7,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_gd25b512me = {
    .part = {.name = "gd25b512me", .id = {0xC8, 0x47, 0x1A}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 67108864, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_B7,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_gd55b01ge = {
    .part = {.name = "gd55b01ge", .id = {0xC8, 0x47, 0x1B}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 134217728, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_B7,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};

// GigaDevice, 1.8 V
const struct cm_nor_part cm_gd25lq40 = {
    .part = {.name = "gd25lq40", .id = {0xC8, 0x60, 0x13}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25lq80 = {
    .part = {.name = "gd25lq80", .id = {0xC8, 0x60, 0x14}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25lq16 = {
    .part = {.name = "gd25lq16", .id = {0xC8, 0x60, 0x15}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25lq32 = {
    .part = {.name = "gd25lq32", .id = {0xC8, 0x60, 0x16}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25lq64 = {
    .part = {.name = "gd25lq64", .id = {0xC8, 0x60, 0x17}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25lq128 = {
    .part = {.name = "gd25lq128", .id = {0xC8, 0x60, 0x18}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25lq256 = {
    .part = {.name = "gd25lq256", .id = {0xC8, 0x60, 0x19}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_B7,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_gd25lb512me = {
    .part = {.name = "gd25lb512me", .id = {0xC8, 0x67, 0x1A}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 67108864, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_B7,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};

// GigaDevice, wide supply
const struct cm_nor_part cm_gd25wq20 = {
    .part = {.name = "gd25wq20", .id = {0xC8, 0x65, 0x12}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_SLOW, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25wq40 = {
    .part = {.name = "gd25wq40", .id = {0xC8, 0x65, 0x13}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_SLOW, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25wq80 = {
    .part = {.name = "gd25wq80", .id = {0xC8, 0x65, 0x14}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_SLOW, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25wq16 = {
    .part = {.name = "gd25wq16", .id = {0xC8, 0x65, 0x15}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_SLOW, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25wq32 = {
    .part = {.name = "gd25wq32", .id = {0xC8, 0x65, 0x16}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_SLOW, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25wq64 = {
    .part = {.name = "gd25wq64", .id = {0xC8, 0x65, 0x17}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_SLOW, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_gd25wq128 = {
    .part = {.name = "gd25wq128", .id = {0xC8, 0x65, 0x18}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_SLOW, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};

// Macronix
const struct cm_nor_part cm_mx25l512 = {
    .part = {.name = "mx25l512", .id = {0xC2, 0x20, 0x10}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 65536, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_TWO};
const struct cm_nor_part cm_mx25l1005 = {
    .part = {.name = "mx25l1005", .id = {0xC2, 0x20, 0x11}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 131072, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_TWO};
const struct cm_nor_part cm_mx25l2005 = {
    .part = {.name = "mx25l2005", .id = {0xC2, 0x20, 0x12}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_TWO_64};
const struct cm_nor_part cm_mx25l4005 = {
    .part = {.name = "mx25l4005", .id = {0xC2, 0x20, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_mx25l8005 = {
    .part = {.name = "mx25l8005", .id = {0xC2, 0x20, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_mx25l1606e = {
    .part = {.name = "mx25l1606e", .id = {0xC2, 0x20, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_MIRROR};
const struct cm_nor_part cm_mx25l3206e = {
    .part = {.name = "mx25l3206e", .id = {0xC2, 0x20, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_MIRROR};
const struct cm_nor_part cm_mx25l6406e = {
    .part = {.name = "mx25l6406e", .id = {0xC2, 0x20, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_MIRROR};
const struct cm_nor_part cm_mx25l3233f = {
    .part = {.name = "mx25l3233f", .id = {0xC2, 0x20, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_MX_CONFIG, .guard = &GUARD_MX_CONFIG};
const struct cm_nor_part cm_mx25l6433f = {
    .part = {.name = "mx25l6433f", .id = {0xC2, 0x20, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_MX_CONFIG, .guard = &GUARD_MX_CONFIG};
const struct cm_nor_part cm_mx25l12835f = {
    .part = {.name = "mx25l12835f", .id = {0xC2, 0x20, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_MX_CONFIG, .guard = &GUARD_MX_CONFIG};
const struct cm_nor_part cm_mx25l25635f = {
    .part = {.name = "mx25l25635f", .id = {0xC2, 0x20, 0x19}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_B7,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_MX_CONFIG, .guard = &GUARD_MX_CONFIG};
const struct cm_nor_part cm_mx66l51235f = {
    .part = {.name = "mx66l51235f", .id = {0xC2, 0x20, 0x1A}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 67108864, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_MX_CONFIG, .guard = &GUARD_MX_CONFIG};
const struct cm_nor_part cm_mx66l1g45g = {
    .part = {.name = "mx66l1g45g", .id = {0xC2, 0x20, 0x1B}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 134217728, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_MX_CONFIG, .guard = &GUARD_MX_CONFIG};
const struct cm_nor_part cm_mx66l2g45g = {
    .part = {.name = "mx66l2g45g", .id = {0xC2, 0x20, 0x1C}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 268435456, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_MX_CONFIG, .guard = &GUARD_MX_CONFIG};
const struct cm_nor_part cm_mx25l3205d = {
    .part = {.name = "mx25l3205d", .id = {0xC2, 0x20, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25l6405d = {
    .part = {.name = "mx25l6405d", .id = {0xC2, 0x20, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25l12805d = {
    .part = {.name = "mx25l12805d", .id = {0xC2, 0x20, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25l3255e = {
    .part = {.name = "mx25l3255e", .id = {0xC2, 0x9E, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25l6455e = {
    .part = {.name = "mx25l6455e", .id = {0xC2, 0x26, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25l12855e = {
    .part = {.name = "mx25l12855e", .id = {0xC2, 0x26, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25l25655e = {
    .part = {.name = "mx25l25655e", .id = {0xC2, 0x26, 0x19}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_B7,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};

// Macronix, 1.8 V
const struct cm_nor_part cm_mx25u2033e = {
    .part = {.name = "mx25u2033e", .id = {0xC2, 0x25, 0x32}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25u4035 = {
    .part = {.name = "mx25u4035", .id = {0xC2, 0x25, 0x33}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25u8035 = {
    .part = {.name = "mx25u8035", .id = {0xC2, 0x25, 0x34}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25u1635e = {
    .part = {.name = "mx25u1635e", .id = {0xC2, 0x25, 0x35}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25u3235e = {
    .part = {.name = "mx25u3235e", .id = {0xC2, 0x25, 0x36}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25u6435e = {
    .part = {.name = "mx25u6435e", .id = {0xC2, 0x25, 0x37}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25u12835f = {
    .part = {.name = "mx25u12835f", .id = {0xC2, 0x25, 0x38}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_MX_CONFIG, .guard = &GUARD_MX_CONFIG};
const struct cm_nor_part cm_mx25u25635f = {
    .part = {.name = "mx25u25635f", .id = {0xC2, 0x25, 0x39}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_B7,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_MX_CONFIG, .guard = &GUARD_MX_CONFIG};
const struct cm_nor_part cm_mx66u51235f = {
    .part = {.name = "mx66u51235f", .id = {0xC2, 0x25, 0x3A}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 67108864, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_MX_CONFIG, .guard = &GUARD_MX_CONFIG};
const struct cm_nor_part cm_mx66u1g45g = {
    .part = {.name = "mx66u1g45g", .id = {0xC2, 0x25, 0x3B}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 134217728, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_MX_CONFIG, .guard = &GUARD_MX_CONFIG};
const struct cm_nor_part cm_mx66u2g45g = {
    .part = {.name = "mx66u2g45g", .id = {0xC2, 0x25, 0x3C}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 268435456, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_MX_CONFIG, .guard = &GUARD_MX_CONFIG};

// Macronix, 2.3 V
const struct cm_nor_part cm_mx25v1035f = {
    .part = {.name = "mx25v1035f", .id = {0xC2, 0x23, 0x11}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 131072, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25v2035f = {
    .part = {.name = "mx25v2035f", .id = {0xC2, 0x23, 0x12}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25v4035f = {
    .part = {.name = "mx25v4035f", .id = {0xC2, 0x23, 0x13}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25v8035f = {
    .part = {.name = "mx25v8035f", .id = {0xC2, 0x23, 0x14}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25v1635f = {
    .part = {.name = "mx25v1635f", .id = {0xC2, 0x23, 0x15}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};

// Macronix, low power
const struct cm_nor_part cm_mx25r512f = {
    .part = {.name = "mx25r512f", .id = {0xC2, 0x28, 0x10}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 3600},
    .bytes = 65536, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_LOW_POWER, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25r1035f = {
    .part = {.name = "mx25r1035f", .id = {0xC2, 0x28, 0x11}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 3600},
    .bytes = 131072, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_LOW_POWER, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25r2035f = {
    .part = {.name = "mx25r2035f", .id = {0xC2, 0x28, 0x12}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_LOW_POWER, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25r4035f = {
    .part = {.name = "mx25r4035f", .id = {0xC2, 0x28, 0x13}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_LOW_POWER, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25r8035f = {
    .part = {.name = "mx25r8035f", .id = {0xC2, 0x28, 0x14}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_LOW_POWER, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25r1635f = {
    .part = {.name = "mx25r1635f", .id = {0xC2, 0x28, 0x15}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_LOW_POWER, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25r3235f = {
    .part = {.name = "mx25r3235f", .id = {0xC2, 0x28, 0x16}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_LOW_POWER, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_mx25r6435f = {
    .part = {.name = "mx25r6435f", .id = {0xC2, 0x28, 0x17}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_LOW_POWER, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};

// Micron
const struct cm_nor_part cm_m25p05 = {
    .part = {.name = "m25p05", .id = {0x20, 0x20, 0x10}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 65536, .clock_hz = 20000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR32, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_m25p10 = {
    .part = {.name = "m25p10", .id = {0x20, 0x20, 0x11}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 131072, .clock_hz = 20000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR32, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_TWO};
const struct cm_nor_part cm_m25p20 = {
    .part = {.name = "m25p20", .id = {0x20, 0x20, 0x12}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 20000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_TWO};
const struct cm_nor_part cm_m25p40 = {
    .part = {.name = "m25p40", .id = {0x20, 0x20, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 20000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_m25p80 = {
    .part = {.name = "m25p80", .id = {0x20, 0x20, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 20000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_m25p16 = {
    .part = {.name = "m25p16", .id = {0x20, 0x20, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 20000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_m25p32 = {
    .part = {.name = "m25p32", .id = {0x20, 0x20, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 20000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_m25p64 = {
    .part = {.name = "m25p64", .id = {0x20, 0x20, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 20000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_m25p128 = {
    .part = {.name = "m25p128", .id = {0x20, 0x20, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 20000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR256_OLD, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_m25px80 = {
    .part = {.name = "m25px80", .id = {0x20, 0x71, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_M25PX};
const struct cm_nor_part cm_m25px16 = {
    .part = {.name = "m25px16", .id = {0x20, 0x71, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_M25PX};
const struct cm_nor_part cm_m25px32 = {
    .part = {.name = "m25px32", .id = {0x20, 0x71, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_M25PX};
const struct cm_nor_part cm_m25px32_s0 = {
    .part = {.name = "m25px32-s0", .id = {0x20, 0x73, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_M25PX};
const struct cm_nor_part cm_m25px32_s1 = {
    .part = {.name = "m25px32-s1", .id = {0x20, 0x63, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_M25PX};
const struct cm_nor_part cm_m25px64 = {
    .part = {.name = "m25px64", .id = {0x20, 0x71, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_M25PX};
const struct cm_nor_part cm_m25pe10 = {
    .part = {.name = "m25pe10", .id = {0x20, 0x80, 0x11}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 131072, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_m25pe20 = {
    .part = {.name = "m25pe20", .id = {0x20, 0x80, 0x12}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_m25pe40 = {
    .part = {.name = "m25pe40", .id = {0x20, 0x80, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_m25pe80 = {
    .part = {.name = "m25pe80", .id = {0x20, 0x80, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_m25pe16 = {
    .part = {.name = "m25pe16", .id = {0x20, 0x80, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_m45pe10 = {
    .part = {.name = "m45pe10", .id = {0x20, 0x40, 0x11}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 131072, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, };
const struct cm_nor_part cm_m45pe20 = {
    .part = {.name = "m45pe20", .id = {0x20, 0x40, 0x12}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, };
const struct cm_nor_part cm_m45pe40 = {
    .part = {.name = "m45pe40", .id = {0x20, 0x40, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, };
const struct cm_nor_part cm_m45pe80 = {
    .part = {.name = "m45pe80", .id = {0x20, 0x40, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, };
const struct cm_nor_part cm_m45pe16 = {
    .part = {.name = "m45pe16", .id = {0x20, 0x40, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, };
const struct cm_nor_part cm_n25q032 = {
    .part = {.name = "n25q032", .id = {0x20, 0xBA, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_n25q064 = {
    .part = {.name = "n25q064", .id = {0x20, 0xBA, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_n25q128 = {
    .part = {.name = "n25q128", .id = {0x20, 0xBA, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .fast_hz = 108000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_n25q256 = {
    .part = {.name = "n25q256", .id = {0x20, 0xBA, 0x19}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_WREN_B7,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_n25q512 = {
    .part = {.name = "n25q512", .id = {0x20, 0xBA, 0x20}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 67108864, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_WREN_B7,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON_STACKED, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_mt25ql01g = {
    .part = {.name = "mt25ql01g", .id = {0x20, 0xBA, 0x21}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 134217728, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_WREN_B7,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON_STACKED, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_mt25ql02g = {
    .part = {.name = "mt25ql02g", .id = {0x20, 0xBA, 0x22}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 268435456, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_WREN_B7,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON_STACKED, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_n25q00 = {
    .part = {.name = "n25q00", .id = {0x20, 0xBA, 0x21}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 134217728, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_WREN_B7,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON_STACKED, .guard = &GUARD_MICRON};

// Micron, 1.8 V
const struct cm_nor_part cm_n25q016_1v8 = {
    .part = {.name = "n25q016-1v8", .id = {0x20, 0xBB, 0x15}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_n25q032_1v8 = {
    .part = {.name = "n25q032-1v8", .id = {0x20, 0xBB, 0x16}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_n25q064_1v8 = {
    .part = {.name = "n25q064-1v8", .id = {0x20, 0xBB, 0x17}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_n25q128_1v8 = {
    .part = {.name = "n25q128-1v8", .id = {0x20, 0xBB, 0x18}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_n25q256_1v8 = {
    .part = {.name = "n25q256-1v8", .id = {0x20, 0xBB, 0x19}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_WREN_B7,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_n25q512_1v8 = {
    .part = {.name = "n25q512-1v8", .id = {0x20, 0xBB, 0x20}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 67108864, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_WREN_B7,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON_STACKED, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_mt25qu01g = {
    .part = {.name = "mt25qu01g", .id = {0x20, 0xBB, 0x21}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 134217728, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_WREN_B7,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON_STACKED, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_mt25qu02g = {
    .part = {.name = "mt25qu02g", .id = {0x20, 0xBB, 0x22}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 268435456, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_WREN_B7,
    .erases = &ERASES_SUBSECTOR, .times = &TIMES_MICRON, .status = &STATUS_MICRON_STACKED, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_mt35xu512 = {
    .part = {.name = "mt35xu512", .id = {0x2C, 0x5B, 0x1A}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 67108864, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_OCTAL, .times = &TIMES_MICRON, .status = &STATUS_MICRON_STACKED, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_mt35xu01g = {
    .part = {.name = "mt35xu01g", .id = {0x2C, 0x5B, 0x1B}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 134217728, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_OCTAL, .times = &TIMES_MICRON, .status = &STATUS_MICRON_STACKED, .guard = &GUARD_MICRON};
const struct cm_nor_part cm_mt35xu02g = {
    .part = {.name = "mt35xu02g", .id = {0x2C, 0x5B, 0x1C}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 268435456, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_OCTAL, .times = &TIMES_MICRON, .status = &STATUS_MICRON_STACKED, .guard = &GUARD_MICRON};

// Numonyx
const struct cm_nor_part cm_s33_160 = {
    .part = {.name = "s33-160", .id = {0x89, 0x89, 0x11}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_s33_320 = {
    .part = {.name = "s33-320", .id = {0x89, 0x89, 0x12}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_s33_640 = {
    .part = {.name = "s33-640", .id = {0x89, 0x89, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};

// Infineon, 1.8 V
const struct cm_nor_part cm_s25fs128s_64k = {
    .part = {.name = "s25fs128s-64k", .id = {0x01, 0x20, 0x18, 0x4D, 0x01, 0x81}, .id_bytes = 6, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_SPANSION, .status = &STATUS_SPANSION, .guard = &GUARD_SPANSION};
const struct cm_nor_part cm_s25fs256s = {
    .part = {.name = "s25fs256s", .id = {0x01, 0x02, 0x19, 0x4D, 0x00, 0x81}, .id_bytes = 6, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_SECTOR256, .times = &TIMES_SPANSION, .status = &STATUS_SPANSION, .guard = &GUARD_SPANSION};
const struct cm_nor_part cm_s25fs256s_64k = {
    .part = {.name = "s25fs256s-64k", .id = {0x01, 0x02, 0x19, 0x4D, 0x01, 0x81}, .id_bytes = 6, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_SECTOR64, .times = &TIMES_SPANSION, .status = &STATUS_SPANSION, .guard = &GUARD_SPANSION};
const struct cm_nor_part cm_s25fs512s = {
    .part = {.name = "s25fs512s", .id = {0x01, 0x02, 0x20, 0x4D, 0x00, 0x81}, .id_bytes = 6, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 67108864, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_SECTOR256, .times = &TIMES_SPANSION, .status = &STATUS_SPANSION, .guard = &GUARD_SPANSION};

// Infineon
const struct cm_nor_part cm_s25fl128p = {
    .part = {.name = "s25fl128p", .id = {0x01, 0x20, 0x18, 0x03, 0x00}, .id_bytes = 5, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR256_OLD, .times = &TIMES_FL_P, .status = &STATUS_SPANSION, .guard = &GUARD_SPANSION};
const struct cm_nor_part cm_s25fl128p_64k = {
    .part = {.name = "s25fl128p-64k", .id = {0x01, 0x20, 0x18, 0x03, 0x01}, .id_bytes = 5, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_FL_P, .status = &STATUS_SPANSION, .guard = &GUARD_SPANSION};
const struct cm_nor_part cm_s25fl128s = {
    .part = {.name = "s25fl128s", .id = {0x01, 0x20, 0x18, 0x4D, 0x00}, .id_bytes = 5, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR256_EITHER, .times = &TIMES_SPANSION_OR_P, .status = &STATUS_SPANSION, .guard = &GUARD_SPANSION};
const struct cm_nor_part cm_s25fl128s_64k = {
    .part = {.name = "s25fl128s-64k", .id = {0x01, 0x20, 0x18, 0x4D, 0x01}, .id_bytes = 5, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_SPANSION_OR_P, .status = &STATUS_SPANSION, .guard = &GUARD_SPANSION};
const struct cm_nor_part cm_s25fl256s = {
    .part = {.name = "s25fl256s", .id = {0x01, 0x02, 0x19, 0x4D, 0x00}, .id_bytes = 5, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_SECTOR256, .times = &TIMES_SPANSION, .status = &STATUS_SPANSION, .guard = &GUARD_SPANSION};
const struct cm_nor_part cm_s25fl256s_64k = {
    .part = {.name = "s25fl256s-64k", .id = {0x01, 0x02, 0x19, 0x4D, 0x01}, .id_bytes = 5, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_SECTOR64, .times = &TIMES_SPANSION, .status = &STATUS_SPANSION, .guard = &GUARD_SPANSION};
const struct cm_nor_part cm_s25fl512s = {
    .part = {.name = "s25fl512s", .id = {0x01, 0x02, 0x20, 0x4D, 0x00}, .id_bytes = 5, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 67108864, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_SECTOR256, .times = &TIMES_SPANSION, .status = &STATUS_SPANSION, .guard = &GUARD_SPANSION};
const struct cm_nor_part cm_s70fl01gs = {
    .part = {.name = "s70fl01gs", .id = {0x01, 0x02, 0x21, 0x4D, 0x00}, .id_bytes = 5, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 134217728, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_SECTOR256, .times = &TIMES_SPANSION, .status = &STATUS_SPANSION, .guard = &GUARD_SPANSION};
const struct cm_nor_part cm_s25fl129p = {
    .part = {.name = "s25fl129p", .id = {0x01, 0x20, 0x18, 0x4D, 0x00}, .id_bytes = 5, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR256_OLD, .times = &TIMES_FL_P, .status = &STATUS_SPANSION, .guard = &GUARD_SPANSION};
const struct cm_nor_part cm_s25fl129p_64k = {
    .part = {.name = "s25fl129p-64k", .id = {0x01, 0x20, 0x18, 0x4D, 0x01}, .id_bytes = 5, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_FL_P, .status = &STATUS_SPANSION, .guard = &GUARD_SPANSION};
const struct cm_nor_part cm_s25fl004a = {
    .part = {.name = "s25fl004a", .id = {0x01, 0x02, 0x12}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_s25fl008a = {
    .part = {.name = "s25fl008a", .id = {0x01, 0x02, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_s25fl016a = {
    .part = {.name = "s25fl016a", .id = {0x01, 0x02, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_s25fl032p = {
    .part = {.name = "s25fl032p", .id = {0x01, 0x02, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_s25fl064p = {
    .part = {.name = "s25fl064p", .id = {0x01, 0x02, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_THREE};
const struct cm_nor_part cm_s25fl204k = {
    .part = {.name = "s25fl204k", .id = {0x01, 0x40, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_s25fl208k = {
    .part = {.name = "s25fl208k", .id = {0x01, 0x40, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_s25fl116k = {
    .part = {.name = "s25fl116k", .id = {0x01, 0x40, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_s25fl132k = {
    .part = {.name = "s25fl132k", .id = {0x01, 0x40, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_s25fl164k = {
    .part = {.name = "s25fl164k", .id = {0x01, 0x40, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_s25fl064l = {
    .part = {.name = "s25fl064l", .id = {0x01, 0x60, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_s25fl128l = {
    .part = {.name = "s25fl128l", .id = {0x01, 0x60, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_s25fl256l = {
    .part = {.name = "s25fl256l", .id = {0x01, 0x60, 0x19}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};

// SST
const struct cm_nor_part cm_sst25vf020b = {
    .part = {.name = "sst25vf020b", .id = {0xBF, 0x25, 0x8C}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 25000000, .page_bytes = 2, .address_bytes = 3,
    .erases = &ERASES_SST, .times = &TIMES_SST, .status = &STATUS_ONE_SST, .guard = &GUARD_SST};
const struct cm_nor_part cm_sst25vf040b = {
    .part = {.name = "sst25vf040b", .id = {0xBF, 0x25, 0x8D}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 25000000, .page_bytes = 2, .address_bytes = 3,
    .erases = &ERASES_SST, .times = &TIMES_SST, .status = &STATUS_ONE_SST, .guard = &GUARD_SST};
const struct cm_nor_part cm_sst25vf080b = {
    .part = {.name = "sst25vf080b", .id = {0xBF, 0x25, 0x8E}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 25000000, .page_bytes = 2, .address_bytes = 3,
    .erases = &ERASES_SST, .times = &TIMES_SST, .status = &STATUS_ONE_SST, .guard = &GUARD_SST};
const struct cm_nor_part cm_sst25vf016b = {
    .part = {.name = "sst25vf016b", .id = {0xBF, 0x25, 0x41}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 25000000, .page_bytes = 2, .address_bytes = 3,
    .erases = &ERASES_SST, .times = &TIMES_SST, .status = &STATUS_ONE_SST, .guard = &GUARD_SST};
const struct cm_nor_part cm_sst25vf032b = {
    .part = {.name = "sst25vf032b", .id = {0xBF, 0x25, 0x4A}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 25000000, .page_bytes = 2, .address_bytes = 3,
    .erases = &ERASES_SST, .times = &TIMES_SST, .status = &STATUS_ONE_SST, .guard = &GUARD_SST};

// SST, 1.8 V
const struct cm_nor_part cm_sst25wf512 = {
    .part = {.name = "sst25wf512", .id = {0xBF, 0x25, 0x01}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 65536, .clock_hz = 20000000, .page_bytes = 2, .address_bytes = 3,
    .erases = &ERASES_SST_WF, .times = &TIMES_SST_WF, .status = &STATUS_ONE_SST, .guard = &GUARD_SST2};
const struct cm_nor_part cm_sst25wf010 = {
    .part = {.name = "sst25wf010", .id = {0xBF, 0x25, 0x02}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 131072, .clock_hz = 20000000, .page_bytes = 2, .address_bytes = 3,
    .erases = &ERASES_SST_WF, .times = &TIMES_SST_WF, .status = &STATUS_ONE_SST, .guard = &GUARD_SST2};
const struct cm_nor_part cm_sst25wf020 = {
    .part = {.name = "sst25wf020", .id = {0xBF, 0x25, 0x03}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 262144, .clock_hz = 20000000, .page_bytes = 2, .address_bytes = 3,
    .erases = &ERASES_SST_WF, .times = &TIMES_SST_WF, .status = &STATUS_ONE_SST, .guard = &GUARD_SST};
const struct cm_nor_part cm_sst25wf040 = {
    .part = {.name = "sst25wf040", .id = {0xBF, 0x25, 0x04}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 524288, .clock_hz = 20000000, .page_bytes = 2, .address_bytes = 3,
    .erases = &ERASES_SST_WF, .times = &TIMES_SST_WF, .status = &STATUS_ONE_SST, .guard = &GUARD_SST};
const struct cm_nor_part cm_sst25wf080 = {
    .part = {.name = "sst25wf080", .id = {0xBF, 0x25, 0x05}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 1048576, .clock_hz = 20000000, .page_bytes = 2, .address_bytes = 3,
    .erases = &ERASES_SST_WF, .times = &TIMES_SST_WF, .status = &STATUS_ONE_SST, .guard = &GUARD_SST};

// SST, by 90
const struct cm_nor_part cm_sst25vf512a = {
    .part = {.name = "sst25vf512a", .id = {0x90, 0xBF, 0x48}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 65536, .clock_hz = 20000000, .page_bytes = 1, .address_bytes = 3,
    .erases = &ERASES_SST_OLD, .times = &TIMES_SST_OLD, .status = &STATUS_ONE_SST_OLD, .guard = &GUARD_SST2};
const struct cm_nor_part cm_sst25vf010a = {
    .part = {.name = "sst25vf010a", .id = {0x90, 0xBF, 0x49}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 131072, .clock_hz = 20000000, .page_bytes = 1, .address_bytes = 3,
    .erases = &ERASES_SST_OLD, .times = &TIMES_SST_OLD, .status = &STATUS_ONE_SST_OLD, .guard = &GUARD_SST2};
const struct cm_nor_part cm_sst25vf020 = {
    .part = {.name = "sst25vf020", .id = {0x90, 0xBF, 0x43}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 20000000, .page_bytes = 1, .address_bytes = 3,
    .erases = &ERASES_SST_OLD, .times = &TIMES_SST_OLD, .status = &STATUS_ONE_SST_OLD, .guard = &GUARD_SST2};
const struct cm_nor_part cm_sst25vf040 = {
    .part = {.name = "sst25vf040", .id = {0x90, 0xBF, 0x44}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 20000000, .page_bytes = 1, .address_bytes = 3,
    .erases = &ERASES_SST_OLD, .times = &TIMES_SST_OLD, .status = &STATUS_ONE_SST_OLD, .guard = &GUARD_SST2};

// SST
const struct cm_nor_part cm_sst25vf064c = {
    .part = {.name = "sst25vf064c", .id = {0xBF, 0x25, 0x4B}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};

// SST, 1.8 V
const struct cm_nor_part cm_sst25wf020a = {
    .part = {.name = "sst25wf020a", .id = {0x62, 0x16, 0x12}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_sst25wf040b = {
    .part = {.name = "sst25wf040b", .id = {0x62, 0x16, 0x13}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_sst25wf080b = {
    .part = {.name = "sst25wf080b", .id = {0x62, 0x16, 0x14}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};

// Adesto
const struct cm_nor_part cm_at25fs010 = {
    .part = {.name = "at25fs010", .id = {0x1F, 0x66, 0x01}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 131072, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_FS, .times = &TIMES_AT25, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_at25fs040 = {
    .part = {.name = "at25fs040", .id = {0x1F, 0x66, 0x04}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_FS, .times = &TIMES_AT25, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_at25df021 = {
    .part = {.name = "at25df021", .id = {0x1F, 0x43, 0x00}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_AT25, .status = &STATUS_AT25DF, .guard = &GUARD_AT25DF};
const struct cm_nor_part cm_at25df041a = {
    .part = {.name = "at25df041a", .id = {0x1F, 0x44, 0x01}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_AT25, .status = &STATUS_AT25DF, .guard = &GUARD_AT25DF};
const struct cm_nor_part cm_at25df081a = {
    .part = {.name = "at25df081a", .id = {0x1F, 0x45, 0x01}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_AT25, .status = &STATUS_AT25DF, .guard = &GUARD_AT25DF};
const struct cm_nor_part cm_at25df161 = {
    .part = {.name = "at25df161", .id = {0x1F, 0x46, 0x02}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_AT25, .status = &STATUS_AT25DF, .guard = &GUARD_AT25DF};
const struct cm_nor_part cm_at25df321a = {
    .part = {.name = "at25df321a", .id = {0x1F, 0x47, 0x01}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_AT25, .status = &STATUS_AT25DF, .guard = &GUARD_AT25DF};
const struct cm_nor_part cm_at25df641 = {
    .part = {.name = "at25df641", .id = {0x1F, 0x48, 0x00}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_AT25, .status = &STATUS_AT25DF, .guard = &GUARD_AT25DF};
const struct cm_nor_part cm_at26f004 = {
    .part = {.name = "at26f004", .id = {0x1F, 0x04, 0x00}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_AT25, .status = &STATUS_AT25DF, .guard = &GUARD_AT25DF};
const struct cm_nor_part cm_at26df081a = {
    .part = {.name = "at26df081a", .id = {0x1F, 0x45, 0x01}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_AT25, .status = &STATUS_AT25DF, .guard = &GUARD_AT25DF};
const struct cm_nor_part cm_at26df161 = {
    .part = {.name = "at26df161", .id = {0x1F, 0x46, 0x00}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_AT25, .status = &STATUS_AT25DF, .guard = &GUARD_AT25DF};
const struct cm_nor_part cm_at26df161a = {
    .part = {.name = "at26df161a", .id = {0x1F, 0x46, 0x01}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_AT25, .status = &STATUS_AT25DF, .guard = &GUARD_AT25DF};
const struct cm_nor_part cm_at25df321 = {
    .part = {.name = "at25df321", .id = {0x1F, 0x47, 0x00}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_AT25, .status = &STATUS_AT25DF, .guard = &GUARD_AT25DF};
const struct cm_nor_part cm_at26df321 = {
    .part = {.name = "at26df321", .id = {0x1F, 0x47, 0x00}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_AT25, .status = &STATUS_AT25DF, .guard = &GUARD_AT25DF};
const struct cm_nor_part cm_at25sf041 = {
    .part = {.name = "at25sf041", .id = {0x1F, 0x84, 0x01}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_at25sf081 = {
    .part = {.name = "at25sf081", .id = {0x1F, 0x85, 0x01}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_at25sf161 = {
    .part = {.name = "at25sf161", .id = {0x1F, 0x86, 0x01}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_at25sf321 = {
    .part = {.name = "at25sf321", .id = {0x1F, 0x87, 0x01}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_at25sf641 = {
    .part = {.name = "at25sf641", .id = {0x1F, 0x88, 0x01}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_at25sf128a = {
    .part = {.name = "at25sf128a", .id = {0x1F, 0x89, 0x01}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};

// Eon
const struct cm_nor_part cm_en25f10 = {
    .part = {.name = "en25f10", .id = {0x1C, 0x31, 0x11}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 131072, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_en25f20 = {
    .part = {.name = "en25f20", .id = {0x1C, 0x31, 0x12}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_en25f40 = {
    .part = {.name = "en25f40", .id = {0x1C, 0x31, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_en25f80 = {
    .part = {.name = "en25f80", .id = {0x1C, 0x31, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_en25f16 = {
    .part = {.name = "en25f16", .id = {0x1C, 0x31, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_en25f32 = {
    .part = {.name = "en25f32", .id = {0x1C, 0x31, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_en25p16 = {
    .part = {.name = "en25p16", .id = {0x1C, 0x20, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_en25p32 = {
    .part = {.name = "en25p32", .id = {0x1C, 0x20, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_en25p64 = {
    .part = {.name = "en25p64", .id = {0x1C, 0x20, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_SECTOR64, .times = &TIMES_M25P, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_en25q40 = {
    .part = {.name = "en25q40", .id = {0x1C, 0x30, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_en25q80 = {
    .part = {.name = "en25q80", .id = {0x1C, 0x30, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_en25q16 = {
    .part = {.name = "en25q16", .id = {0x1C, 0x30, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_en25q32b = {
    .part = {.name = "en25q32b", .id = {0x1C, 0x30, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_en25q64 = {
    .part = {.name = "en25q64", .id = {0x1C, 0x30, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_en25q128 = {
    .part = {.name = "en25q128", .id = {0x1C, 0x30, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_en25qh16 = {
    .part = {.name = "en25qh16", .id = {0x1C, 0x70, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_en25qh32 = {
    .part = {.name = "en25qh32", .id = {0x1C, 0x70, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_en25qh64 = {
    .part = {.name = "en25qh64", .id = {0x1C, 0x70, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_en25qh128 = {
    .part = {.name = "en25qh128", .id = {0x1C, 0x70, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_en25qh256 = {
    .part = {.name = "en25qh256", .id = {0x1C, 0x70, 0x19}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_B7,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};

// Eon, 1.8 V
const struct cm_nor_part cm_en25s40 = {
    .part = {.name = "en25s40", .id = {0x1C, 0x38, 0x13}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_en25s80 = {
    .part = {.name = "en25s80", .id = {0x1C, 0x38, 0x14}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_en25s16 = {
    .part = {.name = "en25s16", .id = {0x1C, 0x38, 0x15}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_en25s32 = {
    .part = {.name = "en25s32", .id = {0x1C, 0x38, 0x16}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_en25s64 = {
    .part = {.name = "en25s64", .id = {0x1C, 0x38, 0x17}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};

// ISSI
const struct cm_nor_part cm_is25lq020b = {
    .part = {.name = "is25lq020b", .id = {0x9D, 0x40, 0x12}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_ISSI_LQ, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_is25lq040b = {
    .part = {.name = "is25lq040b", .id = {0x9D, 0x40, 0x13}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_ISSI_LQ, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_is25lq080b = {
    .part = {.name = "is25lq080b", .id = {0x9D, 0x40, 0x14}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_ISSI_LQ, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_is25lq016b = {
    .part = {.name = "is25lq016b", .id = {0x9D, 0x40, 0x15}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_ISSI_LQ, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_is25lq032b = {
    .part = {.name = "is25lq032b", .id = {0x9D, 0x40, 0x16}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_ISSI_LQ, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_is25lp080d = {
    .part = {.name = "is25lp080d", .id = {0x9D, 0x60, 0x14}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};
const struct cm_nor_part cm_is25lp016d = {
    .part = {.name = "is25lp016d", .id = {0x9D, 0x60, 0x15}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};
const struct cm_nor_part cm_is25lp032d = {
    .part = {.name = "is25lp032d", .id = {0x9D, 0x60, 0x16}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};
const struct cm_nor_part cm_is25lp064 = {
    .part = {.name = "is25lp064", .id = {0x9D, 0x60, 0x17}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};
const struct cm_nor_part cm_is25lp128 = {
    .part = {.name = "is25lp128", .id = {0x9D, 0x60, 0x18}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};
const struct cm_nor_part cm_is25lp256 = {
    .part = {.name = "is25lp256", .id = {0x9D, 0x60, 0x19}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_B7,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};
const struct cm_nor_part cm_is25lp512m = {
    .part = {.name = "is25lp512m", .id = {0x9D, 0x60, 0x1A}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 67108864, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};
const struct cm_nor_part cm_is25lp01g = {
    .part = {.name = "is25lp01g", .id = {0x9D, 0x60, 0x1B}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 134217728, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};

// ISSI, 1.8 V
const struct cm_nor_part cm_is25wp020 = {
    .part = {.name = "is25wp020", .id = {0x9D, 0x70, 0x12}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};
const struct cm_nor_part cm_is25wp040 = {
    .part = {.name = "is25wp040", .id = {0x9D, 0x70, 0x13}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};
const struct cm_nor_part cm_is25wp080 = {
    .part = {.name = "is25wp080", .id = {0x9D, 0x70, 0x14}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};
const struct cm_nor_part cm_is25wp016 = {
    .part = {.name = "is25wp016", .id = {0x9D, 0x70, 0x15}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};
const struct cm_nor_part cm_is25wp032 = {
    .part = {.name = "is25wp032", .id = {0x9D, 0x70, 0x16}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};
const struct cm_nor_part cm_is25wp064 = {
    .part = {.name = "is25wp064", .id = {0x9D, 0x70, 0x17}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};
const struct cm_nor_part cm_is25wp128 = {
    .part = {.name = "is25wp128", .id = {0x9D, 0x70, 0x18}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};
const struct cm_nor_part cm_is25wp256 = {
    .part = {.name = "is25wp256", .id = {0x9D, 0x70, 0x19}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 33554432, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_B7,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};
const struct cm_nor_part cm_is25wp512m = {
    .part = {.name = "is25wp512m", .id = {0x9D, 0x70, 0x1A}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 67108864, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3, .wide = CM_NOR_OPCODES_4,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ISSI, .guard = &GUARD_ISSI};

// PMC
const struct cm_nor_part cm_pm25lv512a = {
    .part = {.name = "pm25lv512a", .id = {0x7F, 0x9D, 0x7B}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 65536, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_PMC, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_pm25lv010a = {
    .part = {.name = "pm25lv010a", .id = {0x7F, 0x9D, 0x7C}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 131072, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_PMC, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_pm25lv020 = {
    .part = {.name = "pm25lv020", .id = {0x7F, 0x9D, 0x7D}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_PMC, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_pm25lv040 = {
    .part = {.name = "pm25lv040", .id = {0x7F, 0x9D, 0x7E}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_PMC, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_pm25lq032c = {
    .part = {.name = "pm25lq032c", .id = {0x7F, 0x9D, 0x46}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_ISSI_LQ, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};

// AMIC
const struct cm_nor_part cm_a25l512 = {
    .part = {.name = "a25l512", .id = {0x37, 0x30, 0x10}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 65536, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_a25l010 = {
    .part = {.name = "a25l010", .id = {0x37, 0x30, 0x11}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 131072, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_a25l020 = {
    .part = {.name = "a25l020", .id = {0x37, 0x30, 0x12}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_a25l040 = {
    .part = {.name = "a25l040", .id = {0x37, 0x30, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_a25l080 = {
    .part = {.name = "a25l080", .id = {0x37, 0x30, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_a25l016 = {
    .part = {.name = "a25l016", .id = {0x37, 0x30, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_a25l032 = {
    .part = {.name = "a25l032", .id = {0x37, 0x30, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_a25lq16 = {
    .part = {.name = "a25lq16", .id = {0x37, 0x40, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_a25lq32a = {
    .part = {.name = "a25lq32a", .id = {0x37, 0x40, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_a25lq64 = {
    .part = {.name = "a25lq64", .id = {0x37, 0x40, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_SLOW, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};

// ESMT
const struct cm_nor_part cm_f25l08pa = {
    .part = {.name = "f25l08pa", .id = {0x8C, 0x20, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_f25l16pa = {
    .part = {.name = "f25l16pa", .id = {0x8C, 0x21, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_f25l32pa = {
    .part = {.name = "f25l32pa", .id = {0x8C, 0x20, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_f25l32qa = {
    .part = {.name = "f25l32qa", .id = {0x8C, 0x41, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_f25l64qa = {
    .part = {.name = "f25l64qa", .id = {0x8C, 0x41, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};

// Fudan
const struct cm_nor_part cm_fm25q08 = {
    .part = {.name = "fm25q08", .id = {0xA1, 0x40, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_fm25q16 = {
    .part = {.name = "fm25q16", .id = {0xA1, 0x40, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_fm25q32 = {
    .part = {.name = "fm25q32", .id = {0xA1, 0x40, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_fm25q64 = {
    .part = {.name = "fm25q64", .id = {0xA1, 0x40, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_fm25q128 = {
    .part = {.name = "fm25q128", .id = {0xA1, 0x40, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};

// Puya
const struct cm_nor_part cm_p25q40h = {
    .part = {.name = "p25q40h", .id = {0x85, 0x60, 0x13}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_SLOW, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_p25q80h = {
    .part = {.name = "p25q80h", .id = {0x85, 0x60, 0x14}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_SLOW, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_p25q16h = {
    .part = {.name = "p25q16h", .id = {0x85, 0x60, 0x15}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_SLOW, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_p25q32h = {
    .part = {.name = "p25q32h", .id = {0x85, 0x60, 0x16}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_SLOW, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_p25q64h = {
    .part = {.name = "p25q64h", .id = {0x85, 0x60, 0x17}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_SLOW, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_p25q128h = {
    .part = {.name = "p25q128h", .id = {0x85, 0x60, 0x18}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_SLOW, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_py25q128ha = {
    .part = {.name = "py25q128ha", .id = {0x85, 0x20, 0x18}, .id_bytes = 3, .supply_min_mv = 2300, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_SLOW, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};

// XTX
const struct cm_nor_part cm_xt25f04 = {
    .part = {.name = "xt25f04", .id = {0x0B, 0x40, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_xt25f08 = {
    .part = {.name = "xt25f08", .id = {0x0B, 0x40, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_xt25f16 = {
    .part = {.name = "xt25f16", .id = {0x0B, 0x40, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_xt25f32 = {
    .part = {.name = "xt25f32", .id = {0x0B, 0x40, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_xt25f64 = {
    .part = {.name = "xt25f64", .id = {0x0B, 0x40, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_xt25f128 = {
    .part = {.name = "xt25f128", .id = {0x0B, 0x40, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};

// Boya
const struct cm_nor_part cm_by25q40 = {
    .part = {.name = "by25q40", .id = {0x68, 0x40, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_by25q80 = {
    .part = {.name = "by25q80", .id = {0x68, 0x40, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_by25q16 = {
    .part = {.name = "by25q16", .id = {0x68, 0x40, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_by25q32 = {
    .part = {.name = "by25q32", .id = {0x68, 0x40, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_by25q64 = {
    .part = {.name = "by25q64", .id = {0x68, 0x40, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_by25q128 = {
    .part = {.name = "by25q128", .id = {0x68, 0x40, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};

// Zbit
const struct cm_nor_part cm_zb25vq16 = {
    .part = {.name = "zb25vq16", .id = {0x5E, 0x40, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_zb25vq32 = {
    .part = {.name = "zb25vq32", .id = {0x5E, 0x40, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_zb25vq64 = {
    .part = {.name = "zb25vq64", .id = {0x5E, 0x40, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_zb25vq128 = {
    .part = {.name = "zb25vq128", .id = {0x5E, 0x40, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};

// XMC
const struct cm_nor_part cm_xm25qh64c = {
    .part = {.name = "xm25qh64c", .id = {0x20, 0x40, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_xm25qh128c = {
    .part = {.name = "xm25qh128c", .id = {0x20, 0x40, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_xm25qh64a = {
    .part = {.name = "xm25qh64a", .id = {0x20, 0x70, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_xm25qh128a = {
    .part = {.name = "xm25qh128a", .id = {0x20, 0x70, 0x18}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};

// XMC, 1.8 V
const struct cm_nor_part cm_xm25qu64c = {
    .part = {.name = "xm25qu64c", .id = {0x20, 0x41, 0x17}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_xm25qu128c = {
    .part = {.name = "xm25qu128c", .id = {0x20, 0x41, 0x18}, .id_bytes = 3, .supply_min_mv = 1650, .supply_max_mv = 2000},
    .bytes = 16777216, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};

// Fidelix
const struct cm_nor_part cm_fm25q16a = {
    .part = {.name = "fm25q16a", .id = {0xF8, 0x32, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_fm25q32a = {
    .part = {.name = "fm25q32a", .id = {0xF8, 0x32, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};
const struct cm_nor_part cm_fm25q64a = {
    .part = {.name = "fm25q64a", .id = {0xF8, 0x32, 0x17}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 8388608, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE4};

// Berg
const struct cm_nor_part cm_bg25q40 = {
    .part = {.name = "bg25q40", .id = {0xE0, 0x40, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_bg25q80 = {
    .part = {.name = "bg25q80", .id = {0xE0, 0x40, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_bg25q16 = {
    .part = {.name = "bg25q16", .id = {0xE0, 0x40, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};
const struct cm_nor_part cm_bg25q32 = {
    .part = {.name = "bg25q32", .id = {0xE0, 0x40, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_UNIFORM, .times = &TIMES_USUAL, .status = &STATUS_GD25Q, .guard = &GUARD_GD25Q};

// Nantronics
const struct cm_nor_part cm_n25s10 = {
    .part = {.name = "n25s10", .id = {0xD5, 0x30, 0x11}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 131072, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_n25s20 = {
    .part = {.name = "n25s20", .id = {0xD5, 0x30, 0x12}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 262144, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_n25s40 = {
    .part = {.name = "n25s40", .id = {0xD5, 0x30, 0x13}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 524288, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_n25s80 = {
    .part = {.name = "n25s80", .id = {0xD5, 0x30, 0x14}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 1048576, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_n25s16 = {
    .part = {.name = "n25s16", .id = {0xD5, 0x30, 0x15}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 2097152, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};
const struct cm_nor_part cm_n25s32 = {
    .part = {.name = "n25s32", .id = {0xD5, 0x30, 0x16}, .id_bytes = 3, .supply_min_mv = 2700, .supply_max_mv = 3600},
    .bytes = 4194304, .clock_hz = 33000000, .page_bytes = 256, .address_bytes = 3,
    .erases = &ERASES_NO_HALF, .times = &TIMES_USUAL, .status = &STATUS_ONE, .guard = &GUARD_VAGUE3};

const struct cm_part *const cm_nor_all_parts[CM_NOR_PART_COUNT] = {
    &cm_w25x10.part,
    &cm_w25x20.part,
    &cm_w25x40.part,
    &cm_w25x80.part,
    &cm_w25x16.part,
    &cm_w25x32.part,
    &cm_w25x64.part,
    &cm_w25q20.part,
    &cm_w25q40.part,
    &cm_w25q80.part,
    &cm_w25q16.part,
    &cm_w25q32.part,
    &cm_w25q64.part,
    &cm_w25q128.part,
    &cm_w25q256.part,
    &cm_w25q512jv.part,
    &cm_w25q01jv.part,
    &cm_w25q16jv_m.part,
    &cm_w25q32jv_m.part,
    &cm_w25q64jv_m.part,
    &cm_w25q128jv_m.part,
    &cm_w25q256jv_m.part,
    &cm_w25q512jv_m.part,
    &cm_w25q01jv_m.part,
    &cm_w25q02jv_m.part,
    &cm_w25q40bw.part,
    &cm_w25q80bw.part,
    &cm_w25q20ew.part,
    &cm_w25q40ew.part,
    &cm_w25q80ew.part,
    &cm_w25q16dw.part,
    &cm_w25q32dw.part,
    &cm_w25q64dw.part,
    &cm_w25q128fw.part,
    &cm_w25q16jw_m.part,
    &cm_w25q32jw_m.part,
    &cm_w25q64jw_m.part,
    &cm_w25q128jw_m.part,
    &cm_w25q256fw.part,
    &cm_w25q512nw.part,
    &cm_w25q256jw_m.part,
    &cm_gd25q512.part,
    &cm_gd25q10.part,
    &cm_gd25q20.part,
    &cm_gd25q40.part,
    &cm_gd25q80.part,
    &cm_gd25q16.part,
    &cm_gd25q32.part,
    &cm_gd25q64.part,
    &cm_gd25q128.part,
    &cm_gd25vq16.part,
    &cm_gd25q256.part,
    &cm_gd25q512mc.part,
    &cm_gd25b512me.part,
    &cm_gd55b01ge.part,
    &cm_gd25lq40.part,
    &cm_gd25lq80.part,
    &cm_gd25lq16.part,
    &cm_gd25lq32.part,
    &cm_gd25lq64.part,
    &cm_gd25lq128.part,
    &cm_gd25lq256.part,
    &cm_gd25lb512me.part,
    &cm_gd25wq20.part,
    &cm_gd25wq40.part,
    &cm_gd25wq80.part,
    &cm_gd25wq16.part,
    &cm_gd25wq32.part,
    &cm_gd25wq64.part,
    &cm_gd25wq128.part,
    &cm_mx25l512.part,
    &cm_mx25l1005.part,
    &cm_mx25l2005.part,
    &cm_mx25l4005.part,
    &cm_mx25l8005.part,
    &cm_mx25l1606e.part,
    &cm_mx25l3206e.part,
    &cm_mx25l6406e.part,
    &cm_mx25l3233f.part,
    &cm_mx25l6433f.part,
    &cm_mx25l12835f.part,
    &cm_mx25l25635f.part,
    &cm_mx66l51235f.part,
    &cm_mx66l1g45g.part,
    &cm_mx66l2g45g.part,
    &cm_mx25l3205d.part,
    &cm_mx25l6405d.part,
    &cm_mx25l12805d.part,
    &cm_mx25l3255e.part,
    &cm_mx25l6455e.part,
    &cm_mx25l12855e.part,
    &cm_mx25l25655e.part,
    &cm_mx25u2033e.part,
    &cm_mx25u4035.part,
    &cm_mx25u8035.part,
    &cm_mx25u1635e.part,
    &cm_mx25u3235e.part,
    &cm_mx25u6435e.part,
    &cm_mx25u12835f.part,
    &cm_mx25u25635f.part,
    &cm_mx66u51235f.part,
    &cm_mx66u1g45g.part,
    &cm_mx66u2g45g.part,
    &cm_mx25v1035f.part,
    &cm_mx25v2035f.part,
    &cm_mx25v4035f.part,
    &cm_mx25v8035f.part,
    &cm_mx25v1635f.part,
    &cm_mx25r512f.part,
    &cm_mx25r1035f.part,
    &cm_mx25r2035f.part,
    &cm_mx25r4035f.part,
    &cm_mx25r8035f.part,
    &cm_mx25r1635f.part,
    &cm_mx25r3235f.part,
    &cm_mx25r6435f.part,
    &cm_m25p05.part,
    &cm_m25p10.part,
    &cm_m25p20.part,
    &cm_m25p40.part,
    &cm_m25p80.part,
    &cm_m25p16.part,
    &cm_m25p32.part,
    &cm_m25p64.part,
    &cm_m25p128.part,
    &cm_m25px80.part,
    &cm_m25px16.part,
    &cm_m25px32.part,
    &cm_m25px32_s0.part,
    &cm_m25px32_s1.part,
    &cm_m25px64.part,
    &cm_m25pe10.part,
    &cm_m25pe20.part,
    &cm_m25pe40.part,
    &cm_m25pe80.part,
    &cm_m25pe16.part,
    &cm_m45pe10.part,
    &cm_m45pe20.part,
    &cm_m45pe40.part,
    &cm_m45pe80.part,
    &cm_m45pe16.part,
    &cm_n25q032.part,
    &cm_n25q064.part,
    &cm_n25q128.part,
    &cm_n25q256.part,
    &cm_n25q512.part,
    &cm_mt25ql01g.part,
    &cm_mt25ql02g.part,
    &cm_n25q00.part,
    &cm_n25q016_1v8.part,
    &cm_n25q032_1v8.part,
    &cm_n25q064_1v8.part,
    &cm_n25q128_1v8.part,
    &cm_n25q256_1v8.part,
    &cm_n25q512_1v8.part,
    &cm_mt25qu01g.part,
    &cm_mt25qu02g.part,
    &cm_mt35xu512.part,
    &cm_mt35xu01g.part,
    &cm_mt35xu02g.part,
    &cm_s33_160.part,
    &cm_s33_320.part,
    &cm_s33_640.part,
    &cm_s25fs128s_64k.part,
    &cm_s25fs256s.part,
    &cm_s25fs256s_64k.part,
    &cm_s25fs512s.part,
    &cm_s25fl128p.part,
    &cm_s25fl128p_64k.part,
    &cm_s25fl128s.part,
    &cm_s25fl128s_64k.part,
    &cm_s25fl256s.part,
    &cm_s25fl256s_64k.part,
    &cm_s25fl512s.part,
    &cm_s70fl01gs.part,
    &cm_s25fl129p.part,
    &cm_s25fl129p_64k.part,
    &cm_s25fl004a.part,
    &cm_s25fl008a.part,
    &cm_s25fl016a.part,
    &cm_s25fl032p.part,
    &cm_s25fl064p.part,
    &cm_s25fl204k.part,
    &cm_s25fl208k.part,
    &cm_s25fl116k.part,
    &cm_s25fl132k.part,
    &cm_s25fl164k.part,
    &cm_s25fl064l.part,
    &cm_s25fl128l.part,
    &cm_s25fl256l.part,
    &cm_sst25vf020b.part,
    &cm_sst25vf040b.part,
    &cm_sst25vf080b.part,
    &cm_sst25vf016b.part,
    &cm_sst25vf032b.part,
    &cm_sst25wf512.part,
    &cm_sst25wf010.part,
    &cm_sst25wf020.part,
    &cm_sst25wf040.part,
    &cm_sst25wf080.part,
    &cm_sst25vf512a.part,
    &cm_sst25vf010a.part,
    &cm_sst25vf020.part,
    &cm_sst25vf040.part,
    &cm_sst25vf064c.part,
    &cm_sst25wf020a.part,
    &cm_sst25wf040b.part,
    &cm_sst25wf080b.part,
    &cm_at25fs010.part,
    &cm_at25fs040.part,
    &cm_at25df021.part,
    &cm_at25df041a.part,
    &cm_at25df081a.part,
    &cm_at25df161.part,
    &cm_at25df321a.part,
    &cm_at25df641.part,
    &cm_at26f004.part,
    &cm_at26df081a.part,
    &cm_at26df161.part,
    &cm_at26df161a.part,
    &cm_at25df321.part,
    &cm_at26df321.part,
    &cm_at25sf041.part,
    &cm_at25sf081.part,
    &cm_at25sf161.part,
    &cm_at25sf321.part,
    &cm_at25sf641.part,
    &cm_at25sf128a.part,
    &cm_en25f10.part,
    &cm_en25f20.part,
    &cm_en25f40.part,
    &cm_en25f80.part,
    &cm_en25f16.part,
    &cm_en25f32.part,
    &cm_en25p16.part,
    &cm_en25p32.part,
    &cm_en25p64.part,
    &cm_en25q40.part,
    &cm_en25q80.part,
    &cm_en25q16.part,
    &cm_en25q32b.part,
    &cm_en25q64.part,
    &cm_en25q128.part,
    &cm_en25qh16.part,
    &cm_en25qh32.part,
    &cm_en25qh64.part,
    &cm_en25qh128.part,
    &cm_en25qh256.part,
    &cm_en25s40.part,
    &cm_en25s80.part,
    &cm_en25s16.part,
    &cm_en25s32.part,
    &cm_en25s64.part,
    &cm_is25lq020b.part,
    &cm_is25lq040b.part,
    &cm_is25lq080b.part,
    &cm_is25lq016b.part,
    &cm_is25lq032b.part,
    &cm_is25lp080d.part,
    &cm_is25lp016d.part,
    &cm_is25lp032d.part,
    &cm_is25lp064.part,
    &cm_is25lp128.part,
    &cm_is25lp256.part,
    &cm_is25lp512m.part,
    &cm_is25lp01g.part,
    &cm_is25wp020.part,
    &cm_is25wp040.part,
    &cm_is25wp080.part,
    &cm_is25wp016.part,
    &cm_is25wp032.part,
    &cm_is25wp064.part,
    &cm_is25wp128.part,
    &cm_is25wp256.part,
    &cm_is25wp512m.part,
    &cm_pm25lv512a.part,
    &cm_pm25lv010a.part,
    &cm_pm25lv020.part,
    &cm_pm25lv040.part,
    &cm_pm25lq032c.part,
    &cm_a25l512.part,
    &cm_a25l010.part,
    &cm_a25l020.part,
    &cm_a25l040.part,
    &cm_a25l080.part,
    &cm_a25l016.part,
    &cm_a25l032.part,
    &cm_a25lq16.part,
    &cm_a25lq32a.part,
    &cm_a25lq64.part,
    &cm_f25l08pa.part,
    &cm_f25l16pa.part,
    &cm_f25l32pa.part,
    &cm_f25l32qa.part,
    &cm_f25l64qa.part,
    &cm_fm25q08.part,
    &cm_fm25q16.part,
    &cm_fm25q32.part,
    &cm_fm25q64.part,
    &cm_fm25q128.part,
    &cm_p25q40h.part,
    &cm_p25q80h.part,
    &cm_p25q16h.part,
    &cm_p25q32h.part,
    &cm_p25q64h.part,
    &cm_p25q128h.part,
    &cm_py25q128ha.part,
    &cm_xt25f04.part,
    &cm_xt25f08.part,
    &cm_xt25f16.part,
    &cm_xt25f32.part,
    &cm_xt25f64.part,
    &cm_xt25f128.part,
    &cm_by25q40.part,
    &cm_by25q80.part,
    &cm_by25q16.part,
    &cm_by25q32.part,
    &cm_by25q64.part,
    &cm_by25q128.part,
    &cm_zb25vq16.part,
    &cm_zb25vq32.part,
    &cm_zb25vq64.part,
    &cm_zb25vq128.part,
    &cm_xm25qh64c.part,
    &cm_xm25qh128c.part,
    &cm_xm25qh64a.part,
    &cm_xm25qh128a.part,
    &cm_xm25qu64c.part,
    &cm_xm25qu128c.part,
    &cm_fm25q16a.part,
    &cm_fm25q32a.part,
    &cm_fm25q64a.part,
    &cm_bg25q40.part,
    &cm_bg25q80.part,
    &cm_bg25q16.part,
    &cm_bg25q32.part,
    &cm_n25s10.part,
    &cm_n25s20.part,
    &cm_n25s40.part,
    &cm_n25s80.part,
    &cm_n25s16.part,
    &cm_n25s32.part,
};
