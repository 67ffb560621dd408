#!/usr/bin/env python3
"""
mutants.py SOURCE WORK COUNT [SEED]: do the tests notice a changed core?

Changes one operator or constant of core/ at a time, in a clone of SOURCE under WORK, builds it
without sanitizers and runs the tests that reach its line, from the shortest on, until one fails:
then the mutant is killed. Which lines a test reaches comes of a build with coverage, made first.
What no test notices is printed. A mutant that does not compile, or that makes the same object code
as before, is none, and another is taken.

    --tests REGEX    only these tests
    --go-on          behind those that WORK/mutants.json has already
    --again FILE     the mutants of an earlier run (its WORK/mutants.json); those that lived only with
                     --lived, so that another suite can be tried on the same ones

COLDMINT_SEED and COLDMINT_ALL reach the tests: what is sampled, and whether. WORK/mutants.json has
each mutant with what killed it.
"""
import argparse
import collections
import glob
import hashlib
import json
import os
import random
import re
import shutil
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
LIMIT = 20  # seconds of processor time at the least; a mutant may never end


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
    """The tests of a clone, and what each reaches."""

    def __init__(self, source, work, tests):
        self.work, self.tree, self.build = work, work + "/tree", work + "/build"
        if not os.path.exists(self.tree):
            subprocess.run(["git", "clone", "-q", source, self.tree], check=True)
            # counting makes warnings of its own
            for path in glob.glob(self.tree + "/**/CMakeLists.txt", recursive=True):
                text = open(path).read()
                open(path, "w").write(text.replace("-Werror", ""))
        self.configured(self.build, "")
        self.configured(work + "/covered", "--coverage")
        self.tests, self.kills = [], collections.Counter()
        for test in self.listed():
            self.add(test, tests)
        self.reached = self.read_reach()
        self.tests = [test for test in self.tests if test["name"] in self.reached]
        for test in self.tests:
            test["seconds"] = self.reached[test["name"]]["seconds"]
        self.tests.sort(key=lambda test: test["seconds"])
        print("  %d tests, %.0f s in all" % (len(self.tests),
                                            sum(test["seconds"] for test in self.tests)))
        sys.stdout.flush()

    def configured(self, build, flags):
        if os.path.exists(build + "/build.ninja"):
            return
        subprocess.run(["cmake", "-S", self.tree, "-B", build, "-G", "Ninja",
                        "-DCMAKE_BUILD_TYPE=Release", "-DCMAKE_C_FLAGS_RELEASE=-O1 " + flags],
                       check=True, stdout=subprocess.DEVNULL)
        subprocess.run(["cmake", "--build", build, "--", "--quiet"], check=True)

    def listed(self):
        return json.loads(subprocess.run(
            ["ctest", "--test-dir", self.build, "--show-only=json-v1"], capture_output=True,
            text=True, check=True).stdout)["tests"]

    def add(self, test, pattern):
        properties = {one["name"]: one["value"] for one in test.get("properties", ())}
        words = test.get("command", [])
        if words and words[0].endswith("/limit"):
            words = words[2:]
        # the other build's tests are here, too, under the same names
        program = "/tests/" + os.path.basename(words[0]) if words else ""
        if not program or not os.path.exists(self.build + program) or \
                not re.search(pattern, test["name"]):
            return
        environment = dict(one.split("=", 1) for one in properties.get("ENVIRONMENT", ()))
        self.tests.append({"name": test["name"], "words": words[1:], "environment": environment,
                           "program": program})

    def read_reach(self):
        """By test, its seconds and the lines of core/ that it runs; kept in WORK/reach.json."""
        path = self.work + "/reach.json"
        reach = json.load(open(path)) if os.path.exists(path) else {}
        for test in self.tests:
            if test["name"] in reach:
                continue
            begun = time.monotonic()
            folder = self.work + "/reach"
            shutil.rmtree(folder, ignore_errors=True)
            counted = dict(test, environment=dict(test["environment"], GCOV_PREFIX=folder))
            if self.ran(counted, 1200, self.work + "/covered") != 0:
                print("  left out, it fails without a change: %s" % test["name"])
                continue
            reach[test["name"]] = {"seconds": time.monotonic() - begun,
                                   "lines": lines_of(folder, self.tree)}
            json.dump(reach, open(path, "w"))
        return reach

    def reaches(self, test, file, line):
        """The statement that a line belongs to may begin some lines before it, and a compiler
        counts an `if` with what is around it: so the next counted line on either side tells. What no test
        runs as a statement (a table, an enum) is reached with its file."""
        lines = self.reached[test["name"]]["lines"].get(file, {})
        sides = (range(line + 1, max(line - 5, 0), -1), range(line + 1, line + 6))
        near = [next((lines[str(at)] for at in side if str(at) in lines), None) for side in sides]
        return any(near) or (near == [None, None] and any(lines.values()))

    def ran(self, test, seconds, build=None):
        build = build or self.build
        limit = build + "/tests/limit"
        command = [limit] if os.path.exists(limit) else ["timeout"]
        command += [str(seconds), build + test["program"], *test["words"]]
        return subprocess.run(command, cwd=build + "/tests",
                              env=dict(os.environ, **test["environment"]),
                              stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
                              stdin=subprocess.DEVNULL).returncode

    def made(self, *targets):
        return subprocess.run(["cmake", "--build", self.build, "--target", *targets, "--",
                               "--quiet"], stdout=subprocess.DEVNULL,
                              stderr=subprocess.DEVNULL).returncode == 0

    def killer(self, file, line):
        """The first test that fails, those first that have killed mutants of the same folder; None:
        no one notices."""
        folder = os.path.dirname(file)
        for test in sorted(self.tests, key=lambda one: -self.kills[folder, one["name"]]):
            if not self.reaches(test, file, line):
                continue
            if not self.made(test["program"][1:]):
                return "does not link"
            if self.ran(test, LIMIT + 8 * int(test["seconds"])) != 0:
                self.kills[folder, test["name"]] += 1
                return test["name"]
        return None


