/* Made by tools/nor-parts.py: change it there. Serial EEPROMs on SPI. */
#include <coldmint/ee25_parts.h>

static const struct cm_nor_times TIMES_EE25 = {.program_us = 5000, .program_max_us = 10000, .status_max_us = 10000};
static const struct cm_nor_times TIMES_EE25_10 = {.program_us = 10000, .program_max_us = 20000, .status_max_us = 20000};
static const struct cm_nor_times TIMES_EE25_6 = {.program_us = 6000, .program_max_us = 12000, .status_max_us = 12000};
static const struct cm_nor_status STATUS_EE25 = {.count = 1, .enable = 0x06, .read = {0x05}, .write = {0x01}, .kept = {0x8C}};
static const struct cm_nor_status STATUS_EE25_ONES = {.count = 1, .enable = 0x06, .read = {0x05}, .write = {0x01}, .kept = {0x8C}, .ones_while_busy = true};
static const struct cm_nor_guard GUARD_EE25 = {.bp = {0x04, 0x08}, .fraction = 4, .least_bytes = 0, .lock_mask = 0x80};
static const struct cm_nor_guard GUARD_EE25_FIXED = {.bp = {0x04, 0x08}, .fraction = 4, .least_bytes = 0};

const struct cm_nor_part cm_25lc010a = {
    .part = {.name = "25lc010a", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 128, .clock_hz = 5000000, .page_bytes = 16, .address_bytes = 1, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25_FIXED};
const struct cm_nor_part cm_25lc020a = {
    .part = {.name = "25lc020a", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 256, .clock_hz = 5000000, .page_bytes = 16, .address_bytes = 1, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25_FIXED};
const struct cm_nor_part cm_25lc040a = {
    .part = {.name = "25lc040a", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 512, .clock_hz = 5000000, .page_bytes = 16, .address_bytes = 1, .rewrites = true, .high_in_opcode = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25_FIXED};
const struct cm_nor_part cm_25lc080c = {
    .part = {.name = "25lc080c", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 1024, .clock_hz = 5000000, .page_bytes = 16, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_25lc080d = {
    .part = {.name = "25lc080d", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 1024, .clock_hz = 5000000, .page_bytes = 32, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_25lc160c = {
    .part = {.name = "25lc160c", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 2048, .clock_hz = 5000000, .page_bytes = 16, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_25lc160d = {
    .part = {.name = "25lc160d", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 2048, .clock_hz = 5000000, .page_bytes = 32, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_25lc320a = {
    .part = {.name = "25lc320a", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 4096, .clock_hz = 5000000, .page_bytes = 32, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_25lc640a = {
    .part = {.name = "25lc640a", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 8192, .clock_hz = 5000000, .page_bytes = 32, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_25lc128 = {
    .part = {.name = "25lc128", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 16384, .clock_hz = 5000000, .page_bytes = 64, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_25lc256 = {
    .part = {.name = "25lc256", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 32768, .clock_hz = 5000000, .page_bytes = 64, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_25lc512 = {
    .part = {.name = "25lc512", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 65536, .clock_hz = 5000000, .page_bytes = 128, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_25lc1024 = {
    .part = {.name = "25lc1024", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 131072, .clock_hz = 5000000, .page_bytes = 256, .address_bytes = 3, .rewrites = true,
    .times = &TIMES_EE25_6, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_at25010b = {
    .part = {.name = "at25010b", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 128, .clock_hz = 5000000, .page_bytes = 8, .address_bytes = 1, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25_ONES, .guard = &GUARD_EE25_FIXED};
const struct cm_nor_part cm_at25020b = {
    .part = {.name = "at25020b", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 256, .clock_hz = 5000000, .page_bytes = 8, .address_bytes = 1, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25_ONES, .guard = &GUARD_EE25_FIXED};
const struct cm_nor_part cm_at25040b = {
    .part = {.name = "at25040b", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 512, .clock_hz = 5000000, .page_bytes = 8, .address_bytes = 1, .rewrites = true, .high_in_opcode = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25_ONES, .guard = &GUARD_EE25_FIXED};
const struct cm_nor_part cm_at25080b = {
    .part = {.name = "at25080b", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 1024, .clock_hz = 5000000, .page_bytes = 32, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25_ONES, .guard = &GUARD_EE25};
const struct cm_nor_part cm_at25160b = {
    .part = {.name = "at25160b", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 2048, .clock_hz = 5000000, .page_bytes = 32, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25_ONES, .guard = &GUARD_EE25};
const struct cm_nor_part cm_at25320b = {
    .part = {.name = "at25320b", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 4096, .clock_hz = 5000000, .page_bytes = 32, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25_ONES, .guard = &GUARD_EE25};
const struct cm_nor_part cm_at25640b = {
    .part = {.name = "at25640b", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 8192, .clock_hz = 5000000, .page_bytes = 32, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25_ONES, .guard = &GUARD_EE25};
const struct cm_nor_part cm_at25128b = {
    .part = {.name = "at25128b", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 16384, .clock_hz = 5000000, .page_bytes = 64, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25_ONES, .guard = &GUARD_EE25};
const struct cm_nor_part cm_at25256b = {
    .part = {.name = "at25256b", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 32768, .clock_hz = 5000000, .page_bytes = 64, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25_ONES, .guard = &GUARD_EE25};
const struct cm_nor_part cm_at25512 = {
    .part = {.name = "at25512", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 65536, .clock_hz = 5000000, .page_bytes = 128, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25_ONES, .guard = &GUARD_EE25};
const struct cm_nor_part cm_at25m01 = {
    .part = {.name = "at25m01", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 131072, .clock_hz = 5000000, .page_bytes = 256, .address_bytes = 3, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25_ONES, .guard = &GUARD_EE25};
const struct cm_nor_part cm_at25m02 = {
    .part = {.name = "at25m02", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 262144, .clock_hz = 5000000, .page_bytes = 256, .address_bytes = 3, .rewrites = true,
    .times = &TIMES_EE25_10, .status = &STATUS_EE25_ONES, .guard = &GUARD_EE25};
const struct cm_nor_part cm_m95010 = {
    .part = {.name = "m95010", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 128, .clock_hz = 5000000, .page_bytes = 16, .address_bytes = 1, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25_FIXED};
const struct cm_nor_part cm_m95020 = {
    .part = {.name = "m95020", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 256, .clock_hz = 5000000, .page_bytes = 16, .address_bytes = 1, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25_FIXED};
const struct cm_nor_part cm_m95040 = {
    .part = {.name = "m95040", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 512, .clock_hz = 5000000, .page_bytes = 16, .address_bytes = 1, .rewrites = true, .high_in_opcode = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25_FIXED};
const struct cm_nor_part cm_m95080 = {
    .part = {.name = "m95080", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 1024, .clock_hz = 5000000, .page_bytes = 32, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_m95160 = {
    .part = {.name = "m95160", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 2048, .clock_hz = 5000000, .page_bytes = 32, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_m95320 = {
    .part = {.name = "m95320", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 4096, .clock_hz = 5000000, .page_bytes = 32, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_m95640 = {
    .part = {.name = "m95640", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 8192, .clock_hz = 5000000, .page_bytes = 32, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_m95128 = {
    .part = {.name = "m95128", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 16384, .clock_hz = 5000000, .page_bytes = 64, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_m95256 = {
    .part = {.name = "m95256", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 32768, .clock_hz = 5000000, .page_bytes = 64, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_m95512 = {
    .part = {.name = "m95512", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 65536, .clock_hz = 5000000, .page_bytes = 128, .address_bytes = 2, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_m95m01 = {
    .part = {.name = "m95m01", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 131072, .clock_hz = 5000000, .page_bytes = 256, .address_bytes = 3, .rewrites = true,
    .times = &TIMES_EE25, .status = &STATUS_EE25, .guard = &GUARD_EE25};
const struct cm_nor_part cm_m95m02 = {
    .part = {.name = "m95m02", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 262144, .clock_hz = 5000000, .page_bytes = 256, .address_bytes = 3, .rewrites = true,
    .times = &TIMES_EE25_10, .status = &STATUS_EE25, .guard = &GUARD_EE25};

const struct cm_part *const cm_ee25_all_parts[CM_EE25_PART_COUNT] = {
    &cm_25lc010a.part,
    &cm_25lc020a.part,
    &cm_25lc040a.part,
    &cm_25lc080c.part,
    &cm_25lc080d.part,
    &cm_25lc160c.part,
    &cm_25lc160d.part,
    &cm_25lc320a.part,
    &cm_25lc640a.part,
    &cm_25lc128.part,
    &cm_25lc256.part,
    &cm_25lc512.part,
    &cm_25lc1024.part,
    &cm_at25010b.part,
    &cm_at25020b.part,
    &cm_at25040b.part,
    &cm_at25080b.part,
    &cm_at25160b.part,
    &cm_at25320b.part,
    &cm_at25640b.part,
    &cm_at25128b.part,
    &cm_at25256b.part,
    &cm_at25512.part,
    &cm_at25m01.part,
    &cm_at25m02.part,
    &cm_m95010.part,
    &cm_m95020.part,
    &cm_m95040.part,
    &cm_m95080.part,
    &cm_m95160.part,
    &cm_m95320.part,
    &cm_m95640.part,
    &cm_m95128.part,
    &cm_m95256.part,
    &cm_m95512.part,
    &cm_m95m01.part,
    &cm_m95m02.part,
};
