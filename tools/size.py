#!/usr/bin/env python3
"""Prints what the core takes of a Cortex-M0+: code by layer, tables, RAM, and the deepest stack.

Usage: tools/size.py BUILD_FOLDER     (needs arm-none-eabi-gcc)

Links tools/size-program*.c with the core at -Os and --gc-sections, and reads the linker's map: what is in it is what a program with one
part carries. The stack is the deepest path through the call graph that the compiler writes (-fcallgraph-info=su); calls through
pointers go to the functions named in POINTERS, calls into the port count as nothing. A limit that is exceeded gives exit status 1.
"""
import glob, os, re, subprocess, sys, tempfile

ROOT = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))
FLAGS = "-mcpu=cortex-m0plus -mthumb -Os -std=c11 -ffreestanding -ffunction-sections -fdata-sections".split()
LIMIT_RAM = 1024
# family: its program, its folders, a limit for all of it, the parts table's symbols, where pointers lead
FAMILIES = {
    "AVR": ("size-program.c", ["avr"], 10035, r"cm_at|cm_avr_times|BITS_", {
        "cm_checked": ["access"], "cm_find_chip": ["cm_avr_enter", "cm_avr_identify"], "act_prove": ["cm_avr_identify"], "cm_close": ["cm_avr_leave"], "act_erase": ["erase"],
        "act_asked": ["look", "restore"], "cm_region": ["region"], "_start": ["cm_put_by_chip"], "count_cost": ["cost_us"], "cm_interpret": ["shift_exchange"]}),
    "NOR": ("size-program-nor.c", ["nor"], 13500, r"cm_w25|ERASES_|TIMES_|STATUS_[A-Z]|GUARD_", {
        "cm_checked": ["cm_nor_access"], "cm_find_chip": ["cm_nor_enter", "cm_nor_identify"], "act_prove": ["cm_nor_identify"], "cm_identify": ["cm_nor_settle"], "cm_close": ["cm_nor_leave"],
        "cm_region": ["cm_nor_region"], "_start": ["cm_put_by_blocks"], "cost_us": ["cm_nor_cost_us"],
        "act_asked": ["look", "lift", "restore"], "act_erase": ["cm_nor_erase"], "act_write": ["cm_nor_access"],
        "act_sample": ["cm_nor_sample"], "judge": ["count_run", "program_run"],
        "each_erase_in": ["count_erase", "renew"], "cm_interpret": ["spi_exchange"], "cm_run_compare": ["read_on"]}),
    "parallel flash": ("size-program-par.c", ["par"], 13796, r"cm_sst|ERASES_|TIMES_", {
        "cm_checked": ["access"], "cm_find_chip": ["cm_par_enter", "cm_par_identify"], "act_prove": ["cm_par_identify"],
        "look_along_wires": ["cm_along_wires"], "cm_along_wires": ["cm_par_prove"], "cm_identify": ["cm_par_settle"], "cm_close": ["cm_par_leave"],
        "cm_region": ["region"], "_start": ["cm_put_by_blocks"], "cost_us": ["cm_par_cost_us"], "cm_evened": ["access_words"],
        "act_asked": ["look", "restore"], "act_erase": ["erase"], "act_write": ["access"], "act_sample": ["cm_par_sample"], "judge": ["count_run", "program_run"],
        "each_erase_in": ["count_erase", "renew"], "cm_interpret": ["parallel_exchange"], "cm_run_compare": ["read_units"]}),
    "I2C EEPROM": ("size-program-i2c24.c", ["i2c24"], 11096, r"cm_24lc", {
        "cm_checked": ["access"], "cm_find_chip": ["enter", "identify"], "cm_identify": ["settle"], "cm_close": ["leave"], "cm_region": ["region"],
        "_start": ["cm_put_by_blocks"], "cost_us": ["cost_us"], "act_write": ["access"], "act_sample": ["sample"], "judge": ["count_run", "program_run"],
        "each_erase_in": ["count_erase"], "cm_interpret": ["i2c_exchange"], "cm_run_compare": ["read_at"]}),
    "player with the AVR family": ("size-program-player.c", ["avr"], 17820, r"cm_at|cm_avr_times|BITS_", {}),
    "four families together": ("size-program-all.c", ["avr", "nor", "par", "i2c24"], None,
        r"cm_at|cm_avr_times|BITS_|cm_w25|cm_sst|cm_24lc|ERASES_|TIMES_|STATUS_[A-Z]|GUARD_", {}),
}
POINTERS = {  # who calls through a pointer, and what can be behind it; each family adds its own
    "cm_each_page": ["survey_page", "count_page", "execute_page", "memory_extent", "memory_read"],
    "cm_steadily": ["act_access", "act_erase", "act_asked", "act_write", "act_sample"],
    "cm_each_region": ["add_map", "plan_region", "survey_region", "execute_region"],
}

