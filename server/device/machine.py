"""The simulated machine at work: switched on, homed, started, paused, stopped, and where it is at a moment."""

from __future__ import annotations

import hashlib
import math
from collections import OrderedDict
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime

from django.db import transaction
from django.utils import timezone
from leannotch_core.device.carried_out import CARRYING_OUT, BedLoad, carried_out
from leannotch_core.document.machine import Machine
from leannotch_core.document.model import Corner
from leannotch_core.drawings.apart import apart
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.facts.bed import bed_of, corner
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.geometry.segment import Motion, move
from leannotch_core.machining.played import Played
from leannotch_core.said import Said
from pydantic import BaseModel, Field

from device.models import Device

#: So many lines of the log are kept.
_LOG = 200

_ROUND: tuple[Corner, ...] = ("bottom left", "bottom right", "top right", "top left")


class MachineRefuses(Said):
    """Something the machine does not do now; the message is a sentence to show."""


class BedPoint(BaseModel):
    """A place of the bed (mm), as one stands before it."""

    x: float = Field(ge=-100_000, le=100_000, allow_inf_nan=False)
    y: float = Field(ge=-100_000, le=100_000, allow_inf_nan=False)


class InSpindle(BaseModel):
    """A cutter that a program uses: its width in mm, and its flutes."""

    width: float = Field(gt=0, le=1000)
    flutes: int = Field(ge=1, le=12, default=2)


class Laid(BaseModel):
    """A sheet on the bed, of a size (mm): where its lower left corner lies, seen from before it, turned about that.

    ``thickness`` is nothing where it is not told; clips stand ``tall`` above the sheet. ``cutters`` are those that are
    put in one after the other.
    """

    width: float = Field(ge=0, le=100_000, default=0)
    height: float = Field(ge=0, le=100_000, default=0)
    x: float = Field(ge=-100_000, le=100_000, default=0)
    y: float = Field(ge=-100_000, le=100_000, default=0)
    turn: float = Field(ge=-360, le=360, default=0)
    clips: list[list[BedPoint]] = Field(default=[], max_length=40)
    thickness: float = Field(ge=0, le=1000, default=0)
    tall: float | None = Field(ge=0, le=1000, default=None)
    cutters: list[InSpindle] = Field(default=[], max_length=20)

    @property
    def corners(self) -> list[complex]:
        """Its corners on the bed; without a size it has none."""
        if not (self.width and self.height):
            return []
        place = Motion(move(self.turn % 360).turn, complex(self.x, self.y))
        return [place(corner(which, self.width, self.height)) for which in _ROUND]


def device() -> Device:
    found, _ = Device.objects.get_or_create(id=1)
    return found


def profile_of(found: Device) -> Machine:
    return Machine.model_validate_json(found.profile) if found.profile else shipped()["laser"]


def laid_of(found: Device) -> Laid:
    return Laid.model_validate_json(found.laid) if found.laid else Laid()


class AlarmTold(BaseModel):
    line: int
    text: str


class StopTold(BaseModel):
    """Where a program waits (s after its start): its line, and the cutter that has to be in from there on."""

    at: float
    line: int
    tool: int


class RunTold(BaseModel):
    """What comes of a run (s, mm), as `carried_out` reports it."""

    seconds: float
    length: dict[str, float]
    alarms: list[AlarmTold]


class Carried(BaseModel):
    """A run of what is in the machine, with every move of it."""

    report: RunTold
    steps: int
    played: Played
    stops: list[StopTold] = []

    @property
    def seconds(self) -> float:
        return self.report.seconds

    @property
    def alarms(self) -> list[AlarmTold]:
        return self.report.alarms


#: What was run last, by what stands for all that it depends on.
_RUNS = 8
_known: OrderedDict[str, Carried] = OrderedDict()


def run_of(found: Device) -> Carried | None:
    """What the machine does with its file; nothing where it has none. It may take long. Raises `Refusal`."""
    if not found.data:
        return None
    key = run_key(found)
    known = _known.get(key)
    if known is None:
        known = _known[key] = _carried(found)
        while len(_known) > _RUNS:
            _known.popitem(last=False)
    return known


