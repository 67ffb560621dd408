#!/usr/bin/env python3
"""
Hardware: simulated benches, through the tool as a process. A system call of a command that touches
a file of the user's fails; and the disk is full from a write on, to the end.

    failing_calls.py TOOL SOURCE [JOB ...]

One call of each kind in every other command, others each day: COLDMINT_SEED, or the day, is the
seed. With COLDMINT_FAILURES=all, every one.

Whatever fails: the tool ends with one of its codes, in words, and no sanitizer finds anything. What
ended good is right. What the chip held before is still in it, or whole in a backup. The same
command once more ends good, and leaves nothing unfinished behind.
"""
import os
import random
import re
import shutil
import subprocess
import sys
import tempfile
import time

TOOL, SOURCE = os.path.abspath(sys.argv[1]), os.path.abspath(sys.argv[2])
DEMO = SOURCE + "/demo/"
NODE, STORE = "sim:node.yaml", "sim:store.yaml"

# What each call fails with.
FAILURES = {
    "openat": "EMFILE", "read": "EIO", "pread64": "EIO", "write": "ENOSPC", "pwrite64": "ENOSPC",
    "fsync": "EIO", "fdatasync": "EIO", "rename": "EACCES", "link": "EMLINK", "unlink": "EACCES",
    "fallocate": "ENOSPC", "ftruncate": "EIO", "mkdir": "ENOSPC", "flock": "ENOLCK",
    "getdents64": "EIO", "mmap": "ENOMEM",
}
FULL_DISK = ("write", "pwrite64")

# A command; the chip that it changes, or what else must end good behind it where it did.
JOBS = {
    "put": (["put", "--via", NODE, DEMO + "firmware/strike-node-1.5.hex"], NODE),
    "mint": (["mint", "--via", NODE, "--ledger", "line.ledger",
              DEMO + "recipes/numbered-node.yaml"], NODE),
    "sealed": (["mint", "--via", NODE, "--yes", DEMO + "capsules/strike-node.mint"], NODE),
    "tune": (["tune", "--via", NODE, "clock-divide=by-1"], NODE),
    "store": (["put", "--via", STORE, "--unprotect", "other.bin"], STORE),
    "guard": (["guard", "--via", STORE, "--lift"], STORE),
    "erase": (["erase", "--via", NODE], NODE),
    "undo": (["undo", "--via", NODE], NODE),
    "keep": (["keep", "--via", NODE, "--replace", "kept.mint"],
             ["match", "--via", NODE, "kept.mint"]),
    "convert": (["image", "convert", DEMO + "firmware/strike-node-1.4.elf", "-o", "new.hex",
                 "--replace"],
                ["image", "match", "new.hex", DEMO + "firmware/strike-node-1.4.hex"]),
    "pack": (["pack", DEMO + "recipes/strike-node.yaml", "new.mint", "--replace"],
             ["pack", "--show", "new.mint"]),
}
CODES = range(11)

SEED = os.environ.get("COLDMINT_SEED") or time.strftime("%Y%m%d", time.gmtime())
CHANCE = random.Random(SEED)


class Fault(Exception):
    pass


def run(folder, arguments, strace=()):
    environment = dict(os.environ, HOME=folder, XDG_STATE_HOME=folder + "/state",
                       XDG_CONFIG_HOME=folder + "/config",
                       ASAN_OPTIONS="detect_leaks=0")  # leaks are looked for by tracing, too
    return subprocess.run([*strace, TOOL, *arguments], cwd=folder, env=environment, timeout=1800,
                          stdin=subprocess.DEVNULL, capture_output=True, text=True,
                          errors="replace")


def want(folder, arguments, why):
    ran = run(folder, arguments)
    if ran.returncode != 0:
        raise Fault("%s: %s\n%s%s" % (why, " ".join(arguments), ran.stdout, ran.stderr))


def port_of(job):
    return JOBS[job][1] if isinstance(JOBS[job][1], str) else None


def prepare(job, folder):
    """The benches, and what the command finds; before.mint has what its chip holds, wanted.mint
    what it shall hold."""
    os.makedirs(folder)
    with open(folder + "/store.yaml", "w") as bench:
        bench.write("bench: a store\nchip:\n  part: w25q80\n  supply_mv: 3300\n"
                    "port:\n  measures_supply: true\n")
    with open(folder + "/first.bin", "wb") as image:
        image.write(bytes(i * 7 % 251 for i in range(6000)))
    with open(folder + "/other.bin", "wb") as image:
        image.write(bytes(i * 5 % 253 for i in range(6000)))
    want(folder, ["bench", "make", "node", "--chip", "attiny84a"], "a bench")
    want(folder, ["put", "--via", NODE, DEMO + "firmware/strike-node-1.4.hex"], "its contents")
    want(folder, ["put", "--via", STORE, "first.bin"], "its contents")
    want(folder, ["guard", "--via", STORE, "--set", "all"], "its protection")
    if job == "undo":
        want(folder, ["put", "--via", NODE, DEMO + "firmware/strike-node-1.5.hex"], "a change")
    else:
        shutil.rmtree(folder + "/state", ignore_errors=True)
    port = port_of(job)
    if not port:
        return
    want(folder, ["keep", "--via", port, "before.mint"], "what it holds")
    shutil.copytree(folder, folder + "-once")
    want(folder + "-once", JOBS[job][0], "not even without a failure")
    want(folder + "-once", ["keep", "--via", port, "wanted.mint"], "what it shall hold")
    shutil.move(folder + "-once/wanted.mint", folder)
    shutil.rmtree(folder + "-once")


