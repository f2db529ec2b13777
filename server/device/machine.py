"""The simulated machine as it is stored: each step is worked out first, and taken in no time."""

from __future__ import annotations

import hashlib
import math
from collections import OrderedDict
from collections.abc import Mapping
from dataclasses import dataclass
from typing import cast

from django.db import models, transaction
from django.utils import timezone
from leannotch_core.device.at_work import (
    AtWork,
    Course,
    Doing,
    MachineRefuses,
    MachineState,
    MachineStep,
    Stop,
    at_times,
    check_takes_files,
    gone_on,
    homed,
    paused,
    settled,
    started,
    stopped,
    with_cutter,
    with_datum,
    with_file,
    with_sheet,
)
from leannotch_core.device.carried_out import CARRYING_OUT, BedLoad, carried_out
from leannotch_core.document.machine import Machine
from leannotch_core.document.model import Corner
from leannotch_core.drawings.apart import apart
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.facts.bed import bed_of, corner
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.geometry.segment import Motion, move
from leannotch_core.machining.played import Played
from pydantic import BaseModel, Field

from device.models import Device

#: So many lines of the log are kept.
_LOG = 200

_ROUND: tuple[Corner, ...] = ("bottom left", "bottom right", "top right", "top left")


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


#: So many machines are kept; the one that was given nothing for longest makes room.
_MACHINES = 40


def device(of: str = "") -> Device:
    """A machine by the id of its profile; without one, and where it is not known, that which was given a file last."""
    known = devices()
    found = next((one for one in known if of and one.machine == of), None) or next(iter(known), None)
    return found or Device.objects.get_or_create(machine="")[0]


def devices() -> list[Device]:
    """All machines that there are, that which was given a file last before the others."""
    return list(Device.objects.defer("data").order_by(models.F("given").desc(nulls_last=True), "pk"))


def _for_profile(profile: Machine | None) -> Device:
    """The machine that a file goes to: that of the profile, or the last one."""
    found = device(profile.id if profile else "")
    if profile is None or found.machine == profile.id:
        return found
    # What nobody has given a file to is whatever it is needed as.
    new, _ = Device.objects.get_or_create(machine="")
    new.machine = profile.id
    return new


def _make_room() -> None:
    for one in devices()[_MACHINES:]:
        one.delete()


def profile_of(found: Device) -> Machine:
    return Machine.model_validate_json(found.profile) if found.profile else shipped()["laser"]


def at_work_of(found: Device) -> AtWork:
    """The machine as it was left, with no more of its log than what comes to it."""
    state, doing = cast(MachineState, found.state), cast(Doing, found.doing)
    origin = complex(found.origin_x, found.origin_y)
    return AtWork(state, doing, found.gone, found.since, found.times, found.cutter, origin)


def _keep(found: Device, now: AtWork) -> None:
    found.state, found.doing, found.gone, found.since = now.state, now.doing, now.gone, now.since
    found.times, found.cutter = now.times, now.cutter
    found.origin_x, found.origin_y = now.origin.real, now.origin.imag
    found.log = "\n".join([*found.log.splitlines(), *now.log][-_LOG:])
    found.save()


def laid_of(found: Device) -> Laid:
    return Laid.model_validate_json(found.laid) if found.laid else Laid()


class AlarmTold(BaseModel):
    line: int
    text: str


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
    stops: list[Stop] = []

    @property
    def course(self) -> Course:
        first = next(iter(self.report.alarms), None)
        return Course(self.report.seconds, tuple(self.stops), (first.line, first.text) if first else None)


#: What was run last, by what stands for all that it depends on.
_RUNS = 8
_known: OrderedDict[str, Carried] = OrderedDict()


def run_of(found: Device) -> Carried | None:
    """What the machine does with its file; nothing where it has none. It may take long. Raises `MachineRefuses`."""
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


def settled_now(found: Device, whole: Carried | None) -> AtWork:
    """The machine as it stands at this moment, with its run worked out."""
    return settled(at_work_of(found), whole.course if whole else None, timezone.now())


