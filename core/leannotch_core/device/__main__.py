"""``notch machine FILE --profile laser|router|PROFILE.json [--json]``: a file carried out without a screen."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from typing import Any

from ..document.machine import Machine
from ..document.sizes import Size, positive, shown
from ..document.sums import SizeError
from ..drawings.apart import apart
from ..drawings.drawing import BrokenFile
from ..profiles.shipped import NotAProfile, read_profile, shipped
from .carried_out import CARRYING_OUT, OnBed, carried_out


def main(arguments: list[str]) -> int:
    """Exit status 0 when the file was carried out or stopped with an alarm; 2 when it cannot be read at all."""
    parser = argparse.ArgumentParser(prog="notch machine", description=__doc__)
    parser.add_argument("file", type=Path)
    parser.add_argument("--profile", required=True, help="laser, router, or a machine's profile as JSON")
    parser.add_argument("--thickness", help="of the sheet, in mm: a machine that counts from its spoilboard needs it")
    parser.add_argument("--json", action="store_true")
    asked = parser.parse_args(arguments)
    try:
        machine = _profile(asked.profile)
        data, profile = asked.file.read_bytes(), machine.model_dump_json()
        on_bed = OnBed(thickness=_thickness(asked.thickness, machine))
        done = apart(carried_out, data, asked.file.name, profile, on_bed, 0.0, 0.0, None, bounds=CARRYING_OUT)
    except (BrokenFile, NotAProfile) as error:
        print(f"notch machine: {error}", file=sys.stderr)
        return 2
    except OSError as error:
        print(f"notch machine: {asked.file} cannot be read: {error.strerror}.", file=sys.stderr)
        return 2
    print(json.dumps(done["report"], indent=1) if asked.json else _sentences(done["report"], machine))
    return 0


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


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
