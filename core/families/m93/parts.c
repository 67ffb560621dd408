/* Made by tools/wire-parts.py: change it there. 93-series EEPROMs. */
#include <coldmint/m93_parts.h>

const struct cm_m93_part cm_93c46 = {
    .part = {.name = "93c46", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 128, .address_bits = 6, .word_bytes = 2, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_93c56 = {
    .part = {.name = "93c56", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 256, .address_bits = 8, .word_bytes = 2, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_93c66 = {
    .part = {.name = "93c66", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 512, .address_bits = 8, .word_bytes = 2, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_93c76 = {
    .part = {.name = "93c76", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 1024, .address_bits = 10, .word_bytes = 2, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_93c86 = {
    .part = {.name = "93c86", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 2048, .address_bits = 10, .word_bytes = 2, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_93c46_by_8 = {
    .part = {.name = "93c46-8", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 128, .address_bits = 7, .word_bytes = 1, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_93c56_by_8 = {
    .part = {.name = "93c56-8", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 256, .address_bits = 9, .word_bytes = 1, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_93c66_by_8 = {
    .part = {.name = "93c66-8", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 512, .address_bits = 9, .word_bytes = 1, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_93c76_by_8 = {
    .part = {.name = "93c76-8", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 1024, .address_bits = 11, .word_bytes = 1, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_93c86_by_8 = {
    .part = {.name = "93c86-8", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 2048, .address_bits = 11, .word_bytes = 1, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_93lc46b = {
    .part = {.name = "93lc46b", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 128, .address_bits = 6, .word_bytes = 2, .clock_hz = 2000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93lc56b = {
    .part = {.name = "93lc56b", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 256, .address_bits = 8, .word_bytes = 2, .clock_hz = 2000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93lc66b = {
    .part = {.name = "93lc66b", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 512, .address_bits = 8, .word_bytes = 2, .clock_hz = 2000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93lc76b = {
    .part = {.name = "93lc76b", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 1024, .address_bits = 10, .word_bytes = 2, .clock_hz = 2000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93lc86b = {
    .part = {.name = "93lc86b", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 2048, .address_bits = 10, .word_bytes = 2, .clock_hz = 2000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93lc46a = {
    .part = {.name = "93lc46a", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 128, .address_bits = 7, .word_bytes = 1, .clock_hz = 2000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93lc56a = {
    .part = {.name = "93lc56a", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 256, .address_bits = 9, .word_bytes = 1, .clock_hz = 2000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93lc66a = {
    .part = {.name = "93lc66a", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 512, .address_bits = 9, .word_bytes = 1, .clock_hz = 2000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93lc76a = {
    .part = {.name = "93lc76a", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 1024, .address_bits = 11, .word_bytes = 1, .clock_hz = 2000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93lc86a = {
    .part = {.name = "93lc86a", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 2048, .address_bits = 11, .word_bytes = 1, .clock_hz = 2000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93aa46b = {
    .part = {.name = "93aa46b", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 128, .address_bits = 6, .word_bytes = 2, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93aa56b = {
    .part = {.name = "93aa56b", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 256, .address_bits = 8, .word_bytes = 2, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93aa66b = {
    .part = {.name = "93aa66b", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 512, .address_bits = 8, .word_bytes = 2, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93aa76b = {
    .part = {.name = "93aa76b", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 1024, .address_bits = 10, .word_bytes = 2, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93aa86b = {
    .part = {.name = "93aa86b", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 2048, .address_bits = 10, .word_bytes = 2, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93aa46a = {
    .part = {.name = "93aa46a", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 128, .address_bits = 7, .word_bytes = 1, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93aa56a = {
    .part = {.name = "93aa56a", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 256, .address_bits = 9, .word_bytes = 1, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93aa66a = {
    .part = {.name = "93aa66a", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 512, .address_bits = 9, .word_bytes = 1, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93aa76a = {
    .part = {.name = "93aa76a", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 1024, .address_bits = 11, .word_bytes = 1, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_93aa86a = {
    .part = {.name = "93aa86a", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 2048, .address_bits = 11, .word_bytes = 1, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 6000, .reads_on = true};
const struct cm_m93_part cm_at93c46 = {
    .part = {.name = "at93c46", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 128, .address_bits = 6, .word_bytes = 2, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_at93c56 = {
    .part = {.name = "at93c56", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 256, .address_bits = 8, .word_bytes = 2, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_at93c66 = {
    .part = {.name = "at93c66", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 512, .address_bits = 8, .word_bytes = 2, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_at93c86 = {
    .part = {.name = "at93c86", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 2048, .address_bits = 10, .word_bytes = 2, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_at93c46_by_8 = {
    .part = {.name = "at93c46-8", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 128, .address_bits = 7, .word_bytes = 1, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_at93c56_by_8 = {
    .part = {.name = "at93c56-8", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 256, .address_bits = 9, .word_bytes = 1, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_at93c66_by_8 = {
    .part = {.name = "at93c66-8", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 512, .address_bits = 9, .word_bytes = 1, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_at93c86_by_8 = {
    .part = {.name = "at93c86-8", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 2048, .address_bits = 11, .word_bytes = 1, .clock_hz = 250000, .write_us = 5000, .write_max_us = 10000};
const struct cm_m93_part cm_m93c46 = {
    .part = {.name = "m93c46", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 128, .address_bits = 6, .word_bytes = 2, .clock_hz = 1000000, .write_us = 4000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_m93c56 = {
    .part = {.name = "m93c56", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 256, .address_bits = 8, .word_bytes = 2, .clock_hz = 1000000, .write_us = 4000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_m93c66 = {
    .part = {.name = "m93c66", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 512, .address_bits = 8, .word_bytes = 2, .clock_hz = 1000000, .write_us = 4000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_m93c76 = {
    .part = {.name = "m93c76", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 1024, .address_bits = 10, .word_bytes = 2, .clock_hz = 1000000, .write_us = 4000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_m93c86 = {
    .part = {.name = "m93c86", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 2048, .address_bits = 10, .word_bytes = 2, .clock_hz = 1000000, .write_us = 4000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_m93c46_by_8 = {
    .part = {.name = "m93c46-8", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 128, .address_bits = 7, .word_bytes = 1, .clock_hz = 1000000, .write_us = 4000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_m93c56_by_8 = {
    .part = {.name = "m93c56-8", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 256, .address_bits = 9, .word_bytes = 1, .clock_hz = 1000000, .write_us = 4000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_m93c66_by_8 = {
    .part = {.name = "m93c66-8", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 512, .address_bits = 9, .word_bytes = 1, .clock_hz = 1000000, .write_us = 4000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_m93c76_by_8 = {
    .part = {.name = "m93c76-8", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 1024, .address_bits = 11, .word_bytes = 1, .clock_hz = 1000000, .write_us = 4000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_m93c86_by_8 = {
    .part = {.name = "m93c86-8", .supply_min_mv = 2500, .supply_max_mv = 5500},
    .bytes = 2048, .address_bits = 11, .word_bytes = 1, .clock_hz = 1000000, .write_us = 4000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_cat93c46 = {
    .part = {.name = "cat93c46", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 128, .address_bits = 6, .word_bytes = 2, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 5000};
const struct cm_m93_part cm_cat93c56 = {
    .part = {.name = "cat93c56", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 256, .address_bits = 8, .word_bytes = 2, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_cat93c66 = {
    .part = {.name = "cat93c66", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 512, .address_bits = 8, .word_bytes = 2, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_cat93c76 = {
    .part = {.name = "cat93c76", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 1024, .address_bits = 10, .word_bytes = 2, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_cat93c86 = {
    .part = {.name = "cat93c86", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 2048, .address_bits = 10, .word_bytes = 2, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_cat93c46_by_8 = {
    .part = {.name = "cat93c46-8", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 128, .address_bits = 7, .word_bytes = 1, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 5000};
const struct cm_m93_part cm_cat93c56_by_8 = {
    .part = {.name = "cat93c56-8", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 256, .address_bits = 9, .word_bytes = 1, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_cat93c66_by_8 = {
    .part = {.name = "cat93c66-8", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 512, .address_bits = 9, .word_bytes = 1, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_cat93c76_by_8 = {
    .part = {.name = "cat93c76-8", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 1024, .address_bits = 11, .word_bytes = 1, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 5000, .reads_on = true};
const struct cm_m93_part cm_cat93c86_by_8 = {
    .part = {.name = "cat93c86-8", .supply_min_mv = 1800, .supply_max_mv = 5500},
    .bytes = 2048, .address_bits = 11, .word_bytes = 1, .clock_hz = 1000000, .write_us = 3000, .write_max_us = 5000, .reads_on = true};

const struct cm_part *const cm_m93_all_parts[CM_M93_PART_COUNT] = {&cm_93c46.part, &cm_93c56.part, &cm_93c66.part, &cm_93c76.part, &cm_93c86.part, &cm_93c46_by_8.part, &cm_93c56_by_8.part, &cm_93c66_by_8.part, &cm_93c76_by_8.part, &cm_93c86_by_8.part, &cm_93lc46b.part, &cm_93lc56b.part, &cm_93lc66b.part, &cm_93lc76b.part, &cm_93lc86b.part, &cm_93lc46a.part, &cm_93lc56a.part, &cm_93lc66a.part, &cm_93lc76a.part, &cm_93lc86a.part, &cm_93aa46b.part, &cm_93aa56b.part, &cm_93aa66b.part, &cm_93aa76b.part, &cm_93aa86b.part, &cm_93aa46a.part, &cm_93aa56a.part, &cm_93aa66a.part, &cm_93aa76a.part, &cm_93aa86a.part, &cm_at93c46.part, &cm_at93c56.part, &cm_at93c66.part, &cm_at93c86.part, &cm_at93c46_by_8.part, &cm_at93c56_by_8.part, &cm_at93c66_by_8.part, &cm_at93c86_by_8.part, &cm_m93c46.part, &cm_m93c56.part, &cm_m93c66.part, &cm_m93c76.part, &cm_m93c86.part, &cm_m93c46_by_8.part, &cm_m93c56_by_8.part, &cm_m93c66_by_8.part, &cm_m93c76_by_8.part, &cm_m93c86_by_8.part, &cm_cat93c46.part, &cm_cat93c56.part, &cm_cat93c66.part, &cm_cat93c76.part, &cm_cat93c86.part, &cm_cat93c46_by_8.part, &cm_cat93c56_by_8.part, &cm_cat93c66_by_8.part, &cm_cat93c76_by_8.part, &cm_cat93c86_by_8.part};
