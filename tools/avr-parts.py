#!/usr/bin/env python3
"""Writes the table of AVR parts from avr-libc's device headers.

Usage: tools/avr-parts.py        (needs avr-gcc and avr-libc; writes core/families/avr/parts.c and
                                  include/coldmint/avr_parts.h)

The headers give signature, sizes, pages, fuse bits and their defaults. What they lack, or have wrong, stands in
the tables of this file, each with the reason; all of it is read from the parts' data sheets. The two written files are committed,
so that a build needs neither this script nor avr-libc.
"""
import os, re, subprocess, sys

ROOT = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))

# --- which parts -----------------------------------------------------------------------------------------------
LEFT_OUT = {  # pattern: why it is not in the table
    r"attiny(4|5|9|10|20|40)$": "programmed over two wires (TPI)",
    r"attiny(102|104|[248]0[2-9]|[248]1\d|160[4-9]|161\d|321\d)$": "programmed over one or two wires (UPDI, TPI)",
    r"attiny(11|28)$": "no low-voltage serial mode",
    r"ata[mt]?x?mega.*": "PDI",
    r"at(x|a|tx)mega.*": "PDI",
    r"atxmega.*": "PDI",
    r"atmega(80[89]|160[89]|320[89]|480[89])$": "UPDI",
    r"atmega406$": "JTAG and parallel only",
    r"at90(c8534|s8534|scr100)$": "no data sheet at hand that proves the serial mode",
    r"at90s2333$": "avr-libc knows no signature or fuses for it",
    r"ata(5702m322|5782|5790n?|5791|5795|5831|628[569]|8210|8510)$": "serial mode differs or is not proven",
    r"at(43|76|86|94).*|m3000": "other programming methods",
    r"atmega32u6$": "never sold",
    r"atmega(16hvbrevb|32hvbrevb|16hva2|64hve)$": "same serial interface and id as the part without the suffix",
}

# --- what the headers lack or have wrong -------------------------------------------------------------------------
SIGNATURES = {  # data sheet, section "Signature Bytes"; the header has none, or its sibling's
    "at90pwm1": "1E9383", "at90pwm2": "1E9381", "at90pwm3": "1E9381", "at90usb82": "1E9382",
    "at90s4434": "1E9202", "atmega8hva": "1E9310",
    "atmega164a": "1E940F", "atmega164p": "1E940A", "atmega169a": "1E9411",
    "atmega325p": "1E950D", "atmega3250p": "1E950E", "atmega329pa": "1E950B", "atmega3290p": "1E950C",
    "atmega645p": "1E960D", "atmega6450p": "1E960E", "atmega6490p": "1E960C",
}
FLASH_PAGE = {"attiny26": 32, "atmega103": 256}  # bytes; these have no SPM, so the header is silent
EEPROM_PAGE = {"at90pwm1": 4}  # its header is silent; its twins have 4
CALIBRATION_BYTES = {  # one byte for each frequency of the internal oscillator; 1 where not named
    r"atmega(8|16|32|64|128)a?$|atmega8515$|atmega8535$|attiny26$": 4,
    r"attiny(13a?|25|45|85|2313a?|4313)$": 2,
    r"at90s.*|attiny22|atmega1(03|61)": 0,
}

# Largest boot section in bytes; BOOTSZ picks it or a half, a quarter, an eighth of it.
BOOT_MAX = [
    (r"atmega161$", 1024),
    (r"atmega(16u4|32u4|16u2|8u2|32u2|16m1|16hvb)$|at90usb(82|162)$", 4096),
    (r"at90can32$|atmega64hve2?$", 8192),
]
def boot_max(name, flash, has_boot):
    if not has_boot:
        return 0
    for pattern, size in BOOT_MAX:
        if re.match(pattern, name):
            return size
    return 2048 if flash <= 16384 else 4096 if flash <= 32768 else 8192