def _carried(found: Device) -> Carried:
    laid, walk = laid_of(found), None if found.doing == "program" else found.doing
    on_bed = BedLoad(
        sheet=[(corner.real, corner.imag) for corner in laid.corners],
        clips=[[(spot.x, spot.y) for spot in clip] for clip in laid.clips],
        thickness=laid.thickness,
        tall=math.inf if laid.tall is None else laid.tall,
        cutters=[(cutter.width, cutter.flutes) for cutter in laid.cutters],
    )
    profile, origin = profile_of(found).model_dump_json(), (found.origin_x, found.origin_y)
    try:
        told = apart(carried_out, bytes(found.data), found.name, profile, on_bed, *origin, walk, bounds=CARRYING_OUT)
    except BrokenFile as error:
        # The machine is shown with it all the same.
        raise MachineRefuses(str(error)) from error
    return Carried.model_validate(told)


def run_key(found: Device) -> str:
    """The same for the same run."""
    what = (found.name, found.doing, found.profile, found.laid, f"{found.origin_x} {found.origin_y}")
    return hashlib.sha256(bytes(found.data) + "\n".join(what).encode()).hexdigest()[:16]


def gone(found: Device, whole: Carried | None, now: datetime) -> float:
    """How far (s) the run has come: up to the next place at which it waits for somebody."""
    if found.state != "running" or found.since is None or whole is None:
        return found.gone
    ahead = waits_at(found, whole)
    limit = ahead.at if ahead else whole.seconds
    return min(limit, found.gone + (now - found.since).total_seconds() * found.times)


def waits_at(found: Device, whole: Carried) -> StopTold | None:
    """The next place at which a program waits for another cutter than the one that is in."""
    return next((stop for stop in whole.stops if stop.at >= found.gone - 1e-9 and stop.tool != found.cutter), None)


def settled(found: Device, whole: Carried | None) -> Device:
    """The machine as it stands now: a run that has come to its end is over, with an alarm or without.

    One that has come to where it wants another cutter waits for it.
    """
    if found.state == "running" and whole is not None and (stop := waits_at(found, whole)):
        if gone(found, whole, timezone.now()) >= stop.at:
            found.gone, found.since, found.state = stop.at, None, "paused"
            _note(found, f"Line {stop.line}: waits for cutter T{stop.tool}.")
            found.save()
        return found
    if found.state == "running" and whole is not None and gone(found, whole, timezone.now()) >= whole.seconds:
        found.gone, found.since = whole.seconds, None
        if whole.alarms:
            found.state = "alarm"
            _note(found, f"ALARM at line {whole.alarms[0].line}: {whole.alarms[0].text}.")
        else:
            found.state = "done" if found.doing == "program" else "ready"
            _note(found, "Done." if found.doing == "program" else "Walked round.")
            if found.doing != "program":
                found.doing, found.gone = "program", 0.0
        found.save()
    return found


def _note(found: Device, text: str) -> None:
    lines = [*found.log.splitlines(), f"{timezone.now():%H:%M:%S} {text}"]
    found.log = "\n".join(lines[-_LOG:])


@dataclass(frozen=True, slots=True)
class FileTaken:
    """A file that was run once and can be taken: what the machine is then given, and its run."""

    given: Mapping[str, object]
    steps: int

    def take(self) -> Device:
        """Gives it to the machine. Raises `Refusal` where that runs meanwhile."""
        with transaction.atomic():
            found = device()
            _check_idle(found)
            for name, value in self.given.items():
                setattr(found, name, value)
            found.state = "off" if found.state == "off" else "ready"
            _note(found, f"Took {found.name}: {self.steps} steps.")
            found.save()
        return found


def ready_to_take(name: str, data: bytes, profile: Machine | None, laid: Laid | None) -> FileTaken:
    """Runs a file once before it is taken: what cannot be carried out is refused at the door. Raises `Refusal`."""
    found = device()
    _check_idle(found)
    given: dict[str, object] = {"name": name[:120], "data": data, "doing": "program", "gone": 0.0, "since": None}
    given |= {"profile": profile.model_dump_json()} if profile else {}
    given |= {"laid": laid.model_dump_json()} if laid else {}
    for field, value in given.items():
        setattr(found, field, value)
    whole = run_of(found)
    return FileTaken(given, whole.steps if whole else 0)


def take(name: str, data: bytes, profile: Machine | None, laid: Laid | None) -> Device:
    """Takes a file, the profile of its machine, and the sheet on the bed. Raises `Refusal`, and then takes nothing."""
    return ready_to_take(name, data, profile, laid).take()


def _check_idle(found: Device) -> None:
    if found.state == "running":
        raise MachineRefuses("The machine is running; stop it before another file is sent.")


#: What is done to the machine, as it stands and with its run.
_Change = Callable[[Device, Carried | None], None]

#: So often a step is tried again where the machine got another file meanwhile.
_AGAIN = 5


