"""Programs spoiled line by line, as by a wrong word, a lost line, or another machine's habits."""

from __future__ import annotations

import random
import re
from collections.abc import Callable
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from leannotch_core.machining.ready import Prepared

_WORD = re.compile(r"([A-Z])(-?\d+\.?\d*)")


@dataclass
class Step:
    """A line that moves: its place in the program, where it leads from and to, and what it does."""

    at: int
    code: str
    start: tuple[float, float, float]
    end: tuple[float, float, float]
    on: bool
    s: float
    operation: str
    stage: str

    @property
    def length(self) -> float:
        return float(abs(complex(*self.end[:2]) - complex(*self.start[:2])))

    @property
    def works(self) -> bool:
        return self.code != "G0" and self.on and self.s > 0


class Program:
    """A program as its lines."""

    def __init__(self, data: bytes) -> None:
        self.lines = data.decode().split("\n")

    def data(self) -> bytes:
        return "\n".join(self.lines).encode()

    def steps(self) -> list[Step]:
        x = y = z = s = 0.0
        code, on, operation, stage, found = "G0", False, "", "", []
        for at, line in enumerate(self.lines):
            if line.startswith("("):
                operation = line[11:-1] if line.startswith("(operation ") else operation
                stage = line[1:-1] if ", " in line and not line.startswith("(operation") else stage
                continue
            words = dict(_WORD.findall(line))
            if line.startswith(("G20", "G21")):
                continue
            if words.get("M") in ("3", "4", "5"):
                on = words["M"] != "5"
            s = float(words.get("S", s))
            code = f"G{words['G']}" if words.get("G") in ("0", "1", "2", "3") else code
            if not {"X", "Y", "Z"} & words.keys():
                continue
            start = (x, y, z)
            x, y, z = (float(words.get(letter, here)) for letter, here in zip("XYZ", start, strict=True))
            found.append(Step(at, code, start, (x, y, z), on, s, operation, stage))
        return found

    def drop(self, *at: int) -> None:
        self.lines = [line for number, line in enumerate(self.lines) if number not in at]

    def word(self, at: int, letter: str, change: Callable[[float], float]) -> bool:
        """Changes the number behind a letter on a line; whether there was one."""
        found = re.search(rf"{letter}(-?\d+\.?\d*)", self.lines[at])
        if not found:
            return False
        value = f"{change(float(found[1])):.4f}".rstrip("0").rstrip(".")
        self.lines[at] = self.lines[at][: found.start()] + f"{letter}{value}" + self.lines[at][found.end() :]
        return True

    def where(self, pattern: str) -> list[int]:
        return [at for at, line in enumerate(self.lines) if re.search(pattern, line)]


Way = Callable[[Program, random.Random, Prepared], Any]


def _lines(pattern: str, do: Callable[[Program, int, random.Random], Any], all_: bool = False) -> Way:
    def spoil(program: Program, chance: random.Random, ready: Prepared) -> bool:
        some = [at for at in program.where(pattern) if not program.lines[at].startswith("(") or pattern[0] == "^"]
        if not some:
            return False
        for at in sorted(some if all_ else [chance.choice(some)], reverse=True):
            if do(program, at, chance) is False:
                return False
        return True

    return spoil


def _set(text: str) -> Callable[[Program, int, random.Random], Any]:
    def do(program: Program, at: int, _: random.Random) -> None:
        program.lines[at] = text

    return do


def _drop(program: Program, at: int, _: random.Random) -> None:
    program.drop(at)


def _switch(old: str, new: str) -> Callable[[Program, int, random.Random], Any]:
    def do(program: Program, at: int, _: random.Random) -> None:
        program.lines[at] = re.sub(old, new, program.lines[at])

    return do


def _times(letter: str, by: float) -> Callable[[Program, int, random.Random], Any]:
    return lambda program, at, _: program.word(at, letter, lambda value: value * by)