# Fuse bytes as delivered, where the header's are no state that the data sheet allows or lists (copied from another part).
DEFAULTS = [
    (r"atmega(1284p|644p?a?|164[ap]|324pa)$", ("62", "99", "FF")),
    (r"atmega128rfa1$", ("62", "99", "FE")),
    (r"atmega(16|32)u4$", ("5E", "99", "F3")), (r"atmega(8|16|32)u2$", ("5E", "D9", "F4")),
    (r"atmega(16|32|64)[mc]1$", ("62", "D9", "F9")),
    (r"attiny(2313a|4313)$", ("64", "DF", "FF")), (r"attiny(48|88)$", ("6E", "DF", "FF")),
]
# Names of a fuse byte's bits where the header lists bits that the data sheet reserves.
FUSE_BITS = [(r"attiny(48|88)$", 0, "CKSEL0 CKSEL1 - - SUT0 SUT1 CKOUT CKDIV8")]
SPELLINGS = {"RSTDSBL": "RSTDISBL", "SPMEN": "SELFPRGEN"}  # one name for one thing
def sheet_names(names):
    """Bits as the data sheets name them: where a header counts SUT and CKSEL through, CKSEL comes first, then one or two of SUT."""
    words, joint = names.split(), re.compile(r"(?:SUT_CKSEL|CKSEL_SUT)(\d)$")
    count = sum(1 for w in words if joint.match(w))
    sources = {6: 4, 5: 4, 4: 2}.get(count, 0)
    def name(word):
        n = int(joint.match(word).group(1)) if joint.match(word) else -1
        return SPELLINGS.get(word, word) if n < 0 else "CKSEL%d" % n if n < sources else "SUT%d" % (n - sources)
    return " ".join(name(w) for w in words)
NO_BOOT_SECTION = r"atmega48"  # the header of one of them has boot lock bits; the sheet has no boot section

# Which table of core/families/avr/setting_tables.c reads CKSEL (with SUT), and which BODLEVEL. Sub-families number them differently.
CLOCKS = [
    (r"atmega(8|16|32|64|128)a?$|atmega85[13]5$", "OLD_MEGA"), (r"attiny26$", "TINY26"), (r"atmega(163|323)$", "EARLY"),
    (r"attiny13a?$", "TINY13"), (r"attiny[248]4a?$|attiny43u$", "TINY24"), (r"attiny[248]5$", "TINY25"),
    (r"attiny[248]61a?$", "TINY261"), (r"attiny(2313a?|4313)$", "TINY2313"), (r"attiny(48|88)$", "TINY48"),
    (r"attiny(87|167)$|ata(5272|5505|6616c|6617c|664251)$", "TINY87"),
    (r"attiny(441|841|1634)$", "TINY441"), (r"attiny828$", "TINY828"),
    (r"at90can|atmega162$", "CAN"), (r"atmega(165|169|[36][24][59])", "LCD"),
    (r"at90usb(646|647|1286|1287)$|atmega(16|32)u4$", "USB"), (r"at90usb(82|162)$|atmega(8|16|32)u2$", "USB82"),
    (r"at90pwm(81|161)$", "PWM81"), (r"at90pwm|atmega\d+[mc]1$", "PWM"), (r".*rf(a1|r2)$", "RADIO"),
    (r"atmega(8|16)hva|atmega\d+hv", "BATTERY"),
]
BROWN_OUTS = [
    (r"attiny([248]5|87|167)$|ata(5272|5505|6616c|6617c|664251)$", "TINY25"), (r"attiny(441|841|1634|828)$", "BODACT"),
    (r"at90can", "CAN"), (r"at90usb(646|647|1286|1287)$|atmega(16|32)u4$", "USB"),
    (r"at90usb(82|162)$|atmega(8|16|32)u2$", "USB82"), (r"at90pwm|atmega\d+[mc]1$", "PWM"), (r".*rf(a1|r2)$", "RADIO"),
]
def scheme(table, name, usual):
    return next((key for pattern, key in table if re.match(pattern, name)), usual)

