"""The calls of the simulated machine, as an outside device would have them."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Callable, Iterable
from typing import Annotated

from django.http import HttpRequest
from django.utils import timezone
from leannotch_core.device.at_work import Doing, MachineRefuses, come_to, waits_at
from leannotch_core.document.machine import Machine
from leannotch_core.facts.bed import NoBed, bed_of
from leannotch_core.facts.stock import corners_of
from leannotch_core.machining.played import NOTHING, Played
from ninja import Router, Schema, Status
from pydantic import Base64Bytes, Field

from device import machine
from device.machine import BedPoint, Laid
from device.models import Device

router = Router(tags=["device"])


class WhyNot(Schema):
    """Why the machine did not do it: a sentence."""

    message: str


class DeviceAlarm(Schema):
    line: int
    text: str


class DeviceListed(Schema):
    """A machine, by the id of its profile, what it is called, and what is in it."""

    of: str
    called: str
    file: str


class DeviceShown(Schema):
    """The machine as it stands, and all that there are. Lengths in mm, on the bed as one stands before it; times in s.

    ``run`` changes where another run is in it, so that its moves have to be asked for again.
    """

    of: str
    machines: list[DeviceListed]
    profile: Machine
    state: str
    doing: str
    name: str
    run: str
    bed_width: float
    bed_height: float
    keep_outs: list[list[BedPoint]]
    datum_x: float
    datum_y: float
    origin_x: float
    origin_y: float
    laid: Laid
    sheet: list[BedPoint]
    gone: float
    seconds: float
    times: float
    line: int
    length: dict[str, float]
    alarms: list[DeviceAlarm]
    log: list[str]
    cutter: int
    wanted: int | None = None
    trouble: str = ""


class NewDatum(Schema):
    x: float = Field(ge=-100_000, le=100_000, allow_inf_nan=False)
    y: float = Field(ge=-100_000, le=100_000, allow_inf_nan=False)


class NewStart(Schema):
    doing: Doing = "program"


class NewTimes(Schema):
    times: float = Field(ge=1, le=200, allow_inf_nan=False)


class NewFile(Schema):
    """A file in base 64, with the profile of the machine that it is for, and the sheet on its bed."""

    name: Annotated[str, Field(min_length=1, max_length=120)]
    data: Annotated[Base64Bytes, Field(max_length=9_000_000)]
    profile: Machine | None = None
    laid: Laid | None = None


#: Which machine, by the id of its profile; that which was given a file last, where nothing is said.
Of = Annotated[str, Field(max_length=80)]

_ANSWERS = {200: DeviceShown, 422: WhyNot}


def _told(act: Callable[[], Device]) -> DeviceShown | Status[WhyNot]:
    try:
        return _shown(act())
    except (MachineRefuses, NoBed) as refusal:
        return Status(422, WhyNot(message=str(refusal)))


def _shown(found: Device) -> DeviceShown:
    profile, trouble = machine.profile_of(found), ""
    try:
        at_work, whole = machine.stands(found)
    except MachineRefuses as refusal:
        at_work, whole, trouble = machine.at_work_of(found), None, str(refusal)
    course = whole.course if whole else None
    bed, now = bed_of(profile), come_to(at_work, course, timezone.now())
    datum, origin = bed.axes.back(0), bed.axes.back(at_work.origin)
    ends = whole.played.ends if whole else []
    at = min(bisect_left(ends, now), len(ends) - 1)
    waits = waits_at(at_work, course)
    stands = at_work.state
    told = whole.report.alarms if whole and stands == "alarm" and now >= whole.report.seconds else []
    alarms = [DeviceAlarm(line=alarm.line, text=alarm.text) for alarm in told]
    if not alarms and stands == "alarm":
        # It stopped for what somebody did, and not for what its program does.
        alarms = [DeviceAlarm(line=waits.line if waits else 0, text="the cutter that it waits for is not in")]
    laid = machine.laid_of(found)
    return DeviceShown(
        of=found.machine,
        machines=[_listed(one) for one in machine.devices()],
        profile=profile,
        state=stands,
        doing=at_work.doing,
        name=found.name,
        run=machine.run_key(found),
        bed_width=bed.width,
        bed_height=bed.height,
        keep_outs=[_spots(corners_of(keep_out)) for keep_out in profile.keep_outs],
        datum_x=datum.real,
        datum_y=datum.imag,
        origin_x=origin.real,
        origin_y=origin.imag,
        laid=laid,
        sheet=_spots(laid.corners),
        gone=now,
        seconds=whole.report.seconds if whole else 0.0,
        times=at_work.times,
        line=whole.played.job[at] if whole and ends else 0,
        length=whole.report.length if whole else {},
        alarms=alarms,
        log=[*found.log.splitlines(), *at_work.log][-40:],
        cutter=at_work.cutter,
        wanted=waits.tool if waits and abs(waits.at - now) < 1e-6 else None,
        trouble=trouble,
    )


def _listed(found: Device) -> DeviceListed:
    return DeviceListed(of=found.machine, called=machine.profile_of(found).name, file=found.name)


def _spots(points: Iterable[complex]) -> list[BedPoint]:
    return [BedPoint(x=point.real, y=point.imag) for point in points]


@router.get("", response=DeviceShown)
def get_device(request: HttpRequest, of: Of = "") -> DeviceShown:
    return _shown(machine.device(of))


@router.post("/file", response=_ANSWERS)
def send_file(request: HttpRequest, payload: NewFile) -> DeviceShown | Status[WhyNot]:
    return _told(lambda: machine.take(payload.name, payload.data, payload.profile, payload.laid))


@router.post("/sheet", response=_ANSWERS)
def lay_sheet(request: HttpRequest, payload: Laid, of: Of = "") -> DeviceShown | Status[WhyNot]:
    return _told(lambda: machine.lay(payload, of))


@router.post("/home", response=_ANSWERS)
def home(request: HttpRequest, of: Of = "") -> DeviceShown | Status[WhyNot]:
    return _told(lambda: machine.home(of))


@router.post("/datum", response=_ANSWERS)
def take_datum(request: HttpRequest, payload: NewDatum, of: Of = "") -> DeviceShown | Status[WhyNot]:
    return _told(lambda: machine.set_datum(payload.x, payload.y, of))


@router.post("/start", response=_ANSWERS)
def start(request: HttpRequest, payload: NewStart, of: Of = "") -> DeviceShown | Status[WhyNot]:
    return _told(lambda: machine.start(payload.doing, of))


@router.post("/pause", response=_ANSWERS)
def pause(request: HttpRequest, of: Of = "") -> DeviceShown | Status[WhyNot]:
    return _told(lambda: machine.pause(of))


@router.post("/go-on", response=_ANSWERS)
def go_on(request: HttpRequest, of: Of = "") -> DeviceShown | Status[WhyNot]:
    return _told(lambda: machine.go_on(of))


@router.post("/cutter", response=_ANSWERS)
def change_cutter(request: HttpRequest, of: Of = "") -> DeviceShown | Status[WhyNot]:
    """The cutter is in that the program waits for."""
    return _told(lambda: machine.change_cutter(of))


@router.post("/stop", response=_ANSWERS)
def stop(request: HttpRequest, of: Of = "") -> DeviceShown | Status[WhyNot]:
    return _told(lambda: machine.stop(of))


@router.post("/times", response=_ANSWERS)
def set_times(request: HttpRequest, payload: NewTimes, of: Of = "") -> DeviceShown | Status[WhyNot]:
    return _told(lambda: machine.set_times(payload.times, of))


@router.get("/moves", response={200: Played, 422: WhyNot})
def get_moves(request: HttpRequest, of: Of = "") -> Played | Status[WhyNot]:
    """Every move of what is in the machine."""
    found = machine.device(of)
    try:
        whole = machine.run_of(found)
    except MachineRefuses as refusal:
        return Status(422, WhyNot(message=str(refusal)))
    return whole.played if whole else NOTHING
