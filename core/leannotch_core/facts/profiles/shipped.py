"""Profiles of machines: those that ship, and others from JSON files."""

from __future__ import annotations

from pathlib import Path

from pydantic import ValidationError

from ...document.faults import first_fault
from ...document.machine import Machine
from ...said import Said

_FOLDER = Path(__file__).parent

#: The largest file that is read as a profile, in bytes.
LARGEST = 100_000


class NotAProfile(Said):
    """A file that describes no machine; its message is a sentence to show."""


def shipped() -> dict[str, Machine]:
    """The machines that ship, by the names of their profiles."""
    return {path.stem: read_profile(path.read_bytes()) for path in sorted(_FOLDER.glob("*.json"))}


def read_profile(data: bytes) -> Machine:
    """A machine from the JSON of its profile. Raises `NotAProfile`."""
    if len(data) > LARGEST:
        raise NotAProfile(f"The file has {len(data) / 1e3:.0f} kB; a profile has at most {LARGEST / 1e3:.0f} kB.")
    try:
        return Machine.model_validate_json(data)
    except ValidationError as error:
        raise NotAProfile(f"The file is no machine's profile: {first_fault(error)}.") from error


def write_profile(machine: Machine) -> bytes:
    """The JSON of a machine's profile; the same machine gives the same bytes."""
    return (machine.model_dump_json(indent=1) + "\n").encode()
