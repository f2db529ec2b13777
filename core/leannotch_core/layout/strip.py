"""True-shape nesting of one strip by the spyrrow solver, in a process of its own.

The solver counts whole seconds, cannot be stopped, and panics on a part that does not fit; so the fit is
tested first, and the process is ended when its time or the maker's patience is over.
"""

from __future__ import annotations

import json
import os
import selectors
import subprocess
import sys
import threading
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import IO

from shapely import Polygon

from .fill import Item, Spot

#: Parts are given to the solver this much (mm) larger all round, with chords that stay outside the part.
GROWN = 0.02


def pack(
    items: Sequence[Item], height: float, gap: float, seconds: int, stop: Callable[[], bool], seed: int = 1
) -> Iterator[tuple[float, list[Spot]]]:
    """Better and better ``(length, spots)`` of a strip of ``height`` mm; ends when time is up or ``stop()``.

    The strip begins at (0, 0); items keep ``gap`` mm between each other.
    """
    # The solver keeps the gap to the edges of the strip too: it gets a strip that much larger, and the spots
    # are moved back.
    room = gap + 2 * GROWN
    request = {
        "height": height + 2 * room,
        "gap": gap,
        "seconds": max(1, seconds),
        "seed": seed,
        "items": [{"points": _hull_points(item), "turns": list(item.turns)} for item in items],
    }
    command = [sys.executable, "-m", "leannotch_core.layout.strip"]
    process = subprocess.Popen(
        command,
        stdin=subprocess.PIPE,
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
        cwd=Path(__file__).resolve().parents[2],
    )
    assert process.stdin and process.stdout
    try:
        process.stdin.write(json.dumps(request).encode())
        process.stdin.close()
        for line in _lines(process.stdout, stop):
            answer = json.loads(line)
            yield (
                answer["length"] - 2 * room,
                [Spot(items[i], x - room, y - room, turn) for i, x, y, turn in answer["spots"]],
            )
    except BrokenPipeError:
        return
    finally:
        process.kill()
        process.wait()


def _lines(stream: IO[bytes], stop: Callable[[], bool]) -> Iterator[bytes]:
    """Whole lines as they come, asking ``stop`` a few times a second meanwhile."""
    waiting = b""
    with selectors.DefaultSelector() as selector:
        selector.register(stream, selectors.EVENT_READ)
        while not stop():
            if not selector.select(timeout=0.2):
                continue
            fresh = os.read(stream.fileno(), 1 << 20)
            if not fresh:
                return
            *lines, waiting = (waiting + fresh).split(b"\n")
            yield from lines


def _hull_points(item: Item) -> list[tuple[float, float]]:
    grown = Polygon(item.shape.exterior).buffer(GROWN, join_style="mitre")
    return list(grown.exterior.simplify(GROWN / 2).coords)[:-1]


def _solve() -> None:
    """The other process: a request on standard input, one JSON line for each better answer."""
    import spyrrow

    request = json.load(sys.stdin)
    items = [
        spyrrow.Item(str(i), [tuple(p) for p in item["points"]], 1, item["turns"])
        for i, item in enumerate(request["items"])
    ]
    strip = spyrrow.StripPackingInstance("sheet", request["height"], items)
    config = spyrrow.StripPackingConfig(
        early_termination=True,
        min_items_separation=request["gap"],
        total_computation_time=request["seconds"],
        seed=request["seed"],
        num_workers=1,
    )
    queue = spyrrow.ProgressQueue()
    feasible = (spyrrow.ReportType.ExplFeas, spyrrow.ReportType.CmprFeas, spyrrow.ReportType.Final)
    done = threading.Event()

    def solve() -> None:
        strip.solve(config, queue)
        done.set()

    threading.Thread(target=solve, daemon=True).start()
    over = False
    while not over:
        over = done.wait(0.1)
        for kind, answer in queue.drain():
            if kind in feasible:
                spots = [(int(p.id), *p.translation, p.rotation) for p in answer.placed_items]
                print(json.dumps({"length": answer.width, "spots": spots}), flush=True)


if __name__ == "__main__":
    _solve()
