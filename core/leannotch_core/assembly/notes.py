"""What the maker should know of an assembly: joints that do not meet, and copies that are missing."""

from __future__ import annotations

from ..document import Project
from ..evaluate import Result, evaluate
from ..findings import Finding, Mend, Place
from ..sizes import shown
from .poses import Assembly, Gap, assemble


def assembly_findings(project: Project, result: Result, assembly: Assembly) -> list[Finding]:
    """A warning for each joint whose parts are held elsewhere or lack a copy, with the mend where there is one."""
    names = {part.id: part.name for part in project.parts}
    found = [_gap(project, gap, names, result) for gap in assembly.gaps]
    for missing in assembly.missing:
        count = sum(copy.part == missing.part for copy in assembly.poses) + 1
        found.append(
            Finding(
                level="warning",
                text=f"{names[missing.part]}: a joint needs one more of it; all that there are hold other joints there",
                place=Place(kind="part", id=missing.part, part=missing.part, field="count"),
                mend=Mend(label=f"Make {count} of it", field="count", value=f"{count}"),
            )
        )
    return found


def _gap(project: Project, gap: Gap, names: dict[str, str], result: Result) -> Finding:
    a, b = names[gap.a.part], names[gap.b.part]
    if gap.size and not gap.turned:
        part, name, value = gap.size
        now = getattr(result.parts[part], name)
        other = b if part == gap.a.part else a
        called = {"width": "wide", "height": "high"}[name]
        text = (
            f"{names[part]} is {shown(now)} {called}, and {other} stands where {shown(value)} would meet it: "
            f"their joint is {shown(gap.apart)} apart"
        )
        make = Mend(label=f"Make {names[part]} {shown(value)} {called}", field=name, value=f"{round(value, 4):g}")
        # A starter's numbers make the sizes of its parts.
        mend = None if result.parts[part].part.starter else make
        return Finding(level="warning", text=text, place=Place(kind="part", id=part, part=part, field=name), mend=mend)
    if gap.turned:
        text = f"{a} and {b} do not meet in their joint: other joints hold them another way round"
    else:
        text = f"{a} and {b} do not meet in their joint: other joints hold them {shown(gap.apart)} apart"
    flipped = _face_that_closes(project, gap)
    place = Place(kind="joint", id=gap.joint, part=gap.a.part, field="a")
    if not flipped:
        return Finding(level="warning", text=text, place=place)
    part, face = flipped
    mend = Mend(label=f"Take the drawing of {names[part]} for its {face}", field="face", value=face)
    return Finding(level="warning", text=text, place=Place(kind="part", id=part, part=part, field="face"), mend=mend)


def _face_that_closes(project: Project, gap: Gap) -> tuple[str, str] | None:
    """The part of the two that, drawn from its other face, would leave no joint turned."""
    for copy in (gap.b, gap.a):
        parts = [
            part.model_copy(update={"face": "inside" if part.face == "outside" else "outside"})
            if part.id == copy.part
            else part
            for part in project.parts
        ]
        tried = project.model_copy(update={"parts": parts})
        if not any(other.turned for other in assemble(tried, evaluate(tried)).gaps):
            part = next(part for part in parts if part.id == copy.part)
            return part.id, part.face
    return None
