"""What the maker should know of an assembly: joints that do not meet, and copies that are missing.

The one mend that has to be looked for, by turning parts over and putting all together again, is apart: an answer to an
edit does not wait for it.
"""

from __future__ import annotations

from dataclasses import replace

from ..document.model import Face
from ..document.sizes import shown
from ..evaluate import Result, meetings_of
from ..facts.codes import FindingCode
from ..facts.findings import Finding, Place, mend
from ..parts.part import Part
from ..project.project import Project
from .poses import Assembly, OpenJoint, assemble


def is_turned(assembly: Assembly) -> bool:
    """Whether a joint is held another way round, so that `with_faces` may have a mend for it."""
    return any(gap.turned for gap in assembly.gaps)


def assembly_findings(project: Project, result: Result, assembly: Assembly) -> list[Finding]:
    """A warning for each joint whose parts are held elsewhere or lack a copy, with the mend that is known at once."""
    names = {part.id: part.name for part in project.parts}
    return [*(_gap(gap, names, result) for gap in assembly.gaps), *_missing(names, assembly)]


def with_faces(project: Project, result: Result, assembly: Assembly) -> list[Finding]:
    """As `assembly_findings`; and where a joint is held another way round, the part to be turned over is looked for."""
    names = {part.id: part.name for part in project.parts}
    closing = _Closing(project, result)
    found = []
    for gap in assembly.gaps:
        finding = _gap(gap, names, result)
        flipped = closing.face(gap) if gap.turned else None
        found.append(_turned_over(finding, names, *flipped) if flipped else finding)
    return [*found, *_missing(names, assembly)]


def _missing(names: dict[str, str], assembly: Assembly) -> list[Finding]:
    found = []
    for missing in assembly.missing:
        count = sum(copy.part == missing.part for copy in assembly.poses) + 1
        found.append(
            Finding(
                level="warning",
                code="copy-missing",
                text=f"{names[missing.part]}: a joint needs one more of it; all that there are hold other joints there",
                place=Place(kind="part", id=missing.part, part=missing.part, field="count"),
                mends=(mend(f"Make {count} of it", ("parts", missing.part, "count"), count),),
            )
        )
    return found


def _gap(gap: OpenJoint, names: dict[str, str], result: Result) -> Finding:
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
        path, size = ("parts", part, "shape", name), f"{round(value, 4):g}"
        make = mend(f"Make {names[part]} {shown(value)} {called}", path, size)
        return Finding(
            level="warning",
            code="does-not-meet",
            text=text,
            place=Place(kind="part", id=part, part=part, field=name),
            # A starter's numbers make the sizes of its parts.
            mends=() if result.parts[part].part.starter else (make,),
        )
    if gap.turned:
        text = f"{a} and {b} do not meet in their joint: other joints hold them another way round"
    else:
        text = f"{a} and {b} do not meet in their joint: other joints hold them {shown(gap.apart)} apart"
    place = Place(kind="joint", id=gap.joint, part=gap.a.part, field="a")
    code: FindingCode = "held-turned" if gap.turned else "does-not-meet"
    return Finding(level="warning", code=code, text=text, place=place)


def _turned_over(finding: Finding, names: dict[str, str], part: str, face: str) -> Finding:
    over = mend(f"Take the drawing of {names[part]} for its {face}", ("parts", part, "face"), face)
    place = Place(kind="part", id=part, part=part, field="face")
    return finding.model_copy(update={"place": place, "mends": (over,)})


class _Closing:
    """Looks for a part that, drawn from its other face, would leave no joint turned; each part is tried once."""

    def __init__(self, project: Project, result: Result) -> None:
        self._project, self._result = project, result
        self._closes: dict[str, bool] = {}

    def face(self, gap: OpenJoint) -> tuple[str, str] | None:
        """The part of the two, and the face that its drawing should be of."""
        for copy in (gap.b, gap.a):
            if copy.part not in self._closes:
                self._closes[copy.part] = not is_turned(self._tried(copy.part))
            if self._closes[copy.part]:
                part = self._project.part(copy.part)
                assert part is not None
                return part.id, _other(part)
        return None

    def _tried(self, part_id: str) -> Assembly:
        parts = [
            part.model_copy(update={"face": _other(part)}) if part.id == part_id else part
            for part in self._project.parts
        ]
        tried = self._project.model_copy(update={"parts": parts})
        # Its outline stays as it is, and so do the joints of all others.
        joints = {joint.id for joint in tried.joints if part_id in (joint.a.part, joint.b.part)}
        others = [meeting for meeting in self._result.meetings if meeting.joint not in joints]
        return assemble(tried, replace(self._result, meetings=[*others, *meetings_of(tried, joints)]))


def _other(part: Part) -> Face:
    return "inside" if part.face == "outside" else "outside"
