#!/usr/bin/env python3
"""
check.py BUILD SECONDS [PATH ...]: builds what a change touches, and runs the tests that it reaches.

Without paths: what differs from the last commit, new files too; if nothing does, the last commit.

What reaches what is read from the build itself: Ninja's edges (build.ninja), the headers that each
object was compiled with (ninja -t deps), and the sources that the linker really took into a program
(its debug information), since a program links only the members of an archive that it needs. A test
reaches whatever its command names or its program was built after: the tool, a processor's firmware.
A file that the build does not know is reached by the tests whose sources name it.

Tests are taken from the shortest on until the time is full, those whose own source has changed
first. What is left out is said.
"""
import json
import os
import re
import subprocess
import sys
import time

FORMATTED = (".c", ".h")
SPELLED = (".c", ".h", ".md", ".py", ".sh", ".txt", ".cmake")


def lines_of(*command, **options):
    return subprocess.run(command, capture_output=True, text=True, check=True,
                          **options).stdout.splitlines()


def changed_paths():
    paths = lines_of("git", "diff", "--name-only", "HEAD")
    paths += lines_of("git", "ls-files", "--others", "--exclude-standard")
    if not paths:
        print("== nothing differs from the last commit: what that has changed")
        paths = lines_of("git", "diff", "--name-only", "HEAD~1", "HEAD")
    return sorted(path for path in set(paths) if os.path.exists(path))


# --- the build's graph -----------------------------------------------------------------------


class Build:
    """Who is made from whom: absolute paths, and names of targets that are no files."""

    def __init__(self, folder):
        self.folder = os.path.abspath(folder)
        self.users = {}  # file -> what is made from it
        self.read_edges()
        self.read_headers()
        self.sources = {}  # program -> sources that are in it

    def path(self, name):
        return os.path.normpath(os.path.join(self.folder, name))

    def add(self, source, product):
        self.users.setdefault(source, set()).add(product)

    def read_edges(self):
        text = open(self.folder + "/build.ninja").read().replace("$\n", "")
        for line in text.splitlines():
            if not line.startswith("build "):
                continue
            outputs, inputs = re.split(r"(?<!\$): ", line[len("build "):], maxsplit=1)
            names = [name.replace("$ ", " ").replace("$:", ":")
                     for name in re.split(r"(?<!\$) +", inputs)[1:] if name.strip("|")]
            for output in re.split(r"(?<!\$) +", outputs):
                if output == "all" or "cmake_object_order_depends" in output:
                    continue  # everything is made after these
                for name in names:
                    if "cmake_object_order_depends" not in name:
                        self.add(self.path(name), self.path(output))

    def read_headers(self):
        product = None
        for line in lines_of("ninja", "-C", self.folder, "-t", "deps"):
            if line.startswith("    "):
                self.add(self.path(line.strip()), product)
            elif ":" in line:
                product = self.path(line.split(":")[0])

    def reach(self, path):
        found, todo = set(), [os.path.abspath(path)]
        while todo:
            for user in self.users.get(todo.pop(), ()):
                if user not in found:
                    found.add(user)
                    todo.append(user)
        return found

    def sources_in(self, program):
        """What the linker took; empty where the program is not built, or no debug information."""
        if program not in self.sources:
            ran = subprocess.run(["readelf", "--debug-dump=info", "--dwarf-depth=1", program],
                                 capture_output=True, text=True, errors="replace")
            names = re.findall(r"DW_AT_name\s*:.*?((?:/|\.\.)[^\s]*\.c)\s*$", ran.stdout, re.M)
            self.sources[program] = {self.path(name) for name in names}
        return self.sources[program]

    def really_reaches(self, path, program):
        """Was an object that is made from this file linked into the program?"""
        taken = self.sources_in(program)
        if not taken or program not in self.reach(path):
            return program in self.reach(path)
        objects = [user for user in self.reach(path) | {os.path.abspath(path)}
                   if user.endswith((".c", ".o"))]
        compiled = {source for source, users in self.users.items()
                    if source.endswith(".c") and any(user in objects for user in users)}
        own = {os.path.abspath(path)} | {user for user in objects if user.endswith(".c")}
        return bool(taken & (compiled | own)) or self.is_built_after(path, program)

    def is_built_after(self, path, program):
        """Is it made into another program, or a file, that this one needs when it runs?"""
        return any(program in self.users.get(user, ()) for user in self.reach(path)
                   if user != program and not user.endswith((".o", ".a")))


# --- tests -----------------------------------------------------------------------------------


