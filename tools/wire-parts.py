#!/usr/bin/env python3
"""Writes the tables of EEPROMs on two and three wires: core/families/{i2c24,m93}/parts.c and their headers.

Usage: tools/wire-parts.py       (run it from anywhere; the files are written into the tree)

Facts are from the makers' data sheets; times and clocks are those of the slowest grade that is common, at its lowest supply. Not sure of, and on the safe side: the parts called by the bare number (24c64) may be of any maker,
so they have the smallest page and the longest time that any of them has. Reading ends at each block of 256 bytes or 64 KiB, since some parts go on there and some do not.
"""
import os

ROOT = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))
LOW, WIDE, FIVE, THREE = (1700, 5500), (2500, 5500), (4500, 5500), (1800, 5500)

# name, bytes, page, address bytes, block shift; clock in kHz and longest write in us
TWO = []
def two(rows, supply=LOW, khz=400, us=5000):
    for row in rows:
        name, size, page, *more = row.split()
        TWO.append((name, int(size), int(page), int(more[0]) if more else (1 if int(size) <= 2048 else 2), int(more[1]) if len(more) > 1 else 0, supply, khz, us))

SIZES = {"01": (128, 8), "02": (256, 8), "04": (512, 16), "08": (1024, 16), "16": (2048, 16), "32": (4096, 32), "64": (8192, 32), "128": (16384, 64), "256": (32768, 64), "512": (65536, 128)}
# The usual ones by their common names, at the smallest page and the slowest times of all makers: safe for any of them.
two(["24c00 16 1"], khz=100)
two(["24c%s %d %d" % (n, size, min(page, 8) if size <= 256 else min(page, 16) if size <= 2048 else page) for n, (size, page) in SIZES.items()], supply=WIDE, khz=100, us=10000)
two(["24c1024 131072 256"], supply=WIDE, khz=100, us=10000)
two(["24aa00 16 1"], khz=100, us=4000)
two(["24lc%s %d %d" % (n, *SIZES[k]) for n, k in (("01b", "01"), ("02b", "02"), ("04b", "04"), ("08b", "08"), ("16b", "16"), ("32a", "32"), ("64", "64"), ("128", "128"), ("256", "256"), ("512", "512"))] + ["24lc1025 131072 128 2 2", "24lc1026 131072 128"], supply=WIDE)
two(["24aa%s %d %d" % (n, *SIZES[k]) for n, k in (("01", "01"), ("02", "02"), ("04", "04"), ("08", "08"), ("16", "16"), ("32a", "32"), ("64", "64"), ("128", "128"), ("256", "256"), ("512", "512"))], supply=LOW, khz=100)
two(["at24c%s %d %d" % (n, *SIZES[k]) for n, k in (("01d", "01"), ("02d", "02"), ("04d", "04"), ("08d", "08"), ("16d", "16"), ("32e", "32"), ("64d", "64"), ("128c", "128"), ("256c", "256"), ("512c", "512"))] + ["at24cm01 131072 256", "at24cm02 262144 256"], supply=LOW)
TWO[-1] = TWO[-1][:7] + (10000,)
two(["m24c%s %d %d" % (n, SIZES[n][0], max(SIZES[n][1], 16)) for n in ("01", "02", "04", "08", "16", "32", "64")] + ["m24128 16384 64", "m24256 32768 64", "m24512 65536 128", "m24m01 131072 256", "m24m02 262144 256"], supply=THREE)
TWO[-1] = TWO[-1][:7] + (10000,)
two(["cat24c%s %d %d" % (n, SIZES[n][0], max(SIZES[n][1], 16)) for n in ("02", "04", "08", "16", "32", "64", "128", "256", "512")] + ["cat24m01 131072 256"], supply=THREE)
two(["br24t%s %d %d" % (n, SIZES[n][0], SIZES[n][1]) for n in ("01", "02", "04", "08", "16", "32", "64", "128", "256", "512")], supply=LOW)
two(["fm24c16 2048 16 ", "fm24c64 8192 32", "fm24c256 32768 64"], supply=WIDE, khz=100)

