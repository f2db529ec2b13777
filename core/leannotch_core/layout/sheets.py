"""Parts on sheets: where each copy lies, and what lies wrong."""

from __future__ import annotations

import hashlib
from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

import numpy as np
import shapely
from shapely import Polygon, STRtree
from shapely.affinity import affine_transform

from ..document.sheet import CopyOf, LaidPart, LaidSheet, Placement
from ..document.sizes import shown
from ..document.sums import SizeError
from ..evaluate import EvaluatedPart, Result
from ..facts.codes import FindingCode
from ..facts.findings import Finding, Place
from ..geometry.chords import as_polygon
from ..geometry.loop import Outline
from ..geometry.segment import Motion, move
from ..parts.part import Part
from ..project.project import Project
from ..remembered import remembered
from .spacing import spacing

#: Findings of one kind are told one by one up to so many parts.
FEW = 3
#: Distances between parts are measured on chords this close to the arcs (mm).
TOLERANCE = 0.005


@dataclass(frozen=True, slots=True)
class SheetUse:
    """A sheet in use: mm, mm, and the share of its area that is parts."""

    stock: str
    width: float
    height: float
    used: float


@dataclass(slots=True)
class LayoutFacts:
    """What is known of a layout. ``changed`` has the parts whose shape differs from when they were laid out."""

    sheets: list[SheetUse] = field(default_factory=list)
    findings: list[Finding] = field(default_factory=list)
    changed: list[str] = field(default_factory=list)
    missing: int = 0

    @property
    def out_of_date(self) -> bool:
        return bool(self.changed or self.missing)


def motion(placement: Placement) -> Motion:
    """Takes a part's frame to its sheet's frame."""
    return moved_by(placement.x, placement.y, placement.turn, placement.mirrored)


def moved_by(x: float, y: float, turn: float, mirrored: bool) -> Motion:
    """Turned by degrees, mirrored before that, and moved (mm)."""
    return replace(move(turn, complex(x, y)), mirrored=mirrored)


@remembered(most=2048)
def fingerprint(outline: Outline) -> str:
    """The same for outlines that are alike to a thousandth of a millimetre."""
    corners = np.array([[s.start.real, s.start.imag] for loop in outline.loops for s in loop])
    lengths = np.array([s.length for loop in outline.loops for s in loop])
    digest = hashlib.sha256(np.round(corners, 3).tobytes() + np.round(lengths, 3).tobytes())
    return digest.hexdigest()[:16]


@remembered(most=2048)
def polygon_of(outline: Outline) -> Polygon:
    """A finished outline as a polygon, its arcs within the tolerance of a layout."""
    return as_polygon(outline, TOLERANCE)


def placed(outline: Outline, placement: Placement) -> Polygon:
    """The finished part on its sheet, as a polygon for measuring."""
    turn, over = motion(placement).turn, -1 if placement.mirrored else 1
    matrix = [turn.real, -turn.imag * over, turn.imag, turn.real * over, placement.x, placement.y]
    return affine_transform(polygon_of(outline), matrix)


def laid_parts(result: Result) -> list[LaidPart]:
    """What the parts look like now, for telling later what has changed."""
    return [
        LaidPart(part=part_id, outline=fingerprint(part.outline), width=part.width, height=part.height)
        for part_id, part in result.parts.items()
    ]


def turns_allowed(part: Part, grain: str) -> list[float]:
    """Turns in degrees that the part may lie at, none where it may be any; a part's grain runs along its width."""
    if part.turns == "any":
        return []
    if part.turns in ("90", "45"):
        return [float(angle) for angle in range(0, 360, int(part.turns))]
    if part.turns == "grain" and grain == "along height":
        return [90.0, 270.0]
    return [0.0, 180.0]


def shape_of(sheet: LaidSheet) -> tuple[tuple[complex, ...], tuple[tuple[complex, ...], ...]]:
    """The outline of a sheet and what is barred of it, as points."""
    return (
        tuple(complex(point.x, point.y) for point in sheet.outline),
        tuple(tuple(complex(point.x, point.y) for point in barred.corners) for barred in sheet.barred),
    )


def usable(sheet: LaidSheet) -> Polygon:
    """The material of a sheet that no clip holds."""
    outline, barred = shape_of(sheet)
    whole = shapely.box(0, 0, sheet.width, sheet.height)
    if outline:
        whole = whole.intersection(shapely.make_valid(polygon_through(outline)))
    return whole.difference(shapely.union_all([shapely.make_valid(polygon_through(corners)) for corners in barred]))


def polygon_through(corners: Sequence[complex]) -> Polygon:
    """The polygon with these corners (mm)."""
    return Polygon([(corner.real, corner.imag) for corner in corners])


