#!/usr/bin/env python3
"""
mutants.py SOURCE WORK COUNT [SEED]: do the tests notice a changed core?

Changes one operator or constant of core/ at a time, in a clone of SOURCE under WORK, builds it
without sanitizers and runs the tests that link the core, from the shortest on, until one fails:
then the mutant is killed. What no test notices is printed. A mutant that does not compile, or that
makes the same object code as before, is none, and another is taken.

    --tests REGEX    only these tests
    --again FILE     the mutants of an earlier run (its WORK/mutants.json); those that lived only with
                     --lived, so that another suite can be tried on the same ones

WORK/mutants.json has each with what killed it.
"""
import argparse
import collections
import hashlib
import json
import os
import random
import re
import subprocess
import sys
import time

# Generated tables, and the writer of a library's messages, hold facts: those are held against
# other tables, not against behaviour.
APART = re.compile(r"parts\.c$|\.pb\.c$|setting_tables\.c$|words\.c$|pinouts\.c$|about\.c$")
CHANGES = [
    (r" == ", " != "), (r" != ", " == "), (r" < ", " <= "), (r" <= ", " < "), (r" > ", " >= "),
    (r" >= ", " > "), (r" \+ ", " - "), (r" - ", " + "), (r" && ", " || "), (r" \|\| ", " && "),
    (r" & ", " | "), (r" \| ", " & "), (r" << ", " >> "), (r" >> ", " << "), (r"\+\+", "--"),
    (r" \+= ", " -= "), (r" \|= ", " &= "), (r"(?<=[ (])!(?=[a-z])", ""),
]
NUMBER = re.compile(r"(?<![\w.\"'])(0x[0-9A-Fa-f]+|\d+)(?![\w.\"'])")
LIMIT = 100  # seconds of processor time at the least; a mutant may never end. Without sanitizers
# some tests do all that they only sample with them, and take longer than the table says


def places_of(path):
    """(line, column, old, new) of all that can be changed in code."""
    found, in_comment = [], False
    for number, line in enumerate(open(path).read().split("\n")):
        code = line
        if in_comment or code.lstrip().startswith(("/*", "*", "//", "#")):
            in_comment = "*/" not in code if (in_comment or "/*" in code) else False
            continue
        code = code.split("//")[0].split("/*")[0]
        code = re.sub(r'"[^"]*"', lambda text: " " * len(text[0]), code)
        if re.match(r"^(static |extern |const )?.*\bassert\b|^_Static_assert", code):
            continue
        for pattern, new in CHANGES:
            for match in re.finditer(pattern, code):
                found.append((number, match.start(), match[0], new))
        for match in NUMBER.finditer(code):
            value = int(match[1], 0)
            found.append((number, match.start(), match[1], str(value + 1)))
    return found


class Suite:
    def __init__(self, source, work, tests):
        self.tree, self.build = work + "/tree", work + "/build"
        if not os.path.exists(self.build + "/build.ninja"):
            subprocess.run(["git", "clone", "-q", source, self.tree], check=True)
            subprocess.run(["cmake", "-S", self.tree, "-B", self.build, "-G", "Ninja",
                            "-DCMAKE_BUILD_TYPE=Release", "-DCMAKE_C_FLAGS_RELEASE=-O1"],
                           check=True, stdout=subprocess.DEVNULL)
            subprocess.run(["cmake", "--build", self.build, "--", "--quiet"], check=True)
        listed = json.loads(subprocess.run(
            ["ctest", "--test-dir", self.build, "--show-only=json-v1"], capture_output=True,
            text=True, check=True).stdout)
        self.tests, self.kills = [], collections.Counter()
        for test in listed["tests"]:
            properties = {one["name"]: one["value"] for one in test.get("properties", ())}
            words = test.get("command", [])
            if words and words[0].endswith("/limit"):
                words = words[2:]
            program = words[0].replace("/build/release/", "/build/") if words else ""
            # the other build's tests are here, too, under the same names
            own = self.build + "/tests/" + os.path.basename(program)
            if not os.path.exists(own) or not re.search(tests, test["name"]):
                continue
            environment = dict(one.split("=", 1) for one in properties.get("ENVIRONMENT", ()))
            self.tests.append({"name": test["name"], "command": [own, *words[1:]],
                               "environment": environment,
                               "folder": properties.get("WORKING_DIRECTORY", self.build + "/tests"),
                               "program": "tests/" + os.path.basename(own),
                               "seconds": properties.get("COST", 0)})
        self.time_tests()

    def ran(self, test, seconds):
        limit = self.build + "/tests/limit"
        command = [limit, str(seconds), *test["command"]] if os.path.exists(limit) else \
            ["timeout", str(3 * seconds), *test["command"]]
        return subprocess.run(command, cwd=test["folder"], env=dict(os.environ, **test["environment"]),
                              stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
                              stdin=subprocess.DEVNULL).returncode

    def time_tests(self):
        """Those whose seconds the table has are known to pass."""
        for test in list(self.tests):
            if test["seconds"]:
                continue
            begun = time.monotonic()
            if self.ran(test, 1200) != 0:
                print("  left out, it fails without a change: %s" % test["name"])
                self.tests.remove(test)
            test["seconds"] = time.monotonic() - begun
        self.tests.sort(key=lambda test: test["seconds"])
        print("  %d tests, %.0f s in all" % (len(self.tests),
                                            sum(test["seconds"] for test in self.tests)))
        sys.stdout.flush()

    def made(self, *targets):
        return subprocess.run(["cmake", "--build", self.build, "--target", *targets, "--",
                               "--quiet"], stdout=subprocess.DEVNULL,
                              stderr=subprocess.DEVNULL).returncode == 0

    def killer(self, file):
        """The first test that fails, those first that have killed mutants of the same folder; None:
        no one notices."""
        folder = os.path.dirname(file)
        for test in sorted(self.tests, key=lambda one: -self.kills[folder, one["name"]]):
            if not self.made(test["program"]):
                return "does not link"
            if self.ran(test, LIMIT + 12 * int(test["seconds"])) != 0:
                self.kills[folder, test["name"]] += 1
                return test["name"]
        return None


