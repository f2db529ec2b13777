"""``lean-notch machine FILE --profile NAME``: a file carried out without a screen."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import click
from leannotch_core.device.carried_out import CARRYING_OUT, BedLoad, carried_out
from leannotch_core.device.sent import LARGEST
from leannotch_core.document.machine import Machine
from leannotch_core.document.sizes import Size, positive, shown
from leannotch_core.document.sums import SizeError
from leannotch_core.drawings.apart import apart
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.facts.profiles.shipped import NotAProfile, read_profile, shipped

from ..files import FILE, content
from ..progress import told_on_a_screen


@click.command()
@click.argument("file", type=FILE)
@click.option("--profile", required=True, help="laser, router, or a machine's profile as JSON.")
@click.option("--thickness", help="Of the sheet, in mm: a machine that counts from its spoilboard needs it.")
@click.option("--json", "as_json", is_flag=True, help="Tell it as JSON.")
def command(file: Path, profile: str, thickness: str | None, as_json: bool) -> None:
    """Carry FILE out on a simulated machine; an alarm is an answer as well."""
    machine = _profile(profile)
    data, on_bed = content(file, LARGEST), BedLoad(thickness=_thickness(thickness, machine))
    with told_on_a_screen("Carrying it out", len(data)) as heard:
        given = machine.model_dump_json(), on_bed, 0.0, 0.0, None
        done = apart(carried_out, data, file.name, *given, bounds=CARRYING_OUT, heard=heard)
    click.echo(json.dumps(done["report"], indent=1) if as_json else _sentences(done["report"], machine))


def _thickness(text: str | None, machine: Machine) -> float:
    """The sheet's, in mm; 0 where it is not told and need not be. Raises `BrokenFile`."""
    if text is None:
        if machine.kind == "router" and machine.z_datum == "the spoilboard":
            raise BrokenFile(f"{machine.name} counts from its spoilboard; say with --thickness how thick the sheet is.")
        return 0.0
    try:
        return positive(Size(text=text), {})
    except SizeError as error:
        raise BrokenFile(f"--thickness: {error}.") from error


def _profile(name: str) -> Machine:
    """A machine that ships, or one from a file. Raises `NotAProfile`."""
    known = shipped()
    if name in known:
        return known[name]
    try:
        return read_profile(Path(name).read_bytes())
    except OSError as error:
        text = f"“{name}” is neither {' nor '.join(known)} nor a file that can be read: {error.strerror}."
        raise NotAProfile(text) from error


def _sentences(told: dict[str, Any], machine: Machine) -> str:
    lines = [f"{machine.name}: {told['seconds']:.1f} s, {shown(told['moves'])} of moves."]
    lines += [f"  {operation:8} {shown(length):>12}" for operation, length in told["length"].items()]
    lines += [f"ALARM at line {alarm['line']}: {alarm['text']}." for alarm in told["alarms"]]
    return "\n".join(lines)