def may_be_turned_over(part: EvaluatedPart) -> bool:
    """Whether a part may be cut lying on either face: what it is marked with, or sunk into it, is on one of them."""
    return part.part.both_faces and not part.pockets and all(line.operation == "reference" for line in part.lines)


def check_layout(project: Project, result: Result) -> LayoutFacts:
    """Overlaps, gaps, margins and turns of every sheet, and what changed since it was laid out."""
    facts = LayoutFacts()
    try:
        margin, gap = spacing(project, result)
    except SizeError as error:
        place = Place(kind="layout")
        facts.findings.append(Finding(level="error", code="size-unreadable", text=f"Layout: {error}", place=place))
        return facts
    for index, sheet in enumerate(project.layout.sheets):
        on_sheet = lying_on(project, result, index)
        polygons = [placed(part.outline, placement) for placement, part in on_sheet]
        used = sum(polygon.area for polygon in polygons) / (sheet.width * sheet.height)
        facts.sheets.append(SheetUse(sheet.stock, sheet.width, sheet.height, used))
        facts.findings += _edges(index, sheet, margin, on_sheet, polygons)
        facts.findings += _gaps(index, gap, on_sheet, polygons)
        facts.findings += _wrong_sheet(project, index, on_sheet)
    facts.findings += _groups(project, result)
    _compare(project, result, facts)
    return facts


def lying_on(project: Project, result: Result, index: int) -> list[tuple[Placement, EvaluatedPart]]:
    """The copies that lie on a sheet, each with its part."""
    return [
        (placement, part)
        for placement in project.layout.placements
        if placement.sheet == index
        and (part := result.parts.get(placement.part))
        and placement.copy_number <= part.part.count
    ]


def _called(placement: Placement, part: EvaluatedPart) -> str:
    return f"{part.part.name} {placement.copy_number}" if part.part.count > 1 else part.part.name


def _at(index: int, polygon: Polygon, *placements: Placement) -> Place:
    point = polygon.representative_point()
    copies = [CopyOf(part=placement.part, copy_number=placement.copy_number) for placement in placements]
    return Place(kind="sheet", id=str(index), x=point.x, y=point.y, copies=copies)


def _edges(
    index: int,
    sheet: LaidSheet,
    margin: float,
    on_sheet: list[tuple[Placement, EvaluatedPart]],
    polygons: list[Polygon],
) -> list[Finding]:
    findings = []
    code: FindingCode
    material = usable(sheet) if sheet.outline or sheet.barred else None
    for (placement, part), polygon in zip(on_sheet, polygons, strict=True):
        left, bottom, right, top = polygon.bounds
        room = min(left, bottom, sheet.width - right, sheet.height - top)
        called = _called(placement, part)
        if room < -1e-6:
            code, text = "off-sheet", f"{called} reaches {shown(-room)} off sheet {index + 1}"
        elif room < margin - 1e-3:
            text = f"{called} is {shown(room)} from the edge of sheet {index + 1}; the margin is {shown(margin)}"
            code = "in-margin"
        elif material is not None and not material.buffer(1e-6).contains(polygon):
            code, text = "off-sheet", f"{called} lies where sheet {index + 1} is missing or held by a clip"
        elif material is not None and (room := material.boundary.distance(polygon)) < margin - 1e-3:
            text = (
                f"{called} is {shown(room)} from a clip or an edge of sheet {index + 1}; the margin is {shown(margin)}"
            )
            code = "in-margin"
        else:
            continue
        findings.append(Finding(level="warning", code=code, text=text, place=_at(index, polygon, placement)))
    return findings


def _gaps(
    index: int, gap: float, on_sheet: list[tuple[Placement, EvaluatedPart]], polygons: list[Polygon]
) -> list[Finding]:
    if len(polygons) < 2:
        return []
    findings = []
    code: FindingCode
    near_a, near_b = STRtree(polygons).query(polygons, predicate="dwithin", distance=gap)
    for a, b in sorted(zip(near_a.tolist(), near_b.tolist(), strict=True)):
        if a >= b:
            continue
        apart = polygons[a].distance(polygons[b])
        if apart >= gap - 1e-3:
            continue
        names = f"{_called(*on_sheet[a])} and {_called(*on_sheet[b])}"
        overlap = polygons[a].intersection(polygons[b]).area if apart == 0 else 0.0
        if overlap > 1e-6:
            code, text = "overlap", f"{names} overlap by {overlap:.1f} mm² on sheet {index + 1}"
        else:
            code, text = "too-close", f"{names} are {shown(apart)} apart on sheet {index + 1}; the gap is {shown(gap)}"
        place = _at(index, polygons[b], on_sheet[b][0], on_sheet[a][0])
        findings.append(Finding(level="warning", code=code, text=text, place=place))
    return findings