# Supply range in mV: "Operating Voltage", the widest of the siblings that share the signature (L, V and A parts).
SUPPLY = [
    (r"atmega.*rf(a1|r2)$", (1800, 3600)),
    (r"atmega(8|16)hva|atmega(16|32)hvb|atmega64hve", (2700, 5500)),
    (r"at90s", (2700, 6000)), (r"attiny12$", (1800, 5500)), (r"attiny(15|22|26)$", (2700, 5500)),
    (r"atmega(103|161|163|323)$", (2700, 5500)), (r"atmega162$", (1800, 5500)),
    (r"atmega(8|16|32|64|128)a?$|atmega85[13]5$", (2700, 5500)),
    (r"at90(can|pwm|usb)|atmega(8|16|32)u[24]|atmega\d+[cm]1$", (2700, 5500)),
    (r"ata66|ata5", (2700, 5500)), (r"attiny(441|841|828)$", (1700, 5500)),
]
def supply(name):
    return next((range_ for pattern, range_ in SUPPLY if re.match(pattern, name)), (1800, 5500))

# The three generations of the serial instruction set.
def generation(name):
    if re.match(r"at90s|attiny(12|15|22)$", name):
        return "CLASSIC"      # flash byte by byte; every write is waited out
    if re.match(r"atmega(103|161|163|323)$", name):
        return "EARLY_PAGED"  # flash by page; long waits; reset pulse after an erase
    if re.match(r"atmega(8|16|32|64|128)a?$|atmega(8515|8535|162)$|attiny26$", name):
        return "PAGED"        # flash by page, EEPROM by byte; no RDY/BSY instruction
    return "POLLED"           # Poll RDY/BSY, EEPROM by page

def times(name):
    """Row of core/families/avr/times.c; see there for the numbers."""
    if re.match(r"atmega103$", name):
        return "cm_avr_times_mega103"
    return {"CLASSIC": "cm_avr_times_classic", "EARLY_PAGED": "cm_avr_times_early_paged",
            "PAGED": "cm_avr_times_paged", "POLLED": "cm_avr_times_polled"}[generation(name)]

# Parts younger than avr-libc: (sibling that they follow, signature). Fuse bits that the sibling lacks stay reserved here;
# or whose header is silent about fuses.
YOUNGER = {"atmega328pb": ("atmega328p", "1E9516"), "atmega324pb": ("atmega324pa", "1E9517"), "atmega165a": ("atmega165pa", "1E9410")}

# --- reading the headers -----------------------------------------------------------------------------------------
def devices():
    specs = subprocess.run(["avr-gcc", "--print-file-name=device-specs"], capture_output=True, text=True, check=True)
    names = sorted(f[6:] for f in os.listdir(specs.stdout.strip()) if f.startswith("specs-"))
    kept = [n for n in names if n.startswith("at") and not any(re.match(p, n) for p in LEFT_OUT)]
    return [n for n in kept if n in YOUNGER or "FLASHEND" in macros(n)]

def macros(device):
    run = subprocess.run(["avr-gcc", "-mmcu=" + device, "-E", "-dM", "-"], input="#include <avr/io.h>\n",
                         capture_output=True, text=True)
    return dict(re.findall(r"^#define (\w+) (.*)$", run.stdout, re.M)) if run.returncode == 0 else {}

def value(defs, text):
    """Evaluates a C constant expression of the kinds that the headers use."""
    text = re.sub(r"/\*.*?\*/", "", text)
    text = text.replace("(unsigned char)", "").replace("(uint8_t)", "")
    text = re.sub(r"_BV\((\d+)\)", r"(1<<\1)", text)
    text = re.sub(r"\b(0x[0-9A-Fa-f]+|\d+)[UL]+\b", r"\1", text)
    text = re.sub(r"\b[A-Z_]\w*\b", lambda m: "(%d)" % value(defs, defs[m.group(0)]), text)
    return eval(text, {"__builtins__": {}})

