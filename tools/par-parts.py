#!/usr/bin/env python3
"""Writes the table of parallel memories: core/families/par/parts.c and include/coldmint/par_parts.h.

Usage: tools/par-parts.py       (run it from anywhere; the files are written into the tree)

Facts are from the makers' data sheets: ids, sizes, times of the slowest grade that is common. Where a group says "ids in general use" the sheets were not at hand.

Not sure of, and on the safe side: the longest times of an erase by AMD's algorithm are those of a worn part; the boot blocks of page flash are looked at where the sheets of the family show them; AMD's sector locks are taken
to be by single sectors, though some parts join them in groups. Parts of 16 bits are worked with on a bus of 16 bits alone (their BYTE pin high). EPROMs of the 27C series have the voltages of the quick algorithm; the NMOS ones before them want
others, and are read only. 28-series parts with a status pin (RDY/BSY) are polled as all others.

A row is: name, id, KiB. Of EPROMs the id is what they show with A9 at 12 V.
"""
import os

ROOT = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))

# name: erase units (bytes, typical us, longest us, opcode), chip typical and longest us, sectors in KiB of the unit at one end, at the top
ERASES = {
    "sst":       ([(4096, 18000, 25000, 0x30)], 70000, 100000),
    "sst_wide":  ([(4096, 18000, 25000, 0x30), (65536, 18000, 25000, 0x50)], 70000, 100000),
    "pm39":      ([(4096, 55000, 100000, 0x30), (65536, 55000, 100000, 0x50)], 55000, 100000),
    "w39":       ([(4096, 12500, 50000, 0x30)], 50000, 200000),
    "am16":      ([(16384, 1000000, 15000000, 0x30)], 8000000, 64000000),
    "am64":      ([(65536, 1000000, 15000000, 0x30)], 8000000, 64000000),
    "am64_top":  ([(65536, 1000000, 15000000, 0x30)], 7000000, 64000000, [32, 8, 8, 16], True),
    "am64_bottom": ([(65536, 1000000, 15000000, 0x30)], 7000000, 64000000, [16, 8, 8, 32], False),
    "whole":     ([], 3000000, 10000000),
    "w49":       ([], 100000, 200000),
}
# typical and longest us of a unit or page, us of changing into the id mode, ns of the shortest write pulse, and of being high
# behind it. Not sure of the pulses of PMC and Winbond: the longest of their kind. AMD's words: 360 us at most at 3 V, 500 at 5 V: the longer for both.
TIMES = {
    "sst": (14, 20, 1, 40, 30), "sst_wide": (14, 20, 1, 40, 30), "sst_fast": (7, 10, 1, 40, 30), "am": (7, 300, 1, 50, 30), "am_wide": (11, 500, 1, 50, 30), "pm39": (20, 40, 1, 50, 40), "w39": (35, 50, 10, 100, 100), "at49": (30, 50, 1, 90, 90), "w49": (35, 50, 10, 100, 100),
    "at29": (10000, 10000, 10000, 90, 100), "w29": (5000, 10000, 10, 70, 150), "ee": (5000, 10000, 10, 100, 50), "ee_slow": (10000, 10000, 10, 100, 50), "ee_byte": (1000, 2000, 10, 100, 50), "eprom": (100, 105, 10, 0, 0), "eprom_wide": (100, 105, 10, 0, 0),
}
BY_WORDS = ("sst_wide", "sst_fast", "am_wide", "eprom_wide")
BY_PAGES = ("at29", "w29", "ee", "ee_slow", "ee_byte")
FIVE, THREE, WIDE3 = (4500, 5500), (3000, 3600), (2700, 3600)
ROWS = []  # title, C name, fields

def part(title, rows, **what):
    for row in rows:
        name, ident, kib, *more = row.split()
        own = dict(dict(supply=FIVE, ns=120, page=1, traits=[], boot=0, erases=None, times="am", program_mv=0), **what)
        for word in more:
            key, _, value = word.partition("=")
            own[key] = int(value) if value.isdigit() else value
        ROWS.append((title, name, "" if ident == "-" else ident, int(float(kib) * 1024), own))
        title = ""

