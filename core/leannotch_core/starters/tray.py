"""A tray with compartments: four walls, a floor, and dividers that cross and go through the walls.

Compartments in a width W between walls t thick, with n - 1 dividers u thick: each ``(W - 2t - (n - 1)u) / n``; given
sizes are kept, *rest* shares what is left, and sizes that are all given make the width.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from itertools import groupby

from ..document.sizes import Size
from ..parts.cut_out import CutOut
from ..parts.shapes.round_hole import RoundHole
from .made import CannotMake, Choice, Making, Number, StarterKind, line_up, slots_at
from .walls import bottom, walls

KIND = StarterKind(
    key="tray",
    title="Tray with compartments",
    says="Walls with finger joints, crossing dividers that go through them, compartments equal or by size.",
    numbers=(
        Number("length", "Length", "240"),
        Number("width", "Width", "160"),
        Number("height", "Height", "45"),
        Number("columns", "Columns: a count, or sizes such as 60, 2 of 35, rest", "3", holds="list"),
        Number("rows", "Rows: a count, or sizes", "2", holds="list"),
        Number("dividers", "Height of the dividers", "2/3", follows="height"),
        Number("lift", "Holes to lift things, 0 for none", "0"),
    ),
    choices=(
        Choice("measured", "Length, width and height are", ("outside", "inside")),
        Choice("floor", "Floor", ("with a floor", "without a floor")),
    ),
    second_stock="Dividers of",
)

#: At most so many compartments in a row.
MOST = 12


@dataclass(frozen=True, slots=True)
class Cells:
    """Compartments along one way: the text of each one's size, and what sizes call their whole inner width."""

    sizes: tuple[str, ...]
    inner: str

    def middles(self, wall: str, divider: str) -> list[str]:
        """Middles of the dividers, from the outside of the first wall."""
        found = []
        for number in range(1, len(self.sizes)):
            before = _sum(self.sizes[:number])
            found.append(f"{wall} + {before} + {number - 0.5:g}*{divider}")
        return found


def make(making: Making) -> None:
    """A tray with compartments, with or without a floor. Raises `CannotMake`."""
    t, u = making.t, making.u
    floor = making.choice("floor") == "with a floor"
    columns = _cells(making, "columns", "length", "column")
    rows = _cells(making, "rows", "width", "row")
    rise = t if floor else "0"
    inside = making.choice("measured") == "inside"
    length = making.name("length", f"{columns.inner} + 2*{t}")
    width = making.name("width", f"{rows.inner} + 2*{t}")
    height = making.name("height", f"{making.text('height')} + {rise}" if inside and floor else making.text("height"))
    walls(making, length, width, height)
    if floor:
        bottom(making, "floor", "Floor", (length, width), cutouts=_lift_holes(making, columns, rows))
    _dividers(making, columns.middles(t, u), rows.middles(t, u), (length, width), rise)


def _lift_holes(making: Making, columns: Cells, rows: Cells) -> list[CutOut]:
    """A hole in the middle of each compartment."""
    text = making.text("lift")
    diameter = making.value(text, "Holes to lift things")
    if diameter <= 0:
        return []
    t, u = making.t, making.u
    return [
        CutOut(
            id=f"lift_{i + 1}_{j + 1}",
            hole=RoundHole(diameter=Size(text=text)),
            x=Size(text=_middle(columns, i, t, u)),
            y=Size(text=_middle(rows, j, t, u)),
        )
        for i in range(len(columns.sizes))
        for j in range(len(rows.sizes))
    ]


def _middle(cells: Cells, index: int, wall: str, divider: str) -> str:
    before = f" + {_sum(cells.sizes[:index])} + {index}*{divider}" if index else ""
    return f"{wall}{before} + {cells.sizes[index]}/2"


