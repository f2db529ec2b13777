"""Spoils files of every kind in every way that is known here, and counts which of them pass the proof as right.

``python -m tests.sabotage 3000`` for many, with a table by kind and format; ``--right 500`` for correct files, with
random kerfs, cutters, holding tabs and sheets, of which none may be refused.
"""

from __future__ import annotations

import argparse
import random
import sys
import time
from collections import Counter, defaultdict
from collections.abc import Callable, Iterator
from functools import lru_cache
from typing import Any

from leannotch_core.document.stock import Heat, TypedKerf
from leannotch_core.evaluate import Result, evaluate
from leannotch_core.handover.proved import proved_anyhow, written
from leannotch_core.machining.plan import CannotPlan
from leannotch_core.machining.prepared import prepare
from leannotch_core.machining.ready import Prepared
from leannotch_core.project.project import Project

from tests.shipped import laid_out, on_laser, on_router, projects
from tests.spoiling.drawings import FILES, SPOILS
from tests.spoiling.programs import BEAM, ROUTER, Program

#: Faults of a whole file have no place on the sheet.
WITHOUT_PLACE = {
    "unit",
    "kerf-statement",
    "no-end",
    "no-cuts",
    "unreadable",
    "own-lines",
    "line-count",
    "lost",
    "z-datum",
    "switches",
    "alarm",
    "passes",
}

Case = tuple[str, Project, Result, Prepared, str]


@lru_cache(maxsize=64)
def _ready(name: str, machine: str, sheet: int, more: str = "") -> tuple[Project, Result, Prepared]:
    project = prepared_project(name, machine, more)
    result = evaluate(project)
    return project, result, prepare(project, result, sheet)


@lru_cache(maxsize=64)
def prepared_project(name: str, machine: str, more: str) -> Project:
    project = projects()[name]
    if machine == "laser":
        profile = {"begins": ["M8"], "ends": ["M9"], "bed_width": "2600", "bed_height": "2600"}
        on = on_laser(project)
        on = on.model_copy(update={"machines": [on.machines[0].model_copy(update=_sizes(profile))]})
    else:
        on = on_router(project, more or "1.5875 upcut")
    return laid_out(on)


def _sizes(profile: dict[str, Any]) -> dict[str, Any]:
    from leannotch_core.document.sizes import Size

    return {key: Size(text=value) if key.startswith("bed") else value for key, value in profile.items()}


@lru_cache(maxsize=256)
def right_file(name: str, machine: str, sheet: int, kind: str) -> bytes | None:
    """The correct file of a sheet; nothing where it cannot be written, or would rightly be refused."""
    try:
        project, result, ready = _ready(name, machine, sheet)
        file = written(project, result, ready, kind, project.hand_over)
    except CannotPlan:
        return None
    return None if file.proof.faults else file.data


def cases(chance: random.Random, names: list[str] | None = None) -> Iterator[tuple[str, str, int, str]]:
    """Projects, machines, sheets and formats, by chance and without an end."""
    known = names or [name for name in projects() if name != "stake_tags"]
    while True:
        name = chance.choice(known)
        machine, kind = chance.choice(
            [("laser", "svg"), ("laser", "dxf"), ("laser", "pdf"), ("laser", "nc"), ("router", "nc"), ("router", "nc")]
        )
        try:
            sheets = len(prepared_project(name, machine, "").layout.sheets)
        except CannotPlan:
            continue
        if sheets:
            yield name, machine, chance.randrange(sheets), kind