def _wrong_sheet(project: Project, index: int, on_sheet: list[tuple[Placement, EvaluatedPart]]) -> list[Finding]:
    findings = []
    code: FindingCode
    sheet = project.layout.sheets[index]
    stock = project.stock(sheet.stock)
    for placement, part in on_sheet:
        called = _called(placement, part)
        if part.part.stock != sheet.stock:
            code, text = "other-stock", f"{called} is of another stock than sheet {index + 1}"
        elif stock and part.part.turns != "any" and placement.turn % 360 not in turns_allowed(part.part, stock.grain):
            allowed = ", ".join(f"{turn:g}" for turn in turns_allowed(part.part, stock.grain))
            text = f"{called} is turned by {placement.turn:g} degrees; it may lie at {allowed}"
            code = "other-turn"
        elif placement.mirrored and not may_be_turned_over(part):
            code, text = (
                "other-face",
                f"{called} lies on its face; it is not said to be good on both, or is marked on one",
            )
        else:
            continue
        place = _at(index, placed(part.outline, placement), placement)
        findings.append(Finding(level="warning", code=code, text=text, place=place))
    return findings


def _groups(project: Project, result: Result) -> list[Finding]:
    """What should lie on one sheet and does not."""
    sheets: dict[tuple[str, str], set[int]] = defaultdict(set)
    for placement in project.layout.placements:
        part = result.parts.get(placement.part)
        if part and part.part.group.strip() and placement.sheet < len(project.layout.sheets):
            sheets[part.part.group.strip(), part.part.stock].add(placement.sheet)
    return [
        Finding(
            level="note",
            code="group-apart",
            text=f"The parts of “{group}” lie on sheets {', '.join(str(sheet + 1) for sheet in sorted(lies))}; "
            "one sheet does not hold them all, or they were moved apart",
            place=Place(kind="layout"),
        )
        for (group, _), lies in sheets.items()
        if len(lies) > 1
    ]


def _compare(project: Project, result: Result, facts: LayoutFacts) -> None:
    before = {laid.part: laid for laid in project.layout.laid}
    lying = Counter(p.part for p in project.layout.placements if p.sheet < len(project.layout.sheets))
    done = project.layout.finished
    lying += Counter(part for part, number in done if part in result.parts and number <= result.parts[part].part.count)
    absent: dict[str, str] = {}
    for part_id, part in result.parts.items():
        missing = part.part.count - lying[part_id]
        facts.missing += max(0, missing)
        if missing > 0 and (project.layout.placements or done):
            absent[part_id] = f"{missing} of {part.part.count} {part.part.name} not on a sheet yet; lay out again"
    changed = {
        part_id: f"The layout is out of date: {part.part.name}, {_change(laid, part)}"
        for part_id, part in result.parts.items()
        if (laid := before.get(part_id)) and laid.outline != fingerprint(part.outline)
    }
    facts.changed += changed
    facts.findings += _few(
        "not-laid-out", absent, result, done, f"{len(absent)} parts are not on a sheet yet; lay out again"
    )
    since = f"{len(changed)} parts have changed since; the layout is out of date"
    facts.findings += _few("out-of-date", changed, result, done, since)


def _change(laid: LaidPart, part: EvaluatedPart) -> str:
    was, now = (laid.width, laid.height), (part.width, part.height)
    if max(abs(a - b) for a, b in zip(was, now, strict=True)) > 1e-3:
        return f"which was {was[0]:.2f} x {was[1]:.2f} mm and is {now[0]:.2f} x {now[1]:.2f} mm"
    return "whose joints, corners or cut-outs have changed"


def _few(
    code: FindingCode, texts: dict[str, str], result: Result, done: set[tuple[str, int]], together: str
) -> list[Finding]:
    """One finding for each part, or where there are many, one for all of them, with all of their copies."""
    level: Literal["warning", "note"] = "warning" if code == "not-laid-out" else "note"

    def finding(text: str, parts: Sequence[str]) -> Finding:
        copies = [
            CopyOf(part=part, copy_number=number + 1)
            for part in parts
            for number in range(result.parts[part].part.count)
            if (part, number + 1) not in done
        ]
        place = Place(kind="layout", part=parts[0] if len(parts) == 1 else "", copies=copies)
        return Finding(level=level, code=code, text=text, place=place)

    if len(texts) <= FEW:
        return [finding(text, [part]) for part, text in texts.items()]
    first = ", ".join(result.parts[part].part.name for part in list(texts)[:FEW])
    return [finding(f"{together}: {first} and {len(texts) - FEW} more", list(texts))]