# JEDEC flash by single bytes
part("SST, 5 V", ["sst39sf512 BFB4 64", "sst39sf010a BFB5 128", "sst39sf020a BFB6 256", "sst39sf040 BFB7 512"], ns=70, erases="sst", times="sst")
part("SST, 3 V", ["sst39vf512 BFD4 64", "sst39vf010 BFD5 128", "sst39vf020 BFD6 256", "sst39vf040 BFD7 512"], ns=90, erases="sst", times="sst", supply=WIDE3)
part("SST, 16 bits", ["sst39vf200a BF8927 256", "sst39vf400a BF8027 512", "sst39vf800a BF8127 1024", "sst39vf160 BF8227 2048", "sst39vf1601 BF4B23 2048 times=sst_fast", "sst39vf1602 BF4A23 2048 times=sst_fast"], ns=90, erases="sst_wide", times="sst_wide", supply=WIDE3, traits=["WIDE"])
part("AMD", ["am29f010b 0120 128 erases=am16", "am29f040b 01A4 512", "am29lv010b 016E 128 erases=am16 supply=WIDE3", "am29lv040b 014F 512 supply=WIDE3"], erases="am64", traits=["SECTOR_LOCKS"])
part("AMD with boot sectors", ["am29f002bt 01B0 256 erases=am64_top", "am29f002bb 0134 256 erases=am64_bottom"], traits=["SECTOR_LOCKS"])
part("AMD, 16 bits", ["am29f200bt 015122 256 erases=am64_top", "am29f200bb 015722 256 erases=am64_bottom", "am29f400bt 012322 512 erases=am64_top", "am29f400bb 01AB22 512 erases=am64_bottom",
     "am29lv400bt 01B922 512 erases=am64_top supply=WIDE3", "am29lv400bb 01BA22 512 erases=am64_bottom supply=WIDE3"], times="am_wide", traits=["WIDE", "SECTOR_LOCKS"])
part("Macronix", ["mx29f040 C2A4 512", "mx29lv040 C24F 512 supply=WIDE3", "mx29f002t C2B0 256 erases=am64_top", "mx29f002b C234 256 erases=am64_bottom"], erases="am64", traits=["SECTOR_LOCKS"])
part("ST", ["m29f010b 2020 128 erases=am16", "m29f040b 20E2 512", "m29f002bt 20B0 256 erases=am64_top", "m29f002bb 2034 256 erases=am64_bottom", "m29w010b 2023 128 erases=am16 supply=WIDE3", "m29w040b 20E3 512 supply=WIDE3"], erases="am64", traits=["SECTOR_LOCKS"])
part("Other makers of the same; ids in general use", ["en29f040a 1C04 512", "a29010 37A4 128 erases=am16", "a29040b 3786 512", "hy29f040a ADA4 512", "pm29f002t 9D1D 256 erases=am64_top", "pm29f002b 9D2D 256 erases=am64_bottom"], erases="am64", traits=["SECTOR_LOCKS"])
part("PMC; ids in general use", ["pm39f010 9D1C 128", "pm39f020 9D4D 256", "pm39f040 9D4E 512", "pm39lv512 9D1B 64 supply=THREE", "pm39lv010 9D1C 128 supply=THREE", "pm39lv020 9D3D 256 supply=THREE", "pm39lv040 9D3E 512 supply=THREE"], ns=90, erases="pm39", times="pm39")
part("Winbond", ["w39f010 DAA1 128", "w39l010 DA31 128 supply=THREE", "w39l020 DAB5 256 supply=THREE", "w39l040 DAB6 512 supply=THREE"], ns=90, erases="w39", times="w39")
part("Winbond, erased as a whole", ["w49f002u DA0B 256 boot=16384", "w49f020 DA8C 256 boot=8192"], erases="w49", times="w49", traits=["BOOT_LOCK_LOW"])
part("Atmel, erased as a whole", ["at49f512 1F03 64 boot=8192", "at49f010 1F17 128 boot=8192", "at49f020 1F0B 256 boot=8192", "at49f040 1F13 512 boot=16384", "at49bv040 1F13 512 boot=16384 supply=WIDE3"], erases="whole", times="at49", traits=["BOOT_LOCK_LOW"])
# Page flash
AT29 = dict(times="at29", traits=["WHOLE_PAGES", "SDP"], ns=120)
part("Atmel page flash", ["at29c256 1FDC 32 page=64", "at29c512 1F5D 64 page=128", "at29c010a 1FD5 128 page=128 boot=8192", "at29c020 1FDA 256 page=256 boot=8192", "at29c040a 1FA4 512 page=256 boot=16384",
     "at29lv512 1F3D 64 page=128 supply=THREE", "at29lv010a 1F35 128 page=128 supply=THREE boot=8192", "at29lv020 1FBA 256 page=256 supply=THREE boot=8192", "at29lv040a 1FC4 512 page=256 supply=THREE boot=16384"], **AT29)