def _dividers(making: Making, across: list[str], along: list[str], outer: tuple[str, str], rise: str) -> None:
    """Dividers across the length separate columns, those along it rows; each goes through the two walls at its ends."""
    own, high = making.starter.id, making.text("dividers")
    inside, dividers = making.value(f"{own}_height - {rise}", "Height"), making.mm("dividers")
    if dividers > inside + 1e-9:
        raise CannotMake(f"Height of the dividers: {dividers:g} mm is more than the {inside:g} mm inside the walls.")
    tabs = 1 if dividers < 40 else 2
    width, inset = f"{high}/{2 * tabs + 1}", f"{high}/{2 * tabs + 1}"
    made = {}
    for role, title, places, long, ends in (
        ("across", "Divider across", across, outer[1], ("front", "back")),
        ("along", "Divider along", along, outer[0], ("left", "right")),
    ):
        if places:
            made[role] = making.part(role, title, (long, high), count=len(places), second=True)
            for side, wall in zip(("left", "right"), ends, strict=True):
                making.tabs((made[role], side), line_up(f"{own}_{wall}", places, rise), tabs, width, inset)
    if len(made) == 2:
        making.lap(slots_at(made["along"], "top", across), slots_at(made["across"], "bottom", along))


def _cells(making: Making, which: str, outer: str, called: str) -> Cells:
    """Sizes of the compartments along one way, and what is inside the walls. Raises `CannotMake`."""
    t, u = making.t, making.u
    inside = making.choice("measured") == "inside"
    outer_text = making.text(outer)
    inner = outer_text if inside else f"({outer_text} - 2*{t})"
    typed = making.typed(which)
    tokens = [
        size if size == "rest" else making.usable(Size(text=size, unit=typed.unit), f"{which}_{i + 1}")
        for i, size in enumerate(compartments(typed.text, which))
    ]
    gaps = f"{len(tokens) - 1}*{u}" if len(tokens) > 1 else "0"
    given = [token for token in tokens if token != "rest"]
    if len(given) < len(tokens):
        taken = f" - {_sum(tuple(given))}" if given else ""
        rest = making.name(called, f"({inner} - {gaps}{taken})/{len(tokens) - len(given)}")
        left = making.value(rest, which.capitalize())
        if left <= 0:
            raise CannotMake(
                f"{which.capitalize()}: the sizes given leave {left:.2f} mm for the rest; make the tray larger."
            )
        return Cells(tuple(rest if token == "rest" else token for token in tokens), inner)
    whole = f"({_sum(tuple(given))} + {gaps})"
    asked, comes = (making.value(text, which.capitalize()) for text in (inner, whole))
    if abs(asked - comes) > 0.005:
        making.made.notes.append(
            f"The {which} given come to {comes:.2f} mm inside; the {outer} follows from them, not from the "
            f"{asked:.2f} mm that was asked for. Write “rest” for one of them to keep it."
        )
    return Cells(tuple(given), whole)


def compartments(text: str, which: str) -> list[str]:
    """``3`` is three equal compartments; ``60, 2 of 35, rest`` are given sizes. Raises `CannotMake`."""
    parts = [part.strip() for part in re.split(r"[,;]", text) if part.strip()]
    if len(parts) == 1 and parts[0].isdigit():
        parts = ["rest"] * min(int(parts[0]), MOST + 1)
    found: list[str] = []
    for part in parts:
        several = re.fullmatch(r"(\d{1,3}) of (.+)", part)
        count, size = (int(several.group(1)), several.group(2)) if several else (1, part)
        found += ["rest" if size.lower() == "rest" else size] * count
    if not 1 <= len(found) <= MOST:
        raise CannotMake(f"{which.capitalize()}: from 1 to {MOST} compartments can be made, not {len(found)}.")
    return found


def with_compartment(text: str, which: str, index: int, size: str) -> str:
    """Compartments as typed with another size for one of them. Raises `CannotMake`."""
    found = compartments(text, which)
    if not 0 <= index < len(found):
        raise CannotMake(f"{which.capitalize()}: there is no compartment {index + 1} of {len(found)}.")
    found[index] = size
    runs = [(size, len(list(same))) for size, same in groupby(found)]
    return ", ".join(size if count == 1 else f"{count} of {size}" for size, count in runs)


def _sum(sizes: tuple[str, ...]) -> str:
    """A short sum: equal sizes are counted."""
    counts: dict[str, int] = {}
    for size in sizes:
        counts[size] = counts.get(size, 0) + 1
    return "(" + " + ".join(f"{count}*{size}" if count > 1 else size for size, count in counts.items()) + ")"