HANDED_DOWN = {  # who is given which function to call, where that is known
    ("cm_begin_blocks", "cm_each_region"): ["add_map"],
    ("survey_again", "cm_each_region"): ["survey_region"],
    ("execute", "cm_each_region"): ["execute_region"],
    ("cm_plan_blocks", "cm_each_region"): ["plan_region"],
}

# What a player takes beside the core; the capsule's writer is not in it. Digest and signature are told apart.
PLAYER = ["core/capsule/[!cw]*.c", "core/capsule/crc32.c", "core/capsule/w[io]*.c", "player/*.c", "player/ed25519/*.c", "player/ed25519/ref10/*.c"]
SIGNATURE = re.compile(r"capsule/(seal|sha256)\.c|player/ed25519")

def link(folder, program, families):
    os.makedirs(folder, exist_ok=True)
    sources = [os.path.join(ROOT, "tools", program)]
    for pattern in ["core/bus/*.c", "core/job/*.c", "core/image/*.c"] + ["core/families/%s/*.c" % f for f in families]:
        sources += sorted(glob.glob(os.path.join(ROOT, pattern)))
    if "player" in program:
        for pattern in PLAYER:
            sources += sorted(glob.glob(os.path.join(ROOT, pattern)))
    for old in glob.glob(os.path.join(folder, "*.ci")):
        os.remove(old)
    subprocess.run(["arm-none-eabi-gcc", *FLAGS, "-w", "-I", os.path.join(ROOT, "include"), "-fcallgraph-info=su", *sources,
                    "-nostartfiles", "--specs=nano.specs", "-Wl,--gc-sections", "-Wl,--defsym=port=0x20001000",
                    "-Wl,--defsym=image=0x1000", "-Wl,-Map=size.map", "-o", "size.elf"], cwd=folder, check=True)
    with open(os.path.join(folder, "size.map")) as f:
        return f.read(), sources

def group(section, name, origin, table, signed):
    if origin in signed:
        return "digest and signature"
    if ".a(" in origin:
        return "compiler's and C library's functions"
    if name.endswith("PARTS") or name == "KITS" or "_start" in section or name.startswith("ram_"):
        return "the measuring program"
    if re.match(table, name):
        return "parts table (one part)"
    return None

def loaded(text, sources):
    """The file that each object was made of: objects are loaded in the order of their sources."""
    return dict(zip([name for name in re.findall(r"^LOAD (\S+\.o)$", text, re.M) if name.startswith(tempfile.gettempdir() + "/")], sources))

def sizes(text, sources, table):
    """Bytes by group from the linker's map; the core's own by the file they come from."""
    signed = {o for o, s in loaded(text, sources).items() if SIGNATURE.search(s)}
    text = text[text.index("Linker script and memory map"):]
    objects = {}
    rows = re.findall(r"^ (\.(?:text|rodata|bss|data)\S*)\s+0x[0-9a-f]+\s+0x([0-9a-f]+)\s+(\S+)", text, re.M)
    for section, size, origin in rows:
        kind, _, name = section[1:].partition(".")
        key = group(section, name, origin, table, signed) or "core"
        objects[(key, kind)] = objects.get((key, kind), 0) + int(size, 16)
    return objects