part("Winbond page flash", ["w29ee011 DAC1 128 page=128 boot=8192", "w29c020c DA45 256 page=128 boot=8192", "w29c040 DA46 512 page=256 boot=16384"], times="w29", traits=["WHOLE_PAGES", "SDP"], ns=120)
part("SST page flash", ["sst29ee512 BF5D 64", "sst29ee010 BF07 128", "sst29ee020 BF10 256"], page=128, times="w29", traits=["WHOLE_PAGES", "SDP"], ns=120)
FLASH, ROWS = ROWS, []

# EEPROMs of the 28 series: no id. Those without pages are written by single bytes.
part("Atmel", ["at28c16 - 2", "at28c64 - 8", "at28c17 - 2"], times="ee_byte", ns=150)
part("Atmel by pages", ["at28c64b - 8 page=64", "at28hc64b - 8 page=64", "at28c256 - 32 page=64", "at28hc256 - 32 page=64", "at28c010 - 128 page=128", "at28c040 - 512 page=256"], times="ee_slow", traits=["SDP"], ns=150)
part("Catalyst", ["cat28c16a - 2 page=1", "cat28c64b - 8 page=32", "cat28c256 - 32 page=64"], times="ee_slow", ns=150)
part("Xicor", ["x28c64 - 8 page=64", "x28c256 - 32 page=64", "x28hc256 - 32 page=128", "x28c010 - 128 page=256"], times="ee", traits=["SDP"], ns=150)
part("Microchip", ["28c16a - 2", "28c64a - 8"], times="ee_byte", ns=150)
for index, row in enumerate(ROWS):
    if row[1] in ("cat28c64b", "cat28c256"):
        row[4]["traits"] = ["SDP"]
EE28, ROWS = ROWS, []

# EPROMs. Where VPP shares a pin with OE the port's switch for it goes to that pin: pulses and reading back come one after the other, never mixed. The old ones want other voltages and longer pulses.
part("EPROMs with a pin for VPP", ["27c64 - 8", "27c128 - 16", "27c256 - 32", "27c010 - 128", "27c020 - 256", "27c040 - 512"], program_mv=6250, times="eprom", ns=150)
part("EPROMs with VPP on OE", ["27c512 - 64", "27c080 - 1024"], program_mv=6250, times="eprom", ns=150)
part("AMD", ["am27c64 0115 8", "am27c128 0116 16", "am27c256 0110 32", "am27c512 0191 64", "am27c010 010E 128", "am27c020 0197 256", "am27c040 019B 512"], program_mv=6250, times="eprom", ns=150)
part("Atmel", ["at27c256r 1E8C 32", "at27c512r 1E0D 64", "at27c010 1E05 128", "at27c020 1E86 256", "at27c040 1E0B 512"], program_mv=6500, times="eprom", ns=120)
part("ST", ["m27c256b 208D 32", "m27c512 203D 64", "m27c1001 2005 128", "m27c2001 2061 256", "m27c4001 2041 512"], program_mv=6250, times="eprom", ns=120)
part("Texas", ["tms27c256 9704 32", "tms27c512 9785 64", "tms27c010a 97D6 128"], program_mv=6500, times="eprom", ns=150)
part("NMOS, read only here", ["2716 - 2", "2732 - 4", "2764 - 8", "27128 - 16", "27256 - 32", "27512 - 64"], times="eprom", ns=450)
part("Erased by 14 V, which is not done here", ["w27c512 DA08 64", "sst27sf512 BFA4 64", "sst27sf010 BFA5 128", "sst27sf020 BFA6 256"], times="eprom", ns=120)
part("16 bits", ["27c1024 - 128", "27c4096 - 512"], times="eprom_wide", ns=150, traits=["WIDE"])
EPROM = ROWS

SUPPLIES = {"WIDE3": WIDE3, "THREE": THREE}

def c_name(name):
    return "cm_" + name