def fuse_bit_names(defs, device):
    """Names by fuse byte: the header lists the bits of each byte in order, and each byte ends with its default."""
    header = subprocess.run(["avr-gcc", "-mmcu=" + device, "-E", "-dD", "-"], input="#include <avr/io.h>\n",
                            capture_output=True, text=True).stdout
    bytes_, names = [], ["-"] * 8
    for name, body in re.findall(r"^#define (\w+)[ \t]*(.*)$", header, re.M):
        bit = re.match(r"\(?(?:\(unsigned char\))? *~ *\(?_BV\((\d)\)", body)
        if name.startswith("FUSE_") and name != "FUSE_MEMORY_SIZE" and bit:
            names[int(bit.group(1))] = name[5:] if name[5:] != "RESERVED" else "-"
        elif re.match(r"(L|H|E)?FUSE_DEFAULT$|FUSE\d_DEFAULT$", name):
            bytes_.append((" ".join(names), value(defs, body) & 0xFF))
            names = ["-"] * 8
    return bytes_

def row(device):
    if device in YOUNGER:
        sibling, signature = YOUNGER[device]
        return dict(row(sibling), device=device, signature=signature)
    defs = macros(device)
    number = lambda key, default=0: value(defs, defs[key]) if key in defs else default
    flash = number("FLASHEND") + 1
    signature = SIGNATURES.get(device) or "".join("%02X" % number("SIGNATURE_%d" % i) for i in range(3))
    gen = generation(device)
    page = 0 if gen == "CLASSIC" else FLASH_PAGE.get(device) or number("SPM_PAGESIZE")
    # Of the older parts these two have the fuse instructions of the later ones; those of the others differ from sheet to sheet.
    has_fuses = gen in ("PAGED", "POLLED") or device in ("atmega163", "atmega323")
    fuses = fuse_bit_names(defs, device) if has_fuses else []
    count = number("FUSE_MEMORY_SIZE") if fuses else 0
    fuses = [(next((bits for pattern, byte, bits in FUSE_BITS if byte == i and re.match(pattern, device)), sheet_names(names)), default)
             for i, (names, default) in enumerate(fuses)]
    better = next((values for pattern, values in DEFAULTS if re.match(pattern, device)), None)
    if better:
        fuses = [(names, int(better[i], 16)) for i, (names, _) in enumerate(fuses[:count])]
    if len(fuses) < count:
        raise SystemExit("%s: %d fuse bytes, names for %d" % (device, count, len(fuses)))
    return dict(device=device, signature=signature, flash=flash, page=page, eeprom=number("E2END") + 1,
                eeprom_page=EEPROM_PAGE.get(device, number("E2PAGESIZE")) if gen == "POLLED" else 0, generation=gen, times=times(device),
                boot=boot_max(device, flash, "__BOOT_LOCK_BITS_0_EXIST" in defs and not re.match(NO_BOOT_SECTION, device)),
                clock=scheme(CLOCKS, device, "MEGA48"), brown_out=scheme(BROWN_OUTS, device, "USUAL"), fuses=fuses[:count],
                calibration=next((n for p, n in CALIBRATION_BYTES.items() if re.match(p, device)), 1),
                supply=supply(device))

# --- writing the table -------------------------------------------------------------------------------------------
MARK = "/* Written by tools/avr-parts.py from avr-libc's device headers; change the script, not this file. */\n"

def named_bits(names):
    return sum(1 << i for i, n in enumerate(names.split()) if n != "-")

def eesave(fuses):
    for byte, (names, _) in enumerate(fuses):
        if "EESAVE" in names.split():
            return byte, 1 << names.split().index("EESAVE")
    return 0, 0