def _cuts(program: Program, least: float = 0.6, **more: Any) -> list[Step]:
    return [
        step
        for step in program.steps()
        if step.works and step.length > least and all(getattr(step, name) == value for name, value in more.items())
    ]


def _a_cut(do: Callable[[Program, Step, random.Random], Any], least: float = 0.6, **more: Any) -> Way:
    def spoil(program: Program, chance: random.Random, ready: Prepared) -> bool:
        some = _cuts(program, least, **more)
        return bool(some) and do(program, chance.choice(some), chance) is not False

    return spoil


def _shifted(program: Program, step: Step, chance: random.Random) -> bool:
    """One end lies elsewhere, square to the line."""
    (x0, y0), (x1, y1) = step.start[:2], step.end[:2]
    letter = "Y" if abs(x1 - x0) > abs(y1 - y0) else "X"
    far = chance.uniform(0.3, 1.5) * chance.choice([-1, 1])
    if program.word(step.at, letter, lambda value: value + far):
        return True
    here = y1 if letter == "Y" else x1
    program.lines[step.at] += f" {letter}{here + far:.4f}"
    return step.code == "G1"


def _chord(program: Program, chance: random.Random, ready: Prepared) -> bool:
    """An arc of the last pass that rises enough becomes straight: what an earlier pass leaves, a later one takes."""
    some = []
    deepest = min((step.end[2] for step in program.steps() if step.works), default=0.0)
    for step in program.steps():
        if step.code in ("G2", "G3") and step.works and step.end[2] < deepest + 0.01:
            words = dict(_WORD.findall(program.lines[step.at]))
            radius, half = abs(complex(float(words.get("I", 0)), float(words.get("J", 0)))), step.length / 2
            rise = radius - max(0.0, radius**2 - half**2) ** 0.5
            if rise > 0.12:
                some.append(step)
    if not some:
        return False
    step = chance.choice(some)
    # All passes along it: what one leaves another would take.
    same = [
        other.at
        for other in program.steps()
        if other.code == step.code and abs(complex(*other.end[:2]) - complex(*step.end[:2])) < 1e-3
    ]
    for at in same:
        program.lines[at] = re.sub(r" [IJ]-?\d+\.?\d*", "", re.sub(r"G[23]", "G1", program.lines[at]))
    return True


def _blocks(program: Program) -> list[tuple[int, int, str]]:
    """Jobs as stretches of lines, by the comments that begin them."""
    starts = program.where(r"^\(operation ")
    end = len(program.lines)
    while end and not program.lines[end - 1].startswith(("G0", "G1", "G2", "G3", "X", "Y")):
        end -= 1
    return [(a, b, program.lines[a + 1]) for a, b in pairwise([*starts, end]) if a + 1 < len(program.lines)]


def _outline_first(program: Program, chance: random.Random, ready: Prepared) -> bool:
    """The outline of a copy changes places with its inner cuts."""
    blocks = _blocks(program)
    for inner in blocks:
        for outer in blocks:
            name = inner[2].partition(", ")[2]
            if inner[2].startswith("(inner") and outer[2] == f"(outline, {name}" and inner[1] <= outer[0]:
                between = program.lines[inner[1] : outer[0]]
                program.lines[inner[0] : outer[1]] = [
                    *_with_place(program, outer),
                    *between,
                    *_with_place(program, inner),
                ]
                return True
    return False


def _with_place(program: Program, block: tuple[int, int, str]) -> list[str]:
    """The lines of a job, as they stand: they say where they go first."""
    lines = program.lines[block[0] : block[1]]
    first = next((step for step in program.steps() if block[0] <= step.at < block[1]), None)
    if first is None:
        return lines
    at = first.at - block[0]
    place = f"X{first.end[0]:g} Y{first.end[1]:g}"
    if first.code == "G0":
        rest = f" Z{first.end[2]:g}" if " Z" in lines[at] or lines[at].startswith("G0 Z") else ""
        lines[at] = f"G0 {place}{rest}"
    return lines