class Count:
    """What was tried and found, by kind and format."""

    def __init__(self) -> None:
        self.tried: Counter[tuple[str, str]] = Counter()
        self.found: Counter[tuple[str, str]] = Counter()
        self.placed: Counter[tuple[str, str]] = Counter()
        self.missed: list[str] = []

    def take(self, what: str, where: str, faults: list[Any], called: str) -> None:
        key = what, where
        self.tried[key] += 1
        if not faults:
            self.missed.append(f"{called}: {what} in {where}")
            return
        self.found[key] += 1
        if any(fault.at is not None for fault in faults) or all(fault.code in WITHOUT_PLACE for fault in faults):
            self.placed[key] += 1
        else:
            self.missed.append(f"{called}: {what} in {where} has no place: {faults[0].text}")

    def table(self) -> str:
        kinds: dict[str, dict[str, tuple[int, int]]] = defaultdict(dict)
        formats = sorted({where for _, where in self.tried})
        for (what, where), tried in self.tried.items():
            kinds[what][where] = self.found[what, where], tried
        lines = [f"| spoiled by | {' | '.join(formats)} |", f"|---|{'---|' * len(formats)}"]
        for what in sorted(kinds):
            cells = [f"{kinds[what][w][0]} of {kinds[what][w][1]}" if w in kinds[what] else "" for w in formats]
            lines.append(f"| {what} | {' | '.join(cells)} |")
        total = f"{sum(self.found.values())} of {sum(self.tried.values())}"
        return "\n".join([*lines, "", f"Found {total}; located {sum(self.placed.values())}."])


def spoil(count: int, seed: int = 1, names: list[str] | None = None, seconds: float = 1e9) -> Count:
    """Spoils so many files and proves each."""
    chance, counted, until = random.Random(seed), Count(), time.monotonic() + seconds
    turn: dict[str, int] = Counter()
    for name, machine, sheet, kind in cases(chance, names):
        if sum(counted.tried.values()) >= count or time.monotonic() > until:
            return counted
        data = right_file(name, machine, sheet, kind)
        if data is None:
            continue
        where = kind if kind != "nc" else f"{machine} nc"
        project, result, ready = _ready(name, machine, sheet)
        # Every kind has its turn; those that a file has no place for are passed over.
        for _ in range(40):
            kinds = list(_spoils(kind, machine).items())
            what, way = kinds[turn[where] % len(kinds)]
            turn[where] += 1
            spoiled = _spoiled(kind, data, way, chance, ready)
            if spoiled is not None and spoiled != data:
                proof = proved_anyhow(project, result, ready, kind, [spoiled])
                counted.take(what, where, proof.faults, f"{name}, {machine}, sheet {sheet + 1}")
                break
    return counted


def _spoils(kind: str, machine: str) -> dict[str, Callable[..., Any]]:
    if kind != "nc":
        return SPOILS
    return BEAM if machine == "laser" else ROUTER


def _spoiled(kind: str, data: bytes, way: Callable[..., Any], chance: random.Random, ready: Prepared) -> bytes | None:
    """The file as it is after it was spoiled; nothing where it has nothing to be spoiled so."""
    file = FILES[kind](data) if kind != "nc" else Program(data)
    changed = way(file, chance, ready)
    if isinstance(changed, bytes):
        return changed
    return file.data() if changed else None


def right(count: int, seed: int = 1, seconds: float = 1e9) -> tuple[int, list[str]]:
    """Correct files with random kerfs, cutters, tabs and sheets: how many were tried, and those that were refused."""
    chance, tried, refused = random.Random(seed), 0, list[str]()
    until = time.monotonic() + seconds
    known = [name for name in projects() if name != "stake_tags"]
    while tried < count and time.monotonic() < until:
        name, machine = chance.choice(known), chance.choice(["laser", "router"])
        project = varied(projects()[name], machine, chance)
        result = evaluate(project)
        if result.errors or any(finding.code == "narrow-gap" for finding in result.findings):
            continue
        for sheet in range(len(project.layout.sheets)):
            kind = chance.choice(["svg", "dxf", "pdf", "nc"]) if machine == "laser" else "nc"
            try:
                ready = prepare(project, result, sheet)
            except CannotPlan:
                continue
            if any(finding.code in _CANNOT for finding in ready.findings) or ready.plan.lost:
                # What is told at Prepare as not to be cut so is refused rightly.
                continue
            try:
                proof = written(project, result, ready, kind, project.hand_over).proof
            except CannotPlan:
                continue
            tried += 1
            refused += [f"{name}, {machine}, {kind}, sheet {sheet + 1}: {fault.text}" for fault in proof.faults[:2]]
    return tried, refused


