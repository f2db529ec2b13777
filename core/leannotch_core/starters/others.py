"""Starters besides the tray: a bracket, a cross-lap figure, a rack and a spliced frame."""

from __future__ import annotations

import math
from itertools import pairwise

from ..document.sizes import Size
from ..joints.ends import FaceLine
from ..parts.shapes.curve import Curve, Knot
from ..parts.shapes.rectangle import CornerCut, Rectangle
from .made import CannotMake, Making, Number, StarterKind, line_up, slots_at

BRACKET = StarterKind(
    key="bracket",
    title="Bracket",
    says="Two plates at a right angle, held by a brace between them whose free edge leans as you say.",
    numbers=(
        Number("width", "Width", "80"),
        Number("depth", "Depth", "100"),
        Number("height", "Height", "120"),
        Number("brace", "Brace reaches along the base", "0.7", follows="depth"),
        Number("angle", "Angle of its free edge, degrees", "45", holds="plain"),
    ),
    second_stock="Brace of",
)

#: A brace is this much (mm) wider at its ends than the plates are thick, so that its tips are no needles.
LAND = 6


def make_bracket(making: Making) -> None:
    """A bracket of two boards and a brace between them. Raises `CannotMake`."""
    width, depth, height = (making.name(name, making.text(name)) for name in ("width", "depth", "height"))
    t, angle = making.t, making.degrees("angle", 20, 70)
    reach, land = making.name("brace", making.text("brace")), making.name("land", f"{t} + {LAND}")
    rise = making.name("rise", f"{land} + ({reach} - {land}) * {math.tan(math.radians(angle)):.6f}")
    _check_brace(making, reach, rise, land)
    base = making.part("base", "Base plate", (width, depth), face="inside")
    back = making.part("back", "Back plate", (width, height), face="inside")
    making.finger((base, "top"), (back, "bottom"), f"{making.mm('width') / 5:.4g}")
    # The brace is drawn to the tips of its tabs: it starts at the outside faces of both plates.
    cut = CornerCut(
        corner="top right",
        kind="chamfer",
        size=Size(text=f"{reach} - {land}"),
        up=Size(text=f"{rise} - {land}"),
    )
    shape = Rectangle(width=Size(text=reach), height=Size(text=rise), corners=[cut])
    gusset = making.part("brace", "Brace", (reach, rise), second=True, shape=shape)
    line = FaceLine(part=base, x=Size(text=f"{width}/2"), y=Size(text=depth), turn=Size(text="-90"))
    for side, on, long in (("left", line_up(back, [f"{width}/2"], "0"), rise), ("bottom", line, reach)):
        making.tabs((gusset, side), on, 1, f"{long}/4", f"{long}/4")


def _check_brace(making: Making, reach: str, rise: str, land: str) -> None:
    """Raises `CannotMake` where the brace is too small for its tabs or larger than the plates."""
    shortest = 3 * making.value(land, "Brace")
    for long, along, what in ((reach, "depth", "along the base"), (rise, "height", "up the back")):
        size, most = making.value(long, "Brace"), making.mm(along) - 2
        if size > most:
            raise CannotMake(f"The brace reaches {size:.2f} mm {what}, more than the {most:.2f} mm that there are.")
        if size < shortest:
            raise CannotMake(f"The brace reaches {size:.2f} mm {what}; its tabs need at least {shortest:.2f} mm.")


FIGURE = StarterKind(
    key="figure",
    title="Cross-lap figure",
    says="Two silhouettes that cross: drawn as curves, or brought from files, at the Shape station.",
    numbers=(
        Number("height", "Height", "160"),
        Number("length", "Long way", "140"),
        Number("depth", "Crosswise", "100"),
    ),
    second_stock="Crosswise of",
)

_FIGURE = (
    (0.25, 0, 1),
    (0.75, 0, 1),
    (0.98, 0.3, 0),
    (0.8, 0.62, 0),
    (0.6, 0.86, 0),
    (0.5, 1, 0),
    (0.4, 0.86, 0),
    (0.2, 0.62, 0),
    (0.02, 0.3, 0),
)


def make_figure(making: Making) -> None:
    """A figure of two silhouettes that lap. Raises `CannotMake`."""
    knots = [Knot(x=x, y=y, corner=bool(corner)) for x, y, corner in _FIGURE]
    height = making.name("height", making.text("height"))
    ids = {}
    for role, title, second in (("length", "Long silhouette", False), ("depth", "Cross silhouette", True)):
        wide = making.name(role, making.text(role))
        making.mm(role)
        shape = Curve(width=Size(text=wide), height=Size(text=height), knots=knots)
        ids[role] = making.part(role, title, (wide, height), second=second, shape=shape)
    making.lap(slots_at(ids["length"], "top", ["width/2"]), slots_at(ids["depth"], "bottom", ["width/2"]))