def object_of(suite, path):
    library = "coldmint-capsule" if "/capsule/" in path else \
        "coldmint-link" if "/link/" in path else "coldmint"
    return "CMakeFiles/%s.dir/%s.o" % (library, path)


def digest(suite, name):
    path = suite.build + "/" + name
    if not os.path.exists(path):
        return None
    subprocess.run(["objcopy", "-O", "binary", "-j", ".text*", "-j", ".rodata*", path,
                    path + ".bin"], stderr=subprocess.DEVNULL)
    disassembled = subprocess.run(["objdump", "-drs", "--no-show-raw-insn", path],
                                  capture_output=True).stdout
    return hashlib.sha256(disassembled).hexdigest()


def tried(suite, mutant):
    """What kills it; False: it is none."""
    path = suite.tree + "/" + mutant["file"]
    text = open(path).read()
    lines = text.split("\n")
    line, column, old = lines[mutant["line"]], mutant["column"], mutant["old"]
    if line[column:column + len(old)] != old:
        return False
    lines[mutant["line"]] = line[:column] + mutant["new"] + line[column + len(old):]
    name = object_of(suite, mutant["file"])
    before = digest(suite, name)
    open(path, "w").write("\n".join(lines))
    try:
        if not suite.made(name) or digest(suite, name) == before:
            return False
        return suite.killer(mutant["file"])
    finally:
        open(path, "w").write(text)
        suite.made(name)


def all_mutants(tree, seed):
    files = subprocess.run(["find", "core", "-name", "*.c"], cwd=tree, capture_output=True,
                           text=True, check=True).stdout.split()
    mutants = [{"file": file, "line": line, "column": column, "old": old, "new": new}
               for file in sorted(files) if not APART.search(file)
               for line, column, old, new in places_of(tree + "/" + file)]
    random.Random(seed).shuffle(mutants)
    return mutants


def main():
    options = argparse.ArgumentParser()
    options.add_argument("source")
    options.add_argument("work")
    options.add_argument("count", type=int)
    options.add_argument("seed", type=int, nargs="?", default=1)
    options.add_argument("--tests", default="")
    options.add_argument("--again")
    options.add_argument("--lived", action="store_true")
    options = options.parse_args()
    source, work = os.path.abspath(options.source), os.path.abspath(options.work)
    os.makedirs(work, exist_ok=True)
    suite = Suite(source, work, options.tests)
    if options.again:
        mutants = [one for one in json.load(open(options.again))
                   if not options.lived or one["killer"] is None]
    else:
        mutants = all_mutants(suite.tree, options.seed)
    done = []
    for mutant in mutants:
        if len(done) == options.count:
            break
        killer = tried(suite, mutant)
        if killer is False:
            continue
        mutant["killer"] = killer
        done.append(mutant)
        json.dump(done, open(work + "/mutants.json", "w"), indent=1)
        if killer is None:
            print("  lived: %s:%d: '%s' to '%s'" % (mutant["file"], mutant["line"] + 1,
                                                   mutant["old"].strip(), mutant["new"].strip()))
            sys.stdout.flush()
    killed = sum(1 for mutant in done if mutant["killer"] is not None)
    print("  %d mutants, %d killed, %d lived" % (len(done), killed, len(done) - killed))
    return 0


sys.exit(main())
