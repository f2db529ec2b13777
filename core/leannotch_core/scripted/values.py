"""A project worked out without a screen: values set by name, and what follows as plain values.

``evaluated(with_set(project, ["tray_length=300", "birch.readings=5.0 5.1"]))``
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from ..document.edit import CannotApply, SetValue
from ..document.sizes import Size
from ..edits.command import apply
from ..edits.names import PutName
from ..edits.starter import PutStarter
from ..edits.stock import PutStock
from ..evaluate import Result
from ..project.project import Project


def with_set(project: Project, given: Iterable[str]) -> Project:
    """The project with values set: named sizes by their names, values of stocks and parts behind a dot.

    A name that a starter keeps sets the starter's number, and all that follows from that. Caliper readings stand with
    spaces between them. Raises `CannotApply`.
    """
    for one in given:
        name, equals, value = one.partition("=")
        if not equals or not name.strip() or not value.strip():
            raise CannotApply(f"“{one}” sets nothing; write a name, an equals sign and a value, as in tray_length=300.")
        project = _with(project, name.strip(), value.strip().strip("\"'"))
    return project


def _with(project: Project, name: str, value: str) -> Project:
    owner, dot, field = name.partition(".")
    if not dot:
        return _with_name(project, name, value)
    stock = project.stock(owner)
    if stock is not None and field == "readings":
        readings = [Size(text=reading) for reading in value.split()]
        return apply(project, PutStock(do="put stock", stock=stock.model_copy(update={"readings": readings})))
    if stock is None and project.part(owner) is None:
        known = ", ".join([*(one.id for one in project.stocks), *(one.id for one in project.parts)])
        raise CannotApply(f"“{owner}” is no stock or part of the project; there are {known}.")
    path = ["stocks" if stock else "parts", owner, *field.split(".")]
    return apply(project, SetValue(path=path, value=int(value) if field == "count" and value.isdigit() else value))


def _with_name(project: Project, name: str, value: str) -> Project:
    named = next((one for one in project.names if one.name == name), None)
    if named is None:
        known = ", ".join(one.name for one in project.names) or "none"
        raise CannotApply(f"There is no named size “{name}”; there are {known}.")
    if not named.starter:
        return apply(project, PutName(do="put name", name=named.model_copy(update={"size": Size(text=value)})))
    starter = next(one for one in project.starters if one.id == named.starter)
    sizes = starter.sizes | {name.removeprefix(f"{starter.id}_"): Size(text=value)}
    return apply(project, PutStarter(do="put starter", starter=starter.model_copy(update={"sizes": sizes})))


def evaluated(result: Result) -> dict[str, Any]:
    """What follows from a project as plain values, in mm and mm²."""
    parts = []
    for part in result.parts.values():
        left, bottom, right, top = part.outline.bounds
        parts.append(
            {
                "id": part.part.id,
                "name": part.part.name,
                "count": part.part.count,
                "width": round(right - left, 6),
                "height": round(top - bottom, 6),
                "area": round(part.outline.area, 6),
            }
        )
    ledger = [
        {"opening": row.opening_part, "insert": row.insert_part, "gap": round(row.gap, 6)} for row in result.ledger
    ]
    findings = [{"level": f.level, "code": f.code, "text": f.text} for f in result.findings]
    return {"parts": parts, "ledger": ledger, "findings": findings}


def sentences(result: Result) -> str:
    """The same for people."""
    told = evaluated(result)
    lines = [
        f"{part['count']} x {part['name']} ({part['id']}): {part['width']:.2f} x {part['height']:.2f} mm, "
        f"{part['area']:.0f} mm²"
        for part in told["parts"]
    ]
    lines += [f"{row['insert']} in {row['opening']}: gap {row['gap']:.3f} mm" for row in told["ledger"]]
    return "\n".join([*lines, *(f"{f['level']}: {f['text']}" for f in told["findings"])])
