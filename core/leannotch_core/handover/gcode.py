"""G-code written (RS274/NGC, NISTIR 6556): arcs are arcs, and what a machine wants otherwise its profile says."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence

from ..document.machine import Machine
from ..document.operations import STAGES
from ..document.sizes import shown
from ..document.statement import statement, z_statement
from ..document.sums import UNITS
from ..facts.cutters import CutterFacts
from ..geometry.chords import points
from ..geometry.segment import Arc, Point, Segment
from ..machining.plan import CannotPlan
from ..machining.program import Move
from ..machining.ready import Prepared
from ..machining.walk import WalkWay, walk_round

#: Shorter moves (mm) are not written: they are no more than numbers are rounded by.
SHORTEST = 0.0005
#: Short chords in place of an arc leave it by at most this (mm).
CHORDS = 0.002


def write_gcode(ready: Prepared, cutter: str = "") -> bytes:
    """The bytes of a sheet's program, from the machine's origin and back, in the unit of its machine.

    With a ``cutter`` it is the part of it that is done with that one. Raises `CannotPlan`.
    """
    machine, plan = ready.machine, ready.plan
    if machine.kind == "router":
        _check_routed(ready)
    routed = machine.kind == "router"
    head = [
        f"({_plain(plan.name)})",
        f"({_plain(ready.stock.name)}, {shown(ready.thickness)})",
        f"({_plain(machine.name)}, datum {machine.datum}, {len(plan.jobs)} jobs)",
        f"({statement(plan.kerf, plan.compensated, machine.unit)})",
        *([f"({z_statement(machine.z_datum)})"] if routed else []),
        *(f"(cutter T{number} {_plain(one.name)}, {shown(one.diameter)})" for number, one in _numbered(ready)),
        f"{_UNIT[machine.unit]} G90 G17 G94",
    ]
    body = _Body(machine, ready.z_zero)
    numbers = {one.id: number for number, one in _numbered(ready)}
    before: Move | None = None
    for move in ready.moves:
        if cutter and move.cutter != cutter:
            continue
        if move.cutter and (before is None or move.cutter != before.cutter):
            one = next(one for _, one in _numbered(ready) if one.id == move.cutter)
            # Its first move lifts it: to there before anything turns.
            body.change(numbers[move.cutter], one, _turns(ready.moves, move.cutter), move.z, is_first=before is None)
        if before is None or move.job != before.job:
            # Where a job begins just where the one before it ended, they are two all the same.
            body.between_jobs()
            job = plan.jobs[move.job]
            body.say(f"operation {move.operation}")
            body.say(f"{STAGES[job.key.stage].called}, {job.key.part} {job.key.copy_number}")
        body.move(move)
        before = move
    body.off()
    return _text(machine, head, body.lines)


#: Words for the unit of a program.
_UNIT = {"mm": "G21", "in": "G20"}


def _check_routed(ready: Prepared) -> None:
    if ready.plan.rack is None:
        raise CannotPlan(f"No cutter is chosen for {ready.machine.name}; choose one of the rack at Prepare.")
    if not ready.plan.compensated:
        raise CannotPlan(
            "A router's program has the cutter's width in it. Let the file compensate for it at Hand over, "
            "or hand a DXF over."
        )


def _numbered(ready: Prepared) -> list[tuple[int, CutterFacts]]:
    """The cutters of a program by the numbers that they have in it: in the order of their use."""
    if ready.plan.rack is None:
        return []
    known = {one.id: one for one in ready.plan.rack.in_turn}
    used = dict.fromkeys(move.cutter for move in ready.moves if move.cutter)
    return list(enumerate((known[one] for one in used), 1))


def cutters_of(ready: Prepared) -> list[CutterFacts]:
    """The cutters that a sheet's program uses, in order."""
    return [one for _, one in _numbered(ready)]


def _turns(moves: Sequence[Move], cutter: str) -> float:
    return next((move.power for move in moves if move.cutter == cutter and move.power), 0.0)