def _marks_last(program: Program, chance: random.Random, ready: Prepared) -> bool:
    blocks = _blocks(program)
    marks = [block for block in blocks if block[2].startswith(("(scoring", "(engraving", "(filled", "(pockets"))]
    if not marks or not any(block[2].startswith(("(inner", "(outline")) for block in blocks):
        return False
    mark = marks[0]
    name = mark[2].partition(", ")[2]
    if not any(block[2] == f"(outline, {name}" for block in blocks):
        return False
    lines = _with_place(program, mark)
    end = blocks[-1][1]
    off = [] if ready.machine.kind == "router" else ["M5"]
    program.lines[end:end] = [*off, *lines]
    program.drop(*range(mark[0], mark[1]))
    return True


def _burnt_twice(program: Program, chance: random.Random, ready: Prepared) -> bool:
    """A line is gone over once more: all between one switch of the beam and the next."""
    on = [at for at in program.where(r"^M3") if "M5" in program.lines[at + 1 :]]
    if not on:
        return False
    begin = chance.choice(on)
    end = program.lines.index("M5", begin)
    first = next((step for step in program.steps() if begin < step.at < end), None)
    if first is None or first.start[:2] == first.end[:2]:
        return False
    back = f"G0 X{first.start[0]:g} Y{first.start[1]:g}"
    program.lines[end + 1 : end + 1] = [back, *program.lines[begin : end + 1]]
    return True


def _stray(program: Program, chance: random.Random, ready: Prepared) -> bool:
    """A line across a part that nobody meant, begun where a cut ends."""
    some = [step for step in _cuts(program, 5.0) if step.code == "G1"]
    if not some:
        return False
    step = chance.choice(some)
    (x0, y0), (x1, y1) = step.start[:2], step.end[:2]
    x, y = (x0 + x1) / 2 - (y1 - y0) * 0.2, (y0 + y1) / 2 + (x1 - x0) * 0.2
    program.lines.insert(step.at + 1, f"G1 X{x:.3f} Y{y:.3f}")
    program.lines.insert(step.at + 2, f"G1 X{x1:.3f} Y{y1:.3f}")
    nxt = program.lines[step.at + 3]
    if not re.match(r"G\d", nxt):
        program.lines[step.at + 3] = nxt
    return True


_NO_END = _lines(r"^M2$", _drop)
_NO_UNIT = _lines(r"^G21", _switch("G21 ", ""))
_INCHES = _lines(r"^G21", _switch("G21", "G20"))
_SILENT = _lines(r"^\(Sizes in", _drop)

BEAM: dict[str, Way] = {
    "its end lost": _NO_END,
    "no unit": _NO_UNIT,
    "another unit": _INCHES,
    "who compensates not said": _SILENT,
    "the file broken off": lambda p, c, r: p.data()[: int(len(p.data()) * c.uniform(0.3, 0.9))],
    "a line lost": _a_cut(lambda p, step, _: p.drop(step.at)),
    "a line moved": _a_cut(_shifted, 1.5),
    "a line along which nothing was meant": _stray,
    "a speed halved": _lines(r"F\d", _times("F", 0.5)),
    "a speed doubled": _lines(r"F\d", _times("F", 2)),
    "all speeds at a tenth": _lines(r"F\d", _times("F", 0.1), all_=True),
    "a power halved": _lines(r"(M3|[XY]\S+) .*S[1-9]|M3 S[1-9]", _times("S", 0.5)),
    "all powers at nothing": _lines(r"S[1-9]", _times("S", 0), all_=True),
    "the beam left on": _lines(r"^M5$", _drop),
    "the beam switched the other way": _lines(r"^M3", _switch("M3", "M4"), all_=True),
    "a line gone over twice": _burnt_twice,
    "an arc cut as its chord": _chord,
    "an outline before its cut-outs": _outline_first,
    "marks after cuts": _marks_last,
    "the machine's own line lost": _lines(r"^M8$", _drop),
    "the machine's own last line lost": _lines(r"^M9$", _drop),
    "air switched off in the midst": lambda p, c, r: bool(
        p.lines.insert(c.choice([s.at for s in _cuts(p)]), "M7") is None if _cuts(p) else False
    ),
}


