"""The machine at work: switched on, homed, started, paused, stopped. Each step makes another state; nothing is kept."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Literal

from ..facts.bed import Bed
from ..geometry.segment import Point
from ..said import Said

MachineState = Literal["off", "ready", "running", "paused", "done", "alarm", "stopped"]
Doing = Literal["program", "box", "hull"]

#: Two moments of a run (s) are one where they are so near each other.
_SAME = 1e-6


class MachineRefuses(Said):
    """Something the machine does not do now; the message is a sentence to show."""


@dataclass(frozen=True, slots=True)
class Stop:
    """Where a program waits (s after its start): its line, and the cutter that has to be in from there on."""

    at: float
    line: int
    tool: int


@dataclass(frozen=True, slots=True)
class Course:
    """What comes of a run: how long it takes (s), where it waits, and the first alarm with its line."""

    seconds: float
    stops: tuple[Stop, ...] = ()
    alarm: tuple[int, str] | None = None


@dataclass(frozen=True, slots=True)
class AtWork:
    """The machine as it stands.

    ``gone`` is how long (s) the run had gone on when it was last heard of, which was ``since`` if it goes on now, at
    ``times`` real time. ``cutter`` is the number of the one that is in the spindle, as the program counts; ``origin``
    is where the program begins in the machine's coordinates (mm). ``log`` is what has happened, the latest last.
    """

    state: MachineState = "off"
    doing: Doing = "program"
    gone: float = 0.0
    since: datetime | None = None
    times: float = 10.0
    cutter: int = 1
    origin: Point = 0j
    log: tuple[str, ...] = ()

    def noted(self, text: str, now: datetime) -> AtWork:
        return replace(self, log=(*self.log, f"{now:%H:%M:%S} {text}"))


#: One step: what it makes of the machine with the run of its file (nothing without one), at a moment.
MachineStep = Callable[[AtWork, Course | None, datetime], AtWork]


def waits_at(at_work: AtWork, course: Course | None) -> Stop | None:
    """The next place at which a program waits for another cutter than the one that is in."""
    stops = course.stops if course else ()
    return next((stop for stop in stops if stop.at >= at_work.gone - _SAME and stop.tool != at_work.cutter), None)


def come_to(at_work: AtWork, course: Course | None, now: datetime) -> float:
    """How far (s) the run has come: up to the next place at which it waits for somebody."""
    if at_work.state != "running" or at_work.since is None or course is None:
        return at_work.gone
    return min(_limit(at_work, course), at_work.gone + (now - at_work.since).total_seconds() * at_work.times)


def _limit(at_work: AtWork, course: Course) -> float:
    ahead = waits_at(at_work, course)
    return ahead.at if ahead else course.seconds


def settled(at_work: AtWork, course: Course | None, now: datetime) -> AtWork:
    """The machine as it stands now: a run that has come to its end is over, with an alarm or without.

    One that has come to where it wants another cutter waits for it.
    """
    if at_work.state != "running" or at_work.since is None or course is None:
        return at_work
    limit = _limit(at_work, course)
    if come_to(at_work, course, now) < limit:
        return at_work
    when = at_work.since + timedelta(seconds=max(0.0, limit - at_work.gone) / at_work.times)
    there = replace(at_work, gone=limit, since=None)
    if stop := waits_at(at_work, course):
        return replace(there, state="paused").noted(f"Line {stop.line}: waits for cutter T{stop.tool}.", when)
    if course.alarm:
        line, text = course.alarm
        return replace(there, state="alarm").noted(f"ALARM at line {line}: {text}.", when)
    if at_work.doing == "program":
        return replace(there, state="done").noted("Done.", when)
    return replace(there, state="ready", doing="program", gone=0.0).noted("Walked round.", when)


def homed(at_work: AtWork, _: Course | None, now: datetime) -> AtWork:
    """Finds its own corner, and forgets where the program's origin was. Raises `MachineRefuses`."""
    _check_standing(at_work, "home")
    return replace(at_work, state="ready", gone=0.0, doing="program", origin=0j).noted("Homed.", now)


def with_sheet(width: float, height: float, corner: Point) -> MachineStep:
    """A sheet of a size (mm) is laid on the bed. Its step raises `MachineRefuses`."""

    def step(at_work: AtWork, _: Course | None, now: datetime) -> AtWork:
        _check_standing(at_work, "lay a sheet")
        return at_work.noted(f"A sheet of {width:g} x {height:g} lies at {corner.real:g}, {corner.imag:g}.", now)

    return step


