#!/usr/bin/env python3
"""Prints what the core takes of a Cortex-M0+: code by layer, tables, RAM, and the deepest stack.

Usage: tools/size.py BUILD_FOLDER     (needs arm-none-eabi-gcc)

Links tools/size-program.c with the core at -Os and --gc-sections, and reads the linker's map: what is in it is what a program with one
part carries. The stack is the deepest path through the call graph that the compiler writes (-fcallgraph-info=su); calls through
pointers go to the functions named in POINTERS, calls into the port count as nothing. A limit that is exceeded gives exit status 1.
"""
import glob, os, re, subprocess, sys

ROOT = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))
FLAGS = "-mcpu=cortex-m0plus -mthumb -Os -std=c11 -ffreestanding -ffunction-sections -fdata-sections".split()
LIMIT_CODE, LIMIT_RAM = 8192, 1024
POINTERS = {  # who calls through a pointer, and what can be behind it
    "cm_checked": ["access"], "cm_find_chip": ["cm_avr_enter", "cm_avr_identify"], "cm_close": ["cm_avr_leave"],
    "cm_erase": ["erase"], "cm_protection": ["protection"], "cm_region": ["region"],
    "engage": ["cm_put_by_chip"], "cm_each_page": ["survey_page", "count_page", "execute_page", "memory_extent", "memory_read"],
    "cm_steadily": ["act_access", "act_erase", "act_protection"], "count_cost": ["cost_us"],
}

def link(folder):
    os.makedirs(folder, exist_ok=True)
    sources = [os.path.join(ROOT, "tools/size-program.c")]
    for pattern in ("core/bus/*.c", "core/job/*.c", "core/image/*.c", "core/families/avr/*.c"):
        sources += sorted(glob.glob(os.path.join(ROOT, pattern)))
    for old in glob.glob(os.path.join(folder, "*.ci")):
        os.remove(old)
    subprocess.run(["arm-none-eabi-gcc", *FLAGS, "-I", os.path.join(ROOT, "include"), "-fcallgraph-info=su", *sources,
                    "-nostartfiles", "--specs=nano.specs", "-Wl,--gc-sections", "-Wl,--defsym=port=0x20001000",
                    "-Wl,--defsym=image=0x1000", "-Wl,-Map=size.map", "-o", "size.elf"], cwd=folder, check=True)
    with open(os.path.join(folder, "size.map")) as f:
        return f.read()

def group(section, name, origin):
    if ".a(" in origin:
        return "compiler's and C library's functions"
    if name in ("_start", "PARTS", "KIT") or "_start" in section or name.startswith("ram_"):
        return "the measuring program"
    if re.match(r"cm_at|cm_avr_times|BITS_", name):
        return "parts table (one part)"
    return None

def sizes(text):
    """Bytes by group from the linker's map; the core's own by the file they come from."""
    text = text[text.index("Linker script and memory map"):]
    objects = {}
    rows = re.findall(r"^ (\.(?:text|rodata|bss|data)\S*)\s+0x[0-9a-f]+\s+0x([0-9a-f]+)\s+(\S+)", text, re.M)
    for section, size, origin in rows:
        kind, _, name = section[1:].partition(".")
        key = group(section, name, origin) or "core"
        objects[(key, kind)] = objects.get((key, kind), 0) + int(size, 16)
    return objects

def stack(folder):
    own, calls = {}, {}
    for path in glob.glob(os.path.join(folder, "*.ci")):
        text = open(path).read()
        for title, label in re.findall(r'node: \{ title: "([^"]+)" label: "([^"]+)"', text):
            used = re.search(r"(\d+) bytes \((static|dynamic)", label)
            name = title.split(":")[-1].split(".")[0]
            if used:
                own[name] = max(own.get(name, 0), int(used.group(1)))
        for source, target in re.findall(r'edge: \{ sourcename: "([^"]+)" targetname: "([^"]+)"', text):
            source, target = source.split(":")[-1].split(".")[0], target.split(":")[-1].split(".")[0]
            calls.setdefault(source, set()).update(POINTERS.get(source, []) if target == "__indirect_call" else [target])
    def deepest(name, path):
        if name in path:
            return 0, []
        best = max((deepest(n, path + [name]) for n in calls.get(name, ())), default=(0, []))
        return own.get(name, 0) + best[0], [name] + best[1]
    return deepest("_start", [])

def main():
    folder = os.path.join(sys.argv[1], "size")
    objects = sizes(link(folder))
    code, constants = objects[("core", "text")], objects.get(("core", "rodata"), 0)
    print("size for Cortex-M0+ at -Os: a program that identifies one part and puts an image into it")
    print("  bus, engine and AVR family: code %d + constants %d = %d bytes (limit %d)" % (code, constants, code + constants, LIMIT_CODE))
    for key in ("parts table (one part)", "compiler's and C library's functions"):
        print("  %s: %d bytes" % (key, sum(v for (k, _), v in objects.items() if k == key)))
    table = subprocess.run(["arm-none-eabi-gcc", *FLAGS, "-I", os.path.join(ROOT, "include"), "-c",
                            os.path.join(ROOT, "core/families/avr/parts.c"), "-o", "parts.o"], cwd=folder, check=True)
    out = subprocess.run(["arm-none-eabi-size", os.path.join(folder, "parts.o")], capture_output=True, text=True).stdout
    print("  parts table, all parts: %s bytes" % out.splitlines()[1].split()[0])
    out = subprocess.run(["arm-none-eabi-nm", "-S", "-t", "d", os.path.join(folder, "size.elf")], capture_output=True, text=True).stdout
    ram = {m[1]: int(m[0]) for m in re.findall(r"^\d+ (\d+) . (ram_\w+)$", out, re.M)}
    total = sum(ram.values())
    print("  RAM: session %d + workspace %d = %d bytes with a 256-byte page (limit %d), no heap" % (
        ram["ram_session"], ram["ram_workspace"], total, LIMIT_RAM))
    depth, path = stack(folder)
    print("  deepest stack without the port: %d bytes, by %s" % (depth, " > ".join(path)))
    return 0 if code + constants <= LIMIT_CODE and total <= LIMIT_RAM else 1

if __name__ == "__main__":
    sys.exit(main())
