"""Documents of earlier versions, carried forward to the shape that is read today, one step a version."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from .ids import free_id

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


def _machines_of_their_own(raw: Raw) -> Raw:
    """Version 2 wrote the name of a machine on each stock, and on each of its coupons; since then machines are things.

    What was known of a stock holds on its machine now, and on all others that have nothing of their own.
    """
    ids: dict[str, str] = {}

    def id_of(name: str) -> str:
        if name not in ids:
            word = re.sub(r"[^a-z0-9]+", "_", name.lower()).strip("_")[:30]
            word = word if word[:1].isalpha() else f"machine_{word}".rstrip("_")
            ids[name] = word if word not in ids.values() else f"{word}_{len(ids) + 1}"
        return ids[name]

    def named(stock: Raw) -> Raw:
        rest = {key: value for key, value in stock.items() if key != "machine"}
        name, history = stock.get("machine"), stock.get("history", [])
        if not isinstance(history, list) or not all(isinstance(result, dict) for result in history):
            return rest
        coupons = [{key: value for key, value in result.items() if key != "machine"} for result in history]
        rest |= {"history": coupons} if coupons else {}
        if not isinstance(name, str) or not name.strip():
            return rest
        on = {key: rest[key] for key in ("kerf", "clearances") if key in rest}
        own = [new for new, old in zip(coupons, history, strict=True) if old.get("machine") in (name, "", None)]
        return {**rest, "on": [{**on, "machine": id_of(name), "history": own}]}

    raw = _each({**raw, "version": 3}, "stocks", named)
    if not ids:
        return raw
    machines = [{"id": machine, "name": name[:80]} for name, machine in ids.items()]
    return {**raw, "machines": machines[:20], "machine": machines[0]["id"]}


def _texts_are_shapes(raw: Raw) -> Raw:
    """Version 3 had one kind of repeat, which did not say so, and texts that are marked in a list of their own."""

    def with_shapes(part: Raw) -> Raw:
        part = _each(part, "cutouts", _with_kind_of_repeat)
        rest = {key: value for key, value in part.items() if key != "marks"}
        marks, cutouts = part.get("marks", []), part.get("cutouts", [])
        if not isinstance(marks, list) or not isinstance(cutouts, list) or not marks:
            return rest
        taken = {str(cut.get("id")) for cut in cutouts if isinstance(cut, dict)}
        return {**rest, "cutouts": [*cutouts, *(_text_shape(mark, taken) for mark in marks)]}

    return _each({**raw, "version": 4}, "parts", with_shapes)


def _with_kind_of_repeat(cut: Raw) -> Raw:
    repeat = cut.get("repeat")
    return {**cut, "repeat": {"kind": "grid", **repeat}} if isinstance(repeat, dict) else cut


def _text_shape(mark: Any, taken: set[str]) -> Any:
    if not isinstance(mark, dict):
        return mark
    placed = {key: mark[key] for key in ("x", "y", "turn") if key in mark}
    rest = {key: value for key, value in mark.items() if key not in (*placed, "operation")}
    hole = {"kind": "text", "font": "single line", "height": "4", **rest}
    does = mark.get("operation", "score")
    return {"id": free_id("text", taken), "hole": hole, **placed, "does": does}


def _cutters_of_their_own(raw: Raw) -> Raw:
    """Version 4 knew no cutters: a router had a kerf as a beam has. What it had is what is meant without any."""
    return {**raw, "version": 5}


def _bends_of_their_own(raw: Raw) -> Raw:
    """Version 5 knew no bends: all parts stay flat."""
    return {**raw, "version": 6}


def _each(raw: Raw, field: str, change: Callable[[Raw], Raw]) -> Raw:
    """The value with every thing of a list changed."""
    found = raw.get(field)
    if not isinstance(found, list):
        return raw
    return {**raw, field: [change(thing) if isinstance(thing, dict) else thing for thing in found]}


_STEPS: dict[int, Callable[[Raw], Raw]] = {
    1: _owners_by_field,
    2: _machines_of_their_own,
    3: _texts_are_shapes,
    4: _cutters_of_their_own,
    5: _bends_of_their_own,
}