def write_walk(ready: Prepared, how: WalkWay) -> bytes:
    """The bytes of a program that goes round what is cut on a sheet, by its box or its hull, and cuts nothing."""
    body = _Body(ready.machine, ready.z_zero)
    worked = [move.segment for move in ready.moves if move.power is not None]
    corners = walk_round(worked, how)
    for corner in [*corners, *corners[:1], 0]:
        body.go(corner, ready.parked.height if ready.parked else 0.0)
    head = [f"({_plain(ready.plan.name)}: walk-round by its {how})", f"{_UNIT[ready.machine.unit]} G90 G17 G94"]
    return _text(ready.machine, head, body.lines)


def write_moves(machine: Machine, moves: Sequence[Move], cutter: CutterFacts, title: str) -> bytes:
    """The bytes of a program of moves that belong to no sheet, with one cutter."""
    body = _Body(machine)
    body.change(1, cutter, _turns(moves, cutter.id), moves[0].z if moves else 0.0, is_first=True)
    for move in moves:
        body.move(move)
    body.off()
    about = f"cutter T1 {_plain(cutter.name)}, {shown(cutter.diameter)}"
    head = [f"({_plain(title)})", f"({z_statement('the spoilboard')})", f"({about})"]
    return _text(machine, [*head, f"{_UNIT[machine.unit]} G90 G17 G94"], body.lines)


def _text(machine: Machine, head: Iterable[str], body: Iterable[str]) -> bytes:
    lines = [*head, *machine.begins, *body, *machine.ends, "M2"]
    if machine.line_numbers:
        lines = [f"N{at} {line}" if not line.startswith("(") else line for at, line in enumerate(lines, 1)]
    return "\n".join([*lines, ""]).encode()


def _plain(text: str) -> str:
    """A text that can stand in a comment: brackets would end it."""
    return text.replace("(", "[").replace(")", "]").replace("\n", " ")[:200]