def _stepped(change: _Change) -> Device:
    """Works out the run first, which may take long, and takes the step then, in no time. Raises `Refusal`."""
    for _ in range(_AGAIN):
        before = device()
        whole = run_of(before)
        with transaction.atomic():
            found = device()
            if run_key(found) == run_key(before):
                settled(found, whole)
                change(found, whole)
                found.save()
                return found
    raise MachineRefuses("Others give the machine one file after another; look at it again.")


def lay(laid: Laid) -> Device:
    def change(found: Device, _: Carried | None) -> None:
        _check_standing(found, "lay a sheet")
        found.laid = laid.model_dump_json()
        _note(found, f"A sheet of {laid.width:g} x {laid.height:g} lies at {laid.x:g}, {laid.y:g}.")

    return _stepped(change)


def home() -> Device:
    def change(found: Device, _: Carried | None) -> None:
        _check_standing(found, "home")
        found.state, found.gone, found.doing, found.origin_x, found.origin_y = "ready", 0.0, "program", 0.0, 0.0
        _note(found, "Homed.")

    return _stepped(change)


def set_datum(x: float, y: float) -> Device:
    """Puts the origin of programs at a place of the machine."""

    def change(found: Device, _: Carried | None) -> None:
        _check_standing(found, "take a datum")
        _check_homed(found)
        bed = bed_of(profile_of(found))
        at = bed.axes.back(complex(x, y))
        if not (0 <= at.real <= bed.width and 0 <= at.imag <= bed.height):
            raise MachineRefuses(f"A datum at {x:g}, {y:g} lies off the bed of {bed.width:g} x {bed.height:g} mm.")
        found.origin_x, found.origin_y, found.gone, found.state = x, y, 0.0, "ready"
        _note(found, f"Datum at {x:g}, {y:g}.")

    return _stepped(change)


def start(doing: str) -> Device:
    """Begins the program, or a walk round its box or hull."""

    def change(found: Device, _: Carried | None) -> None:
        if found.state == "running":
            raise MachineRefuses("The machine is running already.")
        _check_homed(found)
        if not found.data:
            raise MachineRefuses("There is no file in the machine; send one first.")
        found.doing, found.gone, found.state, found.since = doing, 0.0, "running", timezone.now()
        found.cutter = 1
        _note(found, "Started." if doing == "program" else f"Walks round the {doing}.")

    return _stepped(change)


def pause() -> Device:
    def change(found: Device, whole: Carried | None) -> None:
        if found.state == "running":
            found.gone, found.state, found.since = gone(found, whole, timezone.now()), "paused", None
            _note(found, f"Paused after {found.gone:.1f} s.")

    return _stepped(change)


def go_on() -> Device:
    def change(found: Device, whole: Carried | None) -> None:
        if found.state != "paused":
            raise MachineRefuses("The machine is not paused; start it.")
        stop = waits_at(found, whole) if whole else None
        if stop and abs(stop.at - found.gone) < 1e-6:
            found.state, found.since = "alarm", None
            _note(found, f"ALARM at line {stop.line}: cutter T{stop.tool} was not put in, T{found.cutter} is.")
        else:
            found.state, found.since = "running", timezone.now()
            _note(found, "Goes on.")

    return _stepped(change)


def change_cutter() -> Device:
    """Says that the cutter is in that the program waits for."""

    def change(found: Device, whole: Carried | None) -> None:
        stop = waits_at(found, whole) if whole else None
        if stop is None or abs(stop.at - found.gone) > 1e-6 or found.state not in ("paused", "alarm"):
            raise MachineRefuses("The machine waits for no cutter now.")
        found.cutter, found.state = stop.tool, "paused"
        _note(found, f"Cutter T{stop.tool} is in.")

    return _stepped(change)


def stop() -> Device:
    def change(found: Device, whole: Carried | None) -> None:
        if found.state in ("running", "paused"):
            found.gone, found.state, found.since = gone(found, whole, timezone.now()), "stopped", None
            _note(found, f"Stopped after {found.gone:.1f} s.")

    return _stepped(change)


def set_times(times: float) -> Device:
    """Runs at so many times real time from now on."""

    def change(found: Device, whole: Carried | None) -> None:
        if found.state == "running":
            found.gone, found.since = gone(found, whole, timezone.now()), timezone.now()
        found.times = times

    return _stepped(change)


def _check_standing(found: Device, what: str) -> None:
    if found.state in ("running", "paused"):
        raise MachineRefuses(f"The machine is {found.state}; stop it before you {what}.")


def _check_homed(found: Device) -> None:
    if found.state == "off":
        raise MachineRefuses("The machine does not know where it is; home it first.")
