"""A workshop at once: makers who came in by name edit, look at the dry fit, lay out, prove and hand in.

``python -m tests.load 30 60``: thirty makers for a minute, on a server of its own that they come to from elsewhere;
``python -m tests.load 1,8,30 30`` grows, and ``python -m tests.load 30 60 kill`` ends every kind of process beside the
server meanwhile. Half-way all that is kept is copied, and that copy is brought back at the end. Exit status 1 where a
call failed (for longer than `SEEN` after a kill), an edit was lost, there or in the copy, or with up to `FEW` makers
95 of 100 edits took longer than `SLOW`.
"""

import json
import os
import random
import signal
import sqlite3
import statistics
import sys
import tempfile
import time
from collections import Counter, defaultdict
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from pathlib import Path
from typing import NamedTuple

from .serving import manage
from .strangers import Stranger, opened

#: So long (s) may 95 of 100 edits take at the most, with a few makers on two cores.
SLOW, FEW = 0.8, 8
#: So long (s) the end of a process may be seen.
SEEN = 2.0
#: How long (s) a maker thinks between two steps, and a hand that drags between two edits.
THINKS, DRAGS = (1.0, 5.0), 0.12
#: What is copied by each maker.
DESIGN = "sorting-tray"


class Refused(Exception):  # noqa: N818 - it is what it says
    """An answer that is none."""


def workshop(data, number):
    """A server that others reach with so many makers on its list, and a design for them to copy; it and their cards."""
    cards = []

    def readied(served):
        served.post_bytes(f"/api/projects/{DESIGN}/shared", b'{"shared": "copy"}', "PUT")
        cards.extend(served.post("/api/makers", {"names": [f"Maker {at + 1}" for at in range(number)]}))

    return opened(data, readied), cards


class Maker(Stranger):
    """Comes in, copies a design, works on it and thinks between two steps; waits are remembered by what was done."""

    def __init__(self, served, card):
        number = card["number"]
        super().__init__(served, f"127.0.{3 + number // 200}.{1 + number % 200}")
        self.name, self.chance = card["name"], random.Random(number)
        self.waits, self.failed = defaultdict(list), []
        self.length, self.version = "", 0
        assert self.says(card["word"], self.name) == 200
        self.slug = self.told("POST", f"projects/{DESIGN}/duplicate", {})["slug"]

    def told(self, method, path, body=None):
        """What a call of the API is answered; an edit of what was changed meanwhile is none."""
        status, said = self.call(method, f"/api/{path}", body)
        if status >= 400:
            raise Refused(status, said[:120])
        return json.loads(said)

    def work(self, until):
        acts = [self.edit] * 13 + [self.drag] * 3 + [self.open, self.look, self.look, self.nest, self.prove]
        time.sleep(self.chance.uniform(0, THINKS[1]))
        while time.monotonic() < until:
            self.timed(self.chance.choice([*acts, self.hand_in] if self.chance.random() < 0.2 else acts))
            time.sleep(self.chance.uniform(*THINKS))

    def timed(self, act):
        began = time.monotonic()
        try:
            if act.__name__ in ("edit", "drag"):
                act()
                # A page asks for the rest of what there is to say once the hand rests.
                act, began = self.notes, time.monotonic()
            act()
            self.waits[act.__name__].append(time.monotonic() - began)
        except (Refused, OSError) as no:
            self.failed.append((time.monotonic(), f"{act.__name__}: {no!r}"))

    def drag(self):
        for _ in range(self.chance.randint(3, 7)):
            self.edit()
            time.sleep(DRAGS)

    def edit(self):
        """A value that was never there before: nothing of it is remembered."""
        length = f"{self.chance.uniform(180, 320):.4f}"
        command = {"do": "put name", "name": {"name": "tray_length", "size": {"text": length}}}
        began = time.monotonic()
        while True:
            body = {"version": self.version or self._begun(), "command": command}
            status, said = self.call("POST", f"/api/projects/{self.slug}/edit", body)
            if status != 409:
                break
            # A layout that was found meanwhile is in it: looked at again, as a page does.
            self.version = json.loads(said)["current"]["version"]
        if status != 200:
            raise Refused(status, said[:120])
        self.waits["edit"].append(time.monotonic() - began)
        self.length, self.version = length, json.loads(said)["version"]

    def _begun(self):
        return self.told("GET", f"projects/{self.slug}")["version"]

    def notes(self):
        self.told("GET", f"projects/{self.slug}/findings")

    def open(self):
        assert self.call("GET", f"/projects/{self.slug}/parts")[0] == 200
        self.told("GET", f"projects/{self.slug}")

    def look(self):
        self.told("GET", f"projects/{self.slug}/dry-fit")

    def nest(self):
        self.told("POST", f"projects/{self.slug}/nest", {"seconds": 2})

    def prove(self):
        self.told("POST", f"projects/{self.slug}/prove", {"seconds": 1})

    def hand_in(self):
        self.told("POST", f"projects/{self.slug}/hand-in", self.order())

    def order(self):
        return {"sheets": [1], "owner": self.name, "key": f"{self.chance.getrandbits(64):x}"}

    def lost(self):
        """Whether the last edit that was acknowledged is not there."""
        names = self.told("GET", f"projects/{self.slug}")["document"]["names"]
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
    """Makers at the end of their work, the memory (MB) all the while, how long (s) the database was held, and when (s)
    which process was ended; what was acknowledged when all was copied, and how that came out."""

    makers: list
    memory: list
    holds: list
    kills: list
    copied: dict
    copy: object