# A router's


def _a_feed(by: float) -> Way:
    """The feed of a way into the sheet."""

    def spoil(program: Program, chance: random.Random, ready: Prepared) -> bool:
        steps = program.steps()
        some = [s.at for s in steps if s.works and s.end[2] < ready.z_zero - 0.05 and "F" in program.lines[s.at]]
        return bool(some) and program.word(chance.choice(some), "F", lambda value: value * by)

    return spoil


def _heights(program: Program) -> list[float]:
    return sorted({step.end[2] for step in program.steps() if step.works and step.end[2] < -0.05}, reverse=True)


def _all_at_once(program: Program, chance: random.Random, ready: Prepared) -> bool:
    """Every upper pass of the cuts is made at the depth of the last."""
    heights = _heights(program)
    cuts = [step for step in program.steps() if step.works and step.operation == "cut"]
    if not cuts or not ready.plan.rack:
        return False
    deepest = min(step.end[2] for step in cuts)
    levels = sorted({round(s.end[2], 4) for s in cuts if s.end[2] == s.start[2] and s.length > 1 and s.end[2] < -0.05})
    tops = ready.plan.rack.tab_height - ready.thickness + ready.z_zero
    levels = [level for level in levels if abs(level - tops) > 1e-3 or not ready.plan.tabs]
    if len(levels) < 2 or len(heights) < 2:
        return False
    done = False
    for step in cuts:
        done |= program.word(step.at, "Z", lambda value: deepest if value < -0.05 + ready.z_zero * 0 else value)
    return done


def _pass_lost(program: Program, chance: random.Random, ready: Prepared) -> bool:
    """A pass at one height of one line is left out."""
    runs: list[list[Step]] = []
    for step in program.steps():
        if not (step.works and step.operation == "cut" and step.start[2] == step.end[2] < -0.05):
            continue
        if runs and runs[-1][-1].end == step.start:
            runs[-1].append(step)
        else:
            runs.append([step])
    last = min((run[0].end[2] for run in runs), default=0.0)
    upper = [run for run in runs if run[0].end[2] > last + 0.05 and sum(s.length for s in run) > 20]
    if not upper:
        return False
    run = chance.choice(upper)
    if ready.plan.tabs:
        return False
    program.drop(*(step.at for step in run if " Z" not in program.lines[step.at] and "F" not in program.lines[step.at]))
    return True


def _grown_hole(program: Program, chance: random.Random, ready: Prepared) -> bool:
    """A round hole is milled wider: both halves of its circle, in all passes."""
    circles: dict[tuple[float, float], list[int]] = {}
    for step in program.steps():
        words = dict(_WORD.findall(program.lines[step.at]))
        if step.code in ("G2", "G3") and step.works and step.operation == "cut":
            i, j = float(words.get("I", 0)), float(words.get("J", 0))
            middle = (round(step.start[0] + i, 2), round(step.start[1] + j, 2))
            circles.setdefault(middle, []).append(step.at)
    some = [(middle, at) for middle, at in circles.items() if len(at) >= 2]
    if not some:
        return False
    middle, lines = chance.choice(some)
    far = 0.3
    changed = False
    by_at = {step.at: step for step in program.steps()}
    for at in lines:
        step = by_at[at]
        spoke = complex(*step.end[:2]) - complex(*middle)
        if abs(abs(complex(*step.start[:2]) - complex(*middle)) - abs(spoke)) > 1e-3 or abs(spoke) < 0.05:
            return False
    for at in lines:
        step = by_at[at]
        start, end = (complex(*middle) + (complex(*one[:2]) - complex(*middle)) for one in (step.start, step.end))
        grow = [1 + far / abs(one - complex(*middle)) for one in (start, end)]
        a, b = (complex(*middle) + (one - complex(*middle)) * by for one, by in zip((start, end), grow, strict=True))
        rest = re.sub(r"G[23]|[XYIJ]-?\d+\.?\d*", "", program.lines[at]).strip()
        offset = complex(*middle) - a
        lead = f"G1 X{a.real:.4f} Y{a.imag:.4f}"
        arc = f"{step.code} X{b.real:.4f} Y{b.imag:.4f} I{offset.real:.4f} J{offset.imag:.4f} {rest}".strip()
        program.lines[at] = f"{lead}\n{arc}"
        changed = True
    program.lines = "\n".join(program.lines).split("\n")
    return changed