#: What is told of a sheet before it is cut, and refused rightly afterwards.
_CANNOT = {
    "leaves-bed",
    "crosses-keep-out",
    "too-narrow",
    "pocket-too-narrow",
    "no-room-between",
    "no-room-for-tabs",
    "too-deep",
    "tab-height",
    "pocket-through",
    "chip-load",
    "too-fast",
    "deep-step",
}


def _typed(width: float) -> TypedKerf:
    return TypedKerf.model_validate({"width": f"{width:.3f}"})


def varied(project: Project, machine: str, chance: random.Random) -> Project:
    """The project with a kerf, a cutter, holding tabs and a layout by chance."""
    width = chance.uniform(0.02, 0.4)
    kerf = {"kerf": _typed(width), "on": []}
    if machine == "laser" and chance.random() < 0.5:
        # Wider one way, and perhaps on a face.
        kerf |= {"up": _typed(width * chance.uniform(0.7, 1.4))}
        kerf |= {"below": _typed(width * chance.uniform(0.8, 1.3))} if chance.random() < 0.5 else {}
    side = chance.choice(["any", "left", "right", "bottom", "top"])
    heat = {"heat": Heat.model_validate({"lead": f"{chance.uniform(0, 3):.2f}", "side": side})}
    stocks = [stock.model_copy(update=kerf | heat) for stock in project.stocks]
    parts = [part.model_copy(update={"shows": chance.random() < 0.5}) for part in project.parts]
    changed = project.model_copy(update={"stocks": stocks, "parts": parts})
    if machine == "laser":
        big = _sizes({"bed_width": "3000", "bed_height": "3000"})
        changed = on_laser(changed)
        changed = changed.model_copy(update={"machines": [changed.machines[0].model_copy(update=big)]})
        tabs = {"how": chance.choice(["none", "by count"]), "count": chance.randint(2, 4), "width": "0.8"}
    else:
        cutter = chance.choice(["1.5875 upcut", "3.175 upcut"])
        ways: dict[str, list[Any]] = {
            "entry": ["ramp", "helix", "straight"],
            "direction": ["climb", "conventional"],
            "goes": ["one after the other", "pass by pass"],
            "clearing": ["offsets", "zigzag"],
            "finishing": ["0", "0.2"],
            "corners": ["round", "sharp"],
        }
        changed = on_router(changed, cutter, **{name: chance.choice(some) for name, some in ways.items()})
        datum = chance.choice(["the face of the sheet", "the spoilboard"])
        changed = changed.model_copy(update={"machines": [changed.machines[0].model_copy(update={"z_datum": datum})]})
        tabs = {
            "how": chance.choice(["none", "by count"]),
            "count": chance.randint(2, 4),
            "width": "3",
            "height": "0.6",
        }
    holding = changed.preparation.holding.model_validate({**changed.preparation.holding.model_dump(), **tabs})
    prepared: dict[str, Any] = {
        "holding": holding,
        "begun": chance.choice(["at corners", "away from corners"]),
        "cooling": chance.random() < 0.5,
    }
    changed = changed.model_copy(update={"preparation": changed.preparation.model_copy(update=prepared)})
    return laid_out(changed)


def main(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="python -m tests.sabotage", description=__doc__)
    parser.add_argument("count", type=int, nargs="?", default=200)
    parser.add_argument("--right", type=int, default=0)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--seconds", type=float, default=1e9, help="stop after so long")
    asked = parser.parse_args(arguments)
    counted = spoil(asked.count, asked.seed, seconds=asked.seconds)
    print(counted.table())
    for missed in counted.missed[:60]:
        print("missed:", missed)
    tried, refused = right(asked.right, asked.seed, asked.seconds) if asked.right else (0, [])
    if asked.right:
        print(f"Correct files: {tried} tried, {len(refused)} faults.")
        for one in refused[:60]:
            print("refused:", one)
    return 1 if counted.missed or refused else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