class _Body:
    """Writes moves, each number only where it changes. Heights are over the face of the sheet, which lies ``z_zero``
    mm above the machine's own z 0.
    """

    def __init__(self, machine: Machine, z_zero: float = 0.0) -> None:
        self.lines: list[str] = []
        self._machine, self._z_zero = machine, z_zero
        self._spindle = machine.kind == "router"
        self._on = False
        self._feed = self._s = ""
        # Where it stands is not known: what comes first says all of it.
        self._x = self._y = self._z = ""
        self._at: Point | None = None

    def say(self, comment: str) -> None:
        self.lines.append(f"({_plain(comment)})")

    def off(self) -> None:
        if self._on:
            self.lines.append(self._machine.switches_off)
        self._on = False

    def between_jobs(self) -> None:
        """A beam is off between two jobs; a spindle goes on turning."""
        if not self._spindle:
            self.off()

    def change(self, number: int, cutter: CutterFacts, turns: float, lifted: float, is_first: bool) -> None:
        """Another cutter; the first is in already. It is lifted, then its spindle comes up to speed, then it travels.

        Whoever puts a cutter in touches it off, and leaves it standing on the sheet.
        """
        self.off()
        if not is_first:
            self.say(f"put in cutter T{number}: {cutter.name}, {shown(cutter.diameter)}")
            self.say(f"zero z again with it, on {self._machine.z_datum}")
            # A machine without a changer lets the number pass; who reads the program knows by it which one is in.
            self.lines.append(f"T{number} M6" if self._machine.changes == "M6" else f"T{number} M0")
        elif self._machine.changes == "M6":
            self.lines.append(f"T{number} M6")
        self._x = self._y = ""
        self._z = self._height(lifted)
        self.lines.append(f"G0 Z{self._z}")
        self._switch_on(_plain_number(turns, 1))
        if self._machine.spins_up:
            self.lines.append(f"G4 P{_plain_number(self._machine.spins_up, 2)}")

    def _switch_on(self, s: str) -> None:
        self.lines.append(f"{self._machine.switches_on} S{s}")
        self._on, self._s = True, s

    def go(self, there: Point, z: float = 0.0) -> None:
        """There as fast as it moves, with nothing on; a cutter is lifted first."""
        self.off()
        if self._spindle and not self._z:
            self._z = self._height(z)
            self.lines.append(f"G0 Z{self._z}")
        self.lines.append(" ".join(["G0", *self._there(there, z)]))
        self._at = there

    def move(self, move: Move) -> None:
        if move.rapid and not self._spindle:
            self.go(move.segment.end)
        elif move.rapid:
            self._over(move)
        elif not self._is_none(move):
            self._along(move)
            self._at = move.segment.end

    def _over(self, move: Move) -> None:
        """Straight up or down, or over everything: never both at once, however high it was left before."""
        higher = self._height(move.z) != self._z
        if not self._x and higher:
            self.lines.append(" ".join(["G0", *self._there(move.segment.start, move.from_z)]))
        if move.segment.length or higher:
            self.lines.append(" ".join(["G0", *self._there(move.segment.end, move.z)]))
        self._at = move.segment.end

    def _is_none(self, move: Move) -> bool:
        """What is shorter than numbers are fine is no move: the next begins where the last one ended."""
        level = self._at is not None and self._height(move.z) == self._z
        short = move.segment.length < 1.0 and self._at is not None and abs(move.segment.end - self._at) < SHORTEST
        return level and short

    def _along(self, move: Move) -> None:
        # With the beam on for a run, it is its power that is changed on the way, and not the switch.
        s = _plain_number(self._power(move), 1)
        if not self._on:
            self._switch_on(s)
        for code, words in self._pieces(move):
            if s != self._s:
                words.append(f"S{s}")
                self._s = s
            feed = _plain_number(move.speed * 60 / UNITS[self._machine.unit], 1 if self._machine.unit == "mm" else 2)
            if feed != self._feed:
                words.append(f"F{feed}")
                self._feed = feed
            self.lines.append(" ".join([code, *words]))

    def _pieces(self, move: Move) -> Iterator[tuple[str, list[str]]]:
        segment = move.segment
        if isinstance(segment, Arc) and self._machine.arcs == "I and J":
            words = self._there(segment.end, move.z)
            centre = segment.centre - segment.start
            words += [f"I{self.number(centre.real)}", f"J{self.number(centre.imag)}"]
            yield "G3" if segment.ccw else "G2", words
            return
        for point, z in _chords(segment, move.from_z, move.z):
            yield "G1", self._there(point, z)

    def _power(self, move: Move) -> float:
        if move.power is None:
            return 0.0
        return move.power if self._spindle else self._machine.most * move.power / 100

    def _there(self, point: Point, z: float = 0.0) -> list[str]:
        height = self._height(z)
        x, y = self.number(point.real), self.number(point.imag)
        if self._x and self._at is not None and abs(point - self._at) < SHORTEST:
            # Straight up or down: rounding moves it nowhere.
            x, y = self._x, self._y
        words = [f"X{x}"] * (x != self._x) + [f"Y{y}"] * (y != self._y)
        words += [f"Z{height}"] * (self._spindle and height != self._z)
        self._x, self._y, self._z = x, y, height
        return words or [f"X{x}"]

    def _height(self, z: float) -> str:
        return self.number(z + self._z_zero)

    def number(self, mm: float) -> str:
        return _plain_number(mm / UNITS[self._machine.unit], self._machine.decimals)


def _chords(segment: Segment, from_z: float, z: float) -> Iterator[tuple[Point, float]]:
    """Where chords in place of a segment end, with their heights."""
    if not isinstance(segment, Arc):
        yield segment.end, z
        return
    stops = [*points(segment, CHORDS)[1:], segment.end]
    for at, stop in enumerate(stops, 1):
        yield stop, from_z + (z - from_z) * at / len(stops)


def _plain_number(value: float, decimals: int) -> str:
    if not math.isfinite(value):
        raise CannotPlan("A number of the program is none that can be written.")
    text = f"{value:.{decimals}f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text