def fields(name, ident, size, own, eprom):
    ident = [ident[i:i + 2] for i in range(0, len(ident), 2)]
    supply = SUPPLIES.get(own["supply"], own["supply"])
    hexes = "{" + ", ".join("0x" + i for i in ident) + "}"
    has_id = ident and not eprom
    out = '    .part = {.name = "%s"%s, .supply_min_mv = %d, .supply_max_mv = %d},\n' % (name, ", .id = %s, .id_bytes = %d" % (hexes, len(ident)) if has_id else "", *supply)
    out += "    .bytes = %d, .cycle_ns = %d, .page_bytes = %d" % (size, own["ns"], own["page"])
    traits = list(own["traits"])
    if own["boot"] and "BOOT_LOCK_LOW" not in traits:
        traits += ["BOOT_LOCK_LOW", "BOOT_LOCK_HIGH"]
    out += ", .traits = %s" % " | ".join("CM_PAR_" + t for t in traits) if traits else ""
    out += ", .boot_bytes = %d" % own["boot"] if own["boot"] else ""
    out += ", .a9_id = %s" % hexes if ident and eprom else ""
    out += ", .program_mv = %d" % own["program_mv"] if own["program_mv"] else ""
    out += ",\n    " + (".erases = &ERASES_%s, " % own["erases"].upper() if own["erases"] else "") + ".times = &TIMES_%s" % own["times"].upper()
    return out

def descriptors():
    out = []
    for name, (units, chip, chip_most, *boot) in ERASES.items():
        text = ", ".join("{%d, %d, %d, 0x%02X}" % u for u in units)
        tail = ", .boot = {%s}%s" % (", ".join(map(str, boot[0])), ", .boot_at_top = true" if boot[1] else "") if boot else ""
        head = ".units = {%s}, " % text if units else ""
        out.append("static const struct cm_par_erases ERASES_%s = {%s.chip_us = %d, .chip_max_us = %d%s};" % (name.upper(), head, chip, chip_most, tail))
    for name, values in TIMES.items():
        way = ",\n    .write_pages = cm_par_write_pages" if name in BY_PAGES else ""
        way += ",\n    .words = &cm_par_words" if name in BY_WORDS else ""
        out.append("static const struct cm_par_times TIMES_%s = {\n    .program_us = %d, .program_max_us = %d, .id_us = %d, .pulse = {%d, %d}%s};" % (name.upper(), *values, way))
    return "\n".join(out)

def write(path, text):
    with open(os.path.join(ROOT, path), "w") as f:
        f.write(text)

def main():
    body = "/* Made by tools/par-parts.py: change it there. Parallel memories. */\n#include \"par.h\"\n#include <coldmint/par_parts.h>\n\n" + descriptors() + "\n"
    head = "/**\n * The parallel memories that the library knows. Made by tools/par-parts.py: change it there.\n *\n * Name those that your program is for in a kit; the others are not linked.\n */\n"
    head += "#ifndef COLDMINT_PAR_PARTS_H\n#define COLDMINT_PAR_PARTS_H\n\n#include <coldmint/decls.h>\n#include <coldmint/par.h>\n\nCM_DECLS_BEGIN\n\n"
    seen = set()
    for fam, rows, eprom in (("par", FLASH, False), ("ee28", EE28, False), ("eprom", EPROM, True)):
        for title, name, ident, size, own in rows:
            assert name not in seen and len(name) < 16, name
            seen.add(name)
            if title:
                body += "\n/* %s */" % title
            body += "\nconst struct cm_par_part %s = {\n%s};" % (c_name(name), fields(name, ident, size, own, eprom))
            head += "extern const struct cm_par_part %s;\n" % c_name(name)
        names = ", ".join("&%s.part" % c_name(r[1]) for r in rows)
        count = "CM_%s_PART_COUNT" % fam.upper()
        body += "\n\nconst struct cm_part *const cm_%s_all_parts[%s] = {%s};\n" % (fam, count, names)
        head += "\n/** All parts of family %s, for a kit that knows them all. */\nenum { %s = %d };\nextern const struct cm_part *const cm_%s_all_parts[%s];\n\n" % (fam, count, len(rows), fam, count)
    write("core/families/par/parts.c", body)
    write("include/coldmint/par_parts.h", head + "CM_DECLS_END\n\n#endif\n")
    print(len(FLASH), len(EE28), len(EPROM))

main()
