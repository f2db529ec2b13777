"""``python -m tests.foreign [N] [--seed S] [--only KIND] [--seconds S]``: foreign files of every kind, judged.

The table is that of docs/promises.md. Exit status 1 where anything is silently wrong, or where something crashed.
"""

from __future__ import annotations

import argparse
import logging
import random
import sys
import time
from collections import Counter
from collections.abc import Iterable, Iterator

from .bodies import bodies
from .drawings import drawings
from .icons import icons
from .polygons import polygons
from .programs import programs
from .verdict import Foreign, Verdict, judged

#: How much of all is of each kind.
SHARES = {icons: 0.5, drawings: 0.15, polygons: 0.15, programs: 0.12, bodies: 0.08}

VERDICTS: tuple[Verdict, ...] = ("right", "told", "refused", "silently wrong", "crashed")


# What the oldest version of DXF leaves out is no news.
logging.getLogger("ezdxf").setLevel(logging.ERROR)


def files(number: int, seed: int) -> Iterator[Foreign]:
    """So many files of every kind."""
    for made, share in SHARES.items():
        yield from made(max(1, round(number * share)), random.Random(seed))


def judge(found: Iterable[Foreign], until: float = float("inf")) -> tuple[Counter[tuple[str, Verdict]], list[str]]:
    """How many of each kind came to which verdict, and all that is worse than told."""
    counted: Counter[tuple[str, Verdict]] = Counter()
    worse = []
    for file in found:
        if time.monotonic() > until:
            break
        verdict, why = judged(file)
        counted[file.kind, verdict] += 1
        if verdict in ("silently wrong", "crashed"):
            worse.append(f"{file.kind} {file.name}: {verdict}: {why}")
    return counted, worse


def table(counted: Counter[tuple[str, Verdict]]) -> str:
    kinds = list(dict.fromkeys(kind for kind, _ in counted))
    rows = [[kind, *(str(counted[kind, verdict]) for verdict in VERDICTS)] for kind in kinds]
    rows.append(["all", *(str(sum(counted[kind, verdict] for kind in kinds)) for verdict in VERDICTS)])
    return "\n".join("| " + " | ".join(row) + " |" for row in [["kind", *VERDICTS], ["---"] * 6, *rows])


def main(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="python -m tests.foreign", description=__doc__)
    parser.add_argument("number", type=int, nargs="?", default=1200)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--only", help="one kind of files")
    parser.add_argument("--seconds", type=float, default=float("inf"))
    asked = parser.parse_args(arguments)
    found = (file for file in files(asked.number, asked.seed) if asked.only in (None, file.kind))
    counted, worse = judge(found, time.monotonic() + asked.seconds)
    print(table(counted))
    print("\n".join(worse))
    return 1 if worse else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
