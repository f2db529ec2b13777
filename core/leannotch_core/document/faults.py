"""What is wrong with a value that a model refuses, said with the place, the number and what is allowed."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from pydantic import ValidationError

#: What a kind of fault says, by pydantic's name for it; ``{got}`` is what was given.
_SAYS = {
    "missing": "is missing",
    "extra_forbidden": "is not known here",
    "too_long": "come to {actual_length}, at most {max_length} are taken",
    "too_short": "come to {actual_length}, at least {min_length} are needed",
    "string_too_long": "has more than {max_length} characters",
    "string_too_short": "is empty",
    "less_than_equal": "is {got}, at most {le:g} is taken",
    "less_than": "is {got}, it must be less than {lt:g}",
    "greater_than_equal": "is {got}, at least {ge:g} is taken",
    "greater_than": "is {got}, it must be more than {gt:g}",
    "finite_number": "is no finite number",
    "literal_error": "is “{got}”, it can be {expected}",
    "enum": "is “{got}”, it can be {expected}",
    "string_pattern_mismatch": "“{got}” cannot be used here",
    "union_tag_invalid": "“{tag}” is not known here",
    "union_tag_not_found": "does not say of which kind it is",
    "string_type": "is not a text",
    "int_type": "is not a whole number",
    "int_from_float": "is {got}, which is not a whole number",
    "int_parsing": "is “{got}”, which is not a whole number",
    "float_type": "is not a number",
    "float_parsing": "is “{got}”, which is not a number",
    "bool_type": "is neither true nor false",
    "list_type": "is not a list",
    "dict_type": "is not a group of values",
    "model_type": "is not a group of values",
    "model_attributes_type": "is not a group of values",
}


def first_fault(error: ValidationError) -> str:
    """The first fault of a validation error as a sentence without its full stop."""
    return fault_said(error.errors(include_url=False)[0])


def fault_said(fault: Mapping[str, Any], unless: Sequence[str] = ()) -> str:
    """One fault as ``place what is wrong``; steps of the place named in ``unless`` are left out."""
    place = " › ".join(str(step) for step in fault["loc"] if step not in unless)
    context = fault.get("ctx", {})
    if fault["type"] == "value_error":
        says = str(context["error"])
        return f"{place}: {says}" if place else says[:1].upper() + says[1:]
    says = _SAYS.get(fault["type"], "cannot be read")
    said = says.format_map({**context, "got": _short(fault.get("input", "what was sent"))})
    if place:
        return f"{place} {said}"
    return said if said.startswith("“") else f"It {said}"


def _short(value: object) -> str:
    if isinstance(value, float):
        return f"{value:g}"
    text = str(value)
    return text if len(text) <= 40 else f"{text[:39]}…"
