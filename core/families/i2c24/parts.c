/* Made by tools/wire-parts.py: change it there. EEPROMs on I2C. */
#include <coldmint/i2c24_parts.h>

const struct cm_i2c24_part cm_24c00 = {
    .part = {.name = "24c00", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 16, .page_bytes = 1, .address_bytes = 1, .clock_hz = 100000, .write_us = 5000};
const struct cm_i2c24_part cm_24c01 = {
    .part = {.name = "24c01", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 128, .page_bytes = 8, .address_bytes = 1, .clock_hz = 100000, .write_us = 10000};
const struct cm_i2c24_part cm_24c02 = {
    .part = {.name = "24c02", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 256, .page_bytes = 8, .address_bytes = 1, .clock_hz = 100000, .write_us = 10000};
const struct cm_i2c24_part cm_24c04 = {
    .part = {.name = "24c04", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 512, .page_bytes = 16, .address_bytes = 1, .clock_hz = 100000, .write_us = 10000};
const struct cm_i2c24_part cm_24c08 = {
    .part = {.name = "24c08", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 1024, .page_bytes = 16, .address_bytes = 1, .clock_hz = 100000, .write_us = 10000};
const struct cm_i2c24_part cm_24c16 = {
    .part = {.name = "24c16", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 2048, .page_bytes = 16, .address_bytes = 1, .clock_hz = 100000, .write_us = 10000};
const struct cm_i2c24_part cm_24c32 = {
    .part = {.name = "24c32", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 4096, .page_bytes = 32, .address_bytes = 2, .clock_hz = 100000, .write_us = 10000};
const struct cm_i2c24_part cm_24c64 = {
    .part = {.name = "24c64", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 8192, .page_bytes = 32, .address_bytes = 2, .clock_hz = 100000, .write_us = 10000};
const struct cm_i2c24_part cm_24c128 = {
    .part = {.name = "24c128", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 16384, .page_bytes = 64, .address_bytes = 2, .clock_hz = 100000, .write_us = 10000};
const struct cm_i2c24_part cm_24c256 = {
    .part = {.name = "24c256", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 32768, .page_bytes = 64, .address_bytes = 2, .clock_hz = 100000, .write_us = 10000};
const struct cm_i2c24_part cm_24c512 = {
    .part = {.name = "24c512", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 65536, .page_bytes = 128, .address_bytes = 2, .clock_hz = 100000, .write_us = 10000};
const struct cm_i2c24_part cm_24c1024 = {
    .part = {.name = "24c1024", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 131072, .page_bytes = 256, .address_bytes = 2, .clock_hz = 100000, .write_us = 10000};
const struct cm_i2c24_part cm_24aa00 = {
    .part = {.name = "24aa00", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 16, .page_bytes = 1, .address_bytes = 1, .clock_hz = 100000, .write_us = 4000};
const struct cm_i2c24_part cm_24lc01b = {
    .part = {.name = "24lc01b", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 128, .page_bytes = 8, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_24lc02b = {
    .part = {.name = "24lc02b", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 256, .page_bytes = 8, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_24lc04b = {
    .part = {.name = "24lc04b", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 512, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_24lc08b = {
    .part = {.name = "24lc08b", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 1024, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_24lc16b = {
    .part = {.name = "24lc16b", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 2048, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_24lc32a = {
    .part = {.name = "24lc32a", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 4096, .page_bytes = 32, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_24lc64 = {
    .part = {.name = "24lc64", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 8192, .page_bytes = 32, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_24lc128 = {
    .part = {.name = "24lc128", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 16384, .page_bytes = 64, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_24lc256 = {
    .part = {.name = "24lc256", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 32768, .page_bytes = 64, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_24lc512 = {
    .part = {.name = "24lc512", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 65536, .page_bytes = 128, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_24lc1025 = {
    .part = {.name = "24lc1025", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 131072, .page_bytes = 128, .address_bytes = 2, .block_shift = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_24lc1026 = {
    .part = {.name = "24lc1026", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 131072, .page_bytes = 128, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_24aa01 = {
    .part = {.name = "24aa01", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 128, .page_bytes = 8, .address_bytes = 1, .clock_hz = 100000, .write_us = 5000};
const struct cm_i2c24_part cm_24aa02 = {
    .part = {.name = "24aa02", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 256, .page_bytes = 8, .address_bytes = 1, .clock_hz = 100000, .write_us = 5000};
const struct cm_i2c24_part cm_24aa04 = {
    .part = {.name = "24aa04", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 512, .page_bytes = 16, .address_bytes = 1, .clock_hz = 100000, .write_us = 5000};
const struct cm_i2c24_part cm_24aa08 = {
    .part = {.name = "24aa08", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 1024, .page_bytes = 16, .address_bytes = 1, .clock_hz = 100000, .write_us = 5000};
const struct cm_i2c24_part cm_24aa16 = {
    .part = {.name = "24aa16", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 2048, .page_bytes = 16, .address_bytes = 1, .clock_hz = 100000, .write_us = 5000};
const struct cm_i2c24_part cm_24aa32a = {
    .part = {.name = "24aa32a", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 4096, .page_bytes = 32, .address_bytes = 2, .clock_hz = 100000, .write_us = 5000};
const struct cm_i2c24_part cm_24aa64 = {
    .part = {.name = "24aa64", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 8192, .page_bytes = 32, .address_bytes = 2, .clock_hz = 100000, .write_us = 5000};
const struct cm_i2c24_part cm_24aa128 = {
    .part = {.name = "24aa128", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 16384, .page_bytes = 64, .address_bytes = 2, .clock_hz = 100000, .write_us = 5000};
const struct cm_i2c24_part cm_24aa256 = {
    .part = {.name = "24aa256", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 32768, .page_bytes = 64, .address_bytes = 2, .clock_hz = 100000, .write_us = 5000};
const struct cm_i2c24_part cm_24aa512 = {
    .part = {.name = "24aa512", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 65536, .page_bytes = 128, .address_bytes = 2, .clock_hz = 100000, .write_us = 5000};
const struct cm_i2c24_part cm_at24c01d = {
    .part = {.name = "at24c01d", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 128, .page_bytes = 8, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_at24c02d = {
    .part = {.name = "at24c02d", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 256, .page_bytes = 8, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_at24c04d = {
    .part = {.name = "at24c04d", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 512, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_at24c08d = {
    .part = {.name = "at24c08d", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 1024, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_at24c16d = {
    .part = {.name = "at24c16d", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 2048, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_at24c32e = {
    .part = {.name = "at24c32e", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 4096, .page_bytes = 32, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_at24c64d = {
    .part = {.name = "at24c64d", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 8192, .page_bytes = 32, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_at24c128c = {
    .part = {.name = "at24c128c", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 16384, .page_bytes = 64, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_at24c256c = {
    .part = {.name = "at24c256c", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 32768, .page_bytes = 64, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_at24c512c = {
    .part = {.name = "at24c512c", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 65536, .page_bytes = 128, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_at24cm01 = {
    .part = {.name = "at24cm01", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 131072, .page_bytes = 256, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_at24cm02 = {
    .part = {.name = "at24cm02", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 262144, .page_bytes = 256, .address_bytes = 2, .clock_hz = 400000, .write_us = 10000};
const struct cm_i2c24_part cm_m24c01 = {
    .part = {.name = "m24c01", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 128, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_m24c02 = {
    .part = {.name = "m24c02", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 256, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_m24c04 = {
    .part = {.name = "m24c04", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 512, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_m24c08 = {
    .part = {.name = "m24c08", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 1024, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_m24c16 = {
    .part = {.name = "m24c16", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 2048, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_m24c32 = {
    .part = {.name = "m24c32", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 4096, .page_bytes = 32, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_m24c64 = {
    .part = {.name = "m24c64", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 8192, .page_bytes = 32, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_m24128 = {
    .part = {.name = "m24128", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 16384, .page_bytes = 64, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_m24256 = {
    .part = {.name = "m24256", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 32768, .page_bytes = 64, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_m24512 = {
    .part = {.name = "m24512", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 65536, .page_bytes = 128, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_m24m01 = {
    .part = {.name = "m24m01", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 131072, .page_bytes = 256, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_m24m02 = {
    .part = {.name = "m24m02", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 262144, .page_bytes = 256, .address_bytes = 2, .clock_hz = 400000, .write_us = 10000};
const struct cm_i2c24_part cm_cat24c02 = {
    .part = {.name = "cat24c02", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 256, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_cat24c04 = {
    .part = {.name = "cat24c04", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 512, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_cat24c08 = {
    .part = {.name = "cat24c08", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 1024, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_cat24c16 = {
    .part = {.name = "cat24c16", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 2048, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_cat24c32 = {
    .part = {.name = "cat24c32", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 4096, .page_bytes = 32, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_cat24c64 = {
    .part = {.name = "cat24c64", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 8192, .page_bytes = 32, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_cat24c128 = {
    .part = {.name = "cat24c128", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 16384, .page_bytes = 64, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_cat24c256 = {
    .part = {.name = "cat24c256", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 32768, .page_bytes = 64, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_cat24c512 = {
    .part = {.name = "cat24c512", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 65536, .page_bytes = 128, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_cat24m01 = {
    .part = {.name = "cat24m01", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 131072, .page_bytes = 256, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_br24t01 = {
    .part = {.name = "br24t01", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 128, .page_bytes = 8, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_br24t02 = {
    .part = {.name = "br24t02", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 256, .page_bytes = 8, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_br24t04 = {
    .part = {.name = "br24t04", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 512, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_br24t08 = {
    .part = {.name = "br24t08", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 1024, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_br24t16 = {
    .part = {.name = "br24t16", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 2048, .page_bytes = 16, .address_bytes = 1, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_br24t32 = {
    .part = {.name = "br24t32", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 4096, .page_bytes = 32, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_br24t64 = {
    .part = {.name = "br24t64", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 8192, .page_bytes = 32, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_br24t128 = {
    .part = {.name = "br24t128", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 16384, .page_bytes = 64, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_br24t256 = {
    .part = {.name = "br24t256", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 32768, .page_bytes = 64, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_br24t512 = {
    .part = {.name = "br24t512", .supply_min_mv = 1700, .supply_max_mv = 5500},
    .bytes = 65536, .page_bytes = 128, .address_bytes = 2, .clock_hz = 400000, .write_us = 5000};
const struct cm_i2c24_part cm_fm24c16 = {
    .part = {.name = "fm24c16", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 2048, .page_bytes = 16, .address_bytes = 1, .clock_hz = 100000, .write_us = 5000};
const struct cm_i2c24_part cm_fm24c64 = {
    .part = {.name = "fm24c64", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 8192, .page_bytes = 32, .address_bytes = 2, .clock_hz = 100000, .write_us = 5000};
const struct cm_i2c24_part cm_fm24c256 = {
    .part = {.name = "fm24c256", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 32768, .page_bytes = 64, .address_bytes = 2, .clock_hz = 100000, .write_us = 5000};

const struct cm_part *const cm_i2c24_all_parts[CM_I2C24_PART_COUNT] = {&cm_24c00.part, &cm_24c01.part, &cm_24c02.part, &cm_24c04.part, &cm_24c08.part, &cm_24c16.part, &cm_24c32.part, &cm_24c64.part, &cm_24c128.part, &cm_24c256.part, &cm_24c512.part, &cm_24c1024.part, &cm_24aa00.part, &cm_24lc01b.part, &cm_24lc02b.part, &cm_24lc04b.part, &cm_24lc08b.part, &cm_24lc16b.part, &cm_24lc32a.part, &cm_24lc64.part, &cm_24lc128.part, &cm_24lc256.part, &cm_24lc512.part, &cm_24lc1025.part, &cm_24lc1026.part, &cm_24aa01.part, &cm_24aa02.part, &cm_24aa04.part, &cm_24aa08.part, &cm_24aa16.part, &cm_24aa32a.part, &cm_24aa64.part, &cm_24aa128.part, &cm_24aa256.part, &cm_24aa512.part, &cm_at24c01d.part, &cm_at24c02d.part, &cm_at24c04d.part, &cm_at24c08d.part, &cm_at24c16d.part, &cm_at24c32e.part, &cm_at24c64d.part, &cm_at24c128c.part, &cm_at24c256c.part, &cm_at24c512c.part, &cm_at24cm01.part, &cm_at24cm02.part, &cm_m24c01.part, &cm_m24c02.part, &cm_m24c04.part, &cm_m24c08.part, &cm_m24c16.part, &cm_m24c32.part, &cm_m24c64.part, &cm_m24128.part, &cm_m24256.part, &cm_m24512.part, &cm_m24m01.part, &cm_m24m02.part, &cm_cat24c02.part, &cm_cat24c04.part, &cm_cat24c08.part, &cm_cat24c16.part, &cm_cat24c32.part, &cm_cat24c64.part, &cm_cat24c128.part, &cm_cat24c256.part, &cm_cat24c512.part, &cm_cat24m01.part, &cm_br24t01.part, &cm_br24t02.part, &cm_br24t04.part, &cm_br24t08.part, &cm_br24t16.part, &cm_br24t32.part, &cm_br24t64.part, &cm_br24t128.part, &cm_br24t256.part, &cm_br24t512.part, &cm_fm24c16.part, &cm_fm24c64.part, &cm_fm24c256.part};
