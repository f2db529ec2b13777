"""``python -m tests.mutants ROOM... [--number N] [--seed S]``: faults in rooms of the core, and which of them live.

In a copy of the house; each fault is met by those tests beside its room that run its line, the quickest first. A line
that no test runs is a fault that lives. Exit status 1 where more than one in ten live.
"""

import argparse
import json
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections import defaultdict
from pathlib import Path
from typing import NamedTuple

from coverage import CoverageData

from ..projects import ROOT
from .faults import Fault, faults

#: Rooms whose tests stand under another name too.
BESIDE = {
    "device": ["device", "machining"],
    "drawings": ["drawings", "bends"],
    "handin": ["proof"],
    "joints": ["joints", "assembly"],
    "handover": ["handover", "proof", "machining"],
    "machining": ["machining", "proof"],
    "offered": ["joints"],
    "proof": ["proof", "machining"],
    "facts": ["facts", "document", "parts", "machining", "measured", "bends", "joints"],
}

#: At most one in so many faults may live.
MOST_LIVE = 10

#: A fault that makes a test turn for ever is noticed after so many times the tests' own time, and no sooner than (s).
PATIENCE, LEAST = 5, 60

#: What is compiled to machine code is not seen to run, and what tells of a place in memory is no rule.
LEFT_OUT = ("layout/innermost", "remembered.py", "progress.py")


class Place(NamedTuple):
    """A fault in a source, by its path from the core's root."""

    path: str
    fault: Fault

    def __str__(self):
        return f"{self.path}:{self.fault.line}  {self.fault.was}  ->  {self.fault.instead}"


#: The core is tried without its server.
NO_DJANGO = {"DJANGO_SETTINGS_MODULE": ""}


class House:
    """A copy of the house in which faults may be put."""

    def __init__(self, folder):
        self.root = Path(folder)
        for room in ("core", "server", "cli", "bench", "tests", "demo", "docs"):
            shutil.copytree(ROOT / room, self.root / room, ignore=shutil.ignore_patterns("__pycache__"))
        shutil.copy(ROOT / "pyproject.toml", self.root)
        self.core = self.root / "core" / "leannotch_core"

    def tested(self, wanted, seconds=None, coverage=None):
        """The exit status of tests, stopped at the first that fails; 1 too where they take too long."""
        own = {
            **os.environ,
            "PYTHONPATH": ":".join(str(self.root / part) for part in ("core", "server", "cli", "")),
            **NO_DJANGO,
            # A fault may be as long as what it stands for: what was compiled of one must not stand for the other.
            "PYTHONDONTWRITEBYTECODE": "1",
        }
        pytest = ["pytest", "-q", "-x", "-o", "addopts=", "-p", "no:cacheprovider", "-p", "no:django", "-p", "no:xdist"]
        how = ["-m", "coverage", "run", f"--rcfile={coverage}", "-m"] if coverage else ["-m"]
        try:
            ran = subprocess.run(
                [sys.executable, *how, *pytest, *wanted],
                cwd=self.root,
                env=own,
                capture_output=True,
                timeout=seconds,
                check=False,
            )
        except subprocess.TimeoutExpired:
            return 1
        # With a fault that cannot even be loaded no test is collected: that is noticed as well. Without one it is ours.
        if coverage and ran.returncode not in (0, 1):
            raise RuntimeError(f"The tests could not be run: {ran.stdout.decode()[-2000:]}")
        return ran.returncode


class Beside(NamedTuple):
    """Which tests run which line, by path and number, and how long (s) each test takes."""

    lines: dict[tuple[str, int], set[str]]
    seconds: dict[str, float]

    def of(self, place):
        """Those that run a fault, the quickest first.

        What is run when it is loaded, or in another process, is seen in no test: then all of them.
        """
        found = self.lines.get((place.path, place.fault.line), set()) - {AT_LOADING} or self.seconds.keys()
        return sorted(found & self.seconds.keys(), key=lambda test: self.seconds[test])


#: What coverage calls the time before the first test.
AT_LOADING = ""