#: The file that all is copied to, in the data folder.
COPY = "half-way.sqlite3"


def copied(served, makers):
    """Copies all that is kept; the versions of projects that were acknowledged before."""
    versions = {maker.slug: maker.version for maker in makers if maker.version}
    return versions, manage(served.data, "backup", served.data / COPY)


def brought_back(served, work):
    """Brings the copy back and serves it; the projects that are not there as they were acknowledged before it."""
    served.stop()
    restored = manage(served.data, "restore", served.data / COPY)
    assert (work.copy.returncode, restored.returncode) == (0, 0), work.copy.stderr + restored.stderr
    served.start()
    return [slug for slug, at in work.copied.items() if served.get(f"/api/projects/{slug}")["version"] < at]


def worked(served, cards, seconds, kill=False):
    """The makers of these cards for so many seconds."""
    with ThreadPoolExecutor(len(cards) + 2) as threads:
        makers = list(threads.map(lambda card: Maker(served, card), cards))
        until = time.monotonic() + seconds
        memory, kills = [megabytes(served.process.pid)], []
        held = threads.submit(holds, served.data / "notch.sqlite3", until)
        works = [threads.submit(maker.work, until) for maker in makers]
        copying = threads.submit(lambda: time.sleep(seconds / 2) or copied(served, makers))
        # Each as it is now: those that take a place meanwhile are others.
        wanted = sorted(served.beside().items()) if kill else []
        while time.monotonic() < until:
            time.sleep(min(5.0, seconds / (len(wanted) + 2)))
            memory.append(megabytes(served.process.pid))
            if wanted:
                kills.append(_ended(*wanted.pop(0)))
    for work in works:
        work.result()
    return Work(makers, memory, held.result(), kills, *copying.result())


def _ended(what, process):
    """Ends a process beside the server as a power cut would; when (s), and what it was."""
    os.kill(process, signal.SIGKILL)
    return time.monotonic(), what


def failures(work):
    """What failed, but for what was on its way to a process when that was ended, or shortly after."""
    return Counter(
        what
        for maker in work.makers
        for when, what in maker.failed
        if not any(0 <= when - killed < SEEN for killed, _ in work.kills)
    )


def waits_of(makers):
    waits = defaultdict(list)
    for maker in makers:
        for what, found in maker.waits.items():
            waits[what] += found
    return dict(sorted(waits.items()))


def share(found, part):
    return sorted(found)[min(len(found) - 1, int(len(found) * part))]


def table(waits):
    lines = ["| what | how often | half within, s | 95 of 100 within, s | slowest, s |", f"|{' --- |' * 5}"]
    for what, found in waits.items():
        numbers = statistics.median(found), share(found, 0.95), max(found)
        lines.append(f"| {what} | {len(found)} | " + " | ".join(f"{number:.3f}" for number in numbers) + " |")
    return "\n".join(lines)


def run(number, seconds, kill):
    """Prints what came of so many makers; whether it was good, and a row of the table of growth."""
    with tempfile.TemporaryDirectory() as data:
        served, cards = workshop(Path(data), number)
        try:
            work = worked(served, cards, seconds, kill)
            lost = [maker.slug for maker in work.makers if maker.lost()]
            lost_there = brought_back(served, work)
        finally:
            served.stop()
    waits, failed = waits_of(work.makers), failures(work)
    third = max(1, len(work.memory) // 3)
    first, last = (statistics.mean(some) for some in (work.memory[:third], work.memory[-third:]))
    print(table(waits))
    there = f"in the copy of {len(work.copied)}: {len(lost_there)}"
    print(f"Failed: {json.dumps(failed)}. Edits lost: {len(lost)}; {there}.")
    if work.kills:
        seen = sum(len(maker.failed) for maker in work.makers) - failed.total()
        print(f"Ended meanwhile: {', '.join(what for _, what in work.kills)}; {seen} calls were cut off.")
    print(f"Memory: {first:.0f} MB in the first third, {last:.0f} MB in the last.")
    long = share(work.holds, 0.95), max(work.holds)
    print(f"Who wants to write waits {long[0] * 1000:.0f} ms (95 of 100) and {long[1] * 1000:.0f} ms at the most.")
    edits = waits["edit"]
    half, most = statistics.median(edits), share(edits, 0.95)
    good = not (failed or lost or lost_there or (number <= FEW and most > SLOW))
    return good, f"| {number} | {len(edits) / seconds:.1f} | {half:.3f} | {most:.3f} | {last:.0f} |"


def main(arguments):
    numbers = [int(one) for one in arguments[0].split(",")] if arguments else [8]
    seconds = float(arguments[1]) if len(arguments) > 1 else 60.0
    told = [run(number, seconds, arguments[2:] == ["kill"]) for number in numbers]
    if len(numbers) > 1:
        print("| makers | edits a second | half within, s | 95 of 100 within, s | memory, MB |")
        print(f"|{' --- |' * 5}")
        print("\n".join(row for _, row in told))
    return int(not all(good for good, _ in told))


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