def _backwards(program: Program, chance: random.Random, ready: Prepared) -> bytes:
    """The whole sheet is mirrored about a line: every edge is cut the other way round, all of it elsewhere."""

    def turned(line: str) -> str:
        if line.startswith(("(", "G21")):
            return line
        mirrored = re.sub(r"([XI])(-?\d+\.?\d*)", lambda m: f"{m[1]}{-float(m[2]):g}", line)
        return {"G2": "G3", "G3": "G2"}.get(mirrored[:2], mirrored[:2]) + mirrored[2:]

    return "\n".join(turned(line) for line in program.lines).encode()


def _other_way_round(program: Program, chance: random.Random, ready: Prepared) -> bool:
    """One closed pass at the last height is followed the other way."""
    runs: list[list[Step]] = []
    for step in program.steps():
        flat = step.works and step.operation == "cut" and step.start[2] == step.end[2] < -0.05
        words = program.lines[step.at]
        if flat and " Z" not in words and runs and runs[-1][-1].end == step.start and runs[-1][-1].at == step.at - 1:
            runs[-1].append(step)
        elif flat:
            runs.append([step])
    some = [
        run
        for run in runs
        if len(run) > 2
        and abs(complex(*run[0].start[:2]) - complex(*run[-1].end[:2])) < 1e-3
        and sum(step.length for step in run) > 30
    ]
    if not some or ready.plan.tabs:
        return False
    for run in some:
        first, last = run[0].at, run[-1].at
        turned = []
        for step in reversed(run):
            words = dict(_WORD.findall(program.lines[step.at]))
            code = {"G2": "G3", "G3": "G2"}.get(step.code, step.code)
            offset = ""
            if step.code != "G1":
                centre = complex(*step.start[:2]) + complex(float(words.get("I", 0)), float(words.get("J", 0)))
                spoke = centre - complex(*step.end[:2])
                offset = f" I{spoke.real:.4f} J{spoke.imag:.4f}"
            turned.append(f"{code} X{step.start[0]:g} Y{step.start[1]:g}{offset}")
        feed = re.search(r"F\S+", "\n".join(program.lines[first : last + 1]))
        turned[0] += f" {feed[0]}" if feed else ""
        program.lines[first : last + 1] = turned
        assert len(turned) == last + 1 - first
    return True


def _deeper(by: float, which: str) -> Way:
    def spoil(program: Program, chance: random.Random, ready: Prepared) -> bool:
        some = [step for step in program.steps() if step.works and step.operation in which and step.end[2] < -0.05]
        if not some:
            return False
        deepest = min(step.end[2] for step in some)
        lines = [step.at for step in some if abs(step.end[2] - deepest) < 1e-6]
        done = False
        for at in lines:
            done |= program.word(at, "Z", lambda value: value + by if abs(value - deepest) < 1e-6 else value)
        return done

    return spoil


