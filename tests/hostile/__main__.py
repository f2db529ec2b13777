"""``python -m tests.hostile [N] [--seed S]``: hostile files sent to every place of the server that takes one.

Half of them are those of `files`, half are sound ones that were spoiled. Counted is what each came to; measured are
the slowest answer, what the server's own process grew by meanwhile, and how long somebody else waited for a list. Exit
status 1 where anything was no sentence, took more than `SECONDS` or `MEGABYTES`, or kept others waiting for `OTHERS`.
"""

import argparse
import random
import sys
import tempfile
import threading
import time
from collections import Counter, defaultdict
from pathlib import Path

from ..serving import Served
from .files import FILES
from .places import PLACES, READS, Sender
from .spoilt import WAYS, sound

#: At most so long (s) for one answer, twice what the longest work on a file may take of a processor; so much more
#: memory (MB) in the server's process, and so long (s) for others.
SECONDS, MEGABYTES, OTHERS = 120, 100, 2


def tries(served, number, seed):
    """So many places, names and bytes; most are of a kind that the place reads."""
    chosen, sounds = random.Random(seed), sound(served)
    for at in range(number):
        place = list(PLACES)[at % len(PLACES)]
        reads = READS.get(place, ("",)) if chosen.random() < 0.8 else ("",)
        known, whole = ([name for name in names if name.endswith(reads)] for names in (FILES, sounds))
        if known and chosen.random() < 0.5:
            name = chosen.choice(known)
            yield place, name, FILES[name][0]
        else:
            name = chosen.choice(whole)
            yield place, name, chosen.choice(WAYS)(sounds[name], chosen)


def peak(pid, begin=False):
    """The most memory (MB) that a process has had since it was last begun to be looked at, as Linux counts it."""
    if begin:
        Path(f"/proc/{pid}/clear_refs").write_text("5")
    lines = Path(f"/proc/{pid}/status").read_text().splitlines()
    return next(int(line.split()[1]) / 1000 for line in lines if line.startswith("VmHWM"))


class Others:
    """Somebody else, who looks at the list of projects all the while."""

    def __init__(self, served):
        self._served, self.longest, self._over = served, 0.0, threading.Event()
        self._thread = threading.Thread(target=self._look, daemon=True)

    def __enter__(self):
        self._thread.start()
        return self

    def __exit__(self, *_):
        self._over.set()
        self._thread.join()

    def _look(self):
        while not self._over.wait(0.1):
            began = time.monotonic()
            self._served.get("/api/projects")
            self.longest = max(self.longest, time.monotonic() - began)


def tried(served, number, seed):
    """How often each place took, refused and failed; the slowest answer and largest growth of each; what failed."""
    counted, slowest, grown, worse = Counter(), defaultdict(float), defaultdict(float), []
    sender, pid = Sender(served), served.process.pid
    for place, name, data in tries(served, number, seed):
        before = peak(pid, begin=True)
        told = sender.send(place, name, data)
        slowest[place] = max(slowest[place], *told.waits)
        grown[place] = max(grown[place], peak(pid) - before)
        if max(told.waits) > SECONDS or peak(pid) - before > MEGABYTES:
            told.faults.append(f"took {max(told.waits):.1f} s and {peak(pid) - before:.0f} MB")
        counted[place, "failed" if told.faults else "taken" if told.taken else "refused"] += 1
        worse += [f"{place}, {name}: {fault}" for fault in told.faults]
    return counted, slowest, grown, worse


def faults_logged(data):
    """The traces of faults in the server's logs."""
    return sum(path.read_text().count("Traceback") for path in Path(data).glob("log/*.log"))


def table(counted, slowest, grown):
    rows = [["place", "taken", "refused", "failed", "slowest, s", "grown, MB"], ["---"] * 6]
    for place in PLACES:
        found = [str(counted[place, what]) for what in ("taken", "refused", "failed")]
        rows.append([place, *found, f"{slowest[place]:.1f}", f"{grown[place]:.0f}"])
    return "\n".join("| " + " | ".join(row) + " |" for row in rows)


def main(arguments):
    read = argparse.ArgumentParser(prog="python -m tests.hostile")
    read.add_argument("number", type=int, nargs="?", default=200)
    read.add_argument("--seed", type=int, default=0)
    chosen = read.parse_args(arguments)
    with tempfile.TemporaryDirectory() as data:
        served = Served(Path(data))
        try:
            with Others(served) as others:
                counted, slowest, grown, worse = tried(served, chosen.number, chosen.seed)
        finally:
            served.stop()
        logged = faults_logged(data)
    print(table(counted, slowest, grown))
    print(f"\nSomebody else waited {others.longest:.2f} s at the most; {logged} traces in the logs.")
    print("\n".join(worse))
    return 1 if worse or others.longest > OTHERS else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