def tests_of(build):
    listed = json.loads("\n".join(lines_of("ctest", "--test-dir", build.folder,
                                           "--show-only=json-v1")))
    tests = {}
    for test in listed["tests"]:
        properties = {one["name"]: one["value"] for one in test.get("properties", ())}
        tests[test["name"]] = {
            "files": [os.path.normpath(word) for word in test.get("command", ())
                      if word.startswith("/")],
            "setup": bool(properties.get("FIXTURES_SETUP")),
            "needs": properties.get("FIXTURES_REQUIRED", ()),
            "seconds": float(properties.get("COST", 1)),
        }
    return tests


def is_named(path, program, build):
    """Does a source of this program's own name the file?"""
    name = os.path.basename(path)
    for source in build.sources_in(program):
        if "/tests/" in source and os.path.exists(source) and \
                name in open(source, errors="replace").read():
            return True
    return False


def reaches(path, test, build):
    full, closure = os.path.abspath(path), build.reach(path)
    for file in test["files"]:
        if file == full:
            return True
        if file in closure and build.really_reaches(path, file):
            return True
        if not build.users.get(full) and file.startswith(build.folder) and \
                is_named(path, file, build):
            return True
        if not closure and file.endswith((".sh", ".py")) and \
                os.path.basename(path) in open(file, errors="replace").read():
            return True
    return False


def own_source(path, test, build):
    return any(os.path.basename(path) == "test_%s.c" % os.path.basename(file)[5:].replace("-", "_")
               for file in test["files"])


def choose(tests, paths, build, most_seconds):
    """Names to run, and names that are left out; fixtures are for ./run test."""
    reached = {name for name, test in tests.items() if not test["needs"] and not test["setup"] and
               any(reaches(path, test, build) for path in paths)}
    first = {name for name in reached if any(own_source(path, tests[name], build)
                                             for path in paths)}
    run, seconds = [], 0
    for name in sorted(reached, key=lambda name: (name not in first, tests[name]["seconds"])):
        if name not in first and seconds + tests[name]["seconds"] > most_seconds:
            break
        seconds += tests[name]["seconds"]
        run.append(name)
    return run, sorted(reached - set(run)), seconds


# --- all -------------------------------------------------------------------------------------


def look_at_text(paths):
    """Formatter and spell checker; what lint leaves alone is left alone here, too."""
    apart = re.compile(r"parts\.[ch]$|\.pb\.[ch]$|/ref10/")
    formatted = [path for path in paths if path.endswith(FORMATTED) and not apart.search(path)]
    spelled = [path for path in paths if path.endswith(SPELLED) and not apart.search(path)]
    good = True
    if formatted:
        good &= subprocess.run(["clang-format", "--dry-run", "--Werror", *formatted]).returncode == 0
    if spelled:
        good &= subprocess.run(["codespell", "--ignore-words-list=wel,mot,inout,busses",
                                *spelled]).returncode == 0
    return good


def build_all(build, programs):
    names = [os.path.relpath(program, build.folder) for program in programs]
    return subprocess.run(["cmake", "--build", build.folder, "--target", *names, "--",
                           "--quiet"]).returncode == 0


def main():
    begun = time.monotonic()
    folder, most, paths = sys.argv[1], float(sys.argv[2]), sys.argv[3:] or changed_paths()
    paths = [path for path in paths if os.path.isfile(path)]
    cores = os.cpu_count() or 1
    print("== changed: %s" % (", ".join(paths[:6]) + (" and %d more" % (len(paths) - 6)
                                                      if len(paths) > 6 else "") or "nothing"))
    good = look_at_text(paths)
    build = Build(folder)
    tests = tests_of(build)
    share = 0.6 * cores * most  # the rest is for building
    run, left_out, seconds = choose(tests, paths, build, share)
    programs = {file for name in run for file in tests[name]["files"]
                if file.startswith(build.folder + "/") and file in
                {product for users in build.users.values() for product in users}}
    known = [path for path in paths if build.users.get(os.path.abspath(path))]
    print("== building with sanitizers: %d programs" % len(programs))
    if known or programs:
        good = build_all(build, programs) and good
    if run and good:
        print("== %d tests, some %d s of processor time" % (len(run), seconds))
        pattern = "^(%s)$" % "|".join(re.escape(name) for name in run)
        good = subprocess.run(["ctest", "--test-dir", build.folder, "--output-on-failure", "-j",
                               str(cores), "-R", pattern, "--progress"]).returncode == 0
    elif not run:
        print("== no test reaches that")
    if left_out:
        print("== left out, ./run test runs them: %s" % ", ".join(
            "%s (%d s)" % (name, tests[name]["seconds"]) for name in left_out))
    print("== left out always: release, cross-builds, emulators, fuzzing, cppcheck, doxygen")
    print("== %s, %.0f s" % ("good" if good else "NOT good", time.monotonic() - begun))
    return 0 if good else 1


sys.exit(main())