def stands(found: Device) -> tuple[AtWork, Carried | None]:
    """The machine at this moment, and its run; a walk that is over is the program again. Raises `MachineRefuses`."""
    whole = run_of(found)
    at_work = settled_now(found, whole)
    if at_work.doing != found.doing:
        found.doing = at_work.doing
        whole = run_of(found)
    return at_work, whole


@dataclass(frozen=True, slots=True)
class FileTaken:
    """A file that was run once and can be taken: by which machine, what that is then given, and its run."""

    number: int
    given: Mapping[str, object]
    steps: int

    def take(self) -> Device:
        """Gives it to the machine. Raises `MachineRefuses` where that runs meanwhile."""
        taken = _stepped(self.number, with_file(str(self.given["name"]), self.steps), self.given)
        _make_room()
        return taken


def ready_to_take(name: str, data: bytes, profile: Machine | None, laid: Laid | None) -> FileTaken:
    """Runs a file once before it is taken: what cannot be carried out is refused at the door.

    Raises `MachineRefuses`.
    """
    found = _for_profile(profile)
    check_takes_files(settled_now(found, _run_if_it_runs(found)))
    given: dict[str, object] = {"name": name[:120], "data": data, "machine": found.machine, "given": timezone.now()}
    given |= {"profile": profile.model_dump_json()} if profile else {}
    given |= {"laid": laid.model_dump_json()} if laid else {}
    for field, value in given.items():
        setattr(found, field, value)
    found.doing = "program"
    whole = run_of(found)
    return FileTaken(found.pk, given, whole.steps if whole else 0)


def take(name: str, data: bytes, profile: Machine | None, laid: Laid | None) -> Device:
    """Takes a file, the profile of its machine, and the sheet on the bed.

    Raises `MachineRefuses`, and then takes nothing.
    """
    return ready_to_take(name, data, profile, laid).take()


def _run_if_it_runs(found: Device) -> Carried | None:
    """Its run as far as it matters to what comes next: one that stands goes on nowhere."""
    return run_of(found) if found.state == "running" else None


#: So often a step is tried again where the machine got another file meanwhile.
_AGAIN = 5


def _stepped(number: int, step: MachineStep, given: Mapping[str, object] | None = None) -> Device:
    """Works out the run first, which may take long, and takes the step then, in no time, with what it is ``given``.

    Raises `MachineRefuses`.
    """
    for _ in range(_AGAIN):
        before = Device.objects.get(pk=number)
        # A file that takes another's place needs to know of that only whether it still runs.
        whole = run_of(before) if given is None else _run_if_it_runs(before)
        with transaction.atomic():
            found = Device.objects.get(pk=number)
            if run_key(found) == run_key(before) and (found.state == before.state or given is None):
                now = step(settled_now(found, whole), whole.course if whole else None, timezone.now())
                for name, value in (given or {}).items():
                    setattr(found, name, value)
                _keep(found, now)
                return found
    raise MachineRefuses("Others give the machine one file after another; look at it again.")


def lay(laid: Laid, of: str = "") -> Device:
    step = with_sheet(laid.width, laid.height, complex(laid.x, laid.y))
    return _stepped(device(of).pk, step, {"laid": laid.model_dump_json()})


def home(of: str = "") -> Device:
    return _stepped(device(of).pk, homed)


def set_datum(x: float, y: float, of: str = "") -> Device:
    """Puts the origin of programs at a place of the machine."""
    found = device(of)
    return _stepped(found.pk, with_datum(bed_of(profile_of(found)), complex(x, y)))


def start(doing: Doing, of: str = "") -> Device:
    """Begins the program, or a walk round its box or hull."""
    return _stepped(device(of).pk, started(doing))


def pause(of: str = "") -> Device:
    return _stepped(device(of).pk, paused)


def go_on(of: str = "") -> Device:
    return _stepped(device(of).pk, gone_on)


def change_cutter(of: str = "") -> Device:
    """Says that the cutter is in that the program waits for."""
    return _stepped(device(of).pk, with_cutter)


def stop(of: str = "") -> Device:
    return _stepped(device(of).pk, stopped)


def set_times(times: float, of: str = "") -> Device:
    """Runs at so many times real time from now on."""
    return _stepped(device(of).pk, at_times(times))