def with_datum(bed: Bed, origin: Point) -> MachineStep:
    """The program's origin is put at a place of the machine (mm). Its step raises `MachineRefuses`."""

    def step(at_work: AtWork, _: Course | None, now: datetime) -> AtWork:
        _check_standing(at_work, "take a datum")
        _check_homed(at_work)
        at, called = bed.axes.back(origin), f"{origin.real:g}, {origin.imag:g}"
        if not (0 <= at.real <= bed.width and 0 <= at.imag <= bed.height):
            raise MachineRefuses(f"A datum at {called} lies off the bed of {bed.width:g} x {bed.height:g} mm.")
        return replace(at_work, origin=origin, gone=0.0, state="ready").noted(f"Datum at {called}.", now)

    return step


def with_file(name: str, steps: int) -> MachineStep:
    """Another file is in it, of so many steps. Its step raises `MachineRefuses`."""

    def step(at_work: AtWork, _: Course | None, now: datetime) -> AtWork:
        check_takes_files(at_work)
        state: MachineState = "off" if at_work.state == "off" else "ready"
        fresh = replace(at_work, state=state, doing="program", gone=0.0, since=None)
        return fresh.noted(f"Took {name}: {steps} steps.", now)

    return step


def check_takes_files(at_work: AtWork) -> None:
    """Raises `MachineRefuses` where it runs."""
    if at_work.state == "running":
        raise MachineRefuses("The machine is running; stop it before another file is sent.")


def started(doing: Doing) -> MachineStep:
    """Begins the program, or a walk round its box or hull. Its step raises `MachineRefuses`."""

    def step(at_work: AtWork, course: Course | None, now: datetime) -> AtWork:
        if at_work.state == "running":
            raise MachineRefuses("The machine is running already.")
        _check_homed(at_work)
        if course is None:
            raise MachineRefuses("There is no file in the machine; send one first.")
        begun = replace(at_work, doing=doing, gone=0.0, state="running", since=now, cutter=1)
        return begun.noted("Started." if doing == "program" else f"Walks round the {doing}.", now)

    return step


def paused(at_work: AtWork, course: Course | None, now: datetime) -> AtWork:
    """Waits where it is; one that does not run stays as it is."""
    if at_work.state != "running":
        return at_work
    gone = come_to(at_work, course, now)
    return replace(at_work, gone=gone, state="paused", since=None).noted(f"Paused after {gone:.1f} s.", now)


def gone_on(at_work: AtWork, course: Course | None, now: datetime) -> AtWork:
    """Goes on, or stops with an alarm where another cutter has to be in first. Raises `MachineRefuses`."""
    if at_work.state != "paused":
        raise MachineRefuses("The machine is not paused; start it.")
    stop = waits_at(at_work, course)
    if stop and abs(stop.at - at_work.gone) < _SAME:
        said = f"ALARM at line {stop.line}: cutter T{stop.tool} was not put in, T{at_work.cutter} is."
        return replace(at_work, state="alarm", since=None).noted(said, now)
    return replace(at_work, state="running", since=now).noted("Goes on.", now)


def with_cutter(at_work: AtWork, course: Course | None, now: datetime) -> AtWork:
    """The cutter is in that the program waits for. Raises `MachineRefuses`."""
    stop = waits_at(at_work, course)
    if stop is None or abs(stop.at - at_work.gone) > _SAME or at_work.state not in ("paused", "alarm"):
        raise MachineRefuses("The machine waits for no cutter now.")
    return replace(at_work, cutter=stop.tool, state="paused").noted(f"Cutter T{stop.tool} is in.", now)


def stopped(at_work: AtWork, course: Course | None, now: datetime) -> AtWork:
    """Ends the run where it is; one that does not run stays as it is."""
    if at_work.state not in ("running", "paused"):
        return at_work
    gone = come_to(at_work, course, now)
    return replace(at_work, gone=gone, state="stopped", since=None).noted(f"Stopped after {gone:.1f} s.", now)


def at_times(times: float) -> MachineStep:
    """Runs at so many times real time from now on."""

    def step(at_work: AtWork, course: Course | None, now: datetime) -> AtWork:
        if at_work.state == "running":
            at_work = replace(at_work, gone=come_to(at_work, course, now), since=now)
        return replace(at_work, times=times)

    return step


def _check_standing(at_work: AtWork, what: str) -> None:
    if at_work.state in ("running", "paused"):
        raise MachineRefuses(f"The machine is {at_work.state}; stop it before you {what}.")


def _check_homed(at_work: AtWork) -> None:
    if at_work.state == "off":
        raise MachineRefuses("The machine does not know where it is; home it first.")
