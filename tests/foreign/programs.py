"""Programs in the dialects of shops: random ways, written by a writer of the tests' own in as many manners."""

from __future__ import annotations

import cmath
import math
import random
from collections.abc import Iterator
from functools import partial
from typing import NamedTuple

from leannotch_core.drawings.way_in import ReadDrawing, WayIn

from .verdict import Foreign, differs, total_length


class Manner(NamedTuple):
    """How a program is written: its unit and decimals, by steps or places, how arcs are said, and what stands round."""

    inches: bool
    digits: int
    by_steps: bool
    by_radius: bool
    centres_at: bool
    called: bool
    head: str


HEADS = (
    "%\nO1234 (PLATE)\nG17 G40 G49 G80 G90 G94\nG54\nM3 S800\n",
    "; a plate\nG90\nM4 S500\n",
    "\ufeffN10 G00 G17 G90 G40\nN20 T1 M6\nN30 S12000 M3\n",
    "/G28\nG21 G90 G64 P0.01\nG55 G43 H1\nM8\nM3 S200\n",
    "G90 G92 X0 Y0\nM106 S255\n",
)


def programs(number: int, chosen: random.Random) -> Iterator[Foreign]:
    """So many programs, each of a few closed runs of lines and arcs."""
    for at in range(number):
        inches = chosen.random() < 0.4
        manner = Manner(
            inches, chosen.choice([3, 4] if inches else [2, 3, 4]), chosen.random() < 0.3, chosen.random() < 0.3,
            chosen.random() < 0.2, chosen.random() < 0.2, chosen.choice(HEADS),
        )  # fmt: skip
        runs = [_run(chosen, 60.0 * i) for i in range(chosen.randint(1, 4))]
        text, length = _written(runs, manner, chosen)
        kind = f"program, {'in' if inches else 'mm'}{', by steps' if manner.by_steps else ''}"
        yield Foreign(kind, f"program_{at}.nc", text.encode(), partial(_judge, length))


Move = tuple[complex, complex | None, bool]


def _run(chosen: random.Random, across: float) -> list[Move]:
    """A closed run: to where, about which centre if it is an arc, and whether that runs against the clock."""
    count = chosen.randint(3, 8)
    corners = [
        complex(across, 0) + 30 + 30j + cmath.rect(chosen.uniform(8, 25), math.tau * i / count) for i in range(count)
    ]
    moves: list[Move] = [(corners[0], None, False)]
    for a, b in zip(corners, [*corners[1:], corners[0]], strict=True):
        if chosen.random() < 0.4:
            radius = abs(b - a) * chosen.uniform(0.6, 3)
            rise = math.sqrt(radius**2 - abs(b - a) ** 2 / 4)
            ccw = chosen.random() < 0.5
            centre = (a + b) / 2 + (b - a) / abs(b - a) * (1j if ccw else -1j) * rise
            moves.append((b, centre, ccw))
        else:
            moves.append((b, None, False))
    return moves


def _written(runs: list[list[Move]], manner: Manner, chosen: random.Random) -> tuple[str, float]:
    """The program, and how long (mm) it works along."""
    unit = 25.4 if manner.inches else 1.0

    def word(letter: str, value: float) -> str:
        return f"{letter}{value / unit:.{manner.digits}f}"

    main = [manner.head + ("G20" if manner.inches else "G21"), *(["G90.1"] if manner.centres_at else []), "F30"]
    calls, length = [], 0.0
    for number, run in enumerate(runs, 101):
        lines = [f"G0 G90 {word('X', run[0][0].real)} {word('Y', run[0][0].imag)}"]
        here = _rounded(run[0][0], manner, unit)
        for to, centre, ccw in run[1:]:
            there = _rounded(to, manner, unit)
            base = here if manner.by_steps else 0
            words = f"{word('X', (there - base).real)} {word('Y', (there - base).imag)}"
            mode = "G91 " if manner.by_steps else ""
            length += abs(there - here) if centre is None else _arc_length(here, there, centre, ccw)
            if centre is None:
                lines.append(f"{mode}G1 {words}")
            elif manner.by_radius:
                lines.append(f"{mode}G{3 if ccw else 2} {words} {word('R', abs(here - centre))}")
            else:
                about = centre - (0 if manner.centres_at else here)
                lines.append(f"{mode}G{3 if ccw else 2} {words} {word('I', about.real)} {word('J', about.imag)}")
            here = there
        if manner.called:
            main.append(f"M98 P{number}")
            calls += [f"O{number}", *lines, "M99"]
        else:
            main += [f"N{chosen.randint(1, 9)} {lines[0]}", *lines[1:]]
    return "\n".join([*main, "M5", "M30", *calls, "%"]), length


def _rounded(point: complex, manner: Manner, unit: float) -> complex:
    return complex(*(round(value / unit, manner.digits) * unit for value in (point.real, point.imag)))


def _arc_length(here: complex, there: complex, centre: complex, ccw: bool) -> float:
    turned = cmath.phase((there - centre) / (here - centre))
    turned = turned % math.tau if ccw else -turned % math.tau
    return abs(here - centre) * turned


def _judge(length: float, found: ReadDrawing, _: WayIn) -> Iterator[str]:
    yield from differs(total_length(found), length, "length of all that is worked")