RACK = StarterKind(
    key="rack",
    title="Rack",
    says="Uprights and slotted shelves that slide into one another.",
    numbers=(
        Number("width", "Width of a shelf", "300"),
        Number("depth", "Depth", "120"),
        Number("height", "Height", "320"),
        Number("uprights", "Uprights", "2", holds="plain"),
        Number("shelves", "Shelves", "4", holds="plain"),
        Number("overhang", "Shelves stand over by", "0.1", follows="width"),
    ),
    second_stock="Shelves of",
)


def make_rack(making: Making) -> None:
    """A rack of shelves lapped with uprights. Raises `CannotMake`."""
    uprights, shelves = making.count("uprights", 2, 12), making.count("shelves", 1, 20)
    width, depth, height = (making.name(name, making.text(name)) for name in ("width", "depth", "height"))
    over = making.name("overhang", making.text("overhang"))
    if 2 * making.mm("overhang") >= making.mm("width"):
        raise CannotMake("Shelves stand over by: twice of it is more than a shelf is wide.")
    sides = making.part("upright", "Upright", (depth, height), count=uprights)
    boards = making.part("shelf", "Shelf", (width, depth), count=shelves, second=True)
    floors = [f"{height}*{i + 1}/{shelves + 1}" for i in range(shelves)]
    places = [f"{over} + ({width} - 2*{over})*{i}/{uprights - 1}" for i in range(uprights)]
    making.lap(slots_at(sides, "right", floors), slots_at(boards, "top", places))


FRAME = StarterKind(
    key="frame",
    title="Frame with spliced corners",
    says="Four members keyed into each other, each in as many pieces as the sheet needs.",
    numbers=(
        Number("width", "Width", "500"),
        Number("height", "Height", "500"),
        Number("member", "Width of a member", "0.08", follows="width"),
        Number("pieces", "Pieces to a member, 0 for as many as the sheet needs", "0", holds="plain"),
    ),
)


#: Room (mm) that a sheet keeps at both ends of a member together, for its margin.
MARGIN = 20
#: A member in more pieces than this is no member any more.
MOST_PIECES = 8


def make_frame(making: Making) -> None:
    """Each member runs from outside the one before it to the shoulder of the one after it."""
    member, wide = making.name("member", making.text("member")), making.mm("member")
    key, depth = f"{wide * 0.4:.4g}", f"{wide * 0.3:.4g}"
    width, height = (making.name(name, making.text(name)) for name in ("width", "height"))
    for name in ("width", "height"):
        if making.mm(name) <= 3 * wide:
            raise CannotMake(f"A member of {wide:g} mm is too wide for a frame of {making.mm(name):g} mm.")
    roles = {}
    for role, title, long in (("long", "Member along", width), ("short", "Member across", height)):
        # A member is shorter than the frame by the one it is keyed into, and longer by its key.
        whole = making.name(f"{role}_run", f"{long} - {member} + {depth}")
        pieces = _pieces(making, making.value(whole, title), float(depth), title)
        piece = f"({whole} + {pieces - 1}*{depth})/{pieces}"
        ids = [
            making.part(
                f"{role}_{i + 1}", title if pieces == 1 else f"{title}, piece {i + 1}", (piece, member), count=2
            )
            for i in range(pieces)
        ]
        for first, second in pairwise(ids):
            making.splice((first, "right"), (second, "left"), key, depth)
        roles[role] = ids
    for role, other in (("long", "short"), ("short", "long")):
        making.splice((roles[role][-1], "right"), (roles[other][0], "bottom"), key, depth)


def _pieces(making: Making, run: float, depth: float, title: str) -> int:
    """Pieces of a member ``run`` mm long, as asked for or as few as fit on the sheet. Raises `CannotMake`."""
    asked = making.count("pieces", 0, MOST_PIECES)
    if asked:
        return asked
    room = making.sheet - MARGIN
    found = next((n for n in range(1, MOST_PIECES + 1) if (run + (n - 1) * depth) / n <= room), None)
    if found is None:
        raise CannotMake(
            f"{title}: {run:.0f} mm would need more than {MOST_PIECES} pieces on sheets {making.sheet:.0f} mm long."
        )
    if found > 1:
        making.made.notes.append(
            f"{title}: {run:.0f} mm do not fit on a sheet {making.sheet:.0f} mm long, so it is made in {found} pieces."
        )
    return found
