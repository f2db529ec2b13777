"""Many edits of one project: what an edit costs, and what memory and database come to.

``python -m tests.growth 20000``: on a server of its own, each edit with a value never seen before. Exit status
1 where the last tenth of the edits cost a fifth more than the second one, memory grew by more than `MORE` after the
first half, or the database is larger than `LARGEST`.
"""

import os
import random
import statistics
import sys
import tempfile
import time
from pathlib import Path
from typing import NamedTuple

from .serving import Served

#: How much dearer (a share) edits may become, how much memory (MB) may grow in the second half, how large (MB) a file.
DEARER, MORE, LARGEST = 0.2, 40.0, 40.0

#: So often in each step it is measured how fast the machine is.
MEASURES = 20


class Look(NamedTuple):
    """After so many edits: processor time (ms) of one, as a multiple of a fixed piece of work too; memory and file."""

    edits: int
    cost: float
    ratio: float
    memory: float
    file: float


def processor(pid):
    """The processor time of a process, in s."""
    fields = Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()
    return (int(fields[11]) + int(fields[12])) / os.sysconf("SC_CLK_TCK")


def memory(pid):
    """What a process has of the memory, in MB."""
    return int(Path(f"/proc/{pid}/statm").read_text().split()[1]) * os.sysconf("SC_PAGE_SIZE") / 1e6


def yardstick():
    """A fixed piece of work: the machine is not always equally fast. Its processor time in s."""
    began = time.process_time()
    for _ in range(8):
        sorted({str(n * n % 7919): n for n in range(20000)}.items())
    return time.process_time() - began


def edited(served, slug, edits, looks):
    """So many edits of a project, looked at in so many equal steps; yields what each came to."""
    chance, pid = random.Random(slug), served.process.pid
    version = served.get(f"/api/projects/{slug}")["version"]
    each = max(1, edits // looks)
    for done in range(each, edits + 1, each):
        before, measures = processor(pid), [yardstick()]
        for number in range(each):
            if number % max(1, each // MEASURES) == 0:
                measures.append(yardstick())
            length = {"text": f"{chance.uniform(160, 400):.5f}"}
            command = {"do": "put name", "name": {"name": "tray_length", "size": length}}
            version = served.post(f"/api/projects/{slug}/edit", {"version": version, "command": command})["version"]
        cost = (processor(pid) - before) / each
        file = (served.data / "notch.sqlite3").stat().st_size / 1e6
        yield Look(done, cost * 1000, cost / statistics.median(measures), memory(pid), file)


def faults(looks):
    """What grew more than it may, as sentences."""
    found = []
    # The machine is faster or slower from hour to hour, and the fixed piece of work not as much as an edit:
    # what grows shows in both.
    dearer = min(looks[-1].ratio / looks[1].ratio, looks[-1].cost / looks[1].cost) - 1
    if dearer > DEARER:
        found.append(f"An edit costs {dearer:.0%} more than at first.")
    more = looks[-1].memory - looks[len(looks) // 2].memory
    if more > MORE:
        found.append(f"Memory grew by {more:.0f} MB in the second half.")
    if looks[-1].file > LARGEST:
        found.append(f"The database has {looks[-1].file:.1f} MB.")
    return found


def main(arguments):
    edits = int(arguments[0]) if arguments else 2000
    looks = []
    print(f"| edits | ms of a processor each | as a ratio | memory, MB | database, MB |\n|{' --- |' * 5}")
    with tempfile.TemporaryDirectory() as data:
        served = Served(Path(data))
        try:
            for look in edited(served, "sorting-tray", edits, 10):
                looks.append(look)
                cells = f"{look.cost:.0f} | {look.ratio:.2f} | {look.memory:.0f} | {look.file:.2f}"
                print(f"| {look.edits} | {cells} |", flush=True)
        finally:
            served.stop()
    found = faults(looks)
    print(*(found or ["Nothing grew more than it may."]), sep="\n")
    return bool(found)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