def _slope(program: Program, chance: random.Random, ready: Prepared) -> bool:
    """A level way at the bottom of a pocket ends deeper than it began."""
    some = [
        step
        for step in program.steps()
        if step.works and step.operation == "pocket" and step.start[2] == step.end[2] < -0.3 and step.length > 5
    ]
    if not some:
        return False
    step = min(some, key=lambda one: one.end[2])
    program.lines[step.at] += f" Z{step.end[2] - 0.4:.4f}"
    return True


def _lift_lost(program: Program, chance: random.Random, ready: Prepared) -> bool:
    """A lift between two cuts is lost: it travels through the sheet."""
    steps = program.steps()
    some = [
        b
        for a, b in pairwise(steps)
        if b.code == "G0" and b.start[2] < -0.5 < b.end[2] and a.works and b.start[:2] == b.end[:2]
    ]
    if not some:
        return False
    program.drop(chance.choice(some[:-1] or some).at)
    return True


def _change_lift_lost(program: Program, chance: random.Random, ready: Prepared) -> bool:
    """After a change of the cutter it travels where it was touched off: on the sheet."""
    changes = program.where(r"T\d+ M0|T\d+ M6")
    if not changes:
        return False
    at = next(k for k in range(changes[-1], len(program.lines)) if program.lines[k].startswith("G0 Z"))
    program.lines[at] = "G0 Z0"
    return True


def _tab_lost(program: Program, chance: random.Random, ready: Prepared) -> bool:
    """The cutter goes through where it should have been lifted."""
    if not ready.plan.tabs or not ready.plan.rack:
        return False
    top = ready.plan.rack.tab_height - ready.thickness + ready.z_zero
    lifts = [s for s in program.steps() if s.works and abs(s.end[2] - top) < 1e-3 and abs(s.start[2] - top) > 1e-3]
    if not lifts:
        return False
    for step in lifts:
        program.word(step.at, "Z", lambda value: step.start[2])  # noqa: B023 - used at once
    return True


ROUTER: dict[str, Way] = {
    "its end lost": _NO_END,
    "no unit": _NO_UNIT,
    "another unit": _INCHES,
    "who compensates not said": _SILENT,
    "the file broken off": lambda p, c, r: p.data()[: int(len(p.data()) * c.uniform(0.3, 0.9))],
    "where z 0 is not said": _lines(r"^\(z 0 is", _drop),
    "another z datum said": _lines(
        r"^\(z 0 is", _set("(z 0 is the spoilboard: touch every cutter off there, after each change too)")
    ),
    "a line of the last pass lost": _a_cut(lambda p, step, _: p.drop(step.at), 1.0, operation="cut"),
    "a pass lost": _pass_lost,
    "all passes in one": _all_at_once,
    "a line moved": _a_cut(_shifted, 3.0, operation="cut"),
    "a line along which nothing was meant": _stray,
    "a feed at a tenth": _a_feed(0.1),
    "a feed doubled": _a_feed(2),
    "the spindle half as fast": _lines(r"^M3 S", _times("S", 0.5), all_=True),
    "the spindle backwards": _lines(r"^M3", _switch("M3", "M4"), all_=True),
    "the spindle never on": _lines(r"^M3", _set("M5"), all_=True),
    "the spindle not waited for": _lines(r"^G4 P", _drop),
    "a lift lost": _lift_lost,
    "the lift after a change lost": _change_lift_lost,
    "an arc cut as its chord": _chord,
    "a hole wider by 0.6 mm": _grown_hole,
    "an outline before its cut-outs": _outline_first,
    "pockets after cuts": _marks_last,
    "edges cut the other way": _other_way_round,
    "cut 0.5 mm too shallow": _deeper(0.5, "cut"),
    "cut 4 mm too deep": _deeper(-4.0, "cut"),
    "a pocket 0.2 mm too deep": _deeper(-0.2, "pocket"),
    "a pocket 0.2 mm too shallow": _deeper(0.2, "pocket"),
    "a floor that slopes": _slope,
    "holding tabs cut through": _tab_lost,
    "mirrored": _backwards,
}