# Three wires. name, bytes by words, address bits by words; by bytes the same part has one bit more.
THREE_WIRE = []
def three(rows, supply, khz, us, max_us, byte_only=False):
    for row in rows:
        name, size, bits, org = row.split()
        word = 1 if org == "8" else 2
        THREE_WIRE.append((name, int(size), int(bits), word, supply, khz, us, max_us))
M = {"46": (128, 6), "56": (256, 8), "66": (512, 8), "76": (1024, 10), "86": (2048, 10)}
# The makers' sheets have it that a read goes on behind a word; not known, and taken for no: old AT93C, CAT93C46, and the bare numbers.
READS_ON = ("93lc", "93aa", "m93c", "cat93c5", "cat93c6", "cat93c7", "cat93c8")
def both(prefix, suffix16, suffix8, kinds, supply, khz, us=3000, max_us=6000):
    three(["%s%s%s %d %d 16" % (prefix, k, suffix16, *M[k]) for k in kinds] + ["%s%s%s %d %d 8" % (prefix, k, suffix8, M[k][0], M[k][1] + 1) for k in kinds], supply, khz, us, max_us)
both("93c", "", "-8", M, WIDE, 250, 5000, 10000)
both("93lc", "b", "a", M, WIDE, 2000)
both("93aa", "b", "a", M, (1800, 5500), 1000)
both("at93c", "", "-8", ["46", "56", "66", "86"], WIDE, 250, 5000, 10000)
both("m93c", "", "-8", M, WIDE, 1000, 4000, 5000)
both("cat93c", "", "-8", M, (1800, 5500), 1000, 3000, 5000)

def c_name(name):
    return "cm_" + name.replace("-", "_by_")

def write(path, text):
    with open(os.path.join(ROOT, path), "w") as f:
        f.write(text)

def tables(fam, title, rows, text):
    upper = fam.upper()
    names = [c_name(r[0]) for r in rows]
    assert len(set(names)) == len(names) and all(len(r[0]) < 16 for r in rows), [n for n in names if names.count(n) > 1]
    body = "/* Made by tools/wire-parts.py: change it there. %s. */\n#include <coldmint/%s_parts.h>\n\n" % (title, fam)
    for row in rows:
        body += "const struct cm_%s_part %s = {\n%s};\n" % (fam, c_name(row[0]), text(row))
    body += "\nconst struct cm_part *const cm_%s_all_parts[CM_%s_PART_COUNT] = {%s};\n" % (fam, upper, ", ".join("&%s.part" % n for n in names))
    head = "/**\n * %s: the parts that the library knows. Made by tools/wire-parts.py: change it there.\n */\n#ifndef COLDMINT_%s_PARTS_H\n#define COLDMINT_%s_PARTS_H\n\n#include <coldmint/decls.h>\n#include <coldmint/%s.h>\n\nCM_DECLS_BEGIN\n\n" % (title, upper, upper, fam)
    head += "".join("extern const struct cm_%s_part %s;\n" % (fam, n) for n in names)
    head += "\n/** All parts of the family, for a kit that knows them all. */\nenum { CM_%s_PART_COUNT = %d };\nextern const struct cm_part *const cm_%s_all_parts[CM_%s_PART_COUNT];\n\nCM_DECLS_END\n\n#endif\n" % (upper, len(rows), fam, upper)
    write("core/families/%s/parts.c" % fam, body)
    write("include/coldmint/%s_parts.h" % fam, head)

def part(name, supply):
    return '    .part = {.name = "%s", .supply_min_mv = %d, .supply_max_mv = %d},\n' % (name, *supply)

tables("i2c24", "EEPROMs on I2C", TWO, lambda r: part(r[0], r[5]) + "    .bytes = %d, .page_bytes = %d, .address_bytes = %d, %s.clock_hz = %d, .write_us = %d" % (r[1], r[2], r[3], ".block_shift = %d, " % r[4] if r[4] else "", r[6] * 1000, r[7]))
tables("m93", "93-series EEPROMs", THREE_WIRE, lambda r: part(r[0], r[4]) + "    .bytes = %d, .address_bits = %d, .word_bytes = %d, .clock_hz = %d, .write_us = %d, .write_max_us = %d%s" % (r[1], r[2], r[3], r[5] * 1000, r[6], r[7], ", .reads_on = true" if r[0].startswith(READS_ON) else ""))
print(len(TWO), len(THREE_WIRE))