def calls_of(folder, command):
    """(call, number of its kind, line) of all that touch the user's files."""
    trace = folder + ".calls"
    ran = run(folder, command, ["strace", "-f", "-y", "-qq", "-o", trace, "-e",
                                "trace=" + ",".join(FAILURES)])
    if ran.returncode != 0:
        raise Fault("not even without a failure: %s%s" % (ran.stdout, ran.stderr))
    counts, calls = {}, []
    for line in open(trace, errors="replace"):
        name = re.match(r"\d+ +(\w+)\(", line)
        if not name or name[1] not in FAILURES:
            continue
        counts[name[1]] = counts.get(name[1], 0) + 1
        if re.search(r'"%s|"(node|store|line|new|kept|other)\.|\(\d+<%s' % (folder, folder), line):
            calls.append((name[1], counts[name[1]], line.strip()[:200]))
    return calls if os.environ.get("COLDMINT_FAILURES") == "all" else some_of(calls)


def some_of(calls):
    """One of each kind: the first, the last, or one in between."""
    some = []
    for kind in FAILURES:
        own = [call for call in calls if call[0] == kind]
        if own:
            some.append(own[CHANCE.choice((0, -1, CHANCE.randrange(len(own))))])
    return some


def some_jobs():
    """Half of them each day."""
    if os.environ.get("COLDMINT_FAILURES") == "all":
        return list(JOBS)
    return list(JOBS)[int(SEED) % 2::2]


def is_kept(job, folder, reference):
    """Is what the chip held before in it, or whole in a backup?"""
    port = port_of(job)
    if not port or run(folder, ["match", "--via", port, "before.mint"]).returncode == 0:
        return True
    backups = folder + "/state/coldmint/backups"
    names = os.listdir(backups) if os.path.isdir(backups) else []
    return any(run(reference, ["match", "--via", port, backups + "/" + name]).returncode == 0
               for name in names if name.endswith(".mint"))


def left_over(folder):
    return [name for _, _, names in os.walk(folder) for name in names
            if ".new" in name or ".part" in name]


def try_failure(job, folder, reference, call, number, to_the_end):
    command, check = JOBS[job]
    if port_of(job):
        check = ["match", "--via", check, "wanted.mint"]
    shutil.rmtree(folder, ignore_errors=True)
    shutil.copytree(reference, folder)
    error = FAILURES[call]
    injection = "inject=%s:error=%s:when=%d%s" % (call, error, number, "+" if to_the_end else "")
    ran = run(folder, command, ["strace", "-f", "-qq", "-o", "/dev/null", "-e", "trace=" + call,
                                "-e", injection])
    said = ran.stdout + ran.stderr
    if ran.returncode not in CODES or "Sanitizer" in said or "runtime error" in said:
        raise Fault("it ends with %d\n%s" % (ran.returncode, said))
    if ran.returncode != 0 and not said and not to_the_end:
        raise Fault("it fails without a word")
    if ran.returncode == 0:
        want(folder, check, "it ended good, and is not")
    if not is_kept(job, folder, reference):
        raise Fault("what the chip held is lost\n" + said)
    again = run(folder, command)
    if again.returncode != 0 and not (job == "undo" and again.returncode == 10):
        raise Fault("once more it ends with %d\n%s%s\nafter\n%s" %
                    (again.returncode, again.stdout, again.stderr, said))
    if call != "unlink" and left_over(folder):
        raise Fault("left behind: %s\n%s" % (left_over(folder), said))
    return ran.returncode


def main():
    base = tempfile.mkdtemp(prefix="coldmint-failing-")
    faults = 0
    for job in sys.argv[3:] or some_jobs():
        reference, folder = "%s/%s-before" % (base, job), "%s/%s" % (base, job)
        prepare(job, reference)
        shutil.copytree(reference, folder)
        ends = {}
        for call, number, line in calls_of(folder, JOBS[job][0]):
            for to_the_end in (False, True) if call in FULL_DISK else (False,):
                try:
                    code = try_failure(job, folder, reference, call, number, to_the_end)
                    ends[code] = ends.get(code, 0) + 1
                except Fault as fault:
                    faults += 1
                    print("%s, %s number %d%s fails: %s\n  %s" % (
                        job, call, number, " and all behind it" if to_the_end else "", fault, line))
        print("  %-8s %3d failures: %s" % (job, sum(ends.values()), ", ".join(
            "%d ended with %d" % (count, code) for code, count in sorted(ends.items()))))
    shutil.rmtree(base)
    return 1 if faults else 0


sys.exit(main())