def c_row(r, bit_sets):
    b = [int(r["signature"][i:i + 2], 16) for i in (0, 2, 4)]
    out = ["const struct cm_avr_part cm_%s = {" % r["device"],
           '    .part = {.name = "%s", .id = {0x%02X, 0x%02X, 0x%02X}, .id_bytes = 3,' % (r["device"], *b),
           "             .supply_min_mv = %d, .supply_max_mv = %d}," % r["supply"],
           "    .generation = CM_AVR_%s, .times = &%s," % (r["generation"], r["times"]),
           "    .flash_bytes = %d, .flash_page_bytes = %d, .boot_max_bytes = %d," % (r["flash"], r["page"], r["boot"]),
           "    .eeprom_bytes = %d, .eeprom_page_bytes = %d," % (r["eeprom"], r["eeprom_page"]),
           "    .calibration_bytes = %d, .fuse_bytes = %d," % (r["calibration"], len(r["fuses"]))]
    if r["fuses"]:
        out.append("    .fuse_default = {%s}," % ", ".join("0x%02X" % d for _, d in r["fuses"]))
        out.append("    .fuse_mask = {%s}, .eesave_byte = %d, .eesave_mask = 0x%02X," % (
            ", ".join("0x%02X" % named_bits(n) for n, _ in r["fuses"]), *eesave(r["fuses"])))
        out.append("    .clock = CM_AVR_CLOCK_%s, .brown_out = CM_AVR_BROWN_OUT_%s," % (r["clock"], r["brown_out"]))
        out.append("    .fuse_bits = {%s}," % ", ".join("BITS_%d" % bit_sets.index(n) for n, _ in r["fuses"]))
    return "\n".join(out) + "\n};\n"

def main():
    rows = [row(d) for d in devices()]
    with open(os.path.join(ROOT, "core/families/avr/parts.c"), "w") as f:
        f.write("/*\n * The AVR parts with a 4-wire serial programming mode, a row a part. Each row is an object of its own: a build\n"
                " * that names only some of them carries only those (link with --gc-sections).\n */\n" + MARK)
        f.write('#include "parts.h"\n\n// clang-format off\n')
        bit_sets = sorted({names for r in rows for names, _ in r["fuses"]})
        f.write("// Names of a fuse byte's bits, from bit 0 up; shared by all parts that have such a byte.\n")
        f.writelines('static const char BITS_%d[] = "%s";\n' % pair for pair in enumerate(bit_sets))
        f.write("\n" + "\n".join(c_row(r, bit_sets) for r in rows))
        f.write("\nconst struct cm_part *const cm_avr_all_parts[CM_AVR_PART_COUNT] = {\n")
        f.writelines("    &cm_%s.part,\n" % r["device"] for r in rows)
        f.write("};\n")
    with open(os.path.join(ROOT, "include/coldmint/avr_parts.h"), "w") as f:
        f.write("/* The names of the AVR parts, for a build that carries only those it names. */\n" + MARK)
        f.write("#ifndef COLDMINT_AVR_PARTS_H\n#define COLDMINT_AVR_PARTS_H\n\n#include <coldmint/chip.h>\n#include <coldmint/decls.h>\n\nCM_DECLS_BEGIN\n\n"
                "#define CM_AVR_PART_COUNT %d\n\n"
                "/** Every part of the table, by name. Naming this array links the whole table. */\n"
                "extern const struct cm_part *const cm_avr_all_parts[CM_AVR_PART_COUNT];\n\n" % len(rows))
        f.writelines("extern const struct cm_avr_part cm_%s;\n" % r["device"] for r in rows)
        f.write("\nCM_DECLS_END\n\n#endif\n")
    ids = {}
    for r in rows:
        ids.setdefault(r["signature"], []).append(r["device"])
    print("%d parts, %d signatures" % (len(rows), len(ids)))
    for key, names in sorted(ids.items()):
        if len(names) > 1:
            print("  shared", key, " ".join(names))

if __name__ == "__main__":
    sys.exit(main())
