"""Tabs and slots: an edge with tabs that go through slots in another part's face."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import partial
from itertools import pairwise

from ...geometry.boolean import union
from ...geometry.loop import Outline
from ...geometry.segment import Motion, Point
from ...parts.pocket import Pocket
from ...parts.shapes.rectangle import rectangle
from ...parts.sides import SideFrame
from ...remembered import remembered
from ..fit import REMEMBERED, CannotJoin, Change, Gauge, JointCut, Mating, check_on_face
from ..meeting import Meeting, OnFace, edge_on_face
from ..partner import Partner
from ..relief import notch_reliefs, slot_reliefs

Span = tuple[float, float]

#: Where a tab is measured, as a share of its length from the tip: reliefs at its foot make it narrower there.
TIP = 0.2


@dataclass(frozen=True, slots=True)
class TabSpec:
    """A tab-and-slot joint in numbers: mm; ``along`` is the unit direction of the lines on the face.

    ``pocket`` is the depth of blind slots, None where the tabs go through.
    """

    joint: str
    side: str
    starts: tuple[Point, ...]
    along: complex
    tabs: int
    width: float
    inset: float
    proud: float
    pocket: float | None
    fit: str
    clearance: float

    def depth(self, slotted: Partner) -> float:
        """Length of the tabs: how far the shoulders are cut back from the drawn edge."""
        return slotted.thickness + self.proud if self.pocket is None else self.pocket

    def spans(self, length: float) -> list[Span]:
        """Where the tabs lie along an edge of so many mm."""
        return tab_spans(length, self.tabs, self.width, self.inset)


def tab_spans(length: float, tabs: int, width: float, inset: float) -> list[Span]:
    """Where the tabs lie along an edge: the outer two ``inset`` from its ends, the others evenly between."""
    if tabs == 1:
        return [((length - width) / 2, (length + width) / 2)]
    step = (length - 2 * inset - width) / (tabs - 1)
    return [(inset + i * step, inset + i * step + width) for i in range(tabs)]


@remembered(REMEMBERED)
def cut_tabs(spec: TabSpec, tabbed: Partner, slotted: Partner) -> JointCut:
    """Notches between the tabs, slots of ``(width + c) x (t_tab + c)``, and what mates. Raises `CannotJoin`.

    The shoulders are cut back by the slotted part's thickness and ``proud``, or by the depth of the pockets, so that
    the tabs' tips stay where the edge was drawn.
    """
    if tabbed.id == slotted.id:
        raise CannotJoin(f"{tabbed.name} cannot be put through itself; pick two parts")
    frame = tabbed.frame(spec.side)
    spans = spec.spans(frame.length)
    depth = spec.depth(slotted)
    _check(spec, spans, frame, depth, tabbed, slotted)
    notches = [(tabbed.id, notch) for notch in _shoulders(spec, tabbed, spans, frame, depth)]
    opening = spec.width + spec.clearance, tabbed.thickness + spec.clearance
    pockets: list[tuple[str, Pocket]] = []
    matings: list[Mating] = []
    for start in spec.starts:
        slots = [_slot(spec, start, span, opening) for span in spans]
        check_on_face(slots, slotted, "A slot")
        for span, slot in zip(spans, slots, strict=True):
            cut = [slot, *_reliefs(spec, slotted, start, span, opening)]
            if spec.pocket is None:
                notches += [(slotted.id, outline) for outline in cut]
            else:
                pockets += [(slotted.id, Pocket(outline, spec.pocket)) for outline in union(cut[:1], cut[1:])]
        matings = matings or _matings(spec, spans[len(spans) // 2], tabbed, slotted)
    return JointCut(tuple(notches), tuple(matings), _meetings(spec, depth, tabbed, slotted), tuple(pockets))


def _meetings(spec: TabSpec, depth: float, tabbed: Partner, slotted: Partner) -> tuple[Meeting, ...]:
    """The edge stands on the inside face, or where others hold it on the outside one; blind, always on the drawn
    face, which the machine sinks its pockets into.
    """
    ways = (1,) if spec.pocket is not None else (-slotted.outward, slotted.outward)
    places = [OnFace(start, spec.along, depth, up) for start in spec.starts for up in ways]
    spans = spec.spans(tabbed.frame(spec.side).length)
    # One alone is free to both sides, as much as its slot leaves it.
    locked = (spans[0][0], spans[-1][1]) if len(spans) > 1 else (0.0, 0.0)
    found = (edge_on_face(spec.joint, tabbed, spec.side, slotted, on) for on in places)
    return tuple(replace(one, a=replace(one.a, locked=locked)) for one in found)


def _shoulders(spec: TabSpec, tabbed: Partner, spans: list[Span], frame: SideFrame, depth: float) -> list[Outline]:
    ends = [0.0, *(end for span in spans for end in span), frame.length]
    gaps = [(low, high) for low, high in zip(ends[::2], ends[1::2], strict=True) if high - low > 1e-9]
    cut = [frame.notch(low, high, depth, spec.joint, f"shoulder {i + 1}") for i, (low, high) in enumerate(gaps)]
    reliefs = [c for low, high in gaps for c in notch_reliefs(tabbed.relief, frame, low, high, depth, spec.joint)]
    return cut + reliefs


def _reliefs(spec: TabSpec, slotted: Partner, start: Point, span: Span, opening: tuple[float, float]) -> list[Outline]:
    middle = start + spec.along * (span[0] + span[1]) / 2
    return slot_reliefs(slotted.relief, middle, spec.along, *opening, f"{spec.joint}/slot")


def _slot(spec: TabSpec, start: Point, span: Span, opening: tuple[float, float]) -> Outline:
    middle = start + spec.along * (span[0] + span[1]) / 2
    base = complex(-opening[0] / 2, -opening[1] / 2)
    return Outline(rectangle(f"{spec.joint}/slot", *opening, base=base).moved(Motion(spec.along, middle)))


def _matings(spec: TabSpec, tab_at: Span, tabbed: Partner, slotted: Partner) -> list[Mating]:
    """The width of a tab in its slot's length, and its thickness in its slot's width."""
    frame, depth, middle = tabbed.frame(spec.side), spec.depth(slotted), (tab_at[0] + tab_at[1]) / 2
    at = spec.starts[0] + spec.along * middle
    across = Gauge(slotted.id, at, spec.along * 1j)
    along = Gauge(slotted.id, at, spec.along)
    tab = Gauge(tabbed.id, frame.point(middle, depth * TIP), frame.along)
    common = partial(Mating, joint=spec.joint, fit=spec.fit, opening_part=slotted.id, insert_part=tabbed.id)
    c = spec.clearance
    thick = tabbed.thickness + c
    return [
        common(
            kind="tab, its thickness",
            opening=thick,
            insert=tabbed.thickness,
            tightest=thick - tabbed.thickest,
            opening_at=across,
            insert_at=None,
        ),
        common(
            kind="tab, its width",
            opening=spec.width + c,
            insert=spec.width,
            tightest=c,
            opening_at=along,
            insert_at=tab,
        ),
    ]


def _check(spec: TabSpec, spans: list[Span], frame: SideFrame, depth: float, tabbed: Partner, slotted: Partner) -> None:
    if spec.pocket is not None:
        _check_pocket(spec.pocket, slotted)
    if spec.proud < 0:
        raise CannotJoin(
            f"Tabs cannot stand {-spec.proud:.2f} mm short; proud is 0 or more", "proud", "0", "Make them flush"
        )
    gaps = [later[0] - earlier[1] for earlier, later in pairwise(spans)]
    if spans[0][0] < 0 or spans[-1][1] > frame.length or any(gap < spec.clearance + slotted.kerf for gap in gaps):
        fits = frame.length / (2 * spec.tabs)
        raise CannotJoin(
            f"{spec.tabs} tabs of {spec.width:.2f} mm with insets of {spec.inset:.2f} mm do not fit on the "
            f"{frame.length:.2f} mm of {tabbed.name}",
            "width",
            f"{fits:.2f}",
            f"Make them {fits:.2f} mm wide",
            Change("inset", f"{max(0.0, (frame.length / spec.tabs - spec.width) / 2):.2f}", "Spread them evenly"),
            Change("tabs", "1", "Use one tab"),
        )
    if depth >= frame.depth:
        raise CannotJoin(
            f"{tabbed.name} is {frame.depth:.2f} mm deep behind this edge, not deeper than "
            f"its tabs are long ({depth:.2f} mm)"
        )
    if min(spec.width, tabbed.thickness) + spec.clearance <= slotted.kerf:
        raise CannotJoin(f"Slots in {slotted.name} would be narrower than the kerf of {slotted.kerf:.2f} mm")


def _check_pocket(pocket: float, slotted: Partner) -> None:
    if 0 < pocket < slotted.thickness:
        return
    half = slotted.thickness / 2
    raise CannotJoin(
        f"A pocket of {pocket:.2f} mm in {slotted.name}, which is {slotted.thickness:.2f} mm thick, is not blind",
        "pocket",
        f"{half:.2f}",
        f"Make it {half:.2f} mm deep",
    )
