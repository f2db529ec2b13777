"""Makers at once: reading, editing, looking at the dry fit, laying out and proving, and how long each waits.

``python -m tests.load 8 300``: eight makers for five minutes on a server of its own. Exit status 1 where a call failed,
an edit was lost, or 95 of 100 edits took longer than `SLOW`.
"""

import json
import random
import sqlite3
import statistics
import sys
import tempfile
import time
import urllib.error
from collections import Counter, defaultdict
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from pathlib import Path
from typing import NamedTuple

from .serving import Served

#: So long (s) may 95 of 100 edits take at the most, with eight makers on two cores.
SLOW = 0.8


class Maker:
    """Works on a project of its own, and thinks a little between two steps; waits are remembered by what was done."""

    def __init__(self, served, seed):
        self.served, self.chance = served, random.Random(seed)
        self.slug = served.post("/api/projects/sorting-tray/duplicate", {})["slug"]
        self.waits, self.failed = defaultdict(list), Counter()
        self.length, self.version = "", 0

    def work(self, until):
        acts = [self.edit] * 12 + [self.read] * 4 + [self.look] * 2 + [self.nest, self.prove]
        while time.monotonic() < until:
            act = self.chance.choice(acts)
            began = time.monotonic()
            try:
                act()
                self.waits[act.__name__].append(time.monotonic() - began)
                if act == self.edit:
                    # A page asks for the rest of what there is to say once the answer is there.
                    began = time.monotonic()
                    self.notes()
                    self.waits["notes"].append(time.monotonic() - began)
            except urllib.error.HTTPError as error:
                self.failed[f"{act.__name__}: {error.code} {error.read()[:80]!r}"] += 1
            time.sleep(self.chance.uniform(0.2, 1.0))

    def edit(self):
        """A value that was never there before: nothing of it is remembered."""
        length = f"{self.chance.uniform(180, 320):.4f}"
        name = {"name": "tray_length", "size": {"text": length}}
        told = None
        while told is None:
            body = {"version": self.version or self._begun(), "command": {"do": "put name", "name": name}}
            try:
                told = self.served.post(f"/api/projects/{self.slug}/edit", body)
            except urllib.error.HTTPError as error:
                if error.code != 409:
                    raise
                # A layout that was found meanwhile is in it: looked at again, as a page does.
                self.version = self._begun()
        self.length, self.version = length, told["version"]

    def _begun(self):
        return self.served.get(f"/api/projects/{self.slug}")["version"]

    def notes(self):
        self.served.get(f"/api/projects/{self.slug}/findings")

    def read(self):
        self.served.get(f"/api/projects/{self.slug}")

    def look(self):
        self.served.get(f"/api/projects/{self.slug}/dry-fit")

    def nest(self):
        self.served.post(f"/api/projects/{self.slug}/nest", {"seconds": 2})

    def prove(self):
        self.served.post(f"/api/projects/{self.slug}/prove", {"seconds": 1})

    def lost(self):
        """Whether the last edit that was acknowledged is not there."""
        names = self.served.get(f"/api/projects/{self.slug}")["document"]["names"]
        return bool(self.length) and not any(name["size"]["text"] == self.length for name in names)


def megabytes(pid):
    """The memory of a process and of all that it began, as Linux has it."""
    parents, sizes = {}, {}
    for path in Path("/proc").glob("[0-9]*"):
        try:
            parents[int(path.name)] = int((path / "stat").read_text().rpartition(")")[2].split()[1])
            sizes[int(path.name)] = int((path / "statm").read_text().split()[1]) * 4096 / 1e6
        except OSError:
            continue

    def below(one):
        return one == pid or (one in parents and below(parents[one]))

    return sum(size for one, size in sizes.items() if below(one))


def holds(path, until):
    """How long (s) somebody who wants to write had to wait, each of many times: so long the database was held."""
    found = []
    with closing(sqlite3.connect(path, timeout=60, isolation_level=None)) as file:
        # Asked without the pauses that grow: each try is one more look.
        file.execute("PRAGMA busy_timeout = 0")
        while time.monotonic() < until:
            began = time.monotonic()
            while not _written(file) and time.monotonic() < until:
                time.sleep(0.001)
            found.append(time.monotonic() - began)
            time.sleep(0.05)
    return found


def _written(file):
    """Whether a transaction could be begun now; it is ended at once."""
    try:
        file.execute("BEGIN IMMEDIATE")
    except sqlite3.OperationalError:
        return False
    file.execute("ROLLBACK")
    return True


class Work(NamedTuple):
    """Makers at the end of their work, the memory (MB) all the while, and how long (s) the database was held."""

    makers: list
    memory: list
    holds: list


def worked(served, number, seconds):
    """So many makers for so many seconds."""
    makers = [Maker(served, seed) for seed in range(number)]
    until = time.monotonic() + seconds
    memory = [megabytes(served.process.pid)]
    with ThreadPoolExecutor(number + 1) as threads:
        held = threads.submit(holds, served.data / "notch.sqlite3", until)
        works = [threads.submit(maker.work, until) for maker in makers]
        while time.monotonic() < until:
            time.sleep(min(5.0, seconds / 4))
            memory.append(megabytes(served.process.pid))
    for work in works:
        work.result()
    return Work(makers, memory, held.result())


def table(makers):
    waits = defaultdict(list)
    for maker in makers:
        for what, found in maker.waits.items():
            waits[what] += found
    lines = ["| what | how often | half within, s | 95 of 100 within, s | slowest, s |", f"|{' --- |' * 5}"]
    for what, found in sorted(waits.items()):
        numbers = statistics.median(found), share(found, 0.95), max(found)
        lines.append(f"| {what} | {len(found)} | " + " | ".join(f"{number:.3f}" for number in numbers) + " |")
    return waits, "\n".join(lines)


def share(found, part):
    return sorted(found)[min(len(found) - 1, int(len(found) * part))]


def main(arguments):
    number, seconds = (int(arguments[0]), float(arguments[1])) if len(arguments) > 1 else (8, 300.0)
    with tempfile.TemporaryDirectory() as data:
        served = Served(Path(data))
        try:
            makers, memory, held = worked(served, number, seconds)
            lost = [maker.slug for maker in makers if maker.lost()]
        finally:
            served.stop()
    waits, told = table(makers)
    failed = sum((maker.failed for maker in makers), Counter())
    third = max(1, len(memory) // 3)
    print(told)
    print(f"Failed: {json.dumps(failed)}. Edits lost: {len(lost)}.")
    first, last = (statistics.mean(some) for some in (memory[:third], memory[-third:]))
    print(f"Memory: {first:.0f} MB in the first third, {last:.0f} MB in the last.")
    long = share(held, 0.95), max(held)
    print(f"Who wants to write waits {long[0] * 1000:.0f} ms (95 of 100) and {long[1] * 1000:.0f} ms at the most.")
    return int(bool(failed or lost) or (number <= 8 and share(waits["edit"], 0.95) > SLOW))


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
