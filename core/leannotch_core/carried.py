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
    starters = [str(starter.get("id")) for starter in _things(raw, "starters")]

    def owned(thing: Raw, key: str) -> Raw:
        owner = next((starter for starter in starters if str(thing.get(key)).startswith(f"{starter}_")), "")
        return {**thing, "starter": owner}

    def with_cutouts(part: Raw) -> Raw:
        owner = part.get("starter", "")
        made = [
            {**cut, "starter": owner if str(cut.get("id")).startswith(("lift_", "thumb")) else ""}
            for cut in _things(part, "cutouts")
        ]
        return {**part, "cutouts": made} if made else part

    return {
        **raw,
        "version": 2,
        "names": [owned(name, "name") for name in _things(raw, "names")],
        "joints": [owned(joint, "id") for joint in _things(raw, "joints")],
        "parts": [with_cutouts(part) for part in _things(raw, "parts")],
    }


def _things(raw: Raw, field: str) -> list[Raw]:
    found = raw.get(field, [])
    return [thing for thing in found if isinstance(thing, dict)] if isinstance(found, list) else []


_STEPS: dict[int, Callable[[Raw], Raw]] = {1: _owners_by_field}
