"""G-code written (RS274/NGC, NISTIR 6556): arcs are arcs, and what a machine wants otherwise its profile says."""

from __future__ import annotations

from ..document.machine import Machine
from ..document.sizes import shown
from ..document.statement import statement
from ..geometry.segment import Arc, Point
from ..machining.plan import CannotPlan
from ..machining.prepared import CALLED, Prepared
from ..machining.program import Move
from ..machining.walk import Round, walk_round


def write_gcode(ready: Prepared) -> bytes:
    """The bytes of a sheet's program, from the machine's origin and back, in mm and mm a minute.

    Raises `CannotPlan` for a router: its cutter would go down nowhere.
    """
    machine, plan = ready.machine, ready.plan
    if machine.kind == "router":
        raise CannotPlan(
            f"Programs for {machine.name} are not written yet: they need depths and cutters. Hand it a DXF over."
        )
    head = [
        f"({_plain(plan.name)})",
        f"({_plain(ready.stock)}, {shown(ready.thickness)})",
        f"({_plain(machine.name)}, datum {machine.datum}, {len(plan.jobs)} jobs)",
        f"({statement(plan.kerf, plan.compensated)})",
        "G21 G90 G17 G94",
    ]
    body = _Body(machine)
    for at, move in enumerate(ready.moves):
        if at == 0 or move.job != ready.moves[at - 1].job:
            # Where a job begins just where the one before it ended, they are two all the same.
            body.off()
            job = plan.jobs[move.job]
            body.say(f"operation {move.operation}")
            body.say(f"{CALLED[job.key.stage]}, {job.key.part} {job.key.copy_number}")
        body.move(move)
    body.off()
    return "\n".join([*head, *machine.begins, *body.lines, *machine.ends, "M2", ""]).encode()


def write_walk(ready: Prepared, how: Round) -> bytes:
    """The bytes of a program that goes round what is cut on a sheet, by its box or its hull, and cuts nothing."""
    body = _Body(ready.machine)
    worked = [move.segment for move in ready.moves if move.power is not None]
    corners = walk_round(worked, how)
    for corner in [*corners, *corners[:1], 0]:
        body.go(corner)
    head = [f"({_plain(ready.plan.name)}: walk-round by its {how})", "G21 G90 G17 G94"]
    return "\n".join([*head, *ready.machine.begins, *body.lines, *ready.machine.ends, "M2", ""]).encode()


def _plain(text: str) -> str:
    """A text that can stand in a comment: brackets would end it."""
    return text.replace("(", "[").replace(")", "]").replace("\n", " ")[:200]


class _Body:
    """Writes moves, each number only where it changes."""

    def __init__(self, machine: Machine) -> None:
        self.lines: list[str] = []
        self._machine = machine
        self._on = False
        self._feed = self._s = ""
        self._x = self._y = ""

    def say(self, comment: str) -> None:
        self.lines.append(f"({_plain(comment)})")

    def off(self) -> None:
        if self._on:
            self.lines.append(self._machine.switches_off)
        self._on = False

    def go(self, there: Point) -> None:
        """There as fast as it moves, with nothing on."""
        self.off()
        self.lines.append(" ".join(["G0", *self._there(there)]))

    def move(self, move: Move) -> None:
        segment = move.segment
        if move.rapid:
            self.go(segment.end)
            return
        # With the beam on for a run, it is its power that is changed on the way, and not the switch.
        s = self._number(self._power(move), 1)
        if not self._on:
            self.lines.append(f"{self._machine.switches_on} S{s}")
            self._on, self._s = True, s
        words = self._there(segment.end)
        if isinstance(segment, Arc):
            centre = segment.centre - segment.start
            words += [f"I{self._at(centre.real)}", f"J{self._at(centre.imag)}"]
            code = "G3" if segment.ccw else "G2"
        else:
            code = "G1"
        if s != self._s:
            words.append(f"S{s}")
            self._s = s
        feed = self._number(move.speed * 60, 1)
        if feed != self._feed:
            words.append(f"F{feed}")
            self._feed = feed
        self.lines.append(" ".join([code, *words]))

    def _power(self, move: Move) -> float:
        if move.power is None:
            return 0.0
        return move.power if self._machine.kind == "router" else self._machine.most * move.power / 100

    def _there(self, point: Point) -> list[str]:
        x, y = self._at(point.real), self._at(point.imag)
        words = [f"X{x}"] * (x != self._x) + [f"Y{y}"] * (y != self._y)
        self._x, self._y = x, y
        return words or [f"X{x}"]

    def _at(self, value: float) -> str:
        return self._number(value, self._machine.decimals)

    @staticmethod
    def _number(value: float, decimals: int) -> str:
        text = f"{value:.{decimals}f}".rstrip("0").rstrip(".")
        return "0" if text in ("-0", "") else text
