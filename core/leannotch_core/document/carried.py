"""Documents of earlier versions, carried forward to the shape that is read today, one step a version."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

Raw = dict[str, Any]


def carried_forward(raw: Raw) -> Raw:
    """The JSON value of a document in today's version. What cannot be understood is left for the model to refuse."""
    while isinstance(version := raw.get("version"), int) and version in _STEPS:
        raw = _STEPS[version](raw)
    return raw


def _owners_by_field(raw: Raw) -> Raw:
    """Version 1 told by the beginning of an id what a starter had made; since then the thing itself says so."""
    given = raw.get("starters")
    starters = [str(s.get("id")) for s in given if isinstance(s, dict)] if isinstance(given, list) else []

    def owned(thing: Raw, key: str) -> Raw:
        owner = next((starter for starter in starters if str(thing.get(key)).startswith(f"{starter}_")), "")
        return {**thing, "starter": owner}

    def with_cutouts(part: Raw) -> Raw:
        return _each(part, "cutouts", lambda cut: {**cut, "starter": part.get("starter", "") if _made(cut) else ""})

    raw = _each({**raw, "version": 2}, "names", lambda name: owned(name, "name"))
    raw = _each(raw, "joints", lambda joint: owned(joint, "id"))
    return _each(raw, "parts", with_cutouts)


def _made(cut: Raw) -> bool:
    """Whether a starter of version 1 made a cut-out: holes to lift things, and the notch for a thumb."""
    return str(cut.get("id")).startswith(("lift_", "thumb"))


def _each(raw: Raw, field: str, change: Callable[[Raw], Raw]) -> Raw:
    """The value with every thing of a list changed."""
    found = raw.get(field)
    if not isinstance(found, list):
        return raw
    return {**raw, field: [change(thing) if isinstance(thing, dict) else thing for thing in found]}


_STEPS: dict[int, Callable[[Raw], Raw]] = {1: _owners_by_field}