def tests_of(room):
    return [f"tests/core/{one}" for one in BESIDE.get(room, [room])]


def beside(house, room):
    """Looks once which tests run which lines of a room."""
    settings = house.root / "coverage.ini"
    data = house.root / ".coverage"
    settings.write_text(f"[run]\ndata_file={data}\nsource={house.core / room}\ndynamic_context=none\n")
    plugin = house.root / "timed.py"
    plugin.write_text(PLUGIN)
    house.tested(["-p", "timed", "--maxfail=1000", *tests_of(room)], coverage=settings)
    lines = defaultdict(set)
    found = CoverageData(str(data))
    found.read()
    for path in found.measured_files():
        for line, tests in found.contexts_by_lineno(path).items():
            lines[str(Path(path).relative_to(house.core)), line] |= set(tests)
    return Beside(lines, json.loads((house.root / "seconds.json").read_text()))


#: Tells coverage which test runs, by the name that it is called by, and notes how long each takes.
PLUGIN = """
import json
import pathlib
import coverage
import pytest

seconds = {}

@pytest.hookimpl(hookwrapper=True)
def pytest_runtest_protocol(item):
    now = coverage.Coverage.current()
    if now:
        now.switch_context(item.nodeid)
    yield

failed = set()

def pytest_runtest_logreport(report):
    seconds[report.nodeid] = seconds.get(report.nodeid, 0.0) + report.duration
    if report.failed:
        failed.add(report.nodeid)

def pytest_sessionfinish():
    # What fails as it is, for one because it is slower while it is looked at, can tell nothing.
    sound = {test: took for test, took in seconds.items() if test not in failed}
    pathlib.Path("seconds.json").write_text(json.dumps(sound))
"""


def places(house, room):
    """Every fault of a room that could be put there, of which a line has only one in the end."""
    alone = house.core / f"{room}.py"
    for path in [alone] if alone.exists() else sorted((house.core / room).rglob("*.py")):
        name = str(path.relative_to(house.core))
        if not name.startswith(LEFT_OUT):
            yield from (Place(name, fault) for fault in faults(path.read_text()))


def chosen_of(found, number, seed):
    """So many of the faults, each in a line of its own."""
    chance = random.Random(seed)
    by_line = defaultdict(list)
    for place in found:
        by_line[place.path, place.fault.line].append(place)
    lines = sorted(by_line)
    return [chance.choice(by_line[line]) for line in chance.sample(lines, min(number, len(lines)))]


#: A fault is met by so many tests, the quickest of those that run its line.
MOST_TESTS = 60


def lives(house, known, place):
    """Whether no test notices a fault."""
    tests = known.of(place)[:MOST_TESTS]
    if not tests:
        return True
    path = house.core / place.path
    sound = path.read_text()
    path.write_text(place.fault.put_into(sound))
    try:
        seconds = sum(known.seconds[test] for test in tests)
        return house.tested(tests, max(LEAST, PATIENCE * seconds)) == 0
    finally:
        path.write_text(sound)


def main(arguments):
    read = argparse.ArgumentParser(prog="python -m tests.mutants")
    read.add_argument("rooms", nargs="+", metavar="ROOM")
    read.add_argument("--number", type=int, default=20)
    read.add_argument("--seed", type=int, default=0)
    chosen = read.parse_args(arguments)
    rows, living = [], []
    for room in chosen.rooms:
        with tempfile.TemporaryDirectory() as folder:
            house = House(folder)
            known = beside(house, room)
            tried = chosen_of(places(house, room), chosen.number, chosen.seed)
            left = [place for place in tried if lives(house, known, place)]
        rows.append((room, len(tried), len(left)))
        living += left
        print(f"| {room} | {len(tried)} | {len(left)} |", flush=True)
        print("\n".join(map(str, left)), flush=True)
    tried, left = (sum(row[at] for row in rows) for at in (1, 2))
    print(f"| all | {tried} | {left} |")
    return int(left * MOST_LIVE > tried)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