def layers(text, sources):
    """Bytes of code by the core's folders, and the player's."""
    place = {o: os.path.relpath(os.path.dirname(s), ROOT).removeprefix("core/") for o, s in loaded(text, sources).items()
             if not SIGNATURE.search(s)}
    text = text[text.index("Linker script and memory map"):]
    found = {}
    for size, origin in re.findall(r"^ \.text\S*\s+0x[0-9a-f]+\s+0x([0-9a-f]+)\s+(\S+)", text, re.M):
        if origin in place and not place[origin].startswith(("..", "tools", "player/")):
            found[place[origin]] = found.get(place[origin], 0) + int(size, 16)
    return sorted(item for item in found.items() if item[1])

def stack(folder, pointers):
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
            calls.setdefault(source, set()).update(pointers.get(source, []) if target == "__indirect_call" else [target])
    def deepest(name, path):
        if name in path:
            return 0, []
        targets = HANDED_DOWN.get((path[-1] if path else None, name), calls.get(name, ()))
        best = max((deepest(n, path + [name]) for n in targets), default=(0, []))
        return own.get(name, 0) + best[0], [name] + best[1]
    return deepest("_start", [])

def rams(folder):
    out = subprocess.run(["arm-none-eabi-nm", "-S", "-t", "d", os.path.join(folder, "size.elf")], capture_output=True, text=True).stdout
    return {m[1]: int(m[0]) for m in re.findall(r"^\d+ (\d+) . (ram_\w+)$", out, re.M)}

def say_ram(ram, limit):
    print("    RAM: %s = %d bytes with a 256-byte page%s, no heap" % (
        " + ".join("%s %d" % (k[4:], v) for k, v in sorted(ram.items())), sum(ram.values()), " (limit %d)" % limit if limit else ""))

def measure(build, name):
    program, families, limit, table, pointers = FAMILIES[name]
    plays = "player" in program
    folder = os.path.join(build, "size-" + "-".join((["player"] if plays else []) + families))
    text, sources = link(folder, program, families)
    objects = sizes(text, sources, table)
    code, constants = objects[("core", "text")], objects.get(("core", "rodata"), 0)
    by_folder = dict(layers(text, sources))
    many = len(families) > 1
    print("  bus, engine and %s%s: code %d + constants %d = %d bytes%s" % (
        name, "" if many or plays else " family", code, constants, code + constants, " (limit %d)" % limit if limit else ""))
    print("    code by folder: %s" % ", ".join("%s %d" % item for item in sorted(by_folder.items())))
    for key in ["parts table (one part)", "compiler's and C library's functions"] + (["digest and signature"] if plays else []):
        print("    %s: %d bytes" % (key, sum(v for (k, _), v in objects.items() if k == key)))
    if plays:
        say_ram(rams(folder), None)
        return code + constants <= limit
    if many: # the deepest stack, and the RAM, are those of the family that takes the most
        return True
    subprocess.run(["arm-none-eabi-gcc", *FLAGS, "-I", os.path.join(ROOT, "include"), "-c",
                    os.path.join(ROOT, "core/families/%s/parts.c" % families[0]), "-o", "parts.o"], cwd=folder, check=True)
    out = subprocess.run(["arm-none-eabi-size", os.path.join(folder, "parts.o")], capture_output=True, text=True).stdout
    print("    parts table, all parts: %s bytes" % out.splitlines()[1].split()[0])
    ram = rams(folder)
    say_ram(ram, LIMIT_RAM)
    merged = {k: POINTERS.get(k, []) + pointers.get(k, []) for k in set(POINTERS) | set(pointers)}
    depth, path = stack(folder, merged)
    print("    deepest stack without the port: %d bytes, by %s" % (depth, " > ".join(path)))
    return code + constants <= limit and sum(ram.values()) <= LIMIT_RAM

def main():
    print("size for Cortex-M0+ at -Os: a program that identifies one part and puts an image into it")
    good = [measure(sys.argv[1], name) for name in FAMILIES]
    return 0 if all(good) else 1

if __name__ == "__main__":
    sys.exit(main())
