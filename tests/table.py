#!/usr/bin/env python3
"""
table.py BUILD            writes the table of tests/README.md anew: test, seconds, what it proves
table.py --check BUILD    only looks whether it names every test, and what it proves
table.py --times BUILD SECONDS   where the time of the last run went; SECONDS: building before it

Seconds are of processor time, of the last run; what is proven stands in tests/CMakeLists.txt. CTest begins with the
longest of this table.
"""
import os
import re
import sys

README = os.path.join(os.path.dirname(os.path.abspath(__file__)), "README.md")
BEGIN, END = "<!-- the table: tests/table.py -->\n", "<!-- end of the table -->\n"


def proofs_of(build):
    return dict(line.rstrip("\n").split("\t", 1) for line in open(build + "/tests/proofs.tsv"))


def ran_in(build):
    """Seconds of processor time of the last run, which limit.c tells, by CTest's log."""
    seconds, current = {}, None
    if not os.path.exists(build + "/Testing/Temporary/LastTest.log"):
        return seconds
    for line in open(build + "/Testing/Temporary/LastTest.log", errors="replace"):
        begun = re.match(r'^\d+/\d+ Testing: (\S+)', line)
        took = re.match(r'^processor time ([0-9.]+) s', line)
        if begun:
            current = begun[1]
        elif took:
            seconds[current] = float(took[1])
    return seconds


def recorded():
    rows = re.findall(r"^\| `([^`]+)` \| *(\d+) \| (.*) \|$", open(README).read(), re.M)
    return {name: (int(seconds), proof) for name, seconds, proof in rows}


def write(build):
    proofs, seconds, before = proofs_of(build), ran_in(build), recorded()
    of = {name: max(1, round(seconds.get(name, before.get(name, (1, ""))[0]))) for name in proofs}
    rows = ["| `%s` | %d | %s |\n" % (name, of[name], proofs[name])
            for name in sorted(proofs, key=lambda name: (-of[name], name))]
    text = open(README).read()
    head, rest = text.split(BEGIN)
    tail = rest.split(END)[1]
    table = "| test | seconds | what it proves |\n|---|---|---|\n" + "".join(rows)
    open(README, "w").write(head + BEGIN + table + END + tail)


def check(build):
    proofs, rows = proofs_of(build), recorded()
    wrong = [name for name in proofs if name not in rows or rows[name][1] != proofs[name]]
    wrong += [name for name in rows if name not in proofs]
    if wrong:
        print("tests/README.md: write its table anew with tests/table.py build/debug: %s" %
              ", ".join(sorted(wrong)))
    return 1 if wrong else 0


def show_times(build, built):
    seconds = ran_in(build)
    labels = {}
    for name, took in seconds.items():
        kind = "builds" if re.match(r"build-|cross-|plain-|shared", name) else \
            "emulators" if re.match(r"boards|linux-|bare-|player-board", name) else \
            "fuzzing" if re.match(r"fuzz-(?!link-)", name) else "tests"
        labels[kind] = labels.get(kind, 0) + took
    print("  %6.0f s  building with sanitizers, by the clock; then, of processor time:" % built)
    for kind in sorted(labels, key=labels.get, reverse=True):
        print("  %6.0f s  %s" % (labels[kind], kind))
    print("  the ten slowest:")
    for name in sorted(seconds, key=seconds.get, reverse=True)[:10]:
        print("  %6.0f s  %s" % (seconds[name], name))


def main():
    if sys.argv[1] == "--check":
        return check(sys.argv[2])
    if sys.argv[1] == "--times":
        return show_times(sys.argv[2], float(sys.argv[3]))
    return write(sys.argv[1])


sys.exit(main())