def lines_of(folder, tree):
    """The lines of core/ of what was counted there, each with how often."""
    lines = {}
    for path in glob.glob(folder + "/**/*.gcda", recursive=True):
        notes = path[len(folder):-len(".gcda")] + ".gcno"
        if "/core/" not in path:
            continue
        shutil.copy(notes, path[:-len(".gcda")] + ".gcno")
        told = subprocess.run(["gcov", "--json-format", "--stdout", path], cwd=folder,
                              capture_output=True, text=True).stdout
        told = json.loads(told) if told else {"files": (), "current_working_directory": ""}
        for file in told["files"]:
            name = os.path.join(told["current_working_directory"], file["file"])
            name = os.path.relpath(name, tree)
            if not name.startswith("core/"):
                continue
            counts = lines.setdefault(name, {})
            for line in file["lines"]:
                number = str(line["line_number"])
                counts[number] = counts.get(number, 0) + line["count"]
    return lines


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
        return suite.killer(mutant["file"], mutant["line"])
    finally:
        open(path, "w").write(text)
        suite.made(name)


def place_of(mutant):
    return mutant["file"], mutant["line"], mutant["column"], mutant["new"]


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
    options.add_argument("--go-on", action="store_true")
    options = options.parse_args()
    source, work = os.path.abspath(options.source), os.path.abspath(options.work)
    os.makedirs(work, exist_ok=True)
    suite = Suite(source, work, options.tests)
    if options.again:
        mutants = [one for one in json.load(open(options.again))
                   if not options.lived or one["killer"] is None]
    else:
        mutants = all_mutants(suite.tree, options.seed)
    done = json.load(open(work + "/mutants.json")) if options.go_on else []
    tried_before = {place_of(one) for one in done}
    for mutant in mutants:
        if len(done) == options.count:
            break
        if place_of(mutant) in tried_before:
            continue
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
